package session

import (
	"cmp"
	"slices"

	"melodromos/core/catalogue"
	"melodromos/core/combo"
	"melodromos/core/drill"
)

// What is heard and seen of a session beside bells, counts and warnings.
const (
	Next   drill.EventKind = "next"   // what comes is said beforehand
	Begins drill.EventKind = "begins" // another block begins within a round
	Loose  drill.EventKind = "loose"  // breathing and loose shoulders are called now and then
)

// When things are said (s). Warnings, and ten seconds before a round, are common practice; the others assumed.
const (
	beforeRound = 10
	announced   = 2   // into a rest
	previewed   = 10  // before another block
	afterBell   = 1.5 // another call keeps clear of a bell by this
	looseFrom   = 45  // the shortest block in which breathing is called
	looseAt     = 0.4 // of it
)

var warnings = []int{30, 15, 10, 5, 3, 2, 1}

// Calls says how a session is called out.
type Calls struct {
	combo.Naming
	Rotates bool // people change bags between the rounds
}

// Cues lists what is heard and seen of a course, in order: the same course gives the same cues.
func (c Course) Cues(v Calls) []drill.Event {
	var list []drill.Event
	add := func(at drill.Micros, kind drill.EventKind, n int, text string) {
		list = append(list, drill.Event{At: at, Kind: kind, N: n, Text: text})
	}
	for i, s := range c.Stretches {
		if s.Rest() {
			c.resting(i, v, add)
			continue
		}
		first := i == 0 || c.Stretches[i-1].Rest() || c.Stretches[i-1].Lap != s.Lap
		last := i+1 == len(c.Stretches) || c.Stretches[i+1].Rest() || c.Stretches[i+1].Lap != s.Lap
		if first {
			add(s.From, drill.Bell, 0, "start")
			add(s.From+micros(afterBell), drill.Call, 0, c.called(s, v))
			c.warned(i, add)
		} else {
			add(s.From, Begins, 0, c.called(s, v))
		}
		if last {
			add(s.Until, drill.Bell, 0, "end")
		} else if s.State == Planned && s.length() >= 2*previewed*second {
			add(s.Until-previewed*second, Next, 0, "next, "+c.called(c.Stretches[i+1], v))
		}
		if s.length() >= looseFrom*second && c.planned(s).Activity.Doing().Effort == 0 {
			at := s.From + drill.Micros(looseAt*float64(s.length()))
			add(at, Loose, 0, []string{"breathe", "shoulders loose"}[i%2])
		}
	}
	slices.SortStableFunc(list, func(a, b drill.Event) int { return cmp.Compare(a.At, b.At) })
	return list
}

func micros(seconds float64) drill.Micros { return drill.Micros(seconds * 1e6) }

// resting adds the calls of a rest, or of the time to get ready: what comes, and the count to the bell.
func (c Course) resting(i int, v Calls, add func(drill.Micros, drill.EventKind, int, string)) {
	s := c.Stretches[i]
	if i+1 == len(c.Stretches) {
		return
	}
	next := c.Stretches[i+1]
	if s.length() >= (beforeRound+2*announced)*second && s.Round >= 0 {
		text := "rest; next, " + c.called(next, v)
		if v.Rotates && !next.Rest() && c.planned(next).OnBag() {
			text = "rest; change bags"
		}
		add(s.From+announced*second, Next, 0, text)
	}
	if s.Round < 0 {
		add(s.From, drill.Call, 0, "get ready")
	}
	for n := beforeRound; n >= 1; n-- {
		at := s.Until - drill.Micros(n)*second
		switch {
		case at < s.From:
		case n <= 3:
			add(at, drill.Count, n, "")
		case n == beforeRound:
			add(at, drill.Warning, n, "")
			add(at+micros(0.4), drill.Call, 0, "get ready")
		case s.Round < 0:
			add(at, drill.Ready, n, "")
		}
	}
}

// warned gives the warnings before the end of the lap that begins at i.
func (c Course) warned(i int, add func(drill.Micros, drill.EventKind, int, string)) {
	lap := c.Stretches[i]
	until := lap.Until
	for _, s := range c.Stretches[i+1:] {
		if s.Rest() || s.Lap != lap.Lap {
			break
		}
		until = s.Until
	}
	for _, left := range warnings {
		if until-lap.From > drill.Micros(2*left)*second {
			add(until-drill.Micros(left)*second, drill.Warning, left, "")
		}
	}
}

// called is a stretch as it is called.
func (c Course) called(s Stretch, v Calls) string {
	if s.Rest() {
		return "rest"
	}
	return c.planned(s).Called(v.Naming)
}

// Called is a block as it is called.
func (b Block) Called(v combo.Naming) string {
	text := b.Text
	switch {
	case b.Activity != "":
		return b.Activity.Doing().Call
	case b.Drill != "":
		e, ok := catalogue.Find(b.Drill)
		if !ok {
			return ""
		}
		c, ok := e.Plan.(drill.CombinationDrill)
		if !ok {
			return "your drill"
		}
		text = c.Text
	case b.Role == Own:
		return "your drill"
	}
	line, err := combo.Parse(text)
	if err != nil {
		return ""
	}
	said := line.Call(v)
	switch b.Role {
	case Fast:
		return "fast, " + said
	case Free:
		return "free, " + said
	}
	return said
}
