package drill

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"melodromos/core/combo"
)

// Unforeseen cues as the trade has them (common practice), read off the timeline: the counter after a roll or a slip
// is the hand of the side it ends on, after a duck the hand that threw last; not three cues after the same punch
// where the line has others; gaps that are not even.
func TestUnforeseenCues(t *testing.T) {
	calls := 0
	for _, text := range []string{"1-2", "1-2-3-2", "1 - wait - 3", "2-3b", "1"} {
		for _, moves := range [][]string{{"roll lead", "roll rear"}, {"slip lead", "duck"}, {"roll rear"},
			{"duck", "slip rear", "roll lead"}} {
			for _, counters := range [][]string{{"2", "3-2"}, {"2"}, {"3-2-3"}, {"1", "3", "5-2"}} {
				for seed := range uint64(4) {
					c := CombinationDrill{
						Text:     text,
						Stance:   combo.Orthodox,
						Landing:  OnReturns,
						Pace:     Combining,
						Pause:    1,
						Work:     180,
						Guidance: Alone,
						Cues:     &Cues{Moves: moves, Counters: counters, Least: 2, Mean: 4},
					}
					on := Floor{Bag: gentle, Ability: able, Seed: seed}
					line, _, err := CompileCombination(c, on)
					if err != nil {
						t.Fatal(err)
					}
					calls += unforeseen(t, fmt.Sprintf("%s, %v, %v, %d", text, moves, counters, seed), line,
						text != "1")
				}
			}
		}
	}
	if calls < 2592 {
		t.Errorf("%d calls", calls)
	}
	t.Logf("%d calls", calls)
}

// unforeseen holds the cues of a timeline against the trade.
func unforeseen(t *testing.T, name string, line Timeline, varied bool) int {
	t.Helper()
	last, before, running, calls := "", "", 0, 0 // the last punch, and the one before the last cue
	threw := Hand("")
	var at, gaps, squares float64
	for i, e := range line.Events {
		switch e.Kind {
		case Strike:
			last, threw = e.Text, e.Hand
			continue
		case Cued:
		default:
			continue
		}
		if calls > 0 {
			gap := e.At.Seconds() - at
			gaps, squares = gaps+gap, squares+gap*gap
		}
		at = e.At.Seconds()
		calls++
		var asked combo.Placed
		for _, next := range line.Events[i+1:] {
			if next.Kind == Doing && next.Move == -1 {
				move, err := combo.Parse(next.Text)
				if err != nil {
					t.Fatal(err)
				}
				asked = move.Moves(combo.Orthodox)[0]
			}
			if next.Kind != Strike {
				continue
			}
			want := Hand(asked.Toward)
			if asked.Word == combo.Duck {
				want = threw
			}
			if want != "" && next.Move == -1 && next.Hand != want {
				t.Errorf("%s: after %s at %.1f s the %s hand strikes", name, asked.Move, at, next.Hand)
			}
			break
		}
		if running++; last != before {
			running = 1
		}
		before = last
		if running > 2 && last != "" && varied {
			t.Errorf("%s: cue %d after %s, the last at %.1f s", name, running, last, at)
		}
	}
	n := float64(calls - 1)
	if mean := gaps / n; n >= 10 && math.Sqrt(squares/n-mean*mean) < 0.2*mean {
		t.Errorf("%s: gaps of %.2f s, spread %.2f s", name, mean, math.Sqrt(squares/n-mean*mean))
	}
	return calls
}

// Even where the mean is hardly above the least gap, or the answers take longer than it, gaps differ.
func TestGapsNeverEven(t *testing.T) {
	for _, c := range []Cues{{Moves: []string{"duck"}, Least: 6, Mean: 6.1},
		{Moves: []string{"roll lead"}, Counters: []string{"3-2-3"}, Least: 0.5, Mean: 1},
		{Moves: []string{"pull", "duck"}, Free: 3, Least: 1, Mean: 1.2}} {
		list := c.Draw(3, 0, 600, Thrown{})
		sum, squares := 0.0, 0.0
		for i := 1; i < len(list); i++ {
			gap := list[i].At - list[i-1].At
			sum, squares = sum+gap, squares+gap*gap
		}
		n := float64(len(list) - 1)
		mean := sum / n
		if spread := math.Sqrt(squares/n - mean*mean); n < 50 || spread < 0.1*mean {
			t.Errorf("%+v: %g gaps of %.2f s, spread %.2f s", c, n, mean, spread)
		}
	}
}

// The set answer to an imagined attack is the coach's own, and is told where it does not join, or needs care.
func TestAnswersJoin(t *testing.T) {
	c := Cues{Attacks: []Attack{{"jab", "slip rear - 2"}, {"cross", "slip lead - 3"}, {"hook", "roll lead - 2"}},
		Least: 3, Mean: 7}
	list := c.Joined()
	if len(list) != 2 || !strings.HasPrefix(list[0], "Answer to the jab: a slip to the rear side answered at once") ||
		!strings.HasPrefix(list[1], "Answer to the hook: a roll that ends on the lead foot loads the lead hand") {
		t.Errorf("%q", list)
	}
}
