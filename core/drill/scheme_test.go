package drill

import (
	"errors"
	"testing"

	"melodromos/core/input"
)

func schemed(s Scheme, perHand int) SpeedBagDrill {
	return SpeedBagDrill{Technique: OneHand, FirstHand: Rear, PerHand: perHand, Scheme: s, Rebounds: 3, StrikeAngle: 25,
		Tempo: 120, Work: 60, Calls: true}
}

// runs are the lengths of the rows of one hand.
func runs(d SpeedBagDrill, strikes int) []int {
	var list []int
	for i := range strikes {
		if i == 0 || d.hand(i) != d.hand(i-1) {
			list = append(list, 0)
		}
		list[len(list)-1]++
	}
	return list
}

// Five a side, then fewer, down to two; or five on one side, then six on the other (common practice).
func TestSchemes(t *testing.T) {
	for name, c := range map[string]struct {
		d    SpeedBagDrill
		want []int
	}{
		"steady":  {schemed(Steady, 5), []int{5, 5, 5, 5, 5}},
		"falling": {schemed(Falling, 5), []int{5, 5, 5, 5, 4, 4, 4, 4, 3, 3, 3, 3, 2, 2, 2, 2, 2, 2}},
		"rising":  {schemed(Rising, 5), []int{5, 6, 7, 8, 9}},
		"rising by links": {SpeedBagDrill{Technique: Linking, FirstHand: Rear, PerHand: 4, Scheme: Rising, Rebounds: 2,
			StrikeAngle: 25, Tempo: 120, Work: 60}, []int{4, 6, 8}},
	} {
		sum := 0
		for _, n := range c.want {
			sum += n
		}
		got := runs(c.d, sum)
		if len(got) != len(c.want) {
			t.Fatalf("%s: %v", name, got)
		}
		for i, n := range c.want {
			if got[i] != n {
				t.Errorf("%s: %v, want %v", name, got, c.want)
				break
			}
		}
		if err := c.d.Check(); err != nil {
			t.Errorf("%s: %v", name, err)
		}
	}
	if n := schemed(Falling, 5).Positions(); n != 4*(5+4+3)+2*2 {
		t.Errorf("the falling scheme is shown by %d strikes", n)
	}
	if name := schemed(Falling, 5).Name(); name != "Basic rhythm, five a side, then fewer" {
		t.Error(name)
	}
}

// In a round every change stands at the first strike of its set, is called with the size of the set that comes, and the
// last set of a trap ends in the trap whatever its size.
func TestSchemeInARound(t *testing.T) {
	line, err := Compile(schemed(Rising, 3), bag)
	if err != nil {
		t.Fatal(err)
	}
	at, called := 3, []string{}
	for _, e := range line.Events {
		if e.Kind == Call {
			called = append(called, e.Text)
		}
	}
	for size := 4; at < len(of(line, Strike)); size++ {
		s := of(line, Strike)[at]
		if s.Position != 0 {
			t.Errorf("strike %d stands at place %d of its set", at, s.Position)
		}
		at += size
	}
	if len(called) < 4 || called[0] != "rear, three" || called[1] != "lead, four" || called[2] != "rear, five" {
		t.Errorf("called %q", called)
	}
	trap := schemed(Falling, 4)
	trap.Technique, trap.Tempo = Trap, 100
	line, err = Compile(trap, bag)
	if err != nil {
		t.Fatal(err)
	}
	for i, s := range of(line, Strike) {
		if _, place, size := trap.set(i); s.Pin != (place == size-1) {
			t.Fatalf("strike %d, place %d of %d: trap %v", i, place, size, s.Pin)
		}
	}
}

func TestSchemeRefusals(t *testing.T) {
	alone := schemed(Falling, 0)
	roll := SpeedBagDrill{Technique: FistRoll, FirstHand: Rear, Scheme: Rising, Rebounds: 1, StrikeAngle: 30,
		Tempo: 220, Work: 30}
	for name, d := range map[string]SpeedBagDrill{"one hand without end": alone, "no sets": roll,
		"unknown": schemed("sideways", 5)} {
		var refused *input.Error
		if err := d.Check(); !errors.As(err, &refused) || refused.Field != "scheme" {
			t.Errorf("%s: %v", name, err)
		}
	}
}
