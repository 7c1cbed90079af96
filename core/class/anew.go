package class

import (
	"math"
	"slices"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/roster"
	"melodromos/core/session"
)

// Anew plans what is left of a class, from a round of its session on, with those who are here now and the bags that can
// be used now. What was done stays, and counts: whoever had their turns gives way to whoever had none. People and bags
// that are not named any more are gone, and broken, from a moment of the floor's clock on.
func (p Class) Anew(c roster.Roster, from int, at drill.Micros, people, bags []string) (Class, error) {
	before := p.Clone()
	n := planned(c, before.Clone())
	if err := n.bring(people); err != nil {
		return p, err
	}
	if err := n.hang(bags); err != nil {
		return p, err
	}
	for _, x := range before.People { // those who were here and are not any more
		if n.plan.Person(x.ID) == nil {
			if !x.Gone {
				x.Gone, x.Until, x.At = true, from, at
			}
			n.plan.People = append(n.plan.People, x)
		}
	}
	for _, b := range before.Bags {
		if n.plan.Bag(b.ID) == nil {
			if !b.Broken {
				b.Broken, b.Until, b.At = true, from, at
			}
			n.plan.Bags = append(n.plan.Bags, b)
		}
	}
	n.plan.Turns = slices.DeleteFunc(n.plan.Turns, func(t Turn) bool { return t.Round >= from })
	n.plan.Rehangs = slices.DeleteFunc(n.plan.Rehangs, func(r Rehang) bool { return r.Round >= from })
	n.remember()
	// A caution that was set meanwhile holds back what was given before it.
	n.plan.Given = slices.DeleteFunc(n.plan.Given, func(g Given) bool {
		m, b := n.member(g.Person), n.used(g.Bag)
		return m != nil && b != nil && g.Doc.Plan != nil && len(m.Cautions) > 0 &&
			c.Held(m.Member, &roster.Assignment{Bag: g.Bag, Plan: g.Doc.Plan}) != ""
	})
	out, err := n.laid(from)
	if err != nil {
		return p, err
	}
	return out, nil
}

// remember counts what was done before the rounds to come.
func (p *planner) remember() {
	for i := range p.members {
		m := &p.members[i]
		m.had = map[string]int{}
		for _, t := range p.plan.Turns {
			s := t.Seat(m.ID)
			if s == nil || s.Bag == "" {
				m.row = 0
				continue
			}
			m.row++
			m.already++
			m.had[s.Bag]++
		}
	}
}

// resumed is the planner of a plan as it stands, whose rounds from one on are still to come.
func (p Class) resumed(c roster.Roster, from int) planner {
	n := planned(c, p.Clone())
	n.plan.People, n.plan.Bags = slices.Clone(p.People), slices.Clone(p.Bags)
	for _, x := range p.People {
		if m := c.Member(x.ID); m != nil && !x.Gone {
			n.members = append(n.members, member{Member: m, turns: map[string]int{}, had: map[string]int{}})
		}
	}
	for _, b := range p.Bags {
		if hung := c.Bag(b.ID); hung != nil && !b.Broken {
			n.bags = append(n.bags, hung)
		}
	}
	for _, t := range p.Turns {
		if t.Round >= from {
			n.rounds = append(n.rounds, t.Round)
		}
	}
	for i := range n.members {
		m := &n.members[i]
		for _, t := range p.Turns {
			if s := t.Seat(m.ID); s != nil && s.Bag != "" {
				m.turns[s.Bag]++
				if !slices.Contains(m.wants, s.Bag) {
					m.wants = append(m.wants, s.Bag)
				}
			}
		}
	}
	return n
}

// settled counts what an edit has changed, and says it.
func (p *planner) settled() Class {
	p.rehung()
	p.plan.Least = min(p.plan.Least, len(p.plan.Rehangs))
	p.remark()
	return p.plan
}

// Moved puts somebody on a bag in a round that is still to come, or off the bags where none is named. Whoever was on it
// takes their place. What a caution or a bag bars is refused, naming bag.
func (p Class) Moved(c roster.Roster, from, round int, person, bag string) (Class, error) {
	n := p.resumed(c, from)
	t := n.plan.turnOf(round)
	switch {
	case t == nil || round < from:
		return p, input.Refuse("round", "expected a round on the bags that is still to come")
	case t.Seat(person) == nil || n.member(person) == nil:
		return p, input.Refuse("person", "expected somebody of this class who is here")
	case bag != "" && n.used(bag) == nil:
		return p, input.Refuse("bag", "expected a bag of this class")
	}
	mine := t.Seat(person)
	if mine.Bag == bag {
		return p, nil
	}
	left := *mine
	for i := range t.Seats {
		if other := &t.Seats[i]; bag != "" && other.Bag == bag {
			other.Bag, other.Activity = left.Bag, left.Activity
			if err := n.allow(other.Person, other.Bag); err != nil {
				return p, err
			}
		}
	}
	mine.Bag, mine.Activity = bag, ""
	if err := n.allow(person, bag); err != nil {
		return p, err
	}
	if bag == "" {
		mine.Activity = session.Stations(n.member(person).Cautions)[0]
	}
	return n.settled(), nil
}

// member finds somebody who is here; nil for nobody.
func (p *planner) member(id string) *member {
	i := slices.IndexFunc(p.members, func(m member) bool { return m.ID == id })
	if i < 0 {
		return nil
	}
	return &p.members[i]
}

// allow finds what somebody does on a bag that they come onto.
func (p *planner) allow(person, bag string) error {
	m, b := p.member(person), p.used(bag)
	if b == nil || m == nil || p.plan.Of(person, bag) != nil {
		return nil
	}
	g, why, err := p.given(m, b)
	if err != nil {
		return err
	}
	if why != "" {
		return input.Refuse("bag", "%s cannot be on the %s: %s", m.Name, b.Name, why)
	}
	p.plan.Given = append(p.plan.Given, g)
	return nil
}

// Assigned gives somebody another of their drills on its bag, by the id of the assignment. What a caution holds back,
// or is not theirs, is refused, naming assignmentId.
func (p Class) Assigned(c roster.Roster, person, assignment string) (Class, error) {
	m := c.Member(person)
	if m == nil {
		return p, input.Refuse("person", "expected somebody of this class who is here")
	}
	i := slices.IndexFunc(m.Given, func(a roster.Assignment) bool { return a.ID == assignment })
	if i < 0 {
		return p, input.Refuse("assignmentId", "expected one of the drills of %s", m.Name)
	}
	a := &m.Given[i]
	if held := c.Held(m, a); held != "" {
		return p, input.Refuse("assignmentId", "held back: %s", held)
	}
	out := p.Clone()
	g := Given{Person: person, Bag: a.Bag, AssignmentID: a.ID, Rung: a.Rung, Name: a.Name, Why: "The coach chose it.",
		Spared: []string{}, Doc: drill.Doc{Plan: a.Plan}}
	if known := out.Of(person, a.Bag); known != nil {
		*known = g
		return out, nil
	}
	return p, input.Refuse("assignmentId", "expected a drill for a bag that %s is on", m.Name)
}

// hungAt is the height (m) at which a bag hangs by then; NaN where that is not known, or does not matter.
func (p *planner) hungAt(b *roster.Bag) float64 {
	for i := len(p.plan.Rehangs) - 1; i >= 0; i-- {
		if r := p.plan.Rehangs[i]; r.Bag == b.ID && !slices.Contains(p.rounds, r.Round) {
			return r.To
		}
	}
	for i := range p.members {
		if s, ok := p.setUp(&p.members[i], b); ok {
			return s.Now
		}
	}
	return math.NaN()
}
