package session

import (
	"fmt"
	"slices"

	"melodromos/core/drill"
	"melodromos/core/rig"
)

// Template is a session that comes with the product, of our own making.
type Template struct {
	Key     string  `json:"key"`
	For     string  `json:"for" doc:"for whom, or when"`
	Session Session `json:"session"`
}

// Templates lists them: first lessons, then rounds by theme, then conditioning.
func Templates() []Template {
	out := slices.Clone(templates)
	for i := range out {
		out[i].Session = out[i].Session.Clone()
	}
	return out
}

var templates = []Template{
	{"class", "a class, everybody on their own drill", Class(60, ContestRound, "")},
	first(rig.Speed, "once", "rear", "lead", "five"),
	first(rig.DoubleEnd, "jab", "later", "second", "two"),
	first(rig.Reflex, "jab", "rear", "settle", "second"),
	first(rig.Slip, "guard", "lead", "rear", "sides"),
	first(rig.Hanging, "jab", "two", "double", "three"),
	{"thirds", "after the first touches on the double-end bag", thirds()},
	{"halfMinutes", "the first round on the reflex bag", halfMinutes()},
	{"buildUp", "a long combination, put together over four rounds", buildUp()},
	{"themes", "rounds by theme on the hanging bag", themes()},
	{"oneDrill", "one drill for five rounds, until it sits", oneDrill()},
	{"cued", "rolling under what comes unforeseen, and answering", cued()},
	{"sixHalves", "six times half a minute, the quick way to sweat", sixHalves()},
	{"tens", "conditioning with counted tens", tens()},
}

// opened is a session with the warm-up and the change before its rounds, and the cool-down after them. Rests follow the
// rounds but the last.
func opened(name, note string, bag rig.Kind, work ...Round) Session {
	s := Session{Name: name, Note: note, Bag: bag, Rounds: []Round{warmUp(180), gloves()}}
	s.Rounds = append(s.Rounds, work...)
	s.Rounds = append(s.Rounds, coolDown(120))
	return s
}

// warmUp is done off the bag in half-minute blocks, the last minute of it shadow boxing that starts light (common
// practice).
func warmUp(seconds int) Round {
	r := Round{Kind: WarmUp, Emphasis: "Get warm, get loose", Seconds: seconds}
	easy := []Activity{Skipping, Bouncing, Trunk, Skipping}
	for i := 0; r.Taken()+60 < seconds; i++ {
		r.Blocks = append(r.Blocks, off(easy[i%len(easy)], min(30, seconds-60-r.Taken())))
	}
	r.Blocks = append(r.Blocks, off(EasyBox, 30), off(ShadowBox, 30))
	return r
}

func gloves() Round {
	return Round{Kind: Change, Emphasis: "Wraps, gloves and water", Seconds: 60, Blocks: []Block{off(Gloves, 60)}}
}

func coolDown(seconds int) Round {
	return Round{Kind: CoolDown, Emphasis: "Come down", Seconds: seconds,
		Blocks: []Block{off(Breathe, seconds/4), off(Stretching, seconds/2), off(Talk, seconds-seconds/4-seconds/2)}}
}

func off(a Activity, seconds int) Block { return Block{Role: Off, Activity: a, Seconds: seconds} }

func thrown(role Role, seconds int, text string, pace drill.Pace, g drill.Guidance) Block {
	return Block{Role: role, Seconds: seconds, Text: text, Pace: pace, Guidance: g}
}

func counted(times int, text string, pace drill.Pace) Block {
	b := Block{Role: Counted, Times: times, Text: text, Pace: pace, Guidance: drill.Alone}
	b.Seconds = b.Lasting()
	return b
}

// round is one on the bag, as long as its blocks are.
func round(emphasis string, rest int, blocks ...Block) Round {
	r := Round{Kind: Work, Emphasis: emphasis, Rest: rest, Blocks: blocks}
	r.Seconds = r.Taken()
	return r
}

// first is the first lesson on a kind of bag: four short rounds, each on one drill of the library.
func first(kind rig.Kind, drills ...string) Template {
	name := kind.Model().Name
	var work []Round
	for i, d := range drills {
		b := Block{Role: Set, Seconds: 120, Drill: string(kind) + "." + d}
		rest := ContestRest
		if i+1 == len(drills) {
			rest = 0
		}
		work = append(work, round(b.Title(), rest, b))
	}
	return Template{"first." + string(kind), "somebody's first lesson on the " + name,
		opened("First lesson on the "+name, "Half power, and wait as long as it takes.", kind, work...)}
}

// thirds: of a session on the double-end bag a third is jab only, a third one-two, a third mixed (common practice).
func thirds() Session {
	var work []Round
	for i, third := range []struct {
		emphasis string
		texts    []string
	}{
		{"Jab only", []string{"1", "1-1", "1"}}, {"Jab only, moving", []string{"1", "1-1", "step lead - 1"}},
		{"One-two", []string{"1-2", "1-2", "1-1-2"}}, {"One-two, moving", []string{"1-2", "step rear - 1-2", "1-2"}},
		{"Mixed", []string{"1-2", "1-2-3", "1-2"}},
		{"Mixed, with defence", []string{"1-2 - slip rear - 2", "1-2-3", "1-2 - slip lead - 3"}},
	} {
		rest := ContestRest
		if i == 5 {
			rest = 0
		}
		work = append(work, round(third.emphasis, rest, thrown(Opener, 45, third.texts[0], drill.Flow, drill.Partly),
			thrown(New, 90, third.texts[1], drill.Combining, drill.Fading),
			thrown(Free, 45, third.texts[2], drill.OwnRhythm, drill.Alone)))
	}
	return opened("Six double-end rounds in thirds", "A third jab only, a third one-two, a third mixed.", rig.DoubleEnd,
		work...)
}

// halfMinutes is the first reflex round: 1, 2, 1, 2, 1-2, 1-2-1-2 (common practice).
func halfMinutes() Session {
	var blocks []Block
	for i, text := range []string{"1", "2", "1", "2", "1-2", "1-2-1-2"} {
		role := []Role{Opener, New, Known, Known, New, Free}[i]
		blocks = append(blocks, thrown(role, 30, text, drill.Combining, drill.Called))
	}
	return opened("First reflex round", "Six half minutes. Half power: every one moves differently.", rig.Reflex,
		round("Learn how it moves", 0, blocks...))
}

func buildUp() Session {
	s, err := BuildUp("1-2-3 | slip rear - 2-3 | duck - 3-2!", rig.Hanging, ContestRound)
	if err != nil {
		panic(err)
	}
	s.Name, s.Note = "Four-round build-up", "Three parts, one a round, then the whole. "+s.Note
	return opened(s.Name, s.Note, s.Bag, s.Rounds...)
}

// themes are rounds on the hanging bag, one theme each (common practice).
func themes() Session {
	long := func(emphasis string, blocks ...Block) Round { return round(emphasis, ContestRest, blocks...) }
	last := round("Counted finisher", 0, counted(10, "1-2", drill.Speedy), counted(10, "2-3-2", drill.Speedy),
		counted(10, "1-2", drill.Speedy))
	last.Kind = Finisher
	return opened("Hanging bag by theme", "Six rounds, six themes.", rig.Hanging,
		long("Soft and mixed", thrown(Opener, 90, "1-2", drill.Flow, drill.Alone),
			thrown(Free, 90, "1-2-3-2", drill.Flow, drill.Alone)),
		long("Power, single shots", thrown(Opener, 30, "1", drill.Flow, drill.Alone),
			thrown(New, 60, "2!", drill.Power, drill.Partly), thrown(New, 60, "3!", drill.Power, drill.Partly),
			thrown(Free, 30, "1-2", drill.Flow, drill.Alone)),
		long("Attacked, and answering", thrown(Opener, 30, "1-2", drill.Flow, drill.Alone),
			thrown(New, 75, "1 - slip rear - 2-3", drill.Combining, drill.Fading),
			thrown(New, 75, "block - 2-3-2", drill.Combining, drill.Fading)),
		long("Every combination ends on the lead hook", thrown(Opener, 30, "1-2-3", drill.Flow, drill.Partly),
			thrown(New, 60, "1-1-2-3", drill.Combining, drill.Fading),
			thrown(New, 60, "2-1b-2-3", drill.Combining, drill.Fading),
			thrown(Free, 30, "1-2-3", drill.OwnRhythm, drill.Alone)),
		long("Short and fast", thrown(Opener, 30, "1-2", drill.Flow, drill.Alone),
			thrown(Fast, 30, "1-2-1-2", drill.Speedy, drill.Alone), thrown(Free, 30, "1-2", drill.Flow, drill.Alone),
			thrown(Fast, 30, "1-2-3-2", drill.Speedy, drill.Alone), thrown(Free, 30, "1-2", drill.Flow, drill.Alone),
			thrown(Fast, 30, "1-2-1-2", drill.Speedy, drill.Alone)),
		last)
}

func oneDrill() Session {
	var work []Round
	for i := range 5 {
		g := []drill.Guidance{drill.Called, drill.Fading, drill.Partly, drill.Alone, drill.Alone}[i]
		rest := ContestRest
		if i == 4 {
			rest = 0
		}
		work = append(work, round("One-two-three, and nothing else", rest,
			thrown(Known, 60, "1-2-3", drill.Flow, g), thrown(New, 120, "1-2-3", drill.Combining, g)))
	}
	return opened("Five rounds of one drill", "The same line five times: change the line, keep the rounds.", rig.Hanging,
		work...)
}

// cued are rounds of the roll that is called unforeseen, with none, one and two counters (common practice).
func cued() Session {
	return opened("Roll when it is called", "A soft cue, never at the eyes; it comes when range and rhythm are back.",
		rig.Hanging,
		round("Roll, and stay in balance", ContestRest, thrown(Opener, 30, "1-2", drill.Flow, drill.Alone),
			Block{Role: Set, Seconds: 120, Drill: "hanging.surprise"},
			thrown(Free, 30, "1-2", drill.Flow, drill.Alone)),
		round("Roll and one answer", ContestRest, thrown(Opener, 30, "roll rear - 2", drill.Flow, drill.Partly),
			Block{Role: Set, Seconds: 120, Drill: "hanging.surprise"},
			thrown(Free, 30, "roll lead - 3", drill.Flow, drill.Alone)),
		round("Roll and two answers", 0, thrown(Opener, 30, "roll rear - 2-3", drill.Flow, drill.Partly),
			Block{Role: Set, Seconds: 120, Drill: "hanging.surprise"},
			thrown(Free, 30, "roll lead - 3-2", drill.Flow, drill.Alone)))
}

func sixHalves() Session {
	var work []Round
	for i, text := range []string{"1-2", "1-2-1-2", "1-2-3", "2-3-2", "1-2-3-2", "1-2"} {
		rest := 30
		if i == 5 {
			rest = 0
		}
		work = append(work, round("Fast: "+text, rest, thrown(Fast, 30, text, drill.Speedy, drill.Alone)))
	}
	return opened("Six times thirty seconds", "Quick and close, half a minute off between.", rig.Hanging, work...)
}

// tens are counted: ten one-twos are twenty punches (common practice).
func tens() Session {
	set := func(emphasis string, rest int, blocks ...Block) Round {
		r := round(emphasis, rest, blocks...)
		r.Kind = Finisher
		return r
	}
	squats, crunches := off(Squats, 30), off(Crunches, 30)
	squats.Times, crunches.Times = 10, 10
	return opened("Counted tens", "Ten of each; beat your own time, nobody else's.", rig.Hanging,
		set("Tens, straights", ContestRest, counted(10, "1-2", drill.Speedy), squats,
			counted(10, "1-1-2", drill.Speedy)),
		set("Tens, curved", ContestRest, counted(10, "3-2", drill.Speedy), crunches,
			counted(10, "2-3-2", drill.Speedy)),
		set("Ten, fifteen, twenty", 0, counted(10, "1-2", drill.Speedy), counted(15, "1-2", drill.Speedy),
			counted(20, "1-2", drill.Speedy)))
}

// Class is a class of so many minutes on everybody's own drill: a warm-up, gloves and water, as many rounds of that
// length as fit with their rests, two minutes of counted work and the cool-down. What is over goes to the cool-down,
// and then to the warm-up. Under twenty minutes there is no finisher.
func Class(minutes, seconds int, bag rig.Kind) Session {
	s := Session{Name: fmt.Sprintf("Class, %d minutes", minutes), Bag: bag,
		Note: "Everybody on their own drill, the same bell for all."}
	warm, cool, finish := 180, 180, 120
	if minutes < 20 {
		warm, cool, finish = 120, 60, 0
	}
	rest := UsualRest(seconds)
	left := 60*minutes - warm - 60 - cool - finish
	n := max(1, left/(seconds+rest))
	over := max(0, left-n*(seconds+rest))
	cool += min(over, 120)
	warm += over - min(over, 120)
	s.Rounds = append(s.Rounds, warmUp(warm), gloves())
	for range n {
		s.Rounds = append(s.Rounds, Round{Kind: Work, Seconds: seconds, Rest: rest,
			Blocks: []Block{{Role: Own, Seconds: seconds}}})
	}
	if finish > 0 {
		s.Rounds = append(s.Rounds, Round{Kind: Finisher, Emphasis: "Tens, no bag", Seconds: finish,
			Blocks: []Block{off(Squats, 40), off(Crunches, 40), off(Planks, finish-80)}})
	}
	s.Rounds = append(s.Rounds, coolDown(cool))
	return s
}
