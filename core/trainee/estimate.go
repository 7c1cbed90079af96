package trainee

import (
	"math"
	"time"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
)

// Figure names one figure of an ability.
type Figure string

// The figures that are found out about somebody.
const (
	Timing    Figure = "timing"    // share of the interval
	Motor     Figure = "motor"     // s
	Alternate Figure = "alternate" // s
	SameHand  Figure = "sameHand"  // s
	FistSpeed Figure = "fistSpeed" // m/s
	Bias      Figure = "bias"      // s, late positive
	Sound     Figure = "sound"     // s
	Sight     Figure = "sight"     // s
	Miss      Figure = "miss"      // share of strikes
	Force     Figure = "force"     // spread of the launch as a share
)

// Figures lists them in the order in which they are shown.
var Figures = []Figure{Timing, Motor, Bias, Alternate, SameHand, Sound, Sight, FistSpeed, Force, Miss}

// Origin says where a figure comes from.
type Origin string

// The origins. A stated one was said by the coach.
const (
	Assumed Origin = "assumed" // by the band of skill
	Stated  Origin = "stated"
	Tested  Origin = "tested"
	Rounds  Origin = "rounds"
)

// Values lists them.
func (Origin) Values() []Origin { return []Origin{Assumed, Stated, Tested, Rounds} }

// Evidence is one piece of evidence about what somebody can do. Kept for good: an estimate is worked out from all of
// it.
type Evidence struct {
	Figure Figure
	Bag    rig.Kind // that it was found on; "" where no bag was struck
	Value  float64
	Spread float64 // standard error of Value
	Origin Origin
	Floor  bool // the figure is no smaller than this: fingers are not fists
	At     time.Time
	Note   string // what it was found by, in words
}

// figureLimits are the values of each figure that can be believed.
var figureLimits = map[Figure]input.Limits{
	Timing: {Min: 0.005, Max: 0.5}, Motor: {Min: 0.001, Max: 0.1, Unit: "s"}, Alternate: {Min: 0.05, Max: 1, Unit: "s"},
	SameHand: {Min: 0.08, Max: 1.5, Unit: "s"}, FistSpeed: {Min: 1, Max: 15, Unit: "m/s"},
	Bias:  {Min: -0.3, Max: 0.3, Unit: "s"},
	Sound: {Min: 0.08, Max: 0.6, Unit: "s"}, Sight: {Min: 0.1, Max: 0.7, Unit: "s"}, Miss: {Min: 0, Max: 0.9},
	Force: {Min: 0.002, Max: 0.5},
}

// Check refuses what cannot be believed, by field.
func (e Evidence) Check() error {
	l, ok := figureLimits[e.Figure]
	if !ok {
		return input.Refuse("figure", "not a figure that is known here")
	}
	if err := l.Check("value", e.Value); err != nil {
		return err
	}
	return input.Limits{Max: l.Max, Unit: l.Unit}.Check("spread", e.Spread)
}

// Tells is for how long what a round showed is looked at. By then it weighs a twentieth of what is fresh.
const Tells = 2 * 365 * 24 * time.Hour

// Estimate is a figure as it stands.
type Estimate struct {
	Figure Figure
	Value  float64
	Spread float64 // standard error
	Origin Origin  // of what weighs most
	Weight float64 // share of that origin, 0 to 1
	Found  int     // pieces of evidence that went in
}

// How far evidence is trusted, all assumed.
const (
	priorSpread = 0.30    // a band's figure is good within a third
	priorBias   = 0.015   // s
	priorMiss   = 0.03    // share of strikes
	driftSpread = 0.15    // by which a figure may have moved
	driftTime   = 90 * 24 // h, in this time
	otherBag    = 0.20    // what was found on another bag
	leastSpread = 0.03    // no evidence counts as better than this
	overTapped  = 1.5     // a bag's figure is no smaller than so many times that of tapping fingers
)

// scale of a figure: positive ones are weighed by their logarithms, where a spread is a share; the others as they are.
func (f Figure) linear() bool { return f == Bias || f == Miss }

func (f Figure) prior(a Ability) (value, spread float64) {
	switch f {
	case Bias:
		return a.Bias, priorBias
	case Miss:
		return a.Miss, priorMiss
	}
	return *a.figure(f), priorSpread
}

// spreadOf turns a spread on the figure's scale into one in its unit.
func spreadOf(f Figure, spread, value float64) float64 {
	if f.linear() {
		return spread
	}
	return spread * value
}

// figure returns the field of an ability that holds a figure.
func (a *Ability) figure(f Figure) *float64 {
	switch f {
	case Timing:
		return &a.Timing
	case Motor:
		return &a.Motor
	case Alternate:
		return &a.Alternate
	case SameHand:
		return &a.SameHand
	case FistSpeed:
		return &a.FistSpeed
	case Bias:
		return &a.Bias
	case Sound:
		return &a.Sound
	case Sight:
		return &a.Sight
	case Force:
		return &a.Force
	}
	return &a.Miss
}

// Get reads a figure of an ability, Set writes it.
func (a *Ability) Get(f Figure) float64 { return *a.figure(f) }

// Set writes a figure.
func (a *Ability) Set(f Figure, v float64) { *a.figure(f) = v }

// Limits returns the values of a figure that can be believed.
func (f Figure) Limits() input.Limits { return figureLimits[f] }

// perBag says whether a figure is another one on each bag.
func (f Figure) perBag() bool { return f == Timing || f == Bias || f == Miss }

// Estimates works out what somebody can do on a bag ("" on none in particular) from all that was found out: the band's
// figures and each piece of evidence weigh by one over their variance, evidence the less the older it is and where it
// was made on another bag. What only bounds a figure from below then lifts it.
func Estimates(b Band, bag rig.Kind, found []Evidence, now time.Time) (Ability, []Estimate) {
	a := Start(b)
	list := make([]Estimate, 0, len(Figures))
	for _, f := range Figures {
		e := estimate(f, a, bag, found, now)
		*a.figure(f) = e.Value
		list = append(list, e)
	}
	return a, list
}

// Known estimates the ability of somebody of a band, with a weaker side or "", on a kind of bag, from all the evidence.
func Known(b Band, weak combo.Hand, bag rig.Kind, found []Evidence, now time.Time) Ability {
	a, _ := Estimates(b, bag, found, now)
	a.Weak = weak
	return a
}

func estimate(f Figure, a Ability, bag rig.Kind, found []Evidence, now time.Time) Estimate {
	value, spread := f.prior(a)
	if !f.linear() {
		value = math.Log(value)
	}
	weights := map[Origin]float64{Assumed: 1 / (spread * spread)}
	sum, floor, n := value*weights[Assumed], math.Inf(-1), 0
	total := weights[Assumed]
	for _, e := range found {
		if e.Figure != f || f == Bias && e.Bag != bag || e.Origin == Rounds && now.Sub(e.At) > Tells {
			continue
		}
		if e.Floor {
			floor = math.Max(floor, overTapped*e.Value)
			continue
		}
		v, s := e.Value, e.Spread
		if !f.linear() {
			v, s = math.Log(e.Value), math.Max(leastSpread, e.Spread/e.Value)
		} else {
			s = math.Max(s, leastSpread*spread)
		}
		unit := 1.0 // what a share of the drift and of another bag is, on this scale
		if f.linear() {
			unit = spread / priorSpread
		}
		age := math.Max(0, now.Sub(e.At).Hours()) / driftTime
		variance := s*s + age*driftSpread*driftSpread*unit*unit
		if f.perBag() && e.Bag != bag {
			variance += otherBag * otherBag * unit * unit
		}
		w := 1 / variance
		weights[e.Origin] += w
		total += w
		sum += v * w
		n++
	}
	if n == 0 && math.IsInf(floor, -1) {
		return Estimate{Figure: f, Value: *a.figure(f), Spread: spreadOf(f, spread, *a.figure(f)), Origin: Assumed,
			Weight: 1}
	}
	out := Estimate{Figure: f, Value: sum / total, Spread: 1 / math.Sqrt(total), Found: n}
	if !f.linear() {
		out.Value = math.Exp(out.Value)
	}
	out.Spread = spreadOf(f, out.Spread, out.Value)
	for _, o := range []Origin{Assumed, Stated, Tested, Rounds} {
		if w := weights[o] / total; w > out.Weight {
			out.Origin, out.Weight = o, w
		}
	}
	if floor > out.Value {
		out.Value, out.Origin, out.Weight, out.Found = floor, Tested, 1, n+1
	}
	return out
}

// Heard holds the figures of a person that a judged round gives.
type Heard struct {
	Bag     rig.Kind
	At      time.Time
	Spread  float64 // s of the errors
	Age     float64 // s, mean age of the cues
	Matched int
	Planned int
	Missed  int
	Bias    float64 // s
	Force   float64 // scatter of the launch as a share; NaN where it was not known
	Known   bool    // the latency of the taps was known, so that the bias is the person's own
}

// handShare is the most of a round's spread that is put down to the hand. Assumed.
const handShare = 0.7

// leastMatched strikes are needed before a round tells anything. Assumed.
const leastMatched = 20

// FromRound gives the evidence of a judged round: the timing fraction from the spread, less the hand's own part; the
// bias, where it is the person's; the share missed. A round of under 20 matched strikes tells nothing.
func FromRound(h Heard, a Ability) []Evidence {
	if h.Matched < leastMatched || !(h.Age > 0) || !(h.Spread > 0) {
		return nil
	}
	n := float64(h.Matched)
	var list []Evidence
	// Var(spread) of a sample is spread²/2(n−1); the share w follows from spread² = motor² + (w·age)². A spread that
	// leaves nothing for the clock says that the hand is steadier than was thought.
	hand := math.Min(a.Motor, handShare*h.Spread)
	w := math.Sqrt(h.Spread*h.Spread-hand*hand) / h.Age
	se := h.Spread / math.Sqrt(2*(n-1)) * h.Spread / (w * h.Age * h.Age)
	list = append(list, Evidence{Figure: Timing, Value: w, Spread: se})
	if hand < a.Motor {
		list = append(list, Evidence{Figure: Motor, Value: hand, Spread: priorSpread * hand})
	}
	if h.Known {
		list = append(list, Evidence{Figure: Bias, Value: h.Bias, Spread: h.Spread / math.Sqrt(n)})
	}
	if h.Force > 0 { // not NaN
		list = append(list, Evidence{Figure: Force, Value: h.Force, Spread: h.Force / math.Sqrt(2*n)})
	}
	p := (float64(h.Missed) + 0.5) / (float64(h.Planned) + 1) // Jeffreys
	list = append(list, Evidence{Figure: Miss, Value: p, Spread: math.Sqrt(p * (1 - p) / float64(h.Planned+1))})
	for i := range list {
		list[i].Bag, list[i].Origin, list[i].At = h.Bag, Rounds, h.At
		l := figureLimits[list[i].Figure]
		list[i].Value = math.Min(math.Max(list[i].Value, l.Min), l.Max)
		list[i].Spread = math.Min(list[i].Spread, l.Max)
	}
	return list
}
