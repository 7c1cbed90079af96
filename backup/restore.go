package backup

import (
	"context"
	"errors"
	"fmt"
	"io"
	"maps"
	"os"
	"slices"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"melodromos/store"
)

// Restore reads a backup into an empty database, or one of a fresh installation in which there is no gym yet. It is
// read whole or not at all: in one transaction, at whose end each table has to hold what the backup says. Then the
// tables are brought up to date.
func Restore(ctx context.Context, database, file string) (m Manifest, err error) {
	m, dump, err := open(file)
	if err != nil {
		return m, err
	}
	defer func() { _ = os.Remove(dump) }()
	if newest, err := store.NewestSchema(); err != nil {
		return m, err
	} else if m.Schema > newest {
		return m,
			fmt.Errorf(
				"%s was made by a newer release (tables of version %d, this one knows %d): restore it with that one",
				file, m.Schema, newest)
	}
	there, err := free(ctx, database)
	if err != nil {
		return m, err
	}
	script, err := restoring(ctx, dump, there, m)
	if err != nil {
		return m, err
	}
	defer func() { _ = os.Remove(script) }()
	if err := tool(ctx, database, io.Discard, "psql", "--no-psqlrc", "--quiet", "--single-transaction",
		"--set=ON_ERROR_STOP=1", "--file="+script); err != nil {
		return m, fmt.Errorf("nothing was restored: %w", err)
	}
	s, err := store.Open(database)
	if err != nil {
		return m, err
	}
	defer func() { _ = s.Close() }()
	return m, s.Migrate(ctx)
}

// inUse says whether anybody else is connected to the database.
func inUse(ctx context.Context, db *pgx.Conn) (used bool, err error) {
	err = db.QueryRow(ctx, "SELECT EXISTS (SELECT FROM pg_stat_activity WHERE datname = current_database() AND "+
		"pid <> pg_backend_pid() AND backend_type = 'client backend')").Scan(&used)
	return used, err
}

// free refuses a database in which there is a gym, or that is in use, and returns the tables that make way.
func free(ctx context.Context, database string) (tables []string, err error) {
	db, err := connect(ctx, database)
	if err != nil {
		return nil, err
	}
	defer func() { _ = db.Close(context.WithoutCancel(ctx)) }()
	used, err := inUse(ctx, db)
	for n := 0; used && err == nil && n < 20; n++ { // a server that was just stopped may be a moment behind
		time.Sleep(100 * time.Millisecond)
		used, err = inUse(ctx, db)
	}
	if err != nil {
		return nil, err
	}
	if used {
		return nil, errors.New("the database is in use: stop the server first, then restore")
	}
	if tables, err = tablesOf(ctx, db); err != nil || len(tables) == 0 {
		return nil, err
	}
	if !slices.Contains(tables, "gyms") {
		return nil, errors.New("this database holds something else: restore into an empty one")
	}
	var gyms int
	if err := db.QueryRow(ctx, "SELECT count(*) FROM gyms").Scan(&gyms); err != nil {
		return nil, err
	}
	if gyms > 0 {
		return nil,
			fmt.Errorf(
				"there are %d gyms in this database already: restore into an empty one, or remove them first (melodromos gym list, gym remove ID)", gyms)
	}
	return tables, nil
}

// restoring writes the script of a restoration: what there is makes way, the dump is read, and what was read is held
// against the manifest.
func restoring(ctx context.Context, dump string, there []string, m Manifest) (file string, err error) {
	script, err := os.CreateTemp("", "melodromos-*.sql")
	if err != nil {
		return "", err
	}
	defer func() {
		if err = errors.Join(err, script.Close()); err != nil {
			_ = os.Remove(script.Name())
		}
	}()
	for _, table := range there {
		if _, err := fmt.Fprintf(script, "DROP TABLE public.%s CASCADE;\n",
			pgx.Identifier{table}.Sanitize()); err != nil {
			return "", err
		}
	}
	if _, err := fmt.Fprintln(script, dropOthers); err != nil {
		return "", err
	}
	if err := tool(ctx, "", script, "pg_restore", "--no-owner", "--no-privileges", "--enable-row-security",
		"--schema=public", "--file=-", dump); err != nil {
		return "", fmt.Errorf("read the backup: %w", err)
	}
	var check strings.Builder
	check.WriteString("\n" + plainText + "DO $check$ DECLARE found record; BEGIN\n")
	tables := slices.Sorted(maps.Keys(m.Tables))
	fmt.Fprintf(&check,
		"IF (SELECT coalesce(string_agg(tablename, ' ' ORDER BY tablename COLLATE \"C\"), '') FROM pg_tables WHERE schemaname = 'public') <> '%s' THEN RAISE EXCEPTION 'the tables are not those of the backup'; END IF;\n",
		strings.ReplaceAll(strings.Join(tables, " "), "'", ""))
	for _, table := range tables {
		dumped := m.Tables[table]
		fmt.Fprintf(&check,
			"%s INTO found; IF found.rows <> %d OR found.sum <> '%s' THEN RAISE EXCEPTION 'the rows of %% are not those of the backup', '%s'; END IF;\n",
			sumOf(table, "rows", "sum"), dumped.Rows, strings.ReplaceAll(dumped.Sum, "'", ""),
			strings.ReplaceAll(table, "'", ""))
	}
	check.WriteString("END $check$;\n")
	_, err = io.WriteString(script, check.String())
	return script.Name(), err
}

// dropOthers takes away what the product made beside tables, its functions and sequences; what an extension brought
// stays.
const dropOthers = `DO $others$ DECLARE r record; BEGIN
FOR r IN SELECT p.oid::regprocedure AS name FROM pg_proc p JOIN pg_namespace n ON n.oid = p.pronamespace
	WHERE n.nspname = 'public' AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e')
LOOP EXECUTE 'DROP FUNCTION ' || r.name || ' CASCADE'; END LOOP;
FOR r IN SELECT c.oid::regclass AS name FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
	WHERE n.nspname = 'public' AND c.relkind = 'S'
LOOP EXECUTE 'DROP SEQUENCE ' || r.name || ' CASCADE'; END LOOP;
END $others$;`
