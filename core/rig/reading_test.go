package rig

import (
	"math"
	"math/rand/v2"
	"testing"

	"melodromos/core/motion"
)

// crossings are the moments (s) at which a bag goes through its middle, both ways, or for a slip bag passes and
// turns: from the motion itself, not from what calibration reckons with.
func crossings(t *testing.T, r Rig, launch float64, n int) []float64 {
	t.Helper()
	var at []float64
	take := func(turns bool) func(motion.Passage) bool {
		return func(p motion.Passage) bool {
			if !p.Turn || turns {
				at = append(at, p.At)
			}
			return len(at) < n
		}
	}
	var err error
	switch b := r.(type) {
	case DoubleEndBag:
		err = b.swing().swing.Follow(0, launch, 60, []float64{0}, take(false))
	case ReflexBag:
		err = b.swing().swing.Follow(0, launch/b.PoleLength, 60, []float64{0}, take(false))
	case SlipBag:
		err = b.swing().Follow(math.Asin(launch/b.Drop()), 0, 120, []float64{0}, take(true))
	case HangingBag:
		for i := range n {
			at = append(at, float64(i+1)*b.pendulum().Period(b.amplitude(launch))/2)
		}
	}
	if err != nil || len(at) < n {
		t.Fatalf("%s: %d crossings, %v", r.Kind(), len(at), err)
	}
	return at[:n]
}

// other is a bag whose parameter is not the one it is known with, by up to a third.
func other(r Rig, noise *rand.Rand) (Rig, float64) {
	f := r.LeastKnown()
	reach := map[Kind]float64{DoubleEnd: 0.3, Reflex: 0.15, Speed: 0.06, Slip: 0.06, Hanging: 0.3}[r.Kind()]
	v := f.Value * math.Exp(reach*(2*noise.Float64()-1))
	return f.With(v), v
}

// Somebody who taps every crossing, or only every second return, is asked; what the other reading comes to is the bag
// as it is. Somebody who taps what was asked for is left alone.
func TestMisreadings(t *testing.T) {
	const people = 6
	for _, r := range []Rig{doubleEnd, reflex, slip, cylinder, checked} {
		noise := rand.New(rand.NewPCG(9, uint64(len(r.Kind()))))
		asked := map[Reading]int{}
		for range people {
			actual, want := other(r, noise)
			force := r.LeastKnown().force() * math.Exp(0.2*noise.NormFloat64())
			if r.Kind() == Speed {
				force = 3 * math.Exp(0.15*noise.NormFloat64())
			}
			for _, as := range []Reading{AsAsked, BothWays, EverySecond} {
				if as == BothWays && r.Kind() == Speed {
					continue
				}
				var at []float64
				switch as {
				case BothWays:
					at = crossings(t, actual, force, 10)
				case EverySecond:
					all, err := actual.LeastKnown().events(actual, force, 14)
					if err != nil {
						t.Fatal(err)
					}
					for i := 0; i < len(all); i += 2 {
						at = append(at, all[i])
					}
				default:
					var err error
					if at, err = actual.LeastKnown().events(actual, force, 9); err != nil {
						t.Fatal(err)
					}
				}
				row := []float64{0.06 + 0.015*noise.NormFloat64()}
				for _, v := range at {
					row = append(row, math.Max(row[len(row)-1], 0.06+v+0.015*noise.NormFloat64()))
				}
				_, found, err := Calibrate(r, [][]float64{row}, nil)
				switch {
				case err != nil && as == AsAsked:
					t.Errorf("%s: %v", r.Kind(), err)
				case err != nil: // refused with the reason is as good as asked
					asked[as]++
				case found.Doubt != nil:
					asked[as]++
					if as != AsAsked && (found.Doubt.Reading != as ||
						math.Abs(r.LeastKnown().quicker(found.Doubt.Value)-r.LeastKnown().quicker(want)) > 0.12) {
						t.Errorf("%s tapped %s: taken for %+v, and it is %.3g", r.Kind(), as, *found.Doubt, want)
					}
				}
			}
		}
		t.Logf("%-10s asked: tapped as asked %d, both ways %d, every second %d of %d", r.Kind(), asked[AsAsked],
			asked[BothWays], asked[EverySecond], people)
		if asked[AsAsked] > 1 || asked[BothWays] < people-1 && r.Kind() != Speed || asked[EverySecond] < people-1 {
			t.Errorf("%s: %v", r.Kind(), asked)
		}
	}
}

// Cords of 120 N/m, every crossing tapped: they came out at 451 and nothing was said.
func TestEveryCrossing(t *testing.T) {
	actual, believed := doubleEnd, doubleEnd
	actual.Upper.Stiffness, actual.Lower.Stiffness = 120, 120
	row := append([]float64{0}, crossings(t, actual, 2, 10)...)
	_, found, err := Calibrate(believed, [][]float64{row}, nil)
	if err != nil || found.Doubt == nil || found.Doubt.Reading != BothWays {
		t.Fatalf("%+v, %v", found, err)
	}
	near(t, "stiffness", found.Doubt.Value/120, 1, 0.03)
	t.Logf("as asked %.0f N/m, both ways %.0f N/m", found.Value, found.Doubt.Value)
	_, again, err := CalibrateAs(believed, [][]float64{row}, BothWays, nil)
	if err != nil || again.Doubt != nil || again.Value != found.Doubt.Value {
		t.Errorf("%+v, %v", again, err)
	}
	// Counted against a watch: eleven crossings for six returns.
	at := crossings(t, actual, 2, 11)
	_, counted, err := CalibrateCount(believed, 11, at[10], AsAsked, nil)
	if err != nil || counted.Doubt == nil || counted.Doubt.Reading != BothWays {
		t.Fatalf("%+v, %v", counted, err)
	}
	near(t, "stiffness", counted.Doubt.Value/120, 1, 0.05)
}

// The moments that are shown are those that the fit expects.
func TestMoments(t *testing.T) {
	for _, r := range []Rig{doubleEnd, reflex, slip, cylinder, checked} {
		at, trace, amplitude, err := Moments(r, 6)
		if err != nil || len(at) != 6 || len(trace) < 20 || amplitude <= 0 || trace[len(trace)-1].At < at[5] {
			t.Fatalf("%s: %v, %d points to %.2f s, %.2f m, %v", r.Kind(), at, len(trace), trace[len(trace)-1].At,
				amplitude, err)
		}
		_, found, err := Calibrate(r, [][]float64{append([]float64{0}, at...)}, nil)
		if err != nil || found.Doubt != nil || found.Residual > 0.003 {
			t.Errorf("%s: %+v, %v", r.Kind(), found, err)
		}
	}
}
