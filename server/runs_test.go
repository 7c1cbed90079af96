package server

import (
	"context"
	"net"
	"net/http"
	"testing"
	"time"

	"melodromos/core/drill"
	"melodromos/core/run"
	"melodromos/ledger"
)

func at(us int64) *int64 { return &us }

// planned reads the strikes out of a run's timeline.
func planned(r Run) []drill.Event {
	var list []drill.Event
	for _, e := range r.Timeline.Events {
		if e.Kind == drill.Strike {
			list = append(list, e)
		}
	}
	return list
}

func TestRunByKeys(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Ivy")
	_, _, d := u.furnished(10)
	var run Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &run)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 0}, nil)
	strikes := planned(run)
	var hits []HitIn
	for i, e := range strikes {
		if i != 4 { // one missed, all 30 ms late
			hits = append(hits, HitIn{Seq: i, At: at(int64(e.At) + 30_000), Hand: e.Hand})
		}
	}
	var kept Kept
	send := func(list []HitIn) {
		u.want(200, "POST", "/api/runs/"+run.ID+"/hits", Batch{Device: "screen", ClockUS: at(1), Hits: list}, &kept)
	}
	send(hits[:8])
	send(hits[5:12]) // the answer was lost; three are sent again
	if kept.New != 4 {
		t.Errorf("%d new, want 4", kept.New)
	}
	send(hits[12:])
	u.want(200, "POST", "/api/runs/"+run.ID+"/hits",
		Batch{Device: "screen", Hits: []HitIn{}, Marks: []MarkIn{{Seq: 999, At: 3_000_000, Kind: "wild"}}}, nil)
	var now RunCourse
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"pause", 5_000_000}, &now)
	if now.State != "paused" || now.ClockUS != 5_000_000 {
		t.Errorf("%+v", now)
	}
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"resume", 5_000_000}, nil)
	end := int64(run.Timeline.End)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"finish", end}, &now)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"stop", 17}, &now) // too late to change anything
	if now.State != "done" || now.ClockUS != end {
		t.Errorf("%+v", now)
	}

	var review Review
	u.want(200, "GET", "/api/runs/"+run.ID+"/review", nil, &review)
	if review.Summary.Clean != len(strikes)-1 || review.Missed != 1 || review.Extra != 0 || len(review.Marks) != 1 {
		t.Errorf("%+v", review.Summary)
	}
	if review.OffsetKept || review.Offset < 0.0299 || review.Offset > 0.0301 {
		t.Errorf("offset %g, kept %v: the latency of taps is not known", review.Offset, review.OffsetKept)
	}
	if review.Strikes[4].Verdict != "missed" || review.Strikes[4].Error != nil || *review.Strikes[5].Error > 1e-6 {
		t.Errorf("%+v", review.Strikes[4:6])
	}
	var log []LogRow
	u.want(200, "GET", "/api/runs", nil, &log)
	if len(log) != 1 || log[0].Summary == nil || log[0].Summary.Clean != len(strikes)-1 || log[0].Trainee != "Runa" ||
		log[0].Zone != "Europe/Lisbon" {
		t.Errorf("%+v", log)
	}
	var today Today
	u.want(200, "GET", "/api/today", nil, &today)
	if len(today.Next) != 1 || len(today.Also) != 1 || len(today.Recent) != 1 {
		t.Errorf("%+v", today)
	}
}

// A run keeps the bag and the drill it was run with, whatever becomes of them.
func TestRunKeepsItsDocuments(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Juniper")
	_, bag, d := u.furnished(10)
	var run, again Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &run)
	longer := quayBag
	longer.BagLength = 0.28
	bag.Doc = RigDoc{Rig: longer}
	u.want(200, "PUT", "/api/rigs/"+bag.ID, bag, nil)
	d.Doc = changed(d.Doc, func(d *drill.SpeedBagDrill) { d.Tempo = 90 })
	u.want(200, "PUT", "/api/assignments/"+d.ID, d, nil)
	u.want(204, "DELETE", "/api/assignments/"+d.ID, nil, nil)
	u.want(200, "GET", "/api/runs/"+run.ID, nil, &again)
	if again.Doc.Plan != run.Doc.Plan || again.Rig.Rig != run.Rig.Rig ||
		len(again.Timeline.Events) != len(run.Timeline.Events) {
		t.Error("the run changed with its bag and drill")
	}
}

// The server dies in mid-round: the hits that came in are there, and the run is stopped and reviewed after the next
// start.
func TestAbandonedRun(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Kauri")
	_, _, d := u.furnished(10)
	var run Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &run)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 0}, nil)
	strikes := planned(run)
	reached := int64(strikes[6].At) - 10_000
	var hits []HitIn
	for i, e := range strikes[:6] {
		hits = append(hits, HitIn{Seq: i, At: at(int64(e.At)), Hand: e.Hand})
	}
	u.want(200, "POST", "/api/runs/"+run.ID+"/hits", Batch{Device: "screen", ClockUS: &reached, Hits: hits}, nil)

	other := must(New(Options{Store: s.store, Quiet: time.Millisecond})) // the next start
	time.Sleep(5 * time.Millisecond)
	if err := other.stopAbandoned(ctx); err != nil {
		t.Fatal(err)
	}
	var review Review
	u.want(200, "GET", "/api/runs/"+run.ID+"/review", nil, &review)
	if review.Run.State != "stopped" || review.Summary.Planned != 6 || review.Summary.Clean != 6 {
		t.Errorf("%s %+v", review.Run.State, review.Summary)
	}
	// What the browser had kept arrives after all and is judged; then it goes on to the end.
	u.want(200, "POST", "/api/runs/"+run.ID+"/hits",
		Batch{Device: "screen", Hits: []HitIn{{Seq: 6, At: at(int64(strikes[6].At))}}}, nil)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"finish", int64(run.Timeline.End)}, nil)
	u.want(200, "GET", "/api/runs/"+run.ID+"/review", nil, &review)
	if review.Run.State != "done" || review.Summary.Clean != 7 || review.Missed != len(strikes)-7 {
		t.Errorf("%s %+v", review.Run.State, review.Summary)
	}
}

type course = run.RoundClock

func TestServeStopsCleanly(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Olive")
	_, _, d := u.furnished(10)
	var run Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &run)
	if _, err := ledger.Move(u.gym, run.ID,
		func(r course) (course, error) { return r.Step("start", 0, time.Now()) }); err != nil {
		t.Fatal(err)
	}
	running, stop := context.WithCancel(ctx)
	l, err := listen()
	if err != nil {
		t.Fatal(err)
	}
	ended := make(chan error, 1)
	go func() { ended <- must(New(Options{Store: s.store})).Serve(running, l) }()
	guest := user{t, "http://" + l.Addr().String(), &http.Client{}, nil, ""}
	guest.want(200, "GET", "/healthz", nil, nil)
	stop()
	select {
	case err := <-ended:
		if err != nil {
			t.Error(err)
		}
	case <-time.After(5 * time.Second):
		t.Error("the server did not stop")
	}
}

func listen() (net.Listener, error) { return net.Listen("tcp", "127.0.0.1:0") }
