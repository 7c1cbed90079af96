package roster

import (
	"errors"
	"strings"

	"melodromos/core/caution"
	"melodromos/core/drill"
	"melodromos/core/input"
)

// Fitted is a drill solved for a person on a bag.
type Fitted struct {
	Given    bool           // it can be done there, and nothing holds it back
	Settings drill.Settings // force, tempo and pull
	Why      string         // why it cannot be, or what a caution makes of it; "" where there is nothing to say
}

// Fitted solves a drill for somebody on a bag that hangs: force, tempo and pull by what they can do. What the bag does
// not allow as it hangs, and what a caution holds back, is not given.
func (c Roster) Fitted(m *Member, b *Bag, p drill.Plan) Fitted {
	on := c.Floor(m, b)
	p, err := drill.InStance(p, m.Stance).For(on)
	if err == nil {
		_, err = p.Lay(on)
	}
	var refusal *input.Error
	if errors.As(err, &refusal) {
		return Fitted{Why: "Not on " + b.Name + " as it hangs: " + refusal.Reason + "."}
	}
	if err != nil {
		return Fitted{Why: "Not on " + b.Name + ": it could not be worked out."}
	}
	spared := caution.Spare(m.Cautions, p, on)
	if spared.Held != "" {
		return Fitted{Why: "Held back: " + spared.Held + "."}
	}
	_, s := drill.Open(p)
	f := Fitted{Given: true, Settings: s}
	if len(spared.Changes) > 0 {
		f.Why = "As long as the caution stands: " + strings.Join(spared.Changes, "; ") + "."
	}
	return f
}
