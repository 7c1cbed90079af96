// Package rig holds each apparatus as it hangs in the gym: when it comes back after a strike, how long it can then be
// struck, which tempos it allows, and what to change where a wanted tempo is not among them.
//
// Lengths are in metres, masses in kilograms, speeds in m/s, times in seconds, angles inside the package in radians,
// tempos in strikes a minute.
package rig

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"strings"

	"melodromos/core/input"
)

// Kind names an apparatus.
type Kind string

// The kinds, one file each but for the two pendulums.
const (
	Speed     Kind = "speed"     // under a board
	DoubleEnd Kind = "doubleEnd" // between two cords
	Reflex    Kind = "reflex"    // on a sprung pole
	Slip      Kind = "slip"      // a light pendulum
	Hanging   Kind = "hanging"   // a heavy one
)

// Kinds lists them in the order in which they are trained.
var Kinds = []Kind{Speed, DoubleEnd, Reflex, Slip, Hanging}

var kindNames = map[Kind]string{Speed: "speed bag", DoubleEnd: "double-end bag", Reflex: "reflex bag", Slip: "slip bag", Hanging: "hanging bag"}

// Name is what a kind of bag is called within a sentence; "" for what is none.
func (k Kind) Name() string { return kindNames[k] }

// Documents gives for each kind the empty document that describes it.
func Documents() map[Kind]Rig {
	return map[Kind]Rig{Speed: SpeedBag{}, DoubleEnd: DoubleEndBag{}, Reflex: ReflexBag{}, Slip: SlipBag{}, Hanging: HangingBag{}}
}

// Rig is one apparatus as it hangs. A launch is in m/s at the strike point; for a slip bag it is the pull in m instead.
// Parts of a meeting that a kind does not know (angle and face, but for the speed bag) are passed over.
type Rig interface {
	Kind() Kind
	// Check refuses measures outside their limits or that do not go together, by field.
	Check() error

	// How it swings.

	// Returns gives n returns after a strike. A speed bag gives the one that the meeting counts to.
	Returns(launch float64, m Meeting, n int) ([]Return, error)
	// Limits gives the slowest and the fastest tempo of a count.
	Limits(m Meeting) (Tempo, error)
	// Struck answers from a strike to its tempo, Solve from a wanted tempo to the strike, where the bag allows it; Reach tells what to
	// change where it does not.
	Struck(launch float64, m Meeting) (Answer, error)
	Solve(tempo float64, m Meeting) (Answer, error)
	// AtFist answers for a fist of that speed (m/s), held to what the rig allows; a slip bag, which nobody has to strike,
	// answers for its everyday pull.
	AtFist(fist float64, m Meeting) (Answer, error)
	// Picture draws one cycle. Where and by whom the bag is used matters to a slip bag only.
	Picture(launch float64, m Meeting, u Use) (Picture, error)

	// How it hangs.

	// SetUp tells how to hang it for somebody at a place; force is the launch (pull) that the room is reckoned for.
	SetUp(p Place, body Body, force float64) SetUp
	// Inspect looks for what is wrong with it, height and room left out.
	Inspect(u Use) []Finding
	// Loads gives the pull on each part of the mount, the greatest for a launch (pull) and a fist of that speed.
	Loads(launch, fist float64) ([]Load, error)
	// Side draws it from the side.
	Side(p Place) Side

	// leastKnown is what calibration fits.
	leastKnown() fitted
}

// MaxLaunch is the bag speed in m/s up to which the slowest and fastest tempos of a rig are looked for. Assumed: faster
// than a trained puncher drives any of these bags.
const MaxLaunch = 12.0

// LaunchLimits are the launches a question may be asked for.
var LaunchLimits = input.Limits{Min: 0, Max: 30, Open: true, Unit: "m/s"}

// TempoLimits are the tempos a question may be asked for.
var TempoLimits = input.Limits{Min: 0, Max: 10000, Open: true, Unit: "strikes a minute"}

// Face is the side of the bag that a strike meets.
type Face string

// The front is the puncher's side; a hand strikes from behind on its way home.
const (
	Front  Face = "front"
	Behind Face = "behind"
)

// DefaultStrikeAngle (rad) is where a speed bag is met: on the far side, on its way back before it hangs straight
// (common practice; the 25° are assumed).
const DefaultStrikeAngle = 25 * math.Pi / 180

// StrikeAngleLimits bound a strike angle given in degrees. The board of the bag at hand bounds it further.
var StrikeAngleLimits = input.Limits{Min: 0, Max: 85, Open: true, Unit: "degrees"}

// MaxRebounds is the greatest rebound count a question may be asked for.
const MaxRebounds = 200

// Meeting says how the next strike meets the bag.
type Meeting struct {
	Rebounds int     // rebounds between the strike and the next one, 1 or more
	Angle    float64 // strike angle, rad; 0 takes DefaultStrikeAngle
	Face     Face    // face the next strike meets; empty takes the one that parity allows
}

// Three is the everyday meeting: three board sounds, from the front (common practice).
var Three = Meeting{Rebounds: 3, Angle: DefaultStrikeAngle, Face: Front}

// Everyday is how a kind of bag is met when nobody says otherwise: after three board sounds, at every return, at every pass.
func Everyday(kind Kind) Meeting {
	if kind == Speed {
		return Three
	}
	return Meeting{Rebounds: 1}
}

// Return is a moment when the bag can be struck again.
type Return struct {
	At     float64   // s after the strike
	Speed  float64   // m/s at the strike point
	Window float64   // s during which the inbound bag can be struck
	Boards []float64 // s after the strike: the contacts with the board on the way
}

// Tempo is what one rebound count allows on a rig, over launches up to MaxLaunch. The limits count though a real strike
// only comes close to them.
type Tempo struct {
	Rebounds      int
	Face          Face
	Slowest       float64 // strikes a minute
	Fastest       float64 // strikes a minute
	SlowestLaunch float64 // m/s
	FastestLaunch float64 // m/s
}

// Change is one thing to do so that a wanted tempo comes within reach: set What ("tempo", "rebounds", "bagLength" …) to To.
type Change struct {
	What   string  `json:"what"`
	To     float64 `json:"to"`
	Reason string  `json:"reason"`
}

// Answer tells whether a tempo can be had and what it takes.
type Answer struct {
	Feasible  bool
	Tempo     float64 // strikes a minute: the wanted one, or the one a launch gives
	Launch    float64 // m/s; 0 where not feasible
	Window    float64 // s; 0 where not feasible
	FistSpeed float64 // m/s; 0 where not feasible
	Limits    Tempo
	ByBag     bool     // not feasible, though the bag allows it: no hand of the striker's does
	Change    []Change // from Reach; empty where feasible
}

// Nearest is the launch (m/s) that comes nearest to the tempo: the one that gives it, or, where none does, one a hair
// inside the limit it lies beyond; a limit that belongs to the smallest swing is drawn with a small one.
func (a Answer) Nearest() float64 {
	small := 0.02 * math.Max(a.Limits.SlowestLaunch, a.Limits.FastestLaunch)
	switch {
	case a.Feasible:
		return a.Launch
	case a.Tempo > a.Limits.Fastest:
		return math.Max(a.Limits.FastestLaunch, small)
	}
	return math.Max(a.Limits.SlowestLaunch*(1+1e-6), small)
}

var readers = map[Kind]func(*input.Object) (Rig, error){
	Speed: func(o *input.Object) (Rig, error) { return readSpeedBag(o) }, DoubleEnd: readDoubleEndBag, Reflex: readReflexBag,
	Slip: readSlipBag, Hanging: readHangingBag,
}

// Read reads the rig document of one object, of whatever kind, and checks it whole.
func Read(o *input.Object) (Rig, error) {
	kind := o.Choice("kind", string(Speed), string(DoubleEnd), string(Reflex), string(Slip), string(Hanging))
	read, ok := readers[Kind(kind)]
	if !ok {
		return nil, o.Done()
	}
	return read(o)
}

// DecodeSpeedBag reads the document of a speed bag from JSON.
func DecodeSpeedBag(doc []byte) (SpeedBag, error) {
	o := input.Parse(doc)
	o.Choice("kind", string(Speed))
	return readSpeedBag(o)
}

// done closes the object a rig was read from and checks the rig.
func done(o *input.Object, r Rig) (Rig, error) {
	if err := o.Done(); err != nil {
		return nil, err
	}
	if err := r.Check(); err != nil {
		return nil, o.Under(err)
	}
	return r, nil
}

// limited is a value with the limits of its field.
type limited struct {
	field string
	value float64
	input.Limits
}

// within refuses the first value outside its limits.
func within(list ...limited) error {
	for _, l := range list {
		if err := l.Limits.Check(l.field, l.value); err != nil {
			return err
		}
	}
	return nil
}

// impact returns the fist speed (m/s) of a fist of mass fist (kg) that drives a bag felt as a mass felt off at launch when it
// comes in at inbound (m/s): v_f from v_out = −v_in + (1 + 0.6)·m_f/(m_f + m_b)·(v_f + v_in), a partly elastic impact of two
// bodies. The masses of fists and the 0.6 are assumed.
func impact(launch, inbound, fist, felt float64) float64 {
	share := (1 + fistRestitution) * fist / (fist + felt)
	return (launch+inbound)/share - inbound
}

func abs(n int) int { return max(n, -n) }

// document writes the fields of a rig as the document that Read reads.
func document(kind Kind, fields any) ([]byte, error) {
	text, err := json.Marshal(fields)
	if err != nil {
		return nil, err
	}
	return append(fmt.Appendf(nil, `{"kind":%q,`, kind), text[1:]...), nil
}

// Apply sets measures anew and gives the rig and the place that come of it. A field that neither knows, or a value that
// makes the rig impossible, is refused.
func Apply(r Rig, p Place, settings []Setting) (Rig, Place, error) {
	doc, err := json.Marshal(r)
	if err != nil {
		return r, p, err
	}
	place, err := json.Marshal(p)
	if err != nil {
		return r, p, err
	}
	var fields, around map[string]any
	if err := errors.Join(json.Unmarshal(doc, &fields), json.Unmarshal(place, &around)); err != nil {
		return r, p, err
	}
	for _, s := range settings {
		into, name := fields, s.Field
		if at, ok := strings.CutPrefix(name, "place."); ok {
			into, name = around, at
		}
		if outer, inner, ok := strings.Cut(name, "."); ok {
			into, _ = into[outer].(map[string]any)
			name = inner
		}
		if into == nil {
			return r, p, input.Refuse(s.Field, "not a field that is known here")
		}
		into[name] = s.To
	}
	doc, err = json.Marshal(fields)
	if err != nil {
		return r, p, err
	}
	if place, err = json.Marshal(around); err != nil {
		return r, p, err
	}
	changed, err := Read(input.Parse(doc))
	if err != nil {
		return r, p, err
	}
	moved, err := ReadPlace(input.Parse(place))
	if err != nil {
		return r, p, input.Under("place", err)
	}
	return changed, moved, nil
}
