package drill

import (
	"fmt"
	"math"

	"melodromos/core/rig"
)

// offers lists what would give a strike the time (s) it needs: a later return, a softer blow before it, or the rig.
func (l *lander) offers(before Landed, m rig.Meeting, need float64) []Adjustment {
	var list []Adjustment
	step := 1
	if l.bag.Kind() == rig.Speed {
		step = 2
	}
	for n := m.Rebounds + step; n <= m.Rebounds+4; n += step {
		if later, err := l.back(before.Launch, rig.Meeting{Rebounds: n}); err == nil && later.At >= need {
			list = append(list, Adjustment{"return", float64(n), fmt.Sprintf("let it go by until return %d", n)})
			break
		}
	}
	a, err := l.bag.Solve(60/need, rig.Meeting{Rebounds: m.Rebounds})
	if err != nil {
		return list
	}
	fist := rig.Fist(l.bag, a.Launch, before.Speed)
	if before.Accent {
		fist /= accentForce // the drill's force is that of the others
	}
	if fist = math.Floor(10*fist) / 10; a.Feasible && fist >= rig.Touch && fist < l.c.Fist {
		list = append(list, Adjustment{"fist", fist, fmt.Sprintf("strike %s softer: it then comes back in time",
			before.Placed.Move)})
	}
	if cords, ok := l.bag.(rig.DoubleEndBag); ok { // the same blow, on another tension
		if changes, ok := cords.Slower(before.Launch, m.Rebounds, amply*need); ok {
			for _, c := range changes {
				list = append(list, Adjustment{c.Field, c.To, "softer cords: let both out, in proportion"})
			}
		}
		return list
	}
	if l.tuned++; l.tuned > mostTuned {
		return list
	}
	who := l.a.Striker(before.Hand(), before.Hand().Other())
	who.Place = l.place
	if advised, err := rig.Reach(l.bag, math.Floor(60/(amply*need)), rig.Meeting{Rebounds: m.Rebounds},
		who); err == nil {
		for _, c := range advised.Change {
			if c.What != "tempo" && c.What != "rebounds" {
				list = append(list, Adjustment{c.What, c.To, c.Reason})
			}
		}
	}
	return list
}

// amply is the factor by which softer cords give more than the time that is needed, so that what comes before, softer
// too, does not take it away. Assumed.
const amply = 1.03

// mostTuned is for how many moves that are late another spring, ball or pole is looked for.
const mostTuned = 3
