package rig

import (
	"fmt"
	"math"
	"testing"

	"melodromos/core/motion"
)

// Cords wound tighter in steps go from too slack through head movement and combinations to too tight, in this order
// (common practice), and the half-power return comes ever sooner.
func TestFeels(t *testing.T) {
	soft := DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: Cord{0.75, 0.72, 60}, Lower: Cord{0.75, 0.72, 60},
		Damping: 0.04}
	order := []Feel{TooSlack, HeadMovement, Combinations, TooTight}
	at, last, seen := 0, math.Inf(1), map[Feel]bool{}
	for share := 1.03; share > 0.15; share -= 0.01 {
		feel, back, err := soft.Wound(share).Feels(DefaultBorders)
		if err != nil {
			t.Fatal(err)
		}
		if back >= last {
			t.Errorf("wound to %g it comes back at %g, no sooner than before", share, back)
		}
		last, seen[feel] = back, true
		for order[at] != feel {
			if at++; at == len(order) {
				t.Fatalf("wound to %g the cords are %s again", share, feel)
			}
		}
	}
	if len(seen) != 4 {
		t.Errorf("seen %v of the four", seen)
	}
}

// A hanging weight: the pull at rest is mg, from 60° the greatest is 2mg, from 90° 3mg (textbook values for m g (3 −
// 2cos θ)).
func TestPendulumLoads(t *testing.T) {
	static, peak, err := slip.Load(1.05 * math.Sin(math.Pi/3))
	if err != nil {
		t.Fatal(err)
	}
	near(t, "static", static, 0.5*motion.Gravity, 1e-12)
	near(t, "from 60°", peak, 2*static, 1e-9)
	if _, _, err := slip.Load(1.2); err == nil {
		t.Error("a pull beyond the drop has a load")
	}
	static, peak, err = cylinder.Load(1)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "heavy at rest", static, 40*motion.Gravity, 1e-9)
	near(t, "heavy swinging", peak, 40*motion.Gravity+40/1.1, 1e-9)
}

// Between two cords the ball cannot be further out than its energy carries it: ½mv² goes into the cords.
func TestCordLoads(t *testing.T) {
	static, peak, err := undamped().Load(4)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "at rest", static[0], 150*(0.75-0.577), 1e-9)
	stretched := peak[0]/150 + 0.577 // length of a cord with the ball at its furthest
	stored := 2 * 0.5 * 150 * (math.Pow(stretched-0.577, 2) - math.Pow(0.75-0.577, 2))
	near(t, "energy in the cords", stored, 0.5*0.45*16, 1e-4)
}

func TestSlipUses(t *testing.T) {
	period := 2 * math.Pi * math.Sqrt(1.05/motion.Gravity)
	near(t, "window", slip.SlipWindow(period, 1.9, 0.25), period/4-0.19/1.9-0.25, 1e-12)
	n, err := slip.TapAfter(0.6)
	if err != nil || n < 5 || n > 150 {
		t.Errorf("to be tapped after pass %d, %v", n, err)
	}
	further, err := slip.TapAfter(0.9)
	if err != nil || further <= n {
		t.Errorf("drawn back further it lasts until %d, no longer than %d", further, n)
	}
	if n, err := slip.TapAfter(0.2); n != 0 || err != nil {
		t.Errorf("a small pull lasts until pass %d, %v", n, err)
	}
}

// Hand-worked: a second between passes, a slip of 0.35 s, so 0.65 s for punches of 0.15 s and one every 0.22 s: the
// first ends at 0.15, then 0.37 and 0.59; a fourth would be ready at 0.81, 0.16 s too late.
func TestPunchesBetween(t *testing.T) {
	n, short := PunchesBetween(1, 0.35, 0.15, 0.22)
	if n != 3 {
		t.Errorf("%d punches, want 3", n)
	}
	near(t, "short", short, 0.16, 1e-12)
	n, short = PunchesBetween(0.45, 0.35, 0.15, 0.22)
	if n != 0 {
		t.Errorf("%d punches in a tenth of a second", n)
	}
	near(t, "short", short, 0.05, 1e-12)
}

func TestReflexUses(t *testing.T) {
	near(t, "flush", OffLine(0.22, 0), 0, 0)
	near(t, "on the edge", OffLine(0.22, 0.155), math.Pi/2, 1e-6)
	near(t, "other side", OffLine(0.22, -0.03), -OffLine(0.22, 0.03), 1e-15)
	soft, err := reflex.Settle(1)
	if err != nil {
		t.Fatal(err)
	}
	hard, err := reflex.Settle(3)
	if err != nil || hard <= soft {
		t.Errorf("settles after %g s when struck hard, %g s when softly, %v", hard, soft, err)
	}
	// From the closed form of a damped swing: the amplitude is under the radius after ln(A/R)/(ζω) seconds, to half a
	// period.
	w := math.Sqrt((reflex.Spring - reflex.weight()) / reflex.Inertia())
	want := math.Log(3/w/0.11) / (0.06 * w)
	near(t, "settling", hard, want, math.Pi/w)
	loose := reflex
	loose.Damping = 0
	if never, err := loose.Settle(3); err != nil || !math.IsInf(never, 1) {
		t.Errorf("without damping it settles after %g s, %v", never, err)
	}
}

func ExamplePunchesBetween() {
	n, short := PunchesBetween(1, 0.35, 0.15, 0.22)
	fmt.Printf("%d fit; for one more %.2f s are missing\n", n, short)
	// Output: 3 fit; for one more 0.16 s are missing
}
