package server

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/coder/websocket"

	"melodromos/account"
	"melodromos/server/door"
)

// With the database down every route says so, and sign-in never that the password is wrong.
func TestDatabaseDown(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Cedar")
	u.client.Timeout = 20 * time.Second
	paths := s.api.OpenAPI().Paths
	_ = s.store.Close()
	for name, asks := range map[string]user{"signed in": u, "stranger": s.stranger(t)} {
		if status, header, out := asks.do("POST", "/api/sign-in", signInBody{u.email, password}); status != 503 ||
			header.Get("Retry-After") == "" {
			t.Errorf("sign-in, %s: %d %v %s", name, status, header, out)
		}
	}
	walked := 0
	for path, item := range paths {
		if item.Get == nil || !strings.HasPrefix(path, "/api/") {
			continue
		}
		walked++
		filled := strings.NewReplacer("{id}", "00000000-0000-4000-8000-000000000000", "{trainee}",
			"00000000-0000-4000-8000-000000000000", "{kind}", "speed", "{key}", strings.Repeat("k", 26)).Replace(path)
		if status, header, out := u.do("GET", filled, nil); status != 503 || header.Get("Retry-After") == "" ||
			!strings.Contains(string(out), "database does not answer") {
			t.Errorf("GET %s: %d %v %s", filled, status, header, out)
		}
	}
	if walked < 15 {
		t.Errorf("only %d were walked", walked)
	}
	u.want(503, "GET", "/api/runs/00000000-0000-4000-8000-000000000000/live", nil, nil)
}

// A database that is there but does not answer is told in time, too.
func TestDatabaseHangs(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Cypress")
	s.patience = 300 * time.Millisecond
	db, err := sql.Open("pgx", s.database)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = db.Close() }()
	held, err := db.BeginTx(ctx, nil)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = held.Rollback() }()
	if _, err := held.ExecContext(ctx, "LOCK TABLE coaches"); err != nil {
		t.Fatal(err)
	}
	for _, path := range []string{"/api/today", "/api/sign-in"} {
		if status, _, out := u.do("GET", path, nil); status != 503 ||
			!strings.Contains(string(out), "database does not answer") {
			t.Errorf("GET %s: %d %s", path, status, out)
		}
	}
	if status, _, out := s.stranger(t).do("POST", "/api/sign-in", signInBody{u.email, password}); status != 503 {
		t.Errorf("sign-in: %d %s", status, out)
	}
}

// A live feed ends when nobody is signed in with its session any more.
func TestLiveFeedEndsWithTheSession(t *testing.T) {
	s := newSite(t)
	s.pulse = 20 * time.Millisecond
	u := s.coach(t, "Fir")
	_, _, d := u.furnished(10)
	var run Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &run)
	soon, cancel := context.WithTimeout(ctx, 10*time.Second)
	defer cancel()
	conn, _, err := websocket.Dial(soon, s.url+"/api/runs/"+run.ID+"/live",
		&websocket.DialOptions{HTTPClient: u.client})
	if err != nil {
		t.Fatal(err)
	}
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 0}, nil)
	if _, _, err := conn.Read(soon); err != nil {
		t.Fatalf("while signed in: %v", err)
	}
	u.want(204, "POST", "/api/sign-out", nil, nil)
	var closed websocket.CloseError
	if _, _, err := conn.Read(soon); !errors.As(err, &closed) || closed.Code != websocket.StatusPolicyViolation {
		t.Errorf("after the session: %v", err)
	}
}

// Whoever has asked the calculator too much is put off, by the address that stands behind the proxy.
func TestCalculatorGate(t *testing.T) {
	s := newSite(t, behind)
	u := s.stranger(t)
	if status, _, out := u.do("POST", "/api/calc/returns", `{}`, "X-Forwarded-For", "a"); status != 422 {
		t.Errorf("a source that is no address is the proxy's own: %d %s", status, out)
	}
	s.gate.Spend(door.Network("203.0.113.7"))
	if status, header, out := u.do("POST", "/api/calc/returns", `{}`, "X-Forwarded-For",
		"203.0.113.7"); status != 429 || header.Get("Retry-After") == "" {
		t.Errorf("a source without budget: %d %s", status, out)
	}
}

// What a person types is told by what it would come to; what only a program would send is refused before it is worked
// on.
func TestEndlessRounds(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Ginkgo")
	person, rigs := u.hung("doubleEnd")
	doc := func(text string, repetitions int) json.RawMessage {
		return json.RawMessage(
			fmt.Sprintf(
				`{"text":%q,"landing":"returns","pace":"combination","pause":6,"repetitions":%d,"guidance":"fading","cues":{"moves":["duck"],"least":0.5,"mean":1}}`, text, repetitions))
	}
	for name, c := range map[string]struct {
		doc   json.RawMessage
		tells string
	}{
		"1000 repetitions": {doc("1-2", 1000), " minutes, and a round lasts 60 at most"},
		"400 moves, 2000 times": {doc("(1-2)x50 - (1-2)x50 - (1-2)x50 - (1-2)x50", 2000),
			"a round holds 6000 strikes at most"},
		"a cue at every second": {doc("1-2", 2000), "a round lasts 60 at most"},
		"within what there is":  {doc("1-2", 300), ""},
		"a technique that lasts": {
			json.RawMessage(`{"technique":"oneHand","firstHand":"rear","rebounds":3,"tempo":20,"strikes":2000}`),
			"2000 of them would last 100 minutes"},
	} {
		for _, path := range []string{"/api/compose", "/api/compose", "/api/assignments"} {
			began := time.Now()
			body := map[string]any{"rigId": rigs["doubleEnd"].ID, "traineeId": person.ID, "doc": c.doc}
			if path == "/api/assignments" {
				body["name"], body["version"] = "", 0
			}
			status, _, out := u.do("POST", path, body)
			if c.tells == "" && status != 200 || c.tells != "" &&
				(status != 422 || !strings.Contains(string(out), c.tells)) {
				t.Errorf("%s to %s: %d %.300s, want %q", name, path, status, out, c.tells)
			}
			t.Logf("%s to %s: %s", name, path, time.Since(began).Round(time.Millisecond))
		}
	}
}

// Answers are kept by no browser and no proxy, and a sign-in that found no turn is told to come back.
func TestAnswersArePrivate(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Ivy")
	for _, path := range []string{"/api/today", "/api/sign-in", "/api/elsewhere",
		"/api/intake/" + strings.Repeat("k", 26)} {
		if _, header, _ := u.do("GET", path, nil); header.Get("Cache-Control") != "no-store" {
			t.Errorf("%s: %q", path, header.Get("Cache-Control"))
		}
	}
	status, header, _ := u.do("POST", "/api/sign-in", signInBody{u.email, password})
	if said := strings.Join(header.Values("Cache-Control"), ", "); status != 200 || header.Get("Set-Cookie") == "" ||
		!strings.Contains(said, "no-store") {
		t.Errorf("with a cookie: %d %q", status, said)
	}
	if problem := refused(ctx, "", account.ErrBusy); !strings.Contains(problem.Error(), "Try again in a moment") {
		t.Errorf("%v", problem)
	}
}
