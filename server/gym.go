package server

import (
	"github.com/danielgtaylor/huma/v2"

	"melodromos/account"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/words"
	"melodromos/ledger"
	"melodromos/store"
)

// GymSettings are a gym's name, units, time zone, its borders between slack and tight, in s of the half-power return,
// its gate and its schools.
type GymSettings struct {
	Version int              `json:"version" minimum:"0" maximum:"2147483646" doc:"the one that was read, on a change"`
	Name    string           `json:"name" minLength:"1" maxLength:"120"`
	Zone    string           `json:"zone" maxLength:"64" doc:"of its clock, by its IANA name"`
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
		return gymOut(c.Row), nil
	})
	put(api, "/api/gym", func(c caller, in *body[GymSettings]) (GymSettings, error) {
		row, err := in.Body.row()
		if err == nil {
			err = ledger.WasRead(in.Body.Version)
		}
		if err == nil {
			row, err = c.ChangeGym(row)
		}
		return gymOut(row), err
	})
}

func gymOut(row store.GymRow) GymSettings {
	return GymSettings{row.Version, row.Name, row.Zone, words.Units(row.Units), bordersOf(row), row.Kicks,
		combo.PunchNames(row.PunchNames), combo.SlipNames(row.SlipNames), ledger.Gate(row), row.GetReady}
}

// row refuses settings that cannot be.
func (s GymSettings) row() (store.GymRow, error) {
	b, g := s.Borders, s.Gate
	name, err := input.Name("name", s.Name)
	if err == nil {
		err = account.Zone(s.Zone)
	}
	if err == nil {
		err = input.Under("borders", b.Check())
	}
	if err == nil {
		err = input.Under("gate", g.Check())
	}
	if err == nil {
		err = drill.GetReady.Check("getReady", s.GetReady)
	}
	return store.GymRow{
		Version: s.Version, Name: name, Zone: s.Zone, Units: string(s.Units),
		BorderSlack: b.Slack, BorderHead: b.Head, BorderTight: b.Tight,
		Kicks: s.Kicks, PunchNames: string(s.Punches), SlipNames: string(s.Slips),
		GetReady:  s.GetReady,
		GateClean: g.Clean, GateRun: g.Streak, GateRounds: g.Rounds, GateDays: g.Days, GateADay: g.ADay,
	}, err
}
