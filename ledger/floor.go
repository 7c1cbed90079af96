package ledger

import (
	"melodromos/core/drill"
	"melodromos/core/roster"
	"melodromos/core/trainee"
	"melodromos/store"
)

// Where is the bag of the gym and the person that a plan is laid out for.
type Where struct {
	drill.Floor
	Rig    store.Rig
	Person store.Trainee // the zero value where nobody is named
}

// Floor returns where a plan is laid out: on a bag of the gym, for a trainee, or for somebody of a band of skill where
// none is named.
func (c Caller) Floor(rigID, traineeID string, band trainee.Band) (Where, error) {
	var on Where
	var err error
	if on.Rig, err = c.Gym.Rig(rigID); err != nil {
		return on, err
	}
	bag, place, err := Rig(on.Rig)
	on.Floor = drill.Floor{Bag: bag, Place: place, Ability: trainee.Start(band), NoKicks: !c.Row.Kicks, Seed: 1,
		Stop: c.Stop}
	if err != nil || traineeID == "" {
		return on, err
	}
	if on.Person, err = c.Gym.Trainee(traineeID); err != nil {
		return on, err
	}
	on.Theirs = true
	on.Ability, err = Ability(c.Gym, on.Person, bag.Kind(), c.Gym.Now())
	return on, err
}

// Roster reads everybody who trains.
func (c Caller) Roster() (roster.Roster, error) { return Roster(c.Gym, c.Row, "", c.Gym.Now(), c.Stop) }

// Member reads one person. The member is part of the roster.
func (c Caller) Member(id string) (roster.Roster, *roster.Member, error) {
	r, err := Roster(c.Gym, c.Row, id, c.Gym.Now(), c.Stop)
	if err != nil {
		return r, nil, err
	}
	return r, &r.Members[0], nil
}

// Assignment is a drill that somebody has on a bag, with the names that it is shown with.
type Assignment struct {
	store.Assignment
	Plan   drill.Plan
	Person store.Trainee
	Bag    store.Rig
	Others []string // who else has the drill
}

// Assignment reads a drill that somebody has.
func (c Caller) Assignment(id string) (Assignment, error) {
	a, err := c.Gym.Assignment(id)
	if err != nil {
		return Assignment{}, err
	}
	return c.shown(a)
}

// shown reads what belongs to an assignment.
func (c Caller) shown(a store.Assignment) (Assignment, error) {
	out := Assignment{Assignment: a, Others: []string{}}
	var err error
	if out.Person, err = c.Gym.Trainee(a.TraineeID); err != nil {
		return out, err
	}
	if out.Bag, err = c.Gym.Rig(a.RigID); err != nil {
		return out, err
	}
	if out.Plan, err = Given(a, out.Person.Stance); err != nil {
		return out, err
	}
	holders, err := c.Gym.Holders(a.DrillID)
	seen := map[string]bool{a.TraineeID: true}
	for _, h := range holders {
		if seen[h.TraineeID] {
			continue
		}
		seen[h.TraineeID] = true
		if other, err := c.Gym.Trainee(h.TraineeID); err == nil {
			out.Others = append(out.Others, other.Name)
		}
	}
	return out, err
}

// Outlook tells how an assignment will go, what there is to beat, and what speaks against it. Its bag may be archived.
func (c Caller) Outlook(id string) (roster.Outlook, error) {
	row, err := c.Gym.Assignment(id)
	if err != nil {
		return roster.Outlook{}, err
	}
	r, m, err := c.Member(row.TraineeID)
	if err != nil {
		return roster.Outlook{}, err
	}
	bag, err := c.Gym.Rig(row.RigID)
	if err != nil {
		return roster.Outlook{}, err
	}
	b := roster.Bag{ID: bag.ID, Name: bag.Name}
	if b.Rig, b.Place, err = Rig(bag); err != nil {
		return roster.Outlook{}, err
	}
	plan, err := Given(row, string(m.Stance))
	if err != nil {
		return roster.Outlook{}, err
	}
	return r.Outlook(m, &roster.Assignment{ID: row.ID, Plan: plan, Rung: row.Drill.Rung}, &b)
}
