package server

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/store"
)

// Proposal is what somebody does next on a kind of bag, and why.
type Proposal struct {
	TraineeID string   `json:"traineeId"`
	Trainee   string   `json:"trainee"`
	Kind      string   `json:"kind" enum:"speed,doubleEnd,reflex,slip,hanging"`
	RigID     string   `json:"rigId"`
	RigName   string   `json:"rigName"`
	Rung      string   `json:"rung"`
	Name      string   `json:"name"`
	Note      string   `json:"note"`
	Index     int      `json:"index" doc:"of the rung, from 0"`
	Standing  int      `json:"standing" doc:"first rung whose gate is not passed"`
	Of        int      `json:"of"`
	Move      string   `json:"move" enum:"start,next,again,softly,back,stay,top,barred"`
	Target    int      `json:"target" doc:"streak to beat"`
	Why       string   `json:"why"`
	Barred    string   `json:"barred"`
	Doc       DrillDoc `json:"doc"`
	Level     *float64 `json:"level"`
	Clean     *float64 `json:"clean" doc:"predicted"`
	Run       *float64 `json:"run" doc:"longest run to expect"`
}

// RungOut is a rung of somebody's ladder.
type RungOut struct {
	Key     string     `json:"key"`
	Name    string     `json:"name"`
	Note    string     `json:"note"`
	Through int        `json:"through" doc:"rounds past the gate"`
	Done    bool       `json:"done"`
	Skipped string     `json:"skipped" doc:"why the coach skipped it; empty where not"`
	Best    int        `json:"best" doc:"longest streak"`
	Rounds  []RungRun  `json:"rounds"`
	Level   *float64   `json:"level"`
	Clean   *float64   `json:"clean"`
	Held    string     `json:"held" doc:"why it is held back from this person"`
	At      *time.Time `json:"at,omitempty" doc:"when its gate was passed"`
}

// RungRun is a round on a rung.
type RungRun struct {
	ID      string    `json:"id"`
	At      time.Time `json:"at"`
	Clean   float64   `json:"clean"`
	Longest int       `json:"longest"`
	Through bool      `json:"through"`
}

// Ladder is somebody's ladder on a kind of bag.
type Ladder struct {
	Gate      GateDoc       `json:"gate"`
	Rungs     []RungOut     `json:"rungs"`
	Proposal  Proposal      `json:"proposal"`
	Decisions []DecisionOut `json:"decisions"`
}

// GateDoc is what a rung asks before the next.
type GateDoc struct {
	Clean  float64 `json:"clean" minimum:"0.3" maximum:"1"`
	Run    int     `json:"run" minimum:"1" maximum:"200"`
	Rounds int     `json:"rounds" minimum:"1" maximum:"10"`
}

// DecisionOut is what a coach did with a proposal.
type DecisionOut struct {
	Kind   string    `json:"kind" enum:"speed,doubleEnd,reflex,slip,hanging"`
	Rung   string    `json:"rung" minLength:"1" maxLength:"60"`
	Choice string    `json:"choice" enum:"accept,change,hold,goOn,skip"`
	Reason string    `json:"reason,omitempty" maxLength:"400"`
	Coach  string    `json:"coach,omitempty" readOnly:"true"`
	At     time.Time `json:"at" readOnly:"true" required:"false"`
}

// Acceptance takes a proposal on a bag.
type Acceptance struct {
	RigID  string `json:"rigId" format:"uuid"`
	Choice string `json:"choice" enum:"accept,change" default:"accept"`
	Reason string `json:"reason,omitempty" maxLength:"400"`
}

func (s *Server) registerLadder(api huma.API) {
	huma.Get(api, "/api/class", func(ctx context.Context, _ *struct{}) (*many[Proposal], error) {
		list, err := wholeClass(who(ctx))
		return listed(ctx, list, err, sure(func(p Proposal) Proposal { return p }))
	})
	huma.Get(api, "/api/trainees/{id}/ladder/{kind}", func(ctx context.Context, in *struct {
		ByID
		Kind string `path:"kind" enum:"speed,doubleEnd,reflex,slip,hanging"`
	}) (*one[Ladder], error) {
		l, err := ladderOf(who(ctx), in.ID, rig.Kind(in.Kind))
		return single(ctx, l, err, sure(func(l Ladder) Ladder { return l }))
	})
	huma.Post(api, "/api/trainees/{id}/decisions", func(ctx context.Context, in *struct {
		ByID
		Body DecisionOut
	}) (*one[Proposal], error) {
		p, err := decide(who(ctx), in.ID, in.Body)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return &one[Proposal]{p}, nil
	})
	huma.Post(api, "/api/trainees/{id}/accept", func(ctx context.Context, in *struct {
		ByID
		Body Acceptance
	}) (*one[Drill], error) {
		row, err := accept(who(ctx), in.ID, in.Body)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return single(ctx, row, nil, drillOut)
	})
}

// wholeClass proposes for everybody, on the bag they go on with.
func wholeClass(c caller) ([]Proposal, error) {
	cl, err := classOf(c, "")
	if err != nil {
		return nil, err
	}
	list := []Proposal{}
	for _, t := range cl.trainees {
		kind := cl.mainKind(t)
		if kind == "" {
			break
		}
		p, err := cl.propose(t, kind, true)
		if err != nil {
			return nil, err
		}
		list = append(list, p)
	}
	return list, nil
}

func ladderOf(c caller, id string, kind rig.Kind) (Ladder, error) {
	t, err := c.gym.Trainee(id)
	if err != nil {
		return Ladder{}, err
	}
	cl, err := classOf(c, id)
	if err != nil {
		return Ladder{}, err
	}
	if !slices.Contains(cl.kinds(), kind) {
		return Ladder{}, store.ErrNotFound
	}
	row := cl.rigFor(t, kind)
	on := cl.floor(t, row)
	career := cl.career(t, kind, on)
	out := Ladder{Gate: GateDoc{cl.gate.Clean, cl.gate.Run, cl.gate.Rounds}, Rungs: []RungOut{}, Decisions: []DecisionOut{}}
	if out.Proposal, err = cl.propose(t, kind, true); err != nil {
		return out, err
	}
	for _, r := range career.Rungs {
		stand := career.On(r)
		rung := RungOut{Key: r.Key, Name: r.Name, Note: r.Note, Rounds: []RungRun{}, Through: stand.Through, Done: stand.Done, Best: stand.Best}
		if stand.Skipped {
			rung.Skipped = cmp.Or(stand.Reason, "by the coach")
		}
		if !stand.At.IsZero() {
			rung.At = &stand.At
		}
		for _, run := range cl.rounds[id] {
			var sum Summary
			if run.Rung == r.Key && json.Unmarshal(run.Summary, &sum) == nil && sum.Counts {
				past := career.Gate.Passes(sum.round(run))
				rung.Rounds = append(rung.Rounds, RungRun{run.ID, run.CreatedAt, sum.Share, sum.Longest, past})
			}
		}
		if plan, err := r.Plan(on); err == nil {
			if line, err := plan.Lay(on); err == nil {
				f := cl.fit(id, plan, line, on)
				rung.Clean = &f.Clean
				if g, err := level.Graded(plan, line, on); err == nil {
					rung.Level = &g.Level
				}
			}
		}
		if career.Held != nil {
			rung.Held = career.Held(r)
		}
		out.Rungs = append(out.Rungs, rung)
	}
	for i := len(cl.decisions[id]) - 1; i >= 0; i-- {
		if d := cl.decisions[id][i]; d.BagKind == string(kind) {
			out.Decisions = append(out.Decisions, DecisionOut{d.BagKind, d.Rung, d.Choice, d.Reason, d.Coach, d.CreatedAt})
		}
	}
	return out, c.stop()
}

// decide keeps a coach's choice on a rung and gives what is proposed from then on.
func decide(c caller, id string, in DecisionOut) (Proposal, error) {
	t, err := c.gym.Trainee(id)
	if err != nil {
		return Proposal{}, err
	}
	kind := rig.Kind(in.Kind)
	if !slices.ContainsFunc(ladder.Rungs(kind, ladder.BasicFirst), func(r ladder.Rung) bool { return r.Key == in.Rung }) {
		return Proposal{}, input.Refuse("rung", "expected a rung of the ladder for this bag, not %q", in.Rung)
	}
	cl, err := classOf(c, id)
	if err != nil {
		return Proposal{}, err
	}
	if !slices.Contains(cl.kinds(), kind) {
		return Proposal{}, input.Refuse("kind", "expected a kind of bag that hangs in this gym")
	}
	row := store.Decision{TraineeID: id, BagKind: in.Kind, Rung: in.Rung, Choice: in.Choice, Reason: in.Reason, Coach: c.Coach.Name}
	if err := c.gym.AddDecision(&row); err != nil {
		return Proposal{}, err
	}
	cl.decisions[id] = append(cl.decisions[id], row)
	return cl.propose(t, kind, true)
}

// changedByCoach says whether the coach last took a rung to change it: then the drill is theirs and stays as they have it.
func changedByCoach(decisions []store.Decision, rung string) bool {
	for i := len(decisions) - 1; i >= 0; i-- {
		if d := decisions[i]; d.Rung == rung && d.Choice == string(ladder.Alter) {
			return true
		}
	}
	return false
}

// accept makes a drill of what is proposed on a bag, or finds the one that was made of it, and keeps that it was taken.
func accept(c caller, id string, in Acceptance) (store.Drill, error) {
	t, err := c.gym.Trainee(id)
	if err != nil {
		return store.Drill{}, err
	}
	cl, err := classOf(c, id)
	if err != nil {
		return store.Drill{}, err
	}
	i := slices.IndexFunc(cl.rigs, func(r store.Rig) bool { return r.ID == in.RigID })
	if i < 0 {
		return store.Drill{}, input.Refuse("rigId", "expected a bag that hangs in this gym")
	}
	kind := rig.Kind(cl.rigs[i].Kind)
	cl.rounds[id] = append(slices.Clone(cl.rounds[id]), store.Run{RigID: in.RigID}) // laid out for the bag that was chosen
	p, err := cl.propose(t, kind, true)
	if err != nil {
		return store.Drill{}, err
	}
	if p.Barred != "" {
		return store.Drill{}, input.Refuse("rigId", "%s", p.Why)
	}
	doc, err := json.Marshal(inSchool(p.Doc.Plan, c.row))
	if err != nil {
		return store.Drill{}, err
	}
	took := store.Decision{TraineeID: id, BagKind: string(kind), Rung: p.Rung, Choice: in.Choice, Reason: in.Reason, Coach: c.Coach.Name}
	var row store.Drill
	err = c.gym.Together(func(gym *store.Gym) error {
		if row, err = gym.DrillOn(id, in.RigID, p.Rung); err != nil && !errors.Is(err, store.ErrNotFound) {
			return err
		}
		theirs := changedByCoach(cl.decisions[id], p.Rung)
		switch {
		case err != nil, !theirs && row.Name != p.Name: // one written by hand is left alone
			row = store.Drill{Name: p.Name, RigID: in.RigID, TraineeID: id, Doc: doc, Rung: p.Rung}
			err = gym.AddDrill(&row)
		case in.Choice == string(ladder.Accept) && !theirs:
			row.Doc = doc // as it is proposed now, softer or by what is known by now
			err = gym.ChangeDrill(&row)
		}
		if err != nil {
			return err
		}
		return gym.AddDecision(&took)
	})
	return row, err
}
