package rig

import (
	"math"

	"melodromos/core/motion"
)

// Blow is a strike of a row: at a moment (s), the bag is driven off at Launch m/s, or, where that is 0, by a fist of
// Fist m/s wherever it just is. Count is the return that the next blow meets. Still says that it has come to rest, or
// been steadied, before the blow.
type Blow struct {
	At, Launch, Fist float64
	Count            int
	Still            bool
}

// steadying (s) is the time before a blow at which a bag that is to hang still is drawn coming to rest. Assumed.
const steadying = 0.25

// perSecond is the number of points a second of a trail.
const perSecond = 50

// Trail follows the ball between its cords.
func (b DoubleEndBag) Trail(blows []Blow, _, end float64) ([]TracePoint, float64) {
	return b.swing().trail(blows, end)
}

// Trail follows the ball on its pole.
func (b ReflexBag) Trail(blows []Blow, _, end float64) ([]TracePoint, float64) {
	return b.swing().trail(blows, end)
}

// Trail follows the bag on its chain.
func (b HangingBag) Trail(blows []Blow, _, end float64) ([]TracePoint, float64) {
	rate := b.pendulum().Rate
	fist, felt := b.Masses()
	return oscillator{
		swing: motion.Swing{Accel: func(x, _ float64) float64 { return -rate * rate * math.Sin(x) }}, arm: b.arm(),
		felt: felt, fist: fist,
	}.trail(blows, end)
}

// Trail follows the bag from letting go at pull m: nobody has to strike it.
func (b SlipBag) Trail(_ []Blow, pull, end float64) ([]TracePoint, float64) {
	var list []TracePoint
	l := b.Drop()
	for _, s := range b.swing().Sample(math.Asin(math.Min(pull/l, 1)), 0, end, points(end)) {
		list = append(list, TracePoint{s.At, l * math.Sin(s.X) / pull})
	}
	return list, pull
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

// Trail draws a speed bag from strike to strike, and after the last one over five more contacts.
func (b SpeedBag) Trail(blows []Blow, _, end float64) ([]TracePoint, float64) {
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
	return list, b.arm() * b.Contact()
}
