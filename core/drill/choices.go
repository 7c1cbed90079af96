package drill

import (
	"math"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/motion"
	"melodromos/core/rig"
)

// ReturnChoice is a return that a strike could meet.
type ReturnChoice struct {
	Count int     `json:"count"`
	At    float64 `json:"at"` // s from the repetition's first strike
}

const offered = 4 // returns to choose from

// Choices lists, for each move of a repetition that meets a return, the ones that it could meet.
func (r Repetition) Choices(bag rig.Rig) [][]ReturnChoice {
	list := make([][]ReturnChoice, len(r.Moves))
	last := -1
	for i, m := range r.Moves {
		if m.Kind() != combo.Strike {
			continue
		}
		if last >= 0 && m.Return > 0 {
			list[i] = choices(bag, r.Moves[last], m.At-m.Back)
		}
		last = i
	}
	return list
}

// choices are the returns of a strike; shift is what a planned strike stands off from its return.
func choices(bag rig.Rig, struck Landed, shift float64) []ReturnChoice {
	var list []ReturnChoice
	if bag.Kind() == rig.Speed { // it comes to the front after an odd count
		for n := 1; n < 2*offered; n += 2 {
			if back, err := bag.Returns(struck.Launch, rig.Meeting{Rebounds: n}, 1); err == nil {
				list = append(list, ReturnChoice{n, struck.Back + back[0].At + shift})
			}
		}
		return list
	}
	back, err := bag.Returns(struck.Launch, rig.Meeting{}, offered)
	for n := range back {
		if err == nil {
			list = append(list, ReturnChoice{n + 1, struck.Back + back[n].At + shift})
		}
	}
	return list
}

// Tie pairs a force with its tempo on a bag: on cords and under a board harder is sooner (common practice).
type Tie struct {
	Fist   float64 `json:"fist"`   // m/s of an ordinary strike
	Inside float64 `json:"inside"` // strikes a minute inside the combination
}

// tied is the share by which the tempo has to change from a soft to a full strike for force and tempo to count as tied.
// Assumed.
const tied = 0.02

// softestTied is the softest fist that is looked at, as a share of this trainee's greatest. Assumed.
const softestTied = 0.15

// Ties lists the tempo inside a combination by force, from soft to this trainee's greatest. It is empty where the bag
// does not tie the two: one that lands freely, on passes, on a bag at rest, or has no two strikes in a row.
func Ties(c CombinationDrill, on Floor) []Tie {
	if c.Landing == Freely || c.Rhythm == NoReturn || on.Bag.Kind() == rig.Slip {
		return nil
	}
	const samples = 8
	var list []Tie
	for k := range samples + 1 {
		c.Fist = on.Ability.FistSpeed * (softestTied + (1-softestTied)*float64(k)/samples)
		inside, err := tempoInside(c, on)
		if err != nil || math.IsNaN(inside) {
			return nil
		}
		list = append(list, Tie{c.Fist, inside})
	}
	if math.Abs(list[samples].Inside/list[0].Inside-1) < tied {
		return nil
	}
	return list
}

func tempoInside(c CombinationDrill, on Floor) (float64, error) {
	rep, err := landed(c, on, withoutHelp)
	return rep.Inside, err
}

// AtTempo is the combination at the force that gives it this tempo inside (strikes a minute), which becomes its goal. A
// tempo out of this bag's and this trainee's reach is refused, naming tempo, with what there is.
func AtTempo(c CombinationDrill, on Floor, tempo float64) (CombinationDrill, error) {
	ties := Ties(c, on)
	if len(ties) == 0 {
		return c, input.Refuse("tempo",
			"expected strikes that meet the bag's returns: here force and tempo are not tied")
	}
	low, high := ties[0], ties[len(ties)-1]
	off := func(fist float64) float64 {
		c.Fist = fist
		inside, err := tempoInside(c, on)
		if err != nil {
			return math.NaN()
		}
		return inside - tempo
	}
	if slowest, fastest := math.Min(low.Inside, high.Inside), math.Max(low.Inside, high.Inside); tempo < slowest ||
		tempo > fastest {
		return c, input.Refuse("tempo",
			"expected %.0f to %.0f a minute: what this bag gives at the forces of this trainee", math.Ceil(slowest),
			math.Floor(fastest))
	}
	fist, err := motion.Root(off, low.Fist, high.Fist, 1e-9)
	if err != nil {
		return c, err
	}
	c.Fist, c.Tempo = fist, tempo
	if c.Slower >= tempo {
		c.Slower = 0
	}
	return c, nil
}
