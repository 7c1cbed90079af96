// Package trainee holds what a person can do.
package trainee

import (
	"math"

	"melodromos/core/combo"
	"melodromos/core/rig"
)

// Band is a coarse step of skill, from which the abilities of somebody not yet measured are taken.
type Band string

// The five bands.
const (
	FirstTimer   Band = "first-timer"
	Beginner     Band = "beginner"
	Intermediate Band = "intermediate"
	Advanced     Band = "advanced"
	Expert       Band = "expert"
)

// Bands lists them from the first to the last.
var Bands = []Band{FirstTimer, Beginner, Intermediate, Advanced, Expert}

// Values lists them.
func (Band) Values() []Band { return Bands }

// Ability holds the figures of what one trainee can do.
type Ability struct {
	Timing    float64    // spread of a produced interval as a share of it
	Motor     float64    // s, spread of the hand
	Alternate float64    // s, least interval between alternate hands
	SameHand  float64    // s, least interval of one hand
	FistSpeed float64    // m/s, greatest
	Bias      float64    // s, mean error, late positive
	Sound     float64    // s, reaction to a sound
	Sight     float64    // s, reaction to what is seen
	Miss      float64    // share of strikes that are missed outright
	Fade      float64    // share by which spread and misses have grown after three minutes of a round
	Weak      combo.Hand // the weaker side; "" where there is none
	Force     float64    // spread of the launch from strike to strike, as a share of it
	Span      float64    // moves that can be held in mind
	Slow      float64    // s by which the reaction to an unforeseen cue is longer than one in a test
	Overlooks float64    // share of the unforeseen cues that are overlooked
}

// Start returns the abilities a band is begun with. All are assumed; tests and rounds replace them. An unknown band is
// taken as a beginner's.
func Start(b Band) Ability {
	a := Ability{.09, .012, .26, .44, 6, 0, SoundReaction, SightReaction, .05, .4, "", .06, 8, .05, .05}
	switch b {
	case FirstTimer:
		a.Timing, a.Motor, a.Alternate, a.SameHand, a.FistSpeed, a.Miss, a.Fade, a.Force, a.Span, a.Slow,
			a.Overlooks = .12, .014, .30, .50, 5, .10, .5, .08, 6, .08, .08
	case Intermediate:
		a.Timing, a.Motor, a.Alternate, a.SameHand, a.FistSpeed, a.Miss, a.Fade, a.Force, a.Span, a.Slow,
			a.Overlooks = .06, .010, .22, .38, 7, .025, .3, .04, 11, .02, .03
	case Advanced:
		a.Timing, a.Motor, a.Alternate, a.SameHand, a.FistSpeed, a.Miss, a.Fade, a.Force, a.Span, a.Slow,
			a.Overlooks = .04, .009, .17, .31, 8, .012, .2, .03, 15, 0, .015
	case Expert:
		a.Timing, a.Motor, a.Alternate, a.SameHand, a.FistSpeed, a.Miss, a.Fade, a.Force, a.Span, a.Slow,
			a.Overlooks = .025, .008, .13, .25, 9, .005, .1, .02, 20, 0, .005
	}
	return a
}

// Correction is the share of the last error that is corrected on a beat each time. Assumed; found from rounds.
const Correction = 0.5

// StrikeMovement is the time (s, assumed) that a hand takes out to a bag, and about as long back again.
func StrikeMovement(k rig.Kind) float64 {
	if k == rig.Speed {
		return 0.12
	}
	return 0.15
}

// Novice says whether a band is one of the first two.
func (b Band) Novice() bool { return b == FirstTimer || b == Beginner }

// Effort puts a fist speed (m/s) into a coach's words, as a share of this trainee's greatest. The borders are assumed;
// "about half power" is common practice for learning and warming up.
func (a Ability) Effort(fist float64) string {
	switch share := fist / a.FistSpeed; {
	case share < 0.35:
		return "soft"
	case share < 0.65:
		return "about half power"
	case share < 0.85:
		return "hard"
	case share <= 1:
		return "full power"
	}
	return "harder than this hand can strike"
}

// Times of a move: Whole out and back, Off until the head is off the line (s, assumed).
type Times struct{ Whole, Off float64 }

// moveTimes by word (assumed). A weave is taken as a roll, a cover and a long guard as a block, a feint as the strike
// that it is not.
var moveTimes = map[combo.Word]Times{
	combo.Slip: {0.35, 0.25}, combo.Duck: {0.50, 0.30}, combo.Roll: {0.60, 0.35}, combo.Weave: {0.60, 0.35},
	combo.Pull:   {0.35, 0.20},
	combo.StepTo: {0.35, 0}, combo.Pivot: {0.45, 0}, combo.Switch: {0.40, 0},
	combo.Block: {0.25, 0}, combo.Parry: {0.25, 0}, combo.Cover: {0.25, 0}, combo.LongGuard: {0.25, 0},
	combo.Feint: {0.25, 0},
	combo.Jam:   {0.35, 0},
}

// TimesOf gives the times of a defence or a step; zero for a strike or a wait.
func TimesOf(m combo.Move) Times { return moveTimes[m.Word] }

// Reactions (s): textbook values, from memory.
const (
	SoundReaction = 0.16
	SightReaction = 0.19
	PerBit        = 0.15 // slope of the time to choose between cues (Hick 1952; from memory)
)

// weakShare is the weaker side's speed as a share of the other's. Assumed.
const weakShare = 0.9

// Interval is the least time (s) between two strikes of these hands; longer where the second is the weaker side's.
func (a Ability) Interval(before, next combo.Hand) float64 {
	h := a.Alternate
	if before == next && before != combo.Both {
		h = a.SameHand
	}
	if a.Weak != "" && next == a.Weak {
		h /= weakShare
	}
	return h
}

// Striker returns what limits a tempo for somebody whose strikes come from these hands in turn, at no place in
// particular.
func (a Ability) Striker(before, next combo.Hand) rig.Striker {
	return rig.Striker{Softest: rig.Touch, Hardest: a.FistSpeed, Interval: rig.Quickest * a.Interval(before, next),
		Swing: rig.Fresh}
}

// LegTime (s) is the least from a strike to a kick or a knee, or from one of them to the next strike: the weight has to
// go over. Assumed.
const LegTime = 0.45

// Between is the least time (s) from one strike to another. A switch of the feet between them makes the lead hand the
// rear one, and it is the same hand.
func (a Ability) Between(before, next combo.Placed) float64 {
	first := before.Hand()
	if before.Stance != next.Stance {
		first = first.Other()
	}
	h := a.Interval(first, next.Hand())
	if before.Leg() || next.Leg() {
		h = math.Max(h, LegTime)
	}
	return h
}

// fadeTime (s) is a contest round.
const fadeTime = 180

// Tired returns the factor by which spread and misses have grown a time (s) after the bell: 1 at the bell. Late in a
// round is harder (common practice); by how much is assumed.
func (a Ability) Tired(since float64) float64 { return 1 + a.Fade*math.Max(0, since)/fadeTime }

// Spread returns the standard deviation (s) of a strike that is timed from a cue of this age (s): a part of the hand
// and a part that grows with the interval (Wing & Kristofferson 1973; Weber's law for time).
func (a Ability) Spread(age float64) float64 { return math.Hypot(a.Motor, a.Timing*age) }
