package ledger

import (
	"slices"
	"time"

	"melodromos/core/class"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/run"
	"melodromos/core/session"
	"melodromos/store"
)

// Class is a class as it stands, with the row that it is kept in.
type Class struct {
	store.Class
	Held
}

// Class reads a class.
func (c Caller) Class(id string) (Class, error) {
	row, err := c.Gym.Class(id)
	if err != nil {
		return Class{}, err
	}
	held, err := OpenClass(row)
	return Class{row, held}, err
}

// ClassDone is a class with what was done in it.
type ClassDone struct {
	Class
	Turns   []store.Turn
	Ratings map[string]*store.Rating // by the turn's id
}

// ClassDone reads a class with what was done in it.
func (c Caller) ClassDone(id string) (out ClassDone, err error) {
	if out.Class, err = c.Class(id); err != nil {
		return out, err
	}
	ratings, err := c.Gym.TurnRatings(id)
	if err != nil {
		return out, err
	}
	out.Ratings = map[string]*store.Rating{}
	for i := range ratings {
		out.Ratings[*ratings[i].TurnID] = &ratings[i]
	}
	out.Turns, err = c.Gym.Turns(id)
	return out, err
}

// PlanClass plans a class and stores it. Planned twice with the same id, it is the one that was planned first.
func (c Caller) PlanClass(id string, ask class.Ask) (out ClassDone, err error) {
	err = c.together(func(c Caller) error {
		if id != "" {
			if out, err = c.ClassDone(id); err == nil {
				return nil // the answer was lost on the way
			}
		}
		r, err := c.Roster()
		if err != nil {
			return err
		}
		p, err := class.New(r, ask)
		if err != nil {
			return err
		}
		row, err := NewClass(p, c.Row.GetReady, c.Coach)
		if err != nil {
			return err
		}
		row.ID = id
		if err := c.Gym.AddClass(&row); err != nil {
			return err
		}
		out, err = c.ClassDone(row.ID)
		return err
	})
	return out, err
}

// replan alters the plan of a class that is not over: change is told from which round on, and where its clock stands.
func (c Caller) replan(
	id string,
	change func(p class.Class, from int, at drill.Micros) (class.Class, error),
) (Class, error) {
	row, held, err := ChangeClass(c.Gym, id, func(o *Held) error {
		if o.Clock.State.Over() {
			return input.Refuse("", "this class is over")
		}
		from, at := 0, drill.Micros(0)
		if !o.Clock.Started.IsZero() {
			at = o.Clock.Now(c.Gym.Now())
			from = class.Coming(o.Course, at)
		}
		p, err := change(o.Plan, from, at)
		if err == nil {
			o.Plan = p
		}
		return err
	})
	return Class{row, held}, err
}

// ReplanClass plans the rest of a class again, for those who are there and the bags that hang. It returns what was
// changed, "" where it has not begun.
func (c Caller) ReplanClass(id string, people, bags []string) (out Class, changed string, err error) {
	err = c.together(func(c Caller) error {
		r, err := c.Roster()
		if err != nil {
			return err
		}
		out, err = c.replan(id, func(p class.Class, from int, at drill.Micros) (class.Class, error) {
			to, err := p.Anew(r, from, at, people, bags)
			if err == nil && at > 0 {
				changed = to.Changed(p, from)
			}
			return to, err
		})
		return err
	})
	return out, changed, err
}

// Seat moves somebody to another bag in a round of a class.
func (c Caller) Seat(id string, round int, person, bag string) (out Class, err error) {
	err = c.together(func(c Caller) error {
		r, err := c.Roster()
		if err != nil {
			return err
		}
		out, err = c.replan(id, func(p class.Class, from int, _ drill.Micros) (class.Class, error) {
			return p.Moved(r, from, round, person, bag)
		})
		return err
	})
	return out, err
}

// GiveInClass gives somebody another of their drills in a class.
func (c Caller) GiveInClass(id, person, assignment string) (out Class, err error) {
	err = c.together(func(c Caller) error {
		r, err := c.Roster()
		if err != nil {
			return err
		}
		out, err = c.replan(id, func(p class.Class, _ int, _ drill.Micros) (class.Class, error) {
			return p.Assigned(r, person, assignment)
		})
		return err
	})
	return out, err
}

// FloorStep tells the deeds on the floor of a class since the last one.
type FloorStep struct {
	Action    run.Action // "" where only the clock goes on
	Clock     drill.Micros
	Deeds     []session.Done
	Withdrawn []string // ids of deeds that are taken back
}

// StepClass takes what happened on the floor. A class that begins gives everybody the drills that they do not have yet:
// it has begun with all of them, or not at all.
func (c Caller) StepClass(id string, s FloorStep) (out Class, err error) {
	err = c.together(func(c Caller) error {
		now := c.Gym.Now()
		row, held, err := ChangeClass(c.Gym, id, func(o *Held) error {
			if s.Action == run.Start {
				if err := TakeAll(c.Gym, &o.Plan, c.Coach, now); err != nil {
					return err
				}
			}
			o.Withdraw(s.Withdrawn)
			if err := o.Did(s.Deeds); err != nil {
				return err
			}
			if s.Action == "" {
				o.Clock = o.Clock.Heard(s.Clock, now)
				return nil
			}
			var err error
			o.Clock, err = o.Clock.Step(s.Action, s.Clock, now)
			return err
		})
		out = Class{row, held}
		return err
	})
	return out, err
}

// RemoveClass takes a class out of the list, or with false puts it back. One that is under way stays.
func (c Caller) RemoveClass(id string, removed bool) error {
	_, err := c.Gym.MoveClass(id, func(h *store.Class) error {
		if run.State(h.State) == run.Running {
			return input.Refuse("", "this class is under way: end it first")
		}
		if h.RemovedAt = nil; removed {
			h.RemovedAt = new(c.Gym.Now())
		}
		return nil
	}, nil)
	return err
}

// lately limits the age of the classes on a person's page.
const lately = 60 * 24 * time.Hour

// InClass sums up somebody's part in a class.
type InClass struct {
	ClassID string
	At      time.Time
	Rounds  int
	Bags    []string // by name
}

// InClasses lists what somebody did in classes lately, the newest first.
func (c Caller) InClasses(traineeID string) ([]InClass, error) {
	turns, err := c.Gym.TurnsOf(traineeID, c.Gym.Now().Add(-lately))
	if err != nil {
		return nil, err
	}
	rigs, err := c.Gym.Rigs(store.InUse)
	if err != nil {
		return nil, err
	}
	names := map[string]string{}
	for _, r := range rigs {
		names[r.ID] = r.Name
	}
	type lap struct {
		class string
		lap   int
	}
	var list []InClass
	counted, place := map[lap]bool{}, map[string]int{} // of each class in the list: two may have gone on at once
	for _, t := range turns {
		if _, listed := place[t.ClassID]; !listed {
			place[t.ClassID] = len(list)
			list = append(list, InClass{ClassID: t.ClassID, At: t.At, Bags: []string{}})
		}
		last := &list[place[t.ClassID]]
		if l := (lap{t.ClassID, t.Lap}); !counted[l] {
			counted[l] = true
			last.Rounds++
		}
		if name := names[*t.RigID]; name != "" && !slices.Contains(last.Bags, name) {
			last.Bags = append(last.Bags, name)
		}
	}
	slices.Reverse(list)
	return list, nil
}
