package server

import (
	"context"
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
	Name    string `query:"name" maxLength:"200" doc:"of the file"`
	Dry     bool   `query:"dry" doc:"only say what would change"`
	Over    bool   `query:"over" doc:"what is here and differs becomes what the file has"`
	Kind    string `query:"kind" enum:"speed,doubleEnd,reflex,hanging" doc:"of bag, for a rhythm from a MIDI file" default:"hanging"`
	Bag     string `query:"bag" doc:"id: a rhythm is given to somebody on it"`
	Person  string `query:"person" doc:"id: a rhythm is given to them"`
	Track   string `query:"track" maxLength:"200" doc:"of a MIDI file, whose notes are the strikes"`
	RawBody []byte `contentType:"application/octet-stream"`
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
	r, err := ledger.BringFile(c.gym, ledger.File{Bringing: ledger.Bringing{Over: in.Over, Dry: in.Dry}, Name: in.Name,
		Data: in.RawBody, Kind: rig.Kind(in.Kind), On: ledger.On{Bag: in.Bag, Person: in.Person}, Track: in.Track},
		&c.Coach)
	return Imported{What: r.What, Dry: in.Dry, Changes: r.Changes, Counts: r.Counts(), Told: r.Sentence(in.Dry),
		Said: r.Said, Tracks: r.Tracks, Track: r.Track}, err
}

func (s *Server) registerBringIn(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "post-api-import", Method: "POST", Path: importPath,
		Summary:      "Post API import",
		MaxBodyBytes: mostImported, BodyReadTimeout: 2 * time.Minute, SkipValidateBody: true},
		func(ctx context.Context, in *Importing) (*body[Imported], error) {
			out, err := callerOf(ctx).bringIn(in)
			if err != nil {
				return nil, refused(ctx, "", err)
			}
			return &body[Imported]{out}, nil
		})
}
