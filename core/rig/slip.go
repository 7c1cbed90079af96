package rig

import (
	"errors"
	"math"

	"melodromos/core/input"
	"melodromos/core/motion"
	"melodromos/core/words"
)

// Handbook values, from memory: air at 20 °C in kg/m³, and the drag coefficient of a sphere.
const (
	airDensity = 1.204
	sphereDrag = 0.47
)

// SlipBag is a light pendulum at head height, drawn back and let go:
// θ̈ = −(g/ℓ) sin θ − ½ρC_dA(ℓ/m)|θ̇|θ̇ with ℓ from the anchor to the bag's centre.
type SlipBag struct {
	AnchorHeight float64 // m above the floor
	CentreHeight float64 // m above the floor
	BagDiameter  float64 // m
	BagMass      float64 // kg
}

// PullLimits are the distances a slip bag may be drawn back.
var PullLimits = input.Limits{Min: 0, Max: 12, Open: true, Unit: "m"}

// MarshalJSON writes the document that Read reads.
func (b SlipBag) MarshalJSON() ([]byte, error) { return slipTable.Document(Slip, b) }

// Kind of this rig.
func (SlipBag) Kind() Kind { return Slip }

// Drop is the length of the pendulum in metres.
func (b SlipBag) Drop() float64 { return b.AnchorHeight - b.CentreHeight }

// Check refuses measures outside their limits or that do not go together, by field.
func (b SlipBag) Check() error {
	if err := slipTable.Check(b); err != nil {
		return err
	}
	switch {
	case b.Drop() <= 0:
		return input.Refuse("centreHeight", "expected less than the anchor's height of %s, not %s",
			words.Metres(b.AnchorHeight), words.Metres(b.CentreHeight))
	case b.BagDiameter/2 >= b.Drop():
		return input.Refuse("bagDiameter", "expected a radius below the drop of %s, not %s", words.Metres(b.Drop()),
			words.Metres(b.BagDiameter/2))
	case b.BagDiameter/2 >= b.CentreHeight:
		return input.Refuse("centreHeight", "expected more than the bag's radius of %s, so that it clears the floor",
			words.Metres(b.BagDiameter/2))
	}
	return nil
}

// Returns gives the first n passes of the low point, in either direction, after the bag was drawn back by pull metres
// (horizontally) and let go. Its window is no matter of the bag alone and is NaN.
func (b SlipBag) Returns(pull float64, _ Meeting, n int) ([]Return, error) {
	if err := PullLimits.Check("pull", pull); err != nil {
		return nil, err
	}
	if pull >= b.Drop() {
		return nil, input.Refuse("pull",
			"expected less than the drop of %s, not %s: the bag cannot be drawn back past 90 degrees",
			words.Metres(b.Drop()), words.Metres(pull))
	}
	if err := countLimits.Check("count", float64(n)); err != nil {
		return nil, err
	}
	l := b.Drop()
	var list []Return
	err := b.swing().Follow(math.Asin(pull/l), 0, float64(n+2)*20*math.Sqrt(l), []float64{0},
		func(p motion.Passage) bool {
			if !p.Turn {
				list = append(list, Return{At: p.At, Speed: math.Abs(p.V) * l, Window: math.NaN()})
			}
			return len(list) < n
		})
	if errors.Is(err, motion.ErrAtRest) {
		return nil, input.Refuse("count", "expected fewer than %d: the swing dies away before that", n)
	}
	return list, err
}

// swing is the motion of its angle.
func (b SlipBag) swing() motion.Swing {
	l := b.Drop()
	drag := airDensity * sphereDrag * math.Pi * b.BagDiameter * b.BagDiameter / 4 * l / (2 * b.BagMass)
	return motion.Swing{Accel: func(x, v float64) float64 { return -motion.Gravity/l*math.Sin(x) - drag*math.Abs(v)*v }}
}

// cycle is the time from one pass to the one so many later, the first after the bag was let go.
func (b SlipBag) cycle(pull float64, m Meeting) (float64, error) {
	list, err := b.Returns(pull, m, m.Rebounds+1)
	if err != nil {
		return 0, err
	}
	return list[m.Rebounds].At - list[0].At, nil
}

// Limits: the small swing is the fastest, as a limit, a pull to 60° the slowest. The launches of the answer are pulls.
func (b SlipBag) Limits(m Meeting) (Tempo, error) {
	if err := counted(m); err != nil {
		return Tempo{}, err
	}
	far := b.Drop() * math.Sin(swingLimit)
	slow, err := b.cycle(far, m)
	if err != nil {
		return Tempo{}, err
	}
	return b.limits(far, slow, m.Rebounds), nil
}

func (b SlipBag) limits(far, slow float64, n int) Tempo {
	fast := float64(n) * math.Pi * math.Sqrt(b.Drop()/motion.Gravity)
	return Tempo{Rebounds: n, Slowest: 60 / slow, Fastest: 60 / fast, SlowestLaunch: far}
}

// Struck answers from a pull (m) to its tempo.
func (b SlipBag) Struck(pull float64, m Meeting) (TempoAnswer, error) {
	limits, err := b.Limits(m)
	if err != nil {
		return TempoAnswer{}, err
	}
	t, err := b.cycle(pull, m)
	if err != nil {
		return TempoAnswer{}, err
	}
	return TempoAnswer{Feasible: true, Tempo: 60 / t, Launch: pull, Window: math.NaN(), FistSpeed: math.NaN(),
		Limits: limits}, nil
}

// Solve answers from a wanted tempo to the pull, where the drop allows it.
func (b SlipBag) Solve(tempo float64, m Meeting) (TempoAnswer, error) {
	return solvePendulum(tempo, m, b.Limits,
		func(pull float64) (float64, error) { return b.cycle(pull, m) },
		func(pull float64) (TempoAnswer, error) { return b.Struck(pull, m) })
}

// slipReach (m) is the distance from the bag's edge that a head has to keep: half a head's width. Assumed.
const slipReach = 0.09

// SlipWindow returns how long (s) a slip may be begun before a pass at speed m/s of a bag that swings with period s, by
// somebody who takes off s to be off the line: begun after the bag has turned and early enough. 0 or less cannot be
// slipped. W = T/4 − (R + 0.09 m)/v − off.
func (b SlipBag) SlipWindow(period, speed, off float64) float64 {
	return period/4 - (b.BagDiameter/2+slipReach)/speed - off
}

// Fresh is the swing in metres under which a slip bag needs a tap. Assumed.
const Fresh = 0.25

// TapAfter returns after which pass the swing, drawn back by pull m, is under Fresh, so that the bag is to be tapped
// again; 0 where it is from the start. At most MaxRebounds passes are looked at.
func (b SlipBag) TapAfter(pull float64) (int, error) {
	if _, err := b.Returns(pull, Meeting{}, 1); err != nil {
		return 0, err
	}
	if pull < Fresh {
		return 0, nil
	}
	l, passes := b.Drop(), 0
	err := b.swing().Follow(math.Asin(pull/l), 0, MaxRebounds*20*math.Sqrt(l), nil, func(p motion.Passage) bool {
		passes++
		return l*math.Sin(math.Abs(p.X)) >= Fresh && passes < MaxRebounds
	})
	return passes, err
}

// PunchesBetween returns how many punches fit between two passes so many seconds apart, for somebody whose slip out and
// back takes slip s, a strike movement strike s and the interval between alternate hands alternate s: 1 + ⌊(gap −
// strike)/alternate⌋ with gap = between − slip, none where the gap is shorter than one strike. short is the time
// missing for one more.
func PunchesBetween(between, slip, strike, alternate float64) (n int, short float64) {
	gap := between - slip
	if gap < strike {
		return 0, strike - gap
	}
	n = 1 + int((gap-strike)/alternate)
	return n, strike + float64(n)*alternate - gap
}

// Load returns the pull in newtons on the anchor: at rest, and at its greatest, as the bag drawn back by pull m passes
// the low point, m g (3 − 2 cos θ₀) (the balance of energy and the centripetal force).
func (b SlipBag) Load(pull float64) (static, peak float64, err error) {
	if err := PullLimits.Check("pull", pull); err != nil {
		return 0, 0, err
	}
	if pull >= b.Drop() {
		return 0, 0, input.Refuse("pull", "expected less than the drop of %s, not %s", words.Metres(b.Drop()),
			words.Metres(pull))
	}
	return pendulumLoad(b.BagMass, math.Asin(pull/b.Drop()))
}

func pendulumLoad(mass, amplitude float64) (static, peak float64, err error) {
	static = mass * motion.Gravity
	return static, static * (3 - 2*math.Cos(amplitude)), nil
}
