package server

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"melodromos/calc"
	"melodromos/server/door"
)

const (
	readAhead  = 64 * kB          // of a body before it takes a place, so that whoever sends it slowly keeps none
	letIn      = 2 * time.Second  // for what is too long
	mostWait   = 10 * time.Second // for a place
	slowest    = 100 * kB         // a second that a file has to come in at
	untilRated = 10 * time.Second // before that counts
)

// within keeps every request to what the row of its route may take.
func (s *Server) within(c *gin.Context) {
	b := s.rows[c.Request.Method+" "+c.FullPath()]
	if b == nil { // the page, or nothing
		return
	}
	r, stop := c.Request, func(status int, after, detail string) {
		if after != "" {
			c.Header("Retry-After", after)
		}
		problem(c.Writer, status, detail)
		c.Abort()
	}
	defer drained(r.Body, http.NewResponseController(c.Writer)) // after its place is free
	if b.in > 0 && r.ContentLength > b.in {
		stop(http.StatusRequestEntityTooLarge, "", atMost(b.in))
		return
	}
	if b.in > 0 { // closed by nobody before it is drained
		r.Body = io.NopCloser(http.MaxBytesReader(c.Writer, r.Body, b.in))
	}
	switch control := http.NewResponseController(c.Writer); {
	case b.in > mostAnswer:
		r.Body = &rated{ReadCloser: r.Body, control: control, began: time.Now()}
		extend(control.SetWriteDeadline, time.Time{})
	case b.in > 0 && b.in <= readAhead:
		body, err := io.ReadAll(r.Body)
		if err != nil {
			status, detail := unread(err)
			stop(status, "", detail)
			return
		}
		r.Body = io.NopCloser(bytes.NewReader(body))
	case b.patience > 1:
		until := time.Now().Add(time.Duration(b.patience)*s.patience + time.Minute)
		extend(control.SetReadDeadline, until)
		extend(control.SetWriteDeadline, until)
	}
	ctx := r.Context()
	if b.patience > 0 {
		limited, cancel := context.WithTimeout(ctx, time.Duration(b.patience)*s.patience)
		defer cancel()
		ctx = limited
	}
	waiting, cancel := context.WithTimeout(ctx, mostWait)
	defer cancel()
	leave, err := b.places.Enter(waiting, s.whoAsks(c))
	if err != nil {
		stop(http.StatusServiceUnavailable, "1", tooMuchAtOnce)
		return
	}
	defer leave()
	c.Request = r.WithContext(ctx)
	c.Next()
}

// drained lets in a little of what was not read, and throws it away: browsers tell nobody of an answer that comes while
// they still send.
func drained(body io.Reader, control *http.ResponseController) {
	if body == http.NoBody {
		return
	}
	extend(control.SetReadDeadline, time.Now().Add(letIn))
	_, _ = io.CopyN(io.Discard, body, 2*calc.MaxDocument)
	extend(control.SetReadDeadline, time.Time{})
}

const tooMuchAtOnce = "Too much is asked at once from here. Try again in a moment; nothing was changed."

func atMost(bytes int64) string {
	if bytes < mB {
		return fmt.Sprintf("Expected at most %d kB.", bytes/kB)
	}
	return fmt.Sprintf("Expected at most %d MB.", bytes/mB)
}

func extend(deadline func(time.Time) error, until time.Time) {
	if err := deadline(until); err != nil {
		slog.Debug("deadline", "error", err)
	}
}

// whoAsks is the coach who is signed in, or the network that a request comes from.
func (s *Server) whoAsks(c *gin.Context) string {
	if withSession(c.Request.URL.Path) {
		if coach := s.sessions.GetString(c.Request.Context(), coachKey); coach != "" {
			return coach
		}
	}
	return door.Network(c.ClientIP())
}

// withSession says whether the routes of a path know who is signed in.
func withSession(path string) bool {
	return strings.HasPrefix(path, "/api/") && !strings.HasPrefix(path, "/api/intake/")
}

// rated reads a body that has to come in at a rate, so that whoever trickles it does not go on for ever.
type rated struct {
	io.ReadCloser
	control *http.ResponseController
	began   time.Time
	n       int64
}

func (r *rated) Read(p []byte) (int, error) {
	due := time.Duration(float64(r.n) / slowest * float64(time.Second))
	extend(r.control.SetReadDeadline, r.began.Add(untilRated+due))
	n, err := r.ReadCloser.Read(p)
	r.n += int64(n)
	return n, err
}

// unread says why a body did not come in whole.
func unread(err error) (status int, detail string) {
	var long *http.MaxBytesError
	var slow interface{ Timeout() bool }
	switch {
	case errors.As(err, &long):
		return http.StatusRequestEntityTooLarge, atMost(long.Limit)
	case errors.As(err, &slow) && slow.Timeout():
		return http.StatusRequestTimeout, "It took too long to come in. Nothing was changed; try again."
	}
	return http.StatusBadRequest, "It did not come in whole. Nothing was changed; try again."
}
