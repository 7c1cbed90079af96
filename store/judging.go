package store

import (
	"time"

	"gorm.io/gorm"
)

// Fault is something that went wrong in a round, as it was judged.
type Fault struct {
	GymID  string
	RunID  string `gorm:"primaryKey"`
	Code   string `gorm:"primaryKey"`
	Place  int    // 0 is the most costly
	Cost   float64
	Effect float64
	Spread float64
	Times  int
}

// Rating is a coach's remark on a round, or on a turn in a class.
type Rating struct {
	ID        string `gorm:"default:gen_random_uuid()"`
	GymID     string
	RunID     *string
	TurnID    *string
	Clean     *int // counted by eye, of OutOf
	OutOf     *int
	Word      string // "held", "shaky", "notYet" or ""
	Note      string
	Coach     string  // name, as it was
	CoachID   *string // nil where the coach has gone
	Version   int
	CreatedAt time.Time
}

// CorrectionKind tells what a correction changes: one strike, or the judgement of the whole round.
type CorrectionKind string

// The kinds of correction.
const (
	CorrectedStrike CorrectionKind = "strike"
	Rejudged        CorrectionKind = "judged"
)

// Values lists the kinds of correction.
func (CorrectionKind) Values() []CorrectionKind { return []CorrectionKind{CorrectedStrike, Rejudged} }

// Correction is a change to a judgement.
type Correction struct {
	ID        string `gorm:"default:gen_random_uuid()"`
	GymID     string
	RunID     string
	Kind      CorrectionKind
	Strike    *int
	Verdict   string
	Reason    string
	Was       Doc     `gorm:"type:jsonb"`
	Coach     string  // name, as it was
	CoachID   *string // nil where the coach has gone
	UndoneAt  *time.Time
	CreatedAt time.Time
}

// setFaults replaces the faults of a run.
func (g *Gym) setFaults(runID string, list []Fault) error {
	if err := g.rows().Where("run_id = ?", runID).Delete(&Fault{}).Error; err != nil {
		return err
	}
	for i := range list {
		list[i].GymID, list[i].RunID, list[i].Place = g.ID, runID, i
	}
	if len(list) == 0 {
		return nil
	}
	return g.db.Create(&list).Error
}

// ofWhich narrows a query to what is said of a run, or else of a turn.
func (r Rating) ofWhich(q *gorm.DB) *gorm.DB {
	if r.RunID != nil {
		return q.Where("run_id = ?", *r.RunID)
	}
	return q.Where("turn_id = ?", r.TurnID)
}

// Rate stores what a coach says of a run or a turn over the version that was read, 0 where nothing was said yet; with
// nothing left to say it is taken away. ErrConflict where something else was said meanwhile.
func (g *Gym) Rate(r *Rating) error {
	return ownError(g.Together(func(in *Gym) error {
		of := func() *gorm.DB { return r.ofWhich(in.rows()) }
		empty := r.OutOf == nil && r.Word == "" && r.Note == ""
		if r.Version == 0 && !empty {
			r.GymID, r.Version = g.ID, 1
			return in.db.Create(r).Error
		}
		var done *gorm.DB
		if empty {
			done = of().Where("version = ?", r.Version).Delete(&Rating{})
		} else {
			done = of().Model(&Rating{}).Where("version = ?", r.Version).Updates(map[string]any{"clean": r.Clean,
				"out_of": r.OutOf, "word": r.Word, "note": r.Note, "coach": r.Coach, "coach_id": r.CoachID,
				"version": r.Version + 1})
		}
		if done.Error == nil && done.RowsAffected == 0 && r.Version > 0 {
			return ErrConflict
		}
		r.Version++
		return done.Error
	}))
}

// RatingOf returns the remark on a round; nil where there is none.
func (g *Gym) RatingOf(runID string) (*Rating, error) {
	var rows []Rating
	err := g.rows().Where("run_id = ?", runID).Limit(1).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return nil, ownError(err)
	}
	return &rows[0], nil
}

// TurnRatings lists what was said of the turns of a class.
func (g *Gym) TurnRatings(classID string) ([]Rating, error) {
	rows := []Rating{}
	turns := g.rows().Model(&Turn{}).Select("id").Where("hour_id = ?", classID)
	return rows, ownError(g.rows().Where("turn_id IN (?)", turns).Find(&rows).Error)
}

// AddCorrection stores a correction and fills in its id.
func (g *Gym) AddCorrection(c *Correction) error {
	c.GymID = g.ID
	if c.Was == nil {
		c.Was = Doc("{}")
	}
	return ownError(g.db.Create(c).Error)
}

// UndoCorrection takes a correction back; ErrNotFound where it is none of this run's, or was taken back before.
func (g *Gym) UndoCorrection(runID, id string) (Correction, error) {
	var c Correction
	err := g.Together(func(in *Gym) error {
		if err := in.rows().Where("id = ? AND run_id = ? AND undone_at IS NULL", id, runID).Take(&c).Error; err != nil {
			return err
		}
		return in.rows().Model(&Correction{}).Where("id = ?", id).Update("undone_at", g.Now()).Error
	})
	return c, ownError(err)
}

// Corrections lists what was changed about the judgement of a run, the oldest first, what was taken back as well.
func (g *Gym) Corrections(runID string) ([]Correction, error) {
	rows := []Correction{}
	return rows, ownError(g.rows().Where("run_id = ?", runID).Order("created_at, id").Find(&rows).Error)
}

// Rejudge stores the plan, the timeline and the delay by which a run is judged from then on.
func (g *Gym) Rejudge(r Run, line Doc) error {
	return ownError(g.Together(func(in *Gym) error {
		err := in.rows().Model(&Run{}).Where("id = ?", r.ID).Select("DrillDoc", "LatencyUS").Updates(&r).Error
		if err != nil {
			return err
		}
		return in.rows().Model(&timeline{}).Where("run_id = ?", r.ID).Update("doc", line).Error
	}))
}
