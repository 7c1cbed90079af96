package drill

import (
	"errors"
	"math"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
)

// What a strike could meet is the returns in their order; the one it does meet is among them.
func TestChoices(t *testing.T) {
	for _, on := range []rig.Rig{bag, gentle, pole, heavy} {
		r := land(t, thrown("1-2 - wait - 1"), on, able)
		list := r.Choices(on)
		for i, m := range r.Moves {
			if m.Return == 0 {
				if list[i] != nil {
					t.Errorf("%s: %s has choices", on.Kind(), m.Placed.Move)
				}
				continue
			}
			found := false
			for k, c := range list[i] {
				if k > 0 && !(c.At > list[i][k-1].At) {
					t.Errorf("%s: %+v", on.Kind(), list[i])
				}
				if c.Count == m.Return {
					found = true
					near(t, "the one it meets", c.At, m.At, 1e-9)
				}
			}
			if !found {
				t.Errorf("%s: return %d is not among %+v", on.Kind(), m.Return, list[i])
			}
		}
	}
}

// Force and tempo are tied on cords and under a board, where harder is sooner (common practice), and the force that is
// found for a tempo gives it. On a pole force sets the window far more than the tempo.
func TestTies(t *testing.T) {
	for _, on := range []rig.Rig{bag, gentle, taut} {
		ties := Ties(thrown("1-2-1-2"), Floor{Bag: on, Ability: able})
		if len(ties) == 0 {
			t.Fatalf("%s: not tied", on.Kind())
		}
		for i := 1; i < len(ties); i++ {
			if ties[i].Inside < ties[i-1].Inside-1e-9 {
				t.Errorf("%s: harder is slower: %+v", on.Kind(), ties)
			}
		}
		want := (ties[2].Inside + ties[6].Inside) / 2
		c, err := AtTempo(thrown("1-2-1-2"), Floor{Bag: on, Ability: able}, want)
		if err != nil {
			t.Fatal(err)
		}
		near(t, string(on.Kind())+" at the tempo", land(t, c, on, able).Inside, want, 1e-4)
		var refused *input.Error
		if _, err := AtTempo(thrown("1-2"), Floor{Bag: on, Ability: able}, 5000); !errors.As(err, &refused) ||
			refused.Field != "tempo" {
			t.Errorf("5000 a minute: %v", err)
		}
	}
	if ties := Ties(thrown("1-2-1-2"), Floor{Bag: pole, Ability: able}); ties != nil {
		t.Errorf("on a pole: %+v", ties)
	}
	free := thrown("1-2")
	free.Landing = Freely
	for name, c := range map[string]CombinationDrill{"free": free, "a single strike": thrown("1"),
		"with a move between": thrown("1 - slip lead - 3")} {
		if ties := Ties(c, Floor{Bag: gentle, Ability: able}); ties != nil {
			t.Errorf("%s: %+v", name, ties)
		}
	}
}

// Every return, every second one, or none: the ball at rest, a pole that has settled.
func TestRhythms(t *testing.T) {
	for _, on := range []rig.Rig{gentle, pole} {
		every, second, none := thrown("1-2-1"), thrown("1-2-1"), thrown("1-2-1")
		second.Rhythm, none.Rhythm = SecondReturn, NoReturn
		a, b, c := land(t, every, on, able), land(t, second, on, able), land(t, none, on, able)
		if a.Moves[1].Return != 1 || b.Moves[1].Return != 2 || c.Moves[1].Return != 0 {
			t.Errorf("%s: returns %d, %d, %d", on.Kind(), a.Moves[1].Return, b.Moves[1].Return, c.Moves[1].Return)
		}
		near(t, "at rest each is as the first", c.Moves[2].Launch, c.Moves[0].Launch, 1e-12)
		settled, err := on.(interface {
			Settle(float64) (float64, error)
		}).Settle(c.Moves[0].Launch)
		if err != nil {
			t.Fatal(err)
		}
		for school, rest := range map[rig.Steadied]float64{"": map[rig.Kind]float64{rig.DoubleEnd: steadied,
			rig.Reflex: settled}[on.Kind()], rig.NeverByHand: settled, rig.ToStartAgain: steadied} {
			r, err := Land(none, Floor{Bag: on, Ability: able, Place: rig.Place{Steadied: school}})
			if err != nil {
				t.Fatal(err)
			}
			near(t, "rest, steadied "+string(school), r.Moves[1].At, rest, 1e-9)
		}
		line, _ := compiled(t, none, on, 1)
		near(t, "drawn at rest before the blow", swingAt(line.Film.Trace, c.Moves[1].At-1e-6), 0, 0.02)
	}
	for k, c := range map[rig.Kind]CombinationDrill{
		rig.Speed: {Rhythm: SecondReturn}, rig.Slip: {Rhythm: SecondReturn}, rig.Hanging: {Rhythm: NoReturn},
		rig.DoubleEnd: {NoTouch: true},
	} {
		var refused *input.Error
		if err := c.suits(k); !errors.As(err, &refused) || refused.Field == "" {
			t.Errorf("%s: %v", k, err)
		}
	}
}

// A hook's window counts for less, an uppercut's for less again, and less once more for the first strike after a step
// off the line; the strike after that one sends the bag along the new line.
func TestShares(t *testing.T) {
	r := land(t, thrown("1-2-3-5 - step lead - 2-1 - step back - 2"), gentle, able)
	want := []float64{1, 1, 0.7, 0.6, 0, 0.8, 1, 0, 1}
	for i, m := range r.Moves {
		if m.Kind() == combo.Strike && math.Abs(m.Share-want[i]) > 1e-12 {
			t.Errorf("move %d (%s): share %g, want %g", i+1, m.Placed.Move, m.Share, want[i])
		}
	}
	near(t, "hook after a pivot", land(t, thrown("1 - pivot lead - 3"), gentle, able).Moves[2].Share, 0.56, 1e-12)
	touched := CombinationDrill{Text: "slip lead", Landing: OnReturns, Pace: Combining, Pull: 0.6, Work: 60}
	untouched := touched
	untouched.NoTouch = true
	near(t, "no touch", land(t, untouched, rope, able).Moves[0].Window,
		0.8*land(t, touched, rope, able).Moves[0].Window, 1e-12)
}
