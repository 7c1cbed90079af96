package server

import (
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
	Minutes int              `json:"minutes,omitempty" minimum:"0" maximum:"180" doc:"of a class on everybody's own drill"`
	Session *session.Session `json:"session,omitempty" doc:"in place of everybody's own drill"`
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

// HeldClass is a class, planned or under way.
type HeldClass struct {
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

// TurnOut describes what somebody did in a block of a class.
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

func classRow(h store.Class) ClassRow {
	return ClassRow{h.ID, h.Name, run.State(h.State), h.StartedAt, h.CreatedAt}
}

// ClassRow is a class in a list.
type ClassRow struct {
	ID        string     `json:"id"`
	Name      string     `json:"name"`
	State     run.State  `json:"state"`
	StartedAt *time.Time `json:"startedAt"`
	CreatedAt time.Time  `json:"createdAt"`
}

func (c caller) classOut(row ledger.Class, err error) (HeldClass, error) {
	if err != nil {
		return HeldClass{}, err
	}
	held := row.Held
	faces := held.Course.Faces()
	clock := held.Clock.Now(c.Gym.Now())
	voice := session.Calls{Naming: ledger.Voice(c.Row), Rotates: len(held.Plan.People) > 1}
	return HeldClass{
		ID: row.ID, Name: row.Name, Version: row.Version, State: held.Clock.State, ClockUS: int64(clock),
		UntilUS: int64(held.Course.Until()), Deeds: len(held.Deeds), Coming: class.Coming(held.Course, clock),
		Refused: held.Refused, Plan: held.Plan.Shown(held.Course, clock), Faces: faces, Cues: held.Course.Cues(voice),
		Left: held.Course.LeftSaid(), Rounds: held.Plan.Outline(), Cards: held.Plan.Cards(c.units()),
		Caution: caution.General, CreatedAt: row.CreatedAt, Done: []TurnOut{},
	}, nil
}

// doneOut is a class with what was done in it.
func (c caller) doneOut(row ledger.ClassDone, err error) (HeldClass, error) {
	out, err := c.classOut(row.Class, err)
	if err != nil {
		return HeldClass{}, err
	}
	var done []class.BlockDone
	for _, t := range row.Turns {
		done = append(done, class.BlockDone{Person: t.TraineeID, Lap: t.Lap, Seconds: t.Seconds, OnBag: t.RigID != nil,
			Carried: t.Carried, Title: t.Title, Got: t.Got, Failed: t.Failed})
		o := TurnOut{ID: t.ID, Rating: ratingOut(row.Ratings[t.ID]), TraineeID: t.TraineeID, Round: t.Round, Lap: t.Lap,
			Title: t.Title, Seconds: t.Seconds, Got: t.Got, Failed: t.Failed, Carried: t.Carried}
		if t.RigID != nil {
			o.RigID = *t.RigID
		}
		out.Done = append(out.Done, o)
	}
	out.Sum = out.Plan.Sum(done)
	return out, nil
}

func (s *Server) registerClasses(api huma.API) {
	get(api, "/api/hours", func(c caller, _ *nothing) ([]ClassRow, error) {
		rows, err := c.Gym.Classes()
		return eachRow(rows, err, func(h store.Class) (ClassRow, error) { return classRow(h), nil })
	})
	post(api, "/api/hours", func(c caller, in *Making[ClassQuestion]) (HeldClass, error) {
		q := in.Body
		if q.Session != nil {
			if err := input.Under("session", q.Session.Check()); err != nil {
				return HeldClass{}, err
			}
		}
		return c.doneOut(c.PlanClass(in.Key,
			class.Ask{People: q.People, Bags: q.Bags, Minutes: q.Minutes, Session: q.Session}))
	})
	get(api, "/api/hours/{id}", func(c caller, in *ByID) (HeldClass, error) { return c.doneOut(c.ClassDone(in.ID)) })
	post(api, "/api/hours/{id}/anew", func(c caller, in *Addressed[Crew]) (HeldClass, error) {
		row, changed, err := c.ReplanClass(in.ID, in.Body.People, in.Body.Bags)
		out, err := c.classOut(row, err)
		out.Changed = changed
		return out, err
	})
	post(api, "/api/hours/{id}/seat", func(c caller, in *Addressed[Seating]) (HeldClass, error) {
		return c.classOut(c.Seat(in.ID, in.Body.Round, in.Body.Person, in.Body.Bag))
	})
	post(api, "/api/hours/{id}/drill", func(c caller, in *Addressed[Choosing]) (HeldClass, error) {
		return c.classOut(c.GiveInClass(in.ID, in.Body.Person, in.Body.AssignmentID))
	})
	post(api, "/api/hours/{id}/floor", func(c caller, in *Addressed[FloorStep]) (HeldClass, error) {
		return c.classOut(c.StepClass(in.ID, ledger.FloorStep{Action: in.Body.Action,
			Clock: drill.Micros(in.Body.ClockUS), Deeds: in.Body.Deeds, Withdrawn: in.Body.Withdrawn}))
	})
	get(api, "/api/hours/{id}/stations/{stretch}", func(c caller, in *struct {
		ByID
		Stretch int `path:"stretch" minimum:"0" maximum:"100000"`
	}) ([]StationOut, error) {
		return c.stations(in.ID, in.Stretch)
	})
	command(api, "POST", "/api/hours/{id}/remove", func(c caller, in *ByID) error { return c.RemoveClass(in.ID, true) })
	command(api, "POST", "/api/hours/{id}/restore",
		func(c caller, in *ByID) error { return c.RemoveClass(in.ID, false) })
}
