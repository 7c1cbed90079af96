package server

import (
	"melodromos/core/bench"
	"melodromos/core/caution"
	"melodromos/core/class"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/run"
	"melodromos/ledger"
)

// StationOut holds the work on one bag in a stretch, for its dial and its sounds.
type StationOut struct {
	Bag      string         `json:"bag"`
	Person   string         `json:"person"`
	Stance   string         `json:"stance"`
	Name     string         `json:"name" doc:"of the drill"`
	Barred   string         `json:"barred" doc:"why nothing is done here; empty where something is"`
	Rig      RigDoc         `json:"rig"`
	Doc      DrillDoc       `json:"doc"`
	Tempo    float64        `json:"tempo"`
	AsFast   bool           `json:"asFast" doc:"the tempo is what was asked for; else the bag does not allow it"`
	Timeline drill.Timeline `json:"timeline" doc:"its bell is the beginning of the stretch"`
	Cycle    bench.Cycle    `json:"cycle"`
}

// stations returns the work on each bag in a stretch.
func (c caller) stations(id string, stretch int) ([]StationOut, error) {
	held, err := c.Class(id)
	if err != nil {
		return nil, err
	}
	list := []StationOut{}
	for _, s := range held.Course.Stretches {
		if s.ID != stretch || s.Rest() {
			continue
		}
		for _, p := range held.Held.Plan.Places(s, held.Held.Plan.Session.Rounds[s.Round].Blocks[s.Block]) {
			out, err := c.station(p)
			if left, err := ledger.Left(c.Gym, err); left {
				out.Barred = "this bag could not be read"
			} else if err != nil {
				return nil, err
			}
			list = append(list, out)
		}
	}
	return list, nil
}

// station lays out what somebody does on a bag; what is refused is said in its place.
func (c caller) station(p class.Spot) (StationOut, error) {
	out := StationOut{Bag: p.Bag, Person: p.Person, Name: p.Name}
	where, err := c.Floor(p.Bag, p.Person, "")
	if err != nil {
		return out, err
	}
	on, t := where.Floor, where.Person
	out.Stance, out.Rig, out.Barred = t.Stance, RigDoc{Rig: on.Bag}, p.Barred
	if p.Plan == nil {
		return out, nil
	}
	cautions, err := ledger.Cautions(c.Gym, p.Person)
	if err != nil {
		return out, err
	}
	plan := drill.InSchool(drill.InStance(p.Plan, combo.Stance(t.Stance)), ledger.Voice(c.Row))
	plan = caution.Spare(cautions, plan, on).Plan
	plan, out.AsFast = class.Paced(plan, p.Pace, on)
	prepared, err := run.For(cautions, plan, on, drill.Nothing, "")
	if err != nil {
		if err := c.Stop(); err != nil {
			return out, err
		}
		out.Barred = err.Error()
		return out, nil
	}
	opened := run.Opened{Bag: on.Bag, Plan: prepared.Plan, Timeline: prepared.Timeline, By: drill.Nothing,
		Plays: prepared.Plays}
	out.Doc, out.Tempo, out.Timeline = DrillDoc{Plan: prepared.Plan}, opened.Tempo(), prepared.Timeline
	out.Timeline.Bag, out.Timeline.Beyond = nil, nil // nothing follows hits here
	out.Cycle, err = opened.Cycle()
	return out, internal(err)
}
