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
	switch d := p.(type) {
	case drill.SpeedBagDrill:
		list = technique(f, d)
	case drill.CombinationDrill:
		list = combination(f, d, kind)
	}
	if first := drill.FirstLine(kind, rig.Place{}); kind != rig.Speed { // begin again with what is easiest
		list = append(list, RemedyDrill{"The first touches again", first})
	}
	return list
}

// technique offers for the speed bag.
func technique(f Fault, d drill.SpeedBagDrill) []RemedyDrill {
	short := d
	short.Work, short.Strikes, short.Scheme = remedyWork, 0, drill.Steady
	one := short
	one.Technique, one.PerHand, one.Rebounds = drill.OneHand, 0, 3
	one.StrikeAngle = 25
	if f.hand == string(drill.Lead) || f.hand == string(drill.Rear) {
		one.FirstHand = drill.Hand(f.hand)
	}
	open := one
	open.Tempo = 0
	easy := short
	easy.Tempo = math.Round(0.95 * d.Tempo)
	with := func(plan drill.SpeedBagDrill, change func(*drill.SpeedBagDrill)) drill.SpeedBagDrill {
		change(&plan)
		return plan
	}
	switch f.Code {
	case Waiting:
		return []RemedyDrill{
			{"One hand, by ear", with(one, func(p *drill.SpeedBagDrill) { p.EarOnly = true })},
			{"One hand, by ear", with(open, func(p *drill.SpeedBagDrill) { p.EarOnly = true })},
		}
	case LoopsGrow:
		return []RemedyDrill{
			{"The same, slower", with(short, func(p *drill.SpeedBagDrill) { p.Tempo = math.Round(0.9 * d.Tempo) })},
			{"The same, a little slower", easy},
			{"One hand", open},
		}
	case Chasing:
		return []RemedyDrill{
			{"Five rebounds: let it come", with(open, func(p *drill.SpeedBagDrill) { p.Rebounds = 5 })},
			{"One hand", open},
		}
	case ChangeGap:
		return []RemedyDrill{{"Longer before the change", with(short, func(p *drill.SpeedBagDrill) {
			p.PerHand = min(drill.MaxPerHand, 2*max(1, d.PerHand))
		})}, {"One hand", open}}
	case WeakHand:
		return []RemedyDrill{{"The " + f.hand + " hand alone", one}, {"The " + f.hand + " hand alone", open}}
	case HeardAsTwo:
		return []RemedyDrill{{"Double punch, five rebounds", with(short, func(p *drill.SpeedBagDrill) {
			p.Rebounds, p.Tempo = 5, 0
		})}, {"Double punch, one at a time", with(short, func(p *drill.SpeedBagDrill) { p.PerHand, p.Tempo = 1, 0 })}}
	case Fading:
		return []RemedyDrill{{"The same, shorter", shorter(d)}}
	case Lost:
		return []RemedyDrill{{"One hand until you have it", one}, {"One hand until you have it", open}}
	}
	return []RemedyDrill{{"The same, a little softer", easy}, {"One hand", open}}
}

// shorter is a drill of two thirds of its length.
func shorter(d drill.SpeedBagDrill) drill.SpeedBagDrill {
	if d.Strikes > 0 {
		d.Strikes = max(1, d.Strikes*2/3)
	}
	d.Work = math.Round(d.Work * 2 / 3)
	return d
}

// combination offers for the other bags, and for combinations on the speed bag.
func combination(f Fault, c drill.CombinationDrill, kind rig.Kind) []RemedyDrill {
	short := c
	short.Work, short.Repetitions, short.Cues, short.Fist, short.Tempo = remedyWork, 0, nil, 0, 0
	short.Slower = 0
	line := func(text string) drill.CombinationDrill {
		l := short
		l.Text, l.Rhythm, l.Guard, l.NoTouch, l.EarOnly = text, drill.EveryReturn, drill.Touched, false, false
		l.Pace, l.Effort, l.Range = drill.Combining, 0, ""
		return l
	}
	jab := line("1")
	soft := short
	soft.Effort = math.Round(100*math.Max(0.2, 0.75*c.EffortShare())) / 100
	called := short
	called.Guidance = drill.Called
	calm := called
	calm.Pace, calm.Effort = drill.Flow, 0
	switch f.Code {
	case Waiting:
		return []RemedyDrill{{"The jab on every return", jab}}
	case Chasing:
		second := short
		second.Rhythm = drill.SecondReturn
		return []RemedyDrill{
			{"Every second return: let it come", second},
			{"Jab, let one go, jab", line("1 - wait - 1")},
			{"The jab alone", jab},
		}
	case Rushing:
		still := soft
		still.Pause = math.Min(60, c.Pause+2)
		return []RemedyDrill{{"The same, softer, with a longer wait", still}}
	case TooHard:
		return []RemedyDrill{{"The same, softer", soft}}
	case WeakHand:
		one := map[string]string{string(drill.Lead): "1", string(drill.Rear): "2"}[f.hand]
		return []RemedyDrill{{"The " + f.hand + " hand alone", line(one)}}
	case Crowded, Reaching, OffLine:
		jab.Effort = 0.4
		title := map[Code]string{OffLine: "The jab alone, straight"}[f.Code]
		if title == "" {
			title = "The jab alone, for the distance"
		}
		return []RemedyDrill{{title, jab}}
	case Outbound:
		return []RemedyDrill{{"The jab as it comes", jab}, {"The jab alone", line("1")}}
	case OnePace:
		burst := line("1-2 | 1-2-1-2-1-2 | 1-2")
		burst.Landing, burst.Pace, burst.Pause = drill.Freely, drill.Speedy, 5
		return []RemedyDrill{{"Slow, burst, slow", burst}}
	case NoDefence:
		return []RemedyDrill{{"The same, every move called", ended(called)}}
	case LateAfterDefence:
		if text := roundDefence(c); text != "" {
			part := called
			part.Text = text
			return []RemedyDrill{{"Out of the punch before it", part}, {"The same, every move called", called}}
		}
		return []RemedyDrill{{"The same, every move called", called}}
	case Fading:
		return []RemedyDrill{{"The same, shorter", shortened(c)}}
	case Lost:
		return []RemedyDrill{{"The jab until you have it", jab}}
	case FeetPlanted:
		feet := calm
		feet.Text = c.Text + " - step back"
		return []RemedyDrill{{"Step out of it each time", feet}, {"The same, in an easy flow", calm}}
	case Between:
		return []RemedyDrill{{"Body, then head", line("1b-2")}, {"The same, in an easy flow", calm}}
	case Grabbing:
		stop := line("2 - stop 1 - 2")
		stop.Landing = drill.OnReturns
		return []RemedyDrill{{"Stop it with a jab", stop}, {"The same, in an easy flow", calm}}
	}
	return []RemedyDrill{{"The same, in an easy flow", calm}}
}

// shortened is a combination of two thirds of its length.
func shortened(c drill.CombinationDrill) drill.CombinationDrill {
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
