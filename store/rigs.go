package store

import (
	"encoding/json"
	"time"

	"gorm.io/gorm"
)

// Doc is a JSON document that the core has checked.
type Doc = json.RawMessage

// Rig is a bag as it hangs. Version counts its changes.
type Rig struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	GymID      string
	Name       string
	Kind       string
	Doc        Doc `gorm:"type:jsonb"`
	Place      Doc `gorm:"type:jsonb"`
	Version    int
	MeasuredAt time.Time // when a measure was last changed
	ArchivedAt *time.Time
	CreatedAt  time.Time
}

// Calibration is one measured parameter of a rig, fitted from evidence, with the value that it replaced.
type Calibration struct {
	ID            string `gorm:"default:gen_random_uuid()"`
	GymID         string
	RigID         string
	RigVersion    int // that it made
	Method        string
	Parameter     string
	Was           float64
	WasMeasuredAt time.Time // what the rig's MeasuredAt was before
	Value         float64
	Spread        *float64 // standard error of Value
	Residual      *float64 // s
	Evidence      Doc      `gorm:"type:jsonb"`
	UndoneAt      *time.Time
	CreatedAt     time.Time
}

// Rigs lists the gym's rigs by name: those that hang, or those that were archived.
func (g *Gym) Rigs(shelf Shelf) ([]Rig, error) { return listed[Rig](g, shelf, "name, id") }

// Rig returns one rig, archived or not.
func (g *Gym) Rig(id string) (Rig, error) { return find[Rig](g, id) }

// AddRig stores a new rig and fills in its id.
func (g *Gym) AddRig(r *Rig) error {
	r.GymID, r.Version, r.MeasuredAt, r.Place = g.ID, 1, g.Now().Truncate(time.Microsecond), placed(r.Place)
	return ownError(g.db.Create(r).Error)
}

// ChangeRig stores a rig's new name, measures and place over the version that was read; ErrConflict where another has
// been stored meanwhile.
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
	return rows, ownError(g.rows().Where("rig_id = ?", rigID).Order("created_at DESC, id").Find(&rows).Error)
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
		c.GymID, c.RigID, c.RigVersion, c.WasMeasuredAt, c.CreatedAt = g.ID, r.ID, r.Version, before.MeasuredAt,
			g.Now()
		if c.CreatedAt.Before(r.MeasuredAt) { // the change that a calibration makes does not put it out of date
			c.CreatedAt = r.MeasuredAt
		}
		return ownError(in.db.Create(c).Error)
	})
}

// Uncalibrate marks a calibration as undone and stores the rig's measures without it: both or neither. What was
// measured before holds again, unless the rig was changed since. ErrConflict where it is undone already.
func (g *Gym) Uncalibrate(c Calibration, r *Rig) error {
	return g.Together(func(in *Gym) error {
		before, err := in.Rig(r.ID)
		if err != nil {
			return err
		}
		done := in.rows().Model(&Calibration{}).Where("id = ? AND undone_at IS NULL",
			c.ID).Updates(map[string]any{"undone_at": g.Now()})
		if done.Error != nil {
			return ownError(done.Error)
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

// Calibration returns one calibration.
func (g *Gym) Calibration(id string) (Calibration, error) { return find[Calibration](g, id) }
