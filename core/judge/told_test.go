package judge

import (
	"math"
	"math/rand/v2"
	"testing"
)

// What is said of a strike agrees with its verdict.
func TestTold(t *testing.T) {
	for want, got := range map[string]string{
		"44 ms late; 32 allowed":                      Told(Late, 0.0441, 0.064),
		"40 ms early; 32 allowed":                     Told(Early, -0.0404, 0.064),
		"32.2 ms late; 32.0 allowed":                  Told(Late, 0.0322, 0.064),
		"clean, 12 ms early; 32 allowed":              Told(Clean, -0.012, 0.064),
		"clean, on the moment; 32 allowed":            Told(Clean, 0.0004, 0.064),
		"with the other hand, 12 ms late; 32 allowed": Told(WrongHand, 0.012, 0.064),
		"missed; 32 ms either way allowed":            Told(Missed, math.NaN(), 0.064),
	} {
		if got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// The two parts of the scatter go by what was due: gaps that the plan makes uneven are in neither. A timekeeper of
// 10 ms and a hand of 6 ms are found again (Wing & Kristofferson 1973: the intervals are the clock's, and each hit is
// late or early by the hand); and whatever the hits are, neither part is more than twice their spread.
func TestScatterBesideThePlan(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 8))
	gaps := []float64{0.45, 0.45, 0.6, 2.4}
	strikes := make([]Strike, 60)
	at := 0.0
	for i := range strikes {
		strikes[i] = Strike{At: at, Window: 0.4}
		at += gaps[i%len(gaps)]
	}
	const rounds = 100
	clock, motor := 0.0, 0.0
	for range rounds {
		behind := 0.0
		hits := late(strikes, func(int) float64 {
			behind += 0.010 * random.NormFloat64()
			return behind + 0.006*random.NormFloat64()
		})
		m := Measure(Judge(strikes, hits, Options{KeepOffset: true}), strikes, hits, 0, at, [2]float64{})
		clock, motor = clock+m.Clock*m.Clock/rounds, motor+m.Motor*m.Motor/rounds
	}
	near(t, "clock", math.Sqrt(clock), 0.010, 0.0007)
	near(t, "motor", math.Sqrt(motor), 0.006, 0.0007)

	hits := late(strikes, func(int) float64 { return 0.014 * random.NormFloat64() })
	even := Judge(strikes, hits, Options{KeepOffset: true})
	m := Measure(even, strikes, hits, 0, at, [2]float64{})
	if !(m.Clock < 2*even.Spread && m.Motor < 2*even.Spread) {
		t.Errorf("a spread of %g, and parts of %g and %g", even.Spread, m.Clock, m.Motor)
	}
}
