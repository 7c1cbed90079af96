// Package judge compares the hits of a round with the strikes that were planned: which hit belongs to which strike, how
// far off it was, and what the round as a whole shows.
//
// Errors are hit − planned in seconds, late positive.
package judge

import (
	"math"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/drill"
	"melodromos/core/rig"
)

// Strike is one planned strike.
type Strike struct {
	At       float64    // s
	Window   float64    // s, symmetric about At
	Hand     drill.Hand // empty where any hand will do, both where the two work as one
	Face     rig.Face   // "" where it does not matter
	Pin      bool       // a trap: the hand leads the bag into the board
	Position int        // place in the pattern, from 0
	Rep      int        // repetition of a combination
	answer   bool       // to a cue: it goes by the cue
	Still    bool       // on a bag at rest: the strikes of its repetition that follow go by it
	Follows  bool       // the strike before with nothing between, inside a combination
	Defended bool       // a slip, a duck, a roll or a pull stands between it and the strike before
	Change   bool       // the hands change at it, from one set to the next
	Unfit    float64    // s by which the moves before it do not fit, as planned: so late it is allowed for
	Part     int        // of a long combination, from 0

	// What the bag's clock goes by.
	Count  int     // rebounds from the strike before
	Launch float64 // m/s at which it is planned to drive the bag off
	Share  float64 // of the bag's own window that counts; 0 for all of it
	Ahead  float64 // s by which it stands before the bag is back where it was struck (a heavy bag is met on its way in)
	Spare  bool    // beyond the plan, should the bag be quicker: not missed where nobody came to it
	Least  float64 // s since the strike before under which a bag that is left to settle is not at rest
}

// Timed says whether a strike is timed by the bag or the beat: not one on a bag at rest, nor the answer to a cue.
func (s Strike) Timed() bool { return !s.Still && !s.answer }

// Hit is one captured hit.
type Hit struct {
	At     float64    // s
	Hand   drill.Hand // empty where it was not told
	Launch float64    // m/s at which it drove the bag off, where a sensor told; else 0
}

// Verdict is the result for one planned strike.
type Verdict string

// A strike is clean inside its window with the right hand. A hit outside the window but close enough to be meant for
// the strike is early or late. WrongHand stands for a hit inside the window with the other hand. Harmless is a miss
// that is not scored: the fists of a fist roll touched one another.
const (
	Clean     Verdict = "clean"
	Early     Verdict = "early"
	Late      Verdict = "late"
	WrongHand Verdict = "wrongHand"
	Missed    Verdict = "missed"
	Harmless  Verdict = "harmless"
)

// Values lists them.
func (Verdict) Values() []Verdict { return []Verdict{Clean, Early, Late, WrongHand, Missed, Harmless} }

// Options of Judge.
type Options struct {
	// KeepOffset judges hits as they are: the latency of the device is known and subtracted, and lateness is a person's
	// own. Otherwise a constant offset is found and removed first.
	KeepOffset bool
	// Offset (s) is taken off where KeepOffset is set: a steady one that has been found before.
	Offset float64
	// Stop is asked in long loops, such as a context's Err; an error ends them, and what they have come to by then is
	// not to be used. Nil never ends them.
	Stop func() error
}

// stopped asks whether whoever waits for the judgement has gone.
func (o Options) stopped() bool { return o.Stop != nil && o.Stop() != nil }

// Match joins a planned strike and a hit by their places in the lists that were judged.
type Match struct {
	Strike, Hit int
	Error       float64 // s, after the offset is removed
	Verdict     Verdict
}

// Result is a judged round. Means over nothing are NaN.
type Result struct {
	Clean, Early, Late, Missed, Extra, WrongHand int
	Harmless                                     int // misses that are not scored

	Offset float64 // s, removed before judging
	// s, mean error before the offset was removed; strikes on a bag at rest and answers to cues are left out, here and
	// below
	Bias       float64
	Spread     float64   // s, sample standard deviation of the errors; NaN under two matches
	Drift      float64   // s a minute, slope of the errors by least squares; NaN where lateness cannot be told
	DriftError float64   // s a minute, its standard error
	BiasError  float64   // s, that of Bias
	Longest    int       // clean strikes in a row
	Matches    []Match   // in the order of the strikes
	Strikes    []Verdict // empty for one that did not come due before the bell, on the bag's clock

	Followed *Followed // on the bag's clock; else nil
	order    []int     // strikes by their time
	tempo    float64
}

// Judge matches hits to strikes and measures the round. The lists need not be in order; indices in the result are those
// of the lists as given. Windows must be above 0 and times finite, or the outcome is unspecified.
func Judge(strikes []Strike, hits []Hit, o Options) Result {
	m := newMatcher(strikes, hits)
	m.stopped = o.stopped
	offset := o.Offset
	if !o.KeepOffset {
		offset = m.byHands(m.findOffset(), strikes, hits)
	}
	pairs := m.pairs(offset)
	r := Result{Offset: offset, Strikes: make([]Verdict, len(strikes))}
	for i := range r.Strikes {
		r.Strikes[i] = Missed
	}
	for _, p := range pairs {
		strike, hit := m.strikes[p[0]], m.hits[p[1]]
		e := hit.at - strike.at - offset
		v := verdict(strikes[strike.index], hits[hit.index], e)
		if h := hits[hit.index].Hand; wrong(strikes[strike.index].Hand, h) {
			r.WrongHand++
		}
		r.Matches = append(r.Matches, Match{strike.index, hit.index, e, v})
		r.Strikes[strike.index] = v
	}
	for _, s := range m.strikes {
		r.order = append(r.order, s.index)
	}
	if n := len(pairs); n > 1 {
		first, last := pairs[0], pairs[n-1]
		r.tempo = 60 * float64(last[0]-first[0]) / (m.hits[last[1]].at - m.hits[first[1]].at)
	}
	r.tally(len(hits))
	r.measure(strikes)
	return r
}

func wrong(planned, struck drill.Hand) bool {
	return planned != "" && planned != drill.Both && struck != "" && planned != struck
}

// tolerance keeps rounding from deciding at the very border of a window.
const tolerance = 1e-9

func verdict(s Strike, h Hit, e float64) Verdict {
	switch {
	case e > s.Window/2+tolerance:
		return Late
	case e < -s.Window/2-tolerance:
		return Early
	case wrong(s.Hand, h.Hand):
		return WrongHand
	}
	return Clean
}

// tally fills the numbers of each verdict and the longest streak. An extra hit does not break a streak.
func (r *Result) tally(hits int) {
	r.Clean, r.Early, r.Late, r.Missed, r.Harmless, r.Longest = 0, 0, 0, 0, 0, 0
	streak := 0
	for _, i := range r.order {
		switch r.Strikes[i] {
		case Clean:
			r.Clean++
			streak++
			r.Longest = max(r.Longest, streak)
			continue
		case Early:
			r.Early++
		case Late:
			r.Late++
		case Missed:
			r.Missed++
		case Harmless:
			r.Harmless++
			continue
		}
		streak = 0
	}
	r.Extra = hits - len(r.Matches)
}

func (r *Result) measure(strikes []Strike) {
	at, errors := make([]float64, 0, len(r.Matches)), make([]float64, 0, len(r.Matches))
	for _, m := range r.Matches {
		// a bag at rest times nobody, nor does one that is left for a cue
		if s := strikes[m.Strike]; !s.Still && !s.answer {
			at, errors = append(at, s.At), append(errors, m.Error)
		}
	}
	r.summed(at, errors)
	r.Bias += r.Offset
}

// scattered fills in the spread of errors alone, as where it cannot be told how late they are.
func (r *Result) scattered(errors []float64) {
	nan := math.NaN()
	r.Bias, r.BiasError, r.Spread, r.Drift, r.DriftError = nan, nan, nan, nan, nan
	if len(errors) > 1 {
		r.Spread = stat.StdDev(errors, nil)
	}
}

// summed fills in mean, spread and drift of errors.
func (r *Result) summed(at, errors []float64) {
	r.scattered(errors)
	if len(errors) == 0 {
		return
	}
	r.Bias = stat.Mean(errors, nil)
	if len(errors) > 2 && at[len(at)-1] > at[0] {
		slope, se := line(at, errors)
		r.Drift, r.DriftError = 60*slope, 60*se
		r.BiasError = r.Spread / math.Sqrt(float64(len(errors))) * Slowed(errors)
	}
}

// line fits a straight line by least squares and gives its slope with the slope's standard error, as large as
// neighbouring errors that go together make it.
func line(x, y []float64) (slope, se float64) {
	a, b := stat.LinearRegression(x, y, nil, false)
	mean := stat.Mean(x, nil)
	rests := make([]float64, len(x))
	rest, wide := 0.0, 0.0
	for i := range x {
		rests[i] = y[i] - a - b*x[i]
		rest += rests[i] * rests[i]
		wide += (x[i] - mean) * (x[i] - mean)
	}
	return b, math.Sqrt(rest/float64(len(x)-2)/wide) * Slowed(rests)
}

// Slowed is the factor by which a standard error grows where each value goes with the one before it, as those of
// somebody who corrects themselves do: √((1 + φ)/(1 − φ)) for a first-order autoregression with lag-1 autocorrelation φ
// (textbook).
func Slowed(values []float64) float64 {
	mean := stat.Mean(values, nil)
	squares, products := 0.0, 0.0
	for i, v := range values {
		squares += (v - mean) * (v - mean)
		if i > 0 {
			products += (v - mean) * (values[i-1] - mean)
		}
	}
	if squares == 0 {
		return 1
	}
	phi := math.Min(0.9, math.Max(0, products/squares))
	return math.Sqrt((1 + phi) / (1 - phi))
}

// Tempo is the tempo that was struck on the beat's clock, in strikes a minute: from the first hit that belongs to a
// strike to the last, over the strikes between them. NaN under two.
func (r Result) Tempo() float64 {
	if len(r.Matches) < 2 {
		return math.NaN()
	}
	return r.tempo
}

// CleanShare is the share of the strikes that came due that were clean, from 0 to 1; NaN where none did.
func (r Result) CleanShare() float64 {
	due := len(r.Strikes)
	if r.Followed != nil {
		due = r.Followed.Due
	}
	return float64(r.Clean) / float64(due-r.Harmless)
}

// Planned lists the strikes of a timeline up to (and not including) the moment until, such as the moment a run was
// stopped; negative takes all.
func Planned(t drill.Timeline, until drill.Micros) []Strike {
	var list []Strike
	before, defended := drill.Event{Move: -1}, false
	for _, e := range t.Events {
		if e.Kind == drill.Doing && !e.Feet && e.Move >= 0 {
			defended = true
		}
		if e.Kind == drill.Strike && (until < 0 || e.At < until) {
			s := strikeOf(e)
			s.Follows = before.Move >= 0 && e.Rep == before.Rep && e.Move == before.Move+1
			s.Defended = defended && len(list) > 0 && e.Rep == before.Rep
			list = append(list, s)
			before, defended = e, false
		}
	}
	changes(list, t.Film == nil)
	return list
}

// changes marks where the hands change from one set to the next. Hands in turn change nothing, nor do those of a
// combination.
func changes(list []Strike, sets bool) {
	for i := 1; sets && i < len(list)-1; i++ {
		a, b := list[i-1], list[i]
		set := i > 1 && list[i-2].Hand == a.Hand && list[i+1].Hand == b.Hand
		list[i].Change = set && a.Hand != b.Hand && a.Hand != "" && b.Hand != ""
	}
}

func strikeOf(e drill.Event) Strike {
	return Strike{
		At: e.At.Seconds(), Window: e.Window.Seconds(), Hand: e.Hand, Face: e.Face, Pin: e.Pin, Position: e.Position,
		Rep: e.Rep, Still: e.Still, answer: e.Move < 0, Unfit: e.Late.Seconds(), Part: e.Part,
		Count: e.Count, Launch: e.Launch, Share: e.Share, Ahead: e.Ahead.Seconds(), Least: e.Settle.Seconds(),
	}
}

// chained lists the strikes of a timeline as the bag's clock has them, those beyond the closing bell as well: the first
// one meets a bag at rest, and so does one whose strike before was left out for an answer to a cue.
func chain(t drill.Timeline) []Strike {
	list := Planned(t, -1)
	for _, e := range t.Beyond {
		s := strikeOf(e)
		s.Spare = true
		list = append(list, s)
	}
	changes(list, t.Film == nil)
	for i := range list {
		s := &list[i]
		if i == 0 {
			s.Still = true
		} else if before := list[i-1]; !s.answer &&
			(before.answer || before.Rep == s.Rep && s.Position > 0 && s.Position != before.Position+1 &&
				t.Film != nil) {
			s.Still = true
		}
	}
	return list
}
