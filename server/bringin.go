package server

import (
	"context"
	"errors"
	"io"
	"io/fs"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/rig"
	"melodromos/ledger"
)

const importPath = "/api/import"

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

// bringIn puts a file down as it comes in, and brings it in when it is its gym's turn.
func (s *Server) bringIn(c caller, in *Importing) (Imported, error) {
	file, err := ledger.PutDown(in.sent)
	var disk *fs.PathError
	if errors.As(err, &disk) { // it is full, or gone
		return Imported{}, err
	}
	if err != nil {
		status, detail := unread(err)
		return Imported{}, huma.NewError(status, detail)
	}
	defer func() { _ = file.Close() }()
	waiting, cancel := context.WithTimeout(c.ctx, s.patience)
	defer cancel()
	leave, err := s.bringing.Enter(waiting, c.Coach.GymID)
	if err != nil {
		return Imported{}, huma.ErrorWithHeaders(huma.Error503ServiceUnavailable(
			"Another file is being brought in just now. Try again in a moment; nothing was changed."),
			http.Header{"Retry-After": {"10"}})
	}
	defer leave()
	ctx, stop := context.WithTimeout(c.ctx, forFile*s.patience)
	defer stop()
	r, err := ledger.BringFile(s.store.Gym(ctx, c.Coach.GymID), ledger.File{
		Bringing: ledger.Bringing{Over: in.Over, Dry: in.Dry}, Name: in.Name, In: file, Kind: rig.Kind(in.Kind),
		On: ledger.On{Bag: in.Bag, Person: in.Person}, Track: in.Track}, &c.Coach)
	return Imported{What: r.What, Dry: in.Dry, Changes: r.InShort(mostChanges), Counts: r.Counts(),
		Told: r.Sentence(in.Dry), Said: r.Said, Tracks: r.Tracks, Track: r.Track}, err
}

// mostChanges limits the changes of one sort that are listed one by one; the page shows fewer.
const mostChanges = 1000

// forFile multiplies the time limit of an answer for working through a file, once it has arrived.
const forFile = 10

func (s *Server) registerBringIn(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "post-api-import", Method: "POST", Path: importPath,
		Summary: "Post API import",
		RequestBody: &huma.RequestBody{Required: true, Content: map[string]*huma.MediaType{
			"application/octet-stream": {Schema: &huma.Schema{Type: "string", Format: "binary"}}}}},
		func(ctx context.Context, in *Importing) (*body[Imported], error) {
			out, err := s.bringIn(callerOf(ctx), in)
			if err != nil {
				return nil, refused(ctx, "", err)
			}
			return &body[Imported]{out}, nil
		})
}
