package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"runtime/debug"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"

	"melodromos/account"
	"melodromos/core/input"
	"melodromos/core/run"
	"melodromos/core/words"
	"melodromos/ledger"
	"melodromos/server/door"
	"melodromos/store"
)

// policy allows what ships with the product and nothing else. Styles may stand in the page: positions are computed.
const policy = "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self'; " +
	"media-src 'self'; connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"

func headers(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", policy)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(), geolocation=(), microphone=(self), screen-wake-lock=(self)")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		if strings.HasPrefix(r.URL.Path, "/api/") {
			h.Set("Cache-Control", "no-store") // a gym's own; no shared screen keeps it
		}
		next.ServeHTTP(w, r)
	})
}

// recorder remembers the status of an answer. Once it is closed, nothing more is sent. Unwrap lets the live feed reach
// the connection underneath.
type recorder struct {
	http.ResponseWriter
	status int
	closed bool
}

func (r *recorder) WriteHeader(status int) {
	if r.closed {
		return
	}
	if r.status == 0 {
		r.status = status
	}
	r.ResponseWriter.WriteHeader(status)
}

func (r *recorder) Write(b []byte) (int, error) {
	if r.closed {
		return len(b), nil
	}
	return r.ResponseWriter.Write(b)
}

// notKept answers that a session could not be read or kept. It may be found so when the first byte of another answer is
// about to be sent, compressed: none of that is sent any more.
func notKept(w http.ResponseWriter, r *http.Request, err error) {
	w.Header().Del("Content-Encoding")
	w.Header().Del("Content-Length")
	if r.Context().Err() == nil {
		slog.Error("session", "error", err)
	}
	if errors.Is(err, store.ErrUnavailable) || errors.Is(err, context.DeadlineExceeded) {
		w.Header().Set("Retry-After", retryAfter)
		problem(w, http.StatusServiceUnavailable, noDatabase)
	} else {
		problem(w, http.StatusInternalServerError, wentWrong)
	}
	if rec, ok := w.(*recorder); ok {
		rec.closed = true
	}
}

func (r *recorder) Unwrap() http.ResponseWriter { return r.ResponseWriter }

func logged(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		start := time.Now()
		rec := &recorder{ResponseWriter: w}
		next.ServeHTTP(rec, r)
		level := slog.LevelDebug
		if rec.status >= 500 && r.Context().Err() == nil { // else whoever asked has gone
			level = slog.LevelError
		} else if r.Method != http.MethodGet {
			level = slog.LevelInfo
		}
		slog.Log(r.Context(), level, "request", "method", r.Method, "path", logPath(r.URL.Path), "status",
			max(rec.status, 200), "ms", float64(time.Since(start).Microseconds())/1000)
	})
}

// logPath keeps the keys of devices and the secrets of calendars out of the log.
func logPath(path string) string {
	for _, secret := range []string{"/api/intake/", calendarPath} {
		if len(path) > len(secret) && strings.HasPrefix(path, secret) {
			return secret + "…"
		}
	}
	return path
}

func recovered(c *gin.Context, what any) {
	slog.Error("panic", "what", what, "stack", string(debug.Stack()), "path", logPath(c.Request.URL.Path))
	problem(c.Writer, http.StatusInternalServerError, wentWrong)
	c.Abort()
}

// retryAfter is the time (s) after which to try again when the database does not answer.
const retryAfter = "2"

const noDatabase = "The database does not answer just now. What was saved before is kept; try again in a moment."

const wentWrong = "Something went wrong on the server. What was saved before is kept; try again."

// problem writes an RFC 9457 problem outside of huma's routes.
func problem(w http.ResponseWriter, status int, detail string) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(huma.ErrorModel{Title: http.StatusText(status), Status: status, Detail: detail})
}

// place locates what was refused in a text, for the interface to underline.
type place struct {
	Column int `json:"column"`
	Width  int `json:"width"`
}

// plainly makes the sentence of a request that does not fit its description.
func plainly(status int, message string, errs ...error) huma.StatusError {
	model := &huma.ErrorModel{Status: status, Title: http.StatusText(status), Detail: cut(message, mostTold),
		Errors: said(errs)}
	var most int64
	var long *http.MaxBytesError
	switch n, _ := fmt.Sscanf(message, "request body is too large limit=%d", &most); {
	case n == 1:
		model.Detail = atMost(most)
	case errors.As(errors.Join(errs...), &long):
		model.Status, model.Title, model.Detail = http.StatusRequestEntityTooLarge,
			http.StatusText(http.StatusRequestEntityTooLarge), atMost(long.Limit)
	case message == "request body is required":
		model.Detail = "Expected something, and nothing was sent: it is empty."
	case message == "validation failed" && len(model.Errors) > 0:
		model.Detail = input.Sentence(model.Errors[0].Location, model.Errors[0].Message)
	}
	return model
}

// refused turns an error of the core or the store into an answer: a sentence for whoever reads it, and the field beside
// it. prefix is where the refused document stands in the request, such as "body.rig".
func refused(ctx context.Context, prefix string, err error) error {
	var field *input.Error
	var barred run.Barred
	var unreadable *ledger.Unreadable
	switch {
	case errors.As(err, &unreadable):
		if c, ok := ctx.Value(callerKey{}).(caller); ok {
			c.Gym.Note(unreadable.Unreadable)
		}
		return cannotBeRead(unreadable)
	case errors.As(err, &field):
		return unfit(field.In(unitsOf(ctx)).Plain(), prefix, field)
	case errors.As(err, &barred):
		return huma.Error409Conflict("This round does not start. " + words.Upper(barred.Why) +
			", and the caution is lifted by name on their page.")
	case errors.Is(err, store.ErrNotFound):
		return huma.Error404NotFound("This was removed, or the link is wrong.")
	case errors.Is(err, store.ErrConflict):
		return huma.Error409Conflict(
			"Somebody else changed this. Your change was not saved.")
	case errors.Is(err, store.ErrTaken):
		return huma.Error409Conflict("This is taken already.")
	case errors.Is(err, store.ErrUnfit):
		return huma.Error422UnprocessableEntity(
			"Something here cannot be saved: a blank name, a forbidden character, or an impossible number. Nothing was changed.")
	case errors.Is(err, store.ErrUnavailable), errors.Is(err, context.DeadlineExceeded):
		slog.Error("database", "error", err)
		return huma.ErrorWithHeaders(huma.Error503ServiceUnavailable(noDatabase),
			http.Header{"Retry-After": {retryAfter}})
	case errors.Is(err, account.ErrBusy):
		return huma.ErrorWithHeaders(huma.Error503ServiceUnavailable(
			"Too many are signing in at once. Try again in a moment."), http.Header{"Retry-After": {"2"}})
	case errors.Is(err, door.ErrTooLong):
		return huma.Error422UnprocessableEntity(
			"This was stopped: it was worked on for two seconds and was not done. Nothing was changed. " +
				"Make it shorter, or try again when less is going on.")
	}
	var status huma.StatusError
	if errors.As(err, &status) {
		return err
	}
	if ctx.Err() == nil {
		slog.Error("request failed", "error", err)
	}
	return huma.Error500InternalServerError(wentWrong)
}

// unfit is the answer to a document that was refused.
func unfit(sentence, prefix string, field *input.Error) error {
	where := field.Field
	if prefix != "" {
		where = strings.TrimSuffix(prefix+"."+where, ".")
	}
	detail := &huma.ErrorDetail{Location: where, Message: field.Reason}
	if field.Column > 0 {
		detail.Value = place{field.Column, field.Width}
	}
	return huma.Error422UnprocessableEntity(sentence, detail)
}
