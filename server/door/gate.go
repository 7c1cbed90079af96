package door

import (
	"context"
	"errors"
	"runtime"
	"sync"
	"time"

	"golang.org/x/sync/semaphore"
	"golang.org/x/time/rate"
)

// The calculator answers without sign-in, so it is kept from taking the place of those who are: one processor is always
// left to them, a source may ask so much at once, and compute so long at a stretch.
const (
	askedAtOnce  = 4                     // by one source; more are refused
	stretch      = 10_000                // ms of computing that a source may use at a stretch
	refill       = 250                   // ms a second that it gets back
	leastRest    = 10 * time.Millisecond // of a place after a question: to read and refuse one takes its time, too
	mostNetworks = 10_000                // kept; then those that wait for nothing go
	calcPatience = 5 * time.Second       // for a turn
)

// ErrBusy says that no place became free in time.
var ErrBusy = errors.New("the calculator is busy")

// Gate lets questions in, in turn.
type Gate struct {
	places *semaphore.Weighted
	mu     sync.Mutex
	known  map[string]*Source
}

// Source is somewhere that questions come from.
type Source struct {
	asked  int // under way
	budget *rate.Limiter
}

// NewGate is open, with a place for each processor but one.
func NewGate() *Gate {
	return &Gate{places: semaphore.NewWeighted(int64(max(1, runtime.GOMAXPROCS(0)-1))), known: map[string]*Source{}}
}

// Enter lets a question of a source in, or says why not. Call leave when it is answered.
func (g *Gate) Enter(source string) (s *Source, leave func(), why string) {
	g.mu.Lock()
	defer g.mu.Unlock()
	s = g.known[source]
	if s == nil {
		if len(g.known) >= mostNetworks {
			for key, k := range g.known {
				if k.asked == 0 && k.budget.Tokens() >= stretch {
					delete(g.known, key)
				}
			}
		}
		s = &Source{budget: rate.NewLimiter(refill, stretch)}
		g.known[source] = s
	}
	switch {
	case s.asked >= askedAtOnce:
		return nil, nil, "Too many questions at once from here. Ask again when one of them is answered."
	case s.budget.Tokens() < 1:
		return nil, nil,
			"The questions from here have taken too long to work out. Wait a little, or use the calculator on the command line."
	}
	s.asked++
	return s, func() {
		g.mu.Lock()
		defer g.mu.Unlock()
		s.asked--
	}, ""
}

// Compute runs a question in turn, no longer than Longest and not past its context, and charges its source; nil is
// nobody.
func (g *Gate) Compute(ctx context.Context, source *Source, do func(context.Context) ([]byte, error)) ([]byte, error) {
	waiting, cancel := context.WithTimeout(ctx, calcPatience)
	defer cancel()
	if g.places.Acquire(waiting, 1) != nil {
		return nil, ErrBusy
	}
	limited, stop := context.WithTimeoutCause(ctx, Longest, ErrTooLong)
	defer stop()
	began := time.Now()
	defer func() {
		took := time.Since(began)
		// Then the place rests for as long, so that at most half of a processor's time goes to the calculator.
		time.AfterFunc(max(took, leastRest), func() { g.places.Release(1) })
		if source != nil {
			source.budget.ReserveN(time.Now(), int(took.Milliseconds()))
		}
	}()
	out, err := do(limited)
	if err != nil && limited.Err() != nil {
		err = context.Cause(limited)
	}
	return out, err
}

// Unbounded lets a source ask as much as it likes: for tests.
func (g *Gate) Unbounded(source string) {
	g.mu.Lock()
	defer g.mu.Unlock()
	g.known[source] = &Source{budget: rate.NewLimiter(rate.Inf, stretch)}
}

// Spend takes all of a source's budget, and as much again, so that it is not got back soon: for tests.
func (g *Gate) Spend(source string) {
	g.mu.Lock()
	defer g.mu.Unlock()
	s := &Source{budget: rate.NewLimiter(refill, stretch)}
	for range 2 {
		s.budget.ReserveN(time.Now(), stretch)
	}
	g.known[source] = s
}
