package e2e

import (
	"fmt"
	"strings"
	"testing"
)

const written = "[...document.querySelectorAll('label')].find((l) => l.innerText.startsWith('What is thrown')).control.value"

// A combination is typed and picked, marked where it does not flow, turned to the other side by one key, undone and
// done again, heard, saved and run.
func TestCompose(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/compose/new"))
	c.ok(c.See("What is thrown"))
	c.ok(c.See("Thrown at"))

	c.ok(c.Fill("What is thrown", "2 slip lead 2"))
	c.ok(c.See("a slip to the lead side loads the lead hand"))
	c.ok(c.See("Flows better: 3, 1 or 5"))
	c.ok(c.Fill("What is thrown", "1-2-kros"))
	c.ok(c.See("nearest word is \"cross\""))
	c.ok(c.Until("[...document.querySelectorAll('button')].find((b) => b.innerText === 'Save').disabled"))

	c.ok(c.Fill("What is thrown", "1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!"))
	c.ok(c.See("5 lead, 5 rear; 10 to the head"))
	c.ok(c.See("Every move flows from the one before."))
	c.ok(c.Until("document.querySelectorAll('circle.strike').length === 10"))
	c.text("document.activeElement.blur(), ''")
	c.ok(c.Key("m"))
	c.ok(c.Until(written + " === '2-2-1 | duck - 1-4-1! | slip rear - 4-1 | step back - 2-1!'"))
	c.ok(c.Press("Undo"))
	c.ok(c.Until(written + ".startsWith('1-1-2')"))
	c.ok(c.Press("Redo"))
	c.ok(c.Until(written + ".startsWith('2-2-1')"))
	c.ok(c.Press("Undo"))
	c.text("document.activeElement.blur(), ''")
	c.ok(c.Key("c"))
	c.ok(c.Until(written + " === '2-2-3 | duck - 3-2-3! | slip rear - 2-3 | step back - 2-3!'"))

	// Picked with the mouse, on a softer and a later return.
	c.ok(c.Fill("What is thrown", "1"))
	c.ok(c.Press("2"))
	c.ok(c.Until(written + " === '1 - 2'"))
	c.ok(c.See("Read as 1-2"))
	c.ok(c.Press("Move 2 one return later"))
	c.ok(c.Until(written + " === '1:2-2'"))
	c.ok(c.See("return 2"))
	c.ok(c.Press("Listen"))
	c.ok(c.See("Playing…"))
	c.ok(c.Until("[...document.querySelectorAll('button')].some((b) => b.innerText === 'Listen')"))
	c.ok(c.Choose("Round length", "Reps"))
	c.ok(c.Set("Reps", "Reps", "2"))
	c.ok(c.See("2 reps"))
	c.ok(c.Press("Start round"))
	c.ok(c.See("Ready for the floor"))
	c.ok(c.See("2 reps of 1:2-2"))
	c.ok(c.Press("Demo hits"))
	c.ok(c.Press("Expert"))
	c.ok(c.Press("Start"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
	c.ok(c.See("of 4 strikes"))
}

// A strike is dragged to another return, force and tempo move each other, what belongs to the drill can be read on its
// cards, and a surprise is laid over it.
func TestComposeByHand(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 900)
	c.signedIn()
	c.ok(c.Go("/compose/new"))
	c.ok(c.See("Thrown at"))
	c.ok(c.Fill("What is thrown", "1-2-1"))
	c.ok(c.See("2 lead, 1 rear"))
	c.ok(c.Until("document.querySelectorAll('circle.strike').length === 3"))
	// To the return after the next: the discs of the two returns are a swing of the bag apart.
	gap := c.number(
		"(() => { const at = [...document.querySelectorAll('circle.strike')].map((d) => d.cx.baseVal.value); return at[2] - at[1] })()")
	c.text("document.querySelectorAll('circle.strike')[1].id = 'second', ''")
	c.ok(c.Drag("#second", 2*gap, 0))
	c.ok(c.Until(written + " === '1:2-2-1'"))
	c.ok(c.See("move 2: return 2")) // the answer to it is there before it is taken back
	c.ok(c.Press("Undo"))
	c.ok(c.Until(written + " === '1-2-1'"))
	c.ok(c.See("move 2: the next"))

	c.ok(c.Part("Fist speed"))
	c.ok(c.See("Tempo in the combination"))
	force := "Number([...document.querySelectorAll('label')].find((l) => l.innerText.startsWith('Force')).control.value)"
	before := c.number(force)
	tempo := c.number(
		"Number([...document.querySelectorAll('label')].find((l) => l.innerText.startsWith('Tempo in the combination')).control.value)")
	c.ok(c.Fill("Tempo in the combination", fmt.Sprintf("%.0f", tempo+8)))
	c.text("document.activeElement.blur(), ''")
	c.ok(c.Until(fmt.Sprintf("%s > %g", force, before)))
	c.ok(c.See(fmt.Sprintf("%.0f a minute", tempo+8)))
	c.ok(c.Key("\x1b"))
	c.ok(c.Part("Still fine down to"))
	c.ok(c.See("Still fine down to"))
	c.ok(c.Fill("Tempo in the combination", "900"))
	c.text("document.activeElement.blur(), ''")
	c.ok(c.See("what this bag gives at the forces of this trainee"))

	c.ok(c.Key("\x1b"))
	c.ok(c.Choose("Rhythm on the bag", "Every second"))
	c.ok(c.See("on every second return"))
	c.ok(c.Press("Every return"))
	c.ok(c.Key("\x1b"))
	c.text("document.querySelector('details summary').click(), ''")
	c.ok(c.See("The shoulder covers the chin."))
	c.ok(c.Choose("Random cues", "An attack is named"))
	c.ok(c.See("Answered by"))
	c.ok(c.Fill("Answered by", "2 - slip rear"))
	c.text("document.activeElement.blur(), ''")
	c.ok(c.See("xpected a defence and up to three strikes"))
	c.ok(c.Fill("Answered by", "slip rear - 2"))
	c.text("document.activeElement.blur(), ''")
	c.ok(c.Until("!document.body.innerText.includes('xpected a defence')"))
}

// What a gym trains and how it calls is set once, and offered from then on.
func TestSchools(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 900)
	c.signedIn()
	c.ok(c.Go("/compose/new"))
	c.ok(c.See("Thrown at"))
	c.ok(c.Until("![...document.querySelectorAll('button')].some((b) => b.innerText === 'knee lead')"))
	c.ok(c.Fill("What is thrown", "1-2 - knee rear"))
	c.ok(c.See("by its settings this gym does not"))
	c.ok(c.Go("/log")) // the choices of the composer have the same names
	c.ok(c.See("in a row"))
	c.ok(c.Press("Gym"))
	c.ok(c.Press("Trained here"))
	c.ok(c.Press("Names"))
	c.ok(c.Press("Inside and outside"))
	c.ok(c.Press("Save settings"))
	c.ok(c.See("settings are saved."))
	c.ok(c.Go("/compose/new"))
	c.ok(c.Until("[...document.querySelectorAll('button')].some((b) => b.innerText === 'knee lead')"))
	c.ok(c.See("jab"))
	c.ok(c.Fill("What is thrown", "1 - slip rear - 2"))
	c.ok(c.See("jab, slip outside, cross"))
}

// The library is searched by bag and words, and a drill of it is taken for somebody.
func TestLibrary(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/drills"))
	c.ok(c.Press("Library"))
	c.ok(c.See("Strike once, meet it once"))
	c.ok(c.Until("parseInt(" + heading + ") > 0"))
	all := c.number("parseInt(" + heading + ")")
	c.ok(c.Press("Slip"))
	c.ok(c.Until(fmt.Sprintf("parseInt(%s) < %g", heading, all)))
	c.ok(c.Fill("Search by words, numbers or moves", "slip rear - 2"))
	c.ok(c.See("Answer on both sides"))
	c.ok(c.Until("!document.body.innerText.includes('Side and side')"))
	c.ok(c.See("Our own"))
	if words := c.text("document.body.innerText"); !strings.Contains(words, "The same as “Answer on both sides”") {
		t.Error("the gym's own twin is not told")
	}
	c.ok(c.Press("Take Answer on both sides"))
	c.ok(c.See("What is thrown"))
	c.ok(c.Until(written + " === 'slip lead - 3 - slip rear - 2'"))
	c.ok(c.Fill("What is thrown", "nothing at all"))
	c.ok(c.See("is not known"))
	c.ok(c.Go("/library"))
	c.ok(c.Fill("Search by words, numbers or moves", "zzz"))
	c.ok(c.See("Nothing like that."))
}
