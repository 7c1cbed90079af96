package server

import (
	"fmt"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/caution"
	"melodromos/core/class"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/run"
	"melodromos/core/session"
	"melodromos/ledger"
	"melodromos/store"
)

// ClassQuestion asks for a class to be planned.
type ClassQuestion struct {
	People  []string         `json:"people" maxItems:"60" doc:"ids of those who are here"`
	Bags    []string         `json:"bags" maxItems:"60" doc:"ids of the bags that are used; empty for all that hang"`
	Minutes int              `json:"minutes,omitempty" minimum:"0" maximum:"180" doc:"of an hour on everybody's own drill"`
	Session *session.Session `json:"session,omitempty" doc:"in place of the hour"`
}

// Crew is who is here, and which bags are used, from now on.
type Crew struct {
	People []string `json:"people" maxItems:"60"`
	Bags   []string `json:"bags" maxItems:"60"`
}

// Seating puts somebody on a bag in a round.
type Seating struct {
	Round  int    `json:"round" minimum:"0" maximum:"100"`
	Person string `json:"person" format:"uuid"`
	Bag    string `json:"bag" doc:"empty for off the bags"`
}

// Choosing gives somebody another of their drills on its bag.
type Choosing struct {
	Person       string `json:"person" format:"uuid"`
	AssignmentID string `json:"assignmentId" format:"uuid"`
}

// FloorStep tells how far the floor's clock has come, and what was done there.
type FloorStep struct {
	Action  run.Action     `json:"action,omitempty"`
	ClockUS int64          `json:"clockUs" minimum:"0" maximum:"36000000000"`
	Deeds   []session.Done `json:"deeds" maxItems:"500"`

	Withdrawn []string `json:"withdrawn,omitempty" maxItems:"500" doc:"ids of deeds that the floor took back, as no answer came: they count for nothing should they have arrived"`
}

// Hour is a class, planned or under way.
type Hour struct {
	ID        string            `json:"id"`
	Name      string            `json:"name"`
	Version   int               `json:"version"`
	State     run.State         `json:"state"`
	ClockUS   int64             `json:"clockUs"`
	UntilUS   int64             `json:"untilUs" doc:"of the clock, when it is over"`
	Deeds     int               `json:"deeds" doc:"how many were told"`
	Coming    int               `json:"coming" doc:"the first round of the session that has not begun"`
	Refused   string            `json:"refused" doc:"why the last deed that was told does not count; empty where it does"`
	Plan      class.Class       `json:"plan"`
	Faces     []session.Display `json:"faces" doc:"the stretches of the floor's clock, in order"`
	Cues      []drill.Event     `json:"cues" doc:"what is heard and seen of it beside what is struck"`
	Left      []string          `json:"left" doc:"what was not done when it was ended, a line for rounds that hold the same"`
	Rounds    []class.RoundLine `json:"rounds" doc:"those on the bags, by the plan"`
	Changed   string            `json:"changed" doc:"after it was re-planned: what that changed, and from when on; else empty"`
	Cards     []class.HangCard  `json:"cards" doc:"what is hung how before which round"`
	Done      []TurnOut         `json:"done" doc:"what is in the log of it so far"`
	Sum       string            `json:"sum" doc:"what was done beside what was planned; empty where nothing was"`
	Caution   string            `json:"caution" doc:"for everybody who trains"`
	CreatedAt time.Time         `json:"createdAt"`
}

// TurnOut is what somebody did in a block of a class.
type TurnOut struct {
	ID        string `json:"id"`
	TraineeID string `json:"traineeId"`
	RigID     string `json:"rigId" doc:"empty off the bag"`
	Round     int    `json:"round"`
	Lap       int    `json:"lap"`
	Title     string `json:"title"`
	Seconds   int    `json:"seconds"`
	Got       int    `json:"got"`
	Failed    int    `json:"failed"`
	Carried   bool   `json:"carried"`

	Rating *Rating `json:"rating" doc:"what the coach says of it; null where nothing was said"`
}

func hourRow(h store.Hour) HourRow {
	return HourRow{h.ID, h.Name, run.State(h.State), h.StartedAt, h.CreatedAt}
}

// ClassDone is what somebody did on bags in a class.
type ClassDone struct {
	HourID string    `json:"hourId"`
	At     time.Time `json:"at"`
	Rounds int       `json:"rounds"`
	Bags   []string  `json:"bags" doc:"names, in the order in which they were on them"`
}

// HourRow is a class in a list.
type HourRow struct {
	ID        string     `json:"id"`
	Name      string     `json:"name"`
	State     run.State  `json:"state"`
	StartedAt *time.Time `json:"startedAt"`
	CreatedAt time.Time  `json:"createdAt"`
}

func (c caller) hourOut(row store.Hour, held ledger.Held) Hour {
	faces := held.Course.Faces()
	clock := held.Clock.Now(c.gym.Now())
	voice := session.Calls{Naming: ledger.Voice(c.row), Rotates: len(held.Plan.People) > 1}
	return Hour{
		ID: row.ID, Name: row.Name, Version: row.Version, State: held.Clock.State, ClockUS: int64(clock),
		UntilUS: int64(held.Course.Until()), Deeds: len(held.Deeds), Coming: class.Coming(held.Course, clock),
		Refused: held.Refused, Plan: held.Plan.Shown(held.Course, clock), Faces: faces, Cues: held.Course.Cues(voice),
		Left: held.Course.LeftSaid(), Rounds: held.Plan.Outline(), Cards: held.Plan.Cards(c.units()),
		Caution: caution.General, CreatedAt: row.CreatedAt, Done: []TurnOut{},
	}
}

func (c caller) hour(id string) (Hour, error) {
	row, err := c.gym.Hour(id)
	if err != nil {
		return Hour{}, err
	}
	held, err := ledger.OpenHour(row)
	if err != nil {
		return Hour{}, err
	}
	out := c.hourOut(row, held)
	said, err := c.gym.TurnRatings(id)
	if err != nil {
		return out, err
	}
	ratings := map[string]*Rating{}
	for i := range said {
		ratings[*said[i].TurnID] = ratingOut(&said[i])
	}
	rows, err := c.gym.Turns(id)
	var done []class.BlockDone
	for _, t := range rows {
		done = append(done, class.BlockDone{Person: t.TraineeID, Lap: t.Lap, Seconds: t.Seconds, OnBag: t.RigID != nil,
			Carried: t.Carried, Title: t.Title, Got: t.Got, Failed: t.Failed})
	}
	out.Sum = out.Plan.Sum(done)
	out.Done, err = eachRow(rows, err, func(t store.Turn) (TurnOut, error) {
		o := TurnOut{
			ID:        t.ID,
			Rating:    ratings[t.ID],
			TraineeID: t.TraineeID,
			Round:     t.Round,
			Lap:       t.Lap,
			Title:     t.Title,
			Seconds:   t.Seconds,
			Got:       t.Got,
			Failed:    t.Failed,
			Carried:   t.Carried,
		}
		if t.RigID != nil {
			o.RigID = *t.RigID
		}
		return o, nil
	})
	return out, err
}

// lately is how far back the classes of a person's page go.
const lately = 60 * 24 * time.Hour

// classesOf lists what somebody did in classes lately, the newest first.
func (c caller) classesOf(id string) ([]ClassDone, error) {
	turns, err := c.gym.TurnsOf(id, c.gym.Now().Add(-lately))
	if err != nil {
		return nil, err
	}
	rigs, err := c.gym.Rigs(store.InUse)
	if err != nil {
		return nil, err
	}
	names := map[string]string{}
	for _, r := range rigs {
		names[r.ID] = r.Name
	}
	list, laps := []ClassDone{}, map[string]bool{}
	place := map[string]int{} // of each class in the list: two may have gone on at once
	for _, t := range turns {
		if _, listed := place[t.HourID]; !listed {
			place[t.HourID] = len(list)
			list = append(list, ClassDone{HourID: t.HourID, At: t.At, Bags: []string{}})
		}
		last := &list[place[t.HourID]]
		if lap := fmt.Sprint(t.HourID, t.Lap); !laps[lap] {
			laps[lap] = true
			last.Rounds++
		}
		if name := names[*t.RigID]; name != "" && !slices.Contains(last.Bags, name) {
			last.Bags = append(last.Bags, name)
		}
	}
	slices.Reverse(list)
	return list, nil
}

// changeHour alters an hour and gives it as it stands then.
func (c caller) changeHour(id string, change func(*ledger.Held) error) (Hour, error) {
	row, held, err := ledger.ChangeHour(c.gym, id, change)
	if err != nil {
		return Hour{}, err
	}
	return c.hourOut(row, held), nil
}

// planHour plans a class and stores it.
func (c caller) planHour(key string, in ClassQuestion) (Hour, error) {
	if in.Session != nil {
		if err := input.Under("session", in.Session.Check()); err != nil {
			return Hour{}, err
		}
	}
	if row, err := c.gym.Hour(key); key != "" && err == nil {
		return c.hour(row.ID) // the answer was lost on the way
	}
	cl, err := c.class()
	if err != nil {
		return Hour{}, err
	}
	p, err := class.New(cl, class.Ask{People: in.People, Bags: in.Bags, Minutes: in.Minutes, Session: in.Session})
	if err != nil {
		return Hour{}, err
	}
	row, err := ledger.NewHour(p, c.row.GetReady, c.Coach)
	if err != nil {
		return Hour{}, err
	}
	row.ID = key
	if err := c.gym.AddHour(&row); err != nil {
		return Hour{}, err
	}
	return c.hour(row.ID)
}

// edit alters the plan of an hour that is not over: change is told from which round on, and where its clock stands.
func (c caller) edit(id string,
	change func(p class.Class, from int, at drill.Micros) (class.Class, error)) (Hour, error) {
	return c.changeHour(id, func(o *ledger.Held) error {
		if o.Clock.State.Over() {
			return input.Refuse("", "this class is over")
		}
		from, at := 0, drill.Micros(0)
		if !o.Clock.Started.IsZero() {
			at = o.Clock.Now(c.gym.Now())
			from = class.Coming(o.Course, at)
		}
		p, err := change(o.Plan, from, at)
		if err == nil {
			o.Plan = p
		}
		return err
	})
}

// floorStep takes what happened on the floor. A class that begins gives everybody the drills that they do not have yet.
func (c caller) floorStep(id string, in FloorStep) (Hour, error) {
	if in.Action == run.Start {
		row, err := c.gym.Hour(id)
		if err != nil {
			return Hour{}, err
		}
		held, err := ledger.OpenHour(row)
		if err == nil {
			err = ledger.TakeAll(c.gym, &held.Plan, c.Coach, c.gym.Now())
		}
		if err != nil {
			return Hour{}, err
		}
		given := held.Plan.Given
		if _, err := c.changeHour(id, func(o *ledger.Held) error { o.Plan.Given = given; return nil }); err != nil {
			return Hour{}, err
		}
	}
	return c.changeHour(id, func(o *ledger.Held) error {
		o.Withdraw(in.Withdrawn)
		if err := o.Did(in.Deeds); err != nil {
			return err
		}
		now := c.gym.Now()
		if in.Action == "" {
			o.Clock = o.Clock.Heard(drill.Micros(in.ClockUS), now)
			return nil
		}
		var err error
		o.Clock, err = o.Clock.Step(in.Action, drill.Micros(in.ClockUS), now)
		return err
	})
}

func (s *Server) registerHours(api huma.API) {
	get(api, "/api/hours", func(c caller, _ *nothing) ([]HourRow, error) {
		rows, err := c.gym.Hours()
		return eachRow(rows, err, func(h store.Hour) (HourRow, error) { return hourRow(h), nil })
	})
	post(api, "/api/hours", func(c caller, in *Making[ClassQuestion]) (Hour, error) {
		return c.planHour(in.Key, in.Body)
	})
	get(api, "/api/hours/{id}", func(c caller, in *ByID) (Hour, error) { return c.hour(in.ID) })
	post(api, "/api/hours/{id}/anew", func(c caller, in *Addressed[Crew]) (Hour, error) {
		cl, err := c.class()
		if err != nil {
			return Hour{}, err
		}
		changed := ""
		out, err := c.edit(in.ID, func(p class.Class, from int, at drill.Micros) (class.Class, error) {
			to, err := p.Anew(cl, from, at, in.Body.People, in.Body.Bags)
			if err == nil && at > 0 {
				changed = to.Changed(p, from)
			}
			return to, err
		})
		out.Changed = changed
		return out, err
	})
	post(api, "/api/hours/{id}/seat", func(c caller, in *Addressed[Seating]) (Hour, error) {
		cl, err := c.class()
		if err != nil {
			return Hour{}, err
		}
		return c.edit(in.ID, func(p class.Class, from int, _ drill.Micros) (class.Class, error) {
			return p.Moved(cl, from, in.Body.Round, in.Body.Person, in.Body.Bag)
		})
	})
	post(api, "/api/hours/{id}/drill", func(c caller, in *Addressed[Choosing]) (Hour, error) {
		cl, err := c.class()
		if err != nil {
			return Hour{}, err
		}
		return c.edit(in.ID, func(p class.Class, _ int, _ drill.Micros) (class.Class, error) {
			return p.Assigned(cl, in.Body.Person, in.Body.AssignmentID)
		})
	})
	post(api, "/api/hours/{id}/floor", func(c caller, in *Addressed[FloorStep]) (Hour, error) {
		return c.floorStep(in.ID, in.Body)
	})
	get(api, "/api/hours/{id}/stations/{stretch}", func(c caller, in *struct {
		ByID
		Stretch int `path:"stretch" minimum:"0" maximum:"100000"`
	}) ([]StationOut, error) {
		return c.stations(in.ID, in.Stretch)
	})
	remove := func(removed bool) func(c caller, in *ByID) error {
		return func(c caller, in *ByID) error {
			_, err := c.gym.MoveHour(in.ID, func(h *store.Hour) error {
				if run.State(h.State) == run.Running {
					return input.Refuse("", "this class is under way: end it first")
				}
				if h.RemovedAt = nil; removed {
					h.RemovedAt = new(c.gym.Now())
				}
				return nil
			}, nil)
			return err
		}
	}
	command(api, "POST", "/api/hours/{id}/remove", remove(true))
	command(api, "POST", "/api/hours/{id}/restore", remove(false))
}
