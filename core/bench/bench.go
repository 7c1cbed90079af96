// Package bench answers what a coach asks standing before a bag: how to hang it for this trainee, at what tempo it
// comes back, and what is wrong with it.
package bench

import (
	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

// User is somebody a rig is hung for.
type User struct {
	Name string // as it stands in sentences
	rig.Body
}

// Question asks about a rig as it hangs. With neither a tempo (strikes a minute) nor a launch (m/s; for a slip bag the
// pull in m), half the trainee's power is taken, or a slip bag's everyday pull.
type Question struct {
	Rig     rig.Rig
	Place   rig.Place
	User    // Name "" where nobody is chosen
	Ability trainee.Ability
	Novice  bool
	Meeting rig.Meeting
	Tempo   *float64
	Launch  *float64
	Borders rig.Borders // zero takes the default ones
	Units   words.Units
	Others  []User // who else uses this slip bag's anchor
}

// Answer is all that the bench shows. Where a wanted tempo is out of reach, the picture shows the nearest that is not.
type Answer struct {
	Said     []Phrase
	Strike   rig.TempoAnswer
	Launch   float64 // m/s (m) of what is drawn
	Tempos   []rig.Tempo
	Picture  rig.Picture
	SetUp    rig.SetUp
	Hung     float64 // tempo once it is hung as set up, by the same strike; 0 where that changes nothing
	Findings []rig.Finding
	Loads    []rig.Load
	Side     rig.SideView
	Cords    *rig.Winding // of a double-end bag
	Shared   []Shared     // of a slip bag that others use as well, this trainee first
}

// Shared tells how a slip bag swings for one of several people under the same anchor.
type Shared struct {
	Name string `json:"name"`
	rig.Share
}

// Ask answers a question. Refusals name the field: of the rig after "rig.", of the place after "place.".
func Ask(q Question) (Answer, error) {
	if err := q.Rig.Check(); err != nil {
		return Answer{}, input.Under("rig", err)
	}
	if err := q.Body.Check(); err != nil {
		return Answer{}, input.Under("body", err)
	}
	var a Answer
	var err error
	if a.Strike, err = strike(q); err != nil {
		return a, err
	}
	if a.Launch = a.Strike.Launch; !a.Strike.Feasible {
		a.Launch = a.Strike.Nearest()
	}
	a.Tempos = q.striker().Ranges(q.Rig, q.Meeting.Angle)
	if a.Strike.Feasible {
		a.Strike.Limits = within(q, a.Tempos, a.Strike.Limits)
	}
	use := rig.Use{
		Place: q.Place, Body: q.Body, Launch: a.Launch, Fist: a.Strike.FistSpeed, Hardest: q.Ability.FistSpeed,
		SameHand: q.Ability.SameHand, Alternate: q.Ability.Alternate,
		Novice: q.Novice, Borders: q.Borders,
	}
	if a.Picture, err = q.Rig.Picture(a.Launch, q.Meeting, use); err != nil {
		return a, err
	}
	a.SetUp = q.Rig.SetUp(q.Place, q.Body, a.Launch)
	a.Findings = rig.Findings(q.Rig, use, a.SetUp)
	if a.Loads, err = q.Rig.Loads(a.Launch, q.Ability.FistSpeed); err != nil {
		return a, err
	}
	a.Side = q.Rig.Side(q.Place)
	a.Hung = hung(q, a)
	if cords, ok := q.Rig.(rig.DoubleEndBag); ok {
		if a.Cords, err = cords.Winding(q.Borders); err != nil {
			return a, err
		}
	}
	if a.Shared, err = shared(q, a.Launch); err != nil {
		return a, err
	}
	a.Said = said(q, a)
	return a, nil
}

func strike(q Question) (rig.TempoAnswer, error) {
	switch {
	case q.Tempo != nil && q.Launch != nil:
		return rig.TempoAnswer{}, input.Refuse("tempo", "expected either a tempo or a launch, and not both")
	case q.Tempo != nil:
		return rig.Reach(q.Rig, *q.Tempo, q.Meeting, q.striker())
	case q.Launch != nil:
		a, err := q.Rig.Struck(*q.Launch, q.Meeting)
		// harder than this person strikes; NaN on a slip bag
		if err == nil && a.FistSpeed > q.Ability.FistSpeed*(1+1e-6) {
			a = q.striker().Softer(q.Rig, q.Meeting, a)
		}
		return a, err
	}
	return q.Rig.AtFist(q.Ability.FistSpeed/2, q.Meeting)
}

// striker returns what limits the tempo: both hands in turn, under a roof that is no higher than where a bag that
// swings is anchored now.
func (q Question) striker() rig.Striker {
	s := q.Ability.Striker(combo.Lead, combo.Rear)
	s.Place, s.Body = q.Place, q.Body
	if q.Place.PowerCap > 0 { // no harder than the bag takes
		s.Hardest = min(s.Hardest, q.Place.PowerCap)
	}
	if bag, ok := q.Rig.(rig.SlipBag); ok {
		s.Roof = bag.AnchorHeight
	}
	return s
}

// within returns the tempos that this striker's hands reach at the count in question; the bag's own limits where they
// reach nothing.
func within(q Question, table []rig.Tempo, limits rig.Tempo) rig.Tempo {
	for _, t := range table {
		if t.Rebounds == q.Meeting.Rebounds {
			return t
		}
	}
	if t, ok := q.striker().Range(q.Rig, q.Meeting); ok {
		return t
	}
	return limits
}

// hung is the tempo of the same strike once the rig hangs as set up.
func hung(q Question, a Answer) float64 {
	if a.SetUp.Needs != "" || a.SetUp.Move == 0 {
		return 0
	}
	moved, _, err := rig.Apply(q.Rig, q.Place, a.SetUp.Settings)
	if err != nil {
		return 0
	}
	then, err := moved.Struck(a.Launch, q.Meeting)
	if err != nil {
		return 0
	}
	return then.Tempo
}

// shared hangs a slip bag for everybody who uses its anchor, each at the height that is right for them.
func shared(q Question, pull float64) ([]Shared, error) {
	bag, ok := q.Rig.(rig.SlipBag)
	if !ok || len(q.Others) == 0 || !q.User.Known() {
		return nil, nil
	}
	people := append([]User{q.User}, q.Others...)
	centres := make([]float64, len(people))
	for i, p := range people {
		if !p.Known() {
			return nil, input.Refuse("others", "expected people whose height is known; %s has none", p.Name)
		}
		centres[i] = bag.SetUp(q.Place, p.Body, pull).Right()
	}
	list, err := bag.Share(centres, pull, q.Meeting)
	if err != nil {
		return nil, err
	}
	out := make([]Shared, len(list))
	for i, s := range list {
		out[i] = Shared{people[i].Name, s}
	}
	return out, nil
}
