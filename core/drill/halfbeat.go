package drill

import (
	"melodromos/core/combo"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// HalfBeat is a long transition with room for one more hand.
type HalfBeat struct {
	Move int        `json:"move"`         // index of the step, or of the kick or knee, in the expanded combination
	Free float64    `json:"free" doc:"s"` // left over beside what the hand takes
	Hand combo.Hand `json:"hand"`         // the one that fits, in the stance after it: it alternates
}

// HalfBeats finds where one more hand fits (common practice): between two strikes with the feet at work, a kick above
// all, a step, a pivot or a switch, where the time from one strike to the next, as they land, holds one more hand. A
// defence or a wait keeps its time to itself.
func HalfBeats(rep Repetition, a trainee.Ability) []HalfBeat {
	var list []HalfBeat
	last, feet := -1, -1 // the strike before, and the first step since
	for i, m := range rep.Moves {
		switch m.Kind() {
		case combo.Step:
			if feet < 0 {
				feet = m.Move
			}
			continue
		case combo.Strike:
		default:
			last, feet = -1, -1
			continue
		}
		if last >= 0 {
			before := rep.Moves[last]
			at := feet
			switch {
			case m.Leg():
				at = m.Move
			case before.Leg() && at < 0:
				at = before.Move
			}
			if hand := between(before.Placed, m.Placed); at >= 0 && hand != "" {
				if free := m.At - before.At - beside(before.Placed, m.Placed, hand, a); free >= 0 {
					list = append(list, HalfBeat{at, free, hand})
				}
			}
		}
		last, feet = i, -1
	}
	return list
}

// beside returns the time (s) a hand takes between two strikes: its intervals from a hand and to a hand; beside a leg
// only its own way, since the hands are free while the weight goes over.
func beside(before, next combo.Placed, hand combo.Hand, a trainee.Ability) float64 {
	way := trainee.StrikeMovement(rig.Hanging)
	out, home := way, way
	if !before.Leg() {
		first := before.Hand()
		if before.Stance != next.Stance {
			first = first.Other()
		}
		out = a.Interval(first, hand)
	}
	if !next.Leg() {
		home = a.Interval(hand, next.Hand())
	}
	return out + home
}

// between is the hand that fits between two strikes, in the stance of the second: the other one than struck last.
func between(before, next combo.Placed) combo.Hand {
	h := before.Hand()
	switch {
	case h != combo.Lead && h != combo.Rear:
		return ""
	case before.Stance != next.Stance:
		return h // the feet are switched: it is the other one now
	}
	return h.Other()
}
