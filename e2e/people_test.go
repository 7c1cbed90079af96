package e2e

import (
	"fmt"
	"testing"
)

// From a new person to a running first drill: the name, and five presses.
func TestNewPersonRuns(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	presses := 0
	press := func(name string) { presses++; c.ok(c.Press(name)) }
	press("People")
	press("Add a person")
	c.ok(c.Fill("Name", "Wilma Korr"))
	press("Save")
	c.ok(c.See("Strike once, meet it once, on the"))
	press("Run it")
	c.ok(c.See("Ready for the floor"))
	press("Start")
	c.ok(c.Until("!document.body.innerText.includes('Ready for the floor')"))
	c.ok(c.See("Wilma Korr"))
	if presses > 6 {
		t.Errorf("%d presses", presses)
	}
	c.ok(c.Key("\x1b"))
	c.ok(c.See("Stop now"))
	c.ok(c.Key("\x1b"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
}

// A proposal that is declined stays where the coach puts it, with the reason: held, then skipped.
func TestProposalDeclined(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/people"))
	c.ok(c.Press("The ladder of Tobias Amadi-Rein on the speed bag"))
	c.ok(c.See("Again: First touches, rear hand."))
	c.ok(c.Press("Change it first…"))
	c.ok(c.Fill("What to change, and why", "shorter: he tires"))
	c.ok(c.Press("Change it"))
	c.ok(c.See("between strikes"))
	c.ok(c.Go("/people"))
	c.ok(c.Press("The ladder of Tobias Amadi-Rein on the speed bag"))
	c.ok(c.See("shorter: he tires"))
	c.ok(c.Press("Hold…"))
	c.ok(c.Fill("Why hold it here", "until the school holidays"))
	c.ok(c.Press("Hold it"))
	c.ok(c.See("Held: First touches, rear hand."))
	c.ok(c.See("until the school holidays"))
	c.ok(c.Press("Release it"))
	c.ok(c.See("Again: First touches, rear hand."))
	c.ok(c.Press("Skip…"))
	c.ok(c.Fill("Why the standard does not matter here", "he has it by ear"))
	c.ok(c.Press("Skip it"))
	c.ok(c.See("Next rung: The other hand."))
	c.ok(c.See("Skipped: he has it by ear."))
	c.ok(c.Go("/people"))
	c.ok(c.See("The other hand"))
}

// Something hurts: the bags it bars are held back on the person's page until it is lifted by somebody who is named.
func TestSpared(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/people"))
	c.ok(c.Press("Yusuf Brandvik"))
	c.ok(c.See("On each bag"))
	c.ok(c.Press("Something hurts?"))
	c.ok(c.Press("Knock to the head"))
	c.ok(c.Press("Set the caution"))
	c.ok(c.See("Nothing today."))
	c.ok(c.See("until a doctor has seen it"))
	c.ok(c.Press("Lift it…"))
	c.ok(c.Fill("Lifted by", "Dr Sallow"))
	c.ok(c.Press("Lift it"))
	c.ok(c.See("lifted by Dr Sallow"))
	c.ok(c.Until("!document.body.innerText.includes('Nothing today.')"))
}

// A test is tapped on the keys; what was found stands on the person's page. Too few taps are refused and nothing is
// kept; Escape stops one.
func TestTapped(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/people"))
	c.ok(c.Press("Dov Achterman"))
	c.ok(c.See("On each bag"))
	c.ok(c.Press("Tests"))
	c.ok(c.See("as fast as you can"))
	tap := func(n, every int) {
		c.text(
			fmt.Sprintf(
				`(() => { let i = 0; const h = setInterval(() => { document.body.dispatchEvent(new KeyboardEvent('keydown', { key: i %% 2 ? 'j' : 'f', bubbles: true })); if (++i >= %d) clearInterval(h) }, %d); return '' })()`, n, every))
	}
	c.ok(c.Press("Fists on a pad"))
	c.ok(c.Press("Start"))
	c.ok(c.See("the clock starts with the first tap"))
	c.ok(c.Key("\x1b"))
	c.ok(c.See("Start"))
	c.ok(c.Press("Start"))
	c.ok(c.See("the clock starts with the first tap"))
	tap(3, 300)
	c.ok(c.See("Nothing was kept."))
	c.ok(c.Press("Again"))
	c.ok(c.See("the clock starts with the first tap"))
	tap(45, 210)
	c.ok(c.See("s from blow to blow"))
	c.ok(c.Press("Dov Achterman"))
	c.ok(c.See("What Dov can do"))
	c.ok(
		c.Until(
			"[...document.querySelectorAll('tr')].some((r) => r.innerText.includes('Hand after hand') && r.innerText.includes('tested'))"))

	// The eyes: the disc fills, and is tapped.
	c.ok(c.Press("Tests"))
	c.ok(c.See("as fast as you can"))
	c.ok(c.Press("Light"))
	c.text(
		`(() => { new MutationObserver(() => { if (document.querySelector('svg[aria-label=Now]')) setTimeout(() => document.body.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', bubbles: true })), 230) }).observe(document.body, { subtree: true, attributes: true }); return '' })()`)
	c.ok(c.Press("Start"))
	c.ok(c.Until("/from the signal to the tap, over [5-9]|over 10/.test(document.body.innerText)"))
}

// Level and fit stand beside a drill; the harder neighbour is one key away, and another person has another fit.
func TestLevelAndFit(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 1000)
	c.signedIn()
	c.ok(c.Go("/drills/new"))
	c.ok(c.See("Weakest link"))
	fit := "parseInt((document.body.innerText.match(/(\\d+) % clean for (\\w+)/) ?? [])[1])"
	first := c.number(fit)
	level := "Number(document.querySelector('[aria-label=\"Level and fit\"] .figure').innerText)"
	at := c.number(level)
	c.ok(c.Choose("Person", "Lerato Quayle, southpaw"))
	c.ok(c.Until(fmt.Sprintf("%s > %g", fit, first)))
	if again := c.number(level); again != at {
		t.Errorf("level %g for one and %g for another", at, again)
	}
	c.ok(c.Choose("Compare", "Greta Sallowfield"))
	c.ok(c.See("They differ by"))
	tempo := figureOf("Tempo")
	before := c.number(tempo)
	c.text("document.activeElement.blur(), ''")
	c.ok(c.Key("]"))
	c.ok(c.Until(fmt.Sprintf("%s > %g", tempo, before)))
	c.ok(c.Until(fmt.Sprintf("%s > %g", level, at)))
}
