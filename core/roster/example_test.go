package roster

import (
	"fmt"
)

// What somebody does next is one answer, whoever asks.
func ExampleRoster_Next() {
	c := gym(person("ines"))
	p, _, err := c.Next(c.Member("ines"))
	if err != nil {
		panic(err)
	}
	fmt.Printf("%s: %s on the %s. %s\n", p.Trainee, p.Name, p.RigName, p.Why)
	// Output: Ines: Strike once, meet it once on the Quay. First time on this bag: half power, wait for it.
}
