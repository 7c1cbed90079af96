package e2e

import (
	"testing"
)

// No view jumps while it loads: the cumulative layout shift stays under 0.05 (good is under 0.1, by web.dev).
func TestLayoutStays(t *testing.T) {
	t.Parallel()
	url := start(t)
	c := open(t, url, 1280, 800)
	c.signedIn()
	c.ok(c.Go("/drills"))
	c.ok(c.See("Thirteen moves"))
	for _, page := range []string{"/", "/bags", "/bags/new", "/drills", "/drills/new", c.linkTo("/compose/"), "/people",
		"/log", "/library", c.linkTo("/run/")} {
		c.ok(c.Away())
		c.ok(c.Leave(url + "/#" + page))
		c.ok(c.Until("document.querySelector('h1, h2') !== null && !document.querySelector('[aria-busy=true]')"))
		shift := c.number(`new Promise((done) => {
			let sum = 0
			new PerformanceObserver((list) => list.getEntries().forEach((e) => (sum += e.hadRecentInput ? 0 : e.value)))
				.observe({ type: 'layout-shift', buffered: true })
			setTimeout(() => done(sum), 700)
		})`)
		if shift >= 0.05 {
			t.Errorf("%s jumps by %.3f while it loads", page, shift)
		}
	}
}
