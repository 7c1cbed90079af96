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

// Caution is what somebody has to be spared.
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

// TestTaken is a test as it was done: the times of the taps in seconds, one row for each trial. A reaction test has one
// row of waits.
type TestTaken struct {
	Test  trainee.Test `json:"test"`
	Taps  [][]float64  `json:"taps" maxItems:"4"`
	Fists bool         `json:"fists,omitempty" doc:"gloves struck a pad; else fingers tapped, which only bound what fists do"`
}

// TestResult is what a test found.
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

// TapDelay is how a device was tapped along with clicks or flashes. Times are in s.
type TapDelay struct {
	Beats []float64 `json:"beats" maxItems:"60" doc:"when each was heard or seen"`
	Taps  []float64 `json:"taps" maxItems:"200"`
}

// DelayFound is how late a device tells of a tap: taken off the taps of a round that is tapped on it.
type DelayFound struct {
	Late    float64 `json:"late" doc:"s; 0 where the taps came ahead"`
	Spread  float64 `json:"spread" doc:"s"`
	Matched int     `json:"matched"`
}

func cautionOut(c store.Caution) (Caution, error) {
	return Caution{c.ID, caution.Type(c.Kind), c.Note, c.SetBy, c.CreatedAt, c.LiftedBy, c.LiftedAt}, nil
}

func (c caller) personPage(id string) (PersonPage, error) {
	t, err := c.gym.Trainee(id)
	if err != nil {
		return PersonPage{}, err
	}
	p := PersonPage{Trainee: traineeOut(t), Signs: caution.Signs()}
	rows, err := c.gym.Cautions(id)
	if p.Cautions, err = eachRow(rows, err, cautionOut); err != nil {
		return p, err
	}
	runs, err := c.gym.Runs(store.RunFilter{TraineeID: id, Limit: 12})
	if p.Recent, err = eachRow(runs, err, logRow); err != nil {
		return p, err
	}
	if p.Classes, err = c.classesOf(id); err != nil {
		return p, err
	}
	cl, m, err := c.member(id)
	if err != nil {
		return p, err
	}
	p.PersonView, err = cl.Person(m)
	return p, err
}

// takeTest keeps what a test found out about somebody.
func (c caller) takeTest(id string, in TestTaken) (TestResult, error) {
	t, err := c.gym.Trainee(id)
	if err != nil {
		return TestResult{}, err
	}
	test := trainee.Test(in.Test)
	means := trainee.Fingers
	if in.Fists {
		means = trainee.Fists
	}
	r, err := trainee.Take(test, in.Taps, means)
	if err != nil {
		return TestResult{}, err
	}
	out := TestResult{Sentence: r.Sentence(test, means), Found: []roster.Measure{}, Total: r.Total, Clock: r.Clock,
		Motor: r.Motor, Clipped: r.Clipped, Used: r.Used, LeftOut: r.LeftOut}
	now := c.gym.Now()
	for i := range r.Found {
		r.Found[i].At, r.Found[i].Note = now, test.Words()
		out.Found = append(out.Found, roster.Measured(r.Found[i]))
	}
	return out, c.gym.AddEvidence(ledger.EvidenceRows(r.Found, t.ID, test.Words()))
}

func (s *Server) registerPeople(api huma.API) {
	get(api, "/api/trainees/{id}/page", func(c caller, in *ByID) (PersonPage, error) { return c.personPage(in.ID) })
	post(api, "/api/trainees/{id}/cautions", func(c caller, in *Addressed[Caution]) (Caution, error) {
		row := store.Caution{TraineeID: in.ID, Kind: string(in.Body.Kind), Note: in.Body.Note, SetBy: c.Coach.Name,
			SetByID: &c.Coach.ID}
		if err := c.gym.AddCaution(&row); err != nil {
			return Caution{}, err
		}
		return cautionOut(row)
	})
	command(api, "POST", "/api/cautions/{id}/lift", func(c caller, in *Addressed[Lift]) error {
		by, err := input.Name("by", in.Body.By)
		if err != nil {
			return err
		}
		return c.gym.LiftCaution(in.ID, by, &c.Coach.ID)
	})
	get(api, "/api/test-plan", func(caller, *nothing) (trainee.TestPlan, error) { return trainee.Plan, nil })
	post(api, "/api/tap-delay", func(_ caller, in *body[TapDelay]) (DelayFound, error) {
		d, err := trainee.DelayOf(in.Body.Beats, in.Body.Taps)
		return DelayFound{d.TakenOff(), d.Spread, d.Matched}, err
	})
	post(api, "/api/trainees/{id}/tests",
		func(c caller, in *Addressed[TestTaken]) (TestResult, error) { return c.takeTest(in.ID, in.Body) })
}
