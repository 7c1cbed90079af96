package server

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/run"
	"melodromos/ledger"
	"melodromos/server/watch"
	"melodromos/standin"
	"melodromos/store"
)

// Batch is a small lot of hits and marks. Whoever captures them gives itself a name and numbers them from 0; a batch
// that is sent again, because its answer was lost, is kept once.
type Batch struct {
	Device  string   `json:"device" minLength:"1" maxLength:"64" pattern:"^[A-Za-z0-9][A-Za-z0-9 ._:-]*$" patternDescription:"letters, digits, blanks and . _ : -"`
	ClockUS *int64   `json:"clockUs,omitempty" minimum:"0" maximum:"14400000000" doc:"how far the run's clock has come"`
	Latency *int64   `json:"latencyUs,omitempty" minimum:"0" maximum:"1000000" doc:"measured latency of the device; at stands before it is subtracted"`
	Hits    []HitIn  `json:"hits" maxItems:"500"`
	Marks   []MarkIn `json:"marks,omitempty" maxItems:"500"`
}

// HitIn is one hit: at on the run's clock, or ago before the batch was sent.
type HitIn struct {
	Seq    int        `json:"seq" minimum:"0" maximum:"20000"`
	At     *int64     `json:"at,omitempty" minimum:"0" maximum:"14400000000" doc:"µs on the run's clock"`
	Ago    *int64     `json:"ago,omitempty" minimum:"0" maximum:"60000000" doc:"µs before sending, for a device that does not know the run's clock"`
	Hand   combo.Hand `json:"hand,omitempty" enum:"lead,rear"`
	Force  *float64   `json:"force,omitempty" minimum:"0" maximum:"100000" doc:"newtons, where the sensor tells"`
	Launch *float64   `json:"launch,omitempty" exclusiveMinimum:"0" maximum:"30" doc:"m/s at which the bag was driven off, where the sensor tells"`
}

// MarkIn is something the coach saw: the strike was missed, the bag went off line or wild, the trainee was touched, or
// order was found again.
type MarkIn struct {
	Seq  int          `json:"seq" minimum:"0" maximum:"1000000"`
	At   int64        `json:"at" minimum:"0" maximum:"14400000000"`
	Kind run.MarkKind `json:"kind"`
}

// Kept answers a batch: how many hits were new, and how the run stands.
type Kept struct {
	New     int       `json:"new"`
	State   run.State `json:"state"`
	ClockUS int64     `json:"clockUs"`
}

// IntakeInfo tells a device what it has been joined to.
type IntakeInfo struct {
	State   run.State         `json:"state"`
	ClockUS int64             `json:"clockUs"`
	EndUS   int64             `json:"endUs"`
	Clock   drill.Clock       `json:"clock" doc:"whose clock the round goes by"`
	Rig     RigDoc            `json:"rig"`
	Drill   DrillDoc          `json:"drill"`
	Strikes []standin.Planned `json:"strikes"`
}

// ByKey takes the key of the address.
type ByKey struct {
	Key string `path:"key" minLength:"20" maxLength:"64"`
}

// registerIntake opens the way in for devices, for which the key of a run is all they need.
func (s *Server) registerIntake() {
	huma.Get(s.api, "/api/intake/{key}", func(ctx context.Context, in *ByKey) (*body[IntakeInfo], error) {
		row, err := s.runByKey(ctx, in.Key)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		info, err := intakeInfo(s.store.Gym(ctx, row.GymID), row)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		return &body[IntakeInfo]{info}, nil
	})
	huma.Post(s.api, "/api/intake/{key}", func(ctx context.Context, in *struct {
		ByKey
		Body Batch
	}) (*body[Kept], error) {
		row, err := s.runByKey(ctx, in.Key)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		if by := drill.Recorder(row.Source); (by == drill.Taps || by == drill.Nothing) && len(in.Body.Hits) > 0 {
			return nil, huma.Error409Conflict("No sensor records this round; what it sent was not kept.")
		}
		in.Body.ClockUS = nil // the clock and the marks are the run screen's
		if drill.Recorder(row.Source) != drill.Simulated {
			in.Body.Marks = nil
		}
		kept, err := s.keep(s.store.Gym(ctx, row.GymID), row, in.Body)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		return &body[Kept]{kept}, nil
	})
}

// registerHits opens the way in for the run screen.
func (s *Server) registerHits(api huma.API) {
	post(api, "/api/runs/{id}/hits", func(c caller, in *Addressed[Batch]) (Kept, error) {
		row, err := c.Gym.Run(in.ID)
		if err != nil {
			return Kept{}, err
		}
		if drill.Recorder(row.Source) != drill.Taps && len(in.Body.Hits) > 0 {
			return Kept{}, huma.Error422UnprocessableEntity("In this round taps are not recorded; they were not kept.",
				&huma.ErrorDetail{Location: "body.hits", Message: "only for a round that is tapped"})
		}
		return s.keep(c.Gym, row, in.Body)
	})
}

// grace is the time after a round's end in which its key still takes what a device could not send before.
const grace = 2 * time.Minute

// runByKey finds the run that a key opens, while it does.
func (s *Server) runByKey(ctx context.Context, key string) (store.Run, error) {
	row, err := s.store.RunByIntake(ctx, intakeHash(key))
	if err == nil && row.EndedAt != nil && s.store.Now().Sub(*row.EndedAt) > grace {
		return store.Run{},
			huma.Error410Gone(
				"This round is over, and its key opens nothing any more. What was sent with it was not kept.")
	}
	return row, err
}

// intakeInfo tells a device what it has been joined to.
func intakeInfo(gym *store.Gym, r store.Run) (IntakeInfo, error) {
	p, err := ledger.Open(gym, r)
	if err != nil {
		return IntakeInfo{}, err
	}
	kind := p.Bag.Kind()
	return IntakeInfo{
		State: run.State(r.State), ClockUS: clockOf(gym, r), EndUS: int64(p.Timeline.End), Clock: p.Plan.KeptBy(kind),
		Rig: RigDoc{Rig: p.Bag}, Drill: DrillDoc{Plan: p.Plan}, Strikes: standin.Strikes(p.Timeline, p.Plan, kind),
	}, nil
}

// keep stores a batch and passes its hits on to the screens that watch the run. It is the one way in, for the run
// screen, for devices and for the stand-in. What comes after a round's end is judged with the rest, in the same
// transaction.
func (s *Server) keep(gym *store.Gym, row store.Run, in Batch) (Kept, error) {
	now := gym.Now()
	hits, shown, err := hitsOf(in, row, now)
	if err != nil {
		return Kept{}, err
	}
	marks := make([]store.Mark, 0, len(in.Marks))
	for _, m := range in.Marks {
		marks = append(marks, store.Mark{Device: in.Device, Seq: m.Seq, AtUS: m.At, Kind: string(m.Kind)})
	}
	batch := ledger.Batch{Hits: hits, Marks: marks, Latency: in.Latency}
	if in.ClockUS != nil {
		batch.Clock = new(drill.Micros(*in.ClockUS))
	}
	added, row, err := ledger.Keep(gym, row, batch, now)
	if errors.Is(err, store.ErrFull) {
		return Kept{}, huma.Error422UnprocessableEntity(
			fmt.Sprintf("This round holds as many hits or marks as one may, %d; what was sent was not kept.",
				store.MostHits))
	}
	if err != nil {
		return Kept{}, err
	}
	if added > 0 {
		s.live.Send(row.ID, watch.Message{Kind: "hits", Hits: shown})
	}
	return Kept{added, run.State(row.State), clockOf(gym, row)}, nil
}

// hitsOf reads the hits of a batch, and as the watchers of the run are told of them.
func hitsOf(in Batch, row store.Run, now time.Time) ([]store.Hit, []watch.Hit, error) {
	hits := make([]store.Hit, 0, len(in.Hits))
	shown := make([]watch.Hit, 0, len(in.Hits))
	for _, h := range in.Hits {
		if (h.At == nil) == (h.Ago == nil) {
			return nil, nil, huma.Error422UnprocessableEntity("hits: expected either at or ago of each hit",
				&huma.ErrorDetail{Location: "body.hits", Message: "expected either at or ago"})
		}
		hit := store.Hit{Device: in.Device, Seq: h.Seq, Force: h.Force, Launch: h.Launch}
		if h.At != nil {
			hit.AtUS = *h.At
		} else {
			hit.AtUS = int64(ledger.ClockOf(row).Now(now)) - *h.Ago
		}
		if h.Hand != "" {
			hand := string(h.Hand)
			hit.Hand = &hand
		}
		hits = append(hits, hit)
		shown = append(shown, watch.Hit{At: hit.AtUS, Hand: string(h.Hand), Launch: h.Launch})
	}
	return hits, shown, nil
}
