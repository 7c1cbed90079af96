package rig

import (
	"errors"
	"fmt"
	"math"

	"melodromos/core/input"
	"melodromos/core/motion"
)

// Handbook values, from memory: air at 20 °C in kg/m³, and the drag coefficient of a sphere.
const (
	airDensity = 1.204
	sphereDrag = 0.47
)

// SlipBag is a light pendulum at head height, drawn back and let go:
// θ̈ = −(g/ℓ) sin θ − ½ρC_dA(ℓ/m)|θ̇|θ̇ with ℓ from the anchor to the bag's centre.
type SlipBag struct {
	AnchorHeight float64 `json:"anchorHeight"` // m above the floor
	CentreHeight float64 `json:"centreHeight"` // m above the floor
	BagDiameter  float64 `json:"bagDiameter"`  // m
	BagMass      float64 `json:"bagMass"`      // kg
}

var (
	heightLimits  = input.Limits{Min: 0, Max: 12, Open: true, Unit: "m"}
	bagMassLimits = input.Limits{Min: 0, Max: 300, Open: true, Unit: "kg"}
	// PullLimits are the distances a slip bag may be drawn back.
	PullLimits = input.Limits{Min: 0, Max: 12, Open: true, Unit: "m"}
)

func readSlipBag(o *input.Object) (Rig, error) {
	return done(o, SlipBag{
		AnchorHeight: o.Number("anchorHeight", heightLimits), CentreHeight: o.Number("centreHeight", heightLimits),
		BagDiameter: o.Number("bagDiameter", ballDiameterLimits), BagMass: o.Number("bagMass", bagMassLimits),
	})
}

// Kind of this rig.
func (SlipBag) Kind() Kind { return Slip }

// Drop is the length of the pendulum in metres.
func (b SlipBag) Drop() float64 { return b.AnchorHeight - b.CentreHeight }

// Check refuses measures outside their limits or that do not go together, by field.
func (b SlipBag) Check() error {
	if err := within(
		limited{"anchorHeight", b.AnchorHeight, heightLimits}, limited{"centreHeight", b.CentreHeight, heightLimits},
		limited{"bagDiameter", b.BagDiameter, ballDiameterLimits}, limited{"bagMass", b.BagMass, bagMassLimits},
	); err != nil {
		return err
	}
	switch {
	case b.Drop() <= 0:
		return input.Refuse("centreHeight", "expected less than the anchor's height of %g m, not %g m", b.AnchorHeight, b.CentreHeight)
	case b.BagDiameter/2 >= b.Drop():
		return input.Refuse("bagDiameter", "expected a radius below the drop of %g m, not %g m", b.Drop(), b.BagDiameter/2)
	case b.BagDiameter/2 >= b.CentreHeight:
		return input.Refuse("centreHeight", "expected more than the bag's radius of %g m, so that it clears the floor", b.BagDiameter/2)
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
		return nil, input.Refuse("pull", "expected less than the drop of %g m, not %g m: the bag cannot be drawn back past 90 degrees", b.Drop(), pull)
	}
	if err := countLimits.Check("count", float64(n)); err != nil {
		return nil, err
	}
	l := b.Drop()
	drag := airDensity * sphereDrag * math.Pi * b.BagDiameter * b.BagDiameter / 4 * l / (2 * b.BagMass)
	swing := motion.Swing{Accel: func(x, v float64) float64 { return -motion.Gravity/l*math.Sin(x) - drag*math.Abs(v)*v }}
	var list []Return
	err := swing.Follow(math.Asin(pull/l), 0, float64(n+2)*20*math.Sqrt(l), []float64{0}, func(p motion.Passage) bool {
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
	fast := float64(m.Rebounds) * math.Pi * math.Sqrt(b.Drop()/motion.Gravity)
	return Tempo{Rebounds: m.Rebounds, Slowest: 60 / slow, Fastest: 60 / fast, SlowestLaunch: far}, nil
}

// Struck answers from a pull (m) to its tempo.
func (b SlipBag) Struck(pull float64, m Meeting) (Answer, error) {
	limits, err := b.Limits(m)
	if err != nil {
		return Answer{}, err
	}
	t, err := b.cycle(pull, m)
	if err != nil {
		return Answer{}, err
	}
	return Answer{Feasible: true, Tempo: 60 / t, Launch: pull, Window: math.NaN(), FistSpeed: math.NaN(), Limits: limits}, nil
}

// Solve answers from a wanted tempo to the pull, or to what to change: the count, or the height of the anchor.
func (b SlipBag) Solve(tempo float64, m Meeting) (Answer, error) {
	return solvePendulum(tempo, m, b.Limits,
		func(pull float64) (float64, error) { return b.cycle(pull, m) },
		func(pull float64) (Answer, error) { return b.Struck(pull, m) },
		func() []Change {
			// The small swing's drop for this tempo; the bag itself stays at the trainee's height.
			drop := motion.Gravity * math.Pow(60/tempo/(float64(m.Rebounds)*math.Pi), 2)
			c := b
			c.AnchorHeight = b.CentreHeight + drop
			if c.Check() != nil {
				return nil
			}
			return []Change{{"anchorHeight", c.AnchorHeight, fmt.Sprintf("with a drop of %.2f m a small swing keeps this tempo", drop)}}
		})
}

// HangingBag is a heavy pendulum: a cylinder or a ball on a chain, as a solid about its anchor.
type HangingBag struct {
	Shape        string  `json:"shape"`            // cylinder or ball
	Mass         float64 `json:"mass"`             // kg
	Length       float64 `json:"length,omitempty"` // m, cylinder only
	Diameter     float64 `json:"diameter"`         // m
	Chain        float64 `json:"chain"`            // m, anchor to the top of the bag
	AnchorHeight float64 `json:"anchorHeight,omitempty"`
}

var hangingLimits = struct{ length, diameter, chain input.Limits }{
	length:   input.Limits{Min: 0, Max: 4, Open: true, Unit: "m"},
	diameter: input.Limits{Min: 0, Max: 2, Open: true, Unit: "m"},
	chain:    input.Limits{Min: 0, Max: 6, Unit: "m"},
}

func readHangingBag(o *input.Object) (Rig, error) {
	b := HangingBag{
		Shape: o.Choice("shape", "cylinder", "ball"), Mass: o.Number("mass", bagMassLimits),
		Diameter: o.Number("diameter", hangingLimits.diameter), Chain: o.Number("chain", hangingLimits.chain),
		AnchorHeight: o.NumberOr("anchorHeight", heightLimits, 0),
	}
	if b.Shape == "cylinder" {
		b.Length = o.Number("length", hangingLimits.length)
	}
	return done(o, b)
}

// Kind of this rig.
func (HangingBag) Kind() Kind { return Hanging }

func (b HangingBag) height() float64 {
	if b.Shape == "ball" {
		return b.Diameter
	}
	return b.Length
}

// arm is the distance (m) from the anchor to the centre of mass.
func (b HangingBag) arm() float64 { return b.Chain + b.height()/2 }

// Inertia returns the moment of inertia about the anchor in kg·m² (inertia tables, parallel axis): a solid cylinder across
// its axis, m(r²/4 + h²/12), or a solid ball, ⅖mr².
func (b HangingBag) Inertia() float64 {
	r, h, d := b.Diameter/2, b.Length, b.arm()
	own := r*r/4 + h*h/12
	if b.Shape == "ball" {
		own = 2.0 / 5 * r * r
	}
	return b.Mass * (own + d*d)
}

// Check refuses measures outside their limits or that do not go together, by field.
func (b HangingBag) Check() error {
	if b.Shape != "cylinder" && b.Shape != "ball" {
		return input.Refuse("shape", `expected "cylinder" or "ball"`)
	}
	if err := within(
		limited{"mass", b.Mass, bagMassLimits}, limited{"diameter", b.Diameter, hangingLimits.diameter}, limited{"chain", b.Chain, hangingLimits.chain},
	); err != nil {
		return err
	}
	if b.Shape == "cylinder" {
		if err := hangingLimits.length.Check("length", b.Length); err != nil {
			return err
		}
	} else if b.Length != 0 {
		return input.Refuse("length", "a ball has a diameter only")
	}
	if b.AnchorHeight != 0 {
		if err := heightLimits.Check("anchorHeight", b.AnchorHeight); err != nil {
			return err
		}
		if reach := b.Chain + b.height(); b.AnchorHeight <= reach {
			return input.Refuse("anchorHeight", "expected more than %g m, so that the bag clears the floor", reach)
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

// Returns gives the first n inbound passages of the low point after a strike there at launch m/s of the centre of mass. The
// window of each is the way in before it, a quarter period. A strike that drives the bag past 90° is refused.
func (b HangingBag) Returns(launch float64, _ Meeting, n int) ([]Return, error) {
	if err := LaunchLimits.Check("launch", launch); err != nil {
		return nil, err
	}
	if err := countLimits.Check("count", float64(n)); err != nil {
		return nil, err
	}
	amplitude := b.amplitude(launch)
	if amplitude > math.Pi/2 {
		return nil, input.Refuse("launch", "expected a softer strike than %g m/s: it drives the bag past 90 degrees", launch)
	}
	period := b.pendulum().Period(amplitude)
	list := make([]Return, n)
	for i := range list {
		list[i] = Return{At: (float64(i) + 0.5) * period, Speed: launch, Window: period / 4}
	}
	return list, nil
}

// Limits: the small swing is the fastest, as a limit, a strike to 60° (or of 12 m/s) the slowest.
func (b HangingBag) Limits(m Meeting) (Tempo, error) {
	if err := counted(m); err != nil {
		return Tempo{}, err
	}
	most := math.Min(MaxLaunch, 2*b.pendulum().Rate*math.Sin(swingLimit/2)*b.arm())
	part := float64(m.Rebounds) - 0.5
	return Tempo{
		Rebounds: m.Rebounds, SlowestLaunch: most,
		Slowest: 60 / (part * b.pendulum().Period(b.amplitude(most))), Fastest: 60 / (part * b.pendulum().Period(0)),
	}, nil
}

// Struck answers from a strike to its tempo.
func (b HangingBag) Struck(launch float64, m Meeting) (Answer, error) {
	limits, err := b.Limits(m)
	if err != nil {
		return Answer{}, err
	}
	list, err := b.Returns(launch, m, m.Rebounds)
	if err != nil {
		return Answer{}, err
	}
	r := list[m.Rebounds-1]
	felt := b.Inertia() / (b.arm() * b.arm())
	return Answer{Feasible: true, Tempo: 60 / r.At, Launch: launch, Window: r.Window, FistSpeed: impact(launch, r.Speed, hangingFist, felt), Limits: limits}, nil
}

// hangingFist is the effective mass in kg of a fist on a hanging bag. Assumed; published effective masses of trained
// straight punches lie near 2 to 4 kg, from memory.
const hangingFist = 2.5

// Solve answers from a wanted tempo to the strike, or to what to change: the count, or the chain.
func (b HangingBag) Solve(tempo float64, m Meeting) (Answer, error) {
	return solvePendulum(tempo, m, b.Limits,
		func(launch float64) (float64, error) {
			list, err := b.Returns(launch, m, m.Rebounds)
			if err != nil {
				return 0, err
			}
			return list[m.Rebounds-1].At, nil
		},
		func(launch float64) (Answer, error) { return b.Struck(launch, m) },
		func() []Change {
			with := func(chain float64) HangingBag { c := b; c.Chain = chain; return c }
			part := float64(m.Rebounds) - 0.5
			chain, err := motion.Root(func(chain float64) float64 {
				return part*with(chain).pendulum().Period(0) - 60/tempo
			}, 0, hangingLimits.chain.Max, 1e-6)
			if err != nil || with(chain).Check() != nil {
				return nil
			}
			return []Change{{"chain", chain, "on a chain this long a small swing keeps this tempo"}}
		})
}

// solvePendulum solves for the launch or pull of a pendulum, whose swing slows as it grows.
func solvePendulum(tempo float64, m Meeting, limitsOf func(Meeting) (Tempo, error), cycle func(float64) (float64, error), answer func(float64) (Answer, error), rigChanges func() []Change) (Answer, error) {
	if err := TempoLimits.Check("tempo", tempo); err != nil {
		return Answer{}, err
	}
	limits, err := limitsOf(m)
	if err != nil {
		return Answer{}, err
	}
	if tempo < limits.Slowest || tempo >= limits.Fastest {
		changes := append(otherCounts(tempo, m, limitsOf), rigChanges()...)
		return Answer{Tempo: tempo, Limits: limits, Change: append(changes, nearest(tempo >= limits.Fastest, limits))}, nil
	}
	launch, err := motion.Root(func(v float64) float64 {
		t, err := cycle(v)
		if err != nil {
			return math.NaN()
		}
		return t - 60/tempo
	}, 1e-6*limits.SlowestLaunch, limits.SlowestLaunch, 1e-12)
	if err != nil {
		launch = 1e-6 * limits.SlowestLaunch // within rounding of the small swing
	}
	a, err := answer(launch)
	a.Tempo = tempo
	return a, err
}
