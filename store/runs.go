package store

import (
	"context"
	"errors"
	"melodromos/core/level"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Run is one round on a bag, with the rig and the drill it was run with. Its timeline lies in a table of its own.
type Run struct {
	ID           string `gorm:"default:gen_random_uuid()"`
	GymID        string
	DrillID      string  `gorm:"default:null"` // "" of a round that came in as a table, where it is none of the gym's
	AssignmentID *string // nil where it is gone
	RigID        string
	TraineeID    *string // nil where the person was erased
	CoachID      *string // nil where the coach was removed
	DrillName    string
	Rung         string // of the drill, as it was
	Eased        level.OneThing
	RigDoc       Doc `gorm:"type:jsonb"`
	DrillDoc     Doc `gorm:"type:jsonb"`
	Source       string
	Plays        string `gorm:"default:beat"` // "beat", "follow" or "startThenFollow"
	State        string // "ready", "running", "paused", "done" or "stopped"
	Ending       string // "bell", "stopped", "vanished", or "" while it is not over
	IntakeHash   string
	LatencyUS    *int64
	ClockUS      int64
	ZeroAt       *time.Time
	Zone         string
	SeenAt       time.Time
	StartedAt    *time.Time
	EndedAt      *time.Time
	// share of the strikes that was to meet the bag, by the models alone; nil where nothing was predicted
	Predicted *float64
	RemovedAt *time.Time // from the log; it can be brought back
	LateAt    *time.Time // when something came after the end that is not judged yet
	BroughtAt *time.Time // nil of a round that was held here: any other came in as a table, and has no timeline
	CreatedAt time.Time
}

// Outcome is the result of a round: its state, its judgement and its faults.
type Outcome struct {
	RunID string `gorm:"primaryKey"`
	GymID string
	// Conclusion is a code of what could be judged; "" of a round out of a table, which has a Headline.
	Conclusion string
	Headline   string
	Scored     *int // strikes that count; nil where it is not known
	Planned    int
	Hits       int
	Clean      int
	Missed     *int // nil in rounds of older releases
	Extra      *int
	OffsetS    *float64
	Longest    int
	Passes     int
	Share      float64
	Give       float64
	Tempo      *float64
	Asked      *float64
	Counts     bool
	Judged     bool
	Wild       bool
	Lasted     *float64 // s; nil where that is not known

	RigParameter *string
	RigValue     *float64
	RigSpread    *float64
	RigSteps     *int

	JudgedAt time.Time
}

// timeline is the row of the timeline that a round was run by.
type timeline struct {
	RunID string `gorm:"primaryKey"`
	GymID string
	Doc   Doc `gorm:"type:jsonb"`
}

// TableName is the table's name.
func (timeline) TableName() string { return "timelines" }

// Hit is one captured hit, numbered by whoever captured it.
type Hit struct {
	GymID  string
	RunID  string
	Device string
	Seq    int
	AtUS   int64
	Hand   *string
	Force  *float64 // N, where the sensor tells
	Launch *float64 // m/s at which the bag was driven off, where the sensor tells
}

// Mark is something a coach saw at a moment of a run.
type Mark struct {
	GymID  string
	RunID  string
	Device string
	Seq    int
	AtUS   int64
	Kind   string
}

// AddRun stores a new run with its timeline, ready to start, and fills in its id.
func (g *Gym) AddRun(r *Run, line Doc) error {
	r.GymID, r.State, r.SeenAt = g.ID, "ready", g.Now()
	return g.Together(func(in *Gym) error {
		if err := in.db.Create(r).Error; err != nil {
			return err
		}
		return in.db.Create(&timeline{r.ID, g.ID, line}).Error
	})
}

// Run returns one run.
func (g *Gym) Run(id string) (Run, error) { return find[Run](g, id) }

// EachRunDoc reads the bags and drills that rounds were run with, of all that were not removed, some at a time, without
// the rest of the round. A round that came in as a table has none.
func (g *Gym) EachRunDoc(each func(Run) error) error {
	return eachOf(g.rows().Select("id", "gym_id", "drill_name", "rig_doc", "drill_doc").
		Where("brought_at IS NULL AND trainee_id IS NOT NULL AND removed_at IS NULL"), 500, each)
}

// RemoveRun takes a round out of the log, with what it showed of anybody; the round itself is kept.
func (g *Gym) RemoveRun(id string) error {
	return g.Together(func(in *Gym) error {
		if err := in.change(&Run{}, id, map[string]any{"removed_at": g.Now()}); err != nil {
			return err
		}
		return in.setEvidence(id, nil)
	})
}

// Timeline returns what a run was run by; ErrNotFound where the person was erased.
func (g *Gym) Timeline(runID string) (Doc, error) {
	var row timeline
	return row.Doc, ownError(g.rows().Where("run_id = ?", runID).Take(&row).Error)
}

// MoveRun reads a run, lets change alter its course and, within the same transaction and with the row held, lets after
// do what belongs to it, such as judging a run that has ended. Either may refuse with an error, which is returned and
// leaves everything as it was.
func (g *Gym) MoveRun(id string, change func(*Run) error, after func(in *Gym, r Run) error) (Run, error) {
	var run Run
	err := g.Together(func(in *Gym) error {
		if err := in.rows().Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ?",
			id).Take(&run).Error; err != nil {
			return err
		}
		if err := change(&run); err != nil {
			return err
		}
		err := in.rows().Model(&Run{}).Where("id = ?", id).
			Select("State", "ClockUS", "ZeroAt", "SeenAt", "StartedAt", "EndedAt", "Ending", "LatencyUS",
				"RemovedAt", "Source", "LateAt").Updates(&run).Error
		if err != nil || after == nil {
			return err
		}
		return after(in, run)
	})
	return run, err
}

// SetOutcome stores what became of a run, what went wrong in it, and what it shows of whoever was on the bag, in place
// of what was there.
func (g *Gym) SetOutcome(o Outcome, faults []Fault, shows []Evidence) error {
	o.GymID, o.JudgedAt = g.ID, g.Now()
	return g.Together(func(in *Gym) error {
		if err := in.db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&o).Error; err != nil {
			return err
		}
		if err := in.setFaults(o.RunID, faults); err != nil {
			return err
		}
		return in.setEvidence(o.RunID, shows)
	})
}

// MostHits limits the hits, and the marks, of a round: several times what anybody strikes in the longest.
const MostHits = 20_000

// ErrFull refuses hits and marks beyond MostHits.
var ErrFull = errors.New("the run holds as many hits or marks as it may")

// AddHits stores hits and marks of a run; those that were sent before are kept once. It returns how many hits were new.
// All are kept or none: ErrFull where there would be too many.
func (g *Gym) AddHits(runID string, hits []Hit, marks []Mark) (int, error) {
	var added int64
	err := g.Together(func(in *Gym) error {
		for i := range hits {
			hits[i].GymID, hits[i].RunID = g.ID, runID
		}
		for i := range marks {
			marks[i].GymID, marks[i].RunID = g.ID, runID
		}
		var err error
		if added, err = keepOnce(in.db, runID, hits); err != nil {
			return err
		}
		_, err = keepOnce(in.db, runID, marks)
		return err
	})
	return int(added), err
}

// DropHits forgets what a device captured in a run.
func (g *Gym) DropHits(runID, device string) error {
	return ownError(g.rows().Where("run_id = ? AND device = ?", runID, device).Delete(&Hit{}).Error)
}

// keepOnce stores what a run captured and tells how much of it was new.
func keepOnce[T any](tx *gorm.DB, runID string, list []T) (added int64, err error) {
	if len(list) == 0 {
		return 0, nil
	}
	done := tx.Clauses(clause.OnConflict{DoNothing: true}).CreateInBatches(&list, 1000)
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
	return rows, ownError(g.rows().Where("run_id = ?", runID).Order("at_us, device, seq").Find(&rows).Error)
}

// Marks lists a run's marks by their time.
func (g *Gym) Marks(runID string) ([]Mark, error) {
	rows := []Mark{}
	return rows, ownError(g.rows().Where("run_id = ?", runID).Order("at_us, device, seq").Find(&rows).Error)
}

// RunByIntake finds the run that a device's key opens, by the key's hash.
func (s *Store) RunByIntake(ctx context.Context, hash string) (Run, error) {
	var run Run
	return run, ownError(s.inEveryGym(ctx).Where("intake_hash = ?", hash).Take(&run).Error)
}

// Abandoned lists runs of all gyms that are open but have not been heard of since, by gym and id alone.
func (s *Store) Abandoned(ctx context.Context, since time.Time) ([]Run, error) {
	var rows []Run
	return rows, ownError(s.inEveryGym(ctx).Select("id, gym_id").
		Where("state IN ('ready', 'running', 'paused') AND seen_at < ?", since).Find(&rows).Error)
}

// CameLate notes that something came to a run that is over: it is judged anew once nothing more comes.
func (g *Gym) CameLate(id string) error {
	return ownError(g.rows().Model(&Run{}).Where("id = ?", id).Update("late_at", gorm.Expr("now()")).Error)
}

// Late lists runs of all gyms to which something came after their end, and nothing since a while, by gym and id alone.
func (s *Store) Late(ctx context.Context, quiet time.Duration) ([]Run, error) {
	var rows []Run
	return rows, ownError(s.inEveryGym(ctx).Select("id, gym_id").Where("late_at <= now() - make_interval(secs => ?)",
		quiet.Seconds()).Find(&rows).Error)
}

// LeftOpen lists runs of all gyms that have ended and were never judged, as a crash leaves them, by gym and id alone.
func (s *Store) LeftOpen(ctx context.Context) ([]Run, error) {
	var rows []Run
	return rows, ownError(s.inEveryGym(ctx).Select("runs.id, runs.gym_id").Joins(
		"LEFT JOIN outcomes ON outcomes.run_id = runs.id").
		Where("state IN ('done', 'stopped') AND outcomes.run_id IS NULL AND trainee_id IS NOT NULL").Find(&rows).Error)
}
