package rig

import (
	"fmt"
	"testing"
)

// What is advised brings the tempo within reach, each on its own but for the measures of the cords, and no hand is
// asked for what none can.
func TestReach(t *testing.T) {
	for _, c := range []struct {
		rig   Rig
		tempo float64
		want  string // that is among the advice
	}{
		{doubleEnd, 400, "upper.relaxed"}, {doubleEnd, 90, "rebounds"}, {reflex, 150, "spring"},
		{reflex, 150, "poleLength"}, {reflex, 32.5, "rebounds"},
		{slip, 70, "anchorHeight"}, {slip, 40, "anchorHeight"}, {slip, 29, "rebounds"}, {cylinder, 58, "chain"},
		{cylinder, 18.07, "rebounds"}, {cylinder, 300, "tempo"},
		{checked, 700, "tempo"}, {checked, 20, "rebounds"},
	} {
		a, err := Reach(c.rig, c.tempo, Meeting{Rebounds: 1}, Anybody)
		if err != nil || a.Feasible {
			t.Fatalf("%s at %g: %+v, %v", c.rig.Kind(), c.tempo, a, err)
		}
		found := false
		var cords []Setting
		for _, change := range a.Change {
			found = found || change.What == c.want
			to, tempo, m := c.rig, c.tempo, Meeting{Rebounds: 1}
			switch change.What {
			case "tempo":
				tempo = change.To
			case "rebounds":
				m.Rebounds = int(change.To)
			default:
				settings := []Setting{{change.What, 0, change.To}}
				if c.rig.Kind() == DoubleEnd {
					if cords = append(cords, settings[0]); len(cords) < 4 {
						continue
					}
					settings = cords
				}
				if to, _, err = Apply(c.rig, Place{}, settings); err != nil {
					t.Fatal(err)
				}
			}
			if again, err := to.Solve(tempo, m); err != nil || !Anybody.Can(c.rig.Kind(), again) {
				t.Errorf("%s at %g: after %+v still out of reach: %+v %v", c.rig.Kind(), c.tempo, change, again, err)
			}
		}
		if !found {
			t.Errorf("%s at %g: no advice on %s in %+v", c.rig.Kind(), c.tempo, c.want, a.Change)
		}
	}
}

// A tempo that the bag would keep and no hand does is out of reach, and nearer ones are offered; a slip bag is not
// let go from nowhere.
func TestOutOfHand(t *testing.T) {
	quick, err := Reach(checked, 620, Meeting{Rebounds: 1}, Anybody)
	if err != nil || quick.Feasible || !quick.ByBag || quick.Limits.Fastest > 600.1 {
		t.Errorf("%+v, %v", quick, err)
	}
	child := Striker{Softest: Touch, Hardest: 4, Interval: 0.25, Swing: Fresh}
	strong, err := Reach(checked, 230, Three, child)
	if err != nil || strong.Feasible || !strong.ByBag {
		t.Errorf("%+v, %v", strong, err)
	}
	for _, l := range child.Ranges(checked, 0) {
		m := Meeting{Rebounds: l.Rebounds}
		for _, tempo := range []float64{l.Slowest, l.Fastest} {
			if a, err := checked.Solve(tempo, m); err != nil || a.FistSpeed > 4.001 || tempo > 240.001 {
				t.Errorf("%d rebounds at %g: %+v, %v", l.Rebounds, tempo, a, err)
			}
		}
	}
	if l, ok := child.Range(checked, Meeting{Rebounds: 1}); ok && l.Slowest > 240 {
		t.Errorf("%+v", l)
	}
	if a, err := Reach(slip, 58.36, Meeting{Rebounds: 1}, child); err != nil || a.Feasible {
		t.Errorf("a swing of nothing: %+v, %v", a, err)
	}
}

// The quick table of ranges is the slow one, within a thousandth.
func TestRanges(t *testing.T) {
	for _, s := range []Striker{Anybody, {Softest: Touch, Hardest: 5, Interval: 0.22, Swing: Fresh},
		{Softest: Touch, Hardest: 9, Interval: 0.1, Swing: Fresh}} {
		for _, r := range []Rig{doubleEnd, reflex, slip, cylinder, checked} {
			table := s.Ranges(r, 0)
			for _, got := range table {
				want, ok := s.Range(r, Meeting{Rebounds: got.Rebounds})
				if !ok {
					t.Errorf("%s, %d: %+v, and it is out of reach", r.Kind(), got.Rebounds, got)
					continue
				}
				near(t, fmt.Sprintf("%s, %d slowest", r.Kind(), got.Rebounds), got.Slowest/want.Slowest, 1, 1e-3)
				near(t, fmt.Sprintf("%s, %d fastest", r.Kind(), got.Rebounds), got.Fastest/want.Fastest, 1, 1e-3)
			}
			if len(table) == 0 {
				t.Errorf("%s: nothing within reach of %+v", r.Kind(), s)
			}
		}
	}
}

func BenchmarkReach(b *testing.B) {
	who := Striker{Softest: Touch, Hardest: 6, Interval: 0.2, Swing: Fresh}
	for _, r := range []Rig{checked, doubleEnd, reflex, slip, cylinder} {
		b.Run(string(r.Kind()), func(b *testing.B) {
			for b.Loop() {
				if _, err := Reach(r, 500, Meeting{Rebounds: 1}, who); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
