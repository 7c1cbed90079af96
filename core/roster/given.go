package roster

import (
	"slices"

	"melodromos/core/caution"
	"melodromos/core/ladder"
	"melodromos/core/run"
)

// givenByHand is the newest drill that a coach gave somebody as they have set it and that was not run yet; nil where
// there is none, or it is held back.
func (c Roster) givenByHand(m *Member) *Assignment {
	for i := len(m.Given) - 1; i >= 0; i-- {
		a := &m.Given[i]
		if !a.Own || c.Bag(a.Bag) == nil || slices.ContainsFunc(m.Rounds,
			func(r run.PastRound) bool { return r.Assignment == a.ID }) {
			continue
		}
		if c.Held(m, a) == "" {
			return a
		}
	}
	return nil
}

// proposeGiven proposes a drill that a coach gave.
func (c Roster) proposeGiven(m *Member, a *Assignment) (Proposal, error) {
	b := c.Bag(a.Bag)
	out := c.begin(m, b)
	out.AssignmentID, out.Name, out.Move, out.Target = a.ID, a.Name, ladder.Given, ladder.Target(0)
	out.Why = "Not run yet."
	on := c.Floor(m, b)
	career := c.career(m, b.Kind(), on)
	out.Standing, out.Of = career.Standing(), len(career.Rungs)
	out.Index = min(out.Standing, out.Of-1)
	out, err := c.lay(m, out, a.Plan, on)
	out.AssignmentID = a.ID
	return out, err
}

// Held says why a drill is held back from whoever has it; "" where it is not, or its bag does not hang.
func (c Roster) Held(m *Member, a *Assignment) string {
	b := c.Bag(a.Bag)
	if b == nil || len(m.Cautions) == 0 {
		return ""
	}
	return caution.Spare(m.Cautions, a.Plan, c.Floor(m, b)).Held
}
