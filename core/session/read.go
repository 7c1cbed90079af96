package session

import (
	"bytes"
	"encoding/json"
	"errors"
	"io"
	"slices"

	"melodromos/core/input"
)

// Read reads a session's document and checks it. A session that is refused comes back empty.
func Read(doc []byte) (Session, error) {
	s, err := decoded[Session](doc)
	if err == nil {
		err = s.Check()
	}
	if err != nil {
		return Session{}, err
	}
	return s, nil
}

// ReadDeeds reads the list of what was done to a session on the floor. An unknown deed, one without an id and a moment
// before the beginning are refused.
func ReadDeeds(doc []byte) ([]Done, error) {
	list, err := decoded[[]Done](doc)
	if err != nil {
		return nil, err
	}
	for _, d := range list {
		if d.ID == "" || d.At < 0 || !known(d.Deed) {
			return nil, input.Refuse("deeds", "expected deeds with an id and a moment, not %q at %d µs", d.Deed, d.At)
		}
	}
	return list, nil
}

func known(d Deed) bool { return slices.Contains(d.Values(), d) }

// decoded reads one JSON value and nothing after it.
func decoded[T any](doc []byte) (T, error) {
	var out, none T
	in := json.NewDecoder(bytes.NewReader(doc))
	if err := in.Decode(&out); err != nil {
		return none, input.Refuse("", "expected a document of another shape (%s)", err)
	}
	if _, err := in.Token(); !errors.Is(err, io.EOF) {
		return none, input.Refuse("", "expected one document and nothing after it")
	}
	return out, nil
}

// Renamed is a session with another text in place of each that a coach has written: its name, its note and what its
// rounds are for. Combinations and drills stay.
func (s Session) Renamed(to func(string) string) Session {
	s = s.Clone()
	s.Name, s.Note = to(s.Name), to(s.Note)
	for i := range s.Rounds {
		s.Rounds[i].Emphasis = to(s.Rounds[i].Emphasis)
	}
	return s
}
