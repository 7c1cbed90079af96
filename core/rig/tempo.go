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

// FistSpeed returns the fist speed in m/s that drives the bag off at launch when it comes in at inbound (both m/s, at the
// strike point); the bag is felt as m_b = I/d².
func (b SpeedBag) FistSpeed(launch, inbound float64) float64 {
	return impact(launch, inbound, fistMass, b.Inertia()/(b.arm()*b.arm()))
}

// cycle is the time in seconds from strike to strike at u rad/s at the first contact.
func (b SpeedBag) cycle(u float64, m Meeting) float64 {
	_, at := b.fly(u, m).boards()
	return at
}

// Limits returns the slowest and the fastest tempo of a meeting: the softest strike that reaches the board, and MaxLaunch.
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

// Tempos returns the limits of the rebound counts 1 to 5, each met at the face that parity gives it. angle is in rad; 0
// takes the default.
func (b SpeedBag) Tempos(angle float64) ([]Tempo, error) {
	table := make([]Tempo, 0, 5)
	for n := 1; n <= 5; n++ {
		t, err := b.Limits(Meeting{Rebounds: n, Angle: angle})
		if err != nil {
			return nil, err
		}
		table = append(table, t)
	}
	return table, nil
}

// Struck answers from a strike to its tempo. A launch that does not reach the board is refused.
func (b SpeedBag) Struck(launch float64, m Meeting) (Answer, error) {
	m, err := b.settle(m)
	if err != nil {
		return Answer{}, err
	}
	r, err := b.Return(launch, m)
	if err != nil {
		return Answer{}, err
	}
	return Answer{
		Feasible: true, Tempo: 60 / r.At, Launch: launch, Window: r.Window,
		FistSpeed: b.FistSpeed(launch, r.Speed), Limits: b.limits(m),
	}, nil
}

// Solve answers from a wanted tempo (strikes a minute) to the strike, or, where the bag does not allow it, to what to
// change. Solved to 1e-12 in the speed at the board.
func (b SpeedBag) Solve(tempo float64, m Meeting) (Answer, error) {
	m, err := b.settle(m)
	if err != nil {
		return Answer{}, err
	}
	if err := TempoLimits.Check("tempo", tempo); err != nil {
		return Answer{}, err
	}
	limits := b.limits(m)
	if tempo < limits.Slowest || tempo > limits.Fastest {
		return Answer{Tempo: tempo, Limits: limits, Change: b.changes(tempo, m, limits)}, nil
	}
	// The time of a cycle is smooth in the speed at the board and has infinite slope in the launch near the softest strike.
	u, err := motion.Root(func(u float64) float64 { return b.cycle(u, m) - 60/tempo }, 0, b.first(MaxLaunch, m.Angle), 1e-12)
	if err != nil {
		return Answer{}, fmt.Errorf("solve %g a minute: %w", tempo, err)
	}
	f := b.fly(u, m)
	speed, window := f.inbound()
	launch := b.launchFor(u, m.Angle)
	return Answer{
		Feasible: true, Tempo: tempo, Launch: launch, Window: window,
		FistSpeed: b.FistSpeed(launch, speed*b.arm()), Limits: limits,
	}, nil
}

// TempoAtFist answers for a fist of the given speed (m/s), held to what the bag allows: softer than the softest strike that
// reaches the board gives the slowest tempo's neighbourhood, harder than MaxLaunch the fastest.
func (b SpeedBag) TempoAtFist(fist float64, m Meeting) (Answer, error) {
	m, err := b.settle(m)
	if err != nil {
		return Answer{}, err
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
			return Answer{}, fmt.Errorf("tempo at a fist speed of %g m/s: %w", fist, err)
		}
	}
	return b.Struck(b.launchFor(u, m.Angle), m)
}

// mostOffered is the greatest rebound count that is offered as a remedy: nobody waits through more (assumed).
const mostOffered = 9

// Sizes in m of the bags that are made, from a child's fast one to a large slow one (from memory); the range in which
// another bag is offered as a remedy.
const smallestBag, largestBag = 0.14, 0.38

// changes lists what would bring a tempo out of reach within it: the count first, since it costs nothing, then another
// bag, then the nearest tempo of the bag as it hangs.
func (b SpeedBag) changes(tempo float64, m Meeting, l Tempo) []Change {
	var list []Change
	tooFast := tempo > l.Fastest
	for n := m.Rebounds % 2; n <= mostOffered; n += 2 {
		if n < 1 || n == m.Rebounds {
			continue
		}
		other := b.limits(Meeting{Rebounds: n, Angle: m.Angle, Face: m.Face})
		if other.Slowest <= tempo && tempo <= other.Fastest {
			list = append(list, Change{"rebounds", float64(n), fmt.Sprintf(
				"with %d %s this bag goes from %.0f to %.0f a minute", n, plural(n, "rebound"), other.Slowest, other.Fastest)})
			break
		}
	}
	if size, ok := b.sizeFor(tempo, m, tooFast); ok {
		reason := "a longer bag of the same build swings slower; this long it just allows it"
		if tooFast {
			reason = "a shorter bag of the same build swings quicker; this short it just allows it"
		}
		list = append(list, Change{"bagLength", size, reason})
	}
	if tooFast {
		return append(list, Change{"tempo", l.Fastest, fmt.Sprintf(
			"the fastest with %d %s, struck at %.0f m/s, harder than anybody needs to", m.Rebounds, plural(m.Rebounds, "rebound"), MaxLaunch)})
	}
	return append(list, Change{"tempo", l.Slowest, fmt.Sprintf(
		"the slowest with %d %s; struck any softer this bag does not reach its board", m.Rebounds, plural(m.Rebounds, "rebound"))})
}

// sizeFor finds the length of a bag of the same build (lengths in proportion, mass with the surface) whose limit is the
// wanted tempo.
func (b SpeedBag) sizeFor(tempo float64, m Meeting, tooFast bool) (float64, bool) {
	scaled := func(length float64) SpeedBag {
		s := length / b.BagLength
		c := b
		c.BagLength, c.BagDiameter, c.SwivelDrop, c.BagMass = length, b.BagDiameter*s, b.SwivelDrop*s, b.BagMass*s*s
		return c
	}
	gap := func(length float64) float64 {
		l := scaled(length).limits(m)
		if tooFast {
			return l.Fastest - tempo
		}
		return l.Slowest - tempo
	}
	size, err := motion.Root(gap, smallestBag, largestBag, 1e-6)
	if err != nil {
		return 0, false
	}
	// Rounded to the centimetre on the side that works.
	if tooFast {
		size = math.Floor(size*100) / 100
	} else {
		size = math.Ceil(size*100) / 100
	}
	return size, size >= smallestBag && size <= largestBag && scaled(size).Check() == nil
}

// ReadMeeting reads rebounds, strikeAngle (degrees) and face of an object, all optional, and checks them against the bag.
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
