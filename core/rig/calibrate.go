package rig

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/input"
)

// Calibration is the result of measuring a rig: its least-known parameter, and how well it fits.
type Calibration struct {
	// field of the rig's document that was fitted; for cords upper.stiffness, the lower one in proportion
	Parameter string
	Value     float64      // in the field's unit
	Spread    float64      // standard error of Value, from the error of the taps; NaN where they do not tell
	Launches  []float64    // m/s (pull in m) of the strikes, fitted along; nil where none was
	Residual  float64      // s, root mean square of what the fit leaves over
	TapError  float64      // s, spread of the taps, outliers set aside; assumed where a time was measured by hand
	Outliers  int          // taps that were further off than three spreads and counted for less
	Doubt     *Alternative // another way in which it may have been measured, to be asked about; nil for none
}

// Parameter is the measure of a rig that is least known, and so fitted by calibration.
type Parameter struct {
	Field string // of the rig's document
	Value float64
	With  func(value float64) Rig // the rig with another value
	// Moments lists the first n moments (s after the strike) that are tapped: returns, passes or board sounds. Nil
	// takes the returns.
	Moments func(r Rig, launch float64, n int) ([]float64, error)
	// Gentle is the launch (pull) that is taken for granted where the motion does not tell it: a pendulum's time hardly
	// depends on it. 0 where it is fitted along.
	Gentle float64
	// Abrupt says that a rebound more or less is a step: the moments do not go smoothly with the value and the launch.
	Abrupt bool
	Most   float64                         // that the value can be; 0 where nothing bounds it
	Told   func(value, was float64) string // what a new value means, in words
}

// events are the moments that are tapped.
func (f Parameter) events(r Rig, launch float64, n int) ([]float64, error) {
	if f.Moments == nil {
		return returnsOf(r, launch, n)
	}
	return f.Moments(r, launch, n)
}

func returnsOf(r Rig, launch float64, n int) ([]float64, error) {
	list, err := r.Returns(launch, Meeting{}, n)
	if err != nil {
		return nil, err
	}
	at := make([]float64, len(list))
	for i, one := range list {
		at[i] = one.At
	}
	return at, nil
}

const (
	leastTaps   = 4  // of one strike, the strike itself among them
	mostTaps    = 60 // of one strike
	mostStrikes = 10 // of one calibration
	// launchSpread is the error of a strike that is asked for at half power, as a logarithm: a factor of two
	// either way. Assumed; it keeps a strike whose force the taps do not tell from being taken for none at all.
	launchSpread = 0.7
	// spreads from which on a tap counts for less (Huber's estimator); common choices lie between 1.3 and 3
	tapWeight = 3.0
)

// Calibrate fits a rig's least-known parameter to strikes that were tapped along: each row holds the moments (s) of one
// strike, the strike itself first and then every return, pass or board sound in order. How hard each strike was is
// fitted with it, and so is a steady lateness of the taps, which shifts the strike's own tap as well. Taps far off
// count for less (Huber 1964). A pendulum is to be let swing gently; its launch is not fitted. The rig that comes back
// carries the fitted value. Rows that cannot be read are refused, naming taps. Where another reading of the taps
// explains them better, Doubt tells which. stop is asked all along, such as a context's Err; an error ends the fit and
// is returned. Nil never ends it.
func Calibrate(r Rig, strikes [][]float64, stop func() error) (Rig, Calibration, error) {
	return CalibrateAs(r, strikes, AsAsked, stop)
}

// CalibrateAs is Calibrate where the taps were made in another way than asked for.
func CalibrateAs(r Rig, strikes [][]float64, as Reading, stop func() error) (Rig, Calibration, error) {
	if stop == nil {
		stop = func() error { return nil }
	}
	fit, c, err := r.LeastKnown().asTapped(as,
		func(f Parameter) (Rig, Calibration, error) { return f.calibrate(r, strikes, stop) })
	if as == AsAsked {
		return r.LeastKnown().doubted(fit, c, err, func(as Reading) (Calibration, error) {
			_, c, err := CalibrateAs(r, strikes, as, stop)
			return c, err
		})
	}
	return fit, c, err
}

// calibrate fits to taps of the moments that f lists.
func (f Parameter) calibrate(r Rig, strikes [][]float64, stop func() error) (Rig, Calibration, error) {
	if err := r.Check(); err != nil {
		return r, Calibration{}, err
	}
	if len(strikes) == 0 || len(strikes) > mostStrikes {
		return r, Calibration{}, input.Refuse("taps", "expected 1 to %d strikes, not %d", mostStrikes, len(strikes))
	}
	for i, taps := range strikes {
		if len(taps) < leastTaps || len(taps) > mostTaps || !slices.IsSorted(taps) ||
			math.IsNaN(taps[0]+taps[len(taps)-1]) || math.IsInf(taps[len(taps)-1]-taps[0], 0) {
			return r, Calibration{}, input.Refuse(fmt.Sprintf("taps[%d]", i),
				"expected %d to %d moments in order, the strike first", leastTaps, mostTaps)
		}
	}
	start := []float64{math.Log(f.Value)} // logarithms, so that nothing turns negative
	if f.Gentle == 0 {
		for range strikes {
			start = append(start, math.Log(halfPower))
		}
	}
	spread := 0.05 // s; tightened once a first fit shows what the taps are worth
	var best []float64
	for range 2 {
		var misfit float64
		var err error
		if best, misfit, err = f.least(start, strikes, spread, stop); err != nil {
			return r, Calibration{}, err
		}
		if math.IsInf(misfit, 0) {
			return r, Calibration{}, input.Refuse("taps",
				"expected taps that this bag could have given; is it the right bag, and was every return tapped?")
		}
		start = best
		// robust: 1.4826 × the median is the spread of a normal
		spread = math.Max(0.003, 1.4826*median(f.errorSizes(best, strikes)))
	}
	left := f.errorSizes(best, strikes)
	// What was fitted takes some of the spread out of what is left.
	if free := len(left) - len(best) - len(strikes); free > 0 {
		spread *= math.Sqrt(float64(len(left)) / float64(free))
	}
	c := Calibration{Parameter: f.Field, Value: math.Exp(best[0]), TapError: spread}
	c.Spread = c.Value * f.uncertain(best, strikes, spread)
	squares := 0.0
	for _, e := range left {
		squares += e * e
		if e > tapWeight*spread {
			c.Outliers++
		}
	}
	c.Residual = math.Sqrt(squares / float64(len(left)))
	for _, v := range best[1:] {
		c.Launches = append(c.Launches, math.Exp(v))
	}
	fit := f.With(c.Value)
	if err := fit.Check(); err != nil {
		return r, Calibration{}, input.Refuse("taps",
			"expected taps that fit the measures of this bag: its %s came out at %.3g", f.Field, c.Value)
	}
	return fit, c, nil
}

// errors gives, for each tap of each strike, how far it is off the model (s), the steady lateness of the strike taken
// off.
func (f Parameter) errors(p []float64, strikes [][]float64) ([][]float64, bool) {
	r := f.With(math.Exp(p[0]))
	if r.Check() != nil {
		return nil, false
	}
	all := make([][]float64, len(strikes))
	for i, taps := range strikes {
		launch := f.Gentle
		if launch == 0 {
			launch = math.Exp(p[i+1])
		}
		at, err := f.events(r, launch, len(taps)-1)
		if err != nil {
			return nil, false
		}
		e := make([]float64, len(taps))
		for k := range taps {
			e[k] = taps[k]
			if k > 0 {
				e[k] -= at[k-1]
			}
		}
		late := median(slices.Clone(e)) // a first guess that no outlier moves, then the mean of what is near it
		near := e[:0:0]
		for _, v := range e {
			if math.Abs(v-late) < 0.15 {
				near = append(near, v)
			}
		}
		if len(near) > 0 {
			late = stat.Mean(near, nil)
		}
		for k := range e {
			e[k] -= late
		}
		all[i] = e
	}
	return all, true
}

func (f Parameter) misfit(p []float64, strikes [][]float64, spread float64) float64 {
	all, ok := f.errors(p, strikes)
	if !ok {
		return math.Inf(1)
	}
	sum := 0.0
	for _, log := range p[1:] {
		z := (log - math.Log(halfPower)) / launchSpread
		sum += z * z / 2
	}
	for _, e := range all {
		for _, v := range e {
			if z := math.Abs(v) / spread; z <= tapWeight {
				sum += z * z / 2
			} else {
				sum += tapWeight * (z - tapWeight/2)
			}
		}
	}
	return sum
}

// errorSizes lists the sizes of all errors of a fit.
func (f Parameter) errorSizes(p []float64, strikes [][]float64) []float64 {
	all, _ := f.errors(p, strikes)
	var list []float64
	for _, e := range all {
		for _, v := range e {
			list = append(list, math.Abs(v))
		}
	}
	return list
}

// median sorts the list.
func median(list []float64) float64 {
	if len(list) == 0 {
		return math.NaN()
	}
	slices.Sort(list)
	return stat.Quantile(0.5, stat.LinInterp, list, nil)
}
