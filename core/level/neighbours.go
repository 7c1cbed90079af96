package level

import (
	"math"
	"slices"
	"strings"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
)

// Neighbour is a drill that differs from another by one thing, with what that comes to.
type Neighbour struct {
	By    OneThing // the one thing
	Plan  drill.Plan
	Grade Grade
	Fit   Fit
}

// What a step up or down is, all assumed.
const (
	stepForce = 0.85
	stepTempo = 0.92
	gain      = 0.02 // of the clean share that a step down has to bring
	floorFit  = 0.60 // a step up that would be clean less often is none
)

type change struct {
	by OneThing
	of func(drill.Plan, rig.Kind) (drill.Plan, bool)
}

// Easier is the first neighbour, in the order in which coaches make things easier, of which somebody does clearly more
// clean: softer or slower, other rebounds, a shorter pattern, closer, a cue instead of surprise (common practice).
// False where nothing helps.
func Easier(p drill.Plan, on drill.Floor, now Fit) (Neighbour, bool) {
	return first(p, on, easier, func(f Fit) bool { return f.Least() >= now.Least()+gain },
		func(Neighbour) bool { return true })
}

// Harder is the first neighbour that asks more and is still within reach: force or tempo, distance, the count, fewer
// hits a hand, the other side too, fewer calls, surprise (common practice, one thing at a time).
func Harder(p drill.Plan, on drill.Floor, g Grade, now Fit) (Neighbour, bool) {
	return first(p, on, harder, func(f Fit) bool { return f.Least() >= floorFit }, func(n Neighbour) bool {
		return n.Grade.Level > g.Level+1e-9 || n.Fit.Least() < now.Least()-1e-9 && n.Grade.Level >= g.Level-1e-9
	})
}

// first looks at how a neighbour fits before it is graded, which takes longer.
func first(p drill.Plan, on drill.Floor, list []change, fits func(Fit) bool,
	good func(Neighbour) bool) (Neighbour, bool) {
	usual := on
	usual.Ability = pace
	theirs, err := p.For(on) // what is changed starts from figures
	common, alike := p.For(usual)
	if err != nil || alike != nil {
		return Neighbour{}, false
	}
	for _, c := range list {
		if on.Stopped() != nil {
			break
		}
		q, ok := c.of(theirs, on.Bag.Kind())
		r, alike := c.of(common, on.Bag.Kind())
		if !ok || !alike {
			continue
		}
		t, err := q.Lay(on)
		if err != nil {
			continue // the bag does not allow it
		}
		f := For(q, t, on, Told{})
		if !fits(f) {
			continue
		}
		g, err := Graded(r, t, on)
		if n := (Neighbour{c.by, q, g, f}); err == nil && good(n) {
			return n, true
		}
	}
	return Neighbour{}, false
}

// technique and combination make a change of one kind of drill.
func technique(f func(*drill.SpeedBagDrill) bool) func(drill.Plan, rig.Kind) (drill.Plan, bool) {
	return func(p drill.Plan, _ rig.Kind) (drill.Plan, bool) {
		d, ok := p.(drill.SpeedBagDrill)
		return d, ok && f(&d) && d.Check() == nil
	}
}

func combination(f func(*drill.CombinationDrill, rig.Kind) bool) func(drill.Plan, rig.Kind) (drill.Plan, bool) {
	return func(p drill.Plan, k rig.Kind) (drill.Plan, bool) {
		c, ok := p.(drill.CombinationDrill)
		if !ok || !f(&c, k) || c.Check() != nil {
			return p, false
		}
		return c, true
	}
}

// scaled changes force, and tempo where the hands keep it, by a share.
func scaled(by float64) func(*drill.CombinationDrill, rig.Kind) bool {
	return func(c *drill.CombinationDrill, k rig.Kind) bool {
		switch {
		case k == rig.Slip && c.Pull > 0:
			c.Pull = math.Round(100*c.Pull*by) / 100
		case c.Played != nil:
			c.Played = c.Played.Scaled(by)
		case c.Landing == drill.Freely && c.Tempo > 0:
			c.Tempo = math.Round(c.Tempo * by)
			if c.Slower >= c.Tempo {
				c.Slower = 0
			}
		case c.Landing == drill.OnReturns && k != rig.Slip && c.Fist > 0:
			c.Fist = math.Round(100*c.Fist*by) / 100
			c.Tempo, c.Slower = 0, 0
		default:
			return false
		}
		return true
	}
}

// control lists the changes that make each kind of drill easier to control.
var control = []change{
	{Slower, technique(func(d *drill.SpeedBagDrill) bool { d.Tempo = math.Round(d.Tempo * stepTempo); return true })},
	{Softer, combination(func(c *drill.CombinationDrill, k rig.Kind) bool {
		return k != rig.Slip && scaled(stepForce)(c, k)
	})},
	{PulledLess, combination(func(c *drill.CombinationDrill, k rig.Kind) bool {
		return k == rig.Slip && scaled(stepForce)(c, k)
	})},
	// some slips are longer from a wider swing
	{PulledMore, combination(func(c *drill.CombinationDrill, k rig.Kind) bool {
		ok := k == rig.Slip && c.Pull > 0
		c.Pull = math.Round(100*c.Pull/stepForce) / 100
		return ok
	})},
}

var easier = append(slices.Clone(control), []change{
	{MoreRebounds, technique(func(d *drill.SpeedBagDrill) bool {
		d.Rebounds += 2
		d.Tempo = math.Round(d.Tempo * 0.6)
		return d.Rebounds <= drill.MaxRebounds
	})},
	{SecondReturns, combination(func(c *drill.CombinationDrill, k rig.Kind) bool {
		ok := c.Rhythm == drill.EveryReturn && c.Landing == drill.OnReturns && (k == rig.DoubleEnd || k == rig.Reflex)
		c.Rhythm = drill.SecondReturn
		return ok
	})},
	{FewerHandChanges, technique(func(d *drill.SpeedBagDrill) bool {
		ok := d.PerHand > 0 && d.PerHand < 5
		d.PerHand = min(5, d.PerHand+2)
		return ok
	})},
	{PartOnly, combination(func(c *drill.CombinationDrill, _ rig.Kind) bool { return shorter(c) })},
	{StraightsOnly,
		combination(func(c *drill.CombinationDrill, _ rig.Kind) bool { return everyPunch(c, straightened) })},
	{Closer, combination(func(c *drill.CombinationDrill, _ rig.Kind) bool {
		ok := c.Range != drill.Close
		c.Range = drill.Close
		return ok
	})},
	{NoCues, combination(func(c *drill.CombinationDrill, _ rig.Kind) bool {
		ok := c.Cues != nil
		c.Cues = nil
		return ok
	})},
	{SeenToo,
		technique(func(d *drill.SpeedBagDrill) bool { ok := d.EarOnly; d.EarOnly = false; return ok })},
}...)

var harder = []change{
	{Quicker, technique(func(d *drill.SpeedBagDrill) bool {
		d.Tempo = math.Round(d.Tempo / stepTempo)
		return true
	})},
	{MoreForce, combination(scaled(1 / stepForce))},
	{FurtherOut, combination(func(c *drill.CombinationDrill, _ rig.Kind) bool {
		ok := c.Range != drill.Far
		c.Range = drill.Far
		return ok
	})},
	{HookLast,
		combination(func(c *drill.CombinationDrill, _ rig.Kind) bool { return lastPunch(c, hooked) })},
	{UppercutLast,
		combination(func(c *drill.CombinationDrill, _ rig.Kind) bool { return lastPunch(c, lifted) })},
	{EveryReturn, combination(func(c *drill.CombinationDrill, _ rig.Kind) bool {
		ok := c.Rhythm != drill.EveryReturn
		c.Rhythm = drill.EveryReturn
		return ok
	})},
	{SoonerHandChanges, technique(func(d *drill.SpeedBagDrill) bool {
		ok := d.PerHand > 2 && d.Technique == drill.OneHand
		d.PerHand--
		return ok
	})},
	{BothSides, combination(func(c *drill.CombinationDrill, _ rig.Kind) bool { return twice(c) })},
	{WithoutCalls, combination(func(c *drill.CombinationDrill, _ rig.Kind) bool {
		ok := c.Guidance != drill.Alone
		c.Guidance = drill.Alone
		return ok
	})},
	{WithoutCalls, technique(func(d *drill.SpeedBagDrill) bool { ok := d.Calls; d.Calls = false; return ok })},
	{ByEar, technique(func(d *drill.SpeedBagDrill) bool { ok := !d.EarOnly; d.EarOnly = true; return ok })},
	{WithCues, combination(func(c *drill.CombinationDrill, k rig.Kind) bool {
		ok := c.Cues == nil && k != rig.Slip
		c.Cues = &drill.Cues{Moves: []string{"roll lead", "roll rear"}, Least: 3, Mean: 7}
		return ok
	})},
}

// shorter leaves the last part off, or the last move.
func shorter(c *drill.CombinationDrill) bool {
	line, err := combo.Parse(c.Text)
	if err != nil {
		return false
	}
	if n := len(line.Parts); n > 1 {
		c.Text = combo.Combination{Parts: line.Parts[:n-1]}.String()
		return true
	}
	items := line.Parts[0]
	if len(items) < 2 {
		return false
	}
	c.Text = combo.Combination{Parts: [][]combo.Item{items[:len(items)-1]}}.String()
	return true
}

// Straights come before hooks and hooks before uppercuts (common practice), each of the same hand.
var (
	straightened = map[combo.Word]combo.Word{"3": "1", "4": "2", "5": "1", "6": "2"}
	hooked       = map[combo.Word]combo.Word{"1": "3", "2": "4"}
	lifted       = map[combo.Word]combo.Word{"3": "5", "4": "6"}
)

// everyPunch changes every punch of a line that can be into another.
func everyPunch(c *drill.CombinationDrill, into map[combo.Word]combo.Word) bool {
	line, err := combo.Parse(c.Text)
	if err != nil {
		return false
	}
	changed := false
	for i := range line.Parts {
		for k := range line.Parts[i] {
			changed = swapped(&line.Parts[i][k], into) || changed
		}
	}
	c.Text = line.String()
	return changed
}

// lastPunch changes the last punch of a line that can be into another; a jab that is thrown alone stays.
func lastPunch(c *drill.CombinationDrill, into map[combo.Word]combo.Word) bool {
	line, err := combo.Parse(c.Text)
	if err != nil || combo.Balanced(line.Moves(c.Stance)).Strikes < 2 {
		return false
	}
	for i := len(line.Parts) - 1; i >= 0; i-- {
		for k := len(line.Parts[i]) - 1; k >= 0; k-- {
			if swapped(&line.Parts[i][k], into) {
				c.Text = line.String()
				return true
			}
		}
	}
	return false
}

// swapped changes the word of a single item; groups stay.
func swapped(item *combo.Item, into map[combo.Word]combo.Word) bool {
	other, ok := into[item.Move.Word]
	if !ok || item.Group != nil {
		return false
	}
	item.Move.Word = other
	return true
}

// twice throws it and its mirror: the other side too.
func twice(c *drill.CombinationDrill) bool {
	line, err := combo.Parse(c.Text)
	if err != nil || len(line.Moves(c.Stance)) > 8 {
		return false
	}
	c.Text = strings.Join([]string{line.String(), line.Mirror().String()}, " | ")
	return true
}

// UnderControl is a plan under control: softer, or slower where the hands keep the tempo, as far as the bag allows it.
func UnderControl(p drill.Plan, on drill.Floor) drill.Plan {
	for _, c := range control {
		if q, ok := c.of(p, on.Bag.Kind()); ok {
			if _, err := q.Lay(on); err == nil {
				return q
			}
		}
	}
	return p
}
