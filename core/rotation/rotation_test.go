package rotation

import (
	"fmt"
	"math"
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"
)

// around gives everybody a span about their own height.
func class(rounds int, heights []float64, half float64, bags int, turns func(p, b int) int) Problem {
	c := Problem{Rounds: rounds, InARow: make([]int, len(heights))}
	for p, h := range heights {
		var row []int
		var spans []Span
		for b := range bags {
			row = append(row, turns(p, b))
			spans = append(spans, Span{h - half, h + half})
		}
		c.Turns, c.Spans = append(c.Turns, row), append(c.Spans, spans)
	}
	for range bags {
		c.Hung = append(c.Hung, math.NaN())
	}
	return c
}

// holds looks whether a plan is one of the class.
func holds(t *testing.T, c Problem, p Layout) {
	t.Helper()
	turns := make([][]int, len(c.Turns))
	for i := range turns {
		turns[i] = make([]int, c.bags())
	}
	for r, row := range p.On {
		seen := map[int]bool{}
		for b, who := range row {
			if who == Nobody {
				continue
			}
			if seen[who] {
				t.Errorf("round %d: person %d is twice at once", r, who)
			}
			seen[who] = true
			turns[who][b]++
		}
	}
	if !reflect.DeepEqual(turns, c.Turns) {
		t.Errorf("turns %v, want %v", turns, c.Turns)
	}
	if len(p.Changes) < p.Least {
		t.Errorf("%d changes, fewer than the bound of %d", len(p.Changes), p.Least)
	}
	suits(t, c, p)
}

// suits looks whether each bag hangs right for whoever is on it, after the changes that are told.
func suits(t *testing.T, c Problem, p Layout) {
	t.Helper()
	at := slices.Clone(c.Hung)
	for r, row := range p.On {
		for _, change := range p.Changes {
			if change.Before == r {
				at[change.Bag] = change.To
			}
		}
		for b, who := range row {
			if who == Nobody || !c.Spans[who][b].fixed() || math.IsNaN(at[b]) {
				continue
			}
			if s := c.Spans[who][b]; at[b] < s.Low-1e-9 || at[b] > s.High+1e-9 {
				t.Errorf("round %d, bag %d at %.3f: person %d wants %.3f to %.3f", r, b, at[b], who, s.Low, s.High)
			}
		}
	}
}

// fewest tries every order of every bag.
func fewest(c Problem) (changes, tired int) {
	changes, tired = math.MaxInt, math.MaxInt
	columns := make([][]int, c.bags())
	var try func(b int)
	try = func(b int) {
		if b == c.bags() {
			on := make([][]int, c.Rounds)
			for r := range on {
				for k := range columns {
					on[r] = append(on[r], columns[k][r])
				}
			}
			weary := 0
			for p := range c.Turns {
				busy := make([]bool, c.Rounds)
				for r := range on {
					busy[r] = slices.Contains(on[r], p)
				}
				weary += c.tired(p, busy)
			}
			if n := len(c.Changes(on)); weary < tired || weary == tired && n < changes {
				changes, tired = n, weary
			}
			return
		}
		var turns []int
		for p, row := range c.Turns {
			for range row[b] {
				turns = append(turns, p)
			}
		}
		for len(turns) < c.Rounds {
			turns = append(turns, Nobody)
		}
		slices.Sort(turns)
		each(turns, func(order []int) {
			for k := range b {
				for r, p := range order {
					if p != Nobody && columns[k][r] == p {
						return
					}
				}
			}
			columns[b] = slices.Clone(order)
			try(b + 1)
		})
	}
	try(0)
	return changes, tired
}

// each gives all different orders of a sorted list.
func each(list []int, see func([]int)) {
	for {
		see(list)
		i := len(list) - 2
		for i >= 0 && list[i] >= list[i+1] {
			i--
		}
		if i < 0 {
			return
		}
		j := len(list) - 1
		for list[j] <= list[i] {
			j--
		}
		list[i], list[j] = list[j], list[i]
		slices.Reverse(list[i+1:])
	}
}

// On small classes no order of any bag does with fewer changes.
func TestAgainstBruteForce(t *testing.T) {
	for seed := range uint64(60) {
		rng := rand.New(rand.NewPCG(seed, 7))
		people, bags, rounds := 2+rng.IntN(3), 1+rng.IntN(2), 4+rng.IntN(2)
		if seed%4 == 0 {
			bags, rounds = 3, 4
		}
		heights := make([]float64, people)
		for i := range heights {
			heights[i] = 1.40 + 0.5*rng.Float64()
		}
		left := slices.Repeat([]int{rounds}, bags)
		mine := slices.Repeat([]int{rounds - 1}, people)
		c := class(rounds, heights, 0.04, bags, func(p, b int) int {
			n := min(rng.IntN(3), left[b], mine[p])
			left[b] -= n
			mine[p] -= n
			return n
		})
		for p := range c.InARow {
			c.InARow[p] = rng.IntN(3) // 0 for no limit
		}
		if seed%3 == 0 {
			c.Hung[0] = 1.60
		}
		plan, err := Solve(c)
		if err != nil {
			t.Fatalf("seed %d: %v", seed, err)
		}
		holds(t, c, plan)
		changes, tired := fewest(c)
		if len(plan.Changes) != changes || plan.Tired != tired {
			t.Errorf("seed %d: %d changes and %d rounds too many in a row, brute force %d and %d: %+v", seed,
				len(plan.Changes), plan.Tired, changes, tired, c)
		}
	}
}

// many is a class of a size: people of ordinary heights (mean 1.68 m, standard deviation 0.10, from memory), each on
// some of the bags, half of which hang the same for everybody.
func many(people, bags, rounds int, seed uint64) Problem {
	rng := rand.New(rand.NewPCG(seed, 3))
	heights := make([]float64, people)
	for i := range heights {
		heights[i] = 1.68 + 0.10*rng.NormFloat64()
	}
	turns := grid(people, bags)
	for p := range turns {
		for b := range turns[p] {
			turns[p][b] = 0
		}
	}
	left := slices.Repeat([]int{rounds}, bags)
	for pass := range rounds / 2 { // each goes from bag to bag
		for p := range people {
			for k := range bags {
				if b := (p + pass + k) % bags; left[b] > 0 && turns[p][b] < 3 {
					turns[p][b]++
					left[b]--
					break
				}
			}
		}
	}
	c := class(rounds, heights, 0.03, bags, func(p, b int) int { return turns[p][b] })
	for p := range c.InARow {
		c.InARow[p] = 3
		for b := range bags {
			switch b % 4 {
			case 0: // chin to mouth, a wider span
				c.Spans[p][b] = Span{heights[p] - 0.25, heights[p] - 0.18}
			case 3:
				c.Spans[p][b] = Any
			}
		}
	}
	return c
}

// On larger classes the changes are within a tenth of the bound, each bag looked at alone.
func TestNearTheBound(t *testing.T) {
	for _, size := range [][3]int{{8, 3, 12}, {12, 4, 10}, {20, 6, 12}, {30, 10, 12}, {30, 10, 9}, {5, 5, 8}} {
		for seed := range uint64(8) {
			c := many(size[0], size[1], size[2], seed)
			plan, err := Solve(c)
			if err != nil {
				t.Fatalf("%v: %v", size, err)
			}
			holds(t, c, plan)
			if float64(len(plan.Changes)) > 1.1*float64(plan.Least) {
				t.Errorf("%v, seed %d: %d changes, bound %d", size, seed, len(plan.Changes), plan.Least)
			}
			if plan.Tired > 0 {
				t.Errorf("%v, seed %d: %d rounds without a rest", size, seed, plan.Tired)
			}
		}
	}
}

func TestSamePlan(t *testing.T) {
	c := many(30, 10, 12, 1)
	a, _ := Solve(c)
	b, _ := Solve(c)
	if !reflect.DeepEqual(a, b) {
		t.Error("the same class gives another plan")
	}
}

func TestCheckRefuses(t *testing.T) {
	for _, c := range []Problem{
		class(3, []float64{1.7, 1.7}, 0.03, 1, func(int, int) int { return 2 }),
		class(3, []float64{1.7}, 0.03, 2, func(int, int) int { return 2 }),
	} {
		if _, err := Solve(c); err == nil {
			t.Errorf("%v in %d rounds", c.Turns, c.Rounds)
		}
	}
	if p, err := Solve(Problem{Rounds: 3}); err != nil || len(p.On) != 3 {
		t.Errorf("nobody at all: %v", err)
	}
}

// The turns always fit where no person and no bag has more than there are rounds (Kőnig 1916).
func TestColoured(t *testing.T) {
	for seed := range uint64(50) {
		c := many(6, 6, 6, seed)
		for p := range c.Turns {
			for b := range c.Turns[p] {
				c.Turns[p][b] = 1 // everybody on every bag, no round to spare
			}
		}
		s := &solver{Problem: c}
		s.coloured()
		for p, row := range s.times {
			for r, n := range row {
				if n != 1 {
					t.Fatalf("seed %d: person %d is %d times on a bag in round %d", seed, p, n, r)
				}
			}
		}
	}
}

func ExampleSolve() {
	// Ada is 1.55 m tall, Ben 1.80, Cid 1.56; one bag, six rounds, two each. It is hung anew once, not at every turn.
	c := class(6, []float64{1.55, 1.80, 1.56}, 0.03, 1, func(int, int) int { return 2 })
	p, _ := Solve(c)
	fmt.Println(len(p.Changes), p.Least)
	// Output: 1 1
}

func BenchmarkThirtyPeopleTenBags(b *testing.B) {
	c := many(30, 10, 12, 1)
	for b.Loop() {
		if _, err := Solve(c); err != nil {
			b.Fatal(err)
		}
	}
}
