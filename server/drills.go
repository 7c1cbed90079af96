package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

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

// TechniqueQuestion asks for a drill in another technique, with what belongs to that by default.
type TechniqueQuestion struct {
	RigID     string   `json:"rigId" format:"uuid"`
	Technique string   `json:"technique"`
	Doc       DrillDoc `json:"doc"`
}

// DrillPreview is what a drill would be like, before it is saved.
type DrillPreview struct {
	Name     string       `json:"name"`
	Strikes  int          `json:"strikes"`
	Seconds  float64      `json:"seconds" doc:"from bell to bell"`
	CountIn  float64      `json:"countIn" doc:"s"`
	Pattern  []Beat       `json:"pattern" doc:"strikes of one pattern"`
	Where    string       `json:"where" doc:"the height on the bag at which it is met"`
	Counts   []int        `json:"counts" doc:"rebound counts that the technique allows"`
	Sets     []int        `json:"sets" doc:"sizes of a set to choose from; 0 keeps to one hand"`
	Tempos   []TempoRow   `json:"tempos"`
	Change   []rig.Change `json:"change"`
	Slowest  float64      `json:"slowest"`
	Fastest  float64      `json:"fastest"`
	Shown    float64      `json:"shown" doc:"tempo of the cycle that is drawn"`
	Window   *float64     `json:"window"`
	Fist     *float64     `json:"fist"`
	Effort   string       `json:"effort"`
	Cycle    Cycle        `json:"cycle"`
	Problem  string       `json:"problem,omitempty" doc:"why it cannot be run, where it cannot"`
	Field    string       `json:"field,omitempty" doc:"the field the problem lies in"`
	Sentence string       `json:"sentence"`
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
	huma.Post(api, "/api/drill-technique", func(ctx context.Context, in *one[TechniqueQuestion]) (*one[DrillDoc], error) {
		bag, _, err := gymBag(who(ctx).gym, in.Body.RigID)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		d, err := in.Body.Doc.With(drill.Technique(in.Body.Technique), bag)
		if err != nil {
			return nil, refused(ctx, "body.doc", err)
		}
		return &one[DrillDoc]{DrillDoc{drill.Version, d}}, nil
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

// Beat is one strike of a pattern.
type Beat struct {
	Hand string `json:"hand" enum:"lead,rear,both"`
	Face string `json:"face" enum:"front,behind"`
	Pin  bool   `json:"pin"`
}

// drillCycle draws a cycle of a drill, and the one after a trap.
func drillCycle(d drill.Drill, bag rig.SpeedBag, launch, cycle float64) (Cycle, error) {
	picture, pinned, err := drill.Pictures(d, bag, launch, cycle)
	if err != nil {
		return Cycle{}, err
	}
	c := cycleOut(picture, rig.Speed)
	if pinned != nil {
		after := cycleOut(*pinned, rig.Speed)
		c.Pinned = &after
	}
	return c, nil
}

func preview(bag rig.SpeedBag, d drill.Drill, band string, units words.Units) (DrillPreview, error) {
	p := DrillPreview{Name: d.Name(), Pattern: []Beat{}, Where: d.Where(), Counts: d.Counts(), Sets: d.Sets()}
	var field *input.Error
	if err := d.Check(); errors.As(err, &field) {
		// What is wrong is said; what would be right is drawn.
		p.Problem, p.Field = field.Reason, field.Field
		if d, err = d.With(d.Technique, bag); err != nil {
			return p, input.Under("doc", err)
		}
	}
	a, err := drill.Solve(d, bag)
	if err != nil {
		return p, input.Under("doc", err)
	}
	ability := trainee.Start(trainee.Band(band))
	p.Sentence, p.Change, p.Slowest, p.Fastest = bench.Said(rig.Speed, a, ability, units), some(a.Change), a.Limits.Slowest, a.Limits.Fastest
	if a.Feasible {
		p.Window, p.Fist, p.Effort = number(a.Window), number(a.FistSpeed), ability.Effort(a.FistSpeed)
	}
	table, err := rig.Tempos(bag, d.Meeting().Angle)
	if err != nil {
		return p, input.Under("doc", err)
	}
	p.Tempos = tempoRows(table)
	tempo := min(max(a.Tempo, a.Limits.Slowest), a.Limits.Fastest)
	if p.Cycle, err = drillCycle(d, bag, a.Nearest(), 60/tempo); err != nil {
		return p, input.Under("doc", err)
	}
	p.Shown = 60 / p.Cycle.Return
	if p.Problem != "" {
		return p, nil
	}
	t, err := drill.Compile(d, bag)
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
				p.Pattern = append(p.Pattern, Beat{string(e.Hand), string(e.Face), e.Pin})
			}
			p.Strikes++
		}
	}
	return p, nil
}
