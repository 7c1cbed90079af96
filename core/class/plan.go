package class

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"melodromos/core/caution"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/roster"
	"melodromos/core/session"
	"melodromos/core/words"
)

// New plans a class: everybody who may train on the bag that they go on with first and most, then on the others, with
// the drill that the ladder proposes there; whoever has no bag in a round has something to do off it. The same class
// gives the same plan. Nobody, nobody who may train, and a bag that does not hang are refused.
func New(c roster.Roster, ask Ask) (Class, error) {
	frame := session.Class(ask.Minutes, session.ContestRound, "")
	if ask.Session != nil {
		frame = ask.Session.Clone()
	} else if ask.Minutes < ShortestClass || ask.Minutes > LongestClass {
		return Class{}, input.Refuse("minutes", "expected %d to %d minutes, not %d", ShortestClass, LongestClass,
			ask.Minutes)
	}
	p := planned(c, Class{Session: frame, Given: []Given{}, Turns: []Turn{}, Rehangs: []Rehang{}})
	if err := p.bring(ask.People); err != nil {
		return Class{}, err
	}
	if err := p.hang(ask.Bags); err != nil {
		return Class{}, err
	}
	if ask.Session == nil && !slices.ContainsFunc(p.members, func(m member) bool { return !m.Age.Minor() }) {
		// Rounds of two minutes for the young (common practice).
		p.plan.Session = session.Class(ask.Minutes, 120, "")
	}
	if ask.Session == nil {
		p.plan.Session.Name = c.Now.In(zone(c)).Weekday().String() + " class"
	}
	return p.laid(0)
}

func zone(c roster.Roster) *time.Location {
	if c.Zone == nil {
		return time.UTC
	}
	return c.Zone
}

// planner plans a class.
type planner struct {
	roster.Roster
	plan    Class
	members []member
	bags    []*roster.Bag           // that are used
	rounds  []int                   // of the session, that are on the bags and still to come
	own     bool                    // everybody does their own drill
	heights map[[2]string]rig.SetUp // by person and bag, as far as they were asked for
}

// planned is the planner of a plan without people and bags.
func planned(c roster.Roster, p Class) planner {
	p.People, p.Bags, p.Said, p.Notices = []Person{}, []Station{}, []string{}, nil
	return planner{Roster: c, plan: p, heights: map[[2]string]rig.SetUp{},
		own: slices.ContainsFunc(p.Session.Rounds, session.Round.OwnDrills)}
}

// bring adds those who are here. Who must not train is named and left out.
func (p *planner) bring(ids []string) error {
	if len(ids) == 0 {
		return input.Refuse("people", "expected somebody: press the names of those who are here")
	}
	if len(ids) > MostPeople {
		return input.Refuse("people", "expected at most %d people, not %d", MostPeople, len(ids))
	}
	for _, id := range ids {
		m := p.Member(id)
		if m == nil {
			return input.Refuse("people", "expected people of this gym")
		}
		if why := caution.Bars(m.Cautions); why != "" {
			p.tell(DoesNotTrain, m.ID, m.Name, why)
			continue
		}
		if slices.ContainsFunc(p.members, func(o member) bool { return o.ID == id }) {
			continue
		}
		p.members = append(p.members, member{Member: m, turns: map[string]int{}, had: map[string]int{}})
	}
	if len(p.members) == 0 {
		return input.Refuse("people", "expected somebody who may train. %s", strings.Join(p.plan.Told().Said, " "))
	}
	slices.SortStableFunc(p.members, func(a, b member) int { return cmp.Compare(a.Name, b.Name) })
	for _, m := range p.members {
		p.plan.People = append(p.plan.People, Person{ID: m.ID, Name: m.Name, Young: m.Age.Minor()})
	}
	return nil
}

// hang adds the bags that are used, those of the session's kind alone where it has one.
func (p *planner) hang(ids []string) error {
	for i := range p.Bags {
		b := &p.Bags[i]
		if len(ids) > 0 && !slices.Contains(ids, b.ID) {
			continue
		}
		if kind := p.plan.Session.Bag; kind != "" && b.Kind() != kind {
			continue
		}
		p.bags = append(p.bags, b)
		p.plan.Bags = append(p.plan.Bags, Station{ID: b.ID, Name: b.Name, Kind: b.Kind()})
	}
	for _, id := range ids {
		if p.Bag(id) == nil {
			return input.Refuse("bags", "expected bags that hang in this gym")
		}
	}
	if len(p.bags) == 0 && p.plan.Session.Bag != "" {
		return input.Refuse("bags", "expected a %s: this session is for one", p.plan.Session.Bag.Model().Name)
	}
	if len(p.bags) == 0 {
		return input.Refuse("bags", "expected a bag")
	}
	return nil
}

// laid lays out the rounds from one on: what each wants, how often they get it, in which order, and what they do there.
func (p *planner) laid(from int) (Class, error) {
	for i, r := range p.plan.Session.Rounds {
		if i >= from && r.OnBags() {
			p.rounds = append(p.rounds, i)
		}
	}
	if err := p.wish(); err != nil {
		return Class{}, err
	}
	for again := true; again; { // until nothing is given that a caution or a bag bars
		p.share()
		if err := p.rotate(); err != nil {
			return Class{}, err
		}
		var err error
		if again, err = p.give(); err != nil {
			return Class{}, err
		}
	}
	p.fill()
	p.remark()
	return p.plan, nil
}

// give says what each does on the bags that they are on. Whoever may not do it there, or whose bag does not allow it as
// it hangs, is taken off that bag, and true asks for the turns to be shared anew.
func (p *planner) give() (again bool, err error) {
	for i := range p.members {
		m := &p.members[i]
		for _, b := range p.bags {
			if m.turns[b.ID] == 0 || p.plan.Of(m.ID, b.ID) != nil {
				continue
			}
			g, why, err := p.given(m, b)
			if err != nil {
				return false, err
			}
			if why == "" {
				p.plan.Given = append(p.plan.Given, g)
				continue
			}
			m.wants = slices.DeleteFunc(m.wants, func(id string) bool { return id == b.ID })
			p.tell(NotOnBag, m.ID, m.Name, b.Name, why)
			again = true
		}
	}
	return again, nil
}

// given returns what somebody does on a bag, or why they do nothing there.
func (p *planner) given(m *member, b *roster.Bag) (Given, string, error) {
	out := Given{Person: m.ID, Bag: b.ID, Spared: []string{}}
	if !p.own {
		return p.same(out, m, b)
	}
	next := m.next
	if next.RigID != b.ID || next.Barred != "" {
		var err error
		if next, err = p.OnBag(m.Member, b); err != nil {
			return out, "", err
		}
	}
	if next.Barred != "" {
		return out, next.Barred, nil
	}
	out.AssignmentID, out.Rung, out.Name, out.Why = next.AssignmentID, next.Rung, next.DrillName(), next.Why
	out.Spared, out.Clean, out.Eased = next.Spared, next.Clean, next.Eased
	out.Doc.Plan = next.Plan()
	return out, "", nil
}

// same returns what somebody does in a session whose blocks are the same for everybody: held back where a caution holds
// back one of them, or the bag does not allow it.
func (p *planner) same(out Given, m *member, b *roster.Bag) (Given, string, error) {
	out.Name, out.Why = p.plan.Session.Name, "The same for everybody."
	for _, r := range p.plan.Session.Rounds {
		for _, block := range r.Blocks {
			plan, err := block.Plan(b.Kind())
			if plan == nil && err == nil {
				continue
			}
			if err == nil {
				fitted := p.Fitted(m.Member, b, plan)
				if !fitted.Given {
					return out, words.Lower(strings.TrimSuffix(fitted.Why, ".")), nil
				}
				if fitted.Why != "" && !slices.Contains(out.Spared, fitted.Why) {
					out.Spared = append(out.Spared, fitted.Why)
				}
				continue
			}
			return out, refusal(err), nil
		}
	}
	return out, "", nil
}

// fill gives whoever has no bag in a round something to do: easy after hard, not the same twice running.
func (p *planner) fill() {
	for i := range p.members {
		list := session.Stations(p.members[i].Cautions)
		n := i // neighbours do different things
		for _, r := range p.rounds {
			if seat := p.plan.turnOf(r).Seat(p.members[i].ID); seat != nil && seat.Bag == "" {
				seat.Activity = list[n%len(list)]
				n++
			}
		}
	}
}
