package run

import (
	"fmt"
	"time"
)

// A round's clock stands until it is started, and again while it is paused.
func ExampleRoundClock_Step() {
	at := time.Date(2026, 3, 20, 18, 0, 0, 0, time.UTC)
	c := New(at)
	c, _ = c.Step(Start, 0, at)
	c, _ = c.Step(Pause, 90_000_000, at.Add(90*time.Second))
	fmt.Println(c.State, c.Now(at.Add(time.Hour)).Seconds())
	// Output: paused 90
}
