package erasing

import (
	"fmt"
)

// A person who is erased is taken out of what others wrote.
func ExampleOf() {
	fmt.Println(Of("Tobias Amadi-Rein").Parts("First touches for Tobias"))
	// Output: First touches for somebody
}
