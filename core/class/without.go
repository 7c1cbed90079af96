package class

import (
	"slices"

	"melodromos/core/erasing"
)

// Without is a plan that tells nothing of somebody any more: another id stands in place of theirs, one word in place of
// their name, and what they were given is gone. Texts that coaches have written go through to.
func (p Class) Without(id, other string, to func(string) string) Class {
	p = p.Clone()
	name := ""
	if who := p.Person(id); who != nil {
		name = who.Name
		who.ID, who.Name, who.Young = other, erasing.Somebody, false
	}
	for i := range p.Turns {
		for k := range p.Turns[i].Seats {
			if s := &p.Turns[i].Seats[k]; s.Person == id {
				s.Person = other
			}
		}
	}
	p.Given = slices.DeleteFunc(p.Given, func(g Given) bool { return g.Person == id })
	for i := range p.Given {
		p.Given[i].Name = to(p.Given[i].Name)
	}
	if name != "" {
		for i := range p.Rehangs {
			if p.Rehangs[i].For == name {
				p.Rehangs[i].For = erasing.Somebody
			}
		}
		p.Said = slices.DeleteFunc(p.Said, func(line string) bool { return to(line) != line }) // of an older release
	}
	p.Notices = slices.DeleteFunc(p.Notices, func(r Notice) bool { return r.Person == id })
	p.Session = p.Session.Renamed(to)
	return p
}
