package hour

import (
	"math"
	"slices"
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
