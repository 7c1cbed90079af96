package trainee

import (
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/rig"
)

var today = time.Date(2026, 5, 4, 18, 0, 0, 0, time.UTC)

func of(list []Estimate, f Figure) Estimate {
	for _, e := range list {
		if e.Figure == f {
			return e
		}
	}
	return Estimate{}
}

// Nothing found: the band's figures, assumed. Rounds take over as they come in, on their own bag more than on another,
// and the older they are the less.
func TestEstimates(t *testing.T) {
	a, list := Estimates(Beginner, rig.Speed, nil, today)
	if a != Start(Beginner) || of(list, Timing).Origin != Assumed || of(list, Timing).Weight != 1 ||
		of(list, Timing).Found != 0 {
		t.Errorf("%+v %+v", a, list)
	}
	finding := func(days int, bag rig.Kind) Evidence {
		return Evidence{Figure: Timing, Bag: bag, Value: 0.05, Spread: 0.005, Origin: Rounds,
			At: today.AddDate(0, 0, -days)}
	}
	once, list := Estimates(Beginner, rig.Speed, []Evidence{finding(0, rig.Speed)}, today)
	if e := of(list, Timing); e.Origin != Rounds || e.Found != 1 || !(once.Timing < 0.058) {
		t.Errorf("after a round: %+v", e)
	}
	for name, e := range map[string]Evidence{"on another bag": finding(0, rig.Reflex),
		"a year ago": finding(365, rig.Speed)} {
		far, _ := Estimates(Beginner, rig.Speed, []Evidence{e}, today)
		if !(far.Timing > once.Timing && far.Timing < 0.09) {
			t.Errorf("%s: %g, %g on the day", name, far.Timing, once.Timing)
		}
	}
	late := Evidence{Figure: Bias, Bag: rig.Speed, Value: 0.03, Spread: 0.002, Origin: Rounds, At: today}
	on, _ := Estimates(Beginner, rig.Speed, []Evidence{late}, today)
	off, _ := Estimates(Beginner, rig.Reflex, []Evidence{late}, today)
	if on.Bias < 0.025 || off.Bias != 0 {
		t.Errorf("late by %g on its bag, %g on another", on.Bias, off.Bias)
	}
	// Fingers are not fists: what they tap only bounds the figure from below.
	quick := Evidence{Figure: Timing, Value: 0.02, Spread: 0.002, Origin: Tested, Floor: true, At: today}
	slow := Evidence{Figure: Timing, Value: 0.08, Spread: 0.004, Origin: Tested, Floor: true, At: today}
	a, _ = Estimates(Beginner, "", []Evidence{quick}, today)
	b, list := Estimates(Beginner, "", []Evidence{slow}, today)
	if math.Abs(a.Timing-0.09) > 1e-12 || math.Abs(b.Timing-0.12) > 1e-12 || of(list, Timing).Origin != Tested {
		t.Errorf("floors: %g, %g", a.Timing, b.Timing)
	}
}

// Rounds of simulated errors with known parts give the timing fraction and the lateness back, with spreads that hold
// what they say.
func TestFromRound(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 12))
	a := Start(Intermediate)
	const w, age, bias, n = 0.07, 0.31, 0.012, 80
	hold, rounds := 0, 400
	var values []float64
	for range rounds {
		errors := make([]float64, n)
		for i := range errors {
			errors[i] = bias + math.Hypot(a.Motor, w*age)*r.NormFloat64()
		}
		found := FromRound(Heard{Bag: rig.Speed, At: today, Spread: stat.StdDev(errors, nil), Age: age, Matched: n,
			Planned: n + 4, Missed: 4, Bias: stat.Mean(errors, nil), Known: true}, a)
		if len(found) != 3 {
			t.Fatalf("%+v", found)
		}
		values = append(values, found[0].Value)
		if math.Abs(found[0].Value-w) < 2*found[0].Spread && math.Abs(found[1].Value-bias) < 2*found[1].Spread {
			hold++
		}
		near(t, "missed", found[2].Value, 4.5/85, 1e-12)
	}
	near(t, "timing on the mean", stat.Mean(values, nil), w, 0.001)
	if share := float64(hold) / float64(rounds); share < 0.86 || share > 0.97 { // two at 95 %
		t.Errorf("both within two standard errors in %.0f %% of the rounds", 100*share)
	}
	if FromRound(Heard{Spread: 0.02, Age: 0.3, Matched: 19, Planned: 30}, a) != nil {
		t.Error("19 strikes are too few to say")
	}
}

func BenchmarkEstimates(b *testing.B) {
	var found []Evidence
	for i := range 300 {
		found = append(found, Evidence{Figure: Timing, Bag: rig.Speed, Value: 0.06, Spread: 0.006, Origin: Rounds,
			At: today.AddDate(0, 0, -i)})
	}
	for b.Loop() {
		Estimates(Beginner, rig.Speed, found, today)
	}
}
