package session

import (
	"fmt"
	"slices"
	"strings"

	"melodromos/core/drill"
	"melodromos/core/words"
)

// Display is a stretch as it is shown.
type Display struct {
	Stretch
	Kind     RoundKind    `json:"kind" enum:",warmUp,change,work,finisher,coolDown" doc:"of its round; empty while getting ready"`
	Role     Role         `json:"role" enum:",opener,known,new,whole,fast,free,drill,own,counted,off" doc:"empty for a rest"`
	Name     string       `json:"name" doc:"of the round: Round 3 of 12"`
	Emphasis string       `json:"emphasis"`
	Title    string       `json:"title" doc:"what is done"`
	Under    string       `json:"under" doc:"how"`
	OnBag    bool         `json:"onBag"`
	Tries    int          `json:"tries"`
	BellAt   drill.Micros `json:"bellAt" doc:"when its round ends; of a rest, when the next begins"`
}

// roleNames are the roles as they stand beside a block.
var roleNames = map[Role]string{Opener: "easy flow", Known: "known part", New: "new", Whole: "full combination",
	Fast: "fast", Free: "free, your own rhythm", Set: "the same drill for all", Own: "", Counted: "counted", Off: ""}

// Faces are the stretches of a course as they are shown.
func (c Course) Faces() []Display {
	work := 0
	for _, r := range c.plan.Rounds {
		if r.Kind == Work {
			work++
		}
	}
	list := make([]Display, len(c.Stretches))
	bell := drill.Micros(0)
	for i := len(list) - 1; i >= 0; i-- {
		s := c.Stretches[i]
		if s.Rest() || i+1 == len(list) || list[i+1].Rest() || list[i+1].Lap != s.Lap {
			bell = s.Until
		}
		list[i] = c.face(s, work)
		list[i].BellAt = bell
	}
	return list
}

func (c Course) face(s Stretch, work int) Display {
	f := Display{Stretch: s, Title: "Get ready"}
	if s.Round < 0 {
		return f
	}
	r := c.plan.Rounds[s.Round]
	f.Kind, f.Emphasis, f.Name = r.Kind, r.Emphasis, c.roundName(s.Round, work)
	if s.Carried {
		f.Name += ", carried on"
	}
	if s.Rest() {
		f.Title, f.Emphasis = "Rest", ""
		return f
	}
	b := c.planned(s)
	f.Title, f.Role, f.OnBag, f.Tries = b.Title(), b.Role, b.OnBag(), b.Tries
	switch {
	case b.Activity != "":
		f.Under = b.Activity.Doing().How
	case b.Times > 0:
		f.Under = words.Count(b.Times, "rep")
	default:
		f.Under = words.Upper(roleNames[b.Role])
	}
	if b.Times > 0 && b.Activity != "" {
		f.Title = fmt.Sprintf("%d %s", b.Times, words.Lower(f.Title))
	}
	return f
}

// LeftSaid tells the blocks that were not done when it was ended: rounds that follow one another and hold the same in
// one.
func (c Course) LeftSaid() []string {
	type left struct {
		first, last int // of the session's rounds
		titles      []string
	}
	var rounds []left
	for _, s := range c.Left {
		n := len(rounds)
		if n == 0 || rounds[n-1].last != s.Round {
			rounds = append(rounds, left{first: s.Round, last: s.Round})
			n++
		}
		title := c.planned(s).Title()
		if !slices.Contains(rounds[n-1].titles, title) {
			rounds[n-1].titles = append(rounds[n-1].titles, title)
		}
	}
	list := []string{}
	for i := 0; i < len(rounds); i++ {
		r := rounds[i]
		for i+1 < len(rounds) && rounds[i+1].first > r.last && slices.Equal(rounds[i+1].titles, r.titles) &&
			c.plan.Rounds[rounds[i+1].first].Kind == c.plan.Rounds[r.first].Kind {
			i++
			r.last = rounds[i].last
		}
		list = append(list, c.roundsName(r.first, r.last)+": "+words.Lower(strings.Join(r.titles, ", ")))
	}
	return list
}

// roundsName names rounds of the session: Round 3, Rounds 5 to 14, Finisher.
func (c Course) roundsName(first, last int) string {
	if c.plan.Rounds[first].Kind != Work {
		return KindName(c.plan.Rounds[first].Kind)
	}
	number := func(round int) (n int) {
		for _, r := range c.plan.Rounds[:round+1] {
			if r.Kind == Work {
				n++
			}
		}
		return n
	}
	if first == last {
		return fmt.Sprintf("Round %d", number(first))
	}
	return fmt.Sprintf("Rounds %d to %d", number(first), number(last))
}

// roundName says which round it is: the rounds on the bags are counted, the others have names.
func (c Course) roundName(i, work int) string {
	if c.plan.Rounds[i].Kind != Work {
		return KindName(c.plan.Rounds[i].Kind)
	}
	n := 0
	for _, r := range c.plan.Rounds[:i+1] {
		if r.Kind == Work {
			n++
		}
	}
	if work == 1 {
		return "Round"
	}
	return fmt.Sprintf("Round %d of %d", n, work)
}

// KindName is a kind of round in words.
func KindName(k RoundKind) string {
	return map[RoundKind]string{WarmUp: "Warm-up", Change: "Gloves and water", Work: "Round", Finisher: "Finisher",
		CoolDown: "Cool-down"}[k]
}
