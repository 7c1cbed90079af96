package e2e

import (
	"testing"

	"melodromos/demo"
)

// On a phone nothing of the floor lies over anything else, and whatever is pressed with a glove is at least 64 px high.
func TestFloorOnAPhone(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.ok(c.SignIn(demo.Email, demo.Password))
	c.ok(c.BecomePhone(390, 844))
	c.ok(c.Go("/drills"))
	c.ok(c.Press("Run Five a side, soft with Dov Achterman"))
	c.ok(c.See("Ready for the floor"))
	const small = `[...document.querySelectorAll('button, [role=radio], a.button')].filter((e) => e.offsetParent !== null)
		.filter((e) => e.getBoundingClientRect().height < 64).map((e) => e.innerText).join(', ')`
	if found := c.text(small); found != "" {
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
	if found := c.text(small); found != "" {
		t.Errorf("in the round too small for a glove: %s", found)
	}
	c.ok(c.Press("Stop"))
	c.ok(c.Press("Stop now"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
}
