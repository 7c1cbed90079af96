package class

import (
	"encoding/json"
	"fmt"

	"melodromos/core/drill"
	"melodromos/core/input"
)

// Read reads the document of a class and checks it. One that is refused comes back empty.
func Read(doc []byte) (Class, error) {
	var p Class
	if err := json.Unmarshal(doc, &p); err != nil {
		return Class{}, input.Refuse("", "expected the plan of a class (%s)", err)
	}
	if err := p.Check(); err != nil {
		return Class{}, err
	}
	return p, nil
}

// Check refuses a plan that contradicts itself, by field: a round that its session has not, somebody or a bag in it
// who is not of the class, a drill that cannot be read.
func (p Class) Check() error {
	if err := input.Under("session", p.Session.Check()); err != nil {
		return err
	}
	for i, t := range p.Turns {
		field := fmt.Sprintf("turns[%d]", i)
		if t.Round < 0 || t.Round >= len(p.Session.Rounds) {
			return input.Refuse(field+".round", "expected a round of the session, not %d", t.Round)
		}
		for k, s := range t.Seats {
			at := fmt.Sprintf("%s.seats[%d]", field, k)
			switch {
			case p.Person(s.Person) == nil:
				return input.Refuse(at+".person", "expected somebody of the class, not %q", s.Person)
			case s.Bag != "" && p.Bag(s.Bag) == nil:
				return input.Refuse(at+".bag", "expected a bag of the class, not %q", s.Bag)
			case s.Activity != "" && s.Activity.Doing().Key == "":
				return input.Refuse(at+".activity", "expected a known activity, not %q", s.Activity)
			}
		}
	}
	for i, g := range p.Given {
		if g.Doc.Empty() {
			continue
		}
		if _, err := g.Doc.Read(); err != nil {
			return input.Under(fmt.Sprintf("given[%d]", i), err)
		}
	}
	return nil
}

// Mended reads the document of a class in which a drill cannot be read, and takes that drill out: whoever was to do it
// has none there. False where nothing was to be mended, or it cannot be read even so.
func Mended(doc []byte) (Class, bool) {
	var p Class
	if json.Unmarshal(doc, &p) != nil {
		return Class{}, false
	}
	mended := false
	for i := range p.Given {
		if _, err := p.Given[i].Doc.Read(); err != nil && !p.Given[i].Doc.Empty() {
			p.Given[i].Doc, p.Given[i].AssignmentID = drill.Doc{}, ""
			mended = true
		}
	}
	return p, mended && p.Check() == nil
}
