package ledger

import (
	"bytes"
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"melodromos/core/class"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/judge"
	"melodromos/core/run"
	"melodromos/core/session"
	"melodromos/store"
)

// Held is a class as it stands: its plan, what was done to it, and how it goes from there.
type Held struct {
	Plan   class.Class
	Deeds  []session.Done
	Course session.Course
	Clock  run.RoundClock
	// why the last of the deeds that were told was passed over, as nothing stood for it; "" where all counted
	Refused  string
	getReady int // s
}

// OpenClass reads what a class keeps.
func OpenClass(h store.Class) (Held, error) {
	var out Held
	var err error
	if out.Plan, err = class.Read(h.Plan); err == nil {
		out.Deeds, err = session.ReadDeeds(h.Deeds)
	}
	if err != nil {
		return out, unreadable(store.ClassRow, h.ID, h.Name, err)
	}
	out.getReady = h.GetReady
	out.Course = session.Replay(out.Plan.Session, h.GetReady, out.Deeds)
	out.Clock = run.RoundClock{State: run.State(h.State), Ending: judge.Ended(h.Ending), Clock: drill.Micros(h.ClockUS),
		Zero: orZero(h.ZeroAt), Seen: h.SeenAt, Started: orZero(h.StartedAt), Ended: orZero(h.EndedAt)}
	return out, nil
}

// write puts how a class stands into its row.
func (o Held) write(h *store.Class) error {
	var err error
	if h.Plan, err = json.Marshal(o.Plan); err == nil {
		h.Deeds, err = json.Marshal(o.Deeds)
	}
	c := o.Clock
	h.State, h.Ending, h.ClockUS, h.SeenAt = string(c.State), string(c.Ending), int64(c.Clock), c.Seen.UTC()
	h.ZeroAt, h.StartedAt, h.EndedAt = wall(c.Zero), wall(c.Started), wall(c.Ended)
	return err
}

// NewClass is a planned class as it is stored, not stored yet.
func NewClass(p class.Class, getReady float64, by store.Coach) (store.Class, error) {
	doc, err := json.Marshal(p)
	return store.Class{CoachID: &by.ID, Name: cmp.Or(p.Session.Name, "Class"), Plan: doc, GetReady: int(getReady)}, err
}

// ChangeClass alters a class, and logs what has been done by then: all of it holds, or none.
func ChangeClass(gym *store.Gym, id string, change func(*Held) error) (store.Class, Held, error) {
	var out Held
	row, err := gym.MoveClass(id, func(h *store.Class) error {
		var err error
		if out, err = OpenClass(*h); err != nil {
			return err
		}
		as := out.Plan.Clone()
		err = change(&out)
		if err != nil {
			return err
		}
		out.Course = session.Replay(out.Plan.Session, h.GetReady, out.Deeds)
		before, err := json.Marshal(as)
		if err == nil {
			err = out.write(h)
		}
		if !bytes.Equal(before, h.Plan) {
			h.Version++
		}
		return err
	}, func(in *store.Gym, h store.Class) error { return in.SetTurns(turns(h, out)) })
	return row, out, err
}

// turns are the rows of what was done in a class as far as its clock has come.
func turns(h store.Class, o Held) []store.Turn {
	if h.StartedAt == nil {
		return nil
	}
	var rows []store.Turn
	for _, e := range o.Plan.Log(o.Course, drill.Micros(h.ClockUS)) {
		if who := o.Plan.Person(e.Person); who == nil || e.Person == nobody {
			continue
		}
		row := store.Turn{ClassID: h.ID, Lap: e.Lap, Round: e.Round, Block: e.Block, TraineeID: e.Person, Rung: e.Rung,
			Title: e.Title, Seconds: e.Seconds, Got: e.Got, Failed: e.Failed, Carried: e.Carried,
			At: h.StartedAt.Add(time.Duration(e.From) * time.Microsecond)}
		if e.Bag != "" {
			row.RigID = &e.Bag
		}
		if e.AssignmentID != "" {
			row.AssignmentID = &e.AssignmentID
		}
		rows = append(rows, row)
	}
	return rows
}

// nobody is the id that stands in plans for somebody who was erased.
const nobody = "00000000-0000-0000-0000-000000000000"

// TakeAll gives everybody of a plan the drills that they do not have yet, as of a moment.
func TakeAll(gym *store.Gym, p *class.Class, by store.Coach, at time.Time) error {
	for i := range p.Given {
		g := &p.Given[i]
		if g.AssignmentID != "" || g.Doc.Empty() { // a session that is the same for everybody gives nobody a drill
			continue
		}
		bag := p.Bag(g.Bag)
		if bag == nil {
			continue
		}
		d, err := DrillRow(g.Name, bag.Kind, g.Doc.Plan, g.Rung)
		if err != nil {
			return err
		}
		d.MadeBy, d.CreatedAt = &by.ID, at
		if err := gym.EnsureDrill(&d); err != nil {
			return err
		}
		_, settings := drill.Open(g.Doc.Plan)
		a, err := Give(gym, d, g.Person, g.Bag, settings, g.Eased, by)
		if err != nil {
			return fmt.Errorf("give %s: %w", g.Name, err)
		}
		g.AssignmentID = a.ID
	}
	return nil
}

// Did adds what was done on the floor; what is known already is passed over, so that nothing counts twice, and so is
// what nothing stands for, such as a longer rest where none comes: Refused says so.
func (o *Held) Did(deeds []session.Done) error {
	for _, d := range deeds {
		if d.ID == "" {
			return input.Refuse("deeds", "expected an id of each deed")
		}
		if slices.ContainsFunc(o.Deeds, func(known session.Done) bool { return known.ID == d.ID }) {
			continue
		}
		if n := len(o.Deeds); n > 0 { // as it is replayed
			d.At = max(d.At, o.Deeds[n-1].At)
		}
		var refused *input.Error
		if err := o.Course.Allows(d); errors.As(err, &refused) {
			o.Refused = refused.Reason
			continue
		}
		o.Deeds = append(o.Deeds, d)
		o.Course.Do(d)
	}
	if len(o.Deeds) > MostDeeds {
		return input.Refuse("deeds", "expected at most %d deeds in a class", MostDeeds)
	}
	return nil
}

// Withdraw takes deeds back by their ids, should they have been told: nobody saw them done.
func (o *Held) Withdraw(ids []string) {
	before := len(o.Deeds)
	o.Deeds = slices.DeleteFunc(o.Deeds, func(d session.Done) bool { return slices.Contains(ids, d.ID) })
	if len(o.Deeds) < before {
		o.Course = session.Replay(o.Plan.Session, o.getReady, o.Deeds)
	}
}

// MostDeeds limits the deeds of a class: many times those of the longest.
const MostDeeds = 2000

// PauseQuiet pauses a running class whose screen has not been heard of since before, where it was heard last.
func PauseQuiet(gym *store.Gym, id string, before time.Time) error {
	_, _, err := ChangeClass(gym, id, func(o *Held) error {
		if o.Clock.State != run.Running || !o.Clock.Seen.Before(before) {
			return nil
		}
		seen := o.Clock.Seen
		paused, err := o.Clock.Step(run.Pause, o.Clock.Clock, seen)
		o.Clock = paused
		return err
	})
	return err
}
