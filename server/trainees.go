package server

import (
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/combo"
	"melodromos/core/erasing"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/ledger"
	"melodromos/store"
)

// Trainee is a person who trains; lengths in metres.
type Trainee struct {
	ID      string          `json:"id" readOnly:"true"`
	Name    string          `json:"name" minLength:"1" maxLength:"120"`
	Stance  combo.Stance    `json:"stance"`
	Band    trainee.Band    `json:"band"`
	AgeBand trainee.AgeBand `json:"ageBand" default:"adult"`
	Height  *float64        `json:"height,omitempty" doc:"m"`
	Reach   *float64        `json:"reach,omitempty" doc:"m"`
	Eye     *float64        `json:"eye,omitempty" doc:"m above the floor, in stance"`
	Mouth   *float64        `json:"mouth,omitempty" doc:"m above the floor, in stance"`
	Chin    *float64        `json:"chin,omitempty" doc:"m above the floor, in stance"`
	Notes   string          `json:"notes,omitempty" maxLength:"4000"`

	Goals    string        `json:"goals,omitempty" maxLength:"4000"`
	Dominant combo.Side    `json:"dominant,omitempty" doc:"empty where it follows the stance"`
	Weak     combo.Hand    `json:"weak,omitempty" enum:",lead,rear" doc:"the weaker side"`
	Sport    trainee.Sport `json:"sport,omitempty"`
	School   ladder.School `json:"school,omitempty" doc:"what comes first on the speed bag, where it is not the basic rhythm"`
	Weeks    *WeeksDoc     `json:"weeks,omitempty" doc:"how the weeks build up, where they are planned"`
	Version  int           `json:"version" minimum:"0" maximum:"2147483646" doc:"the one that was read, on a change"`
	Archived bool          `json:"archived,omitempty" readOnly:"true"`
}

// WeeksDoc plans the volume of somebody's coming weeks.
type WeeksDoc struct {
	From   string `json:"from" format:"date"`
	Days   []int  `json:"days" minItems:"1" maxItems:"7" doc:"of the week, 0 for Sunday"`
	Rounds int    `json:"rounds" doc:"of the first session"`
	Most   int    `json:"most"`
}

func traineeOut(t store.Trainee) Trainee {
	out := Trainee{
		ID: t.ID, Name: t.Name, Stance: combo.Stance(t.Stance), Band: trainee.Band(t.Band),
		AgeBand: trainee.AgeBand(t.AgeBand), Height: t.Height, Reach: t.Reach, Eye: t.Eye, Mouth: t.Mouth, Chin: t.Chin,
		Notes: t.Notes, Goals: t.Goals, Dominant: combo.Side(t.Dominant), Weak: combo.Hand(t.Weak),
		Sport: trainee.Sport(t.Sport), School: ladder.School(t.School), Version: t.Version,
		Archived: t.ArchivedAt != nil,
	}
	if t.WeeksFrom != nil {
		out.Weeks = &WeeksDoc{t.WeeksFrom.Format(time.DateOnly), append([]int{}, t.WeeksDays...), t.WeeksRounds,
			t.WeeksMost}
	}
	return out
}

// row refuses heights that are out of order, and a plan of weeks that cannot be.
func (t Trainee) row(id string) (*store.Trainee, error) {
	name, err := input.Name("name", t.Name)
	if err != nil {
		return nil, err
	}
	if t.Sport == "" {
		t.Sport = trainee.Boxing
	}
	usual := ladder.DefaultWeeks(time.Time{})
	r := &store.Trainee{
		ID: id, Name: name, Stance: string(t.Stance), Band: string(t.Band), AgeBand: string(t.AgeBand),
		Height: t.Height, Reach: t.Reach, Eye: t.Eye, Mouth: t.Mouth, Chin: t.Chin,
		Notes: t.Notes, Goals: t.Goals, Dominant: string(t.Dominant), Weak: string(t.Weak), Sport: string(t.Sport),
		School: string(t.School), Version: t.Version, WeeksRounds: usual.Rounds, WeeksMost: usual.Most,
	}
	for _, d := range usual.Days {
		r.WeeksDays = append(r.WeeksDays, int(d))
	}
	if w := t.Weeks; w != nil {
		from, err := time.Parse(time.DateOnly, w.From)
		if err != nil {
			return nil, input.Refuse("weeks.from", "expected a day such as 2026-03-02")
		}
		r.WeeksFrom, r.WeeksDays, r.WeeksRounds, r.WeeksMost = &from, w.Days, w.Rounds, w.Most
		if err := ledger.Weeks(*r).Check(); err != nil {
			return nil, input.Under("weeks", err)
		}
	}
	return r, ledger.Body(*r).Check()
}

// changeTrainee stores a person's new particulars over those that were read.
func (c caller) changeTrainee(id string, in Trainee) (Trainee, error) {
	row, err := in.row(id)
	if err == nil {
		err = ledger.WasRead(in.Version)
	}
	if err == nil {
		err = c.Gym.ChangeTrainee(row)
	}
	if err != nil {
		return Trainee{}, err
	}
	return traineeOut(*row), nil
}

// Beginning holds the assumed ability of somebody of whom nothing is known yet.
type Beginning struct {
	Newcomer Trainee     `json:"newcomer"`
	Weeks    WeeksDoc    `json:"weeks" doc:"where they are to be planned"`
	Body     []rig.Field `json:"body" doc:"what is measured of a person"`
	Rounds   WeekLimits  `json:"rounds" doc:"in a session"`
}

// WeekLimits are the most rounds that weeks may begin with, and come to.
type WeekLimits struct {
	First int `json:"first"`
	Most  int `json:"most"`
}

func weeksOut(w ladder.Weeks) WeeksDoc {
	out := WeeksDoc{From: w.From.Format(time.DateOnly), Days: []int{}, Rounds: w.Rounds, Most: w.Most}
	for _, d := range w.Days {
		out.Days = append(out.Days, int(d))
	}
	return out
}

func (c caller) beginning() Beginning {
	who := trainee.Newcomer
	return Beginning{
		Newcomer: Trainee{Stance: who.Stance, Band: who.Band, AgeBand: who.Age},
		Weeks:    weeksOut(ladder.DefaultWeeks(c.Gym.Now().In(ledger.Zone(c.Row)))),
		Body:     rig.BodyFields(),
		Rounds:   WeekLimits{ladder.MostAtFirst, ladder.MostRounds},
	}
}

// Erasure confirms that somebody is erased for good: by their name, and the password of whoever is signed in.
type Erasure struct {
	Name     string `json:"name" maxLength:"120" doc:"as it stands on their page"`
	Password string `json:"password" maxLength:"200" doc:"of whoever is signed in"`

	Texts []string `json:"texts,omitempty" maxItems:"500" doc:"keys of the mentions from which the parts of the name are taken out, too"`
}

// Mention is a text in which somebody's name stands, or a word that is a part of it.
type Mention struct {
	Key     string `json:"key"`
	Where   string `json:"where" doc:"what it is"`
	Text    string `json:"text"`
	Becomes string `json:"becomes" doc:"without the name"`
	Sure    bool   `json:"sure" doc:"the whole name stands there, and nothing more of it: it is taken out with the person"`
	Alike   bool   `json:"alike" doc:"the word has the capitals of the name"`
	Unread  bool   `json:"unread" doc:"what is called text cannot be read and may say the name: it stays as it is"`
}

// Erased tells what has gone, and what stays as counts without a name.
type Erased struct {
	Rounds   int64 `json:"rounds" doc:"stay as counts"`
	Hits     int64 `json:"hits"`
	Evidence int64 `json:"evidence"`
	Cautions int64 `json:"cautions"`

	Left []Mention `json:"left" doc:"texts in which a part of the name is left"`
}

func mentionsOut(list []ledger.Mention) []Mention {
	out := make([]Mention, len(list))
	for i, m := range list {
		out[i] = Mention(m)
	}
	return out
}

func (s *Server) registerTrainees(api huma.API) {
	get(api, "/api/beginning", func(c caller, _ *nothing) (Beginning, error) { return c.beginning(), nil })
	get(api, "/api/trainees", func(c caller, in *Shelf) ([]Trainee, error) {
		rows, err := c.Gym.Trainees(in.stored())
		return eachRow(rows, err, func(t store.Trainee) (Trainee, error) { return traineeOut(t), nil })
	})
	post(api, "/api/trainees", func(c caller, in *Making[Trainee]) (Trainee, error) {
		return made(in.Key, func() (Trainee, error) {
			row, err := in.Body.row(in.Key)
			if err == nil {
				err = c.Gym.AddTrainee(row)
			}
			if err != nil {
				return Trainee{}, err
			}
			return traineeOut(*row), nil
		}, func() (Trainee, error) {
			in.Body.Version = asMade
			return c.changeTrainee(in.Key, in.Body)
		})
	})
	get(api, "/api/trainees/{id}", func(c caller, in *ByID) (Trainee, error) {
		row, err := c.Gym.Trainee(in.ID)
		return traineeOut(row), err
	})
	put(api, "/api/trainees/{id}", func(c caller, in *Addressed[Trainee]) (Trainee, error) {
		return c.changeTrainee(in.ID, in.Body)
	})
	command(api, http.MethodDelete, "/api/trainees/{id}",
		func(c caller, in *ByID) error { return c.Gym.Archive(&store.Trainee{}, in.ID) })
	command(api, http.MethodPost, "/api/trainees/{id}/restore",
		func(c caller, in *ByID) error { return c.Gym.BringBack(&store.Trainee{}, in.ID) })
	post(api, "/api/trainees/{id}/erase", func(c caller, in *struct {
		Addressed[Erasure]
		Source
	}) (Erased, error) {
		t, err := c.Gym.Trainee(in.ID)
		if err != nil {
			return Erased{}, err
		}
		if err := erasing.Confirmed(t.Name, in.Body.Name); err != nil {
			return Erased{}, err
		}
		if err := s.confirmed(c, in.ip, in.Body.Password, "password"); err != nil {
			return Erased{}, err
		}
		gone, left, err := ledger.Erase(c.Gym, t, in.Body.Texts)
		return Erased{gone.Rounds, gone.Hits, gone.Evidence, gone.Cautions, mentionsOut(left)}, err
	})
	get(api, "/api/trainees/{id}/mentions", func(c caller, in *ByID) ([]Mention, error) {
		t, err := c.Gym.Trainee(in.ID)
		if err != nil {
			return nil, err
		}
		list, err := ledger.Mentions(c.Gym, t)
		return mentionsOut(list), err
	})
}
