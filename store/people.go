package store

import (
	"slices"
	"time"

	"gorm.io/gorm"
)

// Finding is one figure found out about somebody.
type Finding struct {
	ID        string `gorm:"default:gen_random_uuid()"`
	GymID     string
	TraineeID string
	RunID     *string
	Figure    string
	BagKind   string
	Value     float64
	Spread    float64
	Origin    string
	Bound     bool
	Note      string
	FoundAt   time.Time
	CreatedAt time.Time
}

// Caution is what somebody has to be spared until it is lifted.
type Caution struct {
	ID        string `gorm:"default:gen_random_uuid()"`
	GymID     string
	TraineeID string
	Kind      string
	Note      string
	SetBy     string
	LiftedBy  string
	LiftedAt  *time.Time
	CreatedAt time.Time
}

// Decision is what a coach did with what was proposed.
type Decision struct {
	ID        string `gorm:"default:gen_random_uuid()"`
	GymID     string
	TraineeID string
	BagKind   string
	Rung      string
	Choice    string
	Reason    string
	Coach     string
	CreatedAt time.Time
}

// of lists rows of one trainee, or of all where the id is empty.
func of[T any](g *Gym, traineeID, order string) ([]T, error) {
	q := g.rows()
	if traineeID != "" {
		q = q.Where("trainee_id = ?", traineeID)
	}
	rows := []T{}
	return rows, known(q.Order(order).Find(&rows).Error)
}

// Findings lists what was found out, the oldest first; of all trainees where the id is empty.
func (g *Gym) Findings(traineeID string) ([]Finding, error) {
	return of[Finding](g, traineeID, "found_at, id")
}

// AddFindings stores findings of one test.
func (g *Gym) AddFindings(list []Finding) error {
	for i := range list {
		list[i].GymID = g.ID
	}
	if len(list) == 0 {
		return nil
	}
	return known(g.db.Create(&list).Error)
}

// SetFindings replaces the findings of a run.
func (g *Gym) SetFindings(runID string, list []Finding) error {
	return known(g.db.Transaction(func(tx *gorm.DB) error {
		if err := tx.Where("gym_id = ? AND run_id = ?", g.ID, runID).Delete(&Finding{}).Error; err != nil {
			return err
		}
		for i := range list {
			list[i].GymID, list[i].RunID = g.ID, &runID
		}
		if len(list) == 0 {
			return nil
		}
		return tx.Create(&list).Error
	}))
}

// Cautions lists a trainee's cautions, lifted ones too, the newest first; of all trainees where the id is empty.
func (g *Gym) Cautions(traineeID string) ([]Caution, error) {
	return of[Caution](g, traineeID, "created_at DESC, id")
}

// AddCaution stores a caution and fills in its id.
func (g *Gym) AddCaution(c *Caution) error {
	c.GymID = g.ID
	return known(g.db.Create(c).Error)
}

// LiftCaution lifts a caution that stands.
func (g *Gym) LiftCaution(id, by string) error {
	done := g.rows().Model(&Caution{}).Where("id = ? AND lifted_at IS NULL", id).Updates(map[string]any{"lifted_by": by, "lifted_at": time.Now().UTC()})
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNotFound
	}
	return known(done.Error)
}

// Decisions lists what was decided, the oldest first; for all trainees where the id is empty.
func (g *Gym) Decisions(traineeID string) ([]Decision, error) {
	return of[Decision](g, traineeID, "created_at, id")
}

// AddDecision stores a decision.
func (g *Gym) AddDecision(d *Decision) error {
	d.GymID = g.ID
	return known(g.db.Create(d).Error)
}

// Rounds lists the ended runs of a trainee that came to a first strike and were not removed from the log, the oldest first, without their
// timelines; of all trainees where the id is empty.
func (g *Gym) Rounds(traineeID string) ([]Run, error) {
	q := g.rows().Select("id, gym_id, drill_id, trainee_id, rig_id, drill_name, rung, state, ending, summary, predicted, zone, started_at, ended_at, created_at").
		Where("started_at IS NOT NULL AND removed_at IS NULL AND (summary ->> 'planned')::int > 0")
	if traineeID != "" {
		q = q.Where("trainee_id = ?", traineeID)
	}
	rows := []Run{}
	return rows, known(q.Order("created_at, id").Find(&rows).Error)
}

// DrillOn returns the newest drill of a trainee on a rig that was made for a rung.
func (g *Gym) DrillOn(traineeID, rigID, rung string) (Drill, error) {
	var d Drill
	return d, known(g.rows().Where("trainee_id = ? AND rig_id = ? AND rung = ? AND retired_at IS NULL", traineeID, rigID, rung).
		Order("created_at DESC").Take(&d).Error)
}

// RoundsOn lists the newest ended runs on a rig that were not removed from the log, the oldest first, without their timelines.
func (g *Gym) RoundsOn(rigID string, since time.Time, most int) ([]Run, error) {
	rows := []Run{}
	err := g.rows().Select("id, gym_id, rig_id, trainee_id, rig_doc, summary, created_at").
		Where("rig_id = ? AND removed_at IS NULL AND created_at > ? AND jsonb_exists(summary, 'rig')", rigID, since).
		Order("created_at DESC, id").Limit(most).Find(&rows).Error
	slices.Reverse(rows)
	return rows, known(err)
}
