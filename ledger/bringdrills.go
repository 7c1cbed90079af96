package ledger

import (
	"encoding/json"
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
	return b.gym.Reinstate(&store.Drill{}, id, map[string]any{"archived_at": b.archived(v.Archived)})
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
	return b.gym.Reinstate(&store.SessionPlan{}, id, map[string]any{"archived_at": b.archived(v.Archived)})
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
