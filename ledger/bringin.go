package ledger

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"melodromos/core/input"
	"melodromos/core/session"
	"melodromos/core/timetable"
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

// Brought is what bringing in does to one thing.
type Brought struct {
	What   string `json:"what" doc:"such as bag or person"`
	Name   string `json:"name"`
	Does   Does   `json:"does"`
	Detail string `json:"detail,omitempty" doc:"what is different"`
	ID     string `json:"id,omitempty"`
	Count  int    `json:"count" doc:"of how many this is said"`
}

// Bringing is how a document is brought in.
type Bringing struct {
	Over bool // what differs becomes what the file has
	Dry  bool // nothing stays: only what would change is told
}

// Bring brings a document into a gym, whole or not at all, and tells what changes.
func Bring(gym *store.Gym, f document.File, how Bringing, by *string) ([]Brought, error) {
	b := &bringer{how: how, by: by, changes: []Brought{}, ids: map[string]string{}, lists: map[string]*listing{}}
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
	lists   map[string]*listing
	changes []Brought
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
	return nil
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
	row.GateClean, row.GateRun, row.GateRounds, row.GateDays, row.GateADay = s.Gate.Clean, s.Gate.Run, s.Gate.Rounds,
		s.Gate.Days, s.Gate.ADay
	return b.gym.ChangeRow(row)
}

// differing names the fields in which two documents differ.
func differing(a, b []byte) string {
	var x, y map[string]json.RawMessage
	if json.Unmarshal(a, &x) != nil || json.Unmarshal(b, &y) != nil {
		return ""
	}
	var names []string
	for name, v := range y {
		if !bytes.Equal(v, x[name]) {
			names = append(names, name)
		}
	}
	for name := range x {
		if _, there := y[name]; !there {
			names = append(names, name)
		}
	}
	slices.Sort(names)
	out := ""
	for i, n := range names {
		if i > 0 {
			out += ", "
		}
		out += n
	}
	return out
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
	columns := map[string]any{"archived_at": archived(v.Archived)}
	if measured != nil {
		columns["measured_at"] = *measured
	}
	return b.gym.Reinstate(&store.Rig{}, id, columns)
}

// differingDocs names the fields in which two documents differ, but for the key.
func differingDocs(mine, theirs any) string {
	x, _ := json.Marshal(mine)
	y, _ := json.Marshal(theirs)
	return differing(x, y)
}

func archived(is bool) *time.Time {
	if !is {
		return nil
	}
	now := time.Now().UTC()
	return &now
}

func (b *bringer) drill(v document.Drill, field string) error {
	name := func(d document.Drill) string { return string(d.Kind) + " " + d.Name }
	err := stands(b, "drill", b.have.Drills, name, func(d *document.Drill) *string { return &d.Key })
	if err != nil {
		return err
	}
	key := v.Key
	v.Key = ""
	id, same, err := b.match("drill", name(v), v)
	if err != nil {
		return err
	}
	row, err := DrillRow(v.Name, v.Kind, v.Doc.Plan, v.Rung)
	if err != nil {
		return input.Under(field, err)
	}
	row.MadeBy = b.by
	switch {
	case id == "":
		if err := b.gym.AddDrill(&row); err != nil {
			return err
		}
		id = row.ID
		b.tell("drill", v.Name, Added, v.Doc.Plan.Name(), id)
	case same:
		b.tell("drill", v.Name, Same, "", id)
	case !b.how.Over:
		b.tell("drill", v.Name, Differs, v.Doc.Plan.Name(), id)
		same = true
	default:
		now, err := b.gym.Drill(id)
		if err != nil {
			return err
		}
		row.ID, row.Version = id, now.Version
		if err := b.gym.ChangeDrill(&row); err != nil {
			return err
		}
		b.tell("drill", v.Name, Changed, v.Doc.Plan.Name(), id)
	}
	b.ids[key] = id
	if same {
		return nil
	}
	return b.gym.Reinstate(&store.Drill{}, id, map[string]any{"archived_at": archived(v.Archived)})
}

func (b *bringer) session(v document.Session, field string) error {
	err := stands(b, "session", b.have.Sessions, func(s document.Session) string { return s.Session.Name },
		func(s *document.Session) *string { return &s.Key })
	if err != nil {
		return err
	}
	key := v.Key
	v.Key = ""
	id, same, err := b.match("session", v.Session.Name, v)
	if err != nil {
		return err
	}
	doc, err := json.Marshal(v.Session)
	if err != nil {
		return input.Under(field, err)
	}
	row := store.SessionPlan{ID: id, Name: v.Session.Name, Doc: doc, MadeBy: b.by}
	said := v.Session.Sentence(session.Totals{Seconds: v.Session.Seconds()})
	switch {
	case id == "":
		if err := b.gym.AddSessionPlan(&row); err != nil {
			return err
		}
		id = row.ID
		b.tell("session", row.Name, Added, said, id)
	case same:
		b.tell("session", row.Name, Same, "", id)
	case !b.how.Over:
		b.tell("session", row.Name, Differs, said, id)
		same = true
	default:
		now, err := b.gym.SessionPlan(id)
		if err != nil {
			return err
		}
		row.Version = now.Version
		if err := b.gym.ChangeSessionPlan(&row); err != nil {
			return err
		}
		b.tell("session", row.Name, Changed, said, id)
	}
	b.ids[key] = id
	if same {
		return nil
	}
	return b.gym.Reinstate(&store.SessionPlan{}, id, map[string]any{"archived_at": archived(v.Archived)})
}

// give gives a drill to somebody on a bag, all three as they have become here.
func (b *bringer) give(v document.Given, i int) error {
	drillID, person, bag := b.ids[v.Drill], b.ids[v.Person], b.ids[v.Bag]
	who, err := b.gym.Trainee(person)
	if err != nil {
		return err
	}
	what, err := b.gym.Drill(drillID)
	if err != nil {
		return err
	}
	name := who.Name + ": " + what.Name
	rows, err := b.gym.Holders(drillID)
	if err != nil {
		return err
	}
	at := slices.IndexFunc(rows, func(a store.Assignment) bool { return a.TraineeID == person && a.RigID == bag })
	if at < 0 {
		a := store.Assignment{DrillID: drillID, TraineeID: person, RigID: bag, Eased: v.Eased, Own: v.Own,
			GivenBy: b.by}
		SetTo(&a, v.Settings)
		if err := b.gym.AddAssignment(&a); err != nil {
			return input.Under(fmt.Sprintf("gym.given[%d]", i), err)
		}
		b.tell("given", name, Added, "", a.ID)
		return b.gym.Reinstate(&store.Assignment{}, a.ID, map[string]any{"created_at": v.At})
	}
	a := rows[at]
	mine := document.Given{Settings: Settings(a), Eased: a.Eased, Own: a.Own}
	detail := differingDocs(mine, document.Given{Settings: v.Settings, Eased: v.Eased, Own: v.Own})
	switch {
	case detail == "":
		b.tell("given", name, Same, "", a.ID)
		return nil
	case !b.how.Over:
		b.tell("given", name, Differs, detail, a.ID)
		return nil
	}
	SetTo(&a, v.Settings)
	a.Eased, a.Own = v.Eased, v.Own
	b.tell("given", name, Changed, detail, a.ID)
	return b.gym.ChangeAssignment(&a)
}

// DateRow is a date as it is stored.
func DateRow(id string, version int, d timetable.Date, sessionID string) (store.Date, error) {
	row := store.Date{ID: id, Version: version, Name: d.Name, At: d.At, Minutes: d.Minutes, Weekly: d.Weekly,
		Note:          d.Note,
		SessionPlanID: orNil(sessionID)}
	var err error
	if row.Day, err = time.Parse(time.DateOnly, d.Day); err != nil {
		return row, input.Refuse("day", "expected a day such as 2026-03-02, not %q", d.Day)
	}
	if d.Until != "" {
		until, err := time.Parse(time.DateOnly, d.Until)
		if err != nil {
			return row, input.Refuse("until", "expected a day such as 2026-03-02, not %q", d.Until)
		}
		row.Until = &until
	}
	if d.Skipped == nil {
		d.Skipped = []string{}
	}
	row.Skipped, err = json.Marshal(d.Skipped)
	return row, err
}

func (b *bringer) date(v document.Date) error {
	rows, err := b.gym.Dates(store.InUse)
	if err != nil {
		return err
	}
	for _, r := range rows {
		mine, err := DateDocument(r)
		if err != nil {
			return err
		}
		if r.Name != v.Name || mine.Day != v.Day || mine.At != v.At {
			continue
		}
		detail := differingDocs(mine, v.Date)
		if v.Session != "" && b.ids[v.Session] != orZero(r.SessionPlanID) {
			detail = cmp.Or(detail, "session")
		}
		switch {
		case detail == "":
			b.tell("date", v.Name, Same, "", r.ID)
			return nil
		case !b.how.Over:
			b.tell("date", v.Name, Differs, detail, r.ID)
			return nil
		}
		row, err := DateRow(r.ID, r.Version, v.Date, b.ids[v.Session])
		if err == nil {
			err = b.gym.ChangeDate(&row)
		}
		b.tell("date", v.Name, Changed, detail, r.ID)
		return err
	}
	row, err := DateRow("", 0, v.Date, b.ids[v.Session])
	if err == nil {
		err = b.gym.AddDate(&row)
	}
	b.tell("date", v.Name, Added, v.Sentence(), row.ID)
	return err
}
