package class

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"melodromos/core/input"
	"melodromos/core/words"
)

// What is said of one person, their name first among what is filled in: Without takes these lines out again.
const (
	noBag        = "%s gets no bag: there are too few rounds."
	noHeight     = "No height is known of %s: hang the bags by eye."
	doesNotTrain = "%s does not train: %s."
	notOnBag     = "%s is not on the %s: %s."
)

func refusal(err error) string {
	var refused *input.Error
	if errors.As(err, &refused) {
		return refused.Reason
	}
	return "it could not be worked out"
}

// say puts a plan into words.
func (p *planner) say() {
	turns := map[string]int{}
	least, most := len(p.plan.Turns), 0
	for _, m := range p.members {
		n := 0
		for _, t := range p.plan.Turns {
			if s := t.Seat(m.ID); s != nil && s.Bag != "" {
				n++
			}
		}
		turns[m.ID] = n
		least, most = min(least, n), max(most, n)
	}
	each := words.Count(least, "round")
	if most > least {
		each = fmt.Sprintf("%d or %d rounds", least, most)
		if most > least+1 {
			each = fmt.Sprintf("%d to %d rounds", least, most)
		}
	}
	changes := "No bag changes its height."
	if n := len(p.plan.Rehangs); n > 0 {
		changes = words.Count(n, "change") + " of height"
		if p.plan.Saved > 0 {
			changes += fmt.Sprintf(", %d fewer than in the order of names", p.plan.Saved)
		}
		changes += "."
	}
	p.plan.Sentence = fmt.Sprintf("%s, %s, %d minutes: %s on a bag for each. %s", people(len(p.members)),
		bags(len(p.bags)), p.plan.Session.Seconds()/60, each, changes)
	for _, m := range p.members {
		if turns[m.ID] == 0 {
			p.tell(noBag, m.Name)
		}
		if !m.Body.Known() && slices.ContainsFunc(m.wants, func(id string) bool { return p.heightMatters(id) }) {
			p.tell(noHeight, m.Name)
		}
	}
	if young := slices.ContainsFunc(p.plan.People, func(x Person) bool { return x.Young && !x.Gone }); young {
		p.tell("Young people are here: an adult stands by, and load and volume are scaled.")
	}
}

func (p *planner) heightMatters(id string) bool {
	b := p.used(id)
	return b != nil && b.Kind().Model().Kind != "hanging"
}

// tell says something once.
func (p *planner) tell(format string, args ...any) {
	if text := fmt.Sprintf(format, args...); !slices.Contains(p.plan.Said, text) {
		p.plan.Said = append(p.plan.Said, text)
	}
}

func bags(n int) string {
	if n == 1 {
		return "one bag"
	}
	return words.Number(n) + " bags"
}

func people(n int) string {
	if n == 1 {
		return "One person"
	}
	return words.Upper(words.Number(n)) + " people"
}

// HangCard is one change of height for whoever hangs the bags.
type HangCard struct {
	Round  int    `json:"round" doc:"of the session, before which it is done"`
	Before string `json:"before" doc:"that round by its name"`
	Bag    string `json:"bag"`
	Text   string `json:"text"`
}

// Cards say what is hung how before which round, in the order in which it is done.
func (p Class) Cards(units words.Units) []HangCard {
	list := []HangCard{}
	for _, r := range p.Rehangs {
		bag := p.Bag(r.Bag)
		if bag == nil {
			continue
		}
		list = append(list, HangCard{Round: r.Round, Before: p.RoundName(r.Round), Bag: bag.Name,
			Text: fmt.Sprintf("%s at %s, for %s", words.Upper(r.Point), units.Length(r.To), p.whom(r))})
	}
	return list
}

// whom are those who find a height right, until the bag is hung anew.
func (p Class) whom(r Rehang) string {
	var names []string
	for _, t := range p.Turns {
		if t.Round < r.Round {
			continue
		}
		if slices.ContainsFunc(p.Rehangs, func(o Rehang) bool {
			return o.Bag == r.Bag && o.Round > r.Round && o.Round <= t.Round
		}) {
			break
		}
		for _, s := range t.Seats {
			if who := p.Person(s.Person); s.Bag == r.Bag && who != nil && !slices.Contains(names, who.Name) {
				names = append(names, who.Name)
			}
		}
	}
	return listed(names)
}

func listed(names []string) string {
	if len(names) < 2 {
		return strings.Join(names, "")
	}
	return strings.Join(names[:len(names)-1], ", ") + " and " + names[len(names)-1]
}
