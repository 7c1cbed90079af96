package store_test

import (
	"fmt"
	"os"
	"strings"
	"sync"
	"testing"

	"github.com/jackc/pgx/v5"

	"melodromos/store"
	"melodromos/store/storetest"
)

// rowsOf holds, for each migration, rows of every table and column that it brings, as a release of its day would have
// written them.
var rowsOf = map[int64]string{
	1: `
INSERT INTO gyms (id, name) VALUES ('00000000-0000-0000-0000-00000000000a', 'Hall');
INSERT INTO coaches (id, gym_id, email, name, password_hash) VALUES ('00000000-0000-0000-0000-00000000000c', '00000000-0000-0000-0000-00000000000a', 'a@hall.example', 'A', 'h');
INSERT INTO sessions VALUES ('t', 'x', now() + interval '1 day');
INSERT INTO trainees (id, gym_id, name, stance, band, height) VALUES ('00000000-0000-0000-0000-00000000000d', '00000000-0000-0000-0000-00000000000a', 'Runa', 'southpaw', 'beginner', 1.7);
INSERT INTO rigs (id, gym_id, name, kind, doc) VALUES ('00000000-0000-0000-0000-00000000000e', '00000000-0000-0000-0000-00000000000a', 'Quay', 'speed', '{"kind":"speed","restitution":0.78}');
INSERT INTO calibrations (gym_id, rig_id, rig_version, parameter, value, residual, evidence) VALUES ('00000000-0000-0000-0000-00000000000a', '00000000-0000-0000-0000-00000000000e', 2, 'restitution', 0.78, 0.01, '{"method":"count","count":3,"seconds":0.4}');
INSERT INTO drills (id, gym_id, name, rig_id, trainee_id, doc) VALUES ('00000000-0000-0000-0000-00000000000f', '00000000-0000-0000-0000-00000000000a', 'Five', '00000000-0000-0000-0000-00000000000e', '00000000-0000-0000-0000-00000000000d', '{}');
INSERT INTO runs (id, gym_id, drill_id, rig_id, trainee_id, coach_id, drill_name, rig_doc, drill_doc, timeline, source, state, intake_hash, zone, summary, started_at, zero_at, ended_at)
SELECT ('00000000-0000-0000-0000-00000000001' || n)::uuid, '00000000-0000-0000-0000-00000000000a', '00000000-0000-0000-0000-00000000000f', '00000000-0000-0000-0000-00000000000e', '00000000-0000-0000-0000-00000000000d', '00000000-0000-0000-0000-00000000000c',
       'Five', '{}', '{}', '{}', 'keys', state, state, 'UTC', CASE state WHEN 'done' THEN '{"hits":3}'::jsonb END,
       CASE WHEN state <> 'ready' THEN timestamptz '2026-03-02 18:00Z' END, CASE state WHEN 'running' THEN timestamptz '2026-03-02 18:00Z' END, CASE WHEN state IN ('done', 'stopped') THEN timestamptz '2026-03-02 18:03Z' END
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
DELETE FROM coaches WHERE email = 'b@hall.example';
UPDATE drills SET doc = '{"technique":"oneHand","tempo":112,"work":60}';
INSERT INTO drills (gym_id, name, rig_id, trainee_id, doc, retired_at) SELECT gym_id, 'Put away', rig_id, trainee_id, '{"text":"1-2","fist":3.5,"pause":2}', now() FROM drills;
UPDATE runs SET summary = '{"headline":"84 % clean","planned":60,"hits":58,"clean":50,"longest":14,"share":0.84,"give":0.06,"counts":true,"tempo":111.5,"asked":112,"rig":{"parameter":"restitution","value":0.79,"spread":0.004,"steps":40}}' WHERE state = 'done';`,
	7: `
INSERT INTO drills (id, gym_id, name, kind, doc, made_by) VALUES ('00000000-0000-0000-0000-0000000000d1', '00000000-0000-0000-0000-00000000000a', 'For many', 'speed', '{"technique":"oneHand","work":60}', '00000000-0000-0000-0000-00000000000c');
INSERT INTO assignments (gym_id, drill_id, trainee_id, rig_id, tempo, work, strikes, eased, own, given_by)
SELECT id, '00000000-0000-0000-0000-0000000000d1', '00000000-0000-0000-0000-00000000000d', '00000000-0000-0000-0000-00000000000e', 100 + n, 45, 60, 'softer', true, '00000000-0000-0000-0000-00000000000c' FROM gyms, generate_series(1, 2) n;
UPDATE gyms SET gate_days = 1, gate_a_day = 3;`,
	8: `UPDATE outcomes SET missed = 4, extra = 1, offset_s = 0.02;`,
	9: `
UPDATE trainees SET weeks_days = '{1,3,5}';
UPDATE cautions SET lifted_by = 'the doctor', lifted_by_id = '00000000-0000-0000-0000-00000000000c', lifted_at = now();`,
	10: `INSERT INTO sessions VALUES ('u', 'y', now() + interval '1 day');`,
	11: `INSERT INTO sessions VALUES ('v', 'z', now() + interval '1 day');`,
	12: `UPDATE gyms SET get_ready = 20;`,
	15: `
INSERT INTO session_plans (gym_id, name, doc) SELECT id, 'Thirds', '{"rounds":[]}' FROM gyms;
INSERT INTO hours (id, gym_id, name, plan) SELECT '00000000-0000-0000-0000-0000000000e1', id, 'Class', '{}' FROM gyms LIMIT 1;
INSERT INTO turns (gym_id, hour_id, lap, round, block, trainee_id, title, seconds, at) SELECT gym_id, '00000000-0000-0000-0000-0000000000e1', 2, 2, 0, id, 'Skipping', 180, now() FROM trainees LIMIT 1;`,
	16: `
UPDATE marks SET kind = 'idleHand';
UPDATE runs SET source = 'file' WHERE state = 'stopped';
INSERT INTO marks SELECT gym_id, run_id, device, 7, 8, 'found' FROM marks LIMIT 1;
INSERT INTO faults (gym_id, run_id, code, place, cost, effect, spread, times) SELECT gym_id, id, 'waiting', 0, 0.2, 0.03, 0.004, 60 FROM runs WHERE state = 'done';
INSERT INTO ratings (gym_id, run_id, clean, out_of, word, coach) SELECT gym_id, id, 8, 10, 'held', 'A' FROM runs WHERE state = 'done';
INSERT INTO corrections (gym_id, run_id, kind, strike, verdict, coach) SELECT gym_id, id, 'strike', 3, 'missed', 'A' FROM runs WHERE state = 'done';`,
	17: `
INSERT INTO dates (gym_id, name, day, at, minutes, weekly, session_plan_id) SELECT gym_id, 'Evening', '2026-10-13', '18:30', 60, true, id FROM session_plans;
INSERT INTO calendar_links (gym_id, name, hash) SELECT id, 'Phone', repeat('a', 64) FROM gyms LIMIT 1;
INSERT INTO runs (gym_id, rig_id, trainee_id, drill_name, rig_doc, drill_doc, source, state, ending, intake_hash, zone, started_at, ended_at, brought_at) SELECT gym_id, rig_id, trainee_id, 'Of old', '{}', '{}', 'none', 'done', 'bell', 'brought', 'UTC', now(), now(), now() FROM runs WHERE state = 'done' LIMIT 1;`,
	18: `
INSERT INTO digests (gym_id, trainee_id, rig_id) SELECT t.gym_id, t.id, r.id FROM trainees t JOIN rigs r ON r.gym_id = t.gym_id WHERE r.kind = 'slip' ON CONFLICT DO NOTHING;
UPDATE runs SET predicted = 0.81 WHERE state = 'done';`,
	19: `UPDATE runs SET late_at = now() WHERE state = 'done';`,
	20: `INSERT INTO marks SELECT gym_id, run_id, device, 9, 8, 'seenLater' FROM marks LIMIT 1;`,
	22: `UPDATE outcomes SET conclusion = 'counted', headline = '', scored = 60;`,
	21: `UPDATE runs SET eased = 'secondReturns' WHERE state = 'done'; UPDATE assignments SET eased = 'partOnly';`,
	14: `INSERT INTO invitations (gym_id, secret, invited_by, coach_id, expires_at) SELECT gym_id, sha256('v'), 'V', id, now() + interval '1 day' FROM coaches LIMIT 1;`,
	13: `INSERT INTO invitations (gym_id, secret, invited_by, expires_at) SELECT id, sha256('u'), 'U', now() + interval '1 day' FROM gyms;`,
}

// renamed are tables that got another name.
var renamed = map[string]string{"findings": "evidence"}

// Every migration runs up, down and up again on a database with rows in every table, and keeps what the older release
// knows.
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
			if now := after[table] + after[renamed[table]]; now != n {
				t.Errorf("up to %d: %d rows of %s, before %d", v, now, table, n)
			}
		}
		must(t, s.MigrateTo(ctx, v-1))
	}
	must(t, s.MigrateTo(ctx, newest)) // and the empty one up once more
}

// What a release of yesterday kept is there after the step up, in its new places, and again after the step down.
func TestNothingIsLost(t *testing.T) {
	s, err := store.Open(storetest.URL(t))
	must(t, err)
	defer func() { _ = s.Close() }()
	for v := int64(1); v <= 6; v++ {
		must(t, s.MigrateTo(ctx, v))
		must(t, s.DB().Exec(rowsOf[v]).Error)
	}
	said := func(query string) string {
		var text *string
		must(t, s.DB().Raw(query).Scan(&text).Error)
		if text == nil {
			return ""
		}
		return *text
	}
	drills := `SELECT string_agg(concat_ws(' ', name, rig_id, trainee_id, doc, rung, version, retired_at), E'\n' ORDER BY name) FROM drills`
	runs := `SELECT string_agg(concat_ws(' ', r.id, d.name, r.trainee_id, r.rig_doc, r.drill_doc, r.timeline, r.state, r.started_at, r.summary ->> 'headline', r.summary ->> 'share', r.summary ->> 'tempo', r.summary -> 'rig'), E'\n' ORDER BY r.id) FROM runs r JOIN drills d ON d.id = r.drill_id WHERE r.state = 'done'`
	people := `SELECT string_agg(concat_ws(' ', name, weeks_days, weeks_from), E'\n') FROM trainees`
	about := `SELECT string_agg(concat_ws(' ', figure, bag_kind, value, run_id), E'\n') FROM findings`
	before := map[string]string{}
	for _, query := range []string{drills, runs, people, about} {
		if before[query] = said(query); before[query] == "" {
			t.Fatalf("nothing to lose: %s", query)
		}
	}
	files, err := os.ReadDir("migrations")
	must(t, err)
	must(t, s.MigrateTo(ctx, int64(len(files))))
	for query, want := range map[string]string{
		`SELECT concat_ws(' ', d.name, d.kind, d.doc - 'technique', a.tempo, a.own, r.name, t.name) FROM assignments a JOIN drills d ON d.id = a.drill_id JOIN rigs r ON r.id = a.rig_id JOIN trainees t ON t.id = a.trainee_id WHERE d.name = 'Five'`: `Five speed {"work": 60} 112 f Quay Runa`,
		`SELECT concat_ws(' ', d.doc, a.fist, a.archived_at IS NOT NULL) FROM assignments a JOIN drills d ON d.id = a.drill_id WHERE d.name = 'Put away'`:                                                                                              `{"text": "1-2", "pause": 2} 3.5 t`,
		`SELECT concat_ws(' ', headline, planned, clean, longest, share, give, tempo, asked, counts, judged, rig_parameter, rig_value) FROM outcomes WHERE planned > 0`:                                                                                `84 % clean 60 50 14 0.84 0.06 111.5 112 t t restitution 0.79`,
		`SELECT count(*) FROM runs r JOIN timelines t ON t.run_id = r.id JOIN assignments a ON a.id = r.assignment_id`:                                                                                                                                 `6`,
		`SELECT weeks_days::text FROM trainees`:                             `{2,4}`,
		`SELECT concat_ws(' ', coach, coach_id IS NOT NULL) FROM decisions`: `A t`,
	} {
		if got := said(query); got != want {
			t.Errorf("%s\n%s, want %s", query, got, want)
		}
	}
	must(t, s.MigrateTo(ctx, 6))
	for query, want := range before {
		if got := said(query); got != want {
			t.Errorf("up and down again:\n%s\nbefore:\n%s", got, want)
		}
	}
}

// counts tells how many rows each table has, but for the migrations' own.
func counts(t *testing.T, s *store.Store) map[string]int64 {
	t.Helper()
	var tables []string
	must(t,
		s.DB().Raw("SELECT tablename FROM pg_tables WHERE schemaname = 'public' AND tablename NOT LIKE 'goose%'").Scan(
			&tables).Error)
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
	must(t,
		s.DB().Raw(
			"SELECT version_id::text FROM goose_db_version WHERE version_id > 0 GROUP BY version_id HAVING count(*) > 1").Scan(&twice).Error)
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
	db, err := pgx.Connect(ctx, url)
	must(t, err)
	must(t, db.Close(ctx))
	_, err = db.Exec(ctx, "SELECT 1")
	wants(t, "a closed connection", store.OwnError(err), store.ErrUnavailable)
	must(t, s.Close())
	_, err = g.Trainees(store.InUse)
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
	for setting, want := range map[string]string{"log_error_verbosity": "terse", "log_min_error_statement": "panic",
		"log_parameter_max_length_on_error": "0"} {
		var got string
		must(t, s.DB().Raw("SELECT current_setting(?)", setting).Scan(&got).Error)
		if got != want {
			t.Errorf("%s is %s, want %s: see pg_up in scripts/postgres.sh", setting, got, want)
		}
	}
}

// A phrase that an older release kept is the code for it after the step up, wherever it stands, and the phrase again
// after the step down.
func TestPhrasesBecomeCodes(t *testing.T) {
	s, err := store.Open(storetest.URL(t))
	must(t, err)
	defer func() { _ = s.Close() }()
	for v := int64(1); v <= 20; v++ {
		must(t, s.MigrateTo(ctx, v))
		must(t, s.DB().Exec(rowsOf[v]).Error)
	}
	must(t, s.DB().Exec(`UPDATE runs SET eased = 'every second return'; UPDATE assignments SET eased = 'softer';
		UPDATE hours SET plan = '{"given": [{"name": "A", "eased": "a part of it"}, {"name": "B", "eased": ""}], "x": 1}'`).Error)
	kept := func() string {
		var text string
		must(t, s.DB().Raw(`SELECT concat_ws(' | ', (SELECT max(eased) FROM runs), (SELECT max(eased) FROM assignments),
			(SELECT max(plan::text) FROM hours))`).Scan(&text).Error)
		return text
	}
	before := kept()
	must(t, s.MigrateTo(ctx, 21))
	if got := kept(); got != `secondReturns | softer | {"x": 1, "given": [{"name": "A", "eased": "partOnly"}, {"name": "B", "eased": ""}]}` {
		t.Error(got)
	}
	must(t, s.MigrateTo(ctx, 20))
	if got := kept(); got != before {
		t.Errorf("%s, before %s", got, before)
	}
}
