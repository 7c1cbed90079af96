package rig

import "math"

// softest is the least launch (m/s) that is reckoned with where a rig has none of its own. Assumed.
const softest = 0.05

// Driven returns the launch (m/s) of a bag that a fist meets at fist m/s as it comes in at inbound m/s, 0 where it
// hangs still: the partly elastic impact of FistSpeed the other way round. It is held to what the rig allows: a speed
// bag reaches its board, and nothing is driven off harder than the limits of its tempos were looked for up to. A slip
// bag, which nobody has to strike, gives NaN.
func Driven(r Rig, fist, inbound float64, limits Tempo) float64 {
	mf, mb := r.Masses()
	share := (1 + fistRestitution) * mf / (mf + mb)
	launch := share*(fist+inbound) - inbound
	low, high := softest, math.Max(limits.SlowestLaunch, limits.FastestLaunch)
	if r.Kind() == Speed {
		low = limits.SlowestLaunch * (1 + 1e-6) // a hair above the softest, so that the board is really reached
	}
	return math.Min(math.Max(launch, low), high)
}

// Fist returns the fist speed (m/s) that drives a bag off at launch when it comes in at inbound (m/s); NaN for a slip
// bag.
func Fist(r Rig, launch, inbound float64) float64 {
	mf, mb := r.Masses()
	return impact(launch, inbound, mf, mb)
}

// Masses are assumed for the fist, and the bag's own about its swivel.
func (b SpeedBag) Masses() (fist, felt float64) { return fistMass, b.Inertia() / (b.arm() * b.arm()) }

// Masses are the ball's own, and that of a fist; assumed.
func (b DoubleEndBag) Masses() (fist, felt float64) { return ballFist, b.BallMass }

// Masses are those of ball and pole, felt at the ball.
func (b ReflexBag) Masses() (fist, felt float64) {
	return ballFist, b.Inertia() / (b.PoleLength * b.PoleLength)
}

// Masses are those of the bag about its anchor, felt at the strike point, and of a fist with an arm behind it.
func (b HangingBag) Masses() (fist, felt float64) {
	return hangingFist, b.Inertia() / (b.arm() * b.arm())
}

// Masses: nobody has to strike it.
func (SlipBag) Masses() (fist, felt float64) { return math.NaN(), math.NaN() }
