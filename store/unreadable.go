package store

import (
	"cmp"
	"encoding/json"
	"log/slog"
	"slices"
	"sync"
)

// Unreadable names a row that is kept and could not be read.
type Unreadable struct {
	Kind RowKind
	ID   string
	Name string // as far as the row has one
	Why  string
}

// RowKind says of what kind a row with documents is.
type RowKind string

// The kinds of rows with documents that people see in lists.
const (
	RigRow        RowKind = "bag"
	DrillRow      RowKind = "drill"
	AssignmentRow RowKind = "assignment"
	SessionRow    RowKind = "session"
	ClassRow      RowKind = "class"
	DateRow       RowKind = "date"
	RunRow        RowKind = "round"
)

// tables of the kinds.
var tables = map[RowKind]string{RigRow: "rigs", DrillRow: "drills", AssignmentRow: "assignments",
	SessionRow: "session_plans", ClassRow: "hours", DateRow: "dates", RunRow: "runs"}

// Values lists them.
func (RowKind) Values() []RowKind {
	return []RowKind{RigRow, DrillRow, AssignmentRow, SessionRow, ClassRow, DateRow, RunRow}
}

// noted holds the rows that were found unreadable since the server started: it looks through all of them then, and
// whoever comes by another one later notes it.
type noted struct {
	sync.Mutex
	rows map[string]map[string]Unreadable // by gym, then by table and id
}

// Note remembers that a row could not be read, and logs it the first time.
func (g *Gym) Note(u Unreadable) {
	g.noted.Lock()
	defer g.noted.Unlock()
	rows := g.noted.rows[g.ID]
	if rows == nil {
		rows = map[string]Unreadable{}
		g.noted.rows[g.ID] = rows
	}
	key := string(u.Kind) + " " + u.ID
	if rows[key].Why != u.Why {
		slog.Error("a row could not be read and was left out", "kind", u.Kind, "id", u.ID, "gym", g.ID, "why", u.Why)
	}
	rows[key] = u
}

// Noted lists the rows that were found unreadable and not forgotten, by table and name.
func (g *Gym) Noted() []Unreadable {
	g.noted.Lock()
	defer g.noted.Unlock()
	list := make([]Unreadable, 0, len(g.noted.rows[g.ID]))
	for _, u := range g.noted.rows[g.ID] {
		list = append(list, u)
	}
	slices.SortFunc(list, func(a, b Unreadable) int {
		return cmp.Or(cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.Name, b.Name), cmp.Compare(a.ID, b.ID))
	})
	return list
}

// Forget takes back what was noted of a row: it can be read again, or is gone.
func (g *Gym) Forget(u Unreadable) {
	g.noted.Lock()
	defer g.noted.Unlock()
	delete(g.noted.rows[g.ID], string(u.Kind)+" "+u.ID)
}

// AsItIs is a whole row as the database has it, as one JSON object, but for what signs a device in. A round comes with
// its timeline.
func (g *Gym) AsItIs(of RowKind, id string) (json.RawMessage, error) {
	table, known := tables[of]
	if !known {
		return nil, ErrNotFound
	}
	row := "to_jsonb(t)"
	if of == RunRow {
		row = "to_jsonb(t) - 'intake_hash' || jsonb_build_object('timeline', " +
			"(SELECT l.doc FROM timelines l WHERE l.run_id = t.id))"
	}
	var text string
	found := g.db.Raw("SELECT ("+row+")::text FROM "+table+" t WHERE t.gym_id = ? AND t.id = ?", g.ID,
		id).Scan(&text)
	if found.Error == nil && found.RowsAffected == 0 {
		return nil, ErrNotFound
	}
	return json.RawMessage(text), ownError(found.Error)
}
