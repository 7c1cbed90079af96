package roster

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"melodromos/core/drill"
	"melodromos/core/words"
)

// Also is a drill that somebody has beside what they do next.
type Also struct {
	AssignmentID string           `json:"assignmentId"`
	Name         string           `json:"name"`
	TraineeID    string           `json:"traineeId"`
	Trainee      string           `json:"trainee"`
	RigID        string           `json:"rigId"`
	RigName      string           `json:"rigName"`
	Figures      []drill.Labelled `json:"figures"`
	Last         string           `json:"last" doc:"how it went last time, in words"`
	Held         string           `json:"held" doc:"why a caution holds it back; empty where none does"`
}

// Today returns everybody's next drill, whoever was longest away from a bag first and who can
// do nothing last; and what else they have been given.
func (c Roster) Today() ([]Proposal, []Also, error) {
	next, err := c.Everybody()
	if err != nil {
		return nil, nil, err
	}
	slices.SortStableFunc(next, func(a, b Proposal) int {
		return cmp.Or(cmp.Compare(min(1, len(a.Barred)), min(1, len(b.Barred))),
			c.Member(a.TraineeID).last().Compare(c.Member(b.TraineeID).last()))
	})
	taken := map[string]bool{}
	for _, p := range next {
		taken[p.AssignmentID] = true
	}
	also := []Also{}
	for i := range c.Members {
		m := &c.Members[i]
		for k := len(m.Given) - 1; k >= 0; k-- {
			a := &m.Given[k]
			b := c.Bag(a.Bag)
			if taken[a.ID] || b == nil {
				continue
			}
			also = append(also, Also{a.ID, a.Name, m.ID, m.Name, b.ID, b.Name, a.Plan.Figures(), c.lastOf(m, a),
				c.Held(m, a)})
		}
	}
	return next, also, nil
}

// lastOf says how an assignment went last time.
func (c Roster) lastOf(m *Member, a *Assignment) string {
	for i := len(m.Rounds) - 1; i >= 0; i-- {
		r := m.Rounds[i]
		switch {
		case r.Assignment != a.ID:
			continue
		case !r.Counts:
			return "Last round not scored."
		}
		return fmt.Sprintf("Last time %.0f %% clean, %s in a row.", 100*r.Share, words.Number(r.Longest))
	}
	return "Not run yet."
}

// last returns the time of somebody's last round of their own, zero for never.
func (m *Member) last() time.Time {
	for i := len(m.Rounds) - 1; i >= 0; i-- {
		if !m.Rounds[i].InClass {
			return m.Rounds[i].At
		}
	}
	return time.Time{}
}
