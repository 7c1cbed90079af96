package level

import (
	"math"
	"math/rand/v2"
	"testing"
)

// What is learned shrinks towards nothing with one round and finds the difference with many; sure things stay sure.
func TestLearn(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	rounds := func(n int, predicted, actual float64) []Outcome {
		var list []Outcome
		for range n {
			met := 0
			for range 100 {
				if r.Float64() < actual {
					met++
				}
			}
			list = append(list, Outcome{predicted, float64(met) / 100, 100})
		}
		return list
	}
	none, one, many := Learn(nil), Learn(rounds(1, 0.7, 0.85)), Learn(rounds(30, 0.7, 0.85))
	if none.Apply(0.7) != 0.7 {
		t.Errorf("nothing was learned: %g", none.Apply(0.7))
	}
	if a, b := one.Apply(0.7), many.Apply(0.7); !(0.7 < a && a < b) || math.Abs(b-0.85) > 0.03 {
		t.Errorf("after one round %.3f, after thirty %.3f", a, b)
	}
	if many.Apply(0) != 0 || many.Apply(1) != 1 {
		t.Error("what cannot be done is learned")
	}
	worse := Learn(rounds(20, 0.9, 0.6))
	f := (Fit{Clean: 0.9, Counted: 0.8, Strikes: 100}).With(worse)
	if !(f.Clean < 0.75) || !(f.Counted < 0.65) || !(f.LongestStreak > 0) || f.Made == "" {
		t.Errorf("%+v", f)
	}
}

func TestCalibrated(t *testing.T) {
	bins, miss := Calibrated([]Outcome{{0.72, 0.80, 50}, {0.78, 0.70, 50}, {0.05, 0.10, 50}, {1, 0.9, 10},
		{math.NaN(), 0.5, 10}})
	if len(bins) != 10 || bins[7].Rounds != 2 || math.Abs(bins[7].Predicted-0.75) > 1e-12 ||
		math.Abs(bins[7].Observed-0.75) > 1e-12 || bins[0].Rounds != 1 || bins[9].Rounds != 1 ||
		!math.IsNaN(bins[3].Observed) {
		t.Errorf("%+v", bins)
	}
	if math.Abs(miss-(0.08+0.08+0.05+0.1)/4) > 1e-12 {
		t.Errorf("mean miss %g", miss)
	}
	if _, miss := Calibrated(nil); !math.IsNaN(miss) {
		t.Errorf("without rounds the mean miss is %g", miss)
	}
}
