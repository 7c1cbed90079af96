package server

import (
	"crypto/rand"
	"encoding/hex"
	"errors"
	"log/slog"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"

	"melodromos/core/input"
	"melodromos/core/timetable"
	"melodromos/format/calendar"
	"melodromos/ledger"
	"melodromos/store"
)

// ClassDate is a class that is to be held.
type ClassDate struct {
	ID        string     `json:"id" readOnly:"true"`
	Version   int        `json:"version" minimum:"0" maximum:"2147483646" doc:"the one that was read, on a change"`
	SessionID string     `json:"sessionId,omitempty" format:"uuid" doc:"what is done in it"`
	Next      *time.Time `json:"next,omitempty" readOnly:"true" doc:"when it is held next"`
	Coming    string     `json:"coming,omitempty" readOnly:"true" doc:"day of the next that has not begun, which may still be left out"`
	Sentence  string     `json:"sentence" readOnly:"true" required:"false"`
	timetable.Date
}

// CalendarLinkOut is an address at which whoever knows it reads the calendar. Its secret is told once.
type CalendarLinkOut struct {
	ID     string     `json:"id" readOnly:"true"`
	Name   string     `json:"name" minLength:"1" maxLength:"120" doc:"where it is used, to tell one from the other"`
	MadeAt time.Time  `json:"madeAt,omitzero" readOnly:"true"`
	ReadAt *time.Time `json:"readAt,omitempty" readOnly:"true" doc:"when it was read last"`
	Path   string     `json:"path,omitempty" readOnly:"true" doc:"of the address; told when it is made, and never again"`
}

func (c caller) dateOut(row store.Date) (ClassDate, error) {
	d, err := ledger.DateDocument(row)
	out := ClassDate{ID: row.ID, Version: row.Version, Date: d, Sentence: d.Sentence(),
		Coming: d.Coming(c.Gym.Now(), ledger.Zone(c.Row))}
	if row.SessionPlanID != nil {
		out.SessionID = *row.SessionPlanID
	}
	now := c.Gym.Now()
	// one that goes on now counts as next
	from := now.Add(-time.Duration(d.Minutes) * time.Minute)
	if held := d.Between(from, now.Add(timetable.Ahead), ledger.Zone(c.Row)); len(held) > 0 {
		out.Next = &held[0].From
	}
	return out, err
}

// nextClass returns the next class of the calendar within a week; nil where there is none.
func (c caller) nextClass() (*ClassDate, error) {
	rows, err := c.Gym.Dates(store.InUse)
	var first *ClassDate
	list, err := readable(c, rows, err, c.dateOut)
	for _, d := range list {
		soon := d.Next != nil && d.Next.Before(c.Gym.Now().Add(7*24*time.Hour))
		if soon && (first == nil || d.Next.Before(*first.Next)) {
			first = &d
		}
	}
	return first, err
}

func (d ClassDate) row(id string) (store.Date, error) {
	name, err := input.Name("name", d.Name)
	if err != nil {
		return store.Date{}, err
	}
	if d.Name = name; d.Date.Skipped == nil {
		d.Date.Skipped = []string{}
	}
	if err := d.Check(); err != nil {
		return store.Date{}, err
	}
	return ledger.DateRow(id, d.Version, d.Date, d.SessionID)
}

func (c caller) changeDate(id string, in ClassDate) (ClassDate, error) {
	row, err := in.row(id)
	if err == nil {
		err = ledger.WasRead(in.Version)
	}
	if err == nil {
		err = c.Gym.ChangeDate(&row)
	}
	if err != nil {
		return ClassDate{}, err
	}
	return c.dateOut(row)
}

func (c caller) addLink(in CalendarLinkOut) (CalendarLinkOut, error) {
	name, err := input.Name("name", in.Name)
	if err != nil {
		return CalendarLinkOut{}, err
	}
	secret := rand.Text()
	l := store.CalendarLink{Name: name, Hash: hex.EncodeToString(hashed(secret)), MadeBy: &c.Coach.ID}
	if err := c.Gym.AddCalendarLink(&l); err != nil {
		return CalendarLinkOut{}, err
	}
	out := linkOut(l)
	out.Path = calendarPath + secret + ".ics"
	return out, nil
}

func linkOut(l store.CalendarLink) CalendarLinkOut {
	return CalendarLinkOut{ID: l.ID, Name: l.Name, MadeAt: l.CreatedAt, ReadAt: l.ReadAt}
}

func (s *Server) registerTimetable(api huma.API) {
	get(api, "/api/dates", func(c caller, _ *nothing) ([]ClassDate, error) {
		rows, err := c.Gym.Dates(store.InUse)
		return readable(c, rows, err, c.dateOut)
	})
	post(api, "/api/dates", func(c caller, in *Making[ClassDate]) (ClassDate, error) {
		return made(in.Key, func() (ClassDate, error) {
			row, err := in.Body.row(in.Key)
			if err == nil {
				err = c.Gym.AddDate(&row)
			}
			if err != nil {
				return ClassDate{}, err
			}
			return c.dateOut(row)
		}, func() (ClassDate, error) {
			in.Body.Version = asMade
			return c.changeDate(in.Key, in.Body)
		})
	})
	put(api, "/api/dates/{id}", func(c caller, in *Addressed[ClassDate]) (ClassDate, error) {
		return c.changeDate(in.ID, in.Body)
	})
	command(api, http.MethodDelete, "/api/dates/{id}",
		func(c caller, in *ByID) error { return c.Gym.Archive(&store.Date{}, in.ID) })
	command(api, http.MethodPost, "/api/dates/{id}/restore",
		func(c caller, in *ByID) error { return c.Gym.BringBack(&store.Date{}, in.ID) })
	get(api, "/api/calendar-links", func(c caller, _ *nothing) ([]CalendarLinkOut, error) {
		rows, err := c.Gym.CalendarLinks()
		return eachRow(rows, err, func(l store.CalendarLink) (CalendarLinkOut, error) { return linkOut(l), nil })
	})
	post(api, "/api/calendar-links", func(c caller, in *body[CalendarLinkOut]) (CalendarLinkOut, error) {
		return c.addLink(in.Body)
	})
	command(api, http.MethodDelete, "/api/calendar-links/{id}",
		func(c caller, in *ByID) error { return c.Gym.RevokeCalendarLink(in.ID) })
}

const calendarPath = "/calendar/"

// serveCalendar answers whoever knows an address: no sign-in, and nothing but the timetable. One that was revoked is
// gone, and one that never was is not found.
func (s *Server) serveCalendar(c *gin.Context) {
	secret, ok := strings.CutSuffix(c.Param("secret"), ".ics")
	ctx := c.Request.Context()
	var link store.CalendarLink
	err := store.ErrNotFound
	if ok && len(secret) >= 20 && len(secret) <= 64 {
		link, err = s.store.CalendarLink(ctx, hex.EncodeToString(hashed(secret)))
	}
	switch {
	case errors.Is(err, store.ErrNotFound):
		problem(c.Writer, http.StatusNotFound, "There is no such address.")
		return
	case err == nil && link.RevokedAt != nil:
		problem(c.Writer, http.StatusGone, "This address was revoked by the gym. Ask there for a new one.")
		return
	}
	var t calendar.Calendar
	if err == nil {
		t, err = ledger.ReadByLink(s.store.Gym(ctx, link.GymID), link.ID)
	}
	if err != nil {
		slog.Error("calendar", "error", err)
		c.Header("Retry-After", retryAfter)
		problem(c.Writer, http.StatusServiceUnavailable, noDatabase)
		return
	}
	c.Header("Content-Type", asCalendar.media)
	c.Header("Cache-Control", "private, max-age=900")
	c.Status(http.StatusOK)
	if err := calendar.Write(c.Writer, t); err != nil {
		slog.Error("calendar", "error", err)
	}
}
