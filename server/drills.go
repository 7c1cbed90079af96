package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/bench"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
	"melodromos/store"
)

// DrillDoc is a drill's document.
type DrillDoc struct {
	Version int `json:"version,omitempty"`
	drill.Drill
}

// Drill is what one trainee does on one rig.
type Drill struct {
	ID        string   `json:"id" readOnly:"true"`
	Name      string   `json:"name" maxLength:"120" doc:"left empty, the drill's own words"`
	RigID     string   `json:"rigId" format:"uuid"`
	TraineeID string   `json:"traineeId" format:"uuid"`
	Version   int      `json:"version"`
	Doc       DrillDoc `json:"doc"`
}

func drillOut(d store.Drill) (Drill, error) {
	doc, err := drill.Decode(d.Doc)
	if err != nil {
		return Drill{}, fmt.Errorf("stored drill %s: %w", d.ID, asInternal(err))
	}
	return Drill{d.ID, d.Name, d.RigID, d.TraineeID, d.Version, DrillDoc{drill.Version, doc}}, nil
}

// row checks a drill against the bag it is for: one that the bag does not allow is not stored.
func (d Drill) row(gym *store.Gym, id string) (*store.Drill, error) {
	bag, _, err := gymBag(gym, d.RigID)
	if err != nil {
		return nil, err
	}
	if _, err := gym.Trainee(d.TraineeID); err != nil {
		return nil, err
	}
	if _, err := drill.Compile(d.Doc.Drill, bag); err != nil {
		return nil, input.Under("doc", err)
	}
	doc, err := json.Marshal(d.Doc.Drill)
	name := d.Name
	if name == "" {
		name = d.Doc.Name()
	}
	return &store.Drill{ID: id, Name: name, RigID: d.RigID, TraineeID: d.TraineeID, Doc: doc, Version: d.Version}, err
}

// gymBag reads a speed bag of the gym: drills are for these so far.
func gymBag(gym *store.Gym, id string) (rig.SpeedBag, store.Rig, error) {
	row, err := gym.Rig(id)
	if err != nil {
		return rig.SpeedBag{}, row, err
	}
	r, err := rig.Read(input.Parse(row.Doc))
	if err != nil {
		return rig.SpeedBag{}, row, fmt.Errorf("stored rig %s: %w", id, asInternal(err))
	}
	bag, ok := r.(rig.SpeedBag)
	if !ok {
		return bag, row, input.Refuse("rigId", "expected a speed bag: drills are programmed on speed bags so far")
	}
	return bag, row, nil
}

// DrillQuestion asks what a drill would be like on a bag of the gym, for somebody of a skill band.
type DrillQuestion struct {
	RigID string   `json:"rigId" format:"uuid"`
	Band  string   `json:"band,omitempty"`
	Doc   DrillDoc `json:"doc"`
}

// DrillPreview is what a drill would be like, before it is saved.
type DrillPreview struct {
	Name     string      `json:"name"`
	Strikes  int         `json:"strikes"`
	Seconds  float64     `json:"seconds" doc:"from bell to bell"`
	CountIn  float64     `json:"countIn" doc:"s"`
	Pattern  []string    `json:"pattern" doc:"hands of one pattern"`
	Bench    BenchAnswer `json:"bench"`
	Problem  string      `json:"problem,omitempty" doc:"why it cannot be run, where it cannot"`
	Field    string      `json:"field,omitempty" doc:"the field the problem lies in"`
	Sentence string      `json:"sentence"`
}

func (s *Server) registerDrills(api huma.API) {
	huma.Get(api, "/api/drills", func(ctx context.Context, _ *struct{}) (*many[Drill], error) {
		rows, err := who(ctx).gym.Drills()
		return listed(ctx, rows, err, drillOut)
	})
	huma.Post(api, "/api/drills", func(ctx context.Context, in *one[Drill]) (*one[Drill], error) {
		gym := who(ctx).gym
		row, err := in.Body.row(gym, "")
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		err = gym.AddDrill(row)
		return single(ctx, *row, err, drillOut)
	})
	huma.Get(api, "/api/drills/{id}", func(ctx context.Context, in *ByID) (*one[Drill], error) {
		row, err := who(ctx).gym.Drill(in.ID)
		return single(ctx, row, err, drillOut)
	})
	huma.Put(api, "/api/drills/{id}", func(ctx context.Context, in *struct {
		ByID
		Body Drill
	}) (*one[Drill], error) {
		gym := who(ctx).gym
		row, err := in.Body.row(gym, in.ID)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		err = gym.ChangeDrill(row)
		return single(ctx, *row, err, drillOut)
	})
	huma.Delete(api, "/api/drills/{id}", func(ctx context.Context, in *ByID) (*struct{}, error) {
		return nil, refusedOrNil(ctx, who(ctx).gym.Retire(&store.Drill{}, in.ID, false))
	})
	huma.Post(api, "/api/drills/{id}/restore", func(ctx context.Context, in *ByID) (*struct{}, error) {
		return nil, refusedOrNil(ctx, who(ctx).gym.Retire(&store.Drill{}, in.ID, true))
	})
	huma.Get(api, "/api/first-drill/{id}", func(ctx context.Context, in *ByID) (*one[DrillDoc], error) {
		bag, _, err := gymBag(who(ctx).gym, in.ID)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		d, err := drill.First(bag)
		return single(ctx, d, err, func(d drill.Drill) (DrillDoc, error) { return DrillDoc{drill.Version, d}, nil })
	})
	huma.Post(api, "/api/drill-preview", func(ctx context.Context, in *one[DrillQuestion]) (*one[DrillPreview], error) {
		bag, _, err := gymBag(who(ctx).gym, in.Body.RigID)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		p, err := preview(bag, in.Body.Doc.Drill, in.Body.Band, who(ctx).units())
		return single(ctx, p, err, sure(func(p DrillPreview) DrillPreview { return p }))
	})
}

func preview(bag rig.SpeedBag, d drill.Drill, band string, units words.Units) (DrillPreview, error) {
	b, err := ask(bench.Question{
		Rig: bag, Meeting: rig.Meeting{Rebounds: d.Rebounds, Angle: d.StrikeAngle * math.Pi / 180}, Tempo: &d.Tempo,
		Ability: trainee.Start(trainee.Band(band)), Units: units,
	})
	if err != nil {
		return DrillPreview{}, input.Under("doc", err)
	}
	p := DrillPreview{Name: d.Name(), Bench: b, Pattern: []string{}}
	p.Sentence = bench.Said(rig.Speed, b.strike, trainee.Start(trainee.Band(band)), units)
	t, err := drill.Compile(d, bag)
	var field *input.Error
	switch {
	case errors.As(err, &field):
		p.Problem, p.Field = field.Reason, field.Field
		return p, nil
	case err != nil:
		return p, err
	}
	p.Seconds, p.CountIn = (t.End - t.Start).Seconds(), t.Start.Seconds()
	for _, e := range t.Events {
		if e.Kind == drill.Strike {
			if p.Strikes < d.Positions() {
				p.Pattern = append(p.Pattern, string(e.Hand))
			}
			p.Strikes++
		}
	}
	return p, nil
}
