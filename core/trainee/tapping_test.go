package trainee

import (
	"errors"
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/input"
)

func near(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tolerance) {
		t.Errorf("%s: %g, want %g ± %g", what, got, want, tolerance)
	}
}

// tapped simulates taps of the two-process model of Wing & Kristofferson (1973): a clock that ticks with a spread, and
// a hand that follows each tick with a delay of its own spread.
func tapped(r *rand.Rand, n int, period, clock, motor, drift float64) []float64 {
	at, taps := 0.0, []float64{}
	for i := range n {
		taps = append(taps, 1+at+motor*r.NormFloat64())
		at += period + clock*r.NormFloat64() + drift*float64(i)
	}
	return taps
}

// Simulated tapping with a clock of 20 ms and a hand of 10 ms, the model of Wing & Kristofferson (1973).
func TestSplit(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 10))
	var intervals []float64
	before := 0.010 * r.NormFloat64()
	for range 20000 {
		delay := 0.010 * r.NormFloat64()
		intervals = append(intervals, 0.5+0.020*r.NormFloat64()+delay-before)
		before = delay
	}
	clock, motor, clipped := Split(intervals)
	near(t, "clock", clock, 0.020, 0.001)
	near(t, "hand", motor, 0.010, 0.001)
	if clipped {
		t.Error("clipped")
	}
	if c, m, _ := Split(intervals[:29]); !math.IsNaN(c) || !math.IsNaN(m) {
		t.Errorf("29 intervals: %g %g, want none", c, m)
	}
	slow := make([]float64, 100) // neighbours alike: the hand's part comes out negative
	for i := range slow {
		slow[i] = 0.5 + 0.05*math.Sin(float64(i)/10)
	}
	if _, m, clipped := Split(slow); m != 0 || !clipped {
		t.Errorf("neighbours alike: hand %g, clipped %v", m, clipped)
	}
}

// The theoretical lag-1 autocorrelation of the model lies between 0, all clock, and −1/2, all hand (Wing &
// Kristofferson 1973), and what is recovered keeps to it.
func TestLagOne(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	for _, c := range []struct{ clock, motor float64 }{{0.02, 0}, {0.02, 0.01}, {0.01, 0.01}, {0, 0.01}} {
		taps := tapped(r, 40000, 0.5, c.clock, c.motor, 0)
		gaps, err := between(taps)
		if err != nil {
			t.Fatal(err)
		}
		lag := stat.Correlation(gaps[1:], gaps[:len(gaps)-1], nil)
		theory := -c.motor * c.motor / (c.clock*c.clock + 2*c.motor*c.motor)
		near(t, "lag-1 autocorrelation", lag, theory, 0.015)
		if lag < -0.5-0.015 || lag > 0.015 {
			t.Errorf("%+v: %g is outside 0 … −1/2", c, lag)
		}
		clock, motor, _ := Split(gaps)
		near(t, "clock", clock, c.clock, 0.0012)
		near(t, "hand", motor, c.motor, 0.0012)
	}
}

// The beat test as it is run, two trials of 40 taps, finds known variances on the whole, a drift of the tempo taken
// off, and what it finds of the clock is a floor.
func TestKeepBeat(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	var clock, motor []float64
	for range 400 {
		trials := [][]float64{tapped(r, BeatAlone, BeatPeriod, 0.018, 0.009, 2e-4),
			tapped(r, BeatAlone, BeatPeriod, 0.018, 0.009, -1e-4)}
		res, err := KeepBeat(trials, BeatPeriod)
		if err != nil {
			t.Fatal(err)
		}
		clock, motor = append(clock, res.Clock*res.Clock), append(motor, res.Motor*res.Motor)
		for _, e := range res.Found {
			if e.Floor != (e.Figure == Timing) || e.Origin != Tested || e.Check() != nil {
				t.Fatalf("%+v", e)
			}
		}
	}
	near(t, "clock variance", stat.Mean(clock, nil)/(0.018*0.018), 1, 0.12)
	near(t, "hand variance", stat.Mean(motor, nil)/(0.009*0.009), 1, 0.15)
}

// A stumble moves neither a rate nor a reaction; what is not a reaction is left out and counted.
func TestRatesAndReactions(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 8))
	taps := tapped(r, 60, 0.17, 0.01, 0.005, 0)
	for i := 30; i < len(taps); i++ {
		taps[i] += 0.4 // once stuck
	}
	rate, err := Rate(TwoHands, taps, Fists)
	if err != nil {
		t.Fatal(err)
	}
	e := rate.Found[0]
	near(t, "rate", e.Value, 0.17, 4*e.Spread)
	if e.Figure != Alternate || e.Floor || e.Spread > 0.005 {
		t.Errorf("%+v", e)
	}
	if fingers, _ := Rate(OneHand, taps, Fingers); !fingers.Found[0].Floor || fingers.Found[0].Figure != SameHand {
		t.Errorf("%+v", fingers)
	}
	waits := []float64{0.04, 0.21, 0.19, 0.22, 0.2, 1.4, 0.23, 0.18, 0.2, 0.21}
	seen, err := React(ToLight, waits)
	if err != nil || seen.LeftOut != 2 || seen.Found[0].Figure != Sight {
		t.Fatalf("%+v, %v", seen, err)
	}
	near(t, "reaction", seen.Found[0].Value, 0.205, 0.005)
}

func TestTapsRefused(t *testing.T) {
	even := func(n int, gap float64) []float64 {
		list := make([]float64, n)
		for i := range list {
			list[i] = gap * float64(i)
		}
		return list
	}
	for name, err := range map[string]error{
		"few":          second(Rate(TwoHands, even(5, 0.2), Fists)),
		"backwards":    second(Rate(TwoHands, append(even(20, 0.2), 1), Fists)),
		"too quick":    second(Rate(TwoHands, even(100, 0.01), Fists)),
		"not a number": second(Rate(OneHand, append(even(20, 0.2), math.NaN()), Fists)),
		"off the beat": second(KeepBeat([][]float64{even(42, 0.9), even(42, 0.9)}, BeatPeriod)),
		"no reactions": second(React(ToSound, []float64{0.01, 0.02, 2, 3, 0.2, 0.2})),
	} {
		var refused *input.Error
		if !errors.As(err, &refused) || refused.Field != "taps" {
			t.Errorf("%s: %v", name, err)
		}
	}
}

func second(_ TestResult, err error) error { return err }

func FuzzTaps(f *testing.F) {
	f.Add([]byte{1, 2, 3, 50, 60, 70, 80, 90, 100, 110, 120, 130, 140, 150}, 0.1)
	f.Fuzz(func(t *testing.T, steps []byte, unit float64) {
		at, taps := 0.0, []float64{}
		for _, s := range steps {
			at += unit * float64(s)
			taps = append(taps, at)
		}
		for _, test := range []func() (TestResult, error){
			func() (TestResult, error) { return Rate(TwoHands, taps, Fists) },
			func() (TestResult, error) { return KeepBeat([][]float64{taps, taps}, BeatPeriod) },
			func() (TestResult, error) { return React(ToLight, taps) },
		} {
			r, err := test()
			for _, e := range r.Found {
				if err == nil && (e.Check() != nil || math.IsNaN(e.Spread)) {
					t.Errorf("%+v", e)
				}
			}
		}
	})
}
