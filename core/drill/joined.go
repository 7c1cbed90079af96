package drill

import (
	"slices"

	"melodromos/core/combo"
	"melodromos/core/rig"
)

// Joined marks how the moves of a line join on a kind of bag, hints and all, in their order. On a speed bag one hand
// works again and again, which is no doubling there.
func Joined(moves []combo.Placed, kind rig.Kind) []combo.FlowNote {
	marks := append(combo.Flow(moves), combo.Hints(moves)...)
	slices.SortStableFunc(marks, func(a, b combo.FlowNote) int { return a.Move - b.Move })
	if kind == rig.Speed {
		marks = slices.DeleteFunc(marks, func(m combo.FlowNote) bool { return m.Code == combo.Doubling })
	}
	return marks
}
