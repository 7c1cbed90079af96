package server

import (
	"context"
	"encoding/json"
	"sync"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/trainee"
	"melodromos/library"
	"melodromos/store"
)

// LibraryEntry is a drill of the starter library, or one that the gym has made.
type LibraryEntry struct {
	Key       string         `json:"key"`
	Kind      string         `json:"kind" enum:"speed,doubleEnd,reflex,slip,hanging"`
	Purpose   string         `json:"purpose" doc:"empty for the gym's own"`
	Step      int            `json:"step" doc:"1 first touch to 5 advanced; 0 for the gym's own"`
	Level     *float64       `json:"level" doc:"on the gym's own bag of that kind; null where there is none"`
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
		out, err := s.libraryOf(who(ctx))
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

func (s *Server) libraryOf(c caller) (Library, error) {
	out := Library{Entries: []LibraryEntry{}}
	for _, p := range library.Purposes {
		out.Purposes = append(out.Purposes, string(p))
	}
	rigs, err := c.gym.Rigs(false)
	if err != nil {
		return out, err
	}
	kinds, hung := map[string]string{}, map[string]store.Rig{}
	for i := len(rigs) - 1; i >= 0; i-- {
		kinds[rigs[i].ID], hung[rigs[i].Kind] = rigs[i].Kind, rigs[i]
	}
	for _, e := range library.All() {
		if e.Legs() && !c.row.Kicks {
			continue
		}
		out.Entries = append(out.Entries, LibraryEntry{
			Key: e.Key, Kind: string(e.Kind), Purpose: string(e.Purpose), Step: e.Step, Name: e.Name, Note: e.Note, Tags: some(e.Tags),
			Canonical: library.Canonical(e.Plan), Moves: moves(e.Plan), Figures: e.Plan.Figures(), Doc: DrillDoc{Plan: inSchool(e.Plan, c.row)},
		})
	}
	drills, err := c.gym.Drills()
	if err != nil {
		return out, err
	}
	rigOf := map[string]string{}
	for _, row := range drills {
		rigOf[row.ID] = row.RigID
		d, err := drillOut(row)
		if err != nil {
			return out, err
		}
		out.Entries = append(out.Entries, LibraryEntry{
			Key: d.ID, Kind: kinds[d.RigID], Name: d.Name, Tags: []string{}, Canonical: library.Canonical(d.Doc.Plan), Moves: moves(d.Doc.Plan), Figures: d.Figures, Doc: d.Doc, DrillID: d.ID,
		})
	}
	for i, e := range out.Entries {
		row, ok := hung[e.Kind]
		if e.DrillID != "" {
			for _, r := range rigs {
				if r.ID == rigOf[e.DrillID] {
					row, ok = r, true
				}
			}
		}
		if ok {
			if out.Entries[i].Level, err = s.levels.of(e.Doc.Plan, row); err != nil {
				return out, err
			}
		}
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

// levels keeps the levels that were worked out, since a library asks for many at once and a bag seldom changes.
type levels struct {
	sync.Mutex
	known map[string]*float64
}

const mostLevels = 5000 // kept; then it begins anew

// of is the level of a plan on a bag, for somebody in between where the plan leaves force or tempo open; nil where the bag does not
// allow it.
func (l *levels) of(p drill.Plan, row store.Rig) (*float64, error) {
	doc, err := json.Marshal(p)
	if err != nil {
		return nil, err
	}
	key := string(doc) + string(row.Doc) + string(row.Place)
	l.Lock()
	v, ok := l.known[key]
	l.Unlock()
	if ok {
		return v, nil
	}
	bag, place, err := readRig(row)
	if err != nil {
		return nil, err
	}
	if g, err := level.Of(p, drill.Floor{Bag: bag, Place: place, Ability: trainee.Start(trainee.Intermediate), Seed: 1}); err == nil {
		v = &g.Level
	}
	l.Lock()
	defer l.Unlock()
	if l.known == nil || len(l.known) >= mostLevels {
		l.known = map[string]*float64{}
	}
	l.known[key] = v
	return v, nil
}
