package server

import (
	"bytes"
	"encoding/json"

	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/store"
)

// FromRounds is a recalibration that the rounds on a rig agree on.
type FromRounds struct {
	Text      string  `json:"text"`
	Parameter string  `json:"parameter"`
	Was       float64 `json:"was"`
	Value     float64 `json:"value"`
	Spread    float64 `json:"spread" doc:"standard error of value"`
	Rounds    int     `json:"rounds"`
	People    int     `json:"people"`
}

// mostRounds of a rig are read: more than are asked.
const mostRounds = 40

// agreement asks the rounds on a rig, as it hangs since it was last measured, whether they agree on another value.
func agreement(gym *store.Gym, row store.Rig, bag rig.Rig) (rig.Agreement, bool, error) {
	runs, err := gym.RoundsOn(row.ID, row.MeasuredAt, mostRounds)
	if err != nil {
		return rig.Agreement{}, false, err
	}
	var fits []rig.RoundFit
	for _, r := range runs {
		var sum Summary
		if json.Unmarshal(r.Summary, &sum) != nil || sum.Rig == nil || !sameDoc(r.RigDoc, row.Doc) {
			continue
		}
		fit := *sum.Rig
		fit.Who = r.TraineeID
		fits = append(fits, fit)
	}
	a, agreed := rig.Agree(bag, fits)
	return a, agreed, nil
}

// sameDoc compares two documents that PostgreSQL has put into its own order.
func sameDoc(a, b store.Doc) bool {
	var x, y any
	if json.Unmarshal(a, &x) != nil || json.Unmarshal(b, &y) != nil {
		return false
	}
	one, _ := json.Marshal(x)
	two, _ := json.Marshal(y)
	return bytes.Equal(one, two)
}

func fromRounds(gym *store.Gym, row store.Rig, bag rig.Rig) (*FromRounds, error) {
	a, agreed, err := agreement(gym, row, bag)
	if err != nil || !agreed {
		return nil, err
	}
	return &FromRounds{a.Words(), a.Parameter, a.Was, a.Value, a.Spread, a.Rounds, a.People}, nil
}

// fitRounds is the calibration that the rounds agree on; refused where they do not.
func fitRounds(gym *store.Gym, row store.Rig, bag rig.Rig) (Fit, error) {
	a, agreed, err := agreement(gym, row, bag)
	if err != nil {
		return Fit{}, err
	}
	if !agreed {
		return Fit{}, input.Refuse("method", "expected rounds that agree: those on this bag say nothing against its figure")
	}
	return Fit{Parameter: a.Parameter, Was: a.Was, Value: a.Value, Spread: number(a.Spread), Launches: []float64{}, Doc: RigDoc{Rig: rig.LeastKnown(bag).With(a.Value)}}, nil
}
