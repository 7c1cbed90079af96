package drill

import (
	"math"
	"math/rand/v2"
	"slices"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/trainee"
)

// Cues are unforeseeable calls on top of a drill: a defence to do at once, and the counter after it (common practice: never
// after the same punch each time, never at even gaps; then counters, none to three, fixed or free).
type Cues struct {
	Moves    []string `json:"moves"`              // defences in the notation, such as "roll lead", "slip rear", "duck"
	Least    float64  `json:"least"`              // s, least gap
	Mean     float64  `json:"mean"`               // s, mean gap
	Counters []string `json:"counters,omitempty"` // lines of up to three strikes; one of them follows each cue; none free
}

var cueLimits = struct{ least, mean input.Limits }{
	least: input.Limits{Min: 0.5, Max: 60, Unit: "s"},
	mean:  input.Limits{Min: 1, Max: 120, Unit: "s"},
}

func readCues(o *input.Object) (Cues, error) {
	c := Cues{
		Moves: o.Texts("moves", 8, 40), Least: o.NumberOr("least", cueLimits.least, 3), Mean: o.NumberOr("mean", cueLimits.mean, 7),
	}
	if o.Has("counters") {
		c.Counters = o.Texts("counters", 8, 100)
	}
	return c, o.Done()
}

// Check refuses cues that are none, by field.
func (c Cues) Check() error {
	if len(c.Moves) == 0 {
		return input.Refuse("moves", "expected a defence to call, such as \"roll lead\"")
	}
	for _, text := range c.Moves {
		line, err := combo.Parse(text)
		if err != nil {
			return input.Refuse("moves", "%q: %v", text, err)
		}
		if moves := line.Moves(combo.Orthodox); len(moves) != 1 || moves[0].Kind() != combo.Defence {
			return input.Refuse("moves", "expected single defences, and %q is none", text)
		}
	}
	for _, text := range c.Counters {
		line, err := combo.Parse(text)
		if err != nil {
			return input.Refuse("counters", "%q: %v", text, err)
		}
		if moves := line.Moves(combo.Orthodox); len(moves) > 3 || combo.Balanced(moves).Strikes != len(moves) {
			return input.Refuse("counters", "expected up to three strikes, and not %q", text)
		}
	}
	if err := cueLimits.least.Check("least", c.Least); err != nil {
		return err
	}
	if c.Mean <= c.Least {
		return input.Refuse("mean", "expected more than the least gap of %g s, not %g: the gaps would be even", c.Least, c.Mean)
	}
	return cueLimits.mean.Check("mean", c.Mean)
}

// Cue is one call: the move, the counter after it ("" free), and by when the answer is to be under way.
type Cue struct {
	At      float64 // s
	Move    combo.Move
	Counter string
	Lead    float64 // s from the cue until the head has to be off the line
}

// Draw gives the cues from one moment to another (s), by a seed: the same seed the same cues. The gaps are the least one and a
// random wait of a memoryless kind, so that nothing tells when the next one comes; one never falls while the last one's answer
// is still under way, and the same move never comes twice running where there is a choice.
func (c Cues) Draw(seed uint64, from, to float64) []Cue {
	r := rand.New(rand.NewPCG(seed, 0x63756573))
	var moves []combo.Move
	for _, text := range c.Moves {
		if line, err := combo.Parse(text); err == nil {
			if m := line.Moves(combo.Orthodox)[0].Move; !slices.Contains(moves, m) {
				moves = append(moves, m)
			}
		}
	}
	if len(moves) == 0 {
		return nil
	}
	var list []Cue
	last := -1
	at := from
	for {
		gap := c.Least + r.ExpFloat64()*(c.Mean-c.Least)
		if last >= 0 {
			gap = math.Max(gap, trainee.SoundReaction+trainee.TimesOf(moves[last]).Whole)
		}
		if at += gap; at >= to {
			return list
		}
		next := r.IntN(len(moves))
		if len(moves) > 1 && next == last {
			next = (last + 1 + r.IntN(len(moves)-1)) % len(moves)
		}
		cue := Cue{At: at, Move: moves[next], Lead: trainee.SoundReaction + trainee.PerBit*math.Log2(float64(len(moves))) + trainee.TimesOf(moves[next]).Off}
		if len(c.Counters) > 0 {
			cue.Counter = c.Counters[r.IntN(len(c.Counters))]
		}
		list = append(list, cue)
		last = next
	}
}
