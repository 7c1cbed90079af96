package trainee

import "melodromos/core/combo"

// AgeBand is a coarse age.
type AgeBand string

// The age bands.
const (
	Child  AgeBand = "child"
	Youth  AgeBand = "youth"
	Adult  AgeBand = "adult"
	Senior AgeBand = "senior"
)

// Values lists them.
func (AgeBand) Values() []AgeBand { return []AgeBand{Child, Youth, Adult, Senior} }

// Minor says whether an adult has to be present.
func (a AgeBand) Minor() bool { return a == Child || a == Youth }

// Sport says what somebody trains for.
type Sport string

// With kicks come the strikes of legs, knees and elbows; where nothing is said it is boxing.
const (
	Boxing  Sport = "boxing"
	Kicking Sport = "kicking"
)

// Values lists them; "" is boxing.
func (Sport) Values() []Sport { return []Sport{"", Boxing, Kicking} }

// Newcomer is somebody of whom nothing is known yet: an orthodox adult and a beginner (assumed; tests and rounds
// replace what follows from it).
var Newcomer = struct {
	Stance combo.Stance
	Band   Band
	Age    AgeBand
}{combo.Orthodox, Beginner, Adult}
