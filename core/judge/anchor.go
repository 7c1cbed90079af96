package judge

import (
	"math"
	"slices"
)

// anchorReach (s) is how far a repetition may begin from where it was planned and still be known for itself. Assumed.
const anchorReach = 0.5

// judgeAnchored judges a round of repetitions that each begin on a bag at rest: the first strike sets the bag going,
// and the ones that follow are due by when it was really struck. First each repetition is found among the hits, as a
// constant offset is; then its strikes are judged by its own first one, or by that offset where the first was missed.
// The strikes are given back where the bag had them.
func judgeAnchored(planned []Strike, hits []Hit, o Options) ([]Strike, Result) {
	narrow := narrowed(planned)
	offset := o.Offset
	if !o.KeepOffset {
		offset = Judge(narrow, hits, o).Offset
	}
	moved := slices.Clone(planned)
	for from := 0; from < len(planned); {
		to := from + 1
		for to < len(planned) && planned[to].Rep == planned[from].Rep && !planned[to].Still {
			to++
		}
		if planned[from].Still && !planned[from].answer {
			shift := begun(narrow[from:to], within(hits, narrow[from:to], offset))
			for i := from; i < to; i++ {
				if !planned[i].answer {
					narrow[i].At += shift
					moved[i].At += shift
				}
			}
			moved[from].At = planned[from].At // it is itself held against the call
		}
		from = to
	}
	r := Judge(narrow, hits, Options{KeepOffset: true, Offset: offset, Stop: o.Stop})
	for k, m := range r.Matches {
		if s := moved[m.Strike]; s.Still {
			e := hits[m.Hit].At - s.At - offset
			r.Matches[k].Error, r.Matches[k].Verdict = e, verdict(s, hits[m.Hit], e)
			r.Strikes[m.Strike] = r.Matches[k].Verdict
		}
	}
	r.order = r.order[:0]
	for _, s := range newMatcher(moved, nil).strikes {
		r.order = append(r.order, s.index)
	}
	r.tally(len(hits))
	return moved, r
}

// narrowed gives strikes on a bag at rest the window of the others of their repetition, so that they are matched by the
// same measure.
func narrowed(planned []Strike) []Strike {
	list := slices.Clone(planned)
	for i, s := range list {
		if !s.Still {
			continue
		}
		for k := i + 1; k < len(list) && list[k].Rep == s.Rep && !list[k].Still; k++ {
			if !list[k].answer {
				list[i].Window = math.Min(list[i].Window, list[k].Window)
			}
		}
	}
	return list
}

// within are the hits that can belong to a repetition.
func within(hits []Hit, strikes []Strike, offset float64) []Hit {
	var list []Hit
	for _, h := range hits {
		if at := h.At - offset; at > strikes[0].At-anchorReach && at < strikes[len(strikes)-1].At+anchorReach {
			list = append(list, Hit{At: at, Hand: h.Hand})
		}
	}
	return list
}

// begun returns the time (s) by which a repetition began later than planned.
func begun(strikes []Strike, hits []Hit) float64 {
	m := newMatcher(strikes, hits)
	shift := m.offsetWithin(anchorReach)
	for _, p := range m.pairs(shift) {
		if m.strikes[p[0]].index == 0 {
			return m.hits[p[1]].at - strikes[0].At
		}
	}
	return shift
}
