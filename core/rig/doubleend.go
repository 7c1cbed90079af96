package rig

import (
	"math"

	"melodromos/core/input"
	"melodromos/core/motion"
	"melodromos/core/words"
)

// DefaultCordDamping is the damping ratio of a ball between elastic cords. Assumed; calibration replaces it.
const DefaultCordDamping = 0.04

// Cord is one of the two elastic cords of a double-end bag.
type Cord struct {
	Span      float64 // m as hung, attachment to ball centre
	Relaxed   float64 // m
	Stiffness float64 // N/m
}

// tension is the pull (N) of the cord when the ball hangs still.
func (c Cord) tension() float64 { return c.Stiffness * (c.Span - c.Relaxed) }

// wound is the same cord wound up or let out to a share of its relaxed length: the same rubber, so that stiffness times
// relaxed length stays.
func (c Cord) wound(share float64) Cord {
	c.Relaxed, c.Stiffness = c.Relaxed*share, c.Stiffness/share
	return c
}

// DoubleEndBag is a ball between two elastic cords that swings across them:
// m ẍ = −Σ kᵢ (ℓᵢ − ℓ₀ᵢ)·x/ℓᵢ − c ẋ with ℓᵢ = √(spanᵢ² + x²). The cords harden: a harder strike comes back sooner.
type DoubleEndBag struct {
	BallDiameter float64 // m
	BallMass     float64 // kg
	Upper        Cord
	Lower        Cord
	Damping      float64 // ratio of the small swing, 0 none
}

// MarshalJSON writes the document that Read reads.
func (b DoubleEndBag) MarshalJSON() ([]byte, error) { return doubleEndTable.Document(DoubleEnd, b) }

// Kind of this rig.
func (DoubleEndBag) Kind() Kind { return DoubleEnd }

// Check refuses measures outside their limits or that do not go together, by field.
func (b DoubleEndBag) Check() error {
	if err := doubleEndTable.Check(b); err != nil {
		return err
	}
	for _, c := range []struct {
		name string
		Cord
	}{{"upper", b.Upper}, {"lower", b.Lower}} {
		switch {
		case c.Relaxed >= c.Span:
			return input.Refuse(c.name+".relaxed", "expected less than the span of %s, not %s: the cord hangs slack",
				words.Metres(c.Span), words.Metres(c.Relaxed))
		case b.BallDiameter/2 >= c.Span:
			return input.Refuse("ballDiameter",
				"expected a ball that fits between its anchors: its radius of %s is no less than the %s span",
				words.Metres(b.BallDiameter/2), c.name)
		}
	}
	return nil
}

// across is the stiffness (N/m) of a small swing: the sum of tension over span.
func (b DoubleEndBag) across() float64 {
	return b.Upper.tension()/b.Upper.Span + b.Lower.tension()/b.Lower.Span
}

func (b DoubleEndBag) swing() oscillator {
	c := 2 * b.Damping * math.Sqrt(b.across()*b.BallMass)
	pull := func(k Cord, x float64) float64 {
		l := math.Sqrt(k.Span*k.Span + x*x)
		return k.Stiffness * math.Max(0, l-k.Relaxed) * x / l
	}
	return oscillator{
		swing: motion.Swing{Accel: func(x, v float64) float64 {
			return -(pull(b.Upper, x) + pull(b.Lower, x) + c*v) / b.BallMass
		}},
		arm:      1,
		radius:   b.BallDiameter / 2,
		small:    math.Sqrt(b.across()/b.BallMass) * math.Sqrt(1-b.Damping*b.Damping),
		furthest: math.Inf(1),
		felt:     b.BallMass,
		fist:     ballFist,
	}
}

// Returns gives the first n returns after a strike at launch m/s: inbound passages of the line between the anchors.
func (b DoubleEndBag) Returns(launch float64, _ Meeting, n int) ([]Return, error) {
	return b.swing().returns(launch, n)
}

// Limits, Struck and Solve answer as for every rig; the count of a meeting is the return that is struck.
func (b DoubleEndBag) Limits(m Meeting) (Tempo, error) { return b.swing().limits(m) }

// Struck answers from a strike to its tempo.
func (b DoubleEndBag) Struck(launch float64, m Meeting) (TempoAnswer, error) {
	return b.swing().struck(launch, m)
}

// Solve answers from a wanted tempo to the strike, where the cords allow it.
func (b DoubleEndBag) Solve(tempo float64, m Meeting) (TempoAnswer, error) {
	return b.swing().solve(tempo, m)
}

// Settle returns the time (s) after a strike at launch m/s until the swing stays within one ball radius; +Inf where it
// never does.
func (b DoubleEndBag) Settle(launch float64) (float64, error) { return b.swing().settle(launch) }

// Feel says for which work the cords are right, by the time of the half-power return.
type Feel string

// From slack to tight. Cords fine for head movement are useless for combinations (common practice), so the tension
// belongs to the drill.
const (
	TooSlack     Feel = "tooSlack"
	HeadMovement Feel = "headMovement"
	Combinations Feel = "combinations"
	TooTight     Feel = "tooTight"
)

// Borders between the feels, as times (s) of the half-power return. Assumed; a gym may set its own.
type Borders struct {
	Slack float64 `json:"slack"`
	Head  float64 `json:"head"`
	Tight float64 `json:"tight"`
}

// Check refuses borders out of order, by field.
func (b Borders) Check() error {
	switch {
	case !(b.Tight > 0):
		return input.Refuse("tight", "expected a time above 0 s, not %g", b.Tight)
	case !(b.Head > b.Tight):
		return input.Refuse("head", "expected more than the border to too tight, %g s, not %g", b.Tight, b.Head)
	case !(b.Slack > b.Head && b.Slack < 3):
		return input.Refuse("slack", "expected more than the border to head movement, %g s, and less than 3 s, not %g",
			b.Head, b.Slack)
	}
	return nil
}

// DefaultBorders: above 0.45 s too slack, to 0.32 s head movement, to 0.17 s combinations, below too tight.
var DefaultBorders = Borders{Slack: 0.45, Head: 0.32, Tight: 0.17}

// Feels tells what the cords are good for, and the time (s) of the half-power return that says so.
func (b DoubleEndBag) Feels(at Borders) (Feel, float64, error) {
	list, err := b.Returns(halfPower, Meeting{}, 1)
	if err != nil {
		return "", 0, err
	}
	switch t := list[0].At; {
	case t > at.Slack:
		return TooSlack, t, nil
	case t > at.Head:
		return HeadMovement, t, nil
	case t >= at.Tight:
		return Combinations, t, nil
	default:
		return TooTight, t, nil
	}
}

// Wound is the bag with both cords wound up, or let out, to a share of their relaxed length: the same rubber.
func (b DoubleEndBag) Wound(share float64) DoubleEndBag {
	b.Upper, b.Lower = b.Upper.wound(share), b.Lower.wound(share)
	return b
}

// Load returns the pull in newtons on the upper and the lower anchor: at rest, and with the ball at its furthest after
// a strike at launch m/s.
func (b DoubleEndBag) Load(launch float64) (static, peak [2]float64, err error) {
	if err := LaunchLimits.Check("launch", launch); err != nil {
		return static, peak, err
	}
	o, far := b.swing(), 0.0
	err = o.swing.Follow(0, launch, patience/o.small, nil, func(p motion.Passage) bool { far = p.X; return false })
	for i, c := range []Cord{b.Upper, b.Lower} {
		static[i] = c.tension()
		peak[i] = c.Stiffness * (math.Hypot(c.Span, far) - c.Relaxed)
	}
	return static, peak, err
}
