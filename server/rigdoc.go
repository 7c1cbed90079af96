package server

import (
	"encoding/json"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/input"
	"melodromos/core/rig"
)

// RigDoc is a rig's document: its kind and its measures in metres and kilograms. What the core refused of one that came in
// is kept until it is asked for, so that the refusal names the field.
type RigDoc struct {
	Rig rig.Rig
	err error
}

// MarshalJSON writes the core's document.
func (d RigDoc) MarshalJSON() ([]byte, error) { return json.Marshal(d.Rig) }

// UnmarshalJSON reads it with the core's reader.
func (d *RigDoc) UnmarshalJSON(doc []byte) error {
	d.Rig, d.err = rig.Read(input.Parse(doc))
	return nil
}

// read gives the rig, or the refusal.
func (d RigDoc) read() (rig.Rig, error) {
	if d.Rig == nil && d.err == nil {
		return nil, input.Refuse("", "missing; expected a rig")
	}
	return d.Rig, d.err
}

// Schema describes the documents of all kinds in one: every measure that one of them has. Which belong together the core
// tells.
func (RigDoc) Schema(r huma.Registry) *huma.Schema {
	kinds := []any{string(rig.Speed), string(rig.DoubleEnd), string(rig.Reflex), string(rig.Slip), string(rig.Hanging)}
	return merged(r, "RigDoc", map[string]*huma.Schema{"kind": {Type: huma.TypeString, Enum: kinds}}, []string{"kind"},
		rig.SpeedBag{}, rig.DoubleEndBag{}, rig.ReflexBag{}, rig.SlipBag{}, rig.HangingBag{})
}

// merged registers one schema with the fields of several structs, none of them required but those named.
func merged(r huma.Registry, name string, fields map[string]*huma.Schema, required []string, of ...any) *huma.Schema {
	if _, ok := r.Map()[name]; !ok {
		all := &huma.Schema{Type: huma.TypeObject, Properties: fields, AdditionalProperties: true, Required: required}
		for _, one := range of {
			t := reflect.TypeOf(one)
			for i := range t.NumField() {
				tag, _, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
				if _, known := all.Properties[tag]; !known {
					all.Properties[tag] = r.Schema(t.Field(i).Type, true, t.Name()+t.Field(i).Name)
				}
			}
		}
		all.PrecomputeMessages()
		r.Map()[name] = all
	}
	return &huma.Schema{Ref: "#/components/schemas/" + name}
}

// PlaceDoc is where a rig is mounted and what it is used for.
type PlaceDoc struct {
	rig.Place
	err error
}

// UnmarshalJSON reads it with the core's reader.
func (d *PlaceDoc) UnmarshalJSON(doc []byte) error {
	d.Place, d.err = rig.ReadPlace(input.Parse(doc))
	return nil
}

// MarshalJSON writes the core's document.
func (d PlaceDoc) MarshalJSON() ([]byte, error) { return json.Marshal(d.Place) }

// Schema is that of the core's fields; the core tells their limits.
func (PlaceDoc) Schema(r huma.Registry) *huma.Schema {
	return r.Schema(reflect.TypeFor[rig.Place](), true, "Place")
}
