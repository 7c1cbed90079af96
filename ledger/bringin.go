package ledger

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/format/document"
	"melodromos/store"
)

// Does says what bringing something in does.
type Does string

// What is there already stays as it is, unless the file's is to be taken over it.
const (
	Added   Does = "added"
	Same    Does = "same"    // it is there already
	Differs Does = "differs" // it is there, and stays as it is
	Changed Does = "changed" // it is there, and becomes what the file has
)

// Values lists them.
func (Does) Values() []Does { return []Does{Added, Same, Differs, Changed} }

// Brought tells the change that bringing a file in makes to one thing.
type Brought struct {
	What   string `json:"what" doc:"such as bag or person"`
	Name   string `json:"name"`
	Does   Does   `json:"does"`
	Detail string `json:"detail,omitempty" doc:"what is different"`
	ID     string `json:"id,omitempty"`
	Count  int    `json:"count" doc:"of how many this is said"`
}

// Bringing holds the choices with which a document is brought in.
type Bringing struct {
	Over bool // what differs becomes what the file has
	Dry  bool // nothing stays: only what would change is told
}

// Bring brings a document into a gym, whole or not at all, and tells what changes.
func Bring(gym *store.Gym, f document.File, how Bringing, by *string) ([]Brought, error) {
	b := &bringer{how: how, by: by, changes: []Brought{}, ids: map[string]string{}, names: map[string]string{},
		lists: map[string]*listing{}}
	return b.changes, gym.Tried(how.Dry, func(in *store.Gym) error {
		b.changes = b.changes[:0]
		row, err := in.Row()
		if err != nil {
			return err
		}
		b.gym, b.row = in, row
		have, keys, err := GymDocument(in, row)
		if err != nil {
			return err
		}
		b.have, b.rows = have, map[string]string{}
		for id, key := range keys {
			b.rows[key] = id
		}
		return b.all(f)
	})
}

type bringer struct {
	how     Bringing
	by      *string // coach; nil on the command line
	gym     *store.Gym
	row     store.GymRow
	have    document.Gym
	rows    map[string]string // ids by the keys of have
	ids     map[string]string // ids by the keys of the file
	names   map[string]string // of people and drills, by the keys of the file
	lists   map[string]*listing
	changes []Brought

	given  map[givenKey]store.Assignment
	plans  map[string]drill.Plan // by id
	toGive fresh[store.Assignment]
	dates  map[dateKey]store.Date
	toHold fresh[store.Date]
}

// listing are the things of one sort that are there, by what tells them apart.
type listing struct {
	byName map[string][]there
}

type there struct {
	id  string
	doc []byte
}

func (b *bringer) all(f document.File) error {
	switch f.Holds {
	case document.OfBag:
		return b.bag(*f.Bag, "bag")
	case document.OfDrill:
		return b.drill(*f.Drill, "drill")
	case document.OfSession:
		return b.session(document.Session{Session: *f.Session}, "session")
	}
	g := f.Gym
	for _, v := range g.People {
		b.names[v.Key] = v.Name
	}
	for _, v := range g.Drills {
		b.names[v.Key] = v.Name
	}
	if err := b.settings(g.Settings); err != nil {
		return err
	}
	for i, v := range g.Bags {
		if err := b.bag(v, fmt.Sprintf("gym.bags[%d]", i)); err != nil {
			return err
		}
	}
	for _, v := range g.People {
		if err := b.person(v); err != nil {
			return err
		}
	}
	for i, v := range g.Drills {
		if err := b.drill(v, fmt.Sprintf("gym.drills[%d]", i)); err != nil {
			return err
		}
	}
	for i, v := range g.Sessions {
		if err := b.session(v, fmt.Sprintf("gym.sessions[%d]", i)); err != nil {
			return err
		}
	}
	for i, v := range g.Given {
		if err := b.give(v, i); err != nil {
			return err
		}
	}
	for _, v := range g.Dates {
		if err := b.date(v); err != nil {
			return err
		}
	}
	return b.flush()
}

func (b *bringer) tell(what, name string, does Does, detail, id string) {
	b.changes = append(b.changes, Brought{what, name, does, detail, id, 1})
}

// match finds what is there under a name, each of several only once, and says whether it is the same but for its key.
func (b *bringer) match(sort, name string, doc any) (id string, same bool, err error) {
	text, err := json.Marshal(doc)
	if err != nil {
		return "", false, err
	}
	list := b.lists[sort].byName[name]
	if len(list) == 0 {
		return "", false, nil
	}
	i := max(0, slices.IndexFunc(list, func(t there) bool { return bytes.Equal(t.doc, text) }))
	found := list[i]
	b.lists[sort].byName[name] = slices.Delete(list, i, i+1)
	return found.id, bytes.Equal(found.doc, text), nil
}

// stands lists what is there of a sort, once.
func stands[D any](b *bringer, sort string, list []D, name func(D) string, key func(*D) *string) error {
	if b.lists[sort] != nil {
		return nil
	}
	l := &listing{map[string][]there{}}
	for _, d := range list {
		at := key(&d)
		id := b.rows[*at]
		*at = ""
		text, err := json.Marshal(d)
		if err != nil {
			return err
		}
		l.byName[name(d)] = append(l.byName[name(d)], there{id, text})
	}
	b.lists[sort] = l
	return nil
}

// settings are the file's in a gym with nobody and nothing in it; else only where the file's are to be taken.
func (b *bringer) settings(s document.Settings) error {
	mine, _ := json.Marshal(SettingsDocument(b.row))
	theirs, err := json.Marshal(s)
	if err != nil {
		return err
	}
	fresh := len(b.have.Bags) == 0 && len(b.have.People) == 0
	switch {
	case bytes.Equal(mine, theirs):
		b.tell("settings", s.Name, Same, "", "")
		return nil
	case !fresh && !b.how.Over:
		b.tell("settings", s.Name, Differs, differing(mine, theirs), "")
		return nil
	}
	b.tell("settings", s.Name, Changed, differing(mine, theirs), "")
	row := b.row
	row.Name, row.Zone, row.Units, row.Kicks, row.GetReady = s.Name, s.Zone, string(s.Units), s.Kicks, s.GetReady
	row.BorderSlack, row.BorderHead, row.BorderTight = s.Borders.Slack, s.Borders.Head, s.Borders.Tight
	row.PunchNames, row.SlipNames = string(s.Punches), string(s.Slips)
	row.GateClean, row.GateRun, row.GateRounds, row.GateDays, row.GateADay = s.Gate.Clean, s.Gate.Streak, s.Gate.Rounds,
		s.Gate.Days, s.Gate.ADay
	return b.gym.ChangeRow(row)
}

func (b *bringer) bag(v document.Bag, field string) error {
	err := stands(b, "bag", b.have.Bags, func(d document.Bag) string { return d.Name },
		func(d *document.Bag) *string { return &d.Key })
	if err != nil {
		return err
	}
	key, measured := v.Key, v.MeasuredAt
	v.Key = ""
	kind := v.Doc.Rig.Kind()
	id, same, err := b.match("bag", v.Name, v)
	if err != nil {
		return err
	}
	row, err := RigRow(id, v.Name, 0, v.Doc.Rig, v.Place.Place)
	if err != nil {
		return err
	}
	switch {
	case id == "":
		if err := b.gym.AddRig(row); err != nil {
			return err
		}
		id = row.ID
		b.tell("bag", v.Name, Added, kind.Name(), id)
	case same:
		b.tell("bag", v.Name, Same, "", id)
	default:
		now, err := b.gym.Rig(id)
		if err != nil {
			return err
		}
		mine, err := BagDocument(now)
		if err != nil {
			return err
		}
		if measured == nil { // nobody says when
			v.MeasuredAt, mine.MeasuredAt = nil, nil
		}
		detail := differingDocs(mine, v)
		switch {
		case detail == "":
			b.tell("bag", v.Name, Same, "", id)
		case !b.how.Over:
			b.tell("bag", v.Name, Differs, detail, id)
		case now.Kind != string(kind):
			return input.Refuse(field+".doc.kind", "expected %q, as the bag of this name here: a bag keeps its kind",
				now.Kind)
		default:
			row.Version = now.Version
			if err := b.gym.ChangeRig(row); err != nil {
				return err
			}
			b.tell("bag", v.Name, Changed, detail, id)
		}
		same = detail == "" || !b.how.Over
	}
	b.ids[key] = id
	if same {
		return nil
	}
	columns := map[string]any{"archived_at": b.archived(v.Archived)}
	if measured != nil {
		columns["measured_at"] = *measured
	}
	return b.gym.Reinstate(&store.Rig{}, id, columns)
}

func (b *bringer) archived(is bool) *time.Time {
	if !is {
		return nil
	}
	return new(b.gym.Now())
}
