package run

import (
	"melodromos/core/drill"
	"melodromos/core/input"
)

// Anew corrects what a round was judged by: its clock, its tempo, the delay of its device. What is left out stays.
type Anew struct {
	Clock  drill.Clock `json:"clock,omitempty" doc:"who sets the time"`
	Tempo  float64     `json:"tempo,omitempty" minimum:"0" maximum:"10000" doc:"strikes a minute that were really asked"`
	Delay  *int64      `json:"delayUs,omitempty" minimum:"0" maximum:"1000000" doc:"of the device"`
	Reason string      `json:"reason,omitempty" maxLength:"400"`
}

// changesPlan says whether the plan is laid out anew.
func (a Anew) changesPlan() bool { return a.Clock != "" || a.Tempo != 0 }

// Rejudge lays a round out as it is to be judged from now on, for whoever stood before its bag. What contradicts itself
// is refused by field, and so is a plan whose cues were drawn by lot: they cannot be drawn again.
func (o Opened) Rejudge(a Anew, on drill.Floor) (Opened, error) {
	if !a.changesPlan() {
		if a.Delay == nil {
			return o, input.Refuse("clock", "expected a change: who sets the time, the tempo, or the delay of the device")
		}
		return o, nil
	}
	plan := o.Plan
	switch d := plan.(type) {
	case drill.SpeedBagDrill:
		if a.Clock != "" {
			d.Clock = a.Clock
		}
		if a.Tempo != 0 {
			d.Tempo = a.Tempo
		}
		plan = d
	case drill.CombinationDrill:
		if d.Cues != nil {
			return o, input.Refuse("clock", "expected a round without random cues: they were drawn by lot, and cannot be drawn again")
		}
		if a.Clock != "" {
			d.Clock = a.Clock
		}
		if a.Tempo != 0 {
			d.Tempo, d.Slower = a.Tempo, 0
		}
		plan = d
	}
	if err := plan.Check(); err != nil {
		return o, err
	}
	on.Bag, on.GetReady = o.Bag, o.Timeline.Start.Seconds()
	plays := drill.PlayBeat // that any round can
	if o.Timeline.Clock == plan.KeptBy(o.Bag.Kind()) {
		plays = o.Plays
	}
	prepared, err := Prepare(plan, on, o.By, plays)
	if err != nil {
		return o, err
	}
	prepared.Timeline.Begin(o.Timeline.Start) // the hits were captured by that clock
	return Opened{Bag: o.Bag, Plan: prepared.Plan, Timeline: prepared.Timeline, By: o.By, Plays: prepared.Plays,
		Eased: o.Eased}, nil
}
