package judge

import (
	"fmt"
	"math"
)

// Told is the result of a strike beside what was allowed: late is how late (s) its hit was, NaN without one, window (s)
// the whole of its window. In whole milliseconds, or in tenths where whole ones would read as if a hit outside had been
// within.
func Told(v Verdict, late, window float64) string {
	off, allowed := 1000*math.Abs(late), 1000*window/2
	if math.IsNaN(late) {
		return fmt.Sprintf("missed; %.0f ms either way allowed", allowed)
	}
	digits := 0
	if (v == Early || v == Late) && math.Round(off) <= math.Round(allowed) {
		digits = 1
	}
	told := "on the moment"
	if off >= 0.5 {
		told = fmt.Sprintf("%.*f ms %s", digits, off, map[bool]string{true: "late", false: "early"}[late > 0])
	}
	before := map[Verdict]string{Clean: "clean, ", WrongHand: "with the other hand, "}[v]
	return fmt.Sprintf("%s%s; %.*f allowed", before, told, digits, allowed)
}
