package rig

import (
	"fmt"

	"melodromos/core/input"
)

// Form is the shape of a hanging bag.
type Form string

// Straight bags have a length, balls a diameter only.
const (
	Straight Form = "cylinder"
	Round    Form = "ball"
)

// Filling is the filling of a hanging bag; packed where nothing is said.
type Filling string

// Water in a ball swings with it and does not turn with it.
const (
	Packed Filling = "packed"
	Water  Filling = "water"
)

var hangingTable = Table[HangingBag]{
	{Field{Name: "shape", Label: "Shape", Quantity: AsWord,
		Options: []Option{option(Straight, "Straight"), option(Round, "Ball")}},
		func(b *HangingBag) any { return (*string)(&b.Shape) }},
	{Field{Name: "filled", Label: "Filled with", Quantity: AsWord,
		Options: []Option{option(Packed, "Textile or sand"), option(Water, "Water")}, Optional: true,
		Help: "A ball of water swings as if all of it hung in its middle. Look for drops before each use: a wet floor is slippery."}, func(b *HangingBag) any { return (*string)(&b.Filled) }},
	{Field{Name: "mass", Label: "Weight", Quantity: AsKilograms, Slider: Slider{5, 100, 0.5}, Limits: pendulumMass},
		func(b *HangingBag) any { return &b.Mass }},
	{Field{Name: "length", Label: "Length of the bag", Quantity: AsHeight, Slider: Slider{0.5, 2, 0.01},
		Only:   &Only{"shape", string(Straight)},
		Limits: input.Limits{Min: 0.1, Max: 4, Unit: "m"}}, func(b *HangingBag) any { return &b.Length }},
	{Field{Name: "diameter", Label: "Diameter", Quantity: AsLength, Slider: Slider{0.2, 0.7, 0.005},
		Limits: input.Limits{Min: 0.05, Max: 2, Unit: "m"}}, func(b *HangingBag) any { return &b.Diameter }},
	{
		Field{
			Name:     "chain",
			Label:    "Chain, anchor to the top of the bag",
			Quantity: AsHeight,
			Slider:   Slider{0, 2.5, 0.01},
			Limits:   input.Limits{Min: 0, Max: 6, Unit: "m"},
		},
		func(b *HangingBag) any { return &b.Chain },
	},
	{Field{Name: "anchorHeight", Label: "Anchor above the floor", Quantity: AsHeight, Slider: Slider{1.5, 5, 0.01},
		Limits: anchorHeight, Optional: true}, func(b *HangingBag) any { return &b.AnchorHeight }},
}

var hangingModel = Model{
	Kind: Hanging, Name: "hanging bag", What: "a heavy one on a chain", Between: true,
	Everyday: Doc{Rig: HangingBag{Shape: Straight, Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.8,
		AnchorHeight: 2.7}},
	Around: append([]Field{
		byHand(
			NeverByHand,
		), around("kicks", "Kicks and knees are trained", AsFlag, Slider{}, ""), anchoredIn, ratedLoad,
	}, wallsAndCap...),
	Tapping: Tapping{
		How:   "Push it gently. Tap with the push, then each time it comes back to you through the low point, not as it goes out.",
		Timed: "Push it gently.",
		First: "push", Counted: "returns", Where: "Only as it comes back to you; not on its way out.",
		Twice:     "Was that each time it went through the low point, on its way out as well?",
		Parameter: "Effective length, as chain",
	},
	Caution: "Anchor into structure, by somebody qualified, rated for the greatest load below. Inspect chain, swivel and straps; keep the way of the bag clear. Wraps and gloves on.",
}

// LeastKnown is the effective length, through the chain; the bag is to be let swing gently.
func (b HangingBag) LeastKnown() Parameter {
	return Parameter{
		Field: "chain", Value: b.Chain, With: func(v float64) Rig { c := b; c.Chain = v; return c }, Gentle: 0.5,
		Told: func(v, was float64) string {
			return fmt.Sprintf("It swings as on a chain of %.0f cm, not %.0f", 100*v, 100*was)
		},
	}
}
