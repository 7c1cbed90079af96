package rig

import (
	"math"

	"melodromos/core/input"
	"melodromos/core/motion"
	"melodromos/core/words"
)

// DefaultPoleDamping is the damping ratio of a sprung pole. Assumed; calibration replaces it.
const DefaultPoleDamping = 0.06

// ReflexBag is a ball on a sprung pole, an inverted pendulum that its spring holds up: I θ̈ = −κθ + (m + m_p/2) ℓ g sin
// θ − c θ̇ with I = mℓ² + m_pℓ²/3 (inertia tables: a point and a thin rod about its end).
type ReflexBag struct {
	BallDiameter float64 // m
	BallMass     float64 // kg
	PoleLength   float64 // m, spring to ball centre
	PoleMass     float64 // kg
	Spring       float64 // N·m/rad
	Damping      float64 // ratio of the small swing
}

// MarshalJSON writes the document that Read reads.
func (b ReflexBag) MarshalJSON() ([]byte, error) { return reflexTable.Document(Reflex, b) }

// Kind of this rig.
func (ReflexBag) Kind() Kind { return Reflex }

// weight is the moment (N·m/rad) with which gravity pulls the pole over.
func (b ReflexBag) weight() float64 {
	return (b.BallMass + b.PoleMass/2) * b.PoleLength * motion.Gravity
}

// Inertia returns the moment of inertia about the spring in kg·m².
func (b ReflexBag) Inertia() float64 {
	return (b.BallMass + b.PoleMass/3) * b.PoleLength * b.PoleLength
}

// Check refuses measures outside their limits or that do not go together, by field; a pole that does not stand among
// them.
func (b ReflexBag) Check() error {
	if err := reflexTable.Check(b); err != nil {
		return err
	}
	if b.BallDiameter/2 >= b.PoleLength {
		return input.Refuse("ballDiameter", "expected a radius below the pole's %s, not %s", words.Metres(b.PoleLength),
			words.Metres(b.BallDiameter/2))
	}
	if b.Spring <= b.weight() {
		return input.Refuse("spring", "expected more than %.1f N·m/rad, not %g: the pole does not stand up", b.weight(),
			b.Spring)
	}
	return nil
}

func (b ReflexBag) swing() oscillator {
	i, over := b.Inertia(), b.weight()
	c := 2 * b.Damping * math.Sqrt((b.Spring-over)*i)
	return oscillator{
		swing:    motion.Swing{Accel: func(x, v float64) float64 { return (-b.Spring*x + over*math.Sin(x) - c*v) / i }},
		arm:      b.PoleLength,
		radius:   b.BallDiameter / 2,
		small:    math.Sqrt((b.Spring-over)/i) * math.Sqrt(1-b.Damping*b.Damping),
		furthest: math.Pi / 2,
		felt:     i / (b.PoleLength * b.PoleLength),
		fist:     ballFist,
	}
}

// Returns gives the first n returns after a strike at launch m/s at the ball: inbound passages of the upright. A strike
// that drives the pole past 90° is refused, naming launch.
func (b ReflexBag) Returns(launch float64, _ Meeting, n int) ([]Return, error) {
	return b.swing().returns(launch, n)
}

// Limits gives the slowest and the fastest tempo, over strikes that drive the pole to 60° at most.
func (b ReflexBag) Limits(m Meeting) (Tempo, error) { return b.swing().limits(m) }

// Struck answers from a strike to its tempo.
func (b ReflexBag) Struck(launch float64, m Meeting) (TempoAnswer, error) {
	return b.swing().struck(launch, m)
}

// Solve answers from a wanted tempo to the strike, where the pole allows it. Force hardly moves the tempo of a pole.
func (b ReflexBag) Solve(tempo float64, m Meeting) (TempoAnswer, error) {
	return b.swing().solve(tempo, m)
}

// fistRadius (m) of a gloved fist that meets a ball. Assumed.
const fistRadius = 0.045

// OffLine returns the angle (rad) by which a strike that lands off metres beside the centre of a ball sends it off its
// line: asin(off/(R + 0.045 m)). Past the centre it comes back on the other side by the same angle. NaN where the fist
// misses.
func OffLine(ballDiameter, off float64) float64 {
	return math.Asin(off / (ballDiameter/2 + fistRadius))
}

// CarriedOff returns the angle (rad) off its line at which a ball leaves that came in off line by in (rad) at inbound
// m/s and was met flush by a straight that drives it off at launch m/s: the blow gives it no speed sideways and takes
// none, so it keeps what it had. The error carries over from hit to hit until it is straightened.
func CarriedOff(in, inbound, launch float64) float64 {
	return math.Atan2(inbound*math.Sin(in), launch)
}

// Settle returns the time (s) after a strike at launch m/s until the swing stays within one ball radius; +Inf where it
// never does.
func (b ReflexBag) Settle(launch float64) (float64, error) { return b.swing().settle(launch) }
