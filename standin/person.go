package standin

import (
	"math"
	"slices"

	"melodromos/core/trainee"
)

// Person describes the hitting of a simulated person.
type Person struct {
	Bias  float64 // s, late positive
	Motor float64 // s, standard deviation of the hand
	// standard deviation of the timing, as a share of the age of the cue, or of the interval on an inner beat
	Timing    float64
	Correct   float64 // share of the last error that is corrected on an inner beat
	Alternate float64 // s: strikes that come sooner after the other hand's are late by what is short
	SameHand  float64 // s, after the same hand's
	Miss      float64 // share of strikes that are not hit at all
	Lose      float64 // share of those after which the bag is lost and has to be found again
	WrongHand float64 // share of hits with the other hand
	Extra     float64 // share of strikes after which the bag is touched once more
	Fade      float64 // after three minutes, spread and misses have grown by this share
	Wander    float64 // share of the spread that is a slow wandering
	Force     float64 // spread of the launch from strike to strike, as a share
	Harder    float64 // share by which strikes are harder than planned
	Trend     float64 // share by which the force grows over three minutes

	Span      float64 // moves that can be held in mind; 0 for any number
	Reaction  float64 // s, to a cue, choice and all not counted; 0 takes a sound's
	Overlooks float64 // share of the cues that are overlooked

	Faults []Fault // mistakes that are made on purpose
}

// misses of an ability are mostly strikes that are not hit at all, and some with the other hand. Assumed.
const wrongShare = 0.2

// extraShare, wanderShare and loseShare are assumed: they only have to look like people.
const extraShare, wanderShare, loseShare = 0.3, 0.3, 0.05

// PersonWith returns somebody of that ability.
func PersonWith(a trainee.Ability) Person {
	return Person{
		Bias: a.Bias, Motor: a.Motor, Timing: a.Timing, Correct: trainee.Correction, Alternate: a.Alternate,
		SameHand: a.SameHand,
		Miss:     a.Miss * (1 - wrongShare), Lose: loseShare, WrongHand: a.Miss * wrongShare,
		Extra: a.Miss * extraShare,
		Fade:  a.Fade, Wander: wanderShare,
		Force: a.Force, Span: a.Span, Reaction: a.Sound + a.Slow, Overlooks: a.Overlooks,
	}
}

// Like returns a person as the bands go. An unknown band is taken as intermediate.
func Like(band string) Person {
	if !slices.Contains(trainee.Bands, trainee.Band(band)) {
		band = string(trainee.Intermediate)
	}
	return PersonWith(trainee.Start(trainee.Band(band)))
}

// spread of a strike (s, standard deviation) that is timed from a cue.
func (p Person) spread(age float64) float64 { return math.Hypot(p.Motor, p.Timing*age) }

// short returns the time (s) that these hands lack between two strikes; 0 where they have enough.
func (p Person) short(before, hand string, gap float64) float64 {
	least := p.Alternate
	if before == hand && hand != "both" {
		least = p.SameHand
	}
	return math.Max(0, least-gap)
}

// round is a contest round (s), after which somebody has faded.
const round = 180
