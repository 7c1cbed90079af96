package judge

import (
	"slices"
	"time"

	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Heard holds the figures of a person that a round gives: the spread of the strikes that a bag timed, the mean age of
// their cues, and how many were missed. Strikes on a bag at rest and answers to cues are timed by no bag.
func (r Judgement) Heard(t drill.Timeline, p drill.Plan, kind rig.Kind, a trainee.Ability, at time.Time) trainee.Heard {
	h := trainee.Heard{Bag: kind, At: at, Spread: r.Spread, Bias: r.Bias, Known: r.Kept, Force: r.Force()}
	lost := 0
	if f := r.Followed; f != nil {
		// a bag that was lost costs two strikes that nobody missed
		h.Spread, h.Known, lost = f.Own, r.Kept && f.Known, 2*f.Anew
		t.Events = append(slices.Clone(t.Events), t.Beyond...)
	}
	sum, i := 0.0, 0
	for _, s := range level.Strikes(t, p.ReachTime(kind), level.SensesFor(p, a)) {
		if s.Slip {
			continue
		}
		if i >= len(r.Planned) { // the round was stopped
			break
		}
		v := r.Strikes[i]
		i++
		switch {
		case s.Still || s.Move < 0 || v == "":
			continue
		case v == Missed:
			h.Missed++
		default:
			h.Matched++
			sum += s.Age
		}
		h.Planned++
	}
	h.Missed = max(0, h.Missed-lost)
	if h.Matched > 0 {
		h.Age = sum / float64(h.Matched)
	}
	return h
}

// Begun gives where each repetition really began (s), of those that were planned at starts: the bag is drawn from the
// blow that set it going.
func (r Judgement) Begun(t drill.Timeline, starts []float64) []float64 {
	list := append([]float64(nil), starts...)
	planned := Planned(t, -1)
	seen := map[int]bool{}
	for i, s := range r.Planned {
		// on the bag's clock the first strike tells, else those that follow it
		if i >= len(planned) || r.Followed != nil && seen[s.Rep] {
			continue
		}
		seen[s.Rep] = true
		if d := s.At - planned[i].At; d != 0 && s.Rep < len(list) {
			list[s.Rep] = starts[s.Rep] + d
		}
	}
	return list
}
