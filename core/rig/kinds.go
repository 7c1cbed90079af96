package rig

import (
	"slices"
	"strings"

	"melodromos/core/input"
)

// Kind names an apparatus.
type Kind string

// The kinds, each in files of its name.
const (
	Speed     Kind = "speed"     // under a board
	DoubleEnd Kind = "doubleEnd" // between two cords
	Reflex    Kind = "reflex"    // on a sprung pole
	Slip      Kind = "slip"      // a light pendulum
	Hanging   Kind = "hanging"   // a heavy one
)

// Values lists those that are known.
func (Kind) Values() []Kind { return Kinds() }

// Model holds what is the same for every bag of a kind. The motion itself is a Rig's: its name, its table of fields,
// the bag that it begins with, how it is calibrated, and what its people are told.
type Model struct {
	Kind     Kind     `json:"kind"`
	Name     string   `json:"name"`     // within a sentence: "speed bag"
	What     string   `json:"what"`     // in a few words: "under a board"
	Measures []Field  `json:"measures"` // of the rig, and what goes with them of its place, in the order of the page
	Around   []Field  `json:"around"`   // what else matters of its place and use
	Everyday Doc      `json:"everyday"` // a new one begins so: assumed until somebody measures
	Place    PlaceDoc `json:"place"`
	Rebounds int      `json:"rebounds"` // that are counted from strike to strike when nobody says otherwise
	Tapping  Tapping  `json:"tapping"`
	Slipped  bool     `json:"slipped"` // it is slipped, and not struck
	Caution  string   `json:"-"`       // at this kind of bag (common practice)
	// Between says that a defence is done between two returns; else it takes the place of a strike, and one come-back
	// goes by.
	Between bool `json:"-"`

	read func(*input.Object) (Rig, error)
	set  func(r Rig, name string, to float64) (Rig, bool)
}

// Tapping holds the instructions for calibrating a kind of bag by taps.
type Tapping struct {
	How       string `json:"how"`
	Timed     string `json:"timed"`     // what is done where it is counted against a watch
	First     string `json:"first"`     // what is tapped first: "strike"
	Counted   string `json:"counted"`   // "returns"
	Where     string `json:"where"`     // those are, in the picture of the moments
	Twice     string `json:"twice"`     // asks whether too much was tapped
	Parameter string `json:"parameter"` // what it finds out
}

// models are the kinds in the order in which they are trained.
var models []Model

func init() {
	Register(speedModel, speedTable)
	Register(doubleEndModel, doubleEndTable)
	Register(reflexModel, reflexTable)
	Register(slipModel, slipTable)
	Register(hangingModel, hangingTable)
}

// Register adds a kind of bag after those that are known: its model, the table of its document, and what of its place
// is a measure of it. Call it from an init function. It panics where the kind is known already.
func Register[T Rig](m Model, t Table[T]) {
	if _, known := find(m.Kind); known {
		panic("rig: two kinds are called " + string(m.Kind))
	}
	m.Measures, m.Around = listed(append(t.Fields(), m.Measures...)), listed(m.Around)
	m.Rebounds = max(1, m.Rebounds)
	m.read = func(o *input.Object) (Rig, error) {
		var v T
		t.Read(o, &v)
		return done(o, v)
	}
	m.set = func(r Rig, name string, to float64) (Rig, bool) {
		v, ok := r.(T)
		if ok {
			ok = t.Set(&v, name, to)
		}
		return v, ok
	}
	models = append(models, m)
}

// listed is the fields with lists that are never nil, so that they are written as empty ones.
func listed(fields []Field) []Field {
	list := append([]Field{}, fields...)
	for i := range list {
		list[i].Options = append([]Option{}, list[i].Options...)
	}
	return list
}

func find(k Kind) (Model, bool) {
	i := slices.IndexFunc(models, func(m Model) bool { return m.Kind == k })
	if i < 0 {
		return Model{}, false
	}
	return models[i], true
}

// Models are all kinds in the order in which they are trained.
func Models() []Model { return slices.Clone(models) }

// Kinds lists their names in that order.
func Kinds() []Kind {
	list := make([]Kind, len(models))
	for i, m := range models {
		list[i] = m.Kind
	}
	return list
}

// Model returns the model of a kind; the zero Model where there is no such kind.
func (k Kind) Model() Model {
	m, _ := find(k)
	return m
}

// Document lists the fields of the rig's own document.
func (m Model) Document() []Field {
	return slices.DeleteFunc(slices.Clone(m.Measures), func(f Field) bool { return strings.HasPrefix(f.Name, ofPlace) })
}

// Name returns the name of a kind of bag as it stands within a sentence; "" where there is no such kind.
func (k Kind) Name() string { return k.Model().Name }

// Read reads the rig document of one object, of whatever kind, and checks it whole.
func Read(o *input.Object) (Rig, error) {
	words := make([]string, len(models))
	for i, m := range models {
		words[i] = string(m.Kind)
	}
	m, ok := find(Kind(o.Choice("kind", words...)))
	if !ok {
		return nil, o.Done()
	}
	return m.read(o)
}

// done closes the object a rig was read from and checks the rig.
func done(o *input.Object, r Rig) (Rig, error) {
	if err := o.Done(); err != nil {
		return nil, err
	}
	if err := r.Check(); err != nil {
		return nil, o.Under(err)
	}
	return r, nil
}
