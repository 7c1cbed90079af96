package sound

import (
	"fmt"

	"melodromos/core/drill"
)

// Each event of a round has the sound of its key.
func ExampleKey() {
	key := Key(drill.Event{Kind: drill.Bell})
	fmt.Println(key, All()[key].Channel)
	// Output: bell bell
}
