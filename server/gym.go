package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/store"
)

// GymSettings are a gym's units, its borders between slack and tight, in s of the half-power return, and its schools.
type GymSettings struct {
	Units   string      `json:"units" enum:"metric,imperial"`
	Borders rig.Borders `json:"borders"`
	Kicks   bool        `json:"kicks" doc:"kicks, knees and elbows are trained here"`
	Punches string      `json:"punches" enum:"numbers,names" doc:"how they are called"`
	Slips   string      `json:"slips" enum:"sides,inside" doc:"called by lead and rear, or by inside and outside"`
	Gate    GateDoc     `json:"gate" doc:"of a rung, before the next"`
}

func gymSettings(row store.GymRow) GymSettings {
	return GymSettings{row.Units, bordersOf(row), row.Kicks, row.PunchNames, row.SlipNames, GateDoc{row.GateClean, row.GateRun, row.GateRounds}}
}

func (s *Server) registerGym(api huma.API) {
	huma.Get(api, "/api/gym", func(ctx context.Context, _ *struct{}) (*one[GymSettings], error) {
		row := who(ctx).row
		return &one[GymSettings]{gymSettings(row)}, nil
	})
	huma.Put(api, "/api/gym", func(ctx context.Context, in *one[GymSettings]) (*one[GymSettings], error) {
		b := in.Body.Borders
		if err := b.Check(); err != nil {
			return nil, refused(ctx, "body", input.Under("borders", err))
		}
		err := who(ctx).gym.ChangeRow(store.GymRow{
			Units: in.Body.Units, BorderSlack: b.Slack, BorderHead: b.Head, BorderTight: b.Tight,
			Kicks: in.Body.Kicks, PunchNames: in.Body.Punches, SlipNames: in.Body.Slips,
			GateClean: in.Body.Gate.Clean, GateRun: in.Body.Gate.Run, GateRounds: in.Body.Gate.Rounds,
		})
		return single(ctx, in.Body, err, sure(func(g GymSettings) GymSettings { return g }))
	})
}

// inSchool gives a drill that is offered the calls of this gym.
func inSchool(p drill.Plan, gym store.GymRow) drill.Plan {
	c, ok := p.(drill.Combination)
	if !ok {
		return p
	}
	c.Names, c.Inside = gym.PunchNames == "names", gym.SlipNames == "inside"
	return c
}
