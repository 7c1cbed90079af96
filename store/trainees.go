package store

import (
	"database/sql/driver"
	"fmt"
	"strconv"
	"strings"
	"time"

	"gorm.io/gorm"
)

// Trainee is a person who trains. Lengths are in metres; nil where not measured.
type Trainee struct {
	ID       string `gorm:"default:gen_random_uuid()"`
	GymID    string
	Name     string
	Stance   string
	Band     string
	AgeBand  string
	Height   *float64
	Reach    *float64
	Eye      *float64 // above the floor, in stance
	Mouth    *float64
	Chin     *float64
	Notes    string
	Goals    string
	Dominant string // "left", "right" or "" where it follows the stance
	Weak     string // "lead", "rear" or ""
	Sport    string `gorm:"default:boxing"` // "boxing" or "kicking"
	School   string // "fistRoll" where that comes first on the speed bag
	Version  int

	// Weeks, as they build up; WeeksFrom is nil where nothing is planned.
	WeeksFrom   *time.Time `gorm:"type:date"`
	WeeksDays   Days       `gorm:"type:smallint[]"`
	WeeksRounds int        `gorm:"default:4"`
	WeeksMost   int        `gorm:"default:8"`

	ArchivedAt *time.Time
	CreatedAt  time.Time
}

// Days are days of the week, 0 for Sunday, as an array of PostgreSQL.
type Days []int

// Value writes the array.
func (d Days) Value() (driver.Value, error) {
	list := make([]string, len(d))
	for i, n := range d {
		list[i] = strconv.Itoa(n)
	}
	return "{" + strings.Join(list, ",") + "}", nil
}

// Scan reads the array.
func (d *Days) Scan(from any) error {
	text, ok := from.(string)
	if !ok {
		return fmt.Errorf("days of the week as %T", from)
	}
	*d = Days{}
	for _, field := range strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune("{},", r) }) {
		n, err := strconv.Atoi(field)
		if err != nil {
			return fmt.Errorf("days of the week: %w", err)
		}
		*d = append(*d, n)
	}
	return nil
}

// Trainees lists people by name: those who train, or those who were archived.
func (g *Gym) Trainees(shelf Shelf) ([]Trainee, error) { return listed[Trainee](g, shelf, "name, id") }

// Trainee returns one trainee, archived or not.
func (g *Gym) Trainee(id string) (Trainee, error) { return find[Trainee](g, id) }

// AddTrainee stores a new trainee, and fills in its id where it has none.
func (g *Gym) AddTrainee(t *Trainee) error {
	t.GymID, t.Version = g.ID, 1
	return ownError(g.db.Create(t).Error)
}

// ChangeTrainee stores a trainee's new particulars over the version that was read, and reads them back; ErrConflict
// where others have been stored meanwhile.
func (g *Gym) ChangeTrainee(t *Trainee) error {
	err := g.over(&Trainee{}, t.ID, t.Version, map[string]any{
		"name": t.Name, "stance": t.Stance, "band": t.Band, "age_band": t.AgeBand,
		"height": t.Height, "reach": t.Reach, "eye": t.Eye, "mouth": t.Mouth, "chin": t.Chin, "notes": t.Notes,
		"goals": t.Goals, "dominant": t.Dominant, "weak": t.Weak, "sport": t.Sport, "school": t.School,
		"weeks_from": t.WeeksFrom, "weeks_days": t.WeeksDays, "weeks_rounds": t.WeeksRounds, "weeks_most": t.WeeksMost,
	})
	if err == nil {
		*t, err = g.Trainee(t.ID)
	}
	return err
}

// scopeTo narrows a query to one trainee; "" leaves it to all.
func scopeTo(q *gorm.DB, traineeID string) *gorm.DB {
	if traineeID == "" {
		return q
	}
	return q.Where("trainee_id = ?", traineeID)
}
