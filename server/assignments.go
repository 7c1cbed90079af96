package server

import (
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/ladder"
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
	Eased        string           `json:"eased,omitempty" readOnly:"true" doc:"what is easier than the rung has it"`
	Own          bool             `json:"own,omitempty" readOnly:"true" doc:"the coach has set it"`
	Doc          DrillDoc         `json:"doc"`
	Figures      []drill.Labelled `json:"figures,omitempty" readOnly:"true"`
	Others       []string         `json:"others,omitempty" readOnly:"true" doc:"names of those who have the same drill"`
	Archived     bool             `json:"archived,omitempty" readOnly:"true"`
}

func (c caller) assignmentOut(a store.Assignment) (Assignment, error) {
	t, err := c.gym.Trainee(a.TraineeID)
	if err != nil {
		return Assignment{}, err
	}
	b, err := c.gym.Rig(a.RigID)
	if err != nil {
		return Assignment{}, err
	}
	p, err := ledger.Given(a, t.Stance)
	if err != nil {
		return Assignment{}, err
	}
	out := Assignment{
		ID: a.ID, DrillID: a.DrillID, Name: a.Drill.Name, Kind: rig.Kind(a.Drill.Kind), RigID: a.RigID,
		TraineeID: a.TraineeID, Trainee: t.Name, Rig: b.Name, Version: a.Version,
		DrillVersion: a.Drill.Version, Rung: a.Drill.Rung, Eased: a.Eased, Own: a.Own, Doc: DrillDoc{Plan: p},
		Figures: p.Figures(), Others: []string{}, Archived: a.ArchivedAt != nil,
	}
	holders, err := c.gym.Holders(a.DrillID)
	seen := map[string]bool{a.TraineeID: true}
	for _, h := range holders {
		if seen[h.TraineeID] {
			continue
		}
		seen[h.TraineeID] = true
		if other, err := c.gym.Trainee(h.TraineeID); err == nil {
			out.Others = append(out.Others, other.Name)
		}
	}
	return out, err
}

// floor is where a plan is laid out: on a bag of the gym, for a trainee, or for somebody of a skill band where none is
// named.
func (c caller) floor(rigID, traineeID, band string) (drill.Floor, store.Rig, store.Trainee, error) {
	row, err := c.gym.Rig(rigID)
	if err != nil {
		return drill.Floor{}, row, store.Trainee{}, err
	}
	bag, place, err := ledger.Rig(row)
	on := drill.Floor{Bag: bag, Place: place, Ability: startOf(band), NoKicks: !c.row.Kicks, Seed: 1, Stop: c.stop}
	if err != nil || traineeID == "" {
		return on, row, store.Trainee{}, err
	}
	t, err := c.gym.Trainee(traineeID)
	if err != nil {
		return on, row, t, err
	}
	on.Theirs = true
	on.Ability, err = ledger.Ability(c.gym, t, bag.Kind(), c.gym.Now())
	return on, row, t, err
}

// checked reads the plan of an assignment and refuses one that its bag does not allow.
func (c caller) checked(in Assignment) (drill.Plan, rig.Kind, error) {
	p, err := in.Doc.Read()
	if err != nil {
		return nil, "", err
	}
	on, _, _, err := c.floor(in.RigID, in.TraineeID, "")
	if err != nil {
		return nil, "", err
	}
	if _, err := p.Lay(on); err != nil {
		return nil, "", input.Under("doc", err)
	}
	return p, on.Bag.Kind(), nil
}

// assign makes a drill and gives it to somebody in one. One that is the same as a drill of the gym is that drill.
func (c caller) assign(id string, in Assignment) (Assignment, error) {
	p, kind, err := c.checked(in)
	if err != nil {
		return Assignment{}, err
	}
	d, err := ledger.DrillRow(strings.TrimSpace(in.Name), kind, p, ladder.Match(p, kind))
	if err != nil {
		return Assignment{}, err
	}
	d.MadeBy = &c.Coach.ID
	_, settings := drill.Open(p)
	a := store.Assignment{ID: id, TraineeID: in.TraineeID, RigID: in.RigID, Own: true, GivenBy: &c.Coach.ID}
	ledger.SetTo(&a, settings)
	err = c.gym.Together(func(gym *store.Gym) error {
		if err := gym.EnsureDrill(&d); err != nil {
			return err
		}
		a.DrillID, a.Drill = d.ID, d
		return gym.AddAssignment(&a)
	})
	if err != nil {
		return Assignment{}, err
	}
	return c.assignmentOut(a)
}

// change stores an assignment anew. What belongs to the person or the bag is set on the assignment; what changes the
// drill itself changes it for everybody who has it, or makes a copy of it, as is said.
func (c caller) change(id string, in Assignment) (Assignment, error) {
	p, kind, err := c.checked(in)
	if err == nil {
		err = wasRead(in.Version)
	}
	if err != nil {
		return Assignment{}, err
	}
	a, err := c.gym.Assignment(id)
	if err != nil {
		return Assignment{}, err
	}
	if a.TraineeID != in.TraineeID {
		return Assignment{}, input.Refuse("traineeId",
			"expected the person whose drill this is: give the drill to others instead")
	}
	was, err := ledger.Named(a.Drill)
	if err != nil {
		return Assignment{}, err
	}
	is := drill.Named{Name: strings.TrimSpace(in.Name), Kind: kind, Plan: p}
	a.RigID, a.Version, a.Own = in.RigID, in.Version, true
	err = c.gym.Together(func(gym *store.Gym) error {
		holders, err := gym.Holders(a.DrillID)
		if err != nil {
			return err
		}
		change, err := drill.Changed(was, is, len(holders), in.Scope)
		if err != nil {
			return err
		}
		if !change.Kept {
			if err := c.changeDrill(gym, &a, in.DrillVersion, is, change.Copied); err != nil {
				return err
			}
			a.Eased = ""
		}
		ledger.SetTo(&a, change.Settings)
		return gym.ChangeAssignment(&a)
	})
	if err != nil {
		return Assignment{}, err
	}
	return c.assignmentOut(a)
}

// changeDrill stores the drill of an assignment anew, over the version that was read, or as another one.
func (c caller) changeDrill(gym *store.Gym, a *store.Assignment, read int, is drill.Named, copied bool) error {
	row, err := ledger.DrillRow(is.Name, is.Kind, is.Plan, ladder.Match(is.Plan, is.Kind))
	if err != nil {
		return err
	}
	if copied {
		row.MadeBy = &c.Coach.ID
		if err := gym.AddDrill(&row); err != nil {
			return err
		}
		a.DrillID = row.ID
		return nil
	}
	if err := wasRead(read); err != nil {
		return err
	}
	row.ID, row.Version = a.DrillID, read
	return gym.ChangeDrill(&row)
}

func (s *Server) registerAssignments(api huma.API) {
	post(api, "/api/assignments", func(c caller, in *Making[Assignment]) (Assignment, error) {
		assign := func() (Assignment, error) { return c.assign(in.Key, in.Body) }
		return made(in.Key, assign, func() (Assignment, error) {
			before, err := c.gym.Assignment(in.Key)
			if err != nil {
				return Assignment{}, err
			}
			in.Body.Version, in.Body.DrillVersion = asMade, before.Drill.Version
			return c.change(in.Key, in.Body)
		})
	})
	get(api, "/api/assignments/{id}", func(c caller, in *ByID) (Assignment, error) {
		row, err := c.gym.Assignment(in.ID)
		if err != nil {
			return Assignment{}, err
		}
		return c.assignmentOut(row)
	})
	put(api, "/api/assignments/{id}", func(c caller, in *Addressed[Assignment]) (Assignment, error) {
		return c.change(in.ID, in.Body)
	})
	command(api, http.MethodDelete, "/api/assignments/{id}",
		func(c caller, in *ByID) error { return c.gym.Archive(&store.Assignment{}, in.ID) })
	command(api, http.MethodPost, "/api/assignments/{id}/restore",
		func(c caller, in *ByID) error { return c.gym.BringBack(&store.Assignment{}, in.ID) })
	get(api, "/api/assignments/{id}/outlook",
		func(c caller, in *ByID) (roster.Outlook, error) { return c.outlook(in.ID) })
}
