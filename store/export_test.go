package store

import (
	"context"

	"gorm.io/gorm"
)

// MigrateTo brings the tables to a version, up or down; for tests of the migrations.
func (s *Store) MigrateTo(ctx context.Context, version int64) error {
	p, err := s.provider()
	if err != nil {
		return err
	}
	if version > 0 {
		if _, err := p.UpTo(inGym(ctx, everywhere), version); err != nil {
			return err
		}
	}
	_, err = p.DownTo(inGym(ctx, everywhere), version)
	return err
}

// DB is the connection underneath, with all rows in sight; for tests of the tables.
func (s *Store) DB() *gorm.DB { return s.inEveryGym(context.Background()) }

// Forgetful is a connection that works for a gym, or for nobody, and whose queries are without a filter; for tests of
// the second lock.
func (s *Store) Forgetful(ctx context.Context, gym string) *gorm.DB {
	return s.db.WithContext(inGym(ctx, gym))
}

// Unpack reads the two parts of a digest.
func Unpack(rounds, evidence []byte) (Digest, error) {
	return digest{Rounds: rounds, Evidence: evidence}.unpacked()
}

// OwnError turns an error of the database layer into one of this package.
func OwnError(err error) error { return ownError(err) }
