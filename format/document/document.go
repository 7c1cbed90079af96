// Package document writes bags, drills, sessions and whole gyms as JSON documents, and reads them back. Every document
// says what it holds and in which version; older ones are brought up to date as they are read. A JSON Schema of them is
// published in docs/schema.
package document

import (
	"io"
	"time"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/session"
)

// Version is that of the documents written here.
const Version = 2

// Kind says what a document holds.
type Kind string

// The kinds of documents.
const (
	OfBag     Kind = "bag"
	OfDrill   Kind = "drill"
	OfSession Kind = "session"
	OfGym     Kind = "gym"
)

// Values lists them.
func (Kind) Values() []Kind { return []Kind{OfBag, OfDrill, OfSession, OfGym} }

// File is a document: what it holds stands under the name of its kind, and nothing else does.
type File struct {
	Holds   Kind      `json:"melodromos" doc:"what the document holds"`
	Version int       `json:"version" minimum:"1" maximum:"2" doc:"of the document"`
	Written time.Time `json:"written,omitzero" required:"false" doc:"when it was written"`

	Bag     *Bag             `json:"bag,omitempty"`
	Drill   *Drill           `json:"drill,omitempty"`
	Session *session.Session `json:"session,omitempty"`
	Gym     *Gym             `json:"gym,omitempty"`
}

// Bag is a bag as it hangs.
type Bag struct {
	Key        string       `json:"key,omitempty" maxLength:"40" doc:"by which others of the document refer to it"`
	Name       string       `json:"name" minLength:"1" maxLength:"120"`
	Doc        rig.Doc      `json:"doc" doc:"its measures"`
	Place      rig.PlaceDoc `json:"place" required:"false" doc:"where it hangs"`
	MeasuredAt *time.Time   `json:"measuredAt,omitempty" doc:"when a measure was last changed"`
	Archived   bool         `json:"archived,omitempty"`
}

// Drill is a drill for a kind of bag, with force, tempo and pull left open.
type Drill struct {
	Key      string    `json:"key,omitempty" maxLength:"40"`
	Name     string    `json:"name" minLength:"1" maxLength:"120"`
	Kind     rig.Kind  `json:"kind" doc:"of the bag"`
	Rung     string    `json:"rung,omitempty" maxLength:"60" doc:"of the ladder that it is the drill of"`
	Doc      drill.Doc `json:"doc"`
	Archived bool      `json:"archived,omitempty"`
}

// Read reads a document, and brings an older one up to date. What is wrong is refused by its field and the line on
// which that stands. How long it may be is for whoever takes it from outside to say; one entry of a list may have 4 MB.
func Read(in io.ReadSeeker) (File, error) {
	p, err := gather(in)
	if err != nil {
		return File{}, located(in, err)
	}
	data, err := p.whole()
	if err == nil && p.top["melodromos"] == nil {
		data, err = wrapped(data, p.top)
	}
	if err != nil {
		return File{}, located(in, err)
	}
	f, err := read(input.Parse(data), p.lists)
	return f, located(in, err)
}

func read(o *input.Object, lists Gym) (File, error) {
	f := File{Holds: Kind(o.Choice("melodromos", string(OfBag), string(OfDrill), string(OfSession), string(OfGym))),
		Version: o.Whole("version", 1, Version), Written: moment(o, "written")}
	switch f.Holds {
	case OfBag:
		b, err := readBag(o.Object("bag"))
		o.Keep(err)
		f.Bag = &b
	case OfDrill:
		d, err := readDrill(o.Object("drill"))
		o.Keep(err)
		f.Drill = &d
	case OfSession:
		s, err := readSession(o, "session")
		o.Keep(err)
		f.Session = &s
	case OfGym:
		g, err := readGym(o.Object("gym"), lists)
		o.Keep(err)
		f.Gym = &g
	}
	return f, o.Done()
}

// moment reads a time, the zero one where it is left out.
func moment(o *input.Object, field string) time.Time {
	if !o.Has(field) {
		return time.Time{}
	}
	text := o.Text(field, 40)
	at, err := time.Parse(time.RFC3339Nano, text)
	if err != nil || at.Year() < 1970 || at.Year() > 2200 {
		o.Fail(field, "expected a time such as 2026-03-02T18:30:00Z, not %q", text)
	}
	return at.UTC()
}

func textOr(o *input.Object, field string, most int) string {
	if !o.Has(field) {
		return ""
	}
	return o.Text(field, most)
}

func name(o *input.Object) string {
	text, err := input.Name("name", o.Text("name", 1000))
	o.Keep(o.Under(err))
	return text
}

func readBag(o *input.Object) (Bag, error) {
	b := Bag{Key: textOr(o, "key", 40), Name: name(o), Archived: o.FlagOr("archived", false)}
	if at := moment(o, "measuredAt"); !at.IsZero() {
		b.MeasuredAt = &at
	}
	bag, err := rig.Read(o.Object("doc"))
	o.Keep(err)
	b.Doc.Rig = bag
	if o.Has("place") {
		place, err := rig.ReadPlace(o.Object("place"))
		o.Keep(err)
		b.Place.Place = place
	}
	return b, o.Done()
}

func kindOf(o *input.Object, field string) rig.Kind {
	names := make([]string, 0, 8)
	for _, k := range rig.Kinds() {
		names = append(names, string(k))
	}
	return rig.Kind(o.Choice(field, names...))
}

func readDrill(o *input.Object) (Drill, error) {
	d := Drill{Key: textOr(o, "key", 40), Name: name(o), Kind: kindOf(o, "kind"), Rung: textOr(o, "rung", 60),
		Archived: o.FlagOr("archived", false)}
	inner := o.Object("doc")
	plan, err := drill.ReadPlan(inner)
	o.Keep(err)
	if _, technique := plan.(drill.SpeedBagDrill); technique && d.Kind != rig.Speed && err == nil {
		o.Fail("kind", "expected the speed bag: its techniques go by the board, and no other bag has one")
	}
	d.Doc.Plan = plan
	return d, o.Done()
}

// readSession reads a session strictly, by its own fields.
func readSession(o *input.Object, field string) (session.Session, error) {
	var s session.Session
	if err := o.Into(field, &s); err != nil {
		return s, err
	}
	if _, err := input.Name("name", s.Name); err != nil {
		return s, o.Under(input.Under(field, err))
	}
	return s, o.Under(input.Under(field, s.Check()))
}
