package catalogue

import (
	"fmt"
)

func ExampleFind() {
	e, _ := Find("speed.once")
	fmt.Println(e.Name, "on the", e.Kind.Name())
	// Output: Strike once, meet it once on the speed bag
}
