package e2e

import (
	"context"
	"fmt"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"melodromos/browser"
	"melodromos/core/session"
	"melodromos/demo"
	"melodromos/server"
	"melodromos/store"
	"melodromos/store/storetest"
)

// Measures, and the place of the bag, open within the window: their first field can be reached on every kind of bag.
func TestMeasuresInReach(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	for _, b := range asked[[]server.Rig](c, "GET", "/api/rigs", nil) {
		c.ok(c.Go("/bags/" + b.ID))
		for _, part := range []string{"measures of the bag", "place and use"} {
			c.ok(c.Until(fmt.Sprintf(`((b) => b && (b.click(), true))([...document.querySelectorAll('button.part')].find((b) => b.innerText === %q))`, part)))
			c.ok(c.Until("document.querySelector('[data-popover-content] input')"))
			if found := c.text(`(() => {
				const o = document.querySelector('[data-popover-content]').getBoundingClientRect()
				const i = document.querySelector('[data-popover-content] input').getBoundingClientRect()
				return o.top < 0 || o.bottom > innerHeight || i.top < o.top ? JSON.stringify([o, i]) : ''
			})()`); found != "" {
				t.Errorf("%s, %s: %s", b.Name, part, found)
			}
			c.ok(c.Key("\x1b"))
			c.ok(c.Until("!document.querySelector('[data-popover-content]')"))
		}
	}
}

// apart lists what collides in the picture of a bag: figures, handles, the word of the band, and the head.
const apart = `(() => {
	const svg = document.querySelector('svg[aria-label^="The bag from the side"]')
	const boxes = []
	const add = (name, r, by = 0) => boxes.push({ name, l: r.left + by, r: r.right - by, t: r.top + by, b: r.bottom - by })
	for (const span of document.querySelectorAll('.on-line')) {
		const range = document.createRange()
		range.selectNodeContents(span)
		add('figure ' + span.innerText, range.getBoundingClientRect(), 1)
	}
	for (const k of svg.querySelectorAll('.knob')) add('handle ' + k.dataset.field, k.getBoundingClientRect(), 1)
	for (const x of svg.querySelectorAll('text.dimension')) add('word ' + x.textContent, x.getBoundingClientRect(), 2)
	const head = svg.querySelector('ellipse')
	if (head) add('head', head.getBoundingClientRect(), 2)
	const found = []
	for (let i = 0; i < boxes.length; i++)
		for (let k = i + 1; k < boxes.length; k++) {
			const [a, b] = [boxes[i], boxes[k]]
			if (a.name.startsWith('handle') && (b.name.startsWith('handle') || b.name === 'head')) continue
			if (Math.min(a.r, b.r) - Math.max(a.l, b.l) > 1 && Math.min(a.b, b.b) - Math.max(a.t, b.t) > 1)
				found.push(a.name + ' over ' + b.name)
		}
	return found.join('; ')
})()`

// On the picture of a bag of any kind no label lies over another one, over a handle or over the face.
func TestLabelsApart(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	bags := asked[[]server.Rig](c, "GET", "/api/rigs", nil)
	for _, width := range []int{1280, 390} {
		if width < 500 {
			c.ok(c.BecomePhone(390, 844))
		}
		for _, b := range bags {
			c.ok(c.Go("/bags/" + b.ID))
			c.ok(c.Until("document.querySelectorAll('.on-line').length > 1"))
			if found := c.text(apart); found != "" {
				t.Errorf("%s at %d: %s", b.Name, width, found)
			}
		}
	}
}

// A gym without anybody is told what a combination needs.
func TestEmptyGymComposes(t *testing.T) {
	t.Parallel()
	s := database(t)
	coach := hall(t, s)
	url, _ := serve(t, s, "127.0.0.1:0")
	c := open(t, url, 1280, 800)
	c.ok(c.SignIn(coach.Email, hallPassword))
	c.ok(c.Go("/compose/new"))
	c.ok(c.See("A combination needs a bag and a person."))
	c.ok(c.See("Add a bag"))
}

// Heights are read as people write them, in metres, centimetres, feet and inches.
func TestHeightsAsWritten(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/people"))
	c.ok(c.Press("Add a person"))
	reads := func(label, typed, want string) {
		t.Helper()
		c.ok(c.Fill(label, typed))
		c.text("(document.activeElement.blur(), '')")
		if got := c.text(fmt.Sprintf(`[...document.querySelectorAll('label')].find((l) => l.innerText.startsWith(%q)).querySelector('input').value`, label)); got != want {
			t.Errorf("%s: %q becomes %q, want %q", label, typed, got, want)
		}
	}
	for typed, want := range map[string]string{"1.62": "162", "162": "162", "1,62 m": "162", "162 cm": "162",
		"5'4\"": "162.6"} {
		reads("Height, cm, where measured", typed, want)
	}
	c.ok(c.Fill("Height, cm, where measured", "16"))
	c.text("(document.activeElement.blur(), '')")
	c.ok(c.See("Expected"))
	gym := asked[server.GymSettings](c, "GET", "/api/gym", nil)
	gym.Units = "imperial"
	asked[server.GymSettings](c, "PUT", "/api/gym", gym)
	c.reloads()
	c.ok(c.Go("/people"))
	c.ok(c.Press("Add a person"))
	for typed, want := range map[string]string{"5 ft 4": "5 ft 4 in", "5'4\"": "5 ft 4 in", "64": "5 ft 4 in",
		"64 in": "5 ft 4 in", "162 cm": "5 ft 4 in"} {
		reads("Height, feet and inches, where measured", typed, want)
	}
}

// The sign-in has run out while a new line was being written: it stands there again once one is signed in.
func TestNewLineAfterTheSignInRanOut(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/compose/new"))
	c.ok(c.Until("document.querySelector('input[spellcheck=false]')"))
	c.text(`(() => { const i = document.querySelector('input[spellcheck=false]'); i.focus(); i.select(); return '' })()`)
	c.ok(c.Key("1-2-3-2"))
	c.ok(c.Until("Object.keys(localStorage).some((k) => k.startsWith('draft:') && localStorage.getItem(k).includes('1-2-3-2'))"))
	c.ok(c.Until(`(() => { // nothing is asked any more that would find out first
		const n = performance.getEntriesByType('resource').filter((e) => e.name.endsWith('/api/compose')).length
		if (n !== window.asked) { window.asked = n; window.since = performance.now() }
		return n > 0 && performance.now() - window.since > 1500
	})()`))
	c.text("fetch('/api/sign-out', {method: 'POST', headers: {'content-type': 'application/json'}}).then(() => '')")
	c.ok(c.Key("b")) // one key alone: it is asked what the line does, and the page is gone before a second one
	c.ok(c.See("Sign in"))
	c.again()
	c.ok(c.Until("document.querySelector('input[spellcheck=false]')?.value === '1-2-3-2b'"))
	c.Errors()
}

// A browser that is killed without a line has kept what it had not sent, and sends it when it is opened again.
func TestKilledBrowser(t *testing.T) {
	t.Parallel()
	const taps = 28
	database := demoGym(t)
	url, stop := serve(t, database, "127.0.0.1:0")
	profile := t.TempDir()
	page, done, err := browser.OpenIn(context.Background(), profile, url, 1280, 800)
	if err != nil {
		t.Fatal(err)
	}
	defer done()
	c := coach{page, t}
	c.ontoFloor()
	c.ok(c.Key(" "))
	c.ok(c.runs())
	c.ok(c.into(1))
	c.ok(c.Until("!Object.keys(localStorage).some((k) => k.startsWith('outbox:'))"))
	stop()
	for range taps {
		c.ok(c.Key("j"))
	}
	c.ok(c.See(fmt.Sprintf("%d hits", taps)))
	time.Sleep(time.Second) // as long as a tap takes onto the disk, on a busy machine
	c.ok(c.Kill())
	_, again := serve(t, database, strings.TrimPrefix(url, "http://"))
	t.Cleanup(again)
	_ = os.Remove(profile + "/SingletonLock")
	page, closed, err := browser.OpenIn(context.Background(), profile, url, 1280, 800)
	if err != nil {
		t.Fatal(err)
	}
	defer closed()
	c = coach{page, t}
	c.ok(c.Go("/"))
	c.ok(c.Until("document.querySelector('nav, input[type=password]')"))
	if c.text("String(!!document.querySelector('input[type=password]'))") == "true" {
		c.ok(c.SignIn(demo.Email, demo.Password))
	}
	gym := demoOf(t, database)
	c.becomes("what was tapped is in the log", func() (bool, error) {
		rows, err := gym.Runs(store.RunFilter{Limit: 1})
		if err != nil || len(rows) == 0 {
			return false, err
		}
		hits, err := gym.Hits(rows[0].ID)
		return len(hits) == taps, err
	})
}

// A class that was ended early is told in a few lines, and its card says when each round was to begin.
func TestClassEndedEarly(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	h := c.classOf(3)
	c.ok(c.Press("Start the class"))
	c.inPhase("running")
	c.ok(c.Press("End"))
	c.ok(c.Press("End now"))
	c.ok(c.See("is over"))
	c.ok(c.See("Rounds 1 to"))
	if n := c.number("document.querySelectorAll('section li').length"); n < 1 || n > 3 {
		t.Errorf("%g lines of what was left out", n)
	}
	c.ok(c.Go("/class/" + h.ID + "/card"))
	c.ok(c.See("Who does what"))
	begins := c.text("[...document.querySelectorAll('tbody th')].map((th) => th.innerText.trim().split(/\\s+/).at(-1)).join(' ')")
	seen := map[string]bool{}
	for _, at := range strings.Fields(begins) {
		if seen[at] || at == "0:00" || !regexp.MustCompile(`^\d+:\d\d$`).MatchString(at) {
			t.Errorf("rounds begin at %s", begins)
			break
		}
		seen[at] = true
	}
}

// A session that everybody does together, from its page onto the floor, to its end and into the log.
func TestSharedSessionHeld(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	before := len(asked[[]server.Drill](c, "GET", "/api/drills", nil))
	c.ok(c.Go("/sessions"))
	c.ok(c.Press("Plan a class of Thirteen moves, built up"))
	c.ok(c.See("Who is here?"))
	c.ok(c.Press("Everybody"))
	c.ok(c.Press("Plan the class"))
	c.ok(c.Until("/^#\\/class\\/[0-9a-f-]{36}$/.test(location.hash) && document.querySelector('table')"))
	c.ok(c.Press("To the floor"))
	c.ok(c.Press("Start the class"))
	c.inPhase("running")
	for range 10 { // out of the warm-up, onto the bags
		if c.text("String(!!document.querySelector('main svg[role=img]'))") == "true" {
			break
		}
		c.ok(c.Press("Skip"))
		time.Sleep(700 * time.Millisecond)
	}
	c.ok(c.Until("document.querySelector('main svg[role=img]')"))
	c.ok(c.Press("End"))
	c.ok(c.Press("End now"))
	c.ok(c.See("is over"))
	for _, page := range []string{"/", "/class", "/drills", "/library", "/people", "/log"} {
		c.ok(c.Go(page))
		c.ok(c.Until("document.querySelector('h1') && !document.body.innerText.includes('could not be read')"))
	}
	if now := len(asked[[]server.Drill](c, "GET", "/api/drills", nil)); now != before {
		t.Errorf("%d drills before, %d after", before, now)
	}
	tens := session.Templates()[slices.IndexFunc(session.Templates(),
		func(x session.Template) bool { return x.Key == "tens" })]
	c.ok(c.Go("/class/" + c.planned(1, &tens.Session).ID))
	c.ok(c.See("Counted tens"))
}

// spoils are rows whose documents are spoiled by hand, one of each kind.
var spoils = map[string]string{
	"a drill":   `UPDATE drills SET doc = '{"kind":"speedBag","technique":"","firstHand":""}' WHERE id = (SELECT id FROM drills ORDER BY name LIMIT 1)`,
	"a bag":     `UPDATE rigs SET doc = '{"kind":"slip"}' WHERE id = (SELECT id FROM rigs WHERE kind = 'slip' LIMIT 1)`,
	"a session": `UPDATE session_plans SET doc = '{}' WHERE id = (SELECT id FROM session_plans LIMIT 1)`,
	"a date":    `UPDATE dates SET skipped = '{}' WHERE id = (SELECT id FROM dates LIMIT 1)`,
	"a class":   `UPDATE hours SET plan = '{}' WHERE id = (SELECT id FROM hours LIMIT 1)`,
	"a round":   `UPDATE runs SET drill_doc = '{}' WHERE id = (SELECT id FROM runs WHERE trainee_id IS NOT NULL ORDER BY created_at DESC LIMIT 1)`,
}

// With one row of each kind spoiled every page is there: each tells its own as what could not be read, to be
// downloaded or removed, and Today says it once.
func TestSpoiledPages(t *testing.T) {
	t.Parallel()
	url := demoDatabase(t)
	database := opened(t, url)
	for what, statement := range spoils {
		t.Log("spoils " + what)
		storetest.Exec(t, url, statement)
	}
	site, _ := serve(t, database, "127.0.0.1:0")
	c := open(t, site, 1280, 800)
	c.enter()
	c.ok(c.See("Next on the floor"))
	lists := map[string]string{"/drills": "drill", "/bags": "bag", "/sessions": "session", "/calendar": "date",
		"/class": "class", "/log": "round"}
	type person struct{ ID string }
	people := asked[[]person](c, "GET", "/api/trainees", nil)
	for _, page := range []string{"/people", "/library", "/gym", "/people/" + people[0].ID,
		"/people/" + people[0].ID + "/progress", "/drills/new", "/compose/new", "/sessions/new", "/bags/new",
		"/import"} {
		c.ok(c.Go(page))
		c.ok(c.Until("document.querySelector('h1')"))
		if text := c.text("document.querySelector('main').innerText"); strings.Contains(text, "could not be read") ||
			strings.Contains(text, "went wrong") {
			t.Errorf("%s: %.300s", page, text)
		}
	}
	rows := asked[[]server.LogRow](c, "GET", "/api/runs?limit=1", nil)
	c.ok(c.Go("/review/" + rows[0].ID))
	c.ok(c.See("This round could not be read"))
	for page, kind := range lists {
		c.ok(c.Go(page))
		c.ok(c.Until("document.querySelector('[aria-label=\"Could not be read\"] li')"))
		c.ok(c.See("Download as it is"))
		if n := c.number("document.querySelectorAll('[aria-label=\"Could not be read\"] li').length"); n < 1 {
			t.Errorf("%s: no %s", page, kind)
		}
	}
	c.ok(c.Go("/"))
	c.ok(c.See("Could not be read:"))
	c.ok(c.Go("/drills"))
	c.ok(c.Until(`((b) => b && (b.click(), true))(document.querySelector('[aria-label="Could not be read"] button'))`))
	c.ok(c.See("is removed."))
	c.ok(c.Until("!document.querySelector('[aria-label=\"Could not be read\"]')"))
	for _, e := range c.Errors() {
		if !strings.Contains(e, "422") {
			t.Errorf("the browser complains: %s", e)
		}
	}
}

// A dial on the floor says whose it is, that of a review how the hits lie; what scrolls on a narrow card is reached by
// the keyboard. (That nothing within a picture is read beside its name is asked of every page by TestAxe.)
func TestPicturesAreTold(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	rounds := asked[[]server.LogRow](c, "GET", "/api/runs?limit=1", nil)
	at := asked[[]server.ClassRow](c, "GET", "/api/hours", nil)[0].ID
	c.ok(c.Go("/floor/" + at))
	c.ok(c.Until("document.querySelector('main li svg[role=img]')"))
	if label := c.text("document.querySelector('main li svg[role=img]').getAttribute('aria-label')"); !strings.Contains(label, " on the ") {
		t.Errorf("a dial of the floor: %s", label)
	}
	c.ok(c.Go("/review/" + rounds[0].ID))
	c.ok(c.Until("document.querySelector('svg[data-picture=\"The dial\"]')"))
	label := c.text("document.querySelector('svg[data-picture=\"The dial\"]').getAttribute('aria-label')")
	if !strings.Contains(label, "hits, half of them within") {
		t.Errorf("the dial of a review: %s", label)
	}
	c.ok(c.BecomePhone(320, 640))
	c.ok(c.Go("/class/" + at + "/card"))
	c.ok(c.See("Who does what"))
	if focus := c.text(`[...document.querySelectorAll('*')].filter((e) => e.scrollWidth > e.clientWidth + 1 &&
		['auto', 'scroll'].includes(getComputedStyle(e).overflowX) && e.tabIndex < 0 && !e.querySelector('a, button, input')).map((e) => e.className).join('; ')`); focus != "" {
		t.Errorf("it scrolls without the keyboard: %s", focus)
	}
}

// On a wall that takes no fingers there are no pads and the dial has most of the height; on a phone that lies on its
// side there is a dial, on the floor of a class, too.
func TestDialsGrow(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.ontoFloor()
	c.ok(c.Key(" "))
	c.ok(c.runs())
	c.ok(c.Key(" "))
	share := func(what string) float64 {
		return c.number("document.querySelector('" + what + "').getBoundingClientRect().height / innerHeight")
	}
	c.ok(c.Resize(1920, 1080))
	if s := share("svg[data-picture=\"The dial\"]"); s < 0.62 {
		t.Errorf("on the wall the dial has %.0f %% of the height", 100*s)
	}
	if found := c.text(`[...document.querySelectorAll('footer button')].filter((b) => b.scrollWidth > b.clientWidth + 1).map((b) => b.innerText).join('; ')`); found != "" {
		t.Errorf("marks overflow: %s", found)
	}
	c.ok(c.BecomePhone(844, 390))
	if s := share("svg[data-picture=\"The dial\"]"); s < 0.5 {
		t.Errorf("on a phone on its side the dial has %.0f %% of the height", 100*s)
	}
	c.ok(c.Key(" "))
	c.ok(c.Press("Stop"))
	c.ok(c.Press("Stop now"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
	at := asked[[]server.ClassRow](c, "GET", "/api/hours", nil)[0].ID
	c.ok(c.Go("/floor/" + at))
	c.ok(c.Until("document.querySelector('main li svg[role=img]')"))
	if s := share("main li svg[role=img]"); s < 0.25 {
		t.Errorf("on the floor of a class on a phone on its side a dial has %.0f %% of the height", 100*s)
	}
}
