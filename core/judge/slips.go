package judge

import (
	"melodromos/core/drill"
)

// Slips counts the moves against the passes of a slip bag. A move that the coach did not mark as touched was in time.
type Slips struct {
	Passes, Touched int
	Longest         int // passes in a row without a touch
}

// reachOfTouch (s) is how long after a move against a pass a touch still belongs to it. Assumed: the coach has to see
// it and mark it.
const reachOfTouch = 3.0

// Share of the passes that did not touch; NaN where there were none.
func (s Slips) Share() float64 { return float64(s.Passes-s.Touched) / float64(s.Passes) }

// JudgeSlips counts the touches and misses that the coach marked (s) among the moves of a timeline against a slip bag's
// passes, as far as the round came.
func JudgeSlips(t drill.Timeline, touches []float64, until drill.Micros) Slips {
	var s Slips
	var at []float64
	for _, e := range t.Events {
		if e.Against() && e.At < until {
			at = append(at, e.At.Seconds())
		}
	}
	touched := make([]bool, len(at))
	for _, m := range touches {
		for i := len(at) - 1; i >= 0; i-- {
			if m >= at[i] {
				touched[i] = touched[i] || m-at[i] <= reachOfTouch
				break
			}
		}
	}
	s.Passes = len(at)
	streak := 0
	for _, hit := range touched {
		if hit {
			s.Touched++
			streak = 0
			continue
		}
		streak++
		s.Longest = max(s.Longest, streak)
	}
	return s
}

// Gist is the round in short.
func (s Slips) Gist() Gist {
	return Gist{As: PassesCounted, Clean: s.Passes - s.Touched, Of: s.Passes, Longest: s.Longest}
}
