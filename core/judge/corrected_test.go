package judge

import (
	"math"
	"testing"

	"melodromos/core/drill"
	"melodromos/core/rig"
)

// What a coach says of a strike stands over what was judged, and everything that is counted follows.
func TestCorrect(t *testing.T) {
	line := aRound(t)
	plan := Planned(line, -1)
	whole := func() Judgement { return JudgeRound(line, late(plan, steady(0)), line.End, Source{Latency: true}) }
	r := whole()
	n := r.Clean
	r.Correct([]Correction{{10, Missed}, {20, Late}, {30, WrongHand}, {-1, Missed}, {9999, Missed}})
	if r.Clean != n-3 || r.Missed != 1 || r.Late != 1 || r.Extra != 1 || r.Longest != n-31 || len(r.Matches) != n-1 {
		t.Errorf(
			"%d clean of %d, %d missed, %d late, %d extra, %d in a row",
			r.Clean,
			n,
			r.Missed,
			r.Late,
			r.Extra,
			r.Longest,
		)
	}
	if len(r.Breaks) != 3 || r.Breaks[0].Streak != 10 {
		t.Errorf("%+v", r.Breaks)
	}
	r.Correct([]Correction{{10, Clean}, {20, Clean}, {30, Clean}})
	if r.Clean != n || r.Missed != 0 || r.Longest != n {
		t.Errorf("%d clean of %d once it is taken back", r.Clean, n)
	}
	again := whole()
	again.Correct(nil)
	if again.Clean != n {
		t.Error("nothing was corrected, and it changed")
	}
}

// A mark takes the strike before it for missed, unless one there was missed anyway; each mark is of one strike.
func TestMarksMoveTheJudgement(t *testing.T) {
	line := aRound(t)
	plan := Planned(line, -1)
	r := JudgeRound(line, late(plan, steady(0), 50), line.End, Source{Latency: true})
	n := r.Clean
	r.MarkMissed([]float64{plan[50].At + 0.4}) // that one is known
	if r.Clean != n || r.Missed != 1 {
		t.Errorf("a mark of what was missed anyway: %d clean, %d missed", r.Clean, r.Missed)
	}
	r.MarkMissed([]float64{plan[20].At + 0.1, plan[20].At + 0.2, plan[0].At - 9})
	if r.Clean != n-2 || r.Missed != 3 || r.Strikes[20] != Missed || r.Strikes[19] != Missed {
		t.Errorf("two marks: %d clean, %d missed", r.Clean, r.Missed)
	}
}

// Fists that touch in a fist roll are a harmless miss: two hands and no bag. It is not scored (common practice).
func TestFistsTouch(t *testing.T) {
	bag := rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.80}
	d := drill.SpeedBagDrill{Technique: drill.FistRoll, FirstHand: drill.Lead, Rebounds: 1, StrikeAngle: 30, Tempo: 240,
		Work: 30, Clock: drill.ByBeat}
	line, err := drill.Compile(d, bag)
	if err != nil {
		t.Fatal(err)
	}
	for i := range line.Events {
		if line.Events[i].Kind == drill.Strike {
			line.Events[i].Count = 1
		}
	}
	plan := Planned(line, -1)
	var hits []Hit
	for i, s := range plan {
		if i%20 == 10 { // the fists meet, a little apart
			hits = append(hits, Hit{At: s.At, Hand: drill.Lead}, Hit{At: s.At + 0.02, Hand: drill.Rear})
			continue
		}
		hits = append(hits, Hit{At: s.At, Hand: s.Hand, Launch: 2})
	}
	r := JudgeRound(line, hits, line.End, Source{Latency: true})
	if r.Missed != 0 || r.Extra != 0 || r.Harmless == 0 || r.CleanShare() != 1 {
		t.Errorf("%d missed, %d extra, %d harmless, %.2f clean", r.Missed, r.Extra, r.Harmless, r.CleanShare())
	}
	says(t, r, "Fists touched")
	// a source that knows of no force cannot tell: the two are hits like others
	for i := range hits {
		hits[i].Launch = 0
	}
	if r := JudgeRound(line, hits, line.End, Source{Latency: true}); r.Harmless != 0 {
		t.Errorf("%d harmless by times alone", r.Harmless)
	}
}

// The parts of a round add up to it.
func TestParts(t *testing.T) {
	line := aRound(t)
	plan := Planned(line, -1)
	r := JudgeRound(line, late(plan, func(i int) float64 { return 0.001 * float64(i%7) }, 3, 90), line.End,
		Source{Latency: true})
	planned, clean := 0, 0
	for _, p := range r.Thirds() {
		planned, clean = planned+p.Planned, clean+p.Clean
	}
	if planned != len(plan) || clean != r.Clean || r.AfterDefence() != nil {
		t.Errorf("%d of %d strikes in the thirds, %d of %d clean", planned, len(plan), clean, r.Clean)
	}
	if r.ByPart() != nil {
		t.Error("a rhythm has parts")
	}
	for i := range r.Planned {
		r.Planned[i].Part = i % 2
	}
	if parts := r.ByPart(); len(parts) != 2 || parts[0].Planned+parts[1].Planned != len(plan) ||
		parts[1].Name != "part 2" || parts[0].Clean+parts[1].Clean != r.Clean {
		t.Errorf("%+v", parts)
	}
	plan[5].Defended, r.Planned[5].Defended = true, true
	parts := r.AfterDefence()
	if len(parts) != 2 || parts[0].Planned != 1 || math.Abs(parts[0].Bias-0.005) > 1e-9 ||
		!math.IsNaN(parts[0].Spread) {
		t.Errorf("%+v", parts)
	}
}
