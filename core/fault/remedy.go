package fault

import (
	"math"
	"strings"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
)

// RemedyDrill is a drill that mends a fault, for whoever had it on the bag that they had it on.
type RemedyDrill struct {
	Title string
	Plan  drill.Plan
}

// remedyWork (s) is how long a drill lasts that mends one thing. Assumed: a minute is what a coach gives it.
const remedyWork = 60

// Mend gives the drill for a fault of a round with a plan, laid out on the floor to see that it can be done there;
// false where none can.
func Mend(f Fault, p drill.Plan, on drill.Floor) (RemedyDrill, bool) {
	for _, o := range offers(f, p, on.Bag.Kind()) {
		if plan, err := o.Plan.For(on); err == nil {
			if _, err = plan.Lay(on); err == nil {
				return o, true
			}
		}
	}
	return RemedyDrill{}, false
}

// offers are drills for a fault, the best first.
func offers(f Fault, p drill.Plan, kind rig.Kind) []RemedyDrill {
	var list []RemedyDrill
	e := about(f.Code)
	switch d := p.(type) {
	case drill.SpeedBagDrill:
		from := speedRemedies{d, drill.Hand(f.hand)}
		if e.technique == nil {
			list = []RemedyDrill{{"The same, a little softer", from.slower(0.95)}, {"One hand", from.oneHand()}}
		} else {
			list = e.technique(from)
		}
	case drill.CombinationDrill:
		from := lineRemedies{d, drill.Hand(f.hand)}
		if e.combination == nil {
			list = []RemedyDrill{{"The same, in an easy flow", from.flowing()}}
		} else {
			list = e.combination(from)
		}
	}
	if first := drill.FirstLine(kind, rig.Place{}); kind != rig.Speed { // begin again with what is easiest
		list = append(list, RemedyDrill{"The first touches again", first})
	}
	return list
}

// speedRemedies makes drills out of one on the speed bag; hand is the weaker one, "" where none is.
type speedRemedies struct {
	drill.SpeedBagDrill
	hand drill.Hand
}

// short is the same for a minute.
func (r speedRemedies) short() drill.SpeedBagDrill {
	d := r.SpeedBagDrill
	d.Work, d.Strikes, d.Scheme = remedyWork, 0, drill.Steady
	return d
}

// slower is the same for a minute at a share of its tempo.
func (r speedRemedies) slower(share float64) drill.SpeedBagDrill {
	d := r.short()
	d.Tempo = math.Round(share * r.Tempo)
	return d
}

// oneHandAtTempo is one hand alone, at the tempo of the drill.
func (r speedRemedies) oneHandAtTempo() drill.SpeedBagDrill {
	d := r.short()
	d.Technique, d.PerHand, d.Rebounds, d.StrikeAngle = drill.OneHand, 0, 3, 25
	if r.hand == drill.Lead || r.hand == drill.Rear {
		d.FirstHand = r.hand
	}
	return d
}

// oneHand is one hand alone, at the bag's own tempo.
func (r speedRemedies) oneHand() drill.SpeedBagDrill {
	d := r.oneHandAtTempo()
	d.Tempo = 0
	return d
}

// shorter is the same in two thirds of its length.
func (r speedRemedies) shorter() drill.SpeedBagDrill {
	d := r.SpeedBagDrill
	if d.Strikes > 0 {
		d.Strikes = max(1, d.Strikes*2/3)
	}
	d.Work = math.Round(d.Work * 2 / 3)
	return d
}

// lineRemedies makes drills out of a combination; hand is the weaker one, "" where none is.
type lineRemedies struct {
	drill.CombinationDrill
	hand drill.Hand
}

// short is the same for a minute, without cues and targets.
func (r lineRemedies) short() drill.CombinationDrill {
	c := r.CombinationDrill
	c.Work, c.Repetitions, c.Cues, c.Fist, c.Tempo, c.Slower = remedyWork, 0, nil, 0, 0, 0
	return c
}

// line is another line for a minute, on every return.
func (r lineRemedies) line(text string) drill.CombinationDrill {
	c := r.short()
	c.Text, c.Rhythm, c.Guard, c.NoTouch, c.EarOnly = text, drill.EveryReturn, drill.Touched, false, false
	c.Pace, c.Effort, c.Range = drill.Combining, 0, ""
	return c
}

// distance is the jab alone at little effort.
func (r lineRemedies) distance() drill.CombinationDrill {
	c := r.line("1")
	c.Effort = 0.4
	return c
}

// softer is the same for a minute at three quarters of its effort.
func (r lineRemedies) softer() drill.CombinationDrill {
	c := r.short()
	c.Effort = math.Round(100*math.Max(0.2, 0.75*r.EffortShare())) / 100
	return c
}

// called is the same for a minute, every move called.
func (r lineRemedies) called() drill.CombinationDrill {
	c := r.short()
	c.Guidance = drill.Called
	return c
}

// flowing is the same for a minute, called and in an easy flow.
func (r lineRemedies) flowing() drill.CombinationDrill {
	c := r.called()
	c.Pace, c.Effort = drill.Flow, 0
	return c
}

// shorter is the same in two thirds of its length.
func (r lineRemedies) shorter() drill.CombinationDrill {
	c := r.CombinationDrill
	if c.Repetitions > 0 {
		c.Repetitions = max(1, c.Repetitions*2/3)
	}
	c.Work = math.Round(c.Work * 2 / 3)
	return c
}

// ended is a combination whose every part ends with a move.
func ended(c drill.CombinationDrill) drill.CombinationDrill {
	line, err := combo.Parse(c.Text)
	if err != nil {
		return c
	}
	if moves := line.Moves(c.Stance); len(moves) > 0 && moves[len(moves)-1].Kind() == combo.Strike {
		c.Text += " - slip " + string(moves[len(moves)-1].Hand().Other())
	}
	return c
}

// roundDefence is the first defence of a combination with the strikes on either side of it; "" where there is none.
func roundDefence(c drill.CombinationDrill) string {
	line, err := combo.Parse(c.Text)
	if err != nil {
		return ""
	}
	moves := line.Moves(c.Stance)
	for i := 1; i+1 < len(moves); i++ {
		if moves[i].Kind() == combo.Defence && moves[i-1].Kind() == combo.Strike && moves[i+1].Kind() == combo.Strike {
			parts := []string{moves[i-1].Move.String(), moves[i].Move.String(), moves[i+1].Move.String()}
			return strings.Join(parts, " - ")
		}
	}
	return ""
}
