package rig

import (
	"fmt"

	"melodromos/core/input"
)

// Limits of a speed bag's measures are wide enough for any that is sold for children or for training (assumed).
var speedTable = Table[SpeedBag]{
	{Field{Name: "bagLength", Label: "Length, swivel to bottom", Quantity: AsLength, Slider: Slider{0.12, 0.45, 0.005},
		Limits: input.Limits{Min: 0.08, Max: 0.80, Unit: "m"}}, func(b *SpeedBag) any { return &b.BagLength }},
	{Field{Name: "bagDiameter", Label: "Widest diameter", Quantity: AsLength, Slider: Slider{0.08, 0.35, 0.005},
		Limits: input.Limits{Min: 0.05, Max: 0.60, Unit: "m"}}, func(b *SpeedBag) any { return &b.BagDiameter }},
	{Field{Name: "swivelDrop", Label: "Swivel below the board", Quantity: AsLength, Slider: Slider{0, 0.08, 0.0025},
		Limits: input.Limits{Min: 0, Max: 0.20, Unit: "m"}}, func(b *SpeedBag) any { return &b.SwivelDrop }},
	{Field{Name: "bagMass", Label: "Weight", Quantity: AsGrams, Slider: Slider{0.08, 1.2, 0.01},
		Limits: input.Limits{Min: 0.03, Max: 3, Unit: "kg"}}, func(b *SpeedBag) any { return &b.BagMass }},
	{Field{Name: "boardHeight", Label: "Board above the floor", Quantity: AsHeight, Slider: Slider{1, 2.8, 0.01},
		Limits: input.Limits{Min: 0.8, Max: 3.5, Unit: "m"}, Optional: true},
		func(b *SpeedBag) any { return &b.BoardHeight }},
	{Field{Name: "restitution", Label: "Speed kept at the board", Quantity: AsShare, Slider: Slider{0.4, 0.95, 0.01},
		Help:   "80 % is assumed until calibrated; a soft or badly pumped bag keeps less.",
		Limits: input.Limits{Min: 0.05, Max: 1}, Optional: true, Default: DefaultRestitution},
		func(b *SpeedBag) any { return &b.Restitution }},
}

var speedModel = Model{
	Kind: Speed, Name: "speed bag", What: "under a board", Rebounds: 3, Between: true,
	Everyday: Doc{Rig: SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02,
		Restitution: DefaultRestitution, BoardHeight: 1.95}},
	Around: append([]Field{
		choice("school", "Height", "", option(UsualHeight, "Chin to mouth"),
			option(ForShoulders, "Higher, for the shoulders")), anchoredIn, ratedLoad,
	}, wallsAndCap...),
	Tapping: Tapping{
		How:   "Strike it once and tap with the strike, then tap every board sound.",
		Timed: "Strike it at half power.",
		First: "strike", Counted: "board sounds", Where: "Every board sound, near and far.",
		Twice: "Was that more than the board sounds?", Parameter: "Speed kept at the board",
	},
	Caution: "Fix the board into structure, by somebody qualified; check swivel and screws before each use. The maker’s instructions and local codes come first.",
}

// mostKept is the share of its speed that a bag can keep at its board. Assumed.
const mostKept = 0.98

// LeastKnown returns the share of its speed that the bag keeps at the board, which the board sounds tell.
func (b SpeedBag) LeastKnown() Parameter {
	return Parameter{
		Field: "restitution", Value: b.Restitution, With: func(v float64) Rig { c := b; c.Restitution = v; return c },
		Abrupt: true, Most: mostKept,
		Moments: func(r Rig, launch float64, n int) ([]float64, error) {
			speed, ok := r.(SpeedBag)
			if !ok {
				return nil, fmt.Errorf("rig: %s is no speed bag", r.Kind())
			}
			back, err := speed.Return(launch, Meeting{Rebounds: n})
			return back.Boards, err
		},
		Told: func(v, was float64) string {
			return fmt.Sprintf("It keeps %.0f %% of its speed at the board, not %.0f", 100*v, 100*was)
		},
	}
}
