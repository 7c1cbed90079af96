package server

import (
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/caution"
	"melodromos/core/input"
	"melodromos/core/roster"
	"melodromos/core/trainee"
	"melodromos/ledger"
	"melodromos/store"
)

// Caution names something that somebody must be spared.
type Caution struct {
	ID       string       `json:"id" readOnly:"true"`
	Kind     caution.Type `json:"kind"`
	Note     string       `json:"note,omitempty" maxLength:"400"`
	SetBy    string       `json:"setBy,omitempty" readOnly:"true"`
	At       time.Time    `json:"at" readOnly:"true" required:"false"`
	LiftedBy string       `json:"liftedBy,omitempty" readOnly:"true" doc:"on whose word"`
	LiftedAt *time.Time   `json:"liftedAt,omitempty" readOnly:"true"`
}

// Lift says on whose word a caution is lifted.
type Lift struct {
	By string `json:"by" minLength:"1" maxLength:"120"`
}

// PersonPage is all that is known of somebody.
type PersonPage struct {
	Trainee  Trainee        `json:"trainee"`
	Cautions []Caution      `json:"cautions"`
	Signs    []caution.Sign `json:"signs" doc:"cautions that may be set"`
	Recent   []LogRow       `json:"recent"`
	Classes  []ClassDone    `json:"classes" doc:"that they were in lately, the newest first"`
	roster.PersonView
}

// ClassDone sums up somebody's rounds on bags in a class.
type ClassDone struct {
	ClassID string    `json:"hourId"`
	At      time.Time `json:"at"`
	Rounds  int       `json:"rounds"`
	Bags    []string  `json:"bags" doc:"names, in the order in which they were on them"`
}

// TestTaken is a test as it was done: the times of the taps in seconds, one row for each trial. A reaction test has one
// row of waits.
type TestTaken struct {
	Test  trainee.Test `json:"test"`
	Taps  [][]float64  `json:"taps" maxItems:"4"`
	Fists bool         `json:"fists,omitempty" doc:"gloves struck a pad; else fingers tapped, which only bound what fists do"`
}

// TestResult holds the findings of a test.
type TestResult struct {
	Sentence string           `json:"sentence"`
	Found    []roster.Measure `json:"found"`
	Total    float64          `json:"total" doc:"s, spread of the intervals of a beat test"`
	Clock    float64          `json:"clock" doc:"s, the inner clock's part"`
	Motor    float64          `json:"motor" doc:"s, the hand's part"`
	Clipped  bool             `json:"clipped" doc:"one part came out negative and stands as 0"`
	Used     int              `json:"used"`
	LeftOut  int              `json:"leftOut"`
}

// TapDelay holds the taps on a device along with clicks or flashes. Times are in s.
type TapDelay struct {
	Beats []float64 `json:"beats" maxItems:"60" doc:"when each was heard or seen"`
	Taps  []float64 `json:"taps" maxItems:"200"`
}

// DelayFound holds a device's delay between a tap and its report, which is subtracted from the taps of its rounds.
type DelayFound struct {
	Late    float64 `json:"late" doc:"s; 0 where the taps came ahead"`
	Spread  float64 `json:"spread" doc:"s"`
	Matched int     `json:"matched"`
}

func cautionOut(c store.Caution) (Caution, error) {
	return Caution{c.ID, caution.Type(c.Kind), c.Note, c.SetBy, c.CreatedAt, c.LiftedBy, c.LiftedAt}, nil
}

func personPage(in ledger.PersonPage, err error) (PersonPage, error) {
	p := PersonPage{Trainee: traineeOut(in.Person), Signs: caution.Signs(), PersonView: in.PersonView}
	p.Cautions, err = eachRow(in.Cautions, err, cautionOut)
	p.Recent, err = eachRow(in.Recent, err, logRow)
	p.Classes, err = eachRow(in.Classes, err, func(d ledger.InClass) (ClassDone, error) {
		return ClassDone{d.ClassID, d.At, d.Rounds, d.Bags}, nil
	})
	return p, err
}

// takeTest keeps what a test found out about somebody.
func (c caller) takeTest(id string, in TestTaken) (TestResult, error) {
	means := trainee.Fingers
	if in.Fists {
		means = trainee.Fists
	}
	r, err := c.TakeTest(id, in.Test, in.Taps, means)
	if err != nil {
		return TestResult{}, err
	}
	out := TestResult{Sentence: r.Sentence(in.Test, means), Total: r.Total, Clock: r.Clock, Motor: r.Motor,
		Clipped: r.Clipped, Used: r.Used, LeftOut: r.LeftOut}
	out.Found, err = eachRow(r.Found, err,
		func(e trainee.Evidence) (roster.Measure, error) { return roster.Measured(e), nil })
	return out, err
}

func (s *Server) registerPeople(api huma.API) {
	get(
		api,
		"/api/trainees/{id}/page",
		func(c caller, in *ByID) (PersonPage, error) { return personPage(c.PersonPage(in.ID)) },
	)
	post(api, "/api/trainees/{id}/cautions", func(c caller, in *Addressed[Caution]) (Caution, error) {
		row := store.Caution{TraineeID: in.ID, Kind: string(in.Body.Kind), Note: in.Body.Note, SetBy: c.Coach.Name,
			SetByID: &c.Coach.ID}
		if err := c.Gym.AddCaution(&row); err != nil {
			return Caution{}, err
		}
		return cautionOut(row)
	})
	command(api, "POST", "/api/cautions/{id}/lift", func(c caller, in *Addressed[Lift]) error {
		by, err := input.Name("by", in.Body.By)
		if err != nil {
			return err
		}
		return c.Gym.LiftCaution(in.ID, by, &c.Coach.ID)
	})
	get(api, "/api/test-plan", func(caller, *nothing) (trainee.TestPlan, error) { return trainee.Plan, nil })
	post(api, "/api/tap-delay", func(_ caller, in *body[TapDelay]) (DelayFound, error) {
		d, err := trainee.DelayOf(in.Body.Beats, in.Body.Taps)
		return DelayFound{d.TakenOff(), d.Spread, d.Matched}, err
	})
	post(api, "/api/trainees/{id}/tests",
		func(c caller, in *Addressed[TestTaken]) (TestResult, error) { return c.takeTest(in.ID, in.Body) })
}
