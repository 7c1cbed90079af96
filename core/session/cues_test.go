package session

import (
	"slices"
	"strings"
	"testing"

	"melodromos/core/drill"
)

// Warnings are given 30, 15, 10, 5, 3, 2 and 1 s before the bell, ten before a round, and what comes next is said
// before it comes (common practice).
func TestCues(t *testing.T) {
	s := built(t)
	c := Begin(s, 10)
	cues := c.Cues(Calls{})
	when := func(kind drill.EventKind, n int) []float64 {
		var list []float64
		for _, e := range cues {
			if e.Kind == kind && e.N == n {
				list = append(list, e.At.Seconds())
			}
		}
		return list
	}
	// Rounds of 180 s from second 10, a rest of 60 s after each: 10 to 190, 250 to 430, 490 to 670, 730 to 910.
	if got, want := when(drill.Bell, 0), []float64{10, 190, 250, 430, 490, 670, 730, 910}; !slices.Equal(got, want) {
		t.Errorf("bells at %v, want %v", got, want)
	}
	for _, left := range []int{30, 15, 5} {
		if got := when(drill.Warning, left); !slices.Equal(got, []float64{190 - float64(left), 430 - float64(left),
			670 - float64(left), 910 - float64(left)}) {
			t.Errorf("warnings of %d s at %v", left, got)
		}
	}
	if got := when(drill.Warning, 10); !slices.Equal(got, []float64{0, 180, 240, 420, 480, 660, 720, 900}) {
		t.Errorf("warnings of 10 s at %v", got)
	}
	if got := when(drill.Count, 3); !slices.Equal(got, []float64{7, 247, 487, 727}) {
		t.Errorf("counts of three at %v", got)
	}
	// Every change of block is said before it, and heard when it comes.
	for i, x := range c.Stretches {
		if i == 0 || x.Rest() {
			continue
		}
		heard := slices.ContainsFunc(cues, func(e drill.Event) bool {
			return e.At == x.From && (e.Kind == drill.Bell || e.Kind == Begins)
		})
		before := slices.ContainsFunc(cues, func(e drill.Event) bool {
			return e.At < x.From && (e.Kind == Next && e.At >= x.From-70e6 ||
				e.Kind == drill.Call && e.At >= x.From-12e6)
		})
		if !heard || !before {
			t.Errorf("stretch %d at %v s: heard %v, said before %v", i, x.From.Seconds(), heard, before)
		}
	}
	breaths := 0
	for _, e := range cues {
		if e.Kind == Loose {
			breaths++
		}
	}
	if breaths < 4 {
		t.Errorf("breathing is called %d times in four rounds", breaths)
	}
	if !slices.IsSortedFunc(cues, func(a, b drill.Event) int { return int(a.At - b.At) }) {
		t.Error("out of order")
	}
}

func TestFaces(t *testing.T) {
	faces := Begin(built(t), 10).Faces()
	if f := faces[0]; f.Title != "Get ready" || f.BellAt != 10e6 {
		t.Errorf("%+v", f)
	}
	if f := faces[2]; f.Title != "1-2-3" || f.Name != "Round 1 of 4" || f.BellAt != 190e6 || f.Under != "New" {
		t.Errorf("%+v", f)
	}
	if f := faces[4]; f.Title != "Rest" || f.BellAt != 250e6 {
		t.Errorf("%+v", f)
	}
	hour := Begin(Class(60, ContestRound, ""), 0).Faces()
	for _, f := range hour {
		if f.Name == "" || f.Title == "" || strings.Contains(f.Name, "  ") {
			t.Errorf("%+v", f)
		}
	}
	carried := Replay(built(t), 0, []Done{{Deed: Skip, At: at(40)}}).Faces()
	if !slices.ContainsFunc(carried, func(f Display) bool { return strings.HasSuffix(f.Name, "carried on") }) {
		t.Error("nothing says that it is carried on")
	}
}
