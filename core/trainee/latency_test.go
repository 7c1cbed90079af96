package trainee

import (
	"errors"
	"math"
	"math/rand/v2"
	"testing"

	"melodromos/core/input"
)

func TestDelayOf(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	var beats, taps []float64
	for i := range 10 {
		b := 2 + 0.75*float64(i)
		beats = append(beats, b)
		if i != 3 { // one is slept through
			taps = append(taps, b+0.080+0.015*r.NormFloat64())
		}
	}
	taps = append(taps, 30) // and one tapped on after the end
	d, err := DelayOf(beats, taps)
	if err != nil || math.Abs(d.Late-0.080) > 0.015 || d.Matched != 9 || d.Spread > 0.04 {
		t.Errorf("%+v, %v", d, err)
	}
	for name, bad := range map[string][]float64{"too few": taps[:4], "none": nil,
		"uneven": {1.7, 3.05, 3.3, 4.6, 4.75, 6.0, 6.3, 7.5, 7.75, 9.0}} {
		var refused *input.Error
		if _, err := DelayOf(beats, bad); !errors.As(err, &refused) || refused.Field != "taps" {
			t.Errorf("%s: %v", name, err)
		}
	}
}
