package judge

import (
	"math"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// played strikes a bag exactly: every strike of a timeline meets the bag as it really comes back from the strike
// before, each driven off by a share of the planned force; repetitions begin off their call by begins.
func played(t *testing.T, line drill.Timeline, bag rig.Rig, m rig.Meeting, force float64,
	begins func(rep int) float64) []Hit {
	t.Helper()
	var hits []Hit
	var before drill.Event
	for _, e := range line.Events {
		if e.Kind != drill.Strike {
			continue
		}
		at := e.At.Seconds() + begins(e.Rep)
		if !e.Still && before.Launch > 0 {
			n := e.Count
			meeting := rig.Meeting{Rebounds: e.Count, Angle: m.Angle}
			if bag.Kind() == rig.Speed {
				n = 1
			}
			list, err := bag.Returns(force*before.Launch, meeting, n)
			if err != nil {
				t.Fatal(err)
			}
			at = hits[len(hits)-1].At + before.Ahead.Seconds() + list[n-1].At - e.Ahead.Seconds()
		}
		hits = append(hits, Hit{At: at, Hand: e.Hand})
		before = e
	}
	return hits
}

func onTime(int) float64 { return 0 }

// A line on cords, exactly met, each strike 10 % harder than planned: the bag comes sooner, and nobody is early.
func TestALineStruckHarder(t *testing.T) {
	bag := rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: ownCord, Lower: ownCord, Damping: 0.04}
	for _, text := range []string{"1-2-3-2-3-2", "1:2 2:2 1", "1-2 - slip lead - 3"} {
		c := drill.CombinationDrill{Text: text, Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Combining,
			Pause: 1, Work: 60, Guidance: drill.Alone}
		on := drill.Floor{Bag: bag, Ability: trainee.Start(trainee.Intermediate), Seed: 1}
		line, err := c.Lay(on)
		if err != nil {
			t.Fatal(err)
		}
		if err := drill.Hang(&line, c, on); err != nil {
			t.Fatal(err)
		}
		for _, force := range []float64{0.9, 1, 1.1} {
			hits := played(t, line, bag, rig.Meeting{}, force,
				func(rep int) float64 { return []float64{-0.1, 0.05, 0.3, 0.42}[rep%4] })
			r := JudgeRound(line, hits, line.End, Source{Latency: true})
			if r.By != drill.ByBag || r.CleanShare() < 0.95 || r.Extra > 0 {
				t.Errorf("%s at %.1f of the force: %.1f %% clean, %d missed, %d extra", text, force, 100*r.CleanShare(),
					r.Missed, r.Extra)
			}
		}
	}
}

// Every technique of the speed bag, exactly met on a bag that is struck a little harder: all clean, and the round holds
// more strikes than planned.
func TestTechniquesAreFollowed(t *testing.T) {
	for _, d := range []drill.SpeedBagDrill{
		{Technique: drill.OneHand, FirstHand: drill.Rear, PerHand: 5, Rebounds: 3, StrikeAngle: 25, Tempo: 112,
			Work: 60},
		{Technique: drill.Alternating, FirstHand: drill.Rear, Rebounds: 3, StrikeAngle: 25, Tempo: 120, Work: 60},
		{Technique: drill.FistRoll, FirstHand: drill.Rear, Rebounds: 1, StrikeAngle: 30, Tempo: 200, Work: 60},
		{Technique: drill.Linking, FirstHand: drill.Rear, PerHand: 4, Rebounds: 2, StrikeAngle: 25, Tempo: 150,
			Work: 60},
		{Technique: drill.Trap, FirstHand: drill.Rear, PerHand: 5, Rebounds: 3, StrikeAngle: 25, Tempo: 112, Work: 60},
	} {
		on := drill.Floor{Bag: speedBag, Seed: 1}
		line, err := d.Lay(on)
		if err != nil {
			t.Fatal(err)
		}
		if err := drill.Hang(&line, d, on); err != nil {
			t.Fatal(err)
		}
		hits := played(t, line, speedBag, d.Meeting(), 1.04, onTime)
		r := JudgeRound(line, hits, line.End, Source{})
		// A trap ends the bag's time: the hand lets it go when it likes, so what follows may be struck at any time.
		if d.Technique != drill.Trap && (r.Clean != len(hits) || r.Missed > 1 || r.Followed.Held.Tempo < 1.01*d.Tempo) {
			t.Errorf("%s: %d of %d clean, %d missed, %.1f a minute", d.Technique, r.Clean, len(hits), r.Missed,
				r.Followed.Held.Tempo)
		}
		if d.Technique == drill.Trap && r.CleanShare() < 0.95 {
			t.Errorf("trap: %.1f %% clean", 100*r.CleanShare())
		}
	}
}

// A round that was stopped, one that began late, one with no hits: what is judged is what came due.
func TestOnlyWhatCameDue(t *testing.T) {
	d := drill.SpeedBagDrill{Technique: drill.OneHand, FirstHand: drill.Rear, PerHand: 5, Rebounds: 3, StrikeAngle: 25,
		Tempo: 112, Work: 60}
	on := drill.Floor{Bag: speedBag, Seed: 1}
	line, err := d.Lay(on)
	if err != nil {
		t.Fatal(err)
	}
	if err := drill.Hang(&line, d, on); err != nil {
		t.Fatal(err)
	}
	hits := played(t, line, speedBag, d.Meeting(), 1, func(int) float64 { return 0.08 })
	half := line.Start + (line.End-line.Start)/2
	var first []Hit
	for _, h := range hits {
		if h.At < half.Seconds() {
			first = append(first, h)
		}
	}
	r := JudgeRound(line, first, half, Source{Latency: true})
	if r.Clean != len(first) || r.Missed > 1 || len(r.Planned) > len(first)+1 {
		t.Errorf("stopped midway: %d of %d clean, %d missed", r.Clean, len(r.Planned), r.Missed)
	}
	if r := JudgeRound(line, nil, line.End, Source{}); r.Missed != 112 || len(r.Planned) != 112 {
		t.Errorf("without hits: %d missed of %d", r.Missed, len(r.Planned))
	}
	quit := JudgeRound(line, hits[:20], line.End, Source{})
	if quit.Clean != 20 || math.Abs(float64(quit.Missed-92)) > 1 {
		t.Errorf("given up after 20: %d clean, %d missed", quit.Clean, quit.Missed)
	}
}
