package document

import (
	"encoding/json"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
)

// migrated brings a document up to the version that is read here.
//
// Version 1 is the bare documents of the calculator, which say neither what they hold nor in which version: a rig, or a
// drill with or without the rig that it is for.
func migrated(data []byte) ([]byte, error) {
	var fields map[string]json.RawMessage
	if err := json.Unmarshal(data, &fields); err != nil || fields == nil {
		return data, nil // read says what is wrong with it
	}
	if _, says := fields["melodromos"]; says {
		var of struct{ Version json.RawMessage }
		var version float64
		if json.Unmarshal(data, &of) == nil && json.Unmarshal(of.Version, &version) == nil && version > Version {
			return nil, input.Refuse("version",
				"it was written by a newer release, in version %g; this one reads up to %d: bring this one up to date first",
				version, Version)
		}
		return data, nil
	}
	return wrapped(data, fields)
}

// wrapped puts a bare document into one that says what it holds, under the name that it gives itself.
func wrapped(data []byte, fields map[string]json.RawMessage) ([]byte, error) {
	var out File
	_, text := fields["text"]
	_, technique := fields["technique"]
	switch {
	case text || technique:
		kind := rig.Hanging
		if technique {
			kind = rig.Speed
		}
		if on, there := fields["rig"]; there {
			bag, err := rig.Read(input.Parse(on))
			if err != nil {
				return nil, input.Under("rig", err)
			}
			kind = bag.Kind()
		}
		for _, beside := range []string{"rig", "band", "seed"} {
			delete(fields, beside)
		}
		bare, err := json.Marshal(fields)
		if err != nil {
			return nil, err
		}
		plan, err := drill.ReadPlan(input.Parse(bare))
		if err != nil {
			return nil, err
		}
		out = File{Holds: OfDrill, Drill: &Drill{Name: short(plan.Name()), Kind: kind, Doc: drill.Doc{Plan: plan}}}
	case fields["kind"] != nil:
		bag, err := rig.Read(input.Parse(data))
		if err != nil {
			return nil, err
		}
		out = File{Holds: OfBag, Bag: &Bag{Name: bag.Kind().Model().Name, Doc: rig.Doc{Rig: bag}}}
	default:
		return nil, input.Refuse("melodromos", "missing; expected what the document holds: bag, drill, session or gym")
	}
	return Write(out)
}

func short(name string) string {
	if r := []rune(name); len(r) > input.MostName {
		return string(r[:input.MostName-1]) + "…"
	}
	return name
}
