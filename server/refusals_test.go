package server

import (
	"encoding/json"
	"fmt"
	"regexp"
	"strings"
	"testing"

	"melodromos/core/bench"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
)

// What cannot be kept is refused in words, and never as a fault of the server; nothing of it is saved.
func TestWhatCannotBeKept(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Kapok")
	person, bag, d := u.furnished(10)
	var run Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &run)
	var caution Caution
	u.want(200, "POST", "/api/trainees/"+person.ID+"/cautions", Caution{Kind: "wrist"}, &caution)
	with := func(v any, field string, value any) map[string]any {
		text, _ := json.Marshal(v)
		out := map[string]any{}
		if err := json.Unmarshal(text, &out); err != nil {
			t.Fatal(err)
		}
		out[field] = value
		return out
	}
	const urn = "urn:uuid:00000000-0000-4000-8000-000000000000"
	batch := Batch{Device: "pad", Hits: []HitIn{}}
	for _, c := range []struct {
		status       int
		method, path string
		body         any
		tells        string
	}{
		{422, "POST", "/api/trainees", with(person, "name", "   "), "not blanks"},
		{422, "PUT", "/api/trainees/" + person.ID, with(person, "name", "\u00a0\t"), "not blanks"},
		{422, "POST", "/api/rigs", with(bag, "name", "   "), "not blanks"},
		{422, "PUT", "/api/rigs/" + bag.ID, with(bag, "name", "  "), "not blanks"},
		{422, "POST", "/api/cautions/" + caution.ID + "/lift", Lift{"   "}, "not blanks"},
		{400, "POST", "/api/trainees", with(person, "name", "a\x00b"), "character numbered 0"},
		{400, "PUT", "/api/trainees/" + person.ID, with(person, "notes", "\x00"), "character numbered 0"},
		{400, "POST", "/api/assignments", with(d, "name", "a\x00b"), "character numbered 0"},
		{400, "POST", "/api/runs/" + run.ID + "/hits", with(batch, "device", "\x00"), "character numbered 0"},
		{400, "POST", "/api/sign-in", signInBody{"a\x00@b", "x"}, "character numbered 0"},
		{422, "GET", "/api/runs?trainee=%00", nil, "cannot be saved"},
		{404, "GET", "/api/runs?trainee=x", nil, "was removed"},
		{404, "GET", "/api/runs?trainee=" + urn, nil, "was removed"},
		{404, "GET", "/api/trainees/" + urn, nil, "was removed"},
		{422, "GET", "/api/trainees/x", nil, "UUID"},
		{404, "POST", "/api/assignments", with(d, "rigId", urn), "was removed"},
		{404, "POST", "/api/assignments", with(d, "traineeId", urn), "was removed"},
		{404, "POST", "/api/bench", with(BenchQuestion{Rig: quay, Rebounds: 3, StrikeAngle: 25}, "traineeId", urn),
			"was removed"},
		{422, "PUT", "/api/assignments/" + d.ID, with(d, "version", 0), "version"},
		{422, "PUT", "/api/assignments/" + d.ID, with(d, "version", -1), "version"},
		{422, "PUT", "/api/assignments/" + d.ID, with(d, "version", 1<<31), "version"},
		{409, "PUT", "/api/assignments/" + d.ID, with(d, "version", 9), "Somebody else changed this"},
		{422, "PUT", "/api/rigs/" + bag.ID, with(bag, "version", 0), "version"},
		{422, "PUT", "/api/rigs/" + bag.ID, with(bag, "version", 1<<40), "version"},
		{422, "POST", "/api/rigs/" + bag.ID + "/calibrations",
			NewCalibration{Version: 0, Measured: bench.Measured{Method: "count", Count: 3, Seconds: 0.4}}, "version"},
		{422, "POST", "/api/runs/" + run.ID + "/clock", Step{"start", 1 << 60}, "clockUs"},
		{422, "POST", "/api/runs/" + run.ID + "/hits", with(batch, "clockUs", 1<<60), "clockUs"},
		{422, "POST", "/api/runs/" + run.ID + "/hits", with(batch, "latencyUs", 1<<40), "latencyUs"},
	} {
		if status, _, out := u.do(c.method, c.path, c.body); status != c.status ||
			!strings.Contains(string(out), c.tells) {
			t.Errorf("%s %s: %d %.400s, want %d … %s", c.method, c.path, status, out, c.status, c.tells)
		}
	}
	without := with(d, "name", "Unread")
	delete(without, "version")
	u.want(422, "PUT", "/api/assignments/"+d.ID, without, nil)
	var again Assignment
	u.want(200, "GET", "/api/assignments/"+d.ID, nil, &again)
	if again.Version != d.Version || again.Name != d.Name {
		t.Errorf("a refused change left its mark: %+v", again)
	}
	u.want(204, "POST", "/api/cautions/"+caution.ID+"/lift", Lift{" Dr Amsel "}, nil)
	if rows, err := u.gym.Cautions(person.ID); err != nil || rows[0].LiftedBy != "Dr Amsel" {
		t.Errorf("%+v %v", rows, err)
	}
}

// The answer to a save goes with the next save, and with taking a change back.
func TestSavingAgain(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Larch")
	_, _, d := u.furnished(10)
	first := d
	for want := 2; want <= 4; want++ {
		d.Name = fmt.Sprint("Saved ", want)
		u.want(200, "PUT", "/api/assignments/"+d.ID, d, &d)
		if d.Version != want {
			t.Fatalf("saved as version %d, want %d", d.Version, want)
		}
	}
	first.Version, first.DrillVersion = d.Version, d.DrillVersion // undo
	u.want(200, "PUT", "/api/assignments/"+d.ID, first, &d)
	if d.Name != first.Name || d.Version != 5 {
		t.Errorf("taken back: %+v", d)
	}
}

// While a knock to the head is not cleared no round of that person starts, whichever way it is asked for; others do,
// and so do theirs once it is lifted by name.
func TestHeadCautionBars(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Nutmeg")
	person, bag, d := u.furnished(10)
	other := Trainee{Name: "Odd", Stance: "orthodox", Band: "beginner", AgeBand: "adult"}
	u.want(200, "POST", "/api/trainees", other, &other)
	theirs := d
	theirs.ID, theirs.TraineeID = "", other.ID
	u.want(200, "POST", "/api/assignments", theirs, &theirs)
	var ready, running, next Run
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &ready)
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &running)
	u.want(200, "POST", "/api/runs/"+running.ID+"/clock", Step{"start", 0}, nil)

	var wrist, head Caution
	u.want(200, "POST", "/api/trainees/"+person.ID+"/cautions", Caution{Kind: "wrist"}, &wrist)
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &next) // the coach's to decide
	u.want(200, "POST", "/api/trainees/"+person.ID+"/cautions", Caution{Kind: "head"}, &head)
	for _, source := range []string{"keys", "device", "standin", "none"} {
		if out := u.want(409, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: drill.Recorder(source)},
			nil); !strings.Contains(out, "knock to the head") {
			t.Errorf("%s: %s", source, out)
		}
	}
	u.want(409, "POST", "/api/runs/"+ready.ID+"/clock", Step{"start", 0}, nil)
	if out := u.want(422, "POST", "/api/trainees/"+person.ID+"/accept", Acceptance{RigID: bag.ID, Choice: "accept"},
		nil); !strings.Contains(out, "knock to the head") {
		t.Errorf("%s", out)
	}
	u.want(409, "POST", "/api/runs/"+ready.ID+"/clock", Step{"resume", 0}, nil)
	u.want(200, "POST", "/api/runs/"+running.ID+"/clock", Step{"pause", 50}, nil)
	u.want(409, "POST", "/api/runs/"+running.ID+"/clock", Step{"resume", 50}, nil) // it happened in this round
	u.want(200, "POST", "/api/runs/"+running.ID+"/hits", Batch{Device: "x", Hits: []HitIn{{Seq: 0, At: at(40)}}}, nil)
	u.want(200, "POST", "/api/runs/"+running.ID+"/clock", Step{"stop", 100}, nil) // what runs can be ended
	u.want(409, "POST", "/api/runs/"+running.ID+"/clock", Step{"resume", 100}, nil)
	u.want(200, "POST", "/api/runs", NewRun{AssignmentID: theirs.ID, Source: "keys"}, nil)

	u.want(422, "POST", "/api/cautions/"+head.ID+"/lift", Lift{" "}, nil)
	u.want(409, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, nil)
	u.want(204, "POST", "/api/cautions/"+head.ID+"/lift", Lift{"Dr Amsel"}, nil)
	u.want(200, "POST", "/api/runs/"+ready.ID+"/clock", Step{"start", 0}, nil)
}

// What a person reads of a refusal is a sentence: no path, no name of a field as the document has it, no row of
// decimals. The field travels beside it, and in a line the place.
func TestRefusalsAreSentences(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Hazel")
	bag := json.RawMessage(
		`{"kind":"doubleEnd","ballDiameter":0.18,"ballMass":0.45,"upper":{"span":0.75,"relaxed":0.577,"stiffness":150},"lower":{"span":0.75,"relaxed":0.577,"stiffness":150},"damping":0.04}`)
	wrong := func(old, now string) string { return strings.Replace(string(bag), old, now, 1) }
	cords, err := rig.Read(input.Parse(bag))
	if err != nil {
		t.Fatal(err)
	}
	var kept Rig
	u.want(200, "POST", "/api/rigs", Rig{Name: "Cords", Doc: RigDoc{Rig: cords}}, &kept)
	var person Trainee
	u.want(200, "POST", "/api/trainees", Trainee{Name: "Milo", Stance: "southpaw", Band: "beginner", AgeBand: "youth"},
		&person)
	drill := func(doc string) string {
		return fmt.Sprintf(`{"rigId":%q,"traineeId":%q,"doc":%s}`, kept.ID, person.ID, doc)
	}
	for _, c := range []struct{ path, body, field, says string }{
		{"/api/bench", fmt.Sprintf(`{"rig":%s,"rebounds":1,"tempo":200}`, wrong("0.577", "0.8")),
			"body.rig.upper.relaxed",
			"Upper cord, relaxed length: expected less than the span of 0.75 m, not 0.8 m: the cord hangs slack."},
		{"/api/bench", fmt.Sprintf(`{"rig":%s,"rebounds":1,"tempo":200}`, wrong(`"ballMass":0.45`, `"ballMass":-1`)),
			"body.rig.ballMass", "Ball mass: expected a number from 0.01"},
		{"/api/bench", fmt.Sprintf(`{"rig":%s,"rebounds":1,"tempo":200}`, wrong(`"ballMass":0.45,`, ``)),
			"body.rig.ballMass", "Ball mass is missing: expected"},
		{"/api/bench", fmt.Sprintf(`{"rig":%s,"rebounds":12,"tempo":200}`, bag), "body.rebounds", "Rebounds: expected"},
		{"/api/compose", drill(`{"text":"1-2-kros","work":60}`), "body.doc.text",
			`"kros" is not known; the nearest word is "cross".`},
		{"/api/compose", drill(`{"text":"left jab","work":60,"stance":"southpaw"}`), "body.doc.text",
			"A jab is the lead hand's: this boxer leads with the right; write left straight."},
		{"/api/compose", drill(`{"text":"1-2","work":60,"fist":9.123456789012345}`), "body.doc.fist",
			"Fist speed: expected at most 6.0 m/s, which is this person's greatest, not 9.1 m/s."},
		{"/api/compose", drill(`{"text":"1-2 - knee rear","work":60}`), "body.doc.text",
			"Knee rear, move 3: kicks, knees and elbows only where they are trained"},
		{"/api/compose", drill(`{"text":"1-2","work":60,"cues":{"moves":["roll sideways"],"least":3,"mean":7}}`),
			"body.doc.cues.moves", `"roll sideways": "roll" needs its side`},
		{"/api/compose", drill(`{"text":"1-2","work":60,"cues":{"moves":["duck"],"least":3.00000000000001,"mean":3}}`),
			"body.doc.cues.mean", "Average gap: expected more than the least gap of 3 s"},
	} {
		status, _, text := u.do("POST", c.path, c.body)
		var problem struct {
			Detail string
			Errors []struct {
				Location string
				Value    json.RawMessage
			}
		}
		if err := json.Unmarshal(text, &problem); err != nil || status != 422 || len(problem.Errors) == 0 {
			t.Errorf("%s: %d %s", c.body, status, text)
			continue
		}
		if problem.Errors[0].Location != c.field || !strings.HasPrefix(problem.Detail, c.says) {
			t.Errorf("%s at %q, want %s at %q", problem.Detail, problem.Errors[0].Location, c.says, c.field)
		}
		if regexp.MustCompile(`^[a-z]\w*[.:]|[a-z][A-Z]|\d\.\d{4}`).MatchString(problem.Detail) ||
			!strings.HasSuffix(problem.Detail, ".") {
			t.Errorf("%q is for a program to read", problem.Detail)
		}
		if line := strings.HasSuffix(c.field, ".text") && !strings.Contains(c.says, "move 3"); line {
			var at place
			if err := json.Unmarshal(problem.Errors[0].Value, &at); err == nil && at.Column >= 1 && at.Width >= 1 {
				continue
			}
			t.Errorf("%s: no place in the line: %s", problem.Detail, text)
		}
	}
}
