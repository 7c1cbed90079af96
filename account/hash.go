package account

import (
	"context"
	"errors"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"
	"golang.org/x/sync/semaphore"
)

// What is hashed at once. Each hash takes 64 MiB (argon2id with its library's parameters, one pass, which RFC 9106
// allows), so that all sign-ins together take 192 MiB at most: two hashes for whoever asks, and one that is kept for
// browsers that have signed in before, which a flood of strangers cannot hold up.
const (
	strangersAtOnce = 2
	knownAtOnce     = 1
	patience        = 5 * time.Second // for a turn
)

// cost is the work of a hash. It stands in each hash, so that those of another cost match, too.
var cost = argon2id.DefaultParams

// Light makes each new hash a sixtieth of the work: for tests about something else, never where real passwords are
// kept.
func Light() {
	cost = &argon2id.Params{Memory: 1 << 10, Iterations: 1, Parallelism: 1, SaltLength: 16, KeyLength: 32}
}

// ErrBusy says that too many passwords are being checked already.
var ErrBusy = errors.New("too many sign-ins at once")

var (
	strangers = semaphore.NewWeighted(strangersAtOnce)
	known     = semaphore.NewWeighted(knownAtOnce)
)

// turn waits for a place among those that hash.
func turn(ctx context.Context, places *semaphore.Weighted) (func(), error) {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	if places.Acquire(ctx, 1) != nil {
		return nil, ErrBusy
	}
	return func() { places.Release(1) }, nil
}

// Hash makes the hash that is stored of a password. ErrBusy where no turn came in time.
func Hash(ctx context.Context, password string) (string, error) {
	done, err := turn(ctx, strangers)
	if err != nil {
		return "", err
	}
	defer done()
	return argon2id.CreateHash(password, cost)
}

// Browser is who tries a password, by whose queue it waits in.
type Browser int

// A browser that has signed in before does not wait behind those that have not.
const (
	Stranger Browser = iota
	Known
)

// Matches compares a password with a hash, for a browser. An empty hash is compared like any other, so
// that the time of an answer does not tell which addresses have an account. ErrBusy where no turn came in time.
func Matches(ctx context.Context, password, hash string, by Browser) (bool, error) {
	places := strangers
	if by == Known {
		places = known
	}
	done, err := turn(ctx, places)
	if err != nil {
		return false, err
	}
	defer done()
	if hash == "" {
		_, err = argon2id.ComparePasswordAndHash(password, nobody())
		return false, err
	}
	return argon2id.ComparePasswordAndHash(password, hash)
}

var nobody = sync.OnceValue(func() string {
	h, err := argon2id.CreateHash("nobody has this password", cost)
	if err != nil {
		panic(err) // no randomness: nothing can be kept safe
	}
	return h
})
