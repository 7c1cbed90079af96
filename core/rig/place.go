package rig

import (
	"melodromos/core/input"
)

// Place is where a rig is mounted, how much room there is, and what it is used for: all that is not a measure of the bag
// itself. Every field may be left out; 0 and "" mean not measured, or the first of the choices. Lengths are in metres, the
// room is counted from the bag's axis.
type Place struct {
	LowerAnchor  float64 `json:"lowerAnchor,omitempty"`  // m above the floor, of a double-end bag's lower cord
	SpringHeight float64 `json:"springHeight,omitempty"` // m above the floor, of a reflex bag's spring
	BaseMass     float64 `json:"baseMass,omitempty"`     // kg, a reflex bag's base as filled
	BaseWidth    float64 `json:"baseWidth,omitempty"`    // m, across that base
	RatedLoad    float64 `json:"ratedLoad,omitempty"`    // kg, as it stands on the weakest part of the mount
	PowerCap     float64 `json:"powerCap,omitempty"`     // m/s of the fist, where the maker allows no power
	Beyond       float64 `json:"beyond,omitempty"`       // m to the wall behind the bag
	Beside       float64 `json:"beside,omitempty"`       // m to the nearer wall at its side
	Behind       float64 `json:"behind,omitempty"`       // m to the wall behind the trainee
	Anchor       string  `json:"anchor,omitempty"`
	Purpose      string  `json:"purpose,omitempty"`
	School       string  `json:"school,omitempty"`
	Stand        string  `json:"stand,omitempty"`
	Plane        string  `json:"plane,omitempty"`
	Made         string  `json:"made,omitempty"`
	Kicks        bool    `json:"kicks,omitempty"` // kicks and knees are trained
}

// What a place may say in words. The first of each is taken where it says nothing.
const (
	InStructure, OnFrame, StickOn, LightFitting, OnPipe, OnDoor = "structure", "frame", "stickOn", "lightFitting", "pipe", "door" // Anchor

	ForCombinations, ForHeadMovement = "combinations", "headMovement" // Purpose of a double-end bag
	LightHits, Obstacle              = "lightHits", "obstacle"        // Purpose of a slip bag

	UsualHeight, ForShoulders, HeadHeight = "usual", "shoulders", "head" // School of height: speed bags and slip bags differ

	AtLowPoint, AtTurn = "lowPoint", "turn" // Stand of a slip bag's trainee
	Toward, Across     = "toward", "across" // Plane of a slip bag's swing
	Bag, SoftBall      = "bag", "softBall"  // Made: what hangs there
	Bottle             = "bottle"           // to be dodged and never hit
	TwoLobed           = "twoLobed"         // a double-end ball of two halves
)

var placeLimits = struct{ room, mass, load, cap, width input.Limits }{
	room:  input.Limits{Min: 0, Max: 20, Unit: "m"},
	mass:  input.Limits{Min: 0, Max: 500, Unit: "kg"},
	load:  input.Limits{Min: 0, Max: 5000, Unit: "kg"},
	cap:   input.Limits{Min: 0, Max: 30, Unit: "m/s"},
	width: input.Limits{Min: 0, Max: 2, Unit: "m"},
}

// ReadPlace reads the document of a place.
func ReadPlace(o *input.Object) (Place, error) {
	p := Place{
		LowerAnchor:  o.NumberOr("lowerAnchor", placeLimits.room, 0),
		SpringHeight: o.NumberOr("springHeight", placeLimits.width, 0),
		BaseMass:     o.NumberOr("baseMass", placeLimits.mass, 0),
		BaseWidth:    o.NumberOr("baseWidth", placeLimits.width, 0),
		RatedLoad:    o.NumberOr("ratedLoad", placeLimits.load, 0),
		PowerCap:     o.NumberOr("powerCap", placeLimits.cap, 0),
		Beyond:       o.NumberOr("beyond", placeLimits.room, 0),
		Beside:       o.NumberOr("beside", placeLimits.room, 0),
		Behind:       o.NumberOr("behind", placeLimits.room, 0),
		Anchor:       o.ChoiceOr("anchor", InStructure, InStructure, OnFrame, StickOn, LightFitting, OnPipe, OnDoor),
		Purpose:      o.ChoiceOr("purpose", "", ForCombinations, ForHeadMovement, LightHits, Obstacle),
		School:       o.ChoiceOr("school", UsualHeight, UsualHeight, ForShoulders, HeadHeight),
		Stand:        o.ChoiceOr("stand", AtLowPoint, AtLowPoint, AtTurn),
		Plane:        o.ChoiceOr("plane", Toward, Toward, Across),
		Made:         o.ChoiceOr("made", Bag, Bag, SoftBall, Bottle, TwoLobed),
		Kicks:        o.FlagOr("kicks", false),
	}
	return p, o.Done()
}

// DefaultSpringHeight (m) is taken for the base of a reflex bag that nobody measured. Assumed.
const DefaultSpringHeight = 0.35

// spring is the height of a reflex bag's spring.
func (p Place) spring() float64 {
	if p.SpringHeight > 0 {
		return p.SpringHeight
	}
	return DefaultSpringHeight
}
