// Package labels holds the words by which the interface shows the codes of the core: on buttons, in lists, in columns.
package labels

import (
	"cmp"
	"slices"

	"melodromos/core/bench"
	"melodromos/core/drill"
	"melodromos/core/judge"
	"melodromos/core/ladder"
	"melodromos/core/run"
	"melodromos/core/session"
	"melodromos/core/trainee"
	"melodromos/format/sound"
)

// List holds the words of one sort of code, in the order in which they are offered.
type List struct {
	Name   string
	Labels []Label
	Open   bool // it may be asked for codes that have no words
}

// Label is the words of a code.
type Label struct{ Code, Text string }

// All returns every table.
func All() []List {
	return []List{
		table("bands", map[trainee.Band]string{
			trainee.FirstTimer: "First-timer", trainee.Beginner: "Beginner", trainee.Intermediate: "Intermediate",
			trainee.Advanced: "Advanced", trainee.Expert: "Expert",
		}, trainee.Bands...),
		open(table("figureNames", map[trainee.Figure]string{
			trainee.Timing: "Timing scatter", trainee.Motor: "Hand scatter", trainee.Bias: "Lateness",
			trainee.Alternate: "Hand after hand", trainee.SameHand: "Same hand again",
			trainee.Sound: "Reaction to sound", trainee.Sight: "Reaction to sight",
			trainee.FistSpeed: "Top fist speed", trainee.Force: "Force scatter", trainee.Miss: "Missed outright",
		})),
		table("paces", map[drill.Pace]string{
			drill.Flow: "in flow", drill.Combining: "to learn it", drill.Power: "with power", drill.Speedy: "at speed",
			drill.OwnRhythm: "own rhythm",
		}, drill.Flow, drill.Combining, drill.Power, drill.Speedy, drill.OwnRhythm),
		table("guidances", map[drill.Guidance]string{
			drill.Called: "called", drill.Partly: "partly called", drill.Alone: "not called",
			drill.Fading: "calls fade out",
		}, drill.Called, drill.Partly, drill.Alone, drill.Fading),
		table("playings", map[drill.Playing]string{
			drill.PlayBeat: "Play the beat", drill.FollowHits: "Follow my hits",
			drill.StartThenFollow: "Count me in, then follow me",
		}, drill.Playing("").Values()...),
		table("recorders", map[drill.Recorder]string{
			drill.Taps: "taps", drill.Sensor: "the bag sensor", drill.Simulated: "demo hits",
			drill.Table: "a table of times", drill.Nothing: "nothing",
		}, drill.Recorder("").Values()...),
		table("methods", map[bench.Method]string{
			bench.ByTaps: "tapped along", bench.ByCount: "counted in a time", bench.ByPeriod: "started and stopped",
			bench.ByRounds: "rounds that agree",
		}, bench.Method("").Values()...),
		open(table("verdicts", map[judge.Verdict]string{
			judge.Clean: "clean", judge.Early: "early", judge.Late: "late", judge.WrongHand: "other hand",
			judge.Missed: "missed", judge.Harmless: "fists touched",
		}, judge.Verdict("").Values()...)),
		open(table("markNames", map[run.MarkKind]string{
			run.MarkMissed: "Missed", run.MarkOffLine: "Off line", run.MarkWild: "Wild", run.MarkTouched: "Touched",
			run.MarkFound: "Found again",
		}, run.MarkMissed, run.MarkOffLine, run.MarkWild, run.MarkTouched, run.MarkFound)),
		table("ratings", map[run.Rating]string{
			run.Held: "Held", run.Shaky: "Shaky", run.NotYet: "Not yet",
		}, run.Held, run.Shaky, run.NotYet),
		open(table("endings", map[judge.Ended]string{
			judge.Stopped: "stopped early", judge.Vanished: "screen lost",
		}, judge.Stopped, judge.Vanished)),
		table("states", map[run.State]string{
			run.Ready: "planned", run.Running: "under way", run.Paused: "paused", run.Done: "done",
			run.Stopped: "ended early",
		}, run.State("").Values()...),
		table("directions", map[ladder.Direction]string{
			ladder.Start: "First touch", ladder.Next: "Next rung", ladder.Again: "Again",
			ladder.Softly: "Under control", ladder.Back: "A rung down", ladder.Stay: "Held",
			ladder.Top: "All rungs passed", ladder.Barred: "Held back", ladder.Easier: "One thing easier",
			ladder.Aside: "For the weakest link", ladder.Enough: "Enough for today",
			ladder.Given: "Given by the coach",
		}, ladder.Direction("").Values()...),
		table("choices", map[ladder.Choice]string{
			ladder.Accept: "Accepted", ladder.Alter: "Accepted, with a change", ladder.Hold: "Held",
			ladder.GoOn: "Released", ladder.Skip: "Skipped",
		}, ladder.Choice("").Values()...),
		table("roles", map[session.Role]string{
			session.Opener: "easy flow", session.Known: "known part", session.New: "new",
			session.Whole: "full combination", session.Fast: "fast", session.Free: "free", session.Set: "one drill",
			session.Own: "own drills", session.Counted: "counted", session.Off: "off the bag",
		}, session.Role("").Values()...),
		table("roundKinds", map[session.RoundKind]string{
			session.WarmUp: "Warm-up", session.Change: "Gloves and water", session.Work: "Round",
			session.Finisher: "Finisher", session.CoolDown: "Cool-down",
		}, session.RoundKind("").Values()...),
		table("channels", map[sound.Channel]string{
			sound.Bells: "Bell", sound.Warnings: "Warnings and counts", sound.Strikes: "Strikes",
			sound.Boards: "Board sounds", sound.Voice: "Voice",
		}, sound.Bells, sound.Warnings, sound.Strikes, sound.Boards, sound.Voice),
	}
}

// open marks a table that may be asked for codes that have no words.
func open(t List) List {
	t.Open = true
	return t
}

// table puts texts in the order of the codes; without codes by their letters. A code without a text is left out.
func table[C ~string](name string, texts map[C]string, codes ...C) List {
	t := List{Name: name}
	for code := range texts {
		t.Labels = append(t.Labels, Label{string(code), texts[code]})
	}
	slices.SortFunc(t.Labels, func(a, b Label) int {
		return cmp.Or(slices.Index(codes, C(a.Code))-slices.Index(codes, C(b.Code)), cmp.Compare(a.Code, b.Code))
	})
	return t
}
