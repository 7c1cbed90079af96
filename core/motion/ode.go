package motion

import (
	"errors"
	"math"
)

// ErrAtRest says that a motion died away, or went on too long, before it did what was waited for.
var ErrAtRest = errors.New("motion: the swing dies away before that")

// Swing is a motion along one coordinate, x″ = Accel(x, x′).
type Swing struct {
	Accel func(x, v float64) float64
}

// Passage is a moment of a swing: it goes through one of the levels that were watched, or it turns.
type Passage struct {
	At   float64 // s
	X, V float64 // where and how fast
	Turn bool    // V passes 0 here; otherwise X passes a level
}

const (
	precision = 1e-9 // relative local error of a step
	maxSteps  = 200_000
)

// Follow swings from x with speed v at time 0 and reports, in order, every turn and every passage through one of the
// levels, until see returns false. It returns ErrAtRest where the motion has not brought that about after limit
// seconds.
//
// The integration is the Runge–Kutta pair of Dormand & Prince (1980) of order 5(4) with steps chosen by its error
// estimate. Between two turns x is monotonic, so no passage is missed; a moment inside a step is found by taking
// shorter steps of the same formula until it is met to rounding.
func (s Swing) Follow(x, v, limit float64, levels []float64, see func(Passage) bool) error {
	t, h, a := 0.0, s.firstStep(x, v), s.Accel(x, v)
	for range maxSteps {
		if t >= limit {
			return ErrAtRest
		}
		nx, nv, na, off := s.step(x, v, a, h)
		if off > 1 {
			h *= max(0.2, 0.9/math.Sqrt(math.Sqrt(off)))
			continue
		}
		grown := h * min(4, 0.86/math.Sqrt(math.Sqrt(off+1e-10)))
		// A turn inside the step cuts it in two, so that levels are looked for on a monotonic stretch.
		taken, turned := h, false
		if v*nv < 0 {
			taken, turned = s.meetTurn(x, v, a, h), true
			nx, nv, na, _ = s.step(x, v, a, taken)
		}
		if !s.levels(x, v, a, t, taken, nx, levels, see) {
			return nil
		}
		t, x, v, a, h = t+taken, nx, nv, na, grown
		if turned {
			if !see(Passage{At: t, X: x, Turn: true}) {
				return nil
			}
			v, h = 0, math.Min(grown, math.Max(taken, h/4))
			if a = s.Accel(x, 0); a == 0 {
				return ErrAtRest
			}
		}
	}
	return ErrAtRest
}

// levels reports the passages through levels inside one monotonic stretch, in the order in which they come.
func (s Swing) levels(x, v, a, t, taken, nx float64, levels []float64, see func(Passage) bool) bool {
	for {
		next, at := math.NaN(), math.Inf(1)
		for _, level := range levels {
			// A stretch that begins on a level has reported it already.
			if (x-level)*(nx-level) < 0 || (nx == level && x != level) {
				if d := math.Abs(level - x); d < at {
					next, at = level, d
				}
			}
		}
		if math.IsNaN(next) {
			return true
		}
		part := taken
		if nx != next {
			part = s.meetLevel(x, v, a, taken, next)
		}
		_, pv, pa, _ := s.step(x, v, a, part)
		if !see(Passage{At: t + part, X: next, V: pv}) {
			return false
		}
		x, v, a, t, taken = next, pv, pa, t+part, taken-part
		if taken <= 0 {
			return true
		}
	}
}

// meetTurn finds the part of a step after which the swing turns.
func (s Swing) meetTurn(x, v, a, h float64) float64 {
	return meet(h, func(part float64) (off, slope float64) {
		_, nv, na, _ := s.step(x, v, a, part)
		return nv, na
	})
}

// meetLevel finds the part of a step after which the swing stands at a level.
func (s Swing) meetLevel(x, v, a, h, level float64) float64 {
	return meet(h, func(part float64) (off, slope float64) {
		nx, nv, _, _ := s.step(x, v, a, part)
		return nx - level, nv
	})
}

// meet finds the part of a step of h (s) after which a value is 0, whose slope is known exactly, x′ = v and v′ = Accel:
// Newton's method takes three or four steps; where it strays, Root is asked.
func meet(h float64, at func(part float64) (off, slope float64)) float64 {
	first, _ := at(0)
	last, _ := at(h)
	if first*last > 0 {
		return h // the sign changes only in rounding, at the end
	}
	part := h * first / (first - last)
	for range 8 {
		off, slope := at(part)
		next := part - off/slope
		if !(next >= 0 && next <= h) {
			break
		}
		if math.Abs(next-part) <= 1e-14*h+1e-16 {
			return next
		}
		part = next
	}
	root, err := Root(func(part float64) float64 { off, _ := at(part); return off }, 0, h, 1e-15)
	if err != nil {
		return h
	}
	return root
}

// firstStep is a cautious guess: a hundredth of the time scale of the motion.
func (s Swing) firstStep(x, v float64) float64 {
	a := math.Abs(s.Accel(x, v))
	scale := math.Max(math.Abs(x), 1e-3)
	h := 0.01 * math.Sqrt(scale/math.Max(a, 1e-9))
	if v != 0 {
		h = math.Min(h, 0.05*scale/math.Abs(v)+1e-6)
	}
	return math.Max(h, 1e-7)
}

// step takes one step of the pair of Dormand & Prince from a state with acceleration a. It returns the new state with
// its acceleration, and the error estimate over the precision.
func (s Swing) step(x, v, a, h float64) (nx, nv, na, off float64) {
	f := s.Accel
	k1x, k1v := v, a
	at := func(dx, dv float64) (float64, float64) {
		nv := v + h*dv
		return nv, f(x+h*dx, nv)
	}
	k2x, k2v := at(k1x/5, k1v/5)
	k3x, k3v := at(3*k1x/40+9*k2x/40, 3*k1v/40+9*k2v/40)
	k4x, k4v := at(44*k1x/45-56*k2x/15+32*k3x/9, 44*k1v/45-56*k2v/15+32*k3v/9)
	k5x, k5v := at(19372*k1x/6561-25360*k2x/2187+64448*k3x/6561-212*k4x/729,
		19372*k1v/6561-25360*k2v/2187+64448*k3v/6561-212*k4v/729)
	k6x, k6v := at(9017*k1x/3168-355*k2x/33+46732*k3x/5247+49*k4x/176-5103*k5x/18656,
		9017*k1v/3168-355*k2v/33+46732*k3v/5247+49*k4v/176-5103*k5v/18656)
	dx := 35*k1x/384 + 500*k3x/1113 + 125*k4x/192 - 2187*k5x/6784 + 11*k6x/84
	dv := 35*k1v/384 + 500*k3v/1113 + 125*k4v/192 - 2187*k5v/6784 + 11*k6v/84
	nx, nv = x+h*dx, v+h*dv
	k7x, k7v := nv, f(nx, nv)
	ex := h * (71*k1x/57600 - 71*k3x/16695 + 71*k4x/1920 - 17253*k5x/339200 + 22*k6x/525 - k7x/40)
	ev := h * (71*k1v/57600 - 71*k3v/16695 + 71*k4v/1920 - 17253*k5v/339200 + 22*k6v/525 - k7v/40)
	sx := precision * (math.Abs(x) + math.Abs(h*v) + 1e-4)
	sv := precision * (math.Abs(v) + math.Abs(h*k1v) + 1e-4)
	return nx, nv, k7v, max(math.Abs(ex)/sx, math.Abs(ev)/sv)
}

// SwingState is a swing at a moment.
type SwingState struct{ At, X, V float64 }

// Sample follows the swing from x with speed v for end seconds and gives n + 1 states at even times, the first at 0.
// The steps are the caller's: for pictures, not for figures.
func (s Swing) Sample(x, v, end float64, n int) []SwingState {
	list := make([]SwingState, 0, n+1)
	h, a := end/float64(n), s.Accel(x, v)
	for i := range n {
		list = append(list, SwingState{float64(i) * h, x, v})
		x, v, a, _ = s.step(x, v, a, h)
	}
	return append(list, SwingState{end, x, v})
}
