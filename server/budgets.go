package server

import (
	"fmt"
	"strings"
	"time"

	"melodromos/calc"
	"melodromos/server/door"
)

// budget limits a request to the routes of a row. The rows stand in docs/operating.md, too.
type budget struct {
	name     string
	in       int64         // bytes that are sent
	out      int64         // bytes of the answer; 0 for what is as long as what it is of
	work     time.Duration // that it is worked on before it is stopped; 0 to its end
	memory   int           // MB, beside what the program holds anyway, as scripts/budget measures it
	patience int           // times the usual one, from its place to its end; 0 for no end
	each     int           // at once, by a coach, or by a source where nobody is signed in; others wait
	all      int           // at once, by all
	routes   string        // methods and paths
	places   *door.Places
}

const (
	kB = 1 << 10
	mB = 1 << 20
	// mostImported limits an uploaded file: a million hits fit, and more.
	mostImported = 128 * mB
	mostAnswer   = 16 * mB
)

// usual limits how long a request waits for the database.
const usual = 15 * time.Second

// line is the row of docs/operating.md.
func (b budget) line() string {
	bytes := func(n int64, none string) string {
		switch {
		case n == 0:
			return none
		case n < mB:
			return fmt.Sprintf("%d kB", n/kB)
		}
		return fmt.Sprintf("%d MB", n/mB)
	}
	end := "none"
	if b.patience > 0 {
		end = fmt.Sprintf("%g s", (time.Duration(b.patience) * usual).Seconds())
	}
	work := "to its end"
	if b.work > 0 {
		work = fmt.Sprintf("%g s", b.work.Seconds())
	}
	return fmt.Sprintf("| %s | %s | %s | %s | %d MB | %s | %d | %d |", b.name, bytes(b.in, "nothing"),
		bytes(b.out, "any"), work, b.memory, end, b.each, b.all)
}

// budgets are all rows. A route that stands in none is refused by a test.
func budgets() []budget {
	return []budget{
		{name: "being there", out: mostAnswer, memory: 1, patience: 1, each: 4, all: 32, routes: `
			GET /healthz GET /readyz`},
		{name: "signing in", in: 16 * kB, out: mostAnswer, work: door.Longest, memory: 80, patience: 1,
			each: 8, all: 64, routes: `
			POST /api/sign-in GET /api/sign-in POST /api/sign-out POST /api/join POST /api/join/look PUT /api/account
			POST /api/account/password POST /api/account/sign-out-everywhere POST /api/coaches/{id}/remove
			POST /api/invitations DELETE /api/invitations/{id} POST /api/calendar-links
			DELETE /api/calendar-links/{id}`},
		{name: "sensors", in: 256 * kB, out: mostAnswer, work: door.Longest, memory: 20, patience: 1,
			each: 16, all: 64, routes: `
			GET /api/intake/{key} POST /api/intake/{key} POST /api/runs/{id}/hits POST /api/runs/{id}/clock`},
		{name: "calculator", in: calc.MaxDocument, out: mostAnswer, work: door.Longest, memory: 150, patience: 1,
			each: 8, all: 32, routes: `
			POST /api/calc/{op}`},
		{name: "reading", out: mostAnswer, work: door.Longest, memory: 60, patience: 1, each: 12, all: 64, routes: `
			GET /api/assignments/{id} GET /api/assignments/{id}/outlook GET /api/beginning GET /api/calendar
			GET /api/calendar-links GET /api/coaches GET /api/dates GET /api/drills GET /api/drills/{id}
			GET /api/first-drill/{id} GET /api/gym GET /api/hours GET /api/hours/{id} GET /api/invitations
			GET /api/kinds GET /api/library GET /api/rigs GET /api/rigs/{id} GET /api/rigs/{id}/calibrations
			GET /api/rigs/{id}/card/{trainee} GET /api/runs GET /api/runs/{id} GET /api/sessions GET /api/sessions/{id}
			GET /api/test-plan GET /api/today GET /api/trainees GET /api/trainees/{id} GET /api/trainees/{id}/mentions
			GET /api/unreadable GET /api/unreadable/{kind}/{id}/file GET /calendar/{secret} HEAD /calendar/{secret}`},
		{name: "writing", in: mB, out: mostAnswer, work: door.Longest, memory: 60, patience: 1, each: 8, all: 64,
			routes: `
			POST /api/assignments DELETE /api/assignments/{id} PUT /api/assignments/{id}
			POST /api/assignments/{id}/restore POST /api/cautions/{id}/lift POST /api/dates DELETE /api/dates/{id}
			PUT /api/dates/{id} POST /api/dates/{id}/restore POST /api/drills DELETE /api/drills/{id}
			POST /api/drills/{id}/carry POST /api/drills/{id}/copy POST /api/drills/{id}/give
			POST /api/drills/{id}/restore PUT /api/gym POST /api/hours/{id}/remove POST /api/hours/{id}/restore
			POST /api/rigs DELETE /api/rigs/{id} PUT /api/rigs/{id} POST /api/rigs/{id}/restore
			POST /api/rigs/{id}/undo-calibration POST /api/runs PUT /api/runs/{id}/rating POST /api/runs/{id}/remedy
			POST /api/runs/{id}/remove POST /api/runs/{id}/restore POST /api/sessions DELETE /api/sessions/{id}
			PUT /api/sessions/{id} POST /api/sessions/{id}/restore POST /api/trainees DELETE /api/trainees/{id}
			PUT /api/trainees/{id} POST /api/trainees/{id}/accept POST /api/trainees/{id}/cautions
			POST /api/trainees/{id}/decisions POST /api/trainees/{id}/erase POST /api/trainees/{id}/restore
			POST /api/trainees/{id}/tests PUT /api/turns/{id}/rating POST /api/unreadable/{kind}/{id}/remove`},
		{name: "working out", in: mB, out: mostAnswer, work: door.Longest, memory: 150, patience: 1, each: 4, all: 16,
			routes: `
			POST /api/bench POST /api/build-up POST /api/calibrate POST /api/combo-count POST /api/combo-tempo
			POST /api/compose POST /api/rigs/{id}/calibrations POST /api/session-look POST /api/tap-delay
			POST /api/tap-moments GET /api/class POST /api/hours POST /api/hours/{id}/anew POST /api/hours/{id}/drill
			POST /api/hours/{id}/floor POST /api/hours/{id}/seat GET /api/hours/{id}/stations/{stretch}
			GET /api/predictions GET /api/progress POST /api/runs/{id}/corrections
			POST /api/runs/{id}/corrections/{correction}/undo POST /api/runs/{id}/rejudge GET /api/runs/{id}/review
			POST /api/runs/{id}/times GET /api/trainees/{id}/ladder/{kind} GET /api/trainees/{id}/page
			GET /api/trainees/{id}/progress`},
		{name: "sound", memory: 60, patience: 10, each: 2, all: 8, routes: `
			GET /api/assignments/{id}/wav GET /api/drills/{id}/wav GET /api/sessions/{id}/wav`},
		{name: "files out", memory: 200, patience: 10, each: 2, all: 6, routes: `
			GET /api/assignments/{id}/midi GET /api/drills/{id}/document GET /api/drills/{id}/midi
			GET /api/export/calendar GET /api/export/gym GET /api/export/hits GET /api/export/log
			GET /api/rigs/{id}/document GET /api/sessions/{id}/document GET /api/sessions/{id}/midi
			GET /api/trainees/{id}/export`},
		{name: "files in", in: mostImported, out: mostAnswer, memory: 200, each: 2, all: 8,
			routes: `
			POST /api/import`},
		{name: "watching", memory: 1, each: 50, all: 500, routes: `
			GET /api/runs/{id}/live`},
	}
}

// rows are the budgets by method and path as the router has them, each with its places.
func rows() map[string]*budget {
	asRouted := strings.NewReplacer("{", ":", "}", "")
	of := map[string]*budget{}
	for _, b := range budgets() {
		b.places = door.NewPlaces(b.each, b.all)
		words := strings.Fields(b.routes)
		for i := 0; i < len(words); i += 2 {
			of[words[i]+" "+asRouted.Replace(words[i+1])] = &b
		}
	}
	return of
}
