package standin_test

import "math"

// wald decides, from cases one by one, whether something holds in a share of good or more of them, or in bad or less,
// and stops once that is certain: A. Wald, Sequential Tests of Statistical Hypotheses, Annals of Mathematical
// Statistics 16 (1945). It is wrong in one of a hundred samples.
type wald struct {
	bad, good float64
	n, held   int
	weight    float64 // the logarithm of the likelihood ratio, good over bad
}

// add takes up a case and says whether more are needed.
func (w *wald) add(holds bool) bool {
	w.n++
	if holds {
		w.held++
		w.weight += math.Log(w.good / w.bad)
	} else {
		w.weight += math.Log((1 - w.good) / (1 - w.bad))
	}
	return math.Abs(w.weight) < math.Log(99)
}

// holds says whether the share is the good one, or nearer to it where the cases ran out.
func (w *wald) holds() bool { return w.weight > 0 }

// near says whether a share that was found from many cases can be that of these: within four standard errors and the
// rounding to a hundredth.
func (w *wald) near(share float64) bool {
	n := float64(w.n)
	smoothed := (share*n + 1) / (n + 2)
	return math.Abs(float64(w.held)/n-share) < 4*math.Sqrt(smoothed*(1-smoothed)/n)+0.01
}
