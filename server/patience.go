package server

import (
	"context"
	"errors"
	"time"
)

// longest is how long one answer may take to work out.
const longest = 2 * time.Second

var errTooLong = errors.New("takes longer to work out than anybody waits")

// stopper tells long loops when to end: when whoever asked has gone, or when they have gone on for longer than anybody waits.
func stopper(ctx context.Context) func() error {
	var began time.Time
	return func() error {
		if err := ctx.Err(); err != nil {
			return err
		}
		now := time.Now()
		if began.IsZero() {
			began = now
		}
		if now.Sub(began) > longest {
			return errTooLong
		}
		return nil
	}
}
