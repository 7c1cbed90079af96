package session

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
)

// worked are combinations with the parts that a coach would make of them, and what their rounds hold. Three parts make
// the four rounds of the trade: A, B, A + B then C, and at last a speed opener, each for 30 s, the whole for 60 s
// (common practice); the parts of the lines are the author's reading of "3 to 5 moves, ending on the accent".
var worked = []struct {
	text  string
	parts []string
}{
	{"1-2-3 - slip rear - 2-3-2!", []string{"1-2-3", "slip rear - 2-3-2!"}},
	{"1-2-3-2 - slip rear - 2-3", []string{"1-2-3-2", "slip rear - 2-3"}},
	{"1-1-2 - duck - 2-3! - slip lead - 3-2-3", []string{"1-1-2", "duck - 2-3!", "slip lead - 3-2-3"}},
	{"1-2-3! | slip rear - 2-3 | duck - 3-2", []string{"1-2-3!", "slip rear - 2-3", "duck - 3-2"}},
	{"1-2-3 - duck - 3-2! - slip rear - 2-3-2", []string{"1-2-3", "duck - 3-2!", "slip rear - 2-3-2"}},
	{"1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!",
		[]string{"1-1-2", "duck - 2-3-2!", "slip lead - 3-2", "step back - 1-2!"}},
	{"1-1-2 - duck - 2-3-2! - slip lead - 3-2 - step back - 1-2!",
		[]string{"1-1-2", "duck - 2-3-2!", "slip lead - 3-2", "step back - 1-2!"}},
	{"1-2-3 - slip lead - 3-2-3! - duck - 3-2 - step back - 1-2-3!",
		[]string{"1-2-3", "slip lead - 3-2-3!", "duck - 3-2", "step back - 1-2-3!"}},
}

func TestParts(t *testing.T) {
	for _, w := range worked {
		line, err := combo.Parse(w.text)
		if err != nil {
			t.Fatal(err)
		}
		if got := Parts(line); !slices.Equal(got, w.parts) {
			t.Errorf("%s is parted into %q, want %q", w.text, got, w.parts)
		}
	}
	for text, want := range map[string]int{"1-2": 1, "1-2-3-2": 1, "1-2-3-2-3": 1, "(1-2)x3": 2} {
		line, _ := combo.Parse(text)
		if got := Parts(line); len(got) != want {
			t.Errorf("%s: %q", text, got)
		}
	}
}

// k parts make k + 1 rounds, each of which adds up to the second (common practice).
func TestBuildUp(t *testing.T) {
	for _, w := range worked {
		for _, seconds := range []int{120, 180, 181} {
			s, err := BuildUp(w.text, rig.Hanging, seconds)
			if err != nil {
				t.Fatal(err)
			}
			if err := s.Check(); err != nil {
				t.Errorf("%s in rounds of %d s: %v", w.text, seconds, err)
			}
			if len(s.Rounds) != len(w.parts)+1 {
				t.Errorf("%s: %d rounds of %d parts", w.text, len(s.Rounds), len(w.parts))
			}
			for i, r := range s.Rounds {
				if r.Taken() != seconds || r.Seconds != seconds {
					t.Errorf("%s: round %d takes %d s of %d", w.text, i+1, r.Taken(), seconds)
				}
				for _, b := range r.Blocks {
					if _, err := b.Plan(rig.Hanging); err != nil || b.Seconds < LeastBlock {
						t.Errorf("%s, %s for %d s: %v", w.text, b.Text, b.Seconds, err)
					}
				}
			}
			learns(t, s, w.parts)
		}
	}
}

// learns looks at the order of a build-up's blocks.
func learns(t *testing.T, s Session, parts []string) {
	t.Helper()
	for i, part := range parts {
		r := s.Rounds[i]
		if r.Blocks[0].Role != Opener || r.Blocks[0].Pace != drill.Flow {
			t.Errorf("round %d opens with %+v", i+1, r.Blocks[0])
		}
		at := slices.IndexFunc(r.Blocks, func(b Block) bool { return b.Role == New })
		if at < 1 || at != len(r.Blocks)-2 || r.Blocks[at].Text != part {
			t.Errorf("round %d: the new part %s is not in the middle", i+1, part)
		}
		if i > 0 && (r.Blocks[1].Role != Known || r.Blocks[1].Text != strings.Join(parts[:i], " | ")) {
			t.Errorf("round %d: before what is new comes %+v", i+1, r.Blocks[1])
		}
		if last := r.Blocks[len(r.Blocks)-1].Role; last != Free && last != Fast {
			t.Errorf("round %d closes %s", i+1, last)
		}
	}
	last := s.Rounds[len(parts)].Blocks
	if last[0].Role != Fast || last[len(last)-1].Text != strings.Join(parts, " | ") || len(last) != len(parts)+2 {
		t.Errorf("the last round: %+v", last)
	}
}

// The last round as the trade has it: of three parts 30 s each after 30 s of speed, then the whole for 60 s; of four
// parts they give, and the whole keeps its minute.
func TestLastRound(t *testing.T) {
	for text, want := range map[string][]int{
		"1-2 | duck - 2-3 | slip lead - 3-2":                         {30, 30, 30, 30, 60},
		"1-2-3 | slip rear - 2-3":                                    {30, 30, 30, 90},
		"1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!": {24, 24, 24, 24, 24, 60},
	} {
		s, err := BuildUp(text, rig.Hanging, ContestRound)
		if err != nil {
			t.Fatal(err)
		}
		var got []int
		for _, b := range s.Rounds[len(s.Rounds)-1].Blocks {
			got = append(got, b.Seconds)
		}
		if !slices.Equal(got, want) {
			t.Errorf("%s: %v s, want %v", text, got, want)
		}
	}
}

func TestBuildUpRefuses(t *testing.T) {
	for text, want := range map[string]string{
		"1-2-3": "six moves", "": "", "1-2 | xyz": "", "1-2|2-3|3-2|2-3|1-2|1-1|2-2|3-3|1-2|2-3|3-2|1-2": "parts",
	} {
		if _, err := BuildUp(text, rig.Hanging, ContestRound); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v", text, err)
		}
	}
}

// Rounds that are too short for two parts and the whole are refused by their length, with no number below nothing.
func TestBuildUpShort(t *testing.T) {
	for seconds := range 3*LeastBlock + wholeEach {
		var refused *input.Error
		if _, err := BuildUp("1-2 | slip rear - 2-3", rig.Hanging, seconds); !errors.As(err, &refused) ||
			refused.Field != "seconds" || strings.Contains(refused.Reason, "-") {
			t.Fatalf("%d s: %v", seconds, err)
		}
	}
	if _, err := BuildUp("1-2 | slip rear - 2-3", rig.Hanging, 3*LeastBlock+wholeEach); err != nil {
		t.Error(err)
	}
}

func ExampleBuildUp() {
	s, _ := BuildUp("1-2 | slip rear - 2-3 | duck - 3-2", rig.DoubleEnd, ContestRound)
	for _, b := range s.Rounds[2].Blocks {
		fmt.Println(b.Role, b.Seconds, b.Text)
	}
	// Output:
	// opener 30 2-3
	// known 45 1-2 | slip rear - 2-3
	// new 75 duck - 3-2
	// free 30 duck - 3-2
}

// Blocks stretch to the second, and the one that is held keeps its length.
func TestFitted(t *testing.T) {
	round := func(seconds int, blocks ...int) Round {
		r := Round{Kind: Work, Seconds: seconds}
		for _, b := range blocks {
			r.Blocks = append(r.Blocks, Block{Role: Known, Seconds: b, Text: "1-2"})
		}
		return r
	}
	for _, x := range []struct {
		r    Round
		held int
		want []int // nil where it does not fit
	}{
		{round(180, 30, 60, 90), -1, []int{30, 60, 90}},
		{round(180, 30, 30, 30), -1, []int{60, 60, 60}},
		{round(100, 30, 30, 30), -1, []int{34, 33, 33}},
		{round(180, 100, 30, 30), 0, []int{100, 40, 40}},
		{round(180, 150, 100, 12), 0, []int{150, 20, 10}},
		{round(180, 175, 30, 30), 0, nil},
		{round(30, 90, 30, 30, 30), -1, nil},
		{round(7, 3600), -1, nil},
	} {
		got, ok := x.r.Fitted(x.held)
		if ok != (x.want != nil) {
			t.Errorf("%+v: %v", x.r, ok)
			continue
		}
		for i, want := range x.want {
			if got.Blocks[i].Seconds != want {
				t.Errorf("%d s: block %d lasts %d s, want %v", x.r.Seconds, i, got.Blocks[i].Seconds, x.want)
			}
		}
	}
}

// The block that was changed stays, the others of its round give way; counted ones take what their reps take.
func TestSettled(t *testing.T) {
	s := built(t)
	s.Rounds[1].Blocks[0].Seconds = 60
	got := s.Settled(1, 0)
	if got.Rounds[1].Taken() != 180 || got.Rounds[1].Blocks[0].Seconds != 60 || s.Rounds[1].Taken() == 180 {
		t.Errorf("%+v", got.Rounds[1])
	}
	if left := s.Settled(-1, -1); left.Rounds[1].Taken() != s.Rounds[1].Taken() {
		t.Errorf("nothing was changed: %+v", left.Rounds[1])
	}
	tens := Session{Rounds: []Round{{Kind: Work, Seconds: 60, Blocks: []Block{{Role: Counted, Times: 10, Text: "1-2",
		Pace: drill.Combining, Seconds: 1}}}}}
	if b := tens.Settled(-1, -1).Rounds[0].Blocks[0]; b.Seconds < 20 || b.Seconds > 60 {
		t.Errorf("ten one-twos take %d s", b.Seconds)
	}
}

// Whatever is asked, a round that fits adds up to the second and has no block under the least.
func FuzzFitted(f *testing.F) {
	f.Add(180, 30, 60, 90, 20, 1)
	f.Fuzz(func(t *testing.T, seconds, a, b, c, d, held int) {
		r := Round{Kind: Work, Seconds: 1 + abs(seconds)%3600}
		for _, v := range []int{a, b, c, d} {
			r.Blocks = append(r.Blocks, Block{Role: Known, Seconds: 1 + abs(v)%3600, Text: "1"})
		}
		got, ok := r.Fitted(held)
		if !ok {
			return
		}
		if got.Taken() != r.Seconds {
			t.Errorf("%+v takes %d s", got, got.Taken())
		}
		for i, b := range got.Blocks {
			if b.Seconds < LeastBlock && b.Seconds != r.Blocks[i].Seconds {
				t.Errorf("block %d of %+v", i, got)
			}
		}
	})
}

func abs(v int) int { return max(v, -(v + 1)) }
