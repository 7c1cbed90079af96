package store_test

import (
	"fmt"
	"os"
	"strings"
	"sync"
	"testing"

	"melodromos/store"
	"melodromos/store/storetest"
)

// rowsOf holds, for each migration, rows of every table and column that it brings, as a release of its day would have written them.
var rowsOf = map[int64]string{
	1: `
INSERT INTO gyms (id, name) VALUES ('00000000-0000-0000-0000-00000000000a', 'Hall');
INSERT INTO coaches (id, gym_id, email, name, password_hash) VALUES ('00000000-0000-0000-0000-00000000000c', '00000000-0000-0000-0000-00000000000a', 'a@hall.example', 'A', 'h');
INSERT INTO sessions VALUES ('t', 'x', now() + interval '1 day');
INSERT INTO trainees (id, gym_id, name, stance, band, height) VALUES ('00000000-0000-0000-0000-00000000000d', '00000000-0000-0000-0000-00000000000a', 'Runa', 'southpaw', 'beginner', 1.7);
INSERT INTO rigs (id, gym_id, name, kind, doc) VALUES ('00000000-0000-0000-0000-00000000000e', '00000000-0000-0000-0000-00000000000a', 'Quay', 'speed', '{"kind":"speed","restitution":0.78}');
INSERT INTO calibrations (gym_id, rig_id, rig_version, parameter, value, residual, evidence) VALUES ('00000000-0000-0000-0000-00000000000a', '00000000-0000-0000-0000-00000000000e', 2, 'restitution', 0.78, 0.01, '{"method":"count","count":3,"seconds":0.4}');
INSERT INTO drills (id, gym_id, name, rig_id, trainee_id, doc) VALUES ('00000000-0000-0000-0000-00000000000f', '00000000-0000-0000-0000-00000000000a', 'Five', '00000000-0000-0000-0000-00000000000e', '00000000-0000-0000-0000-00000000000d', '{}');
INSERT INTO runs (id, gym_id, drill_id, rig_id, trainee_id, coach_id, drill_name, rig_doc, drill_doc, timeline, source, state, intake_hash, zone, summary)
SELECT ('00000000-0000-0000-0000-00000000001' || n)::uuid, '00000000-0000-0000-0000-00000000000a', '00000000-0000-0000-0000-00000000000f', '00000000-0000-0000-0000-00000000000e', '00000000-0000-0000-0000-00000000000d', '00000000-0000-0000-0000-00000000000c',
       'Five', '{}', '{}', '{}', 'keys', state, state, 'UTC', CASE state WHEN 'done' THEN '{"hits":3}'::jsonb END
FROM unnest(ARRAY['ready', 'running', 'paused', 'done', 'stopped']) WITH ORDINALITY AS s (state, n);
INSERT INTO hits VALUES ('00000000-0000-0000-0000-00000000000a', '00000000-0000-0000-0000-000000000014', 'pad', 0, 5, 'lead', 300);
INSERT INTO marks VALUES ('00000000-0000-0000-0000-00000000000a', '00000000-0000-0000-0000-000000000014', 'pad', 1, 6, 'wild');`,
	2: `
UPDATE trainees SET eye = 1.6, mouth = 1.5, chin = 1.45;
INSERT INTO rigs (gym_id, name, kind, doc, place) VALUES ('00000000-0000-0000-0000-00000000000a', 'Plumb', 'slip', '{"kind":"slip"}', '{"behind":2}');
UPDATE gyms SET border_slack = 0.5;`,
	3: `UPDATE gyms SET kicks = true, punch_names = 'names', slip_names = 'inside';`,
	4: `
UPDATE trainees SET dominant = 'left', weak = 'rear', sport = 'kicking', school = 'fistRoll', weeks_from = now();
UPDATE drills SET rung = 'speed.five';
UPDATE runs SET rung = 'speed.five';
INSERT INTO findings (gym_id, trainee_id, run_id, figure, bag_kind, value, spread, origin, found_at) VALUES ('00000000-0000-0000-0000-00000000000a', '00000000-0000-0000-0000-00000000000d', '00000000-0000-0000-0000-000000000014', 'timing', 'speed', 0.06, 0.01, 'rounds', now());
INSERT INTO cautions (gym_id, trainee_id, kind, set_by) VALUES ('00000000-0000-0000-0000-00000000000a', '00000000-0000-0000-0000-00000000000d', 'head', 'A');
INSERT INTO decisions (gym_id, trainee_id, bag_kind, rung, choice, coach) VALUES ('00000000-0000-0000-0000-00000000000a', '00000000-0000-0000-0000-00000000000d', 'speed', 'speed.five', 'accept', 'A');`,
	5: `
UPDATE hits SET launch = 2.8;
UPDATE runs SET predicted = 0.8, plays = 'follow' WHERE state = 'done';
INSERT INTO runs (gym_id, drill_id, rig_id, trainee_id, coach_id, drill_name, rig_doc, drill_doc, timeline, source, state, ending, intake_hash, zone, removed_at)
SELECT gym_id, drill_id, rig_id, trainee_id, coach_id, drill_name, '{}', '{}', '{}', 'none', 'stopped', 'vanished', 'none', 'UTC', now() FROM runs WHERE state = 'done';
INSERT INTO calibrations (gym_id, rig_id, rig_version, parameter, was, was_measured_at, value, evidence, method) VALUES ('00000000-0000-0000-0000-00000000000a', '00000000-0000-0000-0000-00000000000e', 3, 'restitution', 0.78, now(), 0.77, '{}', 'rounds');`,
	6: `
UPDATE coaches SET epoch = 3;
INSERT INTO coaches (gym_id, email, name, password_hash) VALUES ('00000000-0000-0000-0000-00000000000a', 'b@hall.example', 'B', 'h');
UPDATE runs SET coach_id = (SELECT id FROM coaches WHERE email = 'b@hall.example') WHERE state = 'paused';
DELETE FROM coaches WHERE email = 'b@hall.example';`,
}

// Every migration runs up, down and up again on a database with rows in every table, and keeps what the older release knows.
func TestMigrationsWithRows(t *testing.T) {
	s, err := store.Open(storetest.URL(t))
	must(t, err)
	defer func() { _ = s.Close() }()
	files, err := os.ReadDir("migrations")
	must(t, err)
	newest := int64(len(files))
	for v := int64(1); v <= newest; v++ {
		must(t, s.MigrateTo(ctx, v))
		if rowsOf[v] == "" {
			t.Fatalf("migration %d has no rows here", v)
		}
		must(t, s.DB().Exec(rowsOf[v]).Error)
		for table, n := range counts(t, s) {
			if n == 0 {
				t.Errorf("after migration %d there is no row of %s", v, table)
			}
		}
	}
	for v := newest; v >= 1; v-- {
		if err := s.MigrateTo(ctx, v-1); err != nil {
			t.Fatalf("down from %d: %v", v, err)
		}
		if v == 1 {
			break
		}
		before := counts(t, s)
		if err := s.MigrateTo(ctx, v); err != nil {
			t.Fatalf("up to %d again: %v", v, err)
		}
		after := counts(t, s)
		for table, n := range before {
			if after[table] != n {
				t.Errorf("up to %d: %d rows of %s, before %d", v, after[table], table, n)
			}
		}
		must(t, s.MigrateTo(ctx, v-1))
	}
	must(t, s.MigrateTo(ctx, newest)) // and the empty one up once more
}

// counts tells how many rows each table has, but for the migrations' own.
func counts(t *testing.T, s *store.Store) map[string]int64 {
	t.Helper()
	var tables []string
	must(t, s.DB().Raw("SELECT tablename FROM pg_tables WHERE schemaname = 'public' AND tablename NOT LIKE 'goose%'").Scan(&tables).Error)
	all := map[string]int64{}
	for _, table := range tables {
		var n int64
		must(t, s.DB().Table(table).Count(&n).Error)
		all[table] = n
	}
	return all
}

// Several servers that start at once on an empty database migrate it once, and all of them come up.
func TestMigrateAtOnce(t *testing.T) {
	url := storetest.URL(t)
	var all sync.WaitGroup
	for range 5 {
		all.Go(func() {
			s, err := store.Open(url)
			if err != nil {
				t.Error(err)
				return
			}
			defer func() { _ = s.Close() }()
			if err := s.Migrate(ctx); err != nil {
				t.Error(err)
			}
		})
	}
	all.Wait()
	s, err := store.Open(url)
	must(t, err)
	defer func() { _ = s.Close() }()
	var twice []string
	must(t, s.DB().Raw("SELECT version_id::text FROM goose_db_version WHERE version_id > 0 GROUP BY version_id HAVING count(*) > 1").Scan(&twice).Error)
	if len(twice) > 0 {
		t.Errorf("ran twice: %s", strings.Join(twice, ", "))
	}
}

// What PostgreSQL does not take is told from what cannot be reached, and neither error repeats what a row holds.
func TestErrorsAreToldApart(t *testing.T) {
	url := storetest.URL(t)
	s, err := store.Open(url)
	must(t, err)
	must(t, s.Migrate(ctx))
	g, _ := storetest.Gym(t, s, "A")
	secret := "Ms Secret"
	for what, trainee := range map[string]store.Trainee{
		"a name of blanks": {Name: "   ", Notes: secret, Stance: "southpaw", Band: "beginner", AgeBand: "adult"},
		"no text":          {Name: secret + "\x00", Stance: "southpaw", Band: "beginner", AgeBand: "adult"},
		"no stance":        {Name: secret, Stance: "sideways", Band: "beginner", AgeBand: "adult"},
	} {
		err := g.AddTrainee(&trainee)
		wants(t, what, err, store.ErrUnfit)
		if strings.Contains(fmt.Sprint(err), secret) {
			t.Errorf("%s: the error tells what was in it: %v", what, err)
		}
	}
	for _, id := range []string{"", "x", "urn:uuid:00000000-0000-0000-0000-00000000000a"} {
		_, err = g.Trainee(id)
		wants(t, "id "+id, err, store.ErrNotFound)
	}
	must(t, s.Close())
	_, err = g.Trainees()
	wants(t, "a closed database", err, store.ErrUnavailable)
	_, err = s.CoachByEmail(ctx, "a@hall.example")
	wants(t, "a coach of a closed database", err, store.ErrUnavailable)
	_, _, err = s.Sessions().Find("t")
	wants(t, "a session of a closed database", err, store.ErrUnavailable)
	nowhere, err := store.Open(strings.Replace(url, "127.0.0.1:", "127.0.0.1:1", 1))
	if err == nil {
		_ = nowhere.Close()
		t.Error("a database was found where there is none")
	}
}

// PostgreSQL's own log repeats no row that it refuses.
func TestDatabaseLog(t *testing.T) {
	s := storetest.Open(t)
	for setting, want := range map[string]string{"log_error_verbosity": "terse", "log_min_error_statement": "panic", "log_parameter_max_length_on_error": "0"} {
		var got string
		must(t, s.DB().Raw("SELECT current_setting(?)", setting).Scan(&got).Error)
		if got != want {
			t.Errorf("%s is %s, want %s: see pg_up in scripts/postgres.sh", setting, got, want)
		}
	}
}
