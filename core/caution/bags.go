package caution

import (
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// General is said wherever people train; Knocked what ends it (common practice).
const (
	General  = "Wraps and gloves on, warm up softly first. Stop for dizziness, headache, chest pain, or a numb or painful wrist or shoulder; after a knock to the head, no more that day and see a doctor."
	Ready    = "Wraps on, gloves for rounds, warm first, chin down and hands home."
	Children = "Keep an adult close to children."
	Cues     = "Cues are soft, with no hard ends, and never at the eyes."
)

// OfBag is the caution at a kind of bag (common practice).
func OfBag(kind rig.Kind) string { return kind.Model().Caution }

// OfPerson is the caution with somebody of an age band; "" where there is none (common practice).
func OfPerson(age trainee.AgeBand) string {
	if age.Minor() {
		return "An adult is present; load and volume are scaled."
	}
	return ""
}

// BeforeRound returns the cautions before a round on a kind of bag. Where cues come unforeseen, Cues is said besides.
func BeforeRound(kind rig.Kind) []string {
	return []string{Ready, OfBag(kind), Children}
}
