package rig

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/optimize"
)

// least looks for the parameters of the least misfit, which is infinite where the bag gives no such taps. Where the
// times go smoothly with them it goes down the slope; at a speed bag, where a rebound more or less is a step, it feels
// its way (Nelder & Mead 1965). An error is that of stop.
func (f Parameter) least(start []float64, strikes [][]float64, spread float64,
	stop func() error) ([]float64, float64, error) {
	if !f.Abrupt {
		return f.descend(start, strikes, spread, stop)
	}
	problem := optimize.Problem{
		Func: func(p []float64) float64 { return f.misfit(p, strikes, spread) },
		Status: func() (optimize.Status, error) {
			if err := stop(); err != nil {
				return optimize.Failure, err
			}
			return optimize.NotTerminated, nil
		},
	}
	best, failed := optimize.Minimize(problem, start,
		&optimize.Settings{FuncEvaluations: 600, Converger: &optimize.FunctionConverge{Absolute: 1e-6, Iterations: 30}},
		&optimize.NelderMead{SimplexSize: 0.15})
	if err := stop(); err != nil {
		return nil, 0, err
	}
	if failed != nil {
		return start, math.Inf(1), nil
	}
	return best.X, best.F, nil
}

const (
	firstDamping = 1e-3
	littleGain   = 1e-6 // of the misfit, at which it is as small as it gets
	mostDescents = 60
)

// descend goes down the slope by steps of Marquardt's (1963), each between the step to where a straight line would have
// it least and a small one straight down; taps far off weigh less in it (Huber).
func (f Parameter) descend(start []float64, strikes [][]float64, spread float64,
	stop func() error) ([]float64, float64, error) {
	p, misfit, damping := slices.Clone(start), f.misfit(start, strikes, spread), firstDamping
	for range mostDescents {
		if err := stop(); err != nil {
			return nil, 0, err
		}
		curve, slope, ok := f.normal(p, strikes, spread)
		if !ok {
			break
		}
		before := misfit
		for ; misfit == before && damping < 1e9; damping *= 10 {
			next, ok := step(p, curve, slope, damping)
			if !ok {
				continue
			}
			if m := f.misfit(next, strikes, spread); m < misfit {
				p, misfit = next, m
				damping /= 100
			}
		}
		if !(before-misfit > littleGain) {
			break
		}
	}
	return p, misfit, nil
}

// step returns the parameters after one Levenberg–Marquardt step with the given damping; false where the equations
// cannot be solved.
func step(p []float64, curve *mat.SymDense, slope *mat.VecDense, damping float64) ([]float64, bool) {
	n := len(p)
	raised := mat.NewSymDense(n, nil)
	raised.CopySym(curve)
	for k := range n {
		raised.SetSym(k, k, curve.At(k, k)*(1+damping))
	}
	var factors mat.Cholesky
	if !factors.Factorize(raised) {
		return nil, false
	}
	var by mat.VecDense
	if factors.SolveVecTo(&by, slope) != nil {
		return nil, false
	}
	next := slices.Clone(p)
	for k := range next {
		next[k] -= by.AtVec(k)
	}
	return next, true
}

// normal gives the normal equations of the taps' errors, straightened at p. A strike's taps go by the value and by its
// own launch alone, so that one look tells how those of all strikes change with their launches.
func (f Parameter) normal(p []float64, strikes [][]float64,
	spread float64) (curve *mat.SymDense, slope *mat.VecDense, ok bool) {
	const by = 1e-5
	moved := func(value, launches float64) ([][]float64, bool) {
		q := slices.Clone(p)
		q[0] += value
		for k := range q[1:] {
			q[k+1] += launches
		}
		return f.errors(q, strikes)
	}
	at, ok := moved(0, 0)
	if !ok {
		return nil, nil, false
	}
	other, ok := moved(by, 0)
	if !ok {
		return nil, nil, false
	}
	harder, ok := at, true
	if len(p) > 1 {
		if harder, ok = moved(0, by); !ok {
			return nil, nil, false
		}
	}
	curve, slope = mat.NewSymDense(len(p), nil), mat.NewVecDense(len(p), nil)
	add := func(j, k int, v float64) { curve.SetSym(j, k, curve.At(j, k)+v) }
	for i := range strikes {
		own := min(i+1, len(p)-1) // the launch, where it is fitted
		for k, e := range at[i] {
			weight := math.Min(1, tapWeight*spread/math.Max(math.Abs(e), 1e-12)) / (spread * spread)
			d, l := (other[i][k]-e)/by, (harder[i][k]-e)/by
			add(0, 0, weight*d*d)
			slope.SetVec(0, slope.AtVec(0)+weight*d*e)
			if own > 0 {
				add(0, own, weight*d*l)
				add(own, own, weight*l*l)
				slope.SetVec(own, slope.AtVec(own)+weight*l*e)
			}
		}
		if own > 0 {
			add(own, own, 1/(launchSpread*launchSpread))
			slope.SetVec(own, slope.AtVec(own)+(p[own]-math.Log(halfPower))/(launchSpread*launchSpread))
		}
	}
	return curve, slope, true
}
