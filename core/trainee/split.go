package trainee

import "math"

// splitLeast intervals are needed to divide their spread.
const splitLeast = 30

// Split divides the spread of produced intervals (s; NaN where the row is broken) into a timekeeper's part and a hand's
// part, both as standard deviations in seconds: the hand's variance is minus the autocovariance of neighbouring
// intervals, the clock's is the total less twice that (Wing & Kristofferson 1973). A part that comes out negative
// stands as 0 and is told by clipped. Under 30 intervals both are NaN.
func Split(intervals []float64) (clock, motor float64, clipped bool) {
	sum, n := 0.0, 0
	for _, v := range intervals {
		if !math.IsNaN(v) {
			sum += v
			n++
		}
	}
	rests := make([]float64, len(intervals))
	for i, v := range intervals {
		rests[i] = v - sum/float64(n)
	}
	return split(rests, 1)
}

// split is Split of what is left of the intervals once so many parameters have been fitted to them: each takes 1/n of
// the variance out of the sum of squares, and as much out of the autocovariance.
func split(rests []float64, fitted int) (clock, motor float64, clipped bool) {
	squares, products, n, pairs := 0.0, 0.0, 0, 0
	for i, v := range rests {
		if math.IsNaN(v) {
			continue
		}
		squares += v * v
		n++
		if i > 0 && !math.IsNaN(rests[i-1]) {
			products += v * rests[i-1]
			pairs++
		}
	}
	if n < splitLeast || pairs < 2 {
		return math.NaN(), math.NaN(), false
	}
	total := squares / float64(n-fitted)
	motorVar := -products/float64(pairs) - total*float64(fitted)/float64(n)
	clockVar := total - 2*motorVar
	clipped = motorVar < 0 || clockVar < 0
	return math.Sqrt(math.Max(0, clockVar)), math.Sqrt(math.Max(0, motorVar)), clipped
}
