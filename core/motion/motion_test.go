package motion

import (
	"errors"
	"fmt"
	"math"
	"testing"

	"gonum.org/v1/gonum/mathext"
)

// near fails unless got is want to a relative accuracy.
func near(t *testing.T, what string, got, want, relative float64) {
	t.Helper()
	if !(math.Abs(got-want) <= relative*math.Abs(want)) {
		t.Errorf("%s: %.12g, want %.12g", what, got, want)
	}
}

// The seconds pendulum: 0.9936 m swings from side to side in one second (T = 2π√(ℓ/g); handbook value).
func TestSmallSwing(t *testing.T) {
	p := Pendulum{Rate: math.Sqrt(Gravity / 0.9936)}
	if got := p.Period(1e-6); math.Abs(got-2) > 5e-5 {
		t.Errorf("period of 0.9936 m: %.5f s, want 2.0000 s", got)
	}
}

// T/T₀ = (2/π) K(sin²(θ/2)), the complete elliptic integral; 1.18034 from 90° (published in any table of pendulum
// periods).
func TestLargeSwing(t *testing.T) {
	p := Pendulum{Rate: 2 * math.Pi}
	near(t, "from 90°", p.Period(math.Pi/2), 1.18034, 5e-6)
	for deg := 5.0; deg <= 120; deg += 5 {
		amplitude := deg * math.Pi / 180
		k := math.Sin(amplitude / 2)
		near(t, fmt.Sprintf("from %g°", deg), p.Period(amplitude), 2/math.Pi*mathext.CompleteK(k*k), 1e-9)
	}
}

// t(θ) = (2/ω_B) F(θ/2 | 4Ω²/ω_B²) against gonum's incomplete elliptic integral (Carlson's algorithm), both for
// pendulums that swing and for those that would go over the top.
func TestTimeToAgainstEllipticF(t *testing.T) {
	p := Pendulum{Rate: 7.4}
	for _, bottom := range []float64{0.5, 3, 8, 12, 14.79, 14.8, 14.81, 20, 80} {
		m := 4 * p.Rate * p.Rate / (bottom * bottom)
		for deg := 1.0; deg <= 85; deg += 4 {
			theta := deg * math.Pi / 180
			if s := math.Sin(theta / 2); m*s*s >= 0.9999 {
				continue // gonum gives NaN beyond the turning point
			}
			want := 2 / bottom * mathext.EllipticF(theta/2, m)
			near(t, fmt.Sprintf("ω %g, %g°", bottom, deg), p.TimeTo(theta, bottom), want, 1e-9)
			near(t, "mirrored", p.TimeTo(-theta, bottom), -want, 1e-9)
		}
	}
}

// At the turning point itself the time is a quarter of the period; a hair beyond there is none.
func TestTimeToTurning(t *testing.T) {
	p := Pendulum{Rate: 6}
	amplitude := 1.1
	bottom := p.BottomSpeed(amplitude, 0)
	near(t, "quarter", p.TimeTo(amplitude, bottom), p.Period(amplitude)/4, 1e-9)
	if got := p.TimeTo(amplitude+1e-3, bottom); !math.IsNaN(got) {
		t.Errorf("beyond the turning point: %g, want NaN", got)
	}
	if v := p.SpeedAt(amplitude+1e-3, bottom); v != 0 {
		t.Errorf("speed beyond the turning point: %g, want 0", v)
	}
}

// Speed and angle are tied by the balance of energy.
func TestEnergy(t *testing.T) {
	p := Pendulum{Rate: 7}
	bottom := p.BottomSpeed(0.6, 4)
	near(t, "there and back", p.SpeedAt(0.6, bottom), 4, 1e-12)
	near(t, "energy", bottom*bottom/2, 4*4/2.0+49*(1-math.Cos(0.6)), 1e-12)
}

// Roots known in closed form.
func TestRoot(t *testing.T) {
	for _, c := range []struct {
		name       string
		f          func(float64) float64
		a, b, want float64
	}{
		{"square", func(x float64) float64 { return x*x - 2 }, 0, 2, math.Sqrt2},
		{"cosine", math.Cos, 1, 2, math.Pi / 2},
		{"steep", func(x float64) float64 { return math.Expm1(50 * (x - 0.3)) }, 0, 1, 0.3},
		{"flat", func(x float64) float64 { return math.Pow(x-0.7, 3) }, 0, 1, 0.7},
		{"end a", func(x float64) float64 { return x }, 0, 1, 0},
		{"end b", func(x float64) float64 { return x - 1 }, 0, 1, 1},
	} {
		got, err := Root(c.f, c.a, c.b, 1e-13)
		if err != nil || math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%s: %.15g, %v; want %.15g", c.name, got, err, c.want)
		}
	}
	if _, err := Root(func(float64) float64 { return 1 }, 0, 1, 1e-9); !errors.Is(err, ErrNoBracket) {
		t.Errorf("no root: %v, want ErrNoBracket", err)
	}
	if _, err := Root(math.Log, -1, 2, 1e-9); !errors.Is(err, ErrNoBracket) {
		t.Errorf("NaN at an end: %v, want ErrNoBracket", err)
	}
}

func BenchmarkTimeTo(b *testing.B) {
	p := Pendulum{Rate: 7.4}
	for b.Loop() {
		p.TimeTo(1.2, 18)
	}
}

func ExamplePendulum_Period() {
	p := Pendulum{Rate: math.Sqrt(Gravity / 0.9936)}
	fmt.Printf("%.3f s\n", p.Period(0.01))
	// Output: 2.000 s
}
