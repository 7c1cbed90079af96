package motion

import (
	"errors"
	"fmt"
	"math"
	"testing"

	"gonum.org/v1/gonum/mathext"
)

// collect follows a swing until n passages through the levels have come by, turns left out.
func collect(t *testing.T, s Swing, x, v float64, levels []float64, n int) []Passage {
	t.Helper()
	var list []Passage
	err := s.Follow(x, v, 1000, levels, func(p Passage) bool {
		if !p.Turn {
			list = append(list, p)
		}
		return len(list) < n
	})
	if err != nil {
		t.Fatal(err)
	}
	return list
}

// A spring: x = sin t in closed form.
func TestSpring(t *testing.T) {
	s := Swing{func(x, _ float64) float64 { return -x }}
	for i, p := range collect(t, s, 0, 1, []float64{0}, 40) {
		near(t, fmt.Sprintf("zero %d", i+1), p.At, float64(i+1)*math.Pi, 1e-8)
		near(t, "speed", math.Abs(p.V), 1, 5e-8)
	}
	got := collect(t, s, 0, 1, []float64{0.5, -0.5}, 4)
	for i, want := range []float64{math.Pi / 6, 5 * math.Pi / 6, 7 * math.Pi / 6, 11 * math.Pi / 6} {
		near(t, fmt.Sprintf("half %d", i+1), got[i].At, want, 1e-9)
	}
}

// A damped spring: zeros every π/ω_d, amplitude e^(−ζt), in closed form.
func TestDampedSpring(t *testing.T) {
	const z = 0.06
	wd := math.Sqrt(1 - z*z)
	s := Swing{func(x, v float64) float64 { return -x - 2*z*v }}
	for i, p := range collect(t, s, 0, 1, []float64{0}, 12) {
		at := float64(i+1) * math.Pi / wd
		near(t, fmt.Sprintf("zero %d", i+1), p.At, at, 1e-8)
		near(t, "speed", math.Abs(p.V), math.Exp(-z*at), 1e-7)
	}
}

// A pendulum released at rest: quarter periods by the complete elliptic integral.
func TestPendulumStepByStep(t *testing.T) {
	for _, amplitude := range []float64{0.01, 0.5, 1.2, math.Pi / 2} {
		s := Swing{func(x, _ float64) float64 { return -9 * math.Sin(x) }}
		k := math.Sin(amplitude / 2)
		quarter := mathext.CompleteK(k*k) / 3
		for i, p := range collect(t, s, amplitude, 0, []float64{0}, 5) {
			near(t, fmt.Sprintf("from %g, pass %d", amplitude, i+1), p.At, float64(2*i+1)*quarter, 1e-8)
		}
	}
}

// A spring that hardens, x″ = −x − x³: the Duffing oscillator, whose period from rest at A is
// 4K(m)/√(1+A²), m = A²/(2(1+A²)) (Abramowitz & Stegun 1964, ch. 16; any text on nonlinear oscillations).
func TestDuffing(t *testing.T) {
	s := Swing{func(x, _ float64) float64 { return -x - x*x*x }}
	for _, a := range []float64{0.1, 1, 5} {
		want := 4 * mathext.CompleteK(a*a/(2*(1+a*a))) / math.Sqrt(1+a*a)
		p := collect(t, s, a, 0, []float64{0}, 3)
		near(t, fmt.Sprintf("A %g", a), p[2].At-p[0].At, want, 1e-8)
	}
}

func TestTurnsAndRest(t *testing.T) {
	s := Swing{func(x, _ float64) float64 { return -x }}
	var turns []float64
	_ = s.Follow(0, 1, 100, nil, func(p Passage) bool {
		turns = append(turns, p.At)
		near(t, "turn", math.Abs(p.X), 1, 1e-8)
		return len(turns) < 3
	})
	near(t, "second turn", turns[1], 1.5*math.Pi, 1e-8)
	stuck := Swing{func(_, v float64) float64 { return -5 * v }}
	if err := stuck.Follow(0, 1, 50, []float64{1}, func(Passage) bool { return true }); !errors.Is(err, ErrAtRest) {
		t.Errorf("%v, want ErrAtRest", err)
	}
}

func BenchmarkFollowTenPeriods(b *testing.B) {
	s := Swing{func(x, v float64) float64 { return -9*math.Sin(x) - 0.1*v }}
	for b.Loop() {
		n := 0
		_ = s.Follow(0, 2, 100, []float64{0}, func(p Passage) bool { n++; return n < 40 })
	}
}

// Thrown at 45° the height is a parabola; on a spring in the plane both coordinates are sines (closed forms).
func TestPlane(t *testing.T) {
	spring := Plane{func(x, y, _, _ float64) (float64, float64) { return -x, -4 * y }}
	at, y, err := spring.ReturnTo(0.5, 1, 1e-3, 10)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "half a swing", at, math.Pi, 1e-9)
	near(t, "height", y, 0.5, 1e-9) // cos 2π
	up := Plane{func(_, _, _, _ float64) (float64, float64) { return -2, -1 }}
	at, y, err = up.ReturnTo(0, 3, 1e-3, 10)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "there and back", at, 3, 1e-9)
	near(t, "fallen", y, -4.5, 1e-9)
	if _, _, err := (Plane{func(_, _, _, _ float64) (float64, float64) { return 0, 0 }}).ReturnTo(0, 1, 1e-2,
		1); !errors.Is(err, ErrAtRest) {
		t.Errorf("%v, want ErrAtRest", err)
	}
}
