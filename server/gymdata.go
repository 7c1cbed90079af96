package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/store"
)

// Trainee is a person who trains; lengths in metres.
type Trainee struct {
	ID      string   `json:"id" readOnly:"true"`
	Name    string   `json:"name" minLength:"1" maxLength:"120"`
	Stance  string   `json:"stance" enum:"orthodox,southpaw"`
	Band    string   `json:"band" enum:"first-timer,beginner,intermediate,advanced,expert"`
	AgeBand string   `json:"ageBand" enum:"child,youth,adult,senior" default:"adult"`
	Height  *float64 `json:"height,omitempty" minimum:"0.8" maximum:"2.4"`
	Reach   *float64 `json:"reach,omitempty" minimum:"0.6" maximum:"2.6"`
	Notes   string   `json:"notes,omitempty" maxLength:"4000"`
}

func traineeOut(t store.Trainee) Trainee {
	return Trainee{t.ID, t.Name, t.Stance, t.Band, t.AgeBand, t.Height, t.Reach, t.Notes}
}

func (t Trainee) row(id string) *store.Trainee {
	return &store.Trainee{ID: id, Name: t.Name, Stance: t.Stance, Band: t.Band, AgeBand: t.AgeBand, Height: t.Height, Reach: t.Reach, Notes: t.Notes}
}

// ByID takes the id of the address.
type ByID struct {
	ID string `path:"id" format:"uuid"`
}

type one[T any] struct{ Body T }

type many[T any] struct{ Body []T }

// listed translates a list of rows.
func listed[R, T any](ctx context.Context, rows []R, err error, out func(R) (T, error)) (*many[T], error) {
	if err != nil {
		return nil, refused(ctx, "", err)
	}
	list := make([]T, 0, len(rows))
	for _, row := range rows {
		t, err := out(row)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		list = append(list, t)
	}
	return &many[T]{list}, nil
}

// single translates one row.
func single[R, T any](ctx context.Context, row R, err error, out func(R) (T, error)) (*one[T], error) {
	if err != nil {
		return nil, refused(ctx, "", err)
	}
	t, err := out(row)
	if err != nil {
		return nil, refused(ctx, "", err)
	}
	return &one[T]{t}, nil
}

func sure[R, T any](f func(R) T) func(R) (T, error) {
	return func(r R) (T, error) { return f(r), nil }
}

func (s *Server) registerTrainees(api huma.API) {
	huma.Get(api, "/api/trainees", func(ctx context.Context, _ *struct{}) (*many[Trainee], error) {
		rows, err := who(ctx).gym.Trainees()
		return listed(ctx, rows, err, sure(traineeOut))
	})
	huma.Post(api, "/api/trainees", func(ctx context.Context, in *one[Trainee]) (*one[Trainee], error) {
		row := in.Body.row("")
		err := who(ctx).gym.AddTrainee(row)
		return single(ctx, *row, err, sure(traineeOut))
	})
	huma.Get(api, "/api/trainees/{id}", func(ctx context.Context, in *ByID) (*one[Trainee], error) {
		row, err := who(ctx).gym.Trainee(in.ID)
		return single(ctx, row, err, sure(traineeOut))
	})
	huma.Put(api, "/api/trainees/{id}", func(ctx context.Context, in *struct {
		ByID
		Body Trainee
	}) (*one[Trainee], error) {
		row := in.Body.row(in.ID)
		err := who(ctx).gym.ChangeTrainee(row)
		return single(ctx, *row, err, sure(traineeOut))
	})
}

// Rig is a bag of the gym. Version is the one that was read; a change over another version is refused.
type Rig struct {
	ID      string `json:"id" readOnly:"true"`
	Name    string `json:"name" minLength:"1" maxLength:"120"`
	Version int    `json:"version"`
	Doc     RigDoc `json:"doc"`
	// Sentence is the everyday tempo at half the power of somebody in the middle.
	Sentence string `json:"sentence,omitempty" readOnly:"true"`
}

func rigOut(r store.Rig) (Rig, error) {
	bag, err := rig.DecodeSpeedBag(r.Doc)
	if err != nil {
		return Rig{}, fmt.Errorf("stored rig %s: %w", r.ID, asInternal(err))
	}
	ability := trainee.Start(trainee.Intermediate)
	everyday, err := bag.TempoAtFist(ability.FistSpeed/2, rig.Three)
	if err != nil {
		return Rig{}, fmt.Errorf("stored rig %s: %w", r.ID, asInternal(err))
	}
	return Rig{r.ID, r.Name, r.Version, RigDoc{r.Kind, bag}, drill.Answered(everyday, ability, drill.Metric)}, nil
}

// asInternal hides a refusal of a stored document from the one who asked: it is no fault of theirs.
func asInternal(err error) error { return fmt.Errorf("%s", err.Error()) }

func (r Rig) row(id string) (*store.Rig, error) {
	if err := r.Doc.Check(); err != nil {
		return nil, input.Under("doc", err)
	}
	doc, err := json.Marshal(r.Doc.SpeedBag)
	return &store.Rig{ID: id, Name: r.Name, Kind: r.Doc.Kind, Doc: doc, Version: r.Version}, err
}

func (s *Server) registerRigs(api huma.API) {
	huma.Get(api, "/api/rigs", func(ctx context.Context, _ *struct{}) (*many[Rig], error) {
		rows, err := who(ctx).gym.Rigs()
		return listed(ctx, rows, err, rigOut)
	})
	huma.Post(api, "/api/rigs", func(ctx context.Context, in *one[Rig]) (*one[Rig], error) {
		row, err := in.Body.row("")
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		err = who(ctx).gym.AddRig(row)
		return single(ctx, *row, err, rigOut)
	})
	huma.Get(api, "/api/rigs/{id}", func(ctx context.Context, in *ByID) (*one[Rig], error) {
		row, err := who(ctx).gym.Rig(in.ID)
		return single(ctx, row, err, rigOut)
	})
	huma.Put(api, "/api/rigs/{id}", func(ctx context.Context, in *struct {
		ByID
		Body Rig
	}) (*one[Rig], error) {
		row, err := in.Body.row(in.ID)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		err = who(ctx).gym.ChangeRig(row)
		return single(ctx, *row, err, rigOut)
	})
	huma.Post(api, "/api/bench", func(ctx context.Context, in *one[BenchQuestion]) (*one[BenchAnswer], error) {
		answer, err := bench(in.Body, who(ctx).units())
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return &one[BenchAnswer]{answer}, nil
	})
}

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

func gymBag(gym *store.Gym, id string) (rig.SpeedBag, store.Rig, error) {
	row, err := gym.Rig(id)
	if err != nil {
		return rig.SpeedBag{}, row, err
	}
	bag, err := rig.DecodeSpeedBag(row.Doc)
	if err != nil {
		return bag, row, fmt.Errorf("stored rig %s: %w", id, asInternal(err))
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

func preview(bag rig.SpeedBag, d drill.Drill, band string, units drill.Units) (DrillPreview, error) {
	b, err := bench(BenchQuestion{Rig: RigDoc{string(rig.Speed), bag}, Rebounds: d.Rebounds, StrikeAngle: d.StrikeAngle, Tempo: &d.Tempo, Band: band}, units)
	if err != nil {
		return DrillPreview{}, input.Under("doc", err)
	}
	p := DrillPreview{Name: d.Name(), Bench: b, Sentence: b.Sentence, Pattern: []string{}}
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
