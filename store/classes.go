package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// SessionPlan is a session that a gym has laid out.
type SessionPlan struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	GymID      string
	Name       string
	Doc        Doc `gorm:"type:jsonb"`
	Version    int
	MadeBy     *string // coach; nil where they have gone
	ArchivedAt *time.Time
	CreatedAt  time.Time
}

// Class is a class, planned or held: its plan, and all that was done to it on the floor.
type Class struct {
	ID        string `gorm:"default:gen_random_uuid()"`
	GymID     string
	CoachID   *string // nil where they have gone
	Name      string
	Plan      Doc    `gorm:"type:jsonb"`
	Deeds     Doc    `gorm:"type:jsonb"`
	GetReady  int    // s
	State     string // "ready", "running", "paused", "done" or "stopped"
	Ending    string // "bell", "stopped", "vanished", or "" while it is not over
	ClockUS   int64
	ZeroAt    *time.Time
	SeenAt    time.Time
	StartedAt *time.Time
	EndedAt   *time.Time
	RemovedAt *time.Time // from the log; it can be brought back
	Version   int
	CreatedAt time.Time
}

// TableName is the table's name.
func (Class) TableName() string { return "hours" }

// Turn is one person's part in a block of a class.
type Turn struct {
	ID           string `gorm:"default:gen_random_uuid()"`
	GymID        string
	ClassID      string `gorm:"column:hour_id"`
	Lap          int
	Round        int
	Block        int
	TraineeID    string
	RigID        *string // nil off the bag
	AssignmentID *string
	Rung         string
	Title        string
	Seconds      int
	Got          int
	Failed       int
	Carried      bool
	At           time.Time
}

// SessionPlans lists the gym's sessions, the newest first.
func (g *Gym) SessionPlans(shelf Shelf) ([]SessionPlan, error) {
	return listed[SessionPlan](g, shelf, "created_at DESC, id")
}

// SessionPlan returns one session, archived or not.
func (g *Gym) SessionPlan(id string) (SessionPlan, error) { return find[SessionPlan](g, id) }

// AddSessionPlan stores a new session, and fills in its id where it has none.
func (g *Gym) AddSessionPlan(p *SessionPlan) error {
	p.GymID, p.Version = g.ID, 1
	return ownError(g.db.Create(p).Error)
}

// ChangeSessionPlan stores a session over the version that was read, and reads it back; ErrConflict where another has
// been stored meanwhile.
func (g *Gym) ChangeSessionPlan(p *SessionPlan) error {
	err := g.over(&SessionPlan{}, p.ID, p.Version, map[string]any{"name": p.Name, "doc": string(p.Doc)})
	if err == nil {
		*p, err = g.SessionPlan(p.ID)
	}
	return err
}

// AddClass stores a new class, ready to begin, and fills in its id where it has none.
func (g *Gym) AddClass(h *Class) error {
	h.GymID, h.State, h.Version, h.SeenAt = g.ID, "ready", 1, g.Now()
	if h.Deeds == nil {
		h.Deeds = Doc("[]")
	}
	return ownError(g.db.Create(h).Error)
}

// Class returns one class.
func (g *Gym) Class(id string) (Class, error) { return find[Class](g, id) }

// MostClasses limits a list of classes.
const MostClasses = 60

// Classes lists the classes of the gym that were not removed, without plans and deeds, the newest first.
func (g *Gym) Classes() ([]Class, error) {
	rows := []Class{}
	return rows, ownError(g.rows().Omit("Plan", "Deeds").Where("removed_at IS NULL").
		Order("created_at DESC, id").Limit(MostClasses).Find(&rows).Error)
}

// MoveClass reads a class, lets change alter its plan and course and, in the same transaction and with the row locked,
// lets after do what belongs to it, such as logging what was done. Either may refuse with an error, which is returned
// and leaves everything as it was.
func (g *Gym) MoveClass(id string, change func(*Class) error, after func(in *Gym, h Class) error) (Class, error) {
	var h Class
	err := g.Together(func(in *Gym) error {
		if err := in.rows().Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ?",
			id).Take(&h).Error; err != nil {
			return err
		}
		if err := change(&h); err != nil {
			return err
		}
		err := in.rows().Model(&Class{}).Where("id = ?", id).
			Select("Name", "Plan", "Deeds", "State", "Ending", "ClockUS", "ZeroAt", "SeenAt", "StartedAt", "EndedAt",
				"RemovedAt", "Version").Updates(&h).Error
		if err != nil || after == nil {
			return err
		}
		return after(in, h)
	})
	return h, ownError(err)
}

// EachClass reads the classes that were not removed, plans and deeds too, a few at a time.
func (g *Gym) EachClass(each func(Class) error) error {
	return eachOf(g.rows().Where("removed_at IS NULL"), 20, each)
}

// eachOf reads the rows of a query by their ids, so many at a time, until each refuses one.
func eachOf[T any](q *gorm.DB, at int, each func(T) error) error {
	var rows []T
	return ownError(q.FindInBatches(&rows, at, func(*gorm.DB, int) error {
		for _, row := range rows {
			if err := each(row); err != nil {
				return err
			}
		}
		return nil
	}).Error)
}

// RemoveClass takes a class out of the lists; it is kept.
func (g *Gym) RemoveClass(id string) error {
	return g.change(&Class{}, id, map[string]any{"removed_at": g.Now()})
}

// PauseClass pauses a class whose plan cannot be read.
func (g *Gym) PauseClass(id string) error {
	return g.change(&Class{}, id, map[string]any{"state": "paused", "zero_at": nil})
}

// SetTurns stores what was done in a class; of a turn that is known its length and tries are set anew.
func (g *Gym) SetTurns(rows []Turn) error {
	if len(rows) == 0 {
		return nil
	}
	for i := range rows {
		rows[i].GymID = g.ID
	}
	return ownError(g.db.Clauses(clause.OnConflict{
		Columns: []clause.Column{{Name: "hour_id"}, {Name: "lap"}, {Name: "round"}, {Name: "block"},
			{Name: "trainee_id"}},
		DoUpdates: clause.AssignmentColumns([]string{"seconds", "got", "failed"}),
	}).CreateInBatches(&rows, 500).Error)
}

// Turns lists what was done in a class, in order.
func (g *Gym) Turns(classID string) ([]Turn, error) {
	rows := []Turn{}
	return rows, ownError(g.rows().Where("hour_id = ?", classID).Order("at, lap, block, id").Find(&rows).Error)
}

// Turn returns what somebody did in a block of a class.
func (g *Gym) Turn(id string) (Turn, error) { return find[Turn](g, id) }

// TurnsOf lists what somebody did on bags in classes that were not removed, since a day, the oldest first; of all where
// the id is empty.
func (g *Gym) TurnsOf(traineeID string, since time.Time) ([]Turn, error) {
	rows := []Turn{}
	classes := g.rows().Model(&Class{}).Select("id").Where("removed_at IS NULL")
	return rows, ownError(scopeTo(g.rows(), traineeID).Where("rig_id IS NOT NULL AND at >= ? AND hour_id IN (?)", since,
		classes).Order("at, id").Find(&rows).Error)
}

// QuietClasses lists classes of all gyms that run but have not been heard of since, by gym and id alone.
func (s *Store) QuietClasses(ctx context.Context, since time.Time) ([]Class, error) {
	var rows []Class
	return rows, ownError(s.inEveryGym(ctx).Select("id, gym_id").Where("state = 'running' AND seen_at < ?", since).
		Find(&rows).Error)
}
