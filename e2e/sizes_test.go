package e2e

import (
	"fmt"
	"strings"
	"testing"

	"melodromos/browser"
)

// small are the targets that are too small (WCAG 2.2, 2.5.8: 24 px, but for links within a text; on the floor 64, for
// gloves).
const small = `((least) => [...document.querySelectorAll('button, a[href], input, select, summary, [role=radio]')]
	.filter((e) => e.offsetParent !== null && !e.closest('.sr-only'))
	.filter((e) => getComputedStyle(e).display !== 'inline')
	.map((e) => [e, e.getBoundingClientRect()])
	.filter(([e, b]) => b.width > 0 && Math.min(b.width, b.height) < least - 0.5)
	.map(([e]) => e.innerText || e.getAttribute('aria-label') || e.outerHTML.slice(0, 60)).join(', '))`

// sticksOut names what reaches past the right edge of the page.
const sticksOut = `[...document.querySelectorAll('body *:not(nav *)')]
	.filter((e) => !e.children.length && e.getBoundingClientRect().right > screen.width + 1)
	.slice(0, 8).map((e) => e.outerHTML.slice(0, 160)).join(' | ')`

// On a small phone, on a phone that lies on its side, and at twice the size on a desk (WCAG 2.2, 1.4.10: 320 px)
// nothing has to be scrolled sideways, no target is too small, and Start, Pause and Stop are in sight.
func TestSmallSizes(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	pages := c.pages()
	round := ""
	sizes := [][2]int{{320, 640}, {640, 400}, {844, 390}}
	for _, size := range sizes {
		if size[0] == 640 {
			c.ok(c.Resize(size[0], size[1]))
		} else {
			c.ok(c.BecomePhone(size[0], size[1]))
		}
		for _, page := range pages {
			c.shows(page)
			if c.Until(fmt.Sprintf("document.documentElement.scrollWidth <= %d", size[0])) != nil {
				t.Errorf("%v %s is %g px wide: %s", size, page, c.number("document.documentElement.scrollWidth"),
					c.text(sticksOut))
			}
			least := 24
			switch {
			case strings.HasSuffix(page, "/card"):
			case strings.HasPrefix(page, "/run/"):
				round, least = page, 64
				c.insight(fmt.Sprint(size), "Start")
			case strings.HasPrefix(page, "/floor/"):
				least = 64
				c.insight(fmt.Sprint(size), "Go on")
				c.ok(c.See("Hear"))
			}
			if found := c.text(fmt.Sprintf("%s(%d)", small, least)); found != "" {
				t.Errorf("%v %s: under %d px: %s", size, page, least, found)
			}
		}
	}
	for _, size := range sizes {
		c.ok(c.BecomePhone(size[0], size[1]))
		c.ok(c.Go("/log"))
		c.ok(c.Go(round))
		c.ok(c.Press("Start"))
		c.ok(c.runs())
		for _, name := range []string{"Pause", "Stop"} {
			c.insight(fmt.Sprint(size), name)
		}
		if high := c.number("document.querySelector('main svg[role=img]').getBoundingClientRect().height"); high < 100 {
			t.Errorf("%v: the dial is %g px high", size, high)
		}
		if found := c.text(small + "(64)"); found != "" {
			t.Errorf("%v: in the round under 64 px: %s", size, found)
		}
		c.ok(c.Press("Stop"))
		c.ok(c.Press("Stop now"))
		c.ok(c.Until("location.hash.startsWith('#/review/')"))
	}
}

// insight tells of a button that is not whole within the window.
func (c coach) insight(where, name string) {
	c.t.Helper()
	find := fmt.Sprintf("[...document.querySelectorAll('button')].find((b) => b.innerText === '%s')", name)
	c.ok(c.Until(find + " !== undefined"))
	in, err := browser.Eval[bool](c.Page, fmt.Sprintf(`((b) => b.top >= 0 && b.left >= 0 && b.bottom <= innerHeight &&
		b.right <= innerWidth)(%s.getBoundingClientRect())`, find))
	if c.ok(err); !in {
		c.t.Errorf("%s: %s is out of sight", where, name)
	}
}
