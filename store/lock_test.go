package store_test

import (
	"strings"
	"testing"
	"time"

	"melodromos/store"
	"melodromos/store/storetest"
)

// tablesOf lists the product's own tables.
func tablesOf(t *testing.T, s *store.Store) []string {
	t.Helper()
	var tables []string
	must(t,
		s.DB().Raw(
			"SELECT tablename FROM pg_tables WHERE schemaname = 'public' AND tablename NOT LIKE 'goose%' ORDER BY 1").Scan(&tables).Error)
	return tables
}

// A connection whose query forgets the gym sees the rows of the gym it works for alone; one that works for nobody sees
// none, and can neither change nor add any. The same connections serve one after the other, and each sees its own.
func TestSecondLock(t *testing.T) {
	s := storetest.Open(t)
	if locked, err := s.Locked(ctx); err != nil || !locked {
		t.Fatalf("row-level security does not hold for this role (%v): see pg_owner in scripts/postgres.sh", err)
	}
	a, coachA := storetest.Gym(t, s, "A")
	b, coachB := storetest.Gym(t, s, "B")
	now := time.Now().UTC()
	for g, coach := range map[*store.Gym]store.Coach{a: coachA, b: coachB} {
		run := furnish(t, g, coach)
		_, err := g.AddHits(run.ID, []store.Hit{{Device: "pad", AtUS: 1}},
			[]store.Mark{{Device: "pad", AtUS: 1, Kind: "wild"}})
		must(t, err)
		must(t, g.AddInvitation(&store.Invitation{Secret: []byte(g.ID[:32]), InvitedBy: "A", CoachID: &coach.ID,
			ExpiresAt: now.Add(time.Hour)}))
		must(t, g.AddSessionPlan(&store.SessionPlan{Name: "Thirds", Doc: store.Doc(sessionDoc)}))
		class := store.Class{Name: "Class", Plan: store.Doc(`{"session":` + sessionDoc + `}`)}
		must(t, g.AddClass(&class))
		must(t, g.SetTurns([]store.Turn{{ClassID: class.ID, TraineeID: *run.TraineeID, Title: "Skipping", Seconds: 180,
			At: now}}))
		must(t, g.AddDate(&store.Date{Name: "Evening", Day: now, At: "18:30", Minutes: 60, Skipped: store.Doc("[]")}))
		must(t, g.AddCalendarLink(&store.CalendarLink{Name: "Phone", Hash: strings.Repeat(g.ID, 2)[:64]}))
		must(t, g.Rate(&store.Rating{RunID: &run.ID, Word: "held", Coach: "A"}))
		must(t, g.AddCorrection(&store.Correction{RunID: run.ID, Kind: "judged", Coach: "A"}))
		must(t, g.SetOutcome(store.Outcome{RunID: run.ID, Headline: "H", Share: 0.5}, []store.Fault{{Code: "waiting"}},
			[]store.Evidence{{TraineeID: *run.TraineeID, Figure: "timing", Value: 0.05, Origin: "rounds",
				FoundAt: now}}))
	}
	must(t, s.Sessions().Commit("t", []byte("x"), now.Add(time.Hour)))
	for _, table := range tablesOf(t, s) {
		if table == "bag_kinds" { // of nobody in particular
			continue
		}
		own := "gym_id"
		if table == "gyms" {
			own = "id"
		}
		for _, who := range []string{a.ID, b.ID, "", "x' OR true --"} {
			var rows, others int64
			must(t, s.Forgetful(ctx, who).Raw("SELECT count(*) FROM "+table).Scan(&rows).Error)
			gym := who == a.ID || who == b.ID
			if table == "sessions" {
				gym = false
			}
			if (rows > 0) != gym {
				t.Errorf("whoever works for %q sees %d rows of %s", who, rows, table)
			}
			if gym {
				must(t, s.Forgetful(ctx, who).Raw("SELECT count(*) FROM "+table+" WHERE "+own+"::text <> ?",
					who).Scan(&others).Error)
			}
			if others > 0 {
				t.Errorf("whoever works for %q sees %d rows of %s that are another gym's", who, others, table)
			}
		}
		if done := s.Forgetful(ctx, "").Exec("DELETE FROM " + table); done.Error != nil || done.RowsAffected > 0 {
			t.Errorf("%d rows of %s were deleted for nobody: %v", done.RowsAffected, table, done.Error)
		}
	}
	if err := s.Forgetful(ctx,
		a.ID).Exec("INSERT INTO trainees (gym_id, name, stance, band) VALUES (?, 'X', 'southpaw', 'beginner')",
		b.ID).Error; err == nil {
		t.Error("somebody was added to another gym")
	}
}

// Every table has the lock, and every reference between tables an index to look it up by, so that neither a deletion
// nor a join reads a whole table.
func TestLocksAndIndexes(t *testing.T) {
	s := storetest.Open(t)
	var open []string
	must(t,
		s.DB().Raw(
			"SELECT relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace WHERE n.nspname = 'public' AND relkind = 'r' AND relname NOT LIKE 'goose%' AND NOT (relrowsecurity AND relforcerowsecurity)").Scan(&open).Error)
	if len(open) > 0 {
		t.Errorf("without a lock: %s", strings.Join(open, ", "))
	}
	// An index serves where it begins with columns of the reference, the gym's id alone not counted as one that
	// narrows.
	var bare []string
	must(t, s.DB().Raw(`
SELECT c.conrelid::regclass || ': ' || pg_get_constraintdef(c.oid)
FROM pg_constraint c
WHERE c.contype = 'f' AND NOT EXISTS (
    SELECT FROM pg_index i
    WHERE i.indrelid = c.conrelid AND i.indkey[0] = ANY (c.conkey)
      AND (cardinality(c.conkey) = 1 OR i.indkey[1] = ANY (c.conkey) OR i.indkey[0] <> (SELECT attnum FROM pg_attribute WHERE attrelid = c.conrelid AND attname = 'gym_id')))`).Scan(&bare).Error)
	if len(bare) > 0 {
		t.Errorf("no index for\n%s", strings.Join(bare, "\n"))
	}
}
