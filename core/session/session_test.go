package session

import (
	"slices"
	"strings"
	"testing"

	"melodromos/core/caution"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// template returns one that ships by its key.
func template(key string) Template {
	list := Templates()
	return list[slices.IndexFunc(list, func(t Template) bool { return t.Key == key })]
}

// Every session that comes with the product adds up and can be done by a beginner on the bag that its kind begins with.
func TestTemplates(t *testing.T) {
	seen := map[string]bool{}
	for _, x := range Templates() {
		if seen[x.Key] || x.For == "" {
			t.Errorf("%s comes twice, or is for nobody", x.Key)
		}
		seen[x.Key] = true
		if err := x.Session.Check(); err != nil {
			t.Errorf("%s: %v", x.Key, err)
		}
		for _, r := range x.Session.Remarks(Anybody()) {
			t.Errorf("%s, round %d, block %d: %s", x.Key, r.Round, r.Block, r.Text)
		}
		n := x.Session.Totals(Anybody())
		if n.Easy+n.Moderate+n.Hard+n.Resting != n.Seconds {
			t.Errorf("%s: %d s easy, %d moderate, %d hard and %d resting are not %d", x.Key, n.Easy, n.Moderate, n.Hard,
				n.Resting, n.Seconds)
		}
		if x.Key != "class" && n.Strikes == 0 && x.Session.Bag != rig.Slip {
			t.Errorf("%s: no strikes", x.Key)
		}
		if said := x.Session.Sentence(n); !strings.Contains(said, "round") {
			t.Errorf("%s: %s", x.Key, said)
		}
	}
	// A third of six rounds jab only, a third one-two, a third mixed (common practice).
	thirds := template("thirds")
	for i, r := range thirds.Session.Rounds[2:8] {
		for _, b := range r.Blocks {
			if i < 2 && strings.Contains(strings.ReplaceAll(b.Text, "step lead", ""), "2") {
				t.Errorf("jab only throws %s", b.Text)
			}
			if i >= 2 && i < 4 && strings.Contains(b.Text, "3") {
				t.Errorf("one-two throws %s", b.Text)
			}
		}
	}
	half := template("halfMinutes")
	for i, want := range []string{"1", "2", "1", "2", "1-2", "1-2-1-2"} {
		if b := half.Session.Rounds[2].Blocks[i]; b.Text != want || b.Seconds != 30 {
			t.Errorf("half minute %d: %s for %d s", i+1, b.Text, b.Seconds)
		}
	}
}

// A template is a copy: what is done to it leaves the others alone.
func TestTemplatesAreCopies(t *testing.T) {
	a := template("class")
	a.Session.Rounds[0].Blocks[0].Seconds = 1
	if b := template("class"); b.Session.Rounds[0].Blocks[0].Seconds == 1 {
		t.Error("the template itself was changed")
	}
}

// An hour is an hour, to the second, with whatever rounds.
func TestClassHeld(t *testing.T) {
	for _, minutes := range []int{10, 15, 20, 30, 45, 60, 75, 90, 120} {
		for _, seconds := range []int{30, 60, 90, 120, 180} {
			s := Class(minutes, seconds, "")
			if s.Seconds() != 60*minutes {
				t.Errorf("%d minutes in rounds of %d s last %d s", minutes, seconds, s.Seconds())
			}
			if err := s.Check(); err != nil {
				t.Errorf("%d minutes in rounds of %d s: %v", minutes, seconds, err)
			}
		}
	}
	work := 0
	for _, r := range Class(60, ContestRound, "").Rounds {
		if r.Kind == Work {
			work++
			if r.Seconds != 180 || r.Rest != 60 { // a contest round (amateur rules, from memory)
				t.Errorf("a round of %d s and %d s of rest", r.Seconds, r.Rest)
			}
		}
	}
	if work < 10 || work > 13 {
		t.Errorf("%d rounds in an hour", work)
	}
}

// The sum of a round by hand: ten one-twos are twenty punches (common practice), half of them with each hand.
func TestTotals(t *testing.T) {
	s := Session{Bag: rig.DoubleEnd, Rounds: []Round{
		{Kind: Work, Seconds: 60, Rest: 30, Blocks: []Block{{Role: Counted, Seconds: 60, Times: 10, Text: "1-2",
			Pace: drill.Combining}}},
		{Kind: Work, Seconds: 90, Rest: 30, Blocks: []Block{{Role: Counted, Seconds: 90, Times: 5,
			Text: "1 - slip rear - 2", Pace: drill.Combining}}},
	}}
	n := s.Totals(Anybody())
	if n.Strikes != 30 || n.LeadHand != 15 || n.RearHand != 15 || n.SlipsRear != 5 || n.SlipsLead != 0 ||
		n.Seconds != 180 || n.Resting != 30 || n.OnBag != 150 {
		t.Errorf("%+v", n)
	}
}

// What stands against a session is said where it stands.
func TestRemarks(t *testing.T) {
	fast := Block{Role: Fast, Seconds: 180, Text: "1-2!", Pace: drill.Power}
	young, sore := Anybody(), Anybody()
	young.Age, sore.Cautions = trainee.Child, []caution.Type{caution.Wrist}
	base := func(change func(*Session)) Session {
		s := Class(30, ContestRound, rig.Hanging)
		for i := range s.Rounds {
			if s.Rounds[i].Kind == Work {
				s.Rounds[i].Emphasis, s.Rounds[i].Blocks = "Straights", []Block{{Role: Set, Seconds: 180, Text: "1-2"}}
				s.Rounds[i].Blocks[0].Role = Known
			}
		}
		change(&s)
		return s
	}
	for name, x := range map[string]struct {
		s    Session
		who  Trainer
		want string
		bars bool
	}{
		"short rest": {base(func(s *Session) { s.Rounds[2].Rest = 20 }), Anybody(), "shorter than usual", false},
		"too full": {base(func(s *Session) { s.Rounds[2].Blocks[0].Seconds = 200 }), Anybody(),
			"20 seconds too long", true},
		"empty": {base(func(s *Session) { s.Rounds[2].Blocks[0].Seconds = 100 }), Anybody(),
			"80 seconds of it empty", true},
		"no warm-up":     {base(func(s *Session) { s.Rounds = s.Rounds[1:] }), Anybody(), "no warm-up", false},
		"no emphasis":    {base(func(s *Session) { s.Rounds[2].Emphasis = "" }), Anybody(), "hit at random", false},
		"long for young": {base(func(*Session) {}), young, "long for the young", false},
		"hard for young": {base(func(s *Session) { s.Rounds[2].Blocks[0] = fast }), young, "not for the young",
			false},
		"held back": {base(func(*Session) {}), sore, "Held back: a sore wrist", false},
		"no such line": {base(func(s *Session) { s.Rounds[2].Blocks[0].Text = "1-xyz" }), Anybody(),
			"\"xyz\" is not known", true},
		"another bag": {base(func(s *Session) {
			s.Rounds[2].Blocks[0] = Block{Role: Set, Seconds: 180, Drill: "speed.five"}
		}), Anybody(), "drill for the speed bag", true},
		"too many": {base(func(s *Session) {
			for range 6 {
				s.Rounds = append(s.Rounds, s.Rounds[2])
			}
		}), Anybody(), "are many", false},
	} {
		found := false
		for _, r := range x.s.Remarks(x.who) {
			if strings.Contains(r.Text, x.want) {
				found = true
				if r.Bars != x.bars {
					t.Errorf("%s: bars %v", name, r.Bars)
				}
			}
		}
		if !found {
			t.Errorf("%s: nothing says %q in %+v", name, x.want, x.s.Remarks(x.who))
		}
	}
}

func TestCheckRefuses(t *testing.T) {
	for want, b := range map[string]Block{
		"activity": {Role: Off, Seconds: 60, Activity: "yodelling"},
		"role":     {Role: Known, Seconds: 60},
		"times":    {Role: Counted, Seconds: 60, Text: "1-2"},
		"drill":    {Role: Set, Seconds: 60, Drill: "speed.nothing"},
		"text":     {Role: Known, Seconds: 60, Text: "1-xyz"},
	} {
		s := Session{Rounds: []Round{{Kind: Work, Seconds: 60, Blocks: []Block{b}}}}
		if err := s.Check(); err == nil || !strings.Contains(err.Error(), "rounds[0].blocks[0]."+want) {
			t.Errorf("%+v: %v", b, err)
		}
	}
	if err := (Session{}).Check(); err == nil {
		t.Error("a session without a round")
	}
}

func BenchmarkTotals(b *testing.B) {
	x := template("themes")
	for b.Loop() {
		x.Session.Totals(Anybody())
	}
}
