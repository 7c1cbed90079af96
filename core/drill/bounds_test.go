package drill

import (
	"context"
	"errors"
	"strings"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
)

// A round that would be too long or too full is refused by what makes it so, before it is laid out.
func TestRoundsAreBounded(t *testing.T) {
	many := strings.TrimSuffix(strings.Repeat("(1-2)x50 - ", 4), " - ") // 400 strikes
	for name, c := range map[string]struct {
		change       func(*CombinationDrill)
		field, tells string
	}{
		"too long": {func(c *CombinationDrill) { c.Pause, c.Repetitions = 6, 1000 }, "repetitions",
			"minutes, and a round lasts 60 at most"},
		"too many strikes": {func(c *CombinationDrill) { c.Text, c.Repetitions = many, 2000 }, "repetitions",
			"15 repetitions of these 400 strikes: a round holds 6000"},
		"too many moves": {func(c *CombinationDrill) { c.Text, c.Repetitions, c.Pause = "1 - (duck)x50", 700, 0 },
			"repetitions", "30000 calls, moves and sounds"},
		"one after the last": {func(c *CombinationDrill) { c.Text, c.Repetitions, c.Pause = "1", 61, 60 },
			"repetitions", "at most 60 repetitions"},
	} {
		d := thrown("1-2")
		d.Work = 0
		c.change(&d)
		_, _, err := CompileCombination(d, Floor{Bag: gentle, Ability: able, Seed: 1})
		var refused *input.Error
		if !errors.As(err, &refused) || refused.Field != c.field || !strings.Contains(refused.Reason, c.tells) {
			t.Errorf("%s: %v, want %s: … %s", name, err, c.field, c.tells)
		}
	}
	d := thrown("1")
	d.Work, d.Repetitions, d.Pause = 0, 60, 59
	if line, _, err := CompileCombination(d, Floor{Bag: gentle, Ability: able, Seed: 1}); err != nil ||
		(line.End-line.Start).Seconds() > MaxRound {
		t.Errorf("a long round that is none too long: %v", err)
	}
	slow := SpeedBagDrill{Technique: OneHand, FirstHand: Rear, Rebounds: 3, StrikeAngle: 25, Tempo: 20, Strikes: 1300}
	var refused *input.Error
	if err := slow.Check(); !errors.As(err, &refused) || refused.Field != "strikes" ||
		!strings.Contains(refused.Reason, "at most 1200 strikes: 1300 of them would last 65 minutes") {
		t.Errorf("a slow technique: %v", err)
	}
	passes := CombinationDrill{Text: strings.TrimSuffix(strings.Repeat("(duck)x50 - ", 5), " - "), Landing: OnReturns,
		Pace: Combining, Work: 600, Guidance: Alone}
	if _, err := Land(passes, Floor{Bag: rig.SlipBag{AnchorHeight: 2.6, CentreHeight: 1.55, BagDiameter: 0.2,
		BagMass: 0.5}, Ability: able}); !errors.As(err, &refused) || refused.Field != "text" {
		t.Errorf("250 moves against a slip bag: %v", err)
	}
}

// Whoever has gone is worked for no longer.
func TestLayingOutStops(t *testing.T) {
	gone, leave := context.WithCancel(context.Background())
	leave()
	if _, _, err := CompileCombination(thrown("1-2-duck-2"),
		Floor{Bag: gentle, Ability: able, Seed: 1, Stop: gone.Err}); !errors.Is(err, context.Canceled) {
		t.Errorf("%v, want that the asker has gone", err)
	}
}

// What falls into an answer to a cue is left out, and nothing else: the same as going through all cues for each move.
func TestBusy(t *testing.T) {
	cues := Cues{Moves: []string{"duck", "roll lead"}, Least: 0.5, Mean: 2, Counters: []string{"1", "2-3-2"}}.Draw(7, 3,
		200, Thrown{})
	if len(cues) < 40 {
		t.Fatalf("%d cues", len(cues))
	}
	for at := 0.0; at < 205; at += 0.013 {
		want := false
		for _, c := range cues {
			want = want || at > c.At-0.1 && at < c.At+c.takes
		}
		if got := busy(cues, at); got != want {
			t.Fatalf("at %.3f s: %v, want %v", at, got, want)
		}
	}
}

// Where the sets have come to their last size, their places are told without going through all before.
func TestSetsOfLongRounds(t *testing.T) {
	for _, d := range []SpeedBagDrill{{Technique: OneHand, PerHand: 5, Scheme: Falling},
		{Technique: Linking, PerHand: 6, Scheme: Falling}, {Technique: OneHand, PerHand: 48, Scheme: Rising}} {
		turn, place := 0, 0
		for i := range 6000 {
			if gotTurn, gotPlace, size := d.set(i); gotTurn != turn || gotPlace != place || size != d.size(turn) {
				t.Fatalf("%s %s: strike %d in set %d at place %d of %d, want %d, %d, %d", d.Technique, d.Scheme, i,
					gotTurn, gotPlace, size, turn, place, d.size(turn))
			}
			if place++; place == d.size(turn) {
				turn, place = turn+1, 0
			}
		}
	}
}

// Laying out a round with cues takes a time that grows with its length alone.
func BenchmarkLayWithCues(b *testing.B) {
	c := CombinationDrill{Text: "1-2", Stance: combo.Orthodox, Landing: OnReturns, Pace: Combining, Pause: 10,
		Repetitions: 300, Guidance: Fading, Cues: &Cues{Moves: []string{"duck"}, Least: 0.5, Mean: 1.1}}
	for b.Loop() {
		if _, err := c.Lay(Floor{Bag: gentle, Ability: able, Seed: 1}); err != nil {
			b.Fatal(err)
		}
	}
}
