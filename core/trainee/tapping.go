package trainee

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/input"
)

// Kind of a test in the browser.
type Test string

// The tests.
const (
	TwoHands Test = "alternate" // taps of alternate hands, as quick as they go, for 10 s
	OneHand  Test = "sameHand"  // taps of one hand
	Beat     Test = "beat"      // keep a beat after the click stops, twice
	ToLight  Test = "sight"     // tap as soon as it lights up, ten times
	ToSound  Test = "sound"     // tap as soon as it sounds, ten times
)

// Tests lists them in the order in which they are done.
var Tests = []Test{TwoHands, OneHand, Beat, ToLight, ToSound}

// Values lists them.
func (Test) Values() []Test { return Tests }

// The tests as they are run (common practice in the study of tapping, from memory).
const (
	RateTime   = 10.0 // s of a rate test
	BeatPeriod = 0.5  // s
	BeatWith   = 12   // taps with the click
	BeatAlone  = 40   // taps without
	Reactions  = 10   // signals of a reaction test
)

// least numbers of taps that a result is worked out from, and what is left out. Assumed.
const (
	leastTaps      = 12
	leastReactions = 5
	anticipated    = 0.10 // s, quicker than anybody reacts
	lapsed         = 1.00 // s, not looking
)

// TestResult is the result of a test: the evidence, and how good the test was.
type TestResult struct {
	Found []Evidence
	// Of a beat test, in s: the total, the clock's and the hand's part.
	Total, Clock, Motor float64
	Clipped             bool // one of the two parts came out negative and stands as 0
	Used, LeftOut       int  // taps or reactions
}

// Rate works out the interval of taps (s, in order) that were as quick as they go: the median, which a stumble does not
// move, and its standard error (1.2533 σ/√n of a normal sample, σ from the quartiles). Of fingers the result only
// bounds the fists'.
func Rate(t Test, taps []float64, by Means) (TestResult, error) {
	gaps, err := between(taps)
	if err != nil {
		return TestResult{}, err
	}
	figure := Alternate
	if t == OneHand {
		figure = SameHand
	}
	median := quantile(gaps, 0.5)
	sigma := (quantile(gaps, 0.75) - quantile(gaps, 0.25)) / 1.349
	se := math.Max(1.2533*sigma/math.Sqrt(float64(len(gaps))), 0.002)
	e := Evidence{Figure: figure, Value: median, Spread: se, Origin: Tested, Floor: by == Fingers}
	if err := e.Check(); err != nil {
		return TestResult{}, input.Refuse("taps", "expected taps that a hand can make, not one every %.0f ms", 1000*median)
	}
	return TestResult{Found: []Evidence{e}, Used: len(gaps)}, nil
}

// between are the intervals of taps.
func between(taps []float64) ([]float64, error) {
	if len(taps) < leastTaps {
		return nil, input.Refuse("taps", "expected at least %d taps, not %d", leastTaps, len(taps))
	}
	gaps := make([]float64, len(taps)-1)
	for i := range gaps {
		if gaps[i] = taps[i+1] - taps[i]; !(gaps[i] > 0) || math.IsInf(gaps[i], 0) {
			return nil, input.Refuse("taps", "expected each tap after the one before")
		}
	}
	return gaps, nil
}

func quantile(values []float64, p float64) float64 {
	sorted := slices.Sorted(slices.Values(values))
	return stat.Quantile(p, stat.LinInterp, sorted, nil)
}

// KeepBeat works out the clock's and the hand's part from trials of taps (s, in order) after the click stopped: with
// the slow drift of each trial taken off by a straight line, the hand's variance is minus the autocovariance of
// neighbouring intervals, the clock's the total less twice that (Wing & Kristofferson 1973); a negative part is 0 and
// said. Intervals of under half or over one and a half of the beat are left out, and so are the first two.
//
// Fingers are not fists: the timing fraction found so is only a floor of a bag's.
func KeepBeat(trials [][]float64, period float64) (TestResult, error) {
	r := TestResult{}
	var rests []float64 // a NaN where the row is broken
	for _, taps := range trials {
		gaps, err := between(taps)
		if err != nil {
			return r, err
		}
		var at, kept []float64
		for i, g := range gaps {
			if i >= 2 && g > 0.5*period && g < 1.5*period {
				at, kept = append(at, float64(i)), append(kept, g)
			}
		}
		r.LeftOut += len(gaps) - len(kept)
		if len(kept) < leastTaps {
			return r, input.Refuse("taps", "expected at least %d intervals near the beat, not %d", leastTaps, len(kept))
		}
		a, b := stat.LinearRegression(at, kept, nil, false)
		rests = append(rests, math.NaN())
		for i := range kept {
			if i > 0 && at[i] != at[i-1]+1 {
				rests = append(rests, math.NaN())
			}
			rests = append(rests, kept[i]-a-b*at[i])
		}
		r.Used += len(kept)
	}
	r.Clock, r.Motor, r.Clipped = split(rests, 2*len(trials)) // a line went into each
	if math.IsNaN(r.Clock) {
		return r, input.Refuse("taps", "expected at least %d intervals in a row", splitLeast)
	}
	r.Total = math.Sqrt(r.Clock*r.Clock + 2*r.Motor*r.Motor)
	relative := 1 / math.Sqrt(2*float64(r.Used)) // standard error of a spread as a share of it
	if w := r.Clock / period; w >= figureLimits[Timing].Min {
		r.Found = append(r.Found, Evidence{Figure: Timing, Value: w, Spread: 2 * w * relative, Origin: Tested,
			Floor: true})
	}
	if r.Motor >= figureLimits[Motor].Min {
		r.Found = append(r.Found, Evidence{Figure: Motor, Value: r.Motor, Spread: 2 * r.Motor * relative,
			Origin: Tested})
	}
	return r, nil
}

// React works out a reaction time from waits (s) between a signal and its tap: the median, as Rate does. What comes
// before 0.1 s was guessed and what takes longer than 1 s was a lapse; both are left out and counted.
func React(t Test, waits []float64) (TestResult, error) {
	var kept []float64
	for _, w := range waits {
		if w >= anticipated && w <= lapsed {
			kept = append(kept, w)
		}
	}
	r := TestResult{Used: len(kept), LeftOut: len(waits) - len(kept)}
	if len(kept) < leastReactions {
		return r, input.Refuse("taps", "expected at least %d reactions between %.0f ms and %.0f s, not %d",
			leastReactions, 1000*anticipated, lapsed, len(kept))
	}
	figure := Sight
	if t == ToSound {
		figure = Sound
	}
	sigma := (quantile(kept, 0.75) - quantile(kept, 0.25)) / 1.349
	e := Evidence{Figure: figure, Value: quantile(kept, 0.5),
		Spread: math.Max(1.2533*sigma/math.Sqrt(float64(len(kept))), 0.003), Origin: Tested}
	if err := e.Check(); err != nil {
		return r, input.Refuse("taps", "expected reactions that somebody can have, not %.0f ms", 1000*e.Value)
	}
	r.Found = []Evidence{e}
	return r, nil
}

// Words name a test.
func (t Test) Words() string {
	return map[Test]string{
		TwoHands: "Two hands in turn", OneHand: "One hand", Beat: "Keeping a beat", ToLight: "Reaction to light",
		ToSound: "Reaction to sound",
	}[t]
}

// Sentence says what a test found.
func (r TestResult) Sentence(t Test, by Means) string {
	if t == Beat {
		said := fmt.Sprintf("Of a spread of %.0f ms the inner clock has %.0f and the hand %.0f", 1000*r.Total,
			1000*r.Clock, 1000*r.Motor)
		if r.Clipped {
			said += "; one part came out negative and stands as 0"
		}
		return said + "."
	}
	if len(r.Found) == 0 {
		return "Nothing that would say more."
	}
	v := r.Found[0].Value
	switch {
	case t == ToLight || t == ToSound:
		return fmt.Sprintf("%.0f ms from the signal to the tap, over %d of them.", 1000*v, r.Used)
	case by == Fists:
		return fmt.Sprintf("%.2f s from blow to blow, %.0f a minute.", v, 60/v)
	}
	return fmt.Sprintf("Fingers: %.2f s from tap to tap. Fists are slower: no less than %.2f s is believed of them.", v,
		overTapped*v)
}

// NoteWords returns the note of a piece of evidence as it is said: a test by its words, any other as it stands.
func NoteWords(note string) string {
	if slices.Contains(Tests, Test(note)) {
		return Test(note).Words()
	}
	return note
}
