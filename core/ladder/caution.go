package ladder

import (
	"fmt"
	"slices"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
)

// Caution is what a person has to be spared until somebody lifts it.
type Caution string

// The cautions (common practice). After a knock to the head nothing more that day, and a doctor first; a wrist is spared hard blows,
// a shoulder the high bag for long and hard curved blows.
const (
	Wrist    Caution = "wrist"
	Shoulder Caution = "shoulder"
	Head     Caution = "head"
)

// shoulderTime is how long (s) a sore shoulder stays up at the speed bag, hardShare from which share of the greatest fist speed a
// blow counts as hard. Both assumed.
const (
	shoulderTime = 45.0
	hardShare    = 0.55
)

// Held says why a drill is held back from somebody with a caution; "" where it is not.
func (c Caution) Held(p drill.Plan, on drill.Floor) string {
	if c == Head {
		return "a knock to the head: nothing until a doctor has seen it"
	}
	d, isCombination := p.(drill.Combination)
	if isCombination {
		d = d.With(on.Bag, on.Ability)
	}
	hard := isCombination && on.Bag.Kind() != rig.Slip && d.Fist > hardShare*on.Ability.FistSpeed
	switch c {
	case Wrist:
		if on.Bag.Kind() == rig.Hanging {
			return "a sore wrist: no heavy bag"
		}
		if hard {
			return fmt.Sprintf("a sore wrist: nothing over about half power, %.1f m/s", hardShare*on.Ability.FistSpeed)
		}
	case Shoulder:
		if t, ok := p.(drill.Drill); ok && (t.Work > shoulderTime || t.Strikes > 60) {
			return fmt.Sprintf("a sore shoulder: no more than %.0f s at the speed bag", shoulderTime)
		}
		if hard && curved(d) {
			return "a sore shoulder: no hard hooks and uppercuts"
		}
	}
	return ""
}

// Bars says why nothing at all is started for somebody with these cautions; "" where something may be. What a caution merely holds back
// is the coach's to decide; after a knock to the head nobody decides it.
func Bars(list []Caution) string {
	if slices.Contains(list, Head) {
		return Head.Held(nil, drill.Floor{})
	}
	return ""
}

func curved(c drill.Combination) bool {
	line, err := combo.Parse(c.Text)
	if err != nil {
		return false
	}
	for _, m := range line.Moves(c.Stance) {
		if s := m.Shape(); s == combo.Hook || s == combo.Uppercut {
			return true
		}
	}
	return false
}

// HeldBack says why any of the cautions holds a drill back; "" where none does.
func HeldBack(list []Caution, p drill.Plan, on drill.Floor) string {
	for _, c := range list {
		if why := c.Held(p, on); why != "" {
			return why
		}
	}
	return ""
}
