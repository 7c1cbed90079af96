package e2e

import (
	"strings"
	"testing"

	"melodromos/core/run"
	"melodromos/demo"
	"melodromos/store"
)

// tappedOnce is a coach in a round of which the server has taken one tap, and is gone since.
func tappedOnce(t *testing.T) (coach, *store.Store, string) {
	t.Helper()
	s := demoGym(t)
	url, stop := serve(t, s, "127.0.0.1:0")
	c := open(t, url, 1280, 800)
	c.ontoFloor()
	c.ok(c.Key(" "))
	c.ok(c.runs())
	c.ok(c.into(1))
	c.ok(c.Key("j"))
	c.ok(c.See("1 hit, 0 marks"))
	c.ok(c.Until("!Object.keys(localStorage).some((k) => k.startsWith('outbox:'))")) // it was answered
	stop()
	return c, s, url
}

// lostLine lets the browser complain of what could not be loaded, and of nothing else: that is no fault of the page.
func (c coach) lostLine() {
	c.t.Helper()
	for _, e := range c.Errors() {
		if !strings.Contains(e, "ERR_CONNECTION") && !strings.Contains(e, "Failed to load resource") {
			c.t.Errorf("the browser complains: %s", e)
		}
	}
}

// A page that was never opened and cannot be loaded says so, and opens once it can, without the whole being loaded
// anew.
// The others were loaded before the line was gone.
func TestPageBehindALostLine(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.ok(c.Go("/"))
	c.ok(c.Block("*://*:*/assets/Library*"))
	c.ok(c.SignIn(demo.Email, demo.Password))
	c.text("(window.stays = true, '')")
	c.ok(c.Until("performance.getEntriesByType('resource').some((e) => /Gym-/.test(e.name))")) // the last of them
	c.ok(c.Go("/library"))
	c.ok(c.See("This page was never opened here"))
	c.ok(c.Press("Try again"))
	c.ok(c.See("This page was never opened here"))
	c.ok(c.Block())
	c.ok(c.See("Search by words, numbers or moves"))
	if c.text("window.stays ? 'stays' : 'anew'") != "stays" {
		t.Error("the page was loaded anew")
	}
	c.lostLine()
}

// A round that ends while the server is gone leaves its screen, and is sent once the server is back.
func TestRoundEndsOffline(t *testing.T) {
	t.Parallel()
	c, s, url := tappedOnce(t)
	c.ok(c.Key("f"))
	c.ok(c.See("No connection"))
	c.ok(c.Press("Stop"))
	c.ok(c.Press("Stop now"))
	c.ok(c.See("1 round waits on this device to be sent"))
	c.ok(c.Until("location.hash === '#/'"))
	_, stop := serve(t, s, strings.TrimPrefix(url, "http://"))
	t.Cleanup(stop)
	c.ok(c.Until("!document.body.innerText.includes('waits on this device')"))
	gym := demoOf(t, s)
	runs, err := gym.Runs(store.RunFilter{Limit: 1})
	if err != nil || run.State(runs[0].State) != run.Stopped {
		t.Fatalf("%+v %v", runs, err)
	}
	if hits, err := gym.Hits(runs[0].ID); err != nil || len(hits) != 2 {
		t.Errorf("%d hits arrived, want 2: %v", len(hits), err)
	}
	c.lostLine()
}
