package roster

import (
	"encoding/json"
	"sync"

	"melodromos/core/answer"
	"melodromos/core/catalogue"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Own is a drill that the gym has made.
type Own struct {
	ID, Name string
	Kind     rig.Kind
	Plan     drill.Plan
}

// LibraryEntry is a drill of the catalogue, or one that the gym has made.
type LibraryEntry struct {
	Key       string           `json:"key"`
	Kind      rig.Kind         `json:"kind"`
	Purpose   string           `json:"purpose" doc:"empty for the gym's own"`
	Step      int              `json:"step" doc:"1 first touch to 5 advanced; 0 for the gym's own"`
	Level     *float64         `json:"level" doc:"on the gym's own bag of that kind; null where there is none"`
	Name      string           `json:"name"`
	Note      string           `json:"note"`
	Tags      []string         `json:"tags"`
	Canonical string           `json:"canonical"`
	Moves     int              `json:"moves" doc:"0 for a technique"`
	Figures   []drill.Labelled `json:"figures"`
	Doc       drill.Doc        `json:"doc"`
	DrillID   string           `json:"drillId" doc:"of the gym's own"`
	Twin      string           `json:"twin" doc:"name of another drill with the same canonical form; empty where there is none"`
}

// Library is all there is to choose from.
type Library struct {
	Purposes []string       `json:"purposes"`
	Entries  []LibraryEntry `json:"entries"`
}

// Library lists the catalogue, as this gym trains and calls, and the gym's own drills.
func (c Roster) Library(own []Own, levels *Levels) (Library, error) {
	out := Library{Purposes: answer.Map(catalogue.Purposes, func(p catalogue.Purpose) string { return string(p) })}
	for _, e := range catalogue.All() {
		if e.Legs() && !c.Kicks {
			continue
		}
		out.Entries = append(out.Entries, LibraryEntry{
			Key: e.Key, Kind: e.Kind, Purpose: string(e.Purpose), Step: e.Step, Name: e.Name, Note: e.Note,
			Tags: answer.List(e.Tags),
			Doc:  drill.Doc{Plan: drill.InSchool(e.Plan, c.Voice)},
		})
	}
	for _, o := range own {
		out.Entries = append(out.Entries, LibraryEntry{Key: o.ID, Kind: o.Kind, Name: o.Name, Tags: []string{},
			Doc: drill.Doc{Plan: o.Plan}, DrillID: o.ID})
	}
	// The gym's own drills that are the same as another are told so; the first of them has none before it.
	first := map[string]string{}
	for i := range out.Entries {
		e := &out.Entries[i]
		e.Canonical, e.Moves, e.Figures = catalogue.Canonical(e.Doc.Plan), moves(e.Doc.Plan), e.Doc.Plan.Figures()
		key := string(e.Kind) + " " + e.Canonical
		if e.DrillID != "" {
			e.Twin = first[key]
		}
		if first[key] == "" {
			first[key] = e.Name
		}
		if b := c.firstOf(e.Kind); b != nil {
			var err error
			if e.Level, err = levels.levelOn(e.Doc.Plan, b); err != nil {
				return out, err
			}
		}
	}
	return out, c.stopped()
}

func (c Roster) firstOf(kind rig.Kind) *Bag { return c.BagFor(&Member{}, kind) }

func moves(p drill.Plan) int {
	d, ok := p.(drill.CombinationDrill)
	if !ok {
		return 0
	}
	line, err := combo.Parse(d.Text)
	if err != nil {
		return 0
	}
	return len(line.Moves(combo.Orthodox))
}

// Levels keeps levels that were worked out, since a library asks for many at once and a bag seldom changes. The zero
// value is ready.
type Levels struct {
	lock  sync.Mutex
	known map[string]*float64
}

const mostLevels = 5000 // kept; then it begins anew

// levelOn is the level of a plan on a bag, for somebody in between where the plan leaves force or tempo open; nil where
// the bag does not allow it.
func (l *Levels) levelOn(p drill.Plan, b *Bag) (*float64, error) {
	key, err := json.Marshal([]any{p, b.Rig, b.Place})
	if err != nil {
		return nil, err
	}
	l.lock.Lock()
	v, ok := l.known[string(key)]
	l.lock.Unlock()
	if ok {
		return v, nil
	}
	if g, err := level.GradeOf(p, drill.Floor{Bag: b.Rig, Place: b.Place, Ability: trainee.Start(trainee.Intermediate),
		Seed: 1}); err == nil {
		v = &g.Level
	}
	l.lock.Lock()
	defer l.lock.Unlock()
	if l.known == nil || len(l.known) >= mostLevels {
		l.known = map[string]*float64{}
	}
	l.known[string(key)] = v
	return v, nil
}
