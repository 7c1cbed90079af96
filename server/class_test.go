package server

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"melodromos/core/class"
	"melodromos/core/drill"
	"melodromos/core/run"
	"melodromos/core/session"
	"melodromos/store"
)

// none were done.
var none = []session.Done{}

// class is a gym with five people, three bags and a class of theirs that is planned.
func (u user) class() (HeldClass, map[string]Trainee, map[string]Rig) {
	u.t.Helper()
	first, rigs := u.hung("speed", "doubleEnd", "hanging")
	people := u.someMore(map[string]string{"Ada": "beginner", "Ben": "intermediate", "Cid": "first-timer",
		"Dot": "advanced"})
	people["Runa"] = first
	ids := []string{}
	for _, p := range people {
		ids = append(ids, p.ID)
	}
	slices.Sort(ids)
	var h HeldClass
	u.want(200, "POST", "/api/hours", ClassQuestion{People: ids, Bags: []string{}, Minutes: 30}, &h)
	return h, people, rigs
}

// A class from its plan to its end: what is told of the floor moves it on, what was done stands in the log once, what
// is told twice counts once, and it goes on where it was after its screen was away.
func TestClass(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Rowan")
	h, people, rigs := u.class()
	if len(h.Plan.People) != 5 || h.State != run.Ready || len(h.Faces) == 0 || len(h.Cues) == 0 {
		t.Fatalf("%d people, %s, %d stretches, %d cues", len(h.Plan.People), h.State, len(h.Faces), len(h.Cues))
	}
	for _, g := range h.Plan.Given {
		if g.AssignmentID != "" {
			t.Errorf("a drill is given before the class begins: %+v", g)
		}
	}
	path := "/api/hours/" + h.ID
	u.want(200, "POST", path+"/floor", FloorStep{Action: "start", Deeds: none}, &h)
	for _, g := range h.Plan.Given {
		if g.AssignmentID == "" {
			t.Errorf("not given: %+v", g)
		}
	}
	first := h.Faces[slices.IndexFunc(h.Faces, func(f session.Display) bool { return f.Role == session.Own })]
	// The first round is skipped after 40 s, and told twice; then it is carried on.
	deeds := []session.Done{{ID: "a", Deed: session.Skip, At: first.From + 40e6}}
	step := FloorStep{ClockUS: int64(first.From) + 41e6, Deeds: deeds}
	u.want(200, "POST", path+"/floor", step, &h)
	u.want(200, "POST", path+"/floor", step, &h)
	carried := 0
	for _, f := range h.Faces {
		if f.Carried {
			carried++
		}
	}
	if h.Deeds != 1 || carried != 1 {
		t.Errorf("%d deeds, %d carried on", h.Deeds, carried)
	}
	var told HeldClass
	u.want(200, "POST", path+"/floor", FloorStep{ClockUS: step.ClockUS,
		Deeds: []session.Done{{ID: "b", Deed: session.Slower, At: 12e6}}}, &told)
	if told.Deeds != 1 || !strings.Contains(told.Refused, "tempo") {
		t.Errorf("slower in the warm-up: %d deeds, %q", told.Deeds, told.Refused)
	}
	nameless := FloorStep{Deeds: []session.Done{{Deed: session.Skip}}}
	if status, _, out := u.do("POST", path+"/floor", nameless); status != 422 {
		t.Errorf("a deed without an id: %d %s", status, out)
	}
	var stations []StationOut
	next := h.Faces[slices.IndexFunc(h.Faces, func(f session.Display) bool {
		return f.Role == session.Own && f.From > first.From
	})]
	u.want(200, "GET", fmt.Sprintf("%s/stations/%d", path, next.ID), nil, &stations)
	if len(stations) != 3 {
		t.Fatalf("%d stations on three bags", len(stations))
	}
	for _, x := range stations {
		if x.Barred != "" || len(x.Timeline.Events) == 0 || x.Timeline.End <= x.Timeline.Start || x.Tempo == 0 {
			t.Errorf("%s: barred %q, %d events", x.Name, x.Barred, len(x.Timeline.Events))
		}
	}
	if got := u.done(h.ID); got != 5 {
		t.Errorf("%d turns after the first round", got)
	}
	// Somebody goes, the double-end bag breaks.
	var crew Crew
	for name, p := range people {
		if name != "Ben" {
			crew.People = append(crew.People, p.ID)
		}
	}
	crew.Bags = []string{rigs["speed"].ID, rigs["hanging"].ID}
	u.want(200, "POST", path+"/anew", crew, &h)
	if x := h.Plan.Person(people["Ben"].ID); x == nil || !x.Gone || !h.Plan.Bag(rigs["doubleEnd"].ID).Broken {
		t.Errorf("%+v %+v", h.Plan.People, h.Plan.Bags)
	}
	if got := u.done(h.ID); got != 5 {
		t.Errorf("%d turns after it was planned anew", got)
	}
	// The screen goes; the class stands where it was heard last, and goes on there.
	s.sql(t, `UPDATE hours SET seen_at = now() - interval '2 minutes', zero_at = now() - interval '10 minutes'
		WHERE id = $1`, h.ID)
	if err := s.Server.pauseQuiet(t.Context()); err != nil {
		t.Fatal(err)
	}
	u.want(200, "GET", path, nil, &h)
	if h.State != run.Paused || h.ClockUS != int64(first.From)+41e6 {
		t.Errorf("%s at %d", h.State, h.ClockUS)
	}
	u.want(200, "POST", path+"/floor", FloorStep{Action: "resume", ClockUS: h.ClockUS, Deeds: none}, &h)
	u.want(200, "POST", path+"/floor", FloorStep{Action: "finish", ClockUS: h.UntilUS, Deeds: none}, &h)
	if h.State != run.Done {
		t.Errorf("it ended %s", h.State)
	}
	if got, want := u.done(h.ID), 5+4*len(h.Plan.Turns); got != want {
		t.Errorf("%d turns in all, want %d: the first round, then all again with four people", got, want)
	}
	var page PersonPage
	u.want(200, "GET", "/api/trainees/"+people["Ada"].ID+"/page", nil, &page)
	if len(page.Classes) != 1 || page.Classes[0].Rounds == 0 || len(page.Classes[0].Bags) == 0 {
		t.Errorf("on a person's page: %+v", page.Classes)
	}
	if status, _, out := u.do("POST", path+"/anew", crew); status != 422 || !strings.Contains(string(out), "over") {
		t.Errorf("planned anew after its end: %d %s", status, out)
	}
}

// done counts the turns of a class in the log.
func (u user) done(id string) int {
	u.t.Helper()
	rows, err := u.gym.Turns(id)
	if err != nil {
		u.t.Fatal(err)
	}
	return len(rows)
}

// A class that was planned twice with one key is one, and it can be removed and brought back.
func TestClassOnce(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Sallow")
	person, _ := u.hung("speed")
	q := ClassQuestion{People: []string{person.ID}, Bags: []string{}, Minutes: 20}
	const key = "8b0d5b4e-57a2-4d5c-9d38-0a4bb8a5a001"
	a, _ := u.keyed(key, "/api/hours", q)
	b, status := u.keyed(key, "/api/hours", q)
	if a != key || b != key || status != 200 {
		t.Errorf("%s, then %s (%d)", a, b, status)
	}
	var list []ClassRow
	u.want(204, "POST", "/api/hours/"+key+"/remove", nil, nil)
	u.want(200, "GET", "/api/hours", nil, &list)
	if len(list) != 0 {
		t.Errorf("removed: %+v", list)
	}
	u.want(204, "POST", "/api/hours/"+key+"/restore", nil, nil)
	u.want(200, "GET", "/api/hours", nil, &list)
	if len(list) != 1 {
		t.Errorf("brought back: %+v", list)
	}
}

// By hand: somebody is put on another bag, and who was there takes their place; a drill of theirs is chosen.
func TestClassByHand(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Tamarisk")
	h, people, rigs := u.class()
	round := h.Plan.Turns[0].Round
	seats := h.Plan.Turns[0].Seats
	off := seats[slices.IndexFunc(seats, func(x class.Seat) bool { return x.Bag == "" })]
	u.want(200, "POST", "/api/hours/"+h.ID+"/seat",
		Seating{Round: round, Person: off.Person, Bag: rigs["speed"].ID}, &h)
	if h.Plan.Turns[0].Seat(off.Person).Bag != rigs["speed"].ID {
		t.Errorf("%+v", h.Plan.Turns[0])
	}
	plan := drill.SpeedBagDrill{Technique: drill.OneHand, FirstHand: drill.Rear, Rebounds: 3, StrikeAngle: 25,
		Tempo: 110, Work: 60}
	d := Assignment{RigID: rigs["speed"].ID, TraineeID: off.Person, Name: "My own", Doc: DrillDoc{Plan: plan}}
	u.want(200, "POST", "/api/assignments", d, &d)
	u.want(200, "POST", "/api/hours/"+h.ID+"/drill", Choosing{off.Person, d.ID}, &h)
	if g := h.Plan.Of(off.Person, rigs["speed"].ID); g.Name != "My own" || g.AssignmentID != d.ID {
		t.Errorf("%+v", g)
	}
	for name, p := range people {
		if p.ID == off.Person {
			continue
		}
		if status, _, _ := u.do("POST", "/api/hours/"+h.ID+"/drill", Choosing{p.ID, d.ID}); status != 422 {
			t.Errorf("%s takes somebody else's drill: %d", name, status)
		}
		break
	}
}

// Who is erased is in no plan of a class any more, by name or id (a search of all that is stored).
func TestErasedFromClasses(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Ulmus")
	h, people, _ := u.class()
	u.want(200, "POST", "/api/hours/"+h.ID+"/floor", FloorStep{Action: "start", Deeds: none}, &h)
	u.want(200, "POST", "/api/hours/"+h.ID+"/floor", FloorStep{Action: "finish", ClockUS: h.UntilUS,
		Deeds: none}, &h)
	u.want(200, "POST", "/api/trainees/"+people["Runa"].ID+"/erase", Erasure{Name: "Runa", Password: password}, nil)
	for _, table := range []string{"hours", "turns"} {
		n := s.number(t, "SELECT count(*) FROM "+table+
			" x WHERE x::text LIKE '%' || $1 || '%' OR x::text LIKE '%Runa%'", people["Runa"].ID)
		if n != 0 {
			t.Errorf("%d rows of %s still tell of them", n, table)
		}
	}
	u.want(200, "GET", "/api/hours/"+h.ID, nil, &h)
}

// Names that are also words of what is stored, erased: the meaning of nothing else changes, and whatever may still tell
// of them is told. A whole name of two words goes wherever it stands.
func TestNamesThatAreWords(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Medlar")
	first, rigs := u.hung("speed", "hanging")
	names := []string{"Rounds", "Session", "Young Kind", "Bags", "People", "Given", "Null", "Doc", "Seats Turn", "Work",
		"Id Name", "Marlo Young"}
	bands := map[string]string{}
	for _, n := range names {
		bands[n] = "beginner"
	}
	people := u.someMore(bands)
	var h HeldClass
	u.want(200, "POST", "/api/hours", ClassQuestion{People: []string{first.ID, people["Marlo Young"].ID},
		Bags: []string{}, Minutes: 30}, &h)
	built, _ := session.BuildUp("1-2-3 | slip rear - 2-3 | duck - 3-2", "hanging", 180)
	built.Name, built.Note = "Three rounds for the young", "With Marlo Young. Bags by Session; given work."
	var plan SessionPlan
	u.want(200, "POST", "/api/sessions", SessionPlan{Session: built}, &plan)
	date := thursdays
	date.Name, date.Note = "Class of Marlo Young", "Young people, three rounds"
	u.want(200, "POST", "/api/dates", date, nil)
	var link CalendarLinkOut
	u.want(200, "POST", "/api/calendar-links", CalendarLinkOut{Name: "Phone of Marlo"}, &link)
	u.want(200, "POST", "/api/invitations", Inviting{"Sister of Marlo Young"}, nil)
	u.want(200, "PUT", "/api/rigs/"+rigs["speed"].ID, Rig{Name: "Bag of Marlo Young", Version: 1,
		Doc: rigs["speed"].Doc}, nil)
	stored := func() string {
		return s.one(t, `SELECT (SELECT string_agg(plan::text, ';' ORDER BY id) FROM hours) ||
			(SELECT string_agg(doc::text || name, ';' ORDER BY id) FROM session_plans) ||
			(SELECT string_agg(doc::text || place::text || name, ';' ORDER BY id) FROM rigs) ||
			(SELECT string_agg(name || note || skipped::text, ';' ORDER BY id) FROM dates)`)
	}
	for _, name := range names[:len(names)-1] { // of whom nothing is written
		before := stored()
		var gone Erased
		u.want(200, "POST", "/api/trainees/"+people[name].ID+"/erase", Erasure{Name: name, Password: password}, &gone)
		if now := stored(); now != before {
			t.Errorf("erasing %s changed\n%s\ninto\n%s", name, before, now)
		}
	}
	marlo := people["Marlo Young"]
	var mentions []Mention
	u.want(200, "GET", "/api/trainees/"+marlo.ID+"/mentions", nil, &mentions)
	keys := []string{}
	for _, m := range mentions {
		if m.Text == "Phone of Marlo" {
			keys = append(keys, m.Key)
		}
	}
	var gone Erased
	u.want(200, "POST", "/api/trainees/"+marlo.ID+"/erase", Erasure{Name: "marlo young", Password: password,
		Texts: keys}, &gone)
	now := stored() + s.one(t, "SELECT name FROM calendar_links") + s.one(t, "SELECT for_whom FROM invitations")
	if strings.Contains(now, "Marlo") || strings.Contains(now, marlo.ID) {
		t.Errorf("still there: %s", now)
	}
	for _, kept := range []string{"Three rounds for the young", "Young people, three rounds", "Class of somebody",
		"Bag of somebody", "Phone of somebody", "Sister of somebody", `"young"`, `"rounds"`} {
		if !strings.Contains(now, kept) {
			t.Errorf("%q is not there any more: %s", kept, now)
		}
	}
	told := fmt.Sprint(gone.Left)
	// What cannot be read is left as it is where it may say a name, and told.
	other := u.someMore(map[string]string{"Odile Brandt": "beginner"})["Odile Brandt"]
	s.sql(t, `INSERT INTO session_plans (gym_id, name, doc, version)
		SELECT gym_id, 'Spoiled', '{"note": "for Odile Brandt"}', 1 FROM trainees WHERE id = $1`, other.ID)
	var spoiled Erased
	u.want(200, "POST", "/api/trainees/"+other.ID+"/erase", Erasure{Name: "Odile Brandt", Password: password}, &spoiled)
	if len(spoiled.Left) != 1 || !spoiled.Left[0].Unread || spoiled.Left[0].Text != "Spoiled" {
		t.Errorf("of a session that cannot be read: %+v", spoiled.Left)
	}
	for _, left := range []string{"Three rounds for the young", "Young people, three rounds"} {
		if !strings.Contains(told, left) {
			t.Errorf("%q is left and not told: %s", left, told)
		}
	}
	u.want(200, "GET", "/api/hours/"+h.ID, nil, &h)
	u.want(200, "POST", "/api/hours/"+h.ID+"/floor", FloorStep{Action: run.Start, Deeds: none}, &h)
	if h.Plan.People[0].Young || len(h.Plan.Turns) == 0 || len(h.Plan.Session.Rounds) == 0 {
		t.Errorf("the class: %+v", h.Plan.People)
	}
}

// A session is kept, changed over the version that was read, archived; one that does not add up is refused, and what-if
// answers say so and mend it.
func TestSessions(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Viburnum")
	var all Sessions
	u.want(200, "GET", "/api/sessions", nil, &all)
	if len(all.Templates) < 12 || len(all.Own) != 0 || len(all.Doings) == 0 {
		t.Errorf("%d templates, %d own", len(all.Templates), len(all.Own))
	}
	var built session.Session
	u.want(200, "POST", "/api/build-up", BuildUpQuestion{Text: "1-2-3 | slip rear - 2-3 | duck - 3-2", Bag: "hanging",
		Seconds: 180}, &built)
	if len(built.Rounds) != 4 {
		t.Errorf("%d rounds of three parts", len(built.Rounds))
	}
	var kept SessionPlan
	u.want(200, "POST", "/api/sessions", SessionPlan{Session: built}, &kept)
	bent := built.Clone()
	bent.Rounds[0].Blocks[0].Seconds = 60
	if status, _, out := u.do("PUT", "/api/sessions/"+kept.ID, SessionPlan{Version: kept.Version,
		Session: bent}); status != 422 || !strings.Contains(string(out), "30 seconds too long") {
		t.Errorf("a round that is too full: %d %s", status, out)
	}
	var look SessionLook
	u.want(200, "POST", "/api/session-look", SessionQuestion{Session: bent, Changed: &BlockAt{0, 0}}, &look)
	if look.Barred || look.Session.Rounds[0].Taken() != 180 || look.Session.Rounds[0].Blocks[0].Seconds != 60 ||
		look.Totals.Strikes == 0 || len(look.Titles) != 4 {
		t.Errorf("%+v", look)
	}
	u.want(200, "POST", "/api/session-look", SessionQuestion{Session: bent}, &look)
	if !look.Barred {
		t.Error("nothing bars a round that is too full")
	}
	kept.Session = look.Session
	kept.Session.Rounds[0].Blocks[0].Seconds = 30
	kept.Session.Name = "Ours"
	u.want(200, "PUT", "/api/sessions/"+kept.ID, kept, &kept)
	if status, _, _ := u.do("PUT", "/api/sessions/"+kept.ID, SessionPlan{Version: 1, Session: built}); status != 409 {
		t.Errorf("over a version that was changed meanwhile: %d", status)
	}
	u.want(204, "DELETE", "/api/sessions/"+kept.ID, nil, nil)
	u.want(200, "GET", "/api/sessions", nil, &all)
	if len(all.Own) != 0 {
		t.Errorf("archived: %+v", all.Own)
	}
}

// A class that quiet pauses leaves others alone.
func TestQuietClasses(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Willow")
	h, _, _ := u.class()
	u.want(200, "POST", "/api/hours/"+h.ID+"/floor", FloorStep{Action: "start", Deeds: none}, &h)
	rows, err := s.store.QuietClasses(t.Context(), time.Now().Add(-time.Minute))
	if err != nil || slices.ContainsFunc(rows, func(r store.Class) bool { return r.ID == h.ID }) {
		t.Errorf("%v, %v", rows, err)
	}
}
