package calc

import (
	"math"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// compile lays a drill document out on one clock. The document carries the rig it is for, and may name a skill band and a
// place: {"rig":{…},"band":"beginner","text":"1-2 | duck - 2",…}, or a speed bag's technique instead of the text.
func compile(o *input.Object) (any, error) {
	seed := uint64(o.WholeOr("seed", 0, math.MaxInt32, 1))
	d := o.Object("drill")
	bag, err := rig.Read(d.Object("rig"))
	if err != nil {
		return nil, err
	}
	names := make([]string, len(trainee.Bands))
	for i, b := range trainee.Bands {
		names[i] = string(b)
	}
	ability := trainee.Start(trainee.Band(d.ChoiceOr("band", string(trainee.Intermediate), names...)))
	place := rig.Place{}
	if d.Has("place") {
		if place, err = rig.ReadPlace(d.Object("place")); err != nil {
			return nil, err
		}
	}
	t, err := timeline(d, bag, ability, place, seed)
	if err != nil {
		return nil, err
	}
	if err := o.Done(); err != nil {
		return nil, err
	}
	return struct {
		Events []drill.Event `json:"events"`
	}{t.Events}, nil
}

func timeline(d *input.Object, bag rig.Rig, ability trainee.Ability, place rig.Place, seed uint64) (drill.Timeline, error) {
	if !d.Has("technique") {
		c, err := drill.ReadCombination(d)
		if err != nil {
			return drill.Timeline{}, err
		}
		t, _, err := drill.CompileCombination(c, bag, ability, place, seed)
		return t, d.Under(err)
	}
	speed, ok := bag.(rig.SpeedBag)
	if !ok {
		return drill.Timeline{}, d.Under(input.Refuse("rig.kind", `expected "speed": techniques are the speed bag's`))
	}
	basic, err := drill.Read(d)
	if err != nil {
		return drill.Timeline{}, err
	}
	t, err := drill.Compile(basic, speed)
	return t, d.Under(err)
}
