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

// node is what one hit did.
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

// ways are the come-backs (s on the round's clock) that may follow a hit, for the strike that comes next.
type ways struct {
	key     wayKey
	due     []float64
	window  []float64
	place   int // in the table, of the one that the plan meets
	planned int // which of these it is
}

// wayKey is what the come-backs after a hit go by; the zero key stands for none worked out.
type wayKey struct {
	count                int
	launch, ahead, share float64
}

// What a match costs, in windows.
const (
	anewCost  = 0.75 // a bag started anew, besides the miss and the extra hit
	otherHand = 0.5  // a wrong hand, so that hands help to tell which strike was meant
	mostAlive = 6    // ways to read the round so far that are carried along
	margin    = 3.0  // windows by which a reading may be dearer than the cheapest and still be carried along
	callReach = 1.0  // s from its call at which a repetition costs as much as a miss to begin. Assumed
)

func newFollower(strikes []Strike, hits []Hit, c Chain, o Options) *follower {
	f := &follower{c: c, keep: o.KeepOffset, offset: o.Offset, pace: 1}
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
	return f
}

// tries are tempos, as shares of the planned interval, at which a round is looked for that does not go by the plan's: near it, in steps
// narrower than what is matched on either side of a window of an eighth of the interval, and what the hits themselves suggest.
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

// goodEnough is the cost for each hit, in windows, under which a tempo is not looked for any further; another tempo than the plan's is
// taken where it costs less than this share of it.
const goodEnough, clearlyBetter = 0.3, 0.75

// best gives the cheapest reading of the round: first at the planned tempo, or one that suits clearly better, then by the force that
// shows in the intervals round each hit.
func (f *follower) best() []node {
	if len(f.hits) == 0 || len(f.strikes) == 0 {
		return nil
	}
	f.nodes = make([]node, 0, 6*len(f.hits))
	f.steady(1)
	path, cost := f.run()
	if f.c.Screen {
		return path
	}
	cost *= clearlyBetter
	for _, share := range f.tries() {
		if cost < clearlyBetter*goodEnough*f.wide*float64(len(f.hits)) {
			break
		}
		f.steady(share)
		if p, c := f.run(); c < cost-1e-9 {
			cost, path = c, p
		}
	}
	if f.track(path) {
		path, _ = f.run()
	}
	f.pace = f.paceOf(f.transitions(path))
	return path
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

// run reads the round once.
func (f *follower) run() ([]node, float64) {
	f.nodes = f.nodes[:0]
	for j := range f.ways {
		f.ways[j].key = wayKey{}
	}
	list := []alive{{node: -1}}
	var fresh []alive
	for j := range f.hits {
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
		if c := a.cost + f.rest(a); c < cost-1e-12 {
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
	for i, a := range list {
		list[i].owes = a.cost + f.owed(a, now)
	}
	slices.SortFunc(list, func(a, b alive) int { return cmp.Compare(a.owes, b.owes) })
	n := 0
	for n < len(list) && n < mostAlive && list[n].owes <= list[0].owes+margin*f.wide {
		n++
	}
	return list[:n]
}

// called is the last strike on a bag at rest whose call has gone by for good.
func (f *follower) called(now float64) int {
	i, _ := slices.BinarySearchFunc(f.calls, now-f.offset-callReach, func(i int, t float64) int { return cmp.Compare(f.strikes[i].At, t) })
	if i == 0 {
		return 0
	}
	return f.calls[i-1]
}

// owed is what the come-backs cost that went by since a reading's last hit: it has not paid for them yet.
func (f *follower) owed(a alive, now float64) float64 {
	next, since := 0, now-f.offset-f.strikes[0].At
	if a.node >= 0 {
		next, since = f.nodes[a.node].strike+1, now-f.hits[f.nodes[a.node].hit].at
	}
	if called := f.called(now); called > next {
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

// rest is what the strikes after the last hit cost.
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

// expand adds all that a hit can be after a reading.
func (f *follower) expand(a alive, j int, fresh []alive) []alive {
	if a.node < 0 {
		return f.enter(a, j, fresh)
	}
	from := f.nodes[a.node]
	next := from.strike + 1
	if next >= len(f.strikes) {
		return fresh
	}
	fresh = f.begin(a, from, next, j, fresh)
	if f.loose(next) {
		return fresh
	}
	t, miss := f.hits[j].at, missCost*f.wide
	if from.kind == off {
		since := t - f.hits[from.hit].at
		if r := f.apart[next]; since > 0.25*r && since < 3*r {
			fresh = f.add(node{strike: next, hit: j, kind: resumed, place: -1, cost: a.cost + miss, before: a.node}, fresh)
		}
		let := int(math.Max(0, since/f.apart[next]-0.5))
		return f.offTheBag(a, from, next, j, let, fresh)
	}
	w := f.waysOf(from)
	if w == nil {
		return fresh
	}
	inside := false
	let := 0
	for k, due := range w.due {
		e, late := t-due, k-w.planned
		if late >= 0 && e > w.window[k]/2 {
			let = late + 1
		}
		strike := next + max(0, late)
		if math.Abs(e) > gate*w.window[k] || strike >= len(f.strikes) || f.between(next, strike) || f.leftOut(w, from.hit, j, k) {
			continue
		}
		inside = inside || late == 0 && math.Abs(e) <= w.window[k]/2
		n := node{strike: strike, hit: j, kind: met, place: w.place + late*f.c.Bag.Step, let: late, err: e, window: w.window[k], cost: a.cost + math.Abs(e) + miss*math.Abs(float64(late)), before: a.node, extras: j - from.hit - 1}
		fresh = f.add(n, fresh)
	}
	if inside {
		return fresh
	}
	if n := len(w.due); n > 1 && t > w.due[n-1] { // past what is told of the bag: it goes on at its last pace
		let += int((t - w.due[n-1]) / (w.due[n-1] - w.due[n-2]))
	}
	return f.offTheBag(a, from, next, j, let, fresh)
}

// leftOut says whether a hit between two was close enough to a come-back before the k-th: it is a late or an early one, and no extra.
func (f *follower) leftOut(w *ways, from, to, k int) bool {
	for j := from + 1; j < to; j++ {
		for q := w.planned; q < k; q++ {
			if math.Abs(f.hits[j].at-w.due[q]) <= gate*w.window[q] {
				return true
			}
		}
	}
	return false
}

// offTheBag reads a hit as one that meets no come-back: an attempt at the strike that was to come, or at the one after those that went by
// before it. The bag starts anew.
func (f *follower) offTheBag(a alive, from node, next, j, let int, fresh []alive) []alive {
	fresh = f.attempt(a, from, j, max(1, let), let, fresh)
	if let > 0 {
		fresh = f.attempt(a, from, j, let+1, let, fresh)
	}
	return fresh
}

func (f *follower) attempt(a alive, from node, j, over, let int, fresh []alive) []alive {
	last := from.strike
	for range over {
		if last+1 >= len(f.strikes)-1 || f.loose(last+1) {
			break
		}
		last++
	}
	over = last - from.strike
	cost := a.cost + (missCost*(float64(over)+1)+anewCost)*f.wide
	return f.add(node{strike: last, hit: j, kind: off, place: -1, let: min(let, over), cost: cost, before: a.node}, fresh)
}

// loose says whether a strike does not go by the one before it: it meets a bag at rest, or answers a cue.
func (f *follower) loose(i int) bool { s := &f.strikes[i]; return s.Still || s.answer }

// between says whether a loose strike stands after one and up to another.
func (f *follower) between(next, strike int) bool { return f.nextLoose[next+1] <= strike }

// enter finds the strike that the first hit is meant for: the first one, or the one whose planned moment is nearest.
func (f *follower) enter(a alive, j int, fresh []alive) []alive {
	t := f.hits[j].at - f.offset
	nearest, _ := slices.BinarySearchFunc(f.strikes, t, func(s chained, t float64) int { return cmp.Compare(s.At, t) })
	for _, i := range []int{0, nearest - 1, nearest, nearest + 1} {
		if i < 0 || i >= len(f.strikes) || i > 0 && i > 4*len(f.hits) {
			continue
		}
		s := f.strikes[i]
		e := t - s.At
		cost := 0.0
		if f.keep && !s.Still {
			cost = math.Abs(e)
			if cost > gate*s.Window {
				continue
			}
		} else if far := math.Abs(e) - f.reach; far > 0 {
			cost = math.Min(far, missCost*f.wide)
		}
		fresh = f.add(node{strike: i, hit: j, kind: met, place: -1, err: e, window: s.Window, cost: a.cost + cost + missCost*f.wide*float64(i), before: -1}, fresh)
	}
	return fresh
}

// begin reads a hit as a strike that does not go by the one before it: the next one, or, where the rest of a repetition was left
// out, that of a later one.
func (f *follower) begin(a alive, from node, next, j int, fresh []alive) []alive {
	t := f.hits[j].at - f.offset
	seen := 0
	for i := f.nextLoose[next]; i < len(f.strikes) && seen < 4; i = f.nextLoose[i+1] {
		s := &f.strikes[i]
		if s.At > t+2*callReach {
			break
		}
		seen++
		fresh = f.late(a, i, next, j, fresh)
		e := t - s.At
		n := node{strike: i, hit: j, kind: met, place: -1, err: e, window: s.Window, cost: a.cost + missCost*f.wide*float64(i-next), before: a.node}
		switch {
		case s.answer && math.Abs(e) > gate*s.Window:
			continue
		case s.answer:
			n.cost += missCost * f.wide * math.Abs(e) / (gate * s.Window)
		default:
			n.cost += missCost * f.wide * math.Min(1, math.Abs(e)/callReach)
			n.soon = s.Least > 0 && i == next && f.hits[j].at-f.hits[from.hit].at < s.Least
		}
		fresh = f.add(n, fresh)
	}
	return fresh
}

// leftOff is how many strikes at the beginning of a repetition may be missed, so that a later one sets the bag going.
const leftOff = 3

// late reads a hit as a later strike of a repetition whose first ones were missed: the bag still hangs at rest.
func (f *follower) late(a alive, first, next, j int, fresh []alive) []alive {
	t := f.hits[j].at - f.offset
	for i := first + 1; i < min(len(f.strikes), first+leftOff+1) && !f.loose(i); i++ {
		e := t - f.strikes[i].At
		if math.Abs(e) > callReach {
			continue
		}
		cost := a.cost + missCost*f.wide*(float64(i-next)+math.Abs(e)/callReach)
		fresh = f.add(node{strike: i, hit: j, kind: met, place: -1, err: e, window: f.strikes[i].Window, cost: cost, before: a.node}, fresh)
	}
	return fresh
}

// waysOf gives the come-backs after a hit that met the bag, for the strike that follows; nil where that does not go by it.
func (f *follower) waysOf(from node) *ways {
	next := from.strike + 1
	if next >= len(f.strikes) || f.loose(next) || from.kind == off {
		return nil
	}
	w := &f.ways[from.hit]
	s, before, bag := &f.strikes[next], &f.strikes[from.strike], f.c.Bag
	key := wayKey{s.Count, before.Launch, before.Ahead - s.Ahead, s.share()}
	if w.key == key {
		return w
	}
	place := bag.Place(s.Count)
	if place < 0 {
		return nil
	}
	w.key, w.place, w.planned = key, place, place/bag.Step
	w.due, w.window = w.due[:0], w.window[:0]
	start := f.hits[from.hit].at + key.ahead
	launch, share := f.launch(from.hit), 1.0
	if launch == 0 {
		launch = before.Launch
		if !f.c.Screen {
			launch, share = f.tracked(place, before.Launch, f.ratio[from.hit])
		}
	}
	for p := place % bag.Step; p < min(len(bag.Counts), place+2*bag.Step+1); p += bag.Step {
		w.due = append(w.due, start+share*bag.At(p, launch))
		w.window = append(w.window, key.share*bag.Window(p, launch))
	}
	return w
}

// launch is the force of a hit where it is known; 0 where it is not.
func (f *follower) launch(hit int) float64 {
	if l := f.hits[hit].Launch; l > 0 {
		return f.c.Bag.Held(l)
	}
	return 0
}

// modelError is how far off a model may be of the bag it is of, as a share of its times. Assumed: calibration finds it within 5 % of
// the least-known parameter, which is about half as much in the times.
const modelError = 0.03

// tracked gives the launch that a bag comes back from after so great a share of the planned time, as far as the times tell it, and what
// the table has to be multiplied by to give that time all the same.
func (f *follower) tracked(place int, planned, ratio float64) (launch, share float64) {
	bag := f.c.Bag
	soonest, latest := bag.Bounds(place)
	want := math.Min(math.Max(bag.At(place, planned)*ratio, soonest*(1-modelError)), latest*(1+modelError))
	launch = planned
	if f.trust > 0 {
		off := math.Log(bag.Launch(place, want) / planned)
		launch = bag.Held(planned * math.Exp(f.trust*math.Max(-2*usualForce, math.Min(2*usualForce, off))))
	}
	return launch, want / bag.At(place, launch)
}

func (s *chained) share() float64 {
	if s.Share == 0 {
		return 1
	}
	return s.Share
}
