package roster

import (
	"time"

	"melodromos/core/answer"
)

// PlannedDay is a day of somebody's weeks.
type PlannedDay struct {
	Day      string   `json:"day" format:"date"`
	Week     int      `json:"week"`
	Rounds   int      `json:"rounds"`
	Emphasis []string `json:"emphasis"`
	Light    bool     `json:"light"`
	Done     int      `json:"done" doc:"rounds that were run on the day"`
	Why      string   `json:"why"`
	Missed   bool     `json:"missed" doc:"it is past, and nobody came"`
	Coming   bool     `json:"coming" doc:"the first of today and the days after it"`
}

// Day is a day of the gym with whoever is planned or came.
type Day struct {
	Day    string    `json:"day" format:"date"`
	Today  bool      `json:"today"`
	People []DayMark `json:"people"`
}

// DayMark is somebody on a day.
type DayMark struct {
	TraineeID string `json:"traineeId"`
	Name      string `json:"name"`
	Rounds    int    `json:"rounds" doc:"planned; 0 where somebody came unplanned"`
	Light     bool   `json:"light"`
	Done      int    `json:"done"`
}

// What is shown of somebody's weeks, around now.
const weeksBack, weeksOn, mostWeeks = 4, 8, 520

// came counts somebody's rounds by day.
func (c Roster) came(m *Member) map[string]int {
	days := map[string]int{}
	for _, r := range m.Rounds {
		days[r.At.In(c.Zone).Format(time.DateOnly)]++
	}
	return days
}

// Weeks are somebody's planned days from four weeks ago to eight weeks on, with the rounds that were run.
func (c Roster) Weeks(m *Member) []PlannedDay {
	list := []PlannedDay{}
	if m.Weeks == nil {
		return list
	}
	now := c.Now.In(c.Zone)
	w := *m.Weeks
	w.From = time.Date(w.From.Year(), w.From.Month(), w.From.Day(), 0, 0, 0, 0, c.Zone)
	var at []time.Time
	for _, r := range m.Rounds {
		at = append(at, r.At.In(c.Zone))
	}
	weeks := int(now.AddDate(0, 0, 7*weeksOn).Sub(w.From).Hours()/(24*7)) + 1
	if weeks < 1 {
		weeks = weeksOn
	}
	done, today, coming := c.came(m), now.Format(time.DateOnly), false
	for _, s := range w.Plan(min(weeks, mostWeeks), at, now) {
		if s.Day.Before(now.AddDate(0, 0, -7*weeksBack)) || s.Day.After(now.AddDate(0, 0, 7*weeksOn)) {
			continue
		}
		day := s.Day.Format(time.DateOnly)
		p := PlannedDay{Day: day, Week: s.Week, Rounds: s.Rounds, Emphasis: answer.List(s.Emphasis), Light: s.Light,
			Done: done[day], Why: s.Why}
		p.Missed, p.Coming = day < today && p.Done == 0, !coming && day >= today
		coming = coming || p.Coming
		list = append(list, p)
	}
	return list
}

// daysShown are those of the calendar: this week and the next.
const daysShown = 14

// Calendar is this week and the next, with everybody who is planned or came.
func (c Roster) Calendar() []Day {
	now := c.Now.In(c.Zone)
	monday := now.AddDate(0, 0, -((int(now.Weekday()) + 6) % 7))
	list := make([]Day, daysShown)
	index := map[string]int{}
	for i := range list {
		day := monday.AddDate(0, 0, i).Format(time.DateOnly)
		list[i] = Day{day, day == now.Format(time.DateOnly), []DayMark{}}
		index[list[i].Day] = i
	}
	for i := range c.Members {
		m := &c.Members[i]
		planned := map[string]bool{}
		for _, s := range c.Weeks(m) {
			if k, ok := index[s.Day]; ok {
				planned[s.Day] = true
				list[k].People = append(list[k].People, DayMark{m.ID, m.Name, s.Rounds, s.Light, s.Done})
			}
		}
		for day, n := range c.came(m) {
			if k, ok := index[day]; ok && !planned[day] {
				list[k].People = append(list[k].People, DayMark{TraineeID: m.ID, Name: m.Name, Done: n})
			}
		}
	}
	return list
}
