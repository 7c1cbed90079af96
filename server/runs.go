package server

import (
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	mathrand "math/rand/v2"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/bench"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/input"
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

// RunCourse is how a run stands.
type RunCourse struct {
	State   run.State `json:"state"`
	ClockUS int64     `json:"clockUs"`
}

func clockOf(gym *store.Gym, r store.Run) int64 { return int64(ledger.Course(r).Now(gym.Now())) }

func runOut(gym *store.Gym, r store.Run, p run.Opened) (Run, error) {
	out := Run{
		ID: r.ID, DrillName: r.DrillName, Rig: RigDoc{Rig: p.Bag}, Source: drill.Recorder(r.Source),
		Plays: drill.Playing(r.Plays), FollowsUS: int64(p.Timeline.Follows(p.Plays)),
		Removed: r.RemovedAt != nil, State: run.State(r.State), ClockUS: clockOf(gym, r), Doc: DrillDoc{Plan: p.Plan},
		Tempo: p.Tempo(), Timeline: p.Timeline,
	}
	if r.AssignmentID != nil {
		out.AssignmentID = *r.AssignmentID
	}
	if r.TraineeID == nil {
		return out, store.ErrNotFound
	}
	t, err := gym.Trainee(*r.TraineeID)
	if err != nil {
		return out, err
	}
	bag, err := gym.Rig(r.RigID)
	if err != nil {
		return out, err
	}
	out.Trainee, out.RigName = traineeOut(t), bag.Name
	out.Sees = p.Sees()
	out.Partner = drill.Partner(p.Timeline, combo.Stance(t.Stance))
	out.Cycle, err = p.Cycle()
	return out, internal(err)
}

// newRun lays the drill out as it is now, with the bag as it hangs now and softer or shorter where a caution wants it,
// and stores the run with all of it.
func (s *Server) newRun(c caller, in NewRun) (Run, error) {
	a, err := c.gym.Assignment(in.AssignmentID)
	if err != nil {
		return Run{}, err
	}
	on, bag, t, err := c.floor(a.RigID, a.TraineeID, "")
	if err != nil {
		return Run{}, err
	}
	cautions, err := ledger.Cautions(c.gym, a.TraineeID)
	if err != nil {
		return Run{}, err
	}
	plan, err := ledger.Given(a, t.Stance)
	if err != nil {
		return Run{}, err
	}
	on.Seed, on.GetReady = mathrand.Uint64(), c.row.GetReady
	prepared, err := run.For(cautions, plan, on, in.Source, in.Plays)
	if err != nil {
		return Run{}, err
	}
	row, line, err := ledger.NewRun(a, bag, prepared, in.Source)
	if err != nil {
		return Run{}, err
	}
	key := rand.Text()
	row.CoachID, row.Zone, row.IntakeHash = &c.Coach.ID, c.row.Zone, intakeHash(key)
	if in.Source == drill.Simulated {
		exact := int64(0)
		row.LatencyUS = &exact
	}
	if err := c.gym.AddRun(&row, line); err != nil {
		return Run{}, err
	}
	if in.Source == drill.Simulated {
		choice := StandInChoice{Ability: "intermediate", Seed: 1}
		if in.StandIn != nil {
			choice = *in.StandIn
		}
		usual := 0.0
		if prepared.Timeline.Clock == drill.ByBag {
			usual = prepared.Timeline.Usual()
		}
		go s.playStandIn(key, choice, usual)
	}
	opened := run.Opened{Bag: on.Bag, Plan: prepared.Plan, Timeline: prepared.Timeline, By: in.Source,
		Plays: prepared.Plays, Eased: a.Eased}
	out, err := runOut(c.gym, row, opened)
	out.IntakeKey = key
	return out, err
}

func intakeHash(key string) string {
	sum := sha256.Sum256([]byte(key))
	return hex.EncodeToString(sum[:])
}

// step moves a run's clock. A round is not started, nor taken up again after a pause or an end, whose person was held
// back since; what was captured in it can come all the same.
func (s *Server) step(c caller, id string, in Step) (RunCourse, error) {
	before, err := c.gym.Run(id)
	if err != nil {
		return RunCourse{}, err
	}
	if before.TraineeID != nil && ledger.Course(before).SetsGoing(in.Action) {
		cautions, err := ledger.Cautions(c.gym, *before.TraineeID)
		if err == nil {
			err = run.Starts(cautions)
		}
		if err != nil {
			return RunCourse{}, err
		}
	}
	row, err := ledger.Move(c.gym, id, func(r run.RoundClock) (run.RoundClock, error) {
		return r.Step(in.Action, drill.Micros(in.ClockUS), c.gym.Now())
	})
	if err != nil {
		return RunCourse{}, err
	}
	s.live.Send(id, watch.Message{Kind: "state", State: row.State})
	return RunCourse{run.State(row.State), clockOf(c.gym, row)}, nil
}

// remove takes an ended run out of the log with all that it moved; bringBack puts it back.
func (c caller) remove(id string) error {
	return c.inLog(id, func() *time.Time { return new(c.gym.Now()) })
}

func (c caller) bringBack(id string) error {
	return c.inLog(id, func() *time.Time { return nil })
}

func (c caller) inLog(id string, removed func() *time.Time) error {
	_, err := ledger.Change(c.gym, id, func(r *store.Run) error {
		if !run.State(r.State).Over() {
			return input.Refuse("", "this round is not over yet")
		}
		if at := removed(); at == nil || r.RemovedAt == nil {
			r.RemovedAt = at
		}
		return nil
	})
	return err
}

func (s *Server) registerRuns(api huma.API) {
	post(api, "/api/runs", func(c caller, in *body[NewRun]) (Run, error) { return s.newRun(c, in.Body) })
	get(api, "/api/runs/{id}", func(c caller, in *ByID) (Run, error) {
		row, err := c.gym.Run(in.ID)
		if err != nil {
			return Run{}, err
		}
		p, err := ledger.Open(c.gym, row)
		if err != nil {
			return Run{}, err
		}
		return runOut(c.gym, row, p)
	})
	post(api, "/api/runs/{id}/clock", func(c caller, in *Addressed[Step]) (RunCourse, error) {
		return s.step(c, in.ID, in.Body)
	})
	command(api, "POST", "/api/runs/{id}/remove", func(c caller, in *ByID) error { return c.remove(in.ID) })
	command(api, "POST", "/api/runs/{id}/restore", func(c caller, in *ByID) error { return c.bringBack(in.ID) })
}
