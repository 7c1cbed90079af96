// Package rig holds each apparatus as it hangs in the gym: when it comes back after a strike, how long it can then be
// struck, which tempos it allows, and what to change where a wanted tempo is not among them.
//
// Lengths are in metres, masses in kilograms, speeds in m/s, times in seconds, angles inside the package in radians,
// tempos in strikes a minute.
package rig

import (
	"math"

	"melodromos/core/input"
)

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
	// Struck answers from a strike to its tempo, Solve from a wanted tempo to the strike, where the bag allows it;
	// Reach tells what to change where it does not.
	Struck(launch float64, m Meeting) (TempoAnswer, error)
	Solve(tempo float64, m Meeting) (TempoAnswer, error)
	// AtFist answers for a fist of that speed (m/s), held to what the rig allows; a slip bag, which nobody has to
	// strike, answers for its everyday pull.
	AtFist(fist float64, m Meeting) (TempoAnswer, error)
	// Picture draws one cycle. Where and by whom the bag is used matters to a slip bag only.
	Picture(launch float64, m Meeting, u Use) (Picture, error)
	// Masses gives the effective mass (kg) of a fist on the bag, and the mass as which the bag is felt at the strike
	// point; NaN where nobody has to strike it.
	Masses() (fist, felt float64)
	// Trail draws the bag's motion under a row of blows, from 0 to end s, and tells how far (m) a swing of 1 is. A slip
	// bag, which nobody has to strike, is drawn from letting go at pull m.
	Trail(blows []Blow, pull, end float64) ([]TracePoint, float64)

	// How it hangs.

	// SetUp tells how to hang it for somebody at a place; force is the launch (pull) that the room is reckoned for.
	SetUp(p Place, body Body, force float64) SetUp
	// Inspect looks for what is wrong with it, height and room left out.
	Inspect(u Use) []Finding
	// Loads gives the pull on each part of the mount, the greatest for a launch (pull) and a fist of that speed.
	Loads(launch, fist float64) ([]Load, error)
	// Side draws it from the side.
	Side(p Place) SideView

	// LeastKnown returns the parameter that calibration fits: the share of speed kept at the board, the cords'
	// stiffness, the spring, and for pendulums the effective length, through the height of the anchor or the chain.
	LeastKnown() Parameter
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

// Values lists them; "" is none.
func (Face) Values() []Face { return []Face{"", Front, Behind} }

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

// Everyday returns the usual way of meeting a kind of bag: after three board sounds, at every return, at every pass.
func Everyday(kind Kind) Meeting {
	if kind == Speed {
		return Three
	}
	return Meeting{Rebounds: max(1, kind.Model().Rebounds)}
}

// Return is a moment when the bag can be struck again.
type Return struct {
	At     float64   // s after the strike
	Speed  float64   // m/s at the strike point
	Window float64   // s during which the inbound bag can be struck
	Boards []float64 // s after the strike: the contacts with the board on the way
}

// Tempo is the range of tempos that one rebound count allows on a rig, over launches up to MaxLaunch. The limits count
// though a real strike only comes close to them.
type Tempo struct {
	Rebounds      int     `json:"rebounds"`
	Face          Face    `json:"face"`
	Slowest       float64 `json:"slowest"` // strikes a minute
	Fastest       float64 `json:"fastest"` // strikes a minute
	SlowestLaunch float64 `json:"-"`       // m/s
	FastestLaunch float64 `json:"-"`       // m/s
}

// Change is one thing to do so that a wanted tempo comes within reach: set What ("tempo", "rebounds", "bagLength" …) to
// To.
type Change struct {
	What   string  `json:"what"`
	To     float64 `json:"to"`
	Reason string  `json:"reason"`
}

// TempoAnswer tells whether a tempo can be had and what it takes.
type TempoAnswer struct {
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
func (a TempoAnswer) Nearest() float64 {
	small := 0.02 * math.Max(a.Limits.SlowestLaunch, a.Limits.FastestLaunch)
	switch {
	case a.Feasible:
		return a.Launch
	case a.Tempo > a.Limits.Fastest:
		return math.Max(a.Limits.FastestLaunch, small)
	}
	return math.Max(a.Limits.SlowestLaunch*(1+1e-6), small)
}

// impact returns the fist speed (m/s) of a fist of mass fist (kg) that drives a bag felt as a mass felt off at launch
// when it comes in at inbound (m/s): v_f from v_out = −v_in + (1 + 0.6)·m_f/(m_f + m_b)·(v_f + v_in), a partly elastic
// impact of two bodies. The masses of fists and the 0.6 are assumed.
func impact(launch, inbound, fist, felt float64) float64 {
	share := (1 + fistRestitution) * fist / (fist + felt)
	return (launch+inbound)/share - inbound
}

func abs(n int) int { return max(n, -n) }
