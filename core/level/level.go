package level

import (
	"fmt"
	"math"
	"slices"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

// Demand is one of the four things a drill asks, from 1 to 10, and why it is so much.
type Demand struct {
	Value float64 `json:"value"`
	Why   string  `json:"why"`
}

// Grade is the difficulty of a drill: the largest demand plus a fifth of the mean of the others.
type Grade struct {
	Level   float64 `json:"level"` // 1 to 10, one decimal
	Timing  Demand  `json:"timing"`
	Hands   Demand  `json:"hands"`
	Pattern Demand  `json:"pattern"`
	Reading Demand  `json:"reading"`
}

// Rounded returns the grade with its demands to one decimal, as they are shown.
func (g Grade) Rounded() Grade {
	for _, d := range []*Demand{&g.Timing, &g.Hands, &g.Pattern, &g.Reading} {
		d.Value = math.Round(10*d.Value) / 10
	}
	return g
}

// The scales of the demands.
const (
	most = 10.0

	easyTiming, hardTiming = 0.16, 0.02 // share of the interval at which 80 % would be clean
	easyHands, hardHands   = 0.36, 0.12 // s, alternate hands
	easyOne, hardOne       = 0.70, 0.24 // s, one hand
	wantedClean            = 0.80       // of the strikes
	steadyHand             = 0.008      // s, the hand's own spread that a demand is reckoned with
	moveWeight, sideWeight = 1.5, 0.5   // moves to hold in mind: a defence or a step; one to the other side
	turnWeight             = 1.0        // a change of direction, or of hands
	// divided by the strikes of a set: changing hands sooner is more to hold. Assumed
	setWeight = 2.0
	holds     = 8.0      // moves
	evenWaits = 0.3      // spread of the waits as a share of their mean that cannot be foreseen
	q0, q1    = 0.3, 1.0 // shares of a cue's lead that its answer takes: easy, and no time left
	others    = 0.2      // of the mean of the other demands
)

// pace is the common one. A level is the drill's alone: where it leaves force or tempo open, it is graded as somebody
// in the middle does it.
var pace = trainee.Start(trainee.Intermediate)

// GradeOf grades a plan on the bag of a floor, whoever stands there.
func GradeOf(p drill.Plan, on drill.Floor) (Grade, error) {
	on.Ability = pace
	t, err := p.Lay(on)
	if err != nil {
		return Grade{}, err
	}
	return grade(p, t, on.Bag.Kind()), nil
}

// Graded grades a plan that has been laid out on a floor as t: anew where whoever stands there changes what it asks.
func Graded(p drill.Plan, t drill.Timeline, on drill.Floor) (Grade, error) {
	if _, ok := p.(drill.CombinationDrill); ok && on.Ability != pace {
		return GradeOf(p, on)
	}
	return grade(p, t, on.Bag.Kind()), nil
}

func grade(p drill.Plan, t drill.Timeline, kind rig.Kind) Grade {
	strikes := Strikes(t, p.ReachTime(kind), Common)
	g := Grade{Timing: timing(strikes), Hands: hands(strikes), Pattern: pattern(p), Reading: reading(p)}
	g.Level = overall(g.Timing.Value, g.Hands.Value, g.Pattern.Value, g.Reading.Value)
	return g
}

func overall(demands ...float64) float64 {
	largest, sum := 0.0, 0.0
	for _, d := range demands {
		largest = math.Max(largest, d)
		sum += d - 1
	}
	rest := (sum - (largest - 1)) / float64(len(demands)-1)
	return math.Round(10*math.Min(most, largest+others*rest)) / 10
}

// logScale puts a value between easy (1) and hard (10) on a logarithmic scale.
func logScale(v, easy, hard float64) float64 {
	if !(v > 0) {
		return most
	}
	return math.Min(most, math.Max(1, 1+9*math.Log(easy/v)/math.Log(easy/hard)))
}

// class is a row of strikes that ask the same of timing.
type class struct {
	window, age float64
	n           int
}

func classes(strikes []Task) []class {
	type key struct{ window, age int64 }
	found := map[key]int{}
	var list []class
	for _, s := range strikes {
		if s.Move < 0 {
			continue // an answer to a cue waits for no bag
		}
		k := key{int64(s.Window * 1e6), int64(s.Age * 1e6)}
		i, ok := found[k]
		if !ok {
			i = len(list)
			found[k] = i
			list = append(list, class{window: s.Window, age: s.Age})
		}
		list[i].n++
	}
	return list
}

// within is the share of a normal error of that spread and mean that falls into a window about 0.
func within(window, spread, mean float64) float64 {
	return phi((window/2-mean)/spread) - phi((-window/2-mean)/spread)
}

// phi is the distribution function of the standard normal distribution.
func phi(z float64) float64 { return 0.5 * math.Erfc(-z/math.Sqrt2) }

// timing is the largest timing fraction at which 80 % of the strikes would be clean.
func timing(strikes []Task) Demand {
	list := classes(strikes)
	if len(list) == 0 {
		return Demand{1, "no strike has to be timed"}
	}
	for _, s := range strikes {
		if s.Window <= 0 && s.Move >= 0 {
			return Demand{most, s.Words() + " cannot be done: the bag leaves no time for it"}
		}
	}
	total, narrowest := 0, list[0]
	for _, c := range list {
		total += c.n
		if c.window/c.age < narrowest.window/narrowest.age {
			narrowest = c
		}
	}
	clean := func(w float64) float64 {
		sum := 0.0
		for _, c := range list {
			sum += float64(c.n) * within(c.window, math.Hypot(steadyHand, w*c.age), 0)
		}
		return sum / float64(total)
	}
	low, high := 0.0, 1.0
	switch {
	case clean(0) < wantedClean:
		high = 0
	case clean(high) >= wantedClean:
		low = high
	}
	for range 40 {
		if mid := (low + high) / 2; clean(mid) >= wantedClean {
			low = mid
		} else {
			high = mid
		}
	}
	why := fmt.Sprintf("a window of %.0f ms, timed from a cue %.2f s before: 80 %% clean takes a timing scatter of %.1f %%",
		1000*narrowest.window, narrowest.age, 100*low)
	if low == 0 {
		why = fmt.Sprintf("a window of %.0f ms, too narrow for 80 %% clean even with the steadiest hand", 1000*narrowest.window)
	}
	return Demand{logScale(low, easyTiming, hardTiming), why}
}

// hands is the tightest interval that is asked of two hands and of one.
func hands(strikes []Task) Demand {
	struck := slices.DeleteFunc(slices.Clone(strikes), func(s Task) bool { return s.Slip })
	tightest, worst := -1, 0.0
	for i, s := range struck {
		easy, hard := easyOne, hardOne
		if s.alternate() {
			easy, hard = easyHands, hardHands
		}
		if tight := math.Log(easy/s.ask()) / math.Log(easy/hard); i > 0 && (tightest < 0 || tight > worst) {
			tightest, worst = i, tight
		}
	}
	if tightest < 0 {
		return Demand{1, "never two strikes in a row"}
	}
	s, before := struck[tightest], struck[tightest-1]
	why := fmt.Sprintf("%.2f s between %s and %s", s.ask(), before.Words(), s.Words())
	if !s.alternate() {
		why = fmt.Sprintf("%.2f s from one %s to the next", s.ask(), s.Words())
		if s.Words() != before.Words() {
			why = fmt.Sprintf("%.2f s between %s and %s, one hand", s.ask(), before.Words(), s.Words())
		}
	}
	return Demand{math.Min(most, math.Max(1, 1+9*worst)), why}
}

// pattern returns the demand on memory: the number of moves to remember, with a share for sides and turns.
func pattern(p drill.Plan) Demand {
	n, why := 1.0, "one strike, again and again"
	switch d := p.(type) {
	case drill.SpeedBagDrill:
		n, why = held(d)
	case drill.CombinationDrill:
		n, why = heldIn(d)
	}
	return Demand{1 + 9*(1-math.Exp(-(math.Max(n, 1)-1)/holds)), why}
}

// held counts what a technique holds: its strike, the change of hands, which is more the sooner it comes, and what is
// its own.
func held(d drill.SpeedBagDrill) (float64, string) {
	n, why := 1.0, d.Technique.Words()
	set := d.PerHand
	if d.Technique == drill.Alternating || d.Technique == drill.FistRoll {
		set = 1
	}
	if set > 0 {
		n += turnWeight + setWeight/float64(set)
		why += fmt.Sprintf(", hands change after %s", words.Count(set, "strike"))
	}
	if d.Scheme != drill.Steady {
		n += turnWeight
		why += ", and the number with it"
	}
	switch d.Technique {
	case drill.Linking, drill.Trap:
		n += turnWeight // there and back, or the trap
	case drill.DoublePunch:
		n++ // a second fist
	}
	return n, why
}

// heldIn counts the moves of a combination and what surprise adds.
func heldIn(c drill.CombinationDrill) (float64, string) {
	line, err := combo.Parse(c.Text)
	if err != nil {
		return 1, "nothing"
	}
	moves := line.Moves(c.Stance)
	n, turns, sides := 0.0, 0, 0
	var side, stance = combo.Side(""), moves[0].Stance
	_, again, places := combo.Fold(moves)
	struck, fresh := false, 0
	for i, m := range moves {
		if again[i] || m.Kind() == combo.Wait { // held already; or nothing to hold
			continue
		}
		fresh++
		if m.Kind() == combo.Strike {
			n, struck = n+1, true
			continue
		}
		n += moveWeight
		if s := m.Side(); s != "" {
			if side != "" && s != side {
				sides++
			}
			side = s
		}
		if m.Word == combo.Pull && struck && i+1 < len(moves) {
			turns++
		}
	}
	for _, m := range moves {
		if m.Stance != stance {
			sides++
			stance = m.Stance
		}
	}
	n += sideWeight*float64(sides) + turnWeight*float64(turns) + float64(places-fresh)
	why := words.Count(places, "move")
	if fresh < places {
		why += " in mind, what is repeated counted once"
	}
	if sides > 0 {
		why += fmt.Sprintf(", %d to the other side", sides)
	}
	if turns > 0 {
		why += ", " + words.Count(turns, "change") + " of direction"
	}
	if c.Cues != nil && c.Cues.Held() > 0 {
		n += float64(c.Cues.Held())
		why += ", and " + words.Count(c.Cues.Held(), "strike") + " of the answers"
	}
	return n, why
}

// reading returns the demand on reaction, from 1 to 10. It grows with less time to answer a cue and with less warning
// of it; a round without calls adds to it.
func reading(p drill.Plan) Demand {
	d := Demand{1, "no random cues"}
	calls := 0.0 // called throughout
	switch p := p.(type) {
	case drill.SpeedBagDrill:
		if !p.Calls {
			calls = 1
		}
	case drill.CombinationDrill:
		if p.Cues != nil {
			need, choices := p.Cues.Need(Common.Sound)
			q := need / p.Cues.LeadTime()
			c := (p.Cues.Mean - p.Cues.Least) / p.Cues.Mean // of a memoryless wait after the least gap
			d.Value = 2 + 8*clamp((q-q0)/(q1-q0))*(0.5+0.5*math.Min(1, c/evenWaits))
			d.Why = fmt.Sprintf("one of %d answers, off the line in %.2f s of the %.2f s there are", choices, need,
				p.Cues.LeadTime())
		}
		calls = map[drill.Guidance]float64{drill.Alone: 1, drill.Partly: 0.5, drill.Fading: 0.5}[p.Guidance]
	}
	if calls > 0 {
		often := "; not always called"
		if calls == 1 {
			often = "; without calls"
		}
		d.Why += often
	}
	d.Value = math.Min(most, d.Value+calls)
	return d
}

func clamp(v float64) float64 { return math.Min(1, math.Max(0, v)) }
