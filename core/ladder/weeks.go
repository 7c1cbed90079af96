package ladder

import (
	"fmt"
	"slices"
	"time"

	"melodromos/core/input"
)

// Weeks is a plan of how somebody's training is built up: the days, and from how many rounds to how many.
type Weeks struct {
	From   time.Time // the first day
	Days   []time.Weekday
	Rounds int // of the first session
	Most   int
}

// DefaultWeeks are two sessions a week from four rounds to eight (common practice: 4 to 8 in a session).
func DefaultWeeks(from time.Time) Weeks {
	return Weeks{From: from, Days: []time.Weekday{time.Tuesday, time.Thursday}, Rounds: 4, Most: 8}
}

// MostAtFirst and MostRounds are as many rounds as a session may be planned with, in the first week and at all.
// Assumed.
const MostAtFirst, MostRounds = 12, 15

// Check refuses days, rounds or weeks outside their limits, or more rounds to begin with than to end with, naming the
// field.
func (w Weeks) Check() error {
	switch {
	case w.Rounds < 1 || w.Rounds > MostAtFirst:
		return input.Refuse("rounds", "expected 1 to %d rounds to begin with, not %d", MostAtFirst, w.Rounds)
	case w.Most > MostRounds:
		return input.Refuse("most", "expected at most %d rounds, not %d", MostRounds, w.Most)
	case w.Most < w.Rounds:
		return input.Refuse("most", "expected at least the %d rounds that are begun with", w.Rounds)
	case len(w.Days) == 0:
		return input.Refuse("days", "expected a day of the week")
	case slices.ContainsFunc(w.Days, func(d time.Weekday) bool { return d < time.Sunday || d > time.Saturday }):
		return input.Refuse("days", "expected days from 0, Sunday, to 6, Saturday")
	}
	return nil
}

// TrainingDay is one day of the plan.
type TrainingDay struct {
	Day      time.Time
	Week     int // from 1
	Rounds   int
	Emphasis []string // one named for each round
	Light    bool
	Why      string
}

// How the rounds build up. Weeks, not days, and one round at a time are common practice; every fourth week light, and
// how much an absence takes back, are assumed.
const (
	lightEvery = 4
	lightShare = 2 // a light week has one round in so many
	leastLight = 2
)

// Plan lists the sessions of so many weeks. A round is added each week in which somebody came; a week without anybody
// takes one back; each fourth week is light. came are the days of sessions that took place; weeks from now's on count
// as come to.
func (w Weeks) Plan(weeks int, came []time.Time, now time.Time) []TrainingDay {
	rounds := w.Rounds
	var list []TrainingDay
	for week := range weeks {
		monday := mondayOf(w.From).AddDate(0, 0, 7*week)
		light := (week+1)%lightEvery == 0
		n, why := rounds, fmt.Sprintf("%d rounds", rounds)
		if light {
			n = max(leastLight, (rounds+1)/lightShare)
			why = fmt.Sprintf("a light week: %d of %d rounds", n, rounds)
		}
		for _, d := range w.Days {
			day := monday.AddDate(0, 0, (int(d)+6)%7)
			if day.Before(dayOf(w.From)) {
				continue
			}
			list = append(list, TrainingDay{Day: day, Week: week + 1, Rounds: n, Emphasis: Emphasis(n), Light: light,
				Why: why})
		}
		next := monday.AddDate(0, 0, 7)
		attended := !next.Before(now) || slices.ContainsFunc(came,
			func(t time.Time) bool { return !t.Before(monday) && t.Before(next) })
		switch {
		case light:
		case attended:
			rounds = min(w.Most, rounds+1)
		default:
			rounds = max(w.Rounds, rounds-1)
		}
	}
	return list
}

// Emphasis names one thing for each round of a session: an easy flow first, what is new in the middle, conditioning
// last.
func Emphasis(rounds int) []string {
	switch rounds {
	case 0:
		return nil
	case 1:
		return []string{"today's rung"}
	case 2:
		return []string{"flow", "today's rung"}
	case 3:
		return []string{"flow", "today's rung", "conditioning"}
	}
	middle := []string{"today's rung", "rhythm", "today's rung, without calls", "defence", "speed", "feet and angles"}
	list := []string{"flow"}
	for i := range rounds - 2 {
		list = append(list, middle[i%len(middle)])
	}
	return append(list, "conditioning")
}

func dayOf(t time.Time) time.Time {
	return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, t.Location())
}

func mondayOf(t time.Time) time.Time {
	return dayOf(t).AddDate(0, 0, -((int(t.Weekday()) + 6) % 7))
}
