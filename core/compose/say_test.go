package compose

import (
	"slices"
	"strings"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

var rope = rig.SlipBag{AnchorHeight: 2.6, CentreHeight: 1.55, BagDiameter: 0.2, BagMass: 0.5}

func said(t *testing.T, p drill.Plan, on rig.Rig) (string, []Piece, []Knob) {
	t.Helper()
	a, err := Ask(Question{Plan: p, On: drill.Floor{Bag: on, Ability: trainee.Start(trainee.Intermediate), Seed: 1},
		Units: words.Metric, Glance: true})
	if err != nil {
		t.Fatal(err)
	}
	var b strings.Builder
	for _, s := range a.Said {
		b.WriteString(s.Text)
	}
	return b.String(), a.Said, a.Knobs
}

// The sentence says a drill as a coach would, each knob is behind exactly one part, and there are at most ten.
func TestSaid(t *testing.T) {
	line := drill.CombinationDrill{Text: "1-1-2", Stance: combo.Orthodox, Landing: drill.OnReturns,
		Pace: drill.Combining, Pause: 3, Work: 60, Guidance: drill.Fading}
	count, called, free, still := line, line, line, line
	count.Work, count.Repetitions = 0, 8
	cues := drill.CalledMoves()
	called.Cues, called.Names, called.Guidance = &cues, true, drill.Alone
	free.Landing, free.Pace = drill.Freely, drill.Flow
	still.Text, still.Rhythm, still.Guard = "1-2", drill.NoReturn, drill.RoundIt
	unseen := line
	unseen.Clock, unseen.EarOnly = drill.ByBeat, true
	slip := line
	slip.Text = "slip lead - 3"
	speed := rhythm(120)
	for name, c := range map[string]struct {
		plan drill.Plan
		on   rig.Rig
		want []string
	}{
		"hanging": {line, heavy, []string{"Thrown at combination pace, about half power, on every return: punches come",
			", in a 60 s round. Called by numbers, the voice fades out. No random cues."}},
		"count":  {count, cords, []string{"8 reps, one every ", " s in all"}},
		"cues":   {called, cords, []string{"Called by names, the voice stays silent. A defence is called at random"}},
		"freely": {free, heavy, []string{"Thrown in an easy flow", "without waiting for the bag"}},
		"beat":   {unseen, cords, []string{"on every return, held to the beat, the bag not seen: "}},
		"slip":   {slip, rope, []string{"Thrown at combination pace, the bag swinging, let go from "}},
		"guard":  {still, rope, []string{"the bag hanging still, to go round it"}},
		"speed":  {speed, board, []string{"One hand, ", "3 rebounds between strikes, at ", "the bag sets the time"}},
	} {
		t.Run(name, func(t *testing.T) {
			text, pieces, knobs := said(t, c.plan, c.on)
			for _, want := range c.want {
				if !strings.Contains(text, want) {
					t.Errorf("%q says nothing of %q", text, want)
				}
			}
			behind, parts := map[string]int{}, 0
			for _, p := range pieces {
				if len(p.Fields) > 0 {
					parts++
				}
				for _, f := range p.Fields {
					behind[f]++
				}
			}
			if parts > 10 {
				t.Errorf("%d parts: %s", parts, text)
			}
			for _, k := range knobs {
				if n := behind[k.Field]; n < 1 {
					t.Errorf("no part of %q leads to %s", text, k.Field)
				}
			}
			if strings.Contains(text, "  ") || strings.Contains(text, " ,") || strings.Contains(text, "..") {
				t.Errorf("%q is not written well", text)
			}
		})
	}
}

// Why a technique cannot be run stands in the sentence, whatever it is.
func TestSaidProblem(t *testing.T) {
	many, quick := rhythm(120), rhythm(500)
	many.Work, many.Strikes = 0, drill.MaxStrikes+1
	for _, c := range []struct {
		plan drill.SpeedBagDrill
		want string
	}{{many, "Strikes: expected a whole number from 1 to 2000, not 2001"}, {quick, "500 a minute is too quick"}} {
		_, pieces, _ := said(t, c.plan, board)
		if !slices.ContainsFunc(pieces, func(p Piece) bool { return p.Wrong && strings.HasPrefix(p.Text, c.want) }) {
			t.Errorf("nothing in %+v says %q", pieces, c.want)
		}
	}
}

// What does not fit stands in the sentence with its remedies, and a remedy that is taken helps.
func TestSaidMisfit(t *testing.T) {
	line := drill.CombinationDrill{Text: "2-2-1", Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Power,
		Fist: 7, Pause: 3, Work: 60, Guidance: drill.Fading}
	text, pieces, _ := said(t, line, cords)
	if !strings.Contains(text, " ms late: ") {
		t.Fatalf("%q: nothing is late", text)
	}
	var taken Patch
	for _, p := range pieces {
		if to, ok := p.With["text"]; ok && taken == nil {
			taken = p.With
			line.Text = to.(string)
		}
	}
	many := line
	many.Text = "2-1-2-2-1-2"
	if text, _, _ := said(t, many, cords); !strings.Contains(text, "The third 2 is ") {
		t.Errorf("of four crosses the third comes right after another: %q", text)
	}
	if taken == nil {
		t.Fatalf("%q offers no other return", text)
	}
	first := text[strings.Index(text, "The "):strings.Index(text, " ms late")]
	if after, _, _ := said(t, line, cords); strings.Contains(after, first+" ms late") {
		t.Errorf("%q is not mended by %v: %q", first, taken, after)
	}
}
