package ledger

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
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
	In    io.ReaderAt
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

// Counts sums up what changes.
type Counts struct {
	Added   int `json:"added"`
	Changed int `json:"changed"`
	Same    int `json:"same"`
	Differs int `json:"differs"`
}

// Counts sums the changes up.
func (r Result) Counts() Counts {
	var c Counts
	for _, b := range r.Changes {
		switch b.Does {
		case Added:
			c.Added += b.Count
		case Changed:
			c.Changed += b.Count
		case Same:
			c.Same += b.Count
		case Differs:
			c.Differs += b.Count
		}
	}
	return c
}

// InShort are the changes, at most so many that are added, and so on, each by itself; the others of a sort are one,
// called "others", that counts them.
func (r Result) InShort(most int) []Brought {
	type sort struct {
		what string
		does Does
	}
	list, by, others := []Brought{}, map[Does]int{}, map[sort]int{} // others by its place in the list
	for _, b := range r.Changes {
		if by[b.Does]++; by[b.Does] <= most {
			list = append(list, b)
			continue
		}
		of := sort{b.What, b.Does}
		at, there := others[of]
		if !there {
			at = len(list)
			others[of] = at
			list = append(list, Brought{What: b.What, Name: "others", Does: b.Does})
		}
		list[at].Count += b.Count
	}
	return list
}

// Sentence says what bringing in does, or would do.
func (r Result) Sentence(dry bool) string {
	if len(r.Changes) == 1 && r.Changes[0].Count == 1 {
		return r.Changes[0].sentence(dry)
	}
	c := r.Counts()
	are := func(n int, would, done string) string {
		switch {
		case dry:
			return fmt.Sprintf("%d would be %s", n, would)
		case n == 1:
			return "1 is " + done
		}
		return fmt.Sprintf("%d are %s", n, done)
	}
	var parts []string
	if c.Added > 0 {
		parts = append(parts, are(c.Added, "added", "added"))
	}
	if c.Changed > 0 {
		parts = append(parts, are(c.Changed, "changed", "changed"))
	}
	if c.Differs > 0 {
		stay := "differ here, and stay as they are"
		if c.Differs == 1 {
			stay = "differs here, and stays as it is"
		}
		parts = append(parts, fmt.Sprintf("%d %s", c.Differs, stay))
	}
	if c.Same > 0 {
		there := "are here already"
		if c.Same == 1 {
			there = "is here already"
		}
		parts = append(parts, fmt.Sprintf("%d %s", c.Same, there))
	}
	if len(parts) == 0 {
		return "There is nothing in it."
	}
	return strings.Join(parts, "; ") + "."
}

func (b Brought) sentence(dry bool) string {
	is := map[Does]string{Added: "is added", Changed: "is changed", Same: "is here already",
		Differs: "differs here, and stays as it is"}
	if dry {
		is[Added], is[Changed] = "would be added", "would be changed"
	}
	return fmt.Sprintf("The %s %s %s.", b.What, b.Name, is[b.Does])
}

// bom is the byte order mark, which some programs write in front of a text.
const bom = "\ufeff"

// lookedAt is the length (bytes) of a file's beginning by which its format is told.
const lookedAt = 1 << 16

// BringFile brings a file in by what it holds: a document, a table of rounds or hits, or a rhythm. All of it is brought
// in, or nothing; what is wrong is named with its line. Documents and tables are read piece by piece, however long they
// are.
func BringFile(gym *store.Gym, f File, by *store.Coach) (Result, error) {
	out := Result{Changes: []Brought{}, Said: []string{}, Tracks: []string{}}
	head, err := io.ReadAll(io.NewSectionReader(f.In, 0, lookedAt))
	if err != nil {
		return out, err
	}
	text, marked := strings.CutPrefix(string(head), bom)
	in := io.NewSectionReader(f.In, 0, math.MaxInt64)
	if marked {
		in = io.NewSectionReader(f.In, int64(len(bom)), math.MaxInt64-int64(len(bom)))
	}
	start := strings.TrimLeft(text, " \r\n\t")
	switch {
	case start == "":
		return out, input.Refuse("", "the file is empty")
	case strings.HasPrefix(start, "MThd"):
		err = bringRhythm(gym, f, in, by, &out)
	case start[0] == '{':
		var doc document.File
		if doc, err = document.Read(in); err == nil {
			var id *string
			if by != nil {
				id = &by.ID
			}
			out.What = string(doc.Holds)
			out.Changes, err = Bring(gym, doc, f.Bringing, id)
		}
	default:
		err = bringTable(gym, text, in, f.Dry, &out)
	}
	var line *table.Line
	var field *input.Error
	switch {
	case errors.As(err, &line):
		err = input.Refuse("", "%s", line.Error())
	case errors.As(err, &field) && field.Field != "" && field.Line > 0:
		err = input.Refuse("", "line %d, %s: %s", field.Line, field.Field, field.Reason)
	}
	return out, err
}

// bringTable brings in a table, by the columns that its beginning names.
func bringTable(gym *store.Gym, start string, in io.Reader, dry bool, out *Result) (err error) {
	columns, _ := csv.NewReader(strings.NewReader(start)).Read()
	for i, c := range columns {
		columns[i] = strings.ToLower(strings.TrimSpace(c))
	}
	has := func(name string) bool { return slices.Contains(columns, name) }
	switch {
	case has("started") && has("at"):
		out.What = "hits"
		out.Changes, err = BringHits(gym, in, dry)
	case has("started"):
		out.What = "log"
		out.Changes, err = BringLog(gym, in, dry)
	case len(columns) == 1 && strings.ContainsAny(columns[0], ";\t") && strings.Contains(columns[0], "started"):
		err = input.Refuse("", "line 1: expected cells that are parted by commas, and points in numbers")
	default:
		err = input.Refuse("",
			"line 1: expected a document of Melodromos, a MIDI file, or a table with a column called started")
	}
	return err
}

func bringRhythm(gym *store.Gym, f File, in io.Reader, by *store.Coach, out *Result) error {
	out.What = "rhythm"
	data, err := io.ReadAll(io.LimitReader(in, midi.MostBytes+1))
	if err != nil {
		return err
	}
	r, err := midi.Rhythm(data, f.Track)
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
