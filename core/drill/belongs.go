package drill

import (
	"fmt"
	"math"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/words"
)

// overEstimate is the multiple of somebody's greatest force, itself an estimate, above which a force is refused.
// Assumed.
const overEstimate = 1.1

// belongs refuses, by field, what has no place on this bag as it hangs, in this gym or for this person (common
// practice).
func (c CombinationDrill) belongs(moves []combo.Placed, on Floor) error {
	for i, m := range moves {
		if why := misplaced(m, c, on.Bag.Kind(), on); why != "" {
			return input.Refuse("text", "%s, move %d: %s", m.Move, i+1, why)
		}
	}
	if c.Cues != nil {
		if err := c.Cues.belongs(c, on); err != nil {
			return err
		}
	}
	if on.Bag.Kind() == rig.Slip || combo.Balanced(moves).Strikes == 0 {
		return nil
	}
	switch {
	case on.Place.PowerCap > 0 && c.Fist > on.Place.PowerCap:
		return input.Refuse("fist", "expected at most %s, which is all this bag takes, not %s",
			words.Speed(on.Place.PowerCap).To(1), words.Speed(c.Fist).To(1))
	case on.Theirs && c.Fist > overEstimate*on.Ability.FistSpeed:
		return input.Refuse("fist", "expected at most %s, which is this person's greatest, not %s",
			words.Speed(on.Ability.FistSpeed).To(1), words.Speed(c.Fist).To(1))
	}
	return nil
}

// belongs refuses what of the answers to cues has no place, by field.
func (c Cues) belongs(in CombinationDrill, on Floor) error {
	check := func(field, text string) error {
		line, err := combo.Parse(text)
		if err != nil {
			return misread(field, text, err)
		}
		for _, m := range line.Moves(in.Stance) {
			if why := misplaced(m, in, on.Bag.Kind(), on); why != "" {
				return input.Refuse(field, "%s: %s", m.Move, why)
			}
		}
		return nil
	}
	for _, text := range c.Counters {
		if err := check("cues.counters", text); err != nil {
			return err
		}
	}
	for i, a := range c.Attacks {
		if err := check(fmt.Sprintf("cues.attacks[%d].answer", i), a.Answer); err != nil {
			return err
		}
	}
	return nil
}

// misplaced says why a move has no place on this bag or in this gym; "" where it has.
func misplaced(m combo.Placed, c CombinationDrill, kind rig.Kind, on Floor) string {
	leg, elbow := m.Leg(), m.Shape() == combo.Elbow
	switch {
	case (leg || elbow) && on.NoKicks:
		return "kicks, knees and elbows only where they are trained, and by its settings this gym does not"
	case leg && (kind == rig.Speed || kind == rig.Reflex):
		return "no kicks or knees on a " + kind.Name() + ": it is hung for the hands"
	case elbow && kind == rig.Reflex:
		return "no elbows on a pole: it comes back into the arm"
	case leg && kind == rig.Slip && !c.NoTouch && c.Guard == Touched:
		return "kicks at a slip bag only without touching it"
	case m.Kind() == combo.Strike && !leg && kind == rig.Slip && on.Place.Made == rig.Bottle && c.Guard == Touched:
		return "a bottle is dodged and never hit"
	case (m.Word == combo.Jam || m.Stop) && kind != rig.Hanging:
		return "what stops a swinging bag belongs on a hanging bag, and on no other"
	}
	return ""
}

// Hardest is the greatest force (m/s of the fist) of an accent: no more than the bag takes or this person has.
func (on Floor) Hardest() float64 {
	most := math.Inf(1)
	if on.Place.PowerCap > 0 {
		most = on.Place.PowerCap
	}
	if on.Theirs {
		most = math.Min(most, overEstimate*on.Ability.FistSpeed)
	}
	return most
}
