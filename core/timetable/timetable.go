// Package timetable says when classes are held: days and times of a gym's own clock, of which some come back every
// week.
package timetable

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"melodromos/core/input"
	"melodromos/core/words"
)

// Clock is the layout of a time of day, as of package time.
const Clock = "15:04"

// Date is a class that is to be held, once or every week on the same day.
type Date struct {
	Name    string   `json:"name" minLength:"1" maxLength:"120"`
	Day     string   `json:"day" format:"date" doc:"the first, or the only one"`
	At      string   `json:"at" pattern:"^[0-2][0-9]:[0-5][0-9]$" doc:"by the gym's clock, such as 18:30"`
	Minutes int      `json:"minutes" minimum:"5" maximum:"600"`
	Weekly  bool     `json:"weekly" doc:"it comes back on the same day of every week"`
	Until   string   `json:"until,omitempty" format:"date" doc:"the last day of a weekly one; empty for no end"`
	Skipped []string `json:"skipped" maxItems:"400" nullable:"false" doc:"days of a weekly one on which it is not held"`
	Note    string   `json:"note" maxLength:"400"`
}

// Limits of a date.
const (
	leastMinutes, mostMinutes = 5, 600
	mostSkipped               = 400
	mostNote                  = 400
)

// Check refuses a date that cannot be, by field.
func (d Date) Check() error {
	if _, err := input.Name("name", d.Name); err != nil {
		return err
	}
	first, err := day("day", d.Day)
	if err != nil {
		return err
	}
	if _, err := time.Parse(Clock, d.At); err != nil {
		return input.Refuse("at", "expected a time of day such as 18:30, not %q", d.At)
	}
	switch {
	case d.Minutes < leastMinutes || d.Minutes > mostMinutes:
		return input.Refuse("minutes", "expected %d to %d minutes, not %d", leastMinutes, mostMinutes, d.Minutes)
	case d.Until != "" && !d.Weekly:
		return input.Refuse("until", "expected no last day of a class that is held once")
	case len(d.Skipped) > 0 && !d.Weekly:
		return input.Refuse("skipped", "expected no days off of a class that is held once")
	case len(d.Skipped) > mostSkipped:
		return input.Refuse("skipped", "expected at most %d days", mostSkipped)
	case len([]rune(d.Note)) > mostNote:
		return input.Refuse("note", "expected at most %d characters", mostNote)
	}
	if d.Until != "" {
		last, err := day("until", d.Until)
		if err != nil {
			return err
		}
		if last.Before(first) {
			return input.Refuse("until", "expected a day after the first, %s", d.Day)
		}
	}
	for i, text := range d.Skipped {
		if _, err := day(fmt.Sprintf("skipped[%d]", i), text); err != nil {
			return err
		}
	}
	return nil
}

// ReadSkipped reads the list of days on which a weekly class is not held.
func ReadSkipped(doc []byte) ([]string, error) {
	list := []string{}
	if err := json.Unmarshal(doc, &list); err != nil || list == nil {
		return nil, input.Refuse("skipped", "expected a list of days")
	}
	for i, text := range list {
		if _, err := day(fmt.Sprintf("skipped[%d]", i), text); err != nil {
			return nil, err
		}
	}
	return list, nil
}

func day(field, text string) (time.Time, error) {
	t, err := time.Parse(time.DateOnly, text)
	if err != nil || t.Year() < 1970 || t.Year() > 2200 {
		return t, input.Refuse(field, "expected a day such as 2026-03-02, not %q", text)
	}
	return t, nil
}

// Zone is the clock of a name such as Europe/Lisbon; any other name is refused.
func Zone(field, name string) (*time.Location, error) {
	zone, err := time.LoadLocation(name)
	if err != nil || name == "" || name == "Local" {
		return nil, input.Refuse(field, "expected a name such as Europe/Lisbon, not %q", name)
	}
	return zone, nil
}

// Held is one time that a class is held.
type Held struct {
	From, To time.Time
}

// Starts returns the time of the first class, by the gym's clock; a time that a change of the clocks leaves out is
// taken as that much later.
func (d Date) Starts(zone *time.Location) time.Time { return d.on(d.Day, zone) }

func (d Date) on(text string, zone *time.Location) time.Time {
	t, err := time.Parse(time.DateOnly, text)
	at, err2 := time.Parse(Clock, d.At)
	if err != nil || err2 != nil {
		return time.Time{}
	}
	return time.Date(t.Year(), t.Month(), t.Day(), at.Hour(), at.Minute(), 0, 0, zone)
}

// Between lists when it is held from a moment on and before another, at the same time of day whatever the clocks do.
func (d Date) Between(from, to time.Time, zone *time.Location) []Held {
	var list []Held
	first, err := time.Parse(time.DateOnly, d.Day)
	if err != nil {
		return nil
	}
	if d.Weekly { // weeks that are over are not counted through
		if weeks := int(from.Sub(first).Hours()/24/7) - 1; weeks > 0 {
			first = first.AddDate(0, 0, 7*weeks)
		}
	}
	for t := first; ; t = t.AddDate(0, 0, 7) {
		text := t.Format(time.DateOnly)
		at := d.on(text, zone)
		if !at.Before(to) || d.Until != "" && text > d.Until {
			return list
		}
		if !at.Before(from) && !slices.Contains(d.Skipped, text) {
			list = append(list, Held{at, at.Add(time.Duration(d.Minutes) * time.Minute)})
		}
		if !d.Weekly {
			return list
		}
	}
}

// Ahead is the time within which the next class is looked for.
const Ahead = 400 * 24 * time.Hour

// Coming is the day of the first time that has not begun by then, by the clock of the zone; "" where none comes.
func (d Date) Coming(now time.Time, zone *time.Location) string {
	for _, h := range d.Between(now, now.Add(Ahead), zone) {
		if h.From.After(now) {
			return h.From.In(zone).Format(time.DateOnly)
		}
	}
	return ""
}

// Sentence says when it is held: "Tuesdays at 18:30, 60 minutes, until 15 December 2026".
func (d Date) Sentence() string {
	t, err := time.Parse(time.DateOnly, d.Day)
	if err != nil {
		return ""
	}
	if !d.Weekly {
		return fmt.Sprintf("%s at %s, %d minutes", t.Format("Monday 2 January 2006"), d.At, d.Minutes)
	}
	parts := []string{fmt.Sprintf("%ss at %s", t.Weekday(), d.At), fmt.Sprintf("%d minutes", d.Minutes)}
	if until, err := time.Parse(time.DateOnly, d.Until); err == nil {
		parts = append(parts, "until "+until.Format("2 January 2006"))
	}
	if n := len(d.Skipped); n > 0 {
		parts = append(parts, words.Count(n, "date")+" skipped")
	}
	return strings.Join(parts, ", ")
}
