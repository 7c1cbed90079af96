package e2e

import (
	"os"
	"os/exec"
	"strings"
	"testing"

	"melodromos/store/storetest"
)

// thrownAway says that this process knows a kind of bag that is only here for TestNewKind.
const thrownAway = "MELODROMOS_TEST_STANDING"

func init() {
	if os.Getenv(thrownAway) != "" {
		registerStanding()
	}
}

// A new kind of bag takes one file of core and one line of a migration; its picture is drawn of the shapes that it
// names. Then it can be hung and asked about, kept, found in the list, composed for and run, judged and spoken of
// wherever bags are. It runs in a process of its own, since a kind cannot be unknown again.
func TestNewKind(t *testing.T) {
	t.Parallel()
	if os.Getenv(thrownAway) == "" {
		ready(t)
		again := exec.Command(os.Args[0], "-test.run=^TestNewKind$", "-test.v")
		again.Env = append(os.Environ(), thrownAway+"=1")
		if out, err := again.CombinedOutput(); err != nil || !strings.Contains(string(out), "--- PASS") {
			t.Fatalf("%v\n%s", err, out)
		}
		return
	}
	database := demoDatabase(t)
	storetest.Exec(t, database, "INSERT INTO bag_kinds VALUES ('standing')")
	url, stop := serve(t, opened(t, database), "127.0.0.1:0")
	t.Cleanup(stop)
	c := open(t, url, 1280, 800)
	c.enter()

	c.ok(c.Go("/bags/new?kind=standing"))
	c.ok(c.See("every return, about half power"))
	c.ok(c.See("Fill the foot so that it does not walk."))
	c.ok(c.Set("Measures", "Neck", "20000"))
	c.ok(c.See("Expected 100 to 3000 N/m."))
	c.ok(c.Fill("Neck", "700"))
	c.ok(c.Key("\x1b"))
	c.ok(c.Set("Name of the bag", "Name of the bag", "Bellwether"))
	c.ok(c.Key("\r"))
	c.ok(c.Press("Save this bag"))
	c.ok(c.See("Bellwether is saved."))
	c.ok(c.See("Not calibrated yet: neck is our guess."))
	c.ok(c.Press("use this setting"))
	c.ok(c.See("It hangs right for"))
	c.ok(c.Go("/bags"))
	c.ok(c.See("Standing bag: weight that swings 12 kg, neck 700 N/m"))

	c.ok(c.Go("/compose/new"))
	c.ok(c.See("What is thrown"))
	c.ok(c.Part("Bag"))
	c.ok(c.See("Bellwether"))
	c.ok(c.Press(c.text("[...document.querySelectorAll('button')].find((b) => b.innerText.startsWith('Bellwether')).innerText")))
	c.ok(c.Fill("What is thrown", "1-2 - slip lead - 2"))
	c.ok(c.See("1 lead, 2 rear"))
	c.ok(c.Press("Start round"))
	c.ok(c.Press("Start"))
	c.ok(c.runs())
	c.ok(c.into(2))
	c.ok(c.Press("Stop"))
	c.ok(c.Press("Stop now"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
	c.ok(c.See("Bellwether"))
	for _, page := range []string{"/people", "/library", "/log", "/"} {
		c.ok(c.Go(page))
		c.ok(c.Until("document.querySelector('h1') !== null"))
	}
}
