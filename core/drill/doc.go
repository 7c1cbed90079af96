package drill

import (
	"encoding/json"

	"melodromos/core/input"
)

// Doc is a drill as a document, to be sent and read. What was refused of one that came in is kept until it is asked
// for, so that the refusal names the field.
type Doc struct {
	Plan Plan
	err  error
}

// MarshalJSON writes the plan's document; null where there is none.
func (d Doc) MarshalJSON() ([]byte, error) { return json.Marshal(d.Plan) }

// UnmarshalJSON reads it; null is no document. It never fails: Read tells.
func (d *Doc) UnmarshalJSON(doc []byte) error {
	*d = Doc{}
	if string(doc) != "null" {
		d.Plan, d.err = ReadPlan(input.Parse(doc))
	}
	return nil
}

// Empty says whether there is no document, not even one that was refused.
func (d Doc) Empty() bool { return d.Plan == nil && d.err == nil }

// Read gives the plan, or its refusal under doc.
func (d Doc) Read() (Plan, error) {
	if d.Empty() {
		return nil, input.Refuse("doc", "missing; expected a drill")
	}
	return d.Plan, input.Under("doc", d.err)
}

// NeverFilled says whether a document is that of a drill into which nothing was ever put: a speed bag's, without a
// technique or a hand.
func NeverFilled(doc []byte) bool {
	var d struct {
		Technique, FirstHand, Text *string
		Rebounds                   float64
	}
	return json.Unmarshal(doc, &d) == nil && d.Text == nil && d.Technique != nil && *d.Technique == "" &&
		d.FirstHand != nil && *d.FirstHand == "" && d.Rebounds == 0
}

// Documents gives for each kind of drill, as its documents name it, the empty one that describes it.
func Documents() map[string]Plan {
	return map[string]Plan{speedBagKind: SpeedBagDrill{}, combinationKind: CombinationDrill{}}
}
