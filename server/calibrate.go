package server

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/store"
)

// Measured is what a coach measured on a rig: strikes that were tapped along, a count of returns in a time, or a time that was
// started and stopped.
type Measured struct {
	Method  string      `json:"method" enum:"taps,count,period,rounds" doc:"rounds: what the judged rounds on this rig agree on"`
	Strikes [][]float64 `json:"strikes,omitempty" maxItems:"10" doc:"s; of each strike the strike itself, then every return, pass or board sound"`
	Count   int         `json:"count,omitempty" minimum:"0" maximum:"60"`
	Seconds float64     `json:"seconds,omitempty"`
	Reading string      `json:"reading,omitempty" enum:",twice,half" doc:"twice: every crossing was tapped, both ways; half: every second moment only"`
}

// CalibrationQuestion asks what a measurement says about a rig, and changes nothing.
type CalibrationQuestion struct {
	Rig      RigDoc   `json:"rig"`
	Measured Measured `json:"measured"`
}

// Fit is what a measurement says about a rig's least-known parameter.
type Fit struct {
	Parameter string    `json:"parameter" doc:"field of the rig's document"`
	Was       float64   `json:"was"`
	Value     float64   `json:"value"`
	Spread    *float64  `json:"spread" doc:"standard error of value"`
	Residual  *float64  `json:"residual" doc:"s, what the fit leaves over; null where a time was measured"`
	TapError  float64   `json:"tapError" doc:"s, spread of the taps"`
	Assumed   bool      `json:"assumed" doc:"the error of the taps is assumed, not measured"`
	Outliers  int       `json:"outliers"`
	Launches  []float64 `json:"launches" doc:"m/s of each strike, fitted along"`
	Doubt     *Doubt    `json:"doubt" doc:"another way in which it may have been tapped or counted, to be asked about"`
	Doc       RigDoc    `json:"doc" doc:"the rig with the fitted value"`
}

// Doubt is another reading of a measurement.
type Doubt struct {
	Reading string  `json:"reading" enum:"twice,half"`
	Value   float64 `json:"value" doc:"that it comes to"`
}

// Moments are when a bag is tapped.
type Moments struct {
	At    []float64        `json:"at" doc:"s after the strike"`
	Trace []rig.TracePoint `json:"trace" doc:"the swing meanwhile, as the bag is known now"`
}

// Calibration is a fit that was kept.
type Calibration struct {
	ID        string    `json:"id" readOnly:"true"`
	At        time.Time `json:"at"`
	Method    string    `json:"method" enum:"taps,count,period,rounds"`
	Parameter string    `json:"parameter"`
	Was       float64   `json:"was"`
	Value     float64   `json:"value"`
	Spread    *float64  `json:"spread"`
	Residual  *float64  `json:"residual"`
	Undone    bool      `json:"undone"`
	Stale     bool      `json:"stale" doc:"the rig was changed since"`
}

// NewCalibration keeps a fit, over the version of the rig that was read.
type NewCalibration struct {
	Version  int      `json:"version" minimum:"1" maximum:"2147483646" doc:"of the rig, that was read"`
	Measured Measured `json:"measured"`
}

const momentsShown = 5

// fit runs a measurement through the core.
func fit(r rig.Rig, m Measured, stop func() error) (Fit, error) {
	var fitted rig.Rig
	var c rig.Calibration
	var err error
	switch m.Method {
	case "taps":
		fitted, c, err = rig.CalibrateAs(r, m.Strikes, rig.Reading(m.Reading), stop)
	case "count":
		fitted, c, err = rig.CalibrateCount(r, m.Count, m.Seconds, rig.Reading(m.Reading))
	case "period":
		fitted, c, err = rig.CalibratePeriod(r, m.Count, m.Seconds, rig.Reading(m.Reading))
	default:
		err = input.Refuse("method", `expected "taps", "count" or "period"`)
	}
	if err != nil {
		return Fit{}, err
	}
	out := Fit{
		Parameter: c.Parameter, Was: rig.LeastKnown(r).Value, Value: c.Value, Spread: number(c.Spread), TapError: c.TapError,
		Assumed: m.Method != "taps", Outliers: c.Outliers, Launches: some(c.Launches), Doc: RigDoc{Rig: fitted},
	}
	if m.Method == "taps" {
		out.Residual = number(c.Residual)
	}
	if c.Doubt != nil {
		out.Doubt = &Doubt{string(c.Doubt.Reading), c.Doubt.Value}
	}
	return out, nil
}

func calibrationOut(r store.Rig) func(store.Calibration) (Calibration, error) {
	return func(c store.Calibration) (Calibration, error) {
		return Calibration{c.ID, c.CreatedAt, c.Method, c.Parameter, c.Was, c.Value, c.Spread, c.Residual, c.UndoneAt != nil, c.CreatedAt.Before(r.MeasuredAt)}, nil
	}
}

func (s *Server) registerCalibrations(api huma.API) {
	huma.Post(api, "/api/calibrate", func(ctx context.Context, in *one[CalibrationQuestion]) (*one[Fit], error) {
		r, err := in.Body.Rig.read()
		if err != nil {
			return nil, refused(ctx, "body.rig", err)
		}
		f, err := fit(r, in.Body.Measured, who(ctx).stop)
		if err != nil {
			return nil, refused(ctx, "body.measured", err)
		}
		return &one[Fit]{f}, nil
	})
	huma.Post(api, "/api/tap-moments", func(ctx context.Context, in *one[RigDoc]) (*one[Moments], error) {
		r, err := in.Body.read()
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		at, trace, _, err := rig.Moments(r, momentsShown)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return &one[Moments]{Moments{at, trace}}, nil
	})
	huma.Get(api, "/api/rigs/{id}/calibrations", func(ctx context.Context, in *ByID) (*many[Calibration], error) {
		row, err := who(ctx).gym.Rig(in.ID)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		rows, err := who(ctx).gym.Calibrations(in.ID)
		return listed(ctx, rows, err, calibrationOut(row))
	})
	huma.Post(api, "/api/rigs/{id}/calibrations", func(ctx context.Context, in *struct {
		ByID
		Body NewCalibration
	}) (*one[Rig], error) {
		row, err := calibrate(who(ctx), in.ID, in.Body)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return single(ctx, row, err, rigOut(who(ctx).units()))
	})
	huma.Post(api, "/api/rigs/{id}/undo-calibration", func(ctx context.Context, in *struct {
		ByID
		Body struct {
			ID string `json:"id" format:"uuid"`
		}
	}) (*one[Rig], error) {
		row, err := uncalibrate(who(ctx).gym, in.ID, in.Body.ID)
		return single(ctx, row, err, rigOut(who(ctx).units()))
	})
}

func calibrate(by caller, id string, in NewCalibration) (store.Rig, error) {
	gym := by.gym
	before, err := gym.Rig(id)
	if err != nil {
		return before, err
	}
	r, place, err := readRig(before)
	if err != nil {
		return before, err
	}
	var f Fit
	if in.Measured.Method == "rounds" {
		f, err = fitRounds(gym, before, r)
	} else {
		f, err = fit(r, in.Measured, by.stop)
	}
	if err != nil {
		return before, input.Under("measured", err)
	}
	evidence, err := json.Marshal(in.Measured)
	if err != nil {
		return before, err
	}
	row, err := rigRow(id, before.Name, in.Version, f.Doc.Rig, place)
	if err != nil {
		return before, err
	}
	c := store.Calibration{Method: in.Measured.Method, Parameter: f.Parameter, Was: f.Was, Value: f.Value, Spread: f.Spread, Residual: f.Residual, Evidence: evidence}
	err = gym.Calibrate(&c, row)
	return *row, err
}

// uncalibrate puts the parameter back to what it was before, if it still is what the calibration made it; a value that was
// changed by hand since stays.
func uncalibrate(gym *store.Gym, rigID, id string) (store.Rig, error) {
	before, err := gym.Rig(rigID)
	if err != nil {
		return before, err
	}
	c, err := gym.Calibration(id)
	if err != nil || c.RigID != rigID {
		return before, store.ErrNotFound
	}
	r, place, err := readRig(before)
	if err != nil {
		return before, err
	}
	known := rig.LeastKnown(r)
	if known.Field != c.Parameter {
		return before, fmt.Errorf("calibration %s is of %s, and the rig's is %s", id, c.Parameter, known.Field)
	}
	if known.Value == c.Value {
		r = known.With(c.Was)
	}
	row, err := rigRow(rigID, before.Name, before.Version, r, place)
	if err != nil {
		return before, err
	}
	err = gym.Uncalibrate(c, row)
	return *row, err
}
