package drill

import (
	"math"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// betweenPasses lays a combination on a slip bag: each defence against it meets the next pass, and the strikes stand
// between, after the head is back.
func (l *lander) betweenPasses() error {
	l.last = -1
	bag, ok := l.bag.(rig.SlipBag)
	if !ok {
		return input.Refuse("rig", "expected a slip bag")
	}
	need := 1
	for _, m := range l.moves {
		if m.Kind() == combo.Defence || m.Kind() == combo.Wait {
			need++
		}
	}
	if need > rig.MaxRebounds {
		return input.Refuse("text", "expected at most %d moves against the bag's passes, not %d", rig.MaxRebounds-1,
			need-1)
	}
	passes, err := bag.Passes(l.c.Pull, need, rig.Use{Place: l.place})
	if err != nil {
		return err
	}
	for _, p := range passes {
		l.rep.Passes = append(l.rep.Passes, p.At)
	}
	next, group := 0, []int{} // pass that comes, strikes and steps since the last one
	free := 0.0               // s from which on the hands are free
	for i, m := range l.moves {
		if err := l.stop(); err != nil {
			return err
		}
		switch m.Kind() {
		case combo.Strike, combo.Step:
			group = append(group, i)
			continue
		case combo.Wait:
			if err := l.fill(group, free, passes, next); err != nil {
				return err
			}
			free, group, l.against = passes[next].At, group[:0], 0
			next++
			continue
		}
		if err := l.fill(group, free, passes, next); err != nil {
			return err
		}
		p, times := passes[next], trainee.TimesOf(m.Move)
		s := Landed{Placed: m, Move: i, Through: p.At, Window: math.Max(0, p.Window)}
		// A slip stands in the middle of its window; what is no slip, a block or a parry, meets the bag itself.
		s.At = p.Opens + s.Window/2
		if times.Off == 0 {
			s.At = p.At - times.Whole/2
		} else if u := (rig.Use{Place: l.place}); times.Off != rig.DefaultAway(u.Place.Plane) {
			// another move than the one the place is reckoned for
			window := p.Window + rig.DefaultAway(u.Place.Plane) - times.Off
			s.Window = math.Max(0, window)
			s.At = p.Opens + s.Window/2
			if window <= 0 {
				s.Late = -window
			}
		} else if p.Window <= 0 {
			s.Late = -p.Window
		}
		if s.Share = 1; l.c.NoTouch {
			s.Share = noTouchShare
			s.Window *= s.Share
		}
		if s.Late > 0 {
			s.Fits = l.pulls(bag, next, times.Off)
		}
		s.Until = s.At + times.Whole
		l.add(s)
		free, group, l.against = s.Until, group[:0], times.Whole
		next++
	}
	return l.fill(group, free, passes, next)
}

// pulls returns other distances to draw the bag back to, at which the move against a pass can be done: the bag
// then comes slower, or takes longer from side to side.
func (l *lander) pulls(bag rig.SlipBag, pass int, off float64) []Adjustment {
	if !l.helps {
		return nil
	}
	use := rig.Use{Place: l.place}
	for _, share := range []float64{0.85, 1.15, 0.7, 1.3, 0.5, 1.6} {
		to := math.Round(100*l.c.Pull*share) / 100
		passes, known := l.drawn[to]
		if !known { // all that are needed at once: moves that are late come in numbers
			passes, _ = bag.Passes(to, l.needed(), use) // none where it cannot be drawn back so far
			l.drawn[to] = passes
		}
		if pass >= len(passes) || passes[pass].Window+rig.DefaultAway(use.Place.Plane)-off <= 0 {
			continue
		}
		if share < 1 {
			return []Adjustment{{"pull", to, "draw it back less: it comes slower"}}
		}
		return []Adjustment{{"pull", to, "draw it back further: there is more time between passes"}}
	}
	return nil
}

// fill stands the strikes of a group between the last pass and the next, as quick as the hands allow; where they do not
// fit they are refused with the time that is missing. Before the first pass and after the last they have all the time
// there is.
func (l *lander) fill(group []int, free float64, passes []rig.Pass, next int) error {
	at, before := free, Landed{}
	for n, i := range group {
		m := l.moves[i]
		if m.Kind() == combo.Step {
			whole := trainee.TimesOf(m.Move).Whole
			l.add(Landed{Placed: m, Move: i, At: at, Until: at + whole})
			at += whole
			continue
		}
		gap, since := l.way, l.against+l.way
		if n > 0 && before.Word != "" {
			gap = l.a.Between(before.Placed, m)
			since = gap
		}
		s := Landed{Placed: m, Move: i, At: at + gap, Fist: l.force(m), Window: freeWindow * since}
		s.Until = s.At + l.way
		l.narrow(&s, nil)
		l.add(s)
		at, before = s.At, s
	}
	return l.room(group, passes, next)
}

// room refuses strikes that do not fit between two passes: the time between them, less the move against the bag, has to
// hold the way of the first strike and an interval of the hands for each more (the models' count of punches between
// passes).
func (l *lander) room(group []int, passes []rig.Pass, next int) error {
	if len(group) == 0 || next == 0 || next >= l.needed() {
		return nil
	}
	gap := passes[next].At - passes[next-1].At - l.against
	need, before, strikes := 0.0, combo.Placed{}, 0
	for _, i := range group {
		m := l.moves[i]
		switch {
		case m.Kind() == combo.Step:
			need += trainee.TimesOf(m.Move).Whole
			continue
		case strikes == 0:
			need += l.way
		default:
			need += l.a.Between(before, m)
		}
		before = m
		strikes++
	}
	if missing := need - gap; missing > 1e-9 {
		return input.Refuse("text",
			"move %d: %d strikes do not fit between two passes of this bag, %.0f ms are missing: fewer of them, a longer rope, or every second pass", group[len(group)-1]+1, strikes, 1000*missing)
	}
	return nil
}

// needed returns the number of passes that the combination meets.
func (l *lander) needed() int {
	n := 0
	for _, m := range l.moves {
		if m.Kind() == combo.Defence || m.Kind() == combo.Wait {
			n++
		}
	}
	return n
}
