package level

import (
	"fmt"
	"math"
	"slices"

	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Standing says where a predicted clean share lies.
type Standing string

// The band to train in is from 70 to 90 % clean; about 85 % is where learning is fastest in simple tasks (Wilson et al., Nature
// Communications 2019).
const (
	TooHard Standing = "tooHard"
	Fits    Standing = "fits"
	TooEasy Standing = "tooEasy"
)

const lowBand, highBand = 0.70, 0.90

// Fit is how a drill suits somebody.
type Fit struct {
	Clean   float64 // share of the strikes, predicted; where there are none, of the moves against a slip bag
	Slips   float64 // share of the moves against the passes of a slip bag that are in time; NaN where there are none
	Run     float64 // mean run of clean strikes
	Longest float64 // the longest run to expect
	Strikes int
	Weakest Link
}

// Standing of the fit.
func (f Fit) Standing() Standing {
	switch {
	case f.Clean < lowBand:
		return TooHard
	case f.Clean > highBand:
		return TooEasy
	}
	return Fits
}

// Cause of a weak link.
type Cause string

// The causes.
const (
	ByHands  Cause = "hands"  // the interval is shorter than these hands take
	ByTiming Cause = "timing" // the window is narrow for this evenness
	ByMiss   Cause = "miss"   // missed outright
)

// Link is the strike of a pattern that is clean least often, and why.
type Link struct {
	Strike Strike
	Clean  float64
	Cause  Cause
	Why    string
}

// chance is how one strike goes for somebody.
type chance struct {
	clean, spread, short float64
}

// For predicts how a plan that has been laid out suits somebody. With keepBias the person's own lateness counts, as it does where
// the latency of the taps is known; else a steady offset is taken off before judging.
func For(p drill.Plan, t drill.Timeline, kind rig.Kind, a trainee.Ability, keepBias bool) Fit {
	strikes := Strikes(t, p.Way(kind), p.ByEar(), Senses{a.Sound, a.Sight})
	f := Fit{Strikes: len(strikes), Clean: 1, Slips: math.NaN()}
	if len(strikes) == 0 {
		return f
	}
	if !keepBias {
		a.Bias = 0
	}
	start := t.Start.Seconds()
	if struck := slices.DeleteFunc(slices.Clone(strikes), func(s Strike) bool { return s.Slip }); len(struck) < len(strikes) {
		sum := 0.0
		for _, s := range strikes {
			if s.Slip {
				sum += chanceOf(s, a, a.Tired(s.At-start)).clean
			}
		}
		f.Slips = sum / float64(len(strikes)-len(struck))
		if len(struck) > 0 {
			strikes = struck
		}
	}
	type group struct {
		sum, n float64
		worst  Strike
		chance
	}
	groups := map[[2]int]*group{}
	sum := 0.0
	for _, s := range strikes {
		c := chanceOf(s, a, a.Tired(s.At-start))
		sum += c.clean
		key := [2]int{s.Move, s.Place}
		g := groups[key]
		if g == nil {
			g = &group{worst: s, chance: c}
			groups[key] = g
		}
		if c.clean < g.clean && !math.IsInf(s.Gap, 1) {
			g.worst, g.chance = s, c
		}
		g.sum += c.clean
		g.n++
	}
	f.Strikes, f.Clean = len(strikes), sum/float64(len(strikes))
	f.Run = run(f.Clean, len(strikes))
	f.Longest = Longest(f.Clean, len(strikes))
	f.Weakest.Clean = 2
	for i := range strikes { // in their order, so that the first of equals is named
		g := groups[[2]int{strikes[i].Move, strikes[i].Place}]
		if mean := g.sum / g.n; mean < f.Weakest.Clean-1e-12 {
			f.Weakest = g.worst.link(mean, g.chance, a)
		}
	}
	return f
}

// chanceOf is how likely a strike is clean.
func chanceOf(s Strike, a trainee.Ability, tired float64) chance {
	c := chance{spread: a.Spread(s.Age) * tired}
	if s.Slip { // nothing is struck, and nothing missed outright
		c.clean = within(s.Window, c.spread, 0)
		return c
	}
	if s.Before != "" {
		c.short = math.Max(0, a.Interval(s.Before, s.Hand)-s.ask())
	}
	c.clean = (1 - math.Min(1, a.Miss*tired)) * within(s.Window, c.spread, a.Bias+c.short)
	return c
}

func (s Strike) link(mean float64, c chance, a trainee.Ability) Link {
	l := Link{Strike: s, Clean: mean, Cause: ByTiming}
	switch {
	case c.short > c.spread/2:
		l.Cause = ByHands
		l.Why = fmt.Sprintf("hands: %.2f s to %s, these hands take %.2f s", s.ask(), s.Words(), a.Interval(s.Before, s.Hand))
	case within(s.Window, c.spread, a.Bias) > 1-a.Miss:
		l.Cause = ByMiss
		l.Why = fmt.Sprintf("%s: %.0f %% are missed outright", s.Words(), 100*a.Miss)
	default:
		l.Why = fmt.Sprintf("timing: %s has a window of %.0f ms, and this evenness spreads by %.0f ms either way", s.Words(), 1000*s.Window, 1000*c.spread)
	}
	return l
}

// run is the mean run of clean strikes, capped at their number.
func run(p float64, n int) float64 {
	if p >= 1 {
		return float64(n)
	}
	return math.Min(float64(n), p/(1-p))
}

// Longest is the longest run to expect in n strikes of which each is clean with probability p: the sum over k of the probability
// of a run of k or more, by the recursion P(none of k in n) = P(none in n−1) − (1−p)·p^k·P(none in n−1−k) (Feller, An Introduction
// to Probability Theory I, XIII.7).
func Longest(p float64, n int) float64 {
	switch {
	case p >= 1:
		return float64(n)
	case p <= 0:
		return 0
	}
	sum := 0.0
	none := make([]float64, n+1)
	for k := 1; k <= n; k++ {
		pk := math.Pow(p, float64(k))
		for m := range none {
			switch {
			case m < k:
				none[m] = 1
			case m == k:
				none[m] = 1 - pk
			default:
				none[m] = none[m-1] - (1-p)*pk*none[m-1-k]
			}
		}
		some := 1 - none[n]
		sum += some
		if some < 1e-4 {
			break
		}
	}
	return sum
}

// Differs names the strike at which two people differ most on a drill, and by what: their timing, their hands, or what they miss. The
// link's Clean is by how much the first of them is clean more often.
func Differs(p drill.Plan, t drill.Timeline, kind rig.Kind, a, b trainee.Ability) Link {
	seen, heard := Strikes(t, p.Way(kind), p.ByEar(), Senses{a.Sound, a.Sight}), Strikes(t, p.Way(kind), p.ByEar(), Senses{b.Sound, b.Sight})
	a.Bias, b.Bias = 0, 0
	var l Link
	at := -1
	for i := range seen {
		if d := chanceOf(seen[i], a, 1).clean - chanceOf(heard[i], b, 1).clean; at < 0 || math.Abs(d) > math.Abs(l.Clean)+1e-12 {
			at, l.Strike, l.Clean = i, seen[i], d
		}
	}
	if at < 0 {
		return l
	}
	first := chanceOf(seen[at], a, 1).clean
	most := -1.0
	for cause, other := range map[Cause]trainee.Ability{ByTiming: with(a, b, ByTiming), ByHands: with(a, b, ByHands), ByMiss: with(a, b, ByMiss)} {
		s := seen[at]
		if cause == ByTiming {
			s = heard[at]
		}
		d := math.Abs(first - chanceOf(s, other, 1).clean)
		if d > most+1e-12 || d > most-1e-12 && cause < l.Cause { // of equals always the same one
			most, l.Cause = d, cause
		}
	}
	one, two := chanceOf(seen[at], a, 1), chanceOf(heard[at], b, 1)
	switch l.Cause {
	case ByHands:
		l.Why = fmt.Sprintf("hands: %.2f s to %s, for which one takes %.2f s and the other %.2f s", l.Strike.ask(), l.Strike.Words(), a.Interval(l.Strike.Before, l.Strike.Hand), b.Interval(l.Strike.Before, l.Strike.Hand))
	case ByMiss:
		l.Why = fmt.Sprintf("%s: one misses %.0f %% outright, the other %.0f %%", l.Strike.Words(), 100*a.Miss, 100*b.Miss)
	default:
		l.Why = fmt.Sprintf("timing: at %s, in a window of %.0f ms, one spreads by %.0f ms and the other by %.0f ms", l.Strike.Words(), 1000*l.Strike.Window, 1000*one.spread, 1000*two.spread)
	}
	return l
}

// with is an ability with one part of another's.
func with(a, b trainee.Ability, part Cause) trainee.Ability {
	switch part {
	case ByTiming:
		a.Timing, a.Motor, a.Sound, a.Sight = b.Timing, b.Motor, b.Sound, b.Sight
	case ByHands:
		a.Alternate, a.SameHand, a.Weak = b.Alternate, b.SameHand, b.Weak
	case ByMiss:
		a.Miss = b.Miss
	}
	return a
}
