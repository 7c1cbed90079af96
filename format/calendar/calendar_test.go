package calendar

import (
	"bytes"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"melodromos/core/timetable"
	"melodromos/format/others"
)

// read holds the contents of a file as another library reads it.
type read struct {
	Name    string
	Version string
	Longest int
	Bare    bool
	Events  []struct {
		UID      string
		Name     string
		Text     string
		Minutes  float64
		Sequence int
		Held     []time.Time
	}
}

func zone(t testing.TB, name string) *time.Location {
	z, err := time.LoadLocation(name)
	if err != nil {
		t.Fatal(err)
	}
	return z
}

var now = time.Date(2026, 9, 1, 12, 0, 0, 0, time.UTC)

func evening() Date {
	return Date{UID: "evening", Version: 3, Session: "Thirds: six rounds, 45 minutes", Date: timetable.Date{
		Name: `Evening; "beginners", ages 12–16, bring wraps \ gloves`, Day: "2026-01-06", At: "18:30", Minutes: 60,
		Weekly: true, Until: "2027-01-26", Skipped: []string{"2026-12-29", "2026-08-04"},
		Note: "Second line, " + strings.Repeat("für Ásta and everybody else; ", 12)}}
}

// A weekly class as another library reads it, in towns on both sides of the equator, one whose clocks change by half an
// hour, and two whose clocks never do: at the same time of day all year, the days off left out, to the last day and no
// further. Long lines are folded at 75 bytes, and lines end with CR LF (RFC 5545, 3.1).
func TestReadByAnother(t *testing.T) {
	from, to := time.Date(2025, 1, 1, 0, 0, 0, 0, time.UTC), time.Date(2030, 1, 1, 0, 0, 0, 0, time.UTC)
	for _, name := range []string{"Europe/Lisbon", "America/New_York", "Australia/Lord_Howe", "America/Santiago",
		"Asia/Kolkata", "Africa/Abidjan", "UTC"} {
		z := zone(t, name)
		d := evening()
		var out bytes.Buffer
		if err := Write(&out, Calendar{Name: "The Ropewalk", Zone: z, Dates: []Date{d}, Now: now}); err != nil {
			t.Fatal(err)
		}
		var got read
		others.Ask(t, "ical.mjs", out.Bytes(), &got, from.Format(time.RFC3339), to.Format(time.RFC3339))
		if got.Version != "2.0" || got.Name != "The Ropewalk" || got.Longest > 75 || got.Bare || len(got.Events) != 1 {
			t.Fatalf("%s: %.300v", name, got)
		}
		e := got.Events[0]
		if e.Name != d.Name || e.Text != d.Session+"\n"+d.Note || e.Minutes != 60 || e.Sequence != 2 {
			t.Errorf("%s: %q %q %g %d", name, e.Name, e.Text, e.Minutes, e.Sequence)
		}
		var want []time.Time
		for _, h := range d.Between(from, to, z) {
			want = append(want, h.From.UTC())
		}
		if len(want) != 54 || !slices.EqualFunc(e.Held, want, time.Time.Equal) {
			t.Errorf("%s: %d times, %d expected\n%v\n%v", name, len(e.Held), len(want), e.Held, want)
		}
		for _, h := range e.Held {
			if at := h.In(z).Format(timetable.Clock); at != "18:30" {
				t.Errorf("%s: at %s on %s", name, at, h.In(z).Format(time.DateOnly))
			}
		}
	}
}

// A class that goes on for years is right in the last of them, since the file tells ten years of changes.
func TestYearsAhead(t *testing.T) {
	z := zone(t, "Europe/Lisbon")
	d := evening()
	d.Until, d.Skipped = "", nil
	var out bytes.Buffer
	if err := Write(&out, Calendar{Name: "X", Zone: z, Dates: []Date{d}, Now: now}); err != nil {
		t.Fatal(err)
	}
	var got read
	others.Ask(t, "ical.mjs", out.Bytes(), &got, "2034-06-01", "2035-01-01")
	if len(got.Events[0].Held) < 25 {
		t.Fatalf("%d times", len(got.Events[0].Held))
	}
	for _, h := range got.Events[0].Held {
		if at := h.In(z).Format(timetable.Clock); at != "18:30" {
			t.Errorf("at %s on %s", at, h.Format(time.DateOnly))
		}
	}
}

// What was held stands at its moment; a class that is held once has no rule.
func TestHeldAndOnce(t *testing.T) {
	z := zone(t, "Europe/Lisbon")
	once := evening()
	once.UID, once.Weekly, once.Until, once.Skipped, once.Day = "once", false, "", nil, "2026-10-25"
	at := time.Date(2026, 8, 30, 17, 31, 2, 0, time.UTC)
	var out bytes.Buffer
	if err := Write(&out, Calendar{Name: "X", Zone: z, Dates: []Date{once}, Now: now, Held: []Held{{"held",
		"Sunday class",
		"Four rounds", timetable.Held{From: at, To: at.Add(45 * time.Minute)}}}}); err != nil {
		t.Fatal(err)
	}
	var got read
	others.Ask(t, "ical.mjs", out.Bytes(), &got)
	if len(got.Events) != 2 || strings.Contains(out.String(), "RRULE") {
		t.Fatalf("%+v", got)
	}
	if e := got.Events[0]; !e.Held[0].Equal(time.Date(2026, 10, 25, 18, 30, 0, 0, time.UTC)) {
		t.Errorf("once: %v", e.Held) // the clocks have gone back that morning
	}
	if e := got.Events[1]; !e.Held[0].Equal(at) || e.Minutes != 45 || e.Text != "Four rounds" {
		t.Errorf("held: %+v", e)
	}
}

func BenchmarkWrite(b *testing.B) {
	z := zone(b, "Europe/Lisbon")
	for b.Loop() {
		if err := Write(new(bytes.Buffer), Calendar{Name: "X", Zone: z, Dates: []Date{evening()},
			Now: now}); err != nil {
			b.Fatal(err)
		}
	}
}

func ExampleWrite() {
	d := Date{UID: "d", Version: 1, Date: timetable.Date{Name: "Class", Day: "2026-10-13", At: "18:30", Minutes: 60}}
	var out strings.Builder
	_ = Write(&out, Calendar{Name: "Hall", Zone: time.UTC, Dates: []Date{d}, Now: now})
	for _, line := range strings.Split(out.String(), "\r\n") {
		if strings.HasPrefix(line, "DTSTART") || strings.HasPrefix(line, "DURATION") {
			_, _ = os.Stdout.WriteString(line + "\n")
		}
	}
	// Output:
	// DTSTART:20261013T183000Z
	// DURATION:PT60M
}
