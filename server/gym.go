package server

import (
	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/words"
	"melodromos/ledger"
	"melodromos/store"
)

// GymSettings are a gym's units, its borders between slack and tight, in s of the half-power return, its gate and its
// schools.
type GymSettings struct {
	Units   words.Units      `json:"units"`
	Borders rig.Borders      `json:"borders"`
	Kicks   bool             `json:"kicks" doc:"kicks, knees and elbows are trained here"`
	Punches combo.PunchNames `json:"punches" doc:"how they are called"`
	Slips   combo.SlipNames  `json:"slips" doc:"called by lead and rear, or by inside and outside"`
	Gate    ladder.Gate      `json:"gate" doc:"of a rung, before the next"`

	GetReady float64 `json:"getReady" doc:"s, from the last press to the bell"`
}

func bordersOf(g store.GymRow) rig.Borders {
	return rig.Borders{Slack: g.BorderSlack, Head: g.BorderHead, Tight: g.BorderTight}
}

func (s *Server) registerGym(api huma.API) {
	get(api, "/api/gym", func(c caller, _ *nothing) (GymSettings, error) {
		row := c.row
		return GymSettings{words.Units(row.Units), bordersOf(row), row.Kicks, combo.PunchNames(row.PunchNames),
			combo.SlipNames(row.SlipNames), ledger.Gate(row),
			row.GetReady}, nil
	})
	put(api, "/api/gym", func(c caller, in *body[GymSettings]) (GymSettings, error) {
		b, g := in.Body.Borders, in.Body.Gate
		if err := b.Check(); err != nil {
			return in.Body, input.Under("borders", err)
		}
		if err := g.Check(); err != nil {
			return in.Body, input.Under("gate", err)
		}
		if err := drill.GetReady.Check("getReady", in.Body.GetReady); err != nil {
			return in.Body, err
		}
		return in.Body, c.gym.ChangeRow(store.GymRow{
			Units: string(in.Body.Units), BorderSlack: b.Slack, BorderHead: b.Head, BorderTight: b.Tight,
			Kicks: in.Body.Kicks, PunchNames: string(in.Body.Punches), SlipNames: string(in.Body.Slips),
			GetReady:  in.Body.GetReady,
			GateClean: g.Clean, GateRun: g.Run, GateRounds: g.Rounds, GateDays: g.Days, GateADay: g.ADay,
		})
	})
}
