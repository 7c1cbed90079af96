package rig

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"melodromos/core/input"
)

// speedBagOf reads the document of a speed bag.
func speedBagOf(doc []byte) (SpeedBag, error) {
	r, err := Read(input.Parse(doc))
	b, ok := r.(SpeedBag)
	if err == nil && !ok {
		err = input.Refuse("kind", "expected a speed bag")
	}
	return b, err
}

func TestDocuments(t *testing.T) {
	good := `{"kind":"speed","bagLength":0.23,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.02}`
	b, err := speedBagOf([]byte(good))
	if err != nil {
		t.Fatal(err)
	}
	if b.Restitution != DefaultRestitution || !math.IsNaN(b.Bottom()) {
		t.Errorf("defaults: %+v", b)
	}
	text, err := json.Marshal(checked)
	if err != nil {
		t.Fatal(err)
	}
	if again, err := speedBagOf(text); err != nil || again != checked {
		t.Errorf("there and back: %+v %v", again, err)
	}
	near(t, "bottom", checked.Bottom(), 1.70, 1e-12)
	for field, doc := range map[string]string{
		"bagLength":   `{"kind":"speed","bagLength":0,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.02}`,
		"bagMass":     `{"kind":"speed","bagLength":0.23,"bagDiameter":0.15,"bagMass":-1,"swivelDrop":0.02}`,
		"swivelDrop":  `{"kind":"speed","bagLength":0.23,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.09}`,
		"bagDiameter": `{"kind":"speed","bagLength":0.23,"bagDiameter":0.24,"bagMass":0.25,"swivelDrop":0.02}`,
		"restitution": `{"kind":"speed","bagLength":0.23,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.02,"restitution":1.2}`,
		"kind":        `{"kind":"kettle","bagLength":0.23,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.02}`,
		"colour":      `{"kind":"speed","bagLength":0.23,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.02,"colour":"red"}`,
		"boardHeight": `{"kind":"speed","bagLength":0.23,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.02,"boardHeight":"high"}`,
		"":            `[1]`,
	} {
		_, err := speedBagOf([]byte(doc))
		var refused *input.Error
		if !errors.As(err, &refused) || refused.Field != field {
			t.Errorf("%s: %v, want a refusal of %q", doc, err, field)
		}
	}
	nan := checked
	nan.BagMass = math.NaN()
	if nan.Check() == nil {
		t.Error("a mass that is no number passed")
	}
}

// Whatever the document, there is an answer or a refusal: no panic, no NaN, no endless search.
func FuzzDecode(f *testing.F) {
	f.Add([]byte(`{"kind":"speed","bagLength":0.23,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.02}`), 120.0, 3)
	f.Add([]byte(`{"kind":"speed","bagLength":1e9,"bagDiameter":null}`), math.NaN(), -1)
	f.Fuzz(func(t *testing.T, doc []byte, tempo float64, rebounds int) {
		b, err := speedBagOf(doc)
		if err != nil {
			return
		}
		a, err := b.Solve(tempo, Meeting{Rebounds: rebounds})
		if err != nil {
			return
		}
		for _, v := range []float64{a.Launch, a.Window, a.FistSpeed, a.Limits.Slowest, a.Limits.Fastest} {
			if math.IsNaN(v) || math.IsInf(v, 0) {
				t.Errorf("%s at %g with %d: %+v", doc, tempo, rebounds, a)
			}
		}
	})
}

// Bags at random within the limits answer for every count, with limits in order.
func TestAnyBag(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	for range 2000 {
		b := SpeedBag{
			BagLength: 0.1 + 0.6*r.Float64(), BagDiameter: 0.05 + 0.4*r.Float64(), BagMass: 0.05 + 2*r.Float64(),
			SwivelDrop: 0.15 * r.Float64(), Restitution: 0.05 + 0.95*r.Float64(),
		}
		if b.Check() != nil || b.Contact() <= DefaultStrikeAngle {
			continue
		}
		for n := 1; n <= 5; n++ {
			l, err := b.Limits(Meeting{Rebounds: n})
			if err != nil {
				t.Fatalf("%+v: %v", b, err)
			}
			if !(l.Slowest > 0 && l.Slowest < l.Fastest && l.SlowestLaunch < MaxLaunch) {
				t.Errorf("%+v: %+v", b, l)
			}
		}
	}
}

func ExampleSpeedBag_Return() {
	bag := SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.80}
	r, err := bag.Return(2.8365, Three)
	if err != nil {
		panic(err)
	}
	fmt.Printf("three boards at %.3f, %.3f and %.3f s, back at %.3f s\n", r.Boards[0], r.Boards[1], r.Boards[2], r.At)
	// Output: three boards at 0.044, 0.207 and 0.400 s, back at 0.476 s
}
