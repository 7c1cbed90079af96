package class

import (
	"cmp"
	"math"
	"slices"

	"melodromos/core/rig"
	"melodromos/core/roster"
)

// wish lists the bags that each should get: of each kind one, that which hangs nearest to their height with the load
// shared, the kind that they go on with first.
func (p *planner) wish() error {
	load := map[string]int{}
	for i := range p.members {
		m := &p.members[i]
		next, found, err := p.Next(m.Member)
		if err != nil {
			return err
		}
		m.next = next
		var kinds []rig.Kind
		if found && next.Barred == "" {
			kinds = append(kinds, next.Kind)
		}
		for _, b := range p.bags {
			if !slices.Contains(kinds, b.Kind()) {
				kinds = append(kinds, b.Kind())
			}
		}
		for _, kind := range kinds {
			b := p.nearest(m, kind, load)
			if b == nil {
				continue
			}
			if found && next.RigID != b.ID && next.Kind == kind && next.AssignmentID != "" {
				if own := p.used(next.RigID); own != nil {
					b = own // they have their drill on that one
				}
			}
			load[b.ID]++
			m.wants = append(m.wants, b.ID)
		}
	}
	return nil
}

func (p *planner) used(id string) *roster.Bag {
	i := slices.IndexFunc(p.bags, func(b *roster.Bag) bool { return b.ID == id })
	if i < 0 {
		return nil
	}
	return p.bags[i]
}

// awayFor (m) is the extra distance from somebody's height at which a bag may hang, for each person fewer who is on it
// than on another. Assumed.
const awayFor = 0.05

func (p *planner) nearest(m *member, kind rig.Kind, load map[string]int) *roster.Bag {
	var best *roster.Bag
	least := math.Inf(1)
	for _, b := range p.bags {
		if b.Kind() != kind {
			continue
		}
		cost := awayFor * float64(load[b.ID])
		if s, ok := p.setUp(m, b); ok {
			cost += math.Abs(s.Move)
		}
		if cost < least {
			best, least = b, cost
		}
	}
	return best
}

// setUp returns the heights at which a bag hangs for somebody; false where it hangs the same for everybody, or they are
// not known. A straight hanging bag and a heavy ball are not hung anew within a class: tape marks tell the heights
// (common practice).
func (p *planner) setUp(m *member, b *roster.Bag) (rig.SetUp, bool) {
	if b.Kind() == rig.Hanging {
		return rig.SetUp{}, false
	}
	at := [2]string{m.ID, b.ID}
	s, known := p.heights[at]
	if !known {
		s = b.Rig.SetUp(b.Place, m.Body, soft)
		p.heights[at] = s
	}
	return s, s.Needs == "" && s.Point != ""
}

// soft (m/s) is a launch to ask for a set-up with: heights do not depend on it.
const soft = 1

// share says how often each gets which bag: each in turn what they want most and have least of, their own bag twice as
// often as the others, as long as bag and person have rounds left.
func (p *planner) share() {
	left := map[string]int{}
	for _, b := range p.bags {
		left[b.ID] = len(p.rounds)
	}
	mine := make([]int, len(p.members))
	for i := range p.members {
		m := &p.members[i]
		clear(m.turns)
		row, most := p.most(m)
		n := len(p.rounds)
		if mine[i] = min(n, max(0, most-m.already)); row > 0 {
			mine[i] = min(mine[i], n-(n+m.row)/(row+1))
		}
	}
	for gave := true; gave; {
		gave = false
		for _, i := range p.order(mine) {
			m := &p.members[i]
			if mine[i] == 0 {
				continue
			}
			best, least := "", math.Inf(1)
			for k, id := range m.wants {
				if left[id] == 0 {
					continue
				}
				has := float64(m.turns[id] + m.had[id])
				if k == 0 {
					has /= 2
				}
				if has < least {
					best, least = id, has
				}
			}
			if best == "" {
				continue
			}
			m.turns[best]++
			left[best]--
			mine[i]--
			gave = true
		}
	}
}

// order returns who is next to be given a turn: those with the fewest first, then by name.
func (p *planner) order(mine []int) []int {
	list := make([]int, len(p.members))
	for i := range list {
		list[i] = i
	}
	had := func(i int) int {
		n := p.members[i].already
		for _, v := range p.members[i].turns {
			n += v
		}
		return n
	}
	slices.SortStableFunc(list, func(a, b int) int { return cmp.Compare(had(a), had(b)) })
	fewest := math.MaxInt
	for _, i := range list {
		if mine[i] > 0 {
			fewest = min(fewest, had(i))
		}
	}
	return slices.DeleteFunc(list, func(i int) bool { return had(i) > fewest })
}
