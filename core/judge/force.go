package judge

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"
)

// transition is the bag's way from one hit to the next at the planned count.
type transition struct {
	from, to int     // hits
	strike   int     // that was met
	count    int     // rebounds
	took     float64 // s, what the bag took
	base     float64 // s, what it would take at the planned force
	planned  float64 // m/s
	launch   float64 // m/s where it is known; else 0
	inTime   bool
}

// ratio is the time it took as a share of what was planned.
func (t transition) ratio() float64 { return t.took / t.base }

// transitions lists the bag's ways between strikes that were met as planned.
func (f *follower) transitions(path []node) []transition {
	var list []transition
	for k := 1; k < len(path); k++ {
		a, b := path[k-1], path[k]
		if a.kind == off || b.kind != met || b.place < 0 || b.let != 0 {
			continue
		}
		s, before := f.strikes[b.strike], f.strikes[a.strike]
		t := transition{
			from: a.hit, to: b.hit, strike: b.strike, count: f.c.Bag.Counts[b.place], planned: before.Launch,
			launch: f.launch(a.hit),
			took:   f.hits[b.hit].at - f.hits[a.hit].at - before.Ahead + s.Ahead,
			base:   f.c.Bag.At(b.place, before.Launch),
			inTime: math.Abs(b.err) <= b.window/2+tolerance && b.extras < 2,
		}
		if f.c.Screen {
			t.launch = t.planned
		}
		list = append(list, t)
	}
	return list
}

// known says whether the force of the strikes was told: of nine in ten at least.
func (f *follower) known(list []transition) bool {
	n := 0
	for _, t := range list {
		if t.launch > 0 {
			n++
		}
	}
	return len(list) > 0 && 10*n >= 9*len(list)
}

const (
	round16 = 16 // intervals round a strike that its force is tracked by
	fewest  = 3  // under so many others the plan's force is taken
)

// track estimates for each hit how hard it was, by the median of the intervals round it, its own left out: slow, and
// not moved by a single strike. Where there is too little to track, the force stays as it was looked for.
func (f *follower) track(path []node) {
	list := f.transitions(path)
	if len(list) <= fewest {
		return
	}
	ratios := make([]float64, len(list))
	for i, t := range list {
		ratios[i] = t.ratio()
	}
	f.trust = f.told(list)
	near := make([]float64, 0, round16+1)
	k := 0
	for j := range f.hits {
		for k < len(list)-1 && list[k].from < j {
			k++
		}
		from := min(max(0, k-round16/2), max(0, len(list)-round16-1))
		near = near[:0]
		for i := from; i < min(len(list), from+round16+1); i++ {
			if list[i].from != j {
				near = append(near, ratios[i])
			}
		}
		slices.Sort(near)
		f.ratio[j] = (near[(len(near)-1)/2] + near[len(near)/2]) / 2
	}
}

// paceOf is the median of the times the bag took, as a share of the planned ones; 1 where there are none.
func (f *follower) paceOf(list []transition) float64 {
	var ratios []float64
	for _, t := range list {
		ratios = append(ratios, t.ratio())
	}
	if len(ratios) == 0 {
		return 1
	}
	slices.Sort(ratios)
	return stat.Quantile(0.5, stat.Empirical, ratios, nil)
}

// usualForce is the standard deviation of a round's mean force about the planned one, as a logarithm. Assumed.
const usualForce = 0.3

// usualLate (s) is the standard deviation of people's mean lateness, which looks like another force. Assumed.
const usualLate = 0.015

// told says, from 0 to 1, how well the times tell the force: what is known of it beforehand against how well the median
// of so many intervals tells it, by how strongly the time goes by it. On a pole it hardly does.
func (f *follower) told(list []transition) float64 {
	ratios := make([]float64, len(list))
	steep := 0.0
	for i, t := range list {
		ratios[i] = t.ratio()
		place := f.c.Bag.Place(t.count)
		steep += math.Abs(f.c.Bag.At(place, 1.1*t.planned)-f.c.Bag.At(place,
			0.9*t.planned)) / (0.2 * t.base * float64(len(list)))
	}
	if steep == 0 {
		return 0
	}
	base := 0.0
	for _, t := range list {
		base += t.base / float64(len(list))
	}
	off := math.Hypot(stat.StdDev(ratios, nil)*math.Sqrt(math.Pi/2/round16), usualLate/base) / steep
	return usualForce * usualForce / (usualForce*usualForce + off*off)
}

// impossibleRow is the number of intervals that are tested together against the tempos of the bag, and impossibleBy the
// number of standard errors by which they must lie beyond its limits.
const impossibleRow, impossibleBy = 48, 3.0

// impossible finds the hits whose tempo no force gives at the planned count.
func (f *follower) impossible(path []node) {
	f.cannot = make([]int, len(f.hits))
	for list := f.transitions(path); len(list) > 0; {
		n := min(impossibleRow, len(list))
		if len(list) < 2*impossibleRow {
			n = len(list)
		}
		took := map[int][]float64{}
		for _, t := range list[:n] {
			if t.launch == 0 {
				took[t.count] = append(took[t.count], t.took)
			}
		}
		side := map[int]int{}
		for count, all := range took {
			mean, sd := stat.MeanStdDev(all, nil)
			if len(all) < 2 {
				sd = 0
			}
			allow := impossibleBy * sd / math.Sqrt(float64(len(all)))
			switch soonest, latest := f.c.Bag.Bounds(f.c.Bag.Place(count)); {
			case mean < soonest*(1-modelError)-allow:
				side[count] = -1
			case mean > latest*(1+modelError)+allow:
				side[count] = 1
			}
		}
		for _, t := range list[:n] {
			f.cannot[t.to] = side[t.count]
		}
		list = list[n:]
	}
}

// HeldTempo is the tempo that was held where strike followed strike on the bag, and the force it takes. NaN where it
// cannot be told.
type HeldTempo struct {
	Tempo, Asked        float64 // strikes a minute
	Launch, AskedLaunch float64 // m/s that the tempo implies on this bag
	Struck              float64 // m/s on the mean, where the force was known
	Trend               float64 // change of the tempo over the round as a share, quicker positive
	Firm                bool    // the trend is beyond three standard errors
}

// How sure a trend has to be, in standard errors: to be told at all (19 in 20 of those told have the right sign even
// where it is small), and to be remarked on.
const trendTold, trendFirm = 1.64, 3.0

// flat is the share by which the time has to change with the force (doubled) for a tempo to say anything of it.
const flat = 0.05

func (f *follower) heldTempo(list []transition, known bool) HeldTempo {
	nan := math.NaN()
	h := HeldTempo{nan, nan, nan, nan, nan, nan, false}
	if len(list) == 0 {
		return h
	}
	took, base, planned, struck, n := 0.0, 0.0, 0.0, 0.0, 0.0
	at, ratios := make([]float64, len(list)), make([]float64, len(list))
	for i, t := range list {
		took, base, planned = took+t.took, base+t.base, planned+t.planned
		if t.launch > 0 {
			struck, n = struck+t.launch, n+1
		}
		at[i], ratios[i] = f.hits[t.from].at, t.ratio()
	}
	h.Tempo, h.Asked = 60*float64(len(list))/took, 60*float64(len(list))/base
	if known && !f.c.Screen {
		h.Struck = struck / n
	}
	h.AskedLaunch = planned / float64(len(list))
	place := f.c.Bag.Place(list[len(list)/2].count)
	usual := f.c.Bag.At(place, h.AskedLaunch)
	want := usual * took / base
	soonest, latest := f.c.Bag.Bounds(place)
	if moves := math.Abs(f.c.Bag.At(place, 2*h.AskedLaunch) - usual); !f.c.Screen && moves > flat*usual &&
		want >= soonest && want <= latest {
		h.Launch = f.c.Bag.Launch(place, want)
	}
	if len(list) >= 8 && at[len(at)-1] > at[0] {
		slope, se := line(at, ratios)
		if math.Abs(slope) >= trendTold*se && slope != 0 && se > 1e-12 || se <= 1e-12 && math.Abs(slope) > 1e-9 {
			span := slope * (at[len(at)-1] - at[0])
			middle := stat.Mean(ratios, nil)
			h.Trend = (middle+span/2)/(middle-span/2) - 1 // of the interval
			h.Trend = 1/(1+h.Trend) - 1
			h.Firm = math.Abs(slope) > trendFirm*se
		}
	}
	return h
}

// Signs of a source that is too coarse (a device's jitter does not move the bag, so that a late hit is followed by a
// short interval).
const (
	jitterSign  = -0.35 // lag-1 autocorrelation of the intervals
	jitterLeast = 30    // intervals from which on it tells
	widestGrid  = 0.005 // s between the ticks of a clock
)

// coarse says why a source cannot tell clean from late; empty where it can.
func (f *follower) coarse(list []transition) string {
	if len(list) < jitterLeast {
		return ""
	}
	if g := f.grid(list); g > widestGrid {
		return "its clock ticks only every " + milliseconds(g)
	}
	if jitters(f.intervals(list)) {
		return "its times jitter: a late hit is followed by a short interval, which no bag does"
	}
	return ""
}

// intervals are the times from hit to hit as shares of what was planned, NaN where the row is broken, each less the
// mean of those of its like: what one hand, or one place of a pattern, does each time is no jitter. Where one strike is
// like the next, all hits count, also those that a jitter has put off the bag.
func (f *follower) intervals(list []transition) []float64 {
	low, high := list[0].base, list[0].base
	for _, t := range list {
		low, high = math.Min(low, t.base), math.Max(high, t.base)
	}
	var row []float64
	var like []any
	known := f.known(list) && !f.c.Screen
	if known || high > 1.02*low || len(f.calls) > 1 {
		for i, t := range list {
			if i > 0 && t.from != list[i-1].to {
				row, like = append(row, math.NaN()), append(like, nil)
			}
			s, share := f.strikes[t.strike], t.ratio()
			if known && t.launch > 0 { // what its force makes of it is none either
				share -= f.c.Bag.At(f.c.Bag.Place(t.count), t.launch) / t.base
			}
			row, like = append(row, share), append(like, [2]any{s.Hand, s.Position})
		}
		return alike(row, like)
	}
	usual := f.paceOf(list) * low
	for j := 1; j < len(f.hits); j++ {
		d := f.hits[j].at - f.hits[j-1].at
		if math.Abs(d/usual-1) > otherThan {
			d = math.NaN()
		}
		row, like = append(row, d/low), append(like, [2]any{f.hits[j].Hand, f.hits[j-1].Hand})
	}
	return alike(row, like)
}

// alike takes off each value the mean of those of its like.
func alike(row []float64, like []any) []float64 {
	sum, n := map[any]float64{}, map[any]float64{}
	for i, v := range row {
		if !math.IsNaN(v) {
			sum[like[i]], n[like[i]] = sum[like[i]]+v, n[like[i]]+1
		}
	}
	for i := range row {
		row[i] -= sum[like[i]] / math.Max(1, n[like[i]])
	}
	return row
}

// otherThan is the factor off the usual interval beyond which one is a touch or a pause, and no strike after a strike.
const otherThan = 0.5

// jitters says whether neighbouring intervals make up for each other, more than people on a bag do.
func jitters(row []float64) bool {
	sum, n := 0.0, 0.0
	for _, v := range row {
		if !math.IsNaN(v) {
			sum, n = sum+v, n+1
		}
	}
	squares, products, pairs := 0.0, 0.0, 0.0
	for i, v := range row {
		if math.IsNaN(v) {
			continue
		}
		v -= sum / n
		squares += v * v
		if i > 0 && !math.IsNaN(row[i-1]) {
			products += v * (row[i-1] - sum/n)
			pairs++
		}
	}
	variance := squares / n
	return pairs >= jitterLeast && variance > 1e-10 && products/pairs <= jitterSign*variance
}

// grid is the step (s) that all intervals are whole numbers of; 0 where there is none to be seen.
func (f *follower) grid(list []transition) float64 {
	const same = 2e-4
	took := make([]float64, len(list))
	for i, t := range list {
		took[i] = f.hits[t.to].at - f.hits[t.from].at
	}
	slices.Sort(took)
	least, values := math.Inf(1), 1
	for i := 1; i < len(took); i++ {
		if d := took[i] - took[i-1]; d > same {
			least = math.Min(least, d)
			values++
		}
	}
	if values < 3 {
		return 0
	}
	for _, t := range took {
		if d := math.Mod(t-took[0]+least/2, least) - least/2; math.Abs(d) > 2*same {
			return 0
		}
	}
	return least
}

// metShare estimates the share of the strikes that met the bag, and by how much it may be off. Where force was known it
// is counted. Where only times came in, the scatter of the force shows as one of timing: the counted share is led back
// through it.
func (f *follower) metShare(r *Result, list []transition) (met, give float64) {
	w := r.Followed
	if w.Due == 0 || w.Coarse != "" {
		return math.NaN(), 0
	}
	counted := float64(r.Clean) / float64(w.Due)
	if w.Known || len(list) == 0 {
		return counted, 0
	}
	inTime, half := 0.0, 0.0
	for _, t := range list {
		if t.inTime {
			inTime++
		}
		half += f.c.Bag.Window(f.c.Bag.Place(t.count), t.planned) * f.strikes[t.strike].share() / 2
	}
	n, moves := float64(len(list)), f.byForce(list)
	q, half := inTime/n, half/n
	back := func(q, spread float64) float64 { return ledBack(q, half, spread*moves) }
	se := math.Sqrt(math.Max(q*(1-q), 0.25/n) / n)
	likely := back(q, f.c.ForceSpread)
	low, high := back(math.Max(0, q-2*se), 0.6*f.c.ForceSpread), back(math.Min(1, q+2*se), 1.4*f.c.ForceSpread)
	others := (float64(w.Due) - n) / float64(w.Due)
	met = math.Min(1, counted+(likely-q)*n/float64(w.Due))
	return met, (high - low) / 2 * (1 - math.Max(0, others))
}

// own is the spread (s) of the errors that is the person's timing: where only times came in, less what the scatter of
// the force and the tracking bring.
func (f *follower) own(all float64, list []transition, known bool) float64 {
	if known || len(list) == 0 {
		return all
	}
	return without(all, f.c.ForceSpread*f.byForce(list))
}

// byForce returns the mean change (s) of the bag's time with the logarithm of its launch.
func (f *follower) byForce(list []transition) float64 {
	sum := 0.0
	for _, t := range list {
		place := f.c.Bag.Place(t.count)
		sum += math.Abs(f.c.Bag.At(place, 1.05*t.planned)-f.c.Bag.At(place, 0.95*t.planned)) / 0.1
	}
	return sum / float64(len(list))
}

// without is a spread (s) less what tracking adds and less the part that the force brings; a quarter of it at the
// least.
func without(all, force float64) float64 {
	return math.Sqrt(math.Max(all*all/trackedBy-force*force, all*all/16))
}

// trackedBy is the factor that the median of the intervals round a strike adds to the variance of its error (π/2 over
// their number).
const trackedBy = 1 + math.Pi/2/round16

// ledBack is the share of a normal error that falls within half a window once the part that force brings (s, standard
// deviation) is taken out of it, given the share that does so with it.
func ledBack(q, half, force float64) float64 {
	if q <= 0.05 || q >= 1 {
		return q
	}
	all := half / (math.Sqrt2 * math.Erfinv(q))
	return math.Erf(half / (math.Sqrt2 * without(all, force)))
}

func milliseconds(s float64) string { return fmt.Sprintf("%.0f ms", 1000*s) }
