package server

import (
	"fmt"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/input"
	"melodromos/core/judge"
	"melodromos/core/run"
	"melodromos/format"
	"melodromos/ledger"
	"melodromos/store"
)

// Rating is what a coach says of a round, or of what somebody did in a class. Clean of out of counted by eye; with
// nothing in it what was said is taken away.
type Rating struct {
	Clean   *int       `json:"clean,omitempty" minimum:"0" maximum:"10000"`
	OutOf   *int       `json:"outOf,omitempty" minimum:"1" maximum:"10000"`
	Word    run.Rating `json:"word"`
	Note    string     `json:"note" maxLength:"2000"`
	Version int        `json:"version" minimum:"0" maximum:"2147483646" doc:"that was read; 0 where nothing was said yet"`
	Coach   string     `json:"coach,omitempty" readOnly:"true"`
}

// Said is what a coach says of a strike.
type Said struct {
	Strike  int           `json:"strike" minimum:"0" maximum:"20000" doc:"of the plan, from 0"`
	Verdict judge.Verdict `json:"verdict"`
}

// Correction is what was changed about a judgement.
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

// ratingRow is what a coach says as it is stored.
func (c caller) ratingRow(in Rating) (*store.Rating, error) {
	switch {
	case (in.Clean == nil) != (in.OutOf == nil):
		return nil, input.Refuse("clean", "expected both, so many of so many, or neither")
	case in.Clean != nil && *in.Clean > *in.OutOf:
		return nil, input.Refuse("clean", "expected at most %d, as many as there were", *in.OutOf)
	}
	return &store.Rating{Clean: in.Clean, OutOf: in.OutOf, Word: string(in.Word), Note: in.Note, Version: in.Version,
		Coach: c.Name, CoachID: &c.ID}, nil
}

// rated stores what a coach says.
func (c caller) rated(row *store.Rating, err error) (Rating, error) {
	if err != nil {
		return Rating{}, err
	}
	if err := c.gym.Rate(row); err != nil {
		return Rating{}, err
	}
	return *ratingOut(row), nil
}

// over finds an ended round; one that goes on is refused.
func (c caller) over(id string) (store.Run, run.Opened, error) {
	row, err := c.gym.Run(id)
	if err != nil {
		return row, run.Opened{}, err
	}
	if !run.State(row.State).Over() {
		return row, run.Opened{}, input.Refuse("", "this round is not over yet")
	}
	p, err := ledger.Open(c.gym, row)
	return row, p, err
}

// whereItWas is the floor of a round: its bag as it hung then, for whoever was on it.
func (c caller) whereItWas(row store.Run, p run.Opened) (drill.Floor, error) {
	if row.TraineeID == nil {
		return drill.Floor{}, store.ErrNotFound
	}
	on, _, _, err := c.floor(row.RigID, *row.TraineeID, "")
	on.Bag = p.Bag
	return on, err
}

func (c caller) correct(id string, in Said) (Review, error) {
	row, p, err := c.over(id)
	if err != nil {
		return Review{}, err
	}
	judged, _, err := ledger.Judge(c.gym, row, p, row.ClockUS, c.stop)
	if err != nil {
		return Review{}, err
	}
	if in.Strike >= len(judged.Round.Planned) {
		return Review{}, input.Refuse(
			"strike",
			"expected one of the %d strikes that came due",
			len(judged.Round.Planned),
		)
	}
	return c.reviewed(id, func(gym *store.Gym) error {
		return ledger.Correct(gym, id, judge.Correction{Strike: in.Strike, Verdict: in.Verdict}, c.Coach)
	})
}

// reviewed changes what is said of a round and reviews it. A review that is stopped takes the change back.
func (c caller) reviewed(id string, change func(*store.Gym) error) (v Review, err error) {
	err = c.gym.Together(func(in *store.Gym) error {
		if err := change(in); err != nil {
			return err
		}
		c.gym = in
		v, err = c.review(id)
		return err
	})
	return v, err
}

func (c caller) rejudge(id string, in run.Anew) (Review, error) {
	row, p, err := c.over(id)
	if err != nil {
		return Review{}, err
	}
	on, err := c.whereItWas(row, p)
	if err != nil {
		return Review{}, err
	}
	return c.reviewed(id, func(gym *store.Gym) error { return ledger.Rejudge(gym, row, p, in, on, c.Coach) })
}

func (c caller) takeBack(id, correction string) (Review, error) {
	return c.reviewed(id, func(gym *store.Gym) error { return ledger.TakeBack(gym, id, correction) })
}

// mend gives whoever was on the bag the drill that mends a fault of the round, on the bag as it hangs now.
func (c caller) mend(id string, in Mending) (Mended, error) {
	row, p, err := c.over(id)
	if err != nil {
		return Mended{}, err
	}
	judged, _, err := ledger.Judge(c.gym, row, p, row.ClockUS, c.stop)
	if err != nil {
		return Mended{}, err
	}
	if row.TraineeID == nil {
		return Mended{}, store.ErrNotFound
	}
	on, _, _, err := c.floor(row.RigID, *row.TraineeID, "")
	if err != nil {
		return Mended{}, err
	}
	offer, ok := judged.Mend(in.Code, on)
	if !ok {
		return Mended{}, input.Refuse("code", "expected a fault that this round shows, with a drill for it")
	}
	a, err := ledger.Mend(c.gym, row, offer, on.Bag.Kind(), c.Coach)
	return Mended{a.ID}, err
}

// times brings a table in as the hits of a round that has none of its own.
func (c caller) times(id string, in Times) (TimesIn, error) {
	row, p, err := c.over(id)
	if err != nil {
		return TimesIn{}, err
	}
	if by := drill.Recorder(row.Source); by != drill.Nothing && by != drill.Table {
		hits, err := c.gym.Hits(id)
		if err != nil {
			return TimesIn{}, err
		}
		if len(hits) > 0 {
			return TimesIn{}, huma.Error409Conflict("This round has hits of its own; nothing was brought in.")
		}
	}
	list, err := format.ReadTimes(in.Table)
	if err != nil {
		return TimesIn{}, input.Refuse("table", "%s", err.Error())
	}
	zero := p.Timeline.Start
	if in.Zero == "first" {
		if strikes := judge.Planned(p.Timeline, -1); len(strikes) > 0 {
			zero = drill.Micros((strikes[0].At - list[0].At) * 1e6)
		}
	}
	out := TimesIn{Hits: len(list)}
	shift := (zero - p.Timeline.Start).Seconds()
	out.First, out.Last = list[0].At+shift, list[len(list)-1].At+shift
	for _, t := range list {
		out.Hands, out.Force = out.Hands || t.Hand != "", out.Force || t.Launch > 0
	}
	out.Said = fmt.Sprintf("%d hits, from %.1f to %.1f s after the bell.", out.Hits, out.First, out.Last)
	if zero.Seconds()+list[0].At < 0 {
		return out, input.Refuse("table", "expected no hit before the round was got ready for")
	}
	if in.Dry {
		return out, nil
	}
	return out, ledger.AddTimes(c.gym, id, list, zero)
}

// corrections lists what was changed about the judgement of a round.
func (c caller) corrections(id string) ([]Correction, error) {
	rows, err := c.gym.Corrections(id)
	return eachRow(rows, err, func(r store.Correction) (Correction, error) {
		out := Correction{
			ID:      r.ID,
			At:      r.CreatedAt,
			Coach:   r.Coach,
			Strike:  r.Strike,
			Verdict: judge.Verdict(r.Verdict),
			Reason:  r.Reason,
			Undone:  r.UndoneAt != nil,
		}
		if was := ledger.WasJudged(r); was != nil {
			out.Was = was.Headline
		}
		return out, nil
	})
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
			_, err = c.gym.Run(in.ID)
		}
		return c.rated(row, err)
	})
	put(api, "/api/turns/{id}/rating", func(c caller, in *Addressed[Rating]) (Rating, error) {
		row, err := c.ratingRow(in.Body)
		if err == nil {
			row.TurnID = &in.ID
			_, err = c.gym.Turn(in.ID)
		}
		return c.rated(row, err)
	})
	post(api, "/api/runs/{id}/corrections", func(c caller, in *Addressed[Said]) (Review, error) {
		return c.correct(in.ID, in.Body)
	})
	post(api, "/api/runs/{id}/corrections/{correction}/undo", func(c caller, in *Undoing) (Review, error) {
		return c.takeBack(in.ID, in.Correction)
	})
	post(api, "/api/runs/{id}/rejudge", func(c caller, in *Addressed[run.Anew]) (Review, error) {
		return c.rejudge(in.ID, in.Body)
	})
	post(api, "/api/runs/{id}/remedy", func(c caller, in *Addressed[Mending]) (Mended, error) {
		return c.mend(in.ID, in.Body)
	})
	post(api, "/api/runs/{id}/times", func(c caller, in *Addressed[Times]) (TimesIn, error) {
		return c.times(in.ID, in.Body)
	})
}
