package roster

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

var (
	cord = rig.Cord{Span: 0.75, Relaxed: 0.66, Stiffness: 90}
	bags = []Bag{
		{ID: "quay", Name: "Quay", Rig: rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25,
			SwivelDrop: 0.02, Restitution: 0.8}},
		{ID: "cords", Name: "Windlass", Rig: rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord,
			Lower: cord, Damping: 0.04}},
		{ID: "heavy", Name: "Bollard", Rig: rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35,
			Chain: 0.5, AnchorHeight: 2.7}},
	}
	now = time.Date(2026, 3, 20, 18, 0, 0, 0, time.UTC)
)

func gym(members ...Member) Roster {
	return Roster{Members: members, Bags: bags, Gate: ladder.DefaultGate, Zone: time.UTC, Now: now}
}

func person(id string, change ...func(*Member)) Member {
	m := Member{ID: id, Name: strings.ToUpper(id[:1]) + id[1:], Stance: combo.Orthodox, Band: trainee.Beginner}
	for _, f := range change {
		f(&m)
	}
	return m
}

// ran adds judged rounds of a rung on a bag, a day apart, the last one yesterday.
func ran(bag, rung string, n int, share float64) func(*Member) {
	return func(m *Member) {
		for i := range n {
			m.Rounds = append(m.Rounds, run.PastRound{At: now.AddDate(0, 0, i-n), Bag: bag, Rung: rung, Counts: true,
				Share: share, Longest: 30, Planned: 60, Predicted: 0.8})
		}
	}
}

func given(id, bag, rung, text string, own bool) func(*Member) {
	return func(m *Member) {
		p := drill.CombinationDrill{Text: text, Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Combining,
			Pause: 2, Work: 60, Guidance: drill.Fading}
		m.Given = append(m.Given, Assignment{ID: id, Name: text, Bag: bag, Plan: p, Rung: rung, Own: own})
	}
}

func next(t testing.TB, c Roster, id string) Proposal {
	t.Helper()
	p, ok, err := c.Next(c.Member(id))
	if err != nil || !ok {
		t.Fatalf("%s: %v, %v", id, ok, err)
	}
	return p
}

// There is one answer to what comes next: today's page, the people's and a person's own name the same drill for
// everybody.
func TestOneAnswer(t *testing.T) {
	c := gym(
		person("ines"), person("dov", ran("cords", "doubleEnd.jab", 2, 0.9)),
		person("greta", ran("quay", "speed.once", 1, 0.6), given("a1", "cords", "", "1-2-3-2", true)),
		person("tobi", func(m *Member) { m.Cautions = []caution.Type{caution.Head} }),
		person("yusuf", ran("heavy", "hanging.jab", 3, 0.4)),
	)
	all, err := c.Everybody()
	if err != nil {
		t.Fatal(err)
	}
	today, _, err := c.Today()
	if err != nil {
		t.Fatal(err)
	}
	said := map[string]string{}
	for _, p := range all {
		said[p.TraineeID] = fmt.Sprint(p.RigID, p.Rung, p.Name, p.Move, p.Why)
	}
	if len(all) != 5 || len(today) != 5 {
		t.Fatalf("%d people and %d today", len(all), len(today))
	}
	for _, p := range today {
		if got := fmt.Sprint(p.RigID, p.Rung, p.Name, p.Move, p.Why); got != said[p.TraineeID] {
			t.Errorf("today %s, among the people %s", got, said[p.TraineeID])
		}
		page, err := c.Person(c.Member(p.TraineeID))
		if err != nil || fmt.Sprint(page.Next.RigID, page.Next.Rung, page.Next.Name, page.Next.Move,
			page.Next.Why) != said[p.TraineeID] {
			t.Errorf("on their page %+v (%v), among the people %s", page.Next, err, said[p.TraineeID])
		}
	}
	if last := today[4]; last.TraineeID != "tobi" || last.Barred == "" {
		t.Errorf("who can do nothing is not last: %+v", last)
	}
	if p := next(t, c, "greta"); p.Move != ladder.Given || p.AssignmentID != "a1" || p.RigID != "cords" {
		t.Errorf("a drill that was given by hand: %+v", p)
	}
	if p := next(t, c, "dov"); p.Rung != "doubleEnd.later" || p.Move != ladder.Next || p.Level == nil ||
		p.Clean == nil {
		t.Errorf("past the first gate: %+v", p)
	}
}

// The gym's own gate holds everywhere: with a lower one the same rounds open the next rung.
func TestOneGate(t *testing.T) {
	c := gym(person("ines", ran("cords", "doubleEnd.jab", 2, 0.72)))
	p := next(t, c, "ines")
	if p.Rung != "doubleEnd.jab" || !strings.Contains(p.Why, "the standard is 80 % and 10 in a row") {
		t.Errorf("%+v", p)
	}
	c.Gate = ladder.Gate{Clean: 0.7, Streak: 5, Rounds: 2, Days: 1, ADay: 3}
	l, err := c.Ladder(c.Member("ines"), rig.DoubleEnd)
	if err != nil {
		t.Fatal(err)
	}
	p = next(t, c, "ines")
	if p.Rung != "doubleEnd.later" || l.Proposal.Rung != p.Rung || !l.Rungs[0].Done ||
		l.Gate != c.Gate || !l.Rungs[0].Rounds[0].Through {
		t.Errorf("%+v beside %+v", p, l.Rungs[0])
	}
	if _, err := c.Ladder(c.Member("ines"), rig.Reflex); err == nil {
		t.Error("a ladder of a bag that does not hang")
	}
}

// A caution makes a drill shorter or softer where that is enough, and what is stored is the drill without it; where it
// is not enough another bag is gone on with.
func TestSpared(t *testing.T) {
	sore := func(k caution.Type) func(*Member) {
		return func(m *Member) { m.Cautions = []caution.Type{k} }
	}
	c := gym(person("ines", ran("quay", "speed.once", 1, 0.6), sore(caution.Shoulder)),
		person("dov", ran("heavy", "hanging.jab", 1, 0.6), sore(caution.Wrist)))
	p := next(t, c, "ines")
	if len(p.Spared) != 1 || p.Barred != "" || p.Doc.Plan.(drill.CombinationDrill).Work != 45 ||
		p.Plan().(drill.CombinationDrill).Work != 60 {
		t.Errorf("a sore shoulder: %+v", p)
	}
	p = next(t, c, "dov")
	if p.Kind == "hanging" || p.Barred != "" || !strings.Contains(p.Why, "no heavy bag") {
		t.Errorf("a sore wrist at the heavy bag: %+v", p)
	}
	// What was done while the heavy bag was barred does not lead away from it.
	m := c.Member("dov")
	rounds := m.Rounds
	m.Rounds[0].At = now.AddDate(0, 0, -9)
	ran("cords", "doubleEnd.jab", 2, 0.9)(m)
	m.Spared = []Spell{{From: now.AddDate(0, 0, -3)}}
	if p = next(t, c, "dov"); p.Kind == "hanging" || !strings.Contains(p.Why, "no heavy bag") {
		t.Errorf("a sore wrist after rounds on the cords: %+v", p)
	}
	m.Cautions, m.Spared[0].To = nil, now.Add(-time.Hour)
	if p = next(t, c, "dov"); p.Kind != "hanging" {
		t.Errorf("after a sore wrist: %+v", p)
	}
	m.Cautions, m.Spared, m.Rounds = []caution.Type{caution.Wrist}, nil, rounds
	given("a", "heavy", "", "1-2", true)(m)
	if p := next(t, c, "dov"); p.Move == ladder.Given {
		t.Errorf("what is held back comes next: %+v", p)
	}
	if _, also, err := c.Today(); err != nil || len(also) != 1 || !strings.Contains(also[0].Held, "wrist") {
		t.Errorf("%+v, %v", also, err)
	}
}

// A rung that keeps failing is made easier by one thing, which is named; a round of that passes no gate.
func TestEased(t *testing.T) {
	c := gym(person("ines", ran("cords", "doubleEnd.jab", 3, 0.6)))
	p := next(t, c, "ines")
	if p.Move != ladder.Easier || p.Eased == "" || !strings.Contains(p.Why, words.Upper(p.Eased.Words())+" today") ||
		p.DrillName() == p.Name {
		t.Errorf("%+v", p)
	}
	m := c.Member("ines")
	for i := range 4 {
		m.Rounds = append(
			m.Rounds,
			run.PastRound{At: now.AddDate(0, 0, -i), Bag: "cords", Rung: "doubleEnd.jab", Eased: true,
				Counts: true, Share: 0.95, Longest: 40, Planned: 60},
		)
	}
	if l, err := c.Ladder(m, rig.DoubleEnd); err != nil || l.Rungs[0].Done || l.Rungs[0].Through != 0 {
		t.Errorf("rounds that were made easier open the gate: %+v, %v", l.Rungs[0], err)
	}
}

// Past the last gate there is something to do: one thing harder, or another bag.
func TestPastTheLastGate(t *testing.T) {
	m := person("lerato", func(m *Member) {
		m.Band = trainee.Expert
		for _, r := range ladder.Rungs(rig.DoubleEnd, ladder.BasicFirst) {
			m.Decisions = append(m.Decisions, Ruling{rig.DoubleEnd,
				ladder.Decision{At: now.AddDate(0, 0, -9), Rung: r.Key, Choice: ladder.Skip}})
		}
	}, ran("cords", "doubleEnd.long", 2, 0.95))
	c := gym(m)
	p := next(t, c, "lerato")
	switch {
	case p.Kind == "doubleEnd" && p.Move == ladder.Top && strings.Contains(p.Why, "One thing harder"):
	case p.Kind != "doubleEnd" && strings.HasPrefix(p.Why, "Past the last gate"):
	default:
		t.Errorf("%+v", p)
	}
	c.Bags = c.Bags[1:2]
	if p := next(t, c, "lerato"); p.Kind != "doubleEnd" || p.Level == nil || p.Barred != "" {
		t.Errorf("with one bag alone: %+v", p)
	}
	ran("cords", "", 3, 0.6)(&c.Members[0]) // three harder ones failed
	if p := next(t, c, "lerato"); p.Move != ladder.Again || p.Rung != "doubleEnd.long" ||
		!strings.Contains(p.Why, "as it is, then harder again") {
		t.Errorf("past the last gate, and failing: %+v", p)
	}
}

// After time away a rung begins softly. What the coach has set is left as it is, and that it is not softer is said.
func TestAwayWithASetDrill(t *testing.T) {
	long := func(m *Member) {
		for i := range m.Rounds {
			m.Rounds[i].At = m.Rounds[i].At.AddDate(0, 0, -40)
		}
	}
	c := gym(person("dov", ran("cords", "doubleEnd.jab", 3, 0.9), long),
		person("ines", ran("cords", "doubleEnd.jab", 3, 0.9), long, given("a", "cords", "doubleEnd.jab", "1", true)))
	c.Members[1].Rounds[0].Assignment = "a" // it has been run
	softer, set := next(t, c, "dov"), next(t, c, "ines")
	if softer.Move != ladder.Back || !strings.Contains(softer.Why, "soft.") ||
		strings.Contains(softer.Why, "change it first") {
		t.Errorf("away: %+v", softer)
	}
	if set.AssignmentID != "a" || !strings.Contains(set.Why, "be eased for you; change it first") {
		t.Errorf("away, with a drill that the coach has set: %+v", set)
	}
}

// What can be given to somebody is solved for them and their bag; what cannot is said.
func TestFitted(t *testing.T) {
	c := gym(person("ines"), person("yusuf", func(m *Member) { m.Band = trainee.Advanced }),
		person("dov", func(m *Member) { m.Cautions = []caution.Type{caution.Wrist} }))
	open := drill.CombinationDrill{Text: "1-2-3", Stance: combo.Orthodox, Landing: drill.OnReturns,
		Pace: drill.Combining, Pause: 2, Work: 60, Guidance: drill.Fading}
	ines, yusuf := c.Fitted(c.Member("ines"), c.Bag("cords"), open), c.Fitted(c.Member("yusuf"), c.Bag("cords"), open)
	if !ines.Given || !yusuf.Given || ines.Settings.Fist == 0 || yusuf.Settings.Fist <= ines.Settings.Fist {
		t.Errorf("%+v and %+v", ines, yusuf)
	}
	if f := c.Fitted(c.Member("dov"), c.Bag("heavy"), open); f.Given || !strings.Contains(f.Why, "no heavy bag") {
		t.Errorf("%+v", f)
	}
	open.Text = "1-2 - knee rear"
	if f := c.Fitted(c.Member("ines"), c.Bag("heavy"), open); f.Given || !strings.Contains(f.Why, "Not on Bollard") {
		t.Errorf("%+v", f)
	}
}

// The catalogue and the gym's own drills in one list; the same drill under two names is told, and kicks stay out where
// none are trained.
func TestLibrary(t *testing.T) {
	c := gym()
	var levels Levels
	own := []Own{{"d1", "Our one-two", rig.DoubleEnd,
		drill.CombinationDrill{Text: "1-2", Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Combining,
			Pause: 2, Work: 60, Guidance: drill.Fading}}}
	l, err := c.Library(own, &levels)
	if err != nil {
		t.Fatal(err)
	}
	for _, e := range l.Entries {
		if strings.Contains(e.Canonical, "kick") {
			t.Errorf("%s is offered where no kicks are trained", e.Name)
		}
		if hangs := e.Kind == "speed" || e.Kind == "doubleEnd" || e.Kind == "hanging"; (e.Level != nil) != hangs {
			t.Errorf("%s, on a %s bag: level %v", e.Name, e.Kind, e.Level)
		}
		if e.DrillID != "" && e.Twin == "" {
			t.Errorf("%s is no twin of anything", e.Name)
		}
	}
	c.Kicks = true
	if more, err := c.Library(nil, &levels); err != nil || len(more.Entries) <= len(l.Entries)-1 {
		t.Errorf("with kicks %d entries, without %d: %v", len(more.Entries), len(l.Entries)-1, err)
	}
}

// Weeks are shown around now, with the rounds that were run, and the calendar has everybody who is planned or came.
func TestWeeksAndCalendar(t *testing.T) {
	w := ladder.DefaultWeeks(now.AddDate(0, 0, -21))
	c := gym(person("ines", ran("quay", "speed.once", 3, 0.9), func(m *Member) { m.Weeks = &w }),
		person("dov", ran("quay", "speed.once", 1, 0.9)))
	weeks := c.Weeks(c.Member("ines"))
	done := 0
	for _, d := range weeks {
		done += d.Done
	}
	if len(weeks) < 16 || done == 0 || len(c.Weeks(c.Member("dov"))) != 0 {
		t.Errorf("%d days planned, %d rounds done", len(weeks), done)
	}
	names := map[string]int{}
	for _, d := range c.Calendar() {
		for _, p := range d.People {
			names[p.Name]++
		}
	}
	if names["Ines"] < 4 || names["Dov"] != 1 {
		t.Errorf("%v", names)
	}
}

// Predictions are held against what was observed; a round that predicted nothing is left out.
func TestPredictions(t *testing.T) {
	m := person("ines", ran("quay", "speed.once", 4, 0.7))
	m.Rounds[0].Predicted = math.NaN()
	p := gym(m).Predictions()
	if p.Rounds != 3 || p.Miss == nil || math.Abs(*p.Miss-0.1) > 1e-9 || len(p.Bins) != 10 || p.Bins[8].Rounds != 3 {
		t.Errorf("%+v", p)
	}
	if o := gym(m).Learned(&m, rig.Speed); o.Rounds != 3 || o.Shift >= 0 {
		t.Errorf("%+v", o)
	}
	c := gym(m)
	out, err := c.Outlook(c.Member("ines"), &Assignment{ID: "a", Rung: "speed.once",
		Plan: ladder.Rungs(rig.Speed, ladder.BasicFirst)[0].Plan}, c.Bag("quay"))
	if err != nil || out.Best != 30 || out.Target != 31 || !(out.Clean > 0.3) {
		t.Errorf("%+v, %v", out, err)
	}
	if _, err := json.Marshal(out); err != nil {
		t.Error(err)
	}
}

func BenchmarkEverybody(b *testing.B) {
	var all []Member
	for i := range 60 {
		rungs := ladder.Rungs(bags[i%3].Kind(), ladder.BasicFirst)
		all = append(all, person(fmt.Sprintf("person%d", i), ran(bags[i%3].ID, rungs[i%5].Key, 300, 0.7)))
	}
	c := gym(all...)
	for b.Loop() {
		if _, err := c.Everybody(); err != nil {
			b.Fatal(err)
		}
	}
}
