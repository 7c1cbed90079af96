// Package calendar writes when classes are held as an iCalendar file (RFC 5545). Classes to come stand at the times of
// the gym's own clock, with the rules of its time zone in the file; those that were held at their moments in UTC. No
// person is named.
package calendar

import (
	"cmp"
	"fmt"
	"io"
	"slices"
	"time"

	ics "github.com/arran4/golang-ical"

	"melodromos/core/timetable"
)

// Calendar is the contents of a file.
type Calendar struct {
	Name  string
	Zone  *time.Location
	Dates []Date
	Held  []Held
	Now   time.Time // of writing
}

// Date is a class that is to be held.
type Date struct {
	UID     string // for good
	Version int    // how often it was changed, from 1
	timetable.Date
	Session string // what is done in it, "" where nobody said
}

// Held is a class that was held.
type Held struct {
	UID  string
	Name string
	Text string
	timetable.Held
}

const (
	product = "-//Melodromos//Timetable//EN"
	local   = "20060102T150405"
	utc     = "20060102T150405Z"
	// ahead is for how many years the changes of the clocks are told: longer than any subscription goes unread.
	ahead = 10
)

// Write writes it.
func Write(out io.Writer, c Calendar) error {
	cal := ics.NewCalendarFor(product)
	cal.SetProductId(product)
	cal.SetMethod(ics.MethodPublish)
	cal.SetXWRCalName(c.Name)
	cal.SetXWRTimezone(c.Zone.String())
	cal.SetXPublishedTTL("PT1H")
	dates := slices.SortedFunc(slices.Values(c.Dates), func(a, b Date) int {
		return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.At, b.At), cmp.Compare(a.UID, b.UID))
	})
	if len(dates) > 0 && c.Zone != time.UTC {
		c.zone(cal, dates[0].Starts(c.Zone))
	}
	for _, d := range dates {
		c.date(cal, d)
	}
	for _, h := range c.Held {
		e := c.event(cal, h.UID, h.Name, h.Text)
		e.AddProperty(ics.ComponentPropertyDtStart, h.From.UTC().Format(utc))
		e.AddProperty(ics.ComponentPropertyDtEnd, h.To.UTC().Format(utc))
	}
	return cal.SerializeTo(out, ics.WithNewLine("\r\n"))
}

func (c Calendar) event(cal *ics.Calendar, uid, name, text string) *ics.VEvent {
	e := cal.AddEvent(uid + "@melodromos")
	e.SetDtStampTime(c.Now.UTC())
	e.SetSummary(name)
	if text != "" {
		e.SetDescription(text)
	}
	return e
}

func (c Calendar) date(cal *ics.Calendar, d Date) {
	text := d.Session
	if d.Note != "" && text != "" {
		text += "\n"
	}
	e := c.event(cal, d.UID, d.Name, text+d.Note)
	e.SetSequence(max(0, d.Version-1))
	starts := d.Starts(c.Zone)
	c.at(e, ics.ComponentPropertyDtStart, starts)
	e.AddProperty(ics.ComponentPropertyDuration, fmt.Sprintf("PT%dM", d.Minutes))
	if !d.Weekly {
		return
	}
	rule := "FREQ=WEEKLY"
	if last, err := time.Parse(time.DateOnly, d.Until); err == nil {
		// the end of the last day by the gym's clock, in UTC as the rule wants it
		end := time.Date(last.Year(), last.Month(), last.Day(), 23, 59, 59, 0, c.Zone)
		rule += ";UNTIL=" + end.UTC().Format(utc)
	}
	e.AddRrule(rule)
	for _, day := range slices.Sorted(slices.Values(d.Skipped)) {
		skipped := d.Date
		skipped.Day = day
		c.at(e, ics.ComponentPropertyExdate, skipped.Starts(c.Zone))
	}
}

// at adds a time by the gym's clock.
func (c Calendar) at(e *ics.VEvent, property ics.ComponentProperty, t time.Time) {
	if c.Zone == time.UTC {
		e.AddProperty(property, t.UTC().Format(utc))
		return
	}
	e.AddProperty(property, t.Format(local), ics.WithTZID(c.Zone.String()))
}

// turn is a change of the clocks.
type turn struct {
	name     string
	from, to int // s ahead of UTC
	summer   bool
}

// zone tells when the clocks change, from before a moment on.
func (c Calendar) zone(cal *ics.Calendar, first time.Time) {
	z := cal.AddTimezone(c.Zone.String())
	onsets := map[turn][]time.Time{}
	var order []turn
	at, end := first.AddDate(-1, 0, 0).In(c.Zone), c.Now.AddDate(ahead, 0, 0)
	add := func(t turn, onset time.Time) {
		if len(onsets[t]) == 0 {
			order = append(order, t)
		}
		onsets[t] = append(onsets[t], onset)
	}
	name, now := at.Zone()
	begins, ends := at.ZoneBounds()
	if begins.IsZero() { // it has always been so
		begins = at
	}
	add(turn{name, now, now, at.IsDST()}, begins)
	for !ends.IsZero() && ends.Before(end) {
		next := ends.In(c.Zone)
		name, to := next.Zone()
		add(turn{name, now, to, next.IsDST()}, ends)
		now = to
		_, ends = next.ZoneBounds()
	}
	for _, t := range order {
		sub := ics.ComponentBase{}
		// onsets are told by the clock as it stood until then
		before := time.FixedZone("", t.from)
		sub.AddProperty(ics.ComponentPropertyDtStart, onsets[t][0].In(before).Format(local))
		sub.AddProperty("TZOFFSETFROM", offset(t.from))
		sub.AddProperty("TZOFFSETTO", offset(t.to))
		sub.AddProperty("TZNAME", t.name)
		for _, onset := range onsets[t][1:] {
			sub.AddRdate(onset.In(before).Format(local))
		}
		if t.summer {
			z.Components = append(z.Components, &ics.Daylight{ComponentBase: sub})
		} else {
			z.Components = append(z.Components, &ics.Standard{ComponentBase: sub})
		}
	}
}

func offset(seconds int) string {
	sign := '+'
	if seconds < 0 {
		sign, seconds = '-', -seconds
	}
	text := fmt.Sprintf("%c%02d%02d", sign, seconds/3600, seconds/60%60)
	if s := seconds % 60; s > 0 {
		text += fmt.Sprintf("%02d", s)
	}
	return text
}
