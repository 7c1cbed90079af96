// Package motion holds how things swing: times on the arc of a free pendulum, and root finding.
package motion

import (
	"math"

	"gonum.org/v1/gonum/integrate/quad"
)

// Gravity is standard gravity in m/s² (3rd CGPM, 1901).
const Gravity = 9.80665

// Pendulum is a body that swings freely about a fixed axis, without loss: θ̈ = −Rate² sin θ.
type Pendulum struct {
	Rate float64 // Ω in rad/s, above 0; √(m g d / I) for a solid body
}

// SpeedAt returns the angular speed in rad/s at angle theta (rad) of a pendulum that passes its lowest point at bottom
// rad/s, from the balance of energy ω² = ω_B² − 4Ω² sin²(θ/2). It is 0 beyond the turning point.
func (p Pendulum) SpeedAt(theta, bottom float64) float64 {
	s := math.Sin(theta / 2)
	return math.Sqrt(math.Max(0, bottom*bottom-4*p.Rate*p.Rate*s*s))
}

// BottomSpeed returns the speed in rad/s at the lowest point of a pendulum that moves at speed rad/s at angle theta
// (rad).
func (p Pendulum) BottomSpeed(theta, speed float64) float64 {
	return math.Hypot(speed, 2*p.Rate*math.Sin(theta/2))
}

// TimeTo returns the time in seconds from the lowest point to angle theta (rad, −π < θ < π; negative angles give
// negative times) of a pendulum that passes the lowest point at bottom rad/s. Beyond the turning point it is NaN; at
// the turning point itself it is a quarter period.
//
// It is the quadrature of dt = dθ/ω(θ), taken in the variable in which the integrand stays smooth: φ = θ/2 where the
// pendulum would go over the top, and sin ψ = √m sin(θ/2), m = 4Ω²/ω_B², where it swings; the reciprocal-modulus
// transformation of the incomplete elliptic integral of the first kind (Abramowitz & Stegun 1964, 17.4.15).
// Gauss–Legendre with 24 nodes is exact to about 1e-13 for |θ| up to 90°.
func (p Pendulum) TimeTo(theta, bottom float64) float64 {
	root := 2 * p.Rate / bottom // √m
	s := math.Sin(theta / 2)
	if root <= 1 {
		m := root * root
		return 2 / bottom * legendre(theta/2, func(phi float64) float64 {
			sp := math.Sin(phi)
			return 1 / math.Sqrt(1-m*sp*sp)
		})
	}
	x := root * s
	if math.Abs(x) > 1 {
		if math.Abs(x) > 1+1e-12 { // beyond rounding
			return math.NaN()
		}
		x = math.Copysign(1, x)
	}
	inv := 1 / (root * root)
	return 1 / p.Rate * legendre(math.Asin(x), func(psi float64) float64 {
		sp := math.Sin(psi)
		return 1 / math.Sqrt(1-inv*sp*sp)
	})
}

// Period returns the full period in seconds of a swing with the given amplitude (rad, 0 ≤ amplitude < π):
// (4/Ω) K(sin²(amplitude/2)). Exact to about 1e-13 up to 90°; worse towards the top.
func (p Pendulum) Period(amplitude float64) float64 {
	s := math.Sin(amplitude / 2)
	return 4 / p.Rate * legendre(math.Pi/2, func(psi float64) float64 {
		sp := math.Sin(psi)
		return 1 / math.Sqrt(1-s*s*sp*sp)
	})
}

const nodes = 24

var legendreX, legendreW = func() ([]float64, []float64) {
	x, w := make([]float64, nodes), make([]float64, nodes)
	quad.Legendre{}.FixedLocations(x, w, 0, 1)
	return x, w
}()

// legendre integrates f from 0 to end.
func legendre(end float64, f func(float64) float64) float64 {
	sum := 0.0
	for i, x := range legendreX {
		sum += legendreW[i] * f(end*x)
	}
	return end * sum
}
