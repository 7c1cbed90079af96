package rig

import (
	"fmt"
	"math"
	"slices"

	"melodromos/core/motion"
)

// Striker holds what limits a tempo: who strikes or slips, and the place where the bag hangs.
type Striker struct {
	Softest  float64 // m/s of the fist: softer is no strike
	Hardest  float64 // m/s of the fist, the greatest
	Interval float64 // s, the least from one strike to the next
	Swing    float64 // m, the least that a slip bag is drawn back
	Roof     float64 // m above the floor: nothing can be anchored higher; 0 where nobody knows
	Place    Place
	Body     Body
}

// Anybody is bounded by what no hand does: published peak speeds of trained punches lie below 15 m/s, and nobody
// strikes more often than ten times a second (both from memory).
var Anybody = Striker{Hardest: 15, Interval: 0.1}

// Touch (m/s) is the softest fist that is still a strike. Assumed.
const Touch = 0.5

// Quickest is the share of somebody's own interval between two strikes below which they cannot strike at all; between
// the two they are late. Assumed.
const Quickest = 0.75

// Can says whether an answer of a rig is one that this striker can do.
func (s Striker) Can(k Kind, a TempoAnswer) bool {
	const hair = 1 + 1e-6
	switch {
	case !a.Feasible:
		return false
	case k == Slip:
		return a.Launch*hair >= s.Swing
	}
	return a.FistSpeed <= s.Hardest*hair && a.FistSpeed*hair >= s.Softest && a.Tempo <= 60/s.Interval*hair
}

// Range returns the tempos that one count allows this striker; false where none is within reach.
func (s Striker) Range(r Rig, m Meeting) (Tempo, bool) {
	soft, err := s.soft(r, m)
	if err != nil || soft.FistSpeed > s.Hardest*(1+1e-6) {
		return Tempo{}, false
	}
	hard, err := s.hard(r, m)
	if err != nil {
		return Tempo{}, false
	}
	if soft.Tempo > hard.Tempo { // a pendulum: the harder, the slower
		soft, hard = hard, soft
	}
	t := Tempo{Rebounds: m.Rebounds, Face: soft.Limits.Face, Slowest: soft.Tempo, SlowestLaunch: soft.Launch,
		Fastest: hard.Tempo, FastestLaunch: hard.Launch}
	if most := 60 / s.Interval; r.Kind() != Slip && t.Fastest > most {
		if t.Slowest > most {
			return Tempo{}, false
		}
		t.Fastest = most
		if a, err := r.Solve(most, m); err == nil && a.Feasible {
			t.FastestLaunch = a.Launch
		}
	}
	return t, true
}

// soft and hard answer for the softest and the hardest that this striker does.
func (s Striker) soft(r Rig, m Meeting) (TempoAnswer, error) {
	if b, ok := r.(SlipBag); ok {
		return b.Struck(math.Min(math.Max(s.Swing, 1e-3*b.Drop()), b.Drop()*math.Sin(swingLimit)), m)
	}
	return r.AtFist(s.Softest, m)
}

func (s Striker) hard(r Rig, m Meeting) (TempoAnswer, error) {
	if b, ok := r.(SlipBag); ok {
		return b.Struck(b.Drop()*math.Sin(swingLimit), m)
	}
	return r.AtFist(s.Hardest, m)
}

// Ranges are the ranges of the counts 1 to 5 that are within this striker's reach. Where one swing tells of all
// counts, they are what Range gives within a thousandth.
func (s Striker) Ranges(r Rig, angle float64) []Tempo {
	const counts = 5
	if quick, ok := r.(interface {
		ranges(s Striker, n int) ([]Tempo, error)
	}); ok {
		if table, err := quick.ranges(s, counts); err == nil {
			return slices.DeleteFunc(table, func(t Tempo) bool { return t == Tempo{} })
		}
	}
	table := make([]Tempo, 0, counts)
	for n := 1; n <= counts; n++ {
		if t, ok := s.Range(r, Meeting{Rebounds: n, Angle: angle}); ok {
			table = append(table, t)
		}
	}
	return table
}

// Reach answers from a wanted tempo (strikes a minute) to the strike that gives it, or, where the bag or the striker
// does not allow it, to what to change. Its limits are then the striker's, where there are any at this count. Each
// change that is offered, a measure together with those of the same kind, has been tried: with it this striker
// reaches the tempo, and the bag can hang there.
func Reach(r Rig, tempo float64, m Meeting, s Striker) (TempoAnswer, error) {
	a, err := r.Solve(tempo, m)
	if err != nil {
		return a, err
	}
	if s.Can(r.Kind(), a) {
		return a, nil
	}
	m.Face = a.Limits.Face
	limits, exists := s.Range(r, m)
	if exists {
		a.Limits = limits
	}
	if r.Kind() == Hanging && exists && s.Softest > 0 && tempo >= limits.Slowest*(1-sluggish) &&
		tempo <= limits.Fastest*(1+sluggish) {
		return s.near(r, tempo, m, limits)
	}
	out := TempoAnswer{Tempo: tempo, Limits: a.Limits, ByBag: a.Feasible}
	out.Change = append(out.Change, s.otherCount(r, tempo, m)...)
	for _, p := range parts(r) {
		if c, ok := s.tuned(r, p, tempo, m); ok {
			out.Change = append(out.Change, c...)
		}
	}
	if exists {
		if c, ok := s.nearest(r, tempo, m, limits); ok {
			out.Change = append(out.Change, c)
		}
	}
	return out, nil
}

// sluggish is the share by which a tempo may lie off the narrow range of a heavy bag and still be kept: the bag is met
// all the way in, a quarter of its period. Assumed, and far less than that.
const sluggish = 0.02

// near answers with the strike whose tempo lies nearest.
func (s Striker) near(r Rig, tempo float64, m Meeting, l Tempo) (TempoAnswer, error) {
	launch := l.SlowestLaunch
	if tempo > (l.Slowest+l.Fastest)/2 {
		launch = l.FastestLaunch
	}
	if tempo >= l.Slowest && tempo <= l.Fastest {
		launch = (l.SlowestLaunch + l.FastestLaunch) / 2
	}
	a, err := r.Struck(launch, m)
	a.Tempo = tempo
	return a, err
}

// Softer is the answer to a launch that no hand of this striker's gives: the hardest that one does.
func (s Striker) Softer(r Rig, m Meeting, a TempoAnswer) TempoAnswer {
	out := TempoAnswer{Tempo: a.Tempo, Limits: a.Limits, ByBag: true}
	if l, ok := s.Range(r, m); ok {
		out.Limits = l
		out.Change = []Change{{"launch", math.Max(l.SlowestLaunch, l.FastestLaunch),
			"the hardest that a hand strikes it"}}
	}
	return out
}

// ReachBy is Reach for a tempo that is solved in a way of its own, such as that of a double punch: only another tempo
// is offered.
func ReachBy(solve func(tempo float64) (TempoAnswer, error), tempo float64, s Striker) (TempoAnswer, error) {
	a, err := solve(tempo)
	if err != nil {
		return a, err
	}
	limits, exists := s.rangeBy(solve, a.Limits)
	if exists {
		a.Limits = limits
	}
	if s.Can(Speed, a) {
		return a, nil
	}
	out := TempoAnswer{Tempo: tempo, Limits: a.Limits, ByBag: a.Feasible}
	if !exists {
		return out, nil
	}
	to, reason := whole(tempo, limits)
	if a, err := solve(to); err == nil && s.Can(Speed, a) {
		out.Change = []Change{{"tempo", to, reason}}
	}
	return out, nil
}

// rangeBy is Range for a tempo that is solved in a way of its own, between the limits of the bag. Harder is sooner:
// what is too hard or too quick is the quick end of the range, what is too soft the slow one.
func (s Striker) rangeBy(solve func(tempo float64) (TempoAnswer, error), l Tempo) (Tempo, bool) {
	low, high := l.Slowest*(1+1e-9), math.Min(l.Fastest*(1-1e-9), 60/s.Interval)
	at := func(limit float64) func(float64) float64 {
		return func(v float64) float64 {
			a, err := solve(v)
			if err != nil || !a.Feasible {
				return math.NaN()
			}
			return a.FistSpeed - limit
		}
	}
	if low > high || !(at(s.Hardest)(low) <= 0) || !(at(s.Softest)(high) >= 0) {
		return l, false
	}
	if v, err := motion.Root(at(s.Hardest), low, high, 1e-6); err == nil {
		high = v
	}
	if v, err := motion.Root(at(s.Softest), low, high, 1e-6); err == nil {
		low = v
	}
	slow, slowErr := solve(low)
	fast, fastErr := solve(high)
	l.Slowest, l.SlowestLaunch, l.Fastest, l.FastestLaunch = low, slow.Launch, high, fast.Launch
	return l, slowErr == nil && fastErr == nil
}

// otherCount offers the nearest other count at which the tempo is within reach. On a speed bag parity stays.
func (s Striker) otherCount(r Rig, tempo float64, m Meeting) []Change {
	step, most := 1, 5
	if r.Kind() == Speed {
		step, most = 2, mostOffered
	}
	var counts []int
	for n := 1; n <= most; n++ {
		if n != m.Rebounds && abs(n-m.Rebounds)%step == 0 {
			counts = append(counts, n)
		}
	}
	slices.SortStableFunc(counts, func(a, b int) int { return abs(a-m.Rebounds) - abs(b-m.Rebounds) })
	for _, n := range counts {
		other := m
		other.Rebounds = n
		if a, err := r.Solve(tempo, other); err == nil && s.Can(r.Kind(), a) {
			return []Change{{"rebounds", float64(n),
				fmt.Sprintf("with %d %s this bag allows it", n, plural(n, comeBack(r.Kind())))}}
		}
	}
	return nil
}

// comeBack returns the word for one return of a kind of bag: rebound, pass or return.
func comeBack(k Kind) string {
	switch k {
	case Speed:
		return "rebound"
	case Slip:
		return "pass"
	}
	return "return"
}

// nearest offers the whole tempo within a range that lies nearest.
func (s Striker) nearest(r Rig, tempo float64, m Meeting, l Tempo) (Change, bool) {
	to, reason := whole(tempo, l)
	return Change{"tempo", to, reason}, s.reaches(r, to, m)
}

// whole is the tempo within a range that lies nearest, with as few decimals as there is one, and why. A heavy bag's
// range is often narrower than 1 a minute.
func whole(tempo float64, l Tempo) (to float64, reason string) {
	reason = "the slowest within reach with this count"
	quick := tempo > l.Slowest
	if quick {
		reason = "the quickest within reach with this count"
	}
	for unit := 1.0; unit <= 1e4; unit *= 10 {
		if to = math.Ceil(l.Slowest*unit) / unit; quick {
			to = math.Floor(l.Fastest*unit) / unit
		}
		if to >= l.Slowest && to <= l.Fastest {
			return to, reason
		}
	}
	return (l.Slowest + l.Fastest) / 2, reason
}
