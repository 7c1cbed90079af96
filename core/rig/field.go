package rig

import (
	"encoding/json"
	"slices"
	"strings"

	"melodromos/core/input"
)

// Quantity is the physical quantity of a field. The units that a gym reads it in follow from it.
type Quantity string

// The quantities. Values are in SI units whatever they are shown in.
const (
	AsLength    Quantity = "length"    // m, of a thing that is held in the hand
	AsHeight    Quantity = "height"    // m, above the floor or to a wall
	AsGrams     Quantity = "light"     // kg, of what is weighed in grams
	AsKilograms Quantity = "heavy"     // kg
	AsShare     Quantity = "share"     // of 1
	AsRatio     Quantity = "ratio"     // without a unit
	AsStiffness Quantity = "stiffness" // N/m
	AsSpring    Quantity = "spring"    // N·m/rad
	AsSpeed     Quantity = "speed"     // m/s
	AsWord      Quantity = "words"     // one of Choices
	AsFlag      Quantity = "flag"
	AsTempo     Quantity = "tempo"   // a minute
	AsSeconds   Quantity = "seconds" // s, in whole ones
	AsMoments   Quantity = "moments" // s, with parts
	AsCount     Quantity = "count"
)

// Values lists them.
func (Quantity) Values() []Quantity {
	return []Quantity{AsLength, AsHeight, AsGrams, AsKilograms, AsShare, AsRatio, AsStiffness, AsSpring, AsSpeed,
		AsWord, AsFlag, AsTempo, AsSeconds, AsMoments, AsCount}
}

// Slider is the range of a control, narrower than what is accepted, and its step.
type Slider struct {
	Least float64 `json:"least"`
	Most  float64 `json:"most"`
	Step  float64 `json:"step"`
}

// Option is a word that a field may hold, and what it is called.
type Option struct {
	Value string `json:"value"`
	Text  string `json:"text"`
}

// Only says that a field belongs to a document in which another one holds a word.
type Only struct {
	Field string `json:"field"`
	Is    string `json:"is"`
}

// Field is one measure or choice of a rig, or, after "place.", of its place: all that is said of it anywhere. It is
// read, checked and set by it, drawn and written on the page, and described in the schema of the documents.
type Field struct {
	Name     string   `json:"field"` // its path in the document: "bagLength", "upper.span", "place.springHeight"
	Label    string   `json:"label"`
	Help     string   `json:"help"`
	Quantity Quantity `json:"quantity"`
	Slider
	Options []Option `json:"options"` // of Words; where coaches disagree the default stands first
	Only    *Only    `json:"only"`    // nil where it always belongs
	Follows bool     `json:"follows"` // it comes along with another measure: nobody sets it with a tape

	Limits   input.Limits `json:"-"`
	Optional bool         `json:"-"` // it may be left out: Default is taken
	Default  float64      `json:"-"` // 0 is not measured
}

// Cell is a field with where its value stands in a T: a pointer to a float64, a string or a bool.
type Cell[T any] struct {
	Field
	At func(*T) any
}

// Table is all that a document of a T holds, in the order of the page.
type Table[T any] []Cell[T]

// Fields are the rows without the places of their values.
func (t Table[T]) Fields() []Field {
	list := make([]Field, len(t))
	for i, c := range t {
		list[i] = c.Field
	}
	return list
}

func (t Table[T]) find(name string) (Cell[T], bool) {
	i := slices.IndexFunc(t, func(c Cell[T]) bool { return c.Name == name })
	if i < 0 {
		return Cell[T]{}, false
	}
	return t[i], true
}

// belongs says whether the field is one of this document.
func (t Table[T]) belongs(c Cell[T], v *T) bool {
	if c.Only == nil {
		return true
	}
	other, ok := t.find(c.Only.Field)
	return ok && *other.At(v).(*string) == c.Only.Is
}

// Read reads the fields of an object; the object's Done tells what was refused. What stands under a dot is in an object
// of its own.
func (t Table[T]) Read(o *input.Object, v *T) {
	inner := map[string]*input.Object{}
	var opened []*input.Object
	for _, c := range t {
		if !t.belongs(c, v) {
			continue
		}
		in, name := o, c.Name
		if outer, last, nested := strings.Cut(name, "."); nested {
			if inner[outer] == nil {
				inner[outer] = o.Object(outer)
				opened = append(opened, inner[outer])
			}
			in, name = inner[outer], last
		}
		c.read(in, name, c.At(v))
	}
	for _, in := range opened {
		o.Keep(in.Done())
	}
}

func (f Field) read(o *input.Object, name string, into any) {
	switch at := into.(type) {
	case *float64:
		if f.Optional {
			*at = o.NumberOr(name, f.Limits, f.Default)
			return
		}
		*at = o.Number(name, f.Limits)
	case *string:
		if f.Optional {
			*at = o.ChoiceOr(name, "", f.words()...)
			return
		}
		*at = o.Choice(name, f.words()...)
	case *bool:
		*at = o.FlagOr(name, false)
	}
}

func (f Field) words() []string {
	list := make([]string, len(f.Options))
	for i, o := range f.Options {
		list[i] = o.Value
	}
	return list
}

// Check refuses the first value outside its limits, and one that does not belong to this document.
func (t Table[T]) Check(v T) error {
	for _, c := range t {
		var err error
		switch at := c.At(&v).(type) {
		case *float64:
			switch {
			case !t.belongs(c, &v):
				if *at != 0 {
					err = input.Refuse(c.Name, "expected none: it goes with the %s %q only", c.Only.Field, c.Only.Is)
				}
			case !c.Optional || *at != c.Default:
				err = c.Limits.Check(c.Name, *at)
			}
		case *string:
			if words := c.words(); !slices.Contains(words, *at) && (!c.Optional || *at != "") {
				err = input.Refuse(c.Name, "expected one of %s", strings.Join(words, ", "))
			}
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// Set sets a measure anew; false where there is none of that name. Whether it may be so, Check tells.
func (t Table[T]) Set(v *T, name string, to float64) bool {
	c, ok := t.find(name)
	if !ok {
		return false
	}
	at, ok := c.At(v).(*float64)
	if ok {
		*at = to
	}
	return ok
}

// Get is a measure by its name, 0 where there is none.
func (t Table[T]) Get(v T, name string) float64 {
	if c, ok := t.find(name); ok {
		if at, ok := c.At(&v).(*float64); ok {
			return *at
		}
	}
	return 0
}

// Document writes the document that Read reads, with the kind in front of the rest; what was not measured is left out.
func (t Table[T]) Document(kind Kind, v T) ([]byte, error) {
	doc := map[string]any{}
	if kind != "" {
		doc["kind"] = kind
	}
	for _, c := range t {
		if !t.belongs(c, &v) {
			continue
		}
		var value any
		switch at := c.At(&v).(type) {
		case *float64:
			if c.Optional && c.Default == 0 && *at == 0 {
				continue
			}
			value = *at
		case *string:
			if c.Optional && *at == "" {
				continue
			}
			value = *at
		case *bool:
			if !*at {
				continue
			}
			value = *at
		}
		into, name := doc, c.Name
		if path, last, nested := strings.Cut(name, "."); nested {
			inner, ok := doc[path].(map[string]any)
			if !ok {
				inner = map[string]any{}
				doc[path] = inner
			}
			into, name = inner, last
		}
		into[name] = value
	}
	return json.Marshal(doc)
}

// handle is the dimension line of a measure of this rig; see Field.handle.
func (t Table[T]) handle(v T, name string, line DimensionLine, least, most float64, moves ...Drag) Handle {
	c, _ := t.find(name)
	return c.handle(t.Get(v, name), line, least, most, moves...)
}

// handle is the dimension line of a measure, to be dragged within what its control offers and what the rig's other
// measures leave it: from least to most. A bag of an unusual size keeps its handle.
func (f Field) handle(value float64, line DimensionLine, least, most float64, moves ...Drag) Handle {
	return Handle{Field: f.Name, Label: f.Label, DimensionLine: line, Value: value, Moves: moves,
		Min: min(max(f.Least, least), value), Max: max(min(f.Most, most), value)}
}
