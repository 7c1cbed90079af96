package server

import (
	"maps"
	"reflect"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/core/rig"
)

// The core's documents, by their names in the description.
type (
	RigDoc   = rig.Doc
	PlaceDoc = rig.PlaceDoc
	DrillDoc = drill.Doc
)

// rigSchema, drillSchema and placeSchema describe the core's documents.
type (
	rigSchema   struct{}
	drillSchema struct{}
	placeSchema struct{}
)

// Schema is one of the documents of all kinds, told apart by the kind.
func (rigSchema) Schema(r huma.Registry) *huma.Schema {
	docs := map[string]any{}
	for kind, doc := range rig.Documents() {
		docs[string(kind)] = doc
	}
	return union(r, "RigDoc", docs)
}

// Schema is one of the documents of both kinds, told apart by the kind.
func (drillSchema) Schema(r huma.Registry) *huma.Schema {
	docs := map[string]any{}
	for kind, doc := range drill.Documents() {
		docs[kind] = doc
	}
	return union(r, "DrillDoc", docs)
}

// Schema is that of the core's fields; the core tells their limits.
func (placeSchema) Schema(r huma.Registry) *huma.Schema {
	return r.Schema(reflect.TypeFor[rig.Place](), true, "Place")
}

// describe makes the description show the core's documents as they are.
func describe(r huma.Registry) {
	r.RegisterTypeAlias(reflect.TypeFor[drill.Doc](), reflect.TypeFor[drillSchema]())
	r.RegisterTypeAlias(reflect.TypeFor[rig.Doc](), reflect.TypeFor[rigSchema]())
	r.RegisterTypeAlias(reflect.TypeFor[rig.PlaceDoc](), reflect.TypeFor[placeSchema]())
}

// union registers a schema that is one of several structs, told apart by their kind. It stands in the description alone: what comes in is
// read by the core, whose refusals name the field and say what was expected.
func union(r huma.Registry, name string, of map[string]any) *huma.Schema {
	if _, ok := r.Map()[name]; !ok {
		all := &huma.Schema{}
		r.Map()[name] = all
		parts, mapping := []*huma.Schema{}, map[string]string{}
		for _, kind := range slices.Sorted(maps.Keys(of)) {
			part := documentOf(r, name+strings.ToUpper(kind[:1])+kind[1:], kind, reflect.TypeOf(of[kind]))
			parts, mapping[kind] = append(parts, part), part.Ref
		}
		all.Extensions = map[string]any{"oneOf": parts, "discriminator": huma.Discriminator{PropertyName: "kind", Mapping: mapping}}
		all.PrecomputeMessages()
	}
	return &huma.Schema{Ref: "#/components/schemas/" + name}
}

// documentOf registers the schema of a document: the fields of a struct, those that may be left out not required.
func documentOf(r huma.Registry, name, kind string, t reflect.Type) *huma.Schema {
	s := &huma.Schema{Type: huma.TypeObject, Properties: map[string]*huma.Schema{"kind": {Type: huma.TypeString, Enum: []any{kind}}}, AdditionalProperties: false, Required: []string{"kind"}}
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
	s.PrecomputeMessages()
	r.Map()[name] = s
	return &huma.Schema{Ref: "#/components/schemas/" + name}
}
