package drill

import (
	"math"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Whoever gives the cues is told before each, from the side that the trainee rolls to, never at even gaps and never
// after the same punch each time (common practice).
func TestPartner(t *testing.T) {
	heavy := rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5, AnchorHeight: 2.7}
	c := CombinationDrill{Text: "1-2-3", Stance: combo.Orthodox, Landing: Freely, Pace: Combining, Pause: 2, Work: 170,
		Guidance: Alone, Cues: &Cues{Moves: []string{"roll lead", "roll rear"}, Least: 3, Mean: 7, Lead: 1.2}}
	for _, stance := range []combo.Stance{combo.Orthodox, combo.Southpaw} {
		c.Stance = stance
		line, err := c.Lay(Floor{Bag: heavy, Ability: trainee.Start(trainee.Intermediate), Seed: 5})
		if err != nil {
			t.Fatal(err)
		}
		cues := Partner(line, stance)
		if len(cues) < 10 {
			t.Fatalf("%d cues", len(cues))
		}
		// an orthodox lead side is the left one
		for _, e := range line.Events {
			if e.Kind == Cued {
				lead := e.Text == "roll lead"
				if said := cues[0].Move; (said == "roll left") != (lead == (stance == combo.Orthodox)) {
					t.Errorf("%s: %s is said as %s", stance, e.Text, said)
				}
				break
			}
		}
		after := map[string]int{} // the punch that a cue comes after
		var gaps []float64
		for i, cue := range cues {
			want := combo.Left // of whoever faces a trainee that goes to their right
			if cue.Move == "roll left" {
				want = combo.Right
			}
			if cue.From != want || cue.At-cue.Tell != 700_000 {
				t.Errorf("%s, %s: from the %s, told %v before", stance, cue.Move, cue.From, cue.At-cue.Tell)
			}
			if i > 0 {
				gaps = append(gaps, (cue.At - cues[i-1].At).Seconds())
			}
			last := ""
			for _, e := range line.Events {
				if e.Kind == Strike && e.Move >= 0 && e.At < cue.At {
					last = e.Text
				}
			}
			after[last]++
		}
		if len(after) < 2 {
			t.Errorf("%s: always after %v", stance, after)
		}
		mean, square := 0.0, 0.0
		for _, g := range gaps {
			mean += g / float64(len(gaps))
		}
		for _, g := range gaps {
			square += (g - mean) * (g - mean) / float64(len(gaps))
		}
		if math.Sqrt(square) < 0.2*mean {
			t.Errorf("%s: gaps of %.1f s, give or take %.2f", stance, mean, math.Sqrt(square))
		}
	}
}
