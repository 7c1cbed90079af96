package fault

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/drill"
	"melodromos/core/judge"
)

// softFloor is the share below the asked force from which a hit is out of reach, or too close; missFloor the excess of
// misses, as a share of the strikes, required of one hand or of the end of a round. Assumed.
const softFloor, missFloor = 0.08, 0.10

// cause is something that may make strikes late.
type cause struct {
	code  Code
	hand  drill.Hand
	x     []float64 // by strike: how strongly it acts on it
	floor float64   // s, for x = 1
	sign  float64   // of the lateness it makes; 0 for either
	coef  float64
	se    float64
}

func (c cause) stands() bool {
	size := c.coef * c.sign
	if c.sign == 0 {
		size = math.Abs(c.coef)
	}
	return size > c.floor && size > firm*c.se
}

// lateness finds what makes strikes late or early. By least squares, one cause after another is taken in, the one that
// explains most first, as long as it stands beside the others; one that does not any more goes. What is left on the
// whole is then waiting, or chasing.
func (a *analysis) lateness() []Fault {
	var at []int
	for i, w := range a.rows {
		if w.timed() {
			at = append(at, i)
		}
	}
	if len(at) < 2*fewest {
		return a.hands(nil, at)
	}
	a.goesOn = a.goingOn(at)
	open := a.causes(at)
	var taken []cause
	for len(open) > 0 {
		best, rest := -1, math.Inf(1)
		for i, c := range open {
			fitted, sum := a.fit(at, append(append([]cause{}, taken...), c))
			if fitted != nil && fitted[len(fitted)-1].stands() && sum < rest {
				best, rest = i, sum
			}
		}
		if best < 0 {
			break
		}
		fitted, _ := a.fit(at, append(append([]cause{}, taken...), open[best]))
		open = append(open[:best:best], open[best+1:]...)
		taken = taken[:0]
		for _, c := range fitted[1:] {
			if c.stands() {
				taken = append(taken, c)
			}
		}
	}
	fitted, _ := a.fit(at, taken)
	if fitted == nil {
		return a.hands(nil, at)
	}
	var list []Fault
	whole := a.whole(fitted)
	for _, c := range whole {
		if c.stands() && c.code != WeakHand && !(c.code == Waiting && growing(whole) > c.coef) {
			list = append(list, a.late(c))
		}
	}
	weak := a.hands(fitted[1:], at)
	if a.told && len(weak) > 0 && len(list) > 0 && math.Abs(fitted[0].coef) >= 0.7*weak[0].Effect &&
		(list[0].Code != LoopsGrow && whole[0].stands()) { // both hands are late, and one of them more so
		weak[0].Cost = math.Min(weak[0].Cost, 0.9*list[0].Cost)
	}
	return append(list, weak...)
}

// growing returns the lateness (s) that growing loops cause at the quickest pace, 0 where they do not grow. A pace is
// known no better than its strikes are even, which makes a part of that look steady.
func growing(causes []cause) float64 {
	for _, c := range causes {
		if c.code == LoopsGrow && c.stands() {
			_, quickest := quantiles(c.x, 0.5, 0.95)
			return c.coef * quickest
		}
	}
	return 0
}

// whole makes the steady part of the lateness a cause, where it can be told from the device and the force.
func (a *analysis) whole(fitted []cause) []cause {
	steady := fitted[0]
	if !a.told {
		return fitted[1:]
	}
	steady.code, steady.sign = Waiting, 1
	if steady.coef < 0 {
		steady.code, steady.sign = Chasing, -1
	}
	steady.floor = a.floor(steady.code)
	return append([]cause{steady}, fitted[1:]...)
}

// floor of a cause of lateness: on the bag's clock it grows with what a bag may be off its measurements.
func (a *analysis) floor(code Code) float64 {
	if a.By == drill.ByBag {
		return Floor(code, a.usual)
	}
	return Floor(code, 0)
}

// cases says whether there are enough strikes of a kind, and of the others.
func cases(x []float64, at []int) bool {
	n := 0
	for _, i := range at {
		if x[i] != 0 {
			n++
		}
	}
	return n >= fewestCases && len(at)-n >= fewestCases
}

// causes lists what can be asked of this round.
func (a *analysis) causes(at []int) []cause {
	var list []cause
	column := func(value func(row) float64) []float64 {
		x := make([]float64, len(a.rows))
		for i, w := range a.rows {
			x[i] = value(w)
		}
		return x
	}
	flag := func(is func(row) bool) []float64 {
		return column(func(w row) float64 {
			if is(w) {
				return 1
			}
			return 0
		})
	}
	if x, ok := a.tempos(at); ok {
		list = append(list, cause{code: LoopsGrow, x: x, floor: a.floor(LoopsGrow), sign: 1})
	}
	for _, m := range []struct {
		code Code
		is   func(row) bool
	}{{ChangeGap, func(w row) bool { return w.Change }}, {LateAfterDefence, func(w row) bool { return w.Defended }}} {
		if x := flag(m.is); cases(x, at) {
			list = append(list, cause{code: m.code, x: x, floor: a.floor(m.code), sign: 1})
		}
	}
	if hand := a.further(at); hand != "" && (a.By == drill.ByBag || !a.uneven()) {
		if x := flag(func(w row) bool { return w.Hand == hand }); cases(x, at) {
			list = append(list, cause{code: WeakHand, hand: hand, x: x, floor: a.floor(WeakHand)})
		}
	}
	return list
}

// further is the hand that is further off on average; where it cannot be told from the device or the force how late
// hits are on the whole, the later one.
func (a *analysis) further(at []int) drill.Hand {
	sum, n := map[drill.Hand]float64{}, map[drill.Hand]float64{}
	for _, i := range at {
		w := a.rows[i]
		sum[w.Hand], n[w.Hand] = sum[w.Hand]+w.held(), n[w.Hand]+1
	}
	if n[drill.Lead] == 0 || n[drill.Rear] == 0 {
		return ""
	}
	lead, rear := sum[drill.Lead]/n[drill.Lead], sum[drill.Rear]/n[drill.Rear]
	if a.told {
		lead, rear = math.Abs(lead), math.Abs(rear)
	}
	if lead > rear {
		return drill.Lead
	}
	return drill.Rear
}

// paceRange is the least range of tempo against which lateness is held, and paceOver the number of strikes that it is
// taken over: a pace is held, and no single strike makes one. Assumed.
const paceRange, paceOver = 0.06, 15

// tempos returns the pace of each strike over the slowest of the round, where the pace changes.
func (a *analysis) tempos(at []int) ([]float64, bool) {
	if a.Followed != nil && !a.Followed.Known || len(at) < 2*paceOver {
		return nil, false
	}
	gaps := make([]float64, len(at))
	for k, i := range at {
		w := a.rows[i]
		if i == 0 || w.Defended || w.Count != a.rows[at[0]].Count {
			return nil, false // the plan makes the times between strikes, not the pace
		}
		gaps[k] = w.gap
	}
	x := make([]float64, len(a.rows))
	var all []float64
	for k, i := range at {
		from := max(0, min(k-paceOver/2, len(at)-paceOver))
		x[i] = 1 / stat.Mean(gaps[from:from+paceOver], nil)
		all = append(all, x[i])
	}
	low, high := quantiles(all, 0.05, 0.95)
	for i := range x {
		if x[i] > 0 {
			x[i] = math.Max(0, x[i]/low-1)
		}
	}
	return x, high/low-1 > paceRange
}

// gained is the share of the strikes that would be clean had their hits come so much (s) sooner.
func (a *analysis) gained(sooner func(i int) float64) float64 {
	n := 0
	for i, w := range a.rows {
		if math.IsNaN(w.late) || w.verdict == judge.WrongHand {
			continue
		}
		by := sooner(i)
		if by == 0 {
			continue
		}
		within := math.Abs(w.late-by) <= w.Window/2
		switch {
		case within && !w.clean():
			n++
		case !within && w.clean():
			n--
		}
	}
	return math.Max(0, float64(n)/a.due())
}

// late is the fault that a cause of lateness is.
func (a *analysis) late(c cause) Fault {
	f := Fault{Code: c.code, Effect: math.Abs(c.coef), Error: c.se,
		Cost: a.gained(func(i int) float64 { return c.coef * c.x[i] })}
	for i, w := range a.rows {
		if c.x[i] != 0 && w.timed() {
			f.Times++
		}
	}
	soft, softly := a.softness()
	switch {
	case c.code == Waiting:
		f.Evidence = fmt.Sprintf("%s late overall", a.ms(c.coef, c.se))
		if n := a.overs(1); n >= fewest {
			f.Evidence += fmt.Sprintf(", and %s a whole return too late", times(n))
		}
		if softly {
			f.Code = Reaching
			f.Evidence += fmt.Sprintf(", and %.0f %% softer than asked: the bag is out of reach", 100*soft)
		}
	case c.code == Chasing:
		f.Evidence = fmt.Sprintf("%s early overall", a.ms(-c.coef, c.se))
		if softly {
			f.Code = Crowded
			f.Evidence += fmt.Sprintf(", and %.0f %% softer than asked: the bag is met before the punch is out",
				100*soft)
		}
	case c.code == LoopsGrow:
		f.Evidence = fmt.Sprintf("%s later for each tenth that the tempo rises", a.ms(c.coef/10, c.se/10))
	case c.code == ChangeGap:
		f.Evidence = fmt.Sprintf("%s later at the %d changes of hands than elsewhere", a.ms(c.coef, c.se), f.Times)
	case c.code == LateAfterDefence:
		f.Evidence = fmt.Sprintf("%s later after a defence, %s, than elsewhere", a.ms(c.coef, c.se), times(f.Times))
	}
	f.Evidence += "."
	if a.By == drill.ByBag && (c.code == Waiting || c.code == Chasing) {
		f.Tells = "A bag that comes back at another time than its measurements say looks the same: tap its returns once to be sure."
	}
	return f
}

// overs counts the strikes that were met a come-back too late, or too early.
func (a *analysis) overs(sign int) int {
	n := 0
	for _, w := range a.rows {
		if w.over*sign > 0 {
			n++
		}
	}
	return n
}

// softness returns the share by which the hits were softer than planned, and whether that is beyond chance.
func (a *analysis) softness() (share float64, firmly bool) {
	if !a.forced || a.FormFree {
		return 0, false
	}
	var logs []float64
	for _, w := range a.rows {
		if w.force > 0 && w.timed() &&
			math.Abs(w.late) <= w.Window { // one that hardly caught it is soft for that reason
			logs = append(logs, math.Log(w.force))
		}
	}
	if len(logs) < fewest {
		return 0, false
	}
	mean, sd := stat.MeanStdDev(logs, nil)
	share = 1 - math.Exp(mean)
	return share, share > softFloor && -mean > firm*sd/math.Sqrt(float64(len(logs)))
}

// ms writes a time with what it may be off by.
func (a *analysis) ms(s, se float64) string {
	return fmt.Sprintf("%.0f ms (give or take %.0f)", 1000*s, math.Max(1, 2000*se))
}

func times(n int) string {
	switch n {
	case 1:
		return "once"
	case 2:
		return "twice"
	}
	return fmt.Sprintf("%d times", n)
}
