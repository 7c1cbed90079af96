package ledger

import (
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
	mine := document.Given{Settings: a.Settings(), Eased: a.Eased, Own: a.Own}
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
