// Package class plans a class and carries it through: who is here, which bags hang, what each of them does where in
// which round, what is hung anew in between, and what is left when somebody comes late, goes early or a bag breaks.
package class

import (
	"slices"

	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/roster"
	"melodromos/core/session"
)

// Person is somebody who is here.
type Person struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Young bool   `json:"young" doc:"an adult stands by"`
	Gone  bool   `json:"gone" doc:"they have left; what they did stays"`
	Until int    `json:"until" doc:"where they have left: the first round without them"`

	At drill.Micros `json:"at,omitempty" doc:"where they have left: when, by the floor's clock"`
}

// Station is a bag of the class.
type Station struct {
	ID     string   `json:"id"`
	Name   string   `json:"name"`
	Kind   rig.Kind `json:"kind"`
	Broken bool     `json:"broken" doc:"it is not used any more; what was done on it stays"`
	Until  int      `json:"until" doc:"where it is not used any more: the first round without it"`

	At drill.Micros `json:"at,omitempty" doc:"where it is not used any more: since when, by the floor's clock"`
}

// Given is somebody's drill on a bag.
type Given struct {
	Person       string         `json:"person"`
	Bag          string         `json:"bag"`
	AssignmentID string         `json:"assignmentId" doc:"empty until the class begins, where they did not have the drill before"`
	Rung         string         `json:"rung"`
	Eased        level.OneThing `json:"eased" doc:"what is easier than the rung has it; empty where nothing is"`
	Name         string         `json:"name"`
	Why          string         `json:"why"`
	Spared       []string       `json:"spared" nullable:"false"`
	Doc          drill.Doc      `json:"doc"`
	Clean        *float64       `json:"clean" doc:"predicted"`
}

// Seat is somebody's place in a round: on a bag, or off it with something to do.
type Seat struct {
	Person   string           `json:"person"`
	Bag      string           `json:"bag" doc:"empty off the bag"`
	Activity session.Activity `json:"activity" enum:",skipping,bouncing,trunk,easyShadow,shadow,gloves,planks,squats,crunches,footwork,stretch,talk,breathe" doc:"empty on a bag"`
}

// Turn is a round on the bags: everybody's seat.
type Turn struct {
	Round int    `json:"round" doc:"of the session"`
	Seats []Seat `json:"seats" nullable:"false"`
}

// Rehang is a bag that is hung anew between two people.
type Rehang struct {
	Round int     `json:"round" doc:"before which it is done"`
	Bag   string  `json:"bag"`
	To    float64 `json:"to" doc:"m above the floor"`
	Point string  `json:"point" doc:"what of the bag hangs there"`
	For   string  `json:"for" doc:"whose height it is"`
}

// Class is a session as it is held for several people on several bags.
type Class struct {
	Session  session.Session `json:"session"`
	People   []Person        `json:"people" nullable:"false"`
	Bags     []Station       `json:"bags" nullable:"false"`
	Given    []Given         `json:"given" nullable:"false"`
	Turns    []Turn          `json:"turns" nullable:"false"`
	Rehangs  []Rehang        `json:"rehangs" nullable:"false"`
	Saved    int             `json:"saved" doc:"changes of height fewer than where people simply went round in the order of their names"`
	Least    int             `json:"least" doc:"changes that no plan of these turns does without"`
	Notices  []Notice        `json:"notices,omitempty" doc:"what said is made of, as it is kept"`
	Said     []string        `json:"said" nullable:"false" doc:"what the coach should know"`
	Sentence string          `json:"sentence"`
}

// Clone is a copy that shares no list with it.
func (p Class) Clone() Class {
	p.Session = p.Session.Clone()
	p.People, p.Bags, p.Given = slices.Clone(p.People), slices.Clone(p.Bags), slices.Clone(p.Given)
	p.Turns, p.Rehangs, p.Said = slices.Clone(p.Turns), slices.Clone(p.Rehangs), slices.Clone(p.Said)
	p.Notices = slices.Clone(p.Notices)
	for i := range p.Turns {
		p.Turns[i].Seats = slices.Clone(p.Turns[i].Seats)
	}
	return p
}

// Person finds somebody by id; nil for nobody.
func (p *Class) Person(id string) *Person {
	i := slices.IndexFunc(p.People, func(x Person) bool { return x.ID == id })
	if i < 0 {
		return nil
	}
	return &p.People[i]
}

// Bag finds a bag by id; nil for none.
func (p *Class) Bag(id string) *Station {
	i := slices.IndexFunc(p.Bags, func(x Station) bool { return x.ID == id })
	if i < 0 {
		return nil
	}
	return &p.Bags[i]
}

// Of returns what somebody does on a bag, nil for nothing.
func (p *Class) Of(person, bag string) *Given {
	i := slices.IndexFunc(p.Given, func(g Given) bool { return g.Person == person && g.Bag == bag })
	if i < 0 {
		return nil
	}
	return &p.Given[i]
}

// Seats returns everybody's place in a stretch, for the log. Who has left before it began is not in it, and whose bag
// broke before it skips; who left in the middle of it is.
func (p *Class) Seats(s session.Stretch) []Seat {
	t := p.turnOf(s.Round)
	if t == nil || s.Rest() {
		return nil
	}
	var list []Seat
	for _, seat := range t.Seats {
		who, bag := p.Person(seat.Person), p.Bag(seat.Bag)
		if who == nil || who.Gone && over(s, who.Until, who.At) {
			continue
		}
		if bag != nil && bag.Broken && over(s, bag.Until, bag.At) {
			seat.Bag, seat.Activity = "", session.Skipping
		}
		list = append(list, seat)
	}
	return list
}

// over says whether a stretch comes after somebody left, or a bag broke: in a round from the one named on, or from a
// moment on. A round that is carried on is done later than it was planned.
func over(s session.Stretch, until int, at drill.Micros) bool {
	return s.Carried && at == 0 || s.Round >= until || at > 0 && s.From >= at
}

// upTo returns the moment of a stretch up to which somebody was in it who left in the middle, or whose bag broke.
func (p *Class) upTo(s session.Stretch, seat Seat, end drill.Micros) drill.Micros {
	if who := p.Person(seat.Person); who != nil && who.Gone && who.At > s.From {
		end = min(end, who.At)
	}
	if bag := p.Bag(seat.Bag); bag != nil && bag.Broken && bag.At > s.From {
		end = min(end, bag.At)
	}
	return end
}

// Seat returns somebody's seat in a turn, nil where they have none.
func (t *Turn) Seat(person string) *Seat {
	i := slices.IndexFunc(t.Seats, func(s Seat) bool { return s.Person == person })
	if i < 0 {
		return nil
	}
	return &t.Seats[i]
}

// turnOf is the turn of a round; nil where the round is not on the bags.
func (p *Class) turnOf(round int) *Turn {
	i := slices.IndexFunc(p.Turns, func(t Turn) bool { return t.Round == round })
	if i < 0 {
		return nil
	}
	return &p.Turns[i]
}

// Ask holds what a class is planned from: people, bags, length, or a session.
type Ask struct {
	People  []string // ids of those who are here
	Bags    []string // ids of the bags that are used; none for all that hang
	Minutes int      // of the usual class
	Session *session.Session
}

// Limits of a class. Assumed.
const (
	MostPeople    = 60
	ShortestClass = 10
	LongestClass  = 180
	inARow        = 3 // rounds on bags until one off them
	inARowYoung   = 2
	mostRounds    = 8 // on bags for one person (common practice: four to eight)
	mostYoung     = 6
)

// most returns the limits on somebody's rounds on bags: in a row (0 for none), and in all. Where the session is the
// same for everybody its rests are between its rounds.
func (p *planner) most(m *member) (inRow, rounds int) {
	switch {
	case !p.own:
		return 0, len(p.plan.Session.Rounds)
	case m.Age.Minor():
		return inARowYoung, mostYoung
	}
	return inARow, mostRounds
}

// member is somebody of the class with what they are to do.
type member struct {
	*roster.Member
	next    roster.Proposal // what they do next, on whatever bag
	wants   []string        // ids of bags, the main one first
	turns   map[string]int  // by bag, of the rounds to come
	had     map[string]int  // of those before
	already int             // rounds on bags that they had before
	row     int             // the last of those in a row
}
