package store

import (
	"context"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// CoachByEmail finds a coach by e-mail address, in any case of letters.
func (s *Store) CoachByEmail(ctx context.Context, email string) (Coach, error) {
	var c Coach
	return c, known(s.db.WithContext(ctx).Where("email = ?", NormalEmail(email)).Take(&c).Error)
}

// Coach finds a coach by id.
func (s *Store) Coach(ctx context.Context, id string) (Coach, error) {
	var c Coach
	return c, known(s.db.WithContext(ctx).Where("id = ?", id).Take(&c).Error)
}

// NormalEmail is the form in which addresses are kept and compared.
func NormalEmail(email string) string { return strings.ToLower(strings.TrimSpace(email)) }

// AddCoach stores a coach, and the gym of that name if there is none yet. An address that is in use is ErrTaken.
func (s *Store) AddCoach(ctx context.Context, gym GymRow, c *Coach) error {
	c.Email = NormalEmail(c.Email)
	return known(s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		found := tx.Where("name = ? AND demo = ?", gym.Name, gym.Demo).Limit(1).Find(&gym)
		if found.Error != nil {
			return found.Error
		}
		if found.RowsAffected == 0 {
			if err := tx.Create(&gym).Error; err != nil {
				return err
			}
		}
		c.GymID = gym.ID
		return tx.Create(c).Error
	}))
}

// DemoGym returns the demo gym, ErrNotFound where none is loaded.
func (s *Store) DemoGym(ctx context.Context) (GymRow, error) {
	var row GymRow
	return row, known(s.db.WithContext(ctx).Where("demo").Take(&row).Error)
}

// DropGym deletes a gym and all that belongs to it.
func (s *Store) DropGym(ctx context.Context, id string) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		for _, table := range []string{"runs", "drills", "rigs", "trainees", "coaches"} {
			if err := tx.Exec("DELETE FROM "+table+" WHERE gym_id = ?", id).Error; err != nil {
				return err
			}
		}
		return tx.Exec("DELETE FROM gyms WHERE id = ?", id).Error
	})
}

// Sessions keeps sign-in sessions as rows; it is a store of alexedwards/scs.
type Sessions struct{ db *gorm.DB }

// Sessions returns the session store.
func (s *Store) Sessions() *Sessions { return &Sessions{s.db} }

type session struct {
	Token  string `gorm:"primaryKey"`
	Data   []byte
	Expiry time.Time
}

// FindCtx returns a session's data while it has not expired.
func (s *Sessions) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	var row session
	found := s.db.WithContext(ctx).Where("token = ? AND expiry > ?", token, time.Now().UTC()).Limit(1).Find(&row)
	return row.Data, found.RowsAffected > 0, found.Error
}

// CommitCtx stores a session.
func (s *Sessions) CommitCtx(ctx context.Context, token string, data []byte, expiry time.Time) error {
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(&session{token, data, expiry.UTC()}).Error
}

// DeleteCtx deletes a session.
func (s *Sessions) DeleteCtx(ctx context.Context, token string) error {
	return s.db.WithContext(ctx).Where("token = ?", token).Delete(&session{}).Error
}

// Find, Commit and Delete satisfy the store's older interface.
func (s *Sessions) Find(token string) ([]byte, bool, error) {
	return s.FindCtx(context.Background(), token)
}

// Commit stores a session.
func (s *Sessions) Commit(token string, data []byte, expiry time.Time) error {
	return s.CommitCtx(context.Background(), token, data, expiry)
}

// Delete deletes a session.
func (s *Sessions) Delete(token string) error { return s.DeleteCtx(context.Background(), token) }

// Sweep deletes sessions that have expired.
func (s *Sessions) Sweep(ctx context.Context) error {
	return s.db.WithContext(ctx).Where("expiry < ?", time.Now().UTC()).Delete(&session{}).Error
}
