package drill

import (
	"math"

	"melodromos/core/combo"
	"melodromos/core/rig"
)

// Carried tells by what angle the bag is off its line at a strike after an earlier one was not flush.
type Carried struct {
	Move  int     `json:"move"`  // index of the strike
	Angle float64 `json:"angle"` // degrees
}

// offCentre is the miss that is looked at, as a share of the ball's radius: a third of the way to its edge. Assumed.
const offCentre = 1.0 / 3

// CarriedError follows the error of the first strike of a repetition on a ball between cords or on a pole: hit so far
// (m) beside its middle, it comes back off its line, and the next strikes, flush though they are, send it on so. A
// bag at rest ends it. Empty where nothing follows on a return.
func CarriedError(rep Repetition, bag rig.Rig) (off float64, list []Carried) {
	diameter := 0.0
	switch b := bag.(type) {
	case rig.DoubleEndBag:
		diameter = b.BallDiameter
	case rig.ReflexBag:
		diameter = b.BallDiameter
	default:
		return 0, nil
	}
	off = offCentre * diameter / 2
	angle, first := 0.0, true
	for _, m := range rep.Moves {
		if m.Kind() != combo.Strike {
			continue
		}
		if first {
			angle, first = rig.OffLine(diameter, off), false
			continue
		}
		if m.Still || m.Return == 0 {
			break
		}
		list = append(list, Carried{m.Move, angle * 180 / math.Pi})
		angle = rig.CarriedOff(angle, m.Speed, m.Launch)
	}
	return off, list
}
