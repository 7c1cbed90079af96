package level

import (
	"fmt"
	"math"
	"slices"

	"melodromos/core/drill"
	"melodromos/core/trainee"
)

// Standing says where a predicted clean share lies.
type Standing string

// The band to train in is from 70 to 90 % clean; about 85 % is where learning is fastest in simple tasks (Wilson et
// al., Nature Communications 2019).
const (
	TooHard Standing = "tooHard"
	Fits    Standing = "fits"
	TooEasy Standing = "tooEasy"
)

// Values lists them.
func (Standing) Values() []Standing { return []Standing{TooHard, Fits, TooEasy} }

const lowBand, highBand = 0.70, 0.90

// Told says which measurements the source of the hits gives, and how often the drill was done before.
type Told struct {
	// of each strike: else, on the bag's clock, a steady lateness looks like a softer strike and is not scored
	Force   bool
	Latency bool // of the device: else, on the beat's, a steady offset is taken off before judging
	Rounds  int  // judged rounds of this drill so far
}

// Fit tells how well a drill suits somebody.
type Fit struct {
	// share of the strikes that meet the bag, predicted; where there are none, of the moves against a slip bag
	Clean float64
	// share that will be counted clean: where only times come in, the scatter of the force shows as one of timing
	Counted       float64
	Slips         float64 // share of the slips of a slip bag that are in time; NaN where there are none
	Answers       float64 // share of the unforeseen cues that are answered in time; NaN where there are none
	Streak        float64 // mean streak of clean strikes
	LongestStreak float64 // the longest streak to expect
	Strikes       int
	Weakest       Link
	Made          string // what the prediction is made of, in a sentence

	byForce bool // the force of the strikes is told
}

// Least is the share of what goes least well: the strikes, the slips, or the answers to cues.
func (f Fit) Least() float64 {
	least := f.Clean
	for _, share := range []float64{f.Slips, f.Answers} {
		if share < least { // false for NaN
			least = share
		}
	}
	return least
}

// Standing of the fit: by what goes least well.
func (f Fit) Standing() Standing {
	least := f.Least()
	switch {
	case least < lowBand:
		return TooHard
	case least > highBand:
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
	ByMemory Cause = "memory" // more than can be held in mind
	ByCue    Cause = "cue"    // an unforeseen cue comes too soon
)

// Link is the strike of a pattern that is clean least often, and why.
type Link struct {
	Strike Task
	Clean  float64
	Cause  Cause
	Why    string
}

// For predicts how a plan that has been laid out suits whoever stands on the floor, on the clock that the timeline goes
// by.
func For(p drill.Plan, t drill.Timeline, on drill.Floor, told Told) Fit {
	kind, a := on.Bag.Kind(), on.Ability
	strikes := Strikes(t, p.ReachTime(kind), SensesFor(p, a))
	f := Fit{Strikes: len(strikes), Clean: 1, Counted: 1, Slips: math.NaN(), Answers: answered(p, a)}
	if len(strikes) == 0 {
		return f
	}
	r := newReckoner(p, t, on, told, strikes)
	if struck := slices.DeleteFunc(slices.Clone(strikes),
		func(s Task) bool { return s.Slip }); len(struck) < len(strikes) {
		sum := 0.0
		for _, s := range strikes {
			if s.Slip {
				sum += r.slip(s)
			}
		}
		f.Slips = sum / float64(len(strikes)-len(struck))
		if len(struck) > 0 {
			strikes = struck
		} else {
			f.Clean, f.Counted = f.Slips, f.Slips
		}
	}
	type group struct {
		sum, n float64
		worst  Task
		chance
	}
	groups := map[[2]int]*group{}
	met, counted, missed, forgotten := 0.0, 0.0, 0.0, 0.0
	for _, s := range strikes {
		if on.Stopped() != nil {
			return f
		}
		c := r.chance(s)
		missed += c.missed
		forgotten += c.forgotten
		met += c.met
		counted += c.counted
		key := [2]int{s.Move, s.Place}
		g := groups[key]
		if g == nil {
			g = &group{worst: s, chance: c}
			groups[key] = g
		}
		if c.met < g.met && !math.IsInf(s.Gap, 1) {
			g.worst, g.chance = s, c
		}
		g.sum += c.met
		g.n++
	}
	n := float64(len(strikes))
	f.Strikes, f.Clean, f.Counted = len(strikes), met/n, counted/n
	f.byForce = told.Force
	f.Made = made(f.Clean, missed/n, forgotten/n)
	shown := f.Counted
	if told.Force {
		shown = f.Clean
	}
	f.Streak, f.LongestStreak = Streak(shown, len(strikes)), LongestStreak(shown, len(strikes))
	f.Weakest.Clean = 2
	for i := range strikes { // in their order, so that the first of equals is named
		g := groups[[2]int{strikes[i].Move, strikes[i].Place}]
		if mean := g.sum / g.n; mean < f.Weakest.Clean-1e-12 {
			f.Weakest = g.worst.link(mean, g.chance, a)
		}
	}
	if f.Answers < f.Weakest.Clean {
		f.Weakest.Clean, f.Weakest.Cause = f.Answers, ByCue
		f.Weakest.Why = fmt.Sprintf("cues: %.0f %% of the random ones are answered in time", 100*f.Answers)
	}
	return f
}

// made says what a prediction is made of.
func made(clean, missed, forgotten float64) string {
	text := fmt.Sprintf("Of 100 strikes %.0f are missed outright", 100*missed)
	if forgotten > 0.005 {
		text += fmt.Sprintf(", %.0f are forgotten", 100*forgotten)
	}
	if off := 100 * ((1-missed)*(1-forgotten) - clean); off >= 0.5 {
		text += fmt.Sprintf(", %.0f fall outside their window", off)
	}
	return text + "."
}

func (s Task) link(mean float64, c chance, a trainee.Ability) Link {
	l := Link{Strike: s, Clean: mean, Cause: ByTiming}
	switch {
	case c.short > c.spread/2:
		l.Cause = ByHands
		l.Why = fmt.Sprintf("hands: %.2f s to %s, these hands take %.2f s", s.ask(), s.Words(),
			a.Interval(s.Before, s.Hand))
	case c.forgotten > math.Max(a.Miss, 1-within(s.Window, c.spread, 0)):
		l.Cause = ByMemory
		l.Why = fmt.Sprintf("memory: %s is forgotten in %.0f %% of the reps", s.Words(), 100*c.forgotten)
	case s.Window > 0 && within(s.Window, c.spread, a.Bias) > 1-a.Miss:
		l.Cause = ByMiss
		l.Why = fmt.Sprintf("%s: %.0f %% are missed outright", s.Words(), 100*a.Miss)
	default:
		l.Why = fmt.Sprintf("timing: %s has a window of %.0f ms, and two hits in three fall within %.0f ms",
			s.Words(), 1000*s.Window, 1000*c.spread)
	}
	return l
}

// Streak is the mean streak of clean strikes in n, of which each is clean with probability p; capped at their number.
func Streak(p float64, n int) float64 {
	if p >= 1 {
		return float64(n)
	}
	return math.Min(float64(n), p/(1-p))
}

// LongestStreak is the longest streak to expect in n strikes of which each is clean with probability p: the sum over k
// of the probability of a streak of k or more, by the recursion
// P(none of k in n) = P(none in n−1) − (1−p)·p^k·P(none in n−1−k)
// (Feller, An Introduction to Probability Theory I, XIII.7).
func LongestStreak(p float64, n int) float64 {
	switch {
	case p >= 1:
		return float64(n)
	case p <= 0:
		return 0
	}
	sum := 0.0
	none := make([]float64, n+1)
	for i := range none {
		none[i] = 1
	}
	for k := 1; k <= n; k++ {
		pk := math.Pow(p, float64(k))
		// where two such runs do not fit in: one begins the round, or follows a miss
		share := pk * (1 + float64(n-k)*(1-p))
		if 2*k < n {
			none[k-1], none[k] = 1, 1-pk
			for m := k + 1; m <= n; m++ {
				none[m] = none[m-1] - (1-p)*pk*none[m-1-k]
			}
			share = 1 - none[n]
		}
		sum += share
		if share < 1e-4 {
			break
		}
	}
	return sum
}

// Differs names the strike at which two people differ most on a drill, and by what: their timing, their hands, or what
// they miss. The link's Clean is by how much the first of them is clean more often.
func Differs(p drill.Plan, t drill.Timeline, on drill.Floor, b trainee.Ability) Link {
	a := on.Ability
	a.Bias, b.Bias = 0, 0
	one, two := reckon(p, t, on, a), reckon(p, t, on, b)
	var l Link
	at := -1
	for i := range one {
		if d := one[i].met - two[i].met; at < 0 || math.Abs(d) > math.Abs(l.Clean)+1e-12 {
			at, l.Strike, l.Clean = i, one[i].of, d
		}
	}
	if at < 0 {
		return l
	}
	most := -1.0
	for _, cause := range []Cause{ByHands, ByMiss, ByTiming} { // of equals always the same one
		d := math.Abs(one[at].met - reckon(p, t, on, withPart(a, b, cause))[at].met)
		if d > most+1e-12 {
			most, l.Cause = d, cause
		}
	}
	switch l.Cause {
	case ByHands:
		l.Why = fmt.Sprintf("hands: %.2f s to %s, for which one takes %.2f s and the other %.2f s", l.Strike.ask(),
			l.Strike.Words(), a.Interval(l.Strike.Before, l.Strike.Hand), b.Interval(l.Strike.Before, l.Strike.Hand))
	case ByMiss:
		l.Why = fmt.Sprintf("%s: one misses %.0f %% outright, the other %.0f %%", l.Strike.Words(), 100*a.Miss,
			100*b.Miss)
	default:
		l.Why = fmt.Sprintf("timing: at %s, in a window of %.0f ms, two hits in three fall within %.0f ms for one and %.0f ms for the other",
			l.Strike.Words(), 1000*l.Strike.Window, 1000*one[at].spread, 1000*two[at].spread)
	}
	return l
}

// withPart is an ability with one part of another's.
func withPart(a, b trainee.Ability, part Cause) trainee.Ability {
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
