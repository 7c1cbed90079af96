package judge

import (
	"math/rand/v2"
	"strings"
	"testing"

	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/words"
)

// aRound compiles a minute of the basic rhythm, hand after hand.
func aRound(t *testing.T) drill.Timeline {
	t.Helper()
	bag := rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.80}
	d := drill.SpeedBagDrill{Technique: drill.Alternating, FirstHand: drill.Lead, Rebounds: 3, StrikeAngle: 25,
		Tempo: 120, Work: 60}
	line, err := drill.Compile(d, bag)
	if err != nil {
		t.Fatal(err)
	}
	return line
}

func says(t *testing.T, r Judgement, want string) {
	t.Helper()
	all := r.Gist().Sentence() + " " + strings.Join(r.Remarks(words.Metric), " ")
	if !strings.Contains(all, want) {
		t.Errorf("%q does not say %q", all, want)
	}
}

func TestRoundSays(t *testing.T) {
	line := aRound(t)
	planned := Planned(line, -1)
	noise := rand.New(rand.NewPCG(1, 2))
	shaky := func(e float64) func(int) float64 {
		return func(int) float64 { return e + 0.004*noise.NormFloat64() }
	}
	kept := Source{Latency: true}

	r := JudgeRound(line, late(planned, shaky(0)), line.End, kept)
	says(t, r, "100 % clean: 120 of 120 strikes, 120 in a row.")
	says(t, r, "Neither early nor late")
	if r.Inbound < 0.99 { // met before the bag turns or hangs
		t.Errorf("inbound %g", r.Inbound)
	}
	says(
		t,
		JudgeRound(line, late(planned, shaky(0.020)), line.End, kept),
		"Two hits in three within 4 ms of one another",
	)
	says(t, JudgeRound(line, late(planned, shaky(0.100)), line.End, Source{}), "A steady 101 ms was taken off")
	falling := JudgeRound(line, late(planned, func(i int) float64 { return shaky(0)(i) + 0.020*planned[i].At/60 }),
		line.End, kept)
	says(t, falling, "Falling behind by 21 ms a minute.")
}

// A round is judged as far as it came; hits in the count-in and after it was stopped belong to nobody.
func TestRoundSoFar(t *testing.T) {
	line := aRound(t)
	planned := Planned(line, -1)
	hits := append(late(planned[:20], steady(0)), Hit{At: 0.2}, Hit{At: 0.9})
	hits = append(hits, late(planned[22:90], steady(0))...)
	r := JudgeRound(line, hits, line.Start+10_000_000-1, Source{Latency: true})
	if len(r.Planned) != 20 || r.Clean != 20 || r.Extra != 0 || r.To != line.Start.Seconds()+10-1e-6 {
		t.Errorf("%d planned, %d clean, %d extra, to %g", len(r.Planned), r.Clean, r.Extra, r.To)
	}
	says(t, JudgeRound(line, nil, line.Start, Source{}), "Stopped before the first strike")
	says(t, JudgeRound(line, nil, line.End, Source{}), "Not judged: no hits were recorded, of 120 strikes.")
	says(t, JudgeRound(line, late(planned[:3], steady(0)), line.End, Source{Latency: true}), "too few to say more")
}

// The two contacts of a double punch are one blow up to 80 ms apart, and two beyond (assumed): the second is then an
// extra.
func TestHeardAsOneOrTwo(t *testing.T) {
	line := drill.Timeline{End: 5_000_000}
	for i := range 4 {
		line.Events = append(line.Events, drill.Event{At: drill.Micros(1_000_000 * (i + 1)), Kind: drill.Strike, N: i,
			Hand: drill.Both, Window: 60_000})
	}
	var hits []Hit
	for i, gap := range []float64{0.03, 0.06, 0.079, 0.12} {
		at := float64(i + 1)
		hits = append(hits, Hit{At: at, Hand: drill.Lead}, Hit{At: at + gap, Hand: drill.Rear})
	}
	r := JudgeRound(line, hits, line.End, Source{Latency: true})
	if r.Clean != 4 || r.Extra != 1 || r.WrongHand != 0 || len(r.Hits) != 5 {
		t.Errorf("%d clean, %d extra, %d with the wrong hand of %d hits", r.Clean, r.Extra, r.WrongHand, len(r.Hits))
	}
}
