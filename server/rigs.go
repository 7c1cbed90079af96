package server

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/bench"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
	"melodromos/store"
)

// Rig is a rig of the gym. Version is the one that was read; a change over another version is refused.
type Rig struct {
	ID      string   `json:"id" readOnly:"true"`
	Name    string   `json:"name" minLength:"1" maxLength:"120"`
	Version int      `json:"version" minimum:"0" maximum:"2147483646" doc:"the one that was read, on a change"`
	Doc     RigDoc   `json:"doc"`
	Place   PlaceDoc `json:"place,omitempty"`
	// Sentence is the everyday tempo at half the power of somebody in the middle.
	Sentence   string    `json:"sentence,omitempty" readOnly:"true"`
	Wrong      []string  `json:"wrong,omitempty" readOnly:"true" doc:"what is wrong with it, whoever uses it"`
	MeasuredAt time.Time `json:"measuredAt,omitzero" readOnly:"true" doc:"when a measure was last changed"`
	Retired    bool      `json:"retired,omitempty" readOnly:"true"`

	FromRounds *FromRounds `json:"fromRounds,omitempty" readOnly:"true" doc:"told where one rig is asked for"`
}

// readRig opens the documents of a stored rig.
func readRig(r store.Rig) (rig.Rig, rig.Place, error) {
	bag, err := rig.Read(input.Parse(r.Doc))
	if err != nil {
		return nil, rig.Place{}, fmt.Errorf("stored rig %s: %w", r.ID, asInternal(err))
	}
	place, err := rig.ReadPlace(input.Parse(r.Place))
	if err != nil {
		return nil, place, fmt.Errorf("place of stored rig %s: %w", r.ID, asInternal(err))
	}
	return bag, place, nil
}

// everyday is how a rig is met when nobody says otherwise: three board sounds, every return, every pass.
func everyday(kind rig.Kind) rig.Meeting {
	if kind == rig.Speed {
		return rig.Three
	}
	return rig.Meeting{Rebounds: 1}
}

func rigOut(units words.Units) func(store.Rig) (Rig, error) {
	return func(r store.Rig) (Rig, error) {
		bag, place, err := readRig(r)
		if err != nil {
			return Rig{}, err
		}
		ability := trainee.Start(trainee.Intermediate)
		a, err := bag.AtFist(ability.FistSpeed/2, everyday(bag.Kind()))
		if err != nil {
			return Rig{}, fmt.Errorf("stored rig %s: %w", r.ID, asInternal(err))
		}
		out := Rig{
			ID: r.ID, Name: r.Name, Version: r.Version, Doc: RigDoc{Rig: bag}, Place: PlaceDoc{Place: place},
			Sentence: bench.Said(bag.Kind(), a, ability, units), MeasuredAt: r.MeasuredAt, Retired: r.RetiredAt != nil,
		}
		use := rig.Use{Place: place, Launch: a.Launch, Fist: a.FistSpeed, Hardest: ability.FistSpeed}
		wrong, _ := rig.Worst(bag.Inspect(use))
		for _, f := range wrong {
			out.Wrong = append(out.Wrong, f.Title)
		}
		return out, nil
	}
}

func (r Rig) row(id string) (*store.Rig, error) {
	bag, err := r.Doc.read()
	if err != nil {
		return nil, input.Under("doc", err)
	}
	if r.Place.err != nil {
		return nil, input.Under("place", r.Place.err)
	}
	name, err := input.Name("name", r.Name)
	if err != nil {
		return nil, err
	}
	return rigRow(id, name, r.Version, bag, r.Place.Place)
}

func rigRow(id, name string, version int, bag rig.Rig, place rig.Place) (*store.Rig, error) {
	doc, err := json.Marshal(bag)
	if err != nil {
		return nil, err
	}
	around, err := json.Marshal(place)
	return &store.Rig{ID: id, Name: name, Kind: string(bag.Kind()), Doc: doc, Place: around, Version: version}, err
}

// sameKind refuses to make another kind of rig of one that runs and drills refer to.
func sameKind(gym *store.Gym, row *store.Rig) error {
	before, err := gym.Rig(row.ID)
	if err == nil && before.Kind != row.Kind {
		return input.Refuse("doc.kind", "expected %q: a rig keeps its kind; add another one instead", before.Kind)
	}
	return err
}

func (s *Server) registerRigs(api huma.API) {
	huma.Get(api, "/api/rigs", func(ctx context.Context, in *struct {
		Retired bool `query:"retired"`
	}) (*many[Rig], error) {
		rows, err := who(ctx).gym.Rigs(in.Retired)
		return listed(ctx, rows, err, rigOut(who(ctx).units()))
	})
	huma.Post(api, "/api/rigs", func(ctx context.Context, in *one[Rig]) (*one[Rig], error) {
		row, err := in.Body.row("")
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		err = who(ctx).gym.AddRig(row)
		return single(ctx, *row, err, rigOut(who(ctx).units()))
	})
	huma.Get(api, "/api/rigs/{id}", func(ctx context.Context, in *ByID) (*one[Rig], error) {
		gym := who(ctx).gym
		row, err := gym.Rig(in.ID)
		return single(ctx, row, err, func(row store.Rig) (Rig, error) {
			out, err := rigOut(who(ctx).units())(row)
			if err != nil {
				return out, err
			}
			out.FromRounds, err = fromRounds(gym, row, out.Doc.Rig)
			return out, err
		})
	})
	huma.Put(api, "/api/rigs/{id}", func(ctx context.Context, in *struct {
		ByID
		Body Rig
	}) (*one[Rig], error) {
		row, err := in.Body.row(in.ID)
		if err == nil {
			err = wasRead(in.Body.Version)
		}
		if err == nil {
			err = sameKind(who(ctx).gym, row)
		}
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		err = who(ctx).gym.ChangeRig(row)
		return single(ctx, *row, err, rigOut(who(ctx).units()))
	})
	huma.Delete(api, "/api/rigs/{id}", func(ctx context.Context, in *ByID) (*struct{}, error) {
		return nil, refusedOrNil(ctx, who(ctx).gym.Retire(&store.Rig{}, in.ID, false))
	})
	huma.Post(api, "/api/rigs/{id}/restore", func(ctx context.Context, in *ByID) (*struct{}, error) {
		return nil, refusedOrNil(ctx, who(ctx).gym.Retire(&store.Rig{}, in.ID, true))
	})
	huma.Get(api, "/api/rigs/{id}/card/{trainee}", func(ctx context.Context, in *struct {
		ByID
		Trainee string `path:"trainee" format:"uuid"`
	}) (*one[Card], error) {
		c, err := card(who(ctx), in.ID, in.Trainee)
		return single(ctx, c, err, sure(func(c Card) Card { return c }))
	})
	huma.Post(api, "/api/bench", func(ctx context.Context, in *one[BenchQuestion]) (*one[BenchAnswer], error) {
		answer, err := benchAnswer(who(ctx), in.Body)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return &one[BenchAnswer]{answer}, nil
	})
}

// Card is how a rig is set for one person: what to set, and what it then does.
type Card struct {
	Rig     Rig           `json:"rig"`
	Trainee Trainee       `json:"trainee"`
	Set     []rig.Setting `json:"set" doc:"every measure that belongs to this person, whether it is so today or not"`
	Hung    BenchAnswer   `json:"hung" doc:"the rig once it hangs so"`
	Strike  string        `json:"strike" doc:"the tempo in words"`
}

func card(c caller, rigID, traineeID string) (Card, error) {
	row, err := c.gym.Rig(rigID)
	if err != nil {
		return Card{}, err
	}
	t, err := c.gym.Trainee(traineeID)
	if err != nil {
		return Card{}, err
	}
	out := Card{Trainee: traineeOut(t), Set: []rig.Setting{}}
	if out.Rig, err = rigOut(c.units())(row); err != nil {
		return Card{}, err
	}
	ability, err := abilityOf(c.gym, t, rig.Kind(row.Kind))
	if err != nil {
		return Card{}, err
	}
	q := bench.Question{
		Rig: out.Rig.Doc.Rig, Place: out.Rig.Place.Place, Person: personOf(t), Ability: ability, Novice: trainee.Band(t.Band).Novice(),
		Meeting: everyday(rig.Kind(row.Kind)), Borders: bordersOf(c.row), Units: c.units(),
	}
	now, err := bench.Ask(q)
	if err != nil {
		return Card{}, err
	}
	if out.Set = some(now.SetUp.Settings); now.SetUp.Move != 0 {
		if q.Rig, q.Place, err = rig.Apply(q.Rig, q.Place, now.SetUp.Settings); err != nil {
			return Card{}, err
		}
	}
	out.Hung, err = ask(q)
	out.Strike = bench.Said(q.Rig.Kind(), out.Hung.strike, q.Ability, q.Units)
	return out, err
}
