package server

import (
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/ledger"
	"melodromos/store"
)

// Drill is one of the gym's drills for a kind of bag, with force, tempo and pull left open.
type Drill struct {
	ID       string           `json:"id" readOnly:"true"`
	Name     string           `json:"name" maxLength:"120" doc:"left empty, the drill's own words"`
	Kind     rig.Kind         `json:"kind" doc:"of the bag"`
	Version  int              `json:"version" minimum:"0" maximum:"2147483646" doc:"the one that was read, on a change"`
	Rung     string           `json:"rung,omitempty" readOnly:"true" doc:"of the ladder that it is the drill of"`
	Doc      DrillDoc         `json:"doc"`
	Figures  []drill.Labelled `json:"figures,omitempty" readOnly:"true"`
	Archived bool             `json:"archived,omitempty" readOnly:"true"`
	Holders  []Holder         `json:"holders,omitempty" readOnly:"true" doc:"who has it"`
}

// Holder is somebody who has a drill on a bag.
type Holder struct {
	AssignmentID string `json:"assignmentId"`
	TraineeID    string `json:"traineeId"`
	Trainee      string `json:"trainee"`
	RigID        string `json:"rigId"`
	Rig          string `json:"rig"`
}

// drillOut translates a drill.
func drillOut(d store.Drill) (Drill, error) {
	p, err := ledger.Plan(d)
	if err != nil {
		return Drill{}, err
	}
	return Drill{ID: d.ID, Name: d.Name, Kind: rig.Kind(d.Kind), Version: d.Version, Rung: d.Rung,
		Doc: DrillDoc{Plan: p}, Figures: p.Figures(), Archived: d.ArchivedAt != nil}, nil
}

// row checks a drill, and names the rung that it is the drill of.
func (d Drill) row(id string) (store.Drill, error) {
	p, err := d.Doc.Read()
	if err != nil {
		return store.Drill{}, err
	}
	kind := rig.Kind(d.Kind)
	if _, ok := p.(drill.SpeedBagDrill); ok && kind != rig.Speed {
		return store.Drill{}, input.Refuse("kind",
			"expected the speed bag: its techniques go by the board, and no other bag has one")
	}
	if err := p.Check(); err != nil {
		return store.Drill{}, input.Under("doc", err)
	}
	row, err := ledger.DrillRow(strings.TrimSpace(d.Name), kind, p, ladder.Match(p, kind))
	row.ID, row.Version = id, d.Version
	return row, err
}

// drills lists the gym's drills with whoever has them.
func (c caller) drills(shelf store.Shelf) ([]Drill, error) {
	rows, err := c.Gym.Drills(shelf)
	list, err := readable(c, rows, err, drillOut)
	if err != nil {
		return nil, err
	}
	holders, err := c.Holders()
	for i := range list {
		list[i].Holders, err = eachRow(holders[list[i].ID], err, func(h ledger.Holder) (Holder, error) {
			return Holder{h.ID, h.TraineeID, h.Person, h.RigID, h.Bag}, nil
		})
	}
	return list, err
}

// changeDrillItself stores a drill over the version that was read, for everybody who has it.
func (c caller) changeDrillItself(id string, in Drill) (Drill, error) {
	row, err := in.row(id)
	if err == nil {
		err = ledger.WasRead(in.Version)
	}
	if err == nil {
		err = c.Gym.ChangeDrill(&row)
	}
	if err != nil {
		return Drill{}, err
	}
	return drillOut(row)
}

func (s *Server) registerDrills(api huma.API) {
	get(api, "/api/drills", func(c caller, in *Shelf) ([]Drill, error) { return c.drills(in.stored()) })
	post(api, "/api/drills", func(c caller, in *Making[Drill]) (Drill, error) {
		return made(in.Key, func() (Drill, error) {
			row, err := in.Body.row(in.Key)
			if err == nil {
				row.MadeBy = &c.Coach.ID
				err = c.Gym.AddDrill(&row)
			}
			if err != nil {
				return Drill{}, err
			}
			return drillOut(row)
		}, func() (Drill, error) {
			in.Body.Version = asMade
			return c.changeDrillItself(in.Key, in.Body)
		})
	})
	get(api, "/api/drills/{id}", func(c caller, in *ByID) (Drill, error) {
		row, err := c.Gym.Drill(in.ID)
		if err != nil {
			return Drill{}, err
		}
		return drillOut(row)
	})
	command(api, http.MethodDelete, "/api/drills/{id}",
		func(c caller, in *ByID) error { return c.Gym.Archive(&store.Drill{}, in.ID) })
	command(api, http.MethodPost, "/api/drills/{id}/restore",
		func(c caller, in *ByID) error { return c.Gym.BringBack(&store.Drill{}, in.ID) })
	post(api, "/api/drills/{id}/copy", func(c caller, in *ByID) (Drill, error) {
		row, err := c.CopyDrill(in.ID)
		if err != nil {
			return Drill{}, err
		}
		return drillOut(row)
	})
	post(api, "/api/drills/{id}/give", func(c caller, in *Addressed[Giving]) ([]GivenOut, error) {
		list, err := c.GiveAll(in.ID, in.Body.People, in.Body.RigID)
		return eachRow(list, err, func(g ledger.GivenTo) (GivenOut, error) {
			return GivenOut{g.TraineeID, g.Name, g.AssignmentID, g.Why}, nil
		})
	})
	post(api, "/api/drills/{id}/carry",
		func(c caller, in *Addressed[ToKind]) (CarriedOver, error) { return c.carried(in.ID, in.Body.Kind) })
}
