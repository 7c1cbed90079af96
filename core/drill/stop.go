package drill

import (
	"errors"
	"math"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Stopping a swinging hanging bag is work of its own (common practice): a jab in time, a step aside and a kick, a
// firm long guard, a jam with the forearms, a push kick. The next strike then meets it at rest. It is never grabbed.

// restsAfter (s) is the time until a heavy bag that was stopped hangs still. Assumed.
const restsAfter = 0.25

// Stops says whether a move stops a bag of this kind: one that says so, and what never does anything else to a heavy
// bag.
func Stops(m combo.Move, k rig.Kind) bool {
	return k == rig.Hanging && (m.Stop || m.Word == combo.LongGuard || m.Word == combo.Jam)
}

func (l *lander) stopping(m combo.Move) bool { return Stops(m, l.bag.Kind()) }

// stopIn is the place of the first stop among the moves between two strikes; -1 for none.
func (l *lander) stopIn(between []int) int {
	for k, i := range between {
		if l.stopping(l.moves[i].Move) {
			return k
		}
	}
	return -1
}

// stopped places a strike on a bag that a move before it, the k-th of those between, has stopped as it came back.
func (l *lander) stopped(s *Landed, before Landed, m rig.Meeting, between []int, k int) error {
	back, err := l.back(before.Launch, m)
	var refused *input.Error
	switch {
	case errors.As(err, &refused):
		return input.Refuse("text", "move %d (%s): %s", between[k]+1, l.moves[between[k]].Move, refused.Reason)
	case err != nil:
		return err
	}
	sum := func(list []int) float64 {
		t := 0.0
		for _, i := range list {
			t += trainee.TimesOf(l.moves[i].Move).Whole
		}
		return t
	}
	comes := before.Back + back.At
	if first := before.At + sum(between[:k]) + l.way; first > comes+1e-9 { // it is there before the stop can be
		s.Late = first - comes
	}
	s.At = math.Max(comes, before.At+l.a.Between(before.Placed, s.Placed)) + math.Max(sum(between[k:]),
		restsAfter) + l.way
	s.Back = s.At
	return nil
}

// steadied (s) is the time from a strike until the hand has steadied the bag. Assumed.
const steadied = 1.0

// still places a strike on a bag that has come to rest: steadied by hand, or, where it never is, settled by itself.
func (l *lander) still(s *Landed, before Landed, between []int) error {
	rest := steadied
	if bag, ok := l.bag.(interface {
		Settle(launch float64) (float64, error)
	}); ok && l.place.ByHand(l.bag.Kind()) == rig.NeverByHand {
		settle, err := bag.Settle(before.Launch)
		switch {
		case err != nil:
			return err
		case math.IsInf(settle, 0):
			return input.Refuse("rhythm", "this bag never settles: it has no damping")
		}
		rest = settle
	}
	s.Settle = rest
	s.At = before.At + math.Max(rest, l.need(before, *s, between))
	s.Back = s.At
	return nil
}
