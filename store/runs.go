package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// AddRun stores a new run, ready to start, and fills in its id.
func (g *Gym) AddRun(r *Run) error {
	r.GymID, r.State, r.SeenAt = g.ID, RunReady, time.Now().UTC()
	return known(g.db.Create(r).Error)
}

// Run returns one run.
func (g *Gym) Run(id string) (Run, error) { return one[Run](g, id) }

// RunFilter narrows a list of runs. Zero values do not narrow; runs that were removed from the log are left out unless asked for.
type RunFilter struct {
	TraineeID string
	Removed   bool      // only those
	Before    time.Time // created before
	Limit     int
}

// Runs lists runs that have been started, newest first, without their timelines.
func (g *Gym) Runs(f RunFilter) ([]Run, error) {
	q := g.rows().Omit("timeline").Where("started_at IS NOT NULL").Order("created_at DESC, id")
	if f.Removed {
		q = q.Where("removed_at IS NOT NULL")
	} else {
		q = q.Where("removed_at IS NULL")
	}
	if f.TraineeID != "" {
		q = q.Where("trainee_id = ?", f.TraineeID)
	}
	if !f.Before.IsZero() {
		q = q.Where("created_at < ?", f.Before)
	}
	if f.Limit > 0 {
		q = q.Limit(f.Limit)
	}
	rows := []Run{}
	return rows, known(q.Find(&rows).Error)
}

// LastRuns returns the newest ended run of each drill, those left out that were removed or stopped before their first strike.
func (g *Gym) LastRuns() (map[string]Run, error) {
	var rows []Run
	err := g.rows().Select("DISTINCT ON (drill_id) id, gym_id, drill_id, trainee_id, rig_id, drill_name, state, summary, zone, started_at, ended_at, created_at").
		Where("started_at IS NOT NULL AND removed_at IS NULL AND (summary ->> 'planned')::int > 0").Order("drill_id, created_at DESC").Find(&rows).Error
	last := make(map[string]Run, len(rows))
	for _, r := range rows {
		last[r.DrillID] = r
	}
	return last, known(err)
}

// UpdateRun reads a run, lets change alter it and stores its course (state, clock, summary), all in one transaction that
// holds the row. change may refuse with an error, which is returned and leaves the row as it was.
func (g *Gym) UpdateRun(id string, change func(*Run) error) (Run, error) {
	var run Run
	err := g.db.Transaction(func(tx *gorm.DB) error {
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("gym_id = ? AND id = ?", g.ID, id).Take(&run).Error
		if err != nil {
			return err
		}
		if err := change(&run); err != nil {
			return err
		}
		return tx.Model(&Run{}).Where("gym_id = ? AND id = ?", g.ID, id).
			Select("State", "ClockUS", "ZeroAt", "SeenAt", "StartedAt", "EndedAt", "Ending", "Summary", "LatencyUS", "RemovedAt").Updates(&run).Error
	})
	return run, known(err)
}

// MostHits is how many hits, and how many marks, a run holds: several times what anybody strikes in the longest round.
const MostHits = 20_000

// ErrFull refuses hits and marks beyond MostHits.
var ErrFull = errors.New("the run holds as many hits or marks as it may")

// AddHits stores hits and marks of a run; those that were sent before are kept once. It returns how many hits were new. All are kept or
// none: ErrFull where there would be too many.
func (g *Gym) AddHits(runID string, hits []Hit, marks []Mark) (int, error) {
	var added int64
	err := g.db.Transaction(func(tx *gorm.DB) error {
		for i := range hits {
			hits[i].GymID, hits[i].RunID = g.ID, runID
		}
		for i := range marks {
			marks[i].GymID, marks[i].RunID = g.ID, runID
		}
		var err error
		if added, err = keepOnce(tx, runID, hits); err != nil {
			return err
		}
		_, err = keepOnce(tx, runID, marks)
		return err
	})
	return int(added), known(err)
}

// keepOnce stores what a run captured and tells how much of it was new.
func keepOnce[T any](tx *gorm.DB, runID string, list []T) (added int64, err error) {
	if len(list) == 0 {
		return 0, nil
	}
	done := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&list)
	if done.Error != nil {
		return 0, done.Error
	}
	var n int64
	if err := tx.Model(new(T)).Where("run_id = ?", runID).Count(&n).Error; err != nil {
		return 0, err
	}
	if n > MostHits {
		return 0, ErrFull
	}
	return done.RowsAffected, nil
}

// Hits lists a run's hits by their time.
func (g *Gym) Hits(runID string) ([]Hit, error) {
	rows := []Hit{}
	return rows, known(g.rows().Where("run_id = ?", runID).Order("at_us, device, seq").Find(&rows).Error)
}

// Marks lists a run's marks by their time.
func (g *Gym) Marks(runID string) ([]Mark, error) {
	rows := []Mark{}
	return rows, known(g.rows().Where("run_id = ?", runID).Order("at_us, device, seq").Find(&rows).Error)
}

// RunByIntake finds the run that a device's key opens, by the key's hash.
func (s *Store) RunByIntake(ctx context.Context, hash string) (Run, error) {
	var run Run
	return run, known(s.db.WithContext(ctx).Where("intake_hash = ?", hash).Take(&run).Error)
}

// Abandoned lists runs of all gyms that are open but have not been heard of since.
func (s *Store) Abandoned(ctx context.Context, since time.Time) ([]Run, error) {
	var rows []Run
	return rows, known(s.db.WithContext(ctx).Select("id, gym_id").
		Where("state IN ('ready', 'running', 'paused') AND seen_at < ?", since).Find(&rows).Error)
}
