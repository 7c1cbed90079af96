package run

import (
	"encoding/json"
	"errors"
	"math"
	"testing"
	"time"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/judge"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

var began = time.Date(2026, 3, 2, 18, 0, 0, 0, time.UTC)

func after(seconds float64) time.Time {
	return began.Add(time.Duration(seconds * float64(time.Second)))
}

func us(seconds float64) drill.Micros { return drill.Micros(seconds * 1e6) }

// step is an action at a moment of the round's clock and of the wall (s).
type step struct {
	Action
	clock, wall float64
}

// What a round is after its actions, in whatever order they come: early, late and twice.
func TestCourse(t *testing.T) {
	for name, x := range map[string]struct {
		steps  []step
		state  State
		ending judge.Ended
		clock  float64
	}{
		"to its bell": {[]step{{Start, 0, 0}, {Finish, 64, 64}}, Done, judge.AtBell, 64},
		"paused on the way": {[]step{{Start, 0, 0}, {Pause, 10, 10}, {Resume, 10, 30}, {Finish, 64, 84}}, Done,
			judge.AtBell, 64},
		"stopped":                  {[]step{{Start, 0, 0}, {Stop, 20, 20}}, Stopped, judge.Stopped, 20},
		"stopped twice":            {[]step{{Start, 0, 0}, {Stop, 20, 20}, {Stop, 25, 25}}, Stopped, judge.Stopped, 20},
		"stopped after its bell":   {[]step{{Start, 0, 0}, {Finish, 64, 64}, {Stop, 70, 70}}, Done, judge.AtBell, 64},
		"started after its bell":   {[]step{{Start, 0, 0}, {Finish, 64, 64}, {Start, 0, 70}}, Done, judge.AtBell, 64},
		"stopped before its start": {[]step{{Stop, 3, 3}}, Stopped, judge.Stopped, 0},
		"its start got lost":       {[]step{{Finish, 64, 64}}, Stopped, judge.Stopped, 0},
		"on again after a stop":    {[]step{{Start, 0, 0}, {Stop, 20, 20}, {Resume, 20, 40}}, Running, "", 20},
		"bell after a stop":        {[]step{{Start, 0, 0}, {Stop, 20, 20}, {Finish, 64, 64}}, Done, judge.AtBell, 64},
		"paused after a stop":      {[]step{{Start, 0, 0}, {Stop, 20, 20}, {Pause, 20, 21}}, Paused, "", 20},
		"started twice":            {[]step{{Start, 0, 0}, {Start, 5, 5}}, Running, "", 5},
	} {
		c := New(began)
		for _, s := range x.steps {
			var err error
			if c, err = c.Step(s.Action, us(s.clock), after(s.wall)); err != nil {
				t.Fatalf("%s: %v", name, err)
			}
		}
		over := c.State.Over()
		if c.State != x.state || c.Ending != x.ending || c.Clock != us(x.clock) || over != !c.Ended.IsZero() ||
			(c.State == Running) != !c.Zero.IsZero() || over != (c.Ending != "") {
			t.Errorf("%s: %+v", name, c)
		}
	}
	for _, a := range []Action{Pause, "dance", ""} {
		var refusal *input.Error
		if _, err := New(began).Step(a, 0, began); !errors.As(err, &refusal) || refusal.Field != "action" {
			t.Errorf("%q of a round that is ready: %v", a, err)
		}
	}
}

// The clock runs while the round does, never backwards; only the screen's word keeps a round open.
func TestClock(t *testing.T) {
	c, _ := New(began).Step(Start, 0, began)
	if now := c.Now(after(3)); now != us(3) {
		t.Errorf("after three seconds the clock stands at %d", now)
	}
	c = c.Heard(us(4), after(4)).Heard(us(2), after(5))
	if c.Clock != us(4) || !c.Seen.Equal(after(5)) {
		t.Errorf("heard of: %+v", c)
	}
	gone := c.Vanish()
	if gone.State != Stopped || gone.Ending != judge.Vanished || gone.Clock != us(4) || !gone.Ended.Equal(after(5)) ||
		gone.Now(after(100)) != us(4) {
		t.Errorf("vanished: %+v", gone)
	}
	if again := gone.Vanish(); again != gone {
		t.Errorf("vanished twice: %+v", again)
	}
	if late := gone.Heard(us(9), after(9)); late != gone {
		t.Errorf("heard of after its end: %+v", late)
	}
	back, _ := gone.Step(Resume, us(6), after(20))
	if back.State != Running || !back.Started.Equal(began) || back.Now(after(21)) != us(7) {
		t.Errorf("back: %+v", back)
	}
	if never := New(began).Vanish(); never.State != Stopped || never.Clock != 0 {
		t.Errorf("never started: %+v", never)
	}
}

var (
	board = rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.8}
	plumb = rig.SlipBag{AnchorHeight: 2.8, CentreHeight: 1.5, BagDiameter: 0.2, BagMass: 0.5}
)

func floor(bag rig.Rig) drill.Floor {
	return drill.Floor{Bag: bag, Ability: trainee.Start(trainee.Intermediate), Theirs: true, Seed: 1}
}

func rhythm() drill.SpeedBagDrill {
	return drill.SpeedBagDrill{Technique: drill.OneHand, FirstHand: drill.Rear, PerHand: 5, Rebounds: 3,
		StrikeAngle: 25, Work: 30, Calls: true}
}

func prepared(t testing.TB, p drill.Plan, bag rig.Rig, by drill.Recorder) Record {
	t.Helper()
	out, err := Prepare(p, floor(bag), by, "")
	if err != nil {
		t.Fatal(err)
	}
	return Record{Opened: Opened{Bag: bag, Plan: out.Plan, Timeline: out.Timeline, By: by, Plays: out.Plays},
		Until: out.Timeline.End, Ended: judge.AtBell, Band: trainee.Intermediate}
}

// met strikes the bag of a round as it really comes back, at the planned force, told by a sensor.
func met(t testing.TB, r *Record) {
	t.Helper()
	bag := r.Bag.(rig.SpeedBag)
	now := r.Timeline.Start.Seconds()
	for i := 0; us(now) < r.Until; i++ {
		launch := r.Timeline.Launch * (1 + 0.02*math.Sin(float64(i)))
		r.Hits = append(r.Hits, CapturedHit{At: us(now), Hand: r.hand(i), Launch: launch})
		back, err := bag.Return(launch, rig.Three)
		if err != nil {
			t.Fatal(err)
		}
		now += back.At
	}
}

func (r Record) hand(i int) drill.Hand {
	for _, e := range append(r.Timeline.Events, r.Timeline.Beyond...) {
		if e.Kind == drill.Strike {
			if i == 0 {
				return e.Hand
			}
			i--
		}
	}
	return ""
}

// What is prepared can be stored, opened again and judged to the same: a drill that was left open keeps the tempo that
// it was run at.
func TestPreparedAndOpened(t *testing.T) {
	r := prepared(t, rhythm(), board, drill.Sensor)
	if r.Plan.(drill.SpeedBagDrill).Tempo == 0 || r.Plays != drill.FollowHits {
		t.Errorf("%+v, %s", r.Plan, r.Plays)
	}
	met(t, &r)
	bag, _ := json.Marshal(r.Bag)
	plan, _ := json.Marshal(r.Plan)
	line, _ := json.Marshal(r.Timeline)
	opened, err := Open(bag, plan, line, r.By, r.Plays)
	if err != nil {
		t.Fatal(err)
	}
	again := r
	again.Opened = opened
	one, two := r.Judge().Summary, again.Judge().Summary
	if one.Headline != two.Headline || one.Share != two.Share || one.Share < 0.97 || !one.Counts || one.Missed > 1 ||
		opened.Tempo() != r.Tempo() || opened.Tempo() == 0 {
		t.Errorf("%+v, then %+v", one, two)
	}
	if c, err := opened.Cycle(); err != nil || len(c.Trace) == 0 {
		t.Errorf("no motion to draw: %v", err)
	}
	for i, docs := range [][3]string{{`{}`, string(plan), string(line)}, {string(bag), `{}`, string(line)},
		{string(bag), string(plan), `[]`}} {
		if _, err := Open([]byte(docs[0]), []byte(docs[1]), []byte(docs[2]), r.By, r.Plays); err == nil {
			t.Errorf("documents %d were opened", i)
		}
	}
	if _, err := Prepare(rhythm(), floor(board), drill.Nothing, drill.FollowHits); err == nil {
		t.Error("nothing is recorded and followed")
	}
}

// Only a judged round that came to its bell shows something of anybody, and tells of the bag.
func TestWhatARoundShows(t *testing.T) {
	a := trainee.Start(trainee.Intermediate)
	r := prepared(t, rhythm(), board, drill.Sensor)
	met(t, &r)
	exact := drill.Micros(0)
	r.Latency = &exact
	whole := r.Judge()
	if len(whole.Shows(a, began)) == 0 || whole.Summary.Rig == nil || math.Abs(whole.Summary.Rig.Value-0.8) > 0.02 {
		t.Errorf("%+v", whole.Summary)
	}
	stopped := r
	stopped.Ended, stopped.Until = judge.Stopped, r.Until/2
	nothing := r
	nothing.Hits = nil
	for name, x := range map[string]Record{"stopped": stopped, "nothing came in": nothing} {
		if j := x.Judge(); j.Summary.Counts || len(j.Shows(a, began)) > 0 || j.Summary.Rig != nil {
			t.Errorf("%s: %+v", name, j.Summary)
		}
	}
	wild := r
	wild.Marks = []Mark{{us(5), MarkWild}}
	if !wild.Judge().Summary.Wild || r.Judge().Summary.Wild {
		t.Error("a wild round is not told")
	}
}

// Against a slip bag the coach's marks tell, where nothing is struck.
func TestSlips(t *testing.T) {
	p := drill.CombinationDrill{Text: "slip lead - slip rear", Stance: combo.Orthodox, Landing: drill.OnReturns,
		Pace: drill.Combining, Pause: 1, Work: 30, Guidance: drill.Called}
	r := prepared(t, p, plumb, drill.Taps)
	var at drill.Micros
	for _, e := range r.Timeline.Events {
		if e.Against() {
			at = e.At
			break
		}
	}
	r.Marks = []Mark{{at + us(0.3), MarkTouched}}
	j := r.Judge()
	if s := j.Summary; s.Passes == 0 || s.Clean != s.Passes-1 || s.Missed != 1 || !s.Counts {
		t.Errorf("%+v", s)
	}
	if v := j.Review(nil, words.Metric); v.Slips == nil || len(v.Marks) != 1 || v.Marks[0].Kind != "touched" ||
		!v.Judged {
		t.Errorf("%+v", v)
	}
}

// A review tells each strike and each hit, and what belongs to what.
func TestReview(t *testing.T) {
	r := prepared(t, rhythm(), board, drill.Sensor)
	met(t, &r)
	r.Hits = append(r.Hits, CapturedHit{At: us(12.34), Launch: 1})
	v := r.Judge().Review(nil, words.Metric)
	extra, told := 0, 0
	for _, h := range v.Hits {
		if h.Extra {
			extra++
		}
	}
	for _, s := range v.Strikes {
		if s.Error != nil {
			told++
		}
	}
	if extra != v.Extra || told != len(v.Hits)-extra || len(v.Strikes) < 20 || v.KeptBy != "bag" || len(v.Recap) != 3 ||
		v.Headline != v.Summary.Headline || v.Tempo == nil {
		t.Errorf("%d extra, %d told of %d: %+v", extra, told, len(v.Hits), v.Summary)
	}
	if _, err := json.Marshal(v); err != nil {
		t.Error(err)
	}
}
