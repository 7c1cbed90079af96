package ledger

import (
	"bytes"
	"encoding/csv"
	"errors"
	"path"
	"slices"
	"strings"

	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/format/document"
	"melodromos/format/midi"
	"melodromos/format/table"
	"melodromos/store"
)

// File is one that is to be brought in, whatever it holds, and how.
type File struct {
	Bringing
	Name  string
	Data  []byte
	Kind  rig.Kind // of bag, that a rhythm is for
	On    On       // a rhythm is given to them, where both are named
	Track string   // whose notes are the strikes, "" for the usual one
}

// Result says what bringing a file in does.
type Result struct {
	What    string // "gym", "bag", "drill", "session", "log", "hits" or "rhythm"
	Changes []Brought
	Said    []string // what a rhythm has become
	Tracks  []string // of a MIDI file, that hold notes
	Track   string   // whose were taken
}

// bom is what some programs write in front of a text.
var bom = []byte("\ufeff")

// BringFile brings a file in by what it holds: a document, a table of rounds or hits, or a rhythm. All of it is brought
// in, or nothing; what is wrong is named with its line.
func BringFile(gym *store.Gym, f File, by *store.Coach) (Result, error) {
	out := Result{Changes: []Brought{}, Said: []string{}, Tracks: []string{}}
	data := bytes.TrimPrefix(f.Data, bom)
	start := bytes.TrimLeft(data, " \r\n\t")
	var err error
	switch {
	case len(start) == 0:
		return out, input.Refuse("", "the file is empty")
	case bytes.HasPrefix(start, []byte("MThd")):
		err = bringRhythm(gym, f, by, &out)
	case start[0] == '{':
		var doc document.File
		if doc, err = document.Read(data); err == nil {
			var id *string
			if by != nil {
				id = &by.ID
			}
			out.What = string(doc.Holds)
			out.Changes, err = Bring(gym, doc, f.Bringing, id)
		}
	default:
		err = bringTable(gym, data, f.Dry, &out)
	}
	var line *table.Line
	if errors.As(err, &line) {
		err = input.Refuse("", "%s", line.Error())
	}
	return out, err
}

func bringTable(gym *store.Gym, data []byte, dry bool, out *Result) (err error) {
	columns, _ := csv.NewReader(bytes.NewReader(data)).Read()
	has := func(name string) bool {
		return slices.ContainsFunc(columns, func(c string) bool {
			return strings.EqualFold(strings.TrimSpace(c),
				name)
		})
	}
	switch {
	case has("started") && has("at"):
		out.What = "hits"
		out.Changes, err = BringHits(gym, bytes.NewReader(data), dry)
	case has("started"):
		out.What = "log"
		out.Changes, err = BringLog(gym, bytes.NewReader(data), dry)
	default:
		err = input.Refuse("",
			"line 1: expected a document of Melodromos, a MIDI file, or a table with a column called started")
	}
	return err
}

func bringRhythm(gym *store.Gym, f File, by *store.Coach, out *Result) error {
	out.What = "rhythm"
	r, err := midi.Rhythm(f.Data, f.Track)
	if err != nil {
		return input.Refuse("", "%s", err.Error())
	}
	out.Tracks, out.Track = r.Tracks, r.Track
	base := path.Base(strings.ReplaceAll(f.Name, `\`, "/"))
	name, err := input.Name("name", strings.TrimSuffix(base, path.Ext(base)))
	if err != nil {
		name = "Rhythm"
	}
	change, said, err := RhythmDrill(gym, r, name, f.Kind, f.On, by, f.Dry)
	if err != nil {
		return err
	}
	out.Said, out.Changes = said, []Brought{change}
	return nil
}
