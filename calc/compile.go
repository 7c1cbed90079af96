package calc

import (
	"context"
	"math"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// readDrill reads a drill document that carries the rig it is for, and may name a skill band and a place:
// {"rig":{…},"band":"beginner","text":"1-2 | duck - 2",…}, or a speed bag's technique instead of the text.
func readDrill(ctx context.Context, d *input.Object) (drill.Plan, drill.Floor, error) {
	floor := drill.Floor{Seed: 1, Stop: ctx.Err}
	bag, err := rig.Read(d.Object("rig"))
	if err != nil {
		return nil, floor, err
	}
	floor.Theirs = d.Has("band")
	floor.Bag, floor.Ability = bag, trainee.Start(readBand(d))
	if d.Has("place") {
		if floor.Place, err = rig.ReadPlace(d.Object("place")); err != nil {
			return nil, floor, err
		}
	}
	if _, ok := bag.(rig.SpeedBag); d.Has("technique") && !ok {
		return nil, floor, d.Under(input.Refuse("rig.kind", `expected "speed": techniques are the speed bag's`))
	}
	var plan drill.Plan
	if d.Has("technique") {
		if !d.Has("tempo") { // the calculator answers for a tempo; only a gym's drill leaves it open
			d.Fail("tempo", "missing; expected %s", drill.TempoLimits)
		}
		plan, err = drill.Read(d)
	} else {
		plan, err = drill.ReadCombination(d)
	}
	return plan, floor, err
}

func readBand(o *input.Object) trainee.Band {
	names := make([]string, len(trainee.Bands))
	for i, b := range trainee.Bands {
		names[i] = string(b)
	}
	return trainee.Band(o.ChoiceOr("band", string(trainee.Intermediate), names...))
}

// compile lays a drill document out on one clock.
func compile(ctx context.Context, o *input.Object) (any, error) {
	seed := uint64(o.WholeOr("seed", 0, math.MaxInt32, 1))
	d := o.Object("drill")
	plan, floor, err := readDrill(ctx, d)
	if err != nil {
		return nil, err
	}
	if err := o.Done(); err != nil {
		return nil, err
	}
	floor.Seed = seed
	t, err := plan.Lay(floor)
	if err != nil {
		return nil, d.Under(err)
	}
	return struct {
		Events []drill.Event `json:"events"`
	}{t.Events}, nil
}
