package schema

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"melodromos/core/catalogue"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/session"
	"melodromos/format/document"
	"melodromos/format/others"
)

// The published schema is the one that the code has now.
func TestPublished(t *testing.T) {
	now, err := Documents()
	if err != nil {
		t.Fatal(err)
	}
	published, err := os.ReadFile(filepath.Join("..", "..", "docs", "schema", "melodromos.schema.json"))
	if err != nil || string(published) != string(now) {
		t.Errorf("docs/schema/melodromos.schema.json is stale: scripts/types writes it anew (%v)", err)
	}
}

// Every bag, drill and session that ships is valid as another library reads the schema, and what is broken is not.
func TestValid(t *testing.T) {
	schema, err := Documents()
	if err != nil {
		t.Fatal(err)
	}
	var in struct {
		Schema    json.RawMessage   `json:"schema"`
		Documents []json.RawMessage `json:"documents"`
	}
	in.Schema = schema
	add := func(f document.File) {
		var out bytes.Buffer
		if err := document.Write(&out, f); err != nil {
			t.Fatal(err)
		}
		in.Documents = append(in.Documents, out.Bytes())
	}
	for _, m := range rig.Models() {
		add(document.File{Holds: document.OfBag, Bag: &document.Bag{Name: m.Name, Doc: m.Everyday,
			Place: rig.PlaceDoc{Place: m.Place.Place}}})
	}
	for _, e := range catalogue.All() {
		add(document.File{Holds: document.OfDrill, Drill: &document.Drill{Name: e.Name, Kind: e.Kind,
			Doc: drill.Doc{Plan: e.Plan}}})
	}
	for _, s := range session.Templates() {
		add(document.File{Holds: document.OfSession, Session: &s.Session})
	}
	good := len(in.Documents)
	broken := []string{`{}`, `{"melodromos":"bag","version":2}`, `{"melodromos":"drill","version":2,"bag":{}}`,
		`{"melodromos":"bag","version":2,"bag":{"name":"Quay","doc":{"kind":"speed","bagLength":"long"}}}`,
		`{"melodromos":"gym","version":2,"gym":{"settings":{}}}`, `{"melodromos":"diary","version":2}`,
		`{"melodromos":"drill","version":2,"drill":{"name":"One","kind":"speed","doc":{"kind":"combination","text":"1","swing":3}}}`}
	for _, text := range broken {
		in.Documents = append(in.Documents, json.RawMessage(text))
	}
	question, err := json.Marshal(in)
	if err != nil {
		t.Fatal(err)
	}
	var wrong [][]string
	others.Ask(t, "schema.mjs", question, &wrong)
	if good < 100 || len(wrong) != good+len(broken) {
		t.Fatalf("%d documents, %d answers", good, len(wrong))
	}
	for i, list := range wrong {
		if i < good && len(list) > 0 {
			t.Errorf("%.200s\n%v", in.Documents[i], list)
		}
		if i >= good && len(list) == 0 {
			t.Errorf("%s is valid", in.Documents[i])
		}
	}
}
