package server

import (
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/bench"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/run"
	"melodromos/core/trainee"
	"melodromos/ledger"
	"melodromos/server/watch"
	"melodromos/store"
)

// NewRun asks for a run of an assignment.
type NewRun struct {
	AssignmentID string         `json:"assignmentId" format:"uuid"`
	Source       drill.Recorder `json:"source" doc:"what records the hits"`
	Plays        drill.Playing  `json:"plays,omitempty" doc:"the usual one by clock and source where nothing is said"`
	StandIn      *StandInChoice `json:"standIn,omitempty" doc:"with source standin"`
}

// StandInChoice says whom the simulated sensor hits like.
type StandInChoice struct {
	Ability trainee.Band `json:"ability"`
	Seed    uint64       `json:"seed"`
	Deaf    bool         `json:"deaf,omitempty" doc:"it tells times alone, and no force"`

	Mistake *Mistake `json:"mistake,omitempty" doc:"that is made on purpose"`
}

// Mistake is one that the simulated sensor's person makes on purpose: so many times the size at which it is just named.
type Mistake struct {
	Code  fault.Code `json:"code"`
	Times float64    `json:"times" minimum:"0" maximum:"10"`
}

// Run is a run as the run screen needs it. IntakeKey is told once, when the run is made.
type Run struct {
	ID           string             `json:"id"`
	AssignmentID string             `json:"assignmentId" doc:"empty where it is gone"`
	DrillName    string             `json:"drillName"`
	RigName      string             `json:"rigName"`
	Rig          RigDoc             `json:"rig"`
	Trainee      Trainee            `json:"trainee"`
	Source       drill.Recorder     `json:"source"`
	Plays        drill.Playing      `json:"plays"`
	FollowsUS    int64              `json:"followsUs" doc:"from this moment on the bag on the screen follows the hits; past the end where it never does"`
	State        run.State          `json:"state"`
	ClockUS      int64              `json:"clockUs"`
	Doc          DrillDoc           `json:"doc"`
	Tempo        float64            `json:"tempo" doc:"strikes a minute, of a combination inside it"`
	Timeline     drill.Timeline     `json:"timeline"`
	Cycle        bench.Cycle        `json:"cycle"`
	Partner      []drill.PartnerCue `json:"partner" doc:"for whoever gives the cues by hand"`
	Sees         []run.ToSeeOut     `json:"sees" doc:"what only an eye sees of this drill on this bag, to be marked"`
	IntakeKey    string             `json:"intakeKey,omitempty"`
	Removed      bool               `json:"removed,omitempty" doc:"from the log"`
}

// Step moves a run's clock: what happened, and at which microsecond of the clock.
type Step struct {
	Action  run.Action `json:"action"`
	ClockUS int64      `json:"clockUs" minimum:"0" maximum:"14400000000"`
}

// RunCourse holds the state and the clock of a round under way.
type RunCourse struct {
	State   run.State `json:"state"`
	ClockUS int64     `json:"clockUs"`
}

func clockOf(gym *store.Gym, r store.Run) int64 { return int64(ledger.ClockOf(r).Now(gym.Now())) }

func runOut(gym *store.Gym, r ledger.Round) (Run, error) {
	p := r.Opened
	out := Run{
		ID: r.ID, DrillName: r.DrillName, Rig: RigDoc{Rig: p.Bag}, Source: drill.Recorder(r.Source),
		Plays: drill.Playing(r.Plays), FollowsUS: int64(p.Timeline.Follows(p.Plays)),
		Removed: r.RemovedAt != nil, State: run.State(r.State), ClockUS: clockOf(gym, r.Run),
		Doc: DrillDoc{Plan: p.Plan}, Tempo: p.Tempo(), Timeline: p.Timeline, Trainee: traineeOut(r.Person),
		RigName: r.Bag.Name, Sees: p.Sees(), Partner: drill.Partner(p.Timeline, combo.Stance(r.Person.Stance)),
	}
	if r.AssignmentID != nil {
		out.AssignmentID = *r.AssignmentID
	}
	var err error
	out.Cycle, err = p.Cycle()
	return out, internal(err)
}

// newRun makes a round, and has the simulated sensor play it where that is to record it.
func (s *Server) newRun(c caller, in NewRun) (Run, error) {
	key := rand.Text()
	r, err := c.MakeRound(ledger.NewRound{AssignmentID: in.AssignmentID, Intake: intakeHash(key), By: in.Source,
		Plays: in.Plays})
	if err != nil {
		return Run{}, err
	}
	if in.Source == drill.Simulated {
		choice := StandInChoice{Ability: "intermediate", Seed: 1}
		if in.StandIn != nil {
			choice = *in.StandIn
		}
		usual := 0.0
		if r.Opened.Timeline.Clock == drill.ByBag {
			usual = r.Opened.Timeline.Usual()
		}
		go s.playStandIn(key, choice, usual)
	}
	out, err := runOut(c.Gym, r)
	out.IntakeKey = key
	return out, err
}

func intakeHash(key string) string {
	sum := sha256.Sum256([]byte(key))
	return hex.EncodeToString(sum[:])
}

// step moves a run's clock.
func (s *Server) step(c caller, id string, in Step) (RunCourse, error) {
	row, err := c.StepRound(id, in.Action, drill.Micros(in.ClockUS))
	if err != nil {
		return RunCourse{}, err
	}
	s.live.Send(id, watch.Message{Kind: "state", State: row.State})
	return RunCourse{run.State(row.State), clockOf(c.Gym, row)}, nil
}

func (s *Server) registerRuns(api huma.API) {
	post(api, "/api/runs", func(c caller, in *body[NewRun]) (Run, error) { return s.newRun(c, in.Body) })
	get(api, "/api/runs/{id}", func(c caller, in *ByID) (Run, error) {
		r, err := c.Round(in.ID)
		if err != nil {
			return Run{}, err
		}
		return runOut(c.Gym, r)
	})
	post(api, "/api/runs/{id}/clock", func(c caller, in *Addressed[Step]) (RunCourse, error) {
		return s.step(c, in.ID, in.Body)
	})
	command(api, "POST", "/api/runs/{id}/remove", func(c caller, in *ByID) error { return c.TakeFromLog(in.ID) })
	command(api, "POST", "/api/runs/{id}/restore", func(c caller, in *ByID) error { return c.PutInLog(in.ID) })
}
