package ledger

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"time"

	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/session"
	"melodromos/core/timetable"
	"melodromos/core/trainee"
	"melodromos/core/words"
	"melodromos/format/document"
	"melodromos/store"
)

// BagDocument is a stored bag as a document.
func BagDocument(r store.Rig) (document.Bag, error) {
	bag, place, err := Rig(r)
	at := r.MeasuredAt.UTC()
	return document.Bag{Name: r.Name, Doc: rig.Doc{Rig: bag}, Place: rig.PlaceDoc{Place: place}, MeasuredAt: &at,
		Archived: r.ArchivedAt != nil}, err
}

// DrillDocument is a stored drill as a document.
func DrillDocument(d store.Drill) (document.Drill, error) {
	plan, err := Plan(d)
	return document.Drill{Name: d.Name, Kind: rig.Kind(d.Kind), Rung: d.Rung, Doc: drill.Doc{Plan: plan},
		Archived: d.ArchivedAt != nil}, err
}

// SessionDocument is a stored session as a document.
func SessionDocument(p store.SessionPlan) (session.Session, error) {
	s, err := session.Read(p.Doc)
	s.Name = p.Name
	return s, unreadable(store.SessionRow, p.ID, p.Name, err)
}

// DateDocument is a stored date as a document, without its session.
func DateDocument(d store.Date) (timetable.Date, error) {
	out := timetable.Date{Name: d.Name, Day: d.Day.Format(time.DateOnly), At: d.At, Minutes: d.Minutes,
		Weekly: d.Weekly, Note: d.Note, Skipped: []string{}}
	if d.Until != nil {
		out.Until = d.Until.Format(time.DateOnly)
	}
	var err error
	out.Skipped, err = timetable.ReadSkipped(d.Skipped)
	return out, unreadable(store.DateRow, d.ID, d.Name, err)
}

// held is a part of a gym's document with the id of its row.
type held[T any] struct {
	id  string
	doc T
}

// Document is a bag, a drill or a session of the gym as a document, with its name.
func Document(gym *store.Gym, holds document.Kind, id string) (f document.File, name string, err error) {
	f.Holds = holds
	switch holds {
	case document.OfBag:
		row, err := gym.Rig(id)
		if err != nil {
			return f, "", err
		}
		bag, err := BagDocument(row)
		f.Bag = &bag
		return f, row.Name, err
	case document.OfDrill:
		row, err := gym.Drill(id)
		if err != nil {
			return f, "", err
		}
		d, err := DrillDocument(row)
		f.Drill = &d
		return f, row.Name, err
	case document.OfSession:
		row, err := gym.SessionPlan(id)
		if err != nil {
			return f, "", err
		}
		plan, err := SessionDocument(row)
		f.Session = &plan
		return f, row.Name, err
	}
	return f, "", fmt.Errorf("no document of one %s", holds)
}

// WriteDocument writes one, with the moment of writing.
func WriteDocument(out io.Writer, f document.File) error {
	f.Written = time.Now().UTC().Truncate(time.Second)
	return document.Write(out, f)
}

// GymDocument gathers all that a gym has put in but for its log, each list in an order that does not depend on when it
// was put in, with keys by that order. It also tells which row has which key.
func GymDocument(gym *store.Gym, row store.GymRow) (document.Gym, map[string]string, error) {
	g := document.Gym{Settings: SettingsDocument(row)}
	keys := map[string]string{} // of ids
	bags, e1 := gathered(gym, gym.Rigs, func(r store.Rig) (string, document.Bag, error) {
		b, err := BagDocument(r)
		return r.ID, b, err
	})
	people, e2 := gathered(gym, gym.Trainees, func(t store.Trainee) (string, document.Person, error) {
		p, err := personDocument(gym, t)
		return t.ID, p, err
	})
	drills, e3 := gathered(gym, gym.Drills, func(d store.Drill) (string, document.Drill, error) {
		out, err := DrillDocument(d)
		return d.ID, out, err
	})
	sessions, e4 := gathered(gym, gym.SessionPlans, func(p store.SessionPlan) (string, document.Session, error) {
		s, err := SessionDocument(p)
		return p.ID, document.Session{Session: s, Archived: p.ArchivedAt != nil}, err
	})
	if err := errors.Join(e1, e2, e3, e4); err != nil {
		return g, nil, err
	}
	g.Bags = keyed(bags, keys, "bag", func(b *document.Bag) *string { return &b.Key })
	g.People = keyed(people, keys, "person", func(p *document.Person) *string { return &p.Key })
	g.Drills = keyed(drills, keys, "drill", func(d *document.Drill) *string { return &d.Key })
	g.Sessions = keyed(sessions, keys, "session", func(s *document.Session) *string { return &s.Key })
	given, err := gym.Assignments("")
	if err != nil {
		return g, nil, err
	}
	g.Given = []document.Given{}
	for _, a := range given {
		if keys[a.DrillID] == "" || keys[a.RigID] == "" {
			continue // what cannot be read
		}
		g.Given = append(g.Given, document.Given{Drill: keys[a.DrillID], Person: keys[a.TraineeID], Bag: keys[a.RigID],
			Settings: a.Settings(), Eased: a.Eased, Own: a.Own, At: a.CreatedAt.UTC()})
	}
	slices.SortStableFunc(g.Given, func(a, b document.Given) int {
		return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.Person, b.Person), cmp.Compare(a.Bag, b.Bag),
			cmp.Compare(a.Drill, b.Drill))
	})
	dates, err := gathered(gym, func(shelf store.Shelf) ([]store.Date, error) {
		if shelf == store.Archived { // a date that was taken away is gone
			return nil, nil
		}
		return gym.Dates(shelf)
	}, func(d store.Date) (string, document.Date, error) {
		out, err := DateDocument(d)
		return d.ID, document.Date{Date: out, Session: keys[orZero(d.SessionPlanID)]}, err
	})
	g.Dates = keyed(dates, keys, "", nil)
	return g, keys, err
}

// gathered lists the documents of all rows of a kind, archived ones too, by what stands in them. What cannot be read is
// left out.
func gathered[R, D any](gym *store.Gym, rows func(store.Shelf) ([]R, error),
	to func(R) (string, D, error)) ([]held[D], error) {
	var list []held[D]
	by := map[string]string{}
	for _, shelf := range []store.Shelf{store.InUse, store.Archived} {
		found, err := rows(shelf)
		if err != nil {
			return nil, err
		}
		for _, r := range found {
			id, doc, err := to(r)
			if left, err := Left(gym, err); left {
				continue
			} else if err != nil {
				return nil, err
			}
			text, err := json.Marshal(doc)
			if err != nil {
				return nil, err
			}
			by[id] = string(text)
			list = append(list, held[D]{id, doc})
		}
	}
	slices.SortStableFunc(list, func(a, b held[D]) int { return cmp.Compare(by[a.id], by[b.id]) })
	return list, nil
}

func keyed[D any](list []held[D], keys map[string]string, what string, at func(*D) *string) []D {
	out := make([]D, len(list))
	for i, h := range list {
		out[i] = h.doc
		if at != nil {
			key := fmt.Sprintf("%s%d", what, i+1)
			*at(&out[i]), keys[h.id] = key, key
		}
	}
	return out
}

// SettingsDocument are a gym's settings as a document.
func SettingsDocument(row store.GymRow) document.Settings {
	return document.Settings{Name: row.Name, Zone: row.Zone, Units: words.Units(row.Units),
		Borders: rig.Borders{Slack: row.BorderSlack, Head: row.BorderHead, Tight: row.BorderTight}, Kicks: row.Kicks,
		Punches: combo.PunchNames(row.PunchNames), Slips: combo.SlipNames(row.SlipNames), Gate: Gate(row),
		GetReady: row.GetReady}
}

func personDocument(gym *store.Gym, t store.Trainee) (document.Person, error) {
	p := document.Person{Name: t.Name, Stance: combo.Stance(t.Stance), Band: trainee.Band(t.Band),
		AgeBand: trainee.AgeBand(t.AgeBand), Height: t.Height, Reach: t.Reach, Eye: t.Eye, Mouth: t.Mouth, Chin: t.Chin,
		Notes: t.Notes, Goals: t.Goals, Dominant: combo.Side(t.Dominant), Weak: combo.Hand(t.Weak),
		Sport: trainee.Sport(t.Sport), School: ladder.School(t.School), Archived: t.ArchivedAt != nil,
		Evidence: []document.Evidence{}, Cautions: []document.Caution{}, Decisions: []document.Decision{}}
	if t.WeeksFrom != nil {
		p.Weeks = &document.Weeks{From: t.WeeksFrom.Format(time.DateOnly), Days: append([]int{}, t.WeeksDays...),
			Rounds: t.WeeksRounds, Most: t.WeeksMost}
	}
	evidence, e1 := gym.Evidence(t.ID)
	cautions, e2 := gym.Cautions(t.ID)
	decisions, e3 := gym.Decisions(t.ID)
	for _, e := range evidence {
		p.Evidence = append(p.Evidence, document.Evidence{Figure: trainee.Figure(e.Figure),
			Bag: rig.Kind(orZero(e.BagKind)), Value: e.Value, Spread: e.Spread, Origin: trainee.Origin(e.Origin),
			Bound: e.Bound, Note: e.Note, At: e.FoundAt.UTC()})
	}
	for _, c := range cautions {
		out := document.Caution{Kind: caution.Type(c.Kind), Note: c.Note, SetBy: c.SetBy, At: c.CreatedAt.UTC(),
			LiftedBy: c.LiftedBy}
		if c.LiftedAt != nil {
			at := c.LiftedAt.UTC()
			out.LiftedAt = &at
		}
		p.Cautions = append(p.Cautions, out)
	}
	for _, d := range decisions {
		p.Decisions = append(p.Decisions, document.Decision{Bag: rig.Kind(d.BagKind), Rung: d.Rung,
			Choice: ladder.Choice(d.Choice), Reason: d.Reason, Coach: d.Coach, At: d.CreatedAt.UTC()})
	}
	slices.SortStableFunc(p.Evidence, func(a, b document.Evidence) int {
		return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.Figure, b.Figure), cmp.Compare(a.Bag, b.Bag),
			cmp.Compare(a.Value, b.Value))
	})
	slices.SortStableFunc(p.Cautions, func(a, b document.Caution) int {
		return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.Kind, b.Kind))
	})
	slices.SortStableFunc(p.Decisions, func(a, b document.Decision) int {
		return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.Rung, b.Rung), cmp.Compare(a.Choice, b.Choice))
	})
	return p, errors.Join(e1, e2, e3)
}
