package account

import (
	"context"
	"errors"
	"strings"
	"sync"
	"testing"
	"time"
)

var ctx = context.Background()

func TestLimits(t *testing.T) {
	for _, c := range []struct {
		check  func(string) error
		value  string
		refuse bool
	}{
		{Password, "ten letter", false}, {Password, "nine char", true}, {Password, strings.Repeat("é", 200), false},
		{Password, strings.Repeat("a", 201), true},
		{Email, "a@b", false}, {Email, "a b@c.example", true}, {Email, "@b", true}, {Email, "a@", true},
		{Email, "nobody", true}, {Email, strings.Repeat("a", 250) + "@b.c", false},
		{Email, strings.Repeat("a", 251) + "@b.c", true}, {Email, "a\x00@b", true},
		{Zone, "Europe/Lisbon", false}, {Zone, "Nowhere", true}, {Zone, "", true}, {Units, "imperial", false},
		{Units, "cubits", true},
	} {
		if err := c.check(c.value); (err != nil) != c.refuse {
			t.Errorf("%.20q: %v, refused %v", c.value, err, c.refuse)
		}
	}
}

func TestHash(t *testing.T) {
	hash, err := Hash(ctx, "a long password")
	if err != nil {
		t.Fatal(err)
	}
	for password, want := range map[string]bool{"a long password": true, "a long passwore": false} {
		for _, by := range []Browser{Stranger, Known} {
			if got, err := Matches(ctx, password, hash, by); got != want || err != nil {
				t.Errorf("%q: %v %v", password, got, err)
			}
		}
	}
	if got, err := Matches(ctx, "nobody has this password", "", Stranger); got || err != nil {
		t.Errorf("no hash: %v %v", got, err)
	}
}

// No more passwords are checked at once than there are places, however many ask; a browser that is known has a place of
// its own.
func TestPlaces(t *testing.T) {
	var held []func()
	for range strangersAtOnce {
		done, err := turn(ctx, strangers)
		if err != nil {
			t.Fatal(err)
		}
		held = append(held, done)
	}
	short, cancel := context.WithTimeout(ctx, 20*time.Millisecond)
	defer cancel()
	if _, err := Matches(short, "x", "", Stranger); !errors.Is(err, ErrBusy) {
		t.Errorf("one more stranger: %v", err)
	}
	if _, err := Matches(ctx, "x", "", Known); err != nil {
		t.Errorf("a known browser: %v", err)
	}
	for _, done := range held {
		done()
	}
	var all sync.WaitGroup
	for range 2 * strangersAtOnce {
		all.Go(func() {
			if _, err := Matches(ctx, "x", "", Stranger); err != nil {
				t.Errorf("in turn: %v", err)
			}
		})
	}
	all.Wait()
}
