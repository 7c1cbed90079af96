package e2e

import (
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"melodromos/demo"
	"melodromos/store"
)

const (
	goesOn   = "1-2-3 - slip lead - 2"
	leaves   = "history.back(), ''"
	saveLess = "[...document.querySelectorAll('button')].find((b) => b.innerText.startsWith('Save')).disabled"
)

// stands waits until the composer shows the line that was written and not saved.
func (c coach) stands() {
	c.t.Helper()
	c.ok(c.Until("(" + written + ") === '" + goesOn + "'"))
	c.ok(c.See("Not saved yet."))
}

// reloads loads the page anew.
func (c coach) reloads() {
	c.t.Helper()
	c.text("(window.before = true, location.reload(), '')")
	c.ok(c.Until("!window.before"))
}

// again signs in where one is, after the session has run out.
func (c coach) again() {
	c.t.Helper()
	c.ok(c.Fill("E-mail", demo.Email))
	c.ok(c.Fill("Password", demo.Password))
	c.ok(c.Press("Sign in"))
}

// demoOf opens the data of the demo gym.
func demoOf(t *testing.T, s *store.Store) *store.Gym {
	t.Helper()
	row, err := s.DemoGym(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	return s.Gym(context.Background(), row.ID)
}

// The ways in which a combination that is not saved could be lost: going elsewhere, Back, a reload, a session that runs
// out, a server that is gone, Save pressed twice, and a page that is left before the answer comes. None loses it, and
// none makes it twice.
func TestUnsavedLine(t *testing.T) {
	t.Parallel()
	s := demoGym(t)
	url, stop := serve(t, s, "127.0.0.1:0")
	gym := demoOf(t, s)
	drills := func() int {
		list, err := gym.Drills(store.InUse)
		if err != nil {
			t.Fatal(err)
		}
		return len(list)
	}
	before := drills()
	c := open(t, url, 1280, 800)
	c.ok(c.SignIn(demo.Email, demo.Password))
	c.ok(c.Press("Drills"))
	c.ok(c.Press("Compose a combination"))
	c.ok(c.See("What is thrown"))
	c.ok(c.Fill("What is thrown", goesOn))
	c.ok(c.See("2 lead, 2 rear"))

	// Elsewhere, and from the list back again.
	c.ok(c.Press("People"))
	c.ok(c.Until("document.activeElement === document.querySelector('h1') && location.hash === '#/people'"))
	c.ok(c.Press("Drills"))
	c.ok(c.Press("Go on with " + goesOn))
	c.stands()
	// Back, and on.
	c.text(leaves)
	c.ok(c.See("Compose a combination"))
	c.text("history.forward(), ''")
	c.stands()
	// A reload.
	c.reloads()
	c.stands()
	// A session that runs out: what is asked next is refused, and signing in leads back to it.
	c.ok(c.Until(partOf("Round length") + " !== undefined && !document.querySelector('[aria-busy=true]')"))
	c.text("fetch('/api/sign-out', {method: 'POST', headers: {'content-type': 'application/json'}}).then(() => '')")
	c.ok(c.Set("Round length", "Round length", "90"))
	c.ok(c.See("Sign in"))
	c.again()
	c.stands()
	c.ok(c.Until(partOf("Round length") + " !== undefined"))
	c.Errors() // of the question that was refused
	if long := c.number(figureOf("Round length")); long != 90 {
		t.Errorf("the length that was set last is %g", long)
	}
	// A server that is gone says so, and Save can be pressed again.
	at := strings.TrimPrefix(url, "http://")
	stop()
	c.ok(c.Press("Save"))
	c.ok(c.See("The server cannot be reached."))
	c.ok(c.See("Nothing was saved."))
	c.stands()
	_, stop = serve(t, s, at)
	t.Cleanup(stop)
	c.Errors() // of the connection that was refused
	// Save pressed twice, and the page left before the answer comes.
	c.ok(c.Slow(1))
	save := "[...document.querySelectorAll('button')].find((b) => b.innerText === 'Save')"
	c.text("(" + save + ".click(), " + save + ".click(), '')")
	time.Sleep(300 * time.Millisecond)
	c.reloads()
	c.ok(c.Slow(0))
	c.ok(c.Until(partOf("Round length") + " !== undefined")) // saved or not, it stands here
	if c.text("document.body.innerText.includes('Not saved yet') ? 'left' : ''") != "" {
		c.stands()
		c.ok(c.Press("Save"))
		c.ok(c.See("is saved."))
	}
	c.becomes("one drill more", func() (bool, error) { return drills() == before+1, nil })
	if n := drills() - before; n != 1 {
		t.Errorf("%d drills were made", n)
	}
	// Saving is taken back from wherever one is by then.
	c.ok(c.Go("/log"))
	c.ok(c.See("in a row"))
	c.ok(c.Press("Undo save"))
	c.becomes("the drill to be archived", func() (bool, error) {
		list, err := gym.Assignments("")
		for _, a := range list {
			if strings.Contains(string(a.Drill.Doc), "1-2-3 - slip lead - 2") {
				return false, err
			}
		}
		return true, err
	})
	c.ok(c.Away()) // before the server goes: what the page still asks for is no fault of it
}

// Two screens change the same drill: the second is told, sees both, and keeps the one or the other; neither is lost.
func TestTwoScreens(t *testing.T) {
	t.Parallel()
	url := start(t)
	here, there := open(t, url, 1280, 800), open(t, url, 1280, 800)
	path := ""
	for _, c := range []coach{here, there} {
		c.signedIn()
		c.ok(c.Go("/drills"))
		path = c.linkTo("/drills/")
		c.ok(c.Go(path))
		c.ok(c.See("between strikes"))
	}
	length := func(c coach, seconds string) {
		c.ok(c.Set("Round length", "Round length", seconds))
		c.ok(c.Key("\x1b"))
	}
	saves := func(c coach) { // what was saved before may still be told
		c.ok(c.Press("Save"))
		c.ok(c.Until("location.hash === '#/drills'"))
	}
	length(there, "50")
	saves(there)

	length(here, "70")
	here.ok(here.Press("Save"))
	here.ok(here.See("This was changed meanwhile, on another screen."))
	here.ok(here.Press("See both"))
	here.ok(here.See("Theirs"))
	if both := here.text("document.querySelector('table').innerText"); !strings.Contains(both, "70 s") ||
		!strings.Contains(both, "50 s") {
		t.Errorf("both are %q", both)
	}
	here.ok(here.Press("Keep theirs"))
	here.ok(here.Until(figureOf("Round length") + " === 50"))
	here.ok(here.Press("Undo choice"))
	here.ok(here.Until(figureOf("Round length") + " === 70"))
	saves(here)

	// The other way about: what was left unsaved meets what was saved since.
	there.ok(there.Go(path))
	there.ok(there.Until(figureOf("Round length") + " === 70"))
	length(there, "55")
	there.ok(there.Press("Log"))
	there.ok(there.See("in a row"))
	here.ok(here.Go(path))
	length(here, "80")
	saves(here)
	there.ok(there.Go(path))
	there.ok(there.See("This was changed meanwhile"))
	there.ok(there.Press("Keep mine"))
	there.ok(there.Until(figureOf("Round length") + " === 55"))
	saves(there)
}

// A bag, a person and the gym's settings that are not saved outlive leaving them; a wrong measure and a blank name are
// refused where they stand; what was archived is brought back from wherever one is.
func TestUnsavedBagAndPerson(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.bench("Quay bag", "Tobias Amadi-Rein")
	before := c.number(dimension("Board above the floor"))
	c.ok(c.Set("Board above the floor", "Board above the floor", "9"))
	c.ok(c.Until(saveLess)) // a board at 9 cm: nothing to be saved
	c.ok(c.Fill("Board above the floor", "201"))
	c.ok(c.Key("\x1b"))
	c.ok(c.Until(dimension("Board above the floor") + " === 201"))
	c.ok(c.Press("People"))
	c.ok(c.Until("(" + heading + ") === 'People'"))
	c.text(leaves)
	c.ok(c.See("Not saved yet."))
	c.ok(c.Until(dimension("Board above the floor") + " === 201"))
	c.ok(c.Set("Name of the bag", "Name of the bag", " "))
	c.ok(c.Key("\r"))
	c.ok(c.Press("Save measures"))
	c.ok(c.See("Give the bag a name. Nothing was saved."))
	c.ok(c.Press("Discard changes"))
	c.ok(c.Until(fmt.Sprintf("%s === %g", dimension("Board above the floor"), before)))
	c.ok(c.Press("Undo drop"))
	c.ok(c.Until(dimension("Board above the floor") + " === 201"))
	c.ok(c.Press("Discard changes"))

	c.ok(c.Go("/people"))
	c.ok(c.Press("Add a person"))
	c.ok(c.Until("document.activeElement?.closest('label')?.innerText.startsWith('Name')"))
	c.ok(c.Fill("Name", "Odile Marram"))
	c.ok(c.Press("Southpaw (right hand leads)"))
	c.ok(c.Press("Bags"))
	c.ok(c.Until("location.hash === '#/bags'"))
	c.ok(c.Press("People"))
	c.ok(c.Press("Go on with Odile Marram"))
	c.ok(c.Until("document.querySelector('form input')?.value === 'Odile Marram'"))
	c.ok(c.Press("Save"))
	c.ok(c.See("Odile Marram is saved."))
	c.ok(c.See("southpaw"))
	// What is changed of somebody is told on their page, also when it is the first that is opened.
	c.ok(c.Press("Change"))
	c.ok(c.Fill("Notes", "left shoulder"))
	c.reloads()
	c.ok(c.See("changes to Odile Marram"))
	c.ok(c.Press("Go on"))
	c.ok(c.Until("[...document.querySelectorAll('input')].some((i) => i.value === 'left shoulder')"))
	c.ok(c.Press("Archive"))
	c.ok(c.Until("location.hash === '#/people'"))
	c.ok(c.Go("/log"))
	c.ok(c.See("in a row"))
	c.ok(c.Press("Undo archive"))
	c.ok(c.Go("/people"))
	c.ok(c.See("Odile Marram"))

	c.ok(c.Press("Gym"))
	c.ok(c.Fill("Name of the gym", "The Long Shed"))
	c.ok(c.Press("Log"))
	c.ok(c.See("in a row"))
	c.ok(c.Press("Gym"))
	c.ok(c.See("Not saved yet."))
	c.ok(c.Until("document.querySelector('form input').value === 'The Long Shed'"))
	c.ok(c.Press("Save settings"))
	c.ok(c.Until("document.querySelector('h1').innerText === 'The Long Shed'"))
	c.ok(c.Press("Undo save"))
	c.ok(c.Until("document.querySelector('h1').innerText.startsWith('The Ropewalk')"))
}

// A coach brings in another by a link; whoever has it coaches in the same gym at once, and can change name and
// password.
func TestCoachByLink(t *testing.T) {
	t.Parallel()
	s := demoGym(t)
	first := hall(t, s)
	url, stop := serve(t, s, "127.0.0.1:0")
	t.Cleanup(stop)
	c, guest := open(t, url, 1280, 800), open(t, url, 390, 844)
	c.ok(c.SignIn(first.Email, hallPassword))
	c.ok(c.Press("Gym"))
	c.ok(c.Fill("Invite a coach: who is it?", "Marta"))
	c.ok(c.Press("Make a link"))
	c.ok(c.See("Marta is invited by New"))
	c.ok(c.Until("document.querySelector('[aria-label=\"The link\"]') !== null"))
	link := c.text("document.querySelector('[aria-label=\"The link\"]').value")
	guest.ok(guest.Leave(link))
	guest.ok(guest.See("Coach at Hall"))
	guest.ok(guest.Fill("E-mail", "marta@hall.example"))
	guest.ok(guest.Fill("Password, 10 characters or more", "ropes and canvas"))
	guest.ok(guest.Press("Join Hall"))
	guest.ok(guest.See("Nothing is planned yet."))
	guest.ok(guest.Press("Gym"))
	guest.ok(guest.Fill("Your name", "Marta the elder"))
	guest.ok(guest.Press("Save name"))
	guest.ok(guest.See("You are Marta the elder now."))
	guest.ok(guest.Fill("Password now", "not this"))
	guest.ok(guest.Fill("New password, 10 characters or more", "canvas and ropes"))
	guest.ok(guest.Press("Change password"))
	guest.ok(guest.See("The old password stays."))
	c.ok(c.Go("/log"))
	c.ok(c.Press("Gym"))
	c.ok(c.See("Marta the elder"))
	c.ok(c.Press("Remove Marta the elder"))
	c.ok(c.Fill("Your password", hallPassword))
	c.ok(c.Press("Remove"))
	c.ok(c.See("is removed and signed out"))
	guest.ok(guest.Press("Log"))
	guest.ok(guest.See("Sign in"))
	guest.Errors() // of what is refused to whoever is signed out
	c.Errors()
}
