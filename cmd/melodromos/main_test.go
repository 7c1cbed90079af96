package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"regexp"
	"strings"
	"testing"
	"time"

	"melodromos/demo"
	"melodromos/store/storetest"
)

// The test binary is the program itself when it is told so.
func TestMain(m *testing.M) {
	if os.Getenv("MELODROMOS_AS_PROGRAM") != "" {
		main()
		os.Exit(0)
	}
	os.Exit(m.Run())
}

// program prepares a run of the real program.
func program(t testing.TB, args ...string) *exec.Cmd {
	t.Helper()
	self, err := os.Executable()
	if err != nil {
		t.Fatal(err)
	}
	cmd := exec.Command(self, args...)
	cmd.Env = append(os.Environ(), "MELODROMOS_AS_PROGRAM=1")
	return cmd
}

// On the command line a refusal is exit status 2, one line on standard error that names the field, and nothing on
// standard output.
func TestCalc(t *testing.T) {
	for _, c := range []struct {
		op, in string
		status int
		out    string // pattern of standard output
		err    string // pattern of standard error
	}{
		{"returns", `{"rig":` + bag + `,"launch":2.8365}`, 0,
			`^\{"returns":\[\{"at":0\.4762.*"boards":\[0\.0440.*\]\}\n$`, `^$`},
		{"returns", `{"rig":` + bag + `,"launch":2.8365,"rebounds":2,"face":"front"}`, 2, `^$`, `^face: [^\n]+\n$`},
		{"tempo", `{"rig":` + bag + `,"tempo":600}`, 0, `"feasible":false.*"what":"rebounds","to":1`, `^$`},
		{"judge", `nonsense`, 2, `^$`, `^[^\n]+\n$`},
		{"dance", `{}`, 2, `^$`, `^no operation "dance"[^\n]+\n$`},
	} {
		cmd := program(t, "calc", c.op)
		var out, errs bytes.Buffer
		cmd.Stdin, cmd.Stdout, cmd.Stderr = strings.NewReader(c.in), &out, &errs
		err := cmd.Run()
		status := 0
		var exit *exec.ExitError
		if errors.As(err, &exit) {
			status = exit.ExitCode()
		}
		if status != c.status || !regexp.MustCompile(c.out).MatchString(out.String()) ||
			!regexp.MustCompile(c.err).MatchString(errs.String()) {
			t.Errorf("calc %s %s: status %d\nout %s\nerr %s", c.op, c.in, status, out.String(), errs.String())
		}
	}
}

// serving is the program at work on a database.
type serving struct {
	cmd    *exec.Cmd
	url    string
	client *http.Client
}

func serveProgram(t testing.TB, database string, settings ...string) serving {
	t.Helper()
	cmd := program(t, "serve", "--demo")
	cmd.Env = append(cmd.Env, "DATABASE_URL="+database, "PORT=0", "LOG_LEVEL=error")
	cmd.Env = append(cmd.Env, settings...)
	out, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = cmd.Process.Kill(); _ = cmd.Wait() })
	line := make([]byte, 256)
	n, err := io.ReadAtLeast(out, line, 30)
	if err != nil {
		t.Fatal(err)
	}
	url := regexp.MustCompile(`http://[0-9.:]+`).FindString(string(line[:n]))
	jar, _ := cookiejar.New(nil)
	s := serving{cmd, url, &http.Client{Jar: jar, Timeout: 10 * time.Second}}
	s.ask(t, "POST", "/api/sign-in", map[string]string{"email": demo.Email, "password": demo.Password}, nil)
	return s
}

func (s serving) ask(t testing.TB, method, path string, body, into any) {
	t.Helper()
	text, err := json.Marshal(body)
	if err != nil {
		t.Fatal(err)
	}
	req, err := http.NewRequest(method, s.url+path, bytes.NewReader(text))
	if err != nil {
		t.Fatal(err)
	}
	req.Header.Set("Content-Type", "application/json")
	res, err := s.client.Do(req)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = res.Body.Close() }()
	out, err := io.ReadAll(res.Body)
	if err != nil || res.StatusCode >= 300 {
		t.Fatalf("%s %s: %s %s %v", method, path, res.Status, out, err)
	}
	if into != nil {
		if err := json.Unmarshal(out, into); err != nil {
			t.Fatal(err)
		}
	}
}

// accept takes what comes next for somebody, and gives the id of the assignment.
func (s serving) accept(t testing.TB, traineeID string) string {
	t.Helper()
	var given struct{ ID string }
	s.ask(t, "POST", "/api/trainees/"+traineeID+"/accept", map[string]any{"choice": "accept"}, &given)
	return given.ID
}

// started is a round whose clock runs.
type started struct {
	ID       string
	Timeline struct {
		Start  int64
		End    int64
		Events []struct {
			At   int64
			Kind string
			Hand string
		}
	}
}

// begin starts a round of what comes next today.
func (s serving) begin(t testing.TB) (run started) {
	t.Helper()
	var today struct {
		Next []struct{ TraineeID string }
	}
	s.ask(t, "GET", "/api/today", nil, &today)
	s.ask(t, "POST", "/api/runs", map[string]any{"assignmentId": s.accept(t, today.Next[0].TraineeID),
		"source": "keys"}, &run)
	s.ask(t, "POST", "/api/runs/"+run.ID+"/clock", map[string]any{"action": "start", "clockUs": 0}, nil)
	return run
}

// The server is killed in mid-round, without a chance to tidy up. After the next start the demo gym is there once, the
// hits that came in are there, and the round can be reviewed.
func TestKilledInMidRound(t *testing.T) {
	database := storetest.URL(t)
	first := serveProgram(t, database)
	run := first.begin(t)
	var hits []map[string]any
	var reached int64
	for _, e := range run.Timeline.Events {
		if e.Kind == "strike" && len(hits) < 12 {
			hits = append(hits, map[string]any{"seq": len(hits), "at": e.At + 5000, "hand": e.Hand})
			reached = e.At + 100_000
		}
	}
	first.ask(t, "POST", "/api/runs/"+run.ID+"/hits",
		map[string]any{"device": "screen", "clockUs": reached, "hits": hits}, nil)
	if err := first.cmd.Process.Kill(); err != nil {
		t.Fatal(err)
	}
	_ = first.cmd.Wait()

	second := serveProgram(t, database)
	var review struct {
		Summary struct{ Planned, Hits, Clean int }
	}
	second.ask(t, "POST", "/api/runs/"+run.ID+"/clock", map[string]any{"action": "stop", "clockUs": reached}, nil)
	second.ask(t, "GET", "/api/runs/"+run.ID+"/review", nil, &review)
	if review.Summary.Planned != 12 || review.Summary.Hits != 12 || review.Summary.Clean != 12 {
		t.Errorf("%+v", review.Summary)
	}
	var people []struct{ ID string }
	second.ask(t, "GET", "/api/trainees", nil, &people)
	if len(people) != 8 {
		t.Errorf("%d people after the second start", len(people))
	}
	if err := second.cmd.Process.Signal(os.Interrupt); err != nil {
		t.Fatal(err)
	}
	if err := second.cmd.Wait(); err != nil {
		t.Errorf("after Ctrl-C: %v", err)
	}
}

// The server is killed between a round's end and its judgement, which a lock on the table of outcomes holds up: the two
// are one, so the round goes on as if its end had not been heard of. What an earlier release left ended and not judged
// is judged at the next start.
func TestKilledBeforeJudgement(t *testing.T) {
	database := storetest.URL(t)
	first := serveProgram(t, database)
	run := first.begin(t)
	first.ask(t, "POST", "/api/runs/"+run.ID+"/hits",
		map[string]any{"device": "screen", "clockUs": 1000,
			"hits": []map[string]any{{"seq": 0, "at": run.Timeline.Start + 1_000_000}}}, nil)

	db := connected(t, database)
	said := func(query string, args ...any) (text string) {
		t.Helper()
		if err := db.QueryRow(query, args...).Scan(&text); err != nil {
			t.Fatal(err)
		}
		return text
	}
	held, err := db.Begin()
	if err != nil {
		t.Fatal(err)
	}
	if _, err := held.Exec("LOCK TABLE outcomes IN SHARE ROW EXCLUSIVE MODE"); err != nil {
		t.Fatal(err)
	}
	go func() { // it is never answered
		body := fmt.Sprintf(`{"action":"finish","clockUs":%d}`, run.Timeline.End)
		if res, err := first.client.Post(first.url+"/api/runs/"+run.ID+"/clock", "application/json",
			strings.NewReader(body)); err == nil {
			_ = res.Body.Close()
		}
	}()
	for said("SELECT count(*) FROM pg_locks WHERE relation = 'outcomes'::regclass AND NOT granted") == "0" {
		time.Sleep(5 * time.Millisecond)
	}
	if err := first.cmd.Process.Kill(); err != nil {
		t.Fatal(err)
	}
	_ = first.cmd.Wait()
	if err := held.Rollback(); err != nil {
		t.Fatal(err)
	}
	for said(
		"SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND application_name <> $1 AND backend_type = 'client backend'", t.Name()) != "0" {
		time.Sleep(5 * time.Millisecond)
	}
	if state := said("SELECT state FROM runs WHERE id = $1", run.ID); state != "running" {
		t.Errorf("a round whose judgement was cut off is %s", state)
	}
	if _,
		err := db.Exec(
		"DELETE FROM outcomes WHERE run_id = (SELECT id FROM runs WHERE state = 'done' ORDER BY created_at LIMIT 1)"); err != nil {
		t.Fatal(err)
	}
	second := serveProgram(t, database)
	// the screen says it again
	second.ask(t, "POST", "/api/runs/"+run.ID+"/clock", map[string]any{"action": "finish", "clockUs": run.Timeline.End},
		nil)
	for said(
		"SELECT count(*) FROM runs LEFT JOIN outcomes ON outcomes.run_id = runs.id WHERE state IN ('done', 'stopped') AND outcomes.run_id IS NULL") != "0" {
		time.Sleep(5 * time.Millisecond)
	}
	if got := said("SELECT state || ' ' || hits FROM runs JOIN outcomes ON run_id = id WHERE id = $1",
		run.ID); got != "done 1" {
		t.Errorf("after the next start the round is %s", got)
	}
}

// Gyms and coaches are made and removed by command. A gym is never joined by a name, and nothing goes unless both
// questions are answered.
func TestGymsAndCoaches(t *testing.T) {
	database := storetest.URL(t)
	run := func(input string, args ...string) (string, error) {
		cmd := program(t, args...)
		cmd.Env = append(cmd.Env, "DATABASE_URL="+database)
		cmd.Stdin = strings.NewReader(input)
		out, err := cmd.Output()
		var exit *exec.ExitError
		if errors.As(err, &exit) {
			return string(exit.Stderr), err
		}
		return strings.TrimSpace(string(out)), err
	}
	must := func(input string, args ...string) string {
		t.Helper()
		out, err := run(input, args...)
		if err != nil {
			t.Fatalf("%v: %v %s", args, err, out)
		}
		return out
	}
	refused := func(what, tells, input string, args ...string) {
		t.Helper()
		if out, err := run(input, args...); err == nil || !strings.Contains(out, tells) {
			t.Errorf("%s: %v %q, want %q", what, err, out, tells)
		}
	}
	coach := func(email string, more ...string) []string {
		return append([]string{"coach", "add", "--email", email, "--name", "B"}, more...)
	}
	const password = "a long password\n"
	refused("a coach of no gym", "there is none yet", password, coach("a@hall.example")...)
	refused("no such zone", "Europe/Lisbon", "", "gym", "add", "--name", "Hall", "--zone", "Sea/Deep")
	refused("blanks", "not blanks", "", "gym", "add", "--name", "   ")
	one := must("", "gym", "add", "--name", "Hall", "--zone", "Europe/Oslo", "--units", "imperial")
	if out := must(password, coach("Anna@hall.example")...); out != "anna@hall.example can sign in to Hall." {
		t.Errorf("%q", out)
	}
	two := must("", "gym", "add", "--name", "Hall")
	if one == two || !strings.Contains(must("", "gym", "list"), two+"  Hall") {
		t.Errorf("a second gym of the same name: %s and %s", one, two)
	}
	refused("which of two", "one of the 2 gyms", password, coach("b@hall.example")...)
	refused("by a name", "a gym of this name is "+one, password, coach("b@hall.example", "--gym", "Hall")...)
	refused("twice", "signs in already", password, coach("anna@hall.example", "--gym", two)...)
	refused("short password", "10 to 200 characters, not 5", "short\n", coach("b@hall.example", "--gym", two)...)
	refused("long password", "10 to 200 characters, not 201", strings.Repeat("x", 201)+"\n",
		coach("b@hall.example", "--gym", two)...)
	refused("long address", "at most 254", password, coach(strings.Repeat("x", 250)+"@hall.example", "--gym", two)...)
	refused("no such address", "such as you@gym.example", password, coach("nonsense", "--gym", two)...)
	must(password, coach("b@hall.example", "--gym", one)...)

	var person string
	if err := connected(t, database).QueryRow(
		"INSERT INTO trainees (gym_id, name, stance, band) VALUES ($1, 'Runa', 'southpaw', 'beginner') RETURNING id",
		one).Scan(&person); err != nil {
		t.Fatal(err)
	}
	refused("whose person", "somebody of Hall", "", "person", "erase", person, "--gym", two)
	refused("asked once", "nothing was removed", "Runa\nyes\n", "person", "erase", person, "--gym", one)
	if out := must("", "person", "list"); out != person+"  Runa  Hall" {
		t.Errorf("%q", out)
	}
	if out := must("Runa\nremove\n", "person", "erase", person, "--gym",
		one); out != "Runa was erased; 0 rounds stay as counts." {
		t.Errorf("%q", out)
	}
	must("another password\n", "coach", "password", "--email", "b@hall.example")
	must("", "coach", "sign-out", "--email", "b@hall.example")
	refused("nobody", "no coach signs in as", "", "coach", "sign-out", "--email", "c@hall.example")
	refused("asked once", "nothing was removed", "b@hall.example\nyes\n", "coach", "remove", "--email",
		"b@hall.example")
	if out := must("", "coach", "list"); !strings.Contains(out, "b@hall.example  B  Hall") {
		t.Errorf("%q", out)
	}
	must("b@hall.example\nremove\n", "coach", "remove", "--email", "b@hall.example")
	refused("the last one", "last coach", "anna@hall.example\nremove\n", "coach", "remove", "--email",
		"anna@hall.example")
	refused("another name", "nothing was removed", "Hell\nremove\n", "gym", "remove", one)
	must("Hall\nremove\n", "gym", "remove", one)
	if out := must("", "gym", "list"); out != two+"  Hall" {
		t.Errorf("%q", out)
	}
}
