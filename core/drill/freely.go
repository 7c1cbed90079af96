package drill

import (
	"math"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// freeWindow is the window, early and late together, of a strike that no bag constrains, as a share of the interval
// before it. Assumed.
const freeWindow = 0.30

// flush (m) is how far from where it is expected a heavy bag may be for a blow to land flush, on either side. Assumed.
const flush = 0.03

// moving (s) is the time for which a heavy bag stays in reach of the next blow after one has driven it off: less, the
// harder that was and the lighter the bag is.
func (l *lander) moving(before Landed) (float64, error) {
	if l.limits == nil {
		limits, err := l.bag.Limits(rig.Meeting{Rebounds: 1})
		if err != nil {
			return 0, err
		}
		l.limits = &limits
	}
	return 2 * flush / rig.Driven(l.bag, before.Fist, 0, *l.limits), nil
}

// freely paces the strikes by the tempo inside the combination, or by the rhythm that was played.
func (l *lander) freely() error {
	l.last = -1
	if l.c.Tempo == 0 {
		return input.Refuse("tempo", "expected a tempo where nothing but the hands keeps the pace")
	}
	interval := 60 / l.c.Tempo
	struck := 0
	var between []int
	for i, m := range l.moves {
		if err := l.stop(); err != nil {
			return err
		}
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
			// the tempo is that of hands in turn; one hand or a leg takes longer
			gap *= l.a.Between(before.Placed, s.Placed) / l.a.Alternate
			sum := 0.0
			for _, k := range between {
				sum += trainee.TimesOf(l.moves[k].Move).Whole
				if l.moves[k].Kind() == combo.Wait {
					sum += interval
				}
			}
			need := 0.0
			if sum > 0 {
				need = sum + l.way
				gap = math.Max(gap, need)
			}
			if l.c.Played != nil {
				gap = l.c.Played.Times[struck] - l.c.Played.Times[struck-1]
			}
			s.At = before.At + gap
			if hands := math.Max(l.a.Between(before.Placed, s.Placed), need); hands > gap+leastLate {
				s.Late = hands - gap
				if l.c.Played == nil {
					to := math.Floor(60 / hands * gap / interval)
					s.Fits = []Adjustment{{"tempo", to, "as quick as these hands are"}}
				}
			}
			s.Window = freeWindow * gap
			if l.bag.Kind() == rig.Hanging && !l.stopping(before.Placed.Move) && l.stopIn(between) < 0 {
				moving, err := l.moving(before)
				if err != nil {
					return err
				}
				s.Window = 1 / math.Hypot(1/s.Window, 1/moving)
			}
		}
		between = l.addStrike(s, between)
		struck++
	}
	l.trailing(between)
	return nil
}
