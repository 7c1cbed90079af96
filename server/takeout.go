package server

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"mime"
	"os"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/format/calendar"
	"melodromos/format/document"
	"melodromos/format/midi"
	"melodromos/format/sound"
	"melodromos/format/wav"
	"melodromos/ledger"
)

// LaidOut says on which bag and for whom something is laid out.
type LaidOut struct {
	ByID
	Bag    string `query:"bag" doc:"id; left out, the first of its kind that hangs"`
	Person string `query:"person" doc:"id; left out, a beginner"`
}

func (l LaidOut) on(wait bool) ledger.On { return ledger.On{Bag: l.Bag, Person: l.Person, Wait: wait} }

// OfWhom narrows a table to one trainee.
type OfWhom struct {
	Trainee string `query:"trainee" doc:"id; left out, everybody's"`
}

// A file's kind, as its name and the browser have it.
type fileKind struct{ ending, media string }

var (
	asJSON     = fileKind{".json", "application/json"}
	asCSV      = fileKind{".csv", "text/csv; charset=utf-8; header=present"}
	asMIDI     = fileKind{".mid", "audio/midi"}
	asWAV      = fileKind{".wav", "audio/wav"}
	asCalendar = fileKind{".ics", "text/calendar; charset=utf-8"}
)

// attached answers with a file of a name.
func attached(name string, kind fileKind, length int64, body io.WriterTo, done func()) *huma.StreamResponse {
	return &huma.StreamResponse{Body: func(ctx huma.Context) {
		defer done()
		ctx.SetHeader("Content-Type", kind.media)
		ctx.SetHeader("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{
			"filename": fileName(name) + kind.ending}))
		if length >= 0 {
			ctx.SetHeader("Content-Length", fmt.Sprint(length))
		}
		_, _ = body.WriteTo(ctx.BodyWriter())
	}}
}

// fileName is a name without what a file's may not hold.
func fileName(name string) string {
	name = strings.TrimSpace(strings.Map(func(r rune) rune {
		if strings.ContainsRune(`/\:*?"<>|`, r) || r < ' ' {
			return ' '
		}
		return r
	}, name))
	if name == "" {
		return "melodromos"
	}
	return name
}

// file answers a request for a file, which is made whole before any of it is sent.
func file[I any](api huma.API, path string, kind fileKind,
	do func(c caller, in *I, out io.Writer) (name string, err error)) {
	huma.Get(api, path, func(ctx context.Context, in *I) (*huma.StreamResponse, error) {
		var out bytes.Buffer
		name, err := do(callerOf(ctx), in, &out)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		return attached(name, kind, int64(out.Len()), &out, func() {}), nil
	})
}

// large answers as file does with what may be too large for memory: it is made in a file that is gone afterwards.
func large[I any](api huma.API, path string, kind fileKind,
	do func(c caller, in *I, out *os.File) (name string, err error)) {
	huma.Get(api, path, func(ctx context.Context, in *I) (*huma.StreamResponse, error) {
		out, err := ledger.Scratch()
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		away := func() { _ = out.Close() }
		name, err := do(callerOf(ctx), in, out)
		var size int64
		if err == nil {
			size, err = out.Seek(0, io.SeekEnd)
		}
		if err == nil {
			_, err = out.Seek(0, io.SeekStart)
		}
		if err != nil {
			away()
			return nil, refused(ctx, "", err)
		}
		return attached(name, kind, size, out, away), nil
	})
}

// registerTakeOut registers what goes out as a file.
func (s *Server) registerTakeOut(api huma.API) {
	file(api, "/api/export/gym", asJSON, func(c caller, _ *nothing, out io.Writer) (string, error) {
		g, _, err := ledger.GymDocument(c.Gym, c.Row)
		if err != nil {
			return "", err
		}
		return c.Row.Name, ledger.WriteDocument(out, document.File{Holds: document.OfGym, Gym: &g})
	})
	for path, holds := range map[string]document.Kind{"/api/rigs": document.OfBag, "/api/drills": document.OfDrill,
		"/api/sessions": document.OfSession} {
		file(api, path+"/{id}/document", asJSON, func(c caller, in *ByID, out io.Writer) (string, error) {
			doc, name, err := ledger.Document(c.Gym, holds, in.ID)
			if err != nil {
				return "", err
			}
			return name, ledger.WriteDocument(out, doc)
		})
	}
	large(api, "/api/export/log", asCSV, func(c caller, in *OfWhom, out *os.File) (string, error) {
		name, err := c.whose(in.Trainee, "log")
		if err != nil {
			return "", err
		}
		return name, ledger.WriteLog(out, c.Gym, in.Trainee)
	})
	large(api, "/api/export/hits", asCSV, func(c caller, in *OfWhom, out *os.File) (string, error) {
		name, err := c.whose(in.Trainee, "hits")
		if err != nil {
			return "", err
		}
		return name, ledger.WriteHits(out, c.Gym, in.Trainee)
	})
	file(api, "/api/export/calendar", asCalendar, func(c caller, _ *nothing, out io.Writer) (string, error) {
		t, err := ledger.Timetable(c.Gym, c.Row, c.Gym.Now())
		if err != nil {
			return "", err
		}
		return c.Row.Name, calendar.Write(out, t)
	})
	s.registerSongs(api)
}

func (c caller) whose(id, what string) (string, error) {
	name := c.Row.Name
	if id != "" {
		t, err := c.Gym.Trainee(id)
		if err != nil {
			return "", err
		}
		name = t.Name
	}
	return name + ", " + what, nil
}

// registerSongs registers drills, given or not, and sessions as MIDI and as sound. Sound is pressed and then gone to,
// as on the floor; notes begin with the count-in, so that the first beat is one.
func (s *Server) registerSongs(api huma.API) {
	for path, of := range map[string]func(c caller, in *LaidOut, wait bool) (midi.Song, error){
		"/api/drills/{id}": func(c caller, in *LaidOut, wait bool) (midi.Song, error) {
			return ledger.DrillSong(c.Gym, c.Row, in.ID, in.on(wait), c.Stop)
		},
		"/api/assignments/{id}": func(c caller, in *LaidOut, wait bool) (midi.Song, error) {
			return ledger.GivenSong(c.Gym, c.Row, in.ID, wait, c.Stop)
		},
		"/api/sessions/{id}": func(c caller, in *LaidOut, wait bool) (midi.Song, error) {
			return ledger.SessionSong(c.Gym, c.Row, in.ID, in.on(wait), c.Stop)
		},
	} {
		file(api, path+"/midi", asMIDI, func(c caller, in *LaidOut, out io.Writer) (string, error) {
			song, err := of(c, in, false)
			if err != nil {
				return "", err
			}
			return song.Name, midi.Write(out, song)
		})
		huma.Get(api, path+"/wav", func(ctx context.Context, in *Heard) (*huma.StreamResponse, error) {
			song, err := of(callerOf(ctx), &in.LaidOut, true)
			if err != nil {
				return nil, refused(ctx, "", err)
			}
			heard, err := s.sound(song.Timeline.Events, !in.Without)
			if err != nil {
				return nil, refused(ctx, "", err)
			}
			return attached(song.Name, asWAV, heard.Len(), heard, func() {}), nil
		})
	}
}

// Heard says what is heard.
type Heard struct {
	LaidOut
	Without bool `query:"without" doc:"without strikes and board sounds: bells, counts and voice alone"`
}

// sound renders events, with the interface's own clips.
func (s *Server) sound(events []drill.Event, strikes bool) (wav.Sound, error) {
	if s.Interface == nil {
		return wav.Sound{}, errors.New("the interface is not built, and with it come the clips of what is called")
	}
	clips, err := fs.Sub(s.Interface, "calls")
	if err != nil {
		return wav.Sound{}, err
	}
	var loud map[sound.Channel]float64
	if !strikes {
		loud = map[sound.Channel]float64{sound.Strikes: 0, sound.Boards: 0}
	}
	return wav.Of(events, clips, loud)
}
