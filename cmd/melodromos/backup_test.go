package main

import (
	"archive/zip"
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/stdlib"

	"melodromos/store"
	"melodromos/store/storetest"
)

// A backup that is taken while rounds are being run is of one moment: restored elsewhere every table is what the backup
// says, no round has half of a batch, what had been answered before is there, and the program runs on it.
func TestBackupUnderLoad(t *testing.T) {
	ctx := context.Background()
	source, target := storetest.URL(t), storetest.URL(t)
	file := filepath.Join(t.TempDir(), "hall.backup")
	running := serveProgram(t, source)
	s, err := store.Open(source)
	if err != nil {
		t.Fatal(err)
	}
	row, err := s.DemoGym(ctx)
	if err != nil {
		t.Fatal(err)
	}
	gym := s.Gym(ctx, row.ID)
	var today struct {
		Next []struct{ TraineeID string }
	}
	running.ask(t, "GET", "/api/today", nil, &today)
	const floors = 4
	load, stop := context.WithCancel(ctx)
	var answered sync.Map // run → batches that were answered
	var all sync.WaitGroup
	for floor := range floors {
		var run struct{ ID string }
		running.ask(t, "POST", "/api/runs",
			map[string]any{"assignmentId": running.accept(t, today.Next[floor].TraineeID), "source": "keys"}, &run)
		answered.Store(run.ID, 0)
		all.Go(func() {
			for batch := 0; load.Err() == nil && batch < 1500; batch++ { // each of five hits and a mark, all or none
				var hits []store.Hit
				for i := range 5 {
					hits = append(hits, store.Hit{Device: "pad", Seq: 5*batch + i, AtUS: int64(batch)})
				}
				if _, err := gym.AddHits(run.ID, hits,
					[]store.Mark{{Device: "pad", Seq: batch, AtUS: int64(batch), Kind: "wild"}}); err != nil {
					t.Error(err)
					return
				}
				answered.Store(run.ID, batch+1)
			}
		})
	}
	time.Sleep(200 * time.Millisecond)
	before := map[string]int{}
	answered.Range(func(run, n any) bool { before[run.(string)] = n.(int); return true })
	if out, err := command(t, source, "backup", file); err != nil ||
		!strings.Contains(out, "tables, as they stood at") {
		t.Fatalf("%v %s", err, out)
	}
	after := map[string]int{}
	answered.Range(func(run, n any) bool { after[run.(string)] = n.(int); return true })
	stop()
	all.Wait()
	_ = s.Close()
	if out, err := command(t, target, "restore", file); err != nil {
		t.Fatalf("%v %s", err, out)
	}
	db := connected(t, target)
	for run, least := range before {
		var hits, marks int
		if err := db.QueryRow(
			"SELECT (SELECT count(*) FROM hits WHERE run_id = $1), (SELECT count(*) FROM marks WHERE run_id = $1)",
			run).Scan(&hits, &marks); err != nil {
			t.Fatal(err)
		}
		if hits != 5*marks || marks < least || marks > after[run]+1 {
			t.Errorf("%d hits and %d marks of a round that had answered %d batches before the backup and %d after",
				hits, marks, least, after[run])
		}
	}
	if len(before) != floors {
		t.Errorf("%d rounds were run, want %d", len(before), floors)
	}
	told := manifest(t, file)
	for table, rows := range contents(t, db) {
		if told.Tables[table].Rows != len(rows) {
			t.Errorf("%s has %d rows, and the backup says %d", table, len(rows), told.Tables[table].Rows)
		}
	}
	_ = db.Close()
	restored := serveProgram(t, target)
	var log []struct{ ID string }
	restored.ask(t, "GET", "/api/runs?limit=5", nil, &log)
	if len(log) != 5 {
		t.Errorf("%d rounds in the log", len(log))
	}
	restored.ask(t, "GET", "/api/runs/"+log[0].ID+"/review", nil, nil)
}

// Restored, every row of every table is the same. A damaged file, one that is none, and a database in which there is a
// gym are refused, and what there was is as it was.
func TestRestore(t *testing.T) {
	source := storetest.URL(t)
	serving := serveProgram(t, source)
	file := filepath.Join(t.TempDir(), "hall.backup")
	if out, err := command(t, source, "restore", file); err == nil || !strings.Contains(out, "no such file") {
		t.Errorf("no file: %v %s", err, out)
	}
	if out, err := command(t, source, "backup", file); err != nil {
		t.Fatalf("%v %s", err, out)
	}
	_ = serving.cmd.Process.Kill()
	_ = serving.cmd.Wait()
	want := contents(t, connected(t, source))

	fresh := storetest.URL(t)
	if out, err := command(t, fresh, "gym", "list"); err != nil || out != "" { // makes the tables
		t.Fatalf("%v %s", err, out)
	}
	damage := func(name string, change func([]byte) []byte) string {
		text, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		bad := filepath.Join(t.TempDir(), name)
		if err := os.WriteFile(bad, change(text), 0o600); err != nil {
			t.Fatal(err)
		}
		return bad
	}
	for what, c := range map[string]struct{ file, tells string }{
		"one letter":   {damage("letter", func(b []byte) []byte { b[len(b)/2] ^= 0x20; return b }), "is damaged"},
		"the half":     {damage("half", func(b []byte) []byte { return b[:len(b)/2] }), "no whole backup"},
		"another file": {damage("text", func([]byte) []byte { return []byte("shopping list") }), "no whole backup"},
		"other rows":   {retold(t, file, `"rows": 8,`, `"rows": 7,`), "not those of the backup"},
		"no tables":    {retold(t, file, `"tables": {`, `"tables": {}, "others": {`), "does not say which tables"},
		"a table less": {retold(t, file, `"hits": {`, `"gyms": {`), "not those of the backup"},
		"newer":        {retold(t, file, `"schema": `, `"schema": 9`), "newer release"},
	} {
		if out, err := command(t, fresh, "restore", c.file); err == nil || !strings.Contains(out, c.tells) {
			t.Errorf("%s: %v %s, want %q", what, err, out, c.tells)
		}
		if out, err := command(t, fresh, "gym", "list"); err != nil || out != "" {
			t.Errorf("after %s: %v %s", what, err, out)
		}
	}
	for what, target := range map[string]string{"fresh": fresh, "empty": storetest.URL(t)} {
		if out, err := command(t, target, "restore", file); err != nil {
			t.Fatalf("%s: %v %s", what, err, out)
		}
		db := connected(t, target)
		got := contents(t, db)
		_ = db.Close() // what is in use is not restored over
		if len(got) != len(want) || len(want) < 14 {
			t.Errorf("%s: %d tables, want %d", what, len(got), len(want))
		}
		for table, rows := range want {
			if strings.Join(got[table], "\n") != strings.Join(rows, "\n") {
				t.Errorf("%s: the rows of %s differ", what, table)
			}
		}
		if out, err := command(t, target, "restore", file); err == nil ||
			!strings.Contains(out, "in this database already") {
			t.Errorf("over a gym: %v %s", err, out)
		}
	}
	if out, err := command(t, source, "backup", file); err == nil || !strings.Contains(out, "is there already") {
		t.Errorf("over a file: %v %s", err, out)
	}
	busy := storetest.URL(t)
	open := connected(t, busy)
	if err := open.Ping(); err != nil {
		t.Fatal(err)
	}
	if out, err := command(t, busy, "restore", file); err == nil || !strings.Contains(out, "stop the server first") {
		t.Errorf("while it is used: %v %s", err, out)
	}
	if out, err := command(t, storetest.URL(t), "backup", file+"2"); err == nil ||
		!strings.Contains(out, "nothing to back up") {
		t.Errorf("an empty one: %v %s", err, out)
	}
	if list, _ := filepath.Glob(file + "*"); len(list) != 1 {
		t.Errorf("left behind: %v", list)
	}
}

// command runs the program on a database and returns what it said.
func command(t *testing.T, database string, args ...string) (string, error) {
	t.Helper()
	cmd := program(t, args...)
	cmd.Env = append(cmd.Env, "DATABASE_URL="+database, "LOG_LEVEL=error")
	out, err := cmd.CombinedOutput()
	return strings.TrimSpace(string(out)), err
}

func connected(t *testing.T, database string) *sql.DB {
	t.Helper()
	config, err := pgx.ParseConfig(database)
	if err != nil {
		t.Fatal(err)
	}
	config.RuntimeParams["melodromos.gym"] = "*"
	config.RuntimeParams["application_name"] = t.Name()
	db := stdlib.OpenDB(*config)
	t.Cleanup(func() { _ = db.Close() })
	return db
}

// contents are the rows of all tables as text, in order.
func contents(t *testing.T, db *sql.DB) map[string][]string {
	t.Helper()
	strings := func(query string) (list []string) {
		rows, err := db.Query(query)
		if err != nil {
			t.Fatal(err)
		}
		defer func() { _ = rows.Close() }()
		for rows.Next() {
			var text string
			if err := rows.Scan(&text); err != nil {
				t.Fatal(err)
			}
			list = append(list, text)
		}
		return list
	}
	all := map[string][]string{}
	for _, table := range strings("SELECT tablename FROM pg_tables WHERE schemaname = 'public'") {
		all[table] = strings("SELECT t::text FROM " + table + " t ORDER BY 1")
	}
	return all
}

type told struct {
	Tables map[string]struct{ Rows int }
}

func manifest(t *testing.T, file string) (m told) {
	t.Helper()
	if err := json.Unmarshal(part(t, file, "melodromos.json"), &m); err != nil {
		t.Fatal(err)
	}
	return m
}

func part(t *testing.T, file, name string) []byte {
	t.Helper()
	archive, err := zip.OpenReader(file)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = archive.Close() }()
	f, err := archive.Open(name)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = f.Close() }()
	text, err := io.ReadAll(f)
	if err != nil {
		t.Fatal(err)
	}
	return text
}

// retold is a whole backup whose manifest says something else.
func retold(t *testing.T, file, from, to string) string {
	t.Helper()
	text := string(part(t, file, "melodromos.json"))
	if !strings.Contains(text, from) {
		t.Fatalf("%q is not in %s", from, text)
	}
	bad := filepath.Join(t.TempDir(), "retold")
	out, err := os.Create(bad)
	if err != nil {
		t.Fatal(err)
	}
	archive := zip.NewWriter(out)
	for name, text := range map[string][]byte{"database.dump": part(t, file, "database.dump"),
		"melodromos.json": []byte(strings.Replace(text, from, to, 1))} {
		f, err := archive.Create(name)
		if err == nil {
			_, err = f.Write(text)
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := archive.Close(); err != nil {
		t.Fatal(fmt.Errorf("write %s: %w", bad, err))
	}
	_ = out.Close()
	return bad
}
