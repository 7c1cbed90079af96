package drill

import "melodromos/core/combo"

// Everything lists all moves that the drill may ask: those of its line, and those that answer its cues, free ones left
// out.
func (c CombinationDrill) Everything() []combo.Placed {
	var list []combo.Placed
	for _, text := range c.texts() {
		if line, err := combo.Parse(*text); err == nil {
			list = append(list, line.Moves(c.Stance)...)
		}
	}
	return list
}

// WithoutAccents takes the power shots away from strikes of some sort, wherever the drill asks for them. False where
// there were none.
func (c CombinationDrill) WithoutAccents(sort func(combo.Move) bool) (CombinationDrill, bool) {
	if c.Cues != nil { // as a copy: the drill that was asked about stays as it is
		cues := *c.Cues
		cues.Counters = append([]string(nil), cues.Counters...)
		cues.Attacks = append([]Attack(nil), cues.Attacks...)
		c.Cues = &cues
	}
	had := false
	for _, text := range c.texts() {
		line, err := combo.Parse(*text)
		if err != nil {
			continue
		}
		*text = line.Changed(func(m combo.Move) (combo.Move, bool) {
			if m.Accent && sort(m) {
				m.Accent, had = false, true
			}
			return m, true
		}).String()
	}
	return c, had
}

// texts are the lines of the drill: its own, and those that answer its cues.
func (c *CombinationDrill) texts() []*string {
	list := []*string{&c.Text}
	if c.Cues == nil {
		return list
	}
	for i := range c.Cues.Counters {
		list = append(list, &c.Cues.Counters[i])
	}
	for i := range c.Cues.Attacks {
		list = append(list, &c.Cues.Attacks[i].Answer)
	}
	return list
}
