package server

import (
	"encoding/json"
	"fmt"
	"io"
	"math"
	"mime"
	"net/http"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"melodromos/core/caution"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/session"
	"melodromos/core/timetable"
	"melodromos/format/others"
	"melodromos/ledger"
)

var thursdays = ClassDate{Date: timetable.Date{Name: "Evening hour", Day: "2026-03-05", At: "18:30", Minutes: 60,
	Weekly: true, Skipped: []string{"2026-03-26"}, Note: "Bring wraps"}}

// file fetches a file and checks what it is said to be.
func (u user) file(path, name, media string) []byte {
	u.t.Helper()
	status, header, out := u.do("GET", path, nil)
	how, params, err := mime.ParseMediaType(header.Get("Content-Disposition"))
	if status != 200 || err != nil || how != "attachment" || params["filename"] != name ||
		!strings.HasPrefix(header.Get("Content-Type"), media) {
		u.t.Fatalf("%s: %d %v %.200s, want %s", path, status, header, out, name)
	}
	return out
}

// writtenAt matches the date of a document.
var writtenAt = regexp.MustCompile(`"written": "[^"]+"`)

// A gym goes out whole, into a fresh gym first to see and then for good, and out of that one as the same bytes.
func TestGymMoves(t *testing.T) {
	s := newSite(t)
	u, other := s.coach(t, "Fir"), s.coach(t, "Elm")
	trainee, bag, given := u.furnished(10)
	var run struct{ ID string }
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: given.ID, Source: "keys"}, &run)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 0}, nil)
	u.want(200, "POST", "/api/runs/"+run.ID+"/hits", Batch{Device: "x",
		Hits: []HitIn{{Seq: 1, At: at(8_500_000)}, {Seq: 2, At: at(9_100_000)}}}, nil)
	u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"stop", 20}, nil)
	u.want(200, "POST", "/api/dates", thursdays, nil)

	gym := u.file("/api/export/gym", "Fir.json", "application/json")
	log := u.file("/api/export/log", "Fir, log.csv", "text/csv")
	hits := u.file("/api/export/hits?trainee="+trainee.ID, "Runa, hits.csv", "text/csv")
	u.file("/api/rigs/"+bag.ID+"/document", "Quay.json", "application/json")
	u.file("/api/drills/"+given.DrillID+"/document", given.Name+".json",
		"application/json")

	bring := func(file []byte, query string) (told Imported) {
		t.Helper()
		other.want(200, "POST", "/api/import?"+query, string(file), &told)
		return told
	}
	var people []Trainee
	dry := bring(gym, "dry=true")
	other.want(200, "GET", "/api/trainees", nil, &people)
	if !dry.Dry || dry.What != "gym" || dry.Counts.Added < 4 || len(people) != 0 {
		t.Fatalf("%+v, %d people", dry, len(people))
	}
	if done := bring(gym, ""); !slices.EqualFunc(done.Changes, dry.Changes, func(a, b ledger.Brought) bool {
		return a.What == b.What && a.Name == b.Name && a.Does == b.Does
	}) || done.Counts != dry.Counts {
		t.Errorf("would be %+v, is %+v", dry, done)
	}
	if again := bring(gym, ""); again.Counts.Added+again.Counts.Changed+again.Counts.Differs != 0 ||
		again.Counts.Same != dry.Counts.Added+dry.Counts.Changed+dry.Counts.Same {
		t.Errorf("once more: %+v after %+v", again.Counts, dry.Counts)
	}
	out := other.file("/api/export/gym", "Fir.json", "application/json") // its name came along
	if a, b := writtenAt.ReplaceAllString(string(gym), ""), writtenAt.ReplaceAllString(string(out), ""); a != b {
		t.Errorf("came back as\n%s\nfrom\n%s", b, a)
	}
	if told := bring(log, "dry=true"); told.What != "log" || told.Counts.Added != 1 {
		t.Errorf("log: %+v", told)
	}
	other.want(422, "POST", "/api/import?dry=true", string(hits), nil) // of a round that was only said to come
	bring(log, "")
	if told := bring(hits, ""); told.What != "hits" || told.Counts.Added != 2 {
		t.Errorf("hits: %+v", told)
	}
	if back := other.file("/api/export/log", "Fir, log.csv", "text/csv"); string(back) != string(log) {
		t.Errorf("the log came back as\n%s\nfrom\n%s", back, log)
	}
	if back := other.file("/api/export/hits", "Fir, hits.csv", "text/csv"); string(back) != string(hits) {
		t.Errorf("the hits came back as\n%s\nfrom\n%s", back, hits)
	}
}

// A file that cannot be brought in says why and where, and leaves the gym as it was.
func TestImportRefused(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Fir")
	u.furnished(10)
	before := u.file("/api/export/gym", "Fir.json", "application/json")
	wrong := strings.Replace(string(before), `"swivelDrop": 0.02`, `"swivelDrop": 0.2`, 1)
	line := strings.Count(wrong[:strings.Index(wrong, `"swivelDrop"`)], "\n") + 1
	for name, c := range map[string]struct {
		file   string
		status int
		says   string
	}{
		"empty":      {"", 422, "empty"},
		"prose":      {"We meet on Thursdays.", 422, "line 1: expected a document"},
		"cut short":  {string(before[:len(before)/2]), 422, "Line 47"},
		"a limit":    {wrong, 422, fmt.Sprintf("line %d", line)},
		"semicolons": {"started;person;bag\r\n2026-03-05T18:30:00Z;Runa;Quay\r\n", 422, "parted by commas"},
		"a table":    {"started,person\r\n2026-03-05T18:30:00Z,Nobody\r\n", 422, "line"},
		"MIDI":       {"MThd\x00\x00\x00\x06\x00\x01", 422, "MIDI"},
		"too long":   {"{" + strings.Repeat(" ", mostImported), 413, "MB"},
	} {
		status, header, out := u.do("POST", "/api/import?over=true", c.file)
		if status != c.status || !strings.Contains(string(out), c.says) ||
			!strings.HasPrefix(header.Get("Content-Type"), "application/problem+json") {
			t.Errorf("%s: %d %.300s, want %d that says %q", name, status, out, c.status, c.says)
		}
	}
	after := u.file("/api/export/gym", "Fir.json", "application/json")
	if writtenAt.ReplaceAllString(string(after), "") != writtenAt.ReplaceAllString(string(before), "") {
		t.Error("a refused file left its mark")
	}
	nobody := user{t, s.url, &http.Client{}, nil, ""}
	nobody.want(401, "POST", "/api/import", "{}", nil)
}

// Files of a gym are brought in one at a time: whoever waits too long is told so, and has their turn afterwards.
func TestFilesInTurn(t *testing.T) {
	s := newSite(t)
	s.patience = 2 * time.Second // enough to sign in on a busy machine
	u, other := s.coach(t, "Fir"), s.coach(t, "Elm")
	leave, err := s.bringing.Enter(ctx, u.gym.ID)
	if err != nil {
		t.Fatal(err)
	}
	if status, header, out := u.do("POST", "/api/import?dry=true", "{}"); status != 503 ||
		header.Get("Retry-After") == "" || !strings.Contains(string(out), "Another file") {
		t.Fatalf("nobody has to wait: %d %s", status, out)
	}
	other.want(422, "POST", "/api/import?dry=true", "{}", nil) // another gym's
	leave()
	u.want(422, "POST", "/api/import?dry=true", "{}", nil)
}

// Whoever sends a file byte by byte takes nobody's turn, not even that of their own gym.
func TestTrickledFile(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Fir")
	slow, sent := io.Pipe()
	first := make(chan int, 1)
	go func() {
		res, err := u.client.Post(u.url+"/api/import?dry=true", "application/octet-stream", slow)
		if err != nil {
			first <- 0
			return
		}
		_ = res.Body.Close()
		first <- res.StatusCode
	}()
	if _, err := sent.Write([]byte("{")); err != nil { // it has begun
		t.Fatal(err)
	}
	for range 3 {
		u.want(422, "POST", "/api/import?dry=true", "{}", nil)
	}
	if err := sent.Close(); err != nil {
		t.Fatal(err)
	}
	if status := <-first; status != 422 {
		t.Errorf("the first is answered %d", status)
	}
}

// A drill's MIDI as another library reads it has the strikes of the timeline, from the bell, to one tick and its tempo;
// brought in, it is a drill with the same times.
func TestSongOverHTTP(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Fir")
	trainee, bag, given := u.furnished(20)
	path := "/api/assignments/" + given.ID
	file := u.file(path+"/midi", given.Name+", Runa.mid", "audio/midi")
	var read struct {
		Per    int
		Tracks []struct {
			Name    string
			Notes   []struct{ At int }
			Tempos  []struct{ At, Micros int }
			Markers []struct {
				At   int
				Text string
			}
		}
	}
	others.Ask(t, "midi.mjs", file, &read)
	var started Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: given.ID, Source: "keys"}, &started)
	var planned []float64
	for _, e := range started.Timeline.Events {
		if e.Kind == drill.Strike {
			planned = append(planned, (e.At - started.Timeline.Start).Seconds())
		}
	}
	var micros int
	var bell float64
	for _, track := range read.Tracks {
		for _, m := range track.Markers {
			if m.Text == "Bell: start" {
				bell = float64(m.At)
			}
		}
		for _, tempo := range track.Tempos {
			micros = tempo.Micros
		}
	}
	tick := float64(micros) / 1e6 / float64(read.Per)
	bell *= tick
	found := false
	for _, track := range read.Tracks {
		if found = track.Name == "Strikes"; !found {
			continue
		}
		if len(track.Notes) != len(planned) || len(planned) < 20 {
			t.Fatalf("%d strikes in the file, %d on the timeline", len(track.Notes), len(planned))
		}
		for i, n := range track.Notes {
			if at := float64(n.At)*tick - bell; math.Abs(at-planned[i]) > tick {
				t.Errorf("strike %d at %.4f, on the timeline at %.4f", i, at, planned[i])
			}
		}
		break
	}
	if !found {
		t.Fatalf("no track of strikes: %+v", read)
	}
	var told Imported
	u.want(200, "POST", "/api/import?name=Quay+steps.mid&kind="+string(rig.Hanging), string(file), &told)
	if told.What != "rhythm" || len(told.Changes) != 1 || told.Changes[0].Name != "Quay steps" ||
		told.Track != "Strikes" {
		t.Errorf("%+v", told)
	}
	for field, query := range map[string]string{"bag": "bag=" + bag.ID + "&person=" + trainee.ID,
		"person": "kind=speed&person=nobody&bag=" + bag.ID} {
		out := u.want(422, "POST", "/api/import?"+query, string(file), nil)
		if !strings.Contains(out, `"`+field+`"`) {
			t.Errorf("%s: %s", field, out)
		}
	}
	onDrill := "/api/drills/" + given.DrillID
	u.want(422, "GET", onDrill+"/midi?bag="+given.ID, nil, nil)
	u.want(404, "GET", onDrill+"/midi?person="+given.ID, nil, nil)
	u.want(200, "POST", "/api/trainees/"+trainee.ID+"/cautions", Caution{Kind: caution.Head}, nil)
	u.want(409, "GET", path+"/midi", nil, nil)
	u.want(409, "GET", onDrill+"/wav?person="+trainee.ID, nil, nil)
	tens := session.Templates()[slices.IndexFunc(session.Templates(),
		func(x session.Template) bool { return x.Key == "tens" })]
	var plan SessionPlan
	u.want(200, "POST", "/api/sessions", SessionPlan{Session: tens.Session}, &plan)
	u.want(200, "GET", "/api/sessions/"+plan.ID+"/midi", nil, nil)
	u.want(409, "GET", "/api/sessions/"+plan.ID+"/midi?person="+trainee.ID, nil, nil)
}

// The private address: read without signing in by a library that others wrote, at the gym's own clock, with nobody
// named; told once; revoked, and then gone.
func TestCalendarAddress(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Fir")
	u.furnished(10)
	thursday := thursdays
	start := time.Now().UTC().AddDate(0, 0, -21)
	thursday.Day, thursday.Skipped = start.Format(time.DateOnly), []string{start.AddDate(0, 0,
		14).Format(time.DateOnly)}
	var date ClassDate
	u.want(200, "POST", "/api/dates", thursday, &date)
	if date.Next == nil || !strings.Contains(date.Sentence, "18:30") {
		t.Errorf("%+v", date)
	}
	var link CalendarLinkOut
	u.want(200, "POST", "/api/calendar-links", CalendarLinkOut{Name: "Phone"}, &link)
	var links []CalendarLinkOut
	u.want(200, "GET", "/api/calendar-links", nil, &links)
	if len(links) != 1 || links[0].Path != "" || links[0].ReadAt != nil || link.Path == "" {
		t.Fatalf("%+v %+v", links, link)
	}
	if n := s.number(t, "SELECT count(*) FROM calendar_links WHERE hash = $1",
		strings.TrimSuffix(strings.TrimPrefix(link.Path, calendarPath), ".ics")); n != 0 {
		t.Error("the secret lies in the database as it is")
	}
	nobody := user{t, s.url, &http.Client{}, nil, ""}
	status, header, file := nobody.do("GET", link.Path, nil)
	if status != 200 || !strings.HasPrefix(header.Get("Content-Type"), "text/calendar") ||
		strings.Contains(string(file), "Runa") {
		t.Fatalf("%d %v %s", status, header, file)
	}
	var read struct {
		Events []struct {
			Name string
			Held []time.Time
		}
	}
	zone := must(time.LoadLocation("Europe/Lisbon"))
	others.Ask(t, "ical.mjs", file, &read, start.AddDate(0, 0, -1).Format(time.RFC3339),
		start.AddDate(0, 0, 60).Format(time.RFC3339))
	if len(read.Events) != 1 || read.Events[0].Name != thursday.Name || len(read.Events[0].Held) < 7 {
		t.Fatalf("%+v", read)
	}
	for _, at := range read.Events[0].Held {
		if local := at.In(zone); local.Format("15:04") != "18:30" ||
			local.Format(time.DateOnly) == thursday.Skipped[0] {
			t.Errorf("held at %s", local)
		}
	}
	if signed := u.file("/api/export/calendar", "Fir.ics", "text/calendar"); strings.Count(string(signed), "VEVENT") !=
		strings.Count(string(file), "VEVENT") {
		t.Error("the file and the address differ")
	}
	u.want(200, "GET", "/api/calendar-links", nil, &links)
	if links[0].ReadAt == nil {
		t.Error("not said when it was read")
	}
	nobody.want(200, "HEAD", link.Path, nil, nil) // some programs look first
	nobody.want(404, "GET", strings.Replace(link.Path, ".ics", "X.ics", 1), nil, nil)
	nobody.want(404, "GET", strings.TrimSuffix(link.Path, ".ics"), nil, nil)
	u.want(204, "DELETE", "/api/calendar-links/"+link.ID, nil, nil)
	var problem struct{ Detail string }
	if err := json.Unmarshal([]byte(nobody.want(410, "GET", link.Path, nil, nil)), &problem); err != nil ||
		!strings.Contains(problem.Detail, "revoked") {
		t.Errorf("%v %+v", err, problem)
	}
	u.want(200, "GET", "/api/calendar-links", nil, &links)
	if len(links) != 0 {
		t.Errorf("a revoked address is listed: %+v", links)
	}
}

// A date that was read by another, and one that cannot be.
func TestDates(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Fir")
	var date ClassDate
	u.want(200, "POST", "/api/dates", thursdays, &date)
	date.At = "19:00"
	u.want(200, "PUT", "/api/dates/"+date.ID, date, &date)
	date.Version = 1
	u.want(409, "PUT", "/api/dates/"+date.ID, date, nil)
	for field, wrong := range map[string]ClassDate{
		"day": {Date: timetable.Date{Name: "x", Day: "2026-02-30", At: "18:30", Minutes: 60, Skipped: []string{}}},
		"at":  {Date: timetable.Date{Name: "x", Day: "2026-02-20", At: "25:30", Minutes: 60, Skipped: []string{}}},
		"until": {Date: timetable.Date{Name: "x", Day: "2026-02-20", At: "18:30", Minutes: 60, Until: "2026-03-01",
			Skipped: []string{}}},
	} {
		if out := u.want(422, "POST", "/api/dates", wrong, nil); !strings.Contains(out, `"body.`+field+`"`) {
			t.Errorf("%s: %s", field, out)
		}
	}
	u.want(204, "DELETE", "/api/dates/"+date.ID, nil, nil)
	var dates []ClassDate
	u.want(200, "GET", "/api/dates", nil, &dates)
	if len(dates) != 0 {
		t.Errorf("%+v", dates)
	}
	u.want(204, "POST", "/api/dates/"+date.ID+"/restore", nil, nil)
	u.want(200, "GET", "/api/dates", nil, &dates)
	if len(dates) != 1 || dates[0].At != "19:00" {
		t.Errorf("%+v", dates)
	}
}
