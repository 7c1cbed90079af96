package judge

import (
	"math"
)

// Ended says how a round came to its end.
type Ended string

// At its bell, stopped before it, or because its screen was not heard of any more.
const (
	AtBell   Ended = "bell"
	Stopped  Ended = "stopped"
	Vanished Ended = "vanished"
)

// Values lists them; "" is none.
func (Ended) Values() []Ended { return []Ended{"", AtBell, Stopped, Vanished} }

// Counts says whether a round moves what is known of somebody, and their ladder: one that came to its bell, with hits
// from a source that tells clean from late. Any other is logged as what it is.
func (r Judgement) Counts(e Ended) bool { return e == AtBell && r.Judged() }

// Force is the scatter of somebody's force in a round, as a share of the launch: the standard deviation of the
// logarithm of what was struck over what was planned. NaN where force was not known of enough strikes.
func (r Judgement) Force() float64 {
	sum, squares, n := 0.0, 0.0, 0.0
	for _, m := range r.Matches {
		h, s := r.Hits[m.Hit], r.Planned[m.Strike]
		if h.Launch > 0 && s.Launch > 0 {
			v := math.Log(h.Launch / s.Launch)
			sum, squares, n = sum+v, squares+v*v, n+1
		}
	}
	if n < leastForces {
		return math.NaN()
	}
	return math.Sqrt((squares - sum*sum/n) / (n - 1))
}

// leastForces is the number of strikes of known force from which its scatter is estimated. Assumed.
const leastForces = 20
