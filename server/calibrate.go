package server

import (
	"encoding/json"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/bench"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/ledger"
	"melodromos/store"
)

// CalibrationQuestion asks what a measurement says about a rig, and changes nothing.
type CalibrationQuestion struct {
	Rig      RigDoc         `json:"rig"`
	Measured bench.Measured `json:"measured"`
}

// Moments are when a bag is tapped.
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
		f, err := bench.Calibrate(bag, in.Body.Measured, nil, c.stop)
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
		row, err := c.gym.Rig(in.ID)
		if err != nil {
			return nil, err
		}
		rows, err := c.gym.Calibrations(in.ID)
		return eachRow(rows, err, func(k store.Calibration) (Calibration, error) {
			return Calibration{k.ID, k.CreatedAt, bench.Method(k.Method), k.Parameter, k.Was, k.Value, k.Spread,
				k.Residual, k.UndoneAt != nil, k.CreatedAt.Before(row.MeasuredAt)}, nil
		})
	})
	post(api, "/api/rigs/{id}/calibrations",
		func(c caller, in *Addressed[NewCalibration]) (Rig, error) { return c.calibrate(in.ID, in.Body) })
	post(api, "/api/rigs/{id}/undo-calibration", func(c caller, in *Addressed[WhichCalibration]) (Rig, error) {
		return c.uncalibrate(in.ID, in.Body.ID)
	})
}

// calibrate keeps what a measurement says about a bag.
func (c caller) calibrate(id string, in NewCalibration) (Rig, error) {
	before, err := c.gym.Rig(id)
	if err != nil {
		return Rig{}, err
	}
	bag, place, err := ledger.Rig(before)
	if err != nil {
		return Rig{}, err
	}
	rounds, err := ledger.RoundsOn(c.gym, before)
	if err != nil {
		return Rig{}, err
	}
	f, err := bench.Calibrate(bag, in.Measured, rounds, c.stop)
	if err != nil {
		return Rig{}, input.Under("measured", err)
	}
	evidence, err := json.Marshal(in.Measured)
	if err != nil {
		return Rig{}, err
	}
	row, err := ledger.RigRow(id, before.Name, in.Version, f.Doc.Rig, place)
	if err != nil {
		return Rig{}, err
	}
	kept := store.Calibration{Method: string(in.Measured.Method), Parameter: f.Parameter, Was: f.Was, Value: f.Value,
		Spread: f.Spread, Residual: f.Residual, Evidence: evidence}
	if err := c.gym.Calibrate(&kept, row); err != nil {
		return Rig{}, err
	}
	return c.rigOut(*row)
}

// uncalibrate takes a calibration back.
func (c caller) uncalibrate(rigID, id string) (Rig, error) {
	before, err := c.gym.Rig(rigID)
	if err != nil {
		return Rig{}, err
	}
	k, err := c.gym.Calibration(id)
	if err != nil || k.RigID != rigID {
		return Rig{}, store.ErrNotFound
	}
	bag, place, err := ledger.Rig(before)
	if err != nil {
		return Rig{}, err
	}
	row, err := ledger.RigRow(rigID, before.Name, before.Version, bench.Without(bag, k.Parameter, k.Value, k.Was),
		place)
	if err != nil {
		return Rig{}, err
	}
	if err := c.gym.Uncalibrate(k, row); err != nil {
		return Rig{}, err
	}
	return c.rigOut(*row)
}
