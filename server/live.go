package server

import (
	"encoding/json"
	"errors"
	"net/http"
	"sync"
	"time"

	"github.com/coder/websocket"
	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"

	"melodromos/store"
)

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
