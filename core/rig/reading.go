package rig

import (
	"errors"
	"math"

	"melodromos/core/input"
)

// Reading is a way in which somebody may have tapped along, or counted returns.
type Reading string

// As it was asked for; at every crossing, on the way out as well as on the way in, so that twice as many were
// counted; or only every second time, so that half as many were.
const (
	AsAsked     Reading = ""
	BothWays    Reading = "twice"
	EverySecond Reading = "half"
)

// Values lists them.
func (Reading) Values() []Reading { return []Reading{AsAsked, BothWays, EverySecond} }

// Alternative is another reading of a measurement that explains it as well and lies nearer to the bag as it was known.
type Alternative struct {
	Reading Reading
	Value   float64 // that it comes to
}

// Moments are the n moments (s after the strike) that are tapped when a bag is calibrated, for a strike at half power
// or a gentle swing, as the bag is known now, and the swing until the last of them. amplitude is m for a swing of 1.
func Moments(r Rig, n int) (at []float64, trace []TracePoint, amplitude float64, err error) {
	f := r.LeastKnown()
	launch := f.force()
	if at, err = f.events(r, launch, n); err != nil {
		return nil, nil, 0, err
	}
	if b, ok := r.(SpeedBag); ok {
		trace, err = b.Trace(launch, Meeting{Rebounds: n + 1}, 28)
		return at, trace, b.arm() * b.Contact(), err
	}
	trace, amplitude = r.Trail([]Blow{{Launch: launch}}, launch, at[len(at)-1]+0.3)
	return at, trace, amplitude, nil
}

// force is the launch (pull) that is asked for.
func (f Parameter) force() float64 {
	if f.Gentle != 0 {
		return f.Gentle
	}
	return halfPower
}

// asTapped fits to the moments of a reading. Of the two rows of every second moment the one that leaves less over
// counts.
func (f Parameter) asTapped(as Reading, fit func(Parameter) (Rig, Calibration, error)) (Rig, Calibration, error) {
	ways := map[Reading][]func(at []float64, i int) float64{
		BothWays: {crossing},
		EverySecond: {
			func(at []float64, i int) float64 { return at[2*i] },
			func(at []float64, i int) float64 { return at[2*i+1] },
		},
	}[as]
	if len(ways) == 0 {
		return fit(f)
	}
	var r Rig
	var best Calibration
	err := error(input.Refuse("taps", "expected fewer moments for a bag that was tapped in this way"))
	found := false
	for _, way := range ways {
		g := f
		g.Moments = func(r Rig, launch float64, n int) ([]float64, error) {
			all := 2 * n // every second one needs twice as many
			if as == BothWays {
				all = n/2 + 1
			}
			at, err := f.events(r, launch, all)
			if err != nil {
				return nil, err
			}
			list := make([]float64, n)
			for i := range list {
				list[i] = way(at, i)
			}
			return list, nil
		}
		with, c, failed := fit(g)
		switch {
		case failed != nil && !found:
			err = failed
		case failed == nil && (!found || c.Residual < best.Residual):
			r, best, err, found = with, c, nil, true
		}
	}
	return r, best, err
}

// crossing is the i-th crossing (from 0) of a bag whose inbound ones are known: those on the way out lie midway
// between.
func crossing(at []float64, i int) float64 {
	if i%2 == 0 {
		return at[i/2]
	}
	return (at[i/2] + at[i/2+1]) / 2
}

// When a measurement is doubted: the bag would be quicker or slower than it was known by more than this, or more is
// left over than taps leave. Assumed.
const (
	otherBag = 0.30  // as a logarithm of the time of its third return
	clumsy   = 0.035 // s
)

// doubted adds a doubt to a fit where another reading explains it better. A fit that failed is refused with what may
// have happened.
func (f Parameter) doubted(fit Rig, c Calibration, failed error,
	read func(Reading) (Calibration, error)) (Rig, Calibration, error) {
	var refused *input.Error
	if failed != nil && (!errors.As(failed, &refused) || refused.Field != "taps" && refused.Field != "seconds") {
		return fit, c, failed
	}
	off := math.Inf(1)
	if failed == nil {
		if off = math.Abs(f.quicker(c.Value)); off <= otherBag && !(c.Residual > clumsy) {
			return fit, c, nil
		}
	}
	for _, as := range []Reading{BothWays, EverySecond} {
		other, err := read(as)
		if err != nil {
			if !errors.As(err, &refused) {
				return fit, c, err
			}
			continue
		}
		nearer := math.Abs(f.quicker(other.Value)) < 0.6*off
		better := other.Residual < 0.5*c.Residual && math.Abs(f.quicker(other.Value)) < off
		if failed == nil && !(nearer && other.Residual <= 1.5*math.Max(c.Residual, handError) || better) ||
			failed != nil && math.Abs(f.quicker(other.Value)) > otherBag {
			continue
		}
		if failed != nil {
			what := "as if it had been tapped both ways"
			if as == EverySecond {
				what = "as if only every second one had been tapped"
			}
			return fit, c, input.Refuse(refused.Field,
				"expected what this bag could give; it looks %s: look at the moments that are shown, and measure again",
				what)
		}
		if c.Doubt == nil || math.Abs(f.quicker(other.Value)) < math.Abs(f.quicker(c.Doubt.Value)) {
			c.Doubt = &Alternative{as, other.Value}
		}
	}
	return fit, c, failed
}

// quicker is the logarithm of how much sooner than now the bag comes back for the third time with another value.
func (f Parameter) quicker(value float64) float64 {
	const third = 3
	time := func(v float64) float64 {
		at, err := f.events(f.With(v), f.force(), third)
		if err != nil {
			return math.NaN()
		}
		return at[third-1]
	}
	return math.Log(time(f.Value) / time(value))
}
