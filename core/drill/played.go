package drill

import (
	"math"
	"slices"

	"melodromos/core/input"
)

// Played is a rhythm that was played, and is struck as it was: at its own times, whatever the bag does meanwhile. It
// goes by the beat's clock.
type Played struct {
	Times []float64 `json:"times"` // s of each strike of a repetition from its first, which is at 0
	Every float64   `json:"every"` // s from a repetition to the next
	Beat  float64   `json:"beat"`  // quarter notes a minute in which it was written down
}

// Limits of a rhythm that was played.
const (
	MostPlayed   = 1000 // strikes of a repetition
	leastPlayed  = 0.02 // s between two strikes: quicker than any two fists. Assumed
	mostBetween  = 60.0 // s without a strike
	longestCycle = 600.0
)

// BeatLimits are the beats in which a rhythm may be written: those that a Standard MIDI File can say, as far as anybody
// would.
var BeatLimits = input.Limits{Min: 4, Max: 1000, Unit: "quarter notes a minute"}

// Check refuses times that are out of order, or not one for each of so many strikes.
func (p Played) Check(strikes int) error {
	if len(p.Times) != strikes {
		return input.Refuse("times",
			"expected a time for each of the %d strikes, not %d: the rhythm belongs to the strikes that it came with; land freely instead",
			strikes, len(p.Times))
	}
	if len(p.Times) > MostPlayed {
		return input.Refuse("times", "expected at most %d strikes in a repetition", MostPlayed)
	}
	last := 0.0
	for i, at := range p.Times {
		switch gap := at - last; {
		case math.IsNaN(at) || math.IsInf(at, 0) || i == 0 && at != 0:
			return input.Refuse("times", "expected seconds from the first strike, which is at 0")
		case i > 0 && (gap < leastPlayed || gap > mostBetween):
			return input.Refuse("times", "expected %g to %g s between two strikes, not %.3f", leastPlayed, mostBetween, gap)
		}
		last = at
	}
	if !(p.Every >= last+leastPlayed) || p.Every > longestCycle+last {
		return input.Refuse("every", "expected a repetition to begin after the one before, which takes %.2f s", last)
	}
	return BeatLimits.Check("beat", p.Beat)
}

// Every is the time (s) from a repetition to the next: of a rhythm of its own as that has it.
func (c CombinationDrill) Every(rep Repetition) float64 {
	if c.Played != nil {
		return c.Played.Every
	}
	return rep.Length + c.Pause
}

// Usual is the median time (s) from a strike to the next, within a repetition or from one to the next.
func (p Played) Usual() float64 {
	gaps := make([]float64, 0, len(p.Times))
	for i, at := range p.Times {
		if i > 0 {
			gaps = append(gaps, at-p.Times[i-1])
		}
	}
	if len(gaps) == 0 {
		return p.Every
	}
	slices.Sort(gaps)
	return gaps[len(gaps)/2]
}

// Scaled is the rhythm at so many times its speed.
func (p Played) Scaled(by float64) *Played {
	times := slices.Clone(p.Times)
	for i := range times {
		times[i] /= by
	}
	return &Played{times, p.Every / by, p.Beat * by}
}

func readPlayed(o *input.Object) (Played, error) {
	p := Played{Times: o.Numbers("times", MostPlayed), Every: o.Number("every", input.Limits{Max: 2 * longestCycle,
		Open: true, Unit: "s"}), Beat: o.NumberOr("beat", BeatLimits, 0)}
	if p.Beat == 0 && o.Done() == nil && len(p.Times) > 0 {
		p.Beat = math.Min(math.Max(60/p.Usual(), BeatLimits.Min), BeatLimits.Max)
	}
	return p, o.Done()
}
