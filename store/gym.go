package store

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgtype"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"gorm.io/gorm"

	"melodromos/core/timetable"
)

// GymRow is a gym.
type GymRow struct {
	ID        string `gorm:"default:gen_random_uuid()"`
	Name      string
	Units     string // "metric" or "imperial"
	Zone      string // IANA name
	Demo      bool
	Version   int `gorm:"default:1"`
	CreatedAt time.Time

	// Borders (s) between cords too slack, for head movement, for combinations, and too tight.
	BorderSlack float64 `gorm:"default:0.45"`
	BorderHead  float64 `gorm:"default:0.32"`
	BorderTight float64 `gorm:"default:0.17"`

	Kicks      bool   // kicks, knees and elbows are trained here
	PunchNames string `gorm:"default:numbers"` // "numbers" or "names"
	SlipNames  string `gorm:"default:sides"`   // "sides" (lead and rear) or "inside" (and outside)

	GetReady float64 `gorm:"default:10"` // s, from the last press to the bell

	// Gate of a rung, before the next one.
	GateClean  float64 `gorm:"default:0.8"`
	GateRun    int     `gorm:"default:10"`
	GateRounds int     `gorm:"default:2"`
	GateDays   int     `gorm:"default:2"` // on which those rounds lie
	GateADay   int     `gorm:"default:2"` // rungs passed in one day at the most
}

// TableName is the table's name.
func (GymRow) TableName() string { return "gyms" }

// Gym is the data of one gym and nothing else.
type Gym struct {
	ID   string
	db   *gorm.DB
	pool *pgxpool.Pool
	conn *sql.Conn // of the transaction; nil outside of one

	noted *noted
	memo  *memo
}

// Gym opens the data of one gym.
func (s *Store) Gym(ctx context.Context, id string) *Gym {
	return &Gym{id, s.db.WithContext(inGym(ctx, id)), s.pool, nil, &s.noted, s.memo}
}

// rows starts a query on rows of this gym alone.
func (g *Gym) rows() *gorm.DB { return g.db.Where("gym_id = ?", g.ID) }

// Together runs steps in one transaction: all of them hold, or none. What they have made stale is made anew with them.
func (g *Gym) Together(steps func(in *Gym) error) error {
	if g.conn != nil {
		return ownError(g.db.Transaction(func(tx *gorm.DB) error {
			return steps(&Gym{g.ID, tx, g.pool, g.conn, g.noted, g.memo})
		}))
	}
	return ownError(g.db.Connection(func(db *gorm.DB) error {
		conn, ok := db.Statement.ConnPool.(*sql.Conn)
		if !ok {
			return errors.New("no connection of the pool")
		}
		return db.Transaction(func(tx *gorm.DB) error {
			in := &Gym{g.ID, tx, g.pool, conn, g.noted, g.memo}
			if err := steps(in); err != nil {
				return err
			}
			return in.digestStale()
		})
	}))
}

// eachRow reads the many rows of a query one after the other into where the columns are to go, past the mapper: a class
// has tens of thousands, and it takes several times as long. Within a transaction it reads what that has written.
func (g *Gym) eachRow(q *gorm.DB, columns string, into []any, row func()) error {
	s := q.Session(&gorm.Session{DryRun: true}).Select(columns).Find(&[]map[string]any{}).Statement
	// Planned anew each time: a plan for any limit and any gym takes the long way.
	read := func(ask interface {
		Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error)
	}) error {
		found, err := ask.Query(s.Context, s.SQL.String(), append([]any{pgx.QueryExecModeCacheDescribe}, s.Vars...)...)
		if err != nil {
			return err
		}
		_, err = pgx.ForEachRow(found, into, func() error { row(); return nil })
		return err
	}
	if g.conn == nil {
		return ownError(read(g.pool))
	}
	return ownError(g.conn.Raw(func(driver any) error { return read(driver.(*stdlib.Conn).Conn()) }))
}

// pages are a long list as it grows, which is not copied each time.
type pages[T any] [][]T

func (p *pages[T]) add(row T) {
	n := len(*p) - 1
	if n < 0 || len((*p)[n]) == cap((*p)[n]) {
		*p = append(*p, make([]T, 0, 1024))
		n++
	}
	(*p)[n] = append((*p)[n], row)
}

// texts writes ids as text, each once; "" where there is none.
type texts map[pgtype.UUID]string

func (known texts) text(id pgtype.UUID) string {
	text, ok := known[id]
	if !ok {
		text = id.String()
		known[id] = text
	}
	return text
}

// Row returns the gym's own row.
func (g *Gym) Row() (GymRow, error) {
	var row GymRow
	return row, ownError(g.db.Where("id = ?", g.ID).Take(&row).Error)
}

// ChangeRow stores the gym's name, units, time zone, borders between slack and tight, gate and schools over the version
// that was read; ErrConflict where others have been stored meanwhile.
func (g *Gym) ChangeRow(row GymRow) error {
	if _, err := timetable.Zone("zone", row.Zone); err != nil {
		return err
	}
	done := g.db.Model(&GymRow{}).Where("id = ? AND version = ?", g.ID, row.Version).Updates(map[string]any{
		"version": row.Version + 1,
		"name":    row.Name, "zone": row.Zone,
		"units": row.Units, "border_slack": row.BorderSlack, "border_head": row.BorderHead,
		"border_tight": row.BorderTight,
		"gate_clean":   row.GateClean, "gate_run": row.GateRun, "gate_rounds": row.GateRounds,
		"gate_days":  row.GateDays,
		"gate_a_day": row.GateADay,
		"get_ready":  row.GetReady,
		"kicks":      row.Kicks, "punch_names": row.PunchNames, "slip_names": row.SlipNames,
	})
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrConflict
	}
	return ownError(done.Error)
}

// Counts tells how many people and rounds there are, archived and removed ones included.
func (g *Gym) Counts() (people, runs int64, err error) {
	if err := g.rows().Model(&Trainee{}).Count(&people).Error; err != nil {
		return 0, 0, ownError(err)
	}
	return people, runs, ownError(g.rows().Model(&Run{}).Count(&runs).Error)
}

// find returns one row of the gym by its id.
func find[T any](g *Gym, id string) (T, error) {
	var row T
	return row, ownError(g.rows().Where("id = ?", id).Take(&row).Error)
}

// Shelf says which rows of a list are asked for: those in use, or those that were archived.
type Shelf string

// The two shelves.
const (
	InUse    Shelf = "archived_at IS NULL"
	Archived Shelf = "archived_at IS NOT NULL"
)

// listed returns the rows of a shelf in an order.
func listed[T any](g *Gym, shelf Shelf, order string) ([]T, error) {
	rows := []T{}
	return rows, ownError(g.rows().Where(string(shelf)).Order(order).Find(&rows).Error)
}

// Archive takes a row out of the lists without deleting what runs refer to.
func (g *Gym) Archive(model any, id string) error {
	return g.change(model, id, map[string]any{"archived_at": g.Now()})
}

// BringBack puts an archived row back into the lists.
func (g *Gym) BringBack(model any, id string) error {
	return g.change(model, id, map[string]any{"archived_at": nil})
}

// over updates columns of one row of the gym over the version that was read, and counts the version up. A version below
// 1 is none that was ever read, and is ErrConflict.
func (g *Gym) over(model any, id string, version int, columns map[string]any) error {
	columns["version"] = version + 1
	done := g.rows().Model(model).Where("id = ? AND version = ?", id, version).Updates(columns)
	if done.Error != nil || done.RowsAffected > 0 {
		return ownError(done.Error)
	}
	if err := g.exists(model, id); err != nil {
		return err
	}
	return ErrConflict
}

// change updates columns of one row of the gym, whatever its version.
func (g *Gym) change(model any, id string, columns map[string]any) error {
	done := g.rows().Model(model).Where("id = ?", id).Updates(columns)
	if done.Error == nil && done.RowsAffected == 0 {
		return g.exists(model, id)
	}
	return ownError(done.Error)
}

func (g *Gym) exists(model any, id string) error {
	var n int64
	if err := g.rows().Model(model).Where("id = ?", id).Count(&n).Error; err != nil {
		return ownError(err)
	}
	if n == 0 {
		return ErrNotFound
	}
	return nil
}
