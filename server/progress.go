package server

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/progress"
	"melodromos/core/run"
	"melodromos/ledger"
)

// TiredBag is a bag that comes back later from week to week.
type TiredBag struct {
	RigID string `json:"rigId"`
	Said  string `json:"said"`
}

// inClasses adds what somebody, or everybody where the id is empty, did on bags in classes.
func (c caller) inClasses(l *progress.Log, traineeID string, since time.Time) error {
	turns, err := c.Gym.TurnsOf(traineeID, since)
	if err != nil || len(turns) == 0 {
		return err
	}
	bags, err := ledger.Bags(c.Gym, c.Row, c.Stop)
	if err != nil {
		return err
	}
	for _, t := range turns {
		r := progress.LogRound{Trainee: t.TraineeID,
			PastRound: run.PastRound{At: t.At, Lasted: float64(t.Seconds), InClass: true}}
		if b := bags.Bag(*t.RigID); b != nil {
			r.Bag, r.BagName, r.Kind = b.ID, b.Name, b.Rig.Kind()
			l.Rounds = append(l.Rounds, r)
		}
	}
	l.Sort()
	return nil
}

func (c caller) progress(traineeID string) (progress.Report, error) {
	now := c.Gym.Now()
	since := time.Time{}
	if traineeID == "" {
		since = now.AddDate(0, 0, -ledger.GymLooksBack)
	} else if _, err := c.Gym.Trainee(traineeID); err != nil {
		return progress.Report{}, err
	}
	l, err := ledger.Progress(c.Gym, c.Row, traineeID, since, now)
	if err == nil {
		err = c.inClasses(&l, traineeID, since)
	}
	return progress.Of(l), err
}

// export writes all that is kept of somebody.
func (c caller) export(id string) (*huma.StreamResponse, error) {
	t, err := c.Gym.Trainee(id)
	if err != nil {
		return nil, err
	}
	whole, err := ledger.Export(c.Gym, t)
	if err != nil {
		return nil, err
	}
	return &huma.StreamResponse{Body: func(ctx huma.Context) {
		ctx.SetHeader("Content-Type", "application/json")
		ctx.SetHeader("Content-Disposition", fmt.Sprintf("attachment; filename=%q", "melodromos-"+t.ID[:8]+".json"))
		out := json.NewEncoder(ctx.BodyWriter())
		out.SetIndent("", "  ")
		_ = out.Encode(whole)
	}}, nil
}

func (c caller) tired() ([]TiredBag, error) {
	rows, err := ledger.TiredBags(c.Gym)
	return eachRow(rows, err, func(t ledger.Tired) (TiredBag, error) { return TiredBag{t.RigID, t.Said}, nil })
}

func (s *Server) registerProgress(api huma.API) {
	get(api, "/api/progress", func(c caller, _ *nothing) (progress.Report, error) { return c.progress("") })
	get(api, "/api/trainees/{id}/progress", func(c caller, in *ByID) (progress.Report, error) {
		return c.progress(in.ID)
	})
	huma.Get(api, "/api/trainees/{id}/export", func(ctx context.Context, in *ByID) (*huma.StreamResponse, error) {
		out, err := callerOf(ctx).export(in.ID)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		return out, nil
	})
}
