// Package rig holds each apparatus as it hangs in the gym: when it comes back after a strike, how long it can then be
// struck, which tempos it allows, and what to change where a wanted tempo is not among them.
//
// Lengths are in metres, masses in kilograms, speeds in m/s, times in seconds, angles inside the package in radians,
// tempos in strikes a minute.
package rig

import (
	"encoding/json"
	"math"

	"melodromos/core/input"
)

// Kind names an apparatus.
type Kind string

// Speed is the bag under a board. Further kinds follow, one file each.
const Speed Kind = "speed"

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
	Change    []Change // empty where feasible
}

// TracePoint is a point of the bag's motion: At seconds after the strike, Swing from −1 (near board) to 1 (far board).
type TracePoint struct {
	At    float64
	Swing float64
}

// Read reads the rig document of one object and checks it whole.
func Read(o *input.Object) (SpeedBag, error) {
	o.Choice("kind", string(Speed))
	return readSpeedBag(o)
}

// Decode reads a rig document from JSON.
func Decode(doc []byte) (SpeedBag, error) { return Read(input.Parse(doc)) }

// MarshalJSON writes the rig as the document that Decode reads.
func (b SpeedBag) MarshalJSON() ([]byte, error) {
	type fields SpeedBag
	return json.Marshal(struct {
		Kind Kind `json:"kind"`
		fields
	}{Speed, fields(b)})
}
