package rig

import (
	"fmt"

	"melodromos/core/input"
)

// Limits that a ball has between cords or on a pole, and a slip bag as well: wide enough for any that hangs in a gym,
// a child's foam ball too, and no wider, since less would swing faster than can be worked out (assumed).
var (
	ballDiameter = input.Limits{Min: 0.02, Max: 0.8, Unit: "m"}
	ballMass     = input.Limits{Min: 0.01, Max: 10, Unit: "kg"}
	dampingRatio = input.Limits{Min: 0, Max: 0.9}
)

var (
	cordSpan      = input.Limits{Min: 0.05, Max: 4, Unit: "m"}
	cordStiffness = input.Limits{Min: 1, Max: 2e4, Unit: "N/m"}
)

var doubleEndTable = Table[DoubleEndBag]{
	{Field{Name: "ballDiameter", Label: "Ball", Quantity: AsLength, Slider: Slider{0.06, 0.4, 0.005},
		Limits: ballDiameter}, func(b *DoubleEndBag) any { return &b.BallDiameter }},
	{Field{Name: "ballMass", Label: "Weight of the ball", Quantity: AsGrams, Slider: Slider{0.05, 1.5, 0.01},
		Limits: ballMass}, func(b *DoubleEndBag) any { return &b.BallMass }},
	{Field{Name: "upper.span", Label: "Upper cord, anchor to the ball’s middle", Quantity: AsHeight,
		Slider: Slider{0.3, 2, 0.01}, Limits: cordSpan}, func(b *DoubleEndBag) any { return &b.Upper.Span }},
	{Field{Name: "upper.relaxed", Label: "Upper cord, relaxed", Quantity: AsHeight, Slider: Slider{0.1, 2, 0.005},
		Limits: cordSpan}, func(b *DoubleEndBag) any { return &b.Upper.Relaxed }},
	{Field{Name: "lower.span", Label: "Lower cord, anchor to the ball’s middle", Quantity: AsHeight,
		Slider: Slider{0.3, 2, 0.01}, Limits: cordSpan}, func(b *DoubleEndBag) any { return &b.Lower.Span }},
	{Field{Name: "lower.relaxed", Label: "Lower cord, relaxed", Quantity: AsHeight, Slider: Slider{0.1, 2, 0.005},
		Limits: cordSpan}, func(b *DoubleEndBag) any { return &b.Lower.Relaxed }},
	{Field{Name: "upper.stiffness", Label: "Stiffness of the upper cord", Quantity: AsStiffness,
		Slider: Slider{10, 600, 1}, Limits: cordStiffness, Follows: true,
		Help: "Hardly anybody knows it: calibrate the bag."}, func(b *DoubleEndBag) any { return &b.Upper.Stiffness }},
	{Field{Name: "lower.stiffness", Label: "Stiffness of the lower cord", Quantity: AsStiffness,
		Slider: Slider{10, 600, 1}, Limits: cordStiffness, Follows: true},
		func(b *DoubleEndBag) any { return &b.Lower.Stiffness }},
	{Field{Name: "damping", Label: "Damping", Quantity: AsRatio, Slider: Slider{0, 0.3, 0.005}, Limits: dampingRatio,
		Optional: true, Default: DefaultCordDamping,
		Help: "0.04 is assumed."}, func(b *DoubleEndBag) any { return &b.Damping }},
}

var lowerAnchor = around("lowerAnchor", "Lower anchor above the floor", AsHeight, Slider{0, 1.2, 0.01}, "")

// byHand is asked of a bag that somebody may have to steady; where coaches disagree the default of the kind stands
// first.
func byHand(first Steadied) Field {
	again := option(ToStartAgain, "To start again")
	never := option(NeverByHand, "Never")
	framing := option(AsFraming, "As framing")
	options := []Option{again, never, framing}
	if first == NeverByHand {
		options = []Option{never, again, framing}
	}
	return choice("steadied", "Steadied by hand",
		"Where it never is, a strike on a bag at rest waits until it has settled by itself. Framing, in rhythm, is for the advanced.", options...)
}

var doubleEndModel = Model{
	Kind: DoubleEnd, Name: "double-end bag", What: "between two cords", Measures: []Field{lowerAnchor},
	Everyday: Doc{Rig: DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: Cord{1, 0.8, 110},
		Lower: Cord{1.05, 0.84, 105}, Damping: DefaultCordDamping}},
	Place: PlaceDoc{Place: Place{LowerAnchor: 0.55}},
	Around: append([]Field{
		choice("purpose", "Used for", "", option(ForCombinations, "Combinations"),
			option(ForHeadMovement, "Head movement")),
		choice("made", "The ball", "A two-lobed one takes uppercuts and hooks to the body.", option(Bag, "Round"),
			option(TwoLobed, "Two-lobed")),
		byHand(ToStartAgain), anchoredIn, ratedLoad,
	}, wallsAndCap...),
	Tapping: Tapping{
		How:   "Strike it once and tap with the strike, then tap each time the ball comes back to you through the middle, not as it goes out.",
		Timed: "Strike it at half power.",
		First: "strike", Counted: "returns", Where: "Only as it comes back to you; not on its way out.",
		Twice:     "Was that each time it went through the middle, on its way out as well?",
		Parameter: "Stiffness of the cords",
	},
	Caution: "Anchor into structure, by somebody qualified. A cord under tension whips when it parts: inspect both cords top and bottom before each use, and keep eyes away from them while winding.",
}

// LeastKnown is the stiffness of the cords, the lower in proportion to the upper.
func (b DoubleEndBag) LeastKnown() Parameter {
	return Parameter{
		Field: "upper.stiffness", Value: b.Upper.Stiffness,
		With: func(v float64) Rig {
			c := b
			c.Upper.Stiffness, c.Lower.Stiffness = v, b.Lower.Stiffness*v/b.Upper.Stiffness
			return c
		},
		Told: func(v, was float64) string { return fmt.Sprintf("Its cords have %.0f N/m, not %.0f", v, was) },
	}
}
