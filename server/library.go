package server

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/library"
)

// LibraryEntry is a drill of the starter library, or one that the gym has made.
type LibraryEntry struct {
	Key       string         `json:"key"`
	Kind      string         `json:"kind" enum:"speed,doubleEnd,reflex,slip,hanging"`
	Purpose   string         `json:"purpose" doc:"empty for the gym's own"`
	Step      int            `json:"step" doc:"1 first touch to 5 advanced; 0 for the gym's own"`
	Name      string         `json:"name"`
	Note      string         `json:"note"`
	Tags      []string       `json:"tags"`
	Canonical string         `json:"canonical"`
	Moves     int            `json:"moves" doc:"0 for a technique"`
	Figures   []drill.Figure `json:"figures"`
	Doc       DrillDoc       `json:"doc"`
	DrillID   string         `json:"drillId" doc:"of the gym's own"`
	Twin      string         `json:"twin" doc:"name of another drill with the same canonical form; empty where there is none"`
}

// Library is all there is to choose from.
type Library struct {
	Purposes []string       `json:"purposes"`
	Entries  []LibraryEntry `json:"entries"`
}

func (s *Server) registerLibrary(api huma.API) {
	huma.Get(api, "/api/library", func(ctx context.Context, _ *struct{}) (*one[Library], error) {
		out, err := libraryOf(who(ctx))
		return single(ctx, out, err, sure(func(l Library) Library { return l }))
	})
}

// CardOut is a short card: what it is, and the three things to watch.
type CardOut struct {
	Key   string   `json:"key"`
	Title string   `json:"title"`
	What  string   `json:"what"`
	Watch []string `json:"watch"`
}

func cardsOut(list []library.Card) []CardOut {
	out := []CardOut{}
	for _, c := range list {
		out = append(out, CardOut{c.Key, c.Title, c.What, c.Watch[:]})
	}
	return out
}

func libraryOf(c caller) (Library, error) {
	out := Library{Entries: []LibraryEntry{}}
	for _, p := range library.Purposes {
		out.Purposes = append(out.Purposes, string(p))
	}
	for _, e := range library.All() {
		out.Entries = append(out.Entries, LibraryEntry{
			Key: e.Key, Kind: string(e.Kind), Purpose: string(e.Purpose), Step: e.Step, Name: e.Name, Note: e.Note, Tags: some(e.Tags),
			Canonical: library.Canonical(e.Plan), Moves: moves(e.Plan), Figures: e.Plan.Figures(), Doc: DrillDoc{Plan: inSchool(e.Plan, c.row)},
		})
	}
	rigs, err := c.gym.Rigs(false)
	if err != nil {
		return out, err
	}
	kinds := map[string]string{}
	for _, r := range rigs {
		kinds[r.ID] = r.Kind
	}
	drills, err := c.gym.Drills()
	if err != nil {
		return out, err
	}
	for _, row := range drills {
		d, err := drillOut(row)
		if err != nil {
			return out, err
		}
		out.Entries = append(out.Entries, LibraryEntry{
			Key: d.ID, Kind: kinds[d.RigID], Name: d.Name, Tags: []string{}, Canonical: library.Canonical(d.Doc.Plan), Moves: moves(d.Doc.Plan), Figures: d.Figures, Doc: d.Doc, DrillID: d.ID,
		})
	}
	// The gym's own drills that are the same as another are told so; the first of them has none before it.
	first := map[string]string{}
	for i, e := range out.Entries {
		key := e.Kind + " " + e.Canonical
		if e.DrillID != "" {
			out.Entries[i].Twin = first[key]
		}
		if first[key] == "" {
			first[key] = e.Name
		}
	}
	return out, nil
}

func moves(p drill.Plan) int {
	c, ok := p.(drill.Combination)
	if !ok {
		return 0
	}
	line, err := combo.Parse(c.Text)
	if err != nil {
		return 0
	}
	return len(line.Moves(combo.Orthodox))
}
