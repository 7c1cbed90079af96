package server

import (
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/roster"
	"melodromos/ledger"
	"melodromos/store"
)

// Assignment is a drill that somebody has on a bag. Doc is the drill with its settings: what the composer and the
// editor work on.
type Assignment struct {
	ID           string           `json:"id" readOnly:"true"`
	DrillID      string           `json:"drillId" readOnly:"true"`
	Name         string           `json:"name" maxLength:"120" doc:"of the drill; left empty, its own words"`
	Kind         rig.Kind         `json:"kind,omitempty" readOnly:"true" doc:"of the bag"`
	RigID        string           `json:"rigId" format:"uuid"`
	TraineeID    string           `json:"traineeId" format:"uuid"`
	Trainee      string           `json:"trainee,omitempty" readOnly:"true"`
	Rig          string           `json:"rig,omitempty" readOnly:"true"`
	Version      int              `json:"version" minimum:"0" maximum:"2147483646" doc:"the one that was read, on a change"`
	DrillVersion int              `json:"drillVersion" minimum:"0" maximum:"2147483646" required:"false" doc:"of the drill, the one that was read, on a change"`
	Scope        drill.Scope      `json:"scope,omitempty" doc:"where others have the drill as well and it is changed: for all of them, or as a copy for this person"`
	Rung         string           `json:"rung,omitempty" readOnly:"true" doc:"of the ladder that it is the drill of"`
	Eased        level.OneThing   `json:"eased,omitempty" readOnly:"true" doc:"what is easier than the rung has it"`
	Own          bool             `json:"own,omitempty" readOnly:"true" doc:"the coach has set it"`
	Doc          DrillDoc         `json:"doc"`
	Figures      []drill.Labelled `json:"figures,omitempty" readOnly:"true"`
	Others       []string         `json:"others,omitempty" readOnly:"true" doc:"names of those who have the same drill"`
	Archived     bool             `json:"archived,omitempty" readOnly:"true"`
}

func assignmentOut(a ledger.Assignment, err error) (Assignment, error) {
	if err != nil {
		return Assignment{}, err
	}
	return Assignment{
		ID: a.ID, DrillID: a.DrillID, Name: a.Drill.Name, Kind: rig.Kind(a.Drill.Kind), RigID: a.RigID,
		TraineeID: a.TraineeID, Trainee: a.Person.Name, Rig: a.Bag.Name, Version: a.Version,
		DrillVersion: a.Drill.Version, Rung: a.Drill.Rung, Eased: a.Eased, Own: a.Own, Doc: DrillDoc{Plan: a.Plan},
		Figures: a.Plan.Figures(), Others: a.Others, Archived: a.ArchivedAt != nil,
	}, nil
}

// wish reads what is written of a drill for somebody.
func (a Assignment) wish() (ledger.Wish, error) {
	p, err := a.Doc.Read()
	return ledger.Wish{TraineeID: a.TraineeID, RigID: a.RigID, Name: a.Name, Plan: p, Version: a.Version,
		DrillVersion: a.DrillVersion, Scope: a.Scope}, err
}

func (c caller) assign(id string, in Assignment) (Assignment, error) {
	w, err := in.wish()
	if err != nil {
		return Assignment{}, err
	}
	return assignmentOut(c.Assign(id, w))
}

func (c caller) change(id string, in Assignment) (Assignment, error) {
	w, err := in.wish()
	if err != nil {
		return Assignment{}, err
	}
	return assignmentOut(c.ChangeAssignment(id, w))
}

func (s *Server) registerAssignments(api huma.API) {
	post(api, "/api/assignments", func(c caller, in *Making[Assignment]) (Assignment, error) {
		assign := func() (Assignment, error) { return c.assign(in.Key, in.Body) }
		return made(in.Key, assign, func() (Assignment, error) {
			before, err := c.Assignment(in.Key)
			if err != nil {
				return Assignment{}, err
			}
			in.Body.Version, in.Body.DrillVersion = asMade, before.Drill.Version
			return c.change(in.Key, in.Body)
		})
	})
	get(api, "/api/assignments/{id}", func(c caller, in *ByID) (Assignment, error) {
		return assignmentOut(c.Assignment(in.ID))
	})
	put(api, "/api/assignments/{id}", func(c caller, in *Addressed[Assignment]) (Assignment, error) {
		return c.change(in.ID, in.Body)
	})
	command(api, http.MethodDelete, "/api/assignments/{id}",
		func(c caller, in *ByID) error { return c.Gym.Archive(&store.Assignment{}, in.ID) })
	command(api, http.MethodPost, "/api/assignments/{id}/restore",
		func(c caller, in *ByID) error { return c.Gym.BringBack(&store.Assignment{}, in.ID) })
	get(api, "/api/assignments/{id}/outlook",
		func(c caller, in *ByID) (roster.Outlook, error) { return c.Outlook(in.ID) })
}
