package judge

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"
)

// follower matches hits to the come-backs of a bag.
type follower struct {
	c         Chain
	keep      bool
	stopped   func() bool
	strikes   []chained
	hits      []caught
	reach     float64   // s, within which the first strike is looked for
	offset    float64   // s, of the moments that the plan gives
	wide      float64   // s, the window that costs are counted in
	ratio     []float64 // by hit: the time the bag takes from it, as a share of what the plan's force would give
	calls     []int     // strikes on a bag at rest
	nextLoose []int     // by strike: it or the next one that is loose; the number of strikes where there is none
	apart     []float64 // s from the strike before, as planned; 0 for the first
	pace      float64   // of the round, as a share of the planned time: strikes after the last hit are counted by it
	trust     float64   // how far the times tell the force, from 0 (then it is taken as planned) to 1
	most      int       // readings that are carried along
	nodes     []node
	ways      []ways // by hit
	cannot    []int  // by hit: −1 or 1 where the tempo round it is quicker or slower than the bag has it at this count
}

// chained is a strike of the plan, in its order.
type chained struct {
	Strike
	index int
}

type caught struct {
	Hit
	at    float64
	index int
}

type kind uint8

const (
	met     kind = iota // a strike at a come-back, or on a bag at rest
	resumed             // the hit after one off the bag: its moment is not known
	off                 // off the bag, which starts anew
)

// node is one interpretation of one hit.
type node struct {
	strike, hit int // the strike it met; where it was off the bag, the last one that is over
	kind        kind
	place       int // of the come-back it met; −1 where there was none to meet
	let         int // come-backs let through against the plan; negative: it came so many too soon
	soon        bool
	extras      int // hits since the last one that counted
	err         float64
	window      float64
	cost        float64
	before      int // of nodes; −1 at the beginning
}

// What a match costs, in windows.
const (
	anewCost  = 0.75 // a bag started anew, besides the miss and the extra hit
	otherHand = 0.5  // a wrong hand, so that hands help to tell which strike was meant
	sketched  = 4    // ways to read the round so far that are carried along while its tempo and force are looked for
	carried   = 8    // and when it is judged, unless it is plain
	margin    = 3.5  // windows by which a reading may be dearer than the cheapest and still be carried along
	callReach = 1.0  // s from its call at which a repetition costs as much as a miss to begin. Assumed
)

func newFollower(strikes []Strike, hits []Hit, c Chain, o Options) *follower {
	f := &follower{c: c, keep: o.KeepOffset, stopped: o.stopped, offset: o.Offset, pace: 1}
	for i, s := range strikes {
		f.strikes = append(f.strikes, chained{s, i})
	}
	slices.SortStableFunc(f.strikes, func(a, b chained) int { return cmp.Compare(a.At, b.At) })
	for i, h := range hits {
		f.hits = append(f.hits, caught{h, h.At, i})
	}
	slices.SortStableFunc(f.hits, func(a, b caught) int { return cmp.Compare(a.at, b.at) })
	m := newMatcher(strikes, nil)
	f.reach = math.Min(maxOffset, m.medianInterval()/2)
	var widths []float64
	for _, s := range f.strikes {
		if !s.Still && !s.answer {
			widths = append(widths, s.Window)
		}
	}
	if f.wide = 0.1; len(widths) > 0 {
		slices.Sort(widths)
		f.wide = stat.Quantile(0.5, stat.Empirical, widths, nil)
	}
	f.apart = make([]float64, len(strikes))
	for i := 1; i < len(f.strikes); i++ {
		f.apart[i] = f.planned(i)
	}
	f.nextLoose = make([]int, len(strikes)+1)
	f.nextLoose[len(strikes)] = len(strikes)
	for i := len(strikes) - 1; i >= 0; i-- {
		if f.nextLoose[i] = f.nextLoose[i+1]; f.loose(i) {
			f.nextLoose[i] = i
		}
	}
	for i, s := range f.strikes {
		if s.Still {
			f.calls = append(f.calls, i)
		}
	}
	f.ratio, f.ways = make([]float64, len(hits)), make([]ways, len(hits))
	const usual = 6 // come-backs that are looked at after a hit: one piece of memory for all
	room := make([]float64, 2*usual*len(hits))
	for j := range f.ways {
		f.ways[j].due, f.ways[j].window = room[:0:usual], room[usual:usual:2*usual]
		room = room[2*usual:]
	}
	return f
}

// tries are tempos, as shares of the planned interval, at which a round is looked for that does not go by the plan's:
// near it, in steps narrower than what is matched on either side of a window of an eighth of the interval, and what the
// hits themselves suggest.
func (f *follower) tries() []float64 {
	list := []float64{0.92, 1.08, 0.85, 1.17}
	var planned, gaps []float64
	for i := 1; i < len(f.strikes); i++ {
		if !f.loose(i) {
			planned = append(planned, f.apart[i])
		}
	}
	for j := 1; j < len(f.hits); j++ {
		gaps = append(gaps, f.hits[j].at-f.hits[j-1].at)
	}
	if len(planned) == 0 || len(gaps) == 0 {
		return list
	}
	slices.Sort(planned)
	slices.Sort(gaps)
	usual := stat.Quantile(0.5, stat.Empirical, planned, nil)
	for _, q := range []float64{0.5, 0.25, 0.75} {
		share := stat.Quantile(q, stat.Empirical, gaps, nil) / usual
		list = append(list, share, 2*share)
	}
	return list
}

// goodEnough is the cost for each hit, in windows, under which a tempo is not looked for any further; another tempo
// than the plan's is taken where it costs less than this share of it. So many hits tell which it is.
const goodEnough, clearlyBetter, tellTempo = 0.5, 0.75, 150

// plain is the cost for each hit, in windows, up to which there is little to choose between readings.
const plain = 0.25

// best gives the cheapest reading of the round: first at the planned tempo, or one that suits clearly better, then by
// the force that shows in the intervals round each hit.
func (f *follower) best() []node {
	if len(f.hits) == 0 || len(f.strikes) == 0 {
		return nil
	}
	f.nodes = make([]node, 0, 12*len(f.hits))
	f.steady(1)
	f.most = carried
	if !f.c.Screen {
		f.most = sketched
		f.steady(f.tempo())
		path, cost := f.run(len(f.hits))
		f.track(path)
		if cost > plain*f.wide*float64(len(f.hits)) {
			f.most = carried
		}
	}
	path, _ := f.run(len(f.hits))
	if !f.c.Screen {
		f.pace = f.paceOf(f.transitions(path))
	}
	return path
}

// tempo is the one to look for the round at, as a share of the planned interval.
func (f *follower) tempo() float64 {
	n := min(len(f.hits), tellTempo)
	_, cost := f.run(n)
	enough := goodEnough * f.wide * float64(n)
	if cost < enough {
		return 1
	}
	best := 1.0
	cost *= clearlyBetter
	for _, share := range f.tries() {
		f.steady(share)
		if _, c := f.run(n); c < cost-1e-9 {
			cost, best = c, share
		}
		if cost < enough {
			break
		}
	}
	return best
}

func (f *follower) steady(share float64) {
	f.trust = 0
	for j := range f.ratio {
		f.ratio[j] = share
	}
}

// alive is a reading of the round so far: its last hit that counted, and what it costs with the extras since.
type alive struct {
	node       int
	cost, owes float64
}

// run reads the round once, up to so many hits.
func (f *follower) run(hits int) ([]node, float64) {
	f.nodes = f.nodes[:0]
	for j := range f.ways {
		f.ways[j].key = wayKey{}
	}
	list := []alive{{node: -1}}
	var fresh []alive
	for j := range hits {
		if j%32 == 0 && f.stopped() {
			return nil, 0
		}
		fresh = fresh[:0]
		for _, a := range list {
			fresh = f.expand(a, j, fresh)
		}
		for i := range list { // or the hit is an extra
			list[i].cost += missCost * f.wide
		}
		list = f.prune(append(list, fresh...), f.hits[j].at)
	}
	at, cost := -1, math.Inf(1)
	for _, a := range list {
		c := a.owes
		if hits == len(f.hits) {
			c = a.cost + f.rest(a)
		}
		if c < cost-1e-12 {
			at, cost = a.node, c
		}
	}
	var path []node
	for ; at >= 0; at = f.nodes[at].before {
		path = append(path, f.nodes[at])
	}
	slices.Reverse(path)
	return path, cost
}

// prune keeps the readings that are cheapest with what they owe.
func (f *follower) prune(list []alive, now float64) []alive {
	least, called := math.Inf(1), f.called(now)
	for i, a := range list {
		list[i].owes = a.cost + f.owed(a, now, called)
		least = math.Min(least, list[i].owes)
	}
	near := list[:0]
	for _, a := range list {
		if a.owes <= least+margin*f.wide {
			near = append(near, a)
		}
	}
	slices.SortFunc(near, func(a, b alive) int { return cmp.Compare(a.owes, b.owes) })
	return near[:min(len(near), f.most)]
}

// called is the last strike on a bag at rest whose call has gone by for good.
func (f *follower) called(now float64) int {
	i, _ := slices.BinarySearchFunc(f.calls, now-f.offset-callReach,
		func(i int, t float64) int { return cmp.Compare(f.strikes[i].At, t) })
	if i == 0 {
		return 0
	}
	return f.calls[i-1]
}

// owed returns the cost of the returns that went by since a reading's last hit, which it has not been charged for yet.
// called is the last strike on a bag at rest whose call has gone by.
func (f *follower) owed(a alive, now float64, called int) float64 {
	next, since := 0, now-f.offset-f.strikes[0].At
	if a.node >= 0 {
		next, since = f.nodes[a.node].strike+1, now-f.hits[f.nodes[a.node].hit].at
	}
	if called > next {
		return missCost * f.wide * float64(called-next)
	}
	if next >= len(f.strikes) || next > 0 && f.loose(next) || since < 0 {
		return 0
	}
	if next == 0 {
		next = min(1, len(f.strikes)-1)
	}
	return missCost * f.wide * since / math.Max(1e-3, f.apart[next])
}

// rest returns the cost of the strikes that are due after the last hit of a reading, all of them missed.
func (f *follower) rest(a alive) float64 {
	last, at := -1, f.offset
	if a.node >= 0 {
		last, at = f.nodes[a.node].strike, f.hits[f.nodes[a.node].hit].at
	}
	cost := 0.0
	for i := last + 1; i < len(f.strikes); i++ {
		if at = f.after(i, last, at); at > f.c.End+tolerance || f.strikes[i].Spare {
			break
		}
		cost += missCost * f.wide
	}
	return cost
}

// add keeps a node unless there is a cheaper one that says the same of its hit.
func (f *follower) add(n node, fresh []alive) []alive {
	if s := &f.strikes[max(0, n.strike)]; n.kind == met && wrong(s.Hand, f.hits[n.hit].Hand) {
		n.cost += otherHand * f.wide
	}
	for i, a := range fresh {
		if b := f.nodes[a.node]; b.strike == n.strike && b.kind == n.kind {
			if n.cost < b.cost {
				f.nodes[a.node] = n
				fresh[i].cost = n.cost
			}
			return fresh
		}
	}
	f.nodes = append(f.nodes, n)
	return append(fresh, alive{node: len(f.nodes) - 1, cost: n.cost})
}
