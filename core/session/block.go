package session

import (
	"cmp"

	"melodromos/core/catalogue"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
)

// check refuses a block that contradicts itself.
func (b Block) check() error {
	n := 0
	for _, said := range []bool{b.Activity != "", b.Text != "", b.Drill != "", b.Role == Own} {
		if said {
			n++
		}
	}
	switch {
	case n != 1:
		return input.Refuse("role", "expected one of: something off the bag, a combination, a drill of the library, or own drills")
	case (b.Role == Off) != (b.Activity != ""):
		return input.Refuse("activity", "expected an activity off the bag where the block is off the bag, and only there")
	case b.Activity != "" && b.Activity.Doing().Key == "":
		return input.Refuse("activity", "expected a known activity, not %q", b.Activity)
	case b.Times > 0 && b.Text == "" && b.Activity == "":
		return input.Refuse("times", "expected reps only of a combination or of something off the bag")
	case (b.Role == Counted) != (b.Times > 0 && b.Text != ""):
		return input.Refuse("times", "expected a number of reps in a counted block, and only there")
	case b.Seconds < 1 || b.OnBag() && b.Seconds < LeastBlock:
		return input.Refuse("seconds", "expected at least %d s on a bag", LeastBlock)
	case b.OnBag() && float64(b.Seconds) > drill.WorkLimits.Max:
		return input.Refuse("seconds", "expected at most %g s at one thing on a bag", drill.WorkLimits.Max)
	}
	if b.Drill != "" {
		if _, ok := catalogue.Find(b.Drill); !ok {
			return input.Refuse("drill", "expected a drill of the library, not %q", b.Drill)
		}
	}
	if b.Text != "" {
		if _, err := b.Plan(rig.Hanging); err != nil {
			return err
		}
	}
	return nil
}

// For is the kind of bag that a block is for; "" for any.
func (b Block) For() rig.Kind {
	if e, ok := catalogue.Find(b.Drill); ok {
		return e.Kind
	}
	return ""
}

// Plan returns the drill of a block for somebody on a kind of bag, as long as the block lasts. Nil where everybody does
// their own drill, or it is off the bag. A drill of the library on a bag of another kind is refused, naming drill.
func (b Block) Plan(kind rig.Kind) (drill.Plan, error) {
	switch {
	case b.Drill != "":
		e, ok := catalogue.Find(b.Drill)
		if !ok {
			return nil, input.Refuse("drill", "expected a drill of the library, not %q", b.Drill)
		}
		if e.Kind != kind {
			return nil, input.Refuse("drill", "%s is a drill for the %s", e.Name, e.Kind.Model().Name)
		}
		return drill.Set(e.Plan, drill.Settings{Work: float64(b.Seconds)})
	case b.Text != "":
		c := drill.CombinationDrill{Text: b.Text, Stance: combo.Orthodox, Landing: drill.OnReturns,
			Pace: cmp.Or(b.Pace, drill.Combining), Guidance: cmp.Or(b.Guidance, drill.Fading),
			Pause: pauses[cmp.Or(b.Pace, drill.Combining)], Work: float64(b.Seconds)}
		if b.Times > 0 {
			c.Work, c.Repetitions = 0, b.Times
		}
		if kind == rig.Hanging {
			c.Landing = drill.Freely
		}
		line, err := combo.Parse(c.Text)
		if err != nil {
			return nil, err
		}
		c.Text = line.String()
		return c, c.Check()
	}
	return nil, nil
}

// pauses (s) between the repetitions of a combination by its pace: a flow goes on and on, power sets its feet anew.
// Assumed.
var pauses = map[drill.Pace]float64{drill.Flow: 0.75, drill.Combining: 2, drill.Power: 3, drill.Speedy: 0.5,
	drill.OwnRhythm: 1.5}

// Lasting returns the time (s) that a counted block takes, roughly: its reps by the pace, with room to line up, to
// whole five seconds. Of any other block it is its own length.
func (b Block) Lasting() int {
	if b.Times == 0 {
		return b.Seconds
	}
	each := 2.0 // of a squat or the like. Assumed
	if line, err := combo.Parse(b.Text); b.Text != "" && err == nil {
		pace := cmp.Or(b.Pace, drill.Combining)
		each = pauses[pace] + secondsAMove[pace]*float64(len(line.Moves(combo.Orthodox)))
	}
	return 5 * int((float64(b.Times)*each+4.999)/5)
}

// secondsAMove is the time (s) for a move of a combination by its pace, of somebody intermediate (assumed; the floor
// lays it out for whoever stands there).
var secondsAMove = map[drill.Pace]float64{drill.Flow: 0.40, drill.Combining: 0.38, drill.Power: 0.60,
	drill.Speedy: 0.28, drill.OwnRhythm: 0.40}

// Title is a block in a few words: what is thrown, or done.
func (b Block) Title() string {
	switch {
	case b.Activity != "":
		return b.Activity.Doing().Name
	case b.Drill != "":
		if e, ok := catalogue.Find(b.Drill); ok {
			return e.Name
		}
		return b.Drill
	case b.Text != "":
		return b.Text
	}
	return "Own drill"
}
