package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"melodromos/browser"
	"melodromos/core/class"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/session"
	"melodromos/server"
)

// asked sends something to the server as the page would, and reads its answer.
func asked[T any](c coach, method, path string, body any) (out T) {
	c.t.Helper()
	text, err := json.Marshal(body)
	if err != nil {
		c.t.Fatal(err)
	}
	answer, err := browser.Eval[string](c.Page, fmt.Sprintf(`fetch(%q, { method: %q, headers: { 'Content-Type': 'application/json' },
		...(%q === 'GET' ? {} : { body: %q }) }).then((r) => r.text())`, path, method, method, text))
	if err != nil {
		c.t.Fatal(err)
	}
	if err := json.Unmarshal([]byte(answer), &out); err != nil {
		c.t.Fatalf("%s: %v", answer, err)
	}
	return out
}

// Eight people, three bags, sixty minutes are planned in at most twelve presses from the sign-in; nobody is idle, every
// change of height is counted and told.
func TestClassInTwelvePresses(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	presses := 0
	press := func(name string) {
		t.Helper()
		c.ok(c.Press(name))
		presses++
	}
	press("Class")
	c.ok(c.See("Who is here?"))
	c.ok(c.Until(`document.querySelectorAll('[role=group][aria-label=Bags] [aria-pressed=true]').length === 3`))
	for _, name := range []string{"Dov Achterman", "Greta Sallowfield", "Ines Calder",
		"Lerato Quayle", "Mateus Strandvik", "Tobias Amadi-Rein", "Yusuf Brandvik",
		"Zofia Oyelaran"} {
		press(name)
	}
	press("Plan the class")
	c.ok(c.See("Eight people, three bags, 60 minutes"))
	if presses > 12 {
		t.Errorf("%d presses", presses)
	}
	h := asked[server.HeldClass](c, "GET", "/api/hours/"+c.text("location.hash.split('/')[2]"), nil)
	for _, turn := range h.Plan.Turns {
		for _, s := range turn.Seats {
			if (s.Bag == "") == (s.Activity == "") {
				t.Errorf("round %d: %+v", turn.Round, s)
			}
		}
		if len(turn.Seats) != 8 {
			t.Errorf("round %d: %d people", turn.Round, len(turn.Seats))
		}
	}
	shown := c.number("document.body.innerText.match(/(\\d+) height changes?/)[1] | 0")
	if told := c.number(`document.querySelectorAll('table [title*=" at "]').length`); int(shown) != len(h.Plan.Rehangs) ||
		int(told) != len(h.Plan.Rehangs) {
		t.Errorf("%d changes of height: %g are counted and %g told", len(h.Plan.Rehangs), shown, told)
	}
	// Somebody is put on another bag by hand; then one goes, and the rest is planned anew in one press.
	first := h.Plan.Turns[0]
	off := first.Seats[slices.IndexFunc(first.Seats, func(s class.Seat) bool { return s.Bag == "" })]
	who := h.Plan.Person(off.Person).Name
	bag := h.Plan.Bags[0]
	c.ok(c.Until(fmt.Sprintf(`(document.querySelector('tbody tr:last-child td [aria-label^="%s, "]').click(), true)`,
		strings.Fields(who)[0])))
	c.ok(c.Until(fmt.Sprintf(`((b) => b && (b.click(), true))([...document.querySelectorAll('[data-popover-content] button')].find((b) => b.innerText.startsWith('on the %s')))`,
		bag.Name)))
	c.ok(c.Until(fmt.Sprintf(`document.querySelector('tbody tr td').innerText.includes(%q)`, strings.Fields(who)[0])))
	c.ok(c.Press("Change who is here"))
	c.ok(c.Press("Dov Achterman"))
	c.ok(c.Press("Re-plan"))
	c.ok(c.See("Seven people, three bags"))
}

// short is a session of little more than a minute: a warm-up, a round of two blocks, a rest, and a round of one.
func short() session.Session {
	off := func(a session.Activity, seconds int) session.Block {
		return session.Block{Role: session.Off, Activity: a, Seconds: seconds}
	}
	line := func(role session.Role, text string, seconds int) session.Block {
		return session.Block{Role: role, Text: text, Seconds: seconds, Pace: drill.Combining, Guidance: drill.Called}
	}
	return session.Session{Name: "A short one", Bag: "hanging", Rounds: []session.Round{
		{Kind: session.WarmUp, Emphasis: "Get warm", Seconds: 8, Blocks: []session.Block{off(session.Skipping, 8)}},
		{Kind: session.Work, Emphasis: "One-two", Seconds: 32, Rest: 15, Blocks: []session.Block{
			line(session.Known, "1-2", 21), line(session.New, "1-2-3", 11)}},
		{Kind: session.Work, Emphasis: "Slips", Seconds: 12, Blocks: []session.Block{
			line(session.New, "1 - slip rear - 2", 12)}},
	}}
}

// shortClass is a class of one on the short session, on the floor and not begun.
func (c coach) shortClass() server.HeldClass {
	c.t.Helper()
	s := short()
	return c.onFloor(c.planned(1, &s))
}

// watching notes all that is put on the audio clock, and what stands on the screen and since when.
const watching = `(() => {
	window.sounds = []
	const start = AudioScheduledSourceNode.prototype.start
	AudioScheduledSourceNode.prototype.start = function (when, ...rest) {
		window.audio ??= this.context
		window.sounds.push(when)
		return start.call(this, when, ...rest)
	}
	window.seen = []
	const look = () => {
		const text = (id) => document.querySelector('[data-testid=' + id + ']')?.innerText ?? ''
		const now = [text('now'), text('next'), text('count')].join('|')
		if (window.seen.at(-1)?.now !== now) window.seen.push({ now, at: window.audio ? window.audio.currentTime : -1 })
		requestAnimationFrame(look)
	}
	look()
	return true
})()`

// The whole of a short session, heard and seen: each change, warning and preview stands on the audio clock where the
// session's clock has it, within a millisecond of one another, and each change is on the screen when it comes, with
// what comes next before it. So either alone suffices.
func TestHeardAndSeen(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	h := c.shortClass()
	if _, err := browser.Eval[bool](c.Page, watching); err != nil {
		t.Fatal(err)
	}
	c.ok(c.Press("Start the class"))
	c.ok(c.Until("document.querySelector('main').dataset.phase === 'running'"))
	time.Sleep(time.Duration(h.UntilUS)*time.Microsecond - 5*time.Second)
	c.ok(c.See("A short one is over"))
	sounds, err := browser.Eval[[]float64](c.Page, "window.sounds")
	if err != nil {
		t.Fatal(err)
	}
	type seen struct {
		Now string
		At  float64
	}
	screen, err := browser.Eval[[]seen](c.Page, "window.seen")
	if err != nil || len(sounds) < 20 {
		t.Fatalf("%d sounds, %v", len(sounds), err)
	}
	h = asked[server.HeldClass](c, "GET", "/api/hours/"+h.ID, nil)
	// The zero of the session on the audio clock is where most of its bells and warnings say it is.
	var heard []float64
	for _, e := range h.Cues {
		if e.Kind == drill.Bell || e.Kind == drill.Warning || e.Kind == drill.Count || e.Kind == session.Begins {
			heard = append(heard, e.At.Seconds())
		}
	}
	zero, most := 0.0, 0
	for _, s := range sounds {
		n := 0
		for _, at := range heard {
			if slices.ContainsFunc(sounds, func(x float64) bool { return math.Abs(x-(s-heard[0]+at)) < 0.001 }) {
				n++
			}
		}
		if n > most {
			zero, most = s-heard[0], n
		}
	}
	if most < len(heard) {
		t.Errorf("%d of %d cues stand on the audio clock to the millisecond", most, len(heard))
	}
	// What is struck stands there too, between its bells.
	for i, f := range h.Faces {
		title := map[bool]string{true: "Rest", false: f.Title}[f.Block < 0]
		if f.Round < 0 {
			continue
		}
		from := zero + f.From.Seconds()
		at := slices.IndexFunc(screen, func(s seen) bool {
			return strings.HasPrefix(s.Now, title+"|") && s.At > from-1
		})
		if at < 0 || math.Abs(screen[at].At-from) > 0.6 {
			t.Errorf("%s comes at %.2f s and is seen %+v", title, from, screen[max(0, at)])
		}
		if i > 1 && h.Faces[i-1].Block >= 0 && f.Block >= 0 && f.Lap == h.Faces[i-1].Lap {
			if !slices.ContainsFunc(screen, func(s seen) bool {
				return s.At < from-2 && strings.Contains(s.Now, "Then "+f.Title)
			}) {
				t.Errorf("nothing says that %s comes", f.Title)
			}
		}
	}
	// Nothing on the screen changes more than three times a second (WCAG 2.2, 2.3.1), least of all in large letters.
	for i := range screen {
		n := 0
		for _, s := range screen[i:] {
			if s.At-screen[i].At < 1 && s.At >= 0 && screen[i].At >= 0 {
				n++
			}
		}
		if n > 4 { // the one that begins the second, and three more
			t.Errorf("%d changes in a second from %.2f s on", n-1, screen[i].At)
		}
	}
	// The last seconds before each bell are counted on the screen.
	for _, n := range []string{"3", "2", "1"} {
		if !slices.ContainsFunc(screen, func(s seen) bool { return strings.HasSuffix(s.Now, "|"+n) }) {
			t.Errorf("%s is not counted on the screen", n)
		}
	}
}

// A class through pause, skip, a reload and a restart of the server: it goes on where it was, what was skipped is
// carried on, and nothing is told twice.
func TestClassGoesOn(t *testing.T) {
	t.Parallel()
	database := demoGym(t)
	url, stop := serve(t, database, "127.0.0.1:0")
	c := open(t, url, 1280, 800)
	c.enter()
	h := c.shortClass()
	c.ok(c.Press("Start the class"))
	c.ok(c.Until("document.querySelector('main').dataset.phase === 'running'"))
	c.ok(c.Until("document.querySelector('[data-testid=now]').innerText === 'Skipping'"))
	c.ok(c.Press("Skip")) // out of the warm-up
	c.ok(c.Until("document.querySelector('[data-testid=now]').innerText === '1-2'"))
	c.ok(c.Press("Pause"))
	c.ok(c.See("Paused"))
	left := c.text("document.querySelector('[role=timer]').innerText")
	time.Sleep(1500 * time.Millisecond)
	if now := c.text("document.querySelector('[role=timer]').innerText"); now != left {
		t.Errorf("paused at %s it goes on to %s", left, now)
	}
	c.reloads()
	c.ok(c.See("Paused"))
	if now := c.text("document.querySelector('[role=timer]').innerText"); now != left {
		t.Errorf("before the reload %s were left, after it %s", left, now)
	}
	c.ok(c.Press("Go on"))
	c.ok(c.Until("document.querySelector('main').dataset.phase === 'running'"))
	c.ok(c.Press("Skip")) // the first block of the round: it is carried on
	c.ok(c.Until("document.querySelector('[data-testid=now]').innerText === '1-2-3'"))
	// Reloaded while it runs, it has gone on.
	c.reloads()
	c.ok(c.Until("document.querySelector('main').dataset.phase === 'running'"))
	c.ok(c.Until("document.querySelector('[data-testid=now]').innerText === '1-2-3'"))
	// The server goes and comes back: it plays on meanwhile, and tells what happened.
	stop()
	c.ok(c.Press("Skip"))
	c.ok(c.Until("document.querySelector('[data-testid=now]').innerText === 'Rest'"))
	c.ok(c.See("Offline"))
	_, again := serve(t, database, strings.TrimPrefix(url, "http://"))
	t.Cleanup(again)
	c.ok(c.Until("!document.body.innerText.includes('Offline')"))
	h = asked[server.HeldClass](c, "GET", "/api/hours/"+h.ID, nil)
	skipped, carried := 0, []string{}
	for _, f := range h.Faces {
		if f.State == session.Skipped {
			skipped++
		}
		if f.Carried {
			carried = append(carried, f.Title)
		}
	}
	if h.Deeds != 3 || skipped != 3 || !slices.Equal(carried, []string{"1-2", "1-2-3"}) {
		t.Errorf("%d deeds, %d skipped, carried on: %q", h.Deeds, skipped, carried)
	}
	c.ok(c.Key("\x1b"))
	c.ok(c.See("End now"))
	c.ok(c.Key("\x1b"))
	c.ok(c.See("A short one is over"))
	c.ok(c.See("Left out, for the next time"))
	for _, e := range c.Errors() { // the browser says that the line was gone
		if !strings.Contains(e, "ERR_CONNECTION") && !strings.Contains(e, "Failed to fetch") {
			t.Errorf("the browser complains: %s", e)
		}
	}
}

// On the floor somebody goes, and what is left is planned anew without leaving it; a class that was under way prints on
// one page, for the wall and for a pocket.
func TestClassAnew(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/class"))
	at := c.linkTo("/class/")
	c.ok(c.Go(strings.Replace(at, "/class/", "/floor/", 1)))
	c.ok(c.See("Paused"))
	c.ok(c.Press("Who is here"))
	c.ok(c.Press("Lerato Quayle"))
	c.ok(c.Press("Re-plan the rest"))
	c.ok(c.Until("!document.querySelector('[role=dialog]')"))
	h := asked[server.HeldClass](c, "GET", "/api/hours/"+strings.TrimPrefix(at, "/class/"), nil)
	for _, turn := range h.Plan.Turns {
		for _, s := range turn.Seats {
			if who := h.Plan.Person(s.Person); who.Name == "Lerato Quayle" && turn.Round >= h.Coming {
				t.Errorf("they are still in round %d", turn.Round)
			}
		}
	}
	c.ok(c.Go(at + "/card"))
	c.ok(c.See("Who does what"))
	for _, size := range []string{"The wall", "A pocket"} {
		c.ok(c.Press(size))
		c.onePage(size)
	}
	c.ok(c.Go("/sessions"))
	c.ok(c.Go(c.linkTo("/sessions/") + "/card"))
	c.ok(c.See("Full combination"))
	c.onePage("a session")
	c.ok(c.Go("/drills"))
	c.ok(c.Go(c.linkTo("/run/") + "/card"))
	c.ok(c.See("Three things to watch"))
	c.onePage("a drill")
}

// Whoever gives the cues by hand is told when and from which side, seen and felt, and the trainee hears nothing of it
// beforehand.
func TestPartner(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 390, 844)
	c.enter()
	type one struct{ ID, Name string }
	people, rigs := asked[[]one](c, "GET", "/api/trainees", nil), asked[[]one](c, "GET", "/api/rigs", nil)
	bollard := rigs[slices.IndexFunc(rigs, func(r one) bool { return r.Name == "Bollard" })]
	made := asked[server.Assignment](c, "POST", "/api/assignments", map[string]any{"rigId": bollard.ID,
		"traineeId": people[0].ID, "name": "Roll under", "version": 0, "drillVersion": 0, "doc": drill.CombinationDrill{
			Text: "1-2", Landing: drill.Freely, Pace: drill.Combining, Pause: 2, Work: 40, Guidance: drill.Alone,
			Cues: &drill.Cues{Moves: []string{"roll lead"}, Least: 2, Mean: 3, Lead: 1}}})
	c.ok(c.Go("/run/" + made.ID))
	c.ok(c.See("I give the cues by hand"))
	c.ok(c.Press("Nothing"))
	c.text("(document.querySelector('input[type=checkbox]').click(), '')")
	c.text("(window.buzzed = [], navigator.vibrate = (how) => (window.buzzed.push(how), true), '')")
	c.ok(c.Press("Start"))
	c.ok(c.runs())
	c.ok(c.See("Wait"))
	c.ok(c.See("From your right")) // an orthodox lead side is the left one, which is right for whoever faces it
	c.ok(c.Until("window.buzzed.length > 0 && window.buzzed[0].length === 3"))
	c.ok(c.Until("!document.body.innerText.includes('From your right')"))
	c.ok(c.Key("\x1b"))
	c.ok(c.See("Stop now"))
	c.ok(c.Key("\x1b"))
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
}

// onePage looks whether what is shown prints on one page, of A4 and of Letter.
func (c coach) onePage(what string) {
	c.t.Helper()
	for paper := range browser.Papers {
		pdf, err := c.Printed(paper)
		c.ok(err)
		if n := len(regexp.MustCompile(`/Type\s*/Page\b`).FindAll(pdf, -1)); n != 1 ||
			!bytes.HasPrefix(pdf, []byte("%PDF")) {
			c.t.Errorf("%s prints on %d pages of %s", what, n, paper)
		}
	}
}

// Every word that is called in a session that comes with the product, in either school, has its clip.
func TestEveryCallHasAClip(t *testing.T) {
	t.Parallel()
	missing := map[string]bool{}
	for _, x := range session.Templates() {
		for _, voice := range []session.Calls{{}, {Rotates: true}, {Naming: combo.Naming{Names: true, Inside: true}}} {
			for _, e := range session.Begin(x.Session, 10).Cues(voice) {
				if e.Kind == drill.Bell {
					continue
				}
				for _, word := range regexp.MustCompile(`[^ ,;]+`).FindAllString(e.Text, -1) {
					if _, err := os.Stat("../ui/public/calls/" + word + ".mp3"); err != nil {
						missing[word] = true
					}
				}
			}
		}
	}
	for word := range missing {
		t.Errorf("%s is called and has no clip: scripts/calls makes one", word)
	}
}
