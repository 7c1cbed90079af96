package e2e

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"

	"melodromos/core/class"
	"melodromos/core/session"
	"melodromos/core/words"
	"melodromos/server"
)

const phase = "document.querySelector('main').dataset.phase"

// inPhase waits until a live screen is running or paused.
func (c coach) inPhase(want string) {
	c.t.Helper()
	if err := c.Until(phase + " === '" + want + "'"); err != nil {
		c.t.Errorf("it is %s, and should be %s", c.text(phase), want)
	}
}

// planned is a class of so many people, of a session or, with none, of half an hour for everybody's own drills.
func (c coach) planned(people int, s *session.Session) server.HeldClass {
	c.t.Helper()
	asks := server.ClassQuestion{Bags: []string{}, Session: s}
	if s == nil {
		asks.Minutes = 30
	}
	for _, p := range asked[[]server.Trainee](c, "GET", "/api/trainees", nil)[:people] {
		asks.People = append(asks.People, p.ID)
	}
	return asked[server.HeldClass](c, "POST", "/api/hours", asks)
}

// classOf plans a class of so many people and goes to its floor.
func (c coach) classOf(people int) server.HeldClass {
	c.t.Helper()
	return c.onFloor(c.planned(people, nil))
}

// onFloor goes to the floor of a class that has not begun.
func (c coach) onFloor(h server.HeldClass) server.HeldClass {
	c.t.Helper()
	c.ok(c.Go("/floor/" + h.ID))
	c.ok(c.See("Start the class"))
	return h
}

// On the floor of a class Space, the pedal and the large button pause and go on, whatever was pressed before, with the
// mouse or by Tab: they never press it again.
func TestTheFloorObeys(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	h := c.classOf(3)
	c.ok(c.Press("Start the class"))
	c.inPhase("running")
	deeds := func() int { return asked[server.HeldClass](c, "GET", "/api/hours/"+h.ID, nil).Deeds }
	c.ok(c.Press("Skip"))
	c.ok(c.Until("document.querySelector('[data-testid=now]').innerText !== 'Skipping'"))
	for i, key := range []string{" ", " ", kb.PageDown, kb.ArrowRight, " ", " "} {
		c.ok(c.Key(key))
		c.inPhase([]string{"paused", "running"}[i%2])
	}
	for _, name := range []string{"Skip", "Again", "Back", "Rest +30 s", "Sound", "Who is here"} {
		before := deeds()
		c.text(fmt.Sprintf(`(([...document.querySelectorAll('footer button')].find((b) => b.innerText === %q)).focus(), '')`,
			name)) // as Tab does
		c.ok(c.Key(" "))
		c.inPhase("paused")
		c.ok(c.Key(" "))
		c.inPhase("running")
		if now := deeds(); now != before || c.text("String(!!document.querySelector('[role=dialog]'))") == "true" {
			t.Errorf("Space with the focus on %s: %d deeds more, or a dialog", name, now-before)
		}
	}
	// A dialog is opened and left again; Space is not its button's.
	for _, leave := range []string{"Cancel", "\x1b"} {
		c.ok(c.Press("Who is here"))
		c.ok(c.See("Who is here now"))
		if leave == "Cancel" {
			c.ok(c.Press(leave))
		} else {
			c.ok(c.Key(leave))
		}
		c.ok(c.Until("!document.querySelector('[role=dialog]')"))
		c.ok(c.Key(" "))
		c.inPhase("paused")
		c.ok(c.Key(" "))
		c.inPhase("running")
	}
	// In a dialog it pauses, too, and Enter presses what has the focus.
	c.ok(c.Press("Sound"))
	c.ok(c.Until("document.querySelector('[role=dialog] [role=radio]')"))
	c.text("(document.querySelector('[role=dialog] [role=radio]:not([data-state=checked])').focus(), '')")
	c.ok(c.Key(" "))
	c.inPhase("paused")
	c.ok(c.Key(" "))
	c.inPhase("running")
	c.ok(c.Key("\r"))
	c.ok(c.Until("document.activeElement.dataset.state === 'checked'"))
	c.ok(c.Press("Done"))
	c.ok(c.Until("!document.querySelector('[role=dialog]')"))
	before := deeds()
	c.text(`([...document.querySelectorAll('footer button')].find((b) => b.innerText === 'Skip').focus(), '')`)
	c.ok(c.Key("\r"))
	c.becomes("Enter skips", func() (bool, error) { return deeds() == before+1, nil })
	c.ok(c.Press("Pause"))
	c.inPhase("paused")
	c.ok(c.Press("Go on"))
	c.inPhase("running")
	// Single keys are switched off: Space is the browser's own, and the pedal goes on.
	c.text("(localStorage.setItem('single-keys', 'off'), '')")
	c.reloads()
	c.inPhase("running")
	before = deeds()
	c.text(`([...document.querySelectorAll('footer button')].find((b) => b.innerText === 'Skip').focus(), '')`)
	c.ok(c.Key(" "))
	c.becomes("Space skips", func() (bool, error) { return deeds() == before+1, nil })
	c.ok(c.Key("s"))
	c.ok(c.Key(kb.PageDown))
	c.inPhase("paused")
	if now := deeds(); now != before+1 {
		t.Errorf("a single key that is switched off did something: %d deeds", now-before)
	}
}

// In a round Space pauses and goes on whatever was pressed before, and no mark is made twice.
func TestTheRoundObeys(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.ontoFloor()
	c.ok(c.Key(" "))
	c.ok(c.runs())
	c.ok(c.into(1))
	c.ok(c.Press("1Missed"))
	c.ok(c.See("1 mark"))
	for i := range 4 {
		c.ok(c.Key(" "))
		c.inPhase([]string{"paused", "running"}[i%2])
	}
	c.text("(document.querySelector('[role=group][aria-label=Marks] button:nth-of-type(2)').focus(), '')")
	c.ok(c.Key(" "))
	c.inPhase("paused")
	c.ok(c.Key(kb.PageDown))
	c.inPhase("running")
	c.ok(c.See("1 mark"))
	c.ok(c.Key("\r"))
	c.ok(c.See("2 marks"))
}

// Who leaves and what breaks in the middle of a round is gone from the floor at once; the rest is said to come with the
// next round.
func TestLeavesInMidRound(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	h := c.classOf(4)
	c.ok(c.Press("Start the class"))
	c.inPhase("running")
	for c.text("String(!!document.querySelector('main ul li figure, main ul li svg[role=img]'))") != "true" {
		c.ok(c.Press("Skip")) // out of the warm-up, into the first round
		time.Sleep(600 * time.Millisecond)
		if strings.HasPrefix(c.text("document.querySelector('[data-testid=now]').innerText"), "Your drill") {
			c.ok(c.Until("document.querySelector('main ul li svg[role=img]')"))
		}
	}
	now := asked[server.HeldClass](c, "GET", "/api/hours/"+h.ID, nil)
	turn := now.Plan.Turns[0]
	seat := turn.Seats[slices.IndexFunc(turn.Seats, func(s class.Seat) bool { return s.Bag != "" })]
	other := turn.Seats[slices.IndexFunc(turn.Seats,
		func(s class.Seat) bool { return s.Bag != "" && s.Person != seat.Person })]
	who, bag := now.Plan.Person(seat.Person).Name, now.Plan.Bag(other.Bag).Name
	onBag := now.Plan.Person(other.Person).Name
	c.ok(c.Press("Who is here"))
	c.ok(c.See("counts from now"))
	c.ok(c.Press(who))
	c.ok(c.Press(bag + " " + words.Upper(now.Plan.Bag(other.Bag).Kind.Name())))
	c.ok(c.Press("Re-plan the rest"))
	c.ok(c.Until("!document.querySelector('[role=dialog]')"))
	c.ok(c.See("From now: " + who + " has left"))
	c.ok(c.See("From the next round"))
	c.ok(c.Until(fmt.Sprintf("![...document.querySelectorAll('main ul li')].some((li) => li.innerText.includes(%q) || li.innerText.includes(%q))",
		strings.Fields(who)[0], bag)))
	c.ok(c.See(strings.Fields(onBag)[0])) // who was on it has something else to do
	if text := c.text("document.querySelector('main').innerText"); strings.Contains(text, bag+"\n") {
		t.Errorf("somebody is sent to the %s: %q", bag, text)
	}
}

// Without a line what changes the order of things is refused, and nothing jumps once it is back; a skip is done at
// once.
func TestNoJumpOnReconnect(t *testing.T) {
	t.Parallel()
	database := demoGym(t)
	url, stop := serve(t, database, "127.0.0.1:0")
	c := open(t, url, 1280, 800)
	c.enter()
	h := c.classOf(3)
	c.ok(c.Press("Start the class"))
	c.inPhase("running")
	c.ok(c.Press("Skip"))
	c.ok(c.Until("document.querySelector('[data-testid=now]').innerText !== 'Skipping'"))
	time.Sleep(4500 * time.Millisecond) // so that Back would begin it anew
	faces := len(asked[server.HeldClass](c, "GET", "/api/hours/"+h.ID, nil).Faces)
	stop()
	// The clock is the audio device's, which may fall behind on a busy machine, but does not jump within a stretch.
	c.text(`(() => {
		const seen = () => ({
			what: document.querySelector('[data-testid=now]').innerText, at: performance.now() / 1000,
			left: document.querySelector('[role=timer]').innerText.split(':').reduce((a, b) => 60 * a + +b, 0) })
		let was = seen()
		window.jumped = window.looked = 0
		const looking = setInterval(() => {
			if (!document.querySelector('[role=timer]')) return clearInterval(looking)
			const now = seen()
			if (now.what === was.what) window.jumped = Math.max(window.jumped, Math.abs(was.left - now.left - now.at + was.at))
			window.looked++
			was = now
		}, 200)
		return ''
	})()`)
	for _, name := range []string{"Back", "Again", "Rest +30 s"} {
		c.ok(c.Press(name))
		c.ok(c.See("Offline: nothing was changed"))
		c.ok(c.Until("!document.body.innerText.includes('Offline: nothing was changed')"))
	}
	c.ok(c.See("Offline. The class carries on"))
	_, again := serve(t, database, strings.TrimPrefix(url, "http://"))
	t.Cleanup(again)
	c.ok(c.Until("!document.body.innerText.includes('Offline')"))
	time.Sleep(time.Second)
	if by, looked := c.number("window.jumped"), c.number("window.looked"); by > 2.5 || looked < 20 {
		t.Errorf("the bell has jumped by %.1f s in %.0f looks", by, looked)
	}
	c.lostLine()
	now := asked[server.HeldClass](c, "GET", "/api/hours/"+h.ID, nil)
	cut := func(f session.Display) bool { return f.State == session.Cut }
	if len(now.Faces) != faces || slices.ContainsFunc(now.Faces, cut) {
		t.Errorf("%d stretches, before %d", len(now.Faces), faces)
	}
	c.ok(c.Press("Again")) // with a line it is done
	c.becomes("again", func() (bool, error) {
		return len(asked[server.HeldClass](c, "GET", "/api/hours/"+h.ID, nil).Faces) > faces, nil
	})
	c.ok(c.Slow(1))
	c.ok(c.Press("Skip"))
	c.text("(location.hash = '#/', '')") // left before it is answered
	time.Sleep(2 * time.Second)          // in which the browser would complain
	c.ok(c.Slow(0))
	c.lostLine()
}
