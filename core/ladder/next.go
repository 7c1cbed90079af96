// Package ladder decides what a trainee does next.
package ladder

import (
	"cmp"
	"fmt"
	"slices"
	"time"
)

// The gate of a drill: from here on a trainee may move on (assumed; 80 % clean and ten in a row).
const (
	GateClean = 0.80
	GateRun   = 10
)

// Given is a drill that a trainee has been given, and how its last run went.
type Given struct {
	Drill   string    // id
	Last    time.Time // zero where it was never run
	Counts  bool      // the last run was judged and came to its bell
	Clean   float64   // share of the last run
	Longest int
}

// Order puts what is to be done next first: drills never run, then those not past the gate, then the longest ago.
func Order(list []Given) {
	slices.SortStableFunc(list, func(a, b Given) int {
		return cmp.Or(cmp.Compare(a.rank(), b.rank()), a.Last.Compare(b.Last))
	})
}

func (g Given) rank() int {
	switch {
	case g.Last.IsZero():
		return 0
	case !g.Through():
		return 1
	}
	return 2
}

// Through says whether the last run passed the gate.
func (g Given) Through() bool { return g.Counts && g.Clean >= GateClean && g.Longest >= GateRun }

// Sentence says why the drill stands where it does.
func (g Given) Sentence() string {
	switch {
	case g.Last.IsZero():
		return "Not run yet: half power, and wait for the bag."
	case !g.Counts:
		return "Last time nothing was judged up to the bell. Run it again."
	case !g.Through():
		return fmt.Sprintf("Last time %.0f %% clean, %d in a row. Run it again: %.0f %% and %d in a row are the gate.", 100*g.Clean, g.Longest, 100*GateClean, GateRun)
	}
	return fmt.Sprintf("Last time %.0f %% clean, %d in a row: control holds. Change one thing.", 100*g.Clean, g.Longest)
}
