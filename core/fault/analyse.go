package fault

import (
	"cmp"
	"math"
	"slices"
	"sort"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/drill"
	"melodromos/core/judge"
)

// firm is the number of its own standard errors that an effect has to exceed. The floors below are what a coach would
// care about; all assumed.
const firm = 3.0

// fewest hits that say anything about timing, and fewest cases of a kind that are compared with the others. Assumed.
const fewest, fewestCases = 5, 5

// row is a strike that came due.
type row struct {
	judge.Strike
	verdict judge.Verdict
	late    float64 // s by which its hit was late, and was not allowed to be; NaN where that cannot be told
	hit     int     // −1 for none
	over    int     // come-backs too many that it was met at; negative: too few
	force   float64 // of its hit, as a share of what was asked; 0 where it is not known
	off     bool    // its hit met no come-back
	gone    bool    // nobody was there: it went by in a gap
	most    float64 // s: more than that off counts as that much
	gap     float64 // s since the strike before, as the bag has it
}

// clean says whether it was, or at least not scored.
func (r row) clean() bool { return r.verdict == judge.Clean || r.verdict == judge.Harmless }

// timed says whether it can be told how late it was.
func (r row) timed() bool { return !math.IsNaN(r.late) && !r.gone }

type analysis struct {
	Case
	rows   []row
	hits   []judge.Hit // by time
	told   bool        // lateness on the whole can be told from everything else
	forced bool        // force was known
	usual  float64     // s, from strike to strike
	goesOn float64     // share of a lateness that goes on to the next strike
	many   bool        // most hits met nothing, and are read as late or early ones
}

// analyse looks at a round; ok is false where there is too little, or the source is too coarse.
func analyse(r Case) (a *analysis, ok bool) {
	if len(r.Matches) < fewest && len(r.Hits) < fewest || !r.Judged() {
		return nil, false
	}
	a = &analysis{Case: r, told: r.Kept && r.By == drill.ByBeat}
	if f := r.Followed; f != nil {
		a.told = f.Known
	}
	a.hits = slices.Clone(r.Hits)
	slices.SortStableFunc(a.hits, func(x, y judge.Hit) int { return cmp.Compare(x.At, y.At) })
	place := make([]int, len(r.Planned)) // of each strike among the rows
	order := make([]int, len(r.Planned))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(x, y int) int { return cmp.Compare(r.Planned[x].At, r.Planned[y].At) })
	for k, i := range order {
		place[i] = k
		a.rows = append(a.rows, row{Strike: r.Planned[i], verdict: r.Strikes[i], late: math.NaN(), hit: -1})
	}
	a.usual = a.interval()
	a.match(place)
	a.beyond(place)
	a.missedBy()
	a.gapped()
	known := 0.0
	for i := range a.rows {
		w := &a.rows[i]
		if w.hit < 0 {
			continue
		}
		if l := r.Hits[w.hit].Launch; l > 0 {
			known++
			if w.Launch > 0 {
				w.force = l / w.Launch
			}
		}
	}
	a.forced = known >= 0.9*float64(len(r.Matches)) && known > 0
	return a, true
}

// match fills in what the judgement knows of each strike.
func (a *analysis) match(place []int) {
	for _, m := range a.Matches {
		if m.Strike >= len(place) {
			continue
		}
		w := &a.rows[place[m.Strike]]
		w.hit = m.Hit
		if first := a.Followed != nil && place[m.Strike] == 0; w.Timed() && !first {
			w.late = m.Error - math.Max(0, w.Unfit)
		}
	}
	if f := a.Followed; f != nil {
		for _, c := range f.Counts {
			if c.Strike < len(place) {
				w := &a.rows[place[c.Strike]]
				w.over, w.late = c.Heard-c.Asked, math.NaN()
			}
		}
	}
}

// manyBeyond is the share of hits that belong to no strike from which on it is asked whether all of them are late, or
// early, by more than is matched. Assumed.
const manyBeyond = 0.3

// farOff is the distance in windows up to which a hit that met nothing is still read as late or early; widelyOff the
// one where most of them are. Assumed.
const farOff, widelyOff = 3.0, 4.0

// beyond reads hits that met no come-back, or no moment of the beat, as late or early ones, where they are so by a
// steady amount: somebody who waits past the bag each time misses nothing, and strikes nothing more.
func (a *analysis) beyond(place []int) {
	late := map[int]float64{}
	switch {
	case a.Followed != nil:
		off := 0
		for _, l := range a.Followed.Lags {
			if l.Strike < len(place) {
				w := &a.rows[place[l.Strike]]
				w.gap, w.off = l.Took, l.Off
			}
			if l.Off {
				off++
			}
		}
		most := farOff
		if a.many = len(a.Followed.Lags) >= fewest && float64(off) > manyBeyond*float64(len(a.Followed.Lags)); a.many {
			most = widelyOff
		}
		for _, l := range a.Followed.Lags {
			if l.Off && l.Strike < len(place) && math.Abs(l.Late) < most*a.Planned[l.Strike].Window {
				late[place[l.Strike]] = l.Late
			}
		}
	case a.told && float64(len(a.Matches)) < (1-manyBeyond)*float64(len(a.Planned)):
		moved := judge.Judge(a.Planned, a.Hits, judge.Options{})
		if len(moved.Matches) < 2*len(a.Matches) || len(moved.Matches) < fewest {
			return
		}
		a.many = true
		for _, m := range moved.Matches {
			if a.Planned[m.Strike].Timed() {
				late[place[m.Strike]] = m.Error + moved.Offset
			}
		}
	default:
		return
	}
	for k, l := range late {
		if a.rows[k].verdict == judge.Missed || math.IsNaN(a.rows[k].late) && a.rows[k].over == 0 {
			a.rows[k].late = l
		}
	}
}

// missedBy reads hits that belong to no strike as late or early ones of a strike nearby that nobody else met.
func (a *analysis) missedBy() {
	taken := map[int]bool{}
	for _, w := range a.rows {
		taken[w.hit] = true
	}
	if a.Followed != nil {
		for _, l := range a.Followed.Lags {
			taken[l.Hit] = true
		}
	}
	order := make([]int, len(a.Hits)) // by time, so that each strike looks at the hits around it alone
	for j := range order {
		order[j] = j
	}
	slices.SortStableFunc(order, func(x, y int) int { return cmp.Compare(a.Hits[x].At, a.Hits[y].At) })
	for i := range a.rows {
		w := &a.rows[i]
		if w.verdict != judge.Missed || !math.IsNaN(w.late) || !w.Timed() || a.Followed != nil && !a.Followed.Known {
			continue
		}
		best, off := -1, math.Min(farOff*w.Window, a.usual/2)
		from := sort.Search(len(order), func(k int) bool { return a.Hits[order[k]].At-a.shift()-w.At >= -off })
		for _, j := range order[from:] {
			d := a.Hits[j].At - a.shift() - w.At
			if d > off {
				break
			}
			d = math.Abs(d)
			if !taken[j] && (d < off || d == off && j < best) {
				best, off = j, d
			}
		}
		if best >= 0 {
			taken[best] = true
			w.late, w.off = a.Hits[best].At-a.shift()-w.At, true
		}
	}
}

// shift returns the offset (s) that was taken off the hits before they were matched: on the beat's clock, of all of
// them.
func (a *analysis) shift() float64 {
	if a.Followed != nil {
		return 0
	}
	return a.Offset
}

// gapped fills in how long the bag took to each strike from the one before.
func (a *analysis) gapped() {
	for i := range a.rows {
		w := &a.rows[i]
		if w.gap == 0 && i > 0 && a.Followed == nil {
			w.gap = w.At - a.rows[i-1].At
		}
		if w.gap < 0.25*a.usual || w.gap > 6*a.usual {
			w.gap = a.usual
		}
		w.most = 1.5 * w.Window
		if a.many {
			w.most = widelyOff * w.Window
		}
	}
}

// interval is the median time (s) from a strike to the next.
func (a *analysis) interval() float64 {
	var gaps []float64
	for i := 1; i < len(a.rows); i++ {
		if d := a.rows[i].At - a.rows[i-1].At; d > 0 {
			gaps = append(gaps, d)
		}
	}
	if len(gaps) == 0 {
		return 1
	}
	slices.Sort(gaps)
	return stat.Quantile(0.5, stat.Empirical, gaps, nil)
}

// due is the number of strikes that came due.
func (a *analysis) due() float64 { return math.Max(1, float64(len(a.rows))) }

// held is a lateness within what is meant for this strike at all: a hit that is lost does not outweigh the others.
func (w row) held() float64 {
	return math.Max(-w.most, math.Min(w.most, w.late))
}

// Usual is the median time (s) from a strike of a round to the next.
func Usual(r Case) float64 { return (&analysis{Case: r, rows: rowsOf(r.Planned)}).interval() }

func rowsOf(strikes []judge.Strike) []row {
	list := make([]row, len(strikes))
	for i, s := range strikes {
		list[i].Strike = s
	}
	return list
}
