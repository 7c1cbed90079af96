package compose

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

var (
	cord  = rig.Cord{Span: 0.75, Relaxed: 0.66, Stiffness: 90}
	cords = rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04}
	board = rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.8}
	heavy = rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5, AnchorHeight: 2.7}
)

func floor(bag rig.Rig, band trainee.Band) drill.Floor {
	return drill.Floor{Bag: bag, Ability: trainee.Start(band), Theirs: true, Seed: 1}
}

func line(text string) drill.CombinationDrill {
	return drill.CombinationDrill{Text: text, Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Combining,
		Pause: 2, Work: 60, Guidance: drill.Fading}
}

func rhythm(tempo float64) drill.SpeedBagDrill {
	return drill.SpeedBagDrill{Technique: drill.OneHand, FirstHand: drill.Rear, PerHand: 5, Rebounds: 3,
		StrikeAngle: 25, Tempo: tempo, Work: 60, Calls: true}
}

func must(t testing.TB, q Question) Answer {
	t.Helper()
	a, err := Ask(q)
	if err != nil {
		t.Fatal(err)
	}
	return a
}

// One call answers for the composer and the editor: the sentence, the figures, the level and the fit, for a technique
// and for a line.
func TestAsk(t *testing.T) {
	a := must(t, Question{Plan: rhythm(126), On: floor(board, trainee.Intermediate), Units: words.Metric})
	if !strings.Contains(a.Sentence, "126 a minute") || a.Strikes == 0 || a.Seconds != 60 || len(a.Pattern) != 10 ||
		a.KeptBy != "bag" || a.Composed != nil {
		t.Errorf("%+v", a)
	}
	if a.Suits == nil || a.Suits.Grade.Level < 1 || a.Suits.Fit.Clean <= 0 || a.Suits.Easier == nil {
		t.Errorf("%+v", a.Suits)
	}
	a = must(t, Question{Plan: line("1-2 - slip lead - 3"), On: floor(cords, trainee.Beginner), Units: words.Metric})
	if a.Composed == nil || len(a.Composed.Moves) != 4 || !strings.Contains(a.Sentence, ", the voice ") ||
		a.Suits == nil || *a.Fist != 3 {
		t.Errorf("%+v", a)
	}
	glance := must(t, Question{Plan: line("1-2 - slip lead - 3"), On: floor(cords, trainee.Beginner), Glance: true})
	if glance.Suits != nil || glance.Composed == nil {
		t.Error("a glance has a fit")
	}
	if doc, err := json.Marshal(a); err != nil || strings.Contains(string(doc), ":null,\"what") {
		t.Errorf("%s %v", doc, err)
	}
}

// What is left open is filled in and said; what cannot be run says why and names the field, and is not graded.
func TestOpenAndOutOfReach(t *testing.T) {
	a := must(t, Question{Plan: rhythm(0), On: floor(board, trainee.Beginner)})
	if a.Plan.Plan.(drill.SpeedBagDrill).Tempo == 0 || a.Problem != "" {
		t.Errorf("left open: %+v", a.Plan)
	}
	a = must(t, Question{Plan: rhythm(560), On: floor(board, trainee.Beginner)})
	if a.Problem == "" || a.Field != "tempo" || a.Suits != nil || len(a.Change) == 0 {
		t.Errorf("560 a minute: %q in %q", a.Problem, a.Field)
	}
	var refusal *input.Error
	if _, err := Ask(Question{Plan: rhythm(126), On: floor(cords, trainee.Beginner)}); !errors.As(err, &refusal) ||
		refusal.Field != "technique" {
		t.Errorf("a technique between cords: %v", err)
	}
}

// The cautions of the drill, of the bag and of the person stand in the one answer.
func TestCautions(t *testing.T) {
	a := must(t, Question{Plan: line("1-2! - knee rear"), On: floor(cords, trainee.Advanced),
		Cautions: []caution.Type{caution.Wrist}})
	if len(a.Composed.Cautions) != 1 || len(a.Spared) != 1 || a.Held != "" || len(a.Before) < 2 {
		t.Errorf("%q, %q, %q", a.Composed.Cautions, a.Spared, a.Held)
	}
	c := line("1-2")
	c.Landing = drill.Freely
	if a = must(t, Question{Plan: c, On: floor(heavy, trainee.Advanced),
		Cautions: []caution.Type{caution.Wrist}}); !strings.Contains(a.Held, "no heavy bag") {
		t.Errorf("held: %q", a.Held)
	}
}

// What rounds have taught, and somebody else beside this person, change the fit and not the level.
func TestSuits(t *testing.T) {
	q := Question{Plan: line("1-2-3"), On: floor(cords, trainee.Beginner)}
	plain := must(t, q).Suits
	q.Learned = level.Learn([]level.Outcome{{Predicted: 0.8, Observed: 0.5, Strikes: 60},
		{Predicted: 0.8, Observed: 0.5, Strikes: 60}})
	q.Beside = &Other{"Lerato", trainee.Start(trainee.Expert)}
	both := must(t, q).Suits
	if both.Fit.Clean >= plain.Fit.Clean || both.Grade != plain.Grade || both.Beside == nil ||
		both.Beside.Fit.Clean <= plain.Fit.Clean || both.Beside.Differs == "" {
		t.Errorf("%+v, then %+v", plain, both)
	}
}

// The changes that the editor and the composer ask for.
func TestChanges(t *testing.T) {
	if text, err := Recount("1-2", 0, 2); err != nil || text != "1:2-2" {
		t.Errorf("%q %v", text, err)
	}
	if _, err := Recount("1-2", 7, 2); err == nil {
		t.Error("a strike that there is not")
	}
	at, err := AtTempo(line("1-2"), floor(cords, trainee.Advanced), 200)
	if c, ok := at.(drill.CombinationDrill); err != nil || !ok || c.Tempo != 200 || c.Fist == 0 {
		t.Errorf("%v %v", at, err)
	}
	if _, err := AtTempo(rhythm(100), floor(board, trainee.Advanced), 200); err == nil {
		t.Error("a technique at a tempo")
	}
}

func BenchmarkAsk(b *testing.B) {
	for name, q := range map[string]Question{
		"glance":    {Plan: line("1-2 - slip lead - 3-2"), On: floor(cords, trainee.Beginner), Glance: true},
		"whole":     {Plan: line("1-2 - slip lead - 3-2"), On: floor(cords, trainee.Beginner)},
		"technique": {Plan: rhythm(110), On: floor(board, trainee.Beginner)},
	} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				must(b, q)
			}
		})
	}
}
