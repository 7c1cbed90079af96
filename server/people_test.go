package server

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"melodromos/core/class"
	"melodromos/core/compose"
	"melodromos/core/drill"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// hung gives a gym somebody and a bag of each of these kinds.
func (u user) hung(names ...string) (Trainee, map[string]Rig) {
	u.t.Helper()
	var person Trainee
	u.want(200, "POST", "/api/trainees", Trainee{Name: "Runa", Stance: "southpaw", Band: "beginner", AgeBand: "adult"},
		&person)
	rigs := map[string]Rig{}
	for _, name := range names {
		var r Rig
		u.want(200, "POST", "/api/rigs", Rig{Name: name, Doc: RigDoc{Rig: kinds[name]}}, &r)
		rigs[name] = r
	}
	return person, rigs
}

// rhythm takes the second rung of a speed bag for somebody who knows the first: one hand, one count.
func (u user) rhythm(person Trainee, bag Rig) (d Assignment) {
	u.t.Helper()
	u.want(200, "POST", "/api/trainees/"+person.ID+"/decisions",
		Decision{Kind: "speed", Rung: "speed.once", Choice: "skip", Reason: "knows it"}, nil)
	u.want(200, "POST", "/api/trainees/"+person.ID+"/accept", Acceptance{RigID: bag.ID, Choice: "accept"}, &d)
	return d
}

// struck runs a drill by keys; hit says whether and how late (s) each strike is hit.
func (u user) struck(d Assignment, hit func(i int) (bool, float64)) Run {
	u.t.Helper()
	var run Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &run)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 0}, nil)
	var hits []HitIn
	moved := 0.0 // s, by which the bag is later than planned: it goes by the hit before
	for _, e := range run.Timeline.Events {
		if e.Kind != drill.Strike {
			continue
		}
		there, late := hit(len(hits))
		if !there {
			late = 0.4
		}
		moved += late
		hits = append(hits, HitIn{Seq: len(hits), At: at(int64(e.At) + int64(1e6*moved)), Hand: e.Hand})
	}
	u.want(200, "POST", "/api/runs/"+run.ID+"/hits", Batch{Device: "x", Hits: hits}, nil)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"finish", int64(run.Timeline.End)}, nil)
	return run
}

// From a new person to what comes next: the first rung is proposed and taken, two clean rounds open the gate, and the
// next rung is proposed with the reason; a hold and a skip do what they say and stand on the ladder with theirs.
func TestLadderOverRounds(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Alder")
	person, rigs := u.hung("speed", "doubleEnd")
	var page PersonPage
	u.want(200, "GET", "/api/trainees/"+person.ID+"/page", nil, &page)
	if len(page.Bags) != 2 || page.Bags[0].Move != ladder.Start || page.Bags[0].Rung != "speed.once" ||
		page.Bags[0].Clean == nil || page.Next.Kind != "speed" {
		t.Fatalf("%+v", page.Bags)
	}
	var first, same Assignment
	u.want(200, "POST", "/api/trainees/"+person.ID+"/accept", Acceptance{RigID: rigs["speed"].ID, Choice: "accept"},
		&first)
	u.want(200, "POST", "/api/trainees/"+person.ID+"/accept", Acceptance{RigID: rigs["speed"].ID, Choice: "accept"},
		&same)
	if first.Rung != "speed.once" || same.ID != first.ID {
		t.Errorf("%+v, then %+v", first, same)
	}
	// What the coach changes stays as they have it when the rung is taken again.
	var mine, kept Assignment
	u.want(200, "POST", "/api/trainees/"+person.ID+"/accept",
		Acceptance{RigID: rigs["doubleEnd"].ID, Choice: "change", Reason: "shorter"}, &mine)
	c := mine.Doc.Plan.(drill.Combination)
	c.Work = 30
	mine.Doc = DrillDoc{Plan: c}
	u.want(200, "PUT", "/api/assignments/"+mine.ID, mine, nil)
	u.want(200, "POST", "/api/trainees/"+person.ID+"/accept", Acceptance{RigID: rigs["doubleEnd"].ID, Choice: "accept"},
		&kept)
	if kept.ID != mine.ID || kept.Doc.Plan.(drill.Combination).Work != 30 || kept.Rung != "doubleEnd.jab" {
		t.Errorf("%+v became %+v", mine, kept)
	}
	// A drill that was written by hand stands on the ladder too: it is what they have of the rung from then on, and is
	// left alone.
	shortened := first.Doc.Plan.(drill.Combination)
	shortened.Work = 45
	byHand := Assignment{RigID: rigs["speed"].ID, TraineeID: person.ID, Name: "My own", Doc: DrillDoc{Plan: shortened}}
	u.want(200, "POST", "/api/assignments", byHand, &byHand)
	var again Assignment
	u.want(200, "POST", "/api/trainees/"+person.ID+"/accept", Acceptance{RigID: rigs["speed"].ID, Choice: "accept"},
		&again)
	if byHand.Rung != "speed.once" || again.ID != byHand.ID || again.Doc.Plan.(drill.Combination).Work != 45 {
		t.Errorf("%+v beside %+v", again, first)
	}
	u.want(204, "DELETE", "/api/assignments/"+byHand.ID, nil, nil)
	clean := func(int) (bool, float64) { return true, 0.004 }
	for day := range 2 { // the gate wants two days
		run := u.struck(first, clean)
		s.sql(t, "UPDATE runs SET created_at = created_at - make_interval(days => $1) WHERE id = $2", 2-day, run.ID)
	}
	var l Ladder
	u.want(200, "GET", "/api/trainees/"+person.ID+"/ladder/speed", nil, &l)
	if !l.Rungs[0].Done || l.Rungs[0].Through != 2 || l.Rungs[0].At == nil || l.Rungs[1].Done ||
		l.Proposal.Rung != "speed.rear" || l.Proposal.Move != ladder.Next {
		t.Errorf("%+v\n%+v", l.Rungs[0], l.Proposal)
	}
	var o class.Outlook
	u.want(200, "GET", "/api/assignments/"+first.ID+"/outlook", nil, &o)
	if o.Best != l.Rungs[0].Best || o.Target != o.Best+1 || o.Held != "" || !(o.Clean > 0.5) {
		t.Errorf("%+v", o)
	}
	if len(l.Decisions) != 3 || l.Decisions[0].Choice != "accept" || l.Decisions[0].Coach == "" {
		t.Errorf("%+v", l.Decisions)
	}
	var p class.Proposal
	u.want(200, "POST", "/api/trainees/"+person.ID+"/decisions",
		Decision{Kind: "speed", Rung: "speed.rear", Choice: "skip", Reason: "did it all last year"}, &p)
	if p.Rung != "speed.lead" {
		t.Errorf("%+v", p)
	}
	u.want(200, "POST", "/api/trainees/"+person.ID+"/decisions",
		Decision{Kind: "speed", Rung: "speed.lead", Choice: "hold", Reason: "shoulders"}, &p)
	if p.Move != ladder.Stay || !strings.Contains(p.Why, "shoulders") {
		t.Errorf("%+v", p)
	}
	u.want(200, "POST", "/api/trainees/"+person.ID+"/decisions",
		Decision{Kind: "speed", Rung: "speed.lead", Choice: "goOn"}, &p)
	if p.Move == ladder.Stay || p.Rung != "speed.lead" {
		t.Errorf("%+v", p)
	}
	if status, _, out := u.do("POST", "/api/trainees/"+person.ID+"/decisions",
		Decision{Kind: "speed", Rung: "reflex.two", Choice: "skip"}); status != 422 ||
		!strings.Contains(string(out), "body.rung") {
		t.Errorf("a rung of another bag: %d %s", status, out)
	}
	// Another gym sees none of it.
	other := s.coach(t, "Birch")
	for _, path := range []string{"/page", "/ladder/speed"} {
		if status, _, _ := other.do("GET", "/api/trainees/"+person.ID+path, nil); status != 404 {
			t.Errorf("%s from another gym: %d", path, status)
		}
	}
	if status, _, _ := other.do("POST", "/api/trainees/"+person.ID+"/accept",
		Acceptance{RigID: rigs["speed"].ID, Choice: "accept"}); status != 404 {
		t.Errorf("accepted from another gym: %d", status)
	}
}

// Rounds teach what somebody can do on that bag: an even hand narrows the timing, a late one with known latency gives
// the lateness, and the next proposal is predicted from it.
func TestRoundsTeach(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Cedar")
	person, rigs := u.hung("speed")
	d := u.rhythm(person, rigs["speed"])
	page := func() (p PersonPage) {
		u.want(200, "GET", "/api/trainees/"+person.ID+"/page", nil, &p)
		return p
	}
	figure := func(p PersonPage, name string) class.PersonFigure {
		for _, f := range p.Figures {
			if f.Figure == name {
				return f
			}
		}
		t.Fatal(name)
		return class.PersonFigure{}
	}
	before := page()
	if f := figure(before, "timing"); f.Origin != trainee.Assumed || f.Found != 0 {
		t.Errorf("%+v", f)
	}
	run := u.struck(d, func(i int) (bool, float64) { return true, 0.012 * math.Sin(float64(i)*0.9) })
	after := page()
	f := figure(after, "timing")
	if f.Origin != trainee.Rounds || len(f.Trail) != 1 || len(f.Bags) != 1 || !(f.Bags[0].Value < 0.09) ||
		f.Trail[0].Kind != "speed" {
		t.Errorf("%+v", f)
	}
	if *after.Bags[0].Clean <= *before.Bags[0].Clean {
		t.Errorf("predicted %g, then %g", *before.Bags[0].Clean, *after.Bags[0].Clean)
	}
	// Hits that come later judge the run anew, and its findings are replaced, not doubled.
	u.want(200, "POST", "/api/runs/"+run.ID+"/hits",
		Batch{Device: "y", Hits: []HitIn{{Seq: 0, At: at(int64(run.Timeline.End) - 1000)}}}, nil)
	if again := figure(page(), "timing"); len(again.Trail) != 1 {
		t.Errorf("%+v", again.Trail)
	}
}

// A caution holds drills back until somebody lifts it, who is named.
func TestCautions(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Dogwood")
	person, rigs := u.hung("hanging")
	var c Caution
	u.want(200, "POST", "/api/trainees/"+person.ID+"/cautions", Caution{Kind: "wrist", Note: "fell on it"}, &c)
	page := func() (p PersonPage) {
		u.want(200, "GET", "/api/trainees/"+person.ID+"/page", nil, &p)
		return p
	}
	p := page()
	if len(p.Cautions) != 1 || p.Cautions[0].SetBy == "" || p.Bags[0].Move != ladder.Barred ||
		!strings.Contains(p.Bags[0].Why, "wrist") {
		t.Errorf("%+v %+v", p.Cautions, p.Bags[0])
	}
	if status, _, out := u.do("POST", "/api/trainees/"+person.ID+"/accept",
		Acceptance{RigID: rigs["hanging"].ID, Choice: "accept"}); status != 422 ||
		!strings.Contains(string(out), "wrist") {
		t.Errorf("%d %s", status, out)
	}
	// A drill that was given before is held back as well, and not what comes next.
	var given Assignment
	u.want(200, "POST", "/api/assignments", Assignment{RigID: rigs["hanging"].ID, TraineeID: person.ID,
		Doc: DrillDoc{Plan: drill.Combination{Text: "1-2", Landing: drill.Freely, Pace: drill.Combining, Work: 30,
			Guidance: drill.Called}}}, &given)
	var now Today
	u.want(200, "GET", "/api/today", nil, &now)
	if len(now.Next) != 1 || !strings.Contains(now.Next[0].Barred, "wrist") || len(now.Also) != 1 ||
		!strings.Contains(now.Also[0].Held, "wrist") {
		t.Errorf("%+v, %+v", now.Next, now.Also)
	}
	var o class.Outlook
	if u.want(200, "GET", "/api/assignments/"+given.ID+"/outlook", nil, &o); !strings.Contains(o.Held, "wrist") {
		t.Errorf("%+v", o)
	}
	u.want(204, "POST", "/api/cautions/"+c.ID+"/lift", Lift{By: "Dr Sallow"}, nil)
	p = page()
	if p.Cautions[0].LiftedBy != "Dr Sallow" || p.Bags[0].Move == ladder.Barred {
		t.Errorf("%+v %+v", p.Cautions, p.Bags[0])
	}
	if status, _, _ := u.do("POST", "/api/cautions/"+c.ID+"/lift", Lift{By: "again"}); status != 404 {
		t.Errorf("lifted twice: %d", status)
	}
}

// Tests are worked out and kept; what is no test is refused by field and nothing is kept.
func TestTestsTaken(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Elm")
	person, _ := u.hung("speed")
	taps := func(n int, gap float64) []float64 {
		list := make([]float64, n)
		for i := range list {
			list[i] = gap*float64(i) + 0.01*math.Sin(float64(i)*1.7)
		}
		return list
	}
	var r TestResult
	u.want(200, "POST", "/api/trainees/"+person.ID+"/tests", TestTaken{"alternate", [][]float64{taps(50, 0.19)}, true},
		&r)
	if len(r.Found) != 1 || math.Abs(r.Found[0].Value-0.19) > 0.01 || !strings.Contains(r.Sentence, "0.19 s") {
		t.Errorf("%+v", r)
	}
	u.want(200, "POST", "/api/trainees/"+person.ID+"/tests",
		TestTaken{"beat", [][]float64{taps(40, 0.5), taps(40, 0.5)}, false}, &r)
	u.want(200, "POST", "/api/trainees/"+person.ID+"/tests",
		TestTaken{"sound", [][]float64{{0.17, 0.18, 0.16, 0.2, 0.17, 0.02}}, false}, &r)
	if r.LeftOut != 1 || r.Used != 5 {
		t.Errorf("%+v", r)
	}
	for name, bad := range map[string]TestTaken{"nothing": {Test: "alternate"},
		"few":       {"alternate", [][]float64{taps(4, 0.2)}, false},
		"backwards": {"sameHand", [][]float64{append(taps(20, 0.3), 0)}, true}} {
		if status, _, out := u.do("POST", "/api/trainees/"+person.ID+"/tests", bad); status != 422 ||
			!strings.Contains(string(out), "body.taps") {
			t.Errorf("%s: %d %s", name, status, out)
		}
	}
	var page PersonPage
	u.want(200, "GET", "/api/trainees/"+person.ID+"/page", nil, &page)
	for _, f := range page.Figures {
		if f.Figure == "alternate" && (f.Origin != "tested" || len(f.Trail) != 1 || math.Abs(f.Value-0.19) > 0.02) {
			t.Errorf("%+v", f)
		}
	}
}

// One level and two fits: the same drill for two people, with the link that differs named, and neighbours that change
// one thing.
func TestDrillFit(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Fir")
	person, rigs := u.hung("doubleEnd")
	var expert Trainee
	u.want(200, "POST", "/api/trainees", Trainee{Name: "Ione", Stance: "orthodox", Band: "expert", AgeBand: "adult"},
		&expert)
	c := drill.Combination{Text: "1-2-1-2", Stance: "orthodox", Landing: drill.OnReturns, Pace: drill.Combining,
		Fist: 4, Pause: 2, Work: 60, Guidance: drill.Called}
	ask := func(id string) *compose.Suits {
		var a compose.Answer
		u.want(200, "POST", "/api/compose", DrillQuestion{RigID: rigs["doubleEnd"].ID, TraineeID: id,
			Doc: DrillDoc{Plan: c}}, &a)
		return a.Suits
	}
	var whole compose.Answer
	u.want(200, "POST", "/api/compose", DrillQuestion{RigID: rigs["doubleEnd"].ID, TraineeID: person.ID,
		Beside: expert.ID, Doc: DrillDoc{Plan: c}}, &whole)
	both := whole.Suits
	if both.Beside == nil || both.Beside.Name != "Ione" || both.Beside.Fit.Clean <= both.Fit.Clean ||
		!strings.Contains(both.Beside.Differs, "one ") {
		t.Errorf("%+v", both.Beside)
	}
	a, b := ask(person.ID), ask(expert.ID)
	if a.Grade != b.Grade || !(b.Fit.Clean > a.Fit.Clean) || a.Fit.Weakest == "" || a.Easier == nil ||
		a.Easier.Clean <= a.Fit.Clean || b.Harder == nil || b.Harder.Level < b.Grade.Level {
		t.Errorf("%+v\n%+v", a, b)
	}
}

// Weeks are planned, and refused where they do not hold together.
func TestWeeksPlanned(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Gorse")
	person, _ := u.hung("speed")
	person.Weeks = &WeeksDoc{From: time.Now().AddDate(0, 0, -7).Format(time.DateOnly), Days: []int{1, 3, 5}, Rounds: 4,
		Most: 8}
	u.want(200, "PUT", "/api/trainees/"+person.ID, person, nil)
	var page PersonPage
	u.want(200, "GET", "/api/trainees/"+person.ID+"/page", nil, &page)
	if len(page.Weeks) < 20 || page.Weeks[0].Rounds != 4 || page.Trainee.Weeks == nil ||
		len(page.Trainee.Weeks.Days) != 3 {
		t.Errorf("%+v %+v", page.Trainee.Weeks, page.Weeks)
	}
	person.Weeks.Most = 2
	if status, _, out := u.do("PUT", "/api/trainees/"+person.ID, person); status != 422 ||
		!strings.Contains(string(out), "weeks.most") {
		t.Errorf("%d %s", status, out)
	}
}

// BenchmarkClass opens the pages of a class of sixty who have 20 000 rounds behind them.
func BenchmarkClass(b *testing.B) {
	s := newSite(b)
	u := s.coach(b, "Heath")
	for _, kind := range rig.Kinds() {
		u.want(200, "POST", "/api/rigs", Rig{Name: string(kind), Doc: RigDoc{Rig: kinds[string(kind)]}}, nil)
	}
	var rigs []Rig
	u.want(200, "GET", "/api/rigs", nil, &rigs)
	for i := range 60 {
		var p Trainee
		u.want(200, "POST", "/api/trainees", Trainee{Name: fmt.Sprintf("Person %d", i), Stance: "orthodox",
			Band: trainee.Bands[i%5], AgeBand: "adult"}, &p)
		var a Assignment
		u.want(200, "POST", "/api/trainees/"+p.ID+"/accept", Acceptance{RigID: rigs[i%5].ID, Choice: "accept"}, &a)
		s.sql(b, `WITH r AS (
			INSERT INTO runs (gym_id, drill_id, assignment_id, rig_id, trainee_id, drill_name, rung, rig_doc, drill_doc, source, state, ending, intake_hash, zone, started_at, ended_at, created_at, predicted)
			SELECT a.gym_id, a.drill_id, a.id, a.rig_id, a.trainee_id, d.name, d.rung, '{}', '{}', 'keys', 'done', 'bell', a.id || ' ' || n, 'UTC', at, at, at, 0.7
			FROM assignments a JOIN drills d ON d.id = a.drill_id, generate_series(0, 332) n, LATERAL (SELECT now() - make_interval(hours => 30 * n) AS at) t WHERE a.id = $1
			RETURNING id, gym_id)
			INSERT INTO outcomes (run_id, gym_id, headline, planned, hits, clean, longest, share, counts, judged, wild) SELECT id, gym_id, 'H', 60, 58, 40, 8, 0.67, true, true, false FROM r`, a.ID)
		s.sql(b, `INSERT INTO evidence (gym_id, trainee_id, figure, bag_kind, value, spread, origin, found_at)
			SELECT t.gym_id, t.id, f, r.kind, 0.07, 0.007, 'rounds', now() - make_interval(hours => 30 * n) FROM trainees t, rigs r, unnest(ARRAY['timing', 'miss', 'force']) f, generate_series(0, 100) n WHERE t.id = $1 AND r.id = $2`, p.ID, rigs[i%5].ID)
	}
	s.sql(b, "VACUUM ANALYZE")
	for _, path := range []string{"/api/class", "/api/today", "/api/calendar"} {
		b.Run(path[5:], func(b *testing.B) {
			for b.Loop() {
				u.want(200, "GET", path, nil, nil)
			}
		})
	}
}
