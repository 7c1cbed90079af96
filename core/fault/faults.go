package fault

import (
	"math"

	"melodromos/core/drill"
)

// What hits, hands, force and the coach's marks can show.
const (
	Waiting          Code = "waiting"
	LoopsGrow        Code = "loopsGrow"
	Chasing          Code = "chasing"
	Rushing          Code = "rushing"
	TooHard          Code = "tooHard"
	ChangeGap        Code = "changeGap"
	WeakHand         Code = "weakHand"
	HeardAsTwo       Code = "heardAsTwo"
	Crowded          Code = "crowded"
	Reaching         Code = "reaching"
	Outbound         Code = "outbound"
	OnePace          Code = "onePace"
	NoDefence        Code = "noDefence"
	LateAfterDefence Code = "lateAfterDefence"
	OffLine          Code = "offLine"
	Fading           Code = "fading"
	Lost             Code = "lost"
)

// always is a floor that no bag moves.
func always(size float64) func(float64) float64 { return func(float64) float64 { return size } }

// ofTheBag is the floor of what a bag that is a little off its measurements makes as well.
func ofTheBag(usual float64) float64 { return math.Max(0.010, modelError*usual) }

// faults are those that hits, hands, force and marks can show, in the order of the trade's table.
var faults = []entry{
	{code: Waiting, name: "waiting before the next hit", floor: ofTheBag,
		remedy:   "Keep the hand circling, listen, and meet it before it hangs straight.",
		possible: func(o occasion) bool { return o.timed },
		technique: func(r speedRemedies) []RemedyDrill {
			atTempo, open := r.oneHandAtTempo(), r.oneHand()
			atTempo.EarOnly, open.EarOnly = true, true
			return []RemedyDrill{{"One hand, by ear", atTempo}, {"One hand, by ear", open}}
		},
		combination: func(r lineRemedies) []RemedyDrill {
			return []RemedyDrill{{"The jab on every return", r.line("1")}}
		}},
	{code: LoopsGrow, name: "loops that grow with the pace", floor: always(0.10),
		remedy:   "The same small circle at any pace.",
		possible: func(o occasion) bool { return o.onSpeed && o.byBag },
		technique: func(r speedRemedies) []RemedyDrill {
			return []RemedyDrill{{"The same, slower", r.slower(0.9)}, {"The same, a little slower", r.slower(0.95)},
				{"One hand", r.oneHand()}}
		}},
	{code: Chasing, name: "chasing the bag", floor: ofTheBag,
		remedy:   "Let it come to you.",
		possible: func(o occasion) bool { return o.timed },
		technique: func(r speedRemedies) []RemedyDrill {
			five := r.oneHand()
			five.Rebounds = 5
			return []RemedyDrill{{"Five rebounds: let it come", five}, {"One hand", r.oneHand()}}
		},
		combination: func(r lineRemedies) []RemedyDrill {
			second := r.short()
			second.Rhythm = drill.SecondReturn
			return []RemedyDrill{{"Every second return: let it come", second},
				{"Jab, let one go, jab", r.line("1 - wait - 1")}, {"The jab alone", r.line("1")}}
		}},
	{code: Rushing, name: "rushing", floor: always(0.15),
		remedy:   "Wait until it hangs still, at half power.",
		possible: func(o occasion) bool { return o.settles },
		combination: func(r lineRemedies) []RemedyDrill {
			still := r.softer()
			still.Pause = math.Min(60, r.Pause+2)
			return []RemedyDrill{{"The same, softer, with a longer wait", still}}
		}},
	{code: TooHard, name: "too hard", floor: always(0.08),
		remedy:   "Softer: as hard as you can still meet the next one.",
		possible: func(o occasion) bool { return o.byBag && o.timed },
		combination: func(r lineRemedies) []RemedyDrill {
			return []RemedyDrill{{"The same, softer", r.softer()}}
		}},
	{code: ChangeGap, name: "a gap at the change of hands", floor: always(0.015),
		remedy:   "Change only while the rhythm holds.",
		possible: func(o occasion) bool { return o.change },
		technique: func(r speedRemedies) []RemedyDrill {
			longer := r.short()
			longer.PerHand = min(drill.MaxPerHand, 2*max(1, r.PerHand))
			return []RemedyDrill{{"Longer before the change", longer}, {"One hand", r.oneHand()}}
		}},
	{code: WeakHand, name: "one hand weaker", floor: always(0.015),
		remedy:   "One extra rep on that hand.",
		possible: func(o occasion) bool { return o.timed && o.bothHands },
		technique: func(r speedRemedies) []RemedyDrill {
			title := "The " + string(r.hand) + " hand alone"
			return []RemedyDrill{{title, r.oneHandAtTempo()}, {title, r.oneHand()}}
		},
		combination: func(r lineRemedies) []RemedyDrill {
			one := map[drill.Hand]string{drill.Lead: "1", drill.Rear: "2"}[r.hand]
			return []RemedyDrill{{"The " + string(r.hand) + " hand alone", r.line(one)}}
		}},
	{code: HeardAsTwo, name: "a double punch heard as two", floor: always(0.10),
		remedy:   "Both fists land as one, the second a little higher.",
		possible: func(o occasion) bool { return o.double },
		technique: func(r speedRemedies) []RemedyDrill {
			five, single := r.short(), r.short()
			five.Rebounds, five.Tempo = 5, 0
			single.PerHand, single.Tempo = 1, 0
			return []RemedyDrill{{"Double punch, five rebounds", five}, {"Double punch, one at a time", single}}
		}},
	{code: Crowded, name: "too close", floor: ofTheBag,
		remedy:   "Stand so that the bag is at the end of the punch.",
		possible: func(o occasion) bool { return !o.onSpeed && o.byBag && o.timed }, combination: atDistance},
	{code: Reaching, name: "reaching for it", floor: ofTheBag,
		remedy:   "Stand so that the bag is at the end of the punch.",
		possible: func(o occasion) bool { return !o.onSpeed && o.byBag && o.timed }, combination: atDistance},
	{code: Outbound, name: "hitting as it swings away", floor: always(0.10),
		remedy:   "Take it as it comes, and step with it as it goes.",
		possible: func(o occasion) bool { return o.hanging && o.byBag },
		combination: func(r lineRemedies) []RemedyDrill {
			return []RemedyDrill{{"The jab as it comes", r.line("1")}, {"The jab alone", r.line("1")}}
		}},
	{code: OnePace, name: "one pace", floor: always(0.40),
		remedy:   "Slow, burst, slow: pace and power together.",
		possible: func(o occasion) bool { return !o.byBag && !o.onSpeed && o.hanging },
		combination: func(r lineRemedies) []RemedyDrill {
			burst := r.line("1-2 | 1-2-1-2-1-2 | 1-2")
			burst.Landing, burst.Pace, burst.Pause = drill.Freely, drill.Speedy, 5
			return []RemedyDrill{{"Slow, burst, slow", burst}}
		}},
	{code: NoDefence, name: "no defence", floor: always(0.15),
		remedy:   "Every combination ends with a move.",
		possible: func(o occasion) bool { return o.defended },
		combination: func(r lineRemedies) []RemedyDrill {
			return []RemedyDrill{{"The same, every move called", ended(r.called())}}
		}},
	{code: LateAfterDefence, name: "late after a defence",
		remedy: "Slip out of the punch before it, and make the slip smaller.",
		// the bag is let go by: what it may be off is off for longer
		floor:    func(usual float64) float64 { return math.Max(0.015, 1.5*modelError*usual) },
		possible: func(o occasion) bool { return o.defended },
		combination: func(r lineRemedies) []RemedyDrill {
			whole := RemedyDrill{"The same, every move called", r.called()}
			if text := roundDefence(r.CombinationDrill); text != "" {
				part := r.called()
				part.Text = text
				return []RemedyDrill{{"Out of the punch before it", part}, whole}
			}
			return []RemedyDrill{whole}
		}},
	{code: OffLine, name: "the bag off its line", floor: always(0.05),
		remedy:   "Straighten the jab first: what is off goes on from hit to hit.",
		possible: func(o occasion) bool { return !o.onSpeed && o.timed },
		combination: func(r lineRemedies) []RemedyDrill {
			return []RemedyDrill{{"The jab alone, straight", r.distance()}}
		}},
	{code: Fading, name: "fading", floor: always(0.40),
		remedy:      "Fewer and better: a shorter round.",
		possible:    func(occasion) bool { return true },
		technique:   func(r speedRemedies) []RemedyDrill { return []RemedyDrill{{"The same, shorter", r.shorter()}} },
		combination: func(r lineRemedies) []RemedyDrill { return []RemedyDrill{{"The same, shorter", r.shorter()}} }},
	{code: Lost, name: "loses the rhythm, then finds it",
		remedy:   "Jab until you have it, then go on.",
		floor:    func(usual float64) float64 { return math.Max(4, 4*usual) },
		possible: func(occasion) bool { return true },
		technique: func(r speedRemedies) []RemedyDrill {
			return []RemedyDrill{{"One hand until you have it", r.oneHandAtTempo()},
				{"One hand until you have it", r.oneHand()}}
		},
		combination: func(r lineRemedies) []RemedyDrill {
			return []RemedyDrill{{"The jab until you have it", r.line("1")}}
		}},
}

func atDistance(r lineRemedies) []RemedyDrill {
	return []RemedyDrill{{"The jab alone, for the distance", r.distance()}}
}
