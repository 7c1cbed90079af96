package class

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"melodromos/core/input"
	"melodromos/core/words"
)

// NoticeCode is something that the coach should know of a class.
type NoticeCode string

// The notices, with what goes into them.
const (
	NoBag        NoticeCode = "noBag"        // a name
	NoHeight     NoticeCode = "noHeight"     // a name
	DoesNotTrain NoticeCode = "doesNotTrain" // a name, why
	NotOnBag     NoticeCode = "notOnBag"     // a name, a bag, why
	ChildrenHere NoticeCode = "childrenHere"
)

// Notice is something that the coach should know, kept as a code with the person that it is about.
type Notice struct {
	Code   NoticeCode `json:"code"`
	Person string     `json:"person,omitempty" doc:"empty where it is about everybody"`
	Args   []string   `json:"args,omitempty"`
}

// text puts a notice into words.
func (r Notice) text() string {
	format := map[NoticeCode]string{
		NoBag:        "%s gets no bag: there are too few rounds.",
		NoHeight:     "No height is known of %s: hang the bags by eye.",
		DoesNotTrain: "%s does not train: %s.",
		NotOnBag:     "%s stays off the %s: %s.",
		ChildrenHere: "Children here: keep an adult with them. Their rounds are shorter and softer.",
	}[r.Code]
	args := make([]any, len(r.Args))
	for i, a := range r.Args {
		args[i] = a
	}
	return fmt.Sprintf(format, args...)
}

// Told is a class with its sentence and notices in words, in place of what they are made of.
func (p Class) Told() Class {
	p.Sentence, p.Said = p.sentence(), slices.Clone(p.Said)
	for _, r := range p.Notices {
		p.Said = append(p.Said, r.text())
	}
	p.Notices = nil
	return p
}

func refusal(err error) string {
	var refused *input.Error
	if errors.As(err, &refused) {
		return refused.Reason
	}
	return "it could not be worked out"
}

// sentence is the class in one sentence: who is there, for how long, and how often the bags change their height.
func (p Class) sentence() string {
	least, most, here := len(p.Turns), 0, 0
	for _, who := range p.People {
		if who.Gone {
			continue
		}
		here++
		n := 0
		for _, t := range p.Turns {
			if s := t.Seat(who.ID); s != nil && s.Bag != "" {
				n++
			}
		}
		least, most = min(least, n), max(most, n)
	}
	each := words.Count(least, "round")
	if most > least {
		each = fmt.Sprintf("%d or %d rounds", least, most)
		if most > least+1 {
			each = fmt.Sprintf("%d to %d rounds", least, most)
		}
	}
	hang := 0
	for _, b := range p.Bags {
		if !b.Broken {
			hang++
		}
	}
	changes := "No bag changes its height."
	if n := len(p.Rehangs); n > 0 {
		changes = words.Count(n, "height change")
		if p.Saved > 0 {
			changes += fmt.Sprintf(" (%d by name order)", n+p.Saved)
		}
		changes += "."
	}
	return fmt.Sprintf("%s, %s, %d minutes: %s on a bag for each. %s", people(here), bags(hang),
		p.Session.Seconds()/60, each, changes)
}

// remark notes what the coach should know of a plan.
func (p *planner) remark() {
	for _, m := range p.members {
		if !slices.ContainsFunc(p.plan.Turns, func(t Turn) bool {
			s := t.Seat(m.ID)
			return s != nil && s.Bag != ""
		}) {
			p.tell(NoBag, m.ID, m.Name)
		}
		if !m.Body.Known() && slices.ContainsFunc(m.wants, func(id string) bool { return p.heightMatters(id) }) {
			p.tell(NoHeight, m.ID, m.Name)
		}
	}
	if slices.ContainsFunc(p.plan.People, func(x Person) bool { return x.Young && !x.Gone }) {
		p.tell(ChildrenHere, "")
	}
}

func (p *planner) heightMatters(id string) bool {
	b := p.used(id)
	return b != nil && b.Kind().Model().Kind != "hanging"
}

// tell notes something once.
func (p *planner) tell(code NoticeCode, person string, args ...string) {
	same := func(r Notice) bool { return r.Code == code && r.Person == person && slices.Equal(r.Args, args) }
	if !slices.ContainsFunc(p.plan.Notices, same) {
		p.plan.Notices = append(p.plan.Notices, Notice{code, person, args})
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
