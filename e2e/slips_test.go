package e2e

import (
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"

	"melodromos/browser"
)

// A round is not lost by a slip: Escape, the pedal and Back each only ask, and Space goes on.
func TestSlipOfTheFinger(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.ontoFloor()
	c.ok(c.Key(" "))
	c.ok(c.runs())
	for _, slip := range []func() error{
		func() error { return c.Key("\x1b") }, func() error { return c.Key(kb.ArrowLeft) },
		func() error { return c.Key(kb.PageUp) }, func() error { return c.Press("Stop") },
		func() error { _, err := browser.Eval[bool](c.Page, "(history.back(), true)"); return err },
	} {
		c.ok(slip())
		c.ok(c.See("End the round here?"))
		c.ok(c.Until("location.hash.startsWith('#/run/') && document.querySelector('[data-phase=paused]') !== null"))
		c.text("document.activeElement.blur(), ''")
		c.ok(c.Key(" "))
		c.ok(c.runs())
		c.ok(c.Until("!document.body.innerText.includes('End the round here?')"))
	}
	c.ok(c.Press("Stop"))
	c.ok(c.Press("Stop now"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
}

// Letters go nowhere while something is set, nor once single keys are switched off on this device (WCAG 2.2, 2.1.4);
// on the floor Space then does what the focus shows.
func TestSingleKeys(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/drills/new"))
	c.ok(c.See("Weakest link"))
	stays := func(where string) {
		t.Helper()
		for _, key := range []string{"t", "b", "p", "l"} {
			c.ok(c.Key(key))
		}
		time.Sleep(100 * time.Millisecond)
		if at := c.text("location.hash"); at != where {
			t.Errorf("letters led to %s", at)
		}
	}
	c.ok(c.Part("Technique"))
	c.ok(c.Until("document.activeElement.closest('[data-popover-content]')"))
	stays("#/drills/new")
	c.ok(c.Key("\x1b"))
	c.ok(c.Until("!document.querySelector('[data-popover-content]')"))
	c.ok(c.Press("Keys"))
	c.text("document.querySelector('[role=dialog] input[type=checkbox]').click(), ''")
	c.ok(c.Press("Close"))
	c.ok(c.Until("document.querySelector('[role=dialog]') === null"))
	c.text("document.activeElement.blur(), ''")
	stays("#/drills/new")
	c.ok(c.Go("/"))
	c.ok(c.Press("Run it"))
	c.ok(c.See("Ready for the floor"))
	c.ok(c.Key(" "))
	c.ok(c.runs())
	c.ok(c.Key("\t"))
	c.ok(c.Until("document.activeElement.innerText === 'Pause'"))
	c.ok(c.Key("\t"))
	c.ok(c.Until("document.activeElement.innerText === 'Stop'"))
	c.ok(c.Key(" ")) // it is Stop that is pressed, and not the clock that is paused
	c.ok(c.See("Stop now"))
	c.ok(c.Key(" "))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
}
