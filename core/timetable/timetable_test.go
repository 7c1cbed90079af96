package timetable

import (
	"errors"
	"fmt"
	"testing"
	"time"

	"melodromos/core/input"
)

func evening() Date {
	return Date{Name: "Evening class", Day: "2026-10-13", At: "18:30", Minutes: 60, Weekly: true, Skipped: []string{}}
}

// A class at half past six is at half past six on either side of a change of the clocks: in Lisbon they go back on 25
// October 2026 (the last Sunday of October, Directive 2000/84/EC), from an hour ahead of UTC to none.
func TestClocksGoBack(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Lisbon")
	if err != nil {
		t.Fatal(err)
	}
	d := evening()
	d.Skipped = []string{"2026-11-03"}
	d.Until = "2026-11-17"
	var got []string
	for _, h := range d.Between(time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC), time.Date(2027, 1, 1, 0, 0, 0, 0,
		time.UTC),
		zone) {
		got = append(got, h.From.UTC().Format("01-02 15:04"))
	}
	want := "[10-13 17:30 10-20 17:30 10-27 18:30 11-10 18:30 11-17 18:30]"
	if fmt.Sprint(got) != want {
		t.Errorf("%v, %s expected", got, want)
	}
}

// Years later the weeks are still the same, and each is told once.
func TestYearsLater(t *testing.T) {
	d := evening()
	from := time.Date(2041, 3, 1, 0, 0, 0, 0, time.UTC)
	got := d.Between(from, from.AddDate(0, 0, 28), time.UTC)
	if len(got) != 4 || got[0].From.Weekday() != time.Tuesday || got[0].From.Before(from) {
		t.Errorf("%v", got)
	}
	once := evening()
	once.Weekly = false
	if n := len(once.Between(from.AddDate(-20, 0, 0), from, time.UTC)); n != 1 {
		t.Errorf("once comes %d times", n)
	}
}

// One that goes on just now is not the next to come, and one that is left out is not either.
func TestComing(t *testing.T) {
	zone, err := time.LoadLocation("Pacific/Auckland") // a day ahead of UTC in the evening
	if err != nil {
		t.Fatal(err)
	}
	d := evening()
	begins := time.Date(2026, 10, 20, 18, 30, 0, 0, zone)
	for name, c := range map[string]struct {
		now     time.Time
		skipped []string
		want    string
	}{
		"before":   {begins.Add(-time.Minute), nil, "2026-10-20"},
		"going on": {begins.Add(time.Minute), nil, "2026-10-27"},
		"left out": {begins.Add(-time.Minute), []string{"2026-10-20", "2026-10-27"}, "2026-11-03"},
	} {
		d.Skipped = c.skipped
		if got := d.Coming(c.now, zone); got != c.want {
			t.Errorf("%s: %q, want %q", name, got, c.want)
		}
	}
	d.Until = "2026-10-20"
	if got := d.Coming(begins.Add(time.Minute), zone); got != "" {
		t.Errorf("after the last: %q", got)
	}
}

func TestCheck(t *testing.T) {
	for field, change := range map[string]func(*Date){
		"name":       func(d *Date) { d.Name = " " },
		"day":        func(d *Date) { d.Day = "13.10.2026" },
		"at":         func(d *Date) { d.At = "25:00" },
		"minutes":    func(d *Date) { d.Minutes = 0 },
		"until":      func(d *Date) { d.Until = "2026-10-12" },
		"skipped[0]": func(d *Date) { d.Skipped = []string{"never"} },
		"skipped":    func(d *Date) { d.Weekly, d.Skipped = false, []string{"2026-10-20"} },
	} {
		d := evening()
		change(&d)
		var refused *input.Error
		if !errors.As(d.Check(), &refused) || refused.Field != field {
			t.Errorf("%s: %v", field, d.Check())
		}
	}
	if err := evening().Check(); err != nil {
		t.Error(err)
	}
}

func ExampleDate_Sentence() {
	d := evening()
	d.Until = "2026-12-15"
	fmt.Println(d.Sentence())
	// Output: Tuesdays at 18:30, 60 minutes, until 15 December 2026
}

func BenchmarkBetween(b *testing.B) {
	d := evening()
	from := time.Date(2030, 1, 1, 0, 0, 0, 0, time.UTC)
	for b.Loop() {
		d.Between(from, from.AddDate(1, 0, 0), time.UTC)
	}
}
