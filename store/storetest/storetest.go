// Package storetest opens fresh databases for tests.
package storetest

import (
	"context"
	"crypto/rand"
	"database/sql"
	"errors"
	"fmt"
	"net/url"
	"os"
	"strings"
	"sync"
	"testing"

	_ "github.com/jackc/pgx/v5/stdlib" // the driver that makes and drops databases

	"melodromos/store"
)

// Server is the variable that names a PostgreSQL server on which tests may make databases of their own. ./test sets it.
const Server = "TEST_DATABASE_URL"

// URL makes an empty database and drops it when the test ends. Without a server the test is skipped, but never in CI.
func URL(t testing.TB) string {
	t.Helper()
	return made(t, "")
}

// made makes a database, empty or a copy of another one.
func made(t testing.TB, like string) string {
	t.Helper()
	db := server(t)
	name, err := create(db, like)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		if err := drop(db, name); err != nil {
			t.Error(err)
		}
		_ = db.Close()
	})
	return address(name)
}

// server connects to the server on which tests may make databases.
func server(t testing.TB) *sql.DB {
	t.Helper()
	address := os.Getenv(Server)
	if address == "" {
		if os.Getenv("CI") != "" {
			t.Fatalf("%s is not set, and in CI nothing is skipped", Server)
		}
		t.Skipf("%s is not set: run ./test, which starts a PostgreSQL of its own", Server)
	}
	db, err := sql.Open("pgx", address)
	if err != nil {
		t.Fatal(err)
	}
	return db
}

// Exec runs a statement on a database as the house does: for a step that no release has taken yet.
func Exec(t testing.TB, url, statement string) {
	t.Helper()
	db, err := sql.Open("pgx", url)
	if err == nil {
		_, err = db.Exec("SET melodromos.gym = '*'; " + statement)
		err = errors.Join(err, db.Close())
	}
	if err != nil {
		t.Fatal(err)
	}
}

func create(db *sql.DB, like string) (string, error) {
	name := "test_" + strings.ToLower(rand.Text())
	statement := "CREATE DATABASE " + name
	if like != "" {
		statement += " TEMPLATE " + like
	}
	_, err := db.Exec(statement)
	return name, err
}

// drop drops a database whoever is still connected. Force is refused while the server's own vacuum is at work in it,
// for that is a superuser's; a plain drop sends the vacuum away.
func drop(db *sql.DB, name string) error {
	_, err := db.Exec("DROP DATABASE " + name + " WITH (FORCE)")
	if err != nil {
		_, err = db.Exec("DROP DATABASE " + name)
	}
	return err
}

func address(name string) string {
	u, err := url.Parse(os.Getenv(Server))
	if err != nil {
		panic(err) // it has been connected to
	}
	u.Path = "/" + name
	return u.String()
}

// patterns are databases that were filled once and are copied for each test.
var patterns struct {
	sync.Mutex
	kept bool // by a TestMain that drops them
	of   map[string]string
}

// Run runs a package's tests and then drops what Copy has kept; call it from TestMain.
func Run(m *testing.M) int {
	patterns.kept, patterns.of = true, map[string]string{}
	code := m.Run()
	if len(patterns.of) == 0 {
		return code
	}
	db, err := sql.Open("pgx", os.Getenv(Server))
	for _, name := range patterns.of {
		if err == nil {
			err = drop(db, name)
		}
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	return code
}

// Copy makes a database with all tables and whatever fill puts in, which is done once for all tests of a package that
// say the same name. It needs a TestMain that calls Run.
func Copy(t testing.TB, name string, fill func(*store.Store) error) string {
	t.Helper()
	patterns.Lock()
	defer patterns.Unlock()
	if !patterns.kept {
		t.Fatal("the TestMain of this package is to call storetest.Run")
	}
	if patterns.of[name] == "" {
		db := server(t)
		defer func() { _ = db.Close() }()
		pattern, err := create(db, "")
		if err != nil {
			t.Fatal(err)
		}
		patterns.of[name] = pattern
		s, err := store.Open(address(pattern))
		if err == nil {
			if err = s.Migrate(context.Background()); err == nil {
				err = fill(s)
			}
			err = errors.Join(err, s.Close())
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	return made(t, patterns.of[name])
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
	c := store.Coach{GymID: row.ID, Email: strings.ToLower(rand.Text()) + "@example.org", Name: "Coach of " + name,
		PasswordHash: "none"}
	if err := s.AddCoach(context.Background(), &c); err != nil {
		t.Fatal(err)
	}
	return s.Gym(context.Background(), c.GymID), c
}
