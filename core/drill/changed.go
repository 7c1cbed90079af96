package drill

import (
	"melodromos/core/input"
	"melodromos/core/rig"
)

// Scope says for whom a drill is changed that others have as well.
type Scope string

// For all of them, or as a copy for one; nothing said is enough where nobody else has it.
const (
	Unsaid  Scope = ""
	ForAll  Scope = "all"
	AsACopy Scope = "copy"
)

// Values lists them.
func (Scope) Values() []Scope { return []Scope{Unsaid, ForAll, AsACopy} }

// Named is a drill of a gym: what is done on a kind of bag, by a name; "" for its own words.
type Named struct {
	Name string
	Kind rig.Kind
	Plan Plan
}

// Becomes tells how a changed assignment affects its drill.
type Becomes struct {
	Settings Settings // of the assignment
	Kept     bool     // the drill stays as it is
	// it becomes another drill, for this assignment alone; else it is changed for everybody who has it
	Copied bool
}

// Changed says what becomes of a drill that so many assignments have when one of them is set to another plan. What
// belongs to a person or a bag is set on the assignment alone. A drill for another kind of bag is another drill. Where
// others have the drill and nobody said for whom it is changed, that is refused, naming scope.
func Changed(was, is Named, holders int, scope Scope) (Becomes, error) {
	settings, same := Between(was.Plan, is.Plan)
	if same && was.Kind == is.Kind && (is.Name == "" || is.Name == was.Name) {
		return Becomes{Settings: settings, Kept: true}, nil
	}
	c := Becomes{Copied: scope == AsACopy || was.Kind != is.Kind}
	_, c.Settings = Open(is.Plan)
	if holders > 1 && scope == Unsaid && !c.Copied {
		return c, input.Refuse("scope",
			"expected whom the change is for: %d have this drill, and it can be changed for all of them or as a copy for one", holders)
	}
	return c, nil
}
