package door

import (
	"context"
	"errors"
	"sync"

	"golang.org/x/sync/semaphore"
)

// ErrFull says that no place became free in time.
var ErrFull = errors.New("no place became free in time")

// Places are taken by so many at once: of one who asks, and of all. Whoever comes later waits. One who takes all of
// their own places therefore keeps none from the others.
type Places struct {
	each int64
	all  *semaphore.Weighted
	mu   sync.Mutex
	of   map[string]*places
}

type places struct {
	*semaphore.Weighted
	here int // that hold a place or wait for one
}

// NewPlaces has places for so many of each, and of all.
func NewPlaces(each, all int) *Places {
	return &Places{each: int64(each), all: semaphore.NewWeighted(int64(all)), of: map[string]*places{}}
}

// Enter takes a place for somebody, and waits for one no longer than the context lasts. Call leave when it is free.
func (p *Places) Enter(ctx context.Context, who string) (leave func(), err error) {
	p.mu.Lock()
	own := p.of[who]
	if own == nil {
		own = &places{Weighted: semaphore.NewWeighted(p.each)}
		p.of[who] = own
	}
	own.here++
	p.mu.Unlock()
	gone := func() {
		p.mu.Lock()
		defer p.mu.Unlock()
		if own.here--; own.here == 0 {
			delete(p.of, who)
		}
	}
	if own.Acquire(ctx, 1) != nil {
		gone()
		return nil, ErrFull
	}
	if p.all.Acquire(ctx, 1) != nil {
		own.Release(1)
		gone()
		return nil, ErrFull
	}
	return func() {
		p.all.Release(1)
		own.Release(1)
		gone()
	}, nil
}
