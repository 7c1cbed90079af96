package drill

import (
	"math"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/rig"
)

// The bags simulated anew, from their measures alone and by another route than the product's: the equations of motion
// with fixed small steps of the classical Runge-Kutta method (Kutta 1901), in the unit of what swings (m of a ball, rad
// of a pole or bag).
type anew struct {
	accel  func(x, v float64) float64
	board  float64 // rad; 0 where there is none
	keeps  float64 // share of the speed kept at the board
	arm    float64 // m
	x0     float64 // where it is struck
	inside func(x float64) bool
}

const slice = 2e-5 // s

func (a anew) step(x, v, h float64) (float64, float64) {
	k1x, k1v := v, a.accel(x, v)
	k2x, k2v := v+h/2*k1v, a.accel(x+h/2*k1x, v+h/2*k1v)
	k3x, k3v := v+h/2*k2v, a.accel(x+h/2*k2x, v+h/2*k2v)
	k4x, k4v := v+h*k3v, a.accel(x+h*k3x, v+h*k3v)
	x += h / 6 * (k1x + 2*k2x + 2*k3x + k4x)
	v += h / 6 * (k1v + 2*k2v + 2*k3v + k4v)
	if a.board > 0 && math.Abs(x) >= a.board && x*v > 0 {
		x, v = math.Copysign(a.board, x), -a.keeps*v
	}
	return x, v
}

// after follows the bag from a launch (m/s) for so many seconds.
func (a anew) after(launch, seconds float64) (x, v float64) {
	x, v = a.x0, launch/a.arm
	n := int(seconds / slice)
	for range n {
		x, v = a.step(x, v, slice)
	}
	return a.step(x, v, seconds-float64(n)*slice)
}

func cordForce(c rig.Cord, x float64) float64 {
	l := math.Hypot(c.Span, x)
	return c.Stiffness * math.Max(0, l-c.Relaxed) * x / l
}

func anewOf(r rig.Rig) anew {
	const g = 9.80665
	switch b := r.(type) {
	case rig.DoubleEndBag:
		tension := func(c rig.Cord) float64 { return c.Stiffness * (c.Span - c.Relaxed) / c.Span }
		damping := 2 * b.Damping * math.Sqrt((tension(b.Upper)+tension(b.Lower))*b.BallMass)
		return anew{arm: 1, inside: func(x float64) bool { return math.Abs(x) <= b.BallDiameter/2 },
			accel: func(x, v float64) float64 {
				return -(cordForce(b.Upper, x) + cordForce(b.Lower, x) + damping*v) / b.BallMass
			}}
	case rig.ReflexBag:
		inertia := b.BallMass*b.PoleLength*b.PoleLength + b.PoleMass*b.PoleLength*b.PoleLength/3
		weight := (b.BallMass + b.PoleMass/2) * b.PoleLength * g
		damping := 2 * b.Damping * math.Sqrt((b.Spring-weight)*inertia)
		return anew{arm: b.PoleLength,
			inside: func(x float64) bool { return math.Abs(x)*b.PoleLength <= b.BallDiameter/2 },
			accel:  func(x, v float64) float64 { return (-b.Spring*x + weight*math.Sin(x) - damping*v) / inertia }}
	case rig.SpeedBag:
		radius := b.BagDiameter / 2
		d := b.BagLength - radius
		inertia := b.BagMass * (d*d + 2*radius*radius/3)
		return anew{arm: d, x0: 25 * math.Pi / 180, board: math.Acos((radius - b.SwivelDrop) / d), keeps: b.Restitution,
			inside: func(x float64) bool { return x >= 5*math.Pi/180 && x <= 45*math.Pi/180 },
			accel:  func(x, _ float64) float64 { return -b.BagMass * g * d / inertia * math.Sin(x) }}
	case rig.HangingBag:
		d := b.Chain + b.Length/2
		inertia := b.Mass * (b.Diameter*b.Diameter/16 + b.Length*b.Length/12 + d*d)
		return anew{arm: d, inside: func(x float64) bool { return x >= 0 },
			accel: func(x, _ float64) float64 { return -b.Mass * g * d / inertia * math.Sin(x) }}
	}
	panic("no such bag here")
}

// Every strike of a drill that lands on returns finds the bag in reach and on its way in, on the rig simulated anew by
// another route; also off a harder blow, past a return that is let through, and at the edges of the strike's window.
func TestStrikesInsideWindowsAnew(t *testing.T) {
	for _, on := range []rig.Rig{bag, gentle, taut, pole, heavy} {
		sim := anewOf(on)
		for _, text := range []string{"1-2-3-2", "1! - 2 - wait - 1", "1-2 - slip lead - 3-2!"} {
			r := land(t, thrown(text), on, able)
			before := Landed{}
			for _, m := range r.Moves {
				if m.Kind() != combo.Strike {
					continue
				}
				if m.Return > 0 {
					half := m.Window / 2 * 0.94 // the way in is not quite even about the strike point
					if on.Kind() == rig.Speed && half > 0.004 {
						half = 0.004 // its window is even about the angle, not about the moment
					}
					for _, shift := range []float64{-half, 0, half} {
						if x, v := sim.after(before.Launch, m.At+shift-before.Back); !sim.inside(x) || v >= 0 {
							t.Errorf("%s, %q, %s %+.0f ms: the bag is at %.4f, going %.3f", on.Kind(), text,
								m.Placed.Move, 1000*shift, x, v)
						}
					}
				}
				before = m
			}
		}
	}
}

// Two tempos, not one (common practice): the wait between combinations leaves the tempo inside alone, and the force
// inside leaves the wait alone.
func TestTwoTempos(t *testing.T) {
	for _, on := range []rig.Rig{gentle, pole, bag} {
		c := thrown("1-2")
		c.Fist = 2
		a, rep := compiled(t, c, on, 1)
		c.Pause = 5
		b, slow := compiled(t, c, on, 1)
		near(t, "inside", slow.Inside, rep.Inside, 1e-12)
		near(t, "between", b.Film.Starts[1]-a.Film.Starts[1], 3, 1e-9)
		c.Fist = 4
		d, hard := compiled(t, c, on, 1)
		if !(hard.Inside > rep.Inside) {
			t.Errorf("%s: harder is no quicker inside", on.Kind())
		}
		near(t, "the wait", d.Film.Starts[1]-d.Film.Starts[0]-hard.Length, 5, 1e-9)
	}
}
