package server

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/jackc/pgx/v5"

	"melodromos/core/bench"
	"melodromos/core/class"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/core/session"
	"melodromos/ledger"
	"melodromos/store"
)

// emptyDrill is the document that classes of a shared session once left behind.
const emptyDrill = `{"version":1,"kind":"speedBag","technique":"","firstHand":"","perHand":0,"rebounds":0,"strikeAngle":0,"work":0,"strikes":0,"calls":false}`

// A spoiling is a column of a table whose document is spoiled.
type spoiling struct {
	kind   store.RowKind
	table  string
	column string
	ids    string // of the furnished gym
	docs   []string
}

var spoilings = []spoiling{
	{store.RigRow, "rigs", "doc", "rigs", []string{`{"kind":"speed"}`, `{"kind":"speed","bagLength":"long"}`}},
	{store.RigRow, "rigs", "place", "rigs", []string{`{"height":[]}`}},
	{store.DrillRow, "drills", "doc", "drills", []string{emptyDrill, `{}`, `{"text":"jump"}`}},
	{store.AssignmentRow, "assignments", "work", "assignments", []string{`1e9`}},
	{store.SessionRow, "session_plans", "doc", "sessions", []string{`{}`, `[]`, `{"rounds":[{"seconds":"x"}]}`}},
	{store.ClassRow, "hours", "plan", "hours",
		[]string{`{}`, `{"session":{"rounds":[]}}`, `{"session":null,"turns":[{"round":99}]}`}},
	{store.ClassRow, "hours", "deeds", "hours", []string{`{}`, `[{"deed":"fly"}]`}},
	{store.DateRow, "dates", "skipped", "dates", []string{`{}`, `["soon"]`}},
	{store.RunRow, "runs", "rig_doc", "runs", []string{`{}`}},
	{store.RunRow, "runs", "drill_doc", "runs", []string{emptyDrill}},
	{store.RunRow, "timelines", "doc", "runs", []string{`{}`, `{"events":[{"kind":"strike"}]}`, `{"events":7}`}},
	{"", "calibrations", "evidence", "", []string{`{"taps":"none"}`}},
	{"", "corrections", "was", "", []string{`{"drill":[]}`}},
}

// One row of every table whose document was spoiled by hand takes nothing else down: every other thing is answered as
// before, the row is named as one that could not be read, comes down as it is, and can be removed.
func TestLongSpoiledRows(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Hazel")
	m := &maker{Rand: rand.New(rand.NewPCG(1, 1)), doc: s.api.OpenAPI()}
	m.furnish(u)
	var person Trainee
	u.want(200, "GET", "/api/trainees/"+m.ids["trainees"][0], nil, &person)
	u.want(200, "POST", "/api/rigs/"+m.ids["rigs"][0]+"/calibrations", NewCalibration{Version: 1,
		Measured: bench.Measured{Method: "count", Count: 3, Seconds: 0.5}}, nil)
	for _, of := range spoilings {
		for _, doc := range of.docs {
			t.Run(of.table+"."+of.column+" "+doc[:min(len(doc), 24)], func(t *testing.T) {
				u := u
				u.t = t
				s.spoil(t, u, m, of, doc)
			})
		}
	}
}

// spoil spoils one row, walks all, and puts it back.
func (s site) spoil(t *testing.T, u user, m *maker, of spoiling, doc string) {
	where, key := "id", ""
	if of.table == "timelines" {
		where = "run_id"
	}
	if of.ids == "" { // any row that there is
		if key = s.one(t, "SELECT id::text FROM "+of.table+" LIMIT 1"); key == "" {
			t.Fatal("none was made")
		}
	} else {
		key = m.ids[of.ids][0]
	}
	was := s.one(t, fmt.Sprintf("SELECT %s::text FROM %s WHERE %s = $1", of.column, of.table, where), key)
	set := fmt.Sprintf("UPDATE %s SET %s = $2 WHERE %s = $1", of.table, of.column, where)
	s.sql(t, set, key, doc)
	defer func() {
		if was == "" {
			s.sql(t, fmt.Sprintf("UPDATE %s SET %s = NULL WHERE %s = $1", of.table, of.column, where), key)
			return
		}
		s.sql(t, set, key, was)
	}()
	good := map[string]string{}
	for sort, ids := range m.ids {
		good[sort] = ids[len(ids)-1]
	}
	bad := map[string]string{of.ids: key}
	for _, o := range operations(s.api.OpenAPI()) {
		if o.method != "GET" || strings.HasPrefix(o.path, "/api/calc") {
			continue
		}
		for _, ids := range []map[string]string{good, bad} {
			path, ok := filled(o.path, ids, good)
			if !ok {
				continue
			}
			if strings.HasSuffix(path, "/wav") && !strings.Contains(path, key) {
				continue // sound takes long, and is made of what the others read
			}
			status, _, out := u.do("GET", path, nil)
			if status >= 500 {
				t.Errorf("GET %s: %d %.300s", path, status, out)
			}
			// What hangs on the row, as somebody's drill on a bag, is refused with it; lists and others are not.
			if named := strings.Contains(o.path, "{"); !named && status != 200 && o.path != "/api/intake/{key}" {
				t.Errorf("GET %s: %d %.300s", path, status, out)
			}
		}
	}
	for _, what := range []struct {
		path string
		body any
	}{
		{"/api/hours", ClassQuestion{People: m.ids["trainees"], Bags: []string{}, Minutes: 30}},
		{"/api/trainees", traineeNamed(fmt.Sprintf("Odd %d", len(doc)))},
		{"/api/dates", thursdays},
	} {
		if status, _, out := u.do("POST", what.path, what.body); status != 200 {
			t.Errorf("POST %s beside a spoiled row: %d %.300s", what.path, status, out)
		}
	}
	if of.kind == "" {
		return
	}
	var list []NotRead
	u.want(200, "GET", "/api/unreadable", nil, &list)
	if len(list) != 1 || list[0].Kind != of.kind || list[0].ID != key || list[0].Why == "" || list[0].Name == "" {
		t.Fatalf("could not be read: %+v", list)
	}
	path := fmt.Sprintf("/api/unreadable/%s/%s", of.kind, key)
	status, header, out := u.do("GET", path+"/file", nil)
	if status != 200 || !json.Valid(out) || !strings.Contains(header.Get("Content-Disposition"), "attachment") ||
		!strings.Contains(string(out), key) || strings.Contains(string(out), "intake_hash") {
		t.Errorf("as it is: %d %v %.200s", status, header, out)
	}
	u.want(204, "POST", path+"/remove", nil, nil)
	if u.want(200, "GET", "/api/unreadable", nil, &list); len(list) != 0 {
		t.Errorf("removed, and still there: %+v", list)
	}
	column := map[string]string{"hours": "removed_at", "runs": "removed_at", "timelines": "removed_at"}[of.table]
	table := map[string]string{"timelines": "runs"}[of.table]
	if column == "" {
		column = "archived_at"
	}
	if table == "" {
		table = of.table
	}
	s.sql(t, fmt.Sprintf("UPDATE %s SET %s = NULL WHERE id = $1", table, column), key)
	// Once it can be read again nothing is left of it.
	s.sql(t, set, key, was0(was))
	if u.want(200, "GET", "/api/unreadable", nil, &list); len(list) != 0 {
		t.Errorf("put right, and still there: %+v", list)
	}
}

// was0 returns the former value of a column; nil for a null.
func was0(was string) any {
	if was == "" {
		return nil
	}
	return was
}

func traineeNamed(name string) Trainee {
	return Trainee{Name: name, Stance: "orthodox", Band: "beginner", AgeBand: "adult"}
}

// filled puts ids into a path, of the sort that stands before it; false where there is none.
func filled(path string, ids, others map[string]string) (string, bool) {
	parts := strings.Split(path, "/")
	for i, part := range parts {
		switch {
		case part == "{id}" && ids[parts[2]] != "":
			parts[i] = ids[parts[2]]
		case part == "{kind}":
			parts[i] = "speed"
		case part == "{stretch}":
			parts[i] = "7"
		case part == "{trainee}":
			parts[i] = others["trainees"]
		case strings.HasPrefix(part, "{"):
			return "", false
		}
	}
	return strings.Join(parts, "/"), true
}

// one is the first column of the first row of a query, as the house sees it; "" for none, or null.
func (s site) one(t testing.TB, query string, args ...any) (out string) {
	t.Helper()
	s.past(t, func(db *pgx.Conn) error {
		var text *string
		err := db.QueryRow(ctx, query, args...).Scan(&text)
		if err == pgx.ErrNoRows {
			return nil
		}
		if text != nil {
			out = *text
		}
		return err
	})
	return out
}

// What classes of shared sessions left in a gym is taken away when the server starts: the empty drills with whoever had
// them, and the same in the plans of those classes.
func TestMendedAtTheStart(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Alder")
	h, _, rigs := u.class()
	gymID := s.one(t, "SELECT gym_id::text FROM rigs WHERE id = $1", rigs["speed"].ID)
	s.sql(t, `INSERT INTO drills (gym_id, name, kind, doc, rung, version)
		VALUES ($1, 'Thirteen moves', 'speed', $2, '', 1)`,
		gymID, emptyDrill)
	s.sql(t, `INSERT INTO assignments (gym_id, drill_id, trainee_id, rig_id, version, eased)
		SELECT $1, d.id, t.id, $2, 1, '' FROM drills d, trainees t WHERE d.name = 'Thirteen moves' AND t.gym_id = $1`,
		gymID, rigs["speed"].ID)
	s.sql(t, `UPDATE hours SET plan = jsonb_set(plan, '{given,0,doc}', $2::jsonb) WHERE id = $1`, h.ID, emptyDrill)
	if err := ledger.Inspect(t.Context(), s.store); err != nil {
		t.Fatal(err)
	}
	if n := s.one(t, "SELECT count(*)::text FROM drills WHERE name = 'Thirteen moves'"); n != "0" {
		t.Errorf("%s empty drills are left", n)
	}
	var list []NotRead
	if u.want(200, "GET", "/api/unreadable", nil, &list); len(list) != 0 {
		t.Errorf("left: %+v", list)
	}
	u.want(200, "GET", "/api/hours/"+h.ID, nil, &h)
	if !h.Plan.Given[0].Doc.Empty() || h.Plan.Given[1].Doc.Empty() {
		t.Errorf("the plan of the class: %+v", h.Plan.Given[:2])
	}
	u.want(200, "POST", "/api/hours/"+h.ID+"/floor", FloorStep{Action: "start", Deeds: none}, &h)
}

// The door refuses what its reader refuses, in whatever way it comes, and leaves what was there.
func TestNothingUnreadableIsWritten(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Rowan")
	person, bag, d := u.furnished(10)
	gym := s.store.Gym(ctx, s.one(t, "SELECT gym_id::text FROM rigs WHERE id = $1", bag.ID))
	var h HeldClass
	u.want(200, "POST", "/api/hours", ClassQuestion{People: []string{person.ID}, Bags: []string{}, Minutes: 30}, &h)
	row, err := gym.Drill(d.DrillID)
	if err != nil {
		t.Fatal(err)
	}
	bad := func(doc string) store.Doc { return store.Doc(doc) }
	far := 1e9
	for name, write := range map[string]func() error{
		"a drill": func() error {
			return gym.AddDrill(&store.Drill{Name: "Empty", Kind: "speed", Doc: bad(emptyDrill)})
		},
		"a drill that is the same as another": func() error {
			return gym.EnsureDrill(&store.Drill{Name: "Empty", Kind: "speed", Doc: bad(emptyDrill)})
		},
		"a drill changed": func() error {
			row := row
			row.Doc = bad(`{"text":"jump"}`)
			return gym.ChangeDrill(&row)
		},
		"a bag": func() error {
			return gym.AddRig(&store.Rig{Name: "Bag", Kind: "speed", Doc: bad(`{"kind":"speed"}`)})
		},
		"a place": func() error {
			doc, _ := json.Marshal(bag.Doc)
			return gym.AddRig(&store.Rig{Name: "Bag", Kind: "speed", Doc: doc, Place: bad(`{"height":3}`)})
		},
		"a session": func() error {
			return gym.AddSessionPlan(&store.SessionPlan{Name: "S", Doc: bad(`{"rounds":[]}`)})
		},
		"a class": func() error {
			return gym.AddClass(&store.Class{Name: "C", Plan: bad(`{"session":{"rounds":[]}}`)})
		},
		"a class moved": func() error {
			_, err := gym.MoveClass(h.ID, func(h *store.Class) error {
				h.Deeds = bad(`[{"deed":"fly"}]`)
				return nil
			}, nil)
			return err
		},
		"a date": func() error {
			return gym.AddDate(&store.Date{Name: "D", At: "18:30", Minutes: 60, Skipped: bad(`["soon"]`)})
		},
		"settings": func() error {
			return gym.AddAssignment(&store.Assignment{DrillID: d.DrillID, TraineeID: person.ID, RigID: bag.ID,
				Work: &far})
		},
		"a round": func() error {
			return gym.AddRun(&store.Run{DrillID: d.DrillID, RigID: bag.ID, TraineeID: &person.ID, RigDoc: bad(`{}`),
				DrillDoc: bad(`{}`), Source: "keys", IntakeHash: "x", Zone: "UTC"}, bad(`{"events":[]}`))
		},
	} {
		if err := write(); err == nil {
			t.Errorf("%s that cannot be read was written", name)
		}
	}
	for table, want := range map[string]string{"drills": "1", "rigs": "1", "session_plans": "0", "hours": "1",
		"dates": "0", "assignments": "1", "runs": "0"} {
		if n := s.one(t, "SELECT count(*)::text FROM "+table+" WHERE gym_id = $1", gym.ID); n != want {
			t.Errorf("%s rows of %s, want %s", n, table, want)
		}
	}
	if again, err := gym.Drill(d.DrillID); err != nil || string(again.Doc) != string(row.Doc) {
		t.Errorf("the drill now: %s, %v", again.Doc, err)
	}
}

// Every session that the product ships, and one that is built up, is planned, started, run to its end and logged with
// one, three and eight people. A session that is the same for everybody leaves no drill behind.
func TestLongEverySessionHeld(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Yew")
	first, _ := u.hung("speed", "doubleEnd", "reflex", "slip", "hanging")
	ids := []string{first.ID}
	for _, p := range u.someMore(map[string]string{"Ada": "beginner", "Ben": "intermediate", "Cid": "first-timer",
		"Dot": "advanced", "Eli": "beginner", "Fay": "beginner", "Gus": "intermediate"}) {
		ids = append(ids, p.ID)
	}
	sessions := session.Templates()
	built, err := session.BuildUp("1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!", rig.Hanging, 180)
	if err != nil {
		t.Fatal(err)
	}
	built.Name = "Thirteen moves, built up"
	sessions = append(sessions, session.Template{Key: "thirteen", Session: built})
	for _, x := range sessions {
		for _, n := range []int{1, 3, 8} {
			t.Run(fmt.Sprintf("%s with %d", x.Key, n), func(t *testing.T) {
				u := u
				u.t = t
				u.holds(ids[:n], x.Session)
			})
		}
	}
	for _, path := range []string{"today", "class", "drills", "library", "predictions", "progress", "hours",
		"calendar"} {
		u.want(200, "GET", "/api/"+path, nil, nil)
	}
}

// holds plans a class of a session, starts it, looks at everything in it, and runs it to its end.
func (u user) holds(people []string, plan session.Session) {
	t := u.t
	t.Helper()
	var before, after []Drill
	u.want(200, "GET", "/api/drills", nil, &before)
	var h HeldClass
	u.want(200, "POST", "/api/hours", ClassQuestion{People: people, Bags: []string{}, Session: &plan}, &h)
	path := "/api/hours/" + h.ID
	u.want(200, "POST", path+"/floor", FloorStep{Action: run.Start, Deeds: none}, &h)
	onBags := 0
	for i, r := range plan.Rounds {
		turn := slices.IndexFunc(h.Plan.Turns, func(t class.Turn) bool { return t.Round == i })
		if r.OnBags() != (turn >= 0) {
			t.Errorf("round %d, on the bags %v, has turns: %v", i, r.OnBags(), turn >= 0)
		}
	}
	for _, f := range h.Faces {
		if f.Block < 0 || !f.OnBag {
			continue
		}
		var stations []StationOut
		u.want(200, "GET", fmt.Sprintf("%s/stations/%d", path, f.ID), nil, &stations)
		for _, x := range stations {
			if x.Barred != "" || len(x.Timeline.Events) == 0 {
				t.Errorf("%s, %s: %q, %d events", f.Title, x.Name, x.Barred, len(x.Timeline.Events))
			}
			if f.Role != session.Own && x.Name != f.Title {
				t.Errorf("in %s somebody does %s", f.Title, x.Name)
			}
		}
		onBags += len(stations)
	}
	if onBags == 0 {
		t.Error("nobody was on a bag")
	}
	u.want(200, "POST", path+"/floor", FloorStep{Action: run.Finish, ClockUS: h.UntilUS, Deeds: none}, &h)
	if h.State != run.Done || u.done(h.ID) == 0 {
		t.Errorf("it ended %s with %d turns in the log", h.State, u.done(h.ID))
	}
	u.want(200, "GET", path, nil, &h)
	on := slices.IndexFunc(h.Done, func(t TurnOut) bool { return t.RigID != "" })
	if on < 0 {
		t.Fatal("nobody's turn on a bag is in the log")
	}
	var page PersonPage
	u.want(200, "GET", "/api/trainees/"+h.Done[on].TraineeID+"/page", nil, &page)
	if !slices.ContainsFunc(page.Classes, func(c ClassDone) bool { return c.ClassID == h.ID && c.Rounds > 0 }) {
		t.Errorf("the class is not on their page, among %d", len(page.Classes))
	}
	u.want(200, "GET", "/api/drills", nil, &after)
	shared := !slices.ContainsFunc(plan.Rounds, session.Round.OwnDrills)
	if shared && len(after) != len(before) {
		t.Errorf("%d drills, and %d after a session that is the same for everybody", len(before), len(after))
	}
	for _, d := range after {
		if d.Name == plan.Name && shared {
			t.Errorf("the session left a drill: %+v", d)
		}
	}
}
