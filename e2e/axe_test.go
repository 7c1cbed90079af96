package e2e

import (
	"os"
	"testing"

	"melodromos/browser"
	"melodromos/demo"
)

// pages are the places of the demo gym, one of each view.
func (c coach) pages() []string {
	c.t.Helper()
	at := func(path, first string) string {
		c.t.Helper()
		c.ok(c.Go(path))
		return c.linkTo(first)
	}
	return []string{"/", "/bags", "/bags/new", "/drills", "/drills/new", "/library", "/people", "/log",
		"/compose/new", "/delay", "/gym", "/import", "/calendar", at("/bags", "/bags/"), at("/drills", "/compose/"),
		at("/people", "/people/"),
		at("/log", "/review/"), at("/drills", "/run/"), at("/people", "/people/") + "/tests",
		at("/people", "/people/") + "/progress",
		"/class", at("/class", "/class/"), at("/class", "/class/") + "/card", "/sessions",
		at("/sessions", "/sessions/"), "/sessions/new?template=themes", at("/sessions", "/sessions/") + "/card",
		at("/drills", "/run/") + "/card", at("/class", "/floor/")}
}

// shows opens a page and waits until it stands.
func (c coach) shows(page string) {
	c.t.Helper()
	c.ok(c.Go(page))
	c.ok(c.Until("document.querySelector('h1') !== null && !document.querySelector('[aria-busy=true]')"))
}

// readTwice lists the pictures whose own words are read out beside their name.
const readTwice = `[...document.querySelectorAll('[role=img]')].filter((s) =>
	[...s.querySelectorAll('text, title, desc')].some((e) => !e.closest('[aria-hidden=true]')))
	.map((s) => (s.getAttribute('aria-label') ?? '').slice(0, 60)).join('; ')`

// No view breaks a rule of axe-core, the checker of WCAG rules, at a desk or on a phone, and none makes the browser
// complain; each has one heading of the first order.
func TestAxe(t *testing.T) {
	t.Parallel()
	axe, err := os.ReadFile("../ui/node_modules/axe-core/axe.min.js")
	if err != nil {
		t.Fatalf("run ./test, which installs the interface's parts: %v", err)
	}
	c := open(t, start(t), 1280, 800)
	check := func(name string) {
		t.Helper()
		if there, _ := browser.Eval[bool](c.Page, "!!window.axe"); !there {
			if _, err := browser.Eval[bool](c.Page, string(axe)+"; true"); err != nil {
				t.Fatal(err)
			}
		}
		found, err := browser.Eval[[]string](c.Page, `axe.run(document, { resultTypes: ['violations'],
			rules: { 'label-content-name-mismatch': { enabled: true } } }).then((r) =>
			r.violations.flatMap((v) => v.nodes.slice(0, 4).map((n) => v.id + ' (' + v.impact + '): ' +
				n.target.join(' ') + ' ' + n.html.slice(0, 140) + ' ' +
				(n.any[0]?.message ?? n.all[0]?.message ?? n.none[0]?.message ?? ''))))`)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range found {
			t.Errorf("%s: %s", name, f)
		}
		if twice := c.text(readTwice); twice != "" {
			t.Errorf("%s: read beside the picture's name: %s", name, twice)
		}
		if n := c.number("document.querySelectorAll('h1').length"); n != 1 {
			t.Errorf("%s: %g headings of the first order", name, n)
		}
	}
	c.ok(c.Go("/"))
	c.ok(c.See("Sign in"))
	check("sign in")
	c.ok(c.SignIn(demo.Email, demo.Password))
	pages := c.pages()
	for _, size := range []string{"desk", "phone"} {
		if size == "phone" {
			c.ok(c.BecomePhone(390, 844))
		}
		for _, page := range pages {
			c.shows(page)
			check(size + " " + page)
		}
	}
	for _, e := range c.Errors() {
		t.Errorf("the browser complains: %s", e)
	}
}
