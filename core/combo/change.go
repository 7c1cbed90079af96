package combo

// Changed is the combination with each of its moves as change gives it, without those that change drops; groups and
// parts of which nothing is left go with them. The switch of feet and what else joins moves stays as it is written.
func (c Combination) Changed(change func(Move) (Move, bool)) Combination {
	var through func(items []Item) []Item
	through = func(items []Item) []Item {
		var out []Item
		for _, it := range items {
			if it.Group != nil {
				if left := through(it.Group.Items); len(left) > 0 {
					out = append(out, Item{Group: &Group{left, it.Group.Times}})
				}
				continue
			}
			if m, stays := change(it.Move); stays {
				out = append(out, Item{Move: m})
			}
		}
		return out
	}
	var parts [][]Item
	for _, items := range c.Parts {
		if left := through(items); len(left) > 0 {
			parts = append(parts, left)
		}
	}
	return Combination{parts}
}
