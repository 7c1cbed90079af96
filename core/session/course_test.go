package session

import (
	"math/rand/v2"
	"slices"
	"testing"

	"melodromos/core/drill"
	"melodromos/core/rig"
)

// did is a deed so many seconds into a session.
func did(what Deed, seconds float64) Done { return Done{Deed: what, At: at(seconds)} }

func at(seconds float64) drill.Micros { return drill.Micros(seconds * 1e6) }

func built(t testing.TB) Session {
	s, err := BuildUp("1-2-3 | slip rear - 2-3 | duck - 3-2", rig.Hanging, ContestRound)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// shape is a course in short: round.block and seconds of each stretch.
type piece struct{ round, block, seconds int }

func shape(c Course) []piece {
	var list []piece
	for _, s := range c.Stretches {
		list = append(list, piece{s.Round, s.Block, int(s.length() / second)})
	}
	return list
}

func TestBegin(t *testing.T) {
	s := built(t)
	c := Begin(s, 10)
	if c.Until() != at(float64(10+s.Seconds())) {
		t.Errorf("it ends at %v s, want %d", c.Until().Seconds(), 10+s.Seconds())
	}
	if c.Stretches[0].Round != -1 || c.Stretches[1].From != at(10) || c.Stretches[1].Round != 0 {
		t.Errorf("%+v", c.Stretches[:2])
	}
}

// A block that is skipped is done in the next round, whose bell stays where it is (common practice: it is carried to
// the next round).
func TestSkipCarries(t *testing.T) {
	s := built(t)
	// round 1: 30 s opener, 120 s of what is new from second 30, closed by 30 s
	c := Replay(s, 0, []Done{did(Skip, 50)})
	got := shape(c)
	want := []piece{{0, 0, 30}, {0, 1, 20}, {0, 2, 30}, {0, -1, 60}}
	if !slices.Equal(got[:4], want) {
		t.Fatalf("%v, want %v", got[:4], want)
	}
	second := got[4:9]
	sum, carried := 0, 0
	for _, p := range second {
		sum += p.seconds
		if p.round == 0 && p.block == 1 {
			carried = p.seconds
		}
	}
	if sum != 180 || carried != 120 || second[1] != (piece{0, 1, 120}) {
		t.Errorf("the next round: %v", second)
	}
	if !c.Stretches[5].Carried || c.Stretches[1].State != Skipped {
		t.Errorf("%+v", c.Stretches[5])
	}
}

// Where nobody is left to carry it to, it gets a round of its own.
func TestSkipLast(t *testing.T) {
	s := built(t)
	whole := float64(s.Seconds())
	c := Replay(s, 0, []Done{did(Skip, whole-30)})
	got := shape(c)
	if n := len(got); got[n-1] != (piece{3, 4, 60}) || got[n-2].block != -1 || got[n-3].seconds != 30 {
		t.Errorf("%v", got[len(got)-4:])
	}
}

// Whoever goes on skipping comes to the end, and is told what was let go; who goes back to it does it after all.
func TestSkipToTheEnd(t *testing.T) {
	s := built(t)
	onBag := 0
	for _, r := range s.Rounds {
		for _, b := range r.Blocks {
			if b.OnBag() {
				onBag++
			}
		}
	}
	var deeds []Done
	for i := range 40 * onBag {
		deeds = append(deeds, did(Skip, 1+float64(i)/10))
	}
	c := Replay(s, 10, deeds)
	if c.Until() > deeds[len(deeds)-1].At || len(c.Left) != onBag {
		t.Errorf("after %d skips it goes on to %v s; %d blocks of %d are let go", len(deeds), c.Until().Seconds(),
			len(c.Left), onBag)
	}

	whole := float64(s.Seconds())
	own := Replay(s, 0, []Done{did(Skip, whole-30)}).Stretches
	into := own[len(own)-1].From.Seconds() + 10
	let := []Done{did(Skip, whole-30), did(Skip, into)}
	if c := Replay(s, 0, let); len(c.Left) != 1 || c.Until() != at(into) {
		t.Errorf("let go at %v s: %v, until %v", into, c.Left, c.Until())
	}
	back := []Done{did(Skip, whole-30), did(Back, into), did(Skip, into+10), did(Wild, into+10)}
	if c := Replay(s, 0, back); len(c.Left) != 1 || c.Until() != at(into+10) { // over: nothing stands for it
		t.Errorf("let go after going back: %v, until %v s", c.Left, c.Until().Seconds())
	}
}

func TestRestsAndRepeats(t *testing.T) {
	s := built(t)
	for name, x := range map[string]struct {
		deeds []Done
		want  []piece // from the first
	}{
		"longer rest, ahead": {[]Done{did(Longer, 5)}, []piece{{0, 0, 30}, {0, 1, 120}, {0, 2, 30}, {0, -1, 90}}},
		"longer rest, in it": {[]Done{did(Longer, 200)}, []piece{{0, 0, 30}, {0, 1, 120}, {0, 2, 30}, {0, -1, 90}}},
		"rest cut short": {[]Done{did(Skip, 200)},
			[]piece{{0, 0, 30}, {0, 1, 120}, {0, 2, 30}, {0, -1, 20}, {1, 0, 30}}},
		"again": {[]Done{did(Repeat, 40)}, []piece{{0, 0, 30}, {0, 1, 10}, {0, 1, 120}, {0, 2, 30}}},
		"again, in the rest": {[]Done{did(Repeat, 190)}, []piece{{0, 0, 30}, {0, 1, 120}, {0, 2, 30}, {0, -1, 10},
			{0, 2, 30}, {0, -1, 60}, {1, 0, 30}}},
		"back, to its beginning":  {[]Done{did(Back, 40)}, []piece{{0, 0, 30}, {0, 1, 10}, {0, 1, 120}}},
		"back, to the one before": {[]Done{did(Back, 32)}, []piece{{0, 0, 30}, {0, 1, 2}, {0, 0, 30}, {0, 1, 120}}},
		"nothing to make longer": {[]Done{{Deed: Longer, At: at(float64(s.Seconds()) - 5)}},
			[]piece{{0, 0, 30}, {0, 1, 120}}},
	} {
		got := shape(Replay(s, 0, x.deeds))
		if len(got) < len(x.want) || !slices.Equal(got[:len(x.want)], x.want) {
			t.Errorf("%s: %v", name, got[:min(len(got), len(x.want)+1)])
		}
	}
}

func TestSlowerFaster(t *testing.T) {
	s := built(t)
	c := Replay(s, 0, []Done{did(Faster, 60), did(Faster, 61), did(Slower, 200)})
	var paces []float64
	for _, x := range c.Stretches[:5] {
		paces = append(paces, x.Pace)
	}
	if !slices.Equal(paces, []float64{1, 1, 1.05, 1.1, 1.1}) || c.Until() != at(float64(s.Seconds())) {
		t.Errorf("%v until %v", paces, c.Until().Seconds())
	}
	var all []Done
	for i := range 20 {
		all = append(all, did(Slower, 40+6*float64(i)))
	}
	if got := Replay(s, 0, all); got.Stretches[len(got.Stretches)-1].Pace != paceLeast {
		t.Errorf("it goes down to %g", got.Stretches[len(got.Stretches)-1].Pace)
	}
}

func TestTries(t *testing.T) {
	c := Replay(built(t), 0, []Done{did(Got, 40), did(Got, 50), did(Failed, 60), did(Got, 190)})
	if a, b := c.Stretches[1], c.Stretches[2]; a.Got != 2 || a.Failed != 1 || b.Got != 1 {
		t.Errorf("%+v %+v", a, b)
	}
}

// Whatever is done in whatever order, no block is lost: each was done to its end, or is still to come, or stands among
// what was left when it was ended. Time never goes back, and the same deeds give the same course.
func TestNothingIsLost(t *testing.T) {
	hour := Class(30, ContestRound, "")
	for seed := range uint64(400) {
		s := built(t)
		if seed%2 == 1 {
			s = hour
		}
		rng := rand.New(rand.NewPCG(seed, 1))
		var deeds []Done
		now := drill.Micros(0)
		for range 1 + rng.IntN(25) {
			now += at(rng.Float64() * 90)
			list := Deed("").Values()
			deeds = append(deeds, Done{Deed: list[rng.IntN(len(list)-1)], At: now}) // all but ending it
		}
		if seed%3 == 0 {
			deeds = append(deeds, Done{Deed: End, At: now + at(20)})
		}
		c := Replay(s, 10, deeds)
		again := Begin(s, 10)
		for _, d := range deeds { // one by one
			again.Do(d)
		}
		if !slices.Equal(again.Stretches, c.Stretches) || !slices.Equal(again.Left, c.Left) {
			t.Fatalf("seed %d: the same deeds give another course", seed)
		}
		inOrder(t, seed, c)
		for i, r := range s.Rounds {
			for j, b := range r.Blocks {
				of := func(x Stretch) bool { return x.Round == i && x.Block == j }
				kept := slices.ContainsFunc(c.Stretches, func(x Stretch) bool { return of(x) && x.State == Planned }) ||
					slices.ContainsFunc(c.Left, of)
				if b.OnBag() && !kept {
					t.Fatalf("seed %d: block %d of round %d is lost by %v", seed, j, i, deeds)
				}
			}
		}
	}
}

func inOrder(t *testing.T, seed uint64, c Course) {
	t.Helper()
	ids := map[int]bool{}
	for i, s := range c.Stretches {
		if ids[s.ID] {
			t.Fatalf("seed %d: two stretches are called %d", seed, s.ID)
		}
		ids[s.ID] = true
		if s.Until < s.From || i > 0 && s.From != c.Stretches[i-1].Until {
			t.Fatalf("seed %d: stretch %d goes from %v to %v", seed, i, s.From, s.Until)
		}
	}
}
