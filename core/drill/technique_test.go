package drill

import (
	"encoding/json"
	"errors"
	"math"
	"strings"
	"testing"

	"melodromos/core/input"
	"melodromos/core/rig"
)

func in(t *testing.T, technique Technique) SpeedBagDrill {
	t.Helper()
	d, err := fiveASide().With(technique, bag)
	if err != nil {
		t.Fatalf("%s: %v", technique, err)
	}
	return d
}

// The techniques as sequences of hand, face and rebounds (common practice).
func TestTechniques(t *testing.T) {
	for technique, want := range map[Technique]struct {
		hands, faces string
		rebounds     int
		name         string
	}{
		OneHand:     {"RRRRRLLLLL", "ffffffffff", 3, "Basic rhythm, five a side"},
		Alternating: {"RLRLRLRLRL", "ffffffffff", 3, "Basic rhythm, hand after hand"},
		FistRoll:    {"RLRLRLRLRL", "ffffffffff", 1, "Fist roll"},
		Linking:     {"RRRRLLLLRR", "fbfbfbfbfb", 2, "Linking, four a side"},
		DoublePunch: {"BBBBBBBBBB", "ffffffffff", 3, "Double punch"},
		Trap:        {"RRRRRLLLLL", "ffffffffff", 3, "Trap, five a side"},
	} {
		d := in(t, technique)
		line := mustCompile(t, d)
		hands, faces := "", ""
		strikes := of(line, Strike)
		for i, s := range strikes[:10] {
			hands += map[Hand]string{Lead: "L", Rear: "R", Both: "B"}[s.Hand]
			faces += string(s.Face[0])
			if s.Window <= 0 || s.Pin != (technique == Trap && (i == 4 || i == 9)) {
				t.Errorf("%s, strike %d: %+v", technique, i, s)
			}
		}
		if hands != want.hands || faces != want.faces || d.Rebounds != want.rebounds || d.Name() != want.name {
			t.Errorf("%s: %s %s %d %q, want %+v", technique, hands, faces, d.Rebounds, d.Name(), want)
		}
		text, err := json.Marshal(d)
		if err != nil {
			t.Fatal(err)
		}
		if again, err := Decode(text); err != nil || again != d {
			t.Errorf("%s comes back as %+v, %v", technique, again, err)
		}
	}
}

// Linking goes through both faces at even times: what the model gives from the front to behind it gives back again.
func TestLinkingMeetsTheBag(t *testing.T) {
	d := in(t, Linking)
	line := mustCompile(t, d)
	back, err := bag.Return(line.Launch, rig.Meeting{Rebounds: 2, Angle: d.Meeting().Angle, Face: rig.Behind})
	if err != nil {
		t.Fatal(err)
	}
	strikes := of(line, Strike)
	for i := 1; i < len(strikes); i++ {
		if off := (strikes[i].At - strikes[i-1].At).Seconds() - back.At; math.Abs(off) > 2e-6 {
			t.Fatalf("strike %d is %g s off", i, off)
		}
	}
}

// A double punch that is too slow would be heard as two and is refused with the slowest that is not.
func TestHeardAsTwo(t *testing.T) {
	d := in(t, DoublePunch)
	line := mustCompile(t, d)
	double, err := bag.DoublePunch(line.Launch, d.Meeting())
	if err != nil || double.Gap > rig.OneBlow+1e-9 {
		t.Errorf("contacts %g s apart, %v", double.Gap, err)
	}
	// the first, which the second fist meets, and three more
	if n := len(of(line, Rebound)); n != 4*len(of(line, Strike)) {
		t.Errorf("%d board sounds for %d double punches", n, len(of(line, Strike)))
	}
	d.Tempo = 20
	var refused *input.Error
	if _, err := Compile(d, bag); !errors.As(err, &refused) || refused.Field != "tempo" ||
		!strings.Contains(refused.Reason, "heard as one") {
		t.Errorf("%v", err)
	}
}

// Back and forth: after so many double punches the hands exchange places, and that is called; the blows stay those of
// both fists.
func TestDoubleExchange(t *testing.T) {
	for _, c := range []struct{ perHand, changes int }{{0, 0}, {1, 9}, {2, 4}, {4, 2}} {
		d := in(t, DoublePunch)
		d.PerHand, d.Strikes, d.Work, d.Calls = c.perHand, 10, 0, true
		line := mustCompile(t, d)
		changes := of(line, Change)
		if len(changes) != c.changes || len(of(line, Strike)) != 10 {
			t.Fatalf("%d: %d changes, %d strikes", c.perHand, len(changes), len(of(line, Strike)))
		}
		for i, e := range changes {
			if want := map[bool]Hand{true: d.FirstHand.Other(), false: d.FirstHand}[i%2 == 0]; e.Hand != want {
				t.Errorf("%d: change %d to the %s fist first", c.perHand, i, e.Hand)
			}
		}
		for _, s := range of(line, Strike) {
			if s.Hand != Both {
				t.Errorf("a strike of the %s hand", s.Hand)
			}
		}
	}
	d := in(t, DoublePunch)
	if d.PerHand = 1; d.Name() != "Double punch, back and forth" {
		t.Error(d.Name())
	}
}

// After a trap there is no board sound until the next strike, whose window is that of a bag let go at the board.
func TestTrapIsQuiet(t *testing.T) {
	d := in(t, Trap)
	line := mustCompile(t, d)
	strikes := of(line, Strike)
	pin, err := bag.Trap(d.Meeting().Angle)
	if err != nil {
		t.Fatal(err)
	}
	for i, s := range strikes[:len(strikes)-1] {
		sounds := 0
		for _, r := range of(line, Rebound) {
			if r.At > s.At && r.At < strikes[i+1].At {
				sounds++
			}
		}
		if want := map[bool]int{true: 0, false: 3}[s.Pin]; sounds != want {
			t.Fatalf("after strike %d (trap %v) %d board sounds", i, s.Pin, sounds)
		}
		if s.Pin && math.Abs(strikes[i+1].Window.Seconds()-pin.Window) > 1e-6 {
			t.Errorf("window after the trap %v, want %g s", strikes[i+1].Window, pin.Window)
		}
	}
	d.Tempo = math.Ceil(60/pin.Least) + 1
	if a, err := Solve(d, bag); err != nil || a.Feasible {
		t.Errorf("no time to hold the bag: %+v %v", a, err)
	}
	normal, pinned, err := Pictures(d, bag, line.Launch, 0.7)
	if err != nil || pinned == nil || len(normal.Marks) != 3 || len(pinned.Marks) != 1 {
		t.Errorf("%v %+v", err, pinned)
	}
}

// What breaks parity or the sense of a technique is refused by field.
func TestTechniqueRefusals(t *testing.T) {
	for field, d := range map[string]SpeedBagDrill{
		"technique": {Technique: "windmill"},
		"rebounds":  func() SpeedBagDrill { d := in(t, Linking); d.Rebounds = 3; return d }(),
		"perHand":   func() SpeedBagDrill { d := in(t, Linking); d.PerHand = 3; return d }(),
	} {
		var refused *input.Error
		if err := d.Check(); !errors.As(err, &refused) || refused.Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
	roll, trap, turns := in(t, FistRoll), in(t, Trap), in(t, Alternating)
	roll.Rebounds, trap.PerHand, turns.PerHand = 3, 1, 5
	for _, d := range []SpeedBagDrill{roll, trap, turns} {
		if d.Check() == nil {
			t.Errorf("%+v passed", d)
		}
	}
	if err := in(t, Linking).Check(); err != nil {
		t.Error(err)
	}
}
