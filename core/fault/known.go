package fault

import (
	"math"
	"slices"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/judge"
	"melodromos/core/rig"
)

// What only an eye sees.
const (
	StrikingDown    Code = "strikingDown"
	PullingStraight Code = "pullingStraight"
	IdleHand        Code = "idleHand"
	FarStop         Code = "farStop"
	Telegraph       Code = "telegraph"
	ChinUp          Code = "chinUp"
	HandDropped     Code = "handDropped"
	FeetPlanted     Code = "feetPlanted"
	Between         Code = "betweenTargets"
	Grabbing        Code = "grabbing"
)

// entry holds the words and figures of a fault (common practice, but for those marked as assumed).
type entry struct {
	name   string // as it is said: "waiting before the next hit"
	remedy string // a sentence
	unit   string // of its effect: "s", "share" or "" for a ratio
	seen   bool   // by an eye alone
}

// known are the faults in the order of the trade's table, and then those that only an eye sees.
var known = map[Code]entry{
	Waiting: {
		"waiting before the next hit",
		"Keep the hand circling, listen, and meet it before it hangs straight.",
		"s",
		false,
	},
	LoopsGrow: {"loops that grow with the pace", "The same small circle at any pace.", "s", false},
	Chasing:   {"chasing the bag", "Let it come to you.", "s", false},
	Rushing:   {"rushing", "Wait until it hangs still, at half power.", "share", false},
	TooHard:   {"too hard", "Softer: as hard as you can still meet the next one.", "share", false},
	ChangeGap: {"a gap at the change of hands", "Change only while the rhythm holds.", "s", false},
	WeakHand:  {"one hand weaker", "One more repetition on that hand.", "s", false},
	HeardAsTwo: {
		"a double punch heard as two",
		"Both fists land as one, the second a little higher.",
		"share",
		false,
	},
	Crowded:  {"too close", "Stand so that the bag is at the end of the punch.", "s", false},
	Reaching: {"reaching for it", "Stand so that the bag is at the end of the punch.", "s", false},
	Outbound: {
		"hitting as it swings away",
		"Take it as it comes, and step with it as it goes.",
		"share",
		false,
	},
	OnePace:   {"one pace", "Slow, burst, slow: pace and power together.", "", false},
	NoDefence: {"no defence", "Every combination ends with a move.", "share", false},
	LateAfterDefence: {
		"late after a defence",
		"Slip out of the punch before it, and make the slip smaller.",
		"s",
		false,
	},
	OffLine: {
		"the bag off its line",
		"Straighten the jab first: what is off goes on from hit to hit.",
		"share",
		false,
	},
	Fading: {"fading", "Fewer and better: a shorter round.", "", false},
	Lost:   {"lost and found", "Jab until you have it, then go on.", "s", false},

	StrikingDown:    {"striking downward", "Strike forward through the bag, the fist level.", "", true},
	PullingStraight: {"pulling the fist straight back", "Bring the fist round in a circle.", "", true},
	IdleHand:        {"the idle hand drops", "The hand that does not strike stays at the cheek.", "", true},
	FarStop:         {"stopping at the far end of a link", "Out through the bag and back in one movement.", "", true},
	Telegraph:       {"announcing the punch", "From where the hand is, without drawing it back first.", "", true},
	ChinUp:          {"chin up or body squared", "Chin down, side on, hands home.", "", true},
	HandDropped: {
		"the hand drops before an uppercut",
		"Bend the legs for it: the hand rises from the guard.",
		"",
		true,
	},
	FeetPlanted: {"feet planted", "Step with every combination.", "", true},
	Between: {
		"aiming between head and body",
		"Head at the upper tape, body at the lower: nothing between.",
		"",
		true,
	},
	Grabbing: {"grabbing the bag", "Stop it with a jab in time, a long guard or a step aside.", "", true},
}

// all are the faults that can be shown, in the order of the trade's table.
var all = []Code{Waiting, LoopsGrow, Chasing, Rushing, TooHard, ChangeGap, WeakHand, HeardAsTwo, Crowded, Reaching,
	Outbound, OnePace, NoDefence, LateAfterDefence, OffLine, Fading, Lost}

// bySight are those that only an eye sees.
var bySight = []Code{StrikingDown, PullingStraight, IdleHand, FarStop, Telegraph, ChinUp, HandDropped, FeetPlanted,
	Between, Grabbing}

// Values lists all faults, those that only an eye sees at the end.
func (Code) Values() []Code { return slices.Concat(all, bySight) }

// Seen lists the faults that only an eye sees.
func Seen() []Code { return bySight }

// Name is a fault as it is said: "waiting before the next hit".
func (c Code) Name() string { return known[c].name }

// Name is a fault of a round as it is said; of a weaker hand which one it is.
func (f Fault) Name() string {
	if f.Code == WeakHand && f.hand != "" {
		return "the " + f.hand + " hand is weaker"
	}
	return f.Code.Name()
}

// Remedy returns the sentence that tells somebody how to mend a fault.
func (c Code) Remedy() string { return known[c].remedy }

// pressed are the faults that an eye sees as they stand on what is pressed for them.
var pressed = map[Code]string{StrikingDown: "Downward", PullingStraight: "Straight back", IdleHand: "Idle hand",
	FarStop: "Far stop", Telegraph: "Wind-up", ChinUp: "Chin up", HandDropped: "Hand drops", FeetPlanted: "Feet",
	Between: "Between", Grabbing: "Grabs"}

// Pressed is the label of its button: a word or two.
func (c Code) Pressed() string { return pressed[c] }

// BySight says whether only an eye sees a fault.
func (c Code) BySight() bool { return known[c].seen }

// modelError is the error of a bag's measurements as a share of its times. That much lateness is nobody's fault.
// Assumed: calibration finds it within 5 % of the parameter that is known least, which is about half as much in the
// times.
const modelError = 0.03

// Floor is the size that a fault has to exceed to be named, in its own measure, where strikes follow one another in
// usual seconds by the bag (0 by the beat): seconds of lateness (of loops, for a doubled tempo), a share of the strikes
// of its kind, a share by which errors scatter more widely, by which a plan's changes of pace are gone, or seconds that
// were lost. All assumed: what a coach would just care about. 0 of what only an eye sees.
func Floor(code Code, usual float64) float64 {
	switch code {
	case Waiting, Chasing, Crowded, Reaching:
		return math.Max(0.010, modelError*usual)
	case WeakHand, ChangeGap:
		return 0.015
	case LateAfterDefence: // the bag is let go by: what it may be off is off for longer
		return math.Max(0.015, 1.5*modelError*usual)
	case LoopsGrow, HeardAsTwo, Outbound:
		return 0.10
	case Rushing, NoDefence:
		return 0.15
	case TooHard:
		return 0.08
	case OffLine:
		return 0.05
	case Fading, OnePace:
		return 0.40
	case Lost:
		return math.Max(4, 4*usual)
	}
	return 0
}

// ToSee lists what a coach may see and mark with this drill on this kind of bag, the likeliest first.
func ToSee(p drill.Plan, kind rig.Kind) []Code {
	if d, ok := p.(drill.SpeedBagDrill); ok {
		list := []Code{StrikingDown, PullingStraight, IdleHand}
		if d.Technique == drill.Linking {
			list = []Code{FarStop, PullingStraight, IdleHand}
		}
		return list
	}
	c, ok := p.(drill.CombinationDrill)
	if !ok {
		return nil
	}
	list := []Code{IdleHand, ChinUp, Telegraph, FeetPlanted}
	if kind == rig.Speed {
		list = []Code{StrikingDown, IdleHand, ChinUp}
	}
	line, err := combo.Parse(c.Text)
	if err != nil {
		return list
	}
	for _, m := range line.Moves(c.Stance) {
		switch {
		case m.Shape() == combo.Uppercut && !slices.Contains(list, HandDropped):
			list = slices.Insert(list, 1, HandDropped)
		case kind == rig.Hanging && m.ToBody() && !m.Leg() && !slices.Contains(list, Between):
			list = slices.Insert(list, 1, Between)
		}
	}
	if kind == rig.Hanging {
		list = slices.Insert(list, 1, Grabbing)
	}
	return list
}

// Possible lists the faults that somebody can have with a drill on a kind of bag, as far as it is laid out: each has
// its occasion in the plan.
func Possible(p drill.Plan, t drill.Timeline, kind rig.Kind) []Code {
	technique, onSpeed := p.(drill.SpeedBagDrill)
	hands := map[drill.Hand]bool{}
	change, defended, settles, timed := false, false, false, false
	for _, s := range judge.Planned(t, -1) {
		hands[s.Hand] = true
		change, defended = change || s.Change, defended || s.Defended
		settles, timed = settles || s.Least > 0, timed || s.Timed()
	}
	byBag := t.Clock == drill.ByBag
	is := map[Code]bool{
		Waiting: timed, Chasing: timed, LoopsGrow: onSpeed && byBag, Rushing: settles, TooHard: byBag && timed,
		ChangeGap: change, WeakHand: timed && hands[drill.Lead] && hands[drill.Rear],
		HeardAsTwo: onSpeed && technique.Technique == drill.DoublePunch, Crowded: !onSpeed && byBag && timed,
		Reaching: !onSpeed && byBag && timed, Outbound: kind == rig.Hanging && byBag, NoDefence: defended,
		LateAfterDefence: defended, OffLine: !onSpeed && timed, Fading: true, Lost: true,
		OnePace: !byBag && !onSpeed && kind == rig.Hanging,
	}
	var list []Code
	for _, c := range all {
		if is[c] {
			list = append(list, c)
		}
	}
	return list
}
