package server

import (
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"reflect"
	"strings"
	"sync"
	"testing"
	"testing/fstest"

	"github.com/jackc/pgx/v5"

	"melodromos/account"
	"melodromos/core/bench"
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

// sql changes the database past the product, with the rows of all gyms in sight.
func (s site) sql(t testing.TB, statement string, args ...any) {
	t.Helper()
	db, err := pgx.Connect(ctx, s.database)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = db.Close(ctx) }()
	if _, err := db.Exec(ctx, "SET melodromos.gym = '*'"); err != nil {
		t.Fatal(err)
	}
	if _, err := db.Exec(ctx, statement, args...); err != nil {
		t.Fatal(err)
	}
}

// user is a coach at a browser.
type user struct {
	t      testing.TB
	url    string
	client *http.Client
	gym    *store.Gym
	email  string
}

const password = "a long password"

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

func TestSignIn(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Alder")
	var info SignInInfo
	u.want(200, "GET", "/api/sign-in", nil, &info)
	if info.Me == nil || info.Me.Gym != "Alder" {
		t.Errorf("%+v", info)
	}
	_, header, _ := u.do("POST", "/api/sign-in", signInBody{u.email, password})
	cookie := header.Get("Set-Cookie")
	if !strings.Contains(cookie, "HttpOnly") || !strings.Contains(cookie, "SameSite=Lax") {
		t.Errorf("cookie %q", cookie)
	}
	u.want(204, "POST", "/api/sign-out", nil, nil)
	u.want(401, "GET", "/api/today", nil, nil)
	u.want(401, "POST", "/api/sign-in", signInBody{"nobody@example.org", password}, nil)
}

func TestCrossOrigin(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Cedar")
	status, header, out := u.do("POST", "/api/trainees",
		Trainee{Name: "X", Stance: "orthodox", Band: "beginner", AgeBand: "adult"}, "Origin",
		"https://elsewhere.example", "Sec-Fetch-Site", "cross-site")
	if status != 403 || header.Get("Content-Type") != "application/problem+json" {
		t.Errorf("%d %s", status, out)
	}
	var list []Trainee
	u.want(200, "GET", "/api/trainees", nil, &list)
	if len(list) != 0 {
		t.Error("a write from another site went through")
	}
}

// Every route of the description, walked with another gym's ids and by nobody: nothing of a gym is readable or writable
// from outside it.
func TestNothingCrossesGyms(t *testing.T) {
	s := newSite(t)
	mine, theirs := s.coach(t, "Dogwood"), s.coach(t, "Elm")
	trainee, bag, d := theirs.furnished(10)
	var run Run
	theirs.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &run)
	theirs.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 0}, nil)
	nobody := user{t, s.url, &http.Client{}, nil, ""}
	secrets := []string{trainee.ID, bag.ID, d.ID, d.DrillID, run.ID, "Runa", "Quay", "Elm", run.IntakeKey}

	open := map[string]bool{"/api/sign-in": true, "/api/sign-out": true, "/healthz": true, "/readyz": true,
		"/api/calc/{op}": true, "/api/intake/{key}": true}
	var caution Caution
	theirs.want(200, "POST", "/api/trainees/"+trainee.ID+"/cautions", Caution{Kind: "head"}, &caution)
	var coaches []CoachOut
	theirs.want(200, "GET", "/api/coaches", nil, &coaches)
	if len(coaches) != 1 || !coaches[0].You {
		t.Fatalf("%+v", coaches)
	}
	ids := map[string]string{"coaches": coaches[0].ID, "cautions": caution.ID, "trainees": trainee.ID, "rigs": bag.ID,
		"first-drill": bag.ID, "drills": d.DrillID, "assignments": d.ID, "runs": run.ID}
	bodies := map[string]any{
		"POST /api/account/password":    PasswordChange{"wrong", password},
		"POST /api/coaches/{id}/remove": Confirmation{password},
		"PUT /api/trainees/{id}":        trainee, "PUT /api/rigs/{id}": bag, "PUT /api/assignments/{id}": d,
		"POST /api/assignments": d, "PUT /api/drills/{id}": Drill{Kind: "speed", Version: 1, Doc: d.Doc},
		"POST /api/drills/{id}/give":    Giving{People: []string{trainee.ID}},
		"POST /api/drills/{id}/carry":   map[string]string{"kind": "slip"},
		"POST /api/compose":             DrillQuestion{RigID: bag.ID, TraineeID: trainee.ID, Doc: d.Doc},
		"POST /api/trainees/{id}/erase": Erasure{"Runa", password},
		"POST /api/bench":               BenchQuestion{Rig: quay, Rebounds: 3, TraineeID: trainee.ID},
		"POST /api/rigs/{id}/calibrations": NewCalibration{Version: 1,
			Measured: bench.Measured{Method: "count", Count: 3, Seconds: 0.4}},
		"POST /api/rigs/{id}/undo-calibration": map[string]string{"id": run.ID},
		"POST /api/runs":                       NewRun{AssignmentID: d.ID, Source: "keys"},
		"POST /api/runs/{id}/clock":            Step{"stop", 5},
		"POST /api/runs/{id}/hits":             Batch{Device: "x", Hits: []HitIn{}},
		"POST /api/cautions/{id}/lift":         Lift{By: "x"},
		"POST /api/trainees/{id}/cautions":     Caution{Kind: "wrist"},
		"POST /api/trainees/{id}/tests":        TestTaken{"sight", [][]float64{{0.2, 0.2, 0.2, 0.2, 0.2}}, false},
		"POST /api/trainees/{id}/accept":       Acceptance{RigID: bag.ID, Choice: "accept"},
		"POST /api/trainees/{id}/decisions":    Decision{Kind: "speed", Rung: "speed.rear", Choice: "skip"},
		"POST /api/combo-tempo": TempoQuestion{RigID: bag.ID, TraineeID: trainee.ID,
			Doc: DrillDoc{Plan: drill.Combination{Text: "1-2", Landing: drill.OnReturns, Pace: drill.Combining,
				Work: 20, Guidance: drill.Called}}, Tempo: 100},
	}
	walked := 0
	for path, item := range s.api.OpenAPI().Paths {
		for method, op := range map[string]bool{"GET": item.Get != nil, "POST": item.Post != nil,
			"PUT": item.Put != nil, "DELETE": item.Delete != nil} {
			if !op || open[path] {
				continue
			}
			walked++
			parts := strings.Split(path, "/")
			real := strings.NewReplacer("{id}", ids[parts[2]], "{trainee}", trainee.ID, "{kind}", "speed").Replace(path)
			if strings.Contains(real, "{") || strings.HasSuffix(real, "/") {
				t.Fatalf("%s: the walk does not know its parameters", path)
			}
			body := bodies[method+" "+path]
			if status, _, out := nobody.do(method, real, body); status != 401 {
				t.Errorf("%s %s by nobody: %d %s", method, real, status, out)
			}
			if strings.HasPrefix(path, "/api/account/") {
				continue // one's own
			}
			status, _, out := mine.do(method, real, body)
			for _, secret := range secrets {
				if strings.Contains(string(out), secret) {
					t.Errorf("%s %s by another gym tells %q: %s", method, real, secret, out)
				}
			}
			named := strings.Contains(path, "{id}") || bodies[method+" "+path] != nil
			if named && status != 404 {
				t.Errorf("%s %s by another gym: %d %s, want 404", method, real, status, out)
			}
		}
	}
	if walked < 20 {
		t.Errorf("only %d routes were walked", walked)
	}
	for _, u := range []user{mine, nobody} {
		if status, _, _ := u.do("GET", "/api/runs/"+run.ID+"/live", nil); status != 404 && status != 401 {
			t.Errorf("the live feed answers %d", status)
		}
	}
	if status, _, out := mine.do("GET", "/api/runs?trainee="+trainee.ID, nil); status != 404 {
		t.Errorf("another gym's log: %d %s", status, out)
	}
	var course RunCourse
	theirs.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"pause", 100}, &course)
	if course.State != "paused" {
		t.Errorf("the walk moved the run: %+v", course)
	}
}

func TestRefusalsNameTheField(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Fir")
	_, bag, d := u.furnished(10)
	deep := quayBag
	deep.SwivelDrop = 0.09
	wrong := RigDoc{Rig: deep}
	slow, even := d, d
	slow.Doc = changed(d.Doc, func(d *drill.SpeedBagDrill) { d.Tempo = 20 })
	even.Doc = changed(d.Doc, func(d *drill.SpeedBagDrill) { d.Rebounds = 2 })
	for _, c := range []struct {
		method, path string
		body         any
		field        string
	}{
		{"POST", "/api/rigs", Rig{Name: "Bad", Doc: wrong}, "body.doc.swivelDrop"},
		{"PUT", "/api/rigs/" + bag.ID, Rig{Name: "Bad", Version: 1, Doc: wrong}, "body.doc.swivelDrop"},
		{"POST", "/api/bench", BenchQuestion{Rig: wrong, Rebounds: 3, StrikeAngle: 25}, "body.rig.swivelDrop"},
		{"POST", "/api/bench", BenchQuestion{Rig: quay, Rebounds: 3, StrikeAngle: 80}, "body.strikeAngle"},
		{"POST", "/api/assignments", slow, "body.doc.tempo"},
		{"POST", "/api/assignments", even, "body.doc.rebounds"},
		{"POST", "/api/calc/returns", `{"launch":3}`, "body.rig"},
		{"POST", "/api/trainees", `{"name":"","stance":"orthodox","band":"beginner","ageBand":"adult","id":""}`,
			"body.name"},
	} {
		status, header, out := u.do(c.method, c.path, c.body)
		var problem struct {
			Detail string
			Errors []struct{ Location string }
		}
		if err := json.Unmarshal(out, &problem); err != nil || status != 422 || len(problem.Errors) == 0 ||
			problem.Errors[0].Location != c.field ||
			!strings.HasPrefix(header.Get("Content-Type"), "application/problem+json") {
			t.Errorf("%s %s: %d %s, want a problem with %s", c.method, c.path, status, out, c.field)
		}
	}
	var again Rig
	u.want(200, "GET", "/api/rigs/"+bag.ID, nil, &again)
	if !reflect.DeepEqual(again, bag) {
		t.Errorf("a refused change left its mark: %+v", again)
	}
	bag.Version = 7
	u.want(409, "PUT", "/api/rigs/"+bag.ID, bag, nil)
	u.want(404, "GET", "/api/elsewhere", nil, nil)
	u.want(404, "POST", "/api/calc/dance", `{}`, nil)
}

func TestSurroundings(t *testing.T) {
	s := newSite(t)
	u := user{t, s.url, &http.Client{}, nil, ""}
	u.want(200, "GET", "/healthz", nil, nil)
	u.want(200, "GET", "/readyz", nil, nil)
	if !strings.Contains(u.want(200, "GET", "/", nil, nil), "<title>page") {
		t.Error("no page at /")
	}
	if !strings.Contains(u.want(200, "GET", "/api/openapi.json", nil, nil), `"/api/runs/{id}/review"`) {
		t.Error("no description of the routes")
	}
	status, header, out := u.do("GET", "/assets/a.js", nil, "Accept-Encoding", "gzip")
	if status != 200 || header.Get("Content-Encoding") != "gzip" ||
		!strings.Contains(header.Get("Cache-Control"), "immutable") {
		t.Errorf("%d %v", status, header)
	}
	r, err := gzip.NewReader(bytes.NewReader(out))
	if err != nil {
		t.Fatal(err)
	}
	if text, err := io.ReadAll(r); err != nil || len(text) != 4002 {
		t.Errorf("%d bytes, %v", len(text), err)
	}
	if csp := header.Get("Content-Security-Policy"); !strings.Contains(csp, "script-src 'self';") ||
		header.Get("X-Content-Type-Options") != "nosniff" {
		t.Errorf("%v", header)
	}
	if status, _, _ := u.do("POST", "/api/sign-in", `{"email":"`+strings.Repeat("x", 2<<20)+`"}`); status != 413 {
		t.Errorf("two megabytes to sign in: %d", status)
	}
	_ = s.store.Close()
	u.want(503, "GET", "/readyz", nil, nil)
	u.want(200, "GET", "/healthz", nil, nil)
}

func TestCalc(t *testing.T) {
	s := newSite(t)
	u := user{t, s.url, &http.Client{}, nil, ""}
	bag, _ := json.Marshal(quayBag)
	var out struct{ Boards []float64 }
	u.want(200, "POST", "/api/calc/returns", fmt.Sprintf(`{"rig":%s,"launch":2.8365}`, bag), &out)
	if len(out.Boards) != 3 {
		t.Errorf("%+v", out)
	}
	_, _, text := u.do("POST", "/api/calc/returns",
		fmt.Sprintf(`{"rig":%s,"launch":2.8365,"rebounds":2,"face":"front"}`, bag))
	var problem struct{ Detail string }
	if err := json.Unmarshal(text, &problem); err != nil || !strings.HasPrefix(problem.Detail, "face: ") {
		t.Errorf("%s", text)
	}
}

func BenchmarkWhatIf(b *testing.B) {
	s := newSite(b)
	u := s.coach(b, "Hazel")
	tempo := 130.0
	for b.Loop() {
		u.want(200, "POST", "/api/bench", BenchQuestion{Rig: quay, Rebounds: 3, StrikeAngle: 25, Tempo: &tempo}, nil)
	}
}

// The log of the requests is not the tests' matter.
func TestMain(m *testing.M) {
	slog.SetDefault(slog.New(slog.DiscardHandler))
	os.Exit(storetest.Run(m))
}
