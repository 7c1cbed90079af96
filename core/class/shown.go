package class

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"melodromos/core/drill"
	"melodromos/core/session"
	"melodromos/core/words"
)

// Shown is a plan as it is shown at a moment of its course: in a round that is not over yet nobody stands who has left,
// and whoever was to be on a bag that broke is off it. Rounds that are over stay as they were.
func (p Class) Shown(c session.Course, at drill.Micros) Class {
	out := p.Clone()
	coming := map[int]bool{}
	for _, s := range c.Stretches {
		if s.Until > at && !s.Rest() {
			coming[s.Round] = true
		}
	}
	for i := range out.Turns {
		t := &out.Turns[i]
		if !coming[t.Round] {
			continue
		}
		t.Seats = slices.DeleteFunc(t.Seats, func(s Seat) bool {
			who := p.Person(s.Person)
			return who == nil || who.Gone
		})
		for k := range t.Seats {
			if bag := p.Bag(t.Seats[k].Bag); bag != nil && bag.Broken {
				t.Seats[k].Bag, t.Seats[k].Activity = "", session.Skipping
			}
		}
	}
	return out.Told()
}

// RoundLine is a round on the bags in a list.
type RoundLine struct {
	Round  int          `json:"round" doc:"of the session"`
	Name   string       `json:"name" doc:"such as Round 3, or Finisher"`
	Short  string       `json:"short" doc:"the same over a column: 3, or F"`
	Begins drill.Micros `json:"begins" doc:"by the plan, from the beginning of the session"`
}

// Outline lists the rounds on the bags, with their names and when each begins by the plan.
func (p Class) Outline() []RoundLine {
	list := []RoundLine{}
	begins := map[int]drill.Micros{}
	for _, s := range session.Begin(p.Session, 0).Stretches {
		if _, seen := begins[s.Round]; !seen {
			begins[s.Round] = s.From
		}
	}
	for _, t := range p.Turns {
		name := p.RoundName(t.Round)
		short := strconv.Itoa(p.counted(t.Round))
		if p.counted(t.Round) == 0 {
			short = string([]rune(name)[:1])
		}
		list = append(list, RoundLine{Round: t.Round, Name: name, Short: short, Begins: begins[t.Round]})
	}
	return list
}

// RoundName counts the rounds of work on the bags; a finisher on them has its own name.
func (p Class) RoundName(round int) string {
	if n := p.counted(round); n > 0 || round < 0 || round >= len(p.Session.Rounds) {
		return fmt.Sprintf("Round %d", n)
	}
	return session.KindName(p.Session.Rounds[round].Kind)
}

// counted returns the number of a round among the rounds of work on the bags, 0 where it is none.
func (p Class) counted(round int) int {
	n := 0
	for _, t := range p.Turns {
		if t.Round < 0 || t.Round >= len(p.Session.Rounds) {
			continue
		}
		work := p.Session.Rounds[t.Round].Kind == session.Work
		if work {
			n++
		}
		if t.Round == round && !work {
			return 0
		}
		if t.Round == round {
			break
		}
	}
	return n
}

// Changed says what re-planning the rest of a class has changed, and from when on: who has left and what broke counts
// from now, all else from the next round that has not begun. "" where nobody left and nothing broke, and no round is
// left to be planned.
func (p Class) Changed(before Class, from int) string {
	var now []string
	for _, x := range p.People {
		if was := before.Person(x.ID); x.Gone && was != nil && !was.Gone {
			now = append(now, x.Name+" has left")
		}
	}
	for _, b := range p.Bags {
		if was := before.Bag(b.ID); b.Broken && was != nil && !was.Broken {
			now = append(now, "nobody goes on the "+b.Name)
		}
	}
	said := ""
	if len(now) > 0 {
		said = "From now: " + words.List(now) + ". "
	}
	if next := slices.IndexFunc(p.Turns, func(t Turn) bool { return t.Round >= from }); next >= 0 {
		said += fmt.Sprintf("From the next round (%s): the rest, re-planned.", words.Lower(p.RoundName(p.Turns[next].Round)))
	} else if len(now) == 0 {
		return ""
	}
	return strings.TrimSpace(said)
}
