package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/bench"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
	"melodromos/library"
	"melodromos/store"
)

// Drill is what one trainee does on one rig.
type Drill struct {
	ID        string   `json:"id" readOnly:"true"`
	Name      string   `json:"name" maxLength:"120" doc:"left empty, the drill's own words"`
	RigID     string   `json:"rigId" format:"uuid"`
	TraineeID string   `json:"traineeId" format:"uuid"`
	Version   int      `json:"version" minimum:"0" maximum:"2147483646" doc:"the one that was read, on a change"`
	Rung      string   `json:"rung,omitempty" maxLength:"60" doc:"of the ladder that it was made for"`
	Doc       DrillDoc `json:"doc"`
	// Figures are the few that tell it apart at a glance.
	Figures []drill.Figure `json:"figures,omitempty" readOnly:"true"`
}

func drillOut(d store.Drill) (Drill, error) {
	plan, err := drill.ReadPlan(input.Parse(d.Doc))
	if err != nil {
		return Drill{}, fmt.Errorf("stored drill %s: %w", d.ID, asInternal(err))
	}
	return Drill{d.ID, d.Name, d.RigID, d.TraineeID, d.Version, d.Rung, DrillDoc{Plan: plan}, plan.Figures()}, nil
}

// row checks a drill against the bag it is for: one that the bag does not allow is not stored.
func (d Drill) row(c caller, id string) (*store.Drill, error) {
	plan, err := d.Doc.read()
	if err != nil {
		return nil, input.Under("doc", err)
	}
	floor, _, _, err := c.floorOf(d.RigID, d.TraineeID)
	if err != nil {
		return nil, err
	}
	if _, err := plan.Lay(floor); err != nil {
		return nil, input.Under("doc", err)
	}
	doc, err := json.Marshal(plan)
	if d.Rung == "" {
		d.Rung = ladder.Match(plan, floor.Bag.Kind())
	}
	name := strings.TrimSpace(d.Name)
	if name == "" {
		name = shortened(plan.Name())
	}
	return &store.Drill{ID: id, Name: name, RigID: d.RigID, TraineeID: d.TraineeID, Doc: doc, Rung: d.Rung, Version: d.Version}, err
}

// wasRead refuses a change of what nobody has read.
func wasRead(version int) error {
	if version < 1 {
		return input.Refuse("version", "expected the version that was read, so that nobody else's change is written over")
	}
	return nil
}

// shortened keeps a name within what is stored of one.
func shortened(name string) string {
	if runes := []rune(name); len(runes) > 120 {
		return string(runes[:119]) + "…"
	}
	return name
}

// floorOf reads a bag of the gym and who is on it.
func (c caller) floorOf(rigID, traineeID string) (drill.Floor, store.Rig, store.Trainee, error) {
	row, err := c.gym.Rig(rigID)
	if err != nil {
		return drill.Floor{}, row, store.Trainee{}, err
	}
	bag, place, err := readRig(row)
	if err != nil {
		return drill.Floor{}, row, store.Trainee{}, err
	}
	t, err := c.gym.Trainee(traineeID)
	if err != nil {
		return drill.Floor{}, row, t, err
	}
	a, err := abilityOf(c.gym, t, bag.Kind())
	return drill.Floor{Bag: bag, Place: place, Ability: a, Theirs: true, NoKicks: !c.row.Kicks, Seed: 1, Stop: c.stop}, row, t, err
}

// floor is where a question is asked: on a bag of the gym, for a trainee, or for somebody of a skill band.
func (c caller) floor(in DrillQuestion) (drill.Floor, error) {
	if in.TraineeID != "" {
		floor, _, _, err := c.floorOf(in.RigID, in.TraineeID)
		return floor, err
	}
	row, err := c.gym.Rig(in.RigID)
	if err != nil {
		return drill.Floor{}, err
	}
	bag, place, err := readRig(row)
	return drill.Floor{Bag: bag, Place: place, Ability: trainee.Start(trainee.Band(in.Band)), NoKicks: !c.row.Kicks, Seed: 1, Stop: c.stop}, err
}

// speedBag reads a speed bag of the gym, for what belongs to these alone.
func speedBag(gym *store.Gym, id string) (rig.SpeedBag, error) {
	row, err := gym.Rig(id)
	if err != nil {
		return rig.SpeedBag{}, err
	}
	bag, _, err := readRig(row)
	if err != nil {
		return rig.SpeedBag{}, err
	}
	speed, ok := bag.(rig.SpeedBag)
	if !ok {
		return speed, input.Refuse("rigId", "expected a speed bag: on this bag a combination is programmed")
	}
	return speed, nil
}

// DrillQuestion asks what a drill would be like on a bag of the gym, for a trainee, or for somebody of a skill band.
type DrillQuestion struct {
	RigID     string   `json:"rigId" format:"uuid"`
	TraineeID string   `json:"traineeId,omitempty" format:"uuid"`
	Band      string   `json:"band,omitempty"`
	Beside    string   `json:"beside,omitempty" format:"uuid" doc:"somebody else, to see how the fit differs"`
	Doc       DrillDoc `json:"doc"`
}

// TechniqueQuestion asks for a drill in another technique, with what belongs to that by default.
type TechniqueQuestion struct {
	RigID     string   `json:"rigId" format:"uuid"`
	Technique string   `json:"technique"`
	Doc       DrillDoc `json:"doc"`
}

// DrillPreview is what a drill would be like, before it is saved.
type DrillPreview struct {
	KeptBy string              `json:"keptBy" enum:"bag,beat," doc:"whose clock it goes by; empty where it cannot be run"`
	Plays  map[string][]string `json:"plays" doc:"for each way to record hits, how a round can run, the usual one first"`

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
	Cards    []CardOut    `json:"cards" doc:"of what it asks for"`
	Composed *Composed    `json:"composed,omitempty" doc:"of a combination"`
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
		row, err := in.Body.row(who(ctx), "")
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		err = who(ctx).gym.AddDrill(row)
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
		row, err := in.Body.row(who(ctx), in.ID)
		if err == nil {
			err = wasRead(in.Body.Version)
		}
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		err = who(ctx).gym.ChangeDrill(row)
		return single(ctx, *row, err, drillOut)
	})
	huma.Delete(api, "/api/drills/{id}", func(ctx context.Context, in *ByID) (*struct{}, error) {
		return nil, refusedOrNil(ctx, who(ctx).gym.Retire(&store.Drill{}, in.ID, false))
	})
	huma.Post(api, "/api/drills/{id}/restore", func(ctx context.Context, in *ByID) (*struct{}, error) {
		return nil, refusedOrNil(ctx, who(ctx).gym.Retire(&store.Drill{}, in.ID, true))
	})
	huma.Get(api, "/api/first-drill/{id}", func(ctx context.Context, in *ByID) (*one[DrillDoc], error) {
		row, err := who(ctx).gym.Rig(in.ID)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		bag, place, err := readRig(row)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		plan, err := drill.FirstOn(bag, place)
		gym := who(ctx).row
		return single(ctx, plan, err, func(p drill.Plan) (DrillDoc, error) { return DrillDoc{Plan: inSchool(p, gym)}, nil })
	})
	huma.Post(api, "/api/drill-technique", func(ctx context.Context, in *one[TechniqueQuestion]) (*one[DrillDoc], error) {
		d, err := inTechnique(who(ctx).gym, in.Body)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return &one[DrillDoc]{DrillDoc{Plan: d}}, nil
	})
	huma.Post(api, "/api/combo-count", func(ctx context.Context, in *one[CountQuestion]) (*one[ComboText], error) {
		text, err := recount(in.Body)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return &one[ComboText]{text}, nil
	})
	huma.Post(api, "/api/combo-tempo", func(ctx context.Context, in *one[TempoQuestion]) (*one[DrillDoc], error) {
		c, err := atTempo(who(ctx), in.Body)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return &one[DrillDoc]{DrillDoc{Plan: c}}, nil
	})
	huma.Post(api, "/api/drill-preview", func(ctx context.Context, in *one[DrillQuestion]) (*one[DrillPreview], error) {
		p, err := preview(who(ctx), in.Body)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
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

// inTechnique gives a drill in another technique. A combination has none, and makes way for the first drill in it.
func inTechnique(gym *store.Gym, in TechniqueQuestion) (drill.Drill, error) {
	bag, err := speedBag(gym, in.RigID)
	if err != nil {
		return drill.Drill{}, err
	}
	plan, err := in.Doc.read()
	if err != nil {
		return drill.Drill{}, input.Under("doc", err)
	}
	d, ok := plan.(drill.Drill)
	if !ok {
		if d, err = drill.First(bag); err != nil {
			return d, err
		}
	}
	d, err = d.With(drill.Technique(in.Technique), bag)
	return d, input.Under("doc", err)
}

// preview answers what a drill would be like.
func preview(c caller, in DrillQuestion) (DrillPreview, error) {
	plan, err := in.Doc.read()
	if err != nil {
		return DrillPreview{}, input.Under("doc", err)
	}
	floor, err := c.floor(in)
	if err != nil {
		return DrillPreview{}, err
	}
	bag := floor.Bag
	p := DrillPreview{Plays: map[string][]string{}, Name: plan.Name(), Pattern: []Beat{}, Counts: []int{}, Sets: []int{}, Tempos: []TempoRow{}, Change: []rig.Change{}, Cards: cardsOut(library.CardsFor(plan)), Cycle: cycleOut(rig.Picture{}, bag.Kind())}
	switch d := plan.(type) {
	case drill.Combination:
		err = p.combination(d, floor, c)
	case drill.Drill:
		speed, ok := bag.(rig.SpeedBag)
		if !ok {
			return p, input.Refuse("rigId", "expected a speed bag for a technique: on this bag a combination is programmed")
		}
		err = p.technique(d, speed, floor, c.units())
	}
	return p, input.Under("doc", err)
}

func (p *DrillPreview) technique(d drill.Drill, bag rig.SpeedBag, on drill.Floor, units words.Units) error {
	ability := on.Ability
	p.Where, p.Counts, p.Sets = d.Where(), d.Counts(), d.Sets()
	a, err := drill.Reach(d, bag, ability)
	if err != nil {
		return err
	}
	p.Sentence, p.Change, p.Slowest, p.Fastest = bench.Said(rig.Speed, a, ability, units), some(a.Change), a.Limits.Slowest, a.Limits.Fastest
	if a.Feasible {
		p.Window, p.Fist, p.Effort = number(a.Window), number(a.FistSpeed), ability.Effort(a.FistSpeed)
	}
	p.Tempos = tempoRows(ability.Striker(d.Hands()).Ranges(bag, d.Meeting().Angle))
	tempo := min(max(a.Tempo, a.Limits.Slowest), a.Limits.Fastest)
	if p.Cycle, err = drillCycle(d, bag, a.Nearest(), 60/tempo); err != nil {
		return err
	}
	p.Shown = 60 / p.Cycle.Return
	var field *input.Error
	t, err := d.Lay(on)
	switch {
	case errors.As(err, &field):
		p.Problem, p.Field = field.Reason, field.Field
		return nil
	case err != nil:
		return err
	}
	p.count(t, d.Positions())
	return nil
}

// count fills in what a timeline comes to, and the strikes of one pattern.
func (p *DrillPreview) count(t drill.Timeline, positions int) {
	p.Seconds, p.CountIn, p.KeptBy = (t.End - t.Start).Seconds(), t.Start.Seconds(), string(t.Clock)
	for _, by := range []drill.Recorder{drill.Taps, drill.Sensor, drill.Simulated, drill.Nothing} {
		for _, way := range t.Playings(by) {
			p.Plays[string(by)] = append(p.Plays[string(by)], string(way))
		}
	}
	for _, e := range t.Events {
		if e.Kind == drill.Strike {
			if p.Strikes < positions {
				p.Pattern = append(p.Pattern, Beat{string(e.Hand), string(e.Face), e.Pin})
			}
			p.Strikes++
		}
	}
}
