package server

import (
	"context"
	"encoding/json"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/coder/websocket"
	"github.com/jackc/pgx/v5"

	"melodromos/core/drill"
	"melodromos/ledger"
	"melodromos/server/watch"
	"melodromos/standin"
	"melodromos/store"
)

// The stand-in comes in by the way a device does, and the run screen sees its hits as they fall.
func TestStandInAndLiveFeed(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Larch")
	_, _, d := u.furnished(10)
	d.Doc = changed(d.Doc, func(d *drill.SpeedBagDrill) { d.Work, d.Strikes = 0, 6 })
	u.want(200, "PUT", "/api/assignments/"+d.ID, d, &d)
	var run Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "standin",
		StandIn: &StandInChoice{Ability: "expert", Seed: 3, Deaf: false}}, &run)

	watching, stop := context.WithTimeout(ctx, 20*time.Second)
	defer stop()
	conn, _, err := websocket.Dial(watching, strings.Replace(s.url, "http", "ws", 1)+"/api/runs/"+run.ID+"/live",
		&websocket.DialOptions{HTTPClient: u.client})
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = conn.CloseNow() }()
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 0}, nil)
	seen, states := 0, ""
	for seen < 6 {
		_, text, err := conn.Read(watching)
		if err != nil {
			t.Fatalf("after %d hits: %v", seen, err)
		}
		var m watch.Message
		if err := json.Unmarshal(text, &m); err != nil {
			t.Fatal(err)
		}
		seen += len(m.Hits)
		states += m.State
	}
	if states != "running" {
		t.Errorf("states %q", states)
	}
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"finish", int64(run.Timeline.End)}, nil)
	var review Review
	u.want(200, "GET", "/api/runs/"+run.ID+"/review", nil, &review)
	if !review.OffsetKept || review.Summary.Hits != 6 || review.Summary.Clean < 3 {
		t.Errorf("%+v", review.Summary)
	}
	status, _, out := u.do("POST", "/api/runs/"+run.ID+"/hits",
		Batch{Device: "pad", Hits: []HitIn{{Seq: 0, At: at(1)}}})
	if status != 422 {
		t.Errorf("taps beside a sensor: %d %s", status, out)
	}
}

func TestIntake(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Maple")
	_, _, d := u.furnished(10)
	device := user{t, s.url, &http.Client{}, nil, ""}
	var run, tapped Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "device"}, &run)
	var info IntakeInfo
	device.want(200, "GET", "/api/intake/"+run.IntakeKey, nil, &info)
	if info.State != "ready" || len(info.Strikes) != len(planned(run))+len(run.Timeline.Beyond) || info.Clock != "bag" {
		t.Errorf("%s, %s, %d strikes", info.State, info.Clock, len(info.Strikes))
	}
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 3_000_000}, nil)
	var kept Kept
	latency := int64(20_000)
	device.want(200, "POST", "/api/intake/"+run.IntakeKey,
		Batch{Device: "pad", Latency: &latency, Hits: []HitIn{{Seq: 0, Ago: at(500_000)}}}, &kept)
	if kept.New != 1 || kept.State != "running" {
		t.Errorf("%+v", kept)
	}
	hits, err := u.gym.Hits(run.ID)
	if err != nil || len(hits) != 1 || hits[0].AtUS < 2_500_000 || hits[0].AtUS > 3_500_000 {
		t.Errorf("half a second ago came to %+v, %v", hits, err)
	}
	row, err := u.gym.Run(run.ID)
	if err != nil || row.LatencyUS == nil || *row.LatencyUS != latency {
		t.Errorf("%+v %v", row.LatencyUS, err)
	}
	device.want(422, "POST", "/api/intake/"+run.IntakeKey, Batch{Device: "pad", Hits: []HitIn{{Seq: 1}}}, nil)
	device.want(404, "POST", "/api/intake/"+strings.Repeat("A", 26), Batch{Device: "pad", Hits: []HitIn{}}, nil)
	device.want(401, "GET", "/api/runs/"+run.ID, nil, nil)
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &tapped)
	device.want(409, "POST", "/api/intake/"+tapped.IntakeKey, Batch{Device: "pad", Hits: []HitIn{{Seq: 0, At: at(1)}}},
		nil)
}

// A device's word does not keep a run open, and a device that joins by the command line finishes with the run.
func TestCommandLineStandIn(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Nutmeg")
	_, _, d := u.furnished(10)
	d.Doc = changed(d.Doc, func(d *drill.SpeedBagDrill) { d.Work, d.Strikes = 0, 3 })
	u.want(200, "PUT", "/api/assignments/"+d.ID, d, &d)
	var run Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "device"}, &run)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 0}, nil)
	before, err := u.gym.Run(run.ID)
	if err != nil {
		t.Fatal(err)
	}
	ended := make(chan error, 1)
	go func() {
		ended <- standin.Sensor{URL: s.url, Key: run.IntakeKey, Person: standin.Like("expert"), Seed: 2}.Play(ctx)
	}()
	time.Sleep(time.Duration(run.Timeline.End)*time.Microsecond + 300*time.Millisecond)
	after, err := u.gym.Run(run.ID)
	if err != nil {
		t.Fatal(err)
	}
	if !after.SeenAt.Equal(before.SeenAt) {
		t.Error("a device kept the run open")
	}
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"finish", int64(run.Timeline.End)}, nil)
	select {
	case err := <-ended:
		if err != nil {
			t.Error(err)
		}
	case <-time.After(5 * time.Second):
		t.Error("the stand-in went on after the run")
	}
	if hits, err := u.gym.Hits(run.ID); err != nil || len(hits) == 0 {
		t.Errorf("%d hits, %v", len(hits), err)
	}
}

// What comes late is kept at once, and the round is judged with it once nothing more comes, however much came.
func TestLateHitsAreJudgedOnce(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Oak")
	_, _, d := u.furnished(10)
	var run Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "device"}, &run)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 0}, nil)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"finish", int64(run.Timeline.End)}, nil)
	judged := func() (hits int, at time.Time) {
		s.past(t, func(db *pgx.Conn) error {
			return db.QueryRow(ctx, "SELECT hits, judged_at FROM outcomes WHERE run_id = $1", run.ID).Scan(&hits, &at)
		})
		return hits, at
	}
	_, first := judged()
	device, n := s.stranger(t), 0
	for i, e := range run.Timeline.Events {
		if e.Kind == drill.Strike && n < 8 {
			n++
			device.want(200, "POST", "/api/intake/"+run.IntakeKey,
				Batch{Device: "pad", Hits: []HitIn{{Seq: i, At: at(int64(e.At))}}}, nil)
		}
	}
	if err := ledger.JudgeLate(ctx, s.store, time.Minute); err != nil { // something came just now
		t.Fatal(err)
	}
	if _, at := judged(); !at.Equal(first) {
		t.Error("it was judged before all was quiet")
	}
	var seen Review
	if u.want(200, "GET", "/api/runs/"+run.ID+"/review", nil, &seen); seen.Summary.Hits != n {
		t.Errorf("the review shows %d hits of %d", seen.Summary.Hits, n)
	}
	for range 2 {
		if err := ledger.JudgeLate(ctx, s.store, 0); err != nil {
			t.Fatal(err)
		}
	}
	hits, second := judged()
	if hits != n || !second.After(first) {
		t.Errorf("%d hits of %d are judged", hits, n)
	}
	if late, err := s.store.Late(ctx, 0); err != nil || len(late) > 0 {
		t.Errorf("still to be judged: %v %v", late, err)
	}
}

// A device's key ends with its round, and what comes late does not change what was judged.
func TestKeysEnd(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Oak")
	_, _, d := u.furnished(10)
	var run Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "device"}, &run)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 0}, nil)
	early, late := int64(20_000), int64(300_000)
	var hits []HitIn
	for i, e := range run.Timeline.Events {
		if e.Kind == drill.Strike {
			hits = append(hits, HitIn{Seq: i, At: at(int64(e.At) + early)})
		}
	}
	device := s.stranger(t)
	device.want(200, "POST", "/api/intake/"+run.IntakeKey, Batch{Device: "pad", Latency: &early, Hits: hits}, nil)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"finish", int64(run.Timeline.End)}, nil)
	device.want(200, "POST", "/api/intake/"+run.IntakeKey,
		Batch{Device: "pad", Latency: &late, Hits: []HitIn{{Seq: 5000, At: at(int64(run.Timeline.End) + 5_000_000)}}},
		nil)
	kept, err := u.gym.Run(run.ID)
	if err != nil || kept.LatencyUS == nil || *kept.LatencyUS != early {
		t.Errorf("the latency that the round was judged with: %v %v", kept.LatencyUS, err)
	}
	s.sql(t, "UPDATE runs SET ended_at = $1 WHERE id = $2", time.Now().Add(-grace-time.Second), run.ID)
	device.want(410, "GET", "/api/intake/"+run.IntakeKey, nil, nil)
	device.want(410, "POST", "/api/intake/"+run.IntakeKey, Batch{Device: "pad", Hits: []HitIn{{Seq: 5001, At: at(1)}}},
		nil)
	// not by the coach's screen either, which taps other rounds
	u.want(422, "POST", "/api/runs/"+run.ID+"/hits", Batch{Device: "pad", Hits: hits}, nil)
	if rows, err := u.gym.Hits(run.ID); err != nil || len(rows) != len(hits)+1 {
		t.Errorf("%d hits, want %d: %v", len(rows), len(hits)+1, err)
	}
}

// A round takes so many hits and marks and no more; what is too many is refused whole.
func TestRoundsGetFull(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Pine")
	_, _, d := u.furnished(10)
	var run Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &run)
	list := make([]store.Hit, 0, 5000)
	for n := 0; n < store.MostHits-2; n += len(list) {
		list = list[:0]
		for i := range min(5000, store.MostHits-2-n) {
			list = append(list, store.Hit{Device: "flood", Seq: n + i, AtUS: int64(n + i)})
		}
		if _, err := u.gym.AddHits(run.ID, list, nil); err != nil {
			t.Fatal(err)
		}
	}
	three := Batch{Device: "pad", Hits: []HitIn{{Seq: 0, At: at(1)}, {Seq: 1, At: at(2)}, {Seq: 2, At: at(3)}}}
	if out := u.want(422, "POST", "/api/runs/"+run.ID+"/hits", three, nil); !strings.Contains(out, "20000") {
		t.Errorf("%s", out)
	}
	three.Hits = three.Hits[:2]
	u.want(200, "POST", "/api/runs/"+run.ID+"/hits", three, nil)
	began := time.Now()
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 0}, nil)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"finish", int64(run.Timeline.End)}, nil)
	u.want(200, "GET", "/api/runs/"+run.ID+"/review", nil, nil)
	t.Logf("judged twice in %s", time.Since(began).Round(time.Millisecond))
}
