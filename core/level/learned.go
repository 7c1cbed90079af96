package level

import (
	"fmt"
	"math"

	"melodromos/core/words"
)

// Outcome is a judged round beside what the model predicted of it, both as shares that met the bag.
type Outcome struct {
	Predicted, Observed float64
	Strikes             int
}

// Learned is the difference between one person's rounds on one kind of bag and the model's prediction, shrunk towards
// not at all by how little is known. On the scale of log odds.
type Learned struct {
	Shift  float64
	Rounds int
}

// How far the model may be wrong of somebody, and how much rounds differ from one another beyond their number of
// strikes; in log odds (standard deviations). Assumed.
const modelSpread, roundSpread = 0.5, 0.35

// Learn draws on the rounds of one person on one kind of bag.
func Learn(rounds []Outcome) Learned {
	sum, weight := 0.0, 1/(modelSpread*modelSpread)
	n := 0
	for _, r := range rounds {
		if r.Strikes < 1 || math.IsNaN(r.Observed+r.Predicted) {
			continue
		}
		// Half a strike is added to what met and to what did not, so that neither none nor all is beyond any odds.
		k := float64(r.Strikes)
		p := (k*r.Observed + 0.5) / (k + 1)
		w := 1 / (1/(k*p*(1-p)) + roundSpread*roundSpread)
		sum += w * (odds(p) - odds(r.Predicted))
		weight += w
		n++
	}
	return Learned{sum / weight, n}
}

// odds is the logarithm of a share's odds, held to what a round can show.
func odds(p float64) float64 {
	p = math.Min(0.995, math.Max(0.005, p))
	return math.Log(p / (1 - p))
}

// Apply is a predicted share with what was learned.
func (l Learned) Apply(p float64) float64 {
	if l.Rounds == 0 || p <= 0 || p >= 1 || math.IsNaN(p) {
		return p // what cannot be done is not learned, and nothing is surer than sure
	}
	return 1 / (1 + math.Exp(-odds(p)-l.Shift))
}

// With is a fit with what was learned of somebody on this bag.
func (f Fit) With(l Learned) Fit {
	model := f.Clean
	f.Clean, f.Counted = l.Apply(f.Clean), l.Apply(f.Counted)
	if l.Rounds > 0 && model > 0 && f.Strikes > 0 {
		p := f.Counted
		if f.byForce {
			p = f.Clean
		}
		f.Streak, f.LongestStreak = Streak(p, f.Strikes), LongestStreak(p, f.Strikes)
		if points := math.Round(100 * (f.Clean - model)); points != 0 {
			side := "better"
			if points < 0 {
				side = "worse"
			}
			f.Made += fmt.Sprintf(" %s on this bag went %s %s than the models say; the figure includes that.",
				words.Upper(words.Count(l.Rounds, "round")), words.Count(int(math.Abs(points)), "point"), side)
		}
	}
	return f
}

// Bin compares prediction and outcome of the rounds whose prediction lies in a tenth.
type Bin struct {
	From, To            float64
	Predicted, Observed float64 // means; NaN where there is no round
	Rounds              int
}

// Calibrated puts rounds into ten bins by their prediction, and gives the mean miss: by how much a round was off its
// prediction.
func Calibrated(rounds []Outcome) (bins []Bin, miss float64) {
	bins = make([]Bin, 10)
	for i := range bins {
		bins[i] = Bin{From: float64(i) / 10, To: float64(i+1) / 10, Predicted: math.NaN(), Observed: math.NaN()}
	}
	sums := make([][2]float64, 10)
	n := 0.0
	for _, r := range rounds {
		if math.IsNaN(r.Predicted + r.Observed) {
			continue
		}
		i := min(9, max(0, int(10*r.Predicted)))
		sums[i][0] += r.Predicted
		sums[i][1] += r.Observed
		bins[i].Rounds++
		miss += math.Abs(r.Observed - r.Predicted)
		n++
	}
	for i := range bins {
		if k := float64(bins[i].Rounds); k > 0 {
			bins[i].Predicted, bins[i].Observed = sums[i][0]/k, sums[i][1]/k
		}
	}
	if n == 0 {
		return bins, math.NaN()
	}
	return bins, miss / n
}
