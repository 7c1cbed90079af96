package calc

import (
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"melodromos/core/input"
	"melodromos/core/rig"
)

// With every measure of a bag at one end or the other of what it may be, and launches and counts at theirs, there is an
// answer of numbers, or a refusal that names a field: what is no number leaves nothing half answered.
func TestMeasuresAtTheirEnds(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 7))
	answered := map[rig.Kind]int{}
	for _, m := range rig.Models() {
		for range 100 {
			doc := atEnds(t, rng, m)
			struck := fmt.Sprintf(`"launch":%g`, []float64{0.05, 1, 3, 12}[rng.IntN(4)])
			if m.Kind == rig.Slip {
				struck = fmt.Sprintf(`"pull":%g`, []float64{0.01, 0.5, 3}[rng.IntN(3)])
			}
			for op, question := range map[string]string{
				"returns": fmt.Sprintf(`{"rig":%s,%s}`, doc, struck),
				"tempo":   fmt.Sprintf(`{"rig":%s,%s,"rebounds":%d}`, doc, struck, 1+2*rng.IntN(4)),
				"compile": fmt.Sprintf(`{"drill":{"rig":%s,"text":"1-2 - slip rear - 2","landing":"returns","work":30},"seed":1}`,
					doc),
			} {
				out, err := Do(t.Context(), op, []byte(question))
				var refused *input.Error
				switch {
				case err == nil:
					answered[m.Kind]++
					if !json.Valid(out) {
						t.Fatalf("%s %s: no JSON", op, question)
					}
				case !errors.As(err, &refused) || refused.Field == "":
					t.Errorf("%s %s: %v", op, question, err)
				}
			}
		}
		if answered[m.Kind] < 60 {
			t.Errorf("%s: only %d of 300 were answered", m.Name, answered[m.Kind])
		}
	}
}

// atEnds is the document of a bag with its measures at an end of their limits, or as they are every day.
func atEnds(t *testing.T, rng *rand.Rand, m rig.Model) string {
	t.Helper()
	text, err := json.Marshal(m.Everyday)
	if err != nil {
		t.Fatal(err)
	}
	var doc map[string]any
	if err := json.Unmarshal(text, &doc); err != nil {
		t.Fatal(err)
	}
	for _, f := range m.Measures {
		if f.Limits.Max == 0 || strings.HasPrefix(f.Name, "place.") || rng.IntN(4) > 0 {
			continue
		}
		end := []float64{f.Limits.Min, f.Limits.Max}[rng.IntN(2)]
		if outer, name, nested := strings.Cut(f.Name, "."); nested {
			doc[outer].(map[string]any)[name] = end
		} else {
			doc[f.Name] = end
		}
	}
	text, err = json.Marshal(doc)
	if err != nil {
		t.Fatal(err)
	}
	return string(text)
}
