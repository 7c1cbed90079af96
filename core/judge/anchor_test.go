package judge

import (
	"math"
	"strings"
	"testing"
	"time"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

// A combination goes by its own first strike, since that sets the bag going: begun late, what follows on the bag's
// returns is clean, and only the first strike itself is held against the call. Where the first was missed, the rest
// still finds its places.
func TestAnchored(t *testing.T) {
	cord := rig.Cord{Span: 0.75, Relaxed: 0.66, Stiffness: 90}
	bag := rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04}
	c := drill.CombinationDrill{Text: "1-2-3 - slip lead - 3", Stance: combo.Orthodox, Landing: drill.OnReturns,
		Pace: drill.Combining, Fist: 3, Pause: 2, Work: 40, Guidance: drill.Alone}
	line, rep, err := drill.CompileCombination(c, drill.Floor{Bag: bag, Ability: trainee.Start(trainee.Intermediate),
		Seed: 1})
	if err != nil {
		t.Fatal(err)
	}
	strikes := Planned(line, -1)
	begins := func(rep int) float64 { return []float64{-0.1, 0.05, 0.3, 0.42}[rep%4] }
	play := func(missed bool, latency float64) []Hit {
		var hits []Hit
		for _, s := range strikes {
			if missed && s.Still && s.Rep%2 == 0 {
				continue
			}
			hits = append(hits, Hit{At: s.At + begins(s.Rep) + latency, Hand: s.Hand})
		}
		return hits
	}
	reps := len(line.Film.Starts)
	late := 0
	for k := range reps {
		if begins(k) > restHalf {
			late++
		}
	}
	for name, kept := range map[string]bool{"latency known": true, "latency not known": false} {
		r := JudgeRound(line, play(false, 0), line.End, Source{Latency: kept})
		if kept && (r.Late != late || r.Clean != len(strikes)-late) || r.Missed != 0 || r.Clean < 3*reps {
			t.Errorf("%s: %d of %d clean, %d late, %d missed; want %d late", name, r.Clean, len(strikes), r.Late,
				r.Missed, late)
		}
		if !(math.Abs(r.Spread) < 1e-6) {
			t.Errorf("%s: spread %g", name, r.Spread)
		}
	}
	r := JudgeRound(line, play(true, 0), line.End, Source{Latency: true})
	if missed := (reps + 1) / 2; r.Missed != missed || r.Clean+r.Late != len(strikes)-missed || r.Clean < 3*reps {
		t.Errorf("first ones missed: %d clean, %d late, %d missed of %d", r.Clean, r.Late, r.Missed, len(strikes))
	}
	// The strikes are shown where the bag had them.
	for i, s := range r.Planned {
		if !s.Still && s.Rep%2 == 1 && math.Abs(s.At-strikes[i].At-begins(s.Rep)) > 1e-6 {
			t.Fatalf("strike %d stands at %g, the bag had it at %g", i, s.At, strikes[i].At+begins(s.Rep))
		}
	}
	if rep.Moves[0].Still != true || rep.Moves[1].Still {
		t.Error("the first strike alone meets a bag at rest")
	}
}

// Where every strike meets a bag at rest there is no lateness to tell, and nothing is said in figures that are none.
func TestAllAtRest(t *testing.T) {
	bag := rig.ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50, Damping: 0.06}
	c := drill.CombinationDrill{Text: "1", Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Combining,
		Pause: 1, Work: 40, Guidance: drill.Alone}
	line, _, err := drill.CompileCombination(c, drill.Floor{Bag: bag, Ability: trainee.Start(trainee.Intermediate),
		Seed: 1})
	if err != nil {
		t.Fatal(err)
	}
	var hits []Hit
	for i, s := range Planned(line, -1) {
		hits = append(hits, Hit{At: s.At + 0.05*float64(i%3), Hand: s.Hand})
	}
	for _, kept := range []bool{true, false} {
		r := JudgeRound(line, hits, line.End, Source{Latency: kept})
		if r.Clean != len(hits) {
			t.Errorf("%d of %d clean", r.Clean, len(hits))
		}
		for _, said := range append(r.Remarks(words.Metric), r.Gist().Sentence()) {
			if strings.Contains(said, "NaN") {
				t.Error(said)
			}
		}
	}
}

const restHalf = 0.15 // s, half of what a strike on a bag at rest may be off

// What a round tells of somebody leaves out the strikes that no bag timed, and those after it was stopped; where
// repetitions begin is told as they did.
func TestHeard(t *testing.T) {
	cord := rig.Cord{Span: 0.75, Relaxed: 0.66, Stiffness: 90}
	bag := rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04}
	a := trainee.Start(trainee.Intermediate)
	c := drill.CombinationDrill{Text: "1-2-3", Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Combining,
		Fist: 3, Pause: 2, Work: 40, Guidance: drill.Alone}
	line, _, err := drill.CompileCombination(c, drill.Floor{Bag: bag, Ability: a, Seed: 1})
	if err != nil {
		t.Fatal(err)
	}
	var hits []Hit
	for i, s := range Planned(line, -1) {
		if i != 4 { // the 2 of the second repetition is missed
			hits = append(hits, Hit{At: s.At + 0.1*float64(s.Rep%2), Hand: s.Hand})
		}
	}
	reps := len(line.Film.Starts)
	r := JudgeRound(line, hits, line.End, Source{Latency: true})
	h := r.Heard(line, c, rig.DoubleEnd, a, time.Time{})
	if h.Planned != 2*reps || h.Missed != 1 || h.Matched != 2*reps-1 || !h.Known || h.Bag != rig.DoubleEnd {
		t.Errorf("%+v of %d repetitions", h, reps)
	}
	near(t, "age of the cue: a sight and the way", h.Age, trainee.SightReaction+0.15, 1e-9)
	begun := r.Begun(line, line.Film.Starts)
	for k, at := range begun {
		near(t, "begun", at-line.Film.Starts[k], 0.1*float64(k%2), 1e-6)
	}
	half := JudgeRound(line, hits, (line.Start+line.End)/2, Source{Latency: true})
	if short := half.Heard(line, c, rig.DoubleEnd, a, time.Time{}); short.Planned >= h.Planned || short.Planned == 0 {
		t.Errorf("stopped half way: %+v", short)
	}
}
