package server

import (
	"strings"
	"testing"

	"melodromos/core/drill"
	"melodromos/core/trainee"
)

var oneTwo = drill.CombinationDrill{Text: "1-2", Landing: drill.OnReturns, Pace: drill.Combining, Pause: 2, Work: 60,
	Guidance: drill.Called}

// someMore adds people of each band.
func (u user) someMore(names map[string]string) map[string]Trainee {
	u.t.Helper()
	all := map[string]Trainee{}
	for name, band := range names {
		var p Trainee
		u.want(200, "POST", "/api/trainees", Trainee{Name: name, Stance: "orthodox", Band: trainee.Band(band),
			AgeBand: "adult"}, &p)
		all[name] = p
	}
	return all
}

// A drill is made once and given to many: each has it with force solved for them and their bag; who has it is seen, and
// it can be copied.
func TestDrillForMany(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Alder")
	person, rigs := u.hung("doubleEnd", "hanging")
	people := u.someMore(map[string]string{"Ines": "first-timer", "Lerato": "expert", "Dov": "beginner"})
	u.want(200, "POST", "/api/trainees/"+people["Dov"].ID+"/cautions", Caution{Kind: "head"}, nil)
	var made Drill
	u.want(200, "POST", "/api/drills", Drill{Kind: "doubleEnd", Doc: DrillDoc{Plan: oneTwo}}, &made)
	if made.Name != "1-2" || made.Rung != "doubleEnd.two" {
		t.Errorf("%+v", made)
	}
	var came []GivenOut
	all := []string{person.ID, people["Ines"].ID, people["Lerato"].ID, people["Dov"].ID}
	u.want(200, "POST", "/api/drills/"+made.ID+"/give", Giving{People: all}, &came)
	force := map[string]float64{}
	for _, g := range came {
		if g.Trainee == "Dov" {
			if g.AssignmentID != "" || !strings.Contains(g.Why, "doctor") {
				t.Errorf("%+v", g)
			}
			continue
		}
		var a Assignment
		u.want(200, "GET", "/api/assignments/"+g.AssignmentID, nil, &a)
		force[g.Trainee] = a.Doc.Plan.(drill.CombinationDrill).Fist
		if a.DrillID != made.ID || a.RigID != rigs["doubleEnd"].ID || len(a.Others) != 2 {
			t.Errorf("%+v", a)
		}
	}
	if len(came) != 4 || !(force["Ines"] > 0) || !(force["Ines"] < force["Runa"]) ||
		!(force["Runa"] < force["Lerato"]) {
		t.Errorf("%v", force)
	}
	// Given again it is the same assignment.
	var again []GivenOut
	u.want(200, "POST", "/api/drills/"+made.ID+"/give", Giving{People: all[:1], RigID: rigs["doubleEnd"].ID}, &again)
	var list []Drill
	u.want(200, "GET", "/api/drills", nil, &list)
	if len(list) != 1 || len(list[0].Holders) != 3 {
		t.Errorf("%+v", list)
	}
	if status, _, out := u.do("POST", "/api/drills/"+made.ID+"/give",
		Giving{People: all[:1], RigID: rigs["hanging"].ID}); status != 422 ||
		!strings.Contains(string(out), "body.rigId") {
		t.Errorf("on a bag of another kind: %d %s", status, out)
	}
	var copied Drill
	u.want(200, "POST", "/api/drills/"+made.ID+"/copy", nil, &copied)
	if copied.ID == made.ID || copied.Name != "Copy of 1-2" || len(copied.Holders) != 0 {
		t.Errorf("%+v", copied)
	}
}

// What belongs to one person is set for them alone; what changes the drill is changed for all or copied, as the coach
// says, and never without saying.
func TestChangedForOneOrAll(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Birch")
	person, rigs := u.hung("doubleEnd", "reflex")
	ines := u.someMore(map[string]string{"Ines": "beginner"})["Ines"]
	mine := Assignment{RigID: rigs["doubleEnd"].ID, TraineeID: person.ID, Doc: DrillDoc{Plan: oneTwo}}
	theirs := mine
	theirs.TraineeID = ines.ID
	u.want(200, "POST", "/api/assignments", mine, &mine)
	u.want(200, "POST", "/api/assignments", theirs, &theirs)
	if mine.DrillID != theirs.DrillID || mine.ID == theirs.ID {
		t.Fatalf("%+v and %+v", mine, theirs)
	}
	fetch := func(id string) (a Assignment) {
		u.want(200, "GET", "/api/assignments/"+id, nil, &a)
		return a
	}
	with := func(a Assignment, change func(*drill.CombinationDrill)) Assignment {
		c := a.Doc.Plan.(drill.CombinationDrill)
		change(&c)
		a.Doc = DrillDoc{Plan: c}
		return a
	}
	put := func(a Assignment) (out Assignment) {
		u.want(200, "PUT", "/api/assignments/"+a.ID, a, &out)
		return out
	}
	mine = put(with(mine, func(c *drill.CombinationDrill) { c.Fist, c.Work = 2.5, 30 }))
	if other := fetch(theirs.ID).Doc.Plan.(drill.CombinationDrill); mine.DrillID != theirs.DrillID ||
		other.Fist == 2.5 ||
		other.Work != 60 ||
		mine.Doc.Plan.(drill.CombinationDrill).Work != 30 {
		t.Errorf("softer and shorter for one: %+v, the other %+v", mine.Doc.Plan, other)
	}
	longer := with(mine, func(c *drill.CombinationDrill) { c.Text = "1-2-3" })
	if status, _, out := u.do("PUT", "/api/assignments/"+mine.ID, longer); status != 422 ||
		!strings.Contains(string(out), "body.scope") {
		t.Errorf("another line without saying for whom: %d %s", status, out)
	}
	longer.Scope = "copy"
	mine = put(longer)
	if mine.DrillID == theirs.DrillID || fetch(theirs.ID).Doc.Plan.(drill.CombinationDrill).Text != "1-2" ||
		mine.Rung != "doubleEnd.three" {
		t.Errorf("a copy for one: %+v", mine)
	}
	ours := Assignment{RigID: rigs["doubleEnd"].ID, TraineeID: person.ID, Doc: DrillDoc{Plan: oneTwo}}
	u.want(200, "POST", "/api/assignments", ours, &ours)
	all := with(ours, func(c *drill.CombinationDrill) { c.Text = "1-1-2" })
	all.Scope = "all"
	put(all)
	if other := fetch(theirs.ID); other.Doc.Plan.(drill.CombinationDrill).Text != "1-1-2" || other.Rung != "" {
		t.Errorf("for all: %+v", other)
	}
	stale := all
	stale.Version = fetch(ours.ID).Version
	// over an old version of the drill
	u.want(
		409,
		"PUT",
		"/api/assignments/"+ours.ID,
		with(stale, func(c *drill.CombinationDrill) { c.Text = "2-1" }),
		nil,
	)
	// On a bag of another kind it becomes a drill for that kind, and the others keep theirs.
	moved := fetch(ours.ID)
	moved.RigID = rigs["reflex"].ID
	moved = put(moved)
	if moved.Kind != "reflex" || moved.DrillID == theirs.DrillID || fetch(theirs.ID).Kind != "doubleEnd" {
		t.Errorf("on the pole: %+v", moved)
	}
	if status, _, out := u.do("PUT", "/api/assignments/"+theirs.ID,
		Assignment{RigID: theirs.RigID, TraineeID: person.ID, Version: 1, Doc: theirs.Doc}); status != 422 ||
		!strings.Contains(string(out), "body.traineeId") {
		t.Errorf("taken from one and put on another: %d %s", status, out)
	}
}

// To another kind of bag: what does not go is said before anything is made.
func TestCarriedOver(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Cedar")
	var settings GymSettings
	u.want(200, "GET", "/api/gym", nil, &settings)
	settings.Kicks = true
	u.want(200, "PUT", "/api/gym", settings, nil)
	stop := drill.CombinationDrill{Text: "2 - stop 1 - round kick rear", Landing: drill.OnReturns,
		Pace: drill.Combining, Pause: 2, Work: 60, Guidance: drill.Called}
	var made Drill
	u.want(200, "POST", "/api/drills", Drill{Name: "Stop it", Kind: "hanging", Doc: DrillDoc{Plan: stop}}, &made)
	var over CarriedOver
	u.want(200, "POST", "/api/drills/"+made.ID+"/carry", map[string]string{"kind": "reflex"}, &over)
	if len(over.Lost) != 2 || over.Doc.Plan.(drill.CombinationDrill).Text != "2-1" {
		t.Errorf("%+v", over)
	}
	var list []Drill
	if u.want(200, "GET", "/api/drills", nil, &list); len(list) != 1 {
		t.Errorf("%d drills after a question", len(list))
	}
	first := Drill{Kind: "reflex", Doc: DrillDoc{Plan: drill.SpeedBagDrill{Technique: drill.OneHand,
		FirstHand: drill.Rear, Rebounds: 3, StrikeAngle: 25, Work: 60}}}
	if status, _, out := u.do("POST", "/api/drills", first); status != 422 ||
		!strings.Contains(string(out), "body.kind") {
		t.Errorf("a technique for a pole: %d %s", status, out)
	}
}

// People, bags and drills are archived and come back; what was archived is not what comes next. Erased for good, asked
// twice, somebody leaves counts without a name.
func TestComeAndGo(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Dogwood")
	person, rigs := u.hung("speed")
	d := u.rhythm(person, rigs["speed"])
	u.struck(d, func(int) (bool, float64) { return true, 0.004 })
	shown := func() (next, log int) {
		var t Today
		u.want(200, "GET", "/api/today", nil, &t)
		return len(t.Next), len(t.Recent)
	}
	for _, path := range []string{"/api/trainees/" + person.ID, "/api/rigs/" + rigs["speed"].ID} {
		u.want(204, "DELETE", path, nil, nil)
		if next, log := shown(); next != 0 || log != 1 {
			t.Errorf("%s archived: %d to do, %d in the log", path, next, log)
		}
		u.want(204, "POST", path+"/restore", nil, nil)
		if next, _ := shown(); next != 1 {
			t.Errorf("%s brought back: %d to do", path, next)
		}
	}
	u.want(204, "DELETE", "/api/trainees/"+person.ID, nil, nil)
	var away []Trainee
	if u.want(200, "GET", "/api/trainees?archived=true", nil, &away); len(away) != 1 || !away[0].Archived {
		t.Errorf("%+v", away)
	}
	erase := "/api/trainees/" + person.ID + "/erase"
	for _, e := range []Erasure{{Name: "Ines", Password: password}, {Name: "Runa", Password: "a wrong password"}, {}} {
		if status, _, out := u.do("POST", erase, e); status != 422 {
			t.Errorf("%+v: %d %s", e, status, out)
		}
	}
	var gone Erased
	u.want(200, "POST", erase, Erasure{Name: "runa", Password: password}, &gone)
	if gone.Rounds != 1 || gone.Hits == 0 || gone.Evidence == 0 {
		t.Errorf("%+v", gone)
	}
	u.want(404, "GET", "/api/trainees/"+person.ID+"/page", nil, nil)
	var log []LogRow
	u.want(200, "GET", "/api/runs", nil, &log)
	if len(log) != 1 || log[0].Trainee != "" || log[0].Summary == nil || log[0].Summary.Clean == 0 {
		t.Errorf("%+v", log)
	}
	u.want(404, "GET", "/api/runs/"+log[0].ID+"/review", nil, nil)
}
