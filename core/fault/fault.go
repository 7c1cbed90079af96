// Package fault names what went wrong in a judged round, from evidence alone: each fault with its figures, what it
// cost, and what mends it.
//
// A fault needs an effect larger than three times its own standard error and than a floor that is stated with it. Where
// several would explain the same strikes, the one that explains most is taken first, and another only for what is left.
// Times are in seconds, late positive; shares go from 0 to 1.
package fault

import (
	"cmp"
	"slices"

	"melodromos/core/judge"
	"melodromos/core/rig"
)

// Code names a fault.
type Code string

// Case is a judged round with what is known of it besides.
type Case struct {
	judge.Judgement
	Kind  rig.Kind      // "" where the bag is not known
	Marks []Observation // what the coach saw, by time
	// closer and softer on purpose: form is suspended, and neither it nor the distance is graded
	FormFree bool
}

// Observation is something that the coach saw at a moment (s) of the round.
type Observation struct {
	At   float64
	What Code // OffLine, or what only an eye sees
	Hurt bool // whoever was on the bag was touched by it, or missed
}

// Fault is a fault of a round.
type Fault struct {
	Code     Code
	Evidence string
	Remedy   string
	// how large it is, in the measure of Floor, and its standard error; 0 of what was only seen
	Effect, Error float64
	Cost          float64 // share of the strikes that would have been clean without it
	Times         int     // strikes that it was found in, or marks
	Tells         string  // what looks the same, and what would tell; "" where nothing does
	hand          string
}

// Find names the faults of a round, the most costly first. None where there is nothing judged, or too little to say
// anything.
func Find(r Case) []Fault {
	a, ok := analyse(r)
	if !ok {
		return nil
	}
	list := a.find()
	for i := range list {
		list[i].Remedy = list[i].Code.Remedy()
	}
	slices.SortStableFunc(list, func(x, y Fault) int { return cmp.Compare(y.Cost, x.Cost) })
	return list
}

func (a *analysis) find() []Fault {
	var list []Fault
	tired, fades := a.fading()
	if f, ok := a.lost(fades); ok { // what follows looks at the rest of the round
		list = append(list, f)
		tired, fades = a.fading()
	}
	if f, ok := a.onePace(); ok { // strikes were not where the plan has them: nothing else can be told
		return []Fault{f}
	}
	for _, look := range []func() (Fault, bool){a.rushing, a.tooHard, a.heardAsTwo, a.outbound, a.noDefence,
		a.offLine} {
		if f, ok := look(); ok {
			list = append(list, f)
		}
	}
	list = append(list, a.lateness()...)
	if fades {
		list = append(list, tired)
	}
	if a.FormFree {
		return list
	}
	return append(list, a.seen()...)
}
