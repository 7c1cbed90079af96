package ledger

import (
	mathrand "math/rand/v2"
	"time"

	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/input"
	"melodromos/core/judge"
	"melodromos/core/run"
	"melodromos/format"
	"melodromos/store"
)

// Round is a round with the documents that it keeps, and with whoever is on which bag in it.
type Round struct {
	store.Run
	Opened run.Opened
	Person store.Trainee
	Bag    store.Rig
}

// Over says whether a round is over.
func (r Round) Over() bool { return run.State(r.State).Over() }

// Round reads a round of somebody; of one who was erased it is ErrNotFound.
func (c Caller) Round(id string) (Round, error) {
	row, err := c.Gym.Run(id)
	if err != nil {
		return Round{}, err
	}
	opened, err := Open(c.Gym, row)
	if err != nil {
		return Round{}, err
	}
	return c.round(row, opened)
}

func (c Caller) round(row store.Run, opened run.Opened) (r Round, err error) {
	r = Round{Run: row, Opened: opened}
	if row.TraineeID == nil {
		return r, store.ErrNotFound
	}
	if r.Person, err = c.Gym.Trainee(*row.TraineeID); err != nil {
		return r, err
	}
	r.Bag, err = c.Gym.Rig(row.RigID)
	return r, err
}

// over reads a round that is over; one that goes on is refused.
func (c Caller) over(id string) (Round, error) {
	r, err := c.Round(id)
	if err == nil && !r.Over() {
		err = input.Refuse("", "this round is not over yet")
	}
	return r, err
}

// judged reads a round that is over, and judges it.
func (c Caller) judged(id string) (Round, run.Judged, error) {
	r, err := c.over(id)
	if err != nil {
		return r, run.Judged{}, err
	}
	j, _, err := Judge(c.Gym, r.Run, r.Opened, r.ClockUS, c.Stop)
	return r, j, err
}

// NewRound describes a round that is about to begin. Intake is the digest of the key that its hits come in by.
type NewRound struct {
	AssignmentID, Intake string
	By                   drill.Recorder
	Plays                drill.Playing // "" is the usual one
}

// MakeRound lays a drill out as it is now, with the bag as it hangs now and softer or shorter where a caution wants it,
// and stores the round with all of it.
func (c Caller) MakeRound(n NewRound) (r Round, err error) {
	err = c.together(func(c Caller) error {
		a, err := c.Gym.Assignment(n.AssignmentID)
		if err != nil {
			return err
		}
		on, err := c.Floor(a.RigID, a.TraineeID, "")
		if err != nil {
			return err
		}
		cautions, err := Cautions(c.Gym, a.TraineeID)
		if err != nil {
			return err
		}
		plan, err := Given(a, on.Person.Stance)
		if err != nil {
			return err
		}
		on.Seed, on.GetReady = mathrand.Uint64(), c.Row.GetReady
		prepared, err := run.For(cautions, plan, on.Floor, n.By, n.Plays)
		if err != nil {
			return err
		}
		row, line, err := NewRun(a, on.Rig, prepared, n.By)
		if err != nil {
			return err
		}
		row.CoachID, row.Zone, row.IntakeHash = &c.Coach.ID, c.Row.Zone, n.Intake
		if n.By == drill.Simulated {
			row.LatencyUS = new(int64) // exact
		}
		if err := c.Gym.AddRun(&row, line); err != nil {
			return err
		}
		r, err = c.round(row, run.Opened{Bag: on.Floor.Bag, Plan: prepared.Plan, Timeline: prepared.Timeline, By: n.By,
			Plays: prepared.Plays, Eased: a.Eased})
		return err
	})
	return r, err
}

// StepRound moves a round's clock. A round is not started, nor taken up again after a pause or an end, whose person was
// held back since; what was captured in it can come all the same.
func (c Caller) StepRound(id string, action run.Action, clock drill.Micros) (row store.Run, err error) {
	err = c.together(func(c Caller) error {
		before, err := c.Gym.Run(id)
		if err != nil {
			return err
		}
		if before.TraineeID != nil && ClockOf(before).SetsGoing(action) {
			cautions, err := Cautions(c.Gym, *before.TraineeID)
			if err == nil {
				err = run.Starts(cautions)
			}
			if err != nil {
				return err
			}
		}
		row, err = Move(c.Gym, id, func(r run.RoundClock) (run.RoundClock, error) {
			return r.Step(action, clock, c.Gym.Now())
		})
		return err
	})
	return row, err
}

// TakeFromLog takes a round that is over out of the log with all that it moved.
func (c Caller) TakeFromLog(id string) error {
	return c.inLog(id, func(r *store.Run) {
		if r.RemovedAt == nil {
			r.RemovedAt = new(c.Gym.Now())
		}
	})
}

// PutInLog puts a round back that was taken out of the log.
func (c Caller) PutInLog(id string) error {
	return c.inLog(id, func(r *store.Run) { r.RemovedAt = nil })
}

func (c Caller) inLog(id string, change func(*store.Run)) error {
	_, err := Change(c.Gym, id, func(r *store.Run) error {
		if !run.State(r.State).Over() {
			return input.Refuse("", "this round is not over yet")
		}
		change(r)
		return nil
	})
	return err
}

// Batch holds hits and marks that a device has captured of a round, and its reading of the round's clock.
type Batch struct {
	Hits    []store.Hit
	Marks   []store.Mark
	Latency *int64        // µs of the device; nil where nothing is said
	Clock   *drill.Micros // nil where nothing is said
}

// Keep stores what a device has captured, and returns how many hits were new, and the round. What comes after its end
// is judged with the rest once nothing more comes.
func Keep(gym *store.Gym, row store.Run, b Batch, now time.Time) (added int, after store.Run, err error) {
	after = row
	err = gym.Together(func(in *store.Gym) error {
		var err error
		if added, err = in.AddHits(row.ID, b.Hits, b.Marks); err != nil {
			return err
		}
		if row.EndedAt != nil {
			if added+len(b.Marks) == 0 {
				return nil
			}
			return in.CameLate(row.ID)
		}
		after, err = Change(in, row.ID, func(r *store.Run) error {
			if run.State(r.State).Over() {
				return nil // what is judged stays judged by what was known of the device then
			}
			if b.Latency != nil {
				r.LatencyUS = b.Latency
			}
			if b.Clock != nil {
				Heard(r, *b.Clock, now)
			}
			return nil
		})
		return err
	})
	return added, after, err
}

// Reviewed is a round as it was judged.
type Reviewed struct {
	Round
	Until       drill.Micros // how far it was judged
	Judged      run.Judged
	Floor       *drill.Floor // the bag as it hangs now; nil while the round goes on, and where there is none
	Rating      *store.Rating
	Corrections []store.Correction
}

// Review judges a round as far as its clock has come.
func (c Caller) Review(id string) (v Reviewed, err error) {
	if v.Round, err = c.Round(id); err != nil {
		return v, err
	}
	v.Until = ClockOf(v.Run).Now(c.Gym.Now())
	if v.Judged, _, err = Judge(c.Gym, v.Run, v.Opened, int64(v.Until), c.Stop); err != nil {
		return v, err
	}
	if err = c.Stop(); err != nil {
		return v, err
	}
	if v.Over() {
		if on, err := c.Floor(v.RigID, v.Person.ID, ""); err == nil {
			v.Floor = &on.Floor
		}
	}
	if v.Rating, err = c.Gym.RatingOf(id); err != nil {
		return v, err
	}
	v.Corrections, err = c.Gym.Corrections(id)
	return v, err
}

// Correct says what became of a strike of a round, over what was judged, and reviews the round with it. A review that
// is stopped takes the correction back.
func (c Caller) Correct(id string, as judge.Correction) (v Reviewed, err error) {
	err = c.together(func(c Caller) error {
		_, judged, err := c.judged(id)
		if err != nil {
			return err
		}
		if n := len(judged.Round.Planned); as.Strike >= n {
			return input.Refuse("strike", "expected one of the %d strikes that came due", n)
		}
		err = c.Gym.AddCorrection(&store.Correction{RunID: id, Kind: store.CorrectedStrike, Strike: &as.Strike,
			Verdict: string(as.Verdict), Coach: c.Coach.Name, CoachID: &c.Coach.ID})
		if err == nil {
			err = again(c.Gym, id)
		}
		if err == nil {
			v, err = c.Review(id)
		}
		return err
	})
	return v, err
}

// TakeBack undoes a correction, and reviews the round: a strike is what it was judged, a round that was judged anew is
// judged by what it was judged by before.
func (c Caller) TakeBack(runID, id string) (v Reviewed, err error) {
	err = c.together(func(c Caller) error {
		k, err := c.Gym.UndoCorrection(runID, id)
		if err != nil {
			return err
		}
		if k.Kind == store.Rejudged {
			if err := before(c.Gym, runID, k.Was); err != nil {
				return err
			}
		}
		if err = again(c.Gym, runID); err == nil {
			v, err = c.Review(runID)
		}
		return err
	})
	return v, err
}

// Rejudge judges a round by another plan, clock or delay, keeps what it was judged by before with what came of it, and
// reviews the round.
func (c Caller) Rejudge(id string, anew run.Anew) (v Reviewed, err error) {
	err = c.together(func(c Caller) error {
		r, err := c.over(id)
		if err != nil {
			return err
		}
		on, err := c.Floor(r.RigID, r.Person.ID, "")
		if err != nil {
			return err
		}
		on.Floor.Bag = r.Opened.Bag // as it hung then
		if err = rejudge(c.Gym, r.Run, r.Opened, anew, on.Floor, c.Coach); err == nil {
			v, err = c.Review(id)
		}
		return err
	})
	return v, err
}

// Mend gives whoever was on the bag the drill that mends a fault of the round, on the bag as it hangs now. It returns
// the assignment's id.
func (c Caller) Mend(id string, code fault.Code) (assignment string, err error) {
	err = c.together(func(c Caller) error {
		r, judged, err := c.judged(id)
		if err != nil {
			return err
		}
		on, err := c.Floor(r.RigID, r.Person.ID, "")
		if err != nil {
			return err
		}
		offer, ok := judged.Mend(code, on.Floor)
		if !ok {
			return input.Refuse("code", "expected a fault that this round shows, with a drill for it")
		}
		plan, settings := drill.Open(offer.Plan)
		d, err := DrillRow(offer.Title+": "+offer.Plan.Name(), on.Floor.Bag.Kind(), plan, "")
		if err != nil {
			return err
		}
		d.MadeBy = &c.Coach.ID
		if err := c.Gym.EnsureDrill(&d); err != nil {
			return err
		}
		a, err := Give(c.Gym, d, r.Person.ID, r.RigID, settings, "", c.Coach)
		assignment = a.ID
		return err
	})
	return assignment, err
}

// ErrHasHits says that a round has hits of its own.
var ErrHasHits = input.Refuse("", "this round has hits of its own")

// TimesOf is a table of times as it lies in a round.
type TimesOf struct {
	List  []format.Time
	Shift float64 // s, from the table's time to that after the bell
}

// AddTimes brings a table in as the hits of a round that has none of its own, or with dry only says how it would lie.
// With first its first time is that of the first strike, else its time begins with the bell.
func (c Caller) AddTimes(id, text string, first, dry bool) (t TimesOf, err error) {
	err = c.together(func(c Caller) error {
		r, err := c.over(id)
		if err != nil {
			return err
		}
		if by := drill.Recorder(r.Source); by != drill.Nothing && by != drill.Table {
			if hits, err := c.Gym.Hits(id); err != nil || len(hits) > 0 {
				return orElse(err, ErrHasHits)
			}
		}
		if t.List, err = format.ReadTimes(text); err != nil {
			return input.Refuse("table", "%s", err.Error())
		}
		start := r.Opened.Timeline.Start
		zero := start
		if strikes := judge.Planned(r.Opened.Timeline, -1); first && len(strikes) > 0 {
			zero = drill.Micros((strikes[0].At - t.List[0].At) * 1e6)
		}
		t.Shift = (zero - start).Seconds()
		if zero.Seconds()+t.List[0].At < 0 {
			return input.Refuse("table", "expected no hit before the round was got ready for")
		}
		if dry {
			return nil
		}
		return addTimes(c.Gym, id, t.List, zero)
	})
	return t, err
}

func orElse(err, other error) error {
	if err != nil {
		return err
	}
	return other
}
