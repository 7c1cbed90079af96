package catalogue

import (
	"fmt"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

var bags = map[rig.Kind]rig.Rig{
	rig.Speed: rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.8},
	rig.DoubleEnd: rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Damping: 0.04,
		Upper: rig.Cord{Span: 0.75, Relaxed: 0.66, Stiffness: 90},
		Lower: rig.Cord{Span: 0.75, Relaxed: 0.66, Stiffness: 90}},
	rig.Reflex: rig.ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50,
		Damping: 0.06},
	rig.Slip:    rig.SlipBag{AnchorHeight: 2.8, CentreHeight: 1.5, BagDiameter: 0.2, BagMass: 0.5},
	rig.Hanging: rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5},
}

// At least sixty drills, some for each bag and from the first touch to the advanced, each named once, each compiling on
// its bag without an error; none twice on a bag.
func TestLibrary(t *testing.T) {
	all := All()
	if len(all) < 60 {
		t.Errorf("%d drills", len(all))
	}
	seen, names, keys := map[string]string{}, map[string]bool{}, map[string]bool{}
	steps := map[rig.Kind]map[int]int{}
	for _, e := range all {
		line, err := e.Plan.Lay(drill.Floor{Bag: bags[e.Kind], Ability: trainee.Start(trainee.Intermediate), Seed: 1})
		if err != nil {
			t.Errorf("%s, %q: %v", e.Kind, e.Name, err)
			continue
		}
		strikes, moves := 0, 0
		for _, event := range line.Events {
			switch event.Kind {
			case drill.Strike:
				strikes++
			case drill.Doing:
				moves++
			}
		}
		if strikes+moves < 3 {
			t.Errorf("%s, %q: %d strikes, %d moves", e.Kind, e.Name, strikes, moves)
		}
		// The finishers repeat a line that is drilled elsewhere; nothing else stands twice.
		c, _ := e.Plan.(drill.CombinationDrill)
		d, _ := e.Plan.(drill.SpeedBagDrill)
		key := fmt.Sprintf("%s %s %v %s %s %v %g", e.Kind, Canonical(e.Plan), e.Purpose == Conditioning, c.Landing,
			c.Rhythm, c.Cues != nil, d.Effort)
		if other, twice := seen[key]; twice {
			t.Errorf("%q and %q are the same drill", e.Name, other)
		}
		seen[key] = e.Name
		if name := string(e.Kind) + e.Name; names[name] || keys[e.Key] || e.Note == "" || e.Step < 1 || e.Step > 5 {
			t.Errorf("%+v", e)
		} else {
			names[name], keys[e.Key] = true, true
		}
		if steps[e.Kind] == nil {
			steps[e.Kind] = map[int]int{}
		}
		steps[e.Kind][e.Step]++
		if c, ok := e.Plan.(drill.CombinationDrill); ok {
			flows(t, e, c)
		}
	}
	for kind := range bags {
		if len(steps[kind]) < 4 || steps[kind][1] < 2 {
			t.Errorf("%s: steps %v", kind, steps[kind])
		}
	}
}

// The drills spread from the easy to the hard: on the whole there is one at every level from 1 to 9, and each bag goes
// up to where only the advanced are at home. A speed bag begins higher, since it waits for nobody.
func TestSpread(t *testing.T) {
	least, most, found := map[rig.Kind]float64{}, map[rig.Kind]float64{}, map[int]int{}
	sums, counts := map[int]float64{}, map[int]float64{}
	for _, e := range All() {
		g, err := level.GradeOf(e.Plan, drill.Floor{Bag: bags[e.Kind], Ability: trainee.Start(trainee.Intermediate),
			Seed: 1})
		if err != nil {
			t.Fatal(err)
		}
		if l, ok := least[e.Kind]; !ok || g.Level < l {
			least[e.Kind] = g.Level
		}
		most[e.Kind] = max(most[e.Kind], g.Level)
		found[int(g.Level)]++
		sums[e.Step] += g.Level
		counts[e.Step]++
	}
	for n := 1; n <= 9; n++ {
		if found[n] == 0 {
			t.Errorf("no drill at level %d", n)
		}
	}
	for kind := range bags {
		hard := 7.5
		if kind == rig.Speed { // there everybody keeps to their own force, the quickest too
			hard = 6.5
		}
		if least[kind] > 2.5 || most[kind] < hard {
			t.Errorf("%s: levels %.1f to %.1f", kind, least[kind], most[kind])
		}
	}
	for step := 2; step <= 5; step++ {
		if sums[step]/counts[step] <= sums[step-1]/counts[step-1] {
			t.Errorf("step %d is on the whole no harder than the one before", step)
		}
	}
}

// What is taught flows: a break of a rule stands only where the note says that it is meant.
func flows(t *testing.T, e Entry, c drill.CombinationDrill) {
	t.Helper()
	line, err := combo.Parse(c.Text)
	if err != nil {
		t.Fatal(err)
	}
	for _, m := range drill.Joined(line.Moves(combo.Orthodox), e.Kind) {
		meant := map[string]bool{"Body and head": true}
		if !m.Caution() && m.Code != combo.GrowsOut && !meant[e.Name] {
			t.Errorf("%s, %q: %+v", e.Kind, e.Name, m)
		}
	}
}

// There is a card for every word of the notation and for every technique, and a recap of three lines for every drill.
func TestCards(t *testing.T) {
	for _, text := range []string{
		"1-2-3-4-5-6-1b", "overhand - double",
		"push kick lead - round kick lead - low kick lead - knee lead - elbow lead",
		"slip lead - duck - roll lead - weave - pull 1 - block - parry - cover - long guard - feint - jam",
		"step in - pivot lead - switch - wait",
	} {
		line, err := combo.Parse(text)
		if err != nil {
			t.Fatal(err)
		}
		for _, m := range line.Moves(combo.Orthodox) {
			if c, ok := CardOf(string(m.Word)); !ok || c.Title == "" || c.What == "" || c.Watch[0] == "" ||
				c.Watch[1] == "" || c.Watch[2] == "" {
				t.Errorf("%s: %+v", m.Word, c)
			}
		}
	}
	keys := map[string]bool{}
	for _, c := range Cards() {
		if keys[c.Key] {
			t.Errorf("%s has two cards", c.Key)
		}
		keys[c.Key] = true
	}
	for _, e := range All() {
		if lines := Recap(e.Plan); len(lines) != 3 {
			t.Errorf("%q: %q", e.Name, lines)
		}
	}
}

// The drills of the speed bag spread over the scale, and a simple one is never harder than the trap.
func TestSpeedBagDrillsSpread(t *testing.T) {
	bag := rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.8}
	on := drill.Floor{Bag: bag, Ability: trainee.Start(trainee.Intermediate), Seed: 1}
	levels := map[int]int{}
	trap, simple, n := 0.0, 0.0, 0
	for _, e := range All() {
		d, ok := e.Plan.(drill.SpeedBagDrill)
		if !ok {
			continue
		}
		g, err := level.GradeOf(d, on)
		if err != nil {
			t.Fatalf("%s: %v", e.Name, err)
		}
		levels[int(g.Level)]++
		n++
		if d.Technique == drill.Trap {
			trap = g.Level
		} else if e.Step <= 2 {
			simple = max(simple, g.Level)
		}
	}
	if simple >= trap {
		t.Errorf("a simple drill at %.1f, the trap at %.1f", simple, trap)
	}
	for whole, k := range levels {
		if k > n/2 {
			t.Errorf("%d of %d drills between %d and %d", k, n, whole, whole+1)
		}
	}
	if levels[2] == 0 || levels[6]+levels[7]+levels[8] == 0 {
		t.Errorf("levels %v", levels)
	}
}
