package rig

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"testing"

	"gonum.org/v1/gonum/mathext"

	"melodromos/core/input"
)

// The rigs of the check values.
var (
	cord      = Cord{Span: 0.75, Relaxed: 0.577, Stiffness: 150}
	doubleEnd = DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04}
	reflex    = ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50, Damping: 0.06}
	slip      = SlipBag{AnchorHeight: 2.6, CentreHeight: 1.55, BagDiameter: 0.2, BagMass: 0.5}
	cylinder  = HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5, AnchorHeight: 2.7}
	ball      = HangingBag{Shape: "ball", Mass: 30, Diameter: 0.45, Chain: 0.6, AnchorHeight: 2.9}
	freely    = []Rig{doubleEnd, reflex, slip, cylinder, ball}
)

func undamped() DoubleEndBag {
	b := doubleEnd
	b.Damping = 0
	return b
}

// Check values to four decimals from a separate Runge–Kutta integration, done outside this code.
func TestKindsCheckValues(t *testing.T) {
	for _, c := range []struct {
		name   string
		rig    Rig
		launch float64
		at     []float64
		speed  []float64
	}{
		{"double-end, nothing lost", undamped(), 4, []float64{0.2327, 0.6981}, []float64{4, 4}},
		{"double-end", doubleEnd, 4, []float64{0.2346, 0.7129}, []float64{3.546, 2.778}},
		{"reflex", reflex, 3, []float64{0.6198, 1.8625}, []float64{2.485, 1.705}},
		{"slip", slip, 0.6, []float64{0.5274, 1.5789, 2.6297}, []float64{1.907, 1.879, 1.852}},
	} {
		list, err := c.rig.Returns(c.launch, Meeting{}, len(c.at))
		if err != nil {
			t.Fatalf("%s: %v", c.name, err)
		}
		for i := range c.at {
			near(t, fmt.Sprintf("%s, return %d", c.name, i+1), list[i].At, c.at[i], 5e-5)
			near(t, fmt.Sprintf("%s, speed %d", c.name, i+1), list[i].Speed, c.speed[i], 5e-4)
		}
	}
	list, _ := undamped().Returns(4, Meeting{}, 1)
	near(t, "double-end window", list[0].Window, 0.0456, 5e-5)
	// Inertia tables: solid cylinder across its axis, solid ball, parallel axis.
	near(t, "cylinder I", cylinder.Inertia(), 53.506, 5e-4)
	near(t, "cylinder small swing", cylinder.pendulum().Period(0), 2.2126, 5e-5)
	near(t, "ball I", ball.Inertia(), 30*(0.4*0.225*0.225+0.825*0.825), 1e-12)
}

// Small swings have closed forms: 2π√(m/k) across two cords with k the sum of tension over span, 2π√(I/(κ−κ_g)) on a
// pole (inverted pendulum), 2π√(ℓ/g) for a pendulum.
func TestSmallSwings(t *testing.T) {
	gentle := reflex
	gentle.Damping = 0
	k := 2 * 150 * (0.75 - 0.577) / 0.75
	for _, c := range []struct {
		name   string
		rig    Rig
		launch float64
		period float64
		first  float64 // share of a period until the first return
	}{
		{"double-end", undamped(), 1e-4, 2 * math.Pi * math.Sqrt(0.45/k), 0.5},
		{"reflex", gentle, 1e-4, 2 * math.Pi * math.Sqrt((0.9+0.8/3)*1.21/(50-(0.9+0.4)*1.1*9.80665)), 0.5},
		{"slip", slip, 1e-4, 2 * math.Pi * math.Sqrt(1.05/9.80665), 0.25},
		{"hanging", cylinder, 1e-4, 2 * math.Pi * math.Sqrt(53.506/(40*9.80665*1.1)), 0.5},
	} {
		list, err := c.rig.Returns(c.launch, Meeting{}, 1)
		if err != nil {
			t.Fatalf("%s: %v", c.name, err)
		}
		near(t, c.name, list[0].At/(c.first*c.period), 1, 1e-5)
	}
}

// For moderate swings the cords are a Duffing oscillator: with equal cords the force is k_t x + k(ℓ₀/span³) x³, whose
// period has a closed form in the complete elliptic integral (Abramowitz & Stegun 1964, ch. 16).
func TestDoubleEndIsDuffing(t *testing.T) {
	b := undamped()
	k1 := b.across() / b.BallMass
	k3 := 2 * 150 * 0.577 / (2 * math.Pow(0.75, 3)) / b.BallMass
	for _, launch := range []float64{0.2, 0.5, 1} {
		// Amplitude from the balance of energy: v²/2 = k1 A²/2 + k3 A⁴/4.
		a2 := (-k1 + math.Sqrt(k1*k1+2*k3*launch*launch)) / k3
		w2 := k1 + k3*a2
		period := 4 * mathext.CompleteK(k3*a2/(2*w2)) / math.Sqrt(w2)
		list, err := b.Returns(launch, Meeting{}, 1)
		if err != nil {
			t.Fatal(err)
		}
		near(t, fmt.Sprintf("at %g m/s", launch), list[0].At/(period/2), 1, 1e-3)
	}
}

// A pendulum without air to speak of, drawn back far: quarter periods by the complete elliptic integral.
func TestSlipWithoutDrag(t *testing.T) {
	b := slip
	b.BagMass = 300
	list, err := b.Returns(1.0, Meeting{}, 3)
	if err != nil {
		t.Fatal(err)
	}
	k := math.Sin(math.Asin(1.0/1.05) / 2)
	quarter := mathext.CompleteK(k*k) * math.Sqrt(1.05/9.80665)
	for i, r := range list {
		near(t, fmt.Sprintf("pass %d", i+1), r.At/(float64(2*i+1)*quarter), 1, 1e-4)
	}
}

// Harder is sooner on cords and pole; a longer drop and a bigger swing of a pendulum are slower (common practice).
func TestKindsMonotone(t *testing.T) {
	for _, r := range []Rig{doubleEnd, reflex} {
		soft, _ := r.Returns(1, Meeting{}, 1)
		hard, err := r.Returns(3, Meeting{}, 1)
		if err != nil || hard[0].At >= soft[0].At {
			t.Errorf("%s: hard back at %v, soft at %v, %v", r.Kind(), hard, soft, err)
		}
	}
	low := slip
	low.CentreHeight = 1.3
	a, _ := slip.Returns(0.4, Meeting{}, 1)
	b, _ := low.Returns(0.4, Meeting{}, 1)
	if b[0].At <= a[0].At {
		t.Errorf("a longer drop passes at %g, a shorter at %g", b[0].At, a[0].At)
	}
	tight := doubleEnd
	tight.Upper, tight.Lower = cord.wound(0.8), cord.wound(0.8)
	slack, _ := doubleEnd.Returns(2, Meeting{}, 1)
	wound, _ := tight.Returns(2, Meeting{}, 1)
	if wound[0].At >= slack[0].At {
		t.Error("tighter cords come back later")
	}
	near(t, "the same rubber", tight.Upper.Stiffness*tight.Upper.Relaxed, cord.Stiffness*cord.Relaxed, 1e-9)
}

// A set-up mirrored top to bottom gives the same answers.
func TestMirrored(t *testing.T) {
	b := doubleEnd
	b.Upper = Cord{Span: 0.6, Relaxed: 0.5, Stiffness: 200}
	m := b
	m.Upper, m.Lower = b.Lower, b.Upper
	one, _ := b.Returns(3, Meeting{}, 3)
	two, err := m.Returns(3, Meeting{}, 3)
	if err != nil {
		t.Fatal(err)
	}
	for i := range one {
		near(t, "return", two[i].At, one[i].At, 1e-12)
	}
}

func TestKindsSolveBothWays(t *testing.T) {
	for _, r := range freely {
		for _, n := range []int{1, 2, 3} {
			m := Meeting{Rebounds: n}
			l, err := r.Limits(m)
			if err != nil || !(l.Slowest > 0 && l.Slowest < l.Fastest) {
				t.Fatalf("%s: %+v %v", r.Kind(), l, err)
			}
			for _, share := range []float64{0.1, 0.5, 0.9} {
				tempo := l.Slowest + share*(l.Fastest-l.Slowest)
				a, err := r.Solve(tempo, m)
				if err != nil || !a.Feasible || len(a.Change) != 0 {
					t.Fatalf("%s, %d at %g: %+v %v", r.Kind(), n, tempo, a, err)
				}
				back, err := r.Struck(a.Launch, m)
				if err != nil {
					t.Fatal(err)
				}
				near(t, fmt.Sprintf("%s, %d at %g", r.Kind(), n, tempo), back.Tempo/tempo, 1, 1e-8)
			}
			for _, tempo := range []float64{l.Slowest * 0.5, l.Fastest * 1.7} {
				a, err := Reach(r, tempo, m, Anybody)
				if err != nil || a.Feasible || len(a.Change) == 0 {
					t.Errorf("%s, %d at %g: %+v %v, want advice", r.Kind(), n, tempo, a, err)
				}
			}
		}
	}
}

func TestKindsRefusals(t *testing.T) {
	const cords = `"upper":{"span":0.75,"relaxed":0.577,"stiffness":150},"lower":{"span":0.75,"relaxed":0.577,"stiffness":150}`
	for _, c := range []struct{ doc, field string }{
		{
			`{"kind":"doubleEnd","ballDiameter":0.18,"ballMass":0.45,"upper":{"span":0.75,"relaxed":0.75,"stiffness":150},"lower":{"span":0.75,"relaxed":0.577,"stiffness":150}}`, "upper.relaxed"},
		{
			`{"kind":"doubleEnd","ballDiameter":0.18,"ballMass":0.45,"upper":{"span":0.75,"relaxed":0.577,"stiffness":1e9},"lower":{"span":0.75,"relaxed":0.577,"stiffness":150}}`, "upper.stiffness"},
		{`{"kind":"doubleEnd","ballDiameter":0,"ballMass":0.45,` + cords + `}`, "ballDiameter"},
		{`{"kind":"doubleEnd","ballDiameter":0.18,"ballMass":-1,` + cords + `}`, "ballMass"},
		{`{"kind":"reflex","ballDiameter":0.22,"ballMass":0.9,"poleLength":1.1,"poleMass":0.8,"spring":14}`, "spring"},
		{`{"kind":"reflex","ballDiameter":0.22,"ballMass":0.9,"poleLength":0,"poleMass":0.8,"spring":50}`,
			"poleLength"},
		{`{"kind":"slip","anchorHeight":1.5,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":0.5}`, "centreHeight"},
		{`{"kind":"slip","anchorHeight":1.6,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":0.5}`, "bagDiameter"},
		{`{"kind":"hanging","shape":"ball","mass":30,"diameter":0.45,"chain":0.6,"length":1}`, "length"},
		{`{"kind":"hanging","shape":"cylinder","mass":30,"diameter":0.45,"chain":0.6}`, "length"},
		{`{"kind":"hanging","shape":"cylinder","mass":30,"diameter":0.45,"chain":0.6,"length":1.2,"anchorHeight":1.7}`,
			"anchorHeight"},
		{`{"kind":"kettle"}`, "kind"},
	} {
		_, err := Read(input.Parse([]byte(c.doc)))
		var refused *input.Error
		if !errors.As(err, &refused) || refused.Field != c.field {
			t.Errorf("%s: %v, want a refusal of %q", c.doc, err, c.field)
		}
	}
	for _, c := range []struct {
		rig    Rig
		launch float64
		field  string
	}{{reflex, 29, "launch"}, {cylinder, 9, "launch"}, {slip, 1.05, "pull"}, {doubleEnd, 0, "launch"}} {
		_, err := c.rig.Returns(c.launch, Meeting{}, 1)
		var refused *input.Error
		if !errors.As(err, &refused) || refused.Field != c.field {
			t.Errorf("%s at %g: %v, want a refusal of %s", c.rig.Kind(), c.launch, err, c.field)
		}
	}
}

func TestDocumentsThereAndBack(t *testing.T) {
	for _, r := range append([]Rig{checked}, freely...) {
		text, err := json.Marshal(r)
		if err != nil {
			t.Fatal(err)
		}
		again, err := Read(input.Parse(text))
		if err != nil || again != r {
			t.Errorf("%s came back as %+v, %v", text, again, err)
		}
	}
}

// Whatever the document and the question, there is an answer or a refusal: no panic, no NaN, no endless search.
func FuzzRead(f *testing.F) {
	for _, doc := range []string{
		`{"kind":"doubleEnd","ballDiameter":0.18,"ballMass":0.45,"upper":{"span":0.75,"relaxed":0.577,"stiffness":150},"lower":{"span":0.75,"relaxed":0.577,"stiffness":150}}`,
		`{"kind":"reflex","ballDiameter":0.22,"ballMass":0.9,"poleLength":1.1,"poleMass":0.8,"spring":50}`,
		`{"kind":"slip","anchorHeight":2.6,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":0.5}`,
		`{"kind":"hanging","shape":"ball","mass":30,"diameter":0.45,"chain":0.6}`,
	} {
		f.Add([]byte(doc), 100.0, 1)
	}
	f.Fuzz(func(t *testing.T, doc []byte, tempo float64, rebounds int) {
		r, err := Read(input.Parse(doc))
		if err != nil {
			return
		}
		a, err := r.Solve(tempo, Meeting{Rebounds: rebounds % 8})
		if err != nil {
			return
		}
		for _, v := range []float64{a.Launch, a.Limits.Slowest, a.Limits.Fastest} {
			if math.IsNaN(v) || math.IsInf(v, 0) {
				t.Errorf("%s at %g with %d: %+v", doc, tempo, rebounds, a)
			}
		}
	})
}

func BenchmarkTenReturns(b *testing.B) {
	for _, r := range freely {
		b.Run(string(r.Kind()), func(b *testing.B) {
			for b.Loop() {
				if _, err := r.Returns(0.5, Meeting{}, 10); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

func ExampleDoubleEndBag_Returns() {
	cord := Cord{Span: 0.75, Relaxed: 0.577, Stiffness: 150}
	bag := DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04}
	list, err := bag.Returns(4, Meeting{}, 2)
	if err != nil {
		panic(err)
	}
	fmt.Printf("back at %.4f s, let through again at %.4f s\n", list[0].At, list[1].At)
	// Output: back at 0.2346 s, let through again at 0.7129 s
}
