package trainee

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/input"
)

// Delay is the time (s) by which a device tells of a tap later than it was meant, measured by tapping along with clicks
// or flashes. What a person taps ahead of a beat (some hundredths of a second; Repp, Psychonomic Bulletin & Review
// 2005, from memory) is in it.
type Delay struct {
	Late    float64 // s, the median; negative where the taps came ahead
	Spread  float64 // s, standard deviation of a tap
	Matched int     // beats that were tapped
}

const (
	leastBeats  = 6    // of those that are played have to be tapped
	nearTap     = 0.35 // s within which a tap belongs to a beat
	steadyDelay = 0.08 // s of spread beyond which the delay is not to be relied on. Assumed
)

// DelayOf measures a device by the moments (s) of the beats that it played and of the taps along with them. Under six
// tapped beats, or taps too uneven to tell, are refused, naming taps.
func DelayOf(beats, taps []float64) (Delay, error) {
	var off []float64
	for _, b := range beats {
		best := math.Inf(1)
		for _, t := range taps {
			if d := t - b; math.Abs(d) < math.Abs(best) {
				best = d
			}
		}
		if math.Abs(best) <= nearTap {
			off = append(off, best)
		}
	}
	if len(off) < leastBeats {
		return Delay{}, input.Refuse("taps", "expected %d beats tapped along with, not %d", leastBeats, len(off))
	}
	slices.Sort(off)
	d := Delay{(off[(len(off)-1)/2] + off[len(off)/2]) / 2, stat.StdDev(off, nil), len(off)}
	if d.Spread > steadyDelay {
		return d, input.Refuse("taps",
			"expected taps on the beats: these lie %.0f ms around them, too uneven to tell the delay of the device",
			1000*d.Spread)
	}
	return d, nil
}
