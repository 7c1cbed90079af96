package server

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"reflect"
	"slices"
	"strings"
	"testing"

	"melodromos/core/bench"
	"melodromos/core/drill"
	"melodromos/core/session"
)

const password = "a long password"

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
	secrets := []string{trainee.ID, bag.ID, d.ID, d.DrillID, run.ID, "Runa", "Oona", "Quay", "Elm",
		run.IntakeKey}

	open := map[string]bool{"/api/sign-in": true, "/api/sign-out": true, "/api/join": true, "/api/join/look": true,
		"/healthz": true, "/readyz": true,
		"/api/calc/{op}": true, "/api/intake/{key}": true}
	var caution Caution
	theirs.want(200, "POST", "/api/trainees/"+trainee.ID+"/cautions", Caution{Kind: "head"}, &caution)
	var coaches []CoachOut
	theirs.want(200, "GET", "/api/coaches", nil, &coaches)
	if len(coaches) != 1 || !coaches[0].You {
		t.Fatalf("%+v", coaches)
	}
	var invitation InvitationOut
	theirs.want(200, "POST", "/api/invitations", Inviting{"Runa's aunt"}, &invitation)
	tens := session.Templates()[slices.IndexFunc(session.Templates(),
		func(x session.Template) bool { return x.Key == "tens" })]
	var plan SessionPlan
	theirs.want(200, "POST", "/api/sessions", SessionPlan{Session: tens.Session}, &plan)
	second := theirs.someMore(map[string]string{"Oona": "beginner"})["Oona"] // whom no caution bars
	var class HeldClass
	theirs.want(200, "POST", "/api/hours",
		ClassQuestion{People: []string{second.ID}, Bags: []string{}, Minutes: 30}, &class)
	thursday := thursdays
	thursday.SessionID = plan.ID
	var date ClassDate
	theirs.want(200, "POST", "/api/dates", thursday, &date)
	var link CalendarLinkOut
	theirs.want(200, "POST", "/api/calendar-links", CalendarLinkOut{Name: "Runa's phone"}, &link)
	ids := map[string]string{"dates": date.ID, "calendar-links": link.ID, "coaches": coaches[0].ID,
		"invitations": invitation.ID, "cautions": caution.ID,
		"trainees": trainee.ID, "rigs": bag.ID,
		"sessions": plan.ID, "hours": class.ID, "first-drill": bag.ID,
		"drills": d.DrillID, "unreadable": d.DrillID, "assignments": d.ID, "runs": run.ID, "turns": run.ID}
	bodies := map[string]any{
		"POST /api/account/password":    PasswordChange{"wrong", password},
		"POST /api/coaches/{id}/remove": Confirmation{password},
		"PUT /api/trainees/{id}":        trainee, "PUT /api/rigs/{id}": bag, "PUT /api/assignments/{id}": d,
		"PUT /api/dates/{id}": date, "POST /api/dates": thursday,
		"POST /api/assignments":         d,
		"POST /api/drills/{id}/give":    Giving{People: []string{trainee.ID}},
		"POST /api/drills/{id}/carry":   map[string]string{"kind": "slip"},
		"POST /api/compose":             DrillQuestion{RigID: bag.ID, TraineeID: trainee.ID, Doc: d.Doc},
		"POST /api/trainees/{id}/erase": Erasure{Name: "Runa", Password: password},
		"POST /api/bench":               BenchQuestion{Rig: quay, Rebounds: 3, TraineeID: trainee.ID},
		"POST /api/rigs/{id}/calibrations": NewCalibration{Version: 1,
			Measured: bench.Measured{Method: "count", Count: 3, Seconds: 0.4}},
		"POST /api/rigs/{id}/undo-calibration": map[string]string{"id": run.ID},
		"POST /api/runs":                       NewRun{AssignmentID: d.ID, Source: "keys"},
		"POST /api/runs/{id}/clock":            Step{"stop", 5},
		"POST /api/runs/{id}/hits":             Batch{Device: "x", Hits: []HitIn{}},
		"PUT /api/runs/{id}/rating":            Rating{Word: "held"},
		"PUT /api/turns/{id}/rating":           Rating{Word: "held"},
		"POST /api/runs/{id}/corrections":      Said{0, "clean"},
		"POST /api/runs/{id}/rejudge":          map[string]string{"clock": "beat"},
		"POST /api/runs/{id}/remedy":           Mending{"waiting"},
		"POST /api/runs/{id}/times":            Times{Table: "1"},
		"POST /api/cautions/{id}/lift":         Lift{By: "x"},
		"POST /api/trainees/{id}/cautions":     Caution{Kind: "wrist"},
		"POST /api/trainees/{id}/tests":        TestTaken{"sight", [][]float64{{0.2, 0.2, 0.2, 0.2, 0.2}}, false},
		"PUT /api/sessions/{id}":               plan,
		"POST /api/session-look":               SessionQuestion{Session: tens.Session, TraineeID: trainee.ID},
		"POST /api/hours/{id}/anew":            Crew{People: []string{}, Bags: []string{}},
		"POST /api/hours/{id}/seat":            Seating{Person: trainee.ID},
		"POST /api/hours/{id}/drill":           Choosing{trainee.ID, d.ID},
		"POST /api/hours/{id}/floor":           FloorStep{Deeds: []session.Done{}},
		"POST /api/trainees/{id}/accept":       Acceptance{RigID: bag.ID, Choice: "accept"},
		"POST /api/trainees/{id}/decisions":    Decision{Kind: "speed", Rung: "speed.rear", Choice: "skip"},
		"POST /api/combo-tempo": TempoQuestion{RigID: bag.ID, TraineeID: trainee.ID,
			Doc: DrillDoc{Plan: drill.CombinationDrill{Text: "1-2", Landing: drill.OnReturns, Pace: drill.Combining,
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
			path := strings.Replace(path, "unreadable/{kind}", "unreadable/drill", 1)
			filled := strings.NewReplacer("{id}", ids[parts[2]], "{trainee}", trainee.ID, "{kind}", "speed",
				"{stretch}", "1", "{correction}", run.ID).Replace(path)
			if strings.Contains(filled, "{") || strings.HasSuffix(filled, "/") {
				t.Fatalf("%s: the walk does not know its parameters", path)
			}
			body := bodies[method+" "+path]
			if status, _, out := nobody.do(method, filled, body); status != 401 {
				t.Errorf("%s %s by nobody: %d %s", method, filled, status, out)
			}
			if strings.HasPrefix(path, "/api/account/") {
				continue // one's own
			}
			status, _, out := mine.do(method, filled, body)
			for _, secret := range secrets {
				if strings.Contains(string(out), secret) {
					t.Errorf("%s %s by another gym tells %q: %s", method, filled, secret, out)
				}
			}
			named := strings.Contains(path, "{id}") || bodies[method+" "+path] != nil
			if named && status != 404 {
				t.Errorf("%s %s by another gym: %d %s, want 404", method, filled, status, out)
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
