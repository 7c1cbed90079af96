package words

import (
	"fmt"
)

// A length is written as the gym measures it.
func ExampleUnits_Length() {
	fmt.Println(Metric.Length(1.52), "or", Imperial.Length(1.52))
	// Output: 1.52 m or 5 ft
}

func ExampleCount() {
	fmt.Println(Count(1, "move"), "and", Count(2, "strike"))
	// Output: 1 move and 2 strikes
}
