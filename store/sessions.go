package store

import (
	"context"
	"time"

	"gorm.io/gorm/clause"
)

// Sessions keeps sign-in sessions as rows; it is a store of alexedwards/scs.
type Sessions struct{ store *Store }

// Sessions returns the session store.
func (s *Store) Sessions() *Sessions { return &Sessions{s} }

// signIn is the row of a sign-in.
type signIn struct {
	Token  string `gorm:"primaryKey"`
	Data   []byte
	Expiry time.Time
}

// TableName is the table's name.
func (signIn) TableName() string { return "sessions" }

// FindCtx returns a session's data while it has not expired.
func (s *Sessions) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	var row signIn
	found := s.store.inEveryGym(ctx).Where("token = ? AND expiry > ?", token, time.Now().UTC()).Limit(1).Find(&row)
	return row.Data, found.RowsAffected > 0, ownError(found.Error)
}

// CommitCtx stores a session.
func (s *Sessions) CommitCtx(ctx context.Context, token string, data []byte, expiry time.Time) error {
	return ownError(s.store.inEveryGym(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(&signIn{token, data,
		expiry.UTC()}).Error)
}

// DeleteCtx deletes a session.
func (s *Sessions) DeleteCtx(ctx context.Context, token string) error {
	return ownError(s.store.inEveryGym(ctx).Where("token = ?", token).Delete(&signIn{}).Error)
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
	return ownError(s.store.inEveryGym(ctx).Where("expiry < ?", time.Now().UTC()).Delete(&signIn{}).Error)
}
