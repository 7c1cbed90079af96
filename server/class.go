package server

import (
	"encoding/json"
	"errors"
	"slices"
	"time"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/store"
)

// class is all that proposals are made from, read at once.
type class struct {
	now       time.Time
	zone      string
	stop      func() error
	kicks     bool // are trained here
	gate      ladder.Gate
	rigs      []store.Rig
	bags      map[string]rig.Rig
	places    map[string]rig.Place
	trainees  []store.Trainee
	findings  map[string][]store.Finding
	cautions  map[string][]store.Caution
	decisions map[string][]store.Decision
	rounds    map[string][]store.Run
}

// classOf reads what is known of one trainee, or of all where the id is empty.
func classOf(c caller, id string) (class, error) {
	cl := class{now: time.Now(), zone: c.row.Zone, stop: c.stop, kicks: c.row.Kicks, gate: ladder.Gate{Clean: c.row.GateClean, Run: c.row.GateRun, Rounds: c.row.GateRounds}, bags: map[string]rig.Rig{}, places: map[string]rig.Place{}}
	var err error
	if cl.rigs, err = c.gym.Rigs(false); err != nil {
		return cl, err
	}
	for _, row := range cl.rigs {
		if cl.bags[row.ID], cl.places[row.ID], err = readRig(row); err != nil {
			return cl, err
		}
	}
	if id == "" {
		cl.trainees, err = c.gym.Trainees()
	} else {
		var t store.Trainee
		t, err = c.gym.Trainee(id)
		cl.trainees = []store.Trainee{t}
	}
	findings, e1 := c.gym.Findings(id)
	cautions, e2 := c.gym.Cautions(id)
	decisions, e3 := c.gym.Decisions(id)
	rounds, e4 := c.gym.Rounds(id)
	cl.findings = grouped(findings, func(f store.Finding) string { return f.TraineeID })
	cl.cautions = grouped(cautions, func(f store.Caution) string { return f.TraineeID })
	cl.decisions = grouped(decisions, func(f store.Decision) string { return f.TraineeID })
	cl.rounds = grouped(rounds, func(f store.Run) string { return f.TraineeID })
	return cl, errors.Join(err, e1, e2, e3, e4)
}

func grouped[T any](rows []T, by func(T) string) map[string][]T {
	out := map[string][]T{}
	for _, r := range rows {
		out[by(r)] = append(out[by(r)], r)
	}
	return out
}

// kinds of bag that hang in the gym, in the order of the trade.
func (c class) kinds() []rig.Kind {
	var list []rig.Kind
	for _, k := range []rig.Kind{rig.Speed, rig.DoubleEnd, rig.Reflex, rig.Slip, rig.Hanging} {
		if slices.ContainsFunc(c.rigs, func(r store.Rig) bool { return r.Kind == string(k) }) {
			list = append(list, k)
		}
	}
	return list
}

// rigFor is the bag of a kind that somebody was on last, or else the first of them.
func (c class) rigFor(t store.Trainee, kind rig.Kind) store.Rig {
	used := c.rounds[t.ID]
	for i := len(used) - 1; i >= 0; i-- {
		for _, r := range c.rigs {
			if r.ID == used[i].RigID && r.Kind == string(kind) {
				return r
			}
		}
	}
	i := slices.IndexFunc(c.rigs, func(r store.Rig) bool { return r.Kind == string(kind) })
	return c.rigs[i]
}

// mainKind is the kind of bag that somebody goes on with; "" where none hangs.
func (c class) mainKind(t store.Trainee) rig.Kind {
	kind := map[string]rig.Kind{}
	for _, r := range c.rigs {
		kind[r.ID] = rig.Kind(r.Kind)
	}
	var used []rig.Kind
	for _, r := range c.rounds[t.ID] {
		used = append(used, kind[r.RigID])
	}
	return ladder.Follow(c.kinds(), used)
}

func (c class) floor(t store.Trainee, r store.Rig) drill.Floor {
	return drill.Floor{Bag: c.bags[r.ID], Place: c.places[r.ID], Ability: abilityWith(t, rig.Kind(r.Kind), evidenceOf(c.findings[t.ID]), c.now), Theirs: true, NoKicks: !c.kicks, Seed: 1, Stop: c.stop}
}

// career is what somebody did on a kind of bag.
func (c class) career(t store.Trainee, kind rig.Kind, on drill.Floor) ladder.Career {
	career := ladder.Career{Rungs: ladder.Rungs(kind, ladder.School(t.School)), Gate: c.gate, Now: c.now}
	for _, r := range c.rounds[t.ID] {
		var sum Summary
		if ladder.KindOf(r.Rung) != kind || json.Unmarshal(r.Summary, &sum) != nil || !sum.Counts {
			continue
		}
		career.Rounds = append(career.Rounds, sum.round(r))
	}
	for _, d := range c.decisions[t.ID] {
		if d.BagKind == string(kind) {
			career.Decisions = append(career.Decisions, ladder.Decision{At: d.CreatedAt, Rung: d.Rung, Choice: ladder.Choice(d.Choice), Reason: d.Reason})
		}
	}
	if cautions := c.standing(t.ID); len(cautions) > 0 {
		career.Held = func(r ladder.Rung) string {
			p, err := r.Plan(on)
			if err != nil {
				return ""
			}
			return ladder.HeldBack(cautions, p, on)
		}
	}
	return career
}

// outcomes are the judged rounds of somebody on a kind of bag, beside what was predicted of them; on all where the kind is empty.
func (c class) outcomes(traineeID string, kind rig.Kind) []level.Outcome {
	var list []level.Outcome
	for _, r := range c.rounds[traineeID] {
		var sum Summary
		if r.Predicted == nil || json.Unmarshal(r.Summary, &sum) != nil || !sum.Counts || sum.Passes > 0 {
			continue
		}
		if i := slices.IndexFunc(c.rigs, func(x store.Rig) bool { return x.ID == r.RigID }); kind != "" && (i < 0 || c.rigs[i].Kind != string(kind)) {
			continue
		}
		list = append(list, level.Outcome{Predicted: *r.Predicted, Observed: sum.Share, Strikes: sum.Planned})
	}
	return list
}

// fit predicts a plan for somebody, with what their rounds on this kind of bag have taught.
func (c class) fit(traineeID string, plan drill.Plan, t drill.Timeline, on drill.Floor) level.Fit {
	return level.For(plan, t, on, level.Told{Rounds: c.done(traineeID, plan, on.Bag.Kind())}).With(level.Learn(c.outcomes(traineeID, on.Bag.Kind())))
}

// done is how many judged rounds somebody has done of a rung that a plan is the drill of.
func (c class) done(traineeID string, plan drill.Plan, kind rig.Kind) int {
	key, n := ladder.Match(plan, kind), 0
	for _, r := range c.rounds[traineeID] {
		var sum Summary
		if key != "" && r.Rung == key && json.Unmarshal(r.Summary, &sum) == nil && sum.Counts {
			n++
		}
	}
	return n
}

// round is a run as the ladder has it.
func (s Summary) round(r store.Run) ladder.Round {
	out := ladder.Round{At: r.CreatedAt, Rung: r.Rung, Clean: s.Share, Longest: s.Longest, Planned: s.Planned, Wild: s.Wild}
	if ladder.Paced(r.Rung) && s.Asked > 0 {
		out.Tempo = s.Tempo / s.Asked
	}
	return out
}

// standing are the cautions that nobody has lifted.
func standing(rows []store.Caution) []ladder.Caution {
	var list []ladder.Caution
	for _, k := range rows {
		if k.LiftedAt == nil {
			list = append(list, ladder.Caution(k.Kind))
		}
	}
	return list
}

// standing are those of somebody.
func (c class) standing(traineeID string) []ladder.Caution { return standing(c.cautions[traineeID]) }

// held says why a drill is held back from whoever it is for.
func (c class) held(row store.Drill, plan drill.Plan) string {
	cautions := c.standing(row.TraineeID)
	if len(cautions) == 0 || c.bags[row.RigID] == nil {
		return ""
	}
	for _, t := range c.trainees {
		for _, r := range c.rigs {
			if t.ID == row.TraineeID && r.ID == row.RigID {
				return ladder.HeldBack(cautions, plan, c.floor(t, r))
			}
		}
	}
	return ""
}

// propose says what somebody does next on a kind of bag; with fit, how hard it is and how it will go.
func (c class) propose(t store.Trainee, kind rig.Kind, fit bool) (Proposal, error) {
	row := c.rigFor(t, kind)
	on := c.floor(t, row)
	career := c.career(t, kind, on)
	p := career.Propose()
	out := Proposal{
		TraineeID: t.ID, Trainee: t.Name, Kind: string(kind), RigID: row.ID, RigName: row.Name,
		Rung: p.Rung.Key, Name: p.Rung.Name, Note: p.Rung.Note, Index: p.Index, Standing: career.Standing(), Of: len(career.Rungs), Move: string(p.Move), Target: p.Target, Why: p.Why, Barred: p.Barred,
	}
	plan, err := p.Rung.Plan(on)
	if err != nil {
		return out, err
	}
	if p.Soft {
		plan = level.Softer(plan, on)
	}
	out.Doc = DrillDoc{Plan: plan}
	if !fit {
		return out, nil
	}
	line, err := plan.Lay(on)
	var refusal *input.Error
	if errors.As(err, &refusal) { // a bag as it hangs may not allow it: then that is what is said
		out.Barred, out.Move, out.Why = refusal.Reason, string(ladder.Barred), "Not on this bag as it hangs: "+refusal.Reason+"."
		return out, nil
	}
	if err != nil {
		return out, err
	}
	g, err := level.Graded(plan, line, on)
	if err != nil {
		return out, err
	}
	f := c.fit(t.ID, plan, line, on)
	out.Level, out.Clean, out.Run = &g.Level, &f.Clean, &f.Longest
	return out, c.stop()
}
