// Package caution says where care is needed: for a person who has to be spared, for what a drill asks, and at a kind of
// bag. It comes after local codes, the maker's instructions and qualified people.
package caution

import (
	"fmt"
	"math"
	"slices"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
)

// Type is a reason for which somebody is spared until a coach lifts it.
type Type string

// The kinds (common practice). After a knock to the head nothing more that day, and a doctor first; a wrist is spared
// hard blows and heavy bags, a shoulder the high bag for long and hard curved blows.
const (
	Wrist    Type = "wrist"
	Shoulder Type = "shoulder"
	Head     Type = "head"
)

// Kinds lists them.
var Kinds = []Type{Wrist, Shoulder, Head}

// Values lists them.
func (Type) Values() []Type { return Kinds }

// Sign is a caution that may be set: what it is called, and what it does.
type Sign struct {
	Kind Type   `json:"kind"`
	Name string `json:"name"`
	Does string `json:"does"`
}

// Signs lists the cautions that may be set.
func Signs() []Sign {
	return []Sign{
		{Wrist, "Sore wrist", "No heavy bag, and nothing over about half power."},
		{Shoulder, "Sore shoulder", "Short at the speed bag, and no hard hooks or uppercuts."},
		{Head, "Knock to the head", "Nothing more that day, and see a doctor; nothing here until it is lifted."},
	}
}

// What a sore part bears at the most, all assumed: a share of the greatest fist speed, and at the speed bag a time (s)
// or a number of strikes with the arms up.
const (
	softShare       = 0.55
	shoulderTime    = 45.0
	shoulderStrikes = 60
)

// Spared is a drill as somebody with cautions does it.
type Spared struct {
	Plan    drill.Plan // with force, tempo and pull filled in where a caution had to look at them
	Changes []string   // what was made softer or shorter and why, such as "45 s at the speed bag: a sore shoulder"
	Held    string     // why it is not done at all, in words; empty where it is
}

// Spare looks at the whole drill, its power shots and the answers to its cues as well, and makes it softer or shorter
// where that is enough; it holds it back where it is not. Without cautions the plan comes back as it is.
func Spare(list []Type, p drill.Plan, on drill.Floor) Spared {
	s := Spared{Plan: p}
	if s.Held = Bars(list); s.Held != "" {
		return s
	}
	for _, k := range list {
		switch k {
		case Wrist:
			s.wrist(on)
		case Shoulder:
			s.shoulder(on)
		}
		if s.Held != "" {
			break
		}
	}
	return s
}

// Bars says why nothing at all is started for somebody with these cautions; "" where something may be. What a caution
// merely holds back is the coach's to decide; after a knock to the head nobody decides it.
func Bars(list []Type) string {
	if slices.Contains(list, Head) {
		return "a knock to the head: nothing until a doctor has seen it"
	}
	return ""
}

// wrist spares hard blows: nothing over about half power, no power shots, no fists on a heavy bag.
func (s *Spared) wrist(on drill.Floor) {
	const sore = "a sore wrist"
	if on.Bag.Kind() == rig.Hanging &&
		s.punches(func(m combo.Move) bool { return !m.Leg() && m.Shape() != combo.Elbow }) {
		s.Held = sore + ": no heavy bag"
		return
	}
	s.soften(on, sore, func(m combo.Move) bool { return !m.Leg() })
}

// shoulder spares the arms held high for long, and hard hooks and uppercuts.
func (s *Spared) shoulder(on drill.Floor) {
	const sore = "a sore shoulder"
	if on.Bag.Kind() == rig.Speed {
		s.shorten(sore)
	}
	curved := func(m combo.Move) bool { return m.Shape() == combo.Hook || m.Shape() == combo.Uppercut }
	if s.punches(curved) {
		s.soften(on, sore, curved)
	}
}

// shorten keeps a round at the speed bag within what a shoulder bears.
func (s *Spared) shorten(sore string) {
	time := fmt.Sprintf("%.0f s at the speed bag: %s", shoulderTime, sore)
	switch d := s.Plan.(type) {
	case drill.SpeedBagDrill:
		if d.Work > shoulderTime {
			d.Work = shoulderTime
			s.Changes = append(s.Changes, time)
		}
		if d.Strikes > shoulderStrikes {
			d.Strikes = shoulderStrikes
			s.Changes = append(s.Changes, fmt.Sprintf("%d strikes at the speed bag: %s", shoulderStrikes, sore))
		}
		s.Plan = d
	case drill.CombinationDrill:
		if d.Work > shoulderTime {
			d.Work = shoulderTime
			s.Changes = append(s.Changes, time)
			s.Plan = d
		}
	}
}

// soften brings the force of a drill down to about half power, and takes the power shots away from the strikes that are
// to be spared.
func (s *Spared) soften(on drill.Floor, sore string, spared func(combo.Move) bool) {
	most := softShare * on.Ability.FistSpeed
	softer := "nothing over about half power: " + sore
	filled, err := s.Plan.For(on)
	if err != nil {
		s.Held = softer
		return
	}
	switch d := filled.(type) {
	case drill.SpeedBagDrill:
		bag, ok := on.Bag.(rig.SpeedBag)
		if !ok {
			return
		}
		if a, err := drill.Solve(d, bag); err == nil && a.Feasible && a.FistSpeed > most {
			slower, err := bag.AtFist(most, d.Meeting())
			if err != nil || math.Floor(slower.Tempo) < slower.Limits.Slowest {
				s.Held = softer + ", and this bag wants more"
				return
			}
			d.Tempo = math.Floor(slower.Tempo)
			s.Plan, s.Changes = d, append(s.Changes, softer)
		}
	case drill.CombinationDrill:
		if on.Bag.Kind() == rig.Slip {
			return // light hits at the most
		}
		if d.Fist > most {
			d.Fist = math.Floor(10*most) / 10
			s.Plan, s.Changes = d, append(s.Changes, softer)
		}
		if plain, had := d.WithoutAccents(spared); had {
			s.Plan, s.Changes = plain, append(s.Changes, "no power shots: "+sore)
		}
	}
}

// punches says whether any strike of the drill is of that sort, those that answer cues included.
func (s *Spared) punches(sort func(combo.Move) bool) bool {
	c, ok := s.Plan.(drill.CombinationDrill)
	if !ok {
		return true // a technique is struck with the fists
	}
	return slices.ContainsFunc(c.Everything(),
		func(m combo.Placed) bool { return m.Kind() == combo.Strike && sort(m.Move) })
}

// OfLine are the cautions that belong to what is thrown on a kind of bag.
func OfLine(moves []combo.Placed, bag rig.Kind) []string {
	list := []string{}
	if bag != rig.Hanging && bag != rig.Slip && slices.ContainsFunc(moves,
		func(m combo.Placed) bool { return m.Leg() || m.Shape() == combo.Elbow }) {
		list = append(list, "Kicks, knees and elbows belong on a hanging bag that is made for them.")
	}
	return list
}
