package store

import (
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"

	"melodromos/core/drill"
	"melodromos/core/level"
)

// Drill is a drill for a kind of bag, with force, tempo and pull left open.
type Drill struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	GymID      string
	Name       string
	Kind       string
	Doc        Doc    `gorm:"type:jsonb"`
	Rung       string // of the ladder that it is the drill of; "" for none
	Version    int
	MadeBy     *string // coach; nil where that is not known
	ArchivedAt *time.Time
	CreatedAt  time.Time
}

// Assignment gives a drill to a person on a bag, with what it leaves open. Figures are nil where the drill's own hold.
type Assignment struct {
	ID          string `gorm:"default:gen_random_uuid()"`
	GymID       string
	DrillID     string
	TraineeID   string
	RigID       string
	Tempo       *float64 // strikes a minute
	Slower      *float64 // strikes a minute
	Fist        *float64 // m/s
	Pull        *float64 // m
	Work        *float64 // s
	Strikes     *int
	Repetitions *int
	Eased       level.OneThing // what is easier than the rung has it
	Own         bool           // the coach has set it: it is left as it is
	Version     int
	GivenBy     *string // coach; nil where that is not known
	ArchivedAt  *time.Time
	CreatedAt   time.Time

	Drill Drill `gorm:"foreignKey:DrillID"`
}

// Drills lists the gym's drills, newest first.
func (g *Gym) Drills(shelf Shelf) ([]Drill, error) {
	return listed[Drill](g, shelf, "created_at DESC, id")
}

// Drill returns one drill, archived or not.
func (g *Gym) Drill(id string) (Drill, error) { return find[Drill](g, id) }

// AddDrill stores a new drill and fills in its id.
func (g *Gym) AddDrill(d *Drill) error {
	d.GymID, d.Version = g.ID, 1
	return ownError(g.db.Create(d).Error)
}

// ChangeDrill stores a drill's name, document and rung over the version that was read, and reads it back; ErrConflict
// where another has been stored meanwhile.
func (g *Gym) ChangeDrill(d *Drill) error {
	err := g.over(&Drill{}, d.ID, d.Version, map[string]any{"name": d.Name, "doc": string(d.Doc), "rung": d.Rung})
	if err == nil {
		*d, err = g.Drill(d.ID)
	}
	return err
}

// EnsureDrill finds a drill in use for the same kind of bag with the same document and name, or stores it.
func (g *Gym) EnsureDrill(d *Drill) error {
	var row Drill
	err := ownError(g.rows().Where("kind = ? AND doc = ?::jsonb AND name = ? AND rung = ? AND archived_at IS NULL",
		d.Kind, string(d.Doc), d.Name, d.Rung).Order("created_at, id").Take(&row).Error)
	if errors.Is(err, ErrNotFound) {
		return g.AddDrill(d)
	}
	*d = row
	return err
}

// given starts a query on assignments with their drills.
func (g *Gym) given() *gorm.DB { return g.rows().Preload("Drill", "gym_id = ?", g.ID) }

// Assignments lists what people have, with the drills, the oldest first, without what was archived, be it the
// assignment, its drill, its bag or its person; of all trainees where the id is empty.
func (g *Gym) Assignments(traineeID string) ([]Assignment, error) {
	rows := []Assignment{}
	q := scopeTo(g.given(), traineeID).Where("archived_at IS NULL")
	for column, model := range map[string]any{"rig_id": &Rig{}, "trainee_id": &Trainee{}, "drill_id": &Drill{}} {
		q = q.Where(column+" IN (?)", g.rows().Model(model).Select("id").Where("archived_at IS NULL"))
	}
	return rows, ownError(q.Order("created_at, id").Find(&rows).Error)
}

// Holders lists who has a drill.
func (g *Gym) Holders(drillID string) ([]Assignment, error) {
	rows := []Assignment{}
	return rows, ownError(g.rows().Where("drill_id = ? AND archived_at IS NULL",
		drillID).Order("created_at, id").Find(&rows).Error)
}

// Assignment returns one assignment with its drill, archived or not.
func (g *Gym) Assignment(id string) (Assignment, error) {
	var row Assignment
	return row, ownError(g.given().Where("id = ?", id).Take(&row).Error)
}

// AddAssignment stores a new assignment and fills in its id. A drill, person or bag of another gym is ErrNotFound.
func (g *Gym) AddAssignment(a *Assignment) error {
	if err := g.fits(*a); err != nil {
		return err
	}
	a.GymID, a.Version = g.ID, 1
	return ownError(g.db.Omit("Drill").Create(a).Error)
}

// AllGiven lists what everybody has, the oldest first, without what was archived of it itself.
func (g *Gym) AllGiven() ([]Assignment, error) {
	rows := []Assignment{}
	return rows, ownError(g.rows().Where("archived_at IS NULL").Order("created_at, id").Find(&rows).Error)
}

// AddAssignments stores many at once and fills in their ids; whoever calls it sees to it that they fit their drills.
func (g *Gym) AddAssignments(list []Assignment) error {
	if len(list) == 0 {
		return nil
	}
	for i := range list {
		list[i].GymID, list[i].Version = g.ID, 1
	}
	return ownError(g.db.Omit("Drill").CreateInBatches(&list, 500).Error)
}

// ChangeAssignment stores an assignment's drill, bag and settings over the version that was read, and reads it back.
func (g *Gym) ChangeAssignment(a *Assignment) error {
	if err := g.fits(*a); err != nil {
		return err
	}
	err := g.over(&Assignment{}, a.ID, a.Version, map[string]any{
		"drill_id": a.DrillID, "rig_id": a.RigID, "tempo": a.Tempo, "slower": a.Slower, "fist": a.Fist, "pull": a.Pull,
		"work": a.Work, "strikes": a.Strikes,
		"repetitions": a.Repetitions, "eased": a.Eased, "own": a.Own,
	})
	if err == nil {
		*a, err = g.Assignment(a.ID)
	}
	return err
}

// DropDrill deletes a drill with its assignments; false, and nothing is deleted, where a round was run with it.
func (g *Gym) DropDrill(id string) (bool, error) {
	dropped := false
	err := g.Together(func(in *Gym) error {
		var runs int64
		if err := in.rows().Model(&Run{}).Where("drill_id = ?", id).Count(&runs).Error; err != nil || runs > 0 {
			return err
		}
		if err := in.rows().Where("drill_id = ?", id).Delete(&Assignment{}).Error; err != nil {
			return err
		}
		done := in.rows().Where("id = ?", id).Delete(&Drill{})
		dropped = done.RowsAffected > 0
		return done.Error
	})
	return dropped, ownError(err)
}

// Settings returns the settings of an assignment: force, tempo, pull and the like.
func (a Assignment) Settings() drill.Settings {
	return drill.Settings{Tempo: orZero(a.Tempo), Slower: orZero(a.Slower), Fist: orZero(a.Fist), Pull: orZero(a.Pull),
		Work: orZero(a.Work), Strikes: orZero(a.Strikes), Repetitions: orZero(a.Repetitions)}
}

// fits refuses settings that the drill does not take, by field, and a drill that cannot be read.
func (g *Gym) fits(a Assignment) error {
	d, err := g.Drill(a.DrillID)
	if err != nil {
		return err
	}
	plan, err := readPlan(d.Doc)
	if err == nil {
		_, err = drill.Set(plan, a.Settings())
	}
	if err != nil {
		return fmt.Errorf("assignments: %w", err)
	}
	return nil
}

func orZero[T any](v *T) (zero T) {
	if v != nil {
		zero = *v
	}
	return zero
}

// AssignmentOf returns the newest assignment of a drill to a trainee on a rig that is in use.
func (g *Gym) AssignmentOf(drillID, traineeID, rigID string) (Assignment, error) {
	var row Assignment
	return row, ownError(g.given().Where("drill_id = ? AND trainee_id = ? AND rig_id = ? AND archived_at IS NULL",
		drillID, traineeID, rigID).Order("created_at DESC").Take(&row).Error)
}
