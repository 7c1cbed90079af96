package judge

import (
	"cmp"
	"math"
	"slices"
)

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
			fresh = f.add(node{strike: next, hit: j, kind: resumed, place: -1, cost: a.cost + miss, before: a.node},
				fresh)
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
		if math.Abs(e) > gate*w.window[k] || strike >= len(f.strikes) || f.between(next, strike) ||
			f.leftOut(w, from.hit, j, k) {
			continue
		}
		inside = inside || late == 0 && math.Abs(e) <= w.window[k]/2
		n := node{strike: strike, hit: j, kind: met, place: w.place + late*f.c.Bag.Step, let: late, err: e,
			window: w.window[k], cost: a.cost + math.Abs(e) + miss*math.Abs(float64(late)), before: a.node,
			extras: j - from.hit - 1}
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

// leftOut says whether a hit between two was close enough to a come-back before the k-th: it is a late or an early one,
// and no extra.
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

// offTheBag reads a hit as one that meets no come-back: an attempt at the strike that was to come, or at the one after
// those that went by before it. The bag starts anew.
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
	return f.add(node{strike: last, hit: j, kind: off, place: -1, let: min(let, over), cost: cost, before: a.node},
		fresh)
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
		fresh = f.add(node{strike: i, hit: j, kind: met, place: -1, err: e, window: s.Window,
			cost: a.cost + cost + missCost*f.wide*float64(i), before: -1}, fresh)
	}
	return fresh
}

// mostCalls is the number of calls that a hit is held against after a time in which nobody answered one.
const mostCalls = 8

// passed returns the number of strikes whose calls went by for good after the one at strike i: whoever begins only then
// begins a later repetition.
func (f *follower) passed(i int, t float64) int {
	from := f.nextLoose[i+1]
	to := from
	for to < len(f.strikes) && f.strikes[to].At <= t-callReach {
		to = f.nextLoose[to+1]
	}
	return to - from
}

// begin reads a hit as a strike that does not go by the one before it: the next one, or, where the rest of a repetition
// was left out, that of a later one.
func (f *follower) begin(a alive, from node, next, j int, fresh []alive) []alive {
	t := f.hits[j].at - f.offset
	seen := 0
	for i := f.nextLoose[next]; i < len(f.strikes) && seen < mostCalls; i = f.nextLoose[i+1] {
		s := &f.strikes[i]
		if s.At > t+2*callReach {
			break
		}
		seen++
		fresh = f.late(a, i, next, j, fresh)
		e := t - s.At
		n := node{strike: i, hit: j, kind: met, place: -1, err: e, window: s.Window,
			cost: a.cost + missCost*f.wide*float64(i-next+f.passed(i, t)), before: a.node}
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

// leftOff is the number of strikes at the beginning of a repetition that may be missed, so that a later one sets the
// bag going.
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
		fresh = f.add(node{strike: i, hit: j, kind: met, place: -1, err: e, window: f.strikes[i].Window, cost: cost,
			before: a.node}, fresh)
	}
	return fresh
}
