package drill

import (
	"fmt"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
)

// Carry takes a drill from one kind of bag to another. lost tells what did not go with it, in sentences; a drill of
// which nothing is left there is refused. A technique is the speed bag's alone. Of a line, moves that have no place on
// the bag are left out; force and tempo are left open, and what only the first kind of bag has is set back to what is
// usual.
func Carry(p Plan, from, to rig.Kind) (carried Plan, lost []string, err error) {
	p, _ = Open(p)
	c, ok := p.(CombinationDrill)
	switch {
	case from == to:
		return p, nil, nil
	case !ok:
		return nil, nil, input.Refuse("kind",
			"expected the speed bag: its techniques go by the board, and no other bag has one")
	}
	line, err := combo.Parse(c.Text)
	if err != nil {
		return nil, nil, err
	}
	on := Floor{}
	told := map[string]bool{}
	say := func(format string, args ...any) {
		if text := fmt.Sprintf(format, args...); !told[text] {
			told[text] = true
			lost = append(lost, text)
		}
	}
	line = line.Changed(func(m combo.Move) (combo.Move, bool) {
		if m.Stop && to != rig.Hanging {
			say("Nothing is stopped here: %s is thrown as it is.", m)
			m.Stop = false
		}
		if m.Rebounds > 0 && (from == rig.Speed || to == rig.Speed) {
			say("The counts after the strikes are the %s's and are left out.", from.Name())
			m.Rebounds = 0
		}
		if why := misplaced(combo.Placed{Move: m}, c, to, on); why != "" {
			say("Without %s: %s.", m, why)
			return m, false
		}
		return m, true
	})
	if c.Text = line.String(); len(line.Parts) == 0 {
		return nil, nil, input.Refuse("kind", "expected a kind of bag on which something of it is left")
	}
	c.setBack(to, say)
	if c.Played != nil && to == rig.Slip {
		c.Played = nil
		say("Without its own rhythm: a slip bag's passes set the time.")
	}
	if c.Landing == Freely && to != rig.Hanging && c.Played == nil {
		c.Landing = OnReturns
		say("The strikes land on the returns: this bag comes back by itself.")
	}
	if c.Cues != nil && to == rig.Slip {
		c.Cues = nil
		say("Without random cues: a slip bag is cue enough.")
	}
	return c, lost, c.Check()
}

// setBack puts what a kind of bag does not know back to what is usual.
func (c *CombinationDrill) setBack(to rig.Kind, say func(string, ...any)) {
	if c.Guard != Touched && to != rig.Slip {
		c.Guard, c.Rhythm = Touched, EveryReturn
		say("Not as somebody's guard: that is a slip bag's, hanging still.")
	}
	if c.NoTouch && to != rig.Slip {
		c.NoTouch = false
		say("It is struck: without touching is for a slip bag.")
	}
	rhythm := c.Rhythm
	switch {
	case to == rig.Speed, to == rig.Hanging && rhythm == NoReturn, to == rig.Slip && rhythm == SecondReturn:
		c.Rhythm = EveryReturn
	}
	switch {
	case c.Rhythm == rhythm:
	case to == rig.Slip:
		say("On every pass.")
	default:
		say("On every return.")
	}
	if c.Clock == ByBag && to == rig.Slip {
		c.Clock = ""
		say("The beat sets the time: a %s swings by itself.", to.Name())
	}
}
