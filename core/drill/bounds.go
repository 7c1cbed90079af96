package drill

import (
	"math"

	"melodromos/core/input"
	"melodromos/core/words"
)

// What a round holds at most, so that laying one out, judging it and telling how it suits somebody stay a matter of
// moments. An hour is a whole evening's class (common practice); the strikes are those of the longest timed round at
// the greatest tempo.
const (
	MaxRound    = 3600.0 // s from bell to bell
	MostStrikes = 6000
	MostEvents  = 30_000
)

// tooLong refuses a counted round that would last longer than MaxRound, naming the field it is counted by; each of what
// is counted, such as "repetition", takes every (s), and the last one less by spare (s).
func tooLong(field, each string, n int, every, spare float64) error {
	lasts := float64(n)*every - spare
	if lasts <= MaxRound {
		return nil
	}
	return input.Refuse(field,
		"expected at most %s: %d of them would last %.0f minutes, and a round lasts %.0f at most",
		words.Count(int((MaxRound+spare)/every), each), n, math.Ceil(lasts/60), MaxRound/60)
}

// tooMany refuses a round of more strikes or events than it may hold; each repetition has so many.
func tooMany(field string, repetitions, strikes, events int) error {
	switch {
	case repetitions*strikes > MostStrikes:
		return input.Refuse(field, "expected at most %s of these %d strikes: a round holds %d strikes at most",
			words.Count(MostStrikes/strikes, "repetition"), strikes, MostStrikes)
	case repetitions*events > MostEvents:
		return input.Refuse(field, "expected at most %s: a round holds %d calls, moves and sounds at most",
			words.Count(MostEvents/events, "repetition"), MostEvents)
	}
	return nil
}

// Stopped asks, in a long loop, whether whoever waits for its answer has gone: then it is ended with the error.
func (f Floor) Stopped() error {
	if f.Stop == nil {
		return nil
	}
	return f.Stop()
}
