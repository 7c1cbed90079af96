package ledger

import (
	"errors"
	"slices"
	"strings"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/roster"
	"melodromos/core/words"
	"melodromos/store"
)

// Wish is a drill as a coach has written it for somebody on a bag.
type Wish struct {
	TraineeID, RigID string
	Name             string // of the drill; "" is its own words
	Plan             drill.Plan
	// of the assignment and of its drill as they were read; 0 where nothing was
	Version, DrillVersion int
	Scope                 drill.Scope // whom a change of the drill itself is for
}

// kind returns the kind of the bag, and refuses a plan that the bag does not allow.
func (c Caller) kind(w Wish) (rig.Kind, error) {
	on, err := c.Floor(w.RigID, w.TraineeID, "")
	if err != nil {
		return "", err
	}
	if _, err := w.Plan.Lay(on.Floor); err != nil {
		return "", input.Under("doc", err)
	}
	return on.Floor.Bag.Kind(), nil
}

// Assign makes a drill and gives it to somebody. One that is the same as a drill of the gym is that drill. An id that
// something was assigned by before is ErrTaken.
func (c Caller) Assign(id string, w Wish) (out Assignment, err error) {
	err = c.together(func(c Caller) error {
		kind, err := c.kind(w)
		if err != nil {
			return err
		}
		d, err := DrillRow(strings.TrimSpace(w.Name), kind, w.Plan, ladder.Match(w.Plan, kind))
		if err != nil {
			return err
		}
		d.MadeBy = &c.Coach.ID
		if err := c.Gym.EnsureDrill(&d); err != nil {
			return err
		}
		_, settings := drill.Open(w.Plan)
		a := store.Assignment{ID: id, TraineeID: w.TraineeID, RigID: w.RigID, Own: true, GivenBy: &c.Coach.ID,
			DrillID: d.ID, Drill: d}
		SetTo(&a, settings)
		if err := c.Gym.AddAssignment(&a); err != nil {
			return err
		}
		out, err = c.shown(a)
		return err
	})
	return out, err
}

// ChangeAssignment changes a drill that somebody has. What belongs to the person or the bag is set on the assignment;
// what changes the drill itself changes it for everybody who has it, or makes a copy of it, as is wished.
func (c Caller) ChangeAssignment(id string, w Wish) (out Assignment, err error) {
	err = c.together(func(c Caller) error {
		kind, err := c.kind(w)
		if err == nil {
			err = WasRead(w.Version)
		}
		if err != nil {
			return err
		}
		a, err := c.Gym.Assignment(id)
		if err != nil {
			return err
		}
		if a.TraineeID != w.TraineeID {
			return input.Refuse("traineeId",
				"expected the person whose drill this is: give the drill to others instead")
		}
		was, err := Named(a.Drill)
		if err != nil {
			return err
		}
		holders, err := c.Gym.Holders(a.DrillID)
		if err != nil {
			return err
		}
		is := drill.Named{Name: strings.TrimSpace(w.Name), Kind: kind, Plan: w.Plan}
		change, err := drill.Changed(was, is, len(holders), w.Scope)
		if err != nil {
			return err
		}
		a.RigID, a.Version, a.Own = w.RigID, w.Version, true
		if !change.Kept {
			if a.DrillID, err = c.changeDrill(a.DrillID, w.DrillVersion, is, change.Copied); err != nil {
				return err
			}
			a.Eased = ""
		}
		SetTo(&a, change.Settings)
		if err := c.Gym.ChangeAssignment(&a); err != nil {
			return err
		}
		out, err = c.shown(a)
		return err
	})
	return out, err
}

// changeDrill stores a drill anew, over the version that was read, or as another one. It returns its id.
func (c Caller) changeDrill(id string, read int, is drill.Named, copied bool) (string, error) {
	row, err := DrillRow(is.Name, is.Kind, is.Plan, ladder.Match(is.Plan, is.Kind))
	if err != nil {
		return "", err
	}
	if copied {
		row.MadeBy = &c.Coach.ID
		err := c.Gym.AddDrill(&row)
		return row.ID, err
	}
	if err := WasRead(read); err != nil {
		return "", err
	}
	row.ID, row.Version = id, read
	return id, c.Gym.ChangeDrill(&row)
}

// WasRead refuses a change of what nobody has read.
func WasRead(version int) error {
	if version < 1 {
		return input.Refuse("version",
			"expected the version that was read, so that nobody else's change is written over")
	}
	return nil
}

// GivenTo tells of one person what came of giving a drill.
type GivenTo struct {
	TraineeID, Name string
	AssignmentID    string // "" where it was not given
	Why             string // why it was not given, or what is to be known of it
}

// GiveAll gives a drill to people, each on a bag, or with "" on the one of its kind that they were on last.
func (c Caller) GiveAll(drillID string, people []string, rigID string) (list []GivenTo, err error) {
	err = c.together(func(c Caller) error {
		d, err := c.Gym.Drill(drillID)
		if err != nil {
			return err
		}
		p, err := Plan(d)
		if err != nil {
			return err
		}
		r, err := c.Roster()
		if err != nil {
			return err
		}
		bag := r.Bag(rigID)
		if rigID != "" && (bag == nil || string(bag.Kind()) != d.Kind) {
			return input.Refuse("rigId", "expected a bag of the kind that the drill is for")
		}
		for _, id := range people {
			if r.Member(id) == nil {
				return store.ErrNotFound
			}
		}
		for i := range r.Members {
			if m := &r.Members[i]; slices.Contains(people, m.ID) {
				on := bag
				if on == nil {
					on = r.BagFor(m, rig.Kind(d.Kind))
				}
				if on == nil {
					return input.Refuse("rigId",
						"expected a bag of the kind that the drill is for: none hangs in this gym")
				}
				g, err := c.giveTo(d, r.Fitted(m, on, p), m, on.ID)
				if err != nil {
					return err
				}
				list = append(list, g)
			}
		}
		return nil
	})
	return list, err
}

func (c Caller) giveTo(d store.Drill, fits roster.Fitted, m *roster.Member, rigID string) (GivenTo, error) {
	g := GivenTo{TraineeID: m.ID, Name: m.Name, Why: fits.Why}
	if !fits.Given {
		return g, nil
	}
	a, err := Give(c.Gym, d, m.ID, rigID, fits.Settings, "", c.Coach)
	g.AssignmentID = a.ID
	return g, err
}

// CopyDrill makes a drill of its own with the same document.
func (c Caller) CopyDrill(id string) (again store.Drill, err error) {
	err = c.together(func(c Caller) error {
		d, err := c.Gym.Drill(id)
		if err != nil {
			return err
		}
		again = store.Drill{Name: words.Short("Copy of "+d.Name, 120), Kind: d.Kind, Doc: d.Doc, Rung: d.Rung,
			MadeBy: &c.Coach.ID}
		return c.Gym.AddDrill(&again)
	})
	return again, err
}

// Decide keeps a coach's choice on a rung and returns what is proposed from then on.
func (c Caller) Decide(traineeID string, kind rig.Kind, d ladder.Decision) (p roster.Proposal, err error) {
	if ladder.KindOf(d.Rung) != kind {
		return p, input.Refuse("rung", "expected a rung of the ladder for this bag, not %q", d.Rung)
	}
	err = c.together(func(c Caller) error {
		r, m, err := c.Member(traineeID)
		if err != nil {
			return err
		}
		if !slices.Contains(r.Kinds(), kind) {
			return input.Refuse("kind", "expected a kind of bag that hangs in this gym")
		}
		row := store.Decision{TraineeID: traineeID, BagKind: string(kind), Rung: d.Rung, Choice: string(d.Choice),
			Reason: d.Reason, Coach: c.Coach.Name, CoachID: &c.Coach.ID}
		if err := c.Gym.AddDecision(&row); err != nil {
			return err
		}
		d.At = row.CreatedAt
		m.Decisions = append(m.Decisions, roster.Ruling{Kind: kind, Decision: d})
		p, err = r.On(m, kind)
		return err
	})
	return p, err
}

// Accept gives somebody the drill that is proposed on a bag, or with "" the one that comes next, or finds the one that
// they have of it.
func (c Caller) Accept(traineeID, rigID string, choice ladder.Choice, reason string) (out Assignment, err error) {
	err = c.together(func(c Caller) error {
		r, m, err := c.Member(traineeID)
		if err != nil {
			return err
		}
		p, found := roster.Proposal{}, true
		if rigID == "" {
			p, found, err = r.Next(m)
		} else if b := r.Bag(rigID); b != nil {
			p, err = r.OnBag(m, b)
		} else {
			found = false
		}
		switch {
		case err != nil:
			return err
		case !found:
			return input.Refuse("rigId", "expected a bag that hangs in this gym")
		case p.Barred != "":
			return input.Refuse("rigId", "%s", p.Why)
		}
		a, err := Take(c.Gym, p, choice, reason, c.Coach)
		if err != nil {
			return err
		}
		out, err = c.shown(a)
		return err
	})
	return out, err
}

// Holder is somebody who has a drill on a bag.
type Holder struct {
	ID                string // of the assignment
	TraineeID, Person string
	RigID, Bag        string
}

// Holders lists who has which drill, by the drill's id.
func (c Caller) Holders() (map[string][]Holder, error) {
	given, err := c.Gym.Assignments("")
	if err != nil {
		return nil, err
	}
	people, e1 := c.Gym.Trainees(store.InUse)
	bags, e2 := c.Gym.Rigs(store.InUse)
	names := map[string]string{}
	for _, t := range people {
		names[t.ID] = t.Name
	}
	for _, b := range bags {
		names[b.ID] = b.Name
	}
	list := map[string][]Holder{}
	for _, a := range given {
		list[a.DrillID] = append(list[a.DrillID],
			Holder{a.ID, a.TraineeID, names[a.TraineeID], a.RigID, names[a.RigID]})
	}
	return list, errors.Join(e1, e2)
}
