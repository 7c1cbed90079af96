package server

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/progress"
	"melodromos/core/run"
)

// finished runs a round of an assignment whose hits are told, to its bell.
func (u user) finished(
	assignment string,
	by drill.Recorder,
	hit func(i int, e drill.Event) *HitIn,
	marks ...MarkIn,
) Run {
	u.t.Helper()
	var r Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: assignment, Source: by, Plays: "beat"}, &r)
	path := "/api/runs/" + r.ID
	u.want(200, "POST", path+"/clock", Step{"start", 0}, nil)
	hits := []HitIn{}
	for i, e := range planned(r) {
		if h := hit(i, e); h != nil {
			h.Seq = i
			hits = append(hits, *h)
		}
	}
	if by == drill.Taps {
		u.want(200, "POST", path+"/hits", Batch{Device: "screen", Latency: at(0), Hits: hits, Marks: marks}, nil)
	} else if len(marks) > 0 {
		u.want(200, "POST", path+"/hits", Batch{Device: "screen", Hits: []HitIn{}, Marks: marks}, nil)
	}
	u.want(200, "POST", path+"/clock", Step{"finish", int64(r.Timeline.End)}, nil)
	return r
}

// late gives every strike a hit so much (µs) late.
func late(us int64) func(int, drill.Event) *HitIn {
	return func(_ int, e drill.Event) *HitIn { return &HitIn{At: at(int64(e.At) + us), Hand: e.Hand} }
}

// byBeat gives somebody a minute of the first drill, by the beat.
func (u user) byBeat() Assignment {
	_, _, d := u.furnished(60)
	d.Doc = changed(d.Doc, func(d *drill.SpeedBagDrill) { d.Clock = drill.ByBeat })
	u.want(200, "PUT", "/api/assignments/"+d.ID, d, &d)
	return d
}

// Whatever an eye alone sees can be marked, is kept, and stands in the review with its name and what mends it.
func TestEverySightIsShown(t *testing.T) {
	u := newSite(t).coach(t, "Rowan")
	d := u.byBeat()
	var marks []MarkIn
	for i, code := range fault.Seen() {
		marks = append(marks, MarkIn{Seq: i + 1, At: int64(3_000_000 * (i + 1)), Kind: run.MarkKind(code)})
	}
	r := u.finished(d.ID, drill.Taps, late(0), marks...)
	var v Review
	u.want(200, "GET", "/api/runs/"+r.ID+"/review", nil, &v)
	for _, code := range fault.Seen() {
		i := slices.IndexFunc(v.Faults, func(f run.FaultOut) bool { return f.Code == code })
		if i < 0 {
			t.Errorf("%s was marked and is not in the review", code)
		} else if f := v.Faults[i]; !f.Seen || f.Name == "" || f.Remedy == "" || f.Times != 1 || code.Pressed() == "" {
			t.Errorf("%+v", f)
		}
	}
}

// A round in which somebody waits names it first, offers the drill that mends it, and gives that in one press. What
// only an eye sees stands beside it.
func TestFaultAndRemedy(t *testing.T) {
	u := newSite(t).coach(t, "Rowan")
	d := u.byBeat()
	r := u.finished(d.ID, drill.Taps, late(45_000), MarkIn{Seq: 1, At: 9_000_000, Kind: "strikingDown"})
	var v Review
	u.want(200, "GET", "/api/runs/"+r.ID+"/review", nil, &v)
	if len(v.Faults) != 2 || v.Faults[0].Code != fault.Waiting || v.Faults[1].Code != fault.StrikingDown ||
		!v.Faults[1].Seen || v.Faults[0].Offer == nil || !strings.Contains(v.First, "45 ms") {
		t.Fatalf("%q %+v", v.First, v.Faults)
	}
	var given Mended
	u.want(200, "POST", "/api/runs/"+r.ID+"/remedy", Mending{fault.Waiting}, &given)
	var a Assignment
	u.want(200, "GET", "/api/assignments/"+given.AssignmentID, nil, &a)
	if mends, ok := a.Doc.Plan.(drill.SpeedBagDrill); !ok || a.TraineeID != d.TraineeID || a.RigID != d.RigID ||
		!mends.EarOnly {
		t.Errorf("%+v", a)
	}
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: given.AssignmentID, Source: "none"}, nil)
	if out := u.want(422, "POST", "/api/runs/"+r.ID+"/remedy", Mending{fault.Rushing}, nil); !strings.Contains(
		out,
		"body.code",
	) {
		t.Errorf("%s", out)
	}
	var rows []LogRow
	u.want(200, "GET", "/api/runs?search=runa%20quay&kind=speed", nil, &rows)
	if len(rows) != 1 || rows[0].First != fault.Waiting.Name() {
		t.Errorf("%+v", rows)
	}
	for query, want := range map[string]int{"search=nobody": 0, "search=%25": 0, "kind=slip": 0,
		"from=2100-01-01T00:00:00Z": 0, "search=QUAY": 1} {
		if u.want(200, "GET", "/api/runs?"+query, nil, &rows); len(rows) != want {
			t.Errorf("%s: %d rounds", query, len(rows))
		}
	}
}

// A strike is put right by hand, and taken back; both leave a trace.
func TestCorrections(t *testing.T) {
	u := newSite(t).coach(t, "Sorrel")
	r := u.finished(u.byBeat().ID, drill.Taps, late(0))
	path := "/api/runs/" + r.ID
	var before, v Review
	u.want(200, "GET", path+"/review", nil, &before)
	u.want(200, "POST", path+"/corrections", Said{3, "missed"}, &v)
	if v.Missed != 1 || v.Summary.Clean != before.Summary.Clean-1 || v.Strikes[3].Verdict != "missed" ||
		v.Extra != 1 || len(v.Corrections) != 1 || v.Corrections[0].Coach == "" {
		t.Errorf("%+v %+v", v.Summary, v.Corrections)
	}
	var rows []LogRow
	if u.want(200, "GET", "/api/runs", nil, &rows); rows[0].Summary.Clean != v.Summary.Clean {
		t.Errorf("the log has %+v", rows[0].Summary)
	}
	u.want(200, "POST", path+"/corrections/"+v.Corrections[0].ID+"/undo", nil, &v)
	if v.Missed != 0 || v.Summary.Clean != before.Summary.Clean || !v.Corrections[0].Undone {
		t.Errorf("%+v %+v", v.Summary, v.Corrections)
	}
	u.want(404, "POST", path+"/corrections/"+v.Corrections[0].ID+"/undo", nil, nil)
	if out := u.want(422, "POST", path+"/corrections", Said{5000, "clean"}, nil); !strings.Contains(
		out,
		"body.strike",
	) {
		t.Errorf("%s", out)
	}
	u.want(422, "POST", path+"/corrections", Said{3, "splendid"}, nil)
}

// A round that was judged by the wrong delay is judged anew, the old judgement is kept, and comes back when that is
// taken back.
func TestRejudge(t *testing.T) {
	u := newSite(t).coach(t, "Tansy")
	r := u.finished(u.byBeat().ID, drill.Taps, late(60_000))
	path := "/api/runs/" + r.ID
	var before, v Review
	u.want(200, "GET", path+"/review", nil, &before)
	delay := int64(60_000)
	u.want(200, "POST", path+"/rejudge", run.Anew{Delay: &delay, Reason: "the pad was slow"}, &v)
	if v.Summary.Share <= before.Summary.Share || len(v.Corrections) != 1 ||
		v.Corrections[0].Was != before.Headline || v.Corrections[0].Reason != "the pad was slow" || len(v.Faults) != 0 {
		t.Errorf("%q, and before %q; %+v", v.Headline, before.Headline, v.Corrections)
	}
	u.want(200, "POST", path+"/rejudge", run.Anew{Clock: drill.ByBag}, &v)
	if v.KeptBy != drill.ByBag {
		t.Errorf("kept by %s", v.KeptBy)
	}
	u.want(200, "POST", path+"/corrections/"+v.Corrections[1].ID+"/undo", nil, &v)
	u.want(200, "POST", path+"/corrections/"+v.Corrections[0].ID+"/undo", nil, &v)
	if v.Headline != before.Headline || v.KeptBy != drill.ByBeat {
		t.Errorf("%q by the %s, before %q", v.Headline, v.KeptBy, before.Headline)
	}
	u.want(422, "POST", path+"/rejudge", run.Anew{}, nil)
	if out := u.want(422, "POST", path+"/rejudge", run.Anew{Tempo: 5}, nil); !strings.Contains(out, "tempo") {
		t.Errorf("%s", out)
	}
}

// What the coach says is kept over what was read, and taken away when it is empty.
func TestRating(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Umber")
	_, _, d := u.furnished(10)
	r := u.finished(d.ID, drill.Nothing, late(0))
	path := "/api/runs/" + r.ID
	n, m := 7, 10
	var said Rating
	u.want(200, "PUT", path+"/rating", Rating{Clean: &n, OutOf: &m, Word: run.Shaky, Note: "Better at the end."}, &said)
	if said.Version != 1 || *said.Clean != 7 || said.Coach == "" {
		t.Errorf("%+v", said)
	}
	u.want(409, "PUT", path+"/rating", Rating{Word: run.Held}, nil) // it was not read
	u.want(200, "PUT", path+"/rating", Rating{Word: run.Held, Version: 1}, &said)
	u.want(409, "PUT", path+"/rating", Rating{Word: run.NotYet, Version: 1}, nil)
	var v Review
	u.want(200, "GET", path+"/review", nil, &v)
	if v.Rating == nil || v.Rating.Word != run.Held || v.Rating.OutOf != nil || v.Judged {
		t.Errorf("%+v", v.Rating)
	}
	u.want(422, "PUT", path+"/rating", Rating{Clean: &m, OutOf: &n, Version: 2}, nil)
	u.want(422, "PUT", path+"/rating", Rating{Clean: &n, Version: 2}, nil)
	u.want(422, "PUT", path+"/rating", `{"word":"grand","note":"","version":2}`, nil)
	u.want(200, "PUT", path+"/rating", Rating{Version: 2}, nil)
	if u.want(200, "GET", path+"/review", nil, &v); v.Rating != nil {
		t.Errorf("%+v", v.Rating)
	}
	u.want(404, "PUT", "/api/turns/"+r.ID+"/rating", Rating{Word: run.Held}, nil)
}

// A table of times becomes the hits of a round that recorded none: looked at first, refused whole where a line is
// wrong, and brought in again in place of itself.
func TestTableOfTimes(t *testing.T) {
	u := newSite(t).coach(t, "Vetch")
	d := u.byBeat()
	r := u.finished(d.ID, drill.Nothing, late(0))
	path := "/api/runs/" + r.ID
	var table strings.Builder
	table.WriteString("time,hand\n")
	start := r.Timeline.Start.Seconds()
	for _, e := range planned(r) {
		fmt.Fprintf(&table, "%.6f,%s\n", e.At.Seconds()-start, e.Hand)
	}
	n := len(planned(r))
	var in TimesIn
	u.want(200, "POST", path+"/times", Times{Table: table.String(), Dry: true}, &in)
	var v Review
	if u.want(200, "GET", path+"/review", nil, &v); in.Hits != n || !in.Hands || in.Force || len(v.Hits) != 0 {
		t.Errorf("%+v, and %d hits after looking", in, len(v.Hits))
	}
	if out := u.want(422, "POST", path+"/times", Times{Table: table.String() + "soon,lead\n"}, nil); !strings.Contains(
		out,
		fmt.Sprintf("line %d", n+2),
	) {
		t.Errorf("%s", out)
	}
	for range 2 {
		u.want(200, "POST", path+"/times", Times{Table: table.String()}, &in)
		if u.want(200, "GET", path+"/review", nil, &v); v.Summary.Clean != n || len(v.Hits) != n ||
			v.Run.Source != drill.Table {
			t.Errorf("%+v of %s, %d hits", v.Summary, v.Run.Source, len(v.Hits))
		}
	}
	u.want(200, "POST", path+"/times", Times{Table: "time\n100.5\n101.04\n", Zero: "first"}, &in)
	if in.First > 0.01 || in.First < -0.01 {
		t.Errorf("the first hit is %.3f s from the bell", in.First)
	}
	tapped := u.finished(d.ID, drill.Taps, late(0))
	u.want(409, "POST", "/api/runs/"+tapped.ID+"/times", Times{Table: "1"}, nil)
	var fresh Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "none"}, &fresh)
	u.want(422, "POST", "/api/runs/"+fresh.ID+"/times", Times{Table: "1"}, nil)
}

// Progress counts what was done, and all that is kept of somebody can be had; what signs a device in is not in it.
func TestProgressAndExport(t *testing.T) {
	u := newSite(t).coach(t, "Willow")
	d := u.byBeat()
	for range 4 {
		u.finished(d.ID, drill.Taps, late(45_000))
	}
	var p, hall progress.Report
	u.want(200, "GET", "/api/trainees/"+d.TraineeID+"/progress", nil, &p)
	u.want(200, "GET", "/api/progress", nil, &hall)
	if p.Rounds != 4 || hall.Rounds != 4 || len(p.Faults) != 1 || p.Faults[0].Code != fault.Waiting ||
		p.Faults[0].Rounds != 4 || p.Faults[0].First != 4 || len(p.Trends) != 2 || p.Weeks[11].Rounds != 4 {
		t.Errorf("%+v", p)
	}
	status, header, out := u.do("GET", "/api/trainees/"+d.TraineeID+"/export", nil)
	var whole struct {
		Trainee struct{ Name string }
		Rounds  []struct {
			Run  struct{ IntakeHash string }
			Hits []any
		}
	}
	if err := json.Unmarshal(out, &whole); err != nil || status != 200 || whole.Trainee.Name != "Runa" ||
		len(whole.Rounds) != 4 || len(whole.Rounds[0].Hits) == 0 || whole.Rounds[0].Run.IntakeHash != "" ||
		!strings.Contains(header.Get("Content-Disposition"), "attachment") {
		t.Errorf("%d %v %.300s", status, err, out)
	}
}

// BenchmarkLog opens log, progress and a review of a gym of eight with two thousand rounds of five hundred hits each
// behind them: a million in all. With -v it shows how the log's rounds are looked up.
func BenchmarkLog(b *testing.B) {
	s := newSite(b)
	u := s.coach(b, "Juniper")
	_, bag, d := u.furnished(60)
	r := u.finished(d.ID, drill.Taps, late(0))
	for k := range 7 {
		var p Trainee
		u.want(200, "POST", "/api/trainees", Trainee{Name: fmt.Sprintf("Person %d", k), Stance: "orthodox",
			Band: "beginner", AgeBand: "adult"}, &p)
	}
	s.sql(b, `WITH made AS (
		INSERT INTO runs (gym_id, drill_id, rig_id, trainee_id, drill_name, rung, rig_doc, drill_doc, source, state, ending, intake_hash, zone, latency_us, clock_us, started_at, ended_at, created_at)
		SELECT r.gym_id, r.drill_id, r.rig_id, t.id, r.drill_name, r.rung, r.rig_doc, r.drill_doc, r.source, r.state, r.ending, r.id || ' ' || n || ' ' || t.id, r.zone, 0, r.clock_us, at, at, at
		FROM runs r JOIN trainees t ON t.gym_id = r.gym_id, generate_series(0, 249) n, LATERAL (SELECT now() - make_interval(hours => 8 * n) AS at) x WHERE r.id = $1
		RETURNING id, gym_id), lines AS (
		INSERT INTO timelines (run_id, gym_id, doc) SELECT m.id, m.gym_id, t.doc FROM made m, timelines t WHERE t.run_id = $1), wrong AS (
		INSERT INTO faults (gym_id, run_id, code, place, cost, effect, spread, times) SELECT gym_id, id, (ARRAY['waiting', 'fading', 'lost'])[1 + length(id::text || md5(id::text)) % 3], 0, 0.1, 0.02, 0.004, 60 FROM made), done AS (
		INSERT INTO outcomes (run_id, gym_id, headline, planned, hits, clean, longest, share, counts, judged, wild, lasted) SELECT id, gym_id, 'H', 126, 120, 90, 18, 0.71, true, true, false, 60 FROM made)
		INSERT INTO hits (gym_id, run_id, device, seq, at_us, hand) SELECT gym_id, id, 'pad', n, 4000000 + 120000 * n, 'lead' FROM made, generate_series(0, 499) n`, r.ID)
	s.sql(b, "VACUUM ANALYZE")
	for name, path := range map[string]string{"log": "/api/runs", "search": "/api/runs?search=person%203",
		"person": "/api/trainees/" + d.TraineeID + "/page", "progress": "/api/trainees/" + d.TraineeID + "/progress",
		"hall": "/api/progress", "today": "/api/today", "review": "/api/runs/" + r.ID + "/review",
		"bag": "/api/rigs/" + bag.ID} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				u.want(200, "GET", path, nil, nil)
			}
		})
	}
	for _, line := range s.plan(b, `SELECT r.id FROM runs r JOIN outcomes o ON o.run_id = r.id JOIN rigs b ON b.gym_id = r.gym_id AND b.id = r.rig_id LEFT JOIN trainees t ON t.gym_id = r.gym_id AND t.id = r.trainee_id
		WHERE r.gym_id = (SELECT id FROM gyms LIMIT 1) AND r.started_at IS NOT NULL AND r.ended_at IS NOT NULL AND r.removed_at IS NULL AND r.trainee_id = $1`, d.TraineeID) {
		b.Log(line)
	}
}

// A bag that comes back later in each week's rounds is said to tire, on the first page.
func TestTiredBag(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Yarrow")
	person, rigs := u.hung("doubleEnd")
	var a Assignment
	u.want(200, "POST", "/api/trainees/"+person.ID+"/accept", Acceptance{RigID: rigs["doubleEnd"].ID,
		Choice: "accept"}, &a)
	known := rigs["doubleEnd"].Doc.Rig.LeastKnown()
	s.sql(t, "UPDATE rigs SET measured_at = now() - interval '90 days'")
	s.sql(t, `WITH r AS (
		INSERT INTO runs (gym_id, drill_id, assignment_id, rig_id, trainee_id, drill_name, rung, rig_doc, drill_doc, source, state, ending, intake_hash, zone, started_at, ended_at, created_at)
		SELECT a.gym_id, a.drill_id, a.id, a.rig_id, a.trainee_id, d.name, d.rung, '{}', '{}', 'device', 'done', 'bell', a.id || ' ' || n, 'UTC', at, at, at
		FROM assignments a JOIN drills d ON d.id = a.drill_id, generate_series(0, 9) n, LATERAL (SELECT now() - make_interval(days => 4 * (9 - n)) AS at) t WHERE a.id = $1
		RETURNING id, gym_id, created_at)
		INSERT INTO outcomes (run_id, gym_id, headline, planned, hits, clean, longest, share, counts, judged, wild, rig_parameter, rig_value, rig_spread, rig_steps)
		SELECT id, gym_id, 'H', 60, 58, 40, 8, 0.67, true, true, false, $2, $3 * (1 - 0.015 * row_number() OVER (ORDER BY created_at)), 0.01, 40 FROM r`,
		a.ID, known.Field, known.Value)
	var today Today
	u.want(200, "GET", "/api/today", nil, &today)
	if len(today.Tired) != 1 || today.Tired[0].RigID != rigs["doubleEnd"].ID ||
		!strings.Contains(today.Tired[0].Said, "A cord is dying") {
		t.Errorf("%+v", today.Tired)
	}
}
