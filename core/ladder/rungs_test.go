package ladder

import (
	"testing"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/core/trainee"
)

var (
	cord = rig.Cord{Span: 0.75, Relaxed: 0.66, Stiffness: 90}
	bags = map[rig.Kind]rig.Rig{
		rig.Speed: rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02,
			Restitution: 0.8},
		rig.DoubleEnd: rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04},
		rig.Reflex: rig.ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50,
			Damping: 0.06},
		rig.Slip: rig.SlipBag{AnchorHeight: 2.8, CentreHeight: 1.5, BagDiameter: 0.2, BagMass: 0.5},
		rig.Hanging: rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5,
			AnchorHeight: 2.7},
	}
)

func on(kind rig.Kind, b trainee.Band) drill.Floor {
	return drill.Floor{Bag: bags[kind], Ability: trainee.Start(b), Seed: 1}
}

// Every rung compiles for everybody on its bag, keys are told apart, what is thrown flows, and the ladder begins
// easily. The fist roll can come first.
func TestRungs(t *testing.T) {
	for kind := range bags {
		list := Rungs(kind, BasicFirst)
		if len(list) < 8 {
			t.Errorf("%s: %d rungs", kind, len(list))
		}
		for _, r := range list {
			if found, ok := Find(r.Key); !ok || found.Name != r.Name || KindOf(r.Key) != kind || r.Name == "" ||
				r.Note == "" {
				t.Errorf("%+v", r)
			}
			if p, err := r.Plan.For(on(kind, trainee.Beginner)); err != nil || Match(p, kind) != r.Key {
				t.Errorf("%s is taken for %q (%v)", r.Key, Match(p, kind), err)
			}
			for _, band := range trainee.Bands {
				line, err := r.Plan.Lay(on(kind, band))
				if err != nil {
					t.Errorf("%s for a %s: %v", r.Key, band, err)
					continue
				}
				if kind != rig.Slip && len(line.Events) < 20 {
					t.Errorf("%s: %d events", r.Key, len(line.Events))
				}
			}
		}
	}
	if key := Match(drill.CombinationDrill{Text: "1-2 - roll rear - 2-3", Landing: drill.OnReturns},
		rig.Reflex); key != "reflex.roll" {
		t.Errorf("a round of the former line counts for %q", key)
	}
	for _, text := range []string{"1-2-4", "1!"} {
		if key := Match(drill.CombinationDrill{Text: text, Landing: drill.OnReturns}, rig.DoubleEnd); key != "" {
			t.Errorf("%q is taken for %s", text, key)
		}
	}
	a, b := Rungs(rig.Speed, BasicFirst), Rungs(rig.Speed, RollFirst)
	if a[0].Key != "speed.once" || b[0].Key != "speed.roll" || len(a) != len(b) {
		t.Errorf("%s first, then %s", a[0].Key, b[0].Key)
	}
	if _, ok := Find("speed.juggle"); ok {
		t.Error("a rung that there is not")
	}
}

// The first rung of each bag is about as hard for a first-timer as that of any other: what is expected to meet the bag,
// with force known, lies within fifteen points.
func TestFirstRungsAreAlike(t *testing.T) {
	low, high := 1.0, 0.0
	for kind := range ladders {
		f := on(kind, trainee.FirstTimer)
		p := Rungs(kind, BasicFirst)[0].Plan
		l, err := p.Lay(f)
		if err != nil {
			t.Fatal(err)
		}
		clean := level.For(p, l, f, level.Told{Force: true, Latency: true}).Clean
		t.Logf("%s: %.0f %%", kind, 100*clean)
		low, high = min(low, clean), max(high, clean)
	}
	if high-low > 0.15 {
		t.Errorf("from %.0f to %.0f %%", 100*low, 100*high)
	}
}

// A rung that came in later sends nobody back who is past a later one, and is not left out for a beginner.
func TestAddedRungs(t *testing.T) {
	rungs := Rungs(rig.Slip, BasicFirst)
	c := Career{Rungs: rungs, Gate: DefaultGate, Now: at(9)}
	if p := c.Propose(); p.Rung.Key != "slip.guard" ||
		p.Why != "First time on this bag: it hangs still; don’t touch it." {
		t.Errorf("the first on a slip bag is %s: %s", p.Rung.Key, p.Why)
	}
	for n := range 2 {
		c.Rounds = append(c.Rounds, run.PastRound{At: at(n + 7), Rung: "slip.lead", Share: 0.9, Longest: 12,
			Planned: 20})
	}
	if p := c.Propose(); p.Rung.Key != "slip.rear" {
		t.Errorf("after the slip to the lead side comes %s", p.Rung.Key)
	}
}

// Straights come before hooks and hooks before uppercuts on double-end and reflex bags (common practice).
func TestStraightsFirst(t *testing.T) {
	for _, kind := range []rig.Kind{rig.DoubleEnd, rig.Reflex} {
		straights, hooks := 0, false
		for _, r := range Rungs(kind, BasicFirst) {
			line, err := combo.Parse(r.Plan.(drill.CombinationDrill).Text)
			if err != nil {
				t.Fatal(err)
			}
			b := combo.Balanced(line.Moves(combo.Orthodox))
			for _, m := range line.Moves(combo.Orthodox) {
				switch {
				case m.Shape() == combo.Hook && straights < 3:
					t.Errorf("%s: a hook after %d rungs of straights", r.Key, straights)
				case m.Shape() == combo.Uppercut && !hooks:
					t.Errorf("%s: an uppercut before any hook", r.Key)
				}
				hooks = hooks || m.Shape() == combo.Hook
			}
			if b.Curved == 0 {
				straights++
			}
		}
	}
}
