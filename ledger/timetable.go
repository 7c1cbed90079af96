package ledger

import (
	"time"

	"melodromos/core/session"
	"melodromos/core/timetable"
	"melodromos/format/calendar"
	"melodromos/store"
)

// heldSince limits the age of the classes in the calendar.
const heldSince = 365 * 24 * time.Hour

// ReadByLink is a gym's calendar for whoever reads it by a link, and notes that it was read.
func ReadByLink(gym *store.Gym, linkID string) (c calendar.Calendar, err error) {
	err = gym.Together(func(in *store.Gym) error {
		row, err := in.Row()
		if err != nil {
			return err
		}
		if c, err = Timetable(in, row, in.Now()); err != nil {
			return err
		}
		return in.CalendarRead(linkID)
	})
	return c, err
}

// Timetable is a gym's calendar: the classes that are to be held, and those that were. Nobody is named in it.
func Timetable(gym *store.Gym, row store.GymRow, now time.Time) (calendar.Calendar, error) {
	c := calendar.Calendar{Name: row.Name, Zone: Zone(row), Now: now}
	dates, err := gym.Dates(store.InUse)
	if err != nil {
		return c, err
	}
	done := map[string]string{}
	for _, shelf := range []store.Shelf{store.InUse, store.Archived} {
		plans, err := gym.SessionPlans(shelf)
		if err != nil {
			return c, err
		}
		for _, p := range plans {
			s, err := SessionDocument(p)
			if left, err := Left(gym, err); left {
				continue
			} else if err != nil {
				return c, err
			}
			done[p.ID] = p.Name + ": " + s.Sentence(session.Totals{Seconds: s.Seconds()})
		}
	}
	for _, d := range dates {
		out, err := DateDocument(d)
		if left, err := Left(gym, err); left {
			continue
		} else if err != nil {
			return c, err
		}
		c.Dates = append(c.Dates, calendar.Date{UID: d.ID, Version: d.Version, Date: out,
			Session: done[orZero(d.SessionPlanID)]})
	}
	classes, err := gym.Classes()
	for _, h := range classes {
		if h.StartedAt == nil || h.EndedAt == nil || now.Sub(*h.StartedAt) > heldSince {
			continue
		}
		c.Held = append(c.Held, calendar.Held{UID: h.ID, Name: h.Name, Text: "Held",
			Held: timetable.Held{From: *h.StartedAt, To: *h.EndedAt}})
	}
	return c, err
}
