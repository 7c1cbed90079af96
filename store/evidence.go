package store

import "time"

// Evidence is one figure that was found out about somebody.
type Evidence struct {
	ID        string `gorm:"default:gen_random_uuid()"`
	GymID     string
	TraineeID string
	RunID     *string
	Figure    string
	BagKind   *string // nil where no bag was struck
	Value     float64
	Spread    float64
	Origin    string
	Bound     bool
	Note      string
	FoundAt   time.Time
	CreatedAt time.Time
}

// TableName is the table's name.
func (Evidence) TableName() string { return "evidence" }

// Caution names something that somebody must be spared until it is lifted.
type Caution struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	GymID      string
	TraineeID  string
	Kind       string
	Note       string
	SetBy      string  // name of the coach, as it was
	SetByID    *string // nil where the coach has gone
	LiftedBy   string  // on whose word
	LiftedByID *string // coach who lifted it
	LiftedAt   *time.Time
	CreatedAt  time.Time
}

// Decision is a coach's decision on a proposal.
type Decision struct {
	ID        string `gorm:"default:gen_random_uuid()"`
	GymID     string
	TraineeID string
	BagKind   string
	Rung      string
	Choice    string
	Reason    string
	Coach     string  // name, as it was
	CoachID   *string // nil where the coach has gone
	CreatedAt time.Time
}

// ofTrainee lists rows of one trainee, or of all where the id is empty.
func ofTrainee[T any](g *Gym, traineeID, order string) ([]T, error) {
	rows := []T{}
	return rows, ownError(scopeTo(g.rows(), traineeID).Order(order).Find(&rows).Error)
}

// Evidence lists what was found out, the oldest first; of all trainees where the id is empty.
func (g *Gym) Evidence(traineeID string) ([]Evidence, error) {
	return ofTrainee[Evidence](g, traineeID, "found_at, id")
}

// AddEvidence stores what a test found.
func (g *Gym) AddEvidence(list []Evidence) error {
	for i := range list {
		list[i].GymID = g.ID
	}
	if len(list) == 0 {
		return nil
	}
	return g.Together(func(in *Gym) error { return in.db.Create(&list).Error })
}

// setEvidence replaces what a run has shown.
func (g *Gym) setEvidence(runID string, list []Evidence) error {
	if err := g.rows().Where("run_id = ?", runID).Delete(&Evidence{}).Error; err != nil {
		return err
	}
	for i := range list {
		list[i].RunID = &runID
	}
	return g.AddEvidence(list)
}

// Cautions lists a trainee's cautions, lifted ones too, the newest first; of all trainees where the id is empty.
func (g *Gym) Cautions(traineeID string) ([]Caution, error) {
	return ofTrainee[Caution](g, traineeID, "created_at DESC, id")
}

// AddCaution stores a caution and fills in its id.
func (g *Gym) AddCaution(c *Caution) error {
	c.GymID = g.ID
	return ownError(g.db.Create(c).Error)
}

// LiftCaution lifts a caution that stands, on somebody's word; coachID is who does it, nil for nobody who signs in.
func (g *Gym) LiftCaution(id, by string, coachID *string) error {
	done := g.rows().Model(&Caution{}).Where("id = ? AND lifted_at IS NULL",
		id).Updates(map[string]any{"lifted_by": by, "lifted_by_id": coachID, "lifted_at": g.Now()})
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNotFound
	}
	return ownError(done.Error)
}

// Decisions lists what was decided, the oldest first; for all trainees where the id is empty.
func (g *Gym) Decisions(traineeID string) ([]Decision, error) {
	return ofTrainee[Decision](g, traineeID, "created_at, id")
}

// AddDecision stores a decision.
func (g *Gym) AddDecision(d *Decision) error {
	d.GymID = g.ID
	return ownError(g.db.Create(d).Error)
}
