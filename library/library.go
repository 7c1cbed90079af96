// Package library is the starter library: drills of our own making for each bag, from the first touch to the advanced, grouped by
// purpose.
package library

import (
	"fmt"
	"slices"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
)

// Purpose is what a drill is for, in the order of the work.
type Purpose string

// The order of the work.
const (
	FirstTouches Purpose = "first touches"
	Rhythm       Purpose = "rhythm"
	Building     Purpose = "building"
	Defending    Purpose = "defence"
	Angles       Purpose = "feet and angles"
	Themes       Purpose = "rounds by theme"
	Conditioning Purpose = "conditioning"
)

// Purposes lists them in order.
var Purposes = []Purpose{FirstTouches, Rhythm, Building, Defending, Angles, Themes, Conditioning}

// Entry is a drill of the library. Step goes from 1, a first touch, to 5, advanced.
type Entry struct {
	Key     string
	Kind    rig.Kind
	Purpose Purpose
	Step    int
	Name    string
	Note    string // what to watch
	Tags    []string
	Plan    drill.Plan
}

// Tags. A flow drill can be kept up for a whole round; a segment is meant to be built into something longer.
const (
	FlowDrill = "flow drill"
	Segment   = "segment"
	OneSide   = "one hand"
	Finisher  = "finisher"
)

// Canonical is what two drills have in common that are the same: the line as it is printed, or the technique with its count and
// sets.
func Canonical(p drill.Plan) string {
	switch d := p.(type) {
	case drill.Combination:
		return d.Name()
	case drill.Drill:
		return fmt.Sprintf("%s, %d rebounds", d.Name(), d.Rebounds)
	}
	return p.Name()
}

// All lists the library: by bag, then by purpose in the order of the work, then by step.
func All() []Entry {
	var list []Entry
	for _, rows := range [][]Entry{speedBag, doubleEnd, reflex, slip, hanging} {
		list = append(list, rows...)
	}
	for i := range list {
		list[i].Key = fmt.Sprintf("%s-%d", list[i].Kind, i)
	}
	slices.SortStableFunc(list, func(a, b Entry) int {
		if a.Kind != b.Kind {
			return 0 // they come by bag already
		}
		if d := slices.Index(Purposes, a.Purpose) - slices.Index(Purposes, b.Purpose); d != 0 {
			return d
		}
		return a.Step - b.Step
	})
	return list
}

// technique is an entry for the speed bag.
func technique(purpose Purpose, step int, name, note string, d drill.Drill, tags ...string) Entry {
	if d.FirstHand == "" {
		d.FirstHand = drill.Rear
	}
	if d.StrikeAngle == 0 {
		d.StrikeAngle = 25
	}
	if d.Work == 0 {
		d.Work = 60
	}
	d.Calls = true
	return Entry{"", rig.Speed, purpose, step, name, note, tags, d}
}

// line is an entry that is thrown from the notation.
func line(kind rig.Kind, purpose Purpose, step int, name, text, note string, tags ...string) Entry {
	c := drill.Combination{Text: text, Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Combining, Pause: 2, Work: 60, Guidance: drill.Fading}
	if kind == rig.Hanging {
		c.Landing, c.Work = drill.Freely, 120
	}
	if slices.Contains(tags, FlowDrill) {
		c.Pace, c.Pause = drill.Flow, 0.75
	}
	if slices.Contains(tags, Finisher) {
		c.Pace, c.Pause, c.Work, c.Repetitions, c.Guidance = drill.Speedy, 0.5, 0, 10, drill.Partly
	}
	return Entry{"", kind, purpose, step, name, note, tags, c}
}

// guard is an entry at a slip bag that hangs still.
func guard(way drill.Guard, e Entry) Entry {
	c := e.Plan.(drill.Combination)
	c.Rhythm, c.Guard = drill.NoReturn, way
	e.Plan = c
	return e
}

// returning is an entry that lands on a heavy bag's returns.
func returning(e Entry) Entry {
	c := e.Plan.(drill.Combination)
	c.Landing, c.Work = drill.OnReturns, 60
	e.Plan = c
	return e
}

// Legs says whether an entry asks for kicks, knees or elbows, which belong only where they are trained.
func (e Entry) Legs() bool {
	c, ok := e.Plan.(drill.Combination)
	if !ok {
		return false
	}
	line, err := combo.Parse(c.Text)
	return err == nil && slices.ContainsFunc(line.Moves(combo.Orthodox), func(m combo.Placed) bool { return m.Leg() || m.Shape() == combo.Elbow })
}
