package server

import (
	"encoding/json"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/core/input"
)

// DrillDoc is a drill's document: a technique on the speed bag, or a combination on any bag. What the core refused of one that
// came in is kept until it is asked for, so that the refusal names the field.
type DrillDoc struct {
	Plan drill.Plan
	err  error
}

// MarshalJSON writes the core's document.
func (d DrillDoc) MarshalJSON() ([]byte, error) { return json.Marshal(d.Plan) }

// UnmarshalJSON reads it with the core's reader. A document that contradicts itself is still read, so that a preview can say
// what is wrong with it.
func (d *DrillDoc) UnmarshalJSON(doc []byte) error {
	d.Plan, d.err = drill.ReadPlan(input.Parse(doc))
	return nil
}

// read gives the plan, or the refusal.
func (d DrillDoc) read() (drill.Plan, error) {
	if d.Plan == nil && d.err == nil {
		return nil, input.Refuse("", "missing; expected a drill")
	}
	return d.Plan, d.err
}

// Schema describes both kinds in one: every field that one of them has. Which belong together the core tells.
func (DrillDoc) Schema(r huma.Registry) *huma.Schema {
	return merged(r, "DrillDoc", map[string]*huma.Schema{"version": {Type: huma.TypeInteger}, "kind": {Type: huma.TypeString}}, nil, drill.Drill{}, drill.Combination{})
}
