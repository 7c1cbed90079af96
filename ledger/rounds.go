package ledger

import (
	"context"
	"encoding/json"
	"errors"
	"math"
	"reflect"
	"time"

	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/input"
	"melodromos/core/judge"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/core/trainee"
	"melodromos/store"
)

// NewRun is a prepared round of an assignment as it is stored, not stored yet; its timeline comes beside it.
func NewRun(a store.Assignment, bag store.Rig, p run.Prepared, by drill.Recorder) (store.Run, store.Doc, error) {
	doc, err := json.Marshal(p.Plan)
	if err != nil {
		return store.Run{}, nil, err
	}
	line, err := json.Marshal(p.Timeline)
	return store.Run{
		DrillID: a.DrillID, AssignmentID: &a.ID, RigID: a.RigID, TraineeID: &a.TraineeID, DrillName: a.Drill.Name,
		Rung: a.Drill.Rung, Eased: a.Eased,
		RigDoc: bag.Doc, DrillDoc: doc, Source: string(by), Plays: string(p.Plays), Predicted: p.Predicted,
	}, line, err
}

// ClockOf returns the clock of a stored round.
func ClockOf(r store.Run) run.RoundClock {
	return run.RoundClock{
		State: run.State(r.State), Ending: judge.Ended(r.Ending), Clock: drill.Micros(r.ClockUS),
		Zero: orZero(r.ZeroAt), Seen: r.SeenAt, Started: orZero(r.StartedAt), Ended: orZero(r.EndedAt),
	}
}

// setClock writes a round's clock into its row.
func setClock(r *store.Run, c run.RoundClock) {
	r.State, r.Ending, r.ClockUS, r.SeenAt = string(c.State), string(c.Ending), int64(c.Clock), c.Seen.UTC()
	r.ZeroAt, r.StartedAt, r.EndedAt = wall(c.Zero), wall(c.Started), wall(c.Ended)
}

// Heard notes that a round's screen was heard of, and how far it says that the clock has come.
func Heard(r *store.Run, clock drill.Micros, now time.Time) {
	setClock(r, ClockOf(*r).Heard(clock, now))
}

func wall(t time.Time) *time.Time {
	if t.IsZero() {
		return nil
	}
	t = t.UTC()
	return &t
}

// Move takes a round's next step. A round that has ended by then is judged in the same transaction, and what it shows
// of whoever was on the bag is kept: all of it holds, or none.
func Move(gym *store.Gym, id string, step func(run.RoundClock) (run.RoundClock, error)) (store.Run, error) {
	return Change(gym, id, func(r *store.Run) error {
		c, err := step(ClockOf(*r))
		if err == nil {
			setClock(r, c)
		}
		return err
	})
}

// Change alters a stored round as Move does. One whose documents cannot be read ends all the same, and is not judged.
func Change(gym *store.Gym, id string, change func(*store.Run) error) (store.Run, error) {
	alter := func(r *store.Run) error {
		if run.State(r.State).Over() {
			r.LateAt = nil
		}
		return change(r)
	}
	return gym.MoveRun(id, alter, func(in *store.Gym, r store.Run) error {
		if !run.State(r.State).Over() {
			return nil
		}
		_, err := Left(in, Settle(in, r))
		return err
	})
}

// Settle judges an ended round, stores its outcome, and what it shows of whoever was on the bag. One of somebody who
// was erased, or that came in as a table, stays as it is; one that was removed from the log shows nothing.
func Settle(gym *store.Gym, r store.Run) error {
	if r.TraineeID == nil || r.BroughtAt != nil {
		return nil
	}
	opened, err := Open(gym, r)
	if err != nil {
		return err
	}
	j, t, err := Judge(gym, r, opened, r.ClockUS, nil) // what is kept is judged to the end
	if err != nil {
		return err
	}
	var shows []store.Evidence
	if r.RemovedAt == nil && j.Summary.Counts {
		if shows, err = evidenceFrom(gym, r, opened.Bag.Kind(), j, t); err != nil {
			return err
		}
	}
	return gym.SetOutcome(outcome(r.ID, j.Summary), faultRows(j.Faults), shows)
}

// evidenceFrom returns a round's evidence of ability, given what was known before. A simulated sensor gives none, but
// in the demo gym.
func evidenceFrom(gym *store.Gym, r store.Run, kind rig.Kind, j run.Judged, t store.Trainee) ([]store.Evidence, error) {
	row, err := gym.Row()
	if err != nil || r.Source == string(drill.Simulated) && !row.Demo {
		return nil, err
	}
	rows, err := gym.Evidence(t.ID)
	if err != nil {
		return nil, err
	}
	var others []store.Evidence
	for _, e := range rows {
		if orZero(e.RunID) != r.ID {
			others = append(others, e)
		}
	}
	a := trainee.Known(trainee.Band(t.Band), combo.Hand(t.Weak), kind, Evidence(others), r.CreatedAt)
	return EvidenceRows(j.Shows(a, r.CreatedAt), t.ID, r.DrillName), nil
}

// Open reads the documents that a round keeps.
func Open(gym *store.Gym, r store.Run) (run.Opened, error) {
	if r.BroughtAt != nil {
		return run.Opened{}, input.Refuse("",
			"this round came in as a table: its figures stand in the log, and nothing else is known of it")
	}
	line, err := gym.Timeline(r.ID)
	if err != nil {
		return run.Opened{}, err
	}
	o, err := run.Open(r.RigDoc, r.DrillDoc, line, drill.Recorder(r.Source), drill.Playing(r.Plays))
	o.Eased = r.Eased
	return o, unreadable(store.RunRow, r.ID, r.DrillName, err)
}

// runDocs reads the bag and the drill that a round was run with.
func runDocs(r store.Run) error {
	_, err := rig.Read(input.Parse(r.RigDoc))
	if err == nil {
		_, err = drill.ReadPlan(input.Parse(r.DrillDoc))
	}
	return unreadable(store.RunRow, r.ID, r.DrillName, err)
}

// Judge judges a round as far as its clock has come (µs).
func Judge(gym *store.Gym, r store.Run, opened run.Opened, clock int64,
	stop func() error) (run.Judged, store.Trainee, error) {
	hits, e1 := gym.Hits(r.ID)
	marks, e2 := gym.Marks(r.ID)
	t, e3 := gym.Trainee(orZero(r.TraineeID))
	corrected, e4 := gym.Corrections(r.ID)
	if err := errors.Join(e1, e2, e3, e4); err != nil {
		return run.Judged{}, t, err
	}
	record := run.Record{Opened: opened, Until: drill.Micros(clock), Ended: judge.Ended(r.Ending),
		Band: trainee.Band(t.Band), Stop: stop}
	if r.LatencyUS != nil {
		latency := drill.Micros(*r.LatencyUS)
		record.Latency = &latency
	}
	for _, h := range hits {
		record.Hits = append(record.Hits, run.CapturedHit{At: drill.Micros(h.AtUS), Hand: drill.Hand(orZero(h.Hand)),
			Launch: orZero(h.Launch)})
	}
	for _, m := range marks {
		record.Marks = append(record.Marks, run.Mark{At: drill.Micros(m.AtUS), Kind: run.MarkKind(m.Kind)})
	}
	for _, c := range corrected {
		if c.Strike != nil && c.UndoneAt == nil {
			record.Corrected = append(record.Corrected, judge.Correction{Strike: *c.Strike,
				Verdict: judge.Verdict(c.Verdict)})
		}
	}
	return record.Judge(), t, nil
}

// faultRows are the faults of a round as they are stored.
func faultRows(list []fault.Fault) []store.Fault {
	rows := make([]store.Fault, len(list))
	for i, f := range list {
		rows[i] = store.Fault{Code: string(f.Code), Cost: f.Cost, Effect: f.Effect, Spread: f.Error, Times: f.Times}
	}
	return rows
}

// outcome is a summary as it is stored.
func outcome(id string, s run.Summary) store.Outcome {
	o := store.Outcome{
		RunID: id, Conclusion: string(s.Conclusion), Scored: &s.Scored, Planned: s.Planned,
		Hits: s.Hits, Clean: s.Clean, Missed: &s.Missed,
		Extra: &s.Extra, Longest: s.Longest, Passes: s.Passes,
		Share: math.Min(1, math.Max(0, s.Share)), Give: s.Give, Tempo: orNil(s.Tempo), Asked: orNil(s.Asked),
		OffsetS: &s.Offset, Lasted: &s.Lasted, Counts: s.Counts, Judged: !s.Unjudged, Wild: s.Wild,
	}
	if f := s.Rig; f != nil {
		o.RigParameter, o.RigValue, o.RigSpread, o.RigSteps = &f.Parameter, &f.Value, &f.Spread, &f.Steps
	}
	return o
}

// Summary is a stored outcome of a round that came to its end in some way, as the core has it.
func Summary(o store.Outcome, e judge.Ended) run.Summary {
	s := run.Summary{
		Conclusion: judge.Conclusion(o.Conclusion), Headline: o.Headline, Scored: o.Planned,
		Planned: o.Planned, Hits: o.Hits, Clean: o.Clean, Missed: orZero(o.Missed),
		Extra: orZero(o.Extra), Longest: o.Longest, Passes: o.Passes,
		Share: o.Share, Give: o.Give, Tempo: orZero(o.Tempo), Asked: orZero(o.Asked), Offset: orZero(o.OffsetS),
		Lasted: orZero(o.Lasted),
		Counts: o.Counts, Unjudged: !o.Judged, Wild: o.Wild,
	}
	if o.RigParameter != nil {
		s.Rig = &rig.RoundFit{Parameter: *o.RigParameter, Value: orZero(o.RigValue), Spread: orZero(o.RigSpread),
			Steps: orZero(o.RigSteps)}
	}
	if o.Scored != nil {
		s.Scored = *o.Scored
	}
	return s.Told(e)
}

// FinishLeftOpen judges the rounds that a crash, or an earlier release, left ended and not judged. It returns how many
// there were.
func FinishLeftOpen(ctx context.Context, s *store.Store) (int, error) {
	rows, err := s.LeftOpen(ctx)
	return len(rows), errors.Join(err, judgeAnew(ctx, s, rows))
}

// JudgeLate judges the rounds to which something came after their end, and nothing since a while.
func JudgeLate(ctx context.Context, s *store.Store, quiet time.Duration) error {
	rows, err := s.Late(ctx, quiet)
	return errors.Join(err, judgeAnew(ctx, s, rows))
}

// judgeAnew judges rounds; one that cannot be judged leaves the others.
func judgeAnew(ctx context.Context, s *store.Store, rows []store.Run) error {
	var failed error
	for _, row := range rows {
		failed = errors.Join(failed, again(s.Gym(ctx, row.GymID), row.ID))
	}
	return failed
}

// RoundsOn returns the measurements of a bag by the judged rounds since its last calibration, the oldest first.
func RoundsOn(gym *store.Gym, row store.Rig) ([]rig.RoundFit, error) {
	rounds, err := gym.RoundsOn(row.ID, row.MeasuredAt, mostRounds)
	if err != nil {
		return nil, err
	}
	var fits []rig.RoundFit
	for _, r := range rounds {
		if sameDoc(r.RigDoc, row.Doc) {
			fits = append(fits, rig.RoundFit{Parameter: r.Parameter, Value: r.Value, Spread: r.Spread, Steps: r.Steps,
				Who: orZero(r.TraineeID)})
		}
	}
	return fits, nil
}

// sameDoc compares two documents that PostgreSQL has put into its own order.
func sameDoc(a, b store.Doc) bool {
	var x, y any
	return json.Unmarshal(a, &x) == nil && json.Unmarshal(b, &y) == nil && reflect.DeepEqual(x, y)
}

// mostRounds of a bag are read: more than are asked.
const mostRounds = 40

// Cautions are those that stand for somebody.
func Cautions(gym *store.Gym, traineeID string) ([]caution.Type, error) {
	rows, err := gym.Cautions(traineeID)
	var list []caution.Type
	for _, k := range rows {
		if k.LiftedAt == nil {
			list = append(list, caution.Type(k.Kind))
		}
	}
	return list, err
}
