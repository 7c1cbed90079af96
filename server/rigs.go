package server

import (
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/bench"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/ledger"
	"melodromos/store"
)

// Rig is a rig of the gym. Version is the one that was read; a change over another version is refused.
type Rig struct {
	ID         string    `json:"id" readOnly:"true"`
	Name       string    `json:"name" minLength:"1" maxLength:"120"`
	Version    int       `json:"version" minimum:"0" maximum:"2147483646" doc:"the one that was read, on a change"`
	Doc        RigDoc    `json:"doc"`
	Place      PlaceDoc  `json:"place,omitempty"`
	Sentence   string    `json:"sentence,omitempty" readOnly:"true" doc:"the everyday tempo at half the power of somebody in the middle"`
	Wrong      []string  `json:"wrong,omitempty" readOnly:"true" doc:"what is wrong with it, whoever uses it"`
	MeasuredAt time.Time `json:"measuredAt,omitzero" readOnly:"true" doc:"when a measure was last changed"`
	Archived   bool      `json:"archived,omitempty" readOnly:"true"`

	FromRounds *bench.FromRounds `json:"fromRounds,omitempty" readOnly:"true" doc:"told where one rig is asked for"`
}

// Shelf asks for what was archived, in place of what is in use.
type Shelf struct {
	Archived bool `query:"archived"`
}

func (s Shelf) stored() store.Shelf {
	if s.Archived {
		return store.Archived
	}
	return store.InUse
}

func (c caller) rigOut(r store.Rig) (Rig, error) {
	bag, place, err := ledger.Rig(r)
	if err != nil {
		return Rig{}, err
	}
	look, err := bench.Look(bag, place, c.units())
	if err != nil {
		return Rig{}, ledger.NotReadable(r, err)
	}
	return Rig{
		ID: r.ID, Name: r.Name, Version: r.Version, Doc: RigDoc{Rig: bag}, Place: PlaceDoc{Place: place},
		Sentence: look.Sentence, Wrong: look.Wrong, MeasuredAt: r.MeasuredAt, Archived: r.ArchivedAt != nil,
	}, nil
}

func (r Rig) row(id string) (*store.Rig, error) {
	bag, err := r.Doc.Read()
	if err != nil {
		return nil, input.Under("doc", err)
	}
	place, err := r.Place.Read()
	if err != nil {
		return nil, input.Under("place", err)
	}
	name, err := input.Name("name", r.Name)
	if err != nil {
		return nil, err
	}
	return ledger.RigRow(id, name, r.Version, bag, place)
}

// changeRig stores a rig anew. One that runs and assignments refer to keeps its kind.
func (c caller) changeRig(id string, in Rig) (Rig, error) {
	row, err := in.row(id)
	if err == nil {
		err = ledger.WasRead(in.Version)
	}
	if err != nil {
		return Rig{}, err
	}
	return c.changedRig(row, c.ChangeRig(row))
}

func (c caller) changedRig(row *store.Rig, err error) (Rig, error) {
	if err != nil {
		return Rig{}, err
	}
	return c.rigOut(*row)
}

func (s *Server) registerRigs(api huma.API) {
	get(api, "/api/kinds", func(caller, *nothing) ([]rig.Model, error) { return rig.Models(), nil })
	get(api, "/api/rigs", func(c caller, in *Shelf) ([]Rig, error) {
		rows, err := c.Gym.Rigs(in.stored())
		return readable(c, rows, err, c.rigOut)
	})
	post(api, "/api/rigs", func(c caller, in *Making[Rig]) (Rig, error) {
		return made(in.Key, func() (Rig, error) {
			row, err := in.Body.row(in.Key)
			if err == nil {
				err = c.Gym.AddRig(row)
			}
			if err != nil {
				return Rig{}, err
			}
			return c.rigOut(*row)
		}, func() (Rig, error) {
			in.Body.Version = asMade
			return c.changeRig(in.Key, in.Body)
		})
	})
	get(api, "/api/rigs/{id}", func(c caller, in *ByID) (Rig, error) {
		row, err := c.Gym.Rig(in.ID)
		if err != nil {
			return Rig{}, err
		}
		out, err := c.rigOut(row)
		if err != nil {
			return out, err
		}
		rounds, err := ledger.RoundsOn(c.Gym, row)
		out.FromRounds = bench.Agreed(out.Doc.Rig, rounds)
		return out, err
	})
	put(api, "/api/rigs/{id}", func(c caller, in *Addressed[Rig]) (Rig, error) { return c.changeRig(in.ID, in.Body) })
	command(api, http.MethodDelete, "/api/rigs/{id}",
		func(c caller, in *ByID) error { return c.Gym.Archive(&store.Rig{}, in.ID) })
	command(api, http.MethodPost, "/api/rigs/{id}/restore",
		func(c caller, in *ByID) error { return c.Gym.BringBack(&store.Rig{}, in.ID) })
}
