package roster

import (
	"time"

	"melodromos/core/answer"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// PersonFigure is a figure of somebody as it stands.
type PersonFigure struct {
	Figure string         `json:"figure"`
	Value  float64        `json:"value"`
	Spread float64        `json:"spread" doc:"standard error"`
	Origin trainee.Origin `json:"origin" doc:"of what weighs most"`
	Weight float64        `json:"weight" doc:"share of that origin"`
	Found  int            `json:"found" doc:"measurements that went in"`
	Bags   []OnBag        `json:"bags" doc:"on each bag that it was found on, where it is another one on each"`
	Trail  []Measure      `json:"trail" doc:"what was measured, the oldest first"`
}

// OnBag is a figure on one kind of bag.
type OnBag struct {
	Kind  string  `json:"kind"`
	Value float64 `json:"value"`
}

// Measure is one piece of evidence about somebody.
type Measure struct {
	Figure string         `json:"figure"`
	At     time.Time      `json:"at"`
	Kind   string         `json:"kind" doc:"of the bag; empty for none"`
	Value  float64        `json:"value"`
	Spread float64        `json:"spread"`
	Origin trainee.Origin `json:"origin"`
	Floor  bool           `json:"floor" doc:"no smaller than this"`
	Note   string         `json:"note"`
}

// Measured is a piece of evidence as it is shown.
func Measured(e trainee.Evidence) Measure {
	return Measure{string(e.Figure), e.At, string(e.Bag), e.Value, e.Spread, e.Origin, e.Floor,
		trainee.NoteWords(e.Note)}
}

// Figures lists what somebody can do, on no bag in particular, and on each that a figure was found on.
func (c Roster) Figures(m *Member) []PersonFigure {
	_, list := trainee.Estimates(m.Band, "", m.Evidence, c.Now)
	bags := map[rig.Kind]trainee.Ability{}
	for _, e := range m.Evidence {
		if _, known := bags[e.Bag]; e.Bag != "" && !known {
			bags[e.Bag], _ = trainee.Estimates(m.Band, e.Bag, m.Evidence, c.Now)
		}
	}
	return answer.Map(list, func(e trainee.Estimate) PersonFigure {
		f := PersonFigure{Figure: string(e.Figure), Value: e.Value, Spread: e.Spread, Origin: e.Origin,
			Weight: e.Weight, Found: e.Found, Bags: []OnBag{}, Trail: []Measure{}}
		seen := map[rig.Kind]bool{}
		for _, x := range m.Evidence {
			if x.Figure != e.Figure {
				continue
			}
			f.Trail = append(f.Trail, Measured(x))
			if x.Bag != "" && !seen[x.Bag] {
				seen[x.Bag] = true
				a := bags[x.Bag]
				f.Bags = append(f.Bags, OnBag{string(x.Bag), a.Get(e.Figure)})
			}
		}
		return f
	})
}

// PersonView holds a person's abilities and proposals, for their page.
type PersonView struct {
	Next    *Proposal      `json:"next,omitempty" doc:"what they do next; left out where no bag hangs"`
	Figures []PersonFigure `json:"figures"`
	Bags    []Proposal     `json:"bags" doc:"for each kind of bag that hangs: where they stand and what comes next"`
	Weeks   []PlannedDay   `json:"sessions" doc:"of the weeks around now, where they are planned"`
}

// Person gathers what somebody's page shows.
func (c Roster) Person(m *Member) (PersonView, error) {
	v := PersonView{Figures: c.Figures(m), Bags: []Proposal{}, Weeks: c.Weeks(m)}
	next, ok, err := c.Next(m)
	if err != nil {
		return v, err
	}
	if ok {
		v.Next = &next
	}
	for _, kind := range c.Kinds() {
		p, err := c.On(m, kind)
		if err != nil {
			return v, err
		}
		v.Bags = append(v.Bags, p)
	}
	return v, nil
}
