package ladder

import (
	"fmt"
	"strings"
	"testing"
	"time"
)

func at(day int) time.Time { return time.Date(2026, 3, day, 18, 0, 0, 0, time.UTC) }

// What was never run comes first, then what did not pass the gate, by a round that counts, then what was run longest ago.
func TestOrder(t *testing.T) {
	list := []Given{
		{Drill: "passed late", Last: at(9), Counts: true, Clean: 0.9, Longest: 30},
		{Drill: "passed early", Last: at(2), Counts: true, Clean: 0.8, Longest: 10},
		{Drill: "short run", Last: at(8), Counts: true, Clean: 0.95, Longest: 9},
		{Drill: "new"},
		{Drill: "stopped", Last: at(6), Clean: 1, Longest: 40},
		{Drill: "failed", Last: at(5), Counts: true, Clean: 0.5, Longest: 12},
	}
	Order(list)
	got := ""
	for _, g := range list {
		got += g.Drill + ", "
	}
	if got != "new, failed, stopped, short run, passed early, passed late, " {
		t.Error(got)
	}
	if !strings.Contains(list[1].Sentence(), "50 %") || !strings.Contains(list[4].Sentence(), "Change one thing") {
		t.Errorf("%q %q", list[1].Sentence(), list[4].Sentence())
	}
}

func ExampleGiven_Sentence() {
	fmt.Println(Given{Last: at(1), Counts: true, Clean: 0.72, Longest: 8}.Sentence())
	// Output: Last time 72 % clean, 8 in a row. Run it again: 80 % and 10 in a row are the gate.
}
