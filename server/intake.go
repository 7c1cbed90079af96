package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"sync"
	"time"

	"github.com/coder/websocket"
	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"

	"melodromos/standin"
	"melodromos/store"
)

// Batch is a small lot of hits and marks. Whoever captures them gives itself a name and numbers them from 0; a batch that
// is sent again, because its answer was lost, is kept once.
type Batch struct {
	Device  string   `json:"device" minLength:"1" maxLength:"64"`
	ClockUS *int64   `json:"clockUs,omitempty" minimum:"0" maximum:"14400000000" doc:"how far the run's clock has come"`
	Latency *int64   `json:"latencyUs,omitempty" minimum:"0" maximum:"1000000" doc:"measured latency of the device; at stands before it is subtracted"`
	Hits    []HitIn  `json:"hits" maxItems:"500"`
	Marks   []MarkIn `json:"marks,omitempty" maxItems:"500"`
}

// HitIn is one hit: at on the run's clock, or ago before the batch was sent.
type HitIn struct {
	Seq    int      `json:"seq" minimum:"0" maximum:"20000"`
	At     *int64   `json:"at,omitempty" minimum:"0" maximum:"14400000000" doc:"µs on the run's clock"`
	Ago    *int64   `json:"ago,omitempty" minimum:"0" maximum:"60000000" doc:"µs before sending, for a device that does not know the run's clock"`
	Hand   string   `json:"hand,omitempty" enum:"lead,rear"`
	Force  *float64 `json:"force,omitempty" minimum:"0" maximum:"100000" doc:"newtons, where the sensor tells"`
	Launch *float64 `json:"launch,omitempty" exclusiveMinimum:"0" maximum:"30" doc:"m/s at which the bag was driven off, where the sensor tells"`
}

// MarkIn is something the coach saw: the strike was missed, the bag went off line or wild, the trainee was touched, or
// order was found again.
type MarkIn struct {
	Seq  int    `json:"seq" minimum:"0" maximum:"1000000"`
	At   int64  `json:"at" minimum:"0" maximum:"14400000000"`
	Kind string `json:"kind" enum:"missed,offLine,wild,touched,found"`
}

// Kept answers a batch: how many hits were new, and how the run stands.
type Kept struct {
	New     int    `json:"new"`
	State   string `json:"state" enum:"ready,running,paused,done,stopped"`
	ClockUS int64  `json:"clockUs"`
}

// IntakeInfo tells a device what it has been joined to.
type IntakeInfo struct {
	State   string            `json:"state" enum:"ready,running,paused,done,stopped"`
	ClockUS int64             `json:"clockUs"`
	EndUS   int64             `json:"endUs"`
	Clock   string            `json:"clock" enum:"bag,beat" doc:"whose clock the round goes by"`
	Rig     RigDoc            `json:"rig"`
	Drill   DrillDoc          `json:"drill"`
	Strikes []standin.Planned `json:"strikes"`
}

// ByKey takes the key of the address.
type ByKey struct {
	Key string `path:"key" minLength:"20" maxLength:"64"`
}

// registerIntake opens the way in for devices. The key of a run is all they need.
func (s *Server) registerIntake() {
	huma.Get(s.api, "/api/intake/{key}", func(ctx context.Context, in *ByKey) (*one[IntakeInfo], error) {
		run, err := s.runByKey(ctx, in.Key)
		return single(ctx, run, err, intakeInfo)
	})
	huma.Post(s.api, "/api/intake/{key}", func(ctx context.Context, in *struct {
		ByKey
		Body Batch
	}) (*one[Kept], error) {
		run, err := s.runByKey(ctx, in.Key)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		if (run.Source == "keys" || run.Source == "none") && len(in.Body.Hits) > 0 {
			return nil, huma.Error409Conflict("No sensor records this round; what it sent was not kept.")
		}
		in.Body.ClockUS, in.Body.Marks = nil, nil // the clock and the marks are the run screen's
		return s.keep(ctx, s.store.Gym(ctx, run.GymID), run, in.Body)
	})
}

// grace is how long after a round's end its key still takes what a device could not send in time.
const grace = 2 * time.Minute

// runByKey finds the run that a key opens, while it does.
func (s *Server) runByKey(ctx context.Context, key string) (store.Run, error) {
	run, err := s.store.RunByIntake(ctx, intakeHash(key))
	if err == nil && run.State.Over() && run.EndedAt != nil && time.Since(*run.EndedAt) > grace {
		return store.Run{}, huma.Error410Gone("This round is over, and its key opens nothing any more. What was sent with it was not kept.")
	}
	return run, err
}

func intakeInfo(r store.Run) (IntakeInfo, error) {
	p, err := open(r)
	if err != nil {
		return IntakeInfo{}, err
	}
	return IntakeInfo{
		State: string(r.State), ClockUS: r.Now(time.Now()), EndUS: int64(p.timeline.End), Clock: string(p.plan.KeptBy(p.bag.Kind())),
		Rig: RigDoc{Rig: p.bag}, Drill: DrillDoc{Plan: p.plan}, Strikes: standin.Strikes(p.timeline, p.plan, p.bag.Kind()),
	}, nil
}

// keep stores a batch and passes its hits on to the screens that watch the run. It is the one way in, for the run screen,
// for devices and for the stand-in.
func (s *Server) keep(ctx context.Context, gym *store.Gym, run store.Run, in Batch) (*one[Kept], error) {
	now := time.Now()
	hits := make([]store.Hit, 0, len(in.Hits))
	shown := make([]feedHit, 0, len(in.Hits))
	for _, h := range in.Hits {
		if (h.At == nil) == (h.Ago == nil) {
			return nil, huma.Error422UnprocessableEntity("hits: expected either at or ago of each hit", &huma.ErrorDetail{Location: "body.hits", Message: "expected either at or ago"})
		}
		row := store.Hit{Device: in.Device, Seq: h.Seq, Force: h.Force, Launch: h.Launch}
		if h.At != nil {
			row.AtUS = *h.At
		} else {
			row.AtUS = run.Now(now) - *h.Ago
		}
		if h.Hand != "" {
			row.Hand = &h.Hand
		}
		hits = append(hits, row)
		shown = append(shown, feedHit{row.AtUS, h.Hand, h.Launch})
	}
	marks := make([]store.Mark, 0, len(in.Marks))
	for _, m := range in.Marks {
		marks = append(marks, store.Mark{Device: in.Device, Seq: m.Seq, AtUS: m.At, Kind: m.Kind})
	}
	added, err := gym.AddHits(run.ID, hits, marks)
	if errors.Is(err, store.ErrFull) {
		return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("This round holds as many hits or marks as one may, %d; what was sent was not kept.", store.MostHits))
	}
	if err != nil {
		return nil, refused(ctx, "", err)
	}
	run, err = gym.UpdateRun(run.ID, func(r *store.Run) error {
		if in.Latency != nil && !r.State.Over() { // what is judged stays judged by what was known then
			r.LatencyUS = in.Latency
		}
		if in.ClockUS != nil && !r.State.Over() { // only the run screen's word keeps a run open
			r.SeenAt, r.ClockUS = now.UTC(), max(r.ClockUS, *in.ClockUS)
		}
		return nil
	})
	if err != nil {
		return nil, refused(ctx, "", err)
	}
	if added > 0 {
		s.live.send(run.ID, feed{Kind: "hits", Hits: shown})
	}
	if run.State.Over() && added+len(marks) > 0 {
		if err := Summarise(gym, run); err != nil {
			return nil, refused(ctx, "", err)
		}
	}
	return &one[Kept]{Kept{added, string(run.State), run.Now(time.Now())}}, nil
}

// feed is a message to the screens that watch a run.
type feed struct {
	Kind  string    `json:"kind"` // "hits" or "state"
	Hits  []feedHit `json:"hits,omitempty"`
	State string    `json:"state,omitempty"`
}

type feedHit struct {
	At     int64    `json:"at"`
	Hand   string   `json:"hand,omitempty"`
	Launch *float64 `json:"launch,omitempty"`
}

// hub passes messages on to the watchers of each run. A watcher that does not keep up misses messages; the review does not.
type hub struct {
	mu       sync.Mutex
	watchers map[string]map[chan feed]bool
	closed   bool
}

func newHub() *hub { return &hub{watchers: map[string]map[chan feed]bool{}} }

func (h *hub) watch(run string) (<-chan feed, func()) {
	ch := make(chan feed, 64)
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.closed {
		close(ch)
		return ch, func() {}
	}
	if h.watchers[run] == nil {
		h.watchers[run] = map[chan feed]bool{}
	}
	h.watchers[run][ch] = true
	return ch, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		delete(h.watchers[run], ch)
		if len(h.watchers[run]) == 0 {
			delete(h.watchers, run)
		}
	}
}

func (h *hub) send(run string, m feed) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for ch := range h.watchers[run] {
		select {
		case ch <- m:
		default:
		}
	}
}

func (h *hub) close() {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.closed = true
	for run, chans := range h.watchers {
		for ch := range chans {
			close(ch)
		}
		delete(h.watchers, run)
	}
}

// serveLive streams a run's hits and states to a screen of the same gym.
func (s *Server) serveLive(c *gin.Context) {
	who, err := s.caller(c.Request.Context())
	if errors.Is(err, errNobody) {
		problem(c.Writer, http.StatusUnauthorized, "Sign in first.")
		return
	}
	var run store.Run
	if err == nil {
		run, err = who.gym.Run(c.Param("id"))
	}
	if err != nil {
		var status huma.StatusError
		errors.As(refused(c.Request.Context(), "", err), &status)
		problem(c.Writer, status.GetStatus(), status.Error())
		return
	}
	conn, err := websocket.Accept(c.Writer, c.Request, nil)
	if err != nil {
		return // Accept has answered
	}
	defer func() { _ = conn.CloseNow() }()
	ctx := conn.CloseRead(c.Request.Context())
	messages, leave := s.live.watch(run.ID)
	defer leave()
	look := time.NewTicker(s.pulse)
	defer look.Stop()
	token := s.sessions.Token(c.Request.Context())
	for {
		select {
		case <-ctx.Done():
			return
		case <-look.C:
			if s.ended(token) {
				_ = conn.Close(websocket.StatusPolicyViolation, "signed out")
				return
			}
		case m, open := <-messages:
			if !open {
				_ = conn.Close(websocket.StatusGoingAway, "the server is shutting down")
				return
			}
			text, _ := json.Marshal(m) // strings and numbers only
			if err := conn.Write(ctx, websocket.MessageText, text); err != nil {
				return
			}
		}
	}
}

// ended says whether nobody is signed in any more with a session. While the database does not answer, it goes on.
func (s *Server) ended(token string) bool {
	again, err := s.sessions.Load(s.running, token) // not the request's context, which still has the session as it was
	if err == nil {
		_, err = s.caller(again)
	}
	return errors.Is(err, errNobody)
}

func logStandIn(err error) { slog.Warn("stand-in", "error", err) }
