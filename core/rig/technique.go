package rig

import (
	"fmt"
	"math"

	"melodromos/core/input"
	"melodromos/core/motion"
	"melodromos/core/words"
)

const (
	// OneBlow (s) is how far apart two contacts may be and still be heard as one. Assumed.
	OneBlow = 0.080
	// secondFist (rad) is where the second fist of a double punch meets the first rebound. From memory: near 50°.
	secondFist = 50 * math.Pi / 180
	// ride (s) is how long a hand takes to lead the bag into the board. Assumed: as long as a strike.
	ride = 0.12
)

// Double is a double punch: the first fist drives the bag into the board, the second, a little higher, meets that first
// rebound and drives it again as hard (assumed).
type Double struct {
	Gap    float64 // s between the two contacts
	Return Return  // counted from the first contact: when the next double punch begins
}

// DoublePunch computes a double punch whose fists each launch the bag at launch m/s. The meeting counts the rebounds
// after the second fist and must come to the front.
func (b SpeedBag) DoublePunch(launch float64, m Meeting) (Double, error) {
	m.Face = Front
	first, m, err := b.struck(launch, m)
	if err != nil {
		return Double{}, err
	}
	if secondFist >= b.Contact() {
		return Double{}, input.Refuse("strikeAngle",
			"expected a bag that meets its board beyond %.0f degrees, where the second fist meets it",
			degrees(secondFist))
	}
	hit := first.pendulum.TimeTo(first.contact, first.bottoms[0]) - first.pendulum.TimeTo(m.Angle, first.bottoms[0])
	gap := hit + first.pendulum.TimeTo(first.contact, first.bottoms[1]) - first.pendulum.TimeTo(secondFist,
		first.bottoms[1])
	u := b.first(launch, secondFist)
	if !(u > 0) {
		return Double{}, input.Refuse("launch",
			"expected a harder strike than %s: the second fist would not drive the bag into its board",
			words.Speed(launch))
	}
	second := b.fly(u, m)
	boards, at := second.boards()
	// The flight is counted from 25°; the second fist meets the bag further up.
	later := gap - (second.pendulum.TimeTo(secondFist, second.bottoms[0]) - second.pendulum.TimeTo(m.Angle,
		second.bottoms[0]))
	for i := range boards {
		boards[i] += later
	}
	speed, window := second.inbound()
	return Double{Gap: gap, Return: Return{At: at + later, Speed: speed * b.arm(), Window: window,
		Boards: append([]float64{hit}, boards...)}}, nil
}

// SolveDouble answers from a wanted tempo of double punches to the strike. The slowest is where the two fists are still
// heard as one.
func (b SpeedBag) SolveDouble(tempo float64, m Meeting) (TempoAnswer, error) {
	if err := TempoLimits.Check("tempo", tempo); err != nil {
		return TempoAnswer{}, err
	}
	m.Face = Front
	m, err := b.settle(m)
	if err != nil {
		return TempoAnswer{}, err
	}
	gap := func(launch float64) float64 {
		d, err := b.DoublePunch(launch, m)
		if err != nil {
			return math.NaN()
		}
		return d.Gap - OneBlow
	}
	softest := math.Max(b.least(m.Angle)*(1+1e-6), 0.1)
	if !(gap(softest) <= 0) {
		if softest, err = motion.Root(gap, softest, MaxLaunch, 1e-9); err != nil {
			return TempoAnswer{}, input.Refuse("technique",
				"expected a smaller bag: on this one two fists are never heard as one")
		}
	}
	slow, err := b.DoublePunch(softest, m)
	if err != nil {
		return TempoAnswer{}, err
	}
	fast, err := b.DoublePunch(MaxLaunch, m)
	if err != nil {
		return TempoAnswer{}, err
	}
	l := Tempo{Rebounds: m.Rebounds, Face: Front, Slowest: 60 / slow.Return.At, SlowestLaunch: softest,
		Fastest: 60 / fast.Return.At, FastestLaunch: MaxLaunch}
	if tempo < l.Slowest || tempo > l.Fastest {
		return TempoAnswer{Tempo: tempo, Limits: l}, nil
	}
	launch, err := motion.Root(func(v float64) float64 {
		d, err := b.DoublePunch(v, m)
		if err != nil {
			return math.NaN()
		}
		return d.Return.At - 60/tempo
	}, softest, MaxLaunch, 1e-9)
	if err != nil {
		return TempoAnswer{}, fmt.Errorf("solve %g double punches a minute: %w", tempo, err)
	}
	d, err := b.DoublePunch(launch, m)
	return TempoAnswer{Feasible: true, Tempo: tempo, Launch: launch, Window: d.Return.Window,
		FistSpeed: b.FistSpeed(launch, d.Return.Speed), Limits: l}, err
}

// DoublePicture draws a double punch from its first contact to the next.
func (b SpeedBag) DoublePicture(launch float64, m Meeting) (Picture, error) {
	m.Face = Front
	p, err := b.Picture(launch, m, Use{})
	if err != nil {
		return Picture{}, err
	}
	d, err := b.DoublePunch(launch, m)
	if err != nil {
		return Picture{}, err
	}
	first, m, err := b.struck(launch, m)
	if err != nil {
		return Picture{}, err
	}
	second := b.fly(b.first(launch, secondFist), m)
	const per = 14
	p.Trace, p.Marks = nil, nil
	// Up to the board and back to the second fist, then its flight.
	stretch := func(f flight, bottom, from, to, start, sign float64) {
		for k := range per {
			theta := from + (to-from)*float64(k)/per
			p.Trace = append(p.Trace,
				TracePoint{start + math.Abs(f.pendulum.TimeTo(theta, bottom)-f.pendulum.TimeTo(from, bottom)),
					sign * theta / f.contact})
		}
	}
	c := first.contact
	stretch(first, first.bottoms[0], m.Angle, c, 0, 1)
	stretch(first, first.bottoms[1], c, secondFist, d.Return.Boards[0], 1)
	stretch(second, second.bottoms[0], secondFist, c, d.Gap, 1)
	sign := 1.0
	for i, at := range d.Return.Boards[1:] {
		to := -c
		if i == len(d.Return.Boards)-2 {
			to = m.Angle
		}
		stretch(second, second.bottoms[i+1], c, to, at, sign)
		sign = -sign
	}
	p.Trace = append(p.Trace, TracePoint{d.Return.At, m.Angle / c})
	side := 1.0
	for i, at := range d.Return.Boards {
		if i > 1 {
			side = -side
		}
		p.Marks = append(p.Marks, Rebound{at, side})
	}
	half := d.Return.Window / 2
	p.Return, p.Opens, p.Closes, p.Speed, p.Strike = d.Return.At, -half, half, d.Return.Speed, m.Angle/c
	return p, nil
}

// Pin is a trap: the hand rides the bag into the board, holds it and lets it go, so that it falls from rest at the
// board and comes to the strike angle Fall s later.
type Pin struct {
	Least  float64 // s from meeting the bag to the next strike, with no holding: the ride and the fall
	Fall   float64 // s from letting go to the strike angle
	Speed  float64 // m/s there
	Window float64 // s
}

// Trap computes a trap for a strike angle (rad; 0 takes the default).
func (b SpeedBag) Trap(angle float64) (Pin, error) {
	m, err := b.settle(Meeting{Rebounds: 1, Angle: angle})
	if err != nil {
		return Pin{}, err
	}
	p := b.pendulum()
	bottom := p.BottomSpeed(b.Contact(), 0)
	fall := p.TimeTo(b.Contact(), bottom) - p.TimeTo(m.Angle, bottom)
	from := math.Min(m.Angle+windowReach, b.Contact())
	return Pin{
		Least: ride + fall, Fall: fall, Speed: p.SpeedAt(m.Angle, bottom) * b.arm(),
		Window: p.TimeTo(from, bottom) - p.TimeTo(m.Angle-windowReach, bottom),
	}, nil
}

// TrapPicture draws a trap that takes cycle s from meeting the bag to the next strike.
func (b SpeedBag) TrapPicture(angle, cycle float64) (Picture, error) {
	pin, err := b.Trap(angle)
	if err != nil {
		return Picture{}, err
	}
	if cycle < pin.Least {
		return Picture{}, input.Refuse("tempo", "expected at least %.2f s from a trap to the next strike, not %.2f",
			pin.Least, cycle)
	}
	if angle == 0 {
		angle = DefaultStrikeAngle
	}
	p, c := b.pendulum(), b.Contact()
	bottom := p.BottomSpeed(c, 0)
	out := Picture{Return: cycle, Opens: -pin.Window / 2, Closes: pin.Window / 2, Strike: angle / c, Speed: pin.Speed,
		Reach: b.arm() * c, Contact: c}
	const per = 12
	for k := range per { // the hand leads it up, gently at both ends
		part := float64(k) / per
		out.Trace = append(out.Trace, TracePoint{ride * part, (angle + (c-angle)*(1-math.Cos(math.Pi*part))/2) / c})
	}
	released := cycle - pin.Fall
	out.Trace = append(out.Trace, TracePoint{ride, 1})
	for k := range per + 1 {
		part := float64(k) / per
		theta := c + (angle-c)*part*part // closer together where it starts from rest
		at := released + p.TimeTo(c, bottom) - p.TimeTo(theta, bottom)
		if k == per {
			at = cycle
		}
		out.Trace = append(out.Trace, TracePoint{at, theta / c})
	}
	for k := range 8 {
		theta := angle - windowReach*float64(k)/7
		out.Through = append(out.Through, TracePoint{p.TimeTo(angle, bottom) - p.TimeTo(theta, bottom), theta / c})
	}
	out.Marks = []Rebound{{ride, 1}}
	return out, nil
}
