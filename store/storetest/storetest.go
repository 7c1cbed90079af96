// Package storetest opens fresh databases for tests.
package storetest

import (
	"context"
	"crypto/rand"
	"database/sql"
	"net/url"
	"os"
	"strings"
	"testing"

	_ "github.com/jackc/pgx/v5/stdlib" // the driver that makes and drops databases

	"melodromos/store"
)

// Server is the variable that names a PostgreSQL server on which tests may make databases of their own. ./test sets it.
const Server = "TEST_DATABASE_URL"

// URL makes an empty database and drops it when the test ends. Without a server the test is skipped, but never in CI.
func URL(t testing.TB) string {
	t.Helper()
	server := os.Getenv(Server)
	if server == "" {
		if os.Getenv("CI") != "" {
			t.Fatalf("%s is not set, and in CI nothing is skipped", Server)
		}
		t.Skipf("%s is not set: run ./test, which starts a PostgreSQL of its own", Server)
	}
	db, err := sql.Open("pgx", server)
	if err != nil {
		t.Fatal(err)
	}
	name := "test_" + strings.ToLower(rand.Text())
	if _, err := db.Exec("CREATE DATABASE " + name); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		if _, err := db.Exec("DROP DATABASE " + name + " WITH (FORCE)"); err != nil {
			t.Error(err)
		}
		_ = db.Close()
	})
	u, err := url.Parse(server)
	if err != nil {
		t.Fatal(err)
	}
	u.Path = "/" + name
	return u.String()
}

// Open opens a fresh database with all tables.
func Open(t testing.TB) *store.Store {
	t.Helper()
	return At(t, URL(t))
}

// At opens the database at an address and makes all its tables.
func At(t testing.TB, url string) *store.Store {
	t.Helper()
	s, err := store.Open(url)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	if err := s.Migrate(context.Background()); err != nil {
		t.Fatal(err)
	}
	return s
}

// Gym adds a gym with one coach and opens it.
func Gym(t testing.TB, s *store.Store, name string) (*store.Gym, store.Coach) {
	t.Helper()
	row := store.GymRow{Name: name, Units: "metric", Zone: "UTC"}
	if err := s.AddGym(context.Background(), &row); err != nil {
		t.Fatal(err)
	}
	c := store.Coach{GymID: row.ID, Email: strings.ToLower(rand.Text()) + "@example.org", Name: "Coach of " + name, PasswordHash: "none"}
	if err := s.AddCoach(context.Background(), &c); err != nil {
		t.Fatal(err)
	}
	return s.Gym(context.Background(), c.GymID), c
}
