package caution

import (
	"strings"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

var (
	cord = rig.Cord{Span: 0.75, Relaxed: 0.66, Stiffness: 90}
	bags = map[rig.Kind]rig.Rig{
		rig.Speed: rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02,
			Restitution: 0.8},
		rig.DoubleEnd: rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04},
		rig.Slip:      rig.SlipBag{AnchorHeight: 2.8, CentreHeight: 1.5, BagDiameter: 0.2, BagMass: 0.5},
		rig.Hanging: rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5,
			AnchorHeight: 2.7},
	}
)

func line(text string, change ...func(*drill.CombinationDrill)) drill.CombinationDrill {
	c := drill.CombinationDrill{Text: text, Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Combining,
		Pause: 2, Work: 60, Guidance: drill.Fading}
	for _, f := range change {
		f(&c)
	}
	return c
}

func technique(tempo, work float64) drill.SpeedBagDrill {
	return drill.SpeedBagDrill{Technique: drill.OneHand, FirstHand: drill.Rear, Rebounds: 3, StrikeAngle: 25,
		Tempo: tempo, Work: work}
}

// What somebody has to be spared is looked for in the whole drill, and where softer or shorter is enough it is not held
// back. The cautions are common practice; their figures are assumed.
func TestSpare(t *testing.T) {
	power := func(c *drill.CombinationDrill) { c.Pace = drill.Power }
	countered := func(c *drill.CombinationDrill) {
		c.Cues = &drill.Cues{Moves: []string{"roll lead"}, Least: 3, Mean: 7, Counters: []string{"3!"}}
	}
	for name, x := range map[string]struct {
		list    []Type
		kind    rig.Kind
		plan    drill.Plan
		changes []string // words of each
		held    string
	}{
		"nothing":             {nil, rig.Hanging, line("1-2!"), nil, ""},
		"wrist, half power":   {[]Type{Wrist}, rig.DoubleEnd, line("1-2"), nil, ""},
		"wrist, hard":         {[]Type{Wrist}, rig.DoubleEnd, line("1-2", power), []string{"half power"}, ""},
		"wrist, a power shot": {[]Type{Wrist}, rig.DoubleEnd, line("1-2!"), []string{"no power shots"}, ""},
		"wrist, a power shot as answer": {[]Type{Wrist}, rig.DoubleEnd, line("1-2", countered),
			[]string{"no power shots"}, ""},
		"wrist, both": {[]Type{Wrist}, rig.DoubleEnd, line("1-2!", power),
			[]string{"half power", "no power shots"}, ""},
		"wrist, heavy bag": {[]Type{Wrist}, rig.Hanging, line("1-2"), nil, "no heavy bag"},
		"wrist, heavy bag, legs alone": {[]Type{Wrist}, rig.Hanging, line("round kick rear - round kick lead"), nil,
			""},
		"wrist, slip bag":          {[]Type{Wrist}, rig.Slip, line("slip lead - 3"), nil, ""},
		"wrist, quick rhythm":      {[]Type{Wrist}, rig.Speed, technique(180, 60), []string{"half power"}, ""},
		"wrist, rhythm":            {[]Type{Wrist}, rig.Speed, technique(0, 60), nil, ""},
		"shoulder, a minute":       {[]Type{Shoulder}, rig.Speed, technique(0, 60), []string{"45 s"}, ""},
		"shoulder, half a minute":  {[]Type{Shoulder}, rig.Speed, technique(0, 30), nil, ""},
		"shoulder, thrown":         {[]Type{Shoulder}, rig.Speed, line("2-2"), []string{"45 s"}, ""},
		"shoulder, hard straights": {[]Type{Shoulder}, rig.DoubleEnd, line("1-2!", power), nil, ""},
		"shoulder, hard hooks": {[]Type{Shoulder}, rig.DoubleEnd, line("1-2!-3!", power),
			[]string{"half power", "no power shots"}, ""},
		"both": {[]Type{Wrist, Shoulder}, rig.Speed, technique(180, 60),
			[]string{"half power", "45 s"}, ""},
		"head": {[]Type{Shoulder, Head}, rig.Slip, line("slip lead - wait"), nil, "a doctor"},
	} {
		on := drill.Floor{Bag: bags[x.kind], Ability: trainee.Start(trainee.Beginner), Seed: 1}
		s := Spare(x.list, x.plan, on)
		if (s.Held == "") != (x.held == "") || !strings.Contains(s.Held, x.held) {
			t.Errorf("%s: held %q", name, s.Held)
			continue
		}
		if len(s.Changes) != len(x.changes) {
			t.Errorf("%s: %q", name, s.Changes)
			continue
		}
		for i, word := range x.changes {
			if !strings.Contains(s.Changes[i], word) {
				t.Errorf("%s: %q says nothing of %s", name, s.Changes[i], word)
			}
		}
		if x.held != "" {
			continue
		}
		if again := Spare(x.list, s.Plan, on); len(again.Changes) > 0 || again.Held != "" {
			t.Errorf("%s: spared once, then again: %q %q", name, again.Changes, again.Held)
		}
		if _, err := s.Plan.Lay(on); err != nil {
			t.Errorf("%s: %v", name, err)
		}
	}
	straight := Spare([]Type{Shoulder}, line("1-2!-3!"),
		drill.Floor{Bag: bags[rig.DoubleEnd], Ability: trainee.Start(trainee.Beginner)})
	if c := straight.Plan.(drill.CombinationDrill); c.Text != "1-2!-3" {
		t.Errorf("a sore shoulder throws %s", c.Text)
	}
	if asked := line("1-2", countered); asked.Cues.Counters[0] != "3!" ||
		Spare([]Type{Wrist}, asked, drill.Floor{Bag: bags[rig.DoubleEnd],
			Ability: trainee.Start(trainee.Beginner)}).Plan == nil || asked.Cues.Counters[0] != "3!" {
		t.Error("the drill that was asked about is changed")
	}
}

// Each kind of bag has its caution, and cues theirs.
func TestBags(t *testing.T) {
	for _, k := range rig.Kinds() {
		if OfBag(k) == "" || !strings.Contains(Cues, "never at the eyes") ||
			strings.Count(strings.Join(BeforeRound(k), " "), "children") > 1 {
			t.Errorf("%s: %q", k, BeforeRound(k))
		}
	}
	moves := line("1-2 - knee rear").Everything()
	if len(OfLine(moves, rig.DoubleEnd)) != 1 || len(OfLine(moves, rig.Hanging)) != 0 {
		t.Error("where knees belong")
	}
}

// With children and youths an adult is present (common practice).
func TestOfPerson(t *testing.T) {
	for age, want := range map[string]bool{"child": true, "youth": true, "adult": false, "senior": false} {
		if said := OfPerson(trainee.AgeBand(age)); strings.Contains(said, "adult") != want {
			t.Errorf("%s: %q", age, said)
		}
	}
}
