package rig

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"melodromos/core/motion"
)

// every finding that a rig in use gives.
func found(r Rig, u Use) map[string]Finding {
	list := map[string]Finding{}
	for _, f := range Findings(r, u, r.SetUp(u.Place, u.Body, u.Launch)) {
		list[f.Code] = f
	}
	return list
}

func strung(relaxed, stiffness float64) DoubleEndBag {
	c := Cord{0.75, relaxed, stiffness}
	return DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: c, Lower: c, Damping: 0.04}
}

// The table of checks: on each of these rigs this is found, on the side of its limit that makes it so, with a source
// and a remedy; and where the remedy is a measure, setting it takes the finding away.
func TestCheckTable(t *testing.T) {
	use := Use{Launch: 2, Fist: 3, Hardest: 7, SameHand: 0.38, Place: Place{RatedLoad: 200}}
	with := func(change func(u *Use)) Use { u := use; change(&u); return u }
	above, below, neither := 1, -1, 0
	off := strung(0.6, 110)
	off.Upper, off.Lower = off.Upper.retied(0.5), off.Lower.retied(1.9)
	for _, c := range []struct {
		code   string
		rig    Rig
		use    Use
		weight Weight
		side   int // of the figure against the limit
	}{
		{"tooSlack", strung(0.73, 40), use, Wrong, above},
		{"tooTight", strung(0.3, 900), use, Wrong, below},
		{"headMovementOnly", strung(0.66, 90), use, Wrong, above},
		{"tension", strung(0.66, 90), with(func(u *Use) { u.Place.Purpose = ForHeadMovement }), Right, below},
		{"combinationsOnly", strung(0.577, 150), with(func(u *Use) { u.Place.Purpose = ForHeadMovement }), Mind, below},
		{"offCentre", off, use, Wrong, above},
		{"sags", strung(0.745, 300), use, Wrong, below},
		{"smallBall", DoubleEndBag{BallDiameter: 0.10, BallMass: 0.3, Upper: cord, Lower: cord},
			with(func(u *Use) { u.Novice = true }), Mind, below},
		{"tooHigh", slip, with(func(u *Use) { u.Body, u.Launch = small, 0.6 }), Wrong, above},
		{"tooLow", SlipBag{2.6, 1.2, 0.2, 0.5}, with(func(u *Use) { u.Body, u.Launch = tall, 0.6 }), Wrong, below},
		{"barelyStands", ReflexBag{BallDiameter: 0.2, BallMass: 2.5, PoleLength: 1.2, PoleMass: 0.5, Spring: 40},
			with(func(u *Use) { u.Launch = 0.5 }), Mind, below},
		{"baseWalks", reflex, with(func(u *Use) { u.Launch, u.Place.BaseMass, u.Place.BaseWidth = 3, 0.5, 2 }), Wrong,
			above},
		{"baseTips", reflex, with(func(u *Use) { u.Launch, u.Place.BaseMass, u.Place.BaseWidth = 3, 8, 0.3 }), Wrong,
			above},
		{"baseUnknown", reflex, use, Mind, neither},
		{"overload", cylinder, with(func(u *Use) { u.Place.RatedLoad, u.Launch = 45, 0.5 }), Wrong, above},
		{"loadUnknown", cylinder, with(func(u *Use) { u.Place.RatedLoad, u.Launch = 0, 0.5 }), Mind, neither},
		{"noClearance", cylinder, with(func(u *Use) { u.Body, u.Place.Behind, u.Launch = tall, 0.8, 0.5 }), Wrong,
			below},
		{"noCircling", cylinder, with(func(u *Use) { u.Body, u.Place.Beside, u.Launch = tall, 0.8, 0.5 }), Mind, below},
		{"tooSmall", SpeedBag{BagLength: 0.16, BagDiameter: 0.10, BagMass: 0.1, SwivelDrop: 0.015, Restitution: 0.8},
			with(func(u *Use) { u.SameHand, u.Launch = 1.5, 3 }), Wrong, below},
		{"tooLight", HangingBag{Shape: "cylinder", Mass: 8, Length: 0.8, Diameter: 0.3, Chain: 0.3},
			with(func(u *Use) { u.Launch = 0.5 }), Wrong, above},
		{"tooHeavy", HangingBag{Shape: "cylinder", Mass: 150, Length: 1.6, Diameter: 0.5, Chain: 0.5},
			with(func(u *Use) { u.Launch, u.Hardest = 0.1, 4 }), Mind, below},
		{"overPower", reflex, with(func(u *Use) { u.Place.PowerCap, u.Fist = 4, 5 }), Wrong, above},
		{"noAnchor", slip, with(func(u *Use) { u.Place.Anchor, u.Launch = StickOn, 0.6 }), Wrong, neither},
		{"bottleHit", slip, with(func(u *Use) { u.Place.Made, u.Launch = Bottle, 0.6 }), Wrong, neither},
		{"tooHeavy", SlipBag{2.6, 1.5, 0.3, 4}, with(func(u *Use) { u.Launch = 0.6 }), Wrong, above},
		{"between", slip, with(func(u *Use) { u.Alternate, u.Launch = 0.26, 0.6 }), Right, neither},
		{"flush", reflex, use, Right, neither},
		{"noSlip", SlipBag{1.85, 1.55, 0.2, 0.5}, with(func(u *Use) { u.Launch = 0.29 }), Wrong, below},
	} {
		t.Run(fmt.Sprintf("%s %s", c.rig.Kind(), c.code), func(t *testing.T) {
			if err := c.rig.Check(); err != nil {
				t.Fatal(err)
			}
			f, ok := found(c.rig, c.use)[c.code]
			if !ok {
				t.Fatalf("not found: %+v", found(c.rig, c.use))
			}
			if f.Weight != c.weight || f.Source == "" || (f.Remedy == "") != (f.Weight == Right) {
				t.Errorf("%+v", f)
			}
			switch {
			case c.side == above && !(f.Figure > f.Limit), c.side == below && !(f.Figure < f.Limit):
				t.Errorf("%g against %g", f.Figure, f.Limit)
			case c.side == neither && !math.IsNaN(f.Limit):
				t.Errorf("a limit of %g", f.Limit)
			}
			if len(f.Change) == 0 || c.code == "tooSmall" { // another bag changes more than its length
				return
			}
			u := c.use
			mended, place, err := Apply(c.rig, u.Place, f.Change)
			if err != nil {
				t.Fatal(err)
			}
			u.Place = place
			if again, still := found(mended, u)[c.code]; still {
				t.Errorf("remedied by %+v it is still found: %+v", f.Change, again)
			}
		})
	}
}

// A rig as it should be has nothing wrong with it.
func TestNothingWrong(t *testing.T) {
	p := Place{RatedLoad: 500, BaseMass: 60, BaseWidth: 0.6, Beyond: 4, Beside: 4, Behind: 4}
	for _, r := range []Rig{checked, strung(0.577, 150), reflex, slip, cylinder} {
		u := Use{Place: p, Launch: 0.5, Fist: 2, Hardest: 7, SameHand: 0.38, Body: tall}
		if d, ok := r.(DoubleEndBag); ok {
			u.Place.LowerAnchor = tall.InStance().Eye - d.Lower.Span
		}
		if r.Kind() == Speed {
			u.Launch = 3
		}
		s := r.SetUp(u.Place, u.Body, u.Launch)
		hung, place, err := Apply(r, u.Place, s.Settings)
		if err != nil {
			t.Fatal(err)
		}
		u.Place = place
		wrong, _ := Worst(Findings(hung, u, hung.SetUp(place, u.Body, u.Launch)))
		if len(wrong) != 0 {
			t.Errorf("%s: %+v", r.Kind(), wrong)
		}
	}
}

// Without damping, half a swing of the ball turns its momentum round; the loads of the cords are those of the spring
// law.
func TestLoadsOfEachKind(t *testing.T) {
	for _, r := range append([]Rig{checked}, freely...) {
		soft, err := r.Loads(0.4, 0)
		if r.Kind() == Speed {
			soft, err = r.Loads(3, 0)
		}
		if err != nil || len(soft) == 0 {
			t.Fatalf("%s: %v %v", r.Kind(), soft, err)
		}
		hard, err := r.Loads(0.8, 0)
		if r.Kind() == Speed {
			hard, err = r.Loads(6, 0)
		}
		if err != nil || hard[0].Peak <= soft[0].Peak || soft[0].Peak < soft[0].Static {
			t.Errorf("%s: %+v soft, %+v hard, %v", r.Kind(), soft, hard, err)
		}
	}
	loads, _ := checked.Loads(3, 0)
	near(t, "hanging still", loads[0].Static, 0.25*motion.Gravity, 1e-12)
}

// Rigs at random within their limits: set-up, checks, loads, side view and picture answer for all of them, and no
// figure of theirs is infinite.
func TestAnyRig(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	from := func(low, high float64) float64 { return low + (high-low)*r.Float64() }
	cordAt := func() Cord { s := from(0.3, 1.8); return Cord{s, s * from(0.3, 0.99), from(15, 600)} }
	made := map[Kind]int{}
	for range 400 {
		for _, one := range []Rig{
			DoubleEndBag{from(0.06, 0.4), from(0.1, 1.5), cordAt(), cordAt(), from(0, 0.3)},
			ReflexBag{from(0.06, 0.4), from(0.1, 3), from(0.5, 1.7), from(0, 3), from(5, 200), from(0, 0.3)},
			SlipBag{from(1.6, 5), from(0.7, 2.2), from(0.05, 0.4), from(0.05, 4)},
			HangingBag{Shape: "cylinder", Mass: from(5, 100), Length: from(0.5, 2), Diameter: from(0.2, 0.6),
				Chain: from(0, 2), AnchorHeight: from(1.5, 5)},
			SpeedBag{from(0.12, 0.45), from(0.08, 0.35), from(0.08, 1.2), from(0, 0.08), from(0.4, 0.95), from(1, 2.8)},
		} {
			if one.Check() != nil {
				continue
			}
			p := Place{LowerAnchor: from(0, 1), BaseMass: from(1, 100), BaseWidth: from(0.2, 1),
				RatedLoad: from(0, 300), Beyond: from(0, 3), Behind: from(0, 3)}
			a, err := one.AtFist(from(0.5, 5), everydayMeeting(one))
			if err != nil {
				continue // a meeting beyond the board
			}
			made[one.Kind()]++
			u := Use{Place: p, Body: Body{Height: from(0.9, 2.3)}, Launch: a.Launch, Fist: a.FistSpeed,
				Hardest: from(3, 10), SameHand: 0.4}
			s := one.SetUp(p, u.Body, a.Launch)
			for _, f := range Findings(one, u, s) {
				if math.IsInf(f.Figure, 0) || f.Title == "" || f.Code == "" {
					t.Errorf("%+v: %+v", one, f)
				}
			}
			for _, room := range s.Room {
				if !(room.Need > 0 && room.Need < 20) {
					t.Errorf("%+v: %+v", one, room)
				}
			}
			side := one.Side(p)
			for _, h := range side.Handles {
				if math.IsNaN(h.Value+h.Min+h.Max+h.X2+h.Y2) || len(h.Moves) == 0 || h.Moves[0].Field != h.Field ||
					h.Moves[0].Per == 0 {
					t.Errorf("%+v: %+v", one, h)
				}
			}
			if _, err := one.Picture(a.Launch, everydayMeeting(one), u); err != nil {
				t.Errorf("%+v: %v", one, err)
			}
			if s.Needs == "" {
				if hung, place, err := Apply(one, p, s.Settings); err == nil &&
					math.Abs(hung.SetUp(place, u.Body, a.Launch).Move) > 0.011 {
					t.Errorf("%+v set as told is to be moved by %g m", one, hung.SetUp(place, u.Body, a.Launch).Move)
				}
			}
		}
	}
	if len(made) != 5 {
		t.Errorf("%v", made)
	}
}
