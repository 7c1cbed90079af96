package server

import (
	"math"
	"strings"
	"testing"

	"melodromos/core/bench"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/run"
)

// exact strikes the bag of a run that follows the hits: each hit meets it when it really comes back from the one
// before, at a share of the planned force that the sensor tells, on a bag that keeps so much of its speed.
func (u user) exact(run Run, keeps, force float64, until drill.Micros) []HitIn {
	u.t.Helper()
	bag, ok := run.Rig.Rig.(rig.SpeedBag)
	if !ok {
		u.t.Fatal("no speed bag")
	}
	bag.Restitution = keeps
	var hits []HitIn
	now := run.Timeline.Start.Seconds()
	for i := 0; drill.Micros(now*1e6) < until; i++ {
		launch := force * run.Timeline.Launch * (1 + 0.02*math.Sin(float64(i)))
		hits = append(hits, HitIn{Seq: i, At: at(int64(now * 1e6)), Launch: &launch})
		back, err := bag.Return(launch, rig.Three)
		if err != nil {
			u.t.Fatal(err)
		}
		now += back.At
	}
	return hits
}

// round runs a drill to an end with the hits that it is given.
func (u user) round(d Assignment, source drill.Recorder, end run.Action, hits func(Run) []HitIn) (Run, Review) {
	u.t.Helper()
	var made Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: source}, &made)
	u.want(200, "POST", "/api/runs/"+made.ID+"/clock", Step{"start", 0}, nil)
	clock := int64(made.Timeline.End)
	if end == "stop" {
		clock = int64((made.Timeline.Start + made.Timeline.End) / 2)
	}
	if list := hits(made); len(list) > 0 {
		path := "/api/runs/" + made.ID + "/hits"
		if source == "device" {
			path = "/api/intake/" + made.IntakeKey
		}
		u.want(200, "POST", path, Batch{Device: "pad", Hits: list}, nil)
	}
	u.want(200, "POST", "/api/runs/"+made.ID+"/clock", Step{end, clock}, nil)
	var v Review
	u.want(200, "GET", "/api/runs/"+made.ID+"/review", nil, &v)
	return made, v
}

func says(t *testing.T, v Review, what string) {
	t.Helper()
	if all := v.Headline + " " + strings.Join(v.Remarks, " "); !strings.Contains(all, what) {
		t.Errorf("%q does not say %q", all, what)
	}
}

// A round on a bag that is struck harder is clean and quicker; what is told is the tempo and the force.
func TestARoundGoesByTheBag(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Larch")
	_, _, d := u.furnished(30)
	_, v := u.round(d, "device", "finish", func(r Run) []HitIn { return u.exact(r, 0.8, 1.05, r.Timeline.End) })
	if v.KeptBy != "bag" || v.Summary.Share < 0.97 || v.Missed > 1 || !(*v.Tempo > *v.Asked*1.02) || !v.Summary.Counts {
		t.Errorf("%s: %.2f clean, %d missed, %.1f of %.1f a minute", v.KeptBy, v.Summary.Share, v.Missed, *v.Tempo,
			*v.Asked)
	}
	says(t, v, "strikes a minute;")
	says(t, v, "Struck at")
}

// How a round runs is chosen by its clock and by what records it, and refused where there is nothing to follow.
func TestHowARoundRuns(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Larch")
	_, _, d := u.furnished(30)
	for source, want := range map[drill.Recorder]drill.Playing{drill.Taps: drill.StartThenFollow,
		drill.Sensor: drill.FollowHits, drill.Nothing: drill.PlayBeat} {
		var run Run
		u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: source}, &run)
		if run.Plays != want || (run.FollowsUS > int64(run.Timeline.End)) != (want == drill.PlayBeat) ||
			run.Timeline.Bag == nil {
			t.Errorf("%s: %s from %d", source, run.Plays, run.FollowsUS)
		}
	}
	if status, _, out := u.do("POST", "/api/runs",
		NewRun{AssignmentID: d.ID, Source: "none", Plays: "follow"}); status != 422 {
		t.Errorf("nothing recorded and followed: %d %s", status, out)
	}
	d.Doc = changed(d.Doc, func(d *drill.SpeedBagDrill) { d.Clock = drill.ByBeat })
	u.want(200, "PUT", "/api/assignments/"+d.ID, d, &d)
	var run Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &run)
	if run.Plays != "beat" || run.Timeline.Bag != nil {
		t.Errorf("on the beat's clock: %s", run.Plays)
	}
}

// A round without hits, one that was stopped and one whose screen vanished are logged as what they are and move
// nothing.
func TestWhatDoesNotCount(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Larch")
	person, rigs := u.hung("speed")
	d := u.rhythm(person, rigs["speed"])
	ladder := func() (l Ladder) {
		u.want(200, "GET", "/api/trainees/"+person.ID+"/ladder/speed", nil, &l)
		return l
	}
	found := func() int {
		var p PersonPage
		u.want(200, "GET", "/api/trainees/"+person.ID+"/page", nil, &p)
		n := 0
		for _, f := range p.Figures {
			n += f.Found
		}
		return n
	}
	before := ladder()
	nothing := func(Run) []HitIn { return nil }
	_, v := u.round(d, "none", "finish", nothing)
	says(t, v, "Nothing was recorded, so it is not judged.")
	if v.Judged || v.Summary.Counts {
		t.Error("a round that recorded nothing is judged")
	}
	for range 4 {
		_, v = u.round(d, "device", "stop",
			func(r Run) []HitIn { return u.exact(r, 0.8, 1, (r.Timeline.Start+r.Timeline.End)/3) })
	}
	says(t, v, "Stopped early, after")
	_, v = u.round(d, "device", "finish", nothing)
	says(t, v, "Not judged: no hits were recorded")
	_, v = u.round(d, "device", "finish", func(r Run) []HitIn { // a clock that ticks every 20 ms
		hits := u.exact(r, 0.8, 1, r.Timeline.End)
		for i := range hits {
			*hits[i].At = *hits[i].At / 20_000 * 20_000
		}
		return hits
	})
	says(t, v, "too coarse to tell clean from late")
	if !v.Summary.Unjudged || v.Summary.Counts || v.Summary.Share != 0 || v.Summary.Hits == 0 {
		t.Errorf("a source that is too coarse: %+v", v.Summary)
	}
	after := ladder()
	if before.Proposal.Index != after.Proposal.Index || before.Proposal.Why != after.Proposal.Why || found() != 0 ||
		len(after.Rungs[1].Rounds) != 0 {
		t.Errorf("before %+v, after %+v, %d findings", before.Proposal, after.Proposal, found())
	}
	// One that counts does move them; removed from the log it is as if it had not been, and it can be brought back.
	run, v := u.round(d, "device", "finish", func(r Run) []HitIn { return u.exact(r, 0.8, 1, r.Timeline.End) })
	if !v.Summary.Counts || len(ladder().Rungs[1].Rounds) != 1 || found() == 0 {
		t.Errorf("a clean round moves nothing: %+v", v.Summary)
	}
	logged := func(query string) (list []LogRow) {
		u.want(200, "GET", "/api/runs?trainee="+person.ID+query, nil, &list)
		return list
	}
	all := len(logged(""))
	u.want(204, "POST", "/api/runs/"+run.ID+"/remove", nil, nil)
	if len(ladder().Rungs[1].Rounds) != 0 || found() != 0 || len(logged("")) != all-1 ||
		len(logged("&removed=true")) != 1 {
		t.Errorf("a removed round still moves: %d findings, %d logged", found(), len(logged("")))
	}
	u.want(204, "POST", "/api/runs/"+run.ID+"/restore", nil, nil)
	if len(ladder().Rungs[1].Rounds) != 1 || found() == 0 || len(logged("")) != all {
		t.Error("a round that was brought back does not count again")
	}
	other := s.coach(t, "Birch")
	if status, _, _ := other.do("POST", "/api/runs/"+run.ID+"/remove", nil); status != 404 {
		t.Errorf("removed from another gym: %d", status)
	}
}

// A bag that keeps 77 % of its speed and not 80 shows in rounds with known force; six agree, the coach takes their
// figure, and may undo it.
func TestRecalibratedFromRounds(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Larch")
	_, r, d := u.furnished(30)
	told := func() *bench.FromRounds {
		var out Rig
		u.want(200, "GET", "/api/rigs/"+r.ID, nil, &out)
		r = out
		return out.FromRounds
	}
	for n := range 6 {
		if told() != nil {
			t.Errorf("offered after %d rounds", n)
		}
		u.round(d, "device", "finish", func(run Run) []HitIn { return u.exact(run, 0.77, 1, run.Timeline.End) })
	}
	offer := told()
	if offer == nil || math.Abs(offer.Value-0.77) > 0.005 ||
		!strings.Contains(offer.Text, "77 % of its speed at the board, not 80: six rounds agree") {
		t.Fatalf("%+v", offer)
	}
	u.want(200, "POST", "/api/rigs/"+r.ID+"/calibrations",
		NewCalibration{Version: r.Version, Measured: bench.Measured{Method: "rounds"}}, nil)
	if told() != nil || math.Abs(r.Doc.Rig.(rig.SpeedBag).Restitution-0.77) > 0.005 {
		t.Errorf("taken: %+v, %+v", r.FromRounds, r.Doc.Rig)
	}
	if status, _, out := u.do("POST", "/api/rigs/"+r.ID+"/calibrations",
		NewCalibration{Version: r.Version, Measured: bench.Measured{Method: "rounds"}}); status != 422 {
		t.Errorf("taken twice: %d %s", status, out)
	}
}
