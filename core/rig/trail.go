package rig

import (
	"math"

	"melodromos/core/motion"
)

// Blow is a strike of a row: at a moment (s), the bag is driven off at Launch m/s, or, where that is 0, by a fist of Fist m/s
// wherever it just is. Count is the return that the next blow meets. Still says that it has come to rest, or been steadied,
// before the blow.
type Blow struct {
	At, Launch, Fist float64
	Count            int
	Still            bool
}

// steadying is how long (s) before a blow a bag that is to hang still is drawn coming to rest. Assumed.
const steadying = 0.25

// perSecond is how many points a second a trail is drawn with.
const perSecond = 50

// Trail draws the bag's motion under a row of blows, from 0 to end s, and tells how far (m) a swing of 1 is. A slip bag, which
// nobody has to strike, is drawn from letting go at pull m.
func Trail(r Rig, blows []Blow, pull, end float64) ([]TracePoint, float64) {
	switch b := r.(type) {
	case DoubleEndBag:
		return b.swing().trail(blows, end)
	case ReflexBag:
		return b.swing().trail(blows, end)
	case HangingBag:
		rate := b.pendulum().Rate
		return oscillator{
			swing: motion.Swing{Accel: func(x, _ float64) float64 { return -rate * rate * math.Sin(x) }}, arm: b.arm(),
			felt: b.Inertia() / (b.arm() * b.arm()), fist: hangingFist,
		}.trail(blows, end)
	case SlipBag:
		var list []TracePoint
		l := b.Drop()
		for _, s := range b.swing().Sample(math.Asin(math.Min(pull/l, 1)), 0, end, points(end)) {
			list = append(list, TracePoint{s.At, l * math.Sin(s.X) / pull})
		}
		return list, pull
	case SpeedBag:
		return b.trail(blows, end), b.arm() * b.Contact()
	}
	return nil, 0
}

func points(seconds float64) int { return max(2, int(math.Ceil(seconds*perSecond))) }

// trail follows a swing under blows. A launch sets the speed; a fist adds what a partly elastic impact gives it.
func (o oscillator) trail(blows []Blow, end float64) ([]TracePoint, float64) {
	var list []TracePoint
	x, v, now, furthest := 0.0, 0.0, 0.0, 1e-9
	follow := func(to float64) {
		if to <= now {
			return
		}
		if x == 0 && v == 0 { // it hangs still
			list = append(list, TracePoint{now, 0}, TracePoint{to, 0})
			now = to
			return
		}
		samples := o.swing.Sample(x, v, to-now, points(to-now))
		for _, s := range samples {
			furthest = math.Max(furthest, math.Abs(s.X))
			list = append(list, TracePoint{now + s.At, s.X})
		}
		last := samples[len(samples)-1]
		x, v, now = last.X, last.V, to
	}
	for _, b := range blows {
		if b.Still && now < b.At {
			follow(math.Max(now, b.At-steadying))
			x, v, now = 0, 0, b.At
			list = append(list, TracePoint{b.At, 0})
		}
		follow(b.At)
		if b.Launch > 0 {
			v = b.Launch / o.arm
			continue
		}
		out := v * o.arm // m/s, away
		v = (out + (1+fistRestitution)*o.fist/(o.fist+o.felt)*(b.Fist-out)) / o.arm
	}
	follow(end)
	for i := range list {
		list[i].Swing /= furthest
	}
	return list, furthest * o.arm
}

// trail draws a speed bag from strike to strike, and after the last one over five more contacts.
func (b SpeedBag) trail(blows []Blow, end float64) []TracePoint {
	list := []TracePoint{}
	for i, blow := range blows {
		count, until := 5, end
		if i+1 < len(blows) {
			count, until = max(1, blow.Count), blows[i+1].At
		}
		points, err := b.Trace(blow.Launch, Meeting{Rebounds: count}, 28)
		if err != nil {
			continue
		}
		for _, p := range points {
			if at := blow.At + p.At; at <= until {
				list = append(list, TracePoint{at, p.Swing})
			}
		}
	}
	return list
}
