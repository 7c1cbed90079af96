package door

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"sync"
	"testing"
	"time"
)

// Wrong tries make whoever made them wait, longer each time and never for good; right ones do not count.
func TestTries(t *testing.T) {
	now := time.Now()
	try := NewTries()
	try.Now = func() time.Time { return now }
	keys := map[string]Allowance{"k": {Free: 3, Most: 8 * time.Second}}
	for range 30 { // right ones do not count
		right, wait := try.Begin(keys)
		if wait > 0 {
			t.Fatal("held up after right tries")
		}
		right()
	}
	var waits []string
	for range 9 {
		_, wait := try.Begin(keys)
		for wait > 0 {
			now = now.Add(wait - time.Millisecond)
			if _, more := try.Begin(keys); more != time.Millisecond {
				t.Fatalf("a try that has to wait counts: %s", more)
			}
			waits = append(waits, wait.String())
			now = now.Add(time.Millisecond)
			_, wait = try.Begin(keys)
		}
	}
	if got := strings.Join(waits, " "); got != "1s 2s 4s 8s 8s 8s" {
		t.Errorf("waits %s", got)
	}
	now = now.Add(forgotten + time.Second)
	right, wait := try.Begin(keys)
	if wait > 0 {
		t.Fatal("not forgotten")
	}
	right("k")
	if len(try.known) != 0 {
		t.Errorf("after the right password %v is kept", try.known)
	}
	for i := range mostTried + 10 {
		try.Begin(map[string]Allowance{fmt.Sprint(i): ForAddress})
	}
	if len(try.known) > mostTried {
		t.Errorf("%d are kept", len(try.known))
	}
	for a, b := range map[string]string{"203.0.113.7": "203.0.113.7", "::ffff:203.0.113.7": "203.0.113.7",
		"2001:db8:1:2:3::4": "2001:db8:1:2::/64", "fe80::1%eth0": "fe80::/64", "pipe": "pipe"} {
		if got := Network(a); got != b {
			t.Errorf("%s is of %s, want %s", a, got, b)
		}
	}
}

// The calculator leaves a processor to the others, and nobody's questions take all of it.
func TestGate(t *testing.T) {
	g := NewGate()
	a, leave, _ := g.Enter("a")
	for range askedAtOnce - 1 {
		if _, _, why := g.Enter("a"); why != "" {
			t.Fatal(why)
		}
	}
	if _, _, why := g.Enter("a"); !strings.Contains(why, "at once") {
		t.Errorf("one more at once: %q", why)
	}
	if _, _, why := g.Enter("b"); why != "" {
		t.Errorf("from elsewhere: %q", why)
	}
	leave()
	for range 2 { // all of it, and as much again: it is not got back while this test goes on
		a.budget.ReserveN(time.Now(), stretch)
	}
	if _, _, why := g.Enter("a"); !strings.Contains(why, "too long") {
		t.Errorf("after ten seconds of computing: %q", why)
	}
	ctx := context.Background()
	_, err := g.Compute(ctx, nil, func(ctx context.Context) ([]byte, error) {
		if until, ok := ctx.Deadline(); !ok || time.Until(until) > Longest {
			t.Error("there is no end to it")
		}
		<-ctx.Done()
		return nil, ctx.Err()
	})
	if !errors.Is(err, ErrTooLong) {
		t.Errorf("a question without an end: %v", err)
	}
	gone, cancel := context.WithCancel(ctx)
	cancel()
	if _, err := g.Compute(gone, nil,
		func(context.Context) ([]byte,
			error) {
			return nil, errors.New("was asked")
		}); err == nil || err.Error() == "was asked" {
		t.Errorf("a question that nobody waits for: %v", err)
	}
}

// A long loop is told to end once it has gone on for longer than anybody waits, or whoever asked has gone.
func TestStopper(t *testing.T) {
	gone, cancel := context.WithCancel(context.Background())
	stop := Stopper(gone)
	var asked sync.WaitGroup
	for range 8 { // a list is worked out by several goroutines with one stop: the race detector watches
		asked.Go(func() {
			if err := stop(); err != nil {
				t.Error(err)
			}
		})
	}
	asked.Wait()
	cancel()
	if err := stop(); !errors.Is(err, context.Canceled) {
		t.Errorf("nobody waits: %v", err)
	}
}
