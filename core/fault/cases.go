package fault

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/drill"
	"melodromos/core/judge"
	"melodromos/core/rig"
)

// chance is the share of them that goes wrong in that way by accident. Assumed.
const chance = 0.02

// share is a fault that is so many of the strikes that could have it.
func share(code Code, n, of int) (Fault, bool) {
	f := Fault{Code: code, Times: n}
	if of < fewestCases || n < 3 {
		return f, false
	}
	f.Effect = float64(n) / float64(of)
	f.Error = math.Sqrt(chance * (1 - chance) / float64(of))
	return f, f.Effect > Floor(code, 0) && f.Effect-chance > firm*f.Error
}

// spoiled is the share of the strikes that were not clean among some.
func (a *analysis) spoiled(at []int) float64 {
	n := 0
	for _, i := range at {
		if !a.rows[i].clean() {
			n++
		}
	}
	return float64(n) / a.due()
}

// rushing finds strikes that did not wait for the bag to hang still again.
func (a *analysis) rushing() (Fault, bool) {
	of := 0
	var soon []int
	missed, after, missedElse, elsewhere := 0.0, 0.0, 0.0, 0.0
	for i := 1; i < len(a.rows); i++ {
		w, before := a.rows[i], a.rows[i-1]
		least := w.settles()
		if least == 0 || w.hit < 0 || before.hit < 0 {
			continue
		}
		of++
		rushed := a.Hits[w.hit].At-a.Hits[before.hit].At < least
		if rushed {
			soon = append(soon, i)
		}
		if i+1 < len(a.rows) {
			failed := 0.0
			if !a.rows[i+1].clean() {
				failed = 1
			}
			if rushed {
				missed, after = missed+failed, after+1
			} else {
				missedElse, elsewhere = missedElse+failed, elsewhere+1
			}
		}
	}
	f, ok := share(Rushing, len(soon), of)
	if !ok {
		return f, false
	}
	f.Cost = a.spoiled(soon)
	f.Evidence = fmt.Sprintf("%d of %d strikes were thrown before the bag was still", len(soon), of)
	if after > 0 && elsewhere > 0 {
		more := missed/after - missedElse/elsewhere
		f.Cost += math.Max(0, more) * after / a.due()
		f.Evidence += fmt.Sprintf("; of the strikes after those %.0f %% missed, else %.0f %%", 100*missed/after,
			100*missedElse/elsewhere)
	}
	f.Evidence += "."
	return f, true
}

// settles returns the time (s) that the bag takes to hang still before a strike that waits for it, 0 for any other.
func (w row) settles() float64 {
	if !w.Still {
		return 0
	}
	return w.Least
}

// hardBy is the share above the usual force from which a hit is too hard, and hardMore the excess of failures that must
// follow such hits. Assumed.
const hardBy, hardMore = 0.20, 0.20

// tooHard asks whether strikes fail after the hardest hits.
func (a *analysis) tooHard() (Fault, bool) {
	f := Fault{Code: TooHard}
	if !a.forced {
		return f, false
	}
	usual := a.forces()
	if usual == nil {
		return f, false
	}
	bad, n, badElse, m, hard := 0.0, 0.0, 0.0, 0.0, 0.0
	for i := 0; i+1 < len(a.rows); i++ {
		w, next := a.rows[i], a.rows[i+1]
		if w.force == 0 || next.gone || !next.Timed() {
			continue
		}
		failed := 0.0
		if !next.clean() {
			failed = 1
		}
		if w.force > usual[i]*(1+hardBy) {
			bad, n, hard = bad+failed, n+1, hard+w.force/usual[i]
		} else {
			badElse, m = badElse+failed, m+1
		}
	}
	if n < fewestCases || m < 2*fewest {
		return f, false
	}
	f.Times = int(n)
	f.Effect = bad/n - badElse/m
	f.Error = math.Sqrt(binomial(bad/n, n) + binomial(badElse/m, m))
	f.Cost = f.Effect * n / a.due()
	f.Evidence = fmt.Sprintf(
		"%d hits were on average %.0f %% harder than the others; after them %.0f %% of the strikes failed, else %.0f %%.",
		f.Times, 100*(hard/n-1), 100*bad/n, 100*badElse/m)
	return f, n/(n+m) > Floor(TooHard, 0) && f.Effect > hardMore && f.Effect > firm*f.Error
}

// forcesOver is the number of strikes around one whose mean is the usual force: a force that grows through a round is
// none that breaks it. Assumed.
const forcesOver = 31

// forces is the usual force round each strike: the median; nil where it is known of too few.
func (a *analysis) forces() []float64 {
	var known []int
	for i, w := range a.rows {
		if w.force > 0 {
			known = append(known, i)
		}
	}
	if len(known) < 4*fewest {
		return nil
	}
	list := make([]float64, len(a.rows))
	over := min(forcesOver, len(known))
	for k, i := range known {
		from := max(0, min(k-over/2, len(known)-over))
		near := make([]float64, 0, over)
		for _, j := range known[from : from+over] {
			near = append(near, a.rows[j].force)
		}
		slices.Sort(near)
		list[i] = stat.Quantile(0.5, stat.Empirical, near, nil)
	}
	return list
}

// twoWithin (s) is how long after the first fist of a double punch the second one still belongs to it. Assumed.
const twoWithin = 0.30

// heardAsTwo finds double punches whose fists landed apart.
func (a *analysis) heardAsTwo() (Fault, bool) {
	of, one := 0, 0
	apart := 0.0
	var two []int
	taken := map[int]bool{}
	for _, m := range a.Matches {
		taken[m.Hit] = true
	}
	var free []float64
	for j, h := range a.Hits {
		if !taken[j] {
			free = append(free, h.At)
		}
	}
	slices.Sort(free)
	for i, w := range a.rows {
		if w.Hand != drill.Both || w.hit < 0 {
			continue
		}
		of++
		at := a.Hits[w.hit].At
		if a.Hits[w.hit].Hand == drill.Both {
			one++
			continue
		}
		k, _ := slices.BinarySearch(free, at+rig.OneBlow)
		if k < len(free) && free[k] <= at+twoWithin {
			two, apart = append(two, i), apart+free[k]-at
		}
	}
	f, ok := share(HeardAsTwo, len(two), of)
	if !ok || one+len(two) < of/2 { // else the source does not tell two fists
		return f, false
	}
	f.Cost = math.Max(a.spoiled(two), f.Effect*float64(of)/a.due()/2)
	f.Evidence = fmt.Sprintf(
		"%d of %d double punches were heard as two, %.0f ms apart on average; up to %.0f count as one.", len(two), of,
		1000*apart/float64(len(two)), 1000*rig.OneBlow)
	return f, true
}

// outbound finds strikes on a heavy bag that swings away.
func (a *analysis) outbound() (Fault, bool) {
	if a.Kind != rig.Hanging || a.By != drill.ByBag {
		return Fault{}, false
	}
	of := 0
	var away []int
	in, out, ins, outs := 0.0, 0.0, 0.0, 0.0
	for i, w := range a.rows {
		if !w.timed() {
			continue
		}
		of++
		past := w.late > w.Window/2
		if past {
			away = append(away, i)
		}
		if w.force > 0 && past {
			out, outs = out+w.force, outs+1
		} else if w.force > 0 {
			in, ins = in+w.force, ins+1
		}
	}
	f, ok := share(Outbound, len(away), of)
	if !ok {
		return f, false
	}
	f.Cost = a.spoiled(away)
	f.Evidence = fmt.Sprintf("%d of %d strikes met the bag as it swung away", len(away), of)
	if ins > 0 && outs > 0 && out/outs > 1.05*in/ins {
		f.Evidence += fmt.Sprintf(", and drove it on %.0f %% faster: the swing grows", 100*(out/outs/(in/ins)-1))
	}
	f.Evidence += "."
	return f, true
}

// noDefence finds defences that were left out: the strike after one came as soon as there is no time for it.
func (a *analysis) noDefence() (Fault, bool) {
	of := 0
	var left []int
	for i := 1; i < len(a.rows); i++ {
		w, before := a.rows[i], a.rows[i-1]
		if !w.Defended || before.hit < 0 || w.gone {
			continue
		}
		of++
		if w.over < 0 || a.tooSoon(before, w) {
			left = append(left, i)
		}
	}
	f, ok := share(NoDefence, len(left), of)
	if !ok {
		return f, false
	}
	f.Cost = a.spoiled(left)
	f.Evidence = fmt.Sprintf(
		"After %d of %d defences the next strike came as soon as if there were none: they were left out.", len(left),
		of)
	return f, true
}

// defenceLeast (s) is the shortest that a defence takes, out and back. Assumed, as a block's.
const defenceLeast = 0.25

// tooSoon says whether on the beat a strike that belongs to no hit has one that came too soon for a defence.
func (a *analysis) tooSoon(before, w row) bool {
	if a.Followed != nil || w.verdict != judge.Missed && w.verdict != judge.Early {
		return false
	}
	last := a.Hits[before.hit].At
	planned := w.At - before.At
	for _, h := range a.hits {
		if gap := h.At - last; gap > 0.05 {
			return gap < planned-defenceLeast*0.8
		}
	}
	return false
}

// A mark is of a hit so long (s) before it, from the most to the least: it has to be seen and pressed. Assumed.
const markedFrom, markedTo = 1.0, 0.25

// failsAfter says whether a strike fails that follows a hit which a mark at a moment may be of, or, with none, whether
// none such is there.
func (a *analysis) failsAfter(at float64) (failed, there bool) {
	for i := 0; i+1 < len(a.rows); i++ {
		w, next := a.rows[i], a.rows[i+1]
		if w.hit < 0 || next.gone {
			continue
		}
		if ago := at - a.Hits[w.hit].At; ago >= markedTo && ago <= markedFrom {
			there = true
			failed = failed || !next.clean()
		}
	}
	return failed, there
}

// followed compares how often strikes fail after what was marked with how often they do after any other hit.
func (a *analysis) followed(code Code) (f Fault, there, elsewhere float64) {
	f = Fault{Code: code}
	var marks []float64
	for _, m := range a.Marks {
		if m.What == code {
			marks = append(marks, m.At)
		}
	}
	if f.Times = len(marks); f.Times == 0 {
		return f, math.NaN(), math.NaN()
	}
	n, m := 0.0, 0.0
	count := func(at float64) (failed, is float64) {
		bad, there := a.failsAfter(at)
		if there {
			is = 1
		}
		if bad {
			failed = 1
		}
		return failed, is
	}
	for _, at := range marks {
		failed, is := count(at)
		there, n = there+failed, n+is
	}
	const usual = (markedFrom + markedTo) / 2
	for _, h := range a.hits {
		at := h.At + usual
		if !slices.ContainsFunc(marks, func(m float64) bool { return math.Abs(m-at) < 2*markedFrom }) {
			failed, is := count(at)
			elsewhere, m = elsewhere+failed, m+is
		}
	}
	if n == 0 || m == 0 {
		return f, math.NaN(), math.NaN()
	}
	there, elsewhere = there/n, elsewhere/m
	f.Effect, f.Error = there-elsewhere, math.Sqrt(binomial(there, n)+binomial(elsewhere, m))
	f.Cost = math.Max(0, f.Effect) * n / a.due()
	return f, there, elsewhere
}

// offLineMore is the excess of failures required of strikes at which the bag was off its line. Assumed.
const offLineMore = 0.20

// offLine asks whether strikes fail where the bag was sent off its line, by the coach's marks.
func (a *analysis) offLine() (Fault, bool) {
	f, near, elsewhere := a.followed(OffLine)
	if f.Times < 3 || math.IsNaN(near) {
		return f, false
	}
	f.Evidence = fmt.Sprintf(
		"The bag went off its line %s, by your marks; %.0f %% of the times the next strike failed, else %.0f %%.",
		times(f.Times), 100*near, 100*elsewhere)
	if n := a.hurt(); n > 0 {
		f.Evidence += fmt.Sprintf(" It touched %s.", times(n))
	}
	return f, float64(f.Times) > Floor(OffLine, 0)*float64(len(a.hits)) && f.Effect > offLineMore &&
		f.Effect > firm*f.Error
}

// hurt counts the marks of a touch close after one of a bag off its line.
func (a *analysis) hurt() int {
	n := 0
	for _, t := range a.Marks {
		if t.Hurt && slices.ContainsFunc(a.Marks, func(m Observation) bool {
			return m.What == OffLine && t.At >= m.At-markedTo && t.At <= m.At+2*markedFrom
		}) {
			n++
		}
	}
	return n
}

// seen are the faults that only an eye sees, as often as the coach has marked them. Each mark stands for a strike that
// was spoiled, or for as many as fail near such marks beyond the usual.
func (a *analysis) seen() []Fault {
	var list []Fault
	for _, code := range Seen() {
		f, near, elsewhere := a.followed(code)
		if f.Times == 0 {
			continue
		}
		f.Cost = math.Max(f.Cost, float64(f.Times)/a.due())
		f.Evidence = fmt.Sprintf("Seen %s.", times(f.Times))
		if firmly := f.Effect > firm*f.Error && f.Times >= 3; firmly {
			f.Evidence = fmt.Sprintf("Seen %s; there %.0f %% of the strikes failed, else %.0f %%.", times(f.Times),
				100*near, 100*elsewhere)
		} else {
			f.Effect, f.Error = 0, 0
		}
		list = append(list, f)
	}
	return list
}
