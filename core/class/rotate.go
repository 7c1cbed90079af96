package class

import (
	"fmt"
	"slices"

	"melodromos/core/roster"
	"melodromos/core/rotation"
)

// rotate lays the turns out over the rounds.
func (p *planner) rotate() error {
	c := p.table()
	laid, err := rotation.Solve(c)
	if err != nil {
		return fmt.Errorf("lay out a class: %w", err)
	}
	p.plan.Turns = slices.DeleteFunc(slices.Clone(p.plan.Turns),
		func(t Turn) bool { return slices.Contains(p.rounds, t.Round) })
	for k, r := range p.rounds {
		t := Turn{Round: r, Seats: []Seat{}}
		for i, m := range p.members {
			seat := Seat{Person: m.ID}
			if b := slices.Index(laid.On[k], i); b >= 0 {
				seat.Bag = p.bags[b].ID
			}
			t.Seats = append(t.Seats, seat)
		}
		p.plan.Turns = append(p.plan.Turns, t)
	}
	p.plan.Least = laid.Least
	p.rehung()
	naive := c.Changes(p.byName(c))
	p.plan.Saved = max(0, len(naive)-len(laid.Changes))
	return nil
}

// table is the class as the rotation has it.
func (p *planner) table() rotation.Problem {
	c := rotation.Problem{Rounds: len(p.rounds)}
	for i := range p.members {
		m := &p.members[i]
		row, _ := p.most(m)
		c.InARow, c.Before = append(c.InARow, row), append(c.Before, m.row)
		turns, spans := make([]int, len(p.bags)), make([]rotation.Span, len(p.bags))
		for k, b := range p.bags {
			turns[k], spans[k] = m.turns[b.ID], rotation.Any
			if s, ok := p.setUp(m, b); ok {
				spans[k] = rotation.Span{Low: s.Low, High: s.High}
			}
		}
		c.Turns, c.Spans = append(c.Turns, turns), append(c.Spans, spans)
	}
	for _, b := range p.bags {
		c.Hung = append(c.Hung, p.hungAt(b))
	}
	return c
}

// rehung lists what is hung anew, and for whom, in all the rounds to come.
func (p *planner) rehung() {
	p.plan.Rehangs = slices.DeleteFunc(p.plan.Rehangs,
		func(r Rehang) bool { return slices.Contains(p.rounds, r.Round) })
	c := p.table()
	on := make([][]int, len(p.rounds))
	for k, r := range p.rounds {
		on[k] = slices.Repeat([]int{rotation.Nobody}, len(p.bags))
		for i, m := range p.members {
			if seat := p.plan.turnOf(r).Seat(m.ID); seat != nil && seat.Bag != "" {
				on[k][slices.IndexFunc(p.bags, func(b *roster.Bag) bool { return b.ID == seat.Bag })] = i
			}
		}
	}
	for _, change := range c.Changes(on) {
		b := p.bags[change.Bag]
		m := &p.members[on[change.Before][change.Bag]]
		s, _ := p.setUp(m, b)
		p.plan.Rehangs = append(p.plan.Rehangs, Rehang{Round: p.rounds[change.Before], Bag: b.ID, To: change.To,
			Point: s.Point, For: m.Name})
	}
}

// byName is the plan of somebody who does not think of heights: each bag takes whoever is next by name and free.
func (p *planner) byName(c rotation.Problem) [][]int {
	left := make([][]int, len(c.Turns))
	for i, row := range c.Turns {
		left[i] = slices.Clone(row)
	}
	on := make([][]int, c.Rounds)
	at := make([]int, len(p.bags))
	for r := range on {
		on[r] = slices.Repeat([]int{rotation.Nobody}, len(p.bags))
		for b := range on[r] {
			for range p.members {
				i := at[b] % len(p.members)
				at[b]++
				if left[i][b] > 0 && !slices.Contains(on[r][:b], i) {
					on[r][b] = i
					left[i][b]--
					break
				}
			}
		}
	}
	return on
}
