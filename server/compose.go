package server

import (
	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/compose"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/trainee"
	"melodromos/ledger"
)

// DrillQuestion asks what a drill would be like on a bag of the gym, for a trainee, or for somebody of a skill band.
type DrillQuestion struct {
	RigID     string   `json:"rigId" format:"uuid"`
	TraineeID string   `json:"traineeId,omitempty" format:"uuid"`
	Band      string   `json:"band,omitempty"`
	Beside    string   `json:"beside,omitempty" format:"uuid" doc:"somebody else, to see how the fit differs"`
	Glance    bool     `json:"glance,omitempty" doc:"level, fit and neighbours are left out"`
	Doc       DrillDoc `json:"doc"`
}

// TempoQuestion asks for the force that gives a combination a tempo inside.
type TempoQuestion struct {
	RigID     string   `json:"rigId" format:"uuid"`
	TraineeID string   `json:"traineeId" format:"uuid"`
	Doc       DrillDoc `json:"doc"`
	Tempo     float64  `json:"tempo" doc:"strikes a minute"`
}

// CountQuestion asks for a combination with another return named after one of its strikes.
type CountQuestion struct {
	Text  string `json:"text"`
	Move  int    `json:"move" minimum:"0" doc:"index of the strike in the expanded combination"`
	Count int    `json:"count" minimum:"0" maximum:"9" doc:"returns to the next strike; 0 names none"`
}

// ComboText is a line of the notation.
type ComboText struct {
	Text string `json:"text"`
}

// compose answers for a plan that is being written.
func (c caller) compose(in DrillQuestion) (compose.Answer, error) {
	plan, err := in.Doc.Read()
	if err != nil {
		return compose.Answer{}, err
	}
	on, err := c.Floor(in.RigID, in.TraineeID, trainee.Band(in.Band))
	if err != nil {
		return compose.Answer{}, err
	}
	q := compose.Question{Plan: plan, On: on.Floor, Units: c.units(), Glance: in.Glance}
	kind := q.On.Bag.Kind()
	if in.TraineeID != "" && !in.Glance {
		cl, m, err := c.Member(in.TraineeID)
		if err != nil {
			return compose.Answer{}, err
		}
		q.Learned, q.Rounds, q.Cautions = cl.Learned(m, kind), cl.Done(m, plan, kind), m.Cautions
	}
	if in.Beside != "" {
		other, err := c.Gym.Trainee(in.Beside)
		if err != nil {
			return compose.Answer{}, err
		}
		ability, err := ledger.Ability(c.Gym, other, kind, c.Gym.Now())
		if err != nil {
			return compose.Answer{}, err
		}
		q.Beside = &compose.Other{Name: other.Name, Ability: ability}
	}
	a, err := compose.Ask(q)
	return a, input.Under("doc", err)
}

func (s *Server) registerCompose(api huma.API) {
	post(api, "/api/compose", func(c caller, in *body[DrillQuestion]) (compose.Answer, error) {
		return c.compose(in.Body)
	})
	get(api, "/api/first-drill/{id}", func(c caller, in *struct {
		ByID
		Line bool `query:"line" doc:"a line of the notation, on a speed bag as well"`
	}) (DrillDoc, error) {
		row, err := c.Gym.Rig(in.ID)
		if err != nil {
			return DrillDoc{}, err
		}
		bag, place, err := ledger.Rig(row)
		if err != nil {
			return DrillDoc{}, err
		}
		if in.Line {
			return DrillDoc{Plan: c.inSchool(drill.FirstLine(bag.Kind(), place))}, nil
		}
		p, err := drill.FirstOn(bag, place)
		return DrillDoc{Plan: c.inSchool(p)}, err
	})
	post(api, "/api/combo-count", func(_ caller, in *body[CountQuestion]) (ComboText, error) {
		text, err := compose.Recount(in.Body.Text, in.Body.Move, in.Body.Count)
		return ComboText{text}, err
	})
	post(api, "/api/combo-tempo", func(c caller, in *body[TempoQuestion]) (DrillDoc, error) {
		p, err := in.Body.Doc.Read()
		if err != nil {
			return DrillDoc{}, err
		}
		on, err := c.Floor(in.Body.RigID, in.Body.TraineeID, "")
		if err != nil {
			return DrillDoc{}, err
		}
		p, err = compose.AtTempo(p, on.Floor, in.Body.Tempo)
		return DrillDoc{Plan: p}, err
	})
}
