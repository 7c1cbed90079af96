package class

import (
	"math"
	"slices"
	"strings"
	"testing"

	"melodromos/core/drill"
	"melodromos/core/session"
)

// What stands on the floor in a round is as long as the round, for whoever is on the bag, and can be laid out there.
func TestPlaces(t *testing.T) {
	c := hall(8, 5)
	p, err := New(c, Ask{People: everybody(c), Minutes: 60})
	if err != nil {
		t.Fatal(err)
	}
	course := session.Begin(p.Session, 10)
	seen := 0
	for _, s := range course.Stretches {
		if s.Rest() {
			continue
		}
		places := p.Places(s, p.Session.Rounds[s.Round].Blocks[s.Block])
		for _, place := range places {
			on := c.Floor(c.Member(place.Person), c.Bag(place.Bag))
			line, err := place.Plan.Lay(on)
			if err != nil {
				t.Errorf("%s on %s: %v", place.Person, place.Bag, err)
				continue
			}
			if got := (line.End - line.Start).Seconds(); math.Abs(got-180) > 0.001 {
				t.Errorf("%s on %s: %.1f s in a round of 180", place.Person, place.Bag, got)
			}
			seen++
		}
	}
	if seen != 5*len(p.Turns) {
		t.Errorf("%d places in %d rounds on five bags", seen, len(p.Turns))
	}
}

// Slower and faster go as far as the bag allows, and the tempo follows where a person sets it.
func TestPaced(t *testing.T) {
	c := hall(3, 5)
	for _, b := range c.Bags {
		m := &c.Members[1]
		on := c.Floor(m, &b)
		next, err := c.OnBag(m, &b)
		if err != nil || next.Barred != "" {
			t.Fatalf("%s: %v %s", b.ID, err, next.Barred)
		}
		for _, pace := range []float64{0.8, 0.95, 1, 1.05, 1.3} {
			p, ok := Paced(next.Plan(), pace, on)
			line, err := p.Lay(on)
			if err != nil {
				t.Errorf("%s at %.2f: %v", b.ID, pace, err)
			}
			d, technique := p.(drill.SpeedBagDrill)
			if !technique || !ok || pace == 1 {
				continue
			}
			was, _ := next.Plan().For(on)
			if want := pace * was.(drill.SpeedBagDrill).Tempo; math.Abs(d.Tempo-want) > 0.06 || line.End == 0 {
				t.Errorf("%s at %.2f: %.1f a minute, want %.1f", b.ID, pace, d.Tempo, want)
			}
		}
	}
}

// The log has everybody once for each round that they were in, as long as it lasted.
func TestLog(t *testing.T) {
	c := hall(4, 2)
	p, err := New(c, Ask{People: everybody(c), Minutes: 30})
	if err != nil {
		t.Fatal(err)
	}
	course := session.Begin(p.Session, 0)
	first := course.Stretches[slices.IndexFunc(course.Stretches, func(s session.Stretch) bool {
		return s.Round == p.Turns[0].Round
	})]
	if list := p.Log(course, first.Until-1); len(list) != 0 {
		t.Errorf("before the first round is over: %+v", list)
	}
	list := p.Log(course, first.Until)
	if len(list) != 4 {
		t.Fatalf("%d entries for four people", len(list))
	}
	for _, e := range list {
		if e.Seconds != 180 || e.Title == "" || (e.Bag == "") == (e.Activity == "") {
			t.Errorf("%+v", e)
		}
	}
	if all := p.Log(course, course.Until()); len(all) != 4*len(p.Turns) {
		t.Errorf("%d entries in %d rounds", len(all), len(p.Turns))
	}
	// ended in the middle: what was under way counts as far as it came
	ended := session.Replay(p.Session, 0, []session.Done{{Deed: session.End, At: first.From + 60e6}})
	if list := p.Log(ended, ended.Until()); len(list) != 4 || list[0].Seconds != 60 {
		t.Errorf("%+v", list)
	}
	again := session.Replay(p.Session, 0, []session.Done{{Deed: session.Repeat, At: first.From + 60e6}})
	if list := p.Log(again, again.Until()); list[0].Seconds != 240 {
		t.Errorf("done again it lasts %d s", list[0].Seconds)
	}
	if from := Coming(course, first.From+1); from != p.Turns[0].Round+1 {
		t.Errorf("what comes after the first round begins with %d", from)
	}
}

// Somebody leaves and a bag breaks in the middle of a round: from then on nobody is shown who has left, nobody is sent
// to the bag, and of what was done the log has as much as was done.
func TestLeavesInMidRound(t *testing.T) {
	c := hall(6, 3)
	p, err := New(c, Ask{People: everybody(c), Minutes: 60})
	if err != nil {
		t.Fatal(err)
	}
	course := session.Begin(p.Session, 10)
	turn := p.Turns[2]
	i := slices.IndexFunc(course.Stretches,
		func(s session.Stretch) bool { return s.Round == turn.Round && !s.Rest() })
	s := course.Stretches[i]
	at := s.From + 40e6
	from := Coming(course, at)
	onBags := slices.DeleteFunc(slices.Clone(turn.Seats), func(s Seat) bool { return s.Bag == "" })
	gone, broken := onBags[0].Person, onBags[1].Bag
	here := slices.DeleteFunc(everybody(c), func(id string) bool { return id == gone })
	var bags []string
	for _, b := range c.Bags {
		if b.ID != broken {
			bags = append(bags, b.ID)
		}
	}
	anew, err := p.Anew(c, from, at, here, bags)
	if err != nil {
		t.Fatal(err)
	}
	for _, turn := range anew.Shown(course, at).Turns {
		for _, seat := range turn.Seats {
			if turn.Round >= s.Round && (seat.Person == gone || seat.Bag == broken) {
				t.Errorf("round %d shows %+v", turn.Round, seat)
			}
		}
	}
	if len(anew.Shown(course, at).Turns) != len(p.Turns) || anew.Shown(course, at).Turns[0].Seat(gone) == nil {
		t.Error("what was done is not shown any more")
	}
	for _, x := range anew.Places(s, p.Session.Rounds[s.Round].Blocks[s.Block]) {
		if x.Person == gone || x.Bag == broken {
			t.Errorf("on the floor: %+v", x)
		}
	}
	done := map[string]int{}
	for _, e := range anew.Log(course, course.Until()) {
		if e.Round == s.Round && e.Bag != "" {
			done[e.Person] = e.Seconds
		}
		if e.Round > s.Round && (e.Person == gone || e.Bag == broken) {
			t.Errorf("in the log after it: %+v", e)
		}
	}
	if done[gone] != 40 || done[onBags[1].Person] != 40 || done[onBags[2].Person] != 180 {
		t.Errorf("seconds in the log: %v", done)
	}
	said := anew.Changed(p, from)
	for _, want := range []string{"From now: Person", "has left", "nobody goes on the ",
		"From the next round (round 4)"} {
		if !strings.Contains(said, want) {
			t.Errorf("%q does not say %q", said, want)
		}
	}
	// In the last round nothing is left to be planned, and who leaves still leaves.
	last := p.Turns[len(p.Turns)-1].Round
	end, err := p.Anew(c, len(p.Session.Rounds), at, here, bags)
	if err != nil {
		t.Fatal(err)
	}
	if x := end.Person(gone); x == nil || !x.Gone || len(end.Turns) != len(p.Turns) ||
		end.Turns[len(end.Turns)-1].Round != last {
		t.Errorf("planned anew in the last round: %+v, %d turns", x, len(end.Turns))
	}
}

// Rounds on the bags have a seat for everybody whatever their kind, counted ones too, and the names that the floor
// says.
func TestEveryRoundOnTheBags(t *testing.T) {
	c := hall(3, 5)
	for _, x := range session.Templates() {
		for _, n := range []int{1, 3} {
			p, err := New(c, Ask{People: everybody(c)[:n], Session: &x.Session})
			if err != nil {
				t.Errorf("%s with %d: %v", x.Key, n, err)
				continue
			}
			if err := p.Check(); err != nil {
				t.Errorf("%s: %v", x.Key, err)
			}
			for i, r := range x.Session.Rounds {
				if r.OnBags() != (p.turnOf(i) != nil) {
					t.Errorf("%s, round %d: on the bags %v, with a turn %v", x.Key, i, r.OnBags(), p.turnOf(i) != nil)
				}
			}
			lines := p.Outline()
			for k, l := range lines {
				if l.Name == "" || l.Short == "" || k > 0 && l.Begins <= lines[k-1].Begins {
					t.Errorf("%s: %+v", x.Key, lines)
				}
			}
		}
	}
}
