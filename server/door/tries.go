package door

import (
	"net/netip"
	"sync"
	"time"
)

// Tries counts wrong sign-ins and makes whoever goes on wait, longer each time but never for good. A try counts from
// when it begins, so that many at once do not slip through, and is struck off when it proves right.
type Tries struct {
	mu    sync.Mutex
	known map[string]*tried
	Now   func() time.Time // the clock; time.Now unless a test says otherwise
}

type tried struct {
	wrong      int
	next, last time.Time // when the next try is let through; when the last one was
}

// Allowance holds the number of wrong tries that are free of a wait, and the longest wait.
type Allowance struct {
	Free int
	Most time.Duration
}

// What is allowed from one source for one address, and from one source for all: a gym's coaches may share one.
var (
	ForAddress = Allowance{Free: 5, Most: time.Minute}
	FromSource = Allowance{Free: 30, Most: 30 * time.Second}
)

const (
	forgotten = time.Hour // since the last try
	mostTried = 50_000    // kept; then what is oldest goes
)

// wait returns the wait before the next try after a number of wrong ones: a second, doubled each time.
func (a Allowance) wait(wrong int) time.Duration {
	if wrong < a.Free {
		return 0
	}
	return min(a.Most, time.Second<<min(wrong-a.Free, 20))
}

// NewTries has counted none yet.
func NewTries() *Tries { return &Tries{known: map[string]*tried{}, Now: time.Now} }

// Begin enters a try under each key, or says how long to wait; a try that has to wait is none. Calling right takes it
// back, and what went wrong before it under the keys that are its own.
func (t *Tries) Begin(keys map[string]Allowance) (right func(own ...string), wait time.Duration) {
	now := t.Now()
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
func (t *Tries) makeRoom(now time.Time) {
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

// Network returns the source that an address belongs to: an IPv4 address, or the IPv6 network that one household is
// given (RFC 6177).
func Network(ip string) string {
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
