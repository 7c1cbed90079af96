package server

import (
	"encoding/json"
	"maps"
	"math"
	"math/rand/v2"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/catalogue"
	"melodromos/core/rig"
	"melodromos/core/session"
)

// maker makes requests from the description of the interface: mostly what it asks for, now and then what it does not.
type maker struct {
	*rand.Rand
	doc    *huma.OpenAPI
	wild   bool                // half of the requests: else they are as they should be, but for what no schema tells
	ids    map[string][]string // that there are, by the word in the address
	key    string
	email  string
	secret string            // of an invitation to the gym
	files  []string          // that may be brought in
	fit    map[string]string // bodies that are taken, by operation: chance alone makes none
	fault  string            // that a round shows, with a drill for it
	plans  []catalogue.Entry
	on     string                     // the kind of bag that the last plan is for
	rigs   map[string]json.RawMessage // by kind
}

func (m *maker) one(chance float64) bool { return m.Float64() < chance }

// odd says whether something is made as it should not be.
func (m *maker) odd(chance float64) bool { return m.wild && m.one(chance) }

func pick[T any](m *maker, list []T) T { return list[m.IntN(len(list))] }

// words that have broken programs before, and some that have not.
var nastyWords = []string{
	"", " ", "\t\n", "   ", "Runa", "a\x00b", "\x00", "it's", `"`, `\`, "%", "%00", "../../x", "<b>", "null", "0", "-1",
	"𝔘𝔫𝔦", "\u202e", "é", "\ufeff", "a long password",
	"1-2-3", "1-2 | duck - 2", "(1-2)x50", strings.Repeat("x", 121), strings.Repeat("(", 500),
	"urn:uuid:00000000-0000-4000-8000-000000000000", "{00000000-0000-4000-8000-000000000000}",
	"00000000-0000-4000-8000-00000000000", "2026-11-26", "9999-12-31T23:59:59Z", "0000-00-00", "-infinity",
	"speed.once", "speed", "head", "front",
}

var nastyNumbers = []float64{0, 1, -1, 2, 0.5, 3, 10, 60, 126, 1e-9, 1e9, -1e9, 2147483647, 2147483648,
	9223372036854775807, 1e18, 1e300, -1e300, math.SmallestNonzeroFloat64}

// id names one of a kind, as a field such as rigId or an address such as rigs asks for it.
func (m *maker) id(of string) string {
	kind := map[string]string{"rigId": "rigs", "traineeId": "trainees", "trainee": "trainees", "beside": "trainees",
		"assignmentId": "assignments", "first-drill": "rigs", "person": "trainees"}[of]
	if kind == "" {
		kind = of
	}
	if list := m.ids[kind]; len(list) > 0 && !m.odd(0.1) {
		return pick(m, list)
	}
	if m.odd(0.5) {
		return pick(m, nastyWords)
	}
	return m.ids["rigs"][0]
}

// value makes one that a schema asks for, or something else; name is the field it is for.
func (m *maker) value(name string, s *huma.Schema, depth int) any {
	if s.Ref != "" {
		switch name := s.Ref[strings.LastIndex(s.Ref, "/")+1:]; name {
		case "DrillDoc":
			return m.plan()
		case "RigDoc":
			return m.rig(pick(m, fuzzKinds))
		case "Session":
			return m.session()
		case "Place":
			if !m.wild {
				return map[string]any{}
			}
		}
		s = m.doc.Components.Schemas.SchemaFromRef(s.Ref)
	}
	if m.odd(0.02) {
		return pick(m, []any{nil, true, "x", 7.0, []any{}, map[string]any{}, "a\x00b"})
	}
	if len(s.Enum) > 0 && !m.odd(0.05) {
		return pick(m, s.Enum)
	}
	switch s.Type {
	case huma.TypeObject:
		out := map[string]any{}
		for _, name := range slices.Sorted(maps.Keys(s.Properties)) {
			p := s.Properties[name]
			required := slices.Contains(s.Required, name)
			if depth < 6 && !p.ReadOnly && (required && !m.odd(0.02) || m.one(0.5)) {
				out[name] = m.value(name, p, depth+1)
			}
		}
		if out["doc"] != nil && out["rigId"] != nil && !m.wild { // a drill on a bag that it is for
			out["rigId"] = m.ids["rigs"][slices.Index(fuzzKinds, m.on)]
		}
		return out
	case huma.TypeArray:
		if s.Items.Type == huma.TypeNumber && !m.odd(0.3) { // taps, beats, strikes: moments in order
			return m.moments()
		}
		list := []any{}
		least := 0
		if s.MinItems != nil {
			least = *s.MinItems
		}
		for range least + m.IntN(9) {
			list = append(list, m.value(name, s.Items, depth+1))
		}
		return list
	case huma.TypeString:
		switch {
		case s.Format == "uuid":
			return m.id(name)
		case name == "people":
			return m.id("trainees")
		case name == "bags" || name == "bag":
			return m.id("rigs")
		case s.Format == "date" && !m.odd(0.2):
			return "2026-03-02"
		case name == "email":
			return m.email
		case name == "zone" && !m.odd(0.3):
			return "Europe/Lisbon"
		case name == "secret" && !m.odd(0.3):
			return m.secret
		case strings.Contains("password old new", name):
			return password
		case name == "band" && !m.odd(0.3):
			return "beginner"
		case name == "technique" && !m.odd(0.3):
			return "alternating"
		case name == "text" && !m.odd(0.3):
			return "1-2 - duck - 2"
		case name == "rung" && !m.odd(0.3):
			return "speed.once"
		case !m.odd(0.5):
			return "Quay"
		}
		return pick(m, nastyWords)
	case huma.TypeInteger, huma.TypeNumber:
		v := pick(m, nastyNumbers)
		switch {
		case s.Minimum != nil && m.one(0.1):
			v = *s.Minimum
		case s.Maximum != nil && m.one(0.1):
			v = *s.Maximum
		case s.ExclusiveMinimum != nil && m.one(0.1):
			v = math.Nextafter(*s.ExclusiveMinimum, math.Inf(1))
		case !m.odd(0.2):
			low, high := 0.0, 3.0
			switch name {
			case "version":
				return 1 + m.IntN(2)
			case "stretch":
				return m.IntN(40)
			case "minutes":
				return 20 + m.IntN(60)
			}
			if s.Minimum != nil {
				low = *s.Minimum
			}
			if s.Maximum != nil {
				high = *s.Maximum
			}
			high = max(high, low)
			v = low + m.Float64()*(high-low)
		}
		if s.Type == huma.TypeInteger && !m.odd(0.03) {
			v = math.Trunc(v)
		}
		return v
	case huma.TypeBoolean:
		return m.one(0.5)
	}
	return nil
}

var fuzzKinds = []string{"speed", "doubleEnd", "reflex", "slip", "hanging"}

func (m *maker) moments() []any {
	list, at := []any{}, 0.0
	for range 12 + m.IntN(8) {
		list = append(list, at)
		at += 0.4 + 0.2*m.Float64()
	}
	return list
}

func (m *maker) plan() map[string]any {
	e := pick(m, m.plans)
	m.on = string(e.Kind)
	doc, err := json.Marshal(e.Plan)
	if err != nil {
		panic(err)
	}
	return m.bent(doc)
}

// session is one that comes with the product.
func (m *maker) session() map[string]any {
	doc, err := json.Marshal(pick(m, session.Templates()).Session)
	if err != nil {
		panic(err)
	}
	return m.bent(doc)
}

// rig is a bag of a kind; now and then with its measures at the ends of what they may be.
func (m *maker) rig(kind string) map[string]any {
	doc := m.bent(m.rigs[kind])
	if !m.one(0.3) {
		return doc
	}
	model := rig.Kind(kind).Model()
	for _, f := range model.Measures {
		if f.Limits.Max == 0 || !m.one(0.4) || strings.HasPrefix(f.Name, "place.") {
			continue
		}
		end := pick(m, []float64{f.Limits.Min, f.Limits.Max})
		if outer, name, nested := strings.Cut(f.Name, "."); !nested {
			doc[f.Name] = end
		} else if in, ok := doc[outer].(map[string]any); ok {
			in[name] = end
		}
	}
	return doc
}

// ends holds the least and the most of a drill's numbers.
var ends = map[string][]float64{"work": {10, 600}, "repetitions": {1, 2000}, "pause": {0, 60}, "tempo": {10, 600},
	"strikes": {1, 6000}, "perHand": {1, 100}, "rebounds": {1, 15}, "fist": {0.2, 15}, "pull": {0.001, 3},
	"strikeAngle": {1, 60}}

// question makes one for the calculator.
func (m *maker) question(op string) any {
	drill := m.plan()
	drill["rig"] = m.rig(m.on)
	switch op {
	case "returns":
		return map[string]any{"rig": m.rig("doubleEnd"), "launch": 1 + m.Float64()}
	case "tempo":
		return map[string]any{"rig": m.rig("speed"), "rebounds": 3, "tempo": 100 + m.IntN(60)}
	case "combo":
		return map[string]any{"text": pick(m, nastyWords), "stance": "orthodox"}
	case "judge":
		return map[string]any{"strikes": []any{map[string]any{"at": m.Float64(), "window": 0.06},
			map[string]any{"at": 2, "window": pick(m, nastyNumbers)}}, "hits": []any{map[string]any{"at": m.Float64()}}}
	case "grade":
		return map[string]any{"drill": drill, "ability": map[string]any{"band": "beginner"}}
	}
	return map[string]any{"drill": drill, "seed": m.IntN(9)}
}

// bent gives a document as it is, or with something changed.
func (m *maker) bent(doc json.RawMessage) map[string]any {
	var v map[string]any
	_ = json.Unmarshal(doc, &v) // made here
	for m.odd(0.4) {
		keys := []string{"version", "text", "work", "repetitions", "pause", "tempo", "strikes", "perHand", "rebounds",
			"fist", "pull", "cues", "rounds", "bag", "bagLength", "ballMass", "damping", "anchorHeight", "pole",
			"upper"}
		for key := range v {
			keys = append(keys, key)
		}
		slices.Sort(keys)
		key := pick(m, keys)
		if at := ends[key]; at != nil && m.one(0.5) {
			v[key] = pick(m, at)
			continue
		}
		switch m.IntN(4) {
		case 0:
			delete(v, key)
		case 1:
			v[key] = pick(m, nastyWords)
		case 2:
			v[key] = pick(m, nastyNumbers)
		case 3:
			v[key] = map[string]any{"moves": []any{"duck", "roll lead"}, "least": 1, "mean": 3}
		}
	}
	return v
}
