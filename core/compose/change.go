package compose

import (
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
)

// InTechnique gives a drill in another technique. A combination has none, and makes way for the first drill on the bag.
func InTechnique(p drill.Plan, to drill.Technique, bag rig.Rig) (drill.Plan, error) {
	speed, ok := bag.(rig.SpeedBag)
	if !ok {
		return nil, input.Refuse("rigId", "expected a speed bag: on this bag a combination is programmed")
	}
	d, ok := p.(drill.SpeedBagDrill)
	if !ok {
		var err error
		if d, err = drill.First(speed); err != nil {
			return nil, err
		}
	}
	d, err := d.With(to, speed)
	return d, input.Under("doc", err)
}

// Recount gives a line with another return named after one of its strikes; a count of 0 names none.
func Recount(text string, move, count int) (string, error) {
	line, err := combo.Parse(text)
	if err != nil {
		return "", err
	}
	changed, err := line.Counted(move, count)
	return changed.String(), err
}
