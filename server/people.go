package server

import (
	"context"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/store"
)

// FigureOut is a figure of somebody as it stands.
type FigureOut struct {
	Figure string    `json:"figure"`
	Value  float64   `json:"value"`
	Spread float64   `json:"spread" doc:"standard error"`
	Origin string    `json:"origin" enum:"assumed,stated,tested,rounds" doc:"of what weighs most"`
	Weight float64   `json:"weight" doc:"share of that origin"`
	Found  int       `json:"found" doc:"findings that went in"`
	Bags   []BagFind `json:"bags" doc:"on each bag that it was found on, where it is another one on each"`
	Trail  []Trail   `json:"trail" doc:"findings, the oldest first"`
}

// BagFind is a figure on one kind of bag.
type BagFind struct {
	Kind  string  `json:"kind"`
	Value float64 `json:"value"`
}

// Trail is one finding.
type Trail struct {
	At     time.Time `json:"at"`
	Kind   string    `json:"kind" doc:"of the bag; empty for none"`
	Value  float64   `json:"value"`
	Spread float64   `json:"spread"`
	Origin string    `json:"origin" enum:"stated,tested,rounds"`
	Floor  bool      `json:"floor" doc:"no smaller than this"`
	Note   string    `json:"note"`
}

// CautionOut is what somebody has to be spared.
type CautionOut struct {
	ID       string     `json:"id" readOnly:"true"`
	Kind     string     `json:"kind" enum:"wrist,shoulder,head"`
	Note     string     `json:"note,omitempty" maxLength:"400"`
	SetBy    string     `json:"setBy,omitempty" readOnly:"true"`
	At       time.Time  `json:"at" readOnly:"true" required:"false"`
	LiftedBy string     `json:"liftedBy,omitempty" readOnly:"true"`
	LiftedAt *time.Time `json:"liftedAt,omitempty" readOnly:"true"`
}

// PersonPage is all that is known of somebody.
type PersonPage struct {
	Trainee  Trainee      `json:"trainee"`
	Next     string       `json:"next" doc:"kind of bag they go on with, or another where that is barred; empty for none"`
	Figures  []FigureOut  `json:"figures"`
	Cautions []CautionOut `json:"cautions"`
	Bags     []Proposal   `json:"bags" doc:"for each kind of bag that hangs: where they stand and what comes next"`
	Recent   []LogRow     `json:"recent"`
	Sessions []SessionOut `json:"sessions" doc:"of the weeks around now, where they are planned"`
}

// SessionOut is a planned day.
type SessionOut struct {
	Day      string   `json:"day" format:"date"`
	Week     int      `json:"week"`
	Rounds   int      `json:"rounds"`
	Emphasis []string `json:"emphasis"`
	Light    bool     `json:"light"`
	Done     int      `json:"done" doc:"rounds that were run on the day"`
	Why      string   `json:"why"`
}

// CalendarDay is a day of the gym with whoever is planned.
type CalendarDay struct {
	Day    string         `json:"day" format:"date"`
	People []CalendarMark `json:"people"`
}

// CalendarMark is somebody on a day.
type CalendarMark struct {
	TraineeID string `json:"traineeId"`
	Name      string `json:"name"`
	Rounds    int    `json:"rounds" doc:"planned; 0 where somebody came unplanned"`
	Light     bool   `json:"light"`
	Done      int    `json:"done"`
}

// Lift says who lifts a caution.
type Lift struct {
	By string `json:"by" minLength:"1" maxLength:"120"`
}

func cautionOut(c store.Caution) CautionOut {
	return CautionOut{c.ID, c.Kind, c.Note, c.SetBy, c.CreatedAt, c.LiftedBy, c.LiftedAt}
}

func (s *Server) registerPeople(api huma.API) {
	huma.Get(api, "/api/trainees/{id}/page", func(ctx context.Context, in *ByID) (*one[PersonPage], error) {
		p, err := personPage(who(ctx), in.ID)
		return single(ctx, p, err, sure(func(p PersonPage) PersonPage { return p }))
	})
	huma.Get(api, "/api/calendar", func(ctx context.Context, _ *struct{}) (*many[CalendarDay], error) {
		list, err := calendar(who(ctx))
		return listed(ctx, list, err, sure(func(d CalendarDay) CalendarDay { return d }))
	})
	huma.Post(api, "/api/trainees/{id}/cautions", func(ctx context.Context, in *struct {
		ByID
		Body CautionOut
	}) (*one[CautionOut], error) {
		c := who(ctx)
		row := store.Caution{TraineeID: in.ID, Kind: in.Body.Kind, Note: in.Body.Note, SetBy: c.Coach.Name}
		err := c.gym.AddCaution(&row)
		return single(ctx, row, err, sure(cautionOut))
	})
	huma.Post(api, "/api/cautions/{id}/lift", func(ctx context.Context, in *struct {
		ByID
		Body Lift
	}) (*struct{}, error) {
		by, err := input.Name("by", in.Body.By)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return nil, refusedOrNil(ctx, who(ctx).gym.LiftCaution(in.ID, by))
	})
}

// calendar is this week and the next, with everybody who is planned or came.
func calendar(c caller) ([]CalendarDay, error) {
	cl, err := classOf(c, "")
	if err != nil {
		return nil, err
	}
	now := cl.now.In(cl.location())
	monday := now.AddDate(0, 0, -((int(now.Weekday()) + 6) % 7))
	list := make([]CalendarDay, 14)
	index := map[string]int{}
	for i := range list {
		list[i] = CalendarDay{monday.AddDate(0, 0, i).Format(time.DateOnly), []CalendarMark{}}
		index[list[i].Day] = i
	}
	for _, t := range cl.trainees {
		planned := map[string]bool{}
		for _, s := range cl.sessions(t) {
			if i, ok := index[s.Day]; ok {
				planned[s.Day] = true
				list[i].People = append(list[i].People, CalendarMark{t.ID, t.Name, s.Rounds, s.Light, s.Done})
			}
		}
		came := map[string]int{}
		for _, r := range cl.rounds[t.ID] {
			came[r.CreatedAt.In(now.Location()).Format(time.DateOnly)]++
		}
		for day, n := range came {
			if i, ok := index[day]; ok && !planned[day] {
				list[i].People = append(list[i].People, CalendarMark{TraineeID: t.ID, Name: t.Name, Done: n})
			}
		}
	}
	return list, nil
}

func personPage(c caller, id string) (PersonPage, error) {
	t, err := c.gym.Trainee(id)
	if err != nil {
		return PersonPage{}, err
	}
	p := PersonPage{Trainee: traineeOut(t), Cautions: []CautionOut{}, Recent: []LogRow{}, Sessions: []SessionOut{}, Bags: []Proposal{}}
	cl, err := classOf(c, id)
	if err != nil {
		return p, err
	}
	p.Figures = figuresOf(t, cl.findings[id], cl.now)
	for _, row := range cl.cautions[id] {
		p.Cautions = append(p.Cautions, cautionOut(row))
	}
	for _, kind := range cl.kinds() {
		prop, err := cl.propose(t, kind, true)
		if err != nil {
			return p, err
		}
		p.Bags = append(p.Bags, prop)
	}
	main := string(cl.mainKind(t))
	for _, b := range p.Bags {
		if b.Barred == "" && (p.Next == "" || b.Kind == main) {
			p.Next = b.Kind
		}
	}
	n, err := namesOf(c.gym)
	if err != nil {
		return p, err
	}
	rows, err := c.gym.Runs(store.RunFilter{TraineeID: id, Limit: 12})
	if err != nil {
		return p, err
	}
	for _, r := range rows {
		p.Recent = append(p.Recent, n.logRow(r))
	}
	p.Sessions = cl.sessions(t)
	return p, nil
}

// figuresOf lists what somebody can do, on no bag in particular, and on each that a figure was found on.
func figuresOf(t store.Trainee, rows []store.Finding, now time.Time) []FigureOut {
	found := evidenceOf(rows)
	_, list := trainee.Estimates(trainee.Band(t.Band), "", found, now)
	bags := map[rig.Kind]trainee.Ability{}
	for _, e := range found {
		if _, known := bags[e.Bag]; e.Bag != "" && !known {
			bags[e.Bag], _ = trainee.Estimates(trainee.Band(t.Band), e.Bag, found, now)
		}
	}
	out := make([]FigureOut, 0, len(list))
	for _, e := range list {
		f := FigureOut{Figure: string(e.Figure), Value: e.Value, Spread: e.Spread, Origin: string(e.Origin), Weight: e.Weight, Found: e.Found, Bags: []BagFind{}, Trail: []Trail{}}
		seen := map[string]bool{}
		for i, row := range rows {
			if row.Figure != f.Figure {
				continue
			}
			f.Trail = append(f.Trail, Trail{row.FoundAt, row.BagKind, row.Value, row.Spread, row.Origin, row.Bound, row.Note})
			if kind := found[i].Bag; kind != "" && !seen[string(kind)] {
				seen[string(kind)] = true
				a := bags[kind]
				f.Bags = append(f.Bags, BagFind{string(kind), a.Get(e.Figure)})
			}
		}
		out = append(out, f)
	}
	return out
}

// sessions are the planned days from four weeks ago to eight weeks on, with the rounds that were run.
func (c class) sessions(t store.Trainee) []SessionOut {
	list := []SessionOut{}
	if t.WeeksFrom == nil {
		return list
	}
	zone := c.location()
	now := c.now.In(zone)
	from := time.Date(t.WeeksFrom.Year(), t.WeeksFrom.Month(), t.WeeksFrom.Day(), 0, 0, 0, 0, zone)
	w := ladder.Weeks{From: from, Days: weekdays(t.WeeksDays), Rounds: t.WeeksRounds, Most: t.WeeksMost}
	var came []time.Time
	done := map[string]int{}
	for _, r := range c.rounds[t.ID] {
		at := r.CreatedAt.In(zone)
		came = append(came, at)
		done[at.Format(time.DateOnly)]++
	}
	weeks := int(now.AddDate(0, 0, 7*8).Sub(from).Hours()/(24*7)) + 1
	if weeks < 1 {
		weeks = 8
	}
	for _, s := range w.Plan(min(weeks, 520), came, now) {
		if s.Day.Before(now.AddDate(0, 0, -28)) || s.Day.After(now.AddDate(0, 0, 56)) {
			continue
		}
		day := s.Day.Format(time.DateOnly)
		list = append(list, SessionOut{day, s.Week, s.Rounds, some(s.Emphasis), s.Light, done[day], s.Why})
	}
	return list
}

// location is where the gym's days begin and end.
func (c class) location() *time.Location {
	zone, err := time.LoadLocation(c.zone)
	if err != nil {
		return time.UTC
	}
	return zone
}

func weekdays(text string) []time.Weekday {
	var list []time.Weekday
	for _, r := range text {
		if r >= '0' && r <= '6' {
			list = append(list, time.Weekday(r-'0'))
		}
	}
	return list
}

// checkWeeks refuses a plan that is none.
func checkWeeks(w *WeeksDoc) error {
	switch {
	case w == nil:
		return nil
	case w.Most < w.Rounds:
		return input.Refuse("weeks.most", "expected at least the %d rounds that are begun with", w.Rounds)
	case len(w.Days) == 0:
		return input.Refuse("weeks.days", "expected a day of the week")
	}
	return nil
}
