package store

import (
	"context"
	"time"

	"gorm.io/gorm"
)

// Gym is the data of one gym and nothing else.
type Gym struct {
	ID string
	db *gorm.DB
}

// Gym opens the data of one gym.
func (s *Store) Gym(ctx context.Context, id string) *Gym {
	return &Gym{ID: id, db: s.db.WithContext(ctx)}
}

// rows starts a query on rows of this gym alone.
func (g *Gym) rows() *gorm.DB { return g.db.Where("gym_id = ?", g.ID) }

// Row returns the gym's own row.
func (g *Gym) Row() (GymRow, error) {
	var row GymRow
	return row, known(g.db.Where("id = ?", g.ID).Take(&row).Error)
}

// ChangeRow stores the gym's units, its borders between slack and tight, its gate and its schools.
func (g *Gym) ChangeRow(row GymRow) error {
	return known(g.db.Model(&GymRow{}).Where("id = ?", g.ID).Updates(map[string]any{
		"units": row.Units, "border_slack": row.BorderSlack, "border_head": row.BorderHead, "border_tight": row.BorderTight,
		"gate_clean": row.GateClean, "gate_run": row.GateRun, "gate_rounds": row.GateRounds, "kicks": row.Kicks, "punch_names": row.PunchNames, "slip_names": row.SlipNames,
	}).Error)
}

// Counts tells how many people and rounds there are, retired and removed ones included.
func (g *Gym) Counts() (people, runs int64, err error) {
	if err := g.rows().Model(&Trainee{}).Count(&people).Error; err != nil {
		return 0, 0, known(err)
	}
	return people, runs, known(g.rows().Model(&Run{}).Count(&runs).Error)
}

func one[T any](g *Gym, id string) (T, error) {
	var row T
	return row, known(g.rows().Where("id = ?", id).Take(&row).Error)
}

func all[T any](g *Gym, order string) ([]T, error) {
	rows := []T{}
	return rows, known(g.rows().Where("retired_at IS NULL").Order(order).Find(&rows).Error)
}

// Trainees lists the gym's trainees by name, retired ones left out.
func (g *Gym) Trainees() ([]Trainee, error) { return all[Trainee](g, "name, id") }

// Trainee returns one trainee.
func (g *Gym) Trainee(id string) (Trainee, error) { return one[Trainee](g, id) }

// AddTrainee stores a new trainee and fills in its id.
func (g *Gym) AddTrainee(t *Trainee) error {
	t.GymID = g.ID
	return known(g.db.Create(t).Error)
}

// ChangeTrainee stores a trainee's new particulars.
func (g *Gym) ChangeTrainee(t *Trainee) error {
	return g.change(t, t.ID, map[string]any{
		"name": t.Name, "stance": t.Stance, "band": t.Band, "age_band": t.AgeBand,
		"height": t.Height, "reach": t.Reach, "eye": t.Eye, "mouth": t.Mouth, "chin": t.Chin, "notes": t.Notes,
		"goals": t.Goals, "dominant": t.Dominant, "weak": t.Weak, "sport": t.Sport, "school": t.School,
		"weeks_from": t.WeeksFrom, "weeks_days": t.WeeksDays, "weeks_rounds": t.WeeksRounds, "weeks_most": t.WeeksMost,
	})
}

// Drills lists the gym's drills, newest first; retired ones, and those for a retired rig, are left out.
func (g *Gym) Drills() ([]Drill, error) {
	rows := []Drill{}
	hung := g.rows().Model(&Rig{}).Select("id").Where("retired_at IS NULL")
	return rows, known(g.rows().Where("retired_at IS NULL AND rig_id IN (?)", hung).Order("created_at DESC, id").Find(&rows).Error)
}

// Drill returns one drill.
func (g *Gym) Drill(id string) (Drill, error) { return one[Drill](g, id) }

// AddDrill stores a new drill and fills in its id. A rig or trainee of another gym is ErrNotFound.
func (g *Gym) AddDrill(d *Drill) error {
	d.GymID, d.Version = g.ID, 1
	return known(g.db.Create(d).Error)
}

// ChangeDrill stores a drill anew over the version that was read, and reads it back; ErrConflict where another has been stored meanwhile.
func (g *Gym) ChangeDrill(d *Drill) error {
	err := g.over(&Drill{}, d.ID, d.Version, map[string]any{
		"name": d.Name, "rig_id": d.RigID, "trainee_id": d.TraineeID, "doc": string(d.Doc), "rung": d.Rung,
	})
	if err == nil {
		*d, err = g.Drill(d.ID)
	}
	return err
}

// Retire takes a row out of the lists without deleting what runs refer to; back brings it in again.
func (g *Gym) Retire(model any, id string, back bool) error {
	at := any(time.Now().UTC())
	if back {
		at = nil
	}
	return g.change(model, id, map[string]any{"retired_at": at})
}

// over updates columns of one row of the gym over the version that was read, and counts the version up. A version below 1 is none that
// was ever read, and is ErrConflict.
func (g *Gym) over(model any, id string, version int, columns map[string]any) error {
	columns["version"] = version + 1
	done := g.rows().Model(model).Where("id = ? AND version = ?", id, version).Updates(columns)
	if done.Error != nil || done.RowsAffected > 0 {
		return known(done.Error)
	}
	if err := g.exists(model, id); err != nil {
		return err
	}
	return ErrConflict
}

// change updates columns of one row of the gym, whatever its version.
func (g *Gym) change(model any, id string, columns map[string]any) error {
	done := g.rows().Model(model).Where("id = ?", id).Updates(columns)
	if done.Error == nil && done.RowsAffected == 0 {
		return g.exists(model, id)
	}
	return known(done.Error)
}

func (g *Gym) exists(model any, id string) error {
	var n int64
	if err := g.rows().Model(model).Where("id = ?", id).Count(&n).Error; err != nil {
		return known(err)
	}
	if n == 0 {
		return ErrNotFound
	}
	return nil
}
