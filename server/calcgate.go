package server

import (
	"context"
	"net/http"
	"runtime"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"golang.org/x/sync/semaphore"
	"golang.org/x/time/rate"
)

// The calculator answers without sign-in, so it is kept from taking the place of those who are: one processor is always left to them, a
// source may ask so much at once, and compute so long at a stretch.
const (
	askedAtOnce   = 4                      // by one source; more are refused
	stretch       = 10_000                 // ms of computing that a source may use at a stretch
	refill        = 250                    // ms a second that it gets back
	leastRest     = 10 * time.Millisecond  // of a place after a question: to read and refuse one takes its time, too
	mostNetworks  = 10_000                 // kept; then those that wait for nothing go
	calcPatience  = 5 * time.Second        // for a turn
	askAgainAfter = "1"                    // s
	unhurried     = 500 * time.Millisecond // until a refusal, so that whoever asks without a pause is slowed down
)

type calcGate struct {
	places *semaphore.Weighted
	mu     sync.Mutex
	known  map[string]*calcSource
}

type calcSource struct {
	asked  int // under way
	budget *rate.Limiter
}

func newCalcGate() *calcGate {
	return &calcGate{places: semaphore.NewWeighted(int64(max(1, runtime.GOMAXPROCS(0)-1))), known: map[string]*calcSource{}}
}

// enter lets a question of a source in, or says why not. leave has to be called when it is answered.
func (g *calcGate) enter(source string) (s *calcSource, leave func(), why string) {
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
		s = &calcSource{budget: rate.NewLimiter(refill, stretch)}
		g.known[source] = s
	}
	switch {
	case s.asked >= askedAtOnce:
		return nil, nil, "Too many questions at once from here. Ask again when one of them is answered."
	case s.budget.Tokens() < 1:
		return nil, nil, "The questions from here have taken too long to work out. Wait a little, or use the calculator on the command line."
	}
	s.asked++
	return s, func() {
		g.mu.Lock()
		defer g.mu.Unlock()
		s.asked--
	}, ""
}

// guard is the middleware before the calculator: it refuses before a question is read.
func (s *Server) guard(ctx huma.Context, next func(huma.Context)) {
	source, leave, why := s.calcGate.enter(network(sourceOf(ctx)))
	if why != "" {
		wait(ctx.Context(), unhurried)
		ctx.SetHeader("Retry-After", askAgainAfter)
		_ = huma.WriteErr(s.api, ctx, http.StatusTooManyRequests, why)
		return
	}
	defer leave()
	next(huma.WithValue(ctx, calcSourceKey{}, source))
}

type calcSourceKey struct{}

// compute runs a question in turn, no longer than longest and not past its context, and charges its source.
func (g *calcGate) compute(ctx context.Context, do func(context.Context) ([]byte, error)) ([]byte, error) {
	waiting, cancel := context.WithTimeout(ctx, calcPatience)
	defer cancel()
	if g.places.Acquire(waiting, 1) != nil {
		return nil, huma.ErrorWithHeaders(huma.Error503ServiceUnavailable("The calculator is busy. Ask again in a moment."), http.Header{"Retry-After": {askAgainAfter}})
	}
	limited, stop := context.WithTimeoutCause(ctx, longest, errTooLong)
	defer stop()
	began := time.Now()
	defer func() {
		took := min(time.Since(began), 2*longest)
		// Then the place rests for as long, so that at most half of a processor's time goes to the calculator.
		time.AfterFunc(max(took, leastRest), func() { g.places.Release(1) })
		if source, ok := ctx.Value(calcSourceKey{}).(*calcSource); ok {
			source.budget.ReserveN(time.Now(), int(took.Milliseconds()))
		}
	}()
	out, err := do(limited)
	if err != nil && limited.Err() != nil {
		err = context.Cause(limited)
	}
	return out, err
}

// wait lets time pass, or whoever waits go.
func wait(ctx context.Context, d time.Duration) {
	select {
	case <-ctx.Done():
	case <-time.After(d):
	}
}
