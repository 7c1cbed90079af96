package main

import (
	"fmt"
	"strings"
)

// tell puts careers into words: what was proposed on each evening, why, and how it went.
func tell(lives []life) string {
	var b strings.Builder
	b.WriteString(`# Four careers

What the ladder proposes to four simulated learners, and why, evening by evening. Each stands before a bag of their own, hits it as they
can, is judged as everybody is, and does what is proposed; the gate is the usual one (80 % clean and ten in a row, in two rounds on two
days, two rungs a day at the most). Each round stands with its clean share and the longest run; those past the gate are bold.
` + "`go test ./standin/career -update`" + ` writes this page anew.
`)
	for _, l := range lives {
		list, rungs := l.live()
		fmt.Fprintf(&b, "\n## %s\n\n%s\n\n| week | drill | rounds | why |\n|---|---|---|---|\n", l.name, l.about)
		for i := 0; i < len(list); {
			first, p := list[i], list[i].proposal
			var went []string
			for ; i < len(list) && list[i].at.YearDay() == first.at.YearDay() && same(list[i], first); i++ {
				went = append(went, list[i].words())
			}
			name := p.Name
			if p.Eased != "" {
				name += ", " + p.Eased.Words()
			}
			if len(l.bags) > 1 {
				name += ", " + p.RigName
			}
			why := p.Why
			for _, s := range p.Spared {
				why += " " + s + "."
			}
			fmt.Fprintf(&b, "| %d, %s | %s | %s | %s |\n", first.week, first.at.Format("Mon"), name,
				strings.Join(went, "; "), why)
		}
		last := list[len(list)-1]
		fmt.Fprintf(&b, "\nAfter %d rounds: rung %d of %d.\n", len(list), last.proposal.Standing+1, len(rungs))
	}
	return b.String()
}

func same(a, b lived) bool {
	return a.proposal.Name == b.proposal.Name && a.proposal.Eased == b.proposal.Eased &&
		a.proposal.Move == b.proposal.Move
}

func (l lived) words() string {
	if l.proposal.Barred != "" {
		return "none"
	}
	text := fmt.Sprintf("%.0f %%, %d", 100*l.Clean, l.Longest)
	if l.through {
		return "**" + text + "**"
	}
	return text
}
