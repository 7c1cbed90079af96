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
		if _, err := p.UpTo(ctx, version); err != nil {
			return err
		}
	}
	_, err = p.DownTo(ctx, version)
	return err
}

// DB is the connection underneath; for tests of the tables.
func (s *Store) DB() *gorm.DB { return s.db }
