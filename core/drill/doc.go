package drill

import (
	"encoding/json"

	"melodromos/core/input"
)

// Doc is a drill as a document, to be sent and read. What was refused of one that came in is kept until it is asked
// for, so that the refusal names the field, and a document that contradicts itself can still be looked at.
type Doc struct {
	Plan Plan
	err  error
}

// MarshalJSON writes the plan's document; null where there is none.
func (d Doc) MarshalJSON() ([]byte, error) { return json.Marshal(d.Plan) }

// UnmarshalJSON reads it. It never fails: Read tells.
func (d *Doc) UnmarshalJSON(doc []byte) error {
	d.Plan, d.err = ReadPlan(input.Parse(doc))
	return nil
}

// Read gives the plan, or its refusal under doc.
func (d Doc) Read() (Plan, error) {
	if d.Plan == nil && d.err == nil {
		return nil, input.Refuse("doc", "missing; expected a drill")
	}
	return d.Plan, input.Under("doc", d.err)
}

// Documents gives for each kind of drill, as its documents name it, the empty one that describes it.
func Documents() map[string]Plan {
	return map[string]Plan{speedBagKind: SpeedBagDrill{}, combinationKind: Combination{}}
}
