// Package watch passes on what happens in a run to the screens that watch it.
package watch

import "sync"

// Message is a message to the screens that watch a run.
type Message struct {
	Kind  string `json:"kind"` // "hits" or "state"
	Hits  []Hit  `json:"hits,omitempty"`
	State string `json:"state,omitempty"`
}

// Hit is a hit as watchers are told of it: µs on the run's clock.
type Hit struct {
	At     int64    `json:"at"`
	Hand   string   `json:"hand,omitempty"`
	Launch *float64 `json:"launch,omitempty"`
}

// Hub passes messages on to the watchers of each run. A watcher that does not keep up misses messages; the review does
// not.
type Hub struct {
	mu       sync.Mutex
	watchers map[string]map[chan Message]bool
	closed   bool
}

// New has nobody watching.
func New() *Hub { return &Hub{watchers: map[string]map[chan Message]bool{}} }

// Watch gives the messages of a run until the second result is called; at once closed when the hub is.
func (h *Hub) Watch(run string) (<-chan Message, func()) {
	ch := make(chan Message, 64)
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.closed {
		close(ch)
		return ch, func() {}
	}
	if h.watchers[run] == nil {
		h.watchers[run] = map[chan Message]bool{}
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

// Send tells all who watch a run.
func (h *Hub) Send(run string, m Message) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for ch := range h.watchers[run] {
		select {
		case ch <- m:
		default:
		}
	}
}

// Close ends every watch.
func (h *Hub) Close() {
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
