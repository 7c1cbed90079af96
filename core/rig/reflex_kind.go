package rig

import (
	"fmt"

	"melodromos/core/input"
)

var poleSpring = input.Limits{Min: 1, Max: 5000, Unit: "N·m/rad"}

var reflexTable = Table[ReflexBag]{
	{Field{Name: "ballDiameter", Label: "Ball", Quantity: AsLength, Slider: Slider{0.06, 0.4, 0.005},
		Limits: ballDiameter}, func(b *ReflexBag) any { return &b.BallDiameter }},
	{Field{Name: "ballMass", Label: "Weight of the ball", Quantity: AsGrams, Slider: Slider{0.1, 3, 0.01},
		Limits: ballMass}, func(b *ReflexBag) any { return &b.BallMass }},
	{Field{Name: "poleLength", Label: "Pole, spring to the ball’s middle", Quantity: AsHeight,
		Slider: Slider{0.4, 1.8, 0.01},
		Limits: input.Limits{Min: 0.1, Max: 3, Unit: "m"}}, func(b *ReflexBag) any { return &b.PoleLength }},
	{Field{Name: "poleMass", Label: "Weight of the pole", Quantity: AsGrams, Slider: Slider{0, 3, 0.01},
		Limits: input.Limits{Min: 0, Max: 20, Unit: "kg"}}, func(b *ReflexBag) any { return &b.PoleMass }},
	{Field{Name: "spring", Label: "Spring", Quantity: AsSpring, Slider: Slider{5, 200, 0.5}, Limits: poleSpring,
		Help: "Hardly anybody knows it: calibrate the bag."}, func(b *ReflexBag) any { return &b.Spring }},
	{Field{Name: "damping", Label: "Damping", Quantity: AsRatio, Slider: Slider{0, 0.4, 0.005}, Limits: dampingRatio,
		Optional: true, Default: DefaultPoleDamping,
		Help: "0.06 is assumed."}, func(b *ReflexBag) any { return &b.Damping }},
}

var springHeight = around("springHeight", "Spring above the floor", AsHeight, Slider{0.05, 1.2, 0.01},
	"35 cm is assumed if not measured.")

var reflexModel = Model{
	Kind: Reflex, Name: "reflex bag", What: "on a sprung pole",
	Measures: []Field{
		springHeight, around("baseMass", "Weight of the filled base", AsKilograms, Slider{0, 200, 1}, ""),
		around("baseWidth", "Width of the base", AsHeight, Slider{0, 1.2, 0.01}, ""),
	},
	Everyday: Doc{Rig: ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.15, PoleMass: 0.8, Spring: 50,
		Damping: DefaultPoleDamping}},
	Around: append([]Field{byHand(NeverByHand)}, wallsAndCap...),
	Tapping: Tapping{
		How:   "Strike it once and tap with the strike, then tap each time the ball comes back to you through the upright, not as it goes out.",
		Timed: "Strike it at half power.",
		First: "strike", Counted: "returns", Where: "Only as it comes back to you; not on its way out.",
		Twice: "Was that each time it stood upright, on its way out as well?", Parameter: "Spring",
	},
	Caution: "Weight the base so that it neither walks nor tips. Full power brings the ball back into the face: half power until this one is known.",
}

// LeastKnown is the spring.
func (b ReflexBag) LeastKnown() Parameter {
	return Parameter{
		Field: "spring", Value: b.Spring, With: func(v float64) Rig { c := b; c.Spring = v; return c },
		Told: func(v, was float64) string { return fmt.Sprintf("Its spring has %.1f N·m/rad, not %.1f", v, was) },
	}
}
