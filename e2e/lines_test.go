package e2e

import (
	"strings"
	"testing"
)

// A line as it is said: read back in the gym's words with what was left open, by the stance of whoever throws it,
// underlined where it cannot be read; a count that is changed keeps the hands.
func TestLines(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/compose/new"))
	c.ok(c.See("What is thrown"))
	c.ok(c.Fill("What is thrown", "double jab cross, slip left, hook then rigth hand"))
	c.ok(c.See(`"rigth" is not known; the nearest word is "right".`))
	c.ok(c.Until("document.querySelector('[data-wrong]')?.innerText === 'rigth'"))
	lies := "(() => { const u = document.querySelector('[data-wrong]').getBoundingClientRect(), i = document.querySelector('input[aria-invalid]').getBoundingClientRect(); return u.left > i.left && u.right < i.right && u.top > i.top && u.bottom < i.bottom })()"
	c.ok(c.Until(lies))
	c.ok(c.Fill("What is thrown", "double jab cross, slip left, hook then right hand"))
	c.ok(c.See("Read as 1-1-2 - slip lead - 3-2: one, one, two, slip lead, three, two."))
	c.ok(c.See("Hook is read as lead hook, the hand on the side it comes from."))
	c.ok(c.Until("!document.querySelector('[data-wrong]')"))

	c.ok(c.Part("Person"))
	c.ok(c.See(", southpaw"))
	c.ok(c.Press(c.text("[...document.querySelectorAll('button')].find((b) => b.innerText.endsWith(', southpaw')).innerText")))
	c.ok(c.Fill("What is thrown", "left, right hook"))
	c.ok(c.See("Read as 2-3: two, three."))
	c.ok(c.Press("Move 2 one return later"))
	c.ok(c.Until(written + " === '2:2-3'")) // in lead and rear: the same hands
	c.ok(c.Fill("What is thrown", "left jab"))
	c.ok(c.See("this boxer leads with the right"))

	// On a heavy bag what stops it is offered, and the next strike meets it at rest; on a slip bag that hangs still
	// nothing swings.
	hang := func(kind string) {
		c.ok(c.Go("/bags"))
		id := c.text("fetch('/api/rigs').then((r) => r.json()).then((l) => l.find((x) => x.doc.kind === '" + kind +
			"' && x.doc.shape !== 'ball').id)")
		c.ok(c.Go("/compose/new?rig=" + id))
		c.ok(c.See("What is thrown"))
	}
	hang("hanging")
	c.ok(c.See("Lands flush on this bag: 1, 2, 1b, 2b"))
	c.ok(c.Choose("Lands", "On the bag’s returns"))
	c.ok(c.Key("\x1b"))
	c.ok(c.Fill("What is thrown", "2"))
	c.ok(c.Press("stop 1"))
	c.ok(c.Press("2"))
	c.ok(c.Until(written + " === '2 - stop 1 - 2'"))
	c.ok(c.Fill("What is thrown", "2 - low kick rear"))
	c.ok(c.See("Low kick rear, move 2: kicks, knees and elbows only where they are trained"))
	hang("slip")
	c.ok(c.Choose("The bag hangs", "Still, as a guard"))
	c.ok(c.Key("\x1b"))
	c.ok(c.Fill("What is thrown", "1-2"))
	c.ok(c.See("the bag hanging still, to stop short of it"))
	c.ok(c.Choose("The punches", "Go round it"))
	c.ok(c.See("the bag hanging still, to go round it"))
	c.ok(c.Key("\x1b"))
	c.ok(c.Press("Save"))
	c.ok(c.See("1-2, round the guard is saved."))
	if errors := c.Errors(); len(errors) > 0 && !strings.Contains(strings.Join(errors, " "), "422") {
		t.Errorf("%v", errors)
	}
}

// Which moments to tap is drawn and played; a count of every crossing is noticed and asked about, and the answer is
// what is kept.
func TestMisreadCalibration(t *testing.T) {
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/bags"))
	id := c.text("fetch('/api/rigs').then((r) => r.json()).then((l) => l.find((x) => x.doc.kind === 'doubleEnd').id)")
	c.ok(c.Go("/bags/" + id))
	c.ok(c.See("How it is measured"))
	c.ok(c.See("Only as it comes back to you; not on its way out."))
	c.ok(
		c.Until(
			"document.querySelector('figure svg').getAttribute('aria-label').startsWith('Tap with the strike, then at 5 returns')"))
	c.ok(c.Press("Watch and hear it"))
	c.ok(c.Until("document.querySelectorAll('figure circle').length === 2")) // the bag goes along the swing
	c.ok(c.Until("document.querySelectorAll('figure circle').length === 1"))
	c.ok(c.Press("Count in a time"))
	c.ok(c.Fill("Count of returns", "11"))
	c.ok(c.Fill("Seconds", "3.9"))
	c.ok(c.See("Was that each time it went through the middle, on its way out as well?"))
	c.ok(c.Until("[...document.querySelectorAll('button')].find((b) => b.innerText === 'Keep this').disabled"))
	asked := c.text(
		"[...document.querySelectorAll('p')].map((p) => p.innerText).find((t) => t.startsWith('Then it is'))")
	c.ok(c.Press("Yes, both"))
	c.ok(c.Until("![...document.querySelectorAll('p')].some((p) => p.innerText.startsWith('Then it is'))"))
	c.ok(c.Press("Keep this"))
	c.ok(c.See("The calibration is kept."))
	value := strings.TrimPrefix(strings.SplitN(asked, ",", 2)[0], "Then it is ")
	kept := c.text(
		"[...document.querySelectorAll('li')].map((l) => l.innerText).find((t) => t.includes('counted in a time'))")
	if value == "" || !strings.Contains(kept, ": "+value) {
		t.Errorf("asked %q, kept %q", asked, kept)
	}
}
