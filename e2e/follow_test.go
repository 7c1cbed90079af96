package e2e

import (
	"fmt"
	"regexp"
	"strconv"
	"testing"

	"melodromos/browser"
)

// counted reads "23 of 24" out of a review's headline.
func (c coach) counted() (clean, due float64) {
	c.t.Helper()
	found := regexp.MustCompile(`(\d+) of (\d+)`).FindStringSubmatch(c.text(heading))
	if found == nil {
		c.t.Fatalf("nothing counted in %q", c.text(heading))
	}
	clean, _ = strconv.ParseFloat(found[1], 64)
	due, _ = strconv.ParseFloat(found[2], 64)
	return clean, due
}

// The page taps by the table that the run carries, 4 % quicker than planned, on the audio clock of the round, and lets
// the twelfth come-back by. A hit's sound is put on the audio clock in the same task: how long that takes is kept for
// the benchmark.
const tapping = `(() => {
	const Real = AudioContext
	window.AudioContext = class extends Real { constructor(...a) { super(...a); window.heard = this } }
	let due = 0, n = 0, back = null, run = null
	window.took = []
	performance.clearResourceTimings()
	const find = async () => { // the run shows itself by what the page sends of it
		const id = performance.getEntriesByType('resource').map((e) => e.name.match(/\/api\/runs\/([0-9a-f-]{36})\//)?.[1]).find(Boolean)
		if (id) run = await (await fetch('/api/runs/' + id)).json()
		else setTimeout(find, 20)
	}
	find()
	const read = () => {
		const { bag, launch, events } = run.timeline
		const place = bag.counts.indexOf(events.find((e) => e.kind === 'strike').count)
		const hi = bag.rows.findIndex((r) => r.launch >= launch), a = bag.rows[hi - 1], b = bag.rows[hi]
		const part = (launch - a.launch) / (b.launch - a.launch)
		return (k) => (a.at[place + k * bag.step] * (1 - part) + b.at[place + k * bag.step] * part) / 1.04
	}
	const tap = () => {
		if (due === 0 && run && /[a-z]/i.test(document.querySelector('[data-phase=running] [data-testid=call]')?.innerText ?? '')) { due = heard.currentTime; back = read() }
		if (due !== 0 && heard.currentTime >= due) {
			n++
			due += back(n === 12 ? 1 : 0)
			const from = performance.now()
			document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'f', bubbles: true }))
			took.push(performance.now() - from)
		}
		if (!location.hash.startsWith('#/review/')) setTimeout(tap, 1)
	}
	tap(); return true
})()`

// followed taps a round that follows, and gives what the review says.
func (c coach) followed() string {
	c.t.Helper()
	if c.text("location.hash.slice(0, 9)") == "#/review/" { // a second try, of the same drill
		c.ok(c.Press("Run it again"))
	} else {
		c.ok(c.Go("/people"))
		c.ok(c.Press("Run First touches, rear hand with Tobias Amadi-Rein"))
	}
	c.ok(c.See("Ready for the floor"))
	c.ok(c.See("The bag sets the time"))
	c.ok(c.Press("Follow my hits"))
	if _, err := browser.Eval[bool](c.Page, tapping); err != nil {
		c.t.Fatal(err)
	}
	c.ok(c.Key(" "))
	c.ok(c.runs())
	c.ok(c.Until("/The bag follows the hits/.test(document.querySelector('[data-testid=plays]')?.textContent ?? '')"))
	c.ok(c.left(10))
	c.ok(c.Key("\x1b"))
	c.ok(c.See("Stop now"))
	c.ok(c.Key("\x1b"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
	c.ok(c.See("The bag on the screen set the time"))
	return c.text("document.querySelector('main').innerText")
}

// A bag on the screen follows the hits: taps 4 % quicker than planned meet it, and one come-back let through is found
// again at the next. The review tells the tempo beside what was asked, and what was let through.
func TestFollowMyHits(t *testing.T) {
	c := open(t, start(t), 1280, 800)
	c.enter()
	said := ""
	for range 3 { // a machine that stutters while it draws and sounds at once gets more tries
		said = c.followed()
		if regexp.MustCompile(`Five rebounds instead of three, once`).MatchString(said) {
			break
		}
	}
	var held float64
	if _, err := fmt.Sscanf(regexp.MustCompile(`\d+ strikes a minute; 84`).FindString(said), "%f", &held); err != nil ||
		held < 85 || held > 90 {
		t.Errorf("%v: %g a minute in %q", err, held, said)
	}
	if !regexp.MustCompile(`Five rebounds instead of three, once`).MatchString(said) {
		t.Errorf("nothing of what was let through in %q", said)
	}
	if clean, due := c.counted(); clean < 0.6*due || due < 18 {
		t.Errorf("%g of %g clean", clean, due)
	}
	worst, err := browser.Eval[float64](c.Page, "Math.max(...took.slice(2))")
	if err != nil {
		t.Fatal(err)
	}
	t.Logf("from a hit to its sounds and its picture at most %.1f ms", worst)
}

// With nothing recorded a round runs by its clock and its calls, and is logged as what it is. It can be removed from
// the log and brought back.
func TestNothingRecorded(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 390, 844)
	c.ok(c.BecomePhone(390, 844))
	c.ontoFloor()
	c.ok(c.Press("Nothing"))
	c.ok(c.See("The clock, the calls and the bag as planned"))
	c.ok(c.Press("Start"))
	c.ok(c.runs())
	c.ok(c.See("nothing recorded"))
	c.ok(c.into(1))
	c.ok(c.Press("Stop"))
	c.ok(c.Press("Stop now"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
	c.ok(c.See("Nothing was recorded"))
	c.ok(c.Press("Remove from the log"))
	c.ok(c.See("Removed from the log."))
	c.ok(c.Press("Bring it back"))
	c.ok(c.See("Remove from the log"))
	// This device says it once; and where a sensor was meant and none is at hand, it is one press away.
	c.ok(c.Go("/"))
	c.ok(c.Press("Run it"))
	c.ok(c.See("The clock, the calls and the bag as planned"))
	c.ok(c.Press("Bag sensor"))
	c.ok(c.Press("Run with nothing recorded"))
	c.ok(c.See("The clock, the calls and the bag as planned"))
}

// The delay of a device is measured by tapping along, kept with it, and said where it is taken off.
func TestDelayOfTheDevice(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/delay"))
	c.ok(c.See("How late does this device register a tap?"))
	c.ok(c.Press("Ten flashes"))
	// Taps 90 ms after each flash, as the page shows it.
	if _, err := browser.Eval[bool](c.Page, `(() => {
		let lit = false
		const look = () => {
			const on = !!document.querySelector('main button .bg-strike')
			if (on && !lit) setTimeout(() => document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'f', bubbles: true })), 90)
			lit = on
			setTimeout(look, 2)
		}
		look(); return true
	})()`); err != nil {
		t.Fatal(err)
	}
	c.ok(c.Press("Start"))
	c.ok(c.See("Use this delay"))
	c.ok(c.Press("Use this delay"))
	c.ok(c.See("This device registers a tap"))
	c.ok(c.Go("/"))
	c.ok(c.Press("Run it"))
	c.ok(c.See("ms late, which is taken off"))
}
