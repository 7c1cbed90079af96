// Package store keeps a gym's data in PostgreSQL.
//
// Everything that belongs to a gym is reached through a Gym handle, whose queries all carry the gym's id; the tables
// repeat the id in every reference, so that the database refuses a row that points into another gym; and row-level
// security shows a connection the rows of the gym it works for alone, should a query forget to ask for them.
package store

import (
	"context"
	"embed"
	"fmt"
	"io/fs"
	"time"

	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is a connection pool to one database.
type Store struct {
	db   *gorm.DB
	pool *pgxpool.Pool

	noted noted
	memo  *memo
}

// Open connects to a PostgreSQL database by its URL. It does not migrate.
func Open(url string) (*Store, error) {
	config, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("connect to the database: %w", err)
	}
	config.MaxConns, config.MaxConnIdleTime = 16, 5*time.Minute
	config.PrepareConn = scoped
	ctx, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	pool, err := pgxpool.NewWithConfig(ctx, config)
	if err != nil {
		return nil, fmt.Errorf("connect to the database: %w", err)
	}
	if err := pool.Ping(ctx); err != nil {
		pool.Close()
		return nil, fmt.Errorf("connect to the database: %w", err)
	}
	// The standard library's pool holds none back: each of its connections comes from the one above, which scopes it.
	db, err := gorm.Open(postgres.New(postgres.Config{Conn: stdlib.OpenDBFromPool(pool)}), &gorm.Config{
		Logger:         logger.Discard, // errors are returned, and logged by whoever cannot answer them
		NowFunc:        func() time.Time { return time.Now().UTC() },
		TranslateError: true,
	})
	if err != nil {
		pool.Close()
		return nil, fmt.Errorf("connect to the database: %w", err)
	}
	if err := watchDoor(db); err != nil {
		pool.Close()
		return nil, err
	}
	return &Store{db: db, pool: pool, memo: newMemo(),
		noted: noted{rows: map[string]map[string]Unreadable{}}}, nil
}

// SetClock has everything of the store go by another clock than the machine's, for tests whose answers hang on the day.
// It is set before the store is used.
func (s *Store) SetClock(now func() time.Time) { s.db.Config.NowFunc = now }

// Now is the time by the store's clock, in UTC.
func (s *Store) Now() time.Time { return s.db.NowFunc() }

// Now is the time by the store's clock, in UTC.
func (g *Gym) Now() time.Time { return g.db.NowFunc() }

// Close closes the pool.
func (s *Store) Close() error {
	pool, err := s.db.DB()
	if err == nil {
		err = pool.Close()
	}
	s.pool.Close()
	return err
}

// Ready says whether the database answers.
func (s *Store) Ready(ctx context.Context) error {
	return s.pool.Ping(ctx)
}

// Migrate brings the tables up to date.
func (s *Store) Migrate(ctx context.Context) error {
	p, err := s.provider()
	if err != nil {
		return err
	}
	if _, err := p.Up(inGym(ctx, everywhere)); err != nil {
		return fmt.Errorf("migrate the database: %w", err)
	}
	return nil
}

// NewestSchema is the version of the tables that this release brings a database up to.
func NewestSchema() (int64, error) {
	files, err := fs.ReadDir(migrations, "migrations")
	return int64(len(files)), err
}

// MigrateDown takes all tables away again, data and all; for tests of the migrations.
func (s *Store) MigrateDown(ctx context.Context) error {
	p, err := s.provider()
	if err != nil {
		return err
	}
	_, err = p.DownTo(inGym(ctx, everywhere), 0)
	return err
}

func (s *Store) provider() (*goose.Provider, error) {
	pool, err := s.db.DB()
	if err != nil {
		return nil, err
	}
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	// of several servers that start at once, one migrates and the others wait
	alone, err := lock.NewPostgresSessionLocker(lock.WithLockTimeout(1, 300))
	if err != nil {
		return nil, err
	}
	return goose.NewProvider(goose.DialectPostgres, pool, files, goose.WithSessionLocker(alone))
}
