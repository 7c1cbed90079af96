package server

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"golang.org/x/sync/semaphore"

	"melodromos/core/rig"
	"melodromos/ledger"
)

const importPath = "/api/import"

// mostImported is how long a file may be that is sent: a million hits, and more.
const mostImported = 128 << 20

// oneAtATime has a handler take its requests in turn, so that one file at a time is held in memory. Whoever waits
// longer than patience is told to come back.
func (s *Server) oneAtATime(next http.Handler) http.Handler {
	turn := semaphore.NewWeighted(1)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		ctx, cancel := context.WithTimeout(r.Context(), s.patience)
		defer cancel()
		if turn.Acquire(ctx, 1) != nil {
			w.Header().Set("Retry-After", "10")
			problem(w, http.StatusServiceUnavailable,
				"Another file is being brought in just now. Try again in a moment; nothing was changed.")
			return
		}
		defer turn.Release(1)
		next.ServeHTTP(w, r)
	})
}

// Importing is a file that is to be brought in, and how.
type Importing struct {
	Name   string `query:"name" maxLength:"200" doc:"of the file"`
	Dry    bool   `query:"dry" doc:"only say what would change"`
	Over   bool   `query:"over" doc:"what is here and differs becomes what the file has"`
	Kind   string `query:"kind" enum:"speed,doubleEnd,reflex,hanging" doc:"of bag, for a rhythm from a MIDI file" default:"hanging"`
	Bag    string `query:"bag" doc:"id: a rhythm is given to somebody on it"`
	Person string `query:"person" doc:"id: a rhythm is given to them"`
	Track  string `query:"track" maxLength:"200" doc:"of a MIDI file, whose notes are the strikes"`

	sent io.Reader
}

// Resolve has the file at hand as it comes in: it is put down in a file of its own, not held in memory.
func (in *Importing) Resolve(ctx huma.Context) []error {
	in.sent = ctx.BodyReader()
	if err := ctx.SetReadDeadline(time.Now().Add(2 * time.Minute)); err != nil {
		slog.Debug("deadline", "error", err)
	}
	return nil
}

// Imported says what bringing a file in does, or would do.
type Imported struct {
	What    string           `json:"what" enum:"gym,bag,drill,session,log,hits,rhythm" doc:"the file holds"`
	Dry     bool             `json:"dry"`
	Changes []ledger.Brought `json:"changes"`
	Counts  ledger.Counts    `json:"counts"`
	Told    string           `json:"told" doc:"what it does, or would do, as a sentence"`
	Said    []string         `json:"said" doc:"what a rhythm has become"`
	Tracks  []string         `json:"tracks" doc:"of a MIDI file, that hold notes"`
	Track   string           `json:"track" doc:"whose notes were taken"`
}

func (c caller) bringIn(in *Importing) (Imported, error) {
	file, err := ledger.PutDown(in.sent)
	if err != nil {
		return Imported{}, unsent(err)
	}
	defer func() { _ = file.Close() }()
	r, err := ledger.BringFile(c.gym, ledger.File{Bringing: ledger.Bringing{Over: in.Over, Dry: in.Dry}, Name: in.Name,
		In: file, Kind: rig.Kind(in.Kind), On: ledger.On{Bag: in.Bag, Person: in.Person}, Track: in.Track},
		&c.Coach)
	return Imported{What: r.What, Dry: in.Dry, Changes: r.Changes, Counts: r.Counts(), Told: r.Sentence(in.Dry),
		Said: r.Said, Tracks: r.Tracks, Track: r.Track}, err
}

// unsent says why a file did not come in whole.
func unsent(err error) error {
	var long *http.MaxBytesError
	var slow net.Error
	switch {
	case errors.As(err, &long):
		return huma.NewError(http.StatusRequestEntityTooLarge,
			fmt.Sprintf("A file may have %d MB here; on the server itself, melodromos import takes any.", mostImported>>20))
	case errors.As(err, &slow) && slow.Timeout():
		return huma.NewError(http.StatusRequestTimeout,
			"The file took too long to come in. Nothing was changed; try again.")
	case errors.Is(err, io.ErrUnexpectedEOF):
		return huma.Error400BadRequest("The file did not come in whole. Nothing was changed; try again.")
	}
	return err
}

func (s *Server) registerBringIn(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "post-api-import", Method: "POST", Path: importPath,
		Summary: "Post API import",
		RequestBody: &huma.RequestBody{Required: true, Content: map[string]*huma.MediaType{
			"application/octet-stream": {Schema: &huma.Schema{Type: "string", Format: "binary"}}}}},
		func(ctx context.Context, in *Importing) (*body[Imported], error) {
			out, err := callerOf(ctx).bringIn(in)
			if err != nil {
				return nil, refused(ctx, "", err)
			}
			return &body[Imported]{out}, nil
		})
}
