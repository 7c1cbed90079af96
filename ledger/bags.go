package ledger

import (
	"encoding/json"

	"melodromos/core/bench"
	"melodromos/core/input"
	"melodromos/store"
)

// ChangeRig stores a bag over the version that was read. One that runs and assignments refer to keeps its kind.
func (c Caller) ChangeRig(row *store.Rig) error {
	return c.together(func(c Caller) error {
		before, err := c.Gym.Rig(row.ID)
		if err != nil {
			return err
		}
		if before.Kind != row.Kind {
			return input.Refuse("doc.kind", "expected %q: a rig keeps its kind; add another one instead", before.Kind)
		}
		return c.Gym.ChangeRig(row)
	})
}

// Calibrate keeps what a measurement says about a bag, over the version that was read.
func (c Caller) Calibrate(id string, version int, measured bench.Measured) (row *store.Rig, err error) {
	err = c.together(func(c Caller) error {
		before, err := c.Gym.Rig(id)
		if err != nil {
			return err
		}
		bag, place, err := Rig(before)
		if err != nil {
			return err
		}
		rounds, err := RoundsOn(c.Gym, before)
		if err != nil {
			return err
		}
		f, err := bench.Calibrate(bag, measured, rounds, c.Stop)
		if err != nil {
			return input.Under("measured", err)
		}
		evidence, err := json.Marshal(measured)
		if err != nil {
			return err
		}
		if row, err = RigRow(id, before.Name, version, f.Doc.Rig, place); err != nil {
			return err
		}
		return c.Gym.Calibrate(&store.Calibration{Method: string(measured.Method), Parameter: f.Parameter, Was: f.Was,
			Value: f.Value, Spread: f.Spread, Residual: f.Residual, Evidence: evidence}, row)
	})
	return row, err
}

// Uncalibrate takes a calibration back: the bag's measures are as they were without it.
func (c Caller) Uncalibrate(rigID, id string) (row *store.Rig, err error) {
	err = c.together(func(c Caller) error {
		before, err := c.Gym.Rig(rigID)
		if err != nil {
			return err
		}
		k, err := c.Gym.Calibration(id)
		if err != nil || k.RigID != rigID {
			return store.ErrNotFound
		}
		bag, place, err := Rig(before)
		if err != nil {
			return err
		}
		row, err = RigRow(rigID, before.Name, before.Version, bench.Without(bag, k.Parameter, k.Value, k.Was), place)
		if err != nil {
			return err
		}
		return c.Gym.Uncalibrate(k, row)
	})
	return row, err
}

// Calibrations lists what was found out about a bag, the newest first, undone ones among them; the bag comes with them.
func (c Caller) Calibrations(rigID string) ([]store.Calibration, store.Rig, error) {
	row, err := c.Gym.Rig(rigID)
	if err != nil {
		return nil, row, err
	}
	list, err := c.Gym.Calibrations(rigID)
	return list, row, err
}
