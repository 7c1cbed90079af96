package drill

import (
	"slices"

	"melodromos/core/combo"
	"melodromos/core/rig"
)

// Joined marks how the moves of a line join on a kind of bag. On a speed bag one hand works again and again, which is no doubling there.
func Joined(moves []combo.Placed, kind rig.Kind) []combo.Mark {
	marks := combo.Flow(moves)
	if kind == rig.Speed {
		marks = slices.DeleteFunc(marks, func(m combo.Mark) bool { return m.Code == combo.Doubling })
	}
	return marks
}
