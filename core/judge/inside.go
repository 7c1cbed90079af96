package judge

import (
	"fmt"
	"math"
)

// Inside is the tempo (strikes a minute) of the hits inside combinations: over pairs of matched strikes that follow one
// another with nothing between; of hands in turn, where there are such, since one hand twice takes longer. NaN where
// there is no such pair.
func (r Judgement) Inside() float64 {
	hit := make(map[int]float64, len(r.Matches))
	for _, m := range r.Matches {
		hit[m.Strike] = r.Hits[m.Hit].At
	}
	for _, turn := range []bool{true, false} {
		sum, n := 0.0, 0
		for i, s := range r.Planned {
			a, before := hit[i-1]
			b, now := hit[i]
			if s.Follows && before && now && (s.Hand != r.Planned[i-1].Hand || !turn) {
				sum += b - a
				n++
			}
		}
		if n > 0 && sum > 0 {
			return 60 * float64(n) / sum
		}
	}
	return math.NaN()
}

// allowance is the share by which hits may be slower than a tempo and still count as having kept it. Assumed.
const allowance = 0.03

// Pace says whether the goal tempo inside the combination was kept, or the slower one that is still right; goal and
// slower are in strikes a minute, 0 for none. Empty where there is no goal or nothing to say.
func (r Judgement) Pace(goal, slower float64) string {
	inside := r.Inside()
	if goal == 0 || math.IsNaN(inside) {
		return ""
	}
	said := fmt.Sprintf("Inside the combination %.0f a minute: ", inside)
	switch {
	case inside >= goal*(1-allowance):
		return said + fmt.Sprintf("the goal of %.0f is met.", goal)
	case slower > 0 && inside >= slower*(1-allowance):
		return said + fmt.Sprintf("under the goal of %.0f, still fine down to %.0f.", goal, slower)
	case slower > 0:
		return said + fmt.Sprintf("slower than the %.0f that still counts.", slower)
	}
	return said + fmt.Sprintf("under the goal of %.0f.", goal)
}
