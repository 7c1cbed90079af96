package input

import (
	"fmt"

	"melodromos/core/words"
)

// A refusal keeps its figures, and is told in whichever units the reader uses.
func ExampleLimits_Check() {
	chain := Limits{Min: 0.1, Max: 2, Unit: "m"}
	err := chain.Check("chain", 3)
	fmt.Println(err)
	fmt.Println(err.(*Error).In(words.Imperial))
	// Output:
	// chain: expected a number from 0.1 to 2 m, not 3 m
	// chain: expected a number from 3.9 in to 6 ft 6½ in, not 9 ft 10 in
}
