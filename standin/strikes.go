package standin

import (
	"math"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Strikes lists the strikes of a plan that has been laid out, those beyond the closing bell as well, as a sensor is
// told of them.
func Strikes(t drill.Timeline, p drill.Plan, kind rig.Kind) []Planned {
	t.Events = append(append([]drill.Event(nil), t.Events...), t.Beyond...)
	places, held, bits := inMind(p)
	list := []Planned{}
	change, defended := between(t.Events)
	senses := level.Common
	senses.Unseen = p.ByEar()
	for _, s := range level.Strikes(t, p.ReachTime(kind), senses) {
		if s.Slip {
			continue
		}
		k := Planned{
			At: s.At, Window: s.Window, Hand: string(s.Hand), Age: s.Age, Rep: s.Rep, Still: s.Still, Late: s.Late,
			Cue: s.Cue, Fresh: s.Fresh,
			Count: s.Count, Launch: s.Launch, Share: s.Share, Ahead: s.Ahead, Settle: s.Settle,
		}
		if s.Cue > 0 {
			k.Choice = bits
		} else if s.Move >= 0 && s.Move < len(places) {
			k.Place, k.Moves = places[s.Move], held
		}
		k.Change, k.Defended = change[len(list)], defended[len(list)]
		list = append(list, k)
	}
	return list
}

// inMind returns the place of each move among those that are held in mind, as far as calls do not help, and
// the time (s) that the choice between its unforeseen cues takes.
func inMind(p drill.Plan) (places []int, held float64, choice float64) {
	c, ok := p.(drill.CombinationDrill)
	if !ok {
		return nil, 0, 0
	}
	if c.Cues != nil {
		_, n := c.Cues.Need(0)
		choice = trainee.PerBit * math.Log2(float64(n))
	}
	line, err := combo.Parse(c.Text)
	if err != nil {
		return nil, 0, choice
	}
	places, _, n := combo.Fold(line.Moves(c.Stance))
	help := map[drill.Guidance]float64{drill.Called: 1.5, drill.Partly: 1.25, drill.Fading: 1.25,
		drill.Alone: 1}[c.Guidance]
	for i := range places {
		places[i] = int(float64(places[i]) / help)
	}
	return places, float64(n) / help, choice
}

// between tells of each strike whether another hand begins its set, and whether a defence stands before it.
func between(events []drill.Event) (change, defended []bool) {
	defence := false
	var before drill.Event
	changes := map[drill.Micros]bool{}
	for _, e := range events {
		if e.Kind == drill.Change {
			changes[e.At] = true
		}
	}
	for _, e := range events {
		switch {
		case e.Kind == drill.Doing && !e.Feet && e.Move >= 0:
			defence = true
		case e.Kind == drill.Strike:
			change = append(change, changes[e.At])
			defended = append(defended, defence && e.Rep == before.Rep && len(defended) > 0)
			before, defence = e, false
		}
	}
	return change, defended
}
