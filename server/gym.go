package server

import (
	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/ledger"
	"melodromos/store"
)

// GymSettings are a gym's units, its borders between slack and tight, in s of the half-power return, its gate and its schools.
type GymSettings struct {
	Units   string      `json:"units" enum:"metric,imperial"`
	Borders rig.Borders `json:"borders"`
	Kicks   bool        `json:"kicks" doc:"kicks, knees and elbows are trained here"`
	Punches string      `json:"punches" enum:"numbers,names" doc:"how they are called"`
	Slips   string      `json:"slips" enum:"sides,inside" doc:"called by lead and rear, or by inside and outside"`
	Gate    ladder.Gate `json:"gate" doc:"of a rung, before the next"`
}

func bordersOf(g store.GymRow) rig.Borders {
	return rig.Borders{Slack: g.BorderSlack, Head: g.BorderHead, Tight: g.BorderTight}
}

func (s *Server) registerGym(api huma.API) {
	read(api, "/api/gym", func(c caller, _ *nothing) (GymSettings, error) {
		row := c.row
		return GymSettings{row.Units, bordersOf(row), row.Kicks, row.PunchNames, row.SlipNames, ledger.Gate(row)}, nil
	})
	replace(api, "/api/gym", func(c caller, in *one[GymSettings]) (GymSettings, error) {
		b, g := in.Body.Borders, in.Body.Gate
		if err := b.Check(); err != nil {
			return in.Body, input.Under("borders", err)
		}
		if err := g.Check(); err != nil {
			return in.Body, input.Under("gate", err)
		}
		return in.Body, c.gym.ChangeRow(store.GymRow{
			Units: in.Body.Units, BorderSlack: b.Slack, BorderHead: b.Head, BorderTight: b.Tight,
			Kicks: in.Body.Kicks, PunchNames: in.Body.Punches, SlipNames: in.Body.Slips,
			GateClean: g.Clean, GateRun: g.Run, GateRounds: g.Rounds, GateDays: g.Days, GateADay: g.ADay,
		})
	})
}
