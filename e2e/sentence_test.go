package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"

	"melodromos/browser"
)

// partOf is the part of a sentence that is labelled so; figureOf the figure in it.
func partOf(label string) string {
	return fmt.Sprintf(
		"[...document.querySelectorAll('button.part')].find((e) => e.getAttribute('aria-label')?.includes(', %s'))", label)
}
func figureOf(label string) string { return "parseFloat(" + partOf(label) + ".innerText)" }

// A part of the sentence is stepped by keys, dragged, typed over and set by its stepper, and keeps its width while it
// is held.
func TestSentence(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/drills/new"))
	c.ok(c.See("Weakest link"))
	tempo := figureOf("Tempo")
	from := c.number(tempo)
	want := func(by float64, how string) {
		t.Helper()
		if err := c.Until(fmt.Sprintf("%s === %g", tempo, from+by)); err != nil {
			t.Fatalf("%s: %v", how, err)
		}
	}
	c.text(partOf("Tempo") + ".focus(), ''")
	wide := c.number(partOf("Tempo") + ".getBoundingClientRect().width")
	for range 3 {
		c.ok(c.Key(kb.ArrowUp))
	}
	want(3, "three steps up")
	if now := c.number(partOf("Tempo") + ".getBoundingClientRect().width"); now != wide {
		t.Errorf("held it is %g px wide, after %g", now, wide)
	}
	c.ok(c.Until("[...document.querySelectorAll('[aria-live=polite]')].some((e) => /^Tempo \\d+/.test(e.textContent))"))
	c.text(partOf("Tempo") + ".id = 'tempo', ''")
	c.ok(c.Drag("#tempo", -24, 0)) // three steps of 8 px
	want(0, "dragged back")
	c.ok(c.Until("!document.querySelector('[data-popover-content]')")) // a drag opens nothing
	// Driven keys would write their letter even where a page has taken the key.
	c.text(partOf("Tempo") + ".dispatchEvent(new KeyboardEvent('keydown', { key: '9', bubbles: true, cancelable: true })), ''")
	c.ok(c.Until("document.activeElement.value === '9'")) // typed over
	c.ok(c.Key("0"))
	c.ok(c.Until(tempo + " === 90"))
	from = 90
	c.ok(c.Press("Tempo: more"))
	want(1, "the stepper")
	c.ok(c.Key("\x1b"))
	c.ok(c.Until("!document.querySelector('[data-popover-content]')"))
	// A figure out of reach is said in the sentence, with its remedies.
	c.ok(c.Set("Tempo", "Tempo", "12"))
	c.ok(c.See("xpected"))
}

// On a slow line the figure changes at once, and the picture is marked as pending until the answer is there.
func TestSlowLine(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/drills/new"))
	c.ok(c.See("Weakest link"))
	tempo := c.number(figureOf("Tempo"))
	c.ok(c.Slow(0.2))
	c.text(partOf("Tempo") + ".focus(), ''")
	shown := c.text(`(() => { const part = document.activeElement
		part.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true, cancelable: true }))
		return new Promise((done) => requestAnimationFrame(() => done(part.innerText + ', ' + document.querySelectorAll('[data-instrument] [aria-busy=true]').length))) })()`)
	if want := fmt.Sprintf("%g a minute, 2", tempo+1); shown != want {
		t.Errorf("at once %q, want %q", shown, want)
	}
	c.ok(c.Until("!document.querySelector('[data-instrument] [aria-busy=true]')"))
	if now := c.number(figureOf("Tempo")); now != tempo+1 {
		t.Errorf("answered: %g, want %g", now, tempo+1)
	}
}

// What an instrument is made of stands on one screen: the picture, each part of the sentence, level and fit; on a phone
// picture and sentence stay in sight while a part of it is set.
func TestOneScreenful(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	within := func(what string) string {
		return fmt.Sprintf(
			"[...document.querySelectorAll(`%s`)].every((e) => { const r = e.getBoundingClientRect(); return r.height > 0 && r.top >= 0 && r.bottom <= innerHeight && r.left >= 0 && r.right <= innerWidth })",
			what)
	}
	c.ok(c.Go("/drills"))
	c.ok(c.See("Thirteen moves"))
	long := c.linkTo("/compose/")
	pages := []string{"/drills/new", long, "/compose/new"}
	const spoken = "double jab cross | duck under, cross hook cross! | slip left, hook cross | step back, one-two!"
	bags, err := browser.Eval[[]string](c.Page,
		"fetch('/api/rigs').then((r) => r.json()).then((l) => l.map((x) => '/bags/' + x.id))")
	c.ok(err)
	pages = append(pages, bags...)
	const drawn = `document.querySelector('[data-instrument] svg:is([role=img], [role=group])') !== null &&
		!document.querySelector('[aria-busy=true]')`
	c.ok(c.Resize(1280, 800))
	for _, page := range pages {
		c.ok(c.Go(page))
		c.ok(c.Until(drawn))
		if page == "/compose/new" { // a line that is written in words, has no name, and does not fit
			c.ok(c.Until(written + " === '1'")) // the page before has gone
			c.ok(c.Fill("What is thrown", spoken))
			c.ok(c.See("ms late"))
			c.ok(c.Until(drawn))
		}
		for _, what := range []string{"[data-instrument] svg", "[data-instrument] button.part",
			"[aria-label='Level and fit']"} {
			if strings.HasPrefix(page, "/bags/") && what == "[aria-label='Level and fit']" {
				continue
			}
			if err := c.Until(within(what)); err != nil {
				t.Errorf("%s: %s is not on one screen", page, what)
			}
		}
	}
	c.ok(c.BecomePhone(390, 844))
	for _, page := range pages {
		c.ok(c.Go(page))
		c.ok(c.Until(drawn))
		if page == "/compose/new" {
			c.ok(c.Until(written + " === '1' && " + drawn))
		}
		parts := int(c.number("document.querySelectorAll('[data-instrument] button.part:not(.remedy)').length"))
		for i := range parts {
			c.text(fmt.Sprintf("document.querySelectorAll('[data-instrument] button.part:not(.remedy)')[%d].click(), ''", i))
			c.ok(c.Until("document.querySelector('[data-popover-content]')?.getBoundingClientRect().height > 40"))
			free := `(() => { const sheet = document.querySelector('[data-popover-content]').getBoundingClientRect()
				const part = document.querySelector('[data-instrument] button.part[data-state=open]')
				const seen = [part, part.closest('[data-instrument]').querySelector('svg')]
				return seen.every((e) => {
					const r = e.getBoundingClientRect()
					return r.top >= -1 && r.bottom <= sheet.top + 1 && r.right <= innerWidth + 1 }) })()`
			if err := c.Until(free); err != nil {
				t.Errorf("%s on a phone, part %d: picture or part out of sight", page, i+1)
			}
			c.ok(c.Key("\x1b"))
			c.ok(c.Until("!document.querySelector('[data-popover-content]')"))
		}
	}
}
