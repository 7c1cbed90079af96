package server

import (
	"errors"
	"fmt"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/fault"
	"melodromos/core/judge"
	"melodromos/core/run"
	"melodromos/ledger"
	"melodromos/store"
)

// Rating is a coach's remark on a round, or on a turn in a class: clean strikes of out of counted by eye, and words. An
// empty one takes the remark away.
type Rating struct {
	Clean   *int       `json:"clean,omitempty" minimum:"0" maximum:"10000"`
	OutOf   *int       `json:"outOf,omitempty" minimum:"1" maximum:"10000"`
	Word    run.Rating `json:"word"`
	Note    string     `json:"note" maxLength:"2000"`
	Version int        `json:"version" minimum:"0" maximum:"2147483646" doc:"that was read; 0 where nothing was said yet"`
	Coach   string     `json:"coach,omitempty" readOnly:"true"`
}

// Said is a coach's verdict on one strike.
type Said struct {
	Strike  int           `json:"strike" minimum:"0" maximum:"20000" doc:"of the plan, from 0"`
	Verdict judge.Verdict `json:"verdict"`
}

// Correction is a change to a judgement.
type Correction struct {
	ID      string        `json:"id"`
	At      time.Time     `json:"at"`
	Coach   string        `json:"coach"`
	Strike  *int          `json:"strike" doc:"null where the whole round was judged anew"`
	Verdict judge.Verdict `json:"verdict,omitempty"`
	Reason  string        `json:"reason"`
	Was     string        `json:"was" doc:"the headline before"`
	Undone  bool          `json:"undone"`
}

// Times is a table of times to be brought in as the hits of a round.
type Times struct {
	Table string `json:"table" maxLength:"900000" doc:"comma-separated values: times in seconds; columns named time, hand, launch"`
	Zero  string `json:"zero,omitempty" enum:"bell,first" doc:"what second 0 is: the opening bell, or (first) the first time of the table is the first strike"`
	Dry   bool   `json:"dry,omitempty" doc:"only say what would be brought in"`
}

// TimesIn says what a table held.
type TimesIn struct {
	Hits  int     `json:"hits"`
	First float64 `json:"first" doc:"s after the bell"`
	Last  float64 `json:"last" doc:"s after the bell"`
	Hands bool    `json:"hands" doc:"it tells the hands"`
	Force bool    `json:"force" doc:"it tells how hard"`
	Said  string  `json:"said"`
}

// Mending asks for the drill that mends a fault.
type Mending struct {
	Code fault.Code `json:"code"`
}

// Mended is the drill that was given for a fault.
type Mended struct {
	AssignmentID string `json:"assignmentId"`
}

func ratingOut(r *store.Rating) *Rating {
	if r == nil {
		return nil
	}
	return &Rating{Clean: r.Clean, OutOf: r.OutOf, Word: run.Rating(r.Word), Note: r.Note, Version: r.Version,
		Coach: r.Coach}
}

// ratingRow returns the row of a remark.
func (c caller) ratingRow(in Rating) (*store.Rating, error) {
	if err := run.ByEye(in.Clean, in.OutOf); err != nil {
		return nil, err
	}
	return &store.Rating{Clean: in.Clean, OutOf: in.OutOf, Word: string(in.Word), Note: in.Note, Version: in.Version,
		Coach: c.Coach.Name, CoachID: &c.Coach.ID}, nil
}

// rated stores what a coach says.
func (c caller) rated(row *store.Rating, err error) (Rating, error) {
	if err != nil {
		return Rating{}, err
	}
	if err := c.Gym.Rate(row); err != nil {
		return Rating{}, err
	}
	return *ratingOut(row), nil
}

// times brings a table in as the hits of a round that has none of its own.
func (c caller) times(id string, in Times) (TimesIn, error) {
	t, err := c.AddTimes(id, in.Table, in.Zero == "first", in.Dry)
	if errors.Is(err, ledger.ErrHasHits) {
		return TimesIn{}, huma.Error409Conflict("This round has hits of its own; nothing was brought in.")
	}
	if err != nil {
		return TimesIn{}, err
	}
	out := TimesIn{Hits: len(t.List), First: t.List[0].At + t.Shift, Last: t.List[len(t.List)-1].At + t.Shift}
	for _, at := range t.List {
		out.Hands, out.Force = out.Hands || at.Hand != "", out.Force || at.Launch > 0
	}
	out.Said = fmt.Sprintf("%d hits, from %.1f to %.1f s after the bell.", out.Hits, out.First, out.Last)
	return out, nil
}

// correctionOut translates what was changed about a judgement.
func correctionOut(r store.Correction, e judge.Ended) Correction {
	out := Correction{ID: r.ID, At: r.CreatedAt, Coach: r.Coach, Strike: r.Strike, Verdict: judge.Verdict(r.Verdict),
		Reason: r.Reason, Undone: r.UndoneAt != nil}
	if was := ledger.WasJudged(r, e); was != nil {
		out.Was = was.Headline
	}
	return out
}

// Undoing takes a correction back.
type Undoing struct {
	ByID
	Correction string `path:"correction" format:"uuid"`
}

func (s *Server) registerJudging(api huma.API) {
	put(api, "/api/runs/{id}/rating", func(c caller, in *Addressed[Rating]) (Rating, error) {
		row, err := c.ratingRow(in.Body)
		if err == nil {
			row.RunID = &in.ID
			_, err = c.Gym.Run(in.ID)
		}
		return c.rated(row, err)
	})
	put(api, "/api/turns/{id}/rating", func(c caller, in *Addressed[Rating]) (Rating, error) {
		row, err := c.ratingRow(in.Body)
		if err == nil {
			row.TurnID = &in.ID
			_, err = c.Gym.Turn(in.ID)
		}
		return c.rated(row, err)
	})
	post(api, "/api/runs/{id}/corrections", func(c caller, in *Addressed[Said]) (Review, error) {
		return c.reviewOut(c.Correct(in.ID, judge.Correction{Strike: in.Body.Strike, Verdict: in.Body.Verdict}))
	})
	post(api, "/api/runs/{id}/corrections/{correction}/undo", func(c caller, in *Undoing) (Review, error) {
		return c.reviewOut(c.TakeBack(in.ID, in.Correction))
	})
	post(api, "/api/runs/{id}/rejudge", func(c caller, in *Addressed[run.Anew]) (Review, error) {
		return c.reviewOut(c.Rejudge(in.ID, in.Body))
	})
	post(api, "/api/runs/{id}/remedy", func(c caller, in *Addressed[Mending]) (Mended, error) {
		a, err := c.Mend(in.ID, in.Body.Code)
		return Mended{a}, err
	})
	post(api, "/api/runs/{id}/times", func(c caller, in *Addressed[Times]) (TimesIn, error) {
		return c.times(in.ID, in.Body)
	})
}
