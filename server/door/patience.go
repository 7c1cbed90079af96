// Package door keeps the doors of the server that are open to everybody: who tries too many passwords waits, who asks
// the calculator too much is put off, and nothing is worked on for longer than anybody waits. It knows no HTTP.
package door

import (
	"context"
	"errors"
	"sync"
	"time"
)

// Longest limits the computing time of one answer.
const Longest = 2 * time.Second

// ErrTooLong ends what takes longer than Longest.
var ErrTooLong = errors.New("takes longer to work out than anybody waits")

// Stopper tells long loops when to end: when whoever asked has gone, or when they have gone on for longer than anybody
// waits, counted from the first question, so that waiting for the database is not charged. Several goroutines may ask.
func Stopper(ctx context.Context) func() error {
	began := sync.OnceValue(time.Now)
	return func() error {
		if err := ctx.Err(); err != nil {
			return err
		}
		if time.Since(began()) > Longest {
			return ErrTooLong
		}
		return nil
	}
}
