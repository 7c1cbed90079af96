package main

import (
	"bytes"
	"errors"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"melodromos/format/others"
	"melodromos/store/storetest"
)

// ran runs the program on a database, in a folder, and tells how it ended.
func ran(t *testing.T, database, folder, input string, args ...string) (out, said string, status int) {
	t.Helper()
	cmd := program(t, args...)
	var o, e bytes.Buffer
	cmd.Env, cmd.Dir = append(cmd.Env, "DATABASE_URL="+database), folder
	cmd.Stdin, cmd.Stdout, cmd.Stderr = strings.NewReader(input), &o, &e
	err := cmd.Run()
	var exit *exec.ExitError
	if errors.As(err, &exit) {
		status = exit.ExitCode()
	} else if err != nil {
		t.Fatal(err)
	}
	return o.String(), e.String(), status
}

// Everything that goes out by a button goes out by a command, and comes back in a fresh gym: first only said, then
// done.
func TestFilesByCommand(t *testing.T) {
	database := storetest.URL(t)
	s := serveProgram(t, database)
	here := t.TempDir()
	run := func(input string, args ...string) (out, said string, status int) {
		t.Helper()
		return ran(t, database, here, input, args...)
	}
	done := func(args ...string) string {
		t.Helper()
		out, said, status := run("", args...)
		if status != 0 {
			t.Fatalf("%v: %d %s", args, status, said)
		}
		return out
	}
	file := func(name string) string {
		t.Helper()
		data, err := os.ReadFile(filepath.Join(here, name))
		if err != nil {
			t.Fatal(err)
		}
		return string(data)
	}
	var rigs, drills []struct{ ID string }
	var sessions struct{ Own []struct{ ID string } }
	s.ask(t, "GET", "/api/rigs", nil, &rigs)
	s.ask(t, "GET", "/api/drills", nil, &drills)
	s.ask(t, "GET", "/api/sessions", nil, &sessions)
	if len(rigs) == 0 || len(drills) == 0 || len(sessions.Own) == 0 {
		t.Fatal("the demo has no bags, drills or sessions")
	}

	demo, _, _ := strings.Cut(done("gym", "list"), " ")
	export := func(args ...string) string {
		t.Helper()
		return done(append([]string{"export"}, append(args, "--gym", demo)...)...)
	}
	export("gym", "-o", "gym.json")
	if _, said, status := run("", "export", "gym", "-o", "gym.json", "--gym", demo); status == 0 ||
		!strings.Contains(said, "gym.json is there already") {
		t.Errorf("written over: %d %s", status, said)
	}
	for what, id := range map[string]string{"bag": rigs[0].ID, "drill": drills[0].ID, "session": sessions.Own[0].ID} {
		if out := export(what, id); !strings.Contains(out, `"melodromos": "`+what+`"`) {
			t.Errorf("%s: %.200s", what, out)
		}
	}
	export("log", "-o", "log.csv")
	export("hits", "-o", "hits.csv")
	if out := export("calendar"); !strings.HasPrefix(out, "BEGIN:VCALENDAR\r\n") {
		t.Errorf("%.100s", out)
	}
	if out := done("export", "schema"); !strings.Contains(out, "json-schema.org") {
		t.Errorf("%.100s", out)
	}
	song := export("midi", "drill", drills[0].ID)
	var read struct{ Tracks []struct{ Name string } }
	others.Ask(t, "midi.mjs", []byte(song), &read)
	if len(read.Tracks) < 2 {
		t.Errorf("%+v", read)
	}
	var sound struct{ Rate, Seconds float64 }
	others.Ask(t, "wav.mjs", []byte(export("wav", "drill", drills[0].ID)), &sound)
	if sound.Seconds < 20 {
		t.Errorf("%+v", sound)
	}
	if _, said, status := run("", "export", "bag", "no-such", "--gym", demo); status != 2 || !strings.Contains(said,
		"id of a bag") {
		t.Errorf("%d %s", status, said)
	}

	other := strings.TrimSpace(done("gym", "add", "--name", "Harbour"))
	into := func(name string, more ...string) string {
		t.Helper()
		return done(append([]string{"import", name, "--gym", other}, more...)...)
	}
	would := into("gym.json", "--dry-run")
	is := into("gym.json")
	if a, b := figures(would), figures(is); a != b || !strings.HasPrefix(lastLine(would), "Nothing was changed. ") ||
		!strings.Contains(lastLine(is), " are added") {
		t.Errorf("would be %q, is %q", a, b)
	}
	into("log.csv")
	into("hits.csv")
	if out := into("log.csv",
		"--dry-run"); !regexp.MustCompile(`changed\. \d+ are here already\.$`).MatchString(lastLine(out)) {
		t.Errorf("once more: %s", out)
	}
	written := regexp.MustCompile(`"written": "[^"]+"`)
	for name, what := range map[string]string{"gym.json": "gym", "log.csv": "log", "hits.csv": "hits"} {
		out := done("export", what, "--gym", other)
		if written.ReplaceAllString(out, "") != written.ReplaceAllString(file(name), "") {
			t.Errorf("%s came back otherwise", name)
		}
	}
	wrong := strings.Replace(file("log.csv"), "\r\n", "\r\n2026-13-01,x,x,x\r\n", 1)
	if _, said, status := run(wrong, "import", "-", "--gym", other); status != 2 ||
		!strings.Contains(said, "nothing was brought in") || !strings.Contains(said, "line 2") {
		t.Errorf("%d %s", status, said)
	}
	if out, _, status := run(song, "import", "-", "--gym", other, "--bag", "hanging"); status != 0 ||
		lastLine(out) != "The drill Rhythm is added." {
		t.Errorf("%d %s", status, out)
	}
}

// lastLine sums up what an import does.
func lastLine(said string) string {
	lines := strings.Split(strings.TrimSpace(said), "\n")
	return lines[len(lines)-1]
}

// figures are those of the last line.
func figures(said string) string {
	return strings.Join(regexp.MustCompile(`\d+`).FindAllString(lastLine(said), -1), " ")
}

// Cards and pictures come out of Chromium by command, on the paper that is asked for; what there is not is said.
func TestPagesByCommand(t *testing.T) {
	if _, err := exec.LookPath("chromium"); err != nil {
		if os.Getenv("CI") != "" {
			t.Fatal("no Chromium, and in CI nothing is skipped")
		}
		t.Skip("no Chromium: run ./test, which installs it")
	}
	database := storetest.URL(t)
	s := serveProgram(t, database)
	run := func(args ...string) (out, said string, status int) {
		t.Helper()
		return ran(t, database, t.TempDir(), "", args...)
	}
	gyms, _, _ := run("gym", "list")
	gym, _, _ := strings.Cut(gyms, " ")
	var rigs, people []struct{ ID, Name string }
	s.ask(t, "GET", "/api/rigs", nil, &rigs)
	s.ask(t, "GET", "/api/trainees", nil, &people)
	for paper, box := range map[string]string{"A4": `/MediaBox \[0 0 59[45]\S* 84[12]`,
		"Letter": `/MediaBox \[0 0 612 792`} {
		pdf, said, status := run("export", "card", "setting", rigs[0].ID, people[0].ID, "--gym", gym, "--paper", paper)
		if status != 0 || !strings.HasPrefix(pdf, "%PDF") || !regexp.MustCompile(box).MatchString(pdf) {
			t.Errorf("%s: %d %s, %d bytes", paper, status, said, len(pdf))
		}
	}
	drawing, said, status := run("export", "picture", "bag", rigs[0].ID, "--gym", gym)
	if status != 0 || !strings.HasPrefix(drawing, "<svg") {
		t.Errorf("%d %s: %.100s", status, said, drawing)
	}
	picture, said, status := run("export", "picture", "bag", rigs[0].ID, "--gym", gym, "--as", "png")
	if status != 0 || !strings.HasPrefix(picture, "\x89PNG") {
		t.Errorf("%d %s", status, said)
	}
	for tells, args := range map[string][]string{
		"one of The line":          {"picture", "bag", rigs[0].ID, "--name", "The moon"},
		"A4 or Letter":             {"card", "person", people[0].ID, "--paper", "A5"},
		"1 id after person":        {"card", "person"},
		"This card could not be":   {"card", "given", rigs[0].ID},
		"class, given, person, se": {"card", "bag", rigs[0].ID},
	} {
		if out, said, status := run(append(append([]string{"export"}, args...), "--gym",
			gym)...); status == 0 || len(out) > 0 ||
			!strings.Contains(said, tells) {
			t.Errorf("%v: %d %s, %d bytes", args, status, said, len(out))
		}
	}
	var left string
	if err := connected(t, database).QueryRow("SELECT count(*) FROM sessions").Scan(&left); err != nil || left != "1" {
		t.Errorf("%s sign-ins are left, of the one at the browser: %v", left, err)
	}
}
