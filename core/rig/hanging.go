package rig

import (
	"math"

	"melodromos/core/input"
	"melodromos/core/motion"
	"melodromos/core/words"
)

// HangingBag is a heavy pendulum: a cylinder or a ball on a chain, as a solid about its anchor.
type HangingBag struct {
	Shape        Form
	Filled       Filling
	Mass         float64 // kg
	Length       float64 // m, straight ones only
	Diameter     float64 // m
	Chain        float64 // m, anchor to the top of the bag
	AnchorHeight float64 // m above the floor; 0 not measured
}

// MarshalJSON writes the document that Read reads.
func (b HangingBag) MarshalJSON() ([]byte, error) { return hangingTable.Document(Hanging, b) }

// Kind of this rig.
func (HangingBag) Kind() Kind { return Hanging }

func (b HangingBag) height() float64 {
	if b.Shape == Round {
		return b.Diameter
	}
	return b.Length
}

// arm is the distance (m) from the anchor to the centre of mass.
func (b HangingBag) arm() float64 { return b.Chain + b.height()/2 }

// Inertia returns the moment of inertia about the anchor in kg·m² (inertia tables, parallel axis): a solid cylinder
// across its axis, m(r²/4 + h²/12), or a solid ball, ⅖mr². Water in a ball swings with it and does not turn with it (an
// ideal fluid in a sphere, hydrodynamics from memory): all of it counts in the middle.
func (b HangingBag) Inertia() float64 {
	r, h, d := b.Diameter/2, b.Length, b.arm()
	own := r*r/4 + h*h/12
	if b.Shape == Round {
		if own = 2.0 / 5 * r * r; b.Filled == Water {
			own = 0
		}
	}
	return b.Mass * (own + d*d)
}

// Check refuses measures outside their limits or that do not go together, by field.
func (b HangingBag) Check() error {
	if err := hangingTable.Check(b); err != nil {
		return err
	}
	if b.AnchorHeight != 0 {
		if reach := b.Chain + b.height(); b.AnchorHeight <= reach {
			return input.Refuse("anchorHeight", "expected more than %s, so that the bag clears the floor",
				words.Metres(reach))
		}
	}
	return nil
}

func (b HangingBag) pendulum() motion.Pendulum {
	return motion.Pendulum{Rate: math.Sqrt(b.Mass * motion.Gravity * b.arm() / b.Inertia())}
}

// amplitude is the angle (rad) to which a strike at launch m/s drives the bag.
func (b HangingBag) amplitude(launch float64) float64 {
	s := launch / b.arm() / (2 * b.pendulum().Rate)
	if s >= 1 {
		return math.Pi
	}
	return 2 * math.Asin(s)
}

// Returns gives the first n inbound passages of the low point after a strike there at launch m/s of the centre of mass.
// The window of each is the way in before it, a quarter period. A strike that drives the bag past 90° is refused.
func (b HangingBag) Returns(launch float64, _ Meeting, n int) ([]Return, error) {
	if err := LaunchLimits.Check("launch", launch); err != nil {
		return nil, err
	}
	if err := countLimits.Check("count", float64(n)); err != nil {
		return nil, err
	}
	amplitude := b.amplitude(launch)
	if amplitude > math.Pi/2 {
		return nil, input.Refuse("launch", "expected a softer strike than %s: it drives the bag past 90 degrees",
			words.Speed(launch))
	}
	period := b.pendulum().Period(amplitude)
	list := make([]Return, n)
	for i := range list {
		list[i] = Return{At: (float64(i) + 0.5) * period, Speed: launch, Window: period / 4}
	}
	return list, nil
}

// most is the greatest launch (m/s) that tempos are looked for up to.
func (b HangingBag) most() float64 {
	return math.Min(MaxLaunch, 2*b.pendulum().Rate*math.Sin(swingLimit/2)*b.arm())
}

// Limits: the small swing is the fastest, as a limit, a strike to 60° (or of 12 m/s) the slowest.
func (b HangingBag) Limits(m Meeting) (Tempo, error) {
	if err := counted(m); err != nil {
		return Tempo{}, err
	}
	most := b.most()
	part := float64(m.Rebounds) - 0.5
	return Tempo{
		Rebounds: m.Rebounds, SlowestLaunch: most,
		Slowest: 60 / (part * b.pendulum().Period(b.amplitude(most))), Fastest: 60 / (part * b.pendulum().Period(0)),
	}, nil
}

// Struck answers from a strike to its tempo.
func (b HangingBag) Struck(launch float64, m Meeting) (TempoAnswer, error) {
	limits, err := b.Limits(m)
	if err != nil {
		return TempoAnswer{}, err
	}
	list, err := b.Returns(launch, m, m.Rebounds)
	if err != nil {
		return TempoAnswer{}, err
	}
	r := list[m.Rebounds-1]
	felt := b.Inertia() / (b.arm() * b.arm())
	return TempoAnswer{Feasible: true, Tempo: 60 / r.At, Launch: launch, Window: r.Window,
		FistSpeed: impact(launch, r.Speed, hangingFist, felt), Limits: limits}, nil
}

// hangingFist is the effective mass in kg of a fist on a hanging bag. Assumed; published effective masses of trained
// straight punches lie near 2 to 4 kg, from memory.
const hangingFist = 2.5

// Solve answers from a wanted tempo to the strike, where the bag allows it.
func (b HangingBag) Solve(tempo float64, m Meeting) (TempoAnswer, error) {
	return solvePendulum(tempo, m, b.Limits,
		func(launch float64) (float64, error) {
			list, err := b.Returns(launch, m, m.Rebounds)
			if err != nil {
				return 0, err
			}
			return list[m.Rebounds-1].At, nil
		},
		func(launch float64) (TempoAnswer, error) { return b.Struck(launch, m) })
}

// Load returns the pull in newtons on the anchor: at rest, and at its greatest, as the bag swings back through the low
// point after a strike at launch m/s: its weight and the centripetal force of the centre of mass, m v²/d. The jolt of
// the strike itself depends on how the chain gives and comes on top.
func (b HangingBag) Load(launch float64) (static, peak float64, err error) {
	if _, err := b.Returns(launch, Meeting{}, 1); err != nil {
		return 0, 0, err
	}
	static = b.Mass * motion.Gravity
	return static, static + b.Mass*launch*launch/b.arm(), nil
}
