package judge

import (
	"math"
	"slices"
)

// Correction is a coach's verdict on one planned strike, by its index in the plan, against the one judged.
type Correction struct {
	Strike  int
	Verdict Verdict
}

// markReach (s) is how long before a mark the strike was that it speaks of. Assumed: seen, and pressed.
const markReach = 1.5

// Correct judges strikes as a coach says, over what was found. One that is not missed any more keeps the hit it had, if
// any; one that is gives its hit back as an extra one. Strikes that did not come due are passed over.
func (r *Judgement) Correct(list []Correction) {
	for _, c := range list {
		if c.Strike < 0 || c.Strike >= len(r.Strikes) || r.Strikes[c.Strike] == "" {
			continue
		}
		r.say(c.Strike, c.Verdict)
	}
	if len(list) > 0 {
		r.again()
	}
}

// MarkMissed takes what a coach marked as missed (s) for it: of the strikes just before, one that was missed anyway, or
// else the last one that had a hit.
func (r *Judgement) MarkMissed(at []float64) {
	claimed := map[int]bool{}
	for _, t := range at {
		missed, struck := -1, -1
		for i, s := range r.Planned {
			if s.At < t-markReach || s.At > t || claimed[i] || r.Strikes[i] == "" {
				continue
			}
			if r.Strikes[i] == Missed {
				missed = i
			} else {
				struck = i
			}
		}
		if missed < 0 && struck >= 0 {
			missed = struck
			r.say(struck, Missed)
		}
		if missed >= 0 {
			claimed[missed] = true
		}
	}
	if len(at) > 0 {
		r.again()
	}
}

// say writes a verdict down.
func (r *Judgement) say(strike int, v Verdict) {
	at := slices.IndexFunc(r.Matches, func(m Match) bool { return m.Strike == strike })
	switch {
	case (v == Missed || v == Harmless) && at >= 0:
		r.Matches = slices.Delete(r.Matches, at, at+1)
	case at >= 0:
		r.Matches[at].Verdict = v
	}
	r.Strikes[strike] = v
}

// again counts and measures anew what was corrected.
func (r *Judgement) again() {
	counted, harmless := r.Clean, r.Harmless
	r.tally(len(r.Hits))
	r.Extra = max(0, r.Extra)
	if f := r.Followed; f != nil && !math.IsNaN(f.Met) && f.Due > 0 {
		met := f.Met*float64(f.Due-harmless) + float64(r.Clean-counted)
		f.Met = math.Max(0, math.Min(1, met/math.Max(1, float64(f.Due-r.Harmless))))
	}
	r.Measures = Measure(r.Result, r.Planned, r.Hits, r.From, r.To, r.inbound)
}
