package combo

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"melodromos/core/input"
)

func parse(t testing.TB, text string) Combination {
	t.Helper()
	c, err := Parse(text)
	if err != nil {
		t.Fatalf("%q: %v", text, err)
	}
	return c
}

// What people type, and the one form it is printed in.
func TestParse(t *testing.T) {
	for text, want := range map[string]string{
		"1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!": "1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!",
		"1 2":                         "1-2",
		"one two":                     "1-2",
		"jab cross":                   "1-2",
		"Jab, Cross; LEAD HOOK":       "1-2-3",
		"1,2,3":                       "1-2-3",
		"1–2—3":                       "1-2-3",
		"slip lead 3":                 "slip lead - 3",
		"slip-lead-3":                 "slip lead - 3",
		"jab body, cross to the body": "1b-2b",
		"body jab 2B":                 "1b-2b",
		"(1-2)x3":                     "(1-2)x3",
		"(1 2) X 3":                   "(1-2)x3",
		"(1-2)×3":                     "(1-2)x3",
		"(1-2)x1":                     "1-2",
		"((1-2)x2)x3":                 "((1-2)x2)x3",
		"(1)":                         "1",
		"2:3 2!:3 2:3!":               "2:3-2!:3-2!:3",
		"pull 1-2":                    "pull 1-2",
		"1-pull-2":                    "1 - pull 2",
		"overhand, lead overhand":     "overhand - lead overhand",
		"lead knee - elbow rear":      "knee lead - elbow rear",
		"push kick lead round kick rear low kick rear":                "push kick lead - round kick rear - low kick rear",
		"slip inside, slip outside":                                   "slip lead - slip rear",
		"duck roll rear weave step in step back step lead pivot rear": "duck - roll rear - weave - step in - step back - step lead - pivot rear",
		"block parry cover long guard feint switch wait double":       "block - parry - cover - long guard - feint - switch - wait - double",
	} {
		c, err := Parse(text)
		if err != nil || c.String() != want {
			t.Errorf("%q: %q, %v, want %q", text, c, err, want)
		}
	}
}

// What cannot be read is refused at its place, counted in characters, in words that help.
func TestRefusals(t *testing.T) {
	for text, want := range map[string]string{
		"":            "1: at the end",
		"1-2 | ":      "7: at the end",
		"| 1":         "1: expected a move",
		"duck!":       "5: only a strike",
		"1 § 2":       `3: "§" means nothing here`,
		"é 1":         `1: "é" means nothing here`,
		"(1-2":        "5: at the end: expected a closing bracket",
		"1-2)":        "4: this bracket closes none",
		"()x2":        "2: expected a move in the brackets",
		"(1-2)x0":     "7: expected a group 1 to 400 times",
		"(1-2)x401":   "7: expected a group 1 to 400 times",
		"x3":          "1: expected a move or a group before it",
		"(1 | 2)x2":   "4: expected a closing bracket: a group stands within one part",
		"1:0":         "2: expected rebounds from 1 to 9",
		"slip lead:3": "10: expected rebounds from 1 to 9",
		"body duck":   "1: expected a strike beside",
		strings.Repeat("(", 12) + "1" + strings.Repeat(")x2", 12): "10: expected fewer brackets",
		"((1-2)x50)x50":            "0: expected at most 400 moves",
		strings.Repeat("1 ", 2001): "0: expected at most 4000 characters",
	} {
		var refused *input.Error
		_, err := Parse(text)
		if !errors.As(err, &refused) || refused.Field != "text" {
			t.Errorf("%.40q: %v", text, err)
			continue
		}
		if got := fmt.Sprintf("%d: %s", refused.Column, refused.Reason); !strings.HasPrefix(got, want) {
			t.Errorf("%.40q: %q, want %q", text, got, want)
		}
		if refused.Column > 0 && (refused.Width == 0 ||
			!strings.Contains(err.Error(), fmt.Sprintf("text: column %d: ", refused.Column))) {
			t.Errorf("%.40q: %v, width %d", text, err, refused.Width)
		}
	}
}

// Hands, sides and targets for both stances; a switch of the feet carries the stance along.
func TestSides(t *testing.T) {
	moves := parse(t,
		"1-2-3b | slip lead - 5 - switch - 2 - pivot rear - roll lead - duck - push kick rear - double").Moves(Orthodox)
	want := []struct {
		kind MoveKind
		hand Hand
		side Side
		body bool
	}{
		{Strike, Lead, Left, false}, {Strike, Rear, Right, false}, {Strike, Lead, Left, true},
		{Defence, "", Left, false}, {Strike, Lead, Left, false},
		{Step, "", "", false}, {Strike, Rear, Left, false}, {Step, "", Left, false}, {Defence, "", Right, false},
		{Defence, "", "", false}, {Strike, Rear, Left, true}, {Strike, Both, "", false},
	}
	other := parse(t,
		"1-2-3b | slip lead - 5 - switch - 2 - pivot rear - roll lead - duck - push kick rear - double").Moves(Southpaw)
	swap := map[Side]Side{Left: Right, Right: Left, "": ""}
	for i, w := range want {
		m := moves[i]
		if m.Kind() != w.kind || m.Hand() != w.hand || m.Side() != w.side || m.ToBody() != w.body {
			t.Errorf("%d %s: %s %s %s", i, m.Move, m.Kind(), m.Hand(), m.Side())
		}
		if other[i].Side() != swap[w.side] {
			t.Errorf("a southpaw's %s is on the %s", m.Move, other[i].Side())
		}
	}
}

// The line of the trade: 13 moves, 10 strikes, five of each hand, nothing wrong; its other sides as coaches turn them.
func TestLongCombination(t *testing.T) {
	c := parse(t, "1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!")
	moves := c.Moves(Orthodox)
	b := Balanced(moves)
	if b.Moves != 13 || b.Strikes != 10 || b.LeadHand != 5 || b.RearHand != 5 || b.Defences != 2 || b.Steps != 1 {
		t.Errorf("%+v", b)
	}
	if marks := Flow(moves); len(marks) != 0 {
		t.Errorf("%+v", marks)
	}
	if got := c.Mirror().String(); got != "2-2-1 | duck - 1-4-1! | slip rear - 4-1 | step back - 2-1!" {
		t.Error(got)
	}
	d := parse(t, "pull 1-2 | slip rear - 2-3 | duck - 3-2")
	if got := d.Counterpart().String(); got != "pull 2-3 | slip lead - 3-2 | duck - 2-3" {
		t.Error(got)
	}
	if got := parse(t,
		"1b-3b - knee lead - elbow rear - roll lead - pivot rear - step in - 5-6").Counterpart().String(); got != "2b-4b - knee rear - elbow lead - roll rear - pivot lead - step in - 6-5" {
		t.Error(got)
	}
}

// Lines that flow and lines that do not (common practice), with the place where they break.
func TestFlow(t *testing.T) {
	for text, want := range map[string]string{
		"1-2-3-2": "", "1-1-2": "", "1-1-1-2": "", "2-3-2": "", "1-2-2": "2 doubling", "3-3": "", "1-3": "", "3b-3": "",
		"2-2b": "1 doubling", "4-2": "1 doubling", "1b-1": "", "1-2 | 2-3": "",
		"1-2 - step in - 2": "", "1-2 - wait - 2": "",
		"2 slip lead 2": "2 slipHand", "2 slip lead 3": "", "1 slip rear 2": "2 outsideSlip",
		"1 slip rear 6": "2 outsideSlip", "1 slip rear 3": "2 slipHand", "slip rear - step in - 2": "",
		// only the last defence counts, and nobody threw before
		"slip rear - slip lead - 3": "", "slip lead - duck - 1": "",
		"2 roll lead 3": "", "2 roll lead 2": "2 rollHand", "1 roll rear 2": "",
		"2 duck 2": "", "3 duck 3": "", "2 duck 3": "2 duckHand", "duck 3": "", "1-2 | duck - 2": "",
		"1-2 - duck - wait - 1": "",
		"1-2 pull 1":            "2 pull", "1-2 pull 2": "2 pull", "pull 1-2": "", "1-2-pull": "",
		"2 slip lead - step in - 2": "", "3 duck - step back - 2": "", "feint jab 2": "", "1-2 | 2": "",
		"double - 2":               "",
		"1 slip lead - switch - 2": "", // after the switch the hand on that side is the rear one
		"2 - switch - 2":           "", "knee rear - 2": "", "knee rear - knee rear": "1 doubling",
	} {
		var got []string
		for _, m := range Flow(parse(t, text).Moves(Orthodox)) {
			got = append(got, fmt.Sprintf("%d %s", m.Move, m.Code))
			if m.Reason == "" || m.Deliberate != (m.Code == PullBack) ||
				m.Caution() != (m.Code == PullBack || m.Code == OutsideSlip) {
				t.Errorf("%q: %+v", text, m)
			}
		}
		if s := strings.Join(got, ", "); s != want {
			t.Errorf("%q: %q, want %q", text, s, want)
		}
		// A southpaw throws the same line as well or as badly.
		if len(Flow(parse(t, text).Moves(Southpaw))) != len(got) {
			t.Errorf("%q flows otherwise for a southpaw", text)
		}
	}
}

// From a punch to the defence that grows out of it, and from a defence to the next (common practice): hints, no faults.
func TestHints(t *testing.T) {
	for text, want := range map[string]string{
		"2 slip lead 3": "", "2 slip rear 2": "1 growsOut", "6 roll rear": "1 growsOut", "4 slip lead": "",
		"2b roll lead": "", "3 slip rear": "", "3 slip lead": "1 growsOut", "3 roll lead": "1 growsOut",
		"1 slip lead": "", "1 slip rear": "", "5 slip lead": "", "round kick rear - slip rear": "", "2 duck": "",
		"2 | slip rear":         "1 growsOut",
		"slip lead - slip rear": "", "slip lead - slip lead": "1 sameSide", "roll rear - slip rear": "1 sameSide",
		"slip lead - duck - slip lead": "", "slip lead - 1 - slip lead": "", "slip lead - step in - slip lead": "",
	} {
		for _, s := range []Stance{Orthodox, Southpaw} {
			var got []string
			for _, m := range Hints(parse(t, text).Moves(s)) {
				got = append(got, fmt.Sprintf("%d %s", m.Move, m.Code))
				if m.Reason == "" || m.Suggest == "" || m.Deliberate || m.Caution() || !m.Hint() {
					t.Errorf("%q: %+v", text, m)
				}
			}
			if g := strings.Join(got, ", "); g != want {
				t.Errorf("%q, %s: %q, want %q", text, s, g, want)
			}
		}
	}
}

// Another return is named after one strike; in a group it holds for every time through.
func TestCounted(t *testing.T) {
	for _, c := range []struct {
		text        string
		move, count int
		want        string
	}{
		{"1-2", 0, 2, "1:2-2"}, {"1:3-2", 0, 0, "1-2"}, {"(1-2)x3 - 3", 3, 2, "(1-2:2)x3 - 3"},
		{"1 | slip lead - 3", 2, 4, "1 | slip lead - 3:4"},
		{"1 | slip lead - 3", 1, 2, ""}, {"1-2", 7, 2, ""}, {"1-2", 0, 10, ""},
	} {
		got, err := parse(t, c.text).Counted(c.move, c.count)
		if (err != nil) != (c.want == "") || err == nil && got.String() != c.want {
			t.Errorf("%q, move %d, %d: %q, %v", c.text, c.move, c.count, got, err)
		}
	}
}

func TestCalls(t *testing.T) {
	c := parse(t, "1-2b | slip lead - 3! - step back")
	if got := c.Call(Naming{}); got != "one, two body; slip lead, three, step back" {
		t.Error(got)
	}
	if got := c.Call(Naming{Names: true}); got != "jab, cross body; slip lead, lead hook, step back" {
		t.Error(got)
	}
}

// Parsed, printed and parsed again it is the same; the mirror twice is the identity; the counterpart changes the hand
// of every strike and the side of every slip; a mirrored line flows as the line does.
func FuzzParse(f *testing.F) {
	for _, text := range []string{"1-1-2 | duck - 2-3-2!", "((1-2)x2 slip lead 3b!)x3:2", "pull 1:3, knee lead", "é((",
		"switch 2 double", "double jab, then left hook to the body x3", "(hook switch right hand) x 4",
		"feint low hook / parry jab + teep 3x", "10 one-twos", "high kick, body, low 1b"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		c, err := Parse(text)
		if err != nil {
			var refused *input.Error
			if !errors.As(err, &refused) || refused.Field != "text" {
				t.Errorf("%q: %v", text, err)
			}
			return
		}
		again, err := Parse(c.String())
		if err != nil || again.String() != c.String() ||
			fmt.Sprint(again.Moves(Orthodox)) != fmt.Sprint(c.Moves(Orthodox)) {
			t.Fatalf("%q is printed %q and read %q, %v", text, c, again, err)
		}
		if m := c.Mirror().Mirror(); m.String() != c.String() {
			t.Errorf("%q mirrored twice is %q", c, m)
		}
		moves, other, mirror := c.Moves(Orthodox), c.Counterpart().Moves(Orthodox), c.Mirror().Moves(Orthodox)
		for i, m := range moves {
			if h := m.Hand(); h == Lead && other[i].Hand() != Rear || h == Rear && other[i].Hand() != Lead {
				t.Errorf("%q: %s became %s", c, m.Move, other[i].Move)
			}
			if m.Word == Slip && other[i].Toward == m.Toward {
				t.Errorf("%q: %s stayed", c, m.Move)
			}
		}
		a, b := Balanced(moves), Balanced(other)
		if a.SlipsLead != b.SlipsRear || a.SlipsRear != b.SlipsLead || a.LeadHand != b.RearHand ||
			a.RearHand != b.LeadHand || a.Body != b.Body {
			t.Errorf("%q: the balance does not swap: %+v, %+v", c, a, b)
		}
		_ = Flow(mirror)
	})
}

func BenchmarkParse200(b *testing.B) {
	text := strings.Repeat("1-2-3 slip lead 3b! | ", 39) + "1-2-3-2-1"
	if n := len(parse(b, text).Moves(Orthodox)); n != 200 {
		b.Fatalf("%d moves", n)
	}
	for b.Loop() {
		if _, err := Parse(text); err != nil {
			b.Fatal(err)
		}
	}
}

func ExampleParse() {
	c, err := Parse("jab, cross, slip lead, lead hook!")
	if err != nil {
		panic(err)
	}
	fmt.Println(c)
	fmt.Println(c.Counterpart())
	// Output:
	// 1-2 - slip lead - 3!
	// 2-3 - slip rear - 2!
}
