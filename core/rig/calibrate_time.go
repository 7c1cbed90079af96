package rig

import (
	"math"

	"gonum.org/v1/gonum/mat"

	"melodromos/core/input"
	"melodromos/core/motion"
)

// handError (s) is how far off somebody starts or stops a watch. Assumed; taps along with a bag show their own.
const handError = 0.03

// CalibrateCount fits the least-known parameter so that, struck at half power (a pendulum gently),
// the n-th return, pass or board sound comes so many seconds after the strike: "6 returns in 2.9 s". It is coarser than
// tapping along, since the force is assumed. stop is as for Calibrate.
func CalibrateCount(r Rig, n int, seconds float64, as Reading, stop func() error) (Rig, Calibration, error) {
	return calibrateTime(r, 0, n, seconds, as, stop)
}

// CalibratePeriod fits the least-known parameter to a time that was started at a return, pass or board sound and
// stopped n of them later. The force is assumed as for CalibrateCount.
func CalibratePeriod(r Rig, n int, seconds float64, as Reading, stop func() error) (Rig, Calibration, error) {
	return calibrateTime(r, 1, n, seconds, as, stop)
}

// calibrateTime fits the time from event from (0 the strike, 1 the first return) to the n-th event after it.
func calibrateTime(r Rig, from, n int, seconds float64, as Reading, stop func() error) (Rig, Calibration, error) {
	if stop == nil {
		stop = func() error { return nil }
	}
	fit, c, err := r.LeastKnown().asTapped(as,
		func(f Parameter) (Rig, Calibration, error) { return f.time(r, from, n, seconds, stop) })
	if as == AsAsked {
		return r.LeastKnown().doubted(fit, c, err, func(as Reading) (Calibration, error) {
			_, c, err := calibrateTime(r, from, n, seconds, as, stop)
			return c, err
		})
	}
	return fit, c, err
}

func (f Parameter) time(r Rig, from, n int, seconds float64, stop func() error) (Rig, Calibration, error) {
	if err := r.Check(); err != nil {
		return r, Calibration{}, err
	}
	if err := (input.Limits{Min: 1, Max: mostTaps}).Check("count", float64(n)); err != nil {
		return r, Calibration{}, err
	}
	if err := (input.Limits{Min: 0.05, Max: 300, Unit: "s"}).Check("seconds", seconds); err != nil {
		return r, Calibration{}, err
	}
	launch := f.Gentle
	if launch == 0 {
		launch = halfPower
	}
	var stopped error // the search goes on over what is not a number, to its end
	took := func(log float64) float64 {
		if stopped == nil {
			stopped = stop()
		}
		if stopped != nil {
			return math.NaN()
		}
		changed := f.With(math.Exp(log))
		if changed.Check() != nil {
			return math.NaN()
		}
		at, err := f.events(changed, launch, from+n)
		if err != nil {
			return math.NaN()
		}
		if from == 0 {
			return at[n-1]
		}
		return at[n] - at[0]
	}
	// The widest stretch around today's value on which the bag still answers.
	low, high := math.Log(f.Value), math.Log(f.Value)
	for range 60 {
		if !math.IsNaN(took(low - 0.05)) {
			low -= 0.05
		}
		if !math.IsNaN(took(high + 0.05)) {
			high += 0.05
		}
	}
	log, err := motion.Root(func(log float64) float64 { return took(log) - seconds }, low, high, 1e-9)
	if stopped != nil {
		return r, Calibration{}, stopped
	}
	if err != nil {
		return r, Calibration{}, input.Refuse("seconds",
			"expected a time that this bag could take for %d; is it the right bag, and was every one counted?", n)
	}
	value := math.Exp(log)
	slope := (took(log+1e-3) - took(log-1e-3)) / 2e-3 // s for a part of the value
	if stopped != nil {
		return r, Calibration{}, stopped
	}
	return f.With(value), Calibration{
		Parameter: f.Field, Value: value, TapError: handError,
		Spread: value * handError * math.Sqrt2 / math.Abs(slope), // two moments, the start and the stop
	}, nil
}

// uncertain returns the standard error of the logarithm of the fitted value, from taps with a spread (s): the first
// entry of spread²(JᵀJ + P)⁻¹, P from what is taken for granted of the strikes, J how each tap moves with the value,
// with each strike's launch and with its steady lateness (linear theory of least squares). NaN where the taps do not
// tell them apart.
func (f Parameter) uncertain(p []float64, strikes [][]float64, spread float64) float64 {
	rows := 0
	for _, taps := range strikes {
		rows += len(taps)
	}
	columns := len(p) + len(strikes)
	if rows <= columns {
		return math.NaN()
	}
	j := mat.NewDense(rows, columns, nil)
	const step = 1e-4
	at := func(p []float64, strike int) []float64 {
		launch := f.Gentle
		if launch == 0 {
			launch = math.Exp(p[strike+1])
		}
		list, err := f.events(f.With(math.Exp(p[0])), launch, len(strikes[strike])-1)
		if err != nil {
			return nil
		}
		return list
	}
	row := 0
	for strike, taps := range strikes {
		for col := range p {
			if col > 0 && col != strike+1 {
				continue
			}
			up, down := append([]float64{}, p...), append([]float64{}, p...)
			up[col] += step
			down[col] -= step
			high, low := at(up, strike), at(down, strike)
			if high == nil || low == nil {
				return math.NaN()
			}
			for k := 1; k < len(taps); k++ {
				j.Set(row+k, col, (high[k-1]-low[k-1])/(2*step))
			}
		}
		for k := range taps {
			j.Set(row+k, len(p)+strike, 1)
		}
		row += len(taps)
	}
	var product, inverse mat.Dense
	product.Mul(j.T(), j)
	for col := 1; col < len(p); col++ { // what is taken for granted of the strikes counts as well
		product.Set(col, col, product.At(col, col)+math.Pow(spread/launchSpread, 2))
	}
	if err := inverse.Inverse(&product); err != nil || inverse.At(0, 0) < 0 {
		return math.NaN()
	}
	return spread * math.Sqrt(inverse.At(0, 0))
}
