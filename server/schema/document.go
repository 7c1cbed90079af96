package schema

import (
	"encoding/json"
	"path"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/format/document"
)

// Documents is the JSON Schema (draft 2020-12) of the documents of format/document.
func Documents() ([]byte, error) {
	r := huma.NewMapRegistry("#/$defs/", func(t reflect.Type, hint string) string { // two rooms may have one name
		return capital(path.Base(t.PkgPath())) + huma.DefaultSchemaNamer(t, hint)
	})
	Describe(r)
	file := r.Schema(reflect.TypeFor[document.File](), false, "File")
	defs, err := json.Marshal(r.Map())
	if err != nil {
		return nil, err
	}
	own, err := json.Marshal(file)
	if err != nil {
		return nil, err
	}
	var all map[string]any
	if err := json.Unmarshal(own, &all); err != nil {
		return nil, err
	}
	var known map[string]any
	// the core's documents name one another as the description of the interface does
	if err := json.Unmarshal([]byte(strings.ReplaceAll(string(defs), "#/components/schemas/", "#/$defs/")),
		&known); err != nil {
		return nil, err
	}
	strip(all)
	strip(known)
	all["$schema"] = "https://json-schema.org/draft/2020-12/schema"
	all["title"] = "A bag, a drill, a session or a whole gym of Melodromos"
	all["$defs"] = known
	var each []any
	for _, kind := range document.Kind("").Values() {
		each = append(each, map[string]any{"required": []string{string(kind)},
			"properties": map[string]any{"melodromos": map[string]any{"const": kind}}})
	}
	all["oneOf"] = each
	out, err := json.MarshalIndent(all, "", "  ")
	return append(out, '\n'), err
}

// strip takes out what belongs to the description of an interface alone.
func strip(v any) {
	switch v := v.(type) {
	case map[string]any:
		delete(v, "discriminator")
		for _, inner := range v {
			strip(inner)
		}
	case []any:
		for _, inner := range v {
			strip(inner)
		}
	}
}
