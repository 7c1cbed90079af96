// Package progress tells how somebody, or a gym, comes on: by the rounds in the log, with how sure each trend is.
package progress

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"

	"melodromos/core/fault"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/core/words"
)

// LogRound is a round of the log with whose it was, on which bag, and what was done.
type LogRound struct {
	run.PastRound
	Trainee   string // id; "" of somebody who was erased
	Name      string
	BagName   string
	Kind      rig.Kind
	Drill     string // id; "" in a class
	DrillName string
}

// LogFault is one that a round showed.
type LogFault struct {
	Code   fault.Code
	Run    string
	At     time.Time
	Who    string
	Cost   float64
	Effect float64
	Spread float64
	First  bool // it was the most costly
}

// Log holds rounds and faults by time, the oldest first.
type Log struct {
	Rounds []LogRound
	Faults []LogFault
	Zone   *time.Location // in which days begin; nil takes UTC
	Now    time.Time
}

// Report sums up a log.
type Report struct {
	Weeks    []Week     `json:"weeks" doc:"the newest twelve, the oldest first"`
	Regular  string     `json:"regular" doc:"how regularly, in a sentence"`
	Load     string     `json:"load" doc:"a caution where a week holds much more than those before; empty where none does"`
	Streaks  []Streak   `json:"streaks" doc:"the longest in a row on each bag"`
	Exposure []Exposure `json:"exposure" doc:"what was done on each bag, the most first"`
	Trends   []Trend    `json:"trends" doc:"by bag and then by drill, those with the most rounds first"`
	Faults   []Tally    `json:"faults" doc:"what goes wrong, the oftenest first"`
	Rounds   int        `json:"rounds"`
	Strikes  int        `json:"strikes"`
	Minutes  float64    `json:"minutes"`
}

// Week counts the rounds of a week that begins on a Monday.
type Week struct {
	From    string  `json:"from" format:"date"`
	Rounds  int     `json:"rounds"`
	Strikes int     `json:"strikes"`
	Minutes float64 `json:"minutes"`
	Days    int     `json:"days"`
}

// Streak is the longest clean run on a bag.
type Streak struct {
	Bag     string    `json:"bag"`
	BagName string    `json:"bagName"`
	Longest int       `json:"longest"`
	At      time.Time `json:"at"`
	Run     string    `json:"run"`
	Who     string    `json:"who"`
}

// Exposure counts the rounds and strikes on a bag.
type Exposure struct {
	Bag     string    `json:"bag"`
	BagName string    `json:"bagName"`
	Kind    rig.Kind  `json:"kind"`
	Rounds  int       `json:"rounds"`
	Strikes int       `json:"strikes"`
	Minutes float64   `json:"minutes"`
	Last    time.Time `json:"last"`
}

// Tally counts how often a fault shows.
type Tally struct {
	Code   fault.Code `json:"code"`
	Name   string     `json:"name"`
	Remedy string     `json:"remedy"`
	Rounds int        `json:"rounds" doc:"that show it"`
	First  int        `json:"first" doc:"of them, in which it was the most costly"`
	People int        `json:"people"`
	Lately int        `json:"lately" doc:"of the last ten judged rounds"`
	Last   time.Time  `json:"last"`
	Cost   float64    `json:"cost" doc:"share of the strikes, on the mean of the rounds that show it"`
	Past   []Shown    `json:"past" doc:"how large it was each time, the oldest first"`
}

// Shown is a fault as a round showed it.
type Shown struct {
	At     time.Time `json:"at"`
	Run    string    `json:"run"`
	Effect float64   `json:"effect"`
	Spread float64   `json:"spread" doc:"standard error"`
	Cost   float64   `json:"cost"`
}

// Sort puts the rounds in the order of their time.
func (l *Log) Sort() {
	slices.SortStableFunc(l.Rounds, func(a, b LogRound) int { return a.At.Compare(b.At) })
}

// newest is the number of weeks, and of judged rounds, that are looked back on. The weeks are a block of training; both
// assumed.
const newestWeeks, lately = 12, 10

// Of gathers what a log shows.
func Of(l Log) Report {
	if l.Zone == nil {
		l.Zone = time.UTC
	}
	p := Report{Weeks: l.weeks(), Streaks: l.streaks(), Exposure: l.exposure(), Trends: l.trends(),
		Faults: l.tally()}
	for _, r := range l.Rounds {
		p.Rounds, p.Strikes, p.Minutes = p.Rounds+1, p.Strikes+r.Strikes, p.Minutes+r.Lasted/60
	}
	p.Regular, p.Load = regular(p.Weeks), load(p.Weeks)
	return p
}

// monday is the first day of the week of a moment.
func (l Log) monday(at time.Time) time.Time {
	at = at.In(l.Zone)
	back := (int(at.Weekday()) + 6) % 7
	return time.Date(at.Year(), at.Month(), at.Day()-back, 0, 0, 0, 0, l.Zone)
}

func (l Log) weeks() []Week {
	list := make([]Week, newestWeeks)
	index := map[string]int{}
	for k := range list {
		list[k].From = l.monday(l.Now).AddDate(0, 0, -7*(newestWeeks-1-k)).Format(time.DateOnly)
		index[list[k].From] = k
	}
	days := map[string]bool{}
	for _, r := range l.Rounds {
		k, ok := index[l.monday(r.At).Format(time.DateOnly)]
		if !ok {
			continue
		}
		w := &list[k]
		w.Rounds, w.Strikes, w.Minutes = w.Rounds+1, w.Strikes+r.Strikes, w.Minutes+r.Lasted/60
		if day := r.At.In(l.Zone).Format(time.DateOnly); !days[day] {
			days[day] = true
			w.Days++
		}
	}
	return list
}

// regular says how regularly somebody came, in the weeks since they first did.
func regular(weeks []Week) string {
	first := slices.IndexFunc(weeks, func(w Week) bool { return w.Days > 0 })
	if first < 0 {
		return "No round in the last twelve weeks."
	}
	since := weeks[first:]
	days, row := 0, 0
	for _, w := range since {
		days += w.Days
	}
	for k := len(since) - 1; k >= 0; k-- {
		if since[k].Days > 0 {
			row++
		} else if k < len(since)-1 { // this week may still come
			break
		}
	}
	average := words.Trimmed(math.Round(10*float64(days)/float64(len(since))) / 10)
	said := fmt.Sprintf("Trained %s in %s", words.Count(days, "day"), words.Count(len(since), "week"))
	if len(since) > 1 {
		said += fmt.Sprintf(", %s a week", average)
	}
	if row > 1 {
		return said + fmt.Sprintf("; %d weeks in a row.", row)
	}
	return said + "."
}

// Much more than before is this many times the usual week's rounds, and at least so many more. Assumed: a few rounds
// are added at a time, over weeks (common practice).
const muchMore, moreRounds = 1.5, 4

// load warns where the newest week holds much more than those before it.
func load(weeks []Week) string {
	now, before, n := weeks[len(weeks)-1], 0.0, 0.0
	for _, w := range weeks[max(0, len(weeks)-5) : len(weeks)-1] {
		if w.Rounds > 0 {
			before, n = before+float64(w.Rounds), n+1
		}
	}
	if n < 2 {
		return ""
	}
	usual := before / n
	if float64(now.Rounds) < muchMore*usual || float64(now.Rounds) < usual+moreRounds {
		return ""
	}
	return fmt.Sprintf("%d rounds this week; %.0f are usual. Build up gradually.", now.Rounds, usual)
}

func (l Log) streaks() []Streak {
	best := map[string]Streak{}
	for _, r := range l.Rounds {
		if r.Judged && r.Longest > best[r.Bag].Longest {
			best[r.Bag] = Streak{r.Bag, r.BagName, r.Longest, r.At, r.ID, r.Name}
		}
	}
	list := make([]Streak, 0, len(best))
	for _, s := range best {
		list = append(list, s)
	}
	slices.SortFunc(list, func(a, b Streak) int {
		return cmp.Or(cmp.Compare(b.Longest, a.Longest), cmp.Compare(a.BagName, b.BagName))
	})
	return list
}

func (l Log) exposure() []Exposure {
	all := map[string]*Exposure{}
	for _, r := range l.Rounds {
		e := all[r.Bag]
		if e == nil {
			e = &Exposure{Bag: r.Bag, BagName: r.BagName, Kind: r.Kind}
			all[r.Bag] = e
		}
		e.Rounds, e.Strikes, e.Minutes = e.Rounds+1, e.Strikes+r.Strikes, e.Minutes+r.Lasted/60
		if r.At.After(e.Last) {
			e.Last = r.At
		}
	}
	list := make([]Exposure, 0, len(all))
	for _, e := range all {
		list = append(list, *e)
	}
	slices.SortFunc(list, func(a, b Exposure) int {
		return cmp.Or(cmp.Compare(b.Minutes, a.Minutes), cmp.Compare(a.BagName, b.BagName))
	})
	return list
}

func (l Log) tally() []Tally {
	late := map[string]bool{}
	for k, n := len(l.Rounds)-1, 0; k >= 0 && n < lately; k-- {
		if r := l.Rounds[k]; r.Judged {
			late[r.ID] = true
			n++
		}
	}
	all := map[fault.Code]*Tally{}
	people := map[fault.Code]map[string]bool{}
	for _, f := range l.Faults {
		t := all[f.Code]
		if t == nil {
			t = &Tally{Code: f.Code, Name: f.Code.Name(), Remedy: f.Code.Remedy(), Past: []Shown{}}
			all[f.Code], people[f.Code] = t, map[string]bool{}
		}
		t.Rounds++
		t.Cost += f.Cost
		people[f.Code][f.Who] = true
		if f.First {
			t.First++
		}
		if late[f.Run] {
			t.Lately++
		}
		if f.At.After(t.Last) {
			t.Last = f.At
		}
		t.Past = append(t.Past, Shown{f.At, f.Run, f.Effect, f.Spread, f.Cost})
	}
	list := make([]Tally, 0, len(all))
	for code, t := range all {
		t.Cost /= float64(t.Rounds)
		t.People = len(people[code])
		list = append(list, *t)
	}
	slices.SortFunc(list, func(a, b Tally) int {
		return cmp.Or(cmp.Compare(b.Rounds, a.Rounds), cmp.Compare(b.Cost, a.Cost), cmp.Compare(a.Code, b.Code))
	})
	return list
}
