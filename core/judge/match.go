package judge

import (
	"cmp"
	"math"
	"slices"
)

const (
	gate      = 1.5  // windows from a strike, beyond which a hit is no attempt at it
	missCost  = 0.75 // windows; a miss and an extra together cost what a match at the gate does
	maxOffset = 0.25 // s, the greatest constant offset that is looked for
)

// matcher pairs strikes and hits in order. The cheapest pairing of two sequences, with cost |Δt| for a pair and
// missCost windows for a strike or a hit left over, is found by dynamic programming (Needleman & Wunsch 1970), kept to
// the pairs within the gate. It is phrased as the greatest saving against leaving everything over: a pair saves 1.5
// windows − |Δt|.
type matcher struct {
	strikes []timed
	hits    []timed
	// Work space, kept between passes of the search: for each hit, the greatest saving of a chain of pairs that ends at
	// or before it, and that chain's last pair.
	saved   []float64
	tail    []int
	links   []link
	reached int // hits that have come within reach of a strike
	paired  [][2]int
	errors  []float64
	stopped func() bool
}

type timed struct {
	at, window float64
	index      int
}

type link struct{ strike, hit, before int }

func newMatcher(strikes []Strike, hits []Hit) *matcher {
	m := &matcher{stopped: Options{}.stopped, strikes: make([]timed, len(strikes)), hits: make([]timed, len(hits)),
		saved: make([]float64, len(hits)), tail: make([]int, len(hits))}
	for i, s := range strikes {
		m.strikes[i] = timed{s.At, s.Window, i}
	}
	for i, h := range hits {
		m.hits[i] = timed{at: h.At, index: i}
	}
	byTime := func(a, b timed) int { return cmp.Or(cmp.Compare(a.at, b.at), cmp.Compare(a.index, b.index)) }
	slices.SortFunc(m.strikes, byTime)
	slices.SortFunc(m.hits, byTime)
	return m
}

// saving is the greatest saving at an offset.
func (m *matcher) saving(offset float64) float64 { return m.solve(offset, nil) }

// solve runs the dynamic programme at an offset and returns the greatest saving. Where chains is given, the links of
// the best chains are recorded in it.
func (m *matcher) solve(offset float64, chains *[]link) float64 {
	// saved[j] belongs to a chain that ends at or before hit j. Hits from reached on have not been paired yet, so the
	// best chain so far is the one at reached−1.
	m.reached = 0
	first := 0
	for i, s := range m.strikes {
		width := gate * s.window
		for first > 0 && m.hits[first-1].at-offset >= s.at-width {
			first--
		}
		for first < len(m.hits) && m.hits[first].at-offset < s.at-width {
			first++
		}
		end := first
		for end < len(m.hits) && m.hits[end].at-offset <= s.at+width {
			end++
		}
		m.extend(end)
		// From the last hit to the first, so that the chain before each pair is one of earlier strikes.
		for j := end - 1; j >= first; j-- {
			gain := width - math.Abs(m.hits[j].at-offset-s.at)
			before := -1
			if j > 0 {
				gain += m.saved[j-1]
				before = m.tail[j-1]
			}
			if gain > m.saved[j] {
				m.saved[j] = gain
				if chains != nil {
					*chains = append(*chains, link{i, j, before})
					m.tail[j] = len(*chains) - 1
				}
			}
		}
		for j := max(first, 1); j < m.reached; j++ {
			if m.saved[j-1] > m.saved[j] {
				m.saved[j], m.tail[j] = m.saved[j-1], m.tail[j-1]
			} else if j >= end {
				break // nothing changed beyond this strike's hits
			}
		}
	}
	if m.reached == 0 {
		return 0
	}
	return m.saved[m.reached-1]
}

// extend carries the best chain so far on to the hits that come into reach.
func (m *matcher) extend(end int) {
	for ; m.reached < end; m.reached++ {
		if j := m.reached; j == 0 {
			m.saved[j], m.tail[j] = 0, -1
		} else {
			m.saved[j], m.tail[j] = m.saved[j-1], m.tail[j-1]
		}
	}
}

// pairs returns the cheapest pairing at an offset as places in the sorted lists, in order. The next call writes over
// it.
func (m *matcher) pairs(offset float64) [][2]int {
	m.links = m.links[:0]
	m.solve(offset, &m.links)
	if len(m.links) == 0 {
		return nil
	}
	best := m.tail[m.reached-1]
	list := m.paired[:0]
	for ; best >= 0; best = m.links[best].before {
		list = append(list, [2]int{m.links[best].strike, m.links[best].hit})
	}
	slices.Reverse(list)
	m.paired = list
	return list
}

// findOffset looks for the constant offset, within ±maxOffset and half the median interval between strikes, at which
// the pairing is cheapest; of equals the smaller. A grid finds the neighbourhoods; in each, the pairing and the offset
// that suits it best (the median of its errors, the minimiser of Σ|Δt|) are improved in turn until they agree.
func (m *matcher) findOffset() float64 {
	return m.offsetWithin(math.Min(maxOffset, m.medianInterval()/2))
}

// offsetWithin is findOffset within ±reach.
func (m *matcher) offsetWithin(reach float64) float64 {
	if len(m.strikes) == 0 || len(m.hits) == 0 {
		return 0
	}
	step := math.Min(m.narrowest()/3, reach)
	if step <= 0 {
		return 0
	}
	type place struct{ offset, saved float64 }
	grid := []place{{0, m.saving(0)}}
	n := min(int(math.Ceil(reach/step)), 60)
	for k := 1; k <= n && !m.stopped(); k++ {
		o := reach * float64(k) / float64(n)
		grid = append(grid, place{o, m.saving(o)}, place{-o, m.saving(-o)})
	}
	slices.SortStableFunc(grid, func(a, b place) int { return cmp.Compare(b.saved, a.saved) })
	best := place{0, -1}
	for _, start := range grid[:min(4, len(grid))] {
		p := start
		for range 20 {
			if m.stopped() {
				break
			}
			next := m.suits(m.pairs(p.offset), reach)
			if next == p.offset {
				break
			}
			saved := m.saving(next)
			if saved <= p.saved+1e-12 {
				if saved >= p.saved-1e-12 && math.Abs(next) < math.Abs(p.offset) {
					p = place{next, saved}
				}
				break
			}
			p = place{next, saved}
		}
		if p.saved > best.saved+1e-9 || (p.saved > best.saved-1e-9 && math.Abs(p.offset) < math.Abs(best.offset)) {
			best = p
		}
	}
	return best.offset
}

// suits returns the offset that makes the sum of absolute errors of a pairing least: any value between the two middle
// errors does, so the one nearest 0 is taken. It is held within ±reach.
func (m *matcher) suits(pairs [][2]int, reach float64) float64 {
	if len(pairs) == 0 {
		return 0
	}
	errors := m.errors[:0]
	for _, p := range pairs {
		errors = append(errors, m.hits[p[1]].at-m.strikes[p[0]].at)
	}
	m.errors = errors
	slices.Sort(errors)
	low, high := errors[(len(errors)-1)/2], errors[len(errors)/2]
	o := math.Max(low, math.Min(high, 0))
	return math.Max(-reach, math.Min(reach, o))
}

// PairsInReach tells how many pairs of a strike and a hit lie within each other's reach, which is what judging them
// takes; counting stops at most. Windows much wider than the strikes are apart make it grow with the product of the two
// numbers.
func PairsInReach(strikes []Strike, hits []Hit, most int) int {
	m := newMatcher(strikes, hits)
	pairs := 0
	for _, s := range m.strikes {
		width := gate*s.window + maxOffset
		from, _ := slices.BinarySearchFunc(m.hits, s.at-width,
			func(h timed, at float64) int { return cmp.Compare(h.at, at) })
		to, _ := slices.BinarySearchFunc(m.hits, s.at+width,
			func(h timed, at float64) int { return cmp.Compare(h.at, at) })
		if pairs += to - from; pairs >= most {
			return most
		}
	}
	return pairs
}

func (m *matcher) medianInterval() float64 {
	if len(m.strikes) < 2 {
		return 2 * maxOffset
	}
	gaps := make([]float64, len(m.strikes)-1)
	for i := range gaps {
		gaps[i] = m.strikes[i+1].at - m.strikes[i].at
	}
	slices.Sort(gaps)
	return (gaps[(len(gaps)-1)/2] + gaps[len(gaps)/2]) / 2
}

func (m *matcher) narrowest() float64 {
	least := math.Inf(1)
	for _, s := range m.strikes {
		least = math.Min(least, s.window)
	}
	return least
}
