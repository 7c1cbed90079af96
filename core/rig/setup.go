package rig

import (
	"math"
)

// SetUp holds the heights at which to hang a rig for one person. Where a person's height or a measure is missing, Needs
// names what to measure and the heights are not known.
type SetUp struct {
	Point    string    // what of the rig is set to a height: its lowest point, the ball, the top of the bag
	Low, Aim float64   // m above the floor: right from Low to High; Aim is the nearest right height to today's
	High     float64   // m
	Now      float64   // m
	Between  string    // what of the person Low and High are
	Standing string    // whether that is common practice or assumed
	Move     float64   // m up, negative down; 0 where it hangs right
	Settings []Setting // what to change for it
	Conflict *Conflict // where two rules cannot both be kept
	Stand    float64   // m from the bag's axis to the plumb line of the head
	Room     []Room    // what the work needs around the bag
	Needs    string    // the field to be measured first, or ""
	Targets  []Target  // on a straight hanging bag: where blows go
}

// Target is a height that blows go to, that of an opponent as tall as the trainee. It is marked with tape; between the
// two is a fault (common practice).
type Target struct {
	Name   string  `json:"name"`   // head or body
	Height float64 `json:"height"` // m above the floor
	Down   float64 `json:"down"`   // m below the top of the bag as it should hang
}

// Setting is one measure to set anew: the field of the rig's document, or of its place after "place.".
type Setting struct {
	Field string  `json:"field"`
	Now   float64 `json:"now"`
	To    float64 `json:"to"`
}

// Conflict is a double-end ball that cannot hang at eye height and midway between its anchors at once.
type Conflict struct {
	Midway float64 // m above the floor
	Wanted float64 // m above the floor
	Off    float64 // m by which the wanted height lies above the middle, negative below
	// m above (negative below) the strike at which a ball hung at the wanted height comes back from a half-power strike
	Uneven float64
	Anchor float64 // m above the floor: with the lower anchor there both hold; NaN where the floor is in the way
}

// Room is the distance (m) that the work needs in one direction from the bag's axis, and the one there is.
type Room struct {
	Where string  `json:"where"` // beyond, beside or behind
	For   string  `json:"for"`   // what for: swing, punches, stepBack, circling
	Need  float64 `json:"need"`  // m
	Have  float64 `json:"have"`  // m; 0 not measured
}

// Short says whether the room was measured and is too small.
func (r Room) Short() bool { return r.Have > 0 && r.Have < r.Need }

// Clearances in m, assumed.
const (
	wallMargin = 0.10 // between a swinging bag and a wall
	elbows     = 0.55 // beside the bag, for hooks
	stepBack   = 0.60 // behind the trainee, for a step
	bodyDepth  = 0.30 // behind the plumb line of the head
	levelling  = 0.03 // by which a height may be off and still counts as right
)

// heights fills in where the point is, where it may be, and the move to the nearest right height, to the centimetre.
func (s *SetUp) heights(now, low, high float64) {
	s.Now, s.Low, s.High = now, low, high
	s.Aim = math.Min(math.Max(now, low), high)
	if s.Aim != now {
		s.Move = math.Round((s.Aim-now)*100) / 100
		s.Aim = now + s.Move
	}
}

// level is heights for a point that belongs to one height, within what may be off.
func (s *SetUp) level(now, at float64) {
	s.heights(now, at-levelling, at+levelling)
	if s.Move != 0 {
		s.Move = math.Round((at-now)*100) / 100
		s.Aim = now + s.Move
	}
}

// Right is the height (m) that a point belongs at, whatever it is today: the middle of Low and High.
func (s SetUp) Right() float64 { return (s.Low + s.High) / 2 }

// room lists what work around a bag needs that swings so far out (m, its own radius in) and is struck from stand.
func (s *SetUp) room(p Place, swing float64) {
	s.Room = []Room{
		{"beyond", "swing", swing + wallMargin, p.Beyond},
		{"beside", "punches", elbows, p.Beside},
		{"behind", "stepBack", s.Stand + bodyDepth + stepBack, p.Behind},
	}
}

// circled adds what it takes to walk round the bag.
func (s *SetUp) circled(p Place) {
	around := s.Stand + bodyDepth
	s.Room = append(s.Room, Room{"beyond", "circling", around, p.Beyond}, Room{"beside", "circling", around, p.Beside})
}

// Load is the pull on one part of a mount, in newtons: with the bag at rest and at its greatest.
type Load struct {
	Part   string  `json:"part"` // anchor, upper, lower, swivel or base
	Static float64 `json:"static"`
	Peak   float64 `json:"peak"`
}

// Use holds what an inspection of a rig needs to know: who works on it, where, and how hard.
type Use struct {
	Place     Place
	Body      Body
	Launch    float64 // m/s of the strike looked at; for a slip bag the pull in m
	Fist      float64 // m/s of the fist that gives it; NaN where nobody strikes
	Hardest   float64 // m/s, the trainee's greatest fist speed
	Alternate float64 // s, the trainee's least interval of alternate hands
	SameHand  float64 // s, the trainee's least interval of one hand
	Away      float64 // s the trainee takes to be off the line of a bag
	Novice    bool    // first-timer or beginner
	Borders   Borders
}

// away is the time off the line for a swing plane: slipped where it comes toward, rolled under where it goes across.
func (u Use) away() float64 {
	if u.Away > 0 {
		return u.Away
	}
	return DefaultAway(u.Place.Plane)
}

// outAndBack is the whole of such a move (s, assumed): a slip, or a roll under a bag that swings across.
func (u Use) outAndBack() float64 {
	if u.Place.Plane == Across {
		return 0.60
	}
	return 0.35
}

// DefaultAway is the time (s, assumed) until a head is off the bag's line: a slip out of a bag that swings toward, a
// roll under one that swings across.
func DefaultAway(plane SwingPlane) float64 {
	if plane == Across {
		return 0.35
	}
	return 0.25
}
