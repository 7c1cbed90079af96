package drill

import (
	"math"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/trainee"
)

// freeWindow is how much of the interval before it a strike that no bag constrains may be off, early and late together.
// Assumed.
const freeWindow = 0.30

// freely paces the strikes by the tempo inside the combination.
func (l *lander) freely() error {
	l.last = -1
	if l.c.Tempo == 0 {
		return input.Refuse("tempo", "expected a tempo where nothing but the hands keeps the pace")
	}
	interval := 60 / l.c.Tempo
	var between []int
	for i, m := range l.moves {
		if m.Kind() != combo.Strike {
			between = append(between, i)
			continue
		}
		s := Landed{Placed: m, Move: i, Fist: l.force(m)}
		gap := interval
		if l.last < 0 {
			l.open(&s, between)
			s.Window, s.Still = restWindow, true
		} else {
			before := l.rep.Moves[l.last]
			gap *= l.a.Interval(before.Hand(), s.Hand()) / l.a.Alternate // the tempo is that of hands in turn; one hand takes longer
			sum := 0.0
			for _, k := range between {
				sum += trainee.TimesOf(l.moves[k].Move).Whole
				if l.moves[k].Kind() == combo.Wait {
					sum += interval
				}
			}
			if sum > 0 {
				gap = math.Max(gap, sum+l.way)
			}
			s.At = before.At + gap
			if hands := l.a.Interval(before.Hand(), s.Hand()); hands > gap+1e-9 {
				s.Late = hands - gap
				s.Fits = []Offer{{"tempo", math.Floor(60 / hands * gap / interval), "as quick as these hands are"}}
			}
			s.Window = freeWindow * gap
		}
		l.narrow(&s, between)
		s.Until = s.At + l.way
		l.between(between, s)
		l.add(s)
		between = between[:0]
	}
	l.trailing(between)
	return nil
}
