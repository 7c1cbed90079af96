package server

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	mathrand "math/rand/v2"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/judge"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/standin"
	"melodromos/store"
)

// NewRun asks for a run of a drill.
type NewRun struct {
	DrillID string         `json:"drillId" format:"uuid"`
	Source  string         `json:"source" enum:"keys,standin,device,none" doc:"what records the hits"`
	Plays   string         `json:"plays,omitempty" enum:"beat,follow,startThenFollow" doc:"the usual one by clock and source where nothing is said"`
	StandIn *StandInChoice `json:"standIn,omitempty" doc:"with source standin"`
}

// StandInChoice says whom the simulated sensor hits like.
type StandInChoice struct {
	Ability string `json:"ability" enum:"first-timer,beginner,intermediate,advanced,expert"`
	Seed    uint64 `json:"seed"`
	Deaf    bool   `json:"deaf,omitempty" doc:"it tells times alone, and no force"`
}

// Run is a run as the run screen needs it. IntakeKey is told once, when the run is made.
type Run struct {
	ID        string         `json:"id"`
	DrillID   string         `json:"drillId"`
	DrillName string         `json:"drillName"`
	RigName   string         `json:"rigName"`
	Rig       RigDoc         `json:"rig"`
	Trainee   Trainee        `json:"trainee"`
	Source    string         `json:"source" enum:"keys,standin,device,none"`
	Plays     string         `json:"plays" enum:"beat,follow,startThenFollow"`
	FollowsUS int64          `json:"followsUs" doc:"from this moment on the bag on the screen follows the hits; past the end where it never does"`
	State     string         `json:"state" enum:"ready,running,paused,done,stopped"`
	ClockUS   int64          `json:"clockUs"`
	Doc       DrillDoc       `json:"doc"`
	Tempo     float64        `json:"tempo" doc:"strikes a minute, of a combination inside it"`
	Timeline  drill.Timeline `json:"timeline"`
	Cycle     Cycle          `json:"cycle"`
	IntakeKey string         `json:"intakeKey,omitempty"`
	Removed   bool           `json:"removed,omitempty" doc:"from the log"`
}

// Step moves a run's clock: what happened, and at which microsecond of the clock.
type Step struct {
	Action  string `json:"action" enum:"start,pause,resume,stop,finish"`
	ClockUS int64  `json:"clockUs" minimum:"0" maximum:"14400000000"`
}

// RunCourse is how a run stands.
type RunCourse struct {
	State   string `json:"state" enum:"ready,running,paused,done,stopped"`
	ClockUS int64  `json:"clockUs"`
}

// runParts is a stored run with its documents opened.
type runParts struct {
	store.Run
	bag      rig.Rig
	plan     drill.Plan
	timeline drill.Timeline
}

// recorder and playing are how the run captures its hits, and what it plays.
func (p runParts) recorder() drill.Recorder { return drill.Recorder(p.Source) }
func (p runParts) playing() drill.Playing   { return drill.Playing(p.Plays) }

func open(r store.Run) (runParts, error) {
	p := runParts{Run: r}
	var err error
	if p.bag, err = rig.Read(input.Parse(r.RigDoc)); err != nil {
		return p, fmt.Errorf("run %s: stored rig: %w", r.ID, asInternal(err))
	}
	if p.plan, err = drill.ReadPlan(input.Parse(r.DrillDoc)); err != nil {
		return p, fmt.Errorf("run %s: stored drill: %w", r.ID, asInternal(err))
	}
	if err = json.Unmarshal(r.Timeline, &p.timeline); err != nil {
		return p, fmt.Errorf("run %s: stored timeline: %w", r.ID, err)
	}
	if p.timeline.Bag != nil {
		if err = p.timeline.Bag.Ready(); err != nil {
			return p, fmt.Errorf("run %s: stored table of the bag: %w", r.ID, asInternal(err))
		}
	}
	return p, nil
}

// cycle is the bag's motion as it is drawn.
func (p runParts) cycle() (Cycle, error) {
	d, ok := p.plan.(drill.Drill)
	speed, is := p.bag.(rig.SpeedBag)
	if !ok || !is {
		if p.timeline.Film == nil {
			return Cycle{}, fmt.Errorf("run %s: a combination without its film", p.ID)
		}
		return filmCycle(*p.timeline.Film, p.bag.Kind()), nil
	}
	return drillCycle(d, speed, p.timeline.Launch, 60/d.Tempo)
}

// tempo is the one that is named with the run.
func (p runParts) tempo() float64 {
	if d, ok := p.plan.(drill.Drill); ok {
		return d.Tempo
	}
	strikes := judge.Planned(p.timeline, -1)
	if n := len(strikes); n > 1 && strikes[n-1].At > strikes[0].At {
		return 60 * float64(n-1) / (strikes[n-1].At - strikes[0].At)
	}
	return 0
}

func (s *Server) registerRuns(api huma.API) {
	huma.Post(api, "/api/runs", func(ctx context.Context, in *one[NewRun]) (*one[Run], error) {
		run, key, err := s.newRun(ctx, in.Body)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		out, err := s.runOut(ctx, run)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		out.IntakeKey = key
		return &one[Run]{out}, nil
	})
	huma.Get(api, "/api/runs/{id}", func(ctx context.Context, in *ByID) (*one[Run], error) {
		row, err := who(ctx).gym.Run(in.ID)
		return single(ctx, row, err, func(r store.Run) (Run, error) { return s.runOut(ctx, r) })
	})
	huma.Post(api, "/api/runs/{id}/clock", func(ctx context.Context, in *struct {
		ByID
		Body Step
	}) (*one[RunCourse], error) {
		row, err := s.step(ctx, in.ID, in.Body)
		return single(ctx, row, err, sure(course))
	})
	for path, removed := range map[string]bool{"/api/runs/{id}/remove": true, "/api/runs/{id}/restore": false} {
		huma.Post(api, path, func(ctx context.Context, in *ByID) (*struct{}, error) {
			return nil, refusedOrNil(ctx, remove(who(ctx).gym, in.ID, removed))
		})
	}
	huma.Post(api, "/api/runs/{id}/hits", func(ctx context.Context, in *struct {
		ByID
		Body Batch
	}) (*one[Kept], error) {
		gym := who(ctx).gym
		run, err := gym.Run(in.ID)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		if run.Source != "keys" && len(in.Body.Hits) > 0 {
			return nil, huma.Error422UnprocessableEntity("In this round taps are not recorded; they were not kept.", &huma.ErrorDetail{Location: "body.hits", Message: "only for a round that is tapped"})
		}
		return s.keep(ctx, gym, run, in.Body)
	})
}

// remove takes an ended run out of the log, or brings it back, with all that it moved.
func remove(gym *store.Gym, id string, removed bool) error {
	run, err := gym.UpdateRun(id, func(r *store.Run) error {
		switch now := time.Now().UTC(); {
		case !r.State.Over():
			return input.Refuse("", "this round is not over yet")
		case removed && r.RemovedAt == nil:
			r.RemovedAt = &now
		case !removed:
			r.RemovedAt = nil
		}
		return nil
	})
	if err != nil {
		return err
	}
	return Summarise(gym, run)
}

func course(r store.Run) RunCourse { return RunCourse{string(r.State), r.Now(time.Now())} }

// newRun compiles the drill as it is now, with the bag as it hangs now, and stores the run with both.
func (s *Server) newRun(ctx context.Context, in NewRun) (store.Run, string, error) {
	c := who(ctx)
	row, err := c.gym.Drill(in.DrillID)
	if err != nil {
		return store.Run{}, "", err
	}
	plan, err := drill.ReadPlan(input.Parse(row.Doc))
	if err != nil {
		return store.Run{}, "", fmt.Errorf("stored drill %s: %w", row.ID, asInternal(err))
	}
	floor, rigRow, _, err := c.floorOf(row.RigID, row.TraineeID)
	if err != nil {
		return store.Run{}, "", err
	}
	if err := barred(c.gym, row.TraineeID); err != nil {
		return store.Run{}, "", err
	}
	floor.Seed = mathrand.Uint64()
	run, err := NewRunRow(row, plan, rigRow, floor, drill.Recorder(in.Source), drill.Playing(in.Plays))
	if err != nil {
		return store.Run{}, "", err
	}
	key := rand.Text()
	run.CoachID, run.Zone, run.IntakeHash = &c.Coach.ID, c.row.Zone, intakeHash(key)
	if in.Source == "standin" {
		none := int64(0) // a simulated sensor is exact
		run.LatencyUS = &none
	}
	if err := c.gym.AddRun(&run); err != nil {
		return store.Run{}, "", err
	}
	if in.Source == "standin" {
		choice := StandInChoice{Ability: "intermediate", Seed: 1}
		if in.StandIn != nil {
			choice = *in.StandIn
		}
		go s.playStandIn(key, choice)
	}
	return run, key, nil
}

// NewRunRow compiles a drill on a bag into a run that is not stored yet, with how the bag answers its strikes. It plays the usual way
// where none is named; a way that there is not is refused, naming plays.
func NewRunRow(row store.Drill, plan drill.Plan, rigRow store.Rig, on drill.Floor, by drill.Recorder, plays drill.Playing) (store.Run, error) {
	timeline, err := plan.Lay(on)
	if err != nil {
		return store.Run{}, err
	}
	if err := drill.Hang(&timeline, plan, on); err != nil {
		return store.Run{}, err
	}
	ways := timeline.Playings(by)
	if plays == "" {
		plays = ways[0]
	}
	if !slices.Contains(ways, plays) {
		return store.Run{}, input.Refuse("plays", "expected the beat: there is nothing to follow in this round")
	}
	doc, err := json.Marshal(timeline)
	predicted := number(level.For(plan, timeline, on, toldBy(by, plays)).Clean)
	return store.Run{
		Predicted: predicted, DrillID: row.ID, RigID: rigRow.ID, TraineeID: row.TraineeID, DrillName: row.Name, Rung: row.Rung,
		RigDoc: rigRow.Doc, DrillDoc: row.Doc, Timeline: doc, Source: string(by), Plays: string(plays),
	}, err
}

// toldBy is what is told of the hits by how they are recorded. Whether a sensor tells force is seen once it does.
func toldBy(by drill.Recorder, plays drill.Playing) level.Told {
	return level.Told{Force: drill.OnScreen(by, plays) || by == drill.Simulated, Latency: by == drill.Simulated}
}

func intakeHash(key string) string {
	sum := sha256.Sum256([]byte(key))
	return hex.EncodeToString(sum[:])
}

func (s *Server) playStandIn(key string, c StandInChoice) {
	sensor := standin.Sensor{URL: s.self, Key: key, Person: standin.Like(c.Ability), Coarse: standin.Coarse{Deaf: c.Deaf}, Seed: c.Seed}
	if err := sensor.Play(s.running); err != nil && s.running.Err() == nil {
		logStandIn(err)
	}
}

func (s *Server) runOut(ctx context.Context, r store.Run) (Run, error) {
	p, err := open(r)
	if err != nil {
		return Run{}, err
	}
	gym := who(ctx).gym
	t, err := gym.Trainee(r.TraineeID)
	if err != nil {
		return Run{}, err
	}
	rigRow, err := gym.Rig(r.RigID)
	if err != nil {
		return Run{}, err
	}
	c, err := p.cycle()
	return Run{
		ID: r.ID, DrillID: r.DrillID, DrillName: r.DrillName, RigName: rigRow.Name, Rig: RigDoc{Rig: p.bag}, Trainee: traineeOut(t), Source: r.Source,
		Plays: r.Plays, FollowsUS: int64(p.timeline.Follows(p.playing())), Removed: r.RemovedAt != nil,
		State: string(r.State), ClockUS: r.Now(time.Now()), Doc: DrillDoc{Plan: p.plan}, Tempo: p.tempo(), Timeline: p.timeline, Cycle: c,
	}, err
}

// step moves a run's clock. What came late is taken as it is meant: a run that was counted as stopped because its browser
// was cut off goes on when the browser comes back, and ending a run twice changes nothing.
func (s *Server) step(ctx context.Context, id string, in Step) (store.Run, error) {
	gym := who(ctx).gym
	if in.Action == "start" || in.Action == "resume" {
		if err := mayGoOn(gym, id); err != nil {
			return store.Run{}, err
		}
	}
	run, err := gym.UpdateRun(id, func(r *store.Run) error {
		now := time.Now().UTC()
		if r.State == store.RunDone {
			return nil
		}
		r.SeenAt = now
		r.ClockUS = in.ClockUS
		switch in.Action {
		case "start", "resume":
			zero := now.Add(-time.Duration(in.ClockUS) * time.Microsecond)
			r.State, r.Ending, r.ZeroAt, r.EndedAt = store.RunRunning, "", &zero, nil
			if r.StartedAt == nil {
				r.StartedAt = &zero
			}
		case "pause":
			r.State, r.ZeroAt = store.RunPaused, nil
		case "stop", "finish":
			if in.Action == "stop" && r.State == store.RunStopped {
				return nil
			}
			if in.Action == "stop" {
				end(r, store.RunStopped, store.Stopped, now)
			} else {
				end(r, store.RunDone, store.AtBell, now)
			}
		}
		return nil
	})
	if err != nil {
		return run, err
	}
	s.live.send(id, feed{Kind: "state", State: string(run.State)})
	if run.State.Over() {
		return run, Summarise(gym, run)
	}
	return run, nil
}

// end closes a run where its clock stands.
func end(r *store.Run, state store.RunState, how store.Ending, at time.Time) {
	r.State, r.Ending, r.ZeroAt, r.EndedAt = state, how, nil, &at
	if r.StartedAt == nil {
		r.ClockUS = 0
	}
}

// stopAbandoned ends runs whose browser has not been heard of for a while, at the last moment they are known to have
// reached.
func (s *Server) stopAbandoned(ctx context.Context) error {
	rows, err := s.store.Abandoned(ctx, time.Now().UTC().Add(-s.Quiet))
	if err != nil {
		return err
	}
	for _, row := range rows {
		gym := s.store.Gym(ctx, row.GymID)
		run, err := gym.UpdateRun(row.ID, func(r *store.Run) error {
			if !r.State.Over() {
				end(r, store.RunStopped, store.Vanished, r.SeenAt)
			}
			return nil
		})
		if err != nil {
			return err
		}
		if err := Summarise(gym, run); err != nil {
			return err
		}
		s.live.send(row.ID, feed{Kind: "state", State: string(store.RunStopped)})
	}
	return nil
}
