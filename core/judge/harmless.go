package judge

import (
	"cmp"
	"math"
	"slices"

	"melodromos/core/drill"
	"melodromos/core/rig"
)

// withoutTouches leaves out the contacts of a fist roll that were fist against fist: one of each hand, heard as one, of
// which the bag felt nothing while it feels the others. touched are when (s) they were. Such a miss is harmless: the
// hands are close, as they should be (common practice).
func withoutTouches(hits []Hit) (left []Hit, touched []float64) {
	hits = slices.Clone(hits)
	slices.SortStableFunc(hits, func(a, b Hit) int { return cmp.Compare(a.At, b.At) })
	felt := 0
	for _, h := range hits {
		if h.Launch > 0 {
			felt++
		}
	}
	if 2*felt < len(hits) { // a source that knows of no force knows no difference
		return hits, nil
	}
	for i := 0; i < len(hits); i++ {
		h := hits[i]
		if i+1 < len(hits) && h.Launch == 0 && hits[i+1].Launch == 0 && hits[i+1].At-h.At <= rig.OneBlow &&
			wrong(h.Hand, hits[i+1].Hand) {
			touched = append(touched, h.At)
			i++
			continue
		}
		left = append(left, h)
	}
	return left, touched
}

// PassHarmless takes misses for harmless where fists touched (s): of the strikes that were missed near such a moment
// the nearest.
func (r *Judgement) PassHarmless(at []float64, reach float64) {
	for _, t := range at {
		best, off := -1, reach
		for i, s := range r.Planned {
			if d := math.Abs(s.At - t); r.Strikes[i] == Missed && d <= off {
				best, off = i, d
			}
		}
		if best >= 0 {
			r.say(best, Harmless)
		}
	}
	if len(at) > 0 {
		r.again()
	}
}

// FistsTouch says whether the fists of a timeline roll over one another: hand after hand at every rebound.
func FistsTouch(t drill.Timeline) bool {
	n := 0
	for _, e := range t.Events {
		if e.Kind == drill.Strike {
			if n++; t.Film != nil || e.Count > 1 {
				return false
			}
		}
	}
	return n > 0
}
