package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/words"
	"melodromos/ledger"
	"melodromos/server/door"
	"melodromos/store"
)

type callerKey struct{}

// caller is the signed-in coach in the coach's gym.
type caller struct {
	ledger.Caller
	ctx context.Context // of the request, for sessions and passwords
}

func (c caller) units() words.Units { return words.Units(c.Row.Units) }

// unitsOf are those of the gym of whoever asks; metric where nobody is signed in.
func unitsOf(ctx context.Context) words.Units {
	if c, ok := ctx.Value(callerKey{}).(caller); ok {
		return c.units()
	}
	return words.Metric
}

func callerOf(ctx context.Context) caller { return ctx.Value(callerKey{}).(caller) }

func (s *Server) signedIn(ctx huma.Context, next func(huma.Context)) {
	c, err := s.caller(ctx.Context())
	switch {
	case errors.Is(err, errNobody):
		_ = huma.WriteErr(s.api, ctx, http.StatusUnauthorized, "Sign in first.")
		return
	case err != nil:
		var status huma.StatusError
		told := refused(ctx.Context(), "", err)
		errors.As(told, &status)
		for name, values := range headersOf(told) {
			ctx.SetHeader(name, values[0])
		}
		_ = huma.WriteErr(s.api, ctx, status.GetStatus(), status.Error())
		return
	}
	next(huma.WithValue(ctx, callerKey{}, c))
}

// headersOf are those that go with a refusal, such as when to come back.
func headersOf(err error) http.Header {
	var with huma.HeadersError
	if errors.As(err, &with) {
		return with.GetHeaders()
	}
	return nil
}

// errNobody says that nobody is signed in.
var errNobody = errors.New("nobody is signed in")

// caller finds who is signed in with the session of a request, or errNobody: the coach may have been removed since,
// have signed out everywhere, or belong to a demo gym that is closed. A sign-in that is used goes on.
func (s *Server) caller(ctx context.Context) (caller, error) {
	id := s.sessions.GetString(ctx, coachKey)
	if id == "" {
		return caller{}, errNobody
	}
	coach, err := s.store.Coach(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && coach.Epoch != s.sessions.GetInt(ctx, epochKey) {
		return caller{}, errNobody
	}
	if err != nil {
		return caller{}, err
	}
	gym := s.store.Gym(ctx, coach.GymID)
	row, err := gym.Row()
	if errors.Is(err, store.ErrNotFound) || err == nil && s.closed(row) {
		return caller{}, errNobody
	}
	// written an hour apart, not at every request
	if until := s.sessions.Deadline(ctx); time.Until(until) < s.idle-s.idle/720 {
		s.sessions.SetDeadline(ctx, time.Now().Add(s.idle))
	}
	return caller{ledger.Caller{Coach: coach, Row: row, Gym: gym, Stop: door.Stopper(ctx)}, ctx}, err
}

// internal hides a refusal of what is stored from whoever asked: it is no fault of theirs.
func internal(err error) error {
	if err == nil {
		return nil
	}
	return fmt.Errorf("%s", err.Error())
}
