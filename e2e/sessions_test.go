package e2e

import (
	"flag"
	"fmt"
	"testing"
	"time"

	"melodromos/core/rig"
	"melodromos/core/session"
)

var all = flag.Bool("all", false, "hold every session with each number of people")

// A session that is offered, and a build-up that all do together, is planned, started, run to its end and looked at
// afterwards on the pages themselves: three of them here, by one, by three and by eight people; with -all each by each.
// That each can be held at all is shown without a browser (TestLongEverySessionHeld).
func TestSessionsToTheirEnd(t *testing.T) {
	t.Parallel()
	templates := session.Templates()
	built, err := session.BuildUp("1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!", rig.Hanging, 180)
	if err != nil {
		t.Fatal(err)
	}
	built.Name = "Built up in the open"
	templates = append(templates, session.Template{Session: built})
	numbers := []int{1, 3, 8}
	for n, people := range numbers {
		t.Run(fmt.Sprint(people), func(t *testing.T) {
			t.Parallel()
			c := open(t, start(t), 1280, 800)
			c.enter()
			for i, s := range templates {
				if last := len(templates) - 1 - i; *all || last%5 == 0 && last/5 == n {
					c.toTheEnd(s.Session, people)
				}
			}
		})
	}
}

// toTheEnd holds a session with so many people.
func (c coach) toTheEnd(s session.Session, people int) {
	c.t.Helper()
	h := c.planned(people, &s)
	c.ok(c.Go("/class/" + h.ID))
	c.ok(c.See(s.Name))
	c.ok(c.Press("To the floor"))
	c.ok(c.Press("Start the class"))
	c.inPhase("running")
	const over = "String(document.querySelector('h1').innerText.includes('is over'))"
	const skip = `([...document.querySelectorAll('button')].find((b) =>
		/^(Skip|End the rest)/.test(b.innerText))?.click(), '')`
	for n := 0; c.text(over) != "true"; n++ {
		if n == 400 {
			c.t.Fatalf("%s for %d: not over: %s", s.Name, people, c.text("document.body.innerText"))
		}
		c.text(skip)
		time.Sleep(250 * time.Millisecond) // the screen shows what comes next
	}
	for _, page := range []string{"/class/" + h.ID, "/class", "/log", "/"} {
		c.ok(c.Go(page))
		c.ok(c.Until("document.querySelector('h1') && !document.querySelector('main[aria-busy=true]')"))
		if c.text("String(document.body.innerText.includes('could not be read'))") == "true" {
			c.t.Errorf("%s for %d: %s could not be read", s.Name, people, page)
		}
	}
}
