// Package door keeps the doors of the server that are open to everybody: who tries too many passwords waits, who asks
// the calculator too much is put off, and nothing is worked on for longer than anybody waits. It knows no HTTP.
package door

import (
	"context"
	"errors"
	"time"
)

// Longest is how long one answer may take to work out.
const Longest = 2 * time.Second

// ErrTooLong ends what takes longer than Longest.
var ErrTooLong = errors.New("takes longer to work out than anybody waits")

// Stopper tells long loops when to end: when whoever asked has gone, or when they have gone on for longer than anybody
// waits.
func Stopper(ctx context.Context) func() error {
	var began time.Time
	return func() error {
		if err := ctx.Err(); err != nil {
			return err
		}
		now := time.Now()
		if began.IsZero() {
			began = now
		}
		if now.Sub(began) > Longest {
			return ErrTooLong
		}
		return nil
	}
}
