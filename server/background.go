package server

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"runtime/debug"

	"melodromos/core/run"
	"melodromos/ledger"
	"melodromos/server/watch"
	"melodromos/standin"
)

// stopAbandoned ends runs whose browser has not been heard of for a while.
func (s *Server) stopAbandoned(ctx context.Context) error {
	rows, err := s.store.Abandoned(ctx, s.store.Now().Add(-s.Quiet))
	if err != nil {
		return err
	}
	var failed error
	for _, row := range rows {
		gym := s.store.Gym(ctx, row.GymID)
		err := safely(func() error {
			_, err := ledger.Move(gym, row.ID,
				func(r run.RoundClock) (run.RoundClock, error) { return r.Vanish(), nil })
			return err
		})
		if err != nil {
			failed = errors.Join(failed, fmt.Errorf("round %s: %w", row.ID, err))
			continue
		}
		s.live.Send(row.ID, watch.Message{Kind: "state", State: string(run.Stopped)})
	}
	return failed
}

// pauseQuiet pauses classes whose screen has gone: they go on where it was heard last.
func (s *Server) pauseQuiet(ctx context.Context) error {
	before := s.store.Now().Add(-s.Quiet)
	rows, failed := s.store.QuietClasses(ctx, before)
	for _, row := range rows {
		gym := s.store.Gym(ctx, row.GymID)
		err := safely(func() error { return ledger.PauseQuiet(gym, row.ID, before) })
		if unread, err := ledger.Left(gym, err); unread { // as it stands: nothing in it can be worked out
			failed = errors.Join(failed, gym.PauseClass(row.ID))
		} else if err != nil {
			failed = errors.Join(failed, fmt.Errorf("class %s: %w", row.ID, err))
		}
	}
	return failed
}

// safely does one piece of work of the background and turns a panic in it into its error: whatever else is to be done
// goes on.
func safely(do func() error) (err error) {
	defer func() {
		if what := recover(); what != nil {
			err = fmt.Errorf("panic: %v\n%s", what, debug.Stack())
		}
	}()
	return do()
}

// playStandIn has the simulated sensor play a round that is opened by a key; usual is the time (s) from strike to
// strike by the bag, 0 by the beat.
func (s *Server) playStandIn(key string, c StandInChoice, usual float64) {
	who := standin.Like(string(c.Ability))
	if m := c.Mistake; m != nil {
		who.Faults = []standin.Fault{standin.Sized(m.Code, m.Times, usual)}
	}
	sensor := standin.Sensor{URL: s.self, Key: key, Person: who, Coarse: standin.Coarse{Deaf: c.Deaf}, Seed: c.Seed}
	if err := safely(func() error { return sensor.Play(s.running) }); err != nil && s.running.Err() == nil {
		slog.Warn("stand-in", "error", err)
	}
}
