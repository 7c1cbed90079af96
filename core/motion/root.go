package motion

import (
	"errors"
	"math"
)

// ErrNoBracket says that a function has the same sign at both ends of the interval it was to be solved on.
var ErrNoBracket = errors.New("motion: the ends do not bracket a root")

// Root finds x between a and b with f(x) = 0, to a width of tol in x, by Brent's method (R. P. Brent, Algorithms for
// Minimization without Derivatives, 1973, ch. 4). f must be continuous and of opposite sign at a and b; otherwise
// ErrNoBracket. At most 200 evaluations.
func Root(f func(float64) float64, a, b, tol float64) (float64, error) {
	fa, fb := f(a), f(b)
	if fa == 0 {
		return a, nil
	}
	if fb == 0 {
		return b, nil
	}
	if math.IsNaN(fa) || math.IsNaN(fb) || fa*fb > 0 {
		return math.NaN(), ErrNoBracket
	}
	c, fc := a, fa
	step, last := b-a, b-a
	for range 200 {
		if fb*fc > 0 {
			c, fc, step, last = a, fa, b-a, b-a
		}
		if math.Abs(fc) < math.Abs(fb) { // b is always the best point so far
			a, b, c = b, c, b
			fa, fb, fc = fb, fc, fb
		}
		limit := 2*0x1p-52*math.Abs(b) + tol/2
		half := (c - b) / 2
		if math.Abs(half) <= limit || fb == 0 {
			return b, nil
		}
		if math.Abs(last) < limit || math.Abs(fa) <= math.Abs(fb) {
			step, last = half, half
		} else {
			step, last = interpolate(a, b, c, fa, fb, fc, half, limit, step, last)
		}
		a, fa = b, fb
		if math.Abs(step) > limit {
			b += step
		} else {
			b += math.Copysign(limit, half)
		}
		fb = f(b)
	}
	return b, nil
}

// interpolate proposes the next step by inverse quadratic interpolation or the secant, and falls back on bisection
// where the proposal is not trusted.
func interpolate(a, b, c, fa, fb, fc, half, limit, step, last float64) (float64, float64) {
	s := fb / fa
	var p, q float64
	if a == c {
		p, q = 2*half*s, 1-s
	} else {
		u, v := fa/fc, fb/fc
		p = s * (2*half*u*(u-v) - (b-a)*(v-1))
		q = (u - 1) * (v - 1) * (s - 1)
	}
	if p > 0 {
		q = -q
	}
	p = math.Abs(p)
	if 2*p < math.Min(3*half*q-math.Abs(limit*q), math.Abs(last*q)) {
		return p / q, step
	}
	return half, half
}
