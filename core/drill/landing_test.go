package drill

import (
	"errors"
	"math"
	"strings"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

var (
	soft   = rig.Cord{Span: 0.75, Relaxed: 0.66, Stiffness: 90}
	hard   = rig.Cord{Span: 0.75, Relaxed: 0.5, Stiffness: 260}
	gentle = rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: soft, Lower: soft, Damping: 0.04}
	taut   = rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: hard, Lower: hard, Damping: 0.04}
	pole   = rig.ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50, Damping: 0.06}
	rope   = rig.SlipBag{AnchorHeight: 2.6, CentreHeight: 1.55, BagDiameter: 0.2, BagMass: 0.5}
	heavy  = rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5, AnchorHeight: 2.7}
	every  = []rig.Rig{bag, gentle, pole, rope, heavy}
	able   = trainee.Start(trainee.Intermediate)
)

func thrown(text string) CombinationDrill {
	return CombinationDrill{Text: text, Stance: combo.Orthodox, Landing: OnReturns, Pace: Combining, Pause: 2, Work: 60,
		Guidance: Fading}
}

func land(t *testing.T, c CombinationDrill, on rig.Rig, a trainee.Ability) Repetition {
	t.Helper()
	r, err := Land(c, Floor{Bag: on, Ability: a})
	if err != nil {
		t.Fatalf("%q on %s: %v", c.Text, on.Kind(), err)
	}
	return r
}

func near(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tolerance) {
		t.Errorf("%s: %g, want %g", what, got, want)
	}
}

// A one-two on a soft and on a hard double-end bag: the 2 meets the first return at the time the model gives for the
// blow of the 1. On the hard one it is late by what this trainee's hands are short of, and softer cords, a softer 1 or
// the second return are offered; each of them does what it says.
func TestOneTwo(t *testing.T) {
	slow := trainee.Start(trainee.FirstTimer) // 0.30 s between alternate hands
	for name, on := range map[string]rig.DoubleEndBag{"soft": gentle, "hard": taut} {
		c := thrown("1-2")
		c.Fist = 3
		r := land(t, c, on, slow)
		back, err := on.Returns(r.Moves[0].Launch, rig.Meeting{}, 3)
		if err != nil {
			t.Fatal(err)
		}
		near(t, name+": the 2", r.Moves[1].At, back[0].At, 1e-12)
		near(t, name+": its window", r.Moves[1].Window, back[0].Window, 1e-12)
		late := math.Max(0, slow.Alternate-back[0].At)
		near(t, name+": late", r.Moves[1].Late, late, 1e-12)
		if (late > 0) != (name == "hard") || (len(r.Late()) > 0) != (late > 0) {
			t.Fatalf("%s: %+v", name, r.Moves[1])
		}
		if late == 0 {
			continue
		}
		offers := map[string]float64{}
		for _, o := range r.Moves[1].Fits {
			offers[o.What] = o.To
		}
		if n := int(offers["return"]); n != 2 || back[1].At < slow.Alternate {
			t.Errorf("offers %+v", offers)
		}
		named := thrown("1:2 2")
		named.Fist = 3
		if again := land(t, named, on, slow); again.Moves[1].Late != 0 || again.Moves[1].Return != 2 {
			t.Errorf("on the second return: %+v", again.Moves[1])
		}
		looser := on
		looser.Upper.Relaxed, looser.Upper.Stiffness = offers["upper.relaxed"], offers["upper.stiffness"]
		looser.Lower.Relaxed, looser.Lower.Stiffness = offers["lower.relaxed"], offers["lower.stiffness"]
		at, err := looser.Returns(r.Moves[0].Launch, rig.Meeting{}, 1)
		if err != nil || math.Abs(at[0].At-1.03*slow.Alternate) > 1e-4 { // and a little more
			t.Errorf("on softer cords it is back after %v, %v", at, err)
		}
		if fist, ok := offers["fist"]; ok {
			c.Fist = fist
			if again := land(t, c, on, slow); again.Moves[1].Late > 1e-3 {
				t.Errorf("struck softer: %+v", again.Moves[1])
			}
		}
	}
}

// After a power shot the force that is offered is that of an ordinary strike, so that the power shot itself fits once
// it is taken.
func TestOfferAfterPowerShot(t *testing.T) {
	slow := trainee.Start(trainee.Beginner)
	c := thrown("1!-2")
	c.Fist = 3
	firm := gentle // late off the power shot, in time off a softer one
	firm.Upper.Stiffness, firm.Lower.Stiffness = 190, 190
	r := land(t, c, firm, slow)
	taken := false
	for _, o := range r.Moves[1].Fits {
		if o.What != "fist" {
			continue
		}
		taken = true
		c.Fist = o.To
		if again := land(t, c, firm, slow); again.Moves[1].Late > 1e-3 {
			t.Errorf("%g m/s: still %g s late", o.To, again.Moves[1].Late)
		}
	}
	if !taken {
		t.Errorf("late by %g s, offers %+v", r.Moves[1].Late, r.Moves[1].Fits)
	}
}

// Every strike of an on-returns drill stands where the rig, asked anew, comes back, inside its window; a wait lets one
// return go and so does a defence, but not on a heavy bag.
func TestEveryStrikeMeetsItsReturn(t *testing.T) {
	for _, on := range []rig.Rig{bag, gentle, pole, heavy} {
		r := land(t, thrown("1-2 wait 1! | slip lead - 3 - step in - 2-1"), on, able)
		var strikes []Landed
		for _, m := range r.Moves {
			if m.Kind() == combo.Strike {
				strikes = append(strikes, m)
			}
		}
		step := 1
		first := 1
		if on.Kind() == rig.Speed {
			step, first = 2, 3
		}
		let := map[bool]int{true: first + step, false: first}
		for i, want := range []int{0, first, first + step, let[lets(on.Kind())], first, first} {
			s := strikes[i]
			if s.Return != want || s.Window <= 0 {
				t.Errorf("%s, strike %d meets return %d, want %d (window %g)", on.Kind(), i+1, s.Return, want, s.Window)
			}
			if i == 0 {
				continue
			}
			n := s.Return
			if on.Kind() == rig.Speed {
				n = 1
			}
			list, err := on.Returns(strikes[i-1].Launch, rig.Meeting{Rebounds: s.Return}, n)
			if err != nil {
				t.Fatal(err)
			}
			near(t, string(on.Kind())+" return", s.Back-strikes[i-1].Back, list[n-1].At, 1e-9)
			if on.Kind() == rig.Hanging {
				near(t, "in the middle of the bag's way in", s.At, s.Back-list[n-1].Window/2, 1e-9)
			} else {
				near(t, "at the return", s.At, s.Back, 1e-12)
			}
		}
		if strikes[2].Fist <= strikes[1].Fist { // the power shot
			t.Errorf("%s: %g m/s for the power shot, %g for the others", on.Kind(), strikes[2].Fist, strikes[1].Fist)
		}
		if on.Kind() == rig.DoubleEnd || on.Kind() == rig.Reflex { // harder is sooner (common practice)
			a, _ := on.Returns(strikes[2].Launch, rig.Meeting{}, 1)
			b, _ := on.Returns(strikes[1].Launch, rig.Meeting{}, 1)
			if a[0].At >= b[0].At {
				t.Errorf("%s: after the power shot it is no sooner back", on.Kind())
			}
		}
	}
	// An even count does not come back to the front of a speed bag.
	var refused *input.Error
	if _, err := Land(thrown("1:2 2"), Floor{Bag: bag, Ability: able}); !errors.As(err, &refused) ||
		refused.Field != "text" || !strings.Contains(refused.Reason, "move 2 (2)") {
		t.Errorf("an even count: %v", err)
	}
}

// Slips meet the passes in the middle of their windows; punches stand between; what does not fit is refused with the
// time that is missing, by the models' count.
func TestBetweenPasses(t *testing.T) {
	c := thrown("slip lead - 3 - slip rear - 2")
	c.Pull = 0.6
	r := land(t, c, rope, able)
	passes, _ := rope.Passes(0.6, 2, rig.Use{})
	for i, at := range []int{0, 2} {
		s := r.Moves[at]
		near(t, "pass", s.Through, passes[i].At, 1e-12)
		near(t, "middle of the window", s.At, passes[i].Opens+passes[i].Window/2, 1e-12)
		if s.Late != 0 || s.At < passes[i].Opens || s.At > passes[i].Opens+passes[i].Window {
			t.Errorf("%+v", s)
		}
	}
	if r.Moves[1].At <= r.Moves[0].Until {
		t.Error("the hand is thrown before the head is back")
	}
	short := rope
	short.AnchorHeight = 2.05 // a short rope: quick passes
	slow := trainee.Start(trainee.Beginner)
	c = thrown("slip lead - 3-2-3 - slip rear - 2")
	c.Pull = 0.2
	var refused *input.Error
	_, err := Land(c, Floor{Bag: short, Ability: slow})
	if !errors.As(err, &refused) || refused.Field != "text" || !strings.Contains(refused.Reason, "ms are missing") {
		t.Fatalf("three punches between two quick passes: %v", err)
	}
	quick, _ := short.Passes(0.2, 2, rig.Use{})
	if n, _ := rig.PunchesBetween(quick[1].At-quick[0].At, 0.35, 0.15, slow.Alternate); n >= 3 {
		t.Errorf("the models let %d punches fit", n)
	}
}

// Freely, strikes stand apart by the tempo, moves between take their time, and hands that are slower than the tempo are
// late.
func TestFreely(t *testing.T) {
	c := thrown("1-2-3 - step back - 2")
	c.Landing, c.Tempo = Freely, 180
	r := land(t, c, heavy, able)
	near(t, "the 2", r.Moves[1].At, 1.0/3, 1e-12)
	near(t, "after the step", r.Moves[4].At, 2.0/3+0.35+0.15, 1e-12)
	near(t, "inside", r.Inside, 180, 1e-9)
	if len(r.Late()) != 0 {
		t.Errorf("%+v", r.Late())
	}
	c.Tempo = 400
	quick := land(t, c, heavy, able)
	near(t, "late", quick.Moves[1].Late, able.Alternate-0.15, 1e-12)
	if o := quick.Moves[1].Fits; len(o) != 1 || o[0].What != "tempo" || o[0].To > 60/able.Alternate {
		t.Errorf("%+v", o)
	}
}

// Pace modes: power is harder and slower than flow, speed quicker; what was said stays.
func TestPaceModes(t *testing.T) {
	with := func(p Pace) CombinationDrill {
		c := thrown("1-2")
		c.Landing, c.Pace = Freely, p
		return c.With(heavy, able)
	}
	if !(with(Power).Fist > with(Combining).Fist && with(Combining).Fist > with(Flow).Fist) ||
		!(with(Speedy).Tempo > with(Flow).Tempo && with(Flow).Tempo > with(Power).Tempo) {
		t.Errorf("%+v %+v %+v", with(Power), with(Flow), with(Speedy))
	}
	c := thrown("1-2")
	c.Fist = 2.2
	if c.With(heavy, able).Fist != 2.2 {
		t.Error("a force that was said was changed")
	}
	for _, on := range every {
		if r := land(t, thrown("1-2 | slip lead - 3"), on, able); len(r.Moves) != 4 || !(r.Length > 0) {
			t.Errorf("%s: %+v", on.Kind(), r)
		}
	}
}
