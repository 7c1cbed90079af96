// Package rotation says who is on which bag in which round of a class: everybody as often on each bag as they should,
// no bag and nobody twice at once, nobody too long without a rest from the bags, and the bags hung anew between people
// of different height as seldom as can be.
package rotation

import (
	"fmt"
	"math"
	"slices"
)

// Span is the heights (m) at which a bag hangs right for somebody, Low to High. A bag that hangs the same for everybody
// has no span: Any.
type Span struct{ Low, High float64 }

// Any is every height.
var Any = Span{math.Inf(-1), math.Inf(1)}

func (s Span) fixed() bool { return !math.IsInf(s.Low, -1) || !math.IsInf(s.High, 1) }

// Nobody is on a bag that stands idle.
const Nobody = -1

// Problem states a rotation to be solved, people and bags by their indices.
type Problem struct {
	Rounds int
	Turns  [][]int   // by person and bag: how many rounds. No person and no bag has more than Rounds
	Spans  [][]Span  // by person and bag
	Hung   []float64 // m, by bag: how it hangs before the first round; NaN where that is not known
	InARow []int     // by person: rounds on bags without one off them; 0 for as many as there are
	Before []int     // by person: rounds on bags in a row that came before the first; nil for none
}

// HeightChange is a bag that is hung anew.
type HeightChange struct {
	Bag    int
	Before int     // the round, from 0
	To     float64 // m
}

// Layout says who is on which bag.
type Layout struct {
	On      [][]int // by round and bag: the person, or Nobody
	Changes []HeightChange
	// Least is a bound that no plan of these turns goes below: for each bag alone, the fewest heights that suit
	// everybody on it.
	Least int
	Tired int // rounds in which somebody is longer on the bags without a rest than they should be
}

// Check refuses turns that no plan can hold.
func (c Problem) Check() error {
	bags := 0
	if len(c.Turns) > 0 {
		bags = len(c.Turns[0])
	}
	per := make([]int, bags)
	for p, row := range c.Turns {
		sum := 0
		for b, n := range row {
			sum += n
			per[b] += n
		}
		if sum > c.Rounds {
			return fmt.Errorf("person %d has %d turns in %d rounds", p, sum, c.Rounds)
		}
	}
	for b, n := range per {
		if n > c.Rounds {
			return fmt.Errorf("bag %d has %d turns in %d rounds", b, n, c.Rounds)
		}
	}
	return nil
}

// Changes are those of the bags hung anew in a plan, in the order of rounds and bags: each as late as can be, to the
// height nearest to the one before that suits everybody until the next.
func (c Problem) Changes(on [][]int) []HeightChange {
	var list []HeightChange
	for b := range c.bags() {
		column := make([]int, len(on))
		for r := range on {
			column[r] = on[r][b]
		}
		list = append(list, c.hung(b, column)...)
	}
	slices.SortStableFunc(list, func(a, b HeightChange) int { return a.Before - b.Before })
	return list
}

func (c Problem) bags() int { return len(c.Hung) }

// hung are the changes of one bag for those who are on it, round by round.
func (c Problem) hung(b int, column []int) []HeightChange {
	now := c.begins(b)
	last := c.Hung[b]
	var list []HeightChange
	for r, p := range column {
		if p == Nobody || !c.Spans[p][b].fixed() {
			continue
		}
		s := c.Spans[p][b]
		if both, ok := now.and(s); ok {
			now = both
		} else {
			now = s
			list = append(list, HeightChange{Bag: b, Before: r})
		}
		if n := len(list); n > 0 {
			list[n-1].To = now.nearest(last)
		}
		if next := r + 1; len(list) > 0 && (next == len(column) || !c.stays(b, now, column[next:])) {
			last = list[len(list)-1].To
		}
	}
	return list
}

// stays says whether whoever comes next on a bag finds a height of the span right.
func (c Problem) stays(b int, now Span, coming []int) bool {
	for _, p := range coming {
		if p != Nobody && c.Spans[p][b].fixed() {
			_, ok := now.and(c.Spans[p][b])
			return ok
		}
	}
	return true
}

// begins returns the heights at which a bag hangs at first.
func (c Problem) begins(b int) Span {
	if math.IsNaN(c.Hung[b]) {
		return Any
	}
	return Span{c.Hung[b], c.Hung[b]}
}

func (s Span) and(o Span) (Span, bool) {
	both := Span{math.Max(s.Low, o.Low), math.Min(s.High, o.High)}
	return both, both.Low <= both.High
}

// nearest is the height of a span that is nearest to another; the middle of it where that is not known.
func (s Span) nearest(to float64) float64 {
	if math.IsNaN(to) {
		return (s.Low + s.High) / 2
	}
	return math.Min(math.Max(to, s.Low), s.High)
}

// count is the number of changes of a bag, without making the list.
func (c *solver) count(b int, column []int) int {
	now, n := c.first[b], 0
	for _, p := range column {
		if p == Nobody {
			continue
		}
		s := c.Spans[p][b]
		low, high := math.Max(now.Low, s.Low), math.Min(now.High, s.High)
		if low <= high {
			now = Span{low, high}
			continue
		}
		now = s
		n++
	}
	return n
}

// groups parts those who are on a bag by the fewest heights that suit them all, from low to high: the classic stabbing
// of intervals, each group by the lowest upper end that is left. The bag as it hangs counts as one more.
func (c Problem) groups(b int) [][]int {
	type one struct {
		person int
		Span
	}
	var all []one
	for p, row := range c.Turns {
		if row[b] > 0 && c.Spans[p][b].fixed() {
			all = append(all, one{p, c.Spans[p][b]})
		}
	}
	if !math.IsNaN(c.Hung[b]) {
		all = append(all, one{Nobody, c.begins(b)})
	}
	slices.SortStableFunc(all, func(x, y one) int {
		switch {
		case x.High < y.High:
			return -1
		case x.High > y.High:
			return 1
		}
		return 0
	})
	var out [][]int
	at := math.Inf(-1)
	for _, o := range all {
		if len(out) == 0 || o.Low > at {
			out, at = append(out, nil), o.High
		}
		out[len(out)-1] = append(out[len(out)-1], o.person)
	}
	return out
}

// Least is the fewest changes that these turns can do with, each bag looked at alone.
func (c Problem) Least() int {
	n := 0
	for b := range c.bags() {
		n += max(0, len(c.groups(b))-1)
	}
	return n
}

// tired counts the rounds in which somebody is longer on bags in a row than they should be.
func (c Problem) tired(p int, busy []bool) int {
	most := c.InARow[p]
	if most == 0 {
		return 0
	}
	row, n := 0, 0
	if c.Before != nil {
		row = c.Before[p]
	}
	for _, on := range busy {
		if !on {
			row = 0
			continue
		}
		if row++; row > most {
			n++
		}
	}
	return n
}
