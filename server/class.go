package server

import (
	"log/slog"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/caution"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/roster"
	"melodromos/core/run"
	"melodromos/ledger"
	"melodromos/store"
)

// Today is what the first page shows.
type Today struct {
	Next   []roster.Proposal `json:"next" doc:"what each does next"`
	Also   []roster.Also     `json:"also" doc:"what they have been given beside it"`
	Recent []LogRow          `json:"recent"`
	Hour   *HourRow          `json:"hour" doc:"the class that is planned or under way; null where there is none"`
	Rigs   int               `json:"rigs"`
	People int               `json:"people"`
	Class  *ClassDate        `json:"class" doc:"held next by the calendar, within a week; null where there is none"`
	Tired  []TiredBag        `json:"tired" doc:"bags that come back later from week to week"`

	Unread []NotRead `json:"unread" doc:"what is kept and could not be read"`

	Caution string `json:"caution" doc:"for everybody who trains"`
}

// Ladder is somebody's ladder on a kind of bag, with what coaches decided on it.
type Ladder struct {
	roster.LadderView
	Decisions []Decision `json:"decisions"`
}

// Decision is what a coach did with a proposal.
type Decision struct {
	Kind   rig.Kind      `json:"kind"`
	Rung   string        `json:"rung" minLength:"1" maxLength:"60"`
	Choice ladder.Choice `json:"choice"`
	Reason string        `json:"reason,omitempty" maxLength:"400"`
	Coach  string        `json:"coach,omitempty" readOnly:"true"`
	At     time.Time     `json:"at" readOnly:"true" required:"false"`
}

// Acceptance takes what is proposed: on a bag, or, where none is named, what comes next at all.
type Acceptance struct {
	RigID  string        `json:"rigId,omitempty" format:"uuid"`
	Choice ladder.Choice `json:"choice" enum:"accept,change" default:"accept"`
	Reason string        `json:"reason,omitempty" maxLength:"400"`
}

// class reads everybody, member one person.
func (c caller) class() (roster.Roster, error) {
	return ledger.Roster(c.gym, c.row, "", c.gym.Now(), c.stop)
}

func (c caller) member(id string) (roster.Roster, *roster.Member, error) {
	cl, err := ledger.Roster(c.gym, c.row, id, c.gym.Now(), c.stop)
	if err != nil {
		return cl, nil, err
	}
	return cl, &cl.Members[0], nil
}

// current is for how long a class that was planned and not held stands on the first page.
const current = 18 * time.Hour

func (c caller) today() (Today, error) {
	cl, err := c.class()
	if err != nil {
		return Today{}, err
	}
	t := Today{Rigs: len(cl.Bags), People: len(cl.Members), Caution: caution.General}
	if t.Next, t.Also, err = cl.Today(); err != nil {
		return t, err
	}
	logFailed(t.Next)
	hours, err := c.gym.Hours()
	if err != nil {
		return t, err
	}
	if len(hours) > 0 && !run.State(hours[0].State).Over() && c.gym.Now().Sub(hours[0].CreatedAt) < current {
		row := hourRow(hours[0])
		t.Hour = &row
	}
	if t.Class, err = c.nextClass(); err != nil {
		return t, err
	}
	if t.Tired, err = c.tired(); err != nil {
		return t, err
	}
	rows, err := c.gym.Runs(store.RunFilter{Limit: 6})
	if t.Recent, err = eachRow(rows, err, logRow); err != nil {
		return t, err
	}
	t.Unread, err = c.unread()
	return t, err
}

// logFailed logs for whom it could not be worked out what comes next.
func logFailed(list []roster.Proposal) {
	for _, p := range list {
		if p.Failed != "" {
			slog.Error("what comes next could not be worked out", "trainee", p.TraineeID, "error", p.Failed)
		}
	}
}

func (c caller) ladder(id string, kind rig.Kind) (Ladder, error) {
	cl, m, err := c.member(id)
	if err != nil {
		return Ladder{}, err
	}
	if !slices.Contains(cl.Kinds(), kind) {
		return Ladder{}, store.ErrNotFound
	}
	out := Ladder{Decisions: []Decision{}}
	if out.LadderView, err = cl.Ladder(m, kind); err != nil {
		return out, err
	}
	rows, err := c.gym.Decisions(id)
	for _, d := range slices.Backward(rows) {
		if d.BagKind == string(kind) {
			out.Decisions = append(out.Decisions, Decision{rig.Kind(d.BagKind), d.Rung, ladder.Choice(d.Choice),
				d.Reason, d.Coach, d.CreatedAt})
		}
	}
	return out, err
}

// decide keeps a coach's choice on a rung and gives what is proposed from then on.
func (c caller) decide(id string, in Decision) (roster.Proposal, error) {
	kind := rig.Kind(in.Kind)
	if ladder.KindOf(in.Rung) != kind {
		return roster.Proposal{}, input.Refuse("rung", "expected a rung of the ladder for this bag, not %q", in.Rung)
	}
	cl, m, err := c.member(id)
	if err != nil {
		return roster.Proposal{}, err
	}
	if !slices.Contains(cl.Kinds(), kind) {
		return roster.Proposal{}, input.Refuse("kind", "expected a kind of bag that hangs in this gym")
	}
	row := store.Decision{TraineeID: id, BagKind: string(in.Kind), Rung: in.Rung, Choice: string(in.Choice),
		Reason: in.Reason, Coach: c.Coach.Name, CoachID: &c.Coach.ID}
	if err := c.gym.AddDecision(&row); err != nil {
		return roster.Proposal{}, err
	}
	m.Decisions = append(m.Decisions, roster.Ruling{Kind: kind,
		Decision: ladder.Decision{At: row.CreatedAt, Rung: in.Rung, Choice: ladder.Choice(in.Choice),
			Reason: in.Reason}})
	return cl.On(m, kind)
}

// accept gives somebody the drill that is proposed, or finds the one that they have of it.
func (c caller) accept(id string, in Acceptance) (Assignment, error) {
	cl, m, err := c.member(id)
	if err != nil {
		return Assignment{}, err
	}
	p, found, err := roster.Proposal{}, true, error(nil)
	if in.RigID == "" {
		p, found, err = cl.Next(m)
	} else if b := cl.Bag(in.RigID); b != nil {
		p, err = cl.OnBag(m, b)
	} else {
		found = false
	}
	switch {
	case err != nil:
		return Assignment{}, err
	case !found:
		return Assignment{}, input.Refuse("rigId", "expected a bag that hangs in this gym")
	case p.Barred != "":
		return Assignment{}, input.Refuse("rigId", "%s", p.Why)
	}
	row, err := ledger.Take(c.gym, p, ladder.Choice(in.Choice), in.Reason, c.Coach)
	if err != nil {
		return Assignment{}, err
	}
	return c.assignmentOut(row)
}

// library is the catalogue with the gym's own drills.
func (s *Server) library(c caller) (roster.Library, error) {
	cl, err := ledger.Bags(c.gym, c.row, c.stop)
	if err != nil {
		return roster.Library{}, err
	}
	rows, err := c.gym.Drills(store.InUse)
	own, err := readable(c, rows, err, func(d store.Drill) (roster.Own, error) {
		p, err := ledger.Plan(d)
		return roster.Own{ID: d.ID, Name: d.Name, Kind: rig.Kind(d.Kind), Plan: p}, err
	})
	if err != nil {
		return roster.Library{}, err
	}
	return cl.Library(own, &s.levels)
}

// outlook is how an assignment will go, what there is to beat, and what speaks against it.
func (c caller) outlook(id string) (roster.Outlook, error) {
	row, err := c.gym.Assignment(id)
	if err != nil {
		return roster.Outlook{}, err
	}
	cl, m, err := c.member(row.TraineeID)
	if err != nil {
		return roster.Outlook{}, err
	}
	bagRow, err := c.gym.Rig(row.RigID) // it may be archived
	if err != nil {
		return roster.Outlook{}, err
	}
	b := roster.Bag{ID: bagRow.ID, Name: bagRow.Name}
	if b.Rig, b.Place, err = ledger.Rig(bagRow); err != nil {
		return roster.Outlook{}, err
	}
	p, err := ledger.Given(row, string(m.Stance))
	if err != nil {
		return roster.Outlook{}, err
	}
	return cl.Outlook(m, &roster.Assignment{ID: row.ID, Plan: p, Rung: row.Drill.Rung}, &b)
}

func (s *Server) registerClass(api huma.API) {
	get(api, "/api/today", func(c caller, _ *nothing) (Today, error) { return c.today() })
	get(api, "/api/class", func(c caller, _ *nothing) ([]roster.Proposal, error) {
		cl, err := c.class()
		if err != nil {
			return nil, err
		}
		list, err := cl.Everybody()
		logFailed(list)
		return list, err
	})
	get(api, "/api/calendar", func(c caller, _ *nothing) ([]roster.Day, error) {
		cl, err := ledger.Calendar(c.gym, c.row, c.gym.Now())
		return cl.Calendar(), err
	})
	get(api, "/api/predictions", func(c caller, _ *nothing) (roster.Predictions, error) {
		cl, err := c.class()
		return cl.Predictions(), err
	})
	get(api, "/api/library", func(c caller, _ *nothing) (roster.Library, error) { return s.library(c) })
	get(api, "/api/trainees/{id}/ladder/{kind}", func(c caller, in *struct {
		ByID
		Kind rig.Kind `path:"kind"`
	}) (Ladder, error) {
		return c.ladder(in.ID, rig.Kind(in.Kind))
	})
	post(api, "/api/trainees/{id}/decisions",
		func(c caller, in *Addressed[Decision]) (roster.Proposal, error) { return c.decide(in.ID, in.Body) })
	post(api, "/api/trainees/{id}/accept",
		func(c caller, in *Addressed[Acceptance]) (Assignment, error) { return c.accept(in.ID, in.Body) })
}

// inSchool gives a drill that is offered the calls of this gym.
func (c caller) inSchool(p drill.Plan) drill.Plan {
	return drill.InSchool(p, ledger.Voice(c.row))
}
