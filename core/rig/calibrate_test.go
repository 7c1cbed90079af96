package rig

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/optimize"

	"melodromos/core/input"
)

// tapped simulates somebody who taps along with strikes of given launches: late by a steady 80 ms, with a spread.
func tapped(t *testing.T, r Rig, seed uint64, spread float64, n int, launches ...float64) [][]float64 {
	t.Helper()
	f := r.LeastKnown()
	noise := rand.New(rand.NewPCG(seed, 7))
	var rows [][]float64
	for _, launch := range launches {
		at, err := f.events(r, launch, n-1)
		if err != nil {
			t.Fatal(err)
		}
		row := []float64{5.08 + spread*noise.NormFloat64()}
		for _, v := range at {
			row = append(row, math.Max(row[len(row)-1], 5.08+v+spread*noise.NormFloat64()))
		}
		rows = append(rows, row)
	}
	return rows
}

// Exact taps give the parameter back, whatever the launch and from a wrong start, for every kind.
func TestCalibrateExact(t *testing.T) {
	wrong := doubleEnd
	wrong.Upper.Stiffness, wrong.Lower.Stiffness = 110, 110
	sprung, hung, chained, pumped := reflex, slip, cylinder, checked
	sprung.Spring, hung.AnchorHeight, chained.Chain, pumped.Restitution = 65, 2.75, 0.7, 0.7
	for _, c := range []struct {
		real, believed Rig
		want           float64
		launches       []float64
	}{
		{doubleEnd, wrong, 150, []float64{2.4, 3.1}},
		{reflex, sprung, 50, []float64{1.6}},
		{slip, hung, 2.6, []float64{0.315}},
		{cylinder, chained, 0.5, []float64{0.5}},
		{checked, pumped, 0.8, []float64{3}},
	} {
		fit, found, err := Calibrate(c.believed, tapped(t, c.real, 1, 0, 9, c.launches...), nil)
		if err != nil {
			t.Fatalf("%s: %v", c.real.Kind(), err)
		}
		near(t, fmt.Sprintf("%s %s", c.real.Kind(), found.Parameter), found.Value/c.want, 1, 0.01)
		if found.Residual > 0.002 || fit.Check() != nil {
			t.Errorf("%s: %+v", c.real.Kind(), found)
		}
	}
}

// Two strikes of ten taps each with a spread of 30 ms, launch unknown: the stiffness within 5 % nine times in ten.
func TestCalibrateNoisyCords(t *testing.T) {
	believed := doubleEnd
	believed.Upper.Stiffness, believed.Lower.Stiffness = 200, 200
	const rounds = 20
	good := 0
	for seed := range uint64(rounds) {
		_, found, err := Calibrate(believed, tapped(t, doubleEnd, seed, 0.030, 10, 2, 3), nil)
		if err != nil {
			t.Fatal(err)
		}
		if math.Abs(found.Value/150-1) <= 0.05 {
			good++
		}
		if found.Residual < 0.012 || found.Residual > 0.060 {
			t.Errorf("seed %d: the taps' spread is given as %.3f s", seed, found.Residual)
		}
	}
	if good < rounds*9/10 {
		t.Errorf("within 5 %% in %d of %d", good, rounds)
	}
}

// One tap in the wrong place does not carry the fit along.
func TestCalibrateOutlier(t *testing.T) {
	believed := doubleEnd
	believed.Upper.Stiffness, believed.Lower.Stiffness = 120, 120
	rows := tapped(t, doubleEnd, 3, 0.005, 12, 2.5)
	rows[0][6] += 0.2
	_, found, err := Calibrate(believed, rows, nil)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "stiffness", found.Value/150, 1, 0.03)
	if found.Outliers == 0 {
		t.Error("the tap in the wrong place was not noticed")
	}
}

func TestCalibrateCount(t *testing.T) {
	list, err := doubleEnd.Returns(halfPower, Meeting{}, 6)
	if err != nil {
		t.Fatal(err)
	}
	believed := doubleEnd
	believed.Upper.Stiffness, believed.Lower.Stiffness = 90, 90
	_, found, err := CalibrateCount(believed, 6, list[5].At, AsAsked, nil)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "stiffness", found.Value, 150, 1e-3)
	_, _, err = CalibrateCount(believed, 6, 200, AsAsked, nil)
	var refused *input.Error
	if !errors.As(err, &refused) || refused.Field != "seconds" {
		t.Errorf("six returns in 200 s: %v", err)
	}
}

func TestCalibrateRefusals(t *testing.T) {
	for what, rows := range map[string][][]float64{
		"none": {}, "too few": {{0, 1}}, "out of order": {{0, 1, 0.5, 2}}, "no numbers": {{0, 1, 2, math.NaN()}},
		"endless": {{0, 1, 2, math.Inf(1)}},
	} {
		_, _, err := Calibrate(doubleEnd, rows, nil)
		var refused *input.Error
		if !errors.As(err, &refused) {
			t.Errorf("%s: %v, want a refusal", what, err)
		}
	}
}

func BenchmarkCalibrate(b *testing.B) {
	believed := doubleEnd
	believed.Upper.Stiffness, believed.Lower.Stiffness = 200, 200
	rows := [][]float64{{0, 0.25, 0.75, 1.25, 1.75, 2.25, 2.76, 3.26}}
	for b.Loop() {
		if _, _, err := Calibrate(believed, rows, nil); err != nil {
			b.Fatal(err)
		}
	}
}

// A time started at one return and stopped some later gives the parameter back, for every kind; so does its error: ±30
// ms at either end, through the slope.
func TestCalibratePeriod(t *testing.T) {
	for _, c := range []struct {
		real, believed Rig
		launch         float64
		n              int
	}{
		{doubleEnd, doubleEnd.Wound(1.05), halfPower, 6},
		{reflex, ReflexBag{0.22, 0.9, 1.1, 0.8, 70, 0.06}, halfPower, 4},
		{slip, SlipBag{2.9, 1.55, 0.2, 0.5}, 0.3 * slip.Drop(), 6},
		{cylinder, HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.9}, 0.5, 5},
		{checked, SpeedBag{0.23, 0.15, 0.25, 0.02, 0.6, 0}, halfPower, 1},
	} {
		f := c.real.LeastKnown()
		at, err := f.events(c.real, c.launch, c.n+1)
		if err != nil {
			t.Fatalf("%s: %v", c.real.Kind(), err)
		}
		believed := c.believed
		if d, ok := believed.(DoubleEndBag); ok { // the same cords, another stiffness
			d.Upper.Relaxed, d.Lower.Relaxed, d.Upper.Span, d.Lower.Span = cord.Relaxed, cord.Relaxed, cord.Span,
				cord.Span
			believed = d
		}
		_, found, err := CalibratePeriod(believed, c.n, at[c.n]-at[0], AsAsked, nil)
		if err != nil {
			t.Fatalf("%s: %v", c.real.Kind(), err)
		}
		near(t, string(c.real.Kind()), found.Value/f.Value, 1, 0.02)
		if !(found.Spread > 0) || found.TapError != handError {
			t.Errorf("%s: %+v", c.real.Kind(), found)
		}
	}
	if _, _, err := CalibratePeriod(slip, 4, 0.2, AsAsked, nil); err == nil {
		t.Error("four passes in a fifth of a second were believed")
	}
}

// The stated error is about right: over many noisy calibrations the truth lies within two of it about 95 times in a
// hundred, and the taps' own spread is found.
func TestCalibrationError(t *testing.T) {
	believed := doubleEnd
	believed.Upper.Stiffness, believed.Lower.Stiffness = 190, 190
	const rounds = 16
	within, taps := 0, 0.0
	for seed := range uint64(rounds) {
		_, found, err := Calibrate(believed, tapped(t, doubleEnd, 900+seed, 0.02, 10, 2.2, 3), nil)
		if err != nil {
			t.Fatal(err)
		}
		if math.Abs(found.Value-150) <= 2*found.Spread {
			within++
		}
		taps += found.TapError / rounds
	}
	if within < 12 || within == rounds && taps > 0.03 {
		t.Errorf("within two errors %d times in %d", within, rounds)
	}
	near(t, "spread of the taps", taps, 0.02, 0.005)
}

// Whoever has gone is worked for no longer, and gets no fit of half the work.
func TestCalibrateStops(t *testing.T) {
	rows := tapped(t, doubleEnd, 1, 0.01, 9, 2, 3)
	gone := errors.New("gone")
	asked := 0
	_, _, err := Calibrate(doubleEnd, rows, func() error {
		if asked++; asked > 3 {
			return gone
		}
		return nil
	})
	if !errors.Is(err, gone) || asked > 5 {
		t.Errorf("%v after %d", err, asked)
	}
}

// Down the slope comes to the same foot as another way of looking for it, gonum's simplex of Nelder and Mead, which
// knows no slope.
func TestDescendAgainstSimplex(t *testing.T) {
	pole := ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50, Damping: 0.06}
	for _, bag := range []Rig{doubleEnd, pole} {
		f := bag.LeastKnown()
		f.Value *= 1.15
		strikes := tapped(t, bag, 4, 0.02, 8, 2.1, 3)
		strikes[1][5] += 0.2 // one tap far off
		start := []float64{math.Log(f.Value), math.Log(halfPower), math.Log(halfPower)}
		misfit := func(p []float64) float64 { return f.misfit(p, strikes, 0.02) }
		simplex, err := optimize.Minimize(optimize.Problem{Func: misfit}, start,
			&optimize.Settings{FuncEvaluations: 2000}, &optimize.NelderMead{SimplexSize: 0.15})
		if err != nil {
			t.Fatal(err)
		}
		foot, least, err := f.descend(start, strikes, 0.02, func() error { return nil })
		if err != nil || least > simplex.F+1e-4 || math.Abs(foot[0]-simplex.X[0]) > 1e-3 {
			t.Errorf("%s: %.6f at %.5f, the simplex %.6f at %.5f, %v", bag.Kind(), least, foot, simplex.F, simplex.X,
				err)
		}
	}
}

// A fit by count or by period asks all along whether to go on, and ends with what it is told, on every kind of bag.
func TestTimedFitsStop(t *testing.T) {
	gone := errors.New("nobody waits any more")
	for _, m := range Models() {
		bag := m.Everyday.Rig
		for name, fit := range map[string]func(Rig, int, float64, Reading, func() error) (Rig, Calibration, error){
			"count": CalibrateCount, "period": CalibratePeriod} {
			asked := 0
			_, _, err := fit(bag, 6, 4, AsAsked, func() error {
				if asked++; asked > 10 {
					return gone
				}
				return nil
			})
			if !errors.Is(err, gone) || asked > 20 {
				t.Errorf("%s by %s: %v after it was asked %d times", m.Name, name, err, asked)
			}
		}
	}
}
