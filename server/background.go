package server

import (
	"context"
	"log/slog"
	"time"

	"melodromos/core/run"
	"melodromos/ledger"
	"melodromos/server/watch"
	"melodromos/standin"
)

// stopAbandoned ends runs whose browser has not been heard of for a while.
func (s *Server) stopAbandoned(ctx context.Context) error {
	rows, err := s.store.Abandoned(ctx, time.Now().UTC().Add(-s.Quiet))
	if err != nil {
		return err
	}
	for _, row := range rows {
		_, err := ledger.Move(s.store.Gym(ctx, row.GymID), row.ID,
			func(r run.Course) (run.Course, error) { return r.Vanish(), nil })
		if err != nil {
			return err
		}
		s.live.Send(row.ID, watch.Message{Kind: "state", State: string(run.Stopped)})
	}
	return s.pauseQuiet(ctx)
}

// pauseQuiet pauses classes whose screen has gone: they go on where it was heard last.
func (s *Server) pauseQuiet(ctx context.Context) error {
	before := time.Now().UTC().Add(-s.Quiet)
	rows, err := s.store.QuietHours(ctx, before)
	for _, row := range rows {
		if err := ledger.PauseQuiet(s.store.Gym(ctx, row.GymID), row.ID, before); err != nil {
			return err
		}
	}
	return err
}

// playStandIn has the simulated sensor play a round that is opened by a key; usual is the time (s) from strike to
// strike by the bag, 0 by the beat.
func (s *Server) playStandIn(key string, c StandInChoice, usual float64) {
	who := standin.Like(string(c.Ability))
	if m := c.Mistake; m != nil {
		who.Faults = []standin.Fault{standin.Sized(m.Code, m.Times, usual)}
	}
	sensor := standin.Sensor{URL: s.self, Key: key, Person: who, Coarse: standin.Coarse{Deaf: c.Deaf}, Seed: c.Seed}
	if err := sensor.Play(s.running); err != nil && s.running.Err() == nil {
		slog.Warn("stand-in", "error", err)
	}
}
