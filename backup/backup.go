// Package backup writes all gyms of an installation into one file, and reads them back. The database's own tools carry
// the rows; what is added is that a file is whole or not there, and that what was restored is what was backed up.
package backup

import (
	"archive/zip"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"time"

	"github.com/jackc/pgx/v5"
)

// A file is a zip archive (whose checksums tell a damaged one) of a dump in pg_dump's custom format and what is to be
// found in it.
const (
	format       = 1
	dumpName     = "database.dump"
	manifestName = "melodromos.json"
)

// Manifest tells what a backup holds.
type Manifest struct {
	Format int           `json:"format"`
	Made   time.Time     `json:"made"`
	Schema int64         `json:"schema"` // the newest migration that had run
	Tables map[string]Of `json:"tables"`
}

// Of sums up a table: the number of its rows, and a checksum of their contents that does not depend on their order.
type Of struct {
	Rows int64  `json:"rows"`
	Sum  string `json:"sum"`
}

// Rows are those of all tables.
func (m Manifest) Rows() (n int64) {
	for _, t := range m.Tables {
		n += t.Rows
	}
	return n
}

// Write backs the database up into a new file, as it stands at one moment; it may be in use meanwhile. A file that is
// there already is left alone. What goes wrong leaves no file behind.
func Write(ctx context.Context, database, file string) (m Manifest, err error) {
	if _, err := os.Lstat(file); err == nil {
		return m, fmt.Errorf("%s is there already: choose another name", file)
	}
	part, err := os.CreateTemp(filepath.Dir(file), filepath.Base(file)+".part*") // only its owner can read it
	if err != nil {
		return m, fmt.Errorf("make the backup: %w", err)
	}
	defer func() { _ = os.Remove(part.Name()) }()
	defer func() { _ = part.Close() }()
	if m, err = write(ctx, database, part); err != nil {
		return m, err
	}
	if err = errors.Join(part.Sync(), part.Close()); err != nil {
		return m, fmt.Errorf("write the backup: %w", err)
	}
	read, dump, err := open(part.Name())
	if err == nil {
		err = errors.Join(listed(ctx, dump), os.Remove(dump))
	}
	if err != nil {
		return m, fmt.Errorf("check the backup: %w", err)
	}
	if err := os.Link(part.Name(), file); errors.Is(err, fs.ErrExist) { // unlike a renaming it writes over nothing
		return m, fmt.Errorf("%s is there already: choose another name", file)
	} else if err != nil {
		if err = os.Rename(part.Name(), file); err != nil { // a disk that knows no links
			return m, fmt.Errorf("name the backup: %w", err)
		}
	}
	return read, nil
}

// write writes dump and manifest of one moment.
func write(ctx context.Context, database string, to io.Writer) (m Manifest, err error) {
	m = Manifest{Format: format, Made: time.Now().UTC().Truncate(time.Second)}
	db, err := connect(ctx, database)
	if err != nil {
		return m, err
	}
	defer func() { _ = db.Close(context.WithoutCancel(ctx)) }()
	tx, err := db.BeginTx(ctx, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly})
	if err != nil {
		return m, err
	}
	defer func() { _ = tx.Rollback(context.WithoutCancel(ctx)) }()
	if m.Schema, err = schema(ctx, tx); err != nil {
		return m, err
	}
	if m.Schema == 0 {
		return m, errors.New("there is nothing to back up: no gym was ever kept in this database")
	}
	if m.Tables, err = sums(ctx, tx); err != nil {
		return m, err
	}
	var moment string
	if err := tx.QueryRow(ctx, "SELECT pg_export_snapshot()").Scan(&moment); err != nil {
		return m, fmt.Errorf("hold the moment: %w", err)
	}
	archive := zip.NewWriter(to)
	// it is packed already
	dump, err := archive.CreateHeader(&zip.FileHeader{Name: dumpName, Method: zip.Store, Modified: m.Made})
	if err != nil {
		return m, err
	}
	if err := tool(ctx, database, dump, "pg_dump", "--format=custom", "--no-owner", "--no-privileges",
		"--enable-row-security", "--snapshot="+moment); err != nil {
		return m, err
	}
	text, err := json.MarshalIndent(m, "", "  ")
	if err != nil {
		return m, err
	}
	about, err := archive.CreateHeader(&zip.FileHeader{Name: manifestName, Method: zip.Deflate, Modified: m.Made})
	if err != nil {
		return m, err
	}
	if _, err := about.Write(text); err != nil {
		return m, err
	}
	return m, archive.Close()
}

// open reads a backup whole: its manifest, and the dump in a file of its own, which whoever calls removes. A damaged
// one is refused.
func open(file string) (m Manifest, dump string, err error) {
	archive, err := zip.OpenReader(file)
	if err != nil {
		return m, "", fmt.Errorf("%s is no whole backup of Melodromos: %w", file, err)
	}
	defer func() { _ = archive.Close() }()
	damaged := func(err error) error { return fmt.Errorf("%s is damaged: %w", file, err) }
	about, err := archive.Open(manifestName)
	if err != nil {
		return m, "", fmt.Errorf("%s is no backup of Melodromos: %w", file, err)
	}
	defer func() { _ = about.Close() }()
	text, err := io.ReadAll(about)
	if err != nil {
		return m, "", damaged(err)
	}
	if err := json.Unmarshal(text, &m); err != nil {
		return m, "", damaged(err)
	}
	if _, there := m.Tables["gyms"]; m.Format == format && !there {
		return m, "", damaged(errors.New("it does not say which tables it holds"))
	}
	if m.Format != format {
		return m, "", fmt.Errorf("%s was made by another release, in format %d; this one reads %d", file, m.Format,
			format)
	}
	rows, err := archive.Open(dumpName)
	if err != nil {
		return m, "", damaged(err)
	}
	defer func() { _ = rows.Close() }()
	copied, err := os.CreateTemp("", "melodromos-*.dump")
	if err != nil {
		return m, "", err
	}
	_, err = io.Copy(copied, rows) // the archive's checksum is compared at its end
	if err = errors.Join(err, copied.Close()); err != nil {
		_ = os.Remove(copied.Name())
		return m, "", damaged(err)
	}
	return m, copied.Name(), nil
}
