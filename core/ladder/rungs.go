package ladder

import (
	"math"
	"slices"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
)

// School says what a ladder begins with, where coaches differ.
type School string

// The schools for the speed bag: the basic rhythm first (the default), or the fist roll, because it is easier when done exactly.
const (
	BasicFirst School = ""
	RollFirst  School = "fistRoll"
)

// Gate is what a rung asks before the next one: a clean share and a streak, in a number of rounds.
type Gate struct {
	Clean  float64
	Run    int
	Rounds int
}

// DefaultGate is 80 % clean and ten in a row, in two rounds. Assumed; a gym may set its own.
var DefaultGate = Gate{GateClean, GateRun, 2}

// Rung is a step of a ladder: one drill, in the order of the trade, laid out for whoever stands on it.
type Rung struct {
	Key  string
	Name string
	Note string // what to watch

	Paced bool // it names a tempo, which has to be held

	technique *drill.Drill
	effort    float64 // share of the greatest fist speed that it is struck with; of a line 0 as its pace has it
	line      *drill.Combination
	formerly  string // a line that counted for it before; rounds of it still do
	added     bool   // it came in among the others: whoever is past a later one need not come back for it
}

// easily and quickly are the shares of what the hands can do that a rung asks of them at the most. Assumed.
const easily, quickly = 0.6, 0.9

// Plan is the rung's drill on a bag for somebody: the tempo of a technique is that of their own force, as far as their hands go.
func (r Rung) Plan(on drill.Floor) (drill.Plan, error) {
	if r.line != nil {
		c := *r.line
		if r.effort > 0 {
			c.Fist = math.Round(10*r.effort*on.Ability.FistSpeed) / 10
		}
		return c.With(on.Bag, on.Ability), nil
	}
	d := *r.technique
	bag, ok := on.Bag.(rig.SpeedBag)
	if !ok {
		return d, nil
	}
	a, err := bag.AtFist(r.effort*on.Ability.FistSpeed, d.Meeting())
	if err != nil {
		return nil, err
	}
	hands := on.Ability.SameHand
	if d.Technique == drill.Alternating || d.Technique == drill.FistRoll {
		hands = on.Ability.Alternate
	}
	share := easily
	if r.effort > half {
		share = quickly
	}
	wanted := math.Round(math.Min(a.Tempo, share*60/hands))
	d.Tempo = math.Min(math.Max(wanted, math.Ceil(a.Limits.Slowest)), math.Floor(a.Limits.Fastest))
	if fitting, err := drill.Solve(d, bag); err == nil && !fitting.Feasible { // a double punch, a trap: their own limits
		d.Tempo = math.Min(math.Max(d.Tempo, math.Ceil(fitting.Limits.Slowest)), math.Floor(fitting.Limits.Fastest))
	}
	return d, nil
}

func basic(key, name, note string, effort float64, d drill.Drill) Rung {
	if d.FirstHand == "" {
		d.FirstHand = drill.Rear
	}
	if d.StrikeAngle == 0 {
		d.StrikeAngle = 25
	}
	if d.Rebounds == 0 {
		d.Rebounds = 3
	}
	d.Work, d.Calls = 60, true
	return Rung{Key: "speed." + key, Name: name, Note: note, technique: &d, effort: effort}
}

func line(key, name, note, text string, change ...func(*drill.Combination)) Rung {
	c := drill.Combination{Text: text, Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Combining, Pause: 2, Work: 60, Guidance: drill.Fading}
	for _, f := range change {
		f(&c)
	}
	return Rung{Key: key, Name: name, Note: note, line: &c}
}

// softly is a line that is struck with so small a share of the greatest fist speed.
func softly(effort float64, r Rung) Rung { r.effort = effort; return r }

// paced is a rung whose tempo is the point of it.
func paced(r Rung) Rung { r.Paced = true; return r }

// before is a rung that had another line once.
func before(text string, r Rung) Rung { r.formerly = text; return r }

// added is a rung that came in later than those about it.
func added(r Rung) Rung { r.added = true; return r }

func atRest(g drill.Guard) func(*drill.Combination) {
	return func(c *drill.Combination) { c.Rhythm, c.Guard = drill.NoReturn, g }
}

func freely(c *drill.Combination)  { c.Landing, c.Work = drill.Freely, 90 }
func settled(c *drill.Combination) { c.Rhythm = drill.NoReturn }
func second(c *drill.Combination)  { c.Rhythm = drill.SecondReturn }
func flowing(c *drill.Combination) { c.Pace, c.Pause = drill.Flow, 0.75 }
func surprise(c *drill.Combination) {
	c.Cues = &drill.Cues{Moves: []string{"roll lead", "roll rear"}, Least: 3, Mean: 7, Lead: 1.2}
}

// half is half power, at which everything is learned (common practice).
const half = 0.5

// ladders are the rungs of each bag, from the first touch to the expert (common practice; the order is that of the trade).
var ladders = map[rig.Kind][]Rung{
	rig.Speed: {
		softly(0.2, line("speed.once", "Strike once, meet it once", "Soft. Hear three boards, meet it before it hangs straight, catch it, begin anew.", "2-2")),
		basic("rear", "One hand, one count", "Let it come; the hand keeps its circle.", half, drill.Drill{Technique: drill.OneHand}),
		basic("lead", "The other hand", "One more repetition on the weaker side.", half, drill.Drill{Technique: drill.OneHand, FirstHand: drill.Lead}),
		basic("five", "Five a side", "The rhythm stays through the change.", half, drill.Drill{Technique: drill.OneHand, PerHand: 5}),
		basic("three", "Three a side", "No gap at the change.", half, drill.Drill{Technique: drill.OneHand, PerHand: 3}),
		basic("two", "Two a side", "Two and change.", half, drill.Drill{Technique: drill.OneHand, PerHand: 2}),
		basic("alternating", "Hand after hand", "Both circles the same size.", half, drill.Drill{Technique: drill.Alternating}),
		basic("roll", "Fist roll", "Soft, near the board.", 0.3, drill.Drill{Technique: drill.FistRoll, Rebounds: 1, StrikeAngle: 30}),
		added(line("speed.catch", "Double punch and catch", "Both fists land as one; catch the bag as it comes back. Five in a row.", "double")),
		basic("double", "Double punch", "Heard as one.", half, drill.Drill{Technique: drill.DoublePunch}),
		basic("linking", "Linking", "Out through the bag and back.", half, drill.Drill{Technique: drill.Linking, Rebounds: 2, PerHand: 4}),
		basic("trap", "Trap", "Ride it up, hold it, go on from the fall.", half, drill.Drill{Technique: drill.Trap, PerHand: 4}),
		added(basic("exchange", "Double punch, back and forth", "The hands exchange places.", half, drill.Drill{Technique: drill.DoublePunch, PerHand: 1})),
		basic("ear", "By ear alone", "The boards tell all there is to know.", half, drill.Drill{Technique: drill.OneHand, PerHand: 3, EarOnly: true}),
		paced(basic("quick", "Two a side, quick", "Pace only while the rhythm holds.", 0.75, drill.Drill{Technique: drill.OneHand, PerHand: 2})),
	},
	rig.DoubleEnd: {
		line("doubleEnd.jab", "The jab alone", "Learn the distance and how it comes back.", "1"),
		line("doubleEnd.later", "Jab, let one go, jab", "Wait as long as needed.", "1 - wait - 1"),
		line("doubleEnd.second", "One, two, on every second return", "The bag owns the clock.", "1-2", second),
		line("doubleEnd.two", "One-two on the return", "The 2 meets the first return.", "1-2"),
		line("doubleEnd.slip", "One-two and slip", "Out of the punch before it.", "1-2 - slip lead"),
		line("doubleEnd.flow", "One-two, keep it up", "Close and loose, for the whole round.", "1-2 - wait - 1-2", flowing),
		line("doubleEnd.three", "One-two-three", "The hook meets it for a shorter time.", "1-2-3"),
		line("doubleEnd.answer", "Slip and answer", "The slip loads the hand on its side.", "1-2 - slip lead - 3-2"),
		line("doubleEnd.duck", "Duck and answer", "The hand that threw last throws again.", "1-2 - duck - 2-3"),
		line("doubleEnd.pivot", "Off the line", "It crosses in front of you.", "1-2 - pivot lead - wait - 2-3"),
		line("doubleEnd.surprise", "Surprised", "Roll when it is called, and go on.", "1-2 - slip lead - 3", surprise),
		line("doubleEnd.long", "The long one", "Parts before the whole.", "1-2-3 | duck - 3-2! | slip lead - 3-2 | step back - 1-2!"),
	},
	rig.Reflex: {
		line("reflex.settle", "Strike and let it settle", "Every one moves differently: half power.", "1-2", settled),
		line("reflex.second", "Every second return", "Let it come to you; the usual error is too early.", "1-2", second),
		line("reflex.two", "One-two on the return", "Flush, or it comes past you.", "1-2"),
		line("reflex.slip", "Jab, slip, jab", "Straighten the jab first.", "1 - slip lead - 1"),
		line("reflex.three", "One-two-three", "Over the ball.", "1-2-3"),
		line("reflex.flow", "One-two twice", "For the whole round.", "1-2 - wait - 1-2", flowing),
		line("reflex.answer", "Slip and answer", "The hand on the side slipped to.", "1-2 - slip lead - 3-2"),
		before("1-2 - roll rear - 2-3", line("reflex.roll", "Roll and answer", "It ends on the foot that loads the hand.", "1-2 - roll lead - 3-2")),
		line("reflex.surprise", "Surprised", "Roll when it is called.", "1-2 - slip lead - 3", surprise),
		before("1-2-3 | slip lead - 3-2 | duck - 2-3!", line("reflex.long", "The long one", "Three parts.", "1-2 | slip lead - 3-2 | duck - 2-3!")),
	},
	rig.Slip: {
		added(line("slip.guard", "As somebody's guard", "It hangs still: as close as can be without touching, hands back fast.", "1", atRest(drill.StopShort))),
		line("slip.lead", "Slip to the lead side", "Just enough, eyes up.", "slip lead - wait"),
		line("slip.rear", "Slip to the rear side", "Chin down.", "slip rear - wait"),
		line("slip.sides", "Side and side", "Every pass, small and even.", "slip lead - slip rear"),
		line("slip.duck", "Slip and duck", "Legs, not the back.", "slip lead - duck - slip rear"),
		line("slip.touch", "Slip and touch", "Light: it is no target for power.", "slip lead - 3"),
		line("slip.both", "Answer on both sides", "The hand on the side slipped to.", "slip lead - 3 - slip rear - 2"),
		line("slip.two", "Slip and two", "Back in the middle before the next pass.", "slip lead - 3-2 - wait"),
		line("slip.long", "High and low, both sides", "Small moves, light hands.", "1 - slip lead - 3 - duck - 3 - slip rear - 2"),
	},
	rig.Hanging: {
		line("hanging.jab", "The jab alone", "As it comes; half power.", "1", freely),
		line("hanging.two", "One-two", "Home at once.", "1-2", freely),
		line("hanging.double", "Jab, jab, two", "Follow it out, give way as it comes.", "1-1-2", freely),
		line("hanging.three", "One-two-three", "The hook turns on the lead foot.", "1-2-3", freely),
		line("hanging.body", "Low and high", "Knees for the body.", "1b-2-3", freely),
		line("hanging.step", "In and out", "Feet first, then hands.", "step in - 1-2-3 - step back", freely),
		line("hanging.roll", "Roll and answer", "Every combination ends with a move.", "1-2 - roll lead - 3-2 - step back", freely),
		line("hanging.comes", "As it comes", "On its way in, again and again.", "1-2"),
		added(line("hanging.stop", "Stop it, then strike", "A jab in time; the next one meets it at rest. Never grab it.", "2 - stop 1 - 2")),
		line("hanging.pivot", "Pivot and go on", "Set before the 2.", "1-2-3 - pivot lead - 2-3", freely),
		line("hanging.surprise", "Surprised", "Roll when it is called.", "1-2-3 - step back", freely, surprise),
		line("hanging.long", "Thirteen moves", "A, B, then A and B; the whole last.", "1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!", freely),
	},
}

// Paced says whether the rung of that key names a tempo.
func Paced(key string) bool {
	return slices.ContainsFunc(ladders[KindOf(key)], func(r Rung) bool { return r.Key == key && r.Paced })
}

// KindOf is the kind of bag that the rung of that key belongs to; "" where there is no such rung.
func KindOf(key string) rig.Kind {
	for kind, list := range ladders {
		if slices.ContainsFunc(list, func(r Rung) bool { return r.Key == key }) {
			return kind
		}
	}
	return ""
}

// Follow is the kind of bag that somebody goes on with, the one they were on last (used is oldest first), or the first
// that hangs; "" where none does.
func Follow(hung, used []rig.Kind) rig.Kind {
	for i := len(used) - 1; i >= 0; i-- {
		if slices.Contains(hung, used[i]) {
			return used[i]
		}
	}
	if len(hung) == 0 {
		return ""
	}
	return hung[0]
}

// Match is the key of the rung that a plan is the drill of, whatever its force, tempo and length; "" for none. So a drill that was
// written by hand counts on the ladder as well.
func Match(p drill.Plan, kind rig.Kind) string {
	for _, r := range ladders[kind] {
		switch d := p.(type) {
		case drill.Drill:
			t := r.technique
			if t != nil && t.Technique == d.Technique && t.FirstHand == d.FirstHand && t.PerHand == d.PerHand && t.Rebounds == d.Rebounds && t.Scheme == d.Scheme && t.EarOnly == d.EarOnly && r.effort <= half {
				return r.Key
			}
		case drill.Combination:
			c := r.line
			if c != nil && (c.Name() == d.Name() || r.formerly == d.Name()) && c.Landing == d.Landing && c.Rhythm == d.Rhythm && c.Guard == d.Guard && (c.Cues == nil) == (d.Cues == nil) && !d.EarOnly && !d.NoTouch {
				return r.Key
			}
		}
	}
	return ""
}

// Rungs lists the ladder of a bag in the order of a school.
func Rungs(kind rig.Kind, s School) []Rung {
	list := slices.Clone(ladders[kind])
	if kind == rig.Speed && s == RollFirst {
		i := slices.IndexFunc(list, func(r Rung) bool { return r.Key == "speed.roll" })
		roll := list[i]
		list = slices.Insert(slices.Delete(list, i, i+1), 0, roll)
	}
	return list
}
