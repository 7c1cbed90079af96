package bench

import (
	"errors"
	"fmt"
	"math"
	"strings"
	"testing"

	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

var (
	cord  = rig.Cord{Span: 1.0, Relaxed: 0.80, Stiffness: 110}
	speed = rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.80,
		BoardHeight: 1.95}
	between = rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04}
	pole    = rig.ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50,
		Damping: 0.06}
	slip  = rig.SlipBag{AnchorHeight: 2.6, CentreHeight: 1.55, BagDiameter: 0.2, BagMass: 0.5}
	heavy = rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5, AnchorHeight: 2.7}
	globe = rig.HangingBag{Shape: "ball", Mass: 30, Diameter: 0.45, Chain: 0.6, AnchorHeight: 2.9}
	all   = []rig.Rig{speed, between, pole, slip, heavy, globe}
	tall  = User{"Yusuf", rig.Body{Height: 1.85, Reach: 1.93}}
	small = User{"Tobias", rig.Body{Height: 1.45}}
)

func about(r rig.Rig, p User) Question {
	m := rig.Meeting{Rebounds: 1}
	if r.Kind() == rig.Speed {
		m = rig.Three
	}
	place := rig.Place{}
	if r.Kind() == rig.DoubleEnd {
		place.LowerAnchor = 0.6 // on a beam, the upper one at 2.6 m
	}
	return Question{Rig: r, Place: place, User: p, Ability: trainee.Start(trainee.Intermediate), Meeting: m,
		Units: words.Metric}
}

func must(t testing.TB, q Question) Answer {
	t.Helper()
	a, err := Ask(q)
	if err != nil {
		t.Fatalf("%s: %v", q.Rig.Kind(), err)
	}
	return a
}

func TestSaid(t *testing.T) {
	ability := trainee.Start(trainee.Intermediate)
	for tempo, want := range map[float64]string{
		126: "Strike at 126 a minute: three rebounds, about half power, met at 25°.",
		600: "Strike at 600 a minute: three rebounds, out of these hands' reach, met at 25°. That is too fast for this bag: " +
			"within reach is 47 to 513 with three rebounds: take one rebound, hang a bag of 17 cm or take 513 a minute.",
		20: "Strike at 20 a minute: three rebounds, out of these hands' reach, met at 25°. That is too slow for this bag: " +
			"within reach is 47 to 513 with three rebounds: take seven rebounds or take 47 a minute.",
	} {
		q := Question{Rig: speed, Meeting: rig.Three, Ability: ability, Tempo: &tempo}
		a, err := rig.Reach(speed, tempo, rig.Three, rig.Anybody)
		if err != nil {
			t.Fatal(err)
		}
		whole := Answer{Strike: a, Launch: a.Launch}
		if got := strikeSaid(q, whole); got != want {
			t.Errorf("%g: %q, want %q", tempo, got, want)
		}
		q.Units = words.Imperial
		if got := strikeSaid(q, whole); tempo == 600 && !strings.Contains(got, "a bag of 6.7 in") {
			t.Error(got)
		}
	}
}

// For each kind one sentence tells how to hang it, at what tempo it comes back and what is wrong.
func TestSentenceOfEachKind(t *testing.T) {
	for _, r := range all {
		a := must(t, about(r, small))
		name := string(r.Kind())
		verb := " hang it "
		if r.Kind() == rig.Reflex {
			verb = " set it "
		}
		said := words.Joined(a.Said)
		if !strings.HasPrefix(said, "For Tobias"+verb) || !strings.Contains(said, " lower: use this setting. ") {
			t.Errorf("%s is not hung lower for a small person: %s", name, said)
		}
		if !strings.Contains(words.Joined(a.Said), fmt.Sprintf("at %.0f a minute", a.Strike.Tempo)) {
			t.Errorf("%s: %s", name, words.Joined(a.Said))
		}
		if a.Hung <= 0 {
			t.Errorf("%s: hung right it has no tempo", name)
		}
		t.Log(words.Joined(a.Said))
	}
	q := about(slip, tall)
	q.User = User{}
	if a := must(t, q); strings.Contains(words.Joined(a.Said), "hang") || a.SetUp.Needs != "height" {
		t.Errorf("with nobody chosen: %s", words.Joined(a.Said))
	}
}

// Set as it says, a rig is right for that person and nothing is to be moved any more.
func TestHungAsToldIsRight(t *testing.T) {
	for _, r := range all {
		for _, p := range []User{tall, small} {
			q := about(r, p)
			a := must(t, q)
			var err error
			if q.Rig, q.Place, err = rig.Apply(q.Rig, q.Place, a.SetUp.Settings); err != nil {
				t.Fatalf("%s for %s: %v", r.Kind(), p.Name, err)
			}
			again := must(t, q)
			if again.SetUp.Move != 0 || !strings.Contains(words.Joined(again.Said), "right for "+p.Name) {
				t.Errorf("%s for %s: %s, then %s", r.Kind(), p.Name, words.Joined(a.Said), words.Joined(again.Said))
			}
			// struck by the same fist, not at the same launch
			if a.Hung != 0 && math.Abs(again.Strike.Tempo-a.Hung) > 0.02*a.Hung && r.Kind() != rig.Slip {
				t.Errorf("%s for %s: %.1f a minute foretold, %.1f found", r.Kind(), p.Name, a.Hung, again.Strike.Tempo)
			}
		}
	}
}

// Under one ceiling the shorter person's slip bag is the slower one, and hung from the anchors named the two keep one
// tempo.
func TestSharedAnchor(t *testing.T) {
	q := about(slip, tall)
	q.Others = []User{small}
	a := must(t, q)
	if len(a.Shared) != 2 || a.Shared[0].Tempo <= a.Shared[1].Tempo {
		t.Fatalf("%+v", a.Shared)
	}
	for i, s := range a.Shared {
		other := a.Shared[1-i]
		moved := slip
		moved.CentreHeight, moved.AnchorHeight = s.Centre, s.Equal[1-i]
		got, err := moved.Struck(a.Launch, q.Meeting)
		if err != nil || math.Abs(got.Tempo-other.Tempo) > 1e-9 {
			t.Errorf("%s from an anchor at %.3f m: %g a minute, %s has %g (%v)", s.Name, s.Equal[1-i], got.Tempo,
				other.Name, other.Tempo, err)
		}
	}
	if q.Others = []User{{Name: "Nobody"}}; true {
		var refused *input.Error
		if _, err := Ask(q); !errors.As(err, &refused) || refused.Field != "others" {
			t.Errorf("somebody without a height: %v", err)
		}
	}
}

// Cords wound up a step at a time go through all four feels, each said with its border.
func TestWoundInSteps(t *testing.T) {
	soft := rig.Cord{Span: 0.75, Relaxed: 0.72, Stiffness: 60}
	q := about(rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: soft, Lower: soft, Damping: 0.04}, User{})
	var seen []string
	for range 80 {
		a := must(t, q)
		code := ""
		for _, f := range a.Findings {
			switch f.Code {
			case "tooSlack", "headMovementOnly", "tension", "tooTight":
				code = f.Code
				if math.IsNaN(f.Figure) || math.IsNaN(f.Limit) || f.Source == "" ||
					(f.Weight == rig.Wrong) != (f.Remedy != "") {
					t.Errorf("%+v", f)
				}
			}
		}
		if len(seen) == 0 || seen[len(seen)-1] != code {
			seen = append(seen, code)
		}
		if code == "tooTight" || len(a.Cords.Tighter) == 0 {
			break
		}
		var err error
		if q.Rig, _, err = rig.Apply(q.Rig, q.Place, a.Cords.Tighter); err != nil {
			t.Fatal(err)
		}
	}
	if got := strings.Join(seen, " "); got != "tooSlack headMovementOnly tension tooTight" {
		t.Error(got)
	}
}

func TestRefusals(t *testing.T) {
	tempo, launch := 100.0, 3.0
	for field, q := range map[string]Question{
		"tempo": {Rig: speed, Meeting: rig.Three, Tempo: &tempo, Launch: &launch},
		"rig.bagMass": {Rig: rig.SlipBag{AnchorHeight: 2, CentreHeight: 1, BagDiameter: 0.2, BagMass: -1},
			Meeting: rig.Meeting{Rebounds: 1}},
		"body.height": {Rig: speed, Meeting: rig.Three, User: User{"X", rig.Body{Height: 9}}},
		"rebounds":    {Rig: between},
	} {
		var refused *input.Error
		if _, err := Ask(q); !errors.As(err, &refused) || refused.Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
}

func BenchmarkAsk(b *testing.B) {
	for _, r := range all[:5] {
		b.Run(string(r.Kind()), func(b *testing.B) {
			q := about(r, small)
			if r.Kind() == rig.Slip {
				q.Others = []User{tall}
			}
			for b.Loop() {
				must(b, q)
			}
		})
	}
	tempo := 90.0
	q := about(between, small)
	q.Tempo = &tempo
	b.Run("tempo", func(b *testing.B) {
		for b.Loop() {
			must(b, q)
		}
	})
}

func ExampleAsk() {
	a, err := Ask(Question{
		Rig:  rig.SlipBag{AnchorHeight: 2.6, CentreHeight: 1.55, BagDiameter: 0.2, BagMass: 0.5},
		User: User{"Tobias", rig.Body{Height: 1.45}}, Ability: trainee.Start(trainee.FirstTimer),
		Meeting: rig.Meeting{Rebounds: 1}, Units: words.Metric,
	})
	if err != nil {
		panic(err)
	}
	fmt.Println(strings.ReplaceAll(words.Joined(a.Said), ". ", ".\n"))
	// Output:
	// For Tobias hang it 35 cm lower: use this setting.
	// Slip every pass at 57 a minute, the bag drawn back 52.5 cm.
	// Also set the measures of the bag and its place and use.
}

// A boy of fourteen is not told that nothing is wrong with what he cannot strike, by tempo or by force; what he is
// shown he can.
func TestNotPraised(t *testing.T) {
	boy := Question{Rig: speed, User: User{"Milo", rig.Body{Height: 1.58}},
		Ability: trainee.Start(trainee.FirstTimer), Novice: true, Meeting: rig.Meeting{Rebounds: 1}}
	for name, change := range map[string]func(*Question){
		"tempo": func(q *Question) { v := 600.0; q.Tempo = &v },
		"force": func(q *Question) { v := 11.0; q.Launch = &v },
		// more than the bag takes
		"cap": func(q *Question) { v := 200.0; q.Tempo, q.Place.PowerCap, q.Meeting.Rebounds = &v, 2, 3 },
	} {
		q := boy
		change(&q)
		a := must(t, q)
		if a.Strike.Feasible || strings.Contains(words.Joined(a.Said), "nothing") ||
			!strings.Contains(words.Joined(a.Said), "these hands") {
			t.Errorf("%s: %s", name, words.Joined(a.Said))
		}
		if len(a.Strike.Change) == 0 {
			t.Errorf("%s: no advice", name)
		}
		for _, l := range a.Tempos {
			for _, tempo := range []float64{l.Slowest, l.Fastest} {
				struck, err := speed.Solve(tempo, rig.Meeting{Rebounds: l.Rebounds, Face: l.Face})
				if err != nil || struck.FistSpeed > boy.Ability.FistSpeed*1.001 ||
					60/tempo < 0.74*boy.Ability.Alternate {
					t.Errorf("%d rebounds at %.0f a minute are shown: %+v, %v", l.Rebounds, tempo, struck, err)
				}
			}
		}
	}
}
