package server

import (
	"cmp"
	"context"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/core/ladder"
	"melodromos/store"
)

// Next is a drill that stands to be run.
type Next struct {
	DrillID   string         `json:"drillId"`
	DrillName string         `json:"drillName"`
	TraineeID string         `json:"traineeId"`
	Trainee   string         `json:"trainee"`
	RigID     string         `json:"rigId"`
	RigName   string         `json:"rigName"`
	Doc       DrillDoc       `json:"doc"`
	Figures   []drill.Figure `json:"figures" doc:"the few that tell it apart at a glance"`
	Why       string         `json:"why"`
	Through   bool           `json:"through" doc:"the last run passed the gate"`
	Held      string         `json:"held" doc:"why a caution holds it back; empty where none does"`
	Last      *LogRow        `json:"last,omitempty"`
}

// Today is what the first page shows.
type Today struct {
	Next   []Next   `json:"next"`
	Recent []LogRow `json:"recent"`
	Rigs   int      `json:"rigs"`
	People int      `json:"people"`
}

func (s *Server) registerToday(api huma.API) {
	huma.Get(api, "/api/today", func(ctx context.Context, _ *struct{}) (*one[Today], error) {
		t, err := today(who(ctx))
		return single(ctx, t, err, sure(func(t Today) Today { return t }))
	})
}

func today(c caller) (Today, error) {
	gym := c.gym
	n, err := namesOf(gym)
	if err != nil {
		return Today{}, err
	}
	drills, err := gym.Drills()
	if err != nil {
		return Today{}, err
	}
	last, err := gym.LastRuns()
	if err != nil {
		return Today{}, err
	}
	cl, err := classOf(c, "")
	if err != nil {
		return Today{}, err
	}
	byDrill := map[string]Next{}
	var order []ladder.Given
	for _, row := range drills {
		d, err := drillOut(row)
		if err != nil {
			return Today{}, err
		}
		given := ladder.Given{Drill: row.ID}
		next := Next{DrillID: row.ID, DrillName: row.Name, TraineeID: row.TraineeID, Trainee: n.trainees[row.TraineeID], RigID: row.RigID, RigName: n.rigs[row.RigID], Doc: d.Doc, Figures: d.Figures}
		if run, ok := last[row.ID]; ok {
			entry := n.logRow(run)
			next.Last = &entry
			given.Last, given.Counts, given.Clean, given.Longest = run.CreatedAt, entry.Summary.Counts, entry.Summary.Share, entry.Summary.Longest
		}
		next.Why, next.Through = given.Sentence(), given.Through()
		if next.Held = cl.held(row, d.Doc.Plan); next.Held != "" {
			next.Why = "Held back: " + next.Held + "."
		}
		byDrill[row.ID] = next
		order = append(order, given)
	}
	ladder.Order(order)
	t := Today{Next: []Next{}, Recent: []LogRow{}, Rigs: len(n.rigs), People: len(n.trainees)}
	for _, g := range order {
		t.Next = append(t.Next, byDrill[g.Drill])
	}
	slices.SortStableFunc(t.Next, func(a, b Next) int { // what is held back comes last
		return cmp.Compare(min(1, len(a.Held)), min(1, len(b.Held)))
	})
	recent, err := gym.Runs(store.RunFilter{Limit: 6})
	if err != nil {
		return Today{}, err
	}
	for _, r := range recent {
		t.Recent = append(t.Recent, n.logRow(r))
	}
	return t, nil
}
