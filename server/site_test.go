package server

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"strings"
	"sync"
	"testing"
	"testing/fstest"

	"github.com/jackc/pgx/v5"

	"melodromos/account"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/store"
	"melodromos/store/storetest"
)

var ctx = context.Background()

// site is a server on a fresh database.
type site struct {
	*Server
	url      string
	store    *store.Store
	database string
}

func newSite(t testing.TB, with ...func(*Options)) site {
	t.Helper()
	database := storetest.Copy(t, "tables", func(*store.Store) error { return nil })
	s := storetest.At(t, database)
	o := Options{Store: s, Interface: fstest.MapFS{
		"index.html":  {Data: []byte("<title>page</title>")},
		"assets/a.js": {Data: []byte("//" + strings.Repeat("x", 4000))},
	}}
	for _, w := range with {
		w(&o)
	}
	srv := must(New(o))
	h := httptest.NewServer(srv.Handler())
	t.Cleanup(h.Close)
	running, stop := context.WithCancel(ctx)
	t.Cleanup(stop)
	srv.running = running
	srv.At(h.URL)
	return site{srv, h.URL, s, database}
}

// past reaches the database past the product, with the rows of all gyms in sight.
func (s site) past(t testing.TB, do func(db *pgx.Conn) error) {
	t.Helper()
	db, err := pgx.Connect(ctx, s.database)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = db.Close(ctx) }()
	if _, err = db.Exec(ctx, "SET melodromos.gym = '*'"); err == nil {
		err = do(db)
	}
	if err != nil {
		t.Fatal(err)
	}
}

// sql changes the database.
func (s site) sql(t testing.TB, statement string, args ...any) {
	t.Helper()
	s.past(t, func(db *pgx.Conn) error {
		_, err := db.Exec(ctx, statement, args...)
		return err
	})
}

// plan returns the database's plan of a query, with its times.
func (s site) plan(t testing.TB, query string, args ...any) (lines []string) {
	t.Helper()
	s.past(t, func(db *pgx.Conn) error {
		rows, err := db.Query(ctx, "EXPLAIN (ANALYZE, COSTS OFF, TIMING OFF) "+query, args...)
		if err == nil {
			lines, err = pgx.CollectRows(rows, pgx.RowTo[string])
		}
		return err
	})
	return lines
}

// number asks the database for a number.
func (s site) number(t testing.TB, query string, args ...any) (n int) {
	t.Helper()
	s.past(t, func(db *pgx.Conn) error { return db.QueryRow(ctx, query, args...).Scan(&n) })
	return n
}

// user is a coach at a browser.
type user struct {
	t      testing.TB
	url    string
	client *http.Client
	gym    *store.Gym
	email  string
}

var passwordHash = sync.OnceValue(func() string {
	return must(account.Hash(ctx, password))
})

func must[T any](v T, err error) T {
	if err != nil {
		panic(err)
	}
	return v
}

func (s site) coach(t testing.TB, gym string) user {
	t.Helper()
	jar, _ := cookiejar.New(nil)
	row := store.GymRow{Name: gym, Units: "metric", Zone: "Europe/Lisbon"}
	if err := s.store.AddGym(ctx, &row); err != nil {
		t.Fatal(err)
	}
	c := store.Coach{GymID: row.ID, Email: strings.ToLower(gym) + "@example.org", Name: gym,
		PasswordHash: passwordHash()}
	if err := s.store.AddCoach(ctx, &c); err != nil {
		t.Fatal(err)
	}
	u := user{t, s.url, &http.Client{Jar: jar}, s.store.Gym(ctx, c.GymID), c.Email}
	u.want(200, "POST", "/api/sign-in", signInBody{c.Email, password}, nil)
	return u
}

// do sends a request with a JSON body and returns the status and what was answered.
func (u user) do(method, path string, body any, headers ...string) (int, http.Header, []byte) {
	u.t.Helper()
	var in io.Reader
	switch b := body.(type) {
	case nil:
	case string:
		in = strings.NewReader(b)
	case io.Reader:
		in = b
	default:
		text, err := json.Marshal(b)
		if err != nil {
			u.t.Fatal(err)
		}
		in = bytes.NewReader(text)
	}
	req, err := http.NewRequest(method, u.url+path, in)
	if err != nil {
		u.t.Fatal(err)
	}
	req.Header.Set("Content-Type", "application/json")
	for i := 0; i < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
	}
	res, err := u.client.Do(req)
	if err != nil {
		u.t.Fatal(err)
	}
	defer func() { _ = res.Body.Close() }()
	out, err := io.ReadAll(res.Body)
	if err != nil {
		u.t.Fatal(err)
	}
	return res.StatusCode, res.Header, out
}

// want sends a request that must be answered with a status, and reads the answer.
func (u user) want(status int, method, path string, body, into any) string {
	u.t.Helper()
	got, _, out := u.do(method, path, body)
	if got != status {
		u.t.Fatalf("%s %s: %d %s, want %d", method, path, got, out, status)
	}
	if into != nil {
		if err := json.Unmarshal(out, into); err != nil {
			u.t.Fatalf("%s %s: %v in %s", method, path, err, out)
		}
	}
	return string(out)
}

var quayBag = rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.8,
	BoardHeight: 1.95}
var quay = RigDoc{Rig: quayBag}

// changed is the document of a technique with something changed.
func changed(doc DrillDoc, change func(*drill.SpeedBagDrill)) DrillDoc {
	d := doc.Plan.(drill.SpeedBagDrill)
	change(&d)
	return DrillDoc{Plan: d}
}

// furnished makes a trainee, a bag and a drill of so many seconds, through the interface.
func (u user) furnished(work float64) (Trainee, Rig, Assignment) {
	u.t.Helper()
	var trainee Trainee
	var bag Rig
	var d Assignment
	u.want(200, "POST", "/api/trainees", Trainee{Name: "Runa", Stance: "southpaw", Band: "beginner", AgeBand: "adult"},
		&trainee)
	u.want(200, "POST", "/api/rigs", Rig{Name: "Quay", Doc: quay}, &bag)
	var first DrillDoc
	u.want(200, "GET", "/api/first-drill/"+bag.ID, nil, &first)
	first = changed(first, func(d *drill.SpeedBagDrill) { d.Work = work })
	u.want(200, "POST", "/api/assignments", Assignment{RigID: bag.ID, TraineeID: trainee.ID, Doc: first}, &d)
	return trainee, bag, d
}

// The log of the requests is not the tests' matter.
func TestMain(m *testing.M) {
	slog.SetDefault(slog.New(slog.DiscardHandler))
	account.Light()
	os.Exit(storetest.Run(m))
}
