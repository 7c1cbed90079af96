package server

import (
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/bench"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/store"
)

// CalibrationQuestion asks what a measurement says about a rig, and changes nothing.
type CalibrationQuestion struct {
	Rig      RigDoc         `json:"rig"`
	Measured bench.Measured `json:"measured"`
}

// Moments holds the times (s) at which a bag is tapped.
type Moments struct {
	At    []float64        `json:"at" doc:"s after the strike"`
	Trace []rig.TracePoint `json:"trace" doc:"the swing meanwhile, as the bag is known now"`
}

// Calibration is a fit that was kept.
type Calibration struct {
	ID        string       `json:"id" readOnly:"true"`
	At        time.Time    `json:"at"`
	Method    bench.Method `json:"method"`
	Parameter string       `json:"parameter"`
	Was       float64      `json:"was"`
	Value     float64      `json:"value"`
	Spread    *float64     `json:"spread"`
	Residual  *float64     `json:"residual"`
	Undone    bool         `json:"undone"`
	Stale     bool         `json:"stale" doc:"the rig was changed since"`
}

// WhichCalibration is the one that is taken back.
type WhichCalibration struct {
	ID string `json:"id" format:"uuid"`
}

// NewCalibration keeps a fit, over the version of the rig that was read.
type NewCalibration struct {
	Version  int            `json:"version" minimum:"1" maximum:"2147483646" doc:"of the rig, that was read"`
	Measured bench.Measured `json:"measured"`
}

const momentsShown = 5

func (s *Server) registerCalibrations(api huma.API) {
	post(api, "/api/calibrate", func(c caller, in *body[CalibrationQuestion]) (bench.CalibrationFit, error) {
		bag, err := in.Body.Rig.Read()
		if err != nil {
			return bench.CalibrationFit{}, input.Under("rig", err)
		}
		f, err := bench.Calibrate(bag, in.Body.Measured, nil, c.Stop)
		return f, input.Under("measured", err)
	})
	post(api, "/api/tap-moments", func(_ caller, in *body[RigDoc]) (Moments, error) {
		bag, err := in.Body.Read()
		if err != nil {
			return Moments{}, err
		}
		at, trace, _, err := rig.Moments(bag, momentsShown)
		return Moments{at, trace}, err
	})
	get(api, "/api/rigs/{id}/calibrations", func(c caller, in *ByID) ([]Calibration, error) {
		rows, bag, err := c.Calibrations(in.ID)
		return eachRow(rows, err, func(k store.Calibration) (Calibration, error) {
			return Calibration{k.ID, k.CreatedAt, bench.Method(k.Method), k.Parameter, k.Was, k.Value, k.Spread,
				k.Residual, k.UndoneAt != nil, k.CreatedAt.Before(bag.MeasuredAt)}, nil
		})
	})
	post(api, "/api/rigs/{id}/calibrations",
		func(c caller, in *Addressed[NewCalibration]) (Rig, error) {
			return c.changedRig(c.Calibrate(in.ID, in.Body.Version, in.Body.Measured))
		})
	post(api, "/api/rigs/{id}/undo-calibration", func(c caller, in *Addressed[WhichCalibration]) (Rig, error) {
		return c.changedRig(c.Uncalibrate(in.ID, in.Body.ID))
	})
}
