package rig

import (
	"errors"
	"math"

	"melodromos/core/input"
	"melodromos/core/motion"
	"melodromos/core/words"
)

// oscillator is the motion that double-end and reflex bags share: struck at 0 and outbound, the ball swings about 0
// along one coordinate and dies away. The coordinate is metres (arm 1) or radians (arm in metres).
type oscillator struct {
	swing    motion.Swing
	arm      float64 // m at the ball for a unit of the coordinate
	radius   float64 // m, of the ball
	small    float64 // rad/s of the small swing, damping and all
	furthest float64 // coordinate beyond which the model does not go
	felt     float64 // kg, the bag's mass as a fist feels it
	fist     float64 // kg, effective mass of the fist; assumed
}

// ballFist is the effective mass in kg of a fist on a ball between cords or on a pole. Assumed.
const ballFist = 1.0

// halfPower is the launch in m/s at which cords are felt. Assumed: what a coach calls half power.
const halfPower = 2.0

// swingLimit is the greatest angle (rad) to which tempos of a pole or a pendulum are looked for.
const swingLimit = 60 * math.Pi / 180

// patience is the number of small-swing periods after which a return is given up.
const patience = 1000

var countLimits = input.Limits{Min: 1, Max: MaxRebounds}

// returns lists the first n inbound passages of 0. The window of one is the inbound time within one ball radius of 0:
// from where the ball comes within it, or turns if it never left it, to where it leaves it on the other side, or turns.
func (o oscillator) returns(launch float64, n int) ([]Return, error) {
	if err := LaunchLimits.Check("launch", launch); err != nil {
		return nil, err
	}
	if err := countLimits.Check("count", float64(n)); err != nil {
		return nil, err
	}
	reach := o.radius / o.arm
	list := make([]Return, 0, n)
	from, opened, past := 0.0, false, false // of the inbound stretch that is under way
	err := o.swing.Follow(0, launch/o.arm, float64(n+2)*patience*2*math.Pi/o.small, []float64{reach, 0, -reach},
		func(p motion.Passage) bool {
			inbound := p.V < 0
			switch {
			case p.Turn && math.Abs(p.X) > o.furthest:
				past = true
				return false
			case p.Turn && p.X > 0: // the way in begins; inside the radius it counts at once
				from = p.At
			case !p.Turn && inbound && p.X == reach:
				from = p.At
			case !p.Turn && inbound && p.X == 0:
				list, opened = append(list, Return{At: p.At, Speed: -p.V * o.arm, Window: from}), true
			case opened && (p.Turn || inbound && p.X == -reach):
				list[len(list)-1].Window = p.At - list[len(list)-1].Window
				opened = false
				return len(list) < n
			}
			return true
		})
	if past {
		return nil, input.Refuse("launch", "expected a softer strike than %s: it drives the pole past %.0f degrees",
			words.Speed(launch), degrees(o.furthest))
	}
	if errors.Is(err, motion.ErrAtRest) {
		return nil, input.Refuse("count", "expected fewer than %d: the swing dies away before that", n)
	}
	return list, err
}

// back is the return that a meeting counts.
func (o oscillator) back(launch float64, m Meeting) (Return, error) {
	list, err := o.returns(launch, m.Rebounds)
	if err != nil {
		return Return{}, err
	}
	return list[len(list)-1], nil
}

// most is the greatest launch (m/s) that tempos are looked for up to.
func (o oscillator) most() float64 {
	if math.IsInf(o.furthest, 1) {
		return MaxLaunch
	}
	turn := func(launch float64) float64 {
		at := 0.0
		_ = o.swing.Follow(0, launch/o.arm, patience/o.small, nil,
			func(p motion.Passage) bool { at = p.X; return false })
		return at
	}
	if turn(MaxLaunch) <= swingLimit {
		return MaxLaunch
	}
	launch, err := motion.Root(func(v float64) float64 { return turn(v) - swingLimit }, 1e-3, MaxLaunch, 1e-10)
	if err != nil {
		return MaxLaunch
	}
	return launch
}

// limits: harder is sooner on a cord and on a pole, so the slowest is the small swing, as a limit, and the fastest the
// greatest launch.
func (o oscillator) limits(m Meeting) (Tempo, error) {
	if err := counted(m); err != nil {
		return Tempo{}, err
	}
	table, err := o.tempos(m.Rebounds)
	if err != nil {
		return Tempo{}, err
	}
	return table[m.Rebounds-1], nil
}

// tempos gives the limits of the counts 1 to n, from one swing.
func (o oscillator) tempos(n int) ([]Tempo, error) {
	most := o.most()
	fast, err := o.returns(most, n)
	if err != nil {
		return nil, err
	}
	table := make([]Tempo, n)
	for i := range table {
		slow := 2 * math.Pi / o.small * (float64(i) + 0.5)
		table[i] = Tempo{Rebounds: i + 1, Slowest: 60 / slow, Fastest: 60 / fast[i].At, FastestLaunch: most}
	}
	return table, nil
}

// settle returns the time (s) after a strike at launch m/s until the swing stays within one ball radius; +Inf where it
// never does, for want of damping.
func (o oscillator) settle(launch float64) (float64, error) {
	if _, err := o.returns(launch, 1); err != nil {
		return 0, err
	}
	last, reach := 0.0, o.radius/o.arm
	err := o.swing.Follow(0, launch/o.arm, patience*2*math.Pi/o.small, []float64{reach, -reach},
		func(p motion.Passage) bool {
			if p.Turn {
				return math.Abs(p.X) > reach
			}
			last = p.At
			return true
		})
	if err != nil {
		return math.Inf(1), nil
	}
	return last, nil
}

func counted(m Meeting) error {
	if m.Rebounds < 1 || m.Rebounds > MaxRebounds {
		return input.Refuse("rebounds", "expected a whole number from 1 to %d, not %d", MaxRebounds, m.Rebounds)
	}
	return nil
}

func (o oscillator) struck(launch float64, m Meeting) (TempoAnswer, error) {
	limits, err := o.limits(m)
	if err != nil {
		return TempoAnswer{}, err
	}
	r, err := o.back(launch, m)
	if err != nil {
		return TempoAnswer{}, err
	}
	return o.answer(60/r.At, launch, r, limits), nil
}

// atFist answers for a fist of that speed (m/s).
func (o oscillator) atFist(fist float64, m Meeting) (TempoAnswer, error) {
	limits, err := o.limits(m)
	if err != nil {
		return TempoAnswer{}, err
	}
	launch, r, err := o.driven(fist, limits.FastestLaunch, m)
	if err != nil {
		return TempoAnswer{}, err
	}
	return o.answer(60/r.At, launch, r, limits), nil
}

// driven finds the launch (m/s), most at the most, that a fist of that speed gives, and the return after it. The fist
// is nearly in proportion to the launch, since the swing dies away by nearly the same share whatever its size: a few
// proportional steps find it.
func (o oscillator) driven(fist, most float64, m Meeting) (float64, Return, error) {
	least := 1e-3 * most
	launch := math.Min(most, fist)
	if launch <= least {
		r, err := o.back(least, m)
		return least, r, err
	}
	for range 30 {
		r, err := o.back(launch, m)
		if err != nil {
			return launch, r, err
		}
		given := impact(launch, r.Speed, o.fist, o.felt)
		next := math.Min(math.Max(launch*fist/given, least), most)
		if math.Abs(next-launch) <= 1e-9*most {
			return launch, r, nil
		}
		launch = next
	}
	r, err := o.back(launch, m)
	return launch, r, err
}

func (o oscillator) answer(tempo, launch float64, r Return, limits Tempo) TempoAnswer {
	return TempoAnswer{Feasible: true, Tempo: tempo, Launch: launch, Window: r.Window,
		FistSpeed: impact(launch, r.Speed, o.fist, o.felt), Limits: limits}
}

func (o oscillator) solve(tempo float64, m Meeting) (TempoAnswer, error) {
	if err := TempoLimits.Check("tempo", tempo); err != nil {
		return TempoAnswer{}, err
	}
	limits, err := o.limits(m)
	if err != nil {
		return TempoAnswer{}, err
	}
	if tempo <= limits.Slowest || tempo > limits.Fastest {
		return TempoAnswer{Tempo: tempo, Limits: limits}, nil
	}
	launch, err := motion.Root(func(v float64) float64 {
		r, err := o.back(v, m)
		if err != nil {
			return math.NaN()
		}
		return r.At - 60/tempo
	}, 1e-6*limits.FastestLaunch, limits.FastestLaunch, 1e-11)
	if err != nil {
		launch = 1e-6 * limits.FastestLaunch // within rounding of the small swing
	}
	r, err := o.back(launch, m)
	if err != nil {
		return TempoAnswer{}, err
	}
	return o.answer(tempo, launch, r, limits), nil
}
