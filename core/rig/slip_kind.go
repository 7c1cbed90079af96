package rig

import (
	"fmt"

	"melodromos/core/input"
)

// Limits that both pendulums have.
var (
	anchorHeight = input.Limits{Min: 0.2, Max: 12, Unit: "m"}
	pendulumMass = input.Limits{Min: 0.01, Max: 300, Unit: "kg"}
)

var slipTable = Table[SlipBag]{
	{Field{Name: "anchorHeight", Label: "Anchor above the floor", Quantity: AsHeight, Slider: Slider{1.5, 5, 0.01},
		Limits: anchorHeight}, func(b *SlipBag) any { return &b.AnchorHeight }},
	{Field{Name: "centreHeight", Label: "Middle of the bag above the floor", Quantity: AsHeight,
		Slider: Slider{0.6, 2.2, 0.01}, Limits: anchorHeight}, func(b *SlipBag) any { return &b.CentreHeight }},
	{Field{Name: "bagDiameter", Label: "Diameter", Quantity: AsLength, Slider: Slider{0.05, 0.4, 0.005},
		Limits: ballDiameter}, func(b *SlipBag) any { return &b.BagDiameter }},
	{Field{Name: "bagMass", Label: "Weight", Quantity: AsGrams, Slider: Slider{0.05, 4, 0.01}, Limits: pendulumMass},
		func(b *SlipBag) any { return &b.BagMass }},
}

var slipModel = Model{
	Kind: Slip, Name: "slip bag", What: "a light pendulum", Slipped: true,
	Everyday: Doc{Rig: SlipBag{AnchorHeight: 2.6, CentreHeight: 1.45, BagDiameter: 0.2, BagMass: 0.5}},
	Around: append([]Field{
		choice("school", "Height", "", option(UsualHeight, "Chin"), option(HeadHeight, "Head")),
		choice("purpose", "Used as", "", option(LightHits, "Dodge and light hits"),
			option(Obstacle, "Obstacle, no touch")),
		choice("stand", "The trainee stands", "", option(AtLowPoint, "Under the low point"),
			option(AtTurn, "At the near turn")),
		choice("plane", "It swings", "", option(Toward, "Toward you, to slip"),
			option(Across, "Across you, to roll under")),
		choice("made", "What hangs there", "", option(Bag, "A bag"), option(SoftBall, "A soft ball"),
			option(Bottle, "A bottle")), anchoredIn, ratedLoad,
	}, walls...),
	Tapping: Tapping{
		How:   "Draw it back a little, about a third of its rope. Tap as you let go, then at every pass through the low point, from both sides.",
		Timed: "Draw it back a little and let go.",
		First: "let go", Counted: "passes",
		Where:     "Every pass through the low point, from both sides; never where it turns.",
		Twice:     "Was that where it turned as well as where it passed?",
		Parameter: "Effective length, as height of the anchor",
	},
	Caution: "Only soft, light things swing at heads, on an anchor that holds. A bottle is dodged and never hit.",
}

// LeastKnown is the effective length, through the height of the anchor; the bag is to be let swing gently.
func (b SlipBag) LeastKnown() Parameter {
	return Parameter{
		Field: "anchorHeight", Value: b.AnchorHeight,
		With: func(v float64) Rig { c := b; c.AnchorHeight = v; return c }, Gentle: 0.3 * b.Drop(),
		Told: func(v, was float64) string {
			return fmt.Sprintf("It swings as from an anchor at %.0f cm, not %.0f", 100*v, 100*was)
		},
	}
}
