package rig

import (
	"fmt"
	"math"

	"melodromos/core/input"
	"melodromos/core/motion"
)

const (
	fistMass        = 0.6 // kg, effective mass of a fist on a speed bag; assumed
	fistRestitution = 0.6 // of a gloved fist on a bag; assumed
)

// FistSpeed returns the fist speed in m/s that drives the bag off at launch when it comes in at inbound (both m/s, at
// the strike point); the bag is felt as m_b = I/d².
func (b SpeedBag) FistSpeed(launch, inbound float64) float64 {
	return impact(launch, inbound, fistMass, b.Inertia()/(b.arm()*b.arm()))
}

// cycle is the time in seconds from strike to strike at u rad/s at the first contact.
func (b SpeedBag) cycle(u float64, m Meeting) float64 {
	_, at := b.fly(u, m).boards()
	return at
}

// Limits returns the slowest and the fastest tempo of a meeting: the softest strike that reaches the board, and
// MaxLaunch.
func (b SpeedBag) Limits(m Meeting) (Tempo, error) {
	m, err := b.settle(m)
	if err != nil {
		return Tempo{}, err
	}
	return b.limits(m), nil
}

func (b SpeedBag) limits(m Meeting) Tempo {
	return Tempo{
		Rebounds: m.Rebounds, Face: m.Face,
		Slowest: 60 / b.cycle(0, m), SlowestLaunch: b.least(m.Angle),
		Fastest: 60 / b.cycle(b.first(MaxLaunch, m.Angle), m), FastestLaunch: MaxLaunch,
	}
}

// Struck answers from a strike to its tempo. A launch that does not reach the board is refused.
func (b SpeedBag) Struck(launch float64, m Meeting) (TempoAnswer, error) {
	m, err := b.settle(m)
	if err != nil {
		return TempoAnswer{}, err
	}
	r, err := b.Return(launch, m)
	if err != nil {
		return TempoAnswer{}, err
	}
	return TempoAnswer{
		Feasible: true, Tempo: 60 / r.At, Launch: launch, Window: r.Window,
		FistSpeed: b.FistSpeed(launch, r.Speed), Limits: b.limits(m),
	}, nil
}

// Solve answers from a wanted tempo (strikes a minute) to the strike, where the bag allows it. Solved to 1e-12 in the
// speed at the board.
func (b SpeedBag) Solve(tempo float64, m Meeting) (TempoAnswer, error) {
	m, err := b.settle(m)
	if err != nil {
		return TempoAnswer{}, err
	}
	if err := TempoLimits.Check("tempo", tempo); err != nil {
		return TempoAnswer{}, err
	}
	limits := b.limits(m)
	if tempo < limits.Slowest || tempo > limits.Fastest {
		return TempoAnswer{Tempo: tempo, Limits: limits}, nil
	}
	// The time of a cycle is smooth in the speed at the board and has infinite slope in the launch near the softest
	// strike.
	u, err := motion.Root(func(u float64) float64 { return b.cycle(u, m) - 60/tempo }, 0, b.first(MaxLaunch, m.Angle),
		1e-12)
	if err != nil {
		return TempoAnswer{}, fmt.Errorf("solve %g a minute: %w", tempo, err)
	}
	f := b.fly(u, m)
	speed, window := f.inbound()
	launch := b.launchFor(u, m.Angle)
	return TempoAnswer{
		Feasible: true, Tempo: tempo, Launch: launch, Window: window,
		FistSpeed: b.FistSpeed(launch, speed*b.arm()), Limits: limits,
	}, nil
}

// TempoAtFist answers for a fist of the given speed (m/s), held to what the bag allows: softer than the softest strike
// that reaches the board gives the slowest tempo's neighbourhood, harder than MaxLaunch the fastest.
func (b SpeedBag) TempoAtFist(fist float64, m Meeting) (TempoAnswer, error) {
	m, err := b.settle(m)
	if err != nil {
		return TempoAnswer{}, err
	}
	over := func(u float64) float64 {
		speed, _ := b.fly(u, m).inbound()
		return b.FistSpeed(b.launchFor(u, m.Angle), speed*b.arm()) - fist
	}
	low, high := 0.0, b.first(MaxLaunch, m.Angle)
	u := low
	switch {
	case over(low) >= 0:
		u = 1e-3 * high // a hair above the softest, so that the board is really reached
	case over(high) <= 0:
		u = high
	default:
		if u, err = motion.Root(over, low, high, 1e-12); err != nil {
			return TempoAnswer{}, fmt.Errorf("tempo at a fist speed of %g m/s: %w", fist, err)
		}
	}
	return b.Struck(b.launchFor(u, m.Angle), m)
}

// mostOffered is the greatest rebound count that is offered as a remedy: nobody waits through more (assumed).
const mostOffered = 9

// Sizes in m of the bags that are made, from a child's fast one to a large slow one (from memory); the range in which
// another bag is offered as a remedy.
const smallestBag, largestBag = 0.14, 0.38

// ReadMeeting reads rebounds, strikeAngle (degrees) and face of an object, all optional, and checks them against the
// bag.
func (b SpeedBag) ReadMeeting(o *input.Object) Meeting {
	m := Meeting{
		Rebounds: o.WholeOr("rebounds", 1, MaxRebounds, Three.Rebounds),
		Angle:    o.NumberOr("strikeAngle", StrikeAngleLimits, degrees(DefaultStrikeAngle)) * math.Pi / 180,
		Face:     Face(o.ChoiceOr("face", "", string(Front), string(Behind))),
	}
	settled, err := b.settle(m)
	o.Keep(o.Under(err))
	return settled
}

// ReadCount reads the rebounds of an object for a rig that knows no strike angle and no face; 1 where left out.
func ReadCount(o *input.Object) Meeting {
	return Meeting{Rebounds: o.WholeOr("rebounds", 1, MaxRebounds, 1)}
}
