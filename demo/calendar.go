package demo

import (
	"fmt"
	"time"

	"melodromos/core/timetable"
	"melodromos/ledger"
	"melodromos/store"
)

// classes lists the weekly classes of the hall, by the days from the one that the demo is made on.
var classes = []struct {
	on int
	timetable.Date
}{
	{2, timetable.Date{Name: "Evening class", At: "18:30", Minutes: 60,
		Note: "Wraps and gloves; skipping ropes are there."}},
	{4, timetable.Date{Name: "Harbour youth, ages 12 to 16", At: "10:00", Minutes: 45,
		Note: "A guardian signs at the door."}},
	{6, timetable.Date{Name: "Slow hour, fifty and over", At: "09:30", Minutes: 45}},
}

// calendar lays the weekly classes out from four weeks ago on, with one that falls away.
func calendar(g *store.Gym, now time.Time, sessionID string) error {
	zone, err := time.LoadLocation(gym.Zone)
	if err != nil {
		return err
	}
	for i, c := range classes {
		first := now.In(zone).AddDate(0, 0, c.on-28)
		d, of := c.Date, ""
		d.Day, d.Weekly, d.Skipped = first.Format(time.DateOnly), true, []string{}
		if i == 0 {
			d.Skipped, of = []string{first.AddDate(0, 0, 42).Format(time.DateOnly)}, sessionID
		}
		row, err := ledger.DateRow("", 0, d, of)
		if err != nil {
			return fmt.Errorf("%s: %w", d.Name, err)
		}
		if err := g.AddDate(&row); err != nil {
			return fmt.Errorf("%s: %w", d.Name, err)
		}
	}
	return nil
}
