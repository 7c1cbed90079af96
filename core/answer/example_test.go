package answer

import (
	"fmt"
	"math"
)

// A figure that is not known is sent as null, a list that is empty as an empty list.
func Example() {
	window, bag := Known(0.037), Known(math.NaN())
	fmt.Println(*window, bag == nil)
	fmt.Println(List[int](nil) != nil)
	// Output:
	// 0.037 true
	// true
}
