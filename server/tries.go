package server

import (
	"net/netip"
	"sync"
	"time"
)

// tries counts wrong sign-ins and makes whoever goes on wait, longer each time but never for good. A try counts from when it begins, so
// that many at once do not slip through, and is struck off when it proves right.
type tries struct {
	mu    sync.Mutex
	known map[string]*tried
	now   func() time.Time
}

type tried struct {
	wrong      int
	next, last time.Time // when the next try is let through; when the last one was
}

// allowance is how many tries go wrong before there is a wait, and how long it grows at most.
type allowance struct {
	free int
	most time.Duration
}

// What is allowed from one source for one address, and from one source for all: a gym's coaches may share one.
var (
	forAddress = allowance{free: 5, most: time.Minute}
	fromSource = allowance{free: 30, most: 30 * time.Second}
)

const (
	forgotten = time.Hour // since the last try
	mostTried = 50_000    // kept; then what is oldest goes
)

// wait is how long the next try has to wait after so many wrong ones: a second, and twice as long each time.
func (a allowance) wait(wrong int) time.Duration {
	if wrong < a.free {
		return 0
	}
	return min(a.most, time.Second<<min(wrong-a.free, 20))
}

func newTries() *tries { return &tries{known: map[string]*tried{}, now: time.Now} }

// begin enters a try under each key, or says how long to wait; a try that has to wait is none. Calling right takes it back, and what went
// wrong before it under the keys that are its own.
func (t *tries) begin(keys map[string]allowance) (right func(own ...string), wait time.Duration) {
	now := t.now()
	t.mu.Lock()
	defer t.mu.Unlock()
	for key := range keys {
		if k := t.known[key]; k != nil {
			if now.Sub(k.last) > forgotten {
				delete(t.known, key)
				continue
			}
			wait = max(wait, k.next.Sub(now))
		}
	}
	if wait > 0 {
		return nil, wait
	}
	for key, allowed := range keys {
		k := t.known[key]
		if k == nil {
			t.makeRoom(now)
			k = &tried{}
			t.known[key] = k
		}
		k.wrong, k.last = k.wrong+1, now
		k.next = now.Add(allowed.wait(k.wrong))
	}
	return func(own ...string) {
		t.mu.Lock()
		defer t.mu.Unlock()
		for key := range keys {
			if k := t.known[key]; k != nil {
				k.wrong--
				k.next = time.Time{}
			}
		}
		for _, key := range own {
			delete(t.known, key)
		}
	}, 0
}

// makeRoom forgets what is over, and the oldest where too much is known.
func (t *tries) makeRoom(now time.Time) {
	if len(t.known) < mostTried {
		return
	}
	oldest, since := "", now
	for key, k := range t.known {
		if now.Sub(k.last) > forgotten {
			delete(t.known, key)
		} else if !k.last.After(since) {
			oldest, since = key, k.last
		}
	}
	if len(t.known) >= mostTried {
		delete(t.known, oldest)
	}
}

// network is what counts as one source: an address, and of the newer kind the network that one household or machine is given (RFC 6177).
func network(ip string) string {
	a, err := netip.ParseAddr(ip)
	if err != nil {
		return ip
	}
	if a = a.Unmap(); a.Is6() {
		if p, err := a.WithZone("").Prefix(64); err == nil {
			return p.String()
		}
	}
	return a.String()
}
