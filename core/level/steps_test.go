package level

import (
	"fmt"
	"math"
	"testing"

	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// No level jumps by more than 0.3 for a change of 1 % in force, tempo, a bag's size or its spring, but where another
// cue becomes the freshest that is old enough to act on: that is the one threshold of the timing demand.
func TestNoJumps(t *testing.T) {
	type point struct {
		plan drill.Plan
		bag  rig.Rig
	}
	line := func(text string, bag rig.Rig) func(float64, float64) point {
		return func(force, size float64) point {
			c := thrown(text)
			c.Fist *= force
			on := bag
			switch b := bag.(type) {
			case rig.DoubleEndBag:
				b.BallDiameter *= size
				on = b
			case rig.ReflexBag:
				b.Spring *= size
				on = b
			case rig.HangingBag:
				b.Mass *= size
				on = b
			}
			return point{c, on}
		}
	}
	free := func(force, size float64) point {
		c := thrown("1-2-3 - step back - 2")
		c.Landing, c.Tempo = drill.Freely, 150*force
		return point{c, heavy}
	}
	basic := func(force, size float64) point {
		bag := quay
		bag.BagDiameter *= size
		return point{drill.SpeedBagDrill{Technique: drill.OneHand, FirstHand: drill.Rear, PerHand: 5, Rebounds: 3,
			StrikeAngle: 25, Tempo: 100 * force, Work: 30, Calls: true}, bag}
	}
	slips := func(force, size float64) point {
		c := thrown("slip lead - slip rear")
		c.Pull, c.Fist = 0.6*force, 0
		b := rope
		b.BagDiameter *= size
		return point{c, b}
	}
	age := func(p point) float64 {
		l, err := p.plan.Lay(floor(p.bag))
		if err != nil {
			t.Fatal(err)
		}
		sum := 0.0
		for _, s := range Strikes(l, p.plan.ReachTime(p.bag.Kind()), Common) {
			sum += s.Age
		}
		return sum
	}
	for name, at := range map[string]func(force, size float64) point{
		"cords": line("1-2-3 - slip lead - 3-2", ball), "pole": line("1-2-3", pole), "as it comes": line("1-2", heavy),
		"freely": free, "speed bag": basic, "slips": slips,
	} {
		for _, vary := range []string{"force or tempo", "size"} {
			before, aged := -1.0, 0.0
			for k := range 60 {
				x, y := math.Pow(1.01, float64(k-30)), 1.0
				if vary == "size" {
					x, y = 1, math.Pow(1.01, float64(k-30)/3) // a third of a per cent, over ten per cent either way
				}
				p := at(x, y)
				g, err := GradeOf(p.plan, floor(p.bag))
				if err != nil {
					before = -1
					continue // the bag does not allow it
				}
				a := age(p)
				if threshold := math.Abs(a-aged) > 0.02*aged; before > 0 && math.Abs(g.Level-before) > 0.3+1e-9 &&
					!threshold {
					t.Errorf("%s, %s step %d: %.1f, then %.1f: %s", name, vary, k, before, g.Level, fmt.Sprint(g))
				}
				before, aged = g.Level, a
			}
		}
	}
}

// A wait holds nothing, and a repeated group is held once and one more: written as a group or out in full.
func TestWhatIsHeld(t *testing.T) {
	value := func(text string) float64 { return graded(t, thrown(text), ball).Pattern.Value }
	if value("1 wait 2") != value("1-2") {
		t.Error("a wait counts")
	}
	if value("(1-2)x3") != value("1-2-1-2-1-2") || value("(1-2)x3") <= value("1-2") ||
		value("(1-2)x3") >= value("1-2-3-2-3-2") {
		t.Errorf("%g, %g, %g", value("1-2"), value("(1-2)x3"), value("1-2-3-2-3-2"))
	}
}

// What cannot be done is graded 10 and fails for certain: a slip bag that comes by quicker than a head can be off its
// line.
func TestWhatCannotBeDone(t *testing.T) {
	quick := rope
	quick.AnchorHeight = 1.80
	c := thrown("duck - duck")
	c.Pull, c.Fist = 0.2, 0
	g := graded(t, c, quick)
	l, err := c.Lay(floor(quick))
	if err != nil {
		t.Fatal(err)
	}
	f := For(c, l, floor(quick), Told{})
	if g.Level != 10 || g.Timing.Value != 10 || f.Slips != 0 || f.Clean != 0 || f.Standing() != TooHard {
		t.Errorf("level %.1f (%s), %.2f of the slips in time", g.Level, g.Timing.Why, f.Slips)
	}
}

// A heavy bag answers force as well: struck harder, or lighter, it is away sooner, and a combination thrown freely asks
// more of timing.
func TestHeavyBagsAnswerForce(t *testing.T) {
	c := thrown("1-2-3-2")
	c.Landing, c.Tempo, c.Fist = drill.Freely, 150, 3
	hard := c
	hard.Fist = 7
	light := heavy
	light.Mass = 15
	soft := graded(t, c, heavy)
	if g := graded(t, hard, heavy); !(g.Timing.Value > soft.Timing.Value+0.1) {
		t.Errorf("timing %.2f, harder %.2f", soft.Timing.Value, g.Timing.Value)
	}
	if g := graded(t, c, light); !(g.Timing.Value > soft.Timing.Value+0.1) {
		t.Errorf("timing %.2f, on a lighter bag %.2f", soft.Timing.Value, g.Timing.Value)
	}
}

// A level is the drill's alone: the same whoever stands on the floor, also where the drill leaves force and tempo open.
func TestSameForEverybody(t *testing.T) {
	open, tempo := thrown("1-2-3 - slip lead - 3-2"), thrown("1-1-2")
	open.Fist = 0
	tempo.Landing, tempo.Fist = drill.Freely, 0
	technique := drill.SpeedBagDrill{Technique: drill.OneHand, FirstHand: drill.Rear, PerHand: 5, Rebounds: 3,
		StrikeAngle: 25, Tempo: 112, Work: 30, Calls: true}
	for _, c := range []struct {
		plan drill.Plan
		bag  rig.Rig
	}{{open, ball}, {open, pole}, {tempo, heavy}, {thrown("1-2"), ball}, {technique, quay}} {
		common, err := GradeOf(c.plan, floor(c.bag))
		if err != nil {
			t.Fatal(err)
		}
		ways := map[string]bool{}
		for _, band := range trainee.Bands {
			on := floor(c.bag)
			on.Ability = trainee.Start(band)
			line, err := c.plan.Lay(on)
			if err != nil {
				t.Fatal(err)
			}
			ways[fmt.Sprint(line.Events)] = true
			if g, err := Graded(c.plan, line, on); err != nil || g != common {
				t.Errorf("%s, %s: %+v %v, elsewhere %+v", c.plan.Name(), band, g, err, common)
			}
		}
		if line, ok := c.plan.(drill.CombinationDrill); ok && line.Fist == 0 && len(ways) < 2 {
			t.Errorf("%s is done alike by everybody", line.Text)
		}
	}
}
