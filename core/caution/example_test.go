package caution

import (
	"fmt"

	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Nobody with a sore wrist strikes a heavy bag.
func ExampleSpare() {
	bag := rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5, AnchorHeight: 2.7}
	spared := Spare([]Type{Wrist}, drill.CombinationDrill{Text: "1-2", Landing: drill.OnReturns},
		drill.Floor{Bag: bag, Ability: trainee.Start(trainee.Beginner)})
	fmt.Println(spared.Held)
	// Output: a sore wrist: no heavy bag
}
