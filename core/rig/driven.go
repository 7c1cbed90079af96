package rig

import "math"

// mass returns the effective mass (kg) of a fist on a bag, and the mass as which the bag is felt at the strike point.
func mass(r Rig) (fist, felt float64) {
	switch b := r.(type) {
	case SpeedBag:
		return fistMass, b.Inertia() / (b.arm() * b.arm())
	case DoubleEndBag:
		o := b.swing()
		return o.fist, o.felt
	case ReflexBag:
		o := b.swing()
		return o.fist, o.felt
	case HangingBag:
		return hangingFist, b.Inertia() / (b.arm() * b.arm())
	}
	return math.NaN(), math.NaN()
}

// softest is the least launch (m/s) that is reckoned with where a rig has none of its own. Assumed.
const softest = 0.05

// Driven returns the launch (m/s) of a bag that a fist meets at fist m/s as it comes in at inbound m/s, 0 where it hangs still:
// the partly elastic impact of FistSpeed the other way round. It is held to what the rig allows: a speed bag reaches its board,
// and nothing is driven off harder than the limits of its tempos were looked for up to. A slip bag, which nobody has to strike,
// gives NaN.
func Driven(r Rig, fist, inbound float64, limits Tempo) float64 {
	mf, mb := mass(r)
	share := (1 + fistRestitution) * mf / (mf + mb)
	launch := share*(fist+inbound) - inbound
	low, high := softest, math.Max(limits.SlowestLaunch, limits.FastestLaunch)
	if r.Kind() == Speed {
		low = limits.SlowestLaunch * (1 + 1e-6) // a hair above the softest, so that the board is really reached
	}
	return math.Min(math.Max(launch, low), high)
}

// Fist returns the fist speed (m/s) that drives a bag off at launch when it comes in at inbound (m/s); NaN for a slip bag.
func Fist(r Rig, launch, inbound float64) float64 {
	mf, mb := mass(r)
	return impact(launch, inbound, mf, mb)
}
