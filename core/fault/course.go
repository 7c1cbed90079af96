package fault

import (
	"fmt"
	"math"
	"sort"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/judge"
)

// A gap is a time (s) without a hit though strikes came due, or a repetition was called: so long, and so many times the
// usual interval. One strike that was missed makes none. Assumed.
const gapLeast, gapOf = 2.0, 2.0

// order is so many clean strikes in a row. Assumed, as in judge.
const order = 3

// lost finds the gaps in which nobody hit. Their strikes are left out of everything else. Those of somebody who fades,
// all in the last third, belong to that.
func (a *analysis) lost(fades bool) (Fault, bool) {
	f := Fault{Code: Lost}
	early := !fades
	var gone []int
	gaps, away, found := 0, 0.0, 0.0
	ordered, until := a.ordered(), 0
	for j := 1; j < len(a.hits); j++ {
		first, last, lost := a.idle(a.hits[j-1].At, a.hits[j].At)
		if lost < gapLeast || lost < gapOf*a.usual {
			continue
		}
		back := ordered[last+1]
		early = early || a.rows[first].At < a.lastThird()
		for k := first; k <= last; k++ {
			gone = append(gone, k)
		}
		k := max(last+1, until)
		for ; k < len(a.rows) && a.rows[k].At < back; k++ { // and what is missed until it is
			if a.rows[k].verdict == judge.Missed {
				gone = append(gone, k)
			}
		}
		until = k
		if math.IsInf(back, 1) {
			continue // it was not found again before the end
		}
		gaps, away, found = gaps+1, away+lost, found+back-a.rows[first].At
		f.Times += last - first + 1
	}
	if gaps == 0 || !early {
		return f, false
	}
	for _, k := range gone {
		a.rows[k].gone = true
	}
	_, wide := stat.MeanStdDev(a.gaps(), nil)
	f.Effect, f.Error = away, math.Sqrt(float64(gaps))*wide
	f.Cost = away / math.Max(1, a.To-a.From) * a.shareElsewhere()
	back := fmt.Sprintf("order was back after %.1f s each time on average", found/float64(gaps))
	if gaps == 1 {
		back = fmt.Sprintf("order was back after %.1f s", found)
	}
	f.Evidence = fmt.Sprintf("Lost it %s: nothing for %.1f s, %s.", times(gaps), away, back)
	return f, f.Effect > Floor(Lost, a.usual) && f.Effect > firm*f.Error
}

// idle returns the strikes that were missed between two hits, from the first to the last (one past it where it
// is only that a repetition was begun late), and the time (s) from the first of them, or from its call.
func (a *analysis) idle(from, to float64) (first, last int, lost float64) {
	first, last = -1, -1
	missed, late := 0, 0.0
	begin := sort.Search(len(a.rows), func(i int) bool { return a.rows[i].At > from+a.usual/4 })
	for i := begin; i < len(a.rows) && a.rows[i].At < to-a.usual/4; i++ {
		switch w := &a.rows[i]; {
		case w.verdict == judge.Missed && w.hit < 0:
			missed, last = missed+1, i
		case w.Still && w.hit >= 0 && a.Hits[w.hit].At == to:
			late = to - math.Max(w.At, from+w.Least)
		default:
			continue
		}
		if first < 0 {
			first = i
		}
	}
	if first < 0 || missed < wholeMissed && late < gapLeast {
		return first, last, 0
	}
	if last < first {
		last = first - 1
	}
	lost = to - a.rows[first].At
	if next := last + 1; missed < wholeMissed && next > first && next < len(a.rows) { // a rest after it is none
		lost -= math.Max(0, a.rows[next].At-a.rows[last].At-2*a.usual)
	}
	return first, last, lost
}

// wholeMissed is the number of strikes missed in a row from which those after them count as lost as well. Assumed.
const wholeMissed = 3

// gaps are the times (s) between hits that are no longer than a few strikes apart.
func (a *analysis) gaps() []float64 {
	var list []float64
	for i := 1; i < len(a.hits); i++ {
		if d := a.hits[i].At - a.hits[i-1].At; d < gapOf*a.usual {
			list = append(list, d)
		}
	}
	if len(list) < 2 {
		return []float64{0, 0}
	}
	return list
}

// ordered returns the time (s) at which order is back, from each strike on: so many clean ones in a row; +Inf where it
// never is. One past the last is asked for, too.
func (a *analysis) ordered() []float64 {
	at := make([]float64, len(a.rows)+1)
	at[len(a.rows)] = math.Inf(1)
	streak := 0
	for i := len(a.rows) - 1; i >= 0; i-- {
		if at[i] = at[i+1]; !a.rows[i].clean() {
			streak = 0
			continue
		}
		if streak++; streak >= order {
			at[i] = a.rows[i+order-1].At
		}
	}
	return at
}

// shareElsewhere is the clean share of the strikes that were not in a gap.
func (a *analysis) shareElsewhere() float64 {
	clean, n := 0.0, 0.0
	for _, w := range a.rows {
		if w.gone {
			continue
		}
		if n++; w.clean() {
			clean++
		}
	}
	return clean / math.Max(1, n)
}

// lastThird returns the time (s) at which the last third of the round begins.
func (a *analysis) lastThird() float64 { return a.From + (a.To-a.From)*2/3 }

// fading compares the last third of a round with what was before it: with all of it beyond chance, and with either of
// the other thirds beyond the floor, since something that went wrong once in a round is none.
func (a *analysis) fading() (Fault, bool) {
	f := Fault{Code: Fading}
	third := (a.To - a.From) / 3
	in := func(from, to int) func(row) bool {
		return func(w row) bool {
			return w.At >= a.From+float64(from)*third && (to == 3 || w.At < a.From+float64(to)*third)
		}
	}
	late := func(is func(row) bool) []float64 {
		var list []float64
		for _, w := range a.rows {
			if w.timed() && is(w) {
				list = append(list, w.held())
			}
		}
		return list
	}
	last, before := in(2, 3), in(0, 2)
	f.Times = len(late(last))
	said := ""
	ratio, se, ok := wider(late(last), late(before))
	for k := range 2 {
		r, _, _ := wider(late(last), late(in(k, k+1)))
		ok = ok && r > 1+Floor(Fading, 0)/2
	}
	if ok {
		f.Effect, f.Error = ratio-1, ratio*se
		f.Cost = a.tightened(last, ratio)
		said = fmt.Sprintf("timing is %.1f times looser (give or take %.1f)", ratio, math.Max(0.1, 2*ratio*se))
	}
	missed, n := a.missed(last)
	earlier, m := a.missed(before)
	d, se, ok := oftener(missed, n, earlier, m)
	for k := range 2 {
		share, _ := a.missed(in(k, k+1))
		ok = ok && missed-share > missFloor/2
	}
	if ok {
		f.Cost += d * n / a.due()
		if said != "" {
			said += ", and "
		} else {
			f.Effect, f.Error = d, se
		}
		said += fmt.Sprintf("%.0f %% are missed against %.0f %% before", 100*missed, 100*earlier)
	}
	f.Evidence = "In the last third " + said + "."
	return f, said != ""
}

// planVaries is the least change of pace in a plan that can be missed, as the standard deviation of the strikes
// in ten seconds over their mean. Assumed.
const planVaries = 0.25

// paceStretch (s) is what strikes are counted by (trade: in ten-second stretches).
const paceStretch = 10.0

// onePace compares how the number of hits changes from one ten seconds to the next with how the plan has it.
func (a *analysis) onePace() (Fault, bool) {
	f := Fault{Code: OnePace}
	stretches := max(0, int((a.To-a.From+1e-9)/paceStretch))
	planned, struck := make([]float64, stretches), make([]float64, stretches)
	count := func(in []float64, at float64) {
		if k := math.Floor((at - a.From) / paceStretch); k >= 0 && int(k) < stretches {
			in[int(k)]++
		}
	}
	for _, w := range a.Planned {
		count(planned, w.At)
	}
	for _, h := range a.hits {
		count(struck, h.At)
	}
	if len(planned) < 6 || a.Followed != nil { // where the bag sets the time, the plan's moments are not asked for
		return f, false
	}
	p, q := variety(planned), variety(struck)
	f.Effect, f.Error = p-q, q/math.Sqrt(2*float64(len(struck)-1))
	f.Times = len(a.hits)
	f.Cost = (1 - a.shareElsewhere()) * math.Min(1, f.Effect/math.Max(p, 1e-9))
	f.Evidence = fmt.Sprintf("Hits in ten seconds vary by %.0f %% about their mean; the plan has %.0f %%.", 100*q, 100*p)
	return f, p > planVaries && f.Effect > Floor(OnePace, a.usual)*p && f.Effect > firm*f.Error
}

// variety is the standard deviation over the mean; 0 of nothing.
func variety(counts []float64) float64 {
	mean, sd := stat.MeanStdDev(counts, nil)
	if mean == 0 {
		return 0
	}
	return sd / mean
}
