package drill

import (
	"math"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/rig"
)

var heavyBag = rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5, AnchorHeight: 2.7}

func heavily(text string) CombinationDrill {
	return CombinationDrill{Text: text, Stance: combo.Orthodox, Landing: OnReturns, Pace: Combining, Pause: 2, Work: 60,
		Guidance: Alone}
}

// A heavy bag that swings is stopped as it comes back, in each of the ways there are (common practice), and the next
// strike meets it at rest; without the stop it meets the return.
func TestStop(t *testing.T) {
	on := Floor{Bag: heavyBag, Ability: able, Seed: 1}
	swinging, err := Land(heavily("2-1"), on)
	if err != nil || swinging.Moves[1].Still || swinging.Moves[1].Return != 1 {
		t.Fatalf("%+v, %v", swinging.Moves, err)
	}
	period := heavyPeriod(t)
	for _, text := range []string{"2 - stop 1 - 2", "2 - long guard - 2", "2 - jam - 5", "2 - stop push kick lead - 2",
		"2 - stop step lead - 2", "2 - slip lead - jam - 3"} {
		rep, err := Land(heavily(text), on)
		if err != nil || len(rep.Late()) != 0 {
			t.Fatalf("%s: %+v, %v", text, rep.Late(), err)
		}
		last := rep.Moves[len(rep.Moves)-1]
		if !last.Still || last.Return != 0 || last.Speed != 0 {
			t.Errorf("%s: the strike after the stop meets %+v", text, last)
		}
		var stop Landed
		for _, m := range rep.Moves {
			if Stops(m.Placed.Move, rig.Hanging) {
				stop = m
			}
		}
		// It comes back half a period after the strike (models.md 2.5), to be stopped on its way in or as it is there.
		if comes := period / 2; stop.At < comes/2 || stop.At > comes+0.35 {
			t.Errorf("%s: stopped at %.2f s, and it is there at %.2f s", text, stop.At, comes)
		}
		if last.At < stop.At+0.15 {
			t.Errorf("%s: %.2f s from the stop to the next strike", text, last.At-stop.At)
		}
		line, _, err := CompileCombination(heavily(text), on)
		if err != nil {
			t.Fatal(err)
		}
		if swing := math.Abs(swingAt(line.Film.Trace, last.At-0.02)); swing > 0.08 {
			t.Errorf("%s: drawn swinging by %.2f when it is struck at rest", text, swing)
		}
	}
	for _, text := range []string{"2 - stop 1 - 2", "2 - jam - 2"} {
		if _, err := Land(heavily(text), Floor{Bag: gentle, Ability: able}); err == nil {
			t.Errorf("%s on cords", text)
		}
	}
	// A long guard on cords is a guard, and the bag goes on.
	rep, err := Land(heavily("1 - long guard - 2"), Floor{Bag: gentle, Ability: able})
	if err != nil || rep.Moves[len(rep.Moves)-1].Still {
		t.Errorf("%+v, %v", rep.Moves, err)
	}
}

// heavyPeriod is the small swing's from the inertia tables (models.md 7: 2.2126 s).
func heavyPeriod(t *testing.T) float64 {
	t.Helper()
	const want = 2.2126
	back, err := heavyBag.Returns(0.05, rig.Meeting{}, 1)
	if err != nil || math.Abs(2*back[0].At-want) > 1e-3 {
		t.Fatalf("%+v, %v", back, err)
	}
	return want
}

// A kick takes 0.45 s before it and after it, in which the hands are free; a switch of the feet makes the same hand
// the lead one. Slow hands find no room, and a slip keeps its time to itself.
func TestHalfBeats(t *testing.T) {
	free := func(text string) CombinationDrill {
		c := heavily(text)
		c.Landing, c.Tempo = Freely, 200
		return c
	}
	rep := func(text string) Repetition {
		t.Helper()
		r, err := Land(free(text), Floor{Bag: heavyBag, Ability: able})
		if err != nil {
			t.Fatal(err)
		}
		return r
	}
	for _, c := range []struct {
		text string
		want []HalfBeat
	}{
		{"1-2", nil}, {"1 - slip lead - 2", nil}, {"1 - wait - 2", nil},
		{"1 - switch - 2", []HalfBeat{{1, 0.40 + 0.15 - 0.44, combo.Lead}}}, {"1 - switch - 1", nil},
		{"2 - step in - 1", nil},
		{"2 - pivot lead - 2", []HalfBeat{{1, 0.45 + 0.15 - 0.44, combo.Lead}}},
		{"2 - step in - 2", []HalfBeat{{1, 0.30*0.38/0.22 - 0.44, combo.Lead}}},
	} {
		got := HalfBeats(rep(c.text), able)
		if len(got) != len(c.want) {
			t.Errorf("%s: %+v, want %+v", c.text, got, c.want)
			continue
		}
		for i, h := range got {
			if h.Move != c.want[i].Move || h.Hand != c.want[i].Hand || math.Abs(h.Free-c.want[i].Free) > 1e-9 {
				t.Errorf("%s: %+v, want %+v", c.text, h, c.want[i])
			}
		}
	}
	// The tempo of 0.30 s is that of hands in turn; a kick takes 0.45/0.22 of it.
	kick := HalfBeats(rep("1 - low kick rear - 2"), able)
	if len(kick) != 2 || kick[0].Move != 1 || kick[0].Hand != combo.Rear || kick[1].Hand != combo.Lead ||
		math.Abs(kick[0].Free-(0.30*0.45/0.22-0.22-0.15)) > 1e-9 {
		t.Errorf("beside a kick: %+v", kick)
	}
	slow := able
	slow.Alternate, slow.SameHand = 0.5, 0.7
	r, err := Land(free("1 - switch - 2"), Floor{Bag: heavyBag, Ability: slow})
	if err != nil || len(HalfBeats(r, slow)) != 0 {
		t.Errorf("slow hands found room, %v", err)
	}
}
