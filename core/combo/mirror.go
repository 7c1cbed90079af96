package combo

import "melodromos/core/input"

// Mirror is the combination with the hands and the sides swapped: 1↔2, 3↔4, 5↔6. Done twice it is the identity.
func (c Combination) Mirror() Combination { return c.each(mirrored) }

// Counterpart is the combination for the other side in the way the work is done by hand (common practice): 1 and 3
// become 2, 2 and 4 become 3, 5 and 6 change places; slips, rolls, side steps and pivots change side; duck, pull,
// step in and back stay; body shots, kicks, knees and elbows change hand or leg and keep their kind. It stands as it
// is, even where it doubles a hand, and done twice it need not give the first line back.
func (c Combination) Counterpart() Combination { return c.each(countered) }

func (c Combination) each(change func(Move) Move) Combination {
	var turn func(items []Item) []Item
	turn = func(items []Item) []Item {
		out := make([]Item, len(items))
		for i, it := range items {
			if it.Group != nil {
				out[i] = Item{Group: &Group{turn(it.Group.Items), it.Group.Times}}
				continue
			}
			out[i] = Item{Move: change(it.Move)}
		}
		return out
	}
	parts := make([][]Item, len(c.Parts))
	for i, items := range c.Parts {
		parts[i] = turn(items)
	}
	return Combination{parts}
}

var otherHand = map[Word]Word{"1": "2", "2": "1", "3": "4", "4": "3", "5": "6", "6": "5"}

var counterparts = map[Word]Word{"1": "2", "3": "2", "2": "3", "4": "3", "5": "6", "6": "5"}

var otherWay = map[string]string{"lead": "rear", "rear": "lead", "in": "in", "back": "back", "": ""}

func mirrored(m Move) Move {
	if w, ok := otherHand[m.Word]; ok {
		m.Word = w
	}
	m.Toward = otherWay[m.Toward]
	return m.feinting(mirrored)
}

// feinting changes the punch that is feinted along with the rest. What is parried or blocked is somebody else's.
func (m Move) feinting(change func(Move) Move) Move {
	if ph, ok := phrases[m.Of]; ok && m.Word == Feint {
		m.Of = change(ph.Move).spoken()
	}
	return m
}

func countered(m Move) Move {
	if m.Word == Feint {
		return m.feinting(countered)
	}
	if w, ok := counterparts[m.Word]; ok && !m.Body {
		m.Word = w
		return m
	}
	return mirrored(m)
}

// Counted is the combination with another return named after the strike of that index in the expanded line, or with
// none named where count is 0. In a group it holds for every time through.
func (c Combination) Counted(move, count int) (Combination, error) {
	if count < 0 || count > maxRebounds {
		return c, input.Refuse("count", "expected a whole number from 0 to %d, not %d", maxRebounds, count)
	}
	at, found := 0, false
	var in func(items []Item) []Item
	in = func(items []Item) []Item {
		out := make([]Item, len(items))
		copy(out, items)
		for i, it := range items {
			if it.Group == nil {
				if at == move && it.Move.Kind() == Strike {
					out[i].Move.Rebounds, found = int8(count), true
				}
				at++
				continue
			}
			group := Group{it.Group.Items, it.Group.Times}
			for range it.Group.Times {
				group.Items = in(group.Items)
			}
			out[i] = Item{Group: &group}
		}
		return out
	}
	parts := make([][]Item, len(c.Parts))
	for i, items := range c.Parts {
		parts[i] = in(items)
	}
	if !found {
		return c, input.Refuse("move", "expected the index of a strike, not %d", move)
	}
	return Combination{parts}, nil
}
