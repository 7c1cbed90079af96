package caution

import "melodromos/core/rig"

// General is said wherever people train; Knocked what ends it (common practice).
const (
	General  = "Wraps and gloves on, warm up softly first. Stop for dizziness, headache, chest pain, or a numb or painful wrist or shoulder; after a knock to the head, no more that day and see a doctor."
	Ready    = "Wraps on, gloves for rounds, warm first, chin down and hands home."
	Children = "With children an adult stands by."
	Cues     = "Cues are soft, with no hard ends, and never at the eyes."
)

var ofBags = map[rig.Kind]string{
	rig.Speed:     "Fix the board into structure, by somebody qualified; check swivel and screws before each use. The maker’s instructions and local codes come first.",
	rig.DoubleEnd: "Anchor into structure, by somebody qualified. A cord under tension whips when it parts: inspect both cords top and bottom before each use, and keep eyes away from them while winding.",
	rig.Reflex:    "Weight the base so that it neither walks nor tips. Full power brings the ball back into the face: half power until this one is known.",
	rig.Slip:      "Only soft, light things swing at heads, on an anchor that holds. A bottle is dodged and never hit. " + Children,
	rig.Hanging:   "Anchor into structure, by somebody qualified, rated for the greatest load below. Inspect chain, swivel and straps; keep the way of the bag clear. Wraps and gloves on.",
}

// OfBag is the caution at a kind of bag (common practice).
func OfBag(kind rig.Kind) string { return ofBags[kind] }

// OfPerson is the caution with somebody of an age band; "" where there is none (common practice).
func OfPerson(ageBand string) string {
	if ageBand == "child" || ageBand == "youth" {
		return "An adult is present; load and volume are scaled."
	}
	return ""
}

// BeforeRound is what is said before a round on a kind of bag; cued where cues come unforeseen.
func BeforeRound(kind rig.Kind, cued bool) []string {
	list := []string{Ready, OfBag(kind)}
	if kind != rig.Slip { // there it has been said
		list = append(list, Children)
	}
	if cued {
		list = append(list, Cues)
	}
	return list
}
