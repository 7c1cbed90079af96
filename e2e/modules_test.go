package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"melodromos/browser"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// The modules of the interface are tested by themselves, in the browser: each test loads them on an empty page of a
// server that it makes up.

// bench is an empty page with the interface's modules as m, and the server behind it.
type bench struct {
	coach
	server *httptest.Server
	fake   *fake
}

// fake stands for the product's server: it writes down what it is sent, and answers as it is told to.
type fake struct {
	sync.Mutex
	got    []request
	answer func(r request) int // status; 0 takes the request in and breaks the connection
}

type request struct {
	Path string
	Body struct {
		Device string
		Hits   []struct{ Seq, At int }
		Marks  []struct{ Seq, At int }
		Action string
	}
}

func (f *fake) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	var in request
	in.Path = r.URL.Path
	text, err := io.ReadAll(r.Body)
	if err == nil {
		err = json.Unmarshal(text, &in.Body)
	}
	f.Lock()
	status := f.answer(in)
	if status == 200 || status == 0 {
		f.got = append(f.got, in)
	}
	f.Unlock()
	if err != nil || status == 0 {
		panic(http.ErrAbortHandler)
	}
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	_, _ = fmt.Fprintf(w, `{"status":%d,"detail":"refused with %d"}`, status, status)
}

// answers sets how the server answers from now on.
func (f *fake) answers(status func(r request) int) {
	f.Lock()
	defer f.Unlock()
	f.answer = status
}

func always(status int) func(request) int { return func(request) int { return status } }

// told lists what was taken in since it was last asked.
func (f *fake) told() []request {
	f.Lock()
	defer f.Unlock()
	list := f.got
	f.got = nil
	return list
}

var built struct {
	sync.Once
	js  []byte
	err error
}

// modules opens an empty page on which m holds the interface's modules.
func modules(t *testing.T) bench {
	t.Helper()
	ready(t)
	built.Do(func() {
		place, err := os.MkdirTemp("", "melodromos-modules")
		if err != nil {
			built.err = err
			return
		}
		defer func() { _ = os.RemoveAll(place) }()
		vite := exec.Command("npx", "--no-install", "vite", "build", "--config", "vite.modules.ts", "--outDir", place)
		vite.Dir = "../ui"
		if out, err := vite.CombinedOutput(); err != nil {
			built.err = fmt.Errorf("%w: %s", err, out)
			return
		}
		built.js, built.err = os.ReadFile(filepath.Join(place, "modules.js"))
	})
	if built.err != nil {
		t.Fatal(built.err)
	}
	b := bench{fake: &fake{answer: always(200)}}
	mux := http.NewServeMux()
	mux.HandleFunc("/", func(w http.ResponseWriter, _ *http.Request) {
		_, _ = io.WriteString(w, `<!doctype html><link rel="icon" href="data:,"><title>modules</title>`)
	})
	mux.HandleFunc("/modules.js", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/javascript")
		_, _ = w.Write(built.js)
	})
	mux.Handle("/api/", b.fake)
	b.server = httptest.NewServer(mux)
	t.Cleanup(b.server.Close)
	p, done, err := browser.Open(context.Background(), b.server.URL, 800, 600)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(done)
	b.coach = coach{p, t}
	b.load()
	return b
}

// load opens the page anew, as after a crash.
func (b bench) load() {
	b.t.Helper()
	b.ok(b.Leave(b.server.URL))
	b.do("await import('/modules.js').then((all) => { window.m = all })")
}

func (b bench) do(script string) {
	b.t.Helper()
	_, err := browser.Eval[bool](b.Page, "(async () => { "+script+"; return true })()")
	b.ok(err)
}

// value evaluates an expression to a T.
func value[T any](b bench, script string) T {
	b.t.Helper()
	v, err := browser.Eval[T](b.Page, script)
	b.ok(err)
	return v
}

const newOutbox = "window.box = new m.Outbox('r1', () => 1, { coach: 'maren', delay: null })"

// What is captured arrives once and in order, whatever becomes of the connection: refused while the server is away,
// lost on the way back, or left behind by a page that crashed. What is another coach's waits for them.
func TestOutbox(t *testing.T) {
	b := modules(t)
	b.fake.answers(always(503))
	b.do(newOutbox)
	b.do("box.hit(1, 'lead'); box.hit(1.5, 'rear'); box.mark(2, 'wild'); await box.step('start', 0.1)")
	if !value[bool](b, "box.offline") || value[int](b, "box.waiting") != 3 ||
		!value[bool](b, "localStorage.getItem('outbox:r1') !== null") {
		t.Errorf("away: %s", value[string](b, "JSON.stringify([box.offline, box.waiting, localStorage])"))
	}
	if got := b.fake.told(); len(got) != 0 {
		t.Errorf("a server that is away took %+v", got)
	}

	// It is back, but its first answer to the hits is lost on the way: they are sent again under the same numbers.
	lost := false
	b.fake.answers(func(r request) int {
		if strings.HasSuffix(r.Path, "/hits") && !lost {
			lost = true
			return 0
		}
		return 200
	})
	b.do("await box.flush(); await box.flush()")
	got := b.fake.told()
	if len(got) != 3 || got[0].Body.Action != "start" || got[1].Path != "/api/runs/r1/hits" ||
		got[2].Path != got[1].Path {
		t.Fatalf("the order: %+v", got)
	}
	for i, h := range got[1].Body.Hits {
		if h.Seq != i || got[2].Body.Hits[i] != h || got[2].Body.Device != got[1].Body.Device {
			t.Errorf("sent again as another one: %+v, %+v", got[1].Body, got[2].Body)
		}
	}
	if len(got[2].Body.Hits) != 2 || len(got[2].Body.Marks) != 1 || got[2].Body.Hits[1].At != 1_500_000 {
		t.Errorf("what arrived: %+v", got[2].Body)
	}
	if value[bool](b, "box.offline") || value[int](b, "box.waiting") != 0 ||
		!value[bool](b, "localStorage.getItem('outbox:r1') === null") {
		t.Error("something still waits")
	}

	// The page crashes with a hit on its hands; the next page sends it on, but not for somebody else.
	b.fake.answers(always(503))
	b.do(newOutbox)
	b.do("box.hit(3, 'lead'); await box.flush()")
	b.fake.answers(always(200))
	b.load()
	b.do("await m.leftovers.send('lerato')")
	if got := b.fake.told(); len(got) != 0 {
		t.Errorf("sent for another coach: %+v", got)
	}
	b.do("await m.leftovers.send('maren')")
	if got := b.fake.told(); len(got) != 1 || len(got[0].Body.Hits) != 1 || got[0].Body.Hits[0].At != 3_000_000 {
		t.Errorf("left over: %+v", got)
	}

	// A round that is barred tells why and does not begin; one that is somebody else's waits.
	b.fake.answers(always(409))
	b.do(newOutbox)
	b.do("await box.step('start', 0)")
	if why := value[string](b, "box.barred"); why != "refused with 409" || !value[bool](b, "box.empty") {
		t.Errorf("barred: %q", why)
	}
	b.fake.answers(always(404))
	b.do("box.hit(1, 'lead'); await box.flush()")
	if !value[bool](b, "box.foreign") || value[int](b, "box.waiting") != 1 {
		t.Error("what is not ours to send does not wait")
	}
}

// The run's clock goes with the page's, stands while it is paused and goes on from there, with an audio clock and
// without one.
func TestRunClock(t *testing.T) {
	b := modules(t)
	for _, without := range []bool{false, true} {
		if without {
			b.do("delete window.AudioContext")
		}
		b.do("window.c = new m.RunClock()")
		b.do("await c.start(0.4)")
		if at := value[float64](b, "c.now()"); at > -0.2 || at < -0.5 {
			t.Errorf("it starts at %.3f s, not about 0.4 s before its zero", at)
		}
		// Over a second it gains and loses nothing on the page's own clock.
		off := value[float64](b, `(async () => {
			const wait = (ms) => new Promise((done) => setTimeout(done, ms))
			for (let i = 0; i < 30; i++) { c.now(); await wait(10) } // it finds its offset
			const [a, p] = [c.now(), performance.now()]
			for (let i = 0; i < 50; i++) { c.now(); await wait(20) }
			return c.now() - a - (performance.now() - p) / 1000
		})()`)
		if math.Abs(off) > 0.03 {
			t.Errorf("without audio %v: it went %+.3f s off in a second", without, off)
		}
		jump := value[float64](b, `(async () => {
			await c.pause()
			const stood = c.now()
			await new Promise((done) => setTimeout(done, 300))
			if (c.now() !== stood) return 99
			await c.resume()
			return c.now() - stood
		})()`)
		if math.Abs(jump) > 0.05 {
			t.Errorf("without audio %v: a pause moves it by %+.3f s", without, jump)
		}
		b.do("c.close()")
	}
}

// The picture's geometry: a bag is where its points say, mirrored from behind, at rest before the first strike, and
// begins anew with each repetition; paths and axes are what the scales make of them.
func TestGeometry(t *testing.T) {
	b := modules(t)
	b.do(`
		window.cycle = {
			trace: Array.from({ length: 11 }, (_, i) => ({ at: i / 10, swing: Math.sin((Math.PI * i) / 10) })),
			through: [{ at: 0, swing: 0 }, { at: 0.5, swing: -0.5 }], marks: [], passes: [], starts: [],
			return: 1, turn: 1, window: 0.2, opens: -0.1, closes: 0.1, strike: 0, mirrored: false, reach: 0.1, contact: 0,
		}
		window.strikes = [0, 1, 2].map((at, i) => ({ i, at, hand: 'lead', window: 0.2, side: i === 1 ? -1 : 1 }))
		window.scale = { x: (t) => 100 * t, y: (s) => 50 - 50 * s }
	`)
	for script, want := range map[string]float64{
		"m.read(cycle.trace, -5)":  0,
		"m.read(cycle.trace, 0.5)": 1,
		// halfway between two points
		"m.read(cycle.trace, 0.05)":                                math.Sin(math.Pi/10) / 2,
		"m.swingAt(cycle, 1.25)":                                   -0.25, // let go by
		"m.swingOn(cycle, strikes, -0.1)":                          0,
		"m.swingOn(cycle, strikes, 0.5)":                           1,
		"m.swingOn(cycle, strikes, 1.5)":                           -1, // struck from behind
		"m.swingOn(cycle, strikes, 3.5)":                           0,  // at rest after its return
		"m.hitSwing(cycle, strikes, 0.1)":                          -0.1,
		"m.inFilm({ ...cycle, starts: [2, 5] }, 5.5)":              1,
		"m.inFilm({ ...cycle, starts: [2, 5] }, 3.5)":              0,
		"m.middle(cycle)":                                          0,
		"m.timeSteps(0, 1, 5).length":                              6,
		"m.timeSteps(-0.25, 1.9, 6)[1]":                            0.5,
		"m.curve(cycle, [strikes[0]], scale).split('L').length":    11,
		"m.free(cycle.trace, scale, 0.25, 0.45).split('L').length": 4, // both ends, and two points between
		"+m.windows(cycle, [{ ...strikes[0], still: true }], scale).match(/^M(-?[\\d.]+),50L/)[1]": -10,
	} {
		if got := value[float64](b, script); math.Abs(got-want) > 1e-9 {
			t.Errorf("%s = %g, want %g", script, got, want)
		}
	}
	if words := value[string](b, "m.describe(cycle, 60, strikes)"); !strings.Contains(words, "at 60 a minute") ||
		!strings.Contains(words, "200 ms around") {
		t.Errorf("in words: %s", words)
	}
}

// A document is patched as RFC 7396 says: the examples of its appendix A that are objects.
func TestPatch(t *testing.T) {
	b := modules(t)
	for _, c := range [][3]string{
		{`{"a":"b"}`, `{"a":"c"}`, `{"a":"c"}`},
		{`{"a":"b"}`, `{"b":"c"}`, `{"a":"b","b":"c"}`},
		{`{"a":"b"}`, `{"a":null}`, `{}`},
		{`{"a":"b","b":"c"}`, `{"a":null}`, `{"b":"c"}`},
		{`{"a":["b"]}`, `{"a":"c"}`, `{"a":"c"}`},
		{`{"a":"c"}`, `{"a":["b"]}`, `{"a":["b"]}`},
		{`{"a":{"b":"c"}}`, `{"a":{"b":"d","c":null}}`, `{"a":{"b":"d"}}`},
		{`{"a":[{"b":"c"}]}`, `{"a":[1]}`, `{"a":[1]}`},
		{`{"e":null}`, `{"a":1}`, `{"e":null,"a":1}`},
		{`{}`, `{"a":{"bb":{"ccc":null}}}`, `{"a":{"bb":{}}}`},
	} {
		if got := value[string](b, fmt.Sprintf("JSON.stringify(m.merged(%s, %s))", c[0], c[1])); got != c[2] {
			t.Errorf("%s with %s: %s, want %s", c[0], c[1], got, c[2])
		}
	}
	if got := value[string](b,
		"JSON.stringify(m.patchOf('cues.least', 3, { tempo: 0 }))"); got != `{"tempo":0,"cues":{"least":3}}` {
		t.Errorf("a field in an object: %s", got)
	}
	got := value[string](b, `JSON.stringify(m.write({ kind: 'doubleEnd', upper: { span: 1, relaxed: 0.8 } }, { beyond: 1 },
		[{ field: 'upper.span', to: 2 }, { field: 'place.beyond', to: 3 }, { field: 'place.kicks', to: true }, { field: 'kind', to: undefined }]))`)
	if got != `{"doc":{"upper":{"span":2,"relaxed":0.8}},"place":{"beyond":3,"kicks":true}}` {
		t.Errorf("fields set anew: %s", got)
	}
}

// A round that follows the hits says when the bag is back as core does, whatever the force.
func TestFollow(t *testing.T) {
	b := modules(t)
	bag := rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45,
		Upper: rig.Cord{Span: 0.75, Relaxed: 0.66, Stiffness: 90},
		Lower: rig.Cord{Span: 0.75, Relaxed: 0.66, Stiffness: 90}, Damping: 0.04}
	on := drill.Floor{Bag: bag, Ability: trainee.Start(trainee.Advanced), Seed: 1}
	p, err := (drill.CombinationDrill{Text: "1-2-1-2-1-2", Landing: drill.OnReturns, Pace: drill.Combining, Pause: 2,
		Work: 30, Guidance: drill.Fading}).For(on)
	if err != nil {
		t.Fatal(err)
	}
	line, err := p.Lay(on)
	if err == nil {
		err = drill.Hang(&line, p, on)
	}
	if err != nil {
		t.Fatal(err)
	}
	text, err := json.Marshal(line)
	if err != nil {
		t.Fatal(err)
	}
	b.do("window.line = " + string(text))
	for _, share := range []float64{0.7, 1, 1.3} {
		b.do("window.f = new m.Follow(line, line.bag, 0)")
		at, launch := value[float64](b, "f.strikes[0].at / 1e6"), value[float64](b, "f.strikes[0].launch")*share
		b.do(fmt.Sprintf("f.hit(%g, %g)", at+0.05, launch))
		place := value[int](b, "line.bag.counts.indexOf(f.strikes[1].count)")
		want := at + 0.05 + line.Bag.At(place, launch)
		if got := value[float64](b, "f.strikes[1].at / 1e6"); math.Abs(got-want) > 0.002 {
			t.Errorf("at %g of the force it is due at %.4f s, core says %.4f", share, got, want)
		}
		// The one after it has moved along, and nothing of the next repetition.
		if value[float64](b, "f.strikes[6].at") != value[float64](b,
			"line.events.filter((e) => e.kind === 'strike')[6].at") {
			t.Error("a hit moves the next repetition")
		}
		if value[bool](b, fmt.Sprintf("f.hit(%g, %g) !== null", at+0.1, launch)) {
			t.Error("one more touch of the same blow counts as a hit")
		}
		// The next one is held against the bag as it was struck, wherever the plan had it.
		if off := value[float64](b, "f.met.i + f.met.off"); math.Abs(off-0.05) > 1e-6 {
			t.Errorf("a hit 50 ms after the first strike is met at %g", off)
		}
		b.do(fmt.Sprintf("f.hit(%g)", want+0.03))
		if off := value[float64](b, "f.met.i + f.met.off"); math.Abs(off-1.03) > 0.002 {
			t.Errorf("a hit 30 ms after the bag is back is met at %g", off)
		}
	}
}
