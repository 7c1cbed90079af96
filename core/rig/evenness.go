package rig

import (
	"math"

	"melodromos/core/input"
	"melodromos/core/motion"
)

// Evenness tells how a double-end ball comes back when it is struck level: Height (m) above (or, negative, below) the
// height at which it was struck, at the moment At (s) when it comes back through the strike plane. Shift (m) is by how
// much the lower cord's relaxed length was let out so that the ball stands still against its own weight.
type Evenness struct{ Height, At, Shift float64 }

// Evenness computes a level strike at launch m/s in two dimensions, with gravity. A ball off the middle of its anchors
// comes back uneven (common practice). A lower cord that would have to push to hold the ball up is refused, naming
// lower.relaxed.
func (b DoubleEndBag) Evenness(launch float64) (Evenness, error) {
	return b.evenness(launch, motion.Gravity)
}

func (b DoubleEndBag) evenness(launch, gravity float64) (Evenness, error) {
	if err := LaunchLimits.Check("launch", launch); err != nil {
		return Evenness{}, err
	}
	pull := b.Upper.tension() - b.BallMass*gravity // N in the lower cord at rest
	if pull <= 0 {
		return Evenness{}, input.Refuse("lower.relaxed",
			"expected a tighter upper cord: with %.1f N it does not hold up a ball of %.1f N, and the lower cord hangs slack", b.Upper.tension(), b.BallMass*gravity)
	}
	lower := b.Lower
	lower.Relaxed = lower.Span - pull/lower.Stiffness
	if lower.Relaxed <= 0 {
		return Evenness{}, input.Refuse("lower.relaxed",
			"expected a stiffer lower cord: it cannot balance the upper one on this span")
	}
	c := 2 * b.Damping * math.Sqrt(b.across()*b.BallMass)
	accel := func(x, y, vx, vy float64) (float64, float64) {
		fx, fy := -c*vx, -c*vy-b.BallMass*gravity
		for _, k := range []struct {
			Cord
			anchor float64 // height above the ball at rest
		}{{b.Upper, b.Upper.Span}, {lower, -lower.Span}} {
			dx, dy := -x, k.anchor-y
			l := math.Hypot(dx, dy)
			f := k.Stiffness * math.Max(0, l-k.Relaxed) / l
			fx, fy = fx+f*dx, fy+f*dy
		}
		return fx / b.BallMass, fy / b.BallMass
	}
	period := 2 * math.Pi * math.Sqrt(b.BallMass/b.across())
	at, y, err := motion.Plane{Accel: accel}.ReturnTo(0, launch, period/4000, 4*period)
	if err != nil {
		return Evenness{}, err
	}
	return Evenness{Height: y, At: at, Shift: lower.Relaxed - b.Lower.Relaxed}, nil
}
