package bench

import (
	"melodromos/core/answer"
	"melodromos/core/input"
	"melodromos/core/rig"
)

// Method is a way of measuring a bag.
type Method string

// A coach taps along, counts returns in a time, or stops the time of some; or the judged rounds on the bag are to tell.
const (
	ByTaps   Method = "taps"
	ByCount  Method = "count"
	ByPeriod Method = "period"
	ByRounds Method = "rounds"
)

// Values lists them.
func (Method) Values() []Method { return []Method{ByTaps, ByCount, ByPeriod, ByRounds} }

// Measured is a coach's measurement of a bag: strikes that were tapped along, a count of returns in a time, or a time
// that was started and stopped; or that the judged rounds on it are to tell.
type Measured struct {
	Method  Method      `json:"method" doc:"rounds: what the judged rounds on this rig agree on"`
	Strikes [][]float64 `json:"strikes,omitempty" maxItems:"10" doc:"s; of each strike the strike itself, then every return, pass or board sound"`
	Count   int         `json:"count,omitempty" minimum:"0" maximum:"60"`
	Seconds float64     `json:"seconds,omitempty"`
	Reading rig.Reading `json:"reading,omitempty" doc:"twice: every crossing was tapped, both ways; half: every second moment only"`
}

// CalibrationFit is a bag's least-known parameter as a measurement gives it.
type CalibrationFit struct {
	Parameter string        `json:"parameter" doc:"field of the rig's document"`
	Was       float64       `json:"was"`
	Value     float64       `json:"value"`
	Spread    *float64      `json:"spread" doc:"standard error of value"`
	Residual  *float64      `json:"residual" doc:"s, what the fit leaves over; null where a time was measured"`
	TapError  float64       `json:"tapError" doc:"s, spread of the taps"`
	Assumed   bool          `json:"assumed" doc:"the error of the taps is assumed, not measured"`
	Outliers  int           `json:"outliers"`
	Launches  []float64     `json:"launches" doc:"m/s of each strike, fitted along"`
	Doubt     *OtherReading `json:"doubt" doc:"another way in which it may have been tapped or counted, to be asked about"`
	Doc       rig.Doc       `json:"doc" doc:"the rig with the fitted value"`
}

// OtherReading is another reading of a measurement.
type OtherReading struct {
	Reading rig.Reading `json:"reading"`
	Value   float64     `json:"value" doc:"that it comes to"`
}

// FromRounds is a recalibration that the rounds on a bag agree on.
type FromRounds struct {
	Text      string  `json:"text"`
	Parameter string  `json:"parameter"`
	Was       float64 `json:"was"`
	Value     float64 `json:"value"`
	Spread    float64 `json:"spread" doc:"standard error of value"`
	Rounds    int     `json:"rounds"`
	People    int     `json:"people"`
}

// Agreed returns the figure on which the judged rounds on a bag agree; nil where they do not contradict the one it has.
func Agreed(bag rig.Rig, rounds []rig.RoundFit) *FromRounds {
	a, agreed := rig.Agree(bag, rounds)
	if !agreed {
		return nil
	}
	return &FromRounds{a.Words(), a.Parameter, a.Was, a.Value, a.Spread, a.Rounds, a.People}
}

// Calibrate runs a measurement through the model of a bag. rounds are what judged rounds on it tell, for the method
// that asks them; stop is asked in long loops, nil for never.
func Calibrate(bag rig.Rig, m Measured, rounds []rig.RoundFit, stop func() error) (CalibrationFit, error) {
	var fitted rig.Rig
	var c rig.Calibration
	var err error
	switch m.Method {
	case ByTaps:
		fitted, c, err = rig.CalibrateAs(bag, m.Strikes, m.Reading, stop)
	case ByCount:
		fitted, c, err = rig.CalibrateCount(bag, m.Count, m.Seconds, m.Reading, stop)
	case ByPeriod:
		fitted, c, err = rig.CalibratePeriod(bag, m.Count, m.Seconds, m.Reading, stop)
	case ByRounds:
		a := Agreed(bag, rounds)
		if a == nil {
			return CalibrationFit{}, input.Refuse("method",
				"expected rounds that agree: those on this bag say nothing against its figure")
		}
		return CalibrationFit{Parameter: a.Parameter, Was: a.Was, Value: a.Value, Spread: answer.Known(a.Spread),
			Launches: []float64{}, Doc: rig.Doc{Rig: bag.LeastKnown().With(a.Value)}}, nil
	default:
		err = input.Refuse("method", `expected "taps", "count", "period" or "rounds"`)
	}
	if err != nil {
		return CalibrationFit{}, err
	}
	out := CalibrationFit{
		Parameter: c.Parameter, Was: bag.LeastKnown().Value, Value: c.Value, Spread: answer.Known(c.Spread),
		TapError: c.TapError,
		Assumed:  m.Method != ByTaps, Outliers: c.Outliers, Launches: answer.List(c.Launches),
		Doc: rig.Doc{Rig: fitted},
	}
	if m.Method == ByTaps {
		out.Residual = answer.Known(c.Residual)
	}
	if c.Doubt != nil {
		out.Doubt = &OtherReading{c.Doubt.Reading, c.Doubt.Value}
	}
	return out, nil
}

// Without is a bag without a calibration: its parameter as it was before, if it still is what the calibration made it.
// A value that was changed by hand since stays, and so does a bag whose least-known parameter is another one.
func Without(bag rig.Rig, parameter string, value, was float64) rig.Rig {
	if known := bag.LeastKnown(); known.Field == parameter && known.Value == value {
		return known.With(was)
	}
	return bag
}
