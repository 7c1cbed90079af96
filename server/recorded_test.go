package server

import (
	"bytes"
	"fmt"
	"net/http"
	"net/http/cookiejar"
	"strings"
	"sync"
	"testing"
	"time"

	"melodromos/demo"
	"melodromos/recorded"
)

// The demo gym answers as it did, on a day that is always the same.
func TestLongRecordedDemo(t *testing.T) {
	s := newSite(t, func(o *Options) { o.DemoEmail, o.DemoPassword = demo.Email, demo.Password })
	s.store.SetClock(ticking(time.Date(2026, 3, 17, 18, 20, 0, 0, time.UTC)))
	if err := demo.Load(ctx, s.store, s.store.Now()); err != nil {
		t.Fatal(err)
	}
	jar, _ := cookiejar.New(nil)
	u := user{t, s.url, &http.Client{Jar: jar}, nil, demo.Email}
	u.want(200, "POST", "/api/sign-in", signInBody{demo.Email, demo.Password}, nil)
	ids := map[string]string{}
	for sort, path := range map[string]string{"person": "trainees", "bag": "rigs", "drill": "drills",
		"session": "sessions", "class": "hours", "round": "runs?limit=200"} {
		var rows any
		u.want(200, "GET", "/api/"+path, nil, &rows)
		collect(ids, sort, rows)
	}
	var all []recorded.Answer
	for _, q := range asked {
		method, path, body := "GET", q, ""
		if post, rest, is := strings.Cut(q, " | "); is {
			method, path, body = "POST", post, rest
		}
		for name, id := range ids {
			path, body = strings.ReplaceAll(path, "<"+name+">", id), strings.ReplaceAll(body, "<"+name+">", id)
		}
		if strings.Contains(path+body, "<") {
			t.Fatalf("%s: not in the demo; there are %v", q, ids)
		}
		var in any
		if body != "" {
			in = body
		}
		status, _, text := u.do(method, path, in)
		if status != http.StatusOK {
			t.Fatalf("%s: %d %s", q, status, text)
		}
		for name, id := range ids { // by name, since ids differ from day to day
			text = bytes.ReplaceAll(text, []byte(id), []byte(strings.ReplaceAll(name, " ", ".")))
		}
		all = append(all, recorded.Answer{Question: q, Answer: text})
	}
	recorded.Compare(t, "demo", all)
}

// collect takes up the ids of what has a name, of rounds by whose and when they were.
func collect(ids map[string]string, sort string, v any) {
	switch v := v.(type) {
	case []any:
		for _, inner := range v {
			collect(ids, sort, inner)
		}
	case map[string]any:
		id, _ := v["id"].(string)
		name, _ := v["name"].(string)
		if plan, is := v["session"].(map[string]any); is {
			name, _ = plan["name"].(string)
		}
		if sort == "round" {
			if at, is := v["createdAt"].(string); is {
				name = fmt.Sprint(v["trainee"], " ", at[:len("2026-03-17")])
				ids[fmt.Sprint("given ", v["drillName"])], _ = v["assignmentId"].(string)
			}
		}
		if id != "" && name != "" {
			ids[sort+" "+name] = id
		}
		for _, inner := range v {
			collect(ids, sort, inner)
		}
	}
}

// ticking is a clock that goes on by a microsecond whenever it is read, so that what is written later stays later.
func ticking(from time.Time) func() time.Time {
	var lock sync.Mutex
	return func() time.Time {
		lock.Lock()
		defer lock.Unlock()
		from = from.Add(time.Microsecond)
		return from
	}
}

// asked are pages of the demo gym, and questions that change nothing; after " | " stands what is sent.
var asked = []string{
	"/api/today", "/api/class", "/api/calendar", "/api/dates", "/api/drills", "/api/gym", "/api/hours",
	"/api/hours/<class Tuesday class>", "/api/hours/<class Tuesday class>/stations/9", "/api/kinds", "/api/library",
	"/api/predictions", "/api/progress", "/api/rigs", "/api/rigs/<bag Windlass>",
	"/api/rigs/<bag Windlass>/card/<person Tobias Amadi-Rein>", "/api/rigs/<bag Gannet>/document", "/api/runs?limit=20",
	"/api/runs/<round Ines Calder 2026-03-15>/review", "/api/runs/<round Yusuf Brandvik 2026-03-14>/review",
	"/api/runs/<round Greta Sallowfield 2026-03-16>/review", "/api/runs/<round Lerato Quayle 2026-03-16>/review",
	"/api/runs/<round Mateus Strandvik 2026-03-16>/review", "/api/sessions",
	"/api/test-plan", "/api/trainees",
	"/api/trainees/<person Dov Achterman>", "/api/trainees/<person Yusuf Brandvik>/ladder/speed",
	"/api/trainees/<person Yusuf Brandvik>/ladder/hanging", "/api/trainees/<person Ines Calder>/page",
	"/api/trainees/<person Ines Calder>/progress", "/api/trainees/<person Dov Achterman>/mentions",
	"/api/assignments/<given Thirteen moves>", "/api/assignments/<given Thirteen moves>/outlook",
	"/api/assignments/<given Basic rhythm, five a side>/outlook", "/api/first-drill/<bag Quay bag>",
	`/api/bench | {"rig":` + ofTheQuay + `,"rebounds":3,"traineeId":"<person Ines Calder>","tempo":130}`,
	`/api/bench | {"rig":{"kind":"reflex","ballDiameter":0.21,"ballMass":0.75,"poleLength":1.16,"poleMass":0.7,` +
		`"spring":46,"damping":0.07},"rebounds":1,"traineeId":"<person Lerato Quayle>","launch":3}`,
	`/api/compose | {"rigId":"<bag Bollard>","traineeId":"<person Mateus Strandvik>","doc":` + combination + `}`,
	`/api/compose | {"rigId":"<bag Gannet>","traineeId":"<person Tobias Amadi-Rein>","doc":` + combination + `}`,
	`/api/combo-count | {"text":"1-2 - wait - duck - 2-3","move":1,"count":2}`,
	`/api/build-up | {"text":"1-2 - slip rear - 2-3 | roll lead - 3-2","bag":"hanging","seconds":180}`,
}

const (
	ofTheQuay = `{"kind":"speed","bagLength":0.23,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.02,"restitution":0.8,` +
		`"boardHeight":1.95}`
	combination = `{"text":"1-2 - slip rear - 2","landing":"returns","work":60}`
)
