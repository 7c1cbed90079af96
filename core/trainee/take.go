package trainee

import (
	"math"

	"melodromos/core/input"
)

// TestPlan says how the tests are run.
type TestPlan struct {
	RateSeconds float64 `json:"rateSeconds"`
	BeatPeriod  float64 `json:"beatPeriod" doc:"s"`
	BeatWith    int     `json:"beatWith" doc:"taps with the click"`
	BeatAlone   int     `json:"beatAlone" doc:"taps after it has stopped"`
	Reactions   int     `json:"reactions"`
}

// Plan is the plan of the tests.
var Plan = TestPlan{RateTime, BeatPeriod, BeatWith, BeatAlone, Reactions}

const mostTaps = 600

// Means is the device that was tapped on.
type Means int

// Fingers on a screen or a table only bound what fists do; fists in gloves strike a pad.
const (
	Fingers Means = iota
	Fists
)

// Take works out a test as it was done: the times of the taps (s), one row for each trial; of a reaction test one row
// of waits.
func Take(t Test, trials [][]float64, by Means) (TestResult, error) {
	if len(trials) == 0 {
		return TestResult{}, input.Refuse("taps", "expected the taps of a trial")
	}
	for _, row := range trials {
		if len(row) > mostTaps {
			return TestResult{}, input.Refuse("taps", "expected at most %d taps, not %d", mostTaps, len(row))
		}
	}
	switch t {
	case TwoHands, OneHand:
		return Rate(t, trials[0], by)
	case Beat:
		return KeepBeat(trials, BeatPeriod)
	}
	return React(t, trials[0])
}

// TakenOff returns the time (s) that is taken off the taps of a round: never less than nothing, since a device tells of
// no tap before it was made.
func (d Delay) TakenOff() float64 { return math.Max(0, d.Late) }
