package server

import (
	"context"
	"fmt"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/input"
	"melodromos/core/rig"
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
	Eye     *float64 `json:"eye,omitempty" minimum:"0.5" maximum:"2.3" doc:"above the floor, in stance"`
	Mouth   *float64 `json:"mouth,omitempty" minimum:"0.5" maximum:"2.3" doc:"above the floor, in stance"`
	Chin    *float64 `json:"chin,omitempty" minimum:"0.5" maximum:"2.3" doc:"above the floor, in stance"`
	Notes   string   `json:"notes,omitempty" maxLength:"4000"`

	Goals    string    `json:"goals,omitempty" maxLength:"4000"`
	Dominant string    `json:"dominant,omitempty" enum:",left,right" doc:"empty where it follows the stance"`
	Weak     string    `json:"weak,omitempty" enum:",lead,rear" doc:"the weaker side"`
	Sport    string    `json:"sport,omitempty" enum:",boxing,kicking"`
	School   string    `json:"school,omitempty" enum:",fistRoll" doc:"what comes first on the speed bag, where it is not the basic rhythm"`
	Weeks    *WeeksDoc `json:"weeks,omitempty" doc:"how the weeks build up, where they are planned"`
}

// WeeksDoc is how somebody's weeks build up.
type WeeksDoc struct {
	From   string `json:"from" format:"date"`
	Days   []int  `json:"days" minItems:"1" maxItems:"7" doc:"of the week, 0 for Sunday"`
	Rounds int    `json:"rounds" minimum:"1" maximum:"12" doc:"of the first session"`
	Most   int    `json:"most" minimum:"1" maximum:"15"`
}

func traineeOut(t store.Trainee) Trainee {
	out := Trainee{
		ID: t.ID, Name: t.Name, Stance: t.Stance, Band: t.Band, AgeBand: t.AgeBand, Height: t.Height, Reach: t.Reach, Eye: t.Eye, Mouth: t.Mouth, Chin: t.Chin,
		Notes: t.Notes, Goals: t.Goals, Dominant: t.Dominant, Weak: t.Weak, Sport: t.Sport, School: t.School,
	}
	if t.WeeksFrom != nil {
		out.Weeks = &WeeksDoc{t.WeeksFrom.Format(time.DateOnly), []int{}, t.WeeksRounds, t.WeeksMost}
		for _, d := range weekdays(t.WeeksDays) {
			out.Weeks.Days = append(out.Weeks.Days, int(d))
		}
	}
	return out
}

// row refuses heights that are out of order.
func (t Trainee) row(id string) (*store.Trainee, error) {
	name, err := input.Name("name", t.Name)
	if err != nil {
		return nil, err
	}
	r := &store.Trainee{
		ID: id, Name: name, Stance: t.Stance, Band: t.Band, AgeBand: t.AgeBand, Height: t.Height, Reach: t.Reach, Eye: t.Eye, Mouth: t.Mouth, Chin: t.Chin,
		Notes: t.Notes, Goals: t.Goals, Dominant: t.Dominant, Weak: t.Weak, Sport: t.Sport, School: t.School, WeeksDays: "2,4", WeeksRounds: 4, WeeksMost: 8,
	}
	if r.Sport == "" {
		r.Sport = "boxing"
	}
	if w := t.Weeks; w != nil {
		if err := checkWeeks(w); err != nil {
			return nil, err
		}
		from, err := time.Parse(time.DateOnly, w.From)
		if err != nil {
			return nil, input.Refuse("weeks.from", "expected a day such as 2026-03-02")
		}
		var days []string
		for _, d := range w.Days {
			if d < 0 || d > 6 {
				return nil, input.Refuse("weeks.days", "expected days from 0, Sunday, to 6, Saturday")
			}
			days = append(days, strconv.Itoa(d))
		}
		r.WeeksFrom, r.WeeksDays, r.WeeksRounds, r.WeeksMost = &from, strings.Join(days, ","), w.Rounds, w.Most
	}
	return r, bodyOf(*r).Check()
}

// bodyOf is what of a trainee matters to the height of a rig.
func bodyOf(t store.Trainee) rig.Body {
	or0 := func(v *float64) float64 {
		if v == nil {
			return 0
		}
		return *v
	}
	return rig.Body{Height: or0(t.Height), Reach: or0(t.Reach), Eye: or0(t.Eye), Mouth: or0(t.Mouth), Chin: or0(t.Chin)}
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
		row, err := in.Body.row("")
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		err = who(ctx).gym.AddTrainee(row)
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
		row, err := in.Body.row(in.ID)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		err = who(ctx).gym.ChangeTrainee(row)
		return single(ctx, *row, err, sure(traineeOut))
	})
}

// asInternal hides a refusal of a stored document from the one who asked: it is no fault of theirs.
func asInternal(err error) error { return fmt.Errorf("%s", err.Error()) }
