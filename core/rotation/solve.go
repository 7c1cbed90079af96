package rotation

import (
	"math"
	"math/rand/v2"
	"slices"
)

// What a plan is made as small as can be of, in that order: nobody twice at once, nobody too long on the bags, few
// changes of height.
const (
	twiceCost  = 400
	tiredCost  = 60
	changeCost = 10
)

// The search: so many beginnings, so many steps each, cooled down from hot to cold in units of the cost. Chosen by
// trial on classes of thirty people and ten bags.
const (
	beginnings = 10
	steps      = 12000
	hot        = 14.0
	cold       = 0.6
)

type solver struct {
	Problem
	rng     *rand.Rand
	first   []Span
	columns [][]int  // by bag and round
	times   [][]int8 // by person and round: on how many bags
	busy    []bool   // room for one person's rounds
}

// Solve lays a class out. The same class gives the same plan. It looks at orders in which each bag goes from one height
// to the next and betters them by exchanging turns, until no change is left that could be saved or its steps are up.
func Solve(c Problem) (Layout, error) {
	if err := c.Check(); err != nil {
		return Layout{}, err
	}
	least := c.Least()
	if c.Rounds == 0 { // nothing is left to lay out
		return Layout{On: [][]int{}, Least: least}, nil
	}
	s := &solver{Problem: c, rng: rand.New(rand.NewPCG(1, uint64(len(c.Turns)))), busy: make([]bool, c.Rounds)}
	for b := range c.bags() {
		s.first = append(s.first, c.begins(b))
	}
	var best, apart [][]int
	lowest := math.MaxInt
	for n := range beginnings {
		if n == beginnings-1 && best == nil {
			s.coloured() // somebody is twice at once in all of them: begin where nobody is
			apart = cloned(s.columns)
		} else {
			s.begin(n)
		}
		if cost := s.better(least * changeCost); cost < lowest && !s.twice() {
			lowest, best = cost, cloned(s.columns)
		}
		if lowest <= least*changeCost {
			break
		}
	}
	if best == nil {
		best = apart // what was saved from there on had somebody twice at once again
	}
	plan := Layout{On: make([][]int, c.Rounds), Least: least}
	for r := range plan.On {
		plan.On[r] = make([]int, c.bags())
		for b := range plan.On[r] {
			plan.On[r][b] = best[b][r]
		}
	}
	s.columns = best
	s.tally()
	for p := range c.Turns {
		plan.Tired += s.tiredness(p)
	}
	plan.Changes = c.Changes(plan.On)
	return plan, nil
}

func cloned(columns [][]int) [][]int {
	out := make([][]int, len(columns))
	for i := range columns {
		out[i] = slices.Clone(columns[i])
	}
	return out
}

// begin lays each bag out from one height to the next, the rounds in which it stands idle spread out, and shifted from
// bag to bag so that people meet few of their own turns.
func (s *solver) begin(n int) {
	s.columns = make([][]int, s.bags())
	for b := range s.columns {
		groups := s.groups(b)
		if i := slices.IndexFunc(groups, func(g []int) bool { return slices.Contains(g, Nobody) }); i >= 0 {
			// it begins where it hangs, then goes up or down to one end and on to the other
			groups = slices.Concat(groups[i:], reversed(groups[:i]))
		} else if (b+n)%2 == 1 {
			groups = reversed(groups)
		}
		var turns []int
		for _, g := range groups {
			var group []int
			for _, p := range g {
				for range s.turns(p, b) {
					group = append(group, p)
				}
			}
			s.rng.Shuffle(len(group), func(i, j int) { group[i], group[j] = group[j], group[i] })
			turns = append(turns, group...)
		}
		for p, row := range s.Turns { // who hangs it as it is
			for range row[b] {
				if !s.Spans[p][b].fixed() {
					turns = slices.Insert(turns, s.rng.IntN(len(turns)+1), p)
				}
			}
		}
		for len(turns) < s.Rounds {
			turns = slices.Insert(turns, s.rng.IntN(len(turns)+1), Nobody)
		}
		s.columns[b] = turns
	}
	s.tally()
}

func (s *solver) turns(p, b int) int {
	if p == Nobody {
		return 0
	}
	return s.Turns[p][b]
}

func reversed(groups [][]int) [][]int {
	out := slices.Clone(groups)
	slices.Reverse(out)
	return out
}

// coloured lays the turns out so that nobody is twice at once: the edges of a bipartite graph of people and bags take
// as many colours, the rounds, as the most that meet (Kőnig 1916), found by alternating paths.
func (s *solver) coloured() {
	people, bags := len(s.Turns), s.bags()
	byPerson, byBag := grid(people, s.Rounds), grid(bags, s.Rounds)
	free := func(row []int) int { return slices.Index(row, Nobody) }
	for p, row := range s.Turns {
		for b, n := range row {
			for range n {
				x, y := free(byPerson[p]), free(byBag[b])
				if x != y && byBag[b][x] != Nobody {
					flip(byPerson, byBag, b, x, y)
				}
				byPerson[p][x], byBag[b][x] = b, p
			}
		}
	}
	s.columns = byBag
	s.tally()
}

func grid(rows, columns int) [][]int {
	out := make([][]int, rows)
	for i := range out {
		out[i] = slices.Repeat([]int{Nobody}, columns)
	}
	return out
}

// flip exchanges rounds x and y along the path of turns that begins at bag b with x, so that x is free there.
func flip(byPerson, byBag [][]int, b, x, y int) {
	type edge struct{ person, bag, round int }
	var path []edge
	atBag, round := b, x
	for {
		p := byBag[atBag][round]
		if p == Nobody {
			break
		}
		path = append(path, edge{p, atBag, round})
		other := x + y - round
		next := byPerson[p][other]
		if next == Nobody {
			break
		}
		path = append(path, edge{p, next, other})
		atBag = next
	}
	for _, e := range path {
		byPerson[e.person][e.round], byBag[e.bag][e.round] = Nobody, Nobody
	}
	for _, e := range path {
		other := x + y - e.round
		byPerson[e.person][other], byBag[e.bag][other] = e.bag, e.person
	}
}

func (s *solver) tally() {
	s.times = make([][]int8, len(s.Turns))
	for p := range s.times {
		s.times[p] = make([]int8, s.Rounds)
	}
	for _, column := range s.columns {
		for r, p := range column {
			if p != Nobody {
				s.times[p][r]++
			}
		}
	}
}

// twice says whether anybody is on two bags at once.
func (s *solver) twice() bool {
	return slices.ContainsFunc(s.times, func(row []int8) bool { return slices.Max(row) > 1 })
}

func (s *solver) tiredness(p int) int {
	for r, n := range s.times[p] {
		s.busy[r] = n > 0
	}
	return s.tired(p, s.busy)
}

// ofPerson returns the cost of somebody's rounds.
func (s *solver) ofPerson(p int) int {
	if p == Nobody {
		return 0
	}
	cost := 0
	for _, n := range s.times[p] {
		if n > 1 {
			cost += twiceCost * int(n-1)
		}
	}
	if s.InARow[p] > 0 {
		cost += tiredCost * s.tiredness(p)
	}
	return cost
}

// better exchanges turns within the bags while that saves more than it costs, and at first also while it costs a little
// (simulated annealing: Kirkpatrick, Gelatt & Vecchi 1983). It leaves the best that it came by, and gives its cost.
func (s *solver) better(least int) int {
	cost := 0
	for b, column := range s.columns {
		cost += changeCost * s.count(b, column)
	}
	for p := range s.Turns {
		cost += s.ofPerson(p)
	}
	lowest, best := cost, cloned(s.columns)
	if s.Rounds < 2 || s.bags() == 0 {
		return cost
	}
	for i := range steps {
		if lowest <= least {
			break
		}
		heat := hot * math.Pow(cold/hot, float64(i)/steps)
		b, x, y := s.rng.IntN(s.bags()), s.rng.IntN(s.Rounds), s.rng.IntN(s.Rounds)
		if x > y {
			x, y = y, x
		}
		turned := s.rng.IntN(4) == 0 // a whole stretch is turned round, else two turns change places
		before := s.around(b, x, y, turned)
		s.exchange(b, x, y, turned)
		after := s.around(b, x, y, turned)
		if by := after - before; by <= 0 || s.rng.Float64() < math.Exp(-float64(by)/heat) {
			if cost += by; cost < lowest {
				lowest = cost
				for k := range best {
					copy(best[k], s.columns[k])
				}
			}
			continue
		}
		s.exchange(b, x, y, turned)
	}
	s.columns = best
	s.tally()
	return lowest
}

// around is the cost of all that an exchange can change.
func (s *solver) around(b, x, y int, turned bool) int {
	column := s.columns[b]
	cost := changeCost * s.count(b, column)
	if !turned {
		p, q := column[x], column[y]
		if cost += s.ofPerson(p); q != p {
			cost += s.ofPerson(q)
		}
		return cost
	}
	for r := x; r <= y; r++ {
		if p := column[r]; !slices.Contains(column[x:r], p) {
			cost += s.ofPerson(p)
		}
	}
	return cost
}

func (s *solver) exchange(b, x, y int, turned bool) {
	column := s.columns[b]
	for ; x < y; x, y = x+1, y-1 {
		p, q := column[x], column[y]
		if p != q {
			s.move(p, x, y)
			s.move(q, y, x)
			column[x], column[y] = q, p
		}
		if !turned {
			return
		}
	}
}

func (s *solver) move(p, from, to int) {
	if p != Nobody {
		s.times[p][from]--
		s.times[p][to]++
	}
}
