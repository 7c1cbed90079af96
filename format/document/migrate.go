package document

import (
	"bytes"
	"encoding/json"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
)

// newer refuses a document by its version where a newer release has written it.
func newer(piece json.RawMessage) error {
	var version float64
	if json.Unmarshal(piece, &version) == nil && version > Version {
		return input.Refuse("version",
			"it was written by a newer release, in version %g; this one reads up to %d: bring this one up to date",
			version, Version)
	}
	return nil
}

// wrapped puts a document of version 1 into one that says what it holds, under the name that it gives itself. Those are
// the bare documents of the calculator, which say neither what they hold nor in which version: a rig, or a drill with
// or without the rig that it is for.
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
	var current bytes.Buffer
	err := Write(&current, out)
	return current.Bytes(), err
}

func short(name string) string {
	if r := []rune(name); len(r) > input.MostName {
		return string(r[:input.MostName-1]) + "…"
	}
	return name
}
