package drill

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

func compiled(t testing.TB, c CombinationDrill, on rig.Rig, seed uint64) (Timeline, Repetition) {
	t.Helper()
	line, rep, err := CompileCombination(c, Floor{Bag: on, Ability: able, Seed: seed})
	if err != nil {
		t.Fatalf("%q on %s: %v", c.Text, on.Kind(), err)
	}
	return line, rep
}

// Each round adds up exactly; repetitions stand a pause apart, and every strike stands where its repetition has it.
func TestCompileCombination(t *testing.T) {
	for _, on := range every {
		c := thrown("1-2 | slip lead - 3-2!")
		line, rep := compiled(t, c, on, 1)
		if line.End-line.Start != 60_000_000 {
			t.Errorf("%s: %d µs from bell to bell", on.Kind(), line.End-line.Start)
		}
		n := int(math.Floor((60 + 2) / (rep.Length + 2)))
		strikes := of(line, Strike)
		if len(strikes) != 4*n || len(of(line, Doing)) != n {
			t.Fatalf("%s: %d strikes and %d defences in %d repetitions", on.Kind(), len(strikes), len(of(line, Doing)),
				n)
		}
		var planned []Landed
		for _, m := range rep.Moves {
			if m.Kind() == combo.Strike {
				planned = append(planned, m)
			}
		}
		for i, s := range strikes {
			want := line.Start.Seconds() + float64(i/4)*(rep.Length+2) + planned[i%4].At
			if math.Abs(s.At.Seconds()-want) > 2e-6 || s.N != i || s.Position != i%4 || s.Rep != i/4 ||
				s.Hand != planned[i%4].Hand() {
				t.Fatalf("%s, strike %d: %+v, want at %g", on.Kind(), i, s, want)
			}
		}
		if last := strikes[len(strikes)-1]; last.At >= line.End {
			t.Errorf("%s: the last strike comes after the bell", on.Kind())
		}
		if passes := of(line, Pass); (on.Kind() == rig.Slip) != (len(passes) > 0) ||
			(on.Kind() == rig.Slip) != (len(of(line, LetGo)) == n) {
			t.Errorf("%s: %d passes", on.Kind(), len(passes))
		}
		if boards := of(line, Rebound); (on.Kind() == rig.Speed) != (len(boards) > 0) {
			t.Errorf("%s: %d board sounds", on.Kind(), len(boards))
		}
	}
}

// The same drill, bag, person and seed give the same bytes; the document comes back to the letter.
func TestCombinationDeterminism(t *testing.T) {
	c := thrown("1-2 | duck - 2-3")
	c.Cues = &Cues{Moves: []string{"roll lead", "slip rear"}, Least: 2, Mean: 5, Counters: []string{"2", "3-2"}}
	a, _ := compiled(t, c, gentle, 7)
	b, _ := compiled(t, c, gentle, 7)
	x, _ := json.Marshal(a)
	y, _ := json.Marshal(b)
	other, _ := compiled(t, c, gentle, 8)
	z, _ := json.Marshal(other)
	if string(x) != string(y) || string(x) == string(z) {
		t.Error("the seed decides, and nothing else")
	}
	doc, err := json.Marshal(c)
	if err != nil {
		t.Fatal(err)
	}
	again, err := ReadCombination(input.Parse(doc))
	if second, _ := json.Marshal(again); err != nil || string(second) != string(doc) {
		t.Errorf("%s came back as %s, %v", doc, second, err)
	}
}

// Called at first, partly, then alone, and called again at the end (common practice).
func TestGuidance(t *testing.T) {
	called := func(g Guidance) (s string) {
		for k := range 12 {
			s += map[bool]string{true: "c", false: "."}[g.called(k, 12)]
		}
		return s
	}
	for g, want := range map[Guidance]string{Called: "cccccccccccc", Partly: "c.c.c.c.c.c.", Alone: "............",
		Fading: "ccc.c....ccc"} {
		if got := called(g); got != want {
			t.Errorf("%s: %s, want %s", g, got, want)
		}
	}
	c := thrown("1-2")
	line, _ := compiled(t, c, gentle, 1)
	if calls := of(line, Call); len(calls) == 0 || calls[0].Text != "one, two" {
		t.Errorf("%+v", calls)
	}
}

// Over ten thousand seeds: no cue within the least gap of another or while its answer is under way, never the same move
// twice running, never in step, and on the mean as far apart as asked.
func TestCueSpacing(t *testing.T) {
	c := Cues{Moves: []string{"roll lead", "roll rear", "duck"}, Least: 2, Mean: 6, Counters: []string{"2", "3-2"}}
	if err := c.Check(); err != nil {
		t.Fatal(err)
	}
	gaps, sum, squares := 0, 0.0, 0.0
	for seed := range uint64(10_000) {
		cues := c.Draw(seed, 0, 60, Thrown{})
		for i, cue := range cues {
			if cue.At <= 0 || cue.At >= 60 || cue.Lead <= trainee.SoundReaction || cue.Counter == "" {
				t.Fatalf("seed %d: %+v", seed, cue)
			}
			if i == 0 {
				continue
			}
			gap := cue.At - cues[i-1].At
			if gap < 2 || gap < trainee.TimesOf(cues[i-1].Move).Whole || cue.Move == cues[i-1].Move {
				t.Fatalf("seed %d: %+v after %+v", seed, cue, cues[i-1])
			}
			gaps, sum, squares = gaps+1, sum+gap, squares+gap*gap
		}
	}
	mean := sum / float64(gaps)
	spread := math.Sqrt(squares/float64(gaps) - mean*mean)
	// A minute cuts the longest gaps short, so the mean lies somewhat below.
	if mean < 4.8 || mean > 6.2 || spread < 2 {
		t.Errorf("mean gap %g s, spread %g s", mean, spread)
	}
}

// However little the least gap, an answer with its counters is done before the next cue; the coach's own words call it.
func TestCuesLeaveTime(t *testing.T) {
	for _, c := range []Cues{
		{Moves: []string{"slip lead", "slip rear"}, Least: 0.5, Mean: 1, Counters: []string{"2-3-2"}},
		{Moves: []string{"slip lead", "slip rear"}, Least: 0.5, Mean: 1, Free: 3},
		{Attacks: []Attack{{"jab", "slip rear - 2-3-2"}, {"cross", "duck - 3-2"}}, Least: 0.5, Mean: 1},
	} {
		if err := c.Check(); err != nil {
			t.Fatal(err)
		}
		cues := c.Draw(7, 0, 300, Thrown{})
		for i := 1; i < len(cues); i++ {
			// A slip or a duck and two or three strikes at 0.3 s each, after a sound's reaction.
			if gap := cues[i].At - cues[i-1].At; gap < 0.16+0.35+0.6 {
				t.Fatalf("%+v: %g s after the one before", c, gap)
			}
		}
		if len(cues) < 50 {
			t.Errorf("%d cues in five minutes", len(cues))
		}
	}
	c := thrown("1-2")
	c.Inside, c.Cues = true, &Cues{Moves: []string{"slip lead", "slip rear"}, Least: 3, Mean: 6}
	line, _ := compiled(t, c, gentle, 5)
	for _, e := range of(line, Cued) {
		if e.Text != "slip inside" && e.Text != "slip outside" {
			t.Errorf("called %q", e.Text)
		}
	}
}

// The bag is drawn under the blows where they fall: each drives it off, on returns and freely alike.
func TestFilmUnderBlows(t *testing.T) {
	freely := thrown("1-2-1 - step back - 2")
	freely.Landing, freely.Tempo = Freely, 150
	for name, c := range map[string]struct {
		CombinationDrill
		on rig.Rig
	}{"freely": {freely, heavy}, "on returns": {thrown("1-2-1"), gentle}} {
		line, rep := compiled(t, c.CombinationDrill, c.on, 1)
		for _, m := range rep.Moves {
			if m.Kind() != combo.Strike || m.Move == 0 { // the first meets a bag at rest
				continue
			}
			const h = 0.02
			before := (swingAt(line.Film.Trace, m.Back-0.001) - swingAt(line.Film.Trace, m.Back-h)) / (h - 0.001)
			after := (swingAt(line.Film.Trace, m.Back+h) - swingAt(line.Film.Trace, m.Back+0.001)) / (h - 0.001)
			if !(after > before+0.05) {
				t.Errorf("%s: the %s at %.3f s drives nothing off: %.3f, then %.3f", name, m.Placed.Move, m.Back,
					before, after)
			}
		}
	}
}

// The answer to a cue takes the place of what was planned; the counter is planned after the move.
func TestCuesInARound(t *testing.T) {
	c := thrown("1-2")
	c.Pause = 0.5
	c.Cues = &Cues{Moves: []string{"roll lead", "slip rear"}, Least: 3, Mean: 6, Counters: []string{"3-2"}}
	line, _ := compiled(t, c, gentle, 3)
	cues, counters := of(line, Cued), 0
	if len(cues) < 3 {
		t.Fatalf("%d cues in a minute", len(cues))
	}
	for _, s := range of(line, Strike) {
		for _, cue := range cues {
			if s.Move >= 0 && s.At > cue.At && (s.At-cue.At).Seconds() < 0.5 {
				t.Errorf("strike at %d µs while the cue of %d µs is answered", s.At, cue.At)
			}
		}
		if s.Move == -1 {
			counters++
		}
	}
	if counters < 2*(len(cues)-1) {
		t.Errorf("%d counters to %d cues", counters, len(cues))
	}
}

// An imagined attack is named, and its set answer is planned: the defence and the strikes after it.
func TestAttacks(t *testing.T) {
	c := thrown("1-2")
	c.Cues = &Cues{Attacks: []Attack{{"jab", "slip rear - 2"}, {"lead hook", "duck - 3-2"}}, Least: 3, Mean: 6}
	line, _ := compiled(t, c, gentle, 5)
	heard := map[string]int{}
	for _, e := range of(line, Cued) {
		heard[e.Text]++
	}
	answered := 0
	for _, s := range of(line, Strike) {
		if s.Move == -1 {
			answered++
		}
	}
	if len(heard) != 2 || heard["jab"] == 0 || answered < heard["jab"]+2*heard["lead hook"]-2 {
		t.Errorf("%v, %d strikes in answer", heard, answered)
	}
	for _, answer := range []string{"2 - slip rear", "slip rear - 2-3-2-3", "slip rear - duck", "nothing"} {
		bad := Cues{Attacks: []Attack{{"jab", answer}}, Least: 2, Mean: 5}
		var refused *input.Error
		if err := bad.Check(); !errors.As(err, &refused) || refused.Field != "attacks[0].answer" {
			t.Errorf("%q: %v", answer, err)
		}
	}
}

func TestCombinationRefusals(t *testing.T) {
	with := func(change func(*CombinationDrill)) CombinationDrill { c := thrown("1-2"); change(&c); return c }
	for field, c := range map[string]CombinationDrill{
		"text":        with(func(c *CombinationDrill) { c.Text = "1-sipl" }),
		"work":        with(func(c *CombinationDrill) { c.Work = 0 }),
		"repetitions": with(func(c *CombinationDrill) { c.Repetitions = 5 }),
		"slower":      with(func(c *CombinationDrill) { c.Tempo, c.Slower = 100, 120 }),
		"fist":        with(func(c *CombinationDrill) { c.Fist = 99 }),
		"pause":       with(func(c *CombinationDrill) { c.Pause = math.NaN() }),
		"cues.moves":  with(func(c *CombinationDrill) { c.Cues = &Cues{Moves: []string{"1"}, Least: 2, Mean: 4} }),
		"cues.mean":   with(func(c *CombinationDrill) { c.Cues = &Cues{Moves: []string{"duck"}, Least: 4, Mean: 4} }),
		"cues.counters": with(func(c *CombinationDrill) {
			c.Cues = &Cues{Moves: []string{"duck"}, Least: 2, Mean: 4, Counters: []string{"1-2-3-2"}}
		}),
	} {
		var refused *input.Error
		if _, _, err := CompileCombination(c, Floor{Bag: gentle, Ability: able, Seed: 1}); !errors.As(err, &refused) ||
			refused.Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
	if _, _, err := CompileCombination(with(func(c *CombinationDrill) { c.Text, c.Work = "(1-2 - duck - 3-2)x12", 10 }),
		Floor{Bag: gentle, Ability: able, Seed: 1}); err == nil {
		t.Error("a repetition longer than the round passed")
	}
}

// Whatever the document, there is a timeline or a refusal by field.
func FuzzCombination(f *testing.F) {
	doc, _ := json.Marshal(thrown("1-2 | slip lead - 3-2!"))
	f.Add(doc, 0)
	f.Add([]byte(`{"text":"duck","work":10,"pause":0,"landing":"free"}`), 3)
	f.Fuzz(func(t *testing.T, doc []byte, which int) {
		c, err := ReadCombination(input.Parse(doc))
		var refused *input.Error
		if err != nil {
			if !errors.As(err, &refused) {
				t.Errorf("%s: %v names no field", doc, err)
			}
			return
		}
		line, _, err := CompileCombination(c, Floor{Bag: every[uint(which)%uint(len(every))], Ability: able, Seed: 1})
		if err != nil {
			if !errors.As(err, &refused) {
				t.Errorf("%s: %v names no field", doc, err)
			}
			return
		}
		for i, e := range line.Events {
			if i > 0 && e.At < line.Events[i-1].At || e.Window < 0 {
				t.Fatalf("%s: event %d %+v", doc, i, e)
			}
		}
	})
}

func BenchmarkCompileCombination3Minutes(b *testing.B) {
	for _, on := range every {
		c := thrown("1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!")
		if on.Kind() == rig.Slip { // three punches do not fit between its passes
			c = thrown("1-1-2 | duck - 2-3! | slip lead - 3-2 | slip rear - 2-3!")
		}
		c.Work = 180
		b.Run(string(on.Kind()), func(b *testing.B) {
			for b.Loop() {
				if _, _, err := CompileCombination(c, Floor{Bag: on, Ability: able, Seed: 1}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

func ExampleLand() {
	cord := rig.Cord{Span: 0.75, Relaxed: 0.66, Stiffness: 90}
	bag := rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04}
	c := CombinationDrill{Text: "1-2", Stance: combo.Orthodox, Landing: OnReturns, Pace: Combining, Fist: 3, Work: 60}
	r, err := Land(c, Floor{Bag: bag, Ability: trainee.Start(trainee.Intermediate)})
	if err != nil {
		panic(err)
	}
	fmt.Printf("the 2 meets return %d after %.3f s, within %.0f ms\n", r.Moves[1].Return, r.Moves[1].At,
		1000*r.Moves[1].Window)
	// Output: the 2 meets return 1 after 0.358 s, within 61 ms
}
