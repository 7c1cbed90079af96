package hour

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"melodromos/core/caution"
	"melodromos/core/class"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/rotation"
	"melodromos/core/session"
	"melodromos/core/words"
)

// New plans a class: everybody who may train on the bag that they go on with first and most, then on the others, with
// the drill that the ladder proposes there; whoever has no bag in a round has something to do off it. The same class
// gives the same plan. Nobody, nobody who may train, and a bag that does not hang are refused.
func New(c class.Class, ask Ask) (Plan, error) {
	frame := session.Hour(ask.Minutes, session.ContestRound, "")
	if ask.Session != nil {
		frame = ask.Session.Clone()
	} else if ask.Minutes < LeastHour || ask.Minutes > MostHour {
		return Plan{}, input.Refuse("minutes", "expected %d to %d minutes, not %d", LeastHour, MostHour, ask.Minutes)
	}
	p := planned(c, Plan{Session: frame, Given: []Given{}, Turns: []Turn{}, Rehangs: []Rehang{}})
	if err := p.bring(ask.People); err != nil {
		return Plan{}, err
	}
	if err := p.hang(ask.Bags); err != nil {
		return Plan{}, err
	}
	if ask.Session == nil && !slices.ContainsFunc(p.members, func(m member) bool { return !m.Age.Minor() }) {
		// Rounds of two minutes for the young (common practice).
		p.plan.Session = session.Hour(ask.Minutes, 120, "")
	}
	if ask.Session == nil {
		p.plan.Session.Name = c.Now.In(zone(c)).Weekday().String() + " class"
	}
	return p.laid(0)
}

func zone(c class.Class) *time.Location {
	if c.Zone == nil {
		return time.UTC
	}
	return c.Zone
}

// planner plans a class.
type planner struct {
	class.Class
	plan    Plan
	members []member
	bags    []*class.Bag            // that are used
	rounds  []int                   // of the session, that are on the bags and still to come
	own     bool                    // everybody does their own drill
	heights map[[2]string]rig.SetUp // by person and bag, as far as they were asked for
}

// planned is the planner of a plan without people and bags.
func planned(c class.Class, p Plan) planner {
	p.People, p.Bags, p.Said = []Person{}, []Station{}, []string{}
	return planner{Class: c, plan: p, heights: map[[2]string]rig.SetUp{},
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
			p.plan.Said = append(p.plan.Said, fmt.Sprintf("%s does not train: %s.", m.Name, why))
			continue
		}
		if slices.ContainsFunc(p.members, func(o member) bool { return o.ID == id }) {
			continue
		}
		p.members = append(p.members, member{Member: m, turns: map[string]int{}, had: map[string]int{}})
	}
	if len(p.members) == 0 {
		return input.Refuse("people", "expected somebody who may train. %s", strings.Join(p.plan.Said, " "))
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
func (p *planner) laid(from int) (Plan, error) {
	for i, r := range p.plan.Session.Rounds {
		if i >= from && r.Kind == session.Work && r.OnBags() {
			p.rounds = append(p.rounds, i)
		}
	}
	if err := p.wish(); err != nil {
		return Plan{}, err
	}
	for again := true; again; { // until nothing is given that a caution or a bag bars
		p.share()
		if err := p.rotate(); err != nil {
			return Plan{}, err
		}
		var err error
		if again, err = p.give(); err != nil {
			return Plan{}, err
		}
	}
	p.fill()
	p.say()
	return p.plan, nil
}

// wish lists the bags that each should get: of each kind one, that which hangs nearest to their height with the load
// shared, the kind that they go on with first.
func (p *planner) wish() error {
	load := map[string]int{}
	for i := range p.members {
		m := &p.members[i]
		next, found, err := p.Next(m.Member)
		if err != nil {
			return err
		}
		m.next = next
		var kinds []rig.Kind
		if found && next.Barred == "" {
			kinds = append(kinds, next.Kind)
		}
		for _, b := range p.bags {
			if !slices.Contains(kinds, b.Kind()) {
				kinds = append(kinds, b.Kind())
			}
		}
		for _, kind := range kinds {
			b := p.nearest(m, kind, load)
			if b == nil {
				continue
			}
			if found && next.RigID != b.ID && next.Kind == kind && next.AssignmentID != "" {
				if own := p.used(next.RigID); own != nil {
					b = own // they have their drill on that one
				}
			}
			load[b.ID]++
			m.wants = append(m.wants, b.ID)
		}
	}
	return nil
}

func (p *planner) used(id string) *class.Bag {
	i := slices.IndexFunc(p.bags, func(b *class.Bag) bool { return b.ID == id })
	if i < 0 {
		return nil
	}
	return p.bags[i]
}

// awayFor is how much further (m) a bag may hang from somebody's height than another for each one more who is on it.
// Assumed.
const awayFor = 0.05

func (p *planner) nearest(m *member, kind rig.Kind, load map[string]int) *class.Bag {
	var best *class.Bag
	least := math.Inf(1)
	for _, b := range p.bags {
		if b.Kind() != kind {
			continue
		}
		cost := awayFor * float64(load[b.ID])
		if s, ok := p.setUp(m, b); ok {
			cost += math.Abs(s.Move)
		}
		if cost < least {
			best, least = b, cost
		}
	}
	return best
}

// setUp is how a bag hangs for somebody; false where it hangs the same for everybody, or nobody knows. A straight
// hanging bag and a heavy ball are not hung anew within a class: tape marks tell the heights (common practice).
func (p *planner) setUp(m *member, b *class.Bag) (rig.SetUp, bool) {
	if b.Kind() == rig.Hanging {
		return rig.SetUp{}, false
	}
	at := [2]string{m.ID, b.ID}
	s, known := p.heights[at]
	if !known {
		s = b.Rig.SetUp(b.Place, m.Body, soft)
		p.heights[at] = s
	}
	return s, s.Needs == "" && s.Point != ""
}

// soft (m/s) is a launch to ask for a set-up with: heights do not depend on it.
const soft = 1

// share says how often each gets which bag: each in turn what they want most and have least of, their own bag twice as
// often as the others, as long as bag and person have rounds left.
func (p *planner) share() {
	left := map[string]int{}
	for _, b := range p.bags {
		left[b.ID] = len(p.rounds)
	}
	mine := make([]int, len(p.members))
	for i := range p.members {
		m := &p.members[i]
		clear(m.turns)
		row, most := p.most(m)
		n := len(p.rounds)
		if mine[i] = min(n, max(0, most-m.already)); row > 0 {
			mine[i] = min(mine[i], n-(n+m.row)/(row+1))
		}
	}
	for gave := true; gave; {
		gave = false
		for _, i := range p.order(mine) {
			m := &p.members[i]
			if mine[i] == 0 {
				continue
			}
			best, least := "", math.Inf(1)
			for k, id := range m.wants {
				if left[id] == 0 {
					continue
				}
				has := float64(m.turns[id] + m.had[id])
				if k == 0 {
					has /= 2
				}
				if has < least {
					best, least = id, has
				}
			}
			if best == "" {
				continue
			}
			m.turns[best]++
			left[best]--
			mine[i]--
			gave = true
		}
	}
}

// order is who is next to be given a turn: those with the fewest first, in the order of their names.
func (p *planner) order(mine []int) []int {
	list := make([]int, len(p.members))
	for i := range list {
		list[i] = i
	}
	had := func(i int) int {
		n := p.members[i].already
		for _, v := range p.members[i].turns {
			n += v
		}
		return n
	}
	slices.SortStableFunc(list, func(a, b int) int { return cmp.Compare(had(a), had(b)) })
	fewest := math.MaxInt
	for _, i := range list {
		if mine[i] > 0 {
			fewest = min(fewest, had(i))
		}
	}
	return slices.DeleteFunc(list, func(i int) bool { return had(i) > fewest })
}

// rotate lays the turns out over the rounds.
func (p *planner) rotate() error {
	c := p.table()
	laid, err := rotation.Solve(c)
	if err != nil {
		return fmt.Errorf("lay out a class: %w", err)
	}
	p.plan.Turns = slices.DeleteFunc(slices.Clone(p.plan.Turns),
		func(t Turn) bool { return slices.Contains(p.rounds, t.Round) })
	for k, r := range p.rounds {
		t := Turn{Round: r, Seats: []Seat{}}
		for i, m := range p.members {
			seat := Seat{Person: m.ID}
			if b := slices.Index(laid.On[k], i); b >= 0 {
				seat.Bag = p.bags[b].ID
			}
			t.Seats = append(t.Seats, seat)
		}
		p.plan.Turns = append(p.plan.Turns, t)
	}
	p.plan.Least = laid.Least
	p.rehung()
	naive := c.Changes(p.byName(c))
	p.plan.Saved = max(0, len(naive)-len(laid.Changes))
	return nil
}

// table is the class as the rotation has it.
func (p *planner) table() rotation.Class {
	c := rotation.Class{Rounds: len(p.rounds)}
	for i := range p.members {
		m := &p.members[i]
		row, _ := p.most(m)
		c.InARow, c.Before = append(c.InARow, row), append(c.Before, m.row)
		turns, spans := make([]int, len(p.bags)), make([]rotation.Span, len(p.bags))
		for k, b := range p.bags {
			turns[k], spans[k] = m.turns[b.ID], rotation.Any
			if s, ok := p.setUp(m, b); ok {
				spans[k] = rotation.Span{Low: s.Low, High: s.High}
			}
		}
		c.Turns, c.Spans = append(c.Turns, turns), append(c.Spans, spans)
	}
	for _, b := range p.bags {
		c.Hung = append(c.Hung, p.hungAt(b))
	}
	return c
}

// rehung lists what is hung anew, and for whom, in all the rounds to come.
func (p *planner) rehung() {
	p.plan.Rehangs = slices.DeleteFunc(p.plan.Rehangs,
		func(r Rehang) bool { return slices.Contains(p.rounds, r.Round) })
	c := p.table()
	on := make([][]int, len(p.rounds))
	for k, r := range p.rounds {
		on[k] = slices.Repeat([]int{rotation.Nobody}, len(p.bags))
		for i, m := range p.members {
			if seat := p.plan.turnOf(r).Seat(m.ID); seat != nil && seat.Bag != "" {
				on[k][slices.IndexFunc(p.bags, func(b *class.Bag) bool { return b.ID == seat.Bag })] = i
			}
		}
	}
	for _, change := range c.Changes(on) {
		b := p.bags[change.Bag]
		m := &p.members[on[change.Before][change.Bag]]
		s, _ := p.setUp(m, b)
		p.plan.Rehangs = append(p.plan.Rehangs, Rehang{Round: p.rounds[change.Before], Bag: b.ID, To: change.To,
			Point: s.Point, For: m.Name})
	}
}

// byName is the plan of somebody who does not think of heights: each bag takes whoever is next by name and free.
func (p *planner) byName(c rotation.Class) [][]int {
	left := make([][]int, len(c.Turns))
	for i, row := range c.Turns {
		left[i] = slices.Clone(row)
	}
	on := make([][]int, c.Rounds)
	at := make([]int, len(p.bags))
	for r := range on {
		on[r] = slices.Repeat([]int{rotation.Nobody}, len(p.bags))
		for b := range on[r] {
			for range p.members {
				i := at[b] % len(p.members)
				at[b]++
				if left[i][b] > 0 && !slices.Contains(on[r][:b], i) {
					on[r][b] = i
					left[i][b]--
					break
				}
			}
		}
	}
	return on
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
			p.plan.Said = append(p.plan.Said, fmt.Sprintf("%s is not on the %s: %s.", m.Name, b.Name, why))
			again = true
		}
	}
	return again, nil
}

// given is what somebody does on a bag, or why they do nothing there.
func (p *planner) given(m *member, b *class.Bag) (Given, string, error) {
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

// same is what somebody does in a session whose blocks are the same for everybody: held back where a caution holds back
// one of them, or the bag does not allow it.
func (p *planner) same(out Given, m *member, b *class.Bag) (Given, string, error) {
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
