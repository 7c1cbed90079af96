package store_test

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"melodromos/store"
	"melodromos/store/storetest"
)

var ctx = context.Background()

const bagDoc = `{"kind":"speed","bagLength":0.23,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.02,"restitution":0.8}`

const drillDoc = `{"version":1,"technique":"oneHand","firstHand":"lead","rebounds":3,"work":60}`

const sessionDoc = `{"name":"Thirds","rounds":[{"kind":"work","seconds":60,"blocks":[{"role":"own","seconds":60}]}]}`

// line is the least that a timeline holds.
const line = `{"events":[{"at":0,"kind":"bell","text":"start"}],"start":0,"end":60000000}`

// furnish fills a gym with one of everything and returns a run that is ready.
func furnish(t *testing.T, g *store.Gym, coach store.Coach) store.Run {
	t.Helper()
	trainee := store.Trainee{Name: "Runa", Stance: "southpaw", Band: "beginner", AgeBand: "adult"}
	rig := store.Rig{Name: "Bag", Kind: "speed", Doc: store.Doc(bagDoc)}
	must(t, g.AddTrainee(&trainee))
	must(t, g.AddRig(&rig))
	drill := store.Drill{Name: "Drill", Kind: "speed", Doc: store.Doc(drillDoc), MadeBy: &coach.ID}
	must(t, g.AddDrill(&drill))
	given := store.Assignment{DrillID: drill.ID, RigID: rig.ID, TraineeID: trainee.ID, GivenBy: &coach.ID}
	must(t, g.AddAssignment(&given))
	run := store.Run{DrillID: drill.ID, AssignmentID: &given.ID, RigID: rig.ID, TraineeID: &trainee.ID,
		CoachID: &coach.ID, DrillName: "Drill", RigDoc: rig.Doc,
		DrillDoc: drill.Doc, Source: "keys", IntakeHash: "hash of " + g.ID, Zone: "UTC"}
	must(t, g.AddRun(&run, store.Doc(line)))
	must(t, g.AddDecision(&store.Decision{TraineeID: trainee.ID, BagKind: "speed", Rung: "speed.five", Choice: "accept",
		Coach: coach.Name, CoachID: &coach.ID}))
	must(t, g.AddCaution(&store.Caution{TraineeID: trainee.ID, Kind: "wrist", SetBy: coach.Name, SetByID: &coach.ID}))
	must(t, g.Calibrate(&store.Calibration{Method: "count", Parameter: "restitution", Was: 0.8, Value: 0.79,
		Evidence: store.Doc(`{}`)}, &rig))
	return run
}

func must(t *testing.T, err error) {
	t.Helper()
	if err != nil {
		t.Fatal(err)
	}
}

func wants(t *testing.T, what string, err, want error) {
	t.Helper()
	if !errors.Is(err, want) {
		t.Errorf("%s: %v, want %v", what, err, want)
	}
}

func TestMigrationsGoUpAndDown(t *testing.T) {
	s, err := store.Open(storetest.URL(t))
	must(t, err)
	defer func() { _ = s.Close() }()
	for range 2 {
		must(t, s.Migrate(ctx))
		must(t, s.Migrate(ctx)) // nothing to do
		must(t, s.MigrateDown(ctx))
	}
}

func TestGymsAreApart(t *testing.T) {
	s := storetest.Open(t)
	a, coachA := storetest.Gym(t, s, "A")
	b, coachB := storetest.Gym(t, s, "B")
	run := furnish(t, a, coachA)
	furnish(t, b, coachB)

	_, err := b.Run(run.ID)
	wants(t, "run of another gym", err, store.ErrNotFound)
	_, err = b.Rig(run.RigID)
	wants(t, "rig of another gym", err, store.ErrNotFound)
	wants(t, "change of another gym's rig",
		b.ChangeRig(&store.Rig{ID: run.RigID, Name: "Mine", Doc: store.Doc(bagDoc), Version: 1}), store.ErrNotFound)
	wants(t, "drill of another gym given",
		b.AddAssignment(&store.Assignment{DrillID: run.DrillID, RigID: run.RigID, TraineeID: *run.TraineeID}),
		store.ErrNotFound)
	_, err = b.AddHits(run.ID, []store.Hit{{Device: "d", Seq: 0, AtUS: 1}}, nil)
	wants(t, "hit on another gym's run", err, store.ErrNotFound)
	_, err = b.MoveRun(run.ID, func(*store.Run) error { return nil }, nil)
	wants(t, "another gym's run moved", err, store.ErrNotFound)
	hits, err := b.Hits(run.ID)
	must(t, err)
	if len(hits) != 0 {
		t.Error("hits of another gym were read")
	}
	for _, g := range []*store.Gym{a, b} {
		if list, err := g.Trainees(store.InUse); err != nil || len(list) != 1 {
			t.Errorf("%d trainees, %v", len(list), err)
		}
		if list, err := g.Drills(store.InUse); err != nil || len(list) != 1 {
			t.Errorf("%d drills, %v", len(list), err)
		}
	}
	must(t, s.DropGym(ctx, a.ID))
	if _, err := b.Rigs(store.InUse); err != nil {
		t.Error(err)
	}
	_, err = a.Row()
	wants(t, "a gym that was dropped", err, store.ErrNotFound)
}

func TestHitsAreKeptOnce(t *testing.T) {
	s := storetest.Open(t)
	g, coach := storetest.Gym(t, s, "A")
	run := furnish(t, g, coach)
	lead := "lead"
	batch := func() []store.Hit {
		return []store.Hit{{Device: "pad", Seq: 0, AtUS: 100, Hand: &lead}, {Device: "pad", Seq: 1, AtUS: 50}}
	}
	n, err := g.AddHits(run.ID, batch(), []store.Mark{{Device: "pad", Seq: 2, AtUS: 70, Kind: "wild"}})
	must(t, err)
	if n != 2 {
		t.Errorf("%d new", n)
	}
	n, err = g.AddHits(run.ID, append(batch(), store.Hit{Device: "pad", Seq: 3, AtUS: 200},
		store.Hit{Device: "other", Seq: 0, AtUS: 10}), []store.Mark{{Device: "pad", Seq: 2, AtUS: 70, Kind: "wild"}})
	must(t, err)
	if n != 2 {
		t.Errorf("%d new the second time, want 2", n)
	}
	hits, err := g.Hits(run.ID)
	must(t, err)
	if len(hits) != 4 || hits[0].AtUS != 10 || hits[1].AtUS != 50 || *hits[2].Hand != "lead" {
		t.Errorf("%+v", hits)
	}
	if marks, err := g.Marks(run.ID); err != nil || len(marks) != 1 {
		t.Errorf("%+v %v", marks, err)
	}
	if _, err := g.AddHits(run.ID, nil, []store.Mark{{Device: "pad", Seq: 9, AtUS: 1, Kind: "two words"}}); err == nil {
		t.Error("a mark that is none was kept")
	}
}

func TestVersions(t *testing.T) {
	s := storetest.Open(t)
	g, coach := storetest.Gym(t, s, "A")
	run := furnish(t, g, coach)
	mine, err := g.Rig(run.RigID)
	must(t, err)
	theirs := mine
	before := mine.MeasuredAt
	mine.Name = "Renamed"
	must(t, g.ChangeRig(&mine))
	if mine.Version != theirs.Version+1 || !mine.MeasuredAt.Equal(before) {
		t.Errorf("a new name alone: version %d, measured %s, before %s", mine.Version, mine.MeasuredAt, before)
	}
	theirs.Name = "Lost"
	wants(t, "a change over an old version", g.ChangeRig(&theirs), store.ErrConflict)
	theirs.Version = 0
	wants(t, "a change of no version", g.ChangeRig(&theirs), store.ErrConflict)
	mine.Doc = store.Doc(
		`{"kind":"speed","bagLength":0.25,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.02,"restitution":0.8}`)
	must(t, g.ChangeRig(&mine))
	if !mine.MeasuredAt.After(before) {
		t.Error("new measures carry the old date")
	}
	if err := g.AddRig(&store.Rig{Name: "Odd", Kind: "speed", Doc: store.Doc(`{"kind":"slip"}`)}); err == nil {
		t.Error("a document of another kind was stored")
	}
	d, err := g.Drill(run.DrillID)
	must(t, err)
	for want := range 2 {
		d.Name = "Changed"
		if err := g.ChangeDrill(&d); err != nil || d.Version != want+2 {
			t.Errorf("a saved drill says version %d, want %d: %v", d.Version, want+2, err)
		}
	}
	if kept, _ := g.Drill(d.ID); kept.Version != d.Version || kept.Name != "Changed" {
		t.Errorf("said version %d, kept %+v", d.Version, kept)
	}
	for _, version := range []int{-1, 0, 1, 9} {
		d.Version = version
		wants(t, fmt.Sprintf("a change over version %d", version), g.ChangeDrill(&d), store.ErrConflict)
	}
	must(t, g.Archive(&store.Drill{}, run.DrillID))
	if list, _ := g.Drills(store.InUse); len(list) != 0 {
		t.Error("a drill that was put away is listed")
	}
	if list, _ := g.Drills(store.Archived); len(list) != 1 {
		t.Error("a drill that was put away is not among those")
	}
	if list, _ := g.Assignments(""); len(list) != 0 {
		t.Error("a drill that was put away is still given")
	}
	if _, err := g.Drill(run.DrillID); err != nil {
		t.Error("a drill that was put away cannot be read by its runs")
	}
	must(t, g.BringBack(&store.Drill{}, run.DrillID))
	if list, _ := g.Drills(store.InUse); len(list) != 1 {
		t.Error("a drill did not come back")
	}
}

func TestRuns(t *testing.T) {
	s := storetest.Open(t)
	g, coach := storetest.Gym(t, s, "A")
	run := furnish(t, g, coach)
	if list, err := g.Runs(store.RunFilter{}); err != nil || len(list) != 0 {
		t.Errorf("a run that never started is in the log: %v %v", list, err)
	}
	if doc, err := g.Timeline(run.ID); err != nil || !strings.Contains(string(doc), `"end": 60000000`) {
		t.Errorf("timeline %s, %v", doc, err)
	}
	refusal := errors.New("no")
	now := time.Now().UTC().Truncate(time.Microsecond)
	begin := func(r *store.Run) error {
		if r.State != "ready" {
			t.Errorf("the refused step was stored: %s", r.State)
		}
		r.State, r.StartedAt, r.ZeroAt, r.SeenAt = "running", &now, &now, now.Add(-time.Hour)
		return nil
	}
	_, err := g.MoveRun(run.ID, func(r *store.Run) error { return errors.Join(begin(r), refusal) }, nil)
	wants(t, "a refused step", err, refusal)
	_, err = g.MoveRun(run.ID, begin, func(*store.Gym, store.Run) error { return refusal })
	wants(t, "a step whose consequence is refused", err, refusal)
	run, err = g.MoveRun(run.ID, begin, nil)
	must(t, err)
	list, err := g.Runs(store.RunFilter{TraineeID: *run.TraineeID, Limit: 5})
	must(t, err)
	if len(list) != 1 || !list[0].StartedAt.Equal(now) || list[0].Trainee != "Runa" || list[0].Rig != "Bag" ||
		list[0].Outcome != nil {
		t.Errorf("%+v", list)
	}
	open, err := s.Abandoned(ctx, now.Add(-time.Minute))
	must(t, err)
	if len(open) != 1 || open[0].ID != run.ID || open[0].GymID != g.ID {
		t.Errorf("abandoned: %+v", open)
	}
	found, err := s.RunByIntake(ctx, "hash of "+g.ID)
	must(t, err)
	if found.ID != run.ID {
		t.Error("another run was found by its key")
	}
	for what, course := range map[string]map[string]any{
		"over without an end":    {"state": "done", "zero_at": nil},
		"at rest with its clock": {"state": "paused"},
		"an end that is none":    {"ended_at": now},
		"stopped at its bell":    {"state": "stopped", "ending": "bell", "ended_at": now, "zero_at": nil},
		"ready and started":      {"state": "ready", "zero_at": nil},
	} {
		if err := s.DB().Model(&store.Run{}).Where("id = ?", run.ID).Updates(course).Error; err == nil {
			t.Errorf("%s was kept", what)
		}
	}
	end := func(r *store.Run) error {
		r.State, r.Ending, r.ZeroAt, r.EndedAt = "done", "bell", nil, &now
		return nil
	}
	_, err = g.MoveRun(run.ID, end, nil)
	must(t, err)
	if left, err := s.LeftOpen(ctx); err != nil || len(left) != 1 || left[0].ID != run.ID {
		t.Errorf("left open: %+v, %v", left, err)
	}
	for share := range 2 { // judged, and judged anew
		must(t, g.SetOutcome(store.Outcome{RunID: run.ID, Headline: "H", Planned: 10, Share: float64(share) / 2,
			Counts: true, Judged: true}, nil,
			[]store.Evidence{{TraineeID: *run.TraineeID, Figure: "timing", Value: 0.05, Origin: "rounds",
				FoundAt: now}}))
	}
	rounds := known(t, g, *run.TraineeID).Rounds
	shown, err := g.Evidence(*run.TraineeID)
	must(t, err)
	if len(rounds) != 1 || rounds[0].Share != 0.5 || len(shown) != 1 || *shown[0].RunID != run.ID {
		t.Errorf("%+v, %+v", rounds, shown)
	}
	if left, err := s.LeftOpen(ctx); err != nil || len(left) != 0 {
		t.Errorf("still left open: %+v, %v", left, err)
	}
}

// Somebody who is erased leaves counts without a name, and nothing else.
func TestErase(t *testing.T) {
	s := storetest.Open(t)
	g, coach := storetest.Gym(t, s, "A")
	run := furnish(t, g, coach)
	now := time.Now().UTC()
	_, err := g.MoveRun(run.ID, func(r *store.Run) error {
		r.State, r.Ending, r.StartedAt, r.EndedAt = "done", "bell", &now, &now
		return nil
	}, nil)
	must(t, err)
	_, err = g.AddHits(run.ID, []store.Hit{{Device: "pad", AtUS: 1}},
		[]store.Mark{{Device: "pad", AtUS: 1, Kind: "wild"}})
	must(t, err)
	must(t, g.SetOutcome(store.Outcome{RunID: run.ID, Headline: "H", Planned: 10, Clean: 8, Share: 0.8, Counts: true,
		Judged: true}, nil, []store.Evidence{{TraineeID: *run.TraineeID, Figure: "timing", Value: 0.05,
		Origin:  "rounds",
		FoundAt: now}}))
	must(t, g.Rate(&store.Rating{RunID: &run.ID, Word: "held", Note: "Runa was calm.", Coach: coach.Name}))
	must(t, g.AddCorrection(&store.Correction{RunID: run.ID, Kind: "judged", Reason: "Runa said so", Coach: coach.Name,
		Was: store.Doc(`{"drill":{"for":"Runa"}}`)}))
	other2 := store.Trainee{Name: "Oona", Stance: "southpaw", Band: "beginner", AgeBand: "adult"}
	must(t, g.AddTrainee(&other2))
	beside := run // a round of somebody else whose note names her
	beside.ID, beside.TraineeID, beside.AssignmentID, beside.IntakeHash = "", &other2.ID, nil, "beside"
	must(t, g.AddRun(&beside, store.Doc(line)))
	must(t, g.Rate(&store.Rating{RunID: &beside.ID, Note: "Held the pads for Runa.", Coach: coach.Name}))
	drill, err := g.Drill(run.DrillID)
	must(t, err)
	drill.Name = "First touches for Runa"
	must(t, g.ChangeDrill(&drill))
	other, _ := storetest.Gym(t, s, "B")
	renamed := func(_, _, old string) string { return strings.ReplaceAll(old, "Runa", "somebody") }
	_, err = other.Erase(*run.TraineeID, "runa", renamed)
	wants(t, "erased by another gym", err, store.ErrNotFound)
	gone, err := g.Erase(*run.TraineeID, "runa", renamed)
	must(t, err)
	if gone != (store.Erased{Rounds: 1, Hits: 1, Evidence: 1, Cautions: 1, Decisions: 1, Assignments: 1}) {
		t.Errorf("%+v", gone)
	}
	log, err := g.Runs(store.RunFilter{})
	must(t, err)
	if left, err := g.RatingOf(beside.ID); err != nil || left == nil || left.Note != "Held the pads for somebody." {
		t.Errorf("%+v, %v", left, err)
	}
	if len(log) != 1 || log[0].TraineeID != nil || log[0].AssignmentID != nil || log[0].Trainee != "" ||
		log[0].Outcome.Clean != 8 {
		t.Errorf("%+v", log)
	}
	var tables []string
	must(t, s.DB().Raw("SELECT tablename FROM pg_tables WHERE schemaname = 'public'").Scan(&tables).Error)
	for _, table := range tables {
		var n int64
		must(t, s.DB().Raw("SELECT count(*) FROM "+table+" x WHERE x::text ILIKE '%runa%' OR x::text LIKE ?",
			"%"+*run.TraineeID+"%").Scan(&n).Error)
		if n > 0 {
			t.Errorf("%d rows of %s still tell of her", n, table)
		}
	}
}

func TestCoachesAndSessions(t *testing.T) {
	s := storetest.Open(t)
	g, first := storetest.Gym(t, s, "G")
	c := store.Coach{GymID: g.ID, Email: " Mixed@Example.org ", Name: "M", PasswordHash: "h"}
	must(t, s.AddCoach(ctx, &c))
	found, err := s.CoachByEmail(ctx, "mixed@example.ORG")
	must(t, err)
	if found.ID != c.ID {
		t.Error("not found by address in other letters")
	}
	other, alone := storetest.Gym(t, s, "G")
	if other.ID == g.ID {
		t.Error("two gyms of one name are one")
	}
	wants(t, "address in use", s.AddCoach(ctx, &store.Coach{GymID: other.ID, Email: "mixed@example.org", Name: "X",
		PasswordHash: "h"}), store.ErrTaken)
	wants(t, "no such gym", s.AddCoach(ctx, &store.Coach{GymID: c.ID, Email: "x@example.org", Name: "X",
		PasswordHash: "h"}), store.ErrNotFound)
	wants(t, "a name of blanks", s.AddCoach(ctx, &store.Coach{GymID: g.ID, Email: "x@example.org", Name: "  ",
		PasswordHash: "h"}), store.ErrUnfit)

	epoch, err := g.SetPassword(c.ID, "h2")
	must(t, err)
	again, err := g.SignOutEverywhere(c.ID)
	must(t, err)
	if found, _ = s.CoachByEmail(ctx, c.Email); epoch != 1 || again != 2 || found.Epoch != 2 ||
		found.PasswordHash != "h2" {
		t.Errorf("epochs %d and %d, and then %+v", epoch, again, found)
	}
	_, err = other.SetPassword(c.ID, "theirs")
	wants(t, "another gym's password", err, store.ErrNotFound)

	run := furnish(t, g, c)
	wants(t, "another gym's coach removed", other.RemoveCoach(c.ID), store.ErrNotFound)
	wants(t, "the last coach removed", other.RemoveCoach(alone.ID), store.ErrLast)
	must(t, g.RemoveCoach(c.ID))
	if run, err = g.Run(run.ID); err != nil || run.CoachID != nil {
		t.Errorf("a round of a coach who was removed: %v, coach %v", err, run.CoachID)
	}
	if list, err := g.Coaches(); err != nil || len(list) != 1 || list[0].ID != first.ID {
		t.Errorf("%+v %v", list, err)
	}

	sessions := s.Sessions()
	must(t, sessions.Commit("one", []byte("a"), time.Now().Add(time.Hour)))
	must(t, sessions.Commit("one", []byte("b"), time.Now().Add(time.Hour)))
	must(t, sessions.Commit("old", []byte("c"), time.Now().Add(-time.Hour)))
	if data, ok, err := sessions.Find("one"); err != nil || !ok || string(data) != "b" {
		t.Errorf("%q %v %v", data, ok, err)
	}
	if _, ok, err := sessions.Find("old"); err != nil || ok {
		t.Errorf("a session that has expired was found: %v %v", ok, err)
	}
	must(t, sessions.Sweep(ctx))
	must(t, sessions.Delete("one"))
	if _, ok, _ := sessions.Find("one"); ok {
		t.Error("a session that was deleted was found")
	}
}
