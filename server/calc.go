package server

import (
	"context"
	"errors"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/calc"
	"melodromos/core/input"
	"melodromos/server/door"
)

const (
	askAgainAfter = "1"                    // s
	unhurried     = 500 * time.Millisecond // until a refusal, so that whoever asks without a pause is slowed down
)

// guard is the middleware before the calculator: it refuses before a question is read.
func (s *Server) guard(ctx huma.Context, next func(huma.Context)) {
	source, leave, why := s.gate.Enter(door.Network(sourceOf(ctx)))
	if why != "" {
		waitFor(ctx.Context(), unhurried)
		ctx.SetHeader("Retry-After", askAgainAfter)
		_ = huma.WriteErr(s.api, ctx, http.StatusTooManyRequests, why)
		return
	}
	defer leave()
	next(huma.WithValue(ctx, calcSourceKey{}, source))
}

type calcSourceKey struct{}

// waitFor lets time pass, or whoever waits go.
func waitFor(ctx context.Context, d time.Duration) {
	select {
	case <-ctx.Done():
	case <-time.After(d):
	}
}

// registerCalc opens the calculator. It holds nothing of any gym, so it needs no sign-in.
func (s *Server) registerCalc() {
	huma.Register(s.api, huma.Operation{
		OperationID: "calc", Method: http.MethodPost, Path: "/api/calc/{op}", MaxBodyBytes: calc.MaxDocument,
		Summary: "One question to the calculator, as on its command line", Middlewares: huma.Middlewares{s.guard},
	}, func(ctx context.Context, in *struct {
		Op      string `path:"op" maxLength:"20"`
		RawBody []byte
	}) (*struct {
		ContentType string `header:"Content-Type"`
		Body        []byte
	}, error) {
		if !calc.Has(in.Op) {
			return nil, huma.Error404NotFound("There is no operation " + strconv.Quote(in.Op) + "; there are " +
				strings.Join(calc.Operations(), ", ") + ".")
		}
		source, _ := ctx.Value(calcSourceKey{}).(*door.Source)
		out, err := s.gate.Compute(ctx, source,
			func(ctx context.Context) ([]byte, error) { return calc.Do(ctx, in.Op, in.RawBody) })
		var field *input.Error
		switch {
		case errors.As(err, &field): // as on the command line, with the field
			return nil, unfit(field.Error(), "body", field)
		case errors.Is(err, door.ErrBusy):
			return nil,
				huma.ErrorWithHeaders(huma.Error503ServiceUnavailable("The calculator is busy. Ask again in a moment."),
					http.Header{"Retry-After": {askAgainAfter}})
		case err != nil:
			return nil, refused(ctx, "body", err)
		}
		return &struct {
			ContentType string `header:"Content-Type"`
			Body        []byte
		}{"application/json", out}, nil
	})
}
