// Package e2e drives the real interface in headless Chromium against the real server on a database of its own.
//
// Each test has a browser, a server and a gym to itself. Most wait for a round's clock, so they run beside one another;
// those that measure time to the frame have the machine to themselves.
package e2e

import (
	"context"
	"fmt"
	"io/fs"
	"log/slog"
	"math"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"melodromos/account"
	"melodromos/browser"
	"melodromos/demo"
	"melodromos/server"
	"melodromos/store"
	"melodromos/store/storetest"
	"melodromos/ui"
)

func TestMain(m *testing.M) {
	slog.SetDefault(slog.New(slog.DiscardHandler))
	account.Light()
	code := storetest.Run(m)
	stopChromium()
	os.Exit(code)
}

// chromium is the browser in which tests open pages that share nothing, and starts it once.
var (
	stopChromium = func() {}
	chromium     = sync.OnceValues(func() (*browser.Browser, error) {
		b, stop, err := browser.Start(context.Background())
		if err == nil {
			stopChromium = stop
		}
		return b, err
	})
)

// start serves the demo gym and returns its address.
func start(t testing.TB) string {
	t.Helper()
	url, stop := serve(t, demoGym(t), "127.0.0.1:0")
	t.Cleanup(stop)
	return url
}

// demoGym opens a database with the demo gym.
func demoGym(t testing.TB) *store.Store {
	t.Helper()
	ready(t)
	return opened(t, demoDatabase(t))
}

// demoDatabase fills a database with the demo gym.
func demoDatabase(t testing.TB) string {
	t.Helper()
	url := storetest.Copy(t, "demo", func(s *store.Store) (err error) {
		if err = demo.Load(context.Background(), s, time.Now()); err == nil {
			pass, err = signIn(s)
		}
		return err
	})
	storetest.Exec(t, url, "UPDATE gyms SET get_ready = 3") // no test waits for gloves
	return url
}

// pass is the cookie of the demo's coach, whose sign-in stands in every copy of the demo's database: most tests are
// about something else than signing in, which costs a browser as much as the rest of a short test.
var pass *http.Cookie

// signIn signs the demo's coach in and returns the cookie.
func signIn(s *store.Store) (*http.Cookie, error) {
	srv, err := server.New(server.Options{Store: s, DemoEmail: demo.Email, DemoPassword: demo.Password})
	if err != nil {
		return nil, err
	}
	site := httptest.NewServer(srv.Handler())
	defer site.Close()
	answer, err := http.Post(site.URL+"/api/sign-in", "application/json",
		strings.NewReader(fmt.Sprintf(`{"email":%q,"password":%q}`, demo.Email, demo.Password)))
	if err != nil {
		return nil, err
	}
	_ = answer.Body.Close()
	if len(answer.Cookies()) != 1 {
		return nil, fmt.Errorf("the demo's coach was not signed in: %s", answer.Status)
	}
	return answer.Cookies()[0], nil
}

func opened(t testing.TB, url string) *store.Store {
	t.Helper()
	s, err := store.Open(url)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	return s
}

// database opens an empty database.
func database(t testing.TB) *store.Store {
	t.Helper()
	ready(t)
	return storetest.Open(t)
}

// ready looks whether Chromium and the built interface are there.
func ready(t testing.TB) {
	t.Helper()
	_, chromium := exec.LookPath("chromium")
	_, chrome := exec.LookPath("google-chrome")
	if chromium != nil && chrome != nil {
		if os.Getenv("CI") != "" {
			t.Fatal("no Chromium, and in CI nothing is skipped")
		}
		t.Skip("no Chromium: run ./test, which installs it")
	}
	if _, err := fs.Stat(ui.Files(), "index.html"); err != nil {
		t.Fatal("the interface is not built: run ./test, or npm run build in ui")
	}
}

// serve runs the server at an address until stop is called.
func serve(t testing.TB, s *store.Store, address string) (url string, stop func()) {
	t.Helper()
	l, err := net.Listen("tcp", address)
	if err != nil {
		t.Fatal(err)
	}
	ctx, cancel := context.WithCancel(context.Background())
	ended := make(chan error, 1)
	srv, err := server.New(server.Options{Store: s, Interface: ui.Files(), DemoEmail: demo.Email,
		DemoPassword: demo.Password})
	if err != nil {
		t.Fatal(err)
	}
	go func() { ended <- srv.Serve(ctx, l) }()
	return "http://" + l.Addr().String(), func() {
		cancel()
		if err := <-ended; err != nil {
			t.Error(err)
		}
	}
}

// coach is a signed-in page whose console must stay silent.
type coach struct {
	*browser.Page
	t *testing.T
}

func open(t *testing.T, url string, width, height int) coach {
	t.Helper()
	b, err := chromium()
	if err != nil {
		t.Fatal(err)
	}
	p, done, err := b.Open(url, width, height)
	if err != nil {
		t.Fatal(err)
	}
	c := coach{p, t}
	t.Cleanup(func() {
		for _, e := range p.Errors() {
			if strings.Contains(e, "status of 422") || strings.Contains(e, "status of 409") {
				continue // a refusal, which the page shows
			}
			t.Errorf("the browser complains: %s", e)
		}
		done()
	})
	return c
}

// ok ends the test on an error.
func (c coach) ok(err error) {
	c.t.Helper()
	if err != nil {
		c.t.Fatal(err)
	}
}

// signedIn makes the page one that the demo's coach has signed in on; it shows nothing yet.
func (c coach) signedIn() {
	c.t.Helper()
	c.ok(c.SetCookie(pass.Name, pass.Value))
}

// enter opens the first page of the demo gym, signed in, in a browser that has not been there yet.
func (c coach) enter() {
	c.t.Helper()
	c.signedIn()
	c.ok(c.Go("/"))
	c.ok(c.See("Sign out"))
}

// ontoFloor signs in to the demo gym and goes onto the floor with what comes next today.
func (c coach) ontoFloor() {
	c.t.Helper()
	c.enter()
	c.ok(c.Press("Run it"))
	c.ok(c.See("Ready for the floor"))
}

// runs waits until the round's clock runs.
func (c coach) runs() error { return c.Until("document.querySelector('[data-phase=running]')") }

// linkTo returns the address of the page's first link that begins so, to something that exists already.
func (c coach) linkTo(first string) string {
	c.t.Helper()
	link := fmt.Sprintf("document.querySelector('main a[href^=\"#%s\"]:not([href$=\"/new\"])')", first)
	c.ok(c.Until(link + " !== null"))
	return strings.TrimPrefix(c.text(link+".getAttribute('href')"), "#")
}

func (c coach) text(expression string) string {
	c.t.Helper()
	v, err := browser.Eval[string](c.Page, expression)
	c.ok(err)
	return v
}

func (c coach) number(expression string) float64 {
	c.t.Helper()
	v, err := browser.Eval[float64](c.Page, expression)
	c.ok(err)
	return v
}

// left waits until a running round has at most so many seconds to go.
func (c coach) left(seconds int) error {
	return c.Until(
		fmt.Sprintf(
			"((t) => t && document.querySelector('[data-phase=running]') && 60 * t[1] + +t[2] > 0 && 60 * t[1] + +t[2] <= %d)(document.querySelector('[role=timer]')?.innerText.match(/(\\d+):(\\d+)/))", seconds))
}

// becomes waits until something holds on the server's side.
func (c coach) becomes(what string, holds func() (bool, error)) {
	c.t.Helper()
	for end := time.Now().Add(45 * time.Second); ; time.Sleep(20 * time.Millisecond) {
		ok, err := holds()
		c.ok(err)
		if ok {
			return
		}
		if time.Now().After(end) {
			c.t.Fatalf("waited in vain for %s", what)
		}
	}
}

// into waits until a round that shows its whole time, or nearly, has gone on for so many seconds.
func (c coach) into(seconds int) error {
	c.t.Helper()
	whole := c.number(
		"((t) => 60 * t[1] + +t[2])(document.querySelector('[role=timer]').innerText.match(/(\\d+):(\\d+)/))")
	return c.left(int(whole) - seconds)
}

const heading = "document.querySelector('h1')?.innerText ?? ''"

// A person is entered with a height in the gym's unit, and changed again.
func TestPeople(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.enter()
	c.ok(c.Press("People"))
	c.ok(c.See("Ines Calder"))
	c.ok(c.Press("Add a person"))
	c.ok(c.Fill("Name", "Asta Holm"))
	c.ok(c.Fill("Height, cm, where measured", "171.4"))
	c.ok(c.Press("Southpaw (right hand leads)"))
	c.ok(c.Press("Save"))
	c.ok(c.See("Asta Holm is saved"))
	c.ok(c.See("southpaw, beginner, 1.71 m tall"))
}

// The whole path: sign in, change the rig, see the tempo change, make the drill, run it with the stand-in and by keys,
// read the review, find it in the log.
func TestWholePath(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.ok(c.Go("/"))
	c.ok(c.Press("Fill in the demo account"))
	c.ok(c.Press("Sign in"))
	c.ok(c.See("Next on the floor"))

	// The bench: another length of the bag, another tempo; put back, the first one again.
	c.ok(c.Press("Bags"))
	c.ok(c.See("Quay bag"))
	c.ok(c.Press("Add a bag"))
	c.ok(c.Until(saying + ".includes('trike at')"))
	before := c.text(saying)
	c.ok(c.Set("Measures", "Length, swivel to bottom", "32"))
	c.ok(c.Until(fmt.Sprintf("%s !== '' && %s !== %q", saying, saying, before)))
	if long := c.text(saying); !strings.Contains(long, "three rebounds") {
		t.Errorf("the bench says %q", long)
	}
	c.ok(c.Fill("Length, swivel to bottom", "an ell"))
	c.ok(c.See("Expected a number"))
	c.ok(c.Fill("Length, swivel to bottom", "26"))
	c.ok(c.Key("\x1b"))
	c.ok(c.Set("Name of the bag", "Name of the bag", "Mooring bag"))
	c.ok(c.Key("\r"))
	c.ok(c.Set("Tempo", "Tempo", "280")) // with three rebounds too fast for these hands, with one not
	c.ok(c.See("280 a minute"))
	c.ok(c.See("That is too quick for these hands"))
	advice := regexp.MustCompile(
		`they reach \d+ to (\d+) with three rebounds: .*take (\d+) a minute`).FindStringSubmatch(c.text(saying))
	if advice == nil || advice[1] != advice[2] {
		t.Errorf("the bench says %q", c.text(saying))
	}
	c.ok(c.Key("\x1b"))
	c.ok(c.Press("take one rebound"))
	c.ok(c.Until(saying + ".includes('trike at 280 a minute: one rebound')"))
	c.ok(c.Choose("Rebounds to the next strike", "3"))
	c.ok(c.Key("\x1b"))
	c.ok(c.Set("Tempo", "Tempo", "120"))
	c.ok(c.Key("\x1b"))
	c.ok(c.Until(saying + ".includes('trike at 120 a minute: three rebounds')"))
	c.ok(c.Press("Save this bag"))
	c.ok(c.See("Mooring bag is saved"))
	c.ok(c.Until("location.hash.match(/bags.[0-9a-f-]{36}/) && !!document.querySelector('h1')"))
	c.ok(c.See("Make a drill from this"))

	// The drill, eight strikes, so that the round is short.
	c.ok(c.Press("Make a drill from this"))
	c.ok(c.See("between strikes"))
	c.ok(c.Choose("Round length", "A number of strikes"))
	c.ok(c.Set("Strikes", "Strikes", "8"))
	c.ok(c.Choose("Technique", "Hand after hand"))
	c.ok(c.Set("Name", "Name, if you want one", "Eight for a start"))
	c.ok(c.Key("\r"))
	c.ok(c.Until("[...document.querySelectorAll('dd')].some((d) => d.innerText === '8')"))
	c.ok(c.Press("Start round"))

	// A round with the stand-in.
	c.ok(c.See("Ready for the floor"))
	c.ok(c.Press("Demo hits"))
	c.ok(c.Press("Expert"))
	c.ok(c.Press("Start"))
	c.ok(c.runs())
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
	c.ok(c.See("of 8 strikes"))
	c.ok(c.See("Every strike"))
	if !strings.Contains(c.text(heading), "clean") {
		t.Errorf("the review says %q", c.text(heading))
	}

	// A round by keys, tapped at each strike as the page's own clock has it.
	c.ok(c.Press("Run it again"))
	c.ok(c.See("Ready for the floor"))
	c.ok(c.Key(" "))
	c.ok(c.runs())
	// Until the clock runs a hit is none.
	c.ok(
		c.Until(
			"(document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'f', bubbles: true })), /[1-9]\\d* hit/.test(document.body.innerText))"))
	for _, key := range []string{"j", "f", "j", "3", "f", "j"} { // 3 is a mark
		c.ok(c.Key(key))
	}
	c.ok(c.Until("location.hash.startsWith('#/review/')"))
	c.ok(c.See("Marked: 1 wild"))
	c.ok(c.Press("To the log"))
	c.ok(
		c.Until(
			"location.hash === '#/log' && [...document.querySelectorAll('li')].filter((l) => l.innerText.includes('Eight for a start')).length === 2"))
}

// What the trace shows is what the model says: the discs stand one cycle apart on the time axis.
func TestTraceIsToScale(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.signedIn()
	c.ok(c.Go("/bags"))
	c.ok(c.Press("Set up Quay bag"))
	c.ok(c.See("trike at"))
	c.ok(c.Set("Tempo", "Tempo", "120"))
	c.ok(c.Until(saying + ".includes('trike at 120 a minute') && !document.querySelector('[aria-busy=true]')"))
	c.ok(c.Until("document.querySelectorAll('svg[role=img] circle.strike').length >= 2"))
	apart := c.number(
		"((l) => Number(l[1].getAttribute('cx')) - Number(l[0].getAttribute('cx')))([...document.querySelectorAll('svg[role=img] circle.strike')])")
	second := c.number(
		`((l) => { const x = (s) => Number(l.find((t) => t.textContent.trim() === s).getAttribute('x')); return (x('0.5') - x('0.1')) / 0.4 })([...document.querySelectorAll('svg[role=img] text')])`)
	if math.Abs(apart/second-0.5) > 0.002 {
		t.Errorf("two strikes at 120 a minute stand %.4f s apart", apart/second)
	}
	if words := c.text("document.querySelector('svg[role=img]').getAttribute('aria-label')"); !strings.Contains(words,
		"at 120 a minute") {
		t.Errorf("the picture in words: %q", words)
	}
}
