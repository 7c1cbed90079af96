package drill

import "melodromos/core/combo"

// Shares of the bag's window that count, all assumed: a curved blow crosses the bag's line and meets it for a shorter
// time, and so does any blow once a step has left that line and the bag crosses in front.
const (
	hookShare     = 0.7
	uppercutShare = 0.6
	offLineShare  = 0.8
	noTouchShare  = 0.8 // where the bag may not be touched
)

// narrow takes a strike's window down to what counts of it. A side step or a pivot since the last strike leaves the
// bag's line; the strike itself sends the bag along the new one.
func (l *lander) narrow(s *Landed, between []int) {
	if s.Share = 1; s.Still {
		return
	}
	switch s.Shape() {
	case combo.Hook:
		s.Share, s.Less = hookShare, "curved"
	case combo.Uppercut:
		s.Share, s.Less = uppercutShare, "curved"
	}
	if l.c.Guard != Touched {
		s.Share *= noTouchShare
	}
	if l.last >= 0 {
		for _, i := range between {
			if m := l.moves[i]; m.Word == combo.Pivot || m.Word == combo.StepTo &&
				(m.Toward == "lead" || m.Toward == "rear") {
				s.Share *= offLineShare
				s.Less = "off the line"
				break
			}
		}
	}
	s.Window *= s.Share
}
