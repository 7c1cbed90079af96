package judge

import (
	"cmp"
	"math"
	"slices"
	"sort"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/drill"
	"melodromos/core/trainee"
)

// Subset holds the figures of some of the strikes: those of one hand, or of one position in the pattern.
type Subset struct {
	Hand     drill.Hand
	Position int
	Planned  int
	Clean    int
	Matched  int
	Bias     float64 // s, mean error after the offset is removed; NaN where nothing matched
	Spread   float64 // s; NaN under two matches
}

// Break is a strike that ended a streak of clean ones.
type Break struct {
	Strike  int
	At      float64 // s, planned
	Streak  int     // clean strikes before it
	Verdict Verdict
	Recover float64 // s until order was found again, recovered clean strikes in a row; NaN where it never was
}

// StruckTempo is the tempo that was struck in a stretch of the round.
type StruckTempo struct {
	From  float64 // s
	Hits  int
	Tempo float64 // strikes a minute, from the median interval; NaN under two hits
}

// Measures are the figures that a review shows beside the counts.
type Measures struct {
	Hands     []Subset
	Positions []Subset
	Breaks    []Break
	Paces     []StruckTempo // by 15 s
	Variety   float64       // standard deviation of the hits per 10 s as a share of their mean; NaN under 20 s
	Inbound   float64       // share of matched hits struck while the bag came in; NaN where nothing matched
	Clock     float64       // s, spread of the timekeeper, about what was due; NaN under 30 intervals
	Motor     float64       // s, spread of the hand; NaN under 30 intervals
	Clipped   bool          // one of the two came out negative and stands as 0
}

const (
	paceStretch    = 15.0
	varietyStretch = 10.0
	recovered      = 3 // clean strikes in a row that count as order; assumed
)

// Measure looks closer at a judged round. strikes and hits are the lists that were judged; from and to bound the round
// in seconds; inbound tells how long (s) before and after each planned strike the bag is on its way in.
func Measure(r Result, strikes []Strike, hits []Hit, from, to float64, inbound [2]float64) Measures {
	m := Measures{
		Hands:     groups(r, strikes, func(s Strike) Subset { return Subset{Hand: s.Hand} }),
		Positions: groups(r, strikes, func(s Strike) Subset { return Subset{Hand: s.Hand, Position: s.Position} }),
		Breaks:    breaks(r, strikes),
		Paces:     paces(hits, from, to),
		Variety:   variety(hits, from, to),
		Inbound:   math.NaN(),
	}
	in := 0
	for _, p := range r.Matches {
		if p.Error >= -inbound[0] && p.Error <= inbound[1] {
			in++
		}
	}
	if len(r.Matches) > 0 && inbound != [2]float64{} { // a combination has no one way in
		m.Inbound = float64(in) / float64(len(r.Matches))
	}
	m.Clock, m.Motor, m.Clipped = trainee.Split(offBy(r))
	return m
}

func groups(r Result, strikes []Strike, key func(Strike) Subset) []Subset {
	type tally struct {
		Subset
		errors []float64
	}
	tallies := map[Subset]*tally{}
	tallyOf := func(i int) *tally {
		k := key(strikes[i])
		if tallies[k] == nil {
			tallies[k] = &tally{Subset: k}
		}
		return tallies[k]
	}
	for i, v := range r.Strikes {
		t := tallyOf(i)
		t.Planned++
		if v == Clean {
			t.Clean++
		}
	}
	for _, p := range r.Matches {
		t := tallyOf(p.Strike)
		t.Matched++
		t.errors = append(t.errors, p.Error)
	}
	list := make([]Subset, 0, len(tallies))
	for _, t := range tallies {
		t.Bias, t.Spread = math.NaN(), math.NaN()
		if t.Matched > 0 {
			t.Bias = stat.Mean(t.errors, nil)
		}
		if t.Matched > 1 {
			t.Spread = stat.StdDev(t.errors, nil)
		}
		list = append(list, t.Subset)
	}
	slices.SortFunc(list, func(a, b Subset) int {
		return cmp.Or(cmp.Compare(a.Position, b.Position), cmp.Compare(a.Hand, b.Hand))
	})
	return list
}

func breaks(r Result, strikes []Strike) []Break {
	order := make([]int, len(strikes))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(strikes[a].At, strikes[b].At) })
	var list []Break
	streak, open := 0, -1 // open: the first break since order was last found
	for _, i := range order {
		if r.Strikes[i] == Clean {
			streak++
			if streak == recovered && open >= 0 {
				for k := open; k < len(list); k++ {
					list[k].Recover = strikes[i].At - list[k].At
				}
				open = -1
			}
			continue
		}
		if streak > 0 {
			list = append(list, Break{Strike: i, At: strikes[i].At, Streak: streak, Verdict: r.Strikes[i],
				Recover: math.NaN()})
			if open < 0 {
				open = len(list) - 1
			}
		}
		streak = 0
	}
	return list
}

// times returns the moments of the hits, in order.
func times(hits []Hit) []float64 {
	at := make([]float64, len(hits))
	for i, h := range hits {
		at[i] = h.At
	}
	slices.Sort(at)
	return at
}

// between are those of a list in order that lie in a stretch, its end not among them.
func between(at []float64, from, to float64) []float64 {
	first := sort.SearchFloat64s(at, from)
	return at[first:max(first, sort.SearchFloat64s(at, to))]
}

func paces(hits []Hit, from, to float64) []StruckTempo {
	var list []StruckTempo
	all := times(hits)
	for start := from; start < to; start += paceStretch {
		at := between(all, start, math.Min(start+paceStretch, to))
		p := StruckTempo{From: start, Hits: len(at), Tempo: math.NaN()}
		if len(at) > 1 {
			gaps := make([]float64, len(at)-1)
			for i := range gaps {
				gaps[i] = at[i+1] - at[i]
			}
			slices.Sort(gaps)
			p.Tempo = 60 / stat.Quantile(0.5, stat.Empirical, gaps, nil)
		}
		list = append(list, p)
	}
	return list
}

func variety(hits []Hit, from, to float64) float64 {
	var counts []float64
	all := times(hits)
	for start := from; start+varietyStretch <= to+1e-9; start += varietyStretch {
		counts = append(counts, float64(len(between(all, start, start+varietyStretch))))
	}
	mean := stat.Mean(counts, nil)
	if len(counts) < 2 || mean == 0 {
		return math.NaN()
	}
	return stat.StdDev(counts, nil) / mean
}

// offBy lists how much longer than it was due each time between hits of neighbouring strikes was, with a NaN where the
// row is broken. What the plan or the bag makes uneven is nobody's scatter: on the beat that is the error less the one
// before; on the bag's clock, where a strike is due by the hit before, the error itself.
func offBy(r Result) []float64 {
	var list []float64
	for i := 1; i < len(r.Matches); i++ {
		a, b := r.Matches[i-1], r.Matches[i]
		switch {
		case b.Strike != a.Strike+1:
			list = append(list, math.NaN())
		case r.Followed != nil:
			list = append(list, b.Error)
		default:
			list = append(list, b.Error-a.Error)
		}
	}
	return list
}
