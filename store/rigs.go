package store

import (
	"time"

	"gorm.io/gorm"
)

// Rigs lists the gym's rigs by name: those that hang, or those that are retired.
func (g *Gym) Rigs(retired bool) ([]Rig, error) {
	if !retired {
		return all[Rig](g, "name, id")
	}
	rows := []Rig{}
	return rows, known(g.rows().Where("retired_at IS NOT NULL").Order("name, id").Find(&rows).Error)
}

// Rig returns one rig, retired or not.
func (g *Gym) Rig(id string) (Rig, error) { return one[Rig](g, id) }

// AddRig stores a new rig and fills in its id.
func (g *Gym) AddRig(r *Rig) error {
	r.GymID, r.Version, r.MeasuredAt, r.Place = g.ID, 1, time.Now().UTC().Truncate(time.Microsecond), placed(r.Place)
	return known(g.db.Create(r).Error)
}

// ChangeRig stores a rig's new name, measures and place over the version that was read; ErrConflict where another has been
// stored meanwhile.
func (g *Gym) ChangeRig(r *Rig) error {
	err := g.over(&Rig{}, r.ID, r.Version, map[string]any{
		"name": r.Name, "doc": string(r.Doc), "place": string(placed(r.Place)),
		"measured_at": gorm.Expr("CASE WHEN doc = ?::jsonb THEN measured_at ELSE now() END", string(r.Doc)),
	})
	if err == nil {
		*r, err = g.Rig(r.ID)
	}
	return err
}

func placed(doc Doc) Doc {
	if len(doc) == 0 {
		return Doc(`{}`)
	}
	return doc
}

// Calibrations lists what was found out about a rig, newest first, undone ones among them.
func (g *Gym) Calibrations(rigID string) ([]Calibration, error) {
	rows := []Calibration{}
	return rows, known(g.rows().Where("rig_id = ?", rigID).Order("created_at DESC, id").Find(&rows).Error)
}

// Calibrate stores a calibration and the measures it gives the rig, over the version that was read: both or neither.
func (g *Gym) Calibrate(c *Calibration, r *Rig) error {
	return g.Together(func(in *Gym) error {
		before, err := in.Rig(r.ID)
		if err != nil {
			return err
		}
		if err := in.ChangeRig(r); err != nil {
			return err
		}
		c.GymID, c.RigID, c.RigVersion, c.WasMeasuredAt, c.CreatedAt = g.ID, r.ID, r.Version, before.MeasuredAt, time.Now().UTC()
		if c.CreatedAt.Before(r.MeasuredAt) { // the change that a calibration makes does not put it out of date
			c.CreatedAt = r.MeasuredAt
		}
		return known(in.db.Create(c).Error)
	})
}

// Uncalibrate marks a calibration as undone and stores the rig's measures without it: both or neither. What was measured
// before holds again, unless the rig was changed since. ErrConflict where it is undone already.
func (g *Gym) Uncalibrate(c Calibration, r *Rig) error {
	return g.Together(func(in *Gym) error {
		before, err := in.Rig(r.ID)
		if err != nil {
			return err
		}
		done := in.rows().Model(&Calibration{}).Where("id = ? AND undone_at IS NULL", c.ID).Updates(map[string]any{"undone_at": time.Now().UTC()})
		if done.Error != nil {
			return known(done.Error)
		}
		if done.RowsAffected == 0 {
			return ErrConflict
		}
		if err := in.ChangeRig(r); err != nil {
			return err
		}
		if before.MeasuredAt.After(c.CreatedAt) {
			return nil
		}
		r.MeasuredAt = c.WasMeasuredAt
		return in.change(&Rig{}, r.ID, map[string]any{"measured_at": c.WasMeasuredAt})
	})
}

// Together runs steps in one transaction: all of them hold, or none.
func (g *Gym) Together(steps func(in *Gym) error) error {
	return known(g.db.Transaction(func(tx *gorm.DB) error { return steps(&Gym{g.ID, tx}) }))
}

// Calibration returns one calibration.
func (g *Gym) Calibration(id string) (Calibration, error) { return one[Calibration](g, id) }
