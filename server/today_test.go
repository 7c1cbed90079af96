package server

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"melodromos/core/drill"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/roster"
	"melodromos/core/trainee"
	"melodromos/ledger"
	"melodromos/store"
)

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
	c := mine.Doc.Plan.(drill.CombinationDrill)
	c.Work = 30
	mine.Doc = DrillDoc{Plan: c}
	u.want(200, "PUT", "/api/assignments/"+mine.ID, mine, nil)
	u.want(200, "POST", "/api/trainees/"+person.ID+"/accept", Acceptance{RigID: rigs["doubleEnd"].ID, Choice: "accept"},
		&kept)
	if kept.ID != mine.ID || kept.Doc.Plan.(drill.CombinationDrill).Work != 30 || kept.Rung != "doubleEnd.jab" {
		t.Errorf("%+v became %+v", mine, kept)
	}
	// A drill that was written by hand stands on the ladder too: it is what they have of the rung from then on, and is
	// left alone.
	shortened := first.Doc.Plan.(drill.CombinationDrill)
	shortened.Work = 45
	byHand := Assignment{RigID: rigs["speed"].ID, TraineeID: person.ID, Name: "My own", Doc: DrillDoc{Plan: shortened}}
	u.want(200, "POST", "/api/assignments", byHand, &byHand)
	var again Assignment
	u.want(200, "POST", "/api/trainees/"+person.ID+"/accept", Acceptance{RigID: rigs["speed"].ID, Choice: "accept"},
		&again)
	if byHand.Rung != "speed.once" || again.ID != byHand.ID || again.Doc.Plan.(drill.CombinationDrill).Work != 45 {
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
	var o roster.Outlook
	u.want(200, "GET", "/api/assignments/"+first.ID+"/outlook", nil, &o)
	if o.Best != l.Rungs[0].Best || o.Target != o.Best+1 || o.Held != "" || !(o.Clean > 0.5) {
		t.Errorf("%+v", o)
	}
	if len(l.Decisions) != 3 || l.Decisions[0].Choice != "accept" || l.Decisions[0].Coach == "" {
		t.Errorf("%+v", l.Decisions)
	}
	var p roster.Proposal
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

// A proposal is taken whole or not at all, and a decision on a bag that does not hang is none.
func TestAcceptingIsWhole(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Maple")
	person, rigs := u.hung("speed")
	var before []Drill
	u.want(200, "GET", "/api/drills", nil, &before)
	if err := u.gym.AddDecision(&store.Decision{TraineeID: person.ID, BagKind: "speed", Rung: "x", Choice: "accept",
		Reason: strings.Repeat("y", 401), Coach: "C"}); err == nil {
		t.Fatal("the database takes any reason")
	}
	// A reason that only the database refuses: the words of the request are checked before.
	me := ledger.Caller{Coach: must(s.store.CoachByEmail(ctx, u.email)), Gym: u.gym, Row: must(u.gym.Row()),
		Stop: ctx.Err}
	if _, err := me.Accept(person.ID, rigs["speed"].ID, "accept", "a\x00b"); err == nil {
		t.Error("a bad reason was taken")
	}
	var after []Drill
	u.want(200, "GET", "/api/drills", nil, &after)
	if len(after) != len(before) {
		t.Errorf("%d drills, before %d: half of it was saved", len(after), len(before))
	}
	u.want(204, "DELETE", "/api/rigs/"+rigs["speed"].ID, nil, nil)
	u.want(422, "POST", "/api/trainees/"+person.ID+"/decisions",
		Decision{Kind: "speed", Rung: "speed.once", Choice: "hold"}, nil)
	if rows, err := u.gym.Decisions(person.ID); err != nil || len(rows) != 0 {
		t.Errorf("%+v %v", rows, err)
	}
}
