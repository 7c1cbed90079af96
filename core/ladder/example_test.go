package ladder

import (
	"fmt"

	"melodromos/core/rig"
)

// The ladder of a bag begins with what a first-timer can do.
func ExampleRungs() {
	for _, r := range Rungs(rig.DoubleEnd, BasicFirst)[:3] {
		fmt.Println(r.Key)
	}
	// Output:
	// doubleEnd.jab
	// doubleEnd.later
	// doubleEnd.second
}
