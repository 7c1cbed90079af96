package rig

import (
	"encoding/json"
	"errors"
	"math"
	"strings"
	"testing"

	"melodromos/core/input"
	"melodromos/core/motion"
)

// refusedFor is the field that an error names.
func refusedFor(err error) string {
	var refused *input.Error
	if !errors.As(err, &refused) {
		return ""
	}
	return refused.Field
}

// The table of a kind is all that there is to say of its documents: what is written is read again, each measure is held
// to its limits and can be set by its name, and a control offers nothing that is refused for itself.
func TestTables(t *testing.T) {
	for _, m := range Models() {
		doc, err := json.Marshal(m.Everyday)
		if err != nil {
			t.Fatal(err)
		}
		again, err := Read(input.Parse(doc))
		if err != nil || again != m.Everyday.Rig {
			t.Errorf("%s: %s is read as %+v, %v", m.Kind, doc, again, err)
		}
		if m.Name == "" || m.What == "" || m.Caution == "" || m.Tapping.How == "" || m.Rebounds < 1 {
			t.Errorf("%s: something is not said of it: %+v", m.Kind, m)
		}
		for _, f := range append(m.Measures, m.Around...) {
			switch {
			case f.Label == "":
				t.Errorf("%s has no label", f.Name)
			case f.Quantity == AsWord && len(f.Options) < 2, f.Quantity != AsWord && len(f.Options) > 0:
				t.Errorf("%s: choices %v", f.Name, f.Options)
			}
			if f.Quantity == AsWord || f.Quantity == AsFlag {
				continue
			}
			if f.Least < f.Limits.Min || f.Most > f.Limits.Max || !(f.Least < f.Most) || !(f.Step > 0) {
				t.Errorf("%s: a control from %g to %g by %g within %v", f.Name, f.Least, f.Most, f.Step, f.Limits)
			}
			for _, v := range []float64{f.Limits.Max * 1.01, f.Limits.Min - 0.01, math.NaN(), math.Inf(1)} {
				_, _, err := Apply(m.Everyday.Rig, m.Place.Place, []Setting{{Field: f.Name, To: v}})
				if refusedFor(err) != f.Name {
					t.Errorf("%s = %g: %v", f.Name, v, err)
				}
			}
		}
		for _, name := range []string{"nothing", "place.nothing", "kind", "upper", "place.anchor"} {
			if _, _, err := Apply(m.Everyday.Rig, m.Place.Place,
				[]Setting{{Field: name, To: 1}}); refusedFor(err) != name {
				t.Errorf("%s: %s = 1: %v", m.Kind, name, err)
			}
		}
	}
}

// A place keeps what it says, and refuses words and figures that are none.
func TestPlaceTable(t *testing.T) {
	full := Place{
		LowerAnchor: 0.5, SpringHeight: 0.3, BaseMass: 40, BaseWidth: 0.6, RatedLoad: 100, PowerCap: 6, Beyond: 1,
		Beside: 1, Behind: 1,
		Anchor: OnFrame, Purpose: Obstacle, School: HeadHeight, Stand: AtTurn, Plane: Across, Made: TwoLobed,
		Steadied: AsFraming, Kicks: true,
	}
	doc, err := json.Marshal(full)
	if err != nil {
		t.Fatal(err)
	}
	if again, err := ReadPlace(input.Parse(doc)); err != nil || again != full {
		t.Errorf("%s is read as %+v, %v", doc, again, err)
	}
	if doc, err := json.Marshal(Place{}); err != nil || string(doc) != "{}" {
		t.Errorf("nothing said: %s, %v", doc, err)
	}
	for doc, field := range map[string]string{
		`{"anchor":"balloon"}`: "anchor", `{"beyond":-1}`: "beyond", `{"kicks":"yes"}`: "kicks",
		`{"ceiling":1}`: "ceiling", `{"made":3}`: "made",
	} {
		if _, err := ReadPlace(input.Parse([]byte(doc))); refusedFor(err) != field {
			t.Errorf("%s: %v", doc, err)
		}
	}
}

// A measure goes with one word of another field only.
func TestOnly(t *testing.T) {
	ball := HangingBag{Shape: Round, Mass: 40, Diameter: 0.5, Chain: 1}
	if doc, err := json.Marshal(ball); err != nil || strings.Contains(string(doc), "length") {
		t.Errorf("a ball with a length: %s, %v", doc, err)
	}
	ball.Length = 1
	if refusedFor(ball.Check()) != "length" {
		t.Error("a ball may have a length")
	}
	if _,
		err := Read(
		input.Parse(
			[]byte(`{"kind":"hanging","shape":"ball","mass":40,"length":1,"diameter":0.5,"chain":1}`))); refusedFor(
		err) != "length" {
		t.Errorf("a ball's document with a length: %v", err)
	}
	if _,
		err := Read(
		input.Parse([]byte(`{"kind":"hanging","shape":"cylinder","mass":40,"diameter":0.35,"chain":1}`))); refusedFor(
		err) != "length" {
		t.Errorf("a straight bag without a length: %v", err)
	}
}

// A ball of water swings as if all of it hung in its middle (an ideal fluid in a sphere does not turn with it: Lamb,
// Hydrodynamics, from memory): as a simple pendulum, somewhat quicker than the same ball packed.
func TestWater(t *testing.T) {
	packed := HangingBag{Shape: Round, Mass: 60, Diameter: 0.5, Chain: 0.5}
	water := packed
	water.Filled = Water
	d := 0.75
	near(t, "water", 2*math.Pi/water.pendulum().Rate, 2*math.Pi*math.Sqrt(d/motion.Gravity), 1e-9)
	if ratio := packed.pendulum().Rate / water.pendulum().Rate; !(ratio < 1 && ratio > 0.97) {
		t.Errorf("packed swings at %g of the water's rate", ratio)
	}
	straight := HangingBag{Shape: Straight, Mass: 60, Length: 1, Diameter: 0.35, Chain: 0.5}
	wet := straight
	wet.Filled = Water
	near(t, "straight", wet.pendulum().Rate, straight.pendulum().Rate, 0)
}

// Whether a bag is steadied by hand is a school: only to start again between cords, never on a pole and a heavy bag
// (common practice).
func TestByHand(t *testing.T) {
	for kind, want := range map[Kind]Steadied{DoubleEnd: ToStartAgain, Reflex: NeverByHand, Hanging: NeverByHand,
		Slip: NeverByHand} {
		if got := (Place{}).ByHand(kind); got != want {
			t.Errorf("%s: %s", kind, got)
		}
	}
	if (Place{Steadied: AsFraming}).ByHand(DoubleEnd) != AsFraming {
		t.Error("a school that was chosen does not hold")
	}
}
