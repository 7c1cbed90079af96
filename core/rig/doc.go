package rig

import (
	"encoding/json"

	"melodromos/core/input"
)

// Doc is a rig as a document, to be sent and read. What was refused of one that came in is kept until it is asked for,
// so that the refusal names the field.
type Doc struct {
	Rig Rig
	err error
}

// MarshalJSON writes the rig's document; null where there is none.
func (d Doc) MarshalJSON() ([]byte, error) { return json.Marshal(d.Rig) }

// UnmarshalJSON reads it. It never fails: Read tells.
func (d *Doc) UnmarshalJSON(doc []byte) error {
	d.Rig, d.err = Read(input.Parse(doc))
	return nil
}

// Read gives the rig, or its refusal.
func (d Doc) Read() (Rig, error) {
	if d.Rig == nil && d.err == nil {
		return nil, input.Refuse("", "missing; expected a rig")
	}
	return d.Rig, d.err
}

// PlaceDoc is a place as a document, to be sent and read.
type PlaceDoc struct {
	Place
	err error
}

// MarshalJSON writes the place's document.
func (d PlaceDoc) MarshalJSON() ([]byte, error) { return json.Marshal(d.Place) }

// UnmarshalJSON reads it. It never fails: Read tells.
func (d *PlaceDoc) UnmarshalJSON(doc []byte) error {
	d.Place, d.err = ReadPlace(input.Parse(doc))
	return nil
}

// Read gives the place, or its refusal.
func (d PlaceDoc) Read() (Place, error) { return d.Place, d.err }
