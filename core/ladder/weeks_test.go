package ladder

import (
	"testing"
	"time"
)

func TestWeeks(t *testing.T) {
	monday := time.Date(2026, 3, 2, 0, 0, 0, 0, time.UTC)
	w := DefaultWeeks(monday)
	day := func(week, n int) time.Time { return monday.AddDate(0, 0, 7*week+n) }
	all := w.Plan(12, nil, monday)
	if len(all) != 24 || all[0].Day.Weekday() != time.Tuesday || all[0].Rounds != 4 {
		t.Fatalf("%d sessions, %+v", len(all), all[0])
	}
	// 4, 5, 6, light, 7, 8, 8, light …
	for week, want := range []int{4, 5, 6, 4, 7, 8, 8, 4, 8} {
		if got := all[2*week]; got.Rounds != want || got.Light != (week%4 == 3) || len(got.Emphasis) != want {
			t.Errorf("week %d: %+v, want %d rounds", week+1, got, want)
		}
	}
	// Nobody came in the second week: the third has one less than the second, and no fewer than at first.
	missed := w.Plan(4, []time.Time{day(0, 1), day(2, 1)}, day(3, 0))
	if missed[2].Rounds != 5 || missed[4].Rounds != 4 {
		t.Errorf("%+v", missed)
	}
	for n := 1; n <= 10; n++ {
		list := Emphasis(n)
		if len(list) != n || n > 2 && (list[0] != "flow" || list[n-1] != "conditioning") {
			t.Errorf("%d rounds: %q", n, list)
		}
	}
	// The first week begins on the day somebody comes.
	late := Weeks{From: monday.AddDate(0, 0, 2), Days: w.Days, Rounds: 4, Most: 8}.Plan(1, nil, monday)
	if len(late) != 1 || late[0].Day.Weekday() != time.Thursday {
		t.Errorf("%+v", late)
	}
}
