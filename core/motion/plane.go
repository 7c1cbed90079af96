package motion

import "math"

// Plane is a motion in a plane under an acceleration that depends on place and velocity.
type Plane struct {
	Accel func(x, y, vx, vy float64) (ax, ay float64)
}

// ReturnTo follows the motion from (0, y) with velocity (vx, 0), vx > 0, in steps of h seconds until x comes back to 0,
// and returns the moment (s) and y there. It returns ErrAtRest where that takes longer than limit seconds. Classical
// Runge–Kutta of order 4; the last step is found by Root.
func (p Plane) ReturnTo(y, vx, h, limit float64) (at, height float64, err error) {
	s := [4]float64{0, y, vx, 0}
	for at = 0.0; at < limit; at += h {
		next := p.step(s, h)
		if at > 0 && s[0] > 0 && next[0] <= 0 {
			part, err := Root(func(part float64) float64 { return p.step(s, part)[0] }, 0, h, 1e-14)
			if err != nil {
				part = h
			}
			return at + part, p.step(s, part)[1], nil
		}
		s = next
	}
	return math.NaN(), math.NaN(), ErrAtRest
}

func (p Plane) step(s [4]float64, h float64) [4]float64 {
	slope := func(s [4]float64) [4]float64 {
		ax, ay := p.Accel(s[0], s[1], s[2], s[3])
		return [4]float64{s[2], s[3], ax, ay}
	}
	along := func(k [4]float64, h float64) (t [4]float64) {
		for i := range t {
			t[i] = s[i] + h*k[i]
		}
		return t
	}
	k1 := slope(s)
	k2 := slope(along(k1, h/2))
	k3 := slope(along(k2, h/2))
	k4 := slope(along(k3, h))
	for i := range s {
		s[i] += h / 6 * (k1[i] + 2*k2[i] + 2*k3[i] + k4[i])
	}
	return s
}
