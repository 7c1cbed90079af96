package e2e

import (
	"testing"

	"melodromos/browser"
)

// reviewOf opens the newest round of somebody in the log.
func (c coach) reviewOf(name string) {
	c.t.Helper()
	c.ok(c.Go("/log"))
	c.ok(c.Fill("Look for", name))
	c.ok(c.Until("document.querySelectorAll('main a[href^=\"#/review/\"]').length > 0 && [...document.querySelectorAll('main a[href^=\"#/review/\"] strong:first-child')].every((e) => e.innerText.startsWith('" + name + "') || /\\d/.test(e.innerText))"))
	c.ok(c.Go(c.linkTo("/review/")))
	c.ok(c.See("Every strike"))
}

// A review names what to fix first, and the drill that mends it is one press away, ready to be run by whoever it is
// for.
func TestFixThisFirst(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.reviewOf("Greta")
	c.ok(c.See("Fix this first"))
	c.ok(c.See("The rear hand is weaker"))
	c.ok(c.Press("The rear hand alone"))
	c.ok(c.Until("location.hash.startsWith('#/run/')"))
	c.ok(c.See("Ready for the floor"))
	c.ok(c.See("Greta Sallowfield"))
	for _, e := range c.Errors() {
		t.Errorf("the browser complains: %s", e)
	}
}

// What the coach says stands on the review and in the log; a wrong count is said and nothing is lost of what was
// written.
func TestSayHowItWent(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.reviewOf("Yusuf")
	c.ok(c.Press("Say how it went, this round"))
	c.ok(c.Fill("Clean", "12"))
	c.ok(c.Fill("of", "10"))
	c.ok(c.Fill("Note", "Softer from the second minute on."))
	c.ok(c.Press("Shaky"))
	c.ok(c.Press("Keep it"))
	c.ok(c.See("the first no larger than the second"))
	if note := c.text("document.querySelector('textarea').value"); note != "Softer from the second minute on." {
		t.Errorf("the note is %q", note)
	}
	c.ok(c.Fill("of", "20"))
	c.ok(c.Press("Keep it"))
	c.ok(c.See("12 of 20 by eye, shaky. Softer from the second minute on."))
	c.ok(c.Go("/log"))
	c.ok(c.See("12 of 20 by eye, shaky"))
}

// A strike is put right by hand, and taken back; the trace of both stays.
func TestPutRight(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.reviewOf("Ines")
	c.ok(c.Press("Listen to plan and hits from this strike"))
	c.ok(c.Press("Stop listening"))
	clean, _ := c.counted()
	wrong := "[...document.querySelectorAll('[aria-label=\"What this strike really was\"] button')].find((b) => b.innerText === 'clean')"
	c.ok(c.Until(wrong))
	if _, err := browser.Eval[bool](c.Page, "("+wrong+".click(), true)"); err != nil {
		t.Fatal(err)
	}
	c.becomes("one more is clean", func() (bool, error) {
		now, _ := c.counted()
		return now == clean+1, nil
	})
	c.ok(c.Press("Undo this"))
	c.becomes("as many are clean as before", func() (bool, error) {
		now, _ := c.counted()
		return now == clean, nil
	})
	c.ok(c.Until("document.querySelectorAll('details li.line-through').length === 1"))
	for _, e := range c.Errors() {
		t.Errorf("the browser complains: %s", e)
	}
}

// How somebody comes on is a page to read and to print, with a picture for each bag.
func TestProgress(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/people"))
	c.ok(c.Press("Greta Sallowfield"))
	c.ok(c.Press("Progress"))
	c.ok(c.See("What to work at"))
	c.ok(c.See("One hand weaker"))
	c.ok(c.Until("document.querySelectorAll('figure circle').length >= 5"))
	c.ok(c.Until("document.querySelectorAll('[aria-label^=\"Rounds a week\"] rect').length > 0"))
	paper, err := c.Printed("A4")
	c.ok(err)
	if len(paper) < 10_000 {
		t.Errorf("the printed page has %d bytes", len(paper))
	}
	for _, e := range c.Errors() {
		t.Errorf("the browser complains: %s", e)
	}
}

// What only an eye sees is marked in one press while the round runs, and stands in its review.
func TestMarkedOnTheFloor(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.ontoFloor()
	c.ok(c.Press("Start"))
	c.ok(c.runs())
	c.ok(c.into(1))
	c.ok(c.Press("The idle hand drops"))
	c.ok(c.See("1 mark"))
	c.ok(c.Key("\x1b"))
	c.ok(c.See("Stop now"))
	c.ok(c.Key("\x1b"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
	c.ok(c.See("Marked: 1 the idle hand drops."))
}
