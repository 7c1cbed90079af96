package server

import (
	"log/slog"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/caution"
	"melodromos/core/drill"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/roster"
	"melodromos/core/run"
	"melodromos/ledger"
	"melodromos/store"
)

// Today holds what the first page shows.
type Today struct {
	Next   []roster.Proposal `json:"next" doc:"what each does next"`
	Also   []roster.Also     `json:"also" doc:"what they have been given beside it"`
	Recent []LogRow          `json:"recent"`
	Class  *ClassRow         `json:"hour" doc:"the class that is planned or under way; null where there is none"`
	Rigs   int               `json:"rigs"`
	People int               `json:"people"`
	Date   *ClassDate        `json:"class" doc:"held next by the calendar, within a week; null where there is none"`
	Tired  []TiredBag        `json:"tired" doc:"bags that come back later from week to week"`

	Unread []NotRead `json:"unread" doc:"what is kept and could not be read"`

	Caution string `json:"caution" doc:"for everybody who trains"`
}

// Ladder is somebody's ladder on a kind of bag, with what coaches decided on it.
type Ladder struct {
	roster.LadderView
	Decisions []Decision `json:"decisions"`
}

// Decision is a coach's decision on a proposal.
type Decision struct {
	Kind   rig.Kind      `json:"kind"`
	Rung   string        `json:"rung" minLength:"1" maxLength:"60"`
	Choice ladder.Choice `json:"choice"`
	Reason string        `json:"reason,omitempty" maxLength:"400"`
	Coach  string        `json:"coach,omitempty" readOnly:"true"`
	At     time.Time     `json:"at" readOnly:"true" required:"false"`
}

// Acceptance takes what is proposed: on a bag, or, where none is named, what comes next at all.
type Acceptance struct {
	RigID  string        `json:"rigId,omitempty" format:"uuid"`
	Choice ladder.Choice `json:"choice" enum:"accept,change" default:"accept"`
	Reason string        `json:"reason,omitempty" maxLength:"400"`
}

// current is for how long a class that was planned and not held stands on the first page.
const current = 18 * time.Hour

func (c caller) today() (Today, error) {
	cl, err := c.Roster()
	if err != nil {
		return Today{}, err
	}
	t := Today{Rigs: len(cl.Bags), People: len(cl.Members), Caution: caution.General}
	if t.Next, t.Also, err = cl.Today(); err != nil {
		return t, err
	}
	logFailed(t.Next)
	if t.Class, err = c.planned(); err != nil {
		return t, err
	}
	if t.Date, err = c.nextClass(); err != nil {
		return t, err
	}
	if t.Tired, err = c.tired(); err != nil {
		return t, err
	}
	rows, err := c.Log(store.RunFilter{Limit: 6})
	if t.Recent, err = eachRow(rows, err, logRow); err != nil {
		return t, err
	}
	t.Unread, err = c.unread()
	return t, err
}

// planned is the class that was planned last, nil where it is over or was planned long ago.
func (c caller) planned() (*ClassRow, error) {
	list, err := c.Gym.Classes()
	if err != nil || len(list) == 0 || run.State(list[0].State).Over() ||
		c.Gym.Now().Sub(list[0].CreatedAt) >= current {
		return nil, err
	}
	return new(classRow(list[0])), nil
}

// logFailed logs for whom it could not be worked out what comes next.
func logFailed(list []roster.Proposal) {
	for _, p := range list {
		if p.Failed != "" {
			slog.Error("what comes next could not be worked out", "trainee", p.TraineeID, "error", p.Failed)
		}
	}
}

func (c caller) ladder(id string, kind rig.Kind) (Ladder, error) {
	cl, m, err := c.Member(id)
	if err != nil {
		return Ladder{}, err
	}
	if !slices.Contains(cl.Kinds(), kind) {
		return Ladder{}, store.ErrNotFound
	}
	out := Ladder{Decisions: []Decision{}}
	if out.LadderView, err = cl.Ladder(m, kind); err != nil {
		return out, err
	}
	rows, err := c.Gym.Decisions(id)
	for _, d := range slices.Backward(rows) {
		if d.BagKind == string(kind) {
			out.Decisions = append(out.Decisions, Decision{rig.Kind(d.BagKind), d.Rung, ladder.Choice(d.Choice),
				d.Reason, d.Coach, d.CreatedAt})
		}
	}
	return out, err
}

// library is the catalogue with the gym's own drills.
func (s *Server) library(c caller) (roster.Library, error) {
	cl, err := ledger.Bags(c.Gym, c.Row, c.Stop)
	if err != nil {
		return roster.Library{}, err
	}
	rows, err := c.Gym.Drills(store.InUse)
	own, err := readable(c, rows, err, func(d store.Drill) (roster.Own, error) {
		p, err := ledger.Plan(d)
		return roster.Own{ID: d.ID, Name: d.Name, Kind: rig.Kind(d.Kind), Plan: p}, err
	})
	if err != nil {
		return roster.Library{}, err
	}
	return cl.Library(own, &s.levels)
}

func (s *Server) registerToday(api huma.API) {
	get(api, "/api/today", func(c caller, _ *nothing) (Today, error) { return c.today() })
	get(api, "/api/class", func(c caller, _ *nothing) ([]roster.Proposal, error) {
		cl, err := c.Roster()
		if err != nil {
			return nil, err
		}
		list, err := cl.Everybody()
		logFailed(list)
		return list, err
	})
	get(api, "/api/calendar", func(c caller, _ *nothing) ([]roster.Day, error) {
		cl, err := ledger.Calendar(c.Gym, c.Row, c.Gym.Now())
		return cl.Calendar(), err
	})
	get(api, "/api/predictions", func(c caller, _ *nothing) (roster.Predictions, error) {
		cl, err := c.Roster()
		return cl.Predictions(), err
	})
	get(api, "/api/library", func(c caller, _ *nothing) (roster.Library, error) { return s.library(c) })
	get(api, "/api/trainees/{id}/ladder/{kind}", func(c caller, in *struct {
		ByID
		Kind rig.Kind `path:"kind"`
	}) (Ladder, error) {
		return c.ladder(in.ID, rig.Kind(in.Kind))
	})
	post(api, "/api/trainees/{id}/decisions",
		func(c caller, in *Addressed[Decision]) (roster.Proposal, error) {
			return c.Decide(in.ID, in.Body.Kind, ladder.Decision{Rung: in.Body.Rung, Choice: in.Body.Choice,
				Reason: in.Body.Reason})
		})
	post(api, "/api/trainees/{id}/accept",
		func(c caller, in *Addressed[Acceptance]) (Assignment, error) {
			return assignmentOut(c.Accept(in.ID, in.Body.RigID, in.Body.Choice, in.Body.Reason))
		})
}

// inSchool gives a drill that is offered the calls of this gym.
func (c caller) inSchool(p drill.Plan) drill.Plan {
	return drill.InSchool(p, ledger.Voice(c.Row))
}
