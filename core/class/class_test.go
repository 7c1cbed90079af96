package class

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/roster"
	"melodromos/core/session"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

var now = time.Date(2026, 3, 20, 18, 0, 0, 0, time.UTC)

// bag is the nth one, of the kinds in turn: as a kind of bag begins, hung for somebody of 1.70 m.
func bag(n int) roster.Bag {
	kinds := []rig.Kind{rig.Speed, rig.DoubleEnd, rig.Reflex, rig.Slip, rig.Hanging}
	kind := kinds[n%len(kinds)]
	m := kind.Model()
	b := roster.Bag{ID: fmt.Sprintf("bag%d", n), Name: fmt.Sprintf("%s %d", m.Name, n), Rig: m.Everyday.Rig,
		Place: m.Place.Place}
	if kind == rig.Speed {
		s := m.Everyday.Rig.(rig.SpeedBag)
		s.BoardHeight = 1.95
		b.Rig = s
	}
	return b
}

// hall is a gym of so many people of 1.40 to 1.95 m and so many bags.
func hall(people, bags int, change ...func(*roster.Roster)) roster.Roster {
	c := roster.Roster{Gate: ladder.DefaultGate, Zone: time.UTC, Now: now}
	for i := range people {
		height := 1.40 + 0.55*float64((i*7)%people)/float64(max(1, people-1))
		age := trainee.Adult
		if height < 1.5 {
			age = trainee.Youth
		}
		c.Members = append(c.Members, roster.Member{ID: fmt.Sprintf("p%02d", i), Name: fmt.Sprintf("Person %02d", i),
			Stance: combo.Orthodox, Band: trainee.Bands[i%3], Age: age, Body: rig.Body{Height: height}})
	}
	for i := range bags {
		c.Bags = append(c.Bags, bag(i))
	}
	for _, f := range change {
		f(&c)
	}
	return c
}

func everybody(c roster.Roster) []string {
	var ids []string
	for _, m := range c.Members {
		ids = append(ids, m.ID)
	}
	return ids
}

// sound looks whether a plan can be carried out from a round on.
func sound(t *testing.T, c roster.Roster, p Class, from int) {
	t.Helper()
	for _, turn := range p.Turns {
		if turn.Round < from {
			continue
		}
		who, where := map[string]bool{}, map[string]bool{}
		for _, s := range turn.Seats {
			if who[s.Person] || s.Bag != "" && where[s.Bag] {
				t.Errorf("round %d: %s, or the %s, comes twice", turn.Round, s.Person, s.Bag)
			}
			who[s.Person], where[s.Bag] = true, true
			switch {
			case (s.Bag == "") == (s.Activity == ""):
				t.Errorf("round %d: %+v", turn.Round, s)
			case s.Bag != "" && p.Of(s.Person, s.Bag) == nil:
				t.Errorf("round %d: %s has no drill on %s", turn.Round, s.Person, s.Bag)
			case s.Activity.Spares(c.Member(s.Person).Cautions):
				t.Errorf("%s does %s", s.Person, s.Activity)
			}
		}
		for _, x := range p.People {
			if !x.Gone && !who[x.ID] {
				t.Errorf("round %d: nobody thought of %s", turn.Round, x.Name)
			}
		}
	}
	for _, m := range c.Members {
		row, most := 0, inARow
		if m.Age.Minor() {
			most = inARowYoung
		}
		for _, turn := range p.Turns {
			if s := turn.Seat(m.ID); s == nil || s.Bag == "" {
				row = 0
			} else if row++; row > most && turn.Round >= from {
				t.Errorf("%s is %d rounds on bags in a row", m.Name, row)
			}
		}
	}
	hangs(t, c, p)
}

// hangs looks whether each bag hangs right for whoever is on it, after the changes that are told: by the set-up of the
// bag itself.
func hangs(t *testing.T, c roster.Roster, p Class) {
	t.Helper()
	at := map[string]float64{}
	for _, turn := range p.Turns {
		for _, r := range p.Rehangs {
			if r.Round == turn.Round {
				at[r.Bag] = r.To
			}
		}
		for _, s := range turn.Seats {
			b := c.Bag(s.Bag)
			if s.Bag == "" || b.Kind() == rig.Hanging {
				continue
			}
			up := b.Rig.SetUp(b.Place, c.Member(s.Person).Body, 2)
			hung, known := at[s.Bag]
			if !known {
				hung = up.Now
			}
			if up.Needs == "" && (hung < up.Low-1e-9 || hung > up.High+1e-9) {
				t.Errorf("round %d: %s hangs at %.3f m, and %s wants %.3f to %.3f", turn.Round, b.Name, hung, s.Person,
					up.Low, up.High)
			}
		}
	}
}

// Eight people, three bags, sixty minutes: nobody is idle, everybody gets their share, heights change as seldom as can
// be.
func TestEvening(t *testing.T) {
	c := hall(8, 3)
	p, err := New(c, Ask{People: everybody(c), Minutes: 60})
	if err != nil {
		t.Fatal(err)
	}
	sound(t, c, p, 0)
	if p.Session.Seconds() != 3600 || len(p.People) != 8 || len(p.Bags) != 3 {
		t.Errorf("%d s, %d people, %d bags", p.Session.Seconds(), len(p.People), len(p.Bags))
	}
	used := 0
	for _, m := range c.Members {
		n := 0
		for _, turn := range p.Turns {
			if turn.Seat(m.ID).Bag != "" {
				n++
			}
		}
		if n < 4 || n > 5 { // 12 rounds on 3 bags for 8
			t.Errorf("%s has %d rounds on bags", m.Name, n)
		}
		used += n
	}
	if used != 3*len(p.Turns) {
		t.Errorf("bags stand idle: %d of %d turns", used, 3*len(p.Turns))
	}
	if float64(len(p.Rehangs)) > 1.1*float64(p.Least) || p.Saved <= 0 {
		t.Errorf("%d changes, bound %d, saved %d", len(p.Rehangs), p.Least, p.Saved)
	}
	cards := p.Cards(words.Metric)
	if len(cards) != len(p.Rehangs) || !strings.Contains(cards[0].Text, " for ") {
		t.Errorf("%+v", cards)
	}
	if !strings.HasPrefix(p.Told().Sentence, "Eight people, three bags, 60 minutes: 4 or 5 rounds on a bag for each.") {
		t.Error(p.Told().Sentence)
	}
	again, _ := New(c, Ask{People: everybody(c), Minutes: 60})
	a, _ := json.Marshal(p)
	b, _ := json.Marshal(again)
	if !reflect.DeepEqual(a, b) {
		t.Error("the same class gives another plan")
	}
}

// Thirty people on ten bags are within a tenth of the bound on changes of height.
func TestFullHall(t *testing.T) {
	c := hall(30, 10)
	p, err := New(c, Ask{People: everybody(c), Minutes: 60})
	if err != nil {
		t.Fatal(err)
	}
	sound(t, c, p, 0)
	if float64(len(p.Rehangs)) > 1.1*float64(p.Least) {
		t.Errorf("%d changes, bound %d", len(p.Rehangs), p.Least)
	}
}

// template returns a session that ships by its key.
func template(key string) session.Template {
	list := session.Templates()
	return list[slices.IndexFunc(list, func(t session.Template) bool { return t.Key == key })]
}

// Whatever the size of class, bags and hour, the plan can be carried out.
func TestAnySize(t *testing.T) {
	for _, size := range [][3]int{{1, 1, 30}, {1, 5, 60}, {2, 1, 20}, {3, 5, 90}, {5, 2, 10}, {13, 4, 45},
		{30, 1, 30}} {
		c := hall(size[0], size[1])
		p, err := New(c, Ask{People: everybody(c), Minutes: size[2]})
		if err != nil {
			t.Errorf("%v: %v", size, err)
			continue
		}
		sound(t, c, p, 0)
	}
}

// A caution bars what it bars: after a knock to the head nobody is planned at all, a sore wrist is on no heavy bag and
// does no planks.
func TestCautions(t *testing.T) {
	c := hall(6, 5, func(c *roster.Roster) {
		c.Members[0].Cautions = []caution.Type{caution.Head}
		c.Members[1].Cautions = []caution.Type{caution.Wrist}
	})
	p, err := New(c, Ask{People: everybody(c), Minutes: 60})
	if err != nil {
		t.Fatal(err)
	}
	sound(t, c, p, 0)
	if p.Person("p00") != nil || !strings.Contains(strings.Join(p.Told().Said, " "), "Person 00 does not train") {
		t.Errorf("after a knock to the head: %q", p.Told().Said)
	}
	for _, turn := range p.Turns {
		if s := turn.Seat("p01"); s.Bag == "bag4" || s.Activity == session.Planks {
			t.Errorf("a sore wrist: %+v", s)
		}
	}
	if !strings.Contains(strings.Join(p.Told().Said, " "), "Person 01 stays off the hanging bag 4: a sore wrist") {
		t.Errorf("%q", p.Told().Said)
	}
	if _, err := New(c, Ask{People: []string{"p00"}, Minutes: 60}); err == nil {
		t.Error("a class of somebody who must not train")
	}
}

// Somebody goes, somebody comes, a bag breaks: what was done stays, what is left is planned anew, and who comes late
// has their share of it.
func TestAnew(t *testing.T) {
	c := hall(8, 3)
	ids := everybody(c)
	p, err := New(c, Ask{People: ids[:7], Minutes: 60})
	if err != nil {
		t.Fatal(err)
	}
	from := p.Turns[5].Round
	anew, err := p.Anew(c, from, 0, append(slices.Clone(ids[1:7]), "p07"), []string{"bag0", "bag1"})
	if err != nil {
		t.Fatal(err)
	}
	sound(t, c, anew, from)
	for i := range 5 {
		if !reflect.DeepEqual(p.Turns[i], anew.Turns[i]) {
			t.Errorf("round %d was changed after it was done", i)
		}
	}
	if x := anew.Person("p00"); x == nil || !x.Gone {
		t.Errorf("who left: %+v", x)
	}
	if b := anew.Bag("bag2"); b == nil || !b.Broken {
		t.Errorf("what broke: %+v", b)
	}
	late := 0
	for _, turn := range anew.Turns[5:] {
		for _, s := range turn.Seats {
			if s.Bag == "bag2" || s.Person == "p00" {
				t.Errorf("round %d: %+v", turn.Round, s)
			}
		}
		if turn.Seat("p07").Bag != "" {
			late++
		}
	}
	if late < 3 {
		t.Errorf("who came late has %d rounds on a bag", late)
	}
	if len(anew.Turns) != len(p.Turns) {
		t.Errorf("%d rounds, before %d", len(anew.Turns), len(p.Turns))
	}
}

// A wrist that hurts half way through keeps off the heavy bag from then on, whatever was given before.
func TestAnewWithCaution(t *testing.T) {
	c := hall(3, 5)
	p, err := New(c, Ask{People: everybody(c), Minutes: 60})
	if err != nil {
		t.Fatal(err)
	}
	if p.Of("p01", "bag4") == nil {
		t.Fatal("nothing is given on the heavy bag to begin with")
	}
	c.Members[1].Cautions = []caution.Type{caution.Wrist}
	from := p.Turns[3].Round
	anew, err := p.Anew(c, from, 0, everybody(c), nil)
	if err != nil {
		t.Fatal(err)
	}
	sound(t, c, anew, from)
	for _, turn := range anew.Turns[3:] {
		if s := turn.Seat("p01"); s.Bag == "bag4" || s.Activity == session.Planks {
			t.Errorf("round %d: %+v", turn.Round, s)
		}
	}
}

// Somebody is put on another bag by hand, and whoever was there takes their place.
func TestMoved(t *testing.T) {
	c := hall(4, 2)
	p, err := New(c, Ask{People: everybody(c), Minutes: 45})
	if err != nil {
		t.Fatal(err)
	}
	turn := p.Turns[2]
	on := turn.Seats[slices.IndexFunc(turn.Seats, func(s Seat) bool { return s.Bag == "bag1" })]
	off := turn.Seats[slices.IndexFunc(turn.Seats, func(s Seat) bool { return s.Bag == "" })]
	moved, err := p.Moved(c, 0, turn.Round, off.Person, "bag1")
	if err != nil {
		t.Fatal(err)
	}
	got := moved.turnOf(turn.Round)
	if got.Seat(off.Person).Bag != "bag1" || got.Seat(on.Person).Bag != "" ||
		got.Seat(on.Person).Activity != off.Activity {
		t.Errorf("%+v", got)
	}
	hangs(t, c, moved)
	if p.turnOf(turn.Round).Seat(off.Person).Bag != "" {
		t.Error("the plan before was changed")
	}
	away, err := moved.Moved(c, 0, turn.Round, off.Person, "")
	if err != nil || away.turnOf(turn.Round).Seat(off.Person).Activity == "" {
		t.Errorf("off the bag: %v", err)
	}
	for name, f := range map[string]func() (Class, error){
		"a round that is over": func() (Class, error) {
			return p.Moved(c, turn.Round+1, turn.Round, off.Person, "bag1")
		},
		"a bag that is not its": func() (Class, error) { return p.Moved(c, 0, turn.Round, off.Person, "bag9") },
		"a stranger":            func() (Class, error) { return p.Moved(c, 0, turn.Round, "somebody", "bag1") },
	} {
		if _, err := f(); err == nil {
			t.Errorf("%s is taken", name)
		}
	}
}

// A session whose blocks are the same for all is for its kind of bag, and is held back as a whole.
func TestSameForAll(t *testing.T) {
	c := hall(2, 5, func(c *roster.Roster) { c.Members[1].Cautions = []caution.Type{caution.Wrist} })
	s := template("themes")
	p, err := New(c, Ask{People: everybody(c), Session: &s.Session})
	if err != nil {
		t.Fatal(err)
	}
	if len(p.Bags) != 1 || p.Bags[0].Kind != rig.Hanging {
		t.Errorf("%+v", p.Bags)
	}
	for _, turn := range p.Turns {
		if turn.Seat("p01").Bag != "" {
			t.Error("a sore wrist is on the heavy bag")
		}
	}
	alone, err := New(c, Ask{People: []string{"p00"}, Session: &s.Session})
	if err != nil {
		t.Fatal(err)
	}
	for _, turn := range alone.Turns {
		if turn.Seat("p00").Bag == "" {
			t.Errorf("alone on a bag they are off it in round %d", turn.Round)
		}
	}
	if _, err := New(hall(2, 1), Ask{People: []string{"p00"}, Session: &s.Session}); err == nil {
		t.Error("no hanging bag hangs there")
	}
}

// A drill of the coach's takes the place of what the ladder proposes.
func TestAssigned(t *testing.T) {
	c := hall(2, 2, func(c *roster.Roster) {
		c.Members[0].Given = []roster.Assignment{{ID: "a1", Name: "Her own", Bag: "bag1", Own: true,
			Plan: drill.CombinationDrill{Text: "1-2", Landing: drill.OnReturns, Pace: drill.Combining, Pause: 2,
				Work: 60, Guidance: drill.Fading}}}
	})
	p, err := New(c, Ask{People: everybody(c), Minutes: 30})
	if err != nil {
		t.Fatal(err)
	}
	if g := p.Of("p00", "bag1"); g == nil || g.AssignmentID != "a1" {
		t.Errorf("a drill that a coach gave: %+v", g)
	}
	if out, err := p.Assigned(c, "p00", "a1"); err != nil || out.Of("p00", "bag1").Name != "Her own" {
		t.Errorf("%v", err)
	}
	if _, err := p.Assigned(c, "p01", "a1"); err == nil {
		t.Error("somebody else's drill")
	}
}

func TestAskRefuses(t *testing.T) {
	c := hall(2, 2)
	for name, ask := range map[string]Ask{
		"nobody":         {Minutes: 60},
		"a stranger":     {People: []string{"nobody"}, Minutes: 60},
		"no such bag":    {People: []string{"p00"}, Bags: []string{"bag7"}, Minutes: 60},
		"a short hour":   {People: []string{"p00"}, Minutes: 5},
		"a long evening": {People: []string{"p00"}, Minutes: 500},
	} {
		if _, err := New(c, ask); err == nil {
			t.Errorf("%s is planned", name)
		}
	}
}

func ExampleNew() {
	c := hall(3, 1)
	p, _ := New(c, Ask{People: everybody(c), Minutes: 35})
	fmt.Println(p.Told().Sentence[:62])
	fmt.Println(len(p.Rehangs), "changes of height,", p.Saved, "saved")
	// Output:
	// Three people, one bag, 35 minutes: 2 rounds on a bag for each.
	// 2 changes of height, 4 saved
}

func BenchmarkThirtyPeopleTenBags(b *testing.B) {
	c := hall(30, 10)
	for b.Loop() {
		if _, err := New(c, Ask{People: everybody(c), Minutes: 60}); err != nil {
			b.Fatal(err)
		}
	}
}
