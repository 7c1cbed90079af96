package drill

import (
	"slices"

	"melodromos/core/combo"
	"melodromos/core/rig"
)

// Flush lists the strikes that land flush on a bag of this shape (common practice), as they are written, to be
// offered when it is chosen: a ball takes uppercuts, overhands, hooks driven forward and knees, a straight bag
// straights and low and middle kicks, a two-lobed ball uppercuts and hooks to the body as well as straights. Empty
// where the shape makes no difference. Kicks and knees are left out where they are not trained.
func Flush(on Floor) []string {
	var list []string
	switch b := on.Bag.(type) {
	case rig.HangingBag:
		list = []string{"1", "2", "1b", "2b", "low kick lead", "low kick rear", "round kick lead", "round kick rear"}
		if b.Shape == "ball" {
			list = []string{"5", "6", "overhand", "3", "4", "knee lead", "knee rear"}
		}
	case rig.DoubleEndBag:
		if on.Place.Made == rig.TwoLobed {
			list = []string{"1", "2", "5", "6", "3b", "4b"}
		}
	}
	if on.NoKicks {
		list = slices.DeleteFunc(list, func(text string) bool {
			line, err := combo.Parse(text)
			return err != nil || line.Moves(combo.Orthodox)[0].Leg()
		})
	}
	return list
}

// Glances lists the strikes of a line, each once, that do not land flush on a bag of this shape.
func Glances(moves []combo.Placed, on Floor) []string {
	flush := Flush(on)
	if len(flush) == 0 {
		return nil
	}
	var list []string
	for _, m := range moves {
		m.Rebounds, m.Accent, m.Stop = 0, false, false
		if text := m.Move.String(); m.Kind() == combo.Strike && !slices.Contains(flush, text) &&
			!slices.Contains(list, text) {
			list = append(list, text)
		}
	}
	return list
}
