package store

import (
	"database/sql"
	"database/sql/driver"
	"errors"
	"fmt"
	"io"
	"net"
	"slices"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
	"gorm.io/gorm"
)

// Errors that callers tell apart.
var (
	ErrNotFound    = errors.New("not found")
	ErrConflict    = errors.New("changed meanwhile")
	ErrTaken       = errors.New("already taken")
	ErrUnfit       = errors.New("not fit to be kept") // a value that the database does not take
	ErrUnavailable = errors.New("the database does not answer")
)

// ownError turns the database layer's errors into this package's. What PostgreSQL tells of a row's contents is left
// behind: a log is no place for them.
func ownError(err error) error {
	switch {
	case err == nil, errors.Is(err, ErrUnavailable):
		return err
	case errors.Is(err, gorm.ErrRecordNotFound), errors.Is(err, gorm.ErrForeignKeyViolated):
		return ErrNotFound
	case errors.Is(err, gorm.ErrDuplicatedKey):
		return ErrTaken
	case errors.Is(err, gorm.ErrCheckConstraintViolated):
		return ErrUnfit
	case away(err):
		return fmt.Errorf("%w: %w", ErrUnavailable, err)
	}
	var pg *pgconn.PgError
	if !errors.As(err, &pg) {
		return err
	}
	switch class := pg.Code[:2]; {
	case pg.Code == invalidText && strings.Contains(pg.Message, "type uuid"):
		return ErrNotFound // what is no id belongs to nothing
	case class == dataException, pg.Code == checkViolated, pg.Code == notNull:
		return fmt.Errorf("%w: SQLSTATE %s %s", ErrUnfit, pg.Code, pg.ConstraintName)
	}
	return fmt.Errorf("SQLSTATE %s in %s %s", pg.Code, pg.TableName, pg.Routine)
}

// Codes and classes of PostgreSQL's errors (PostgreSQL documentation, appendix A).
const (
	dataException = "22" // out of range, too long, a byte that no text may hold
	invalidText   = "22P02"
	checkViolated = "23514"
	notNull       = "23502"
	connection    = "08"
	resources     = "53" // too many connections, no disk
	operator      = "57" // shut down, starting up
)

// gone lists the drivers' messages about closed connections, for which they have no error values.
var gone = []string{"conn closed", "conn busy", "sql: database is closed", "closed pool"}

// away says whether an error means that the database cannot be reached just now.
func away(err error) bool {
	var pg *pgconn.PgError
	if errors.As(err, &pg) {
		class := pg.Code[:2]
		return class == connection || class == resources || class == operator
	}
	var connect *pgconn.ConnectError
	var network net.Error
	return errors.As(err, &connect) || errors.As(err, &network) || errors.Is(err, driver.ErrBadConn) ||
		errors.Is(err, sql.ErrConnDone) ||
		errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, net.ErrClosed) ||
		pgconn.SafeToRetry(err) || slices.ContainsFunc(gone, func(said string) bool {
		return strings.Contains(err.Error(), said)
	})
}
