package e2e

import (
	"testing"
)

// A drill of the gym is given to everybody with the keyboard, taken to another bag, archived and brought back.
func TestDrillsForMany(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/drills"))
	// A copy for one more person: two presses.
	c.ok(c.Press("Give Thirteen moves"))
	c.ok(c.Press("Give to Dov Achterman"))
	c.ok(c.See("Dov Achterman has it."))
	// All the others with the keyboard, which is in the list to begin with.
	c.ok(c.Press("Done"))
	c.ok(c.Press("Give Thirteen moves"))
	c.ok(c.Until("document.activeElement?.ariaLabel?.startsWith('Give to ')"))
	c.text("[...document.querySelectorAll('[role=dialog] button')].at(-1).focus(), ''")
	c.ok(c.Key(" "))
	c.ok(c.See("Tobias Amadi-Rein has it."))
	c.ok(c.Until("document.querySelectorAll('[role=dialog] [aria-label^=\"Give to \"]').length === 0"))
	c.ok(c.Press("Done"))
	c.ok(c.Until("document.querySelectorAll('[aria-label^=\"Run Thirteen moves with\"]').length === 8"))

	c.ok(c.Press("To another bag: Slip and answer"))
	c.ok(c.Press("Reflex bag"))
	c.ok(c.See("All of it carries over."))
	c.ok(c.Press("Make the drill"))
	c.ok(c.See("Slip and answer is made for the reflex bag."))
	c.ok(c.See("Nobody has it."))

	c.ok(c.Press("Archive One-two on the pole"))
	c.ok(c.See("its rounds stay in the log"))
	c.ok(c.Until("!document.querySelector('[aria-label=\"Give One-two on the pole\"]')"))
	c.ok(c.Press("Show what is archived"))
	c.ok(c.Press("Bring back One-two on the pole"))
	c.ok(c.See("One-two on the pole is back."))
	c.ok(c.Press("Back to the drills"))
	c.ok(c.Until("!!document.querySelector('[aria-label=\"Give One-two on the pole\"]')"))
}
