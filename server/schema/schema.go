// Package schema describes what core reads and writes where Go's types do not say it all: the documents of rigs, places
// and drills, which core reads itself, and the values of its enums.
package schema

import (
	"maps"
	"reflect"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/bench"
	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/judge"
	"melodromos/core/ladder"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

// rigSchema, placeSchema and drillSchema describe what the core reads.
type (
	rigSchema   struct{}
	placeSchema struct{}
	drillSchema struct{}
)

// Schema is one of the documents of all kinds, told apart by the kind.
func (rigSchema) Schema(r huma.Registry) *huma.Schema {
	docs := map[string]*huma.Schema{}
	for _, m := range rig.Models() {
		docs[string(m.Kind)] = fieldsOf(m.Document())
	}
	return union(r, "RigDoc", docs)
}

// Schema is that of the fields of a place.
func (placeSchema) Schema(r huma.Registry) *huma.Schema {
	return only(r, "Place", fieldsOf(rig.PlaceTable().Fields()))
}

// Schema is one of the documents of both kinds, told apart by the kind.
func (drillSchema) Schema(r huma.Registry) *huma.Schema {
	docs := map[string]*huma.Schema{}
	for kind, doc := range drill.Documents() {
		docs[kind] = structOf(r, "DrillDoc"+capital(kind), reflect.TypeOf(doc))
		docs[kind].Properties["version"] = &huma.Schema{Type: huma.TypeInteger, Description: "of the drill's document"}
	}
	return union(r, "DrillDoc", docs)
}

// enum is a type of the core with its values.
type enum[T any] interface {
	~string
	Values() []T
}

// oneOf describes an enum.
type oneOf[T enum[T]] struct{}

// Schema is one of the values.
func (oneOf[T]) Schema(huma.Registry) *huma.Schema {
	s := &huma.Schema{Type: huma.TypeString}
	for _, v := range T.Values("") {
		s.Enum = append(s.Enum, string(v))
	}
	s.PrecomputeMessages()
	return s
}

func listed[T enum[T]](r huma.Registry) {
	r.RegisterTypeAlias(reflect.TypeFor[T](), reflect.TypeFor[oneOf[T]]())
}

// Describe makes the description show the core's documents as they are.
func Describe(r huma.Registry) {
	r.RegisterTypeAlias(reflect.TypeFor[drill.Doc](), reflect.TypeFor[drillSchema]())
	r.RegisterTypeAlias(reflect.TypeFor[rig.Doc](), reflect.TypeFor[rigSchema]())
	r.RegisterTypeAlias(reflect.TypeFor[rig.PlaceDoc](), reflect.TypeFor[placeSchema]())
	for _, known := range []func(huma.Registry){
		listed[rig.Kind], listed[rig.Face], listed[rig.Reading], listed[rig.Weight], listed[rig.Quantity],
		listed[bench.Method],
		listed[combo.MoveKind], listed[combo.Hand], listed[combo.Side], listed[combo.Stance], listed[combo.PunchNames],
		listed[combo.SlipNames],
		listed[drill.Clock], listed[drill.Scope], listed[drill.Playing], listed[drill.Recorder], listed[run.State],
		listed[run.Action], listed[run.MarkKind], listed[run.Rating], listed[fault.Code],
		listed[judge.Verdict], listed[judge.Ended], listed[level.Standing], listed[ladder.Direction],
		listed[ladder.Choice],
		listed[ladder.School],
		listed[trainee.Origin], listed[trainee.Test], listed[trainee.Band], listed[trainee.AgeBand],
		listed[trainee.Sport],
		listed[caution.Type], listed[words.Units],
	} {
		known(r)
	}
}

func capital(kind string) string { return strings.ToUpper(kind[:1]) + kind[1:] }

// only registers a schema that stands in the description alone: what comes in is read by the core, whose refusals name
// the field and say what was expected.
func only(r huma.Registry, name string, s *huma.Schema) *huma.Schema {
	if _, ok := r.Map()[name]; !ok {
		shown := map[string]any{"type": s.Type, "properties": s.Properties, "additionalProperties": false}
		if len(s.Required) > 0 {
			shown["required"] = s.Required
		}
		r.Map()[name] = &huma.Schema{Extensions: shown}
		r.Map()[name].PrecomputeMessages()
	}
	return &huma.Schema{Ref: "#/components/schemas/" + name}
}

// union registers, for the description alone, a schema that is one of several objects, told apart by their kind.
func union(r huma.Registry, name string, of map[string]*huma.Schema) *huma.Schema {
	if _, ok := r.Map()[name]; !ok {
		all := &huma.Schema{}
		r.Map()[name] = all
		parts, mapping := []*huma.Schema{}, map[string]string{}
		for _, kind := range slices.Sorted(maps.Keys(of)) {
			part := of[kind]
			part.Properties["kind"] = &huma.Schema{Type: huma.TypeString, Enum: []any{kind}}
			part.Required = append([]string{"kind"}, part.Required...)
			part.PrecomputeMessages()
			named := name + capital(kind)
			r.Map()[named] = part
			ref := &huma.Schema{Ref: "#/components/schemas/" + named}
			parts, mapping[kind] = append(parts, ref), ref.Ref
		}
		all.Extensions = map[string]any{"oneOf": parts,
			"discriminator": huma.Discriminator{PropertyName: "kind", Mapping: mapping}}
		all.PrecomputeMessages()
	}
	return &huma.Schema{Ref: "#/components/schemas/" + name}
}

// fieldsOf is the schema of a table of fields: what stands under a dot is in an object of its own.
func fieldsOf(fields []rig.Field) *huma.Schema {
	object := func() *huma.Schema {
		return &huma.Schema{Type: huma.TypeObject, Properties: map[string]*huma.Schema{}, AdditionalProperties: false}
	}
	all := object()
	for _, f := range fields {
		into, name := all, f.Name
		if outer, inner, nested := strings.Cut(name, "."); nested {
			if all.Properties[outer] == nil {
				all.Properties[outer] = object()
				all.Required = append(all.Required, outer)
			}
			into, name = all.Properties[outer], inner
		}
		into.Properties[name] = schemaOf(f)
		if !f.Optional && f.Only == nil {
			into.Required = append(into.Required, name)
		}
	}
	return all
}

// schemaOf is the schema of one field.
func schemaOf(f rig.Field) *huma.Schema {
	s := &huma.Schema{Type: huma.TypeNumber, Description: f.Label}
	switch f.Quantity {
	case rig.AsFlag:
		s.Type = huma.TypeBoolean
	case rig.AsWord:
		s.Type = huma.TypeString
		for _, o := range f.Options {
			s.Enum = append(s.Enum, o.Value)
		}
	default:
		least, most := f.Limits.Min, f.Limits.Max
		if s.Maximum = &most; f.Limits.Open {
			s.ExclusiveMinimum = &least
		} else {
			s.Minimum = &least
		}
		if f.Limits.Unit != "" {
			s.Description += ", " + f.Limits.Unit
		}
		if f.Optional && f.Default != 0 {
			s.Default = f.Default
		}
	}
	return s
}

// structOf is the schema of a document that is a struct: those of its fields that may be left out are not required.
func structOf(r huma.Registry, name string, t reflect.Type) *huma.Schema {
	s := &huma.Schema{Type: huma.TypeObject, Properties: map[string]*huma.Schema{}, AdditionalProperties: false}
	for i := range t.NumField() {
		tag, options, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
		if tag == "" || tag == "kind" {
			continue
		}
		s.Properties[tag] = r.Schema(t.Field(i).Type, true, name+t.Field(i).Name)
		if !strings.Contains(options, "omitempty") {
			s.Required = append(s.Required, tag)
		}
	}
	return s
}
