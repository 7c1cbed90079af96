package compose

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"melodromos/core/catalogue"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// merged is a document with a patch (RFC 7396).
func merged(t *testing.T, p drill.Plan, patch Patch) drill.Doc {
	t.Helper()
	fields := func(v any) (out map[string]any) {
		text, err := json.Marshal(v)
		if err == nil {
			err = json.Unmarshal(text, &out)
		}
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	doc, change := fields(p), fields(patch)
	var merge func(into, from map[string]any)
	merge = func(into, from map[string]any) {
		for name, v := range from {
			inner, object := v.(map[string]any)
			switch {
			case v == nil:
				delete(into, name)
			case object:
				if _, ok := into[name].(map[string]any); !ok {
					into[name] = map[string]any{}
				}
				merge(into[name].(map[string]any), inner)
			default:
				into[name] = v
			}
		}
	}
	merge(doc, change)
	text, err := json.Marshal(doc)
	if err != nil {
		t.Fatal(err)
	}
	var out drill.Doc
	if err := json.Unmarshal(text, &out); err != nil {
		t.Fatal(err)
	}
	return out
}

// patched is the patch that sets one field, which may stand in an object, and what goes with it.
func patched(field string, v any, with Patch) Patch {
	p := Patch{}
	for name, value := range with {
		p[name] = value
	}
	if outer, inner, nested := strings.Cut(field, "."); nested {
		p[outer] = Patch{inner: v}
	} else {
		p[field] = v
	}
	return p
}

func knob(list []Knob, field string) (Knob, bool) {
	i := slices.IndexFunc(list, func(k Knob) bool { return k.Field == field })
	if i < 0 {
		return Knob{}, false
	}
	return list[i], true
}

// Whatever is offered of a drill can be taken: every choice and both ends of every figure, on every drill of the
// catalogue and its bag, gives a drill that is answered for, and a choice that was taken is the one that then stands.
func TestKnobsCanBeTaken(t *testing.T) {
	bags := map[rig.Kind]rig.Rig{}
	for _, m := range rig.Models() {
		bags[m.Kind] = m.Everyday.Rig
	}
	looked, taken := map[string]bool{}, 0
	for _, e := range catalogue.All() {
		q := Question{Plan: e.Plan, On: floor(bags[e.Kind], trainee.Advanced), Glance: true}
		a, err := Ask(q)
		if err != nil {
			t.Errorf("%s: %v", e.Key, err)
			continue
		}
		fields := []string{}
		for _, k := range a.Knobs {
			fields = append(fields, k.Field+k.Value)
		}
		// another drill that can be set in the same way
		if seen := string(e.Kind) + strings.Join(fields, " "); looked[seen] {
			continue
		} else {
			looked[seen] = true
		}
		for _, k := range a.Knobs {
			patches := map[string]Patch{}
			for _, o := range k.Options {
				if patches[o.Value] = o.With; len(k.Taken) > 0 {
					patches[o.Value] = patched(k.Field, []string{o.Value}, nil)
				}
			}
			if k.Quantity != rig.AsWord {
				patches["least"], patches["most"] = patched(k.Field, k.Least, k.With), patched(k.Field, k.Most, k.With)
			} else if len(k.Taken) == 0 && !slices.ContainsFunc(k.Options,
				func(o KnobOption) bool { return o.Value == k.Value }) {
				t.Errorf("%s: %s stands at %q, which is not offered", e.Key, k.Field, k.Value)
			}
			for value, p := range patches {
				again := q
				if again.Plan, err = merged(t, e.Plan, p).Read(); err != nil {
					t.Errorf("%s: %s = %s: %v", e.Key, k.Field, value, err)
					continue
				}
				b, err := Ask(again)
				if err != nil {
					t.Errorf("%s: %s = %s: %v", e.Key, k.Field, value, err)
					continue
				}
				taken++
				if now, ok := knob(b.Knobs, k.Field); k.Quantity == rig.AsWord && len(k.Taken) == 0 &&
					(!ok || now.Value != value) {
					t.Errorf("%s: %s = %s, and it stands at %q", e.Key, k.Field, value, now.Value)
				}
			}
		}
	}
	if taken < 500 {
		t.Errorf("only %d were tried", taken)
	}
}

// What a bag does not know is not offered, and what depends on another choice comes and goes with it.
func TestKnobsByBag(t *testing.T) {
	offered := func(c drill.CombinationDrill, bag rig.Rig, field string) (Knob, bool) {
		t.Helper()
		return knob(must(t, Question{Plan: c, On: floor(bag, trainee.Advanced), Glance: true}).Knobs, field)
	}
	plan := line("1-2")
	for kind, want := range map[rig.Kind]int{rig.Speed: 0, rig.DoubleEnd: 3, rig.Reflex: 3, rig.Hanging: 2,
		rig.Slip: 0} {
		if k, _ := offered(plan, kind.Model().Everyday.Rig, "rhythm"); len(k.Options) != want {
			t.Errorf("%s: %d rhythms", kind, len(k.Options))
		}
	}
	if _, ok := offered(plan, cords, "tempo"); ok {
		t.Error("a goal tempo where the bag sets it")
	}
	free := plan
	free.Landing = drill.Freely
	if _, ok := offered(free, cords, "tempo"); !ok {
		t.Error("no goal tempo where it lands freely")
	}
	if _, ok := offered(free, cords, "clock"); ok {
		t.Error("the bag's clock where no bag times the strikes")
	}
	if _, ok := offered(plan, rig.Slip.Model().Everyday.Rig, "landing"); ok {
		t.Error("strikes at a slip bag may land on its returns")
	}
	for _, k := range drill.Picks(drill.Floor{Bag: cords, NoKicks: true}) {
		if strings.Contains(k.Text, "kick") || k.Text == "jam" {
			t.Errorf("%s is to be picked between cords in a gym without kicks", k.Text)
		}
	}
	if list := drill.Picks(floor(rig.Hanging.Model().Everyday.Rig, trainee.Advanced)); !slices.Contains(list,
		drill.Pick{Text: "stop 1"}) || !slices.Contains(list, drill.Pick{Text: "low kick lead", Strike: true}) {
		t.Errorf("on a heavy bag: %v", list)
	}
}
