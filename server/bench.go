package server

import (
	"math"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/bench"
	"melodromos/core/caution"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/ledger"
	"melodromos/store"
)

// BenchQuestion asks what a rig does as it hangs: at a wanted tempo, or after a strike of a given launch. With neither,
// the tempo of half a trainee's power is taken, or a slip bag's everyday pull.
type BenchQuestion struct {
	Rig         RigDoc   `json:"rig"`
	Place       PlaceDoc `json:"place,omitempty"`
	TraineeID   string   `json:"traineeId,omitempty" format:"uuid" doc:"for whom it is hung"`
	Others      []string `json:"others,omitempty" maxItems:"5" doc:"ids of those who use the same anchor"`
	Rebounds    int      `json:"rebounds" minimum:"1" maximum:"9"`
	StrikeAngle float64  `json:"strikeAngle,omitempty" doc:"degrees; speed bag only"`
	Tempo       *float64 `json:"tempo,omitempty" doc:"strikes a minute"`
	Launch      *float64 `json:"launch,omitempty" doc:"m/s; the pull of a slip bag in m"`
	Band        string   `json:"band,omitempty" doc:"whose power the effort is a share of, where no trainee is named"`
}

// SettingCard holds a rig's settings for one person.
type SettingCard struct {
	Rig     Rig     `json:"rig"`
	Trainee Trainee `json:"trainee"`
	Caution string  `json:"caution"`
	bench.Card
}

func personOf(t store.Trainee) bench.User {
	return bench.User{Name: t.Name, Body: ledger.Body(t)}
}

// questionAbout asks for somebody before a bag.
func (c caller) questionAbout(t store.Trainee, bag rig.Rig, place rig.Place, m rig.Meeting) (bench.Question, error) {
	ability, err := ledger.Ability(c.Gym, t, bag.Kind(), c.Gym.Now())
	return bench.Question{
		Rig: bag, Place: place, User: personOf(t), Ability: ability, Novice: trainee.Band(t.Band).Novice(),
		Meeting: m, Borders: bordersOf(c.Row), Units: c.units()}, err
}

// question reads who and what is asked about.
func (c caller) question(in BenchQuestion) (bench.Question, error) {
	bag, err := in.Rig.Read()
	if err != nil {
		return bench.Question{}, input.Under("rig", err)
	}
	place, err := in.Place.Read()
	if err != nil {
		return bench.Question{}, input.Under("place", err)
	}
	m := rig.Meeting{Rebounds: in.Rebounds, Angle: rig.DefaultStrikeAngle}
	if in.StrikeAngle != 0 {
		if err := rig.StrikeAngleLimits.Check("strikeAngle", in.StrikeAngle); err != nil {
			return bench.Question{}, err
		}
		m.Angle = in.StrikeAngle * math.Pi / 180
	}
	band := trainee.Band(in.Band)
	q := bench.Question{Rig: bag, Place: place, Meeting: m, Ability: trainee.Start(band), Novice: band.Novice(),
		Borders: bordersOf(c.Row), Units: c.units()}
	if in.TraineeID != "" {
		t, err := c.Gym.Trainee(in.TraineeID)
		if err == nil {
			q, err = c.questionAbout(t, bag, place, m)
		}
		if err != nil {
			return q, err
		}
	}
	q.Tempo, q.Launch = in.Tempo, in.Launch
	others, err := c.People(in.Others)
	for _, t := range others {
		q.Others = append(q.Others, personOf(t))
	}
	return q, err
}

func (c caller) settingCard(rigID, traineeID string) (SettingCard, error) {
	on, err := c.Floor(rigID, traineeID, "")
	if err != nil {
		return SettingCard{}, err
	}
	t := on.Person
	out := SettingCard{Trainee: traineeOut(t)}
	if out.Rig, err = c.rigOut(on.Rig); err != nil {
		return out, err
	}
	bag := out.Rig.Doc.Rig
	q, err := c.questionAbout(t, bag, out.Rig.Place.Place, rig.Everyday(bag.Kind()))
	if err != nil {
		return out, err
	}
	out.Caution = strings.TrimSpace(caution.OfBag(bag.Kind()) + " " + caution.OfPerson(trainee.AgeBand(t.AgeBand)))
	out.Card, err = bench.SettingCard(q)
	return out, err
}

func (s *Server) registerBench(api huma.API) {
	post(api, "/api/bench", func(c caller, in *body[BenchQuestion]) (bench.Sheet, error) {
		q, err := c.question(in.Body)
		if err != nil {
			return bench.Sheet{}, err
		}
		a, err := bench.Ask(q)
		if err != nil {
			return bench.Sheet{}, err
		}
		return a.Sheet(q), nil
	})
	get(api, "/api/rigs/{id}/card/{trainee}", func(c caller, in *struct {
		ByID
		Trainee string `path:"trainee" format:"uuid"`
	}) (SettingCard, error) {
		return c.settingCard(in.ID, in.Trainee)
	})
}
