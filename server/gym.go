package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/store"
)

// GymSettings are a gym's units and its borders between slack and tight, in s of the half-power return.
type GymSettings struct {
	Units   string      `json:"units" enum:"metric,imperial"`
	Borders rig.Borders `json:"borders"`
}

func (s *Server) registerGym(api huma.API) {
	huma.Get(api, "/api/gym", func(ctx context.Context, _ *struct{}) (*one[GymSettings], error) {
		row := who(ctx).row
		return &one[GymSettings]{GymSettings{row.Units, bordersOf(row)}}, nil
	})
	huma.Put(api, "/api/gym", func(ctx context.Context, in *one[GymSettings]) (*one[GymSettings], error) {
		b := in.Body.Borders
		if err := b.Check(); err != nil {
			return nil, refused(ctx, "body", input.Under("borders", err))
		}
		err := who(ctx).gym.ChangeRow(store.GymRow{Units: in.Body.Units, BorderSlack: b.Slack, BorderHead: b.Head, BorderTight: b.Tight})
		return single(ctx, in.Body, err, sure(func(g GymSettings) GymSettings { return g }))
	})
}
