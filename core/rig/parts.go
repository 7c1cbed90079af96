package rig

import (
	"math"

	"melodromos/core/motion"
)

// part is a measure of a rig that changes its tempo, from low to top, in steps that can be bought or set.
type part struct {
	low, top, step float64
	with           func(v float64) (Rig, []Change)
	also           func(v float64) Rig // what the same measure may come to as well; nil for nothing
}

// bound is the part with its range cut to where the rig can be.
func (p part) bound() part {
	can := func(v float64) bool { with, _ := p.with(v); return with.Check() == nil }
	for n := 0; n < 60 && !can(p.top); n++ {
		p.top = p.low + 0.95*(p.top-p.low)
	}
	for n := 0; n < 60 && !can(p.low); n++ {
		p.low += 0.05 * (p.top - p.low)
	}
	return p
}

// tries are the efforts, as shares of the hardest, for which a part is tuned: half power, then more and less. Assumed.
var tries = []float64{0.5, 0.8, 0.3}

// mostTuned (m/s) is the hardest fist that a rig is tuned for where nobody is known. Assumed: an advanced boxer's.
const mostTuned = 8.0

// tuned finds the value of a part with which this striker has the tempo.
func (s Striker) tuned(r Rig, p part, tempo float64, m Meeting) ([]Change, bool) {
	p = p.bound()
	for _, share := range tries {
		at := func(v float64) float64 {
			with, _ := p.with(v)
			if with.Check() != nil {
				return math.NaN()
			}
			var a TempoAnswer
			var err error
			if b, ok := with.(SlipBag); ok {
				a, err = b.Struck(math.Max(s.Swing, 2*share*b.everydayPull()), m)
			} else {
				a, err = with.AtFist(share*math.Min(s.Hardest, mostTuned), m)
			}
			if err != nil {
				return math.NaN()
			}
			return a.Tempo - tempo
		}
		v, err := motion.Root(at, p.low, p.top, p.step/4)
		if err != nil {
			continue
		}
		for _, rounded := range []float64{math.Round(v/p.step) * p.step, math.Floor(v/p.step) * p.step,
			math.Ceil(v/p.step) * p.step} {
			rounded = math.Round(rounded*1e6) / 1e6
			with, changes := p.with(rounded)
			if with.Check() != nil || !s.hangs(r, with) {
				continue
			}
			if p.also != nil && !s.reaches(p.also(rounded), tempo, m) {
				continue
			}
			if s.reaches(with, tempo, m) {
				return changes, true
			}
		}
	}
	return nil, false
}

func (s Striker) reaches(r Rig, tempo float64, m Meeting) bool {
	a, err := r.Solve(tempo, m)
	return err == nil && s.Can(r.Kind(), a)
}

// What a bag needs to hang and be used, all assumed.
const (
	leastDrop = 0.4  // m of a slip bag's pendulum
	clearance = 0.15 // m from the floor to a hanging bag
	mayWorsen = 0.03 // m by which a bag may come to hang worse for somebody
)

// hangs says whether a rig that was changed can hang where the other hangs, no worse for whoever uses it.
func (s Striker) hangs(before, after Rig) bool {
	if b, bounded := after.(interface{ clears(roof float64) bool }); bounded && !b.clears(s.Roof) {
		return false
	}
	if !s.Body.Known() {
		return true
	}
	was, is := before.SetUp(s.Place, s.Body, 0), after.SetUp(s.Place, s.Body, 0)
	return is.Needs != "" || was.Needs != "" || math.Abs(is.Move) <= math.Max(math.Abs(was.Move), mayWorsen)
}

// clears says whether it hangs long enough, and no higher than there is a roof (m; 0 where nobody knows).
func (b SlipBag) clears(roof float64) bool {
	return b.Drop() >= leastDrop && !(roof > 0 && b.AnchorHeight > roof+1e-9)
}

// clears says whether it hangs clear of the floor.
func (b HangingBag) clears(float64) bool {
	return !(b.AnchorHeight > 0 && b.AnchorHeight-b.Chain-b.height() < clearance)
}

// parts are the measures that set the tempo of a rig; none where its kind names none.
func parts(r Rig) []part {
	if b, ok := r.(interface{ parts() []part }); ok {
		return b.parts()
	}
	return nil
}

// measure is a part that is one field.
func measure(field, reason string, low, top, step float64, with func(v float64) Rig) part {
	return part{low, top, step, func(v float64) (Rig, []Change) { return with(v), []Change{{field, v, reason}} }, nil}
}

// parts: only the length is another, or the whole bag in proportion.
func (b SpeedBag) parts() []part {
	p := measure("bagLength", "a bag this long swings so", smallestBag, largestBag, 0.01,
		func(v float64) Rig { c := b; c.BagLength = v; return c })
	p.also = func(v float64) Rig { return b.scaled(v) }
	return []part{p}
}

// parts: both cords are wound together.
func (b DoubleEndBag) parts() []part {
	slackest := 0.995 * math.Min(b.Upper.Span/b.Upper.Relaxed, b.Lower.Span/b.Lower.Relaxed)
	return []part{{0.2, slackest, 0.005, func(share float64) (Rig, []Change) {
		var list []Change
		for _, c := range b.wind(share) {
			list = append(list, Change{c.Field, c.To, "with both cords wound so, in proportion, it comes back so"})
		}
		return b.Wound(share), list
	}, nil}}
}

func (b ReflexBag) parts() []part {
	return []part{
		measure("spring", "with this spring it comes back so", math.Ceil(b.weight()*1.02),
			math.Min(poleSpring.Max, stiffest), 1, func(v float64) Rig { c := b; c.Spring = v; return c }),
		measure("ballMass", "with a ball this heavy it comes back so", lightestBall, b.heaviest(), 0.05,
			func(v float64) Rig { c := b; c.BallMass = v; return c }),
		measure("poleLength", "with a pole this long it comes back so", 0.6, 1.6, 0.01,
			func(v float64) Rig { c := b; c.PoleLength = v; return c }),
	}
}

// parts: the bag itself stays at its height.
func (b SlipBag) parts() []part {
	return []part{measure("anchorHeight", "hung from this height it passes so", b.CentreHeight+leastDrop,
		b.CentreHeight+longestDrop, 0.01, func(v float64) Rig { c := b; c.AnchorHeight = v; return c })}
}

func (b HangingBag) parts() []part {
	return []part{measure("chain", "on a chain this long it comes back so", 0, longestChain, 0.01,
		func(v float64) Rig { c := b; c.Chain = v; return c })}
}

// Sizes between which parts are offered: what is made and can be handled. From memory.
const (
	stiffest     = 300.0 // N·m/rad of a pole's spring
	lightestBall = 0.2   // kg, of a reflex bag
	heaviestBall = 3.0   // kg
	longestDrop  = 4.0   // m of a slip bag
	longestChain = 3.0   // m of a hanging bag
)

// heaviest is the heaviest ball (kg) that the spring still holds up.
func (b ReflexBag) heaviest() float64 {
	most := heaviestBall
	for ; most > lightestBall; most -= 0.05 {
		c := b
		if c.BallMass = most; c.Check() == nil {
			break
		}
	}
	return most
}

// scaled is a bag of the same build: lengths in proportion, mass with the surface.
func (b SpeedBag) scaled(length float64) SpeedBag {
	s := length / b.BagLength
	c := b
	c.BagLength, c.BagDiameter, c.SwivelDrop, c.BagMass = length, b.BagDiameter*s, b.SwivelDrop*s, b.BagMass*s*s
	return c
}
