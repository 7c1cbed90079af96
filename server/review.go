package server

import (
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/answer"
	"melodromos/core/fault"
	"melodromos/core/judge"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/ledger"
	"melodromos/store"
)

// Review is a judged run.
type Review struct {
	Run       Run        `json:"run"`
	StartedAt *time.Time `json:"startedAt"`
	Zone      string     `json:"zone"`
	UntilUS   int64      `json:"untilUs" doc:"how far the run came"`
	Predicted *float64   `json:"predicted" doc:"share that was to meet the bag, by the models alone"`
	run.Review
	Rating      *Rating      `json:"rating" doc:"what the coach says of it; null where nothing was said"`
	Corrections []Correction `json:"corrections" doc:"what was changed about its judgement, the oldest first"`
}

// LogRow is a run in the log.
type LogRow struct {
	ID           string       `json:"id"`
	AssignmentID string       `json:"assignmentId" doc:"empty where it is gone"`
	DrillName    string       `json:"drillName"`
	Trainee      string       `json:"trainee" doc:"empty where the person was erased"`
	TraineeID    string       `json:"traineeId"`
	RigName      string       `json:"rigName"`
	State        run.State    `json:"state"`
	Ending       judge.Ended  `json:"ending"`
	StartedAt    *time.Time   `json:"startedAt"`
	CreatedAt    time.Time    `json:"createdAt"`
	Zone         string       `json:"zone"`
	Summary      *run.Summary `json:"summary,omitempty"`
	First        string       `json:"first,omitempty" doc:"the most costly fault"`
	Rating       *Rating      `json:"rating,omitempty"`
	Brought      bool         `json:"brought" doc:"it came in as a table: there is nothing to review but its figures"`
}

// LogQuestion narrows the log.
type LogQuestion struct {
	Trainee string    `query:"trainee" doc:"only this trainee's"`
	Search  string    `query:"search" maxLength:"120" doc:"words that stand in the name of the person, the drill or the bag"`
	Kind    rig.Kind  `query:"kind" doc:"of bag"`
	From    time.Time `query:"from" doc:"only runs made then or later"`
	Before  time.Time `query:"before" doc:"only runs made before"`
	Removed bool      `query:"removed" doc:"those that were removed from the log, instead of the others"`
	Limit   int       `query:"limit" minimum:"1" maximum:"200" default:"50"`
}

func logRow(r store.Logged) (LogRow, error) {
	row := LogRow{
		ID: r.ID, DrillName: r.DrillName, Trainee: r.Trainee, RigName: r.Rig, State: run.State(r.State),
		Ending:    judge.Ended(r.Ending),
		StartedAt: r.StartedAt, CreatedAt: r.CreatedAt, Zone: r.Zone, Brought: r.BroughtAt != nil,
	}
	if r.AssignmentID != nil {
		row.AssignmentID = *r.AssignmentID
	}
	if r.TraineeID != nil {
		row.TraineeID = *r.TraineeID
	}
	if r.Outcome != nil {
		sum := ledger.Summary(*r.Outcome, judge.Ended(r.Ending))
		row.Summary = &sum
	}
	row.First, row.Rating = fault.Code(r.First).Name(), ratingOut(r.Rating)
	return row, nil
}

func (c caller) reviewOut(r ledger.Reviewed, err error) (Review, error) {
	if err != nil {
		return Review{}, err
	}
	v := Review{
		StartedAt: r.StartedAt,
		Zone:      r.Zone,
		Predicted: r.Predicted,
		Review:    r.Judged.Review(r.Floor, c.units()),
		Rating:    ratingOut(r.Rating),
		UntilUS:   int64(r.Until),
	}
	v.Compared = r.Judged.Compared(r.Predicted)
	if v.Run, err = runOut(c.Gym, r.Round); err != nil {
		return v, err
	}
	v.Run.ClockUS = v.UntilUS
	if v.Corrections, err = eachRow(r.Corrections, nil, func(k store.Correction) (Correction, error) {
		return correctionOut(k, judge.Ended(r.Ending)), nil
	}); err != nil {
		return v, err
	}
	v.Run.Cycle.Starts = answer.List(v.Starts)
	return v, nil
}

func (s *Server) registerReview(api huma.API) {
	get(api, "/api/runs/{id}/review", func(c caller, in *ByID) (Review, error) { return c.reviewOut(c.Review(in.ID)) })
	get(api, "/api/runs", func(c caller, in *LogQuestion) ([]LogRow, error) {
		rows, err := c.Log(store.RunFilter{TraineeID: in.Trainee, Before: in.Before, Removed: in.Removed,
			Search: in.Search, Kind: string(in.Kind), From: in.From, Limit: in.Limit})
		return eachRow(rows, err, logRow)
	})
}
