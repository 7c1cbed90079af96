package e2e

import (
	"testing"
)

// On a phone nothing of the floor lies over anything else, and whatever is pressed with a glove is at least 64 px high.
func TestFloorOnAPhone(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	c.ok(c.BecomePhone(390, 844))
	c.ok(c.Go("/drills"))
	c.ok(c.Press("Run Five a side, soft with Dov Achterman"))
	c.ok(c.See("Ready for the floor"))
	if found := c.text(small + "(64)"); found != "" {
		t.Errorf("before the round too small for a glove: %s", found)
	}
	if apart := c.number(`(() => {
		const dial = document.querySelector('main svg[role=img]').getBoundingClientRect()
		return Math.min(...[...document.querySelectorAll('main p')].filter((p) => p.innerText)
			.map((p) => p.getBoundingClientRect()).map((r) => Math.max(dial.top - r.bottom, r.top - dial.bottom)))
	})()`); apart < 0 {
		t.Errorf("the dial lies %g px over a text", -apart)
	}
	c.ok(c.Press("Start"))
	c.ok(c.runs())
	if found := c.text(small + "(64)"); found != "" {
		t.Errorf("in the round too small for a glove: %s", found)
	}
	c.ok(c.Press("Stop"))
	c.ok(c.Press("Stop now"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
}

// Whoever has asked for little motion sees bag and fists stand still as the bag is struck, while the round goes on.
func TestLittleMotion(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.ok(c.Calm())
	c.signedIn()
	c.ok(c.Go("/drills"))
	c.ok(c.Press("Run Five a side, soft with Dov Achterman"))
	c.ok(c.See("Ready for the floor"))
	c.ok(c.Press("Start"))
	c.ok(c.runs())
	const poses = `[...document.querySelectorAll('svg[viewBox="0 0 380 260"] g')]
		.map((g) => g.getAttribute('transform')).join()`
	before := c.text(poses)
	c.ok(c.into(2))
	if after := c.text(poses); after != before || before == "" {
		t.Errorf("bag and fists moved from %q to %q", before, after)
	}
	c.ok(c.Press("Stop"))
	c.ok(c.Press("Stop now"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
}
