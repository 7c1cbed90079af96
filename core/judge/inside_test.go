package judge

import (
	"math"
	"strings"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// The tempo inside a combination leaves the waits between out, and is held against the goal and the slower one.
func TestInside(t *testing.T) {
	bag := rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5, AnchorHeight: 2.7}
	c := drill.CombinationDrill{Text: "1-2-3 - step back - 2", Stance: combo.Orthodox, Landing: drill.Freely,
		Pace: drill.Combining, Tempo: 150, Slower: 120, Pause: 3, Work: 40, Guidance: drill.Alone}
	line, _, err := drill.CompileCombination(c, drill.Floor{Bag: bag, Ability: trainee.Start(trainee.Intermediate),
		Seed: 1})
	if err != nil {
		t.Fatal(err)
	}
	struck := func(stretch float64) Judgement { // hits whose intervals inside a repetition are so much longer
		var hits []Hit
		first := 0.0
		for _, e := range line.Events {
			if e.Kind != drill.Strike {
				continue
			}
			if e.Move == 0 {
				first = e.At.Seconds()
			}
			hits = append(hits, Hit{At: first + stretch*(e.At.Seconds()-first), Hand: e.Hand})
		}
		return JudgeRound(line, hits, line.End, Source{Latency: true})
	}
	if got := struck(1).Inside(); math.Abs(got-150) > 0.01 {
		t.Errorf("as planned: %g a minute", got)
	}
	for said, stretch := range map[string]float64{"is met": 1.01, "still fine down to 120": 1.15,
		"slower than the 120": 1.32} {
		if got := struck(stretch).Pace(c.Tempo, c.Slower); !strings.Contains(got, said) {
			t.Errorf("at %g of the intervals: %q, want %q", stretch, got, said)
		}
	}
	if got := struck(1).Pace(0, 0); got != "" {
		t.Errorf("without a goal: %q", got)
	}
}
