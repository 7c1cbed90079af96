// Package catalogue lists the drills that come with the product: of our own making, for each bag from the first touch
// to the advanced, grouped by purpose. The rungs of the ladders are some of them.
package catalogue

import (
	"cmp"
	"fmt"
	"slices"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/rig"
)

// Purpose is the purpose of a drill, in the order of the work.
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

// Entry is a drill of the catalogue, for a kind of bag; force and tempo are left open. Step goes from 1, a first touch,
// to 5, advanced.
type Entry struct {
	Key     string // for good: logs refer to it
	Kind    rig.Kind
	Purpose Purpose
	Step    int
	Name    string
	Note    string // what to watch
	Tags    []string
	Plan    drill.Plan
	Paced   bool        // the tempo is the point of it, and is to be held
	Trains  level.Cause // the weak link that it is good for; "" for none in particular

	formerly string // a line that counted for it before; rounds of it still do
}

// Tags. A flow drill can be kept up for a whole round; a segment is meant to be built into something longer.
const (
	FlowDrill = "flow drill"
	Segment   = "segment"
	OneSide   = "one hand"
	Finisher  = "finisher"
)

// byKind are the drills of each kind of bag, in no order but that of their writing.
var byKind = map[rig.Kind][]Entry{rig.Speed: speedBag, rig.DoubleEnd: doubleEnd, rig.Reflex: reflex, rig.Slip: slip,
	rig.Hanging: hanging}

// all is the catalogue in its order, byKey where each drill stands in it.
var all, byKey = sorted()

func sorted() ([]Entry, map[string]int) {
	var list []Entry
	for _, kind := range rig.Kinds() {
		rows := slices.Clone(byKind[kind])
		slices.SortStableFunc(rows, func(a, b Entry) int {
			return cmp.Or(slices.Index(Purposes, a.Purpose)-slices.Index(Purposes, b.Purpose), a.Step-b.Step)
		})
		list = append(list, rows...)
	}
	at := map[string]int{}
	for i, e := range list {
		at[e.Key] = i
	}
	return list, at
}

// All lists the catalogue: by bag, then by purpose in the order of the work, then by step.
func All() []Entry { return slices.Clone(all) }

// Find gives the drill of a key; false where there is none.
func Find(key string) (Entry, bool) {
	i, ok := byKey[key]
	if !ok {
		return Entry{}, false
	}
	return all[i], true
}

// Canonical returns a text that is the same for two equal drills: the line as it is printed, or the technique with its
// count and sets.
func Canonical(p drill.Plan) string {
	switch d := p.(type) {
	case drill.CombinationDrill:
		return d.Name()
	case drill.SpeedBagDrill:
		return fmt.Sprintf("%s, %d rebounds", d.Name(), d.Rebounds)
	}
	return p.Name()
}

// Is says whether a plan is this drill, whatever its force, tempo and length. One whose point is its tempo is told by
// its effort as well.
func (e Entry) Is(p drill.Plan) bool {
	switch d := p.(type) {
	case drill.SpeedBagDrill:
		t, ok := e.Plan.(drill.SpeedBagDrill)
		return ok && t.Technique == d.Technique && t.FirstHand == d.FirstHand && t.PerHand == d.PerHand &&
			t.Rebounds == d.Rebounds && t.Scheme == d.Scheme &&
			t.EarOnly == d.EarOnly && (e.Paced && t.Effort == d.Effort || !e.Paced && d.Effort < brisk)
	case drill.CombinationDrill:
		c, ok := e.Plan.(drill.CombinationDrill)
		return ok && (c.Name() == d.Name() || e.formerly != "" && e.formerly == d.Name()) && c.Landing == d.Landing &&
			c.Rhythm == d.Rhythm && c.Guard == d.Guard &&
			(c.Cues == nil) == (d.Cues == nil) && !d.EarOnly && !d.NoTouch
	}
	return false
}

// brisk is the effort from which the tempo is the point of a drill. Assumed.
const brisk = 0.75

// technique is a drill for the speed bag: with the rear hand first, its board sounds counted in threes, for a minute,
// where nothing else is said.
func technique(key string, purpose Purpose, step int, name, note string, d drill.SpeedBagDrill, with ...option) Entry {
	d.FirstHand, d.StrikeAngle = cmp.Or(d.FirstHand, drill.Rear), cmp.Or(d.StrikeAngle, 25)
	d.Rebounds, d.Work, d.Calls = cmp.Or(d.Rebounds, 3), cmp.Or(d.Work, 60), true
	return entry(Entry{Key: string(rig.Speed) + "." + key, Kind: rig.Speed, Purpose: purpose, Step: step, Name: name,
		Note: note, Plan: d}, with)
}

// line is a drill that is thrown from the notation.
func line(kind rig.Kind, key string, purpose Purpose, step int, name, text, note string, with ...option) Entry {
	c := drill.CombinationDrill{Text: text, Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Combining,
		Pause: 2, Work: 60, Guidance: drill.Fading}
	if kind == rig.Hanging {
		c.Landing, c.Work = drill.Freely, 90
	}
	return entry(Entry{Key: string(kind) + "." + key, Kind: kind, Purpose: purpose, Step: step, Name: name, Note: note,
		Plan: c}, with)
}

func entry(e Entry, with []option) Entry {
	for _, f := range with {
		f(&e)
	}
	return e
}

// option is something that sets a drill apart from the usual one.
type option func(*Entry)

// thrown changes the line of a drill.
func thrown(f func(*drill.CombinationDrill)) option {
	return func(e *Entry) {
		if c, ok := e.Plan.(drill.CombinationDrill); ok {
			f(&c)
			e.Plan = c
		}
	}
}

func tagged(tags ...string) option   { return func(e *Entry) { e.Tags = append(e.Tags, tags...) } }
func trains(weak level.Cause) option { return func(e *Entry) { e.Trains = weak } }
func formerly(text string) option    { return func(e *Entry) { e.formerly = text } }
func softly(effort float64) option {
	return thrown(func(c *drill.CombinationDrill) { c.Effort = effort })
}
func atRest(guard drill.Guard) option {
	return thrown(func(c *drill.CombinationDrill) { c.Rhythm, c.Guard = drill.NoReturn, guard })
}

// What is said of a drill in one word.
var (
	paced     option = func(e *Entry) { e.Paced = true }
	settled          = thrown(func(c *drill.CombinationDrill) { c.Rhythm = drill.NoReturn })
	second           = thrown(func(c *drill.CombinationDrill) { c.Rhythm = drill.SecondReturn })
	returning        = thrown(func(c *drill.CombinationDrill) { c.Landing, c.Work = drill.OnReturns, 60 })
	surprised        = thrown(func(c *drill.CombinationDrill) {
		c.Cues = &drill.Cues{Moves: []string{"roll lead", "roll rear"}, Least: 3, Mean: 7, Lead: 1.2}
	})
)

// flowing is kept up for a whole round; finishing is done ten times over, quickly.
func flowing(e *Entry) {
	tagged(FlowDrill)(e)
	thrown(func(c *drill.CombinationDrill) { c.Pace, c.Pause = drill.Flow, 0.75 })(e)
}

func finishing(e *Entry) {
	tagged(Finisher)(e)
	thrown(func(c *drill.CombinationDrill) {
		c.Pace, c.Pause, c.Work, c.Repetitions, c.Guidance = drill.Speedy, 0.5, 0, 10, drill.Partly
	})(e)
}

// Legs says whether an entry asks for kicks, knees or elbows, which belong only where they are trained.
func (e Entry) Legs() bool {
	c, ok := e.Plan.(drill.CombinationDrill)
	if !ok {
		return false
	}
	line, err := combo.Parse(c.Text)
	return err == nil && slices.ContainsFunc(line.Moves(combo.Orthodox),
		func(m combo.Placed) bool { return m.Leg() || m.Shape() == combo.Elbow })
}
