package server

import (
	"context"
	"math"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/input"
	"melodromos/core/trainee"
	"melodromos/store"
)

// TestTaken is a test as it was done: the times of the taps in seconds, one row for each trial. A reaction test has one row of waits.
type TestTaken struct {
	Test  string      `json:"test" enum:"alternate,sameHand,beat,sight,sound"`
	Taps  [][]float64 `json:"taps" maxItems:"4"`
	Fists bool        `json:"fists,omitempty" doc:"gloves struck a pad; else fingers tapped, which only bound what fists do"`
}

// TestResult is what a test found.
type TestResult struct {
	Sentence string  `json:"sentence"`
	Found    []Trail `json:"found"`
	Total    float64 `json:"total" doc:"s, spread of the intervals of a beat test"`
	Clock    float64 `json:"clock" doc:"s, the inner clock's part"`
	Motor    float64 `json:"motor" doc:"s, the hand's part"`
	Clipped  bool    `json:"clipped" doc:"one part came out negative and stands as 0"`
	Used     int     `json:"used"`
	LeftOut  int     `json:"leftOut"`
}

// TestPlan is how the tests are run.
type TestPlan struct {
	RateSeconds float64 `json:"rateSeconds"`
	BeatPeriod  float64 `json:"beatPeriod" doc:"s"`
	BeatWith    int     `json:"beatWith" doc:"taps with the click"`
	BeatAlone   int     `json:"beatAlone" doc:"taps after it has stopped"`
	Reactions   int     `json:"reactions"`
}

// TapDelay is how a device was tapped along with clicks or flashes. Times are in s.
type TapDelay struct {
	Beats []float64 `json:"beats" maxItems:"60" doc:"when each was heard or seen"`
	Taps  []float64 `json:"taps" maxItems:"200"`
}

// DelayFound is how late a device tells of a tap: taken off the taps of a round that is tapped on it.
type DelayFound struct {
	Late    float64 `json:"late" doc:"s; 0 where the taps came ahead"`
	Spread  float64 `json:"spread" doc:"s"`
	Matched int     `json:"matched"`
}

func (s *Server) registerTests(api huma.API) {
	huma.Get(api, "/api/test-plan", func(context.Context, *struct{}) (*one[TestPlan], error) {
		return &one[TestPlan]{TestPlan{trainee.RateTime, trainee.BeatPeriod, trainee.BeatWith, trainee.BeatAlone, trainee.Reactions}}, nil
	})
	huma.Post(api, "/api/tap-delay", func(ctx context.Context, in *one[TapDelay]) (*one[DelayFound], error) {
		d, err := trainee.DelayOf(in.Body.Beats, in.Body.Taps)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return &one[DelayFound]{DelayFound{math.Max(0, d.Late), d.Spread, d.Matched}}, nil
	})
	huma.Post(api, "/api/trainees/{id}/tests", func(ctx context.Context, in *struct {
		ByID
		Body TestTaken
	}) (*one[TestResult], error) {
		out, err := takeTest(who(ctx).gym, in.ID, in.Body)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return &one[TestResult]{out}, nil
	})
}

const mostTaps = 600

func takeTest(gym *store.Gym, id string, in TestTaken) (TestResult, error) {
	t, err := gym.Trainee(id)
	if err != nil {
		return TestResult{}, err
	}
	if len(in.Taps) == 0 {
		return TestResult{}, input.Refuse("taps", "expected the taps of a trial")
	}
	for _, row := range in.Taps {
		if len(row) > mostTaps {
			return TestResult{}, input.Refuse("taps", "expected at most %d taps, not %d", mostTaps, len(row))
		}
	}
	test := trainee.Test(in.Test)
	var r trainee.Result
	switch test {
	case trainee.TwoHands, trainee.OneHand:
		r, err = trainee.Rate(test, in.Taps[0], in.Fists)
	case trainee.Beat:
		r, err = trainee.KeepBeat(in.Taps, trainee.BeatPeriod)
	default:
		r, err = trainee.React(test, in.Taps[0])
	}
	if err != nil {
		return TestResult{}, err
	}
	out := TestResult{Sentence: r.Sentence(test, in.Fists), Found: []Trail{}, Total: r.Total, Clock: r.Clock, Motor: r.Motor, Clipped: r.Clipped, Used: r.Used, LeftOut: r.LeftOut}
	var rows []store.Finding
	now := time.Now().UTC()
	for _, e := range r.Found {
		e.At = now
		row := findingOut(e, t.ID, test.Words())
		rows = append(rows, row)
		out.Found = append(out.Found, Trail{now, "", e.Value, e.Spread, string(e.Origin), e.Floor, row.Note})
	}
	return out, gym.AddFindings(rows)
}
