package server

import (
	"math"
	"strings"
	"testing"

	"melodromos/core/compose"
	"melodromos/core/drill"
	"melodromos/core/ladder"
	"melodromos/core/roster"
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
	figure := func(p PersonPage, name string) roster.PersonFigure {
		for _, f := range p.Figures {
			if f.Figure == name {
				return f
			}
		}
		t.Fatal(name)
		return roster.PersonFigure{}
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
		Doc: DrillDoc{Plan: drill.CombinationDrill{Text: "1-2", Landing: drill.Freely, Pace: drill.Combining, Work: 30,
			Guidance: drill.Called}}}, &given)
	var now Today
	u.want(200, "GET", "/api/today", nil, &now)
	if len(now.Next) != 1 || !strings.Contains(now.Next[0].Barred, "wrist") || len(now.Also) != 1 ||
		!strings.Contains(now.Also[0].Held, "wrist") {
		t.Errorf("%+v, %+v", now.Next, now.Also)
	}
	var o roster.Outlook
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
	c := drill.CombinationDrill{Text: "1-2-1-2", Stance: "orthodox", Landing: drill.OnReturns, Pace: drill.Combining,
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
