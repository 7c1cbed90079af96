package store

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Coach is a person who signs in.
type Coach struct {
	ID           string `gorm:"default:gen_random_uuid()"`
	GymID        string
	Email        string // lower case
	Name         string
	PasswordHash string
	Epoch        int // sign-ins of an earlier one have ended
	CreatedAt    time.Time
}

// CoachByEmail finds a coach by e-mail address, in any case of letters.
func (s *Store) CoachByEmail(ctx context.Context, email string) (Coach, error) {
	var c Coach
	return c, ownError(s.inEveryGym(ctx).Where("email = ?", NormalEmail(email)).Take(&c).Error)
}

// Coach finds a coach by id.
func (s *Store) Coach(ctx context.Context, id string) (Coach, error) {
	var c Coach
	return c, ownError(s.inEveryGym(ctx).Where("id = ?", id).Take(&c).Error)
}

// NormalEmail is the form in which addresses are kept and compared.
func NormalEmail(email string) string { return strings.ToLower(strings.TrimSpace(email)) }

// AddGym stores a new gym and fills in its id. Two gyms may have the same name.
func (s *Store) AddGym(ctx context.Context, gym *GymRow) error {
	return ownError(s.inEveryGym(ctx).Create(gym).Error)
}

// Gyms lists all gyms, the oldest first.
func (s *Store) Gyms(ctx context.Context) ([]GymRow, error) {
	rows := []GymRow{}
	return rows, ownError(s.inEveryGym(ctx).Order("created_at, id").Find(&rows).Error)
}

// AddCoach stores a coach of the gym whose id it names, and fills in its own. An address that is in use is ErrTaken.
func (s *Store) AddCoach(ctx context.Context, c *Coach) error {
	c.Email = NormalEmail(c.Email)
	return ownError(s.inEveryGym(ctx).Create(c).Error)
}

// Coaches lists the gym's coaches by name.
func (g *Gym) Coaches() ([]Coach, error) {
	rows := []Coach{}
	return rows, ownError(g.rows().Order("name, id").Find(&rows).Error)
}

// SetPassword stores the hash of a coach's new password and ends all their sign-ins. It returns the epoch from which
// sign-ins hold.
func (g *Gym) SetPassword(coachID, hash string) (int, error) {
	return g.nextEpoch(coachID, map[string]any{"password_hash": hash})
}

// SignOutEverywhere ends all sign-ins of a coach, and returns the epoch from which new ones hold.
func (g *Gym) SignOutEverywhere(coachID string) (int, error) {
	return g.nextEpoch(coachID, map[string]any{})
}

func (g *Gym) nextEpoch(coachID string, columns map[string]any) (int, error) {
	var c Coach
	columns["epoch"] = gorm.Expr("epoch + 1")
	done := g.rows().Model(&c).Clauses(clause.Returning{Columns: []clause.Column{{Name: "epoch"}}}).Where("id = ?",
		coachID).Updates(columns)
	if done.Error == nil && done.RowsAffected == 0 {
		return 0, ErrNotFound
	}
	return c.Epoch, ownError(done.Error)
}

// RenameCoach changes a coach's name. What they did before stands under the old one.
func (g *Gym) RenameCoach(coachID, name string) error {
	return g.change(&Coach{}, coachID, map[string]any{"name": name})
}

// ErrLast refuses to remove the last coach of a gym: nobody could sign in to it any more.
var ErrLast = errors.New("the last coach of the gym")

// RemoveCoach deletes a coach with all sign-ins; the rounds they ran stay. The last one of a gym is ErrLast.
func (g *Gym) RemoveCoach(coachID string) error {
	return g.Together(func(in *Gym) error {
		var rows []Coach
		if err := in.rows().Clauses(clause.Locking{Strength: "UPDATE"}).Find(&rows).Error; err != nil {
			return ownError(err)
		}
		switch {
		case !slices.ContainsFunc(rows, func(c Coach) bool { return c.ID == coachID }):
			return ErrNotFound
		case len(rows) == 1:
			return ErrLast
		}
		return ownError(in.rows().Where("id = ?", coachID).Delete(&Coach{}).Error)
	})
}

// DemoGym returns the demo gym, ErrNotFound where none is loaded.
func (s *Store) DemoGym(ctx context.Context) (GymRow, error) {
	var row GymRow
	return row, ownError(s.inEveryGym(ctx).Where("demo").Take(&row).Error)
}

// DropGym deletes a gym and all that belongs to it.
func (s *Store) DropGym(ctx context.Context, id string) error {
	return ownError(s.inEveryGym(ctx).Transaction(func(tx *gorm.DB) error {
		for _, table := range []string{"runs", "assignments", "drills", "rigs", "trainees", "coaches"} {
			if err := tx.Exec("DELETE FROM "+table+" WHERE gym_id = ?", id).Error; err != nil {
				return err
			}
		}
		return tx.Exec("DELETE FROM gyms WHERE id = ?", id).Error
	}))
}
