package drill

import (
	"bytes"
	"encoding/json"
	"math"

	"melodromos/core/combo"
	"melodromos/core/rig"
)

// half is the effort at which everything is learned (common practice). easily is the share of what the hands can do
// that a drill whose tempo is left open asks of them at the most up to half power; over it the share grows with the
// effort. Assumed.
const half, easily = 0.5, 0.6

// For is the drill with its tempo, where that is left open: the one of its effort on this bag for whoever stands there,
// as far as their hands go, in whole strikes a minute.
func (d SpeedBagDrill) For(on Floor) (Plan, error) {
	bag, ok := on.Bag.(rig.SpeedBag)
	if d.Tempo != 0 || !ok {
		return d, nil
	}
	return d.solved(bag, on)
}

func (d SpeedBagDrill) solved(bag rig.SpeedBag, on Floor) (SpeedBagDrill, error) {
	effort := d.Effort
	if effort == 0 {
		effort = half
	}
	share := math.Min(1, easily*math.Max(1, effort/half))
	a, err := bag.AtFist(effort*on.Ability.FistSpeed, d.Meeting())
	if err != nil {
		return d, err
	}
	hands := on.Ability.SameHand
	if d.Technique == Alternating || d.Technique == FistRoll {
		hands = on.Ability.Alternate
	}
	wanted := math.Round(math.Min(a.Tempo, share*60/hands))
	d.Tempo = math.Min(math.Max(wanted, math.Ceil(a.Limits.Slowest)), math.Floor(a.Limits.Fastest))
	if fitting, err := Solve(d, bag); err == nil && !fitting.Feasible { // a double punch, a trap: their own limits
		d.Tempo = math.Min(math.Max(d.Tempo, math.Ceil(fitting.Limits.Slowest)), math.Floor(fitting.Limits.Fastest))
	}
	return d, d.Check()
}

// For is the combination with force, tempo and pull, where they are left open: by its effort or pace and what whoever
// stands there can do.
func (c CombinationDrill) For(on Floor) (Plan, error) { return c.With(on.Bag, on.Ability), nil }

// Settings hold the figures that a drill leaves open until somebody has it on a bag. A figure of 0 is left as the drill
// has it.
type Settings struct {
	Tempo       float64 `json:"tempo,omitempty" doc:"strikes a minute; of a combination the goal inside it"`
	Slower      float64 `json:"slower,omitempty" doc:"strikes a minute: an acceptable slower tempo"`
	Fist        float64 `json:"fist,omitempty" doc:"m/s of an ordinary strike"`
	Pull        float64 `json:"pull,omitempty" doc:"m, of a slip bag"`
	Work        float64 `json:"work,omitempty" doc:"s from bell to bell, where it is not the drill's own"`
	Strikes     int     `json:"strikes,omitempty" doc:"to do, where it is not the drill's own number"`
	Repetitions int     `json:"repetitions,omitempty" doc:"to do, where it is not the drill's own number"`
}

// Open parts a plan into the drill, with force, tempo, pull and stance left open, and what they were set to; a stance
// belongs to whoever does it. How long a round lasts stays the drill's.
func Open(p Plan) (Plan, Settings) {
	switch d := p.(type) {
	case SpeedBagDrill:
		s := Settings{Tempo: d.Tempo}
		d.Tempo = 0
		return d, s
	case CombinationDrill:
		s := Settings{Tempo: d.Tempo, Slower: d.Slower, Fist: d.Fist, Pull: d.Pull}
		d.Tempo, d.Slower, d.Fist, d.Pull, d.Stance = 0, 0, 0, 0, combo.Orthodox
		return d, s
	}
	return p, Settings{}
}

// Set is a drill with settings. What contradicts itself then is refused, naming the field.
func Set(p Plan, s Settings) (Plan, error) {
	switch d := p.(type) {
	case SpeedBagDrill:
		if s.Tempo != 0 {
			d.Tempo = s.Tempo
		}
		d.Work, d.Strikes = lasts(d.Work, d.Strikes, s.Work, s.Strikes)
		return d, d.Check()
	case CombinationDrill:
		for _, f := range []struct {
			to *float64
			by float64
		}{{&d.Tempo, s.Tempo}, {&d.Slower, s.Slower}, {&d.Fist, s.Fist}, {&d.Pull, s.Pull}} {
			if f.by != 0 {
				*f.to = f.by
			}
		}
		d.Work, d.Repetitions = lasts(d.Work, d.Repetitions, s.Work, s.Repetitions)
		return d, d.Check()
	}
	return p, nil
}

// InStance is a drill as somebody of a stance does it.
func InStance(p Plan, stance combo.Stance) Plan {
	if c, ok := p.(CombinationDrill); ok {
		c.Stance = stance
		return c
	}
	return p
}

// InSchool is a drill with its calls by the names of the punches or by numbers, and its slips by inside and outside or
// by lead and rear.
func InSchool(p Plan, v combo.Naming) Plan {
	if c, ok := p.(CombinationDrill); ok {
		c.Names, c.Inside = v.Names, v.Inside
		return c
	}
	return p
}

// Between gives the settings that make a plan of a drill; false where the two differ in more than that.
func Between(base, plan Plan) (Settings, bool) {
	base, _ = Open(base)
	open, s := Open(plan)
	baseWork, baseCount := length(base)
	work, count := length(plan)
	if work != baseWork || count != baseCount {
		s.Work = work
		if _, ok := plan.(SpeedBagDrill); ok {
			s.Strikes = count
		} else {
			s.Repetitions = count
		}
		if open = lastingFor(open, baseWork, baseCount); open == nil {
			return s, false
		}
	}
	a, err := json.Marshal(base)
	b, other := json.Marshal(open)
	return s, err == nil && other == nil && bytes.Equal(a, b)
}

// length is a round's length, as a time (s) or as a number of repetitions.
func length(p Plan) (work float64, count int) {
	switch d := p.(type) {
	case SpeedBagDrill:
		return d.Work, d.Strikes
	case CombinationDrill:
		return d.Work, d.Repetitions
	}
	return 0, 0
}

func lastingFor(p Plan, work float64, count int) Plan {
	switch d := p.(type) {
	case SpeedBagDrill:
		d.Work, d.Strikes = work, count
		return d
	case CombinationDrill:
		d.Work, d.Repetitions = work, count
		return d
	}
	return nil
}

// lasts returns the length of a round: the one that is set, or else the drill's.
func lasts(work float64, count int, setWork float64, setCount int) (float64, int) {
	if setWork != 0 || setCount != 0 {
		return setWork, setCount
	}
	return work, count
}
