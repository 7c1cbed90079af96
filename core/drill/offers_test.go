package drill

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// taken is a combination, and its floor, with an offer to a move that was late.
func taken(
	t *testing.T,
	c CombinationDrill,
	on Floor,
	rep Repetition,
	at int,
	o Adjustment,
	all []Adjustment,
) (CombinationDrill, Floor) {
	t.Helper()
	c = c.With(on.Bag, on.Ability)
	switch o.What {
	case "return":
		line, err := combo.Parse(c.Text)
		if err != nil {
			t.Fatal(err)
		}
		before := -1
		for _, m := range rep.Moves {
			if m.Kind() == combo.Strike && m.Move < at {
				before = max(before, m.Move)
			}
		}
		counted, err := line.Counted(before, int(o.To))
		if err != nil {
			t.Fatal(err)
		}
		c.Text = counted.String()
	case "fist":
		c.Fist = o.To
	case "tempo":
		c.Tempo, c.Slower = o.To, 0
	case "pull":
		c.Pull = o.To
	default:
		settings := []rig.Setting{{Field: o.What, To: o.To}}
		if strings.Contains(o.What, ".") {
			settings = nil
			for _, cord := range all {
				if strings.Contains(cord.What, ".") {
					settings = append(settings, rig.Setting{Field: cord.What, To: cord.To})
				}
			}
		}
		changed, _, err := rig.Apply(on.Bag, on.Place, settings)
		if err != nil {
			t.Fatalf("%+v: %v", o, err)
		}
		on.Bag = changed
	}
	return c, on
}

// Whatever is offered for a move that does not fit is done to the letter, and then that move fits.
func TestOffersDeliver(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 11))
	bags := []rig.Rig{gentle, bag, heavyBag, guardBag,
		rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.3, Upper: rig.Cord{Span: 0.6, Relaxed: 0.4, Stiffness: 200},
			Lower: rig.Cord{Span: 0.6, Relaxed: 0.4, Stiffness: 200}, Damping: 0.04},
		rig.ReflexBag{BallDiameter: 0.2, BallMass: 0.5, PoleLength: 1.0, PoleMass: 0.5, Spring: 60, Damping: 0.06}}
	lines := []string{"1-2", "1-2-3", "2-3-2", "1-1-2", "1-2 - slip lead - 3-2", "1-2! - duck - 2-3",
		"1 - pivot lead - 2", "3-3b-2", "1-2 - step back - 2", "slip lead - slip lead - slip rear",
		"roll lead - 3 - roll rear - 2"}
	offered, broken := map[string]int{}, map[string]int{}
	for range 600 {
		on := Floor{Bag: bags[r.IntN(len(bags))], Ability: trainee.Start(trainee.Bands[r.IntN(5)]), Seed: 1,
			Theirs: true}
		c := CombinationDrill{Text: lines[r.IntN(len(lines))], Stance: combo.Orthodox, Landing: OnReturns,
			Pace: Combining, Pause: 2, Work: 60, Guidance: Alone}
		if on.Bag.Kind() != rig.Slip && r.IntN(4) == 0 {
			c.Landing, c.Tempo = Freely, float64(100+r.IntN(300))
		}
		c.Fist = on.Ability.FistSpeed * (0.3 + 0.7*r.Float64())
		rep, err := Land(c, on)
		if err != nil {
			continue
		}
		for _, late := range rep.Late() {
			for _, o := range late.Fits {
				key := fmt.Sprintf("%s %s", on.Bag.Kind(), o.What)
				offered[key]++
				d, then := taken(t, c, on, rep, late.Move, o, late.Fits)
				again, err := Land(d, then)
				if err != nil {
					broken[key]++
					t.Errorf("%s, %q: %+v: %v", key, c.Text, o, err)
					continue
				}
				for _, m := range again.Moves {
					if m.Move == late.Move && m.Late > 0.001 {
						broken[key]++
						t.Errorf("%s, %q, move %d late by %.0f ms: %+v leaves %.0f ms", key, c.Text, late.Move,
							1000*late.Late, o, 1000*m.Late)
					}
				}
			}
		}
	}
	for key, n := range offered {
		t.Logf("%-28s offered %4d, not delivered %d", key, n, broken[key])
	}
}
