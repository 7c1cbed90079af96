// Package browser drives the real interface in headless Chromium: for the tests, for the screenshots, and for the
// command line, which prints and draws what the pages show.
package browser

import (
	"context"
	"encoding/json"
	"fmt"
	"iter"
	"os"
	"strings"
	"sync"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"golang.org/x/sys/unix"
)

// Page is one page of one browser.
type Page struct {
	ctx    context.Context
	base   string
	mu     sync.Mutex
	errors []string
}

// Browser is a running Chromium that opens pages which share nothing: each has its own cookies, storage and downloads.
type Browser struct{ ctx context.Context }

// Start starts a browser with an empty profile. Call the second result to close it and its pages.
func Start(parent context.Context) (*Browser, func(), error) {
	ctx, stop := launch(parent, "", 800, 600)
	if err := chromedp.Do(ctx); err != nil {
		stop()
		return nil, nil, fmt.Errorf("start Chromium: %w", err)
	}
	return &Browser{ctx}, stop, nil
}

// Open opens a page at a size in CSS pixels on the site at base. Call the second result to close it.
func (b *Browser) Open(base string, width, height int) (*Page, func(), error) {
	ctx, stop := chromedp.NewContext(b.ctx, chromedp.WithNewBrowserContext())
	return ready(ctx, stop, base, width, height)
}

// Open starts a browser of its own with an empty profile, at a size in CSS pixels, on the site at base. Call the second
// result to close it.
func Open(parent context.Context, base string, width, height int) (*Page, func(), error) {
	return OpenIn(parent, "", base, width, height)
}

// OpenIn starts a browser with the profile that lies in a folder, as a device that is switched on again; "" is an empty
// one.
func OpenIn(parent context.Context, profile, base string, width, height int) (*Page, func(), error) {
	ctx, stop := launch(parent, profile, width, height)
	return ready(ctx, stop, base, width, height)
}

// launch prepares a Chromium of its own, which the first step in ctx starts.
func launch(parent context.Context, profile string, width, height int) (ctx context.Context, stop func()) {
	options := append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.WindowSize(width, height),
		chromedp.Flag("mute-audio", true),
		chromedp.Flag("disable-gpu", true),
		chromedp.Flag("in-process-gpu", true), // what is drawn by the processor needs no process of its own
		chromedp.Flag("disable-dev-shm-usage", smallMemoryDisk()),
		chromedp.Flag("disable-quic", true),
		chromedp.Flag("disable-component-update", true),
		chromedp.Flag("force-color-profile", "srgb"),
	)
	if profile != "" {
		options = append(options, chromedp.UserDataDir(profile))
	}
	if os.Geteuid() == 0 {
		options = append(options, chromedp.NoSandbox) // Chromium's sandbox refuses root
	}
	alloc, free := chromedp.NewExecAllocator(parent, options...)
	ctx, cancel := chromedp.NewContext(alloc)
	return ctx, func() { cancel(); free() }
}

// smallMemoryDisk tells whether /dev/shm is missing or under 1 GB, as in a container by default. Chromium then
// keeps what its processes share in files on disk, which costs a sixth more time.
func smallMemoryDisk() bool {
	var disk unix.Statfs_t
	err := unix.Statfs("/dev/shm", &disk)
	return err != nil || int64(disk.Blocks)*int64(disk.Bsize) < 1<<30
}

// ready gives a page its size and begins to listen to its console.
func ready(ctx context.Context, stop func(), base string, width, height int) (*Page, func(), error) {
	p := &Page{ctx: ctx, base: base}
	// A page that is not the foremost one has the focus, too, as on a device of its own.
	_, err := chromedp.Call(ctx, emulation.SetFocusEmulationEnabled,
		emulation.SetFocusEmulationEnabledParams{Enabled: true})
	if err == nil {
		err = chromedp.Do(ctx, chromedp.EmulateViewport(int64(width), int64(height)))
	}
	if err != nil {
		stop()
		return nil, nil, fmt.Errorf("start Chromium: %w", err)
	}
	go p.listen(chromedp.Console(ctx))
	return p, stop, nil
}

func (p *Page) listen(messages iter.Seq2[chromedp.ConsoleMessage, error]) {
	for m, err := range messages {
		if err != nil {
			return // the browser was closed
		}
		if m.IsException() || m.Type == "error" || m.Type == "warning" || m.Type == "assert" {
			p.mu.Lock()
			p.errors = append(p.errors, strings.TrimSpace(m.String()+" "+m.URL))
			p.mu.Unlock()
		}
	}
}

// Errors returns what the browser's console complained about since it was last asked.
func (p *Page) Errors() []string {
	p.mu.Lock()
	defer p.mu.Unlock()
	list := p.errors
	p.errors = nil
	return list
}

// do runs steps within half a minute.
func (p *Page) do(steps ...chromedp.Action[chromedp.Void]) error {
	ctx, cancel := context.WithTimeout(p.ctx, 30*time.Second)
	defer cancel()
	return chromedp.Do(ctx, steps...)
}

// Eval evaluates a JavaScript expression.
func Eval[T any](p *Page, expression string) (T, error) {
	ctx, cancel := context.WithTimeout(p.ctx, 30*time.Second)
	defer cancel()
	return chromedp.Run(ctx, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
}

// run evaluates an expression for what it does.
func (p *Page) run(expression string) error {
	_, err := Eval[bool](p, "("+expression+", true)")
	return err
}

// Go opens a place of the application, such as "/log".
func (p *Page) Go(path string) error {
	return p.do(chromedp.Navigate(p.base + "/#" + path))
}

// Leave goes to another address altogether.
func (p *Page) Leave(url string) error { return p.do(chromedp.Navigate(url)) }

// Away leaves the application for a picture of the same server. On about:blank Chromium would complain of the page's
// own icon, when that is still on its way.
func (p *Page) Away() error {
	if err := p.Leave(p.base + "/mark.svg"); err != nil {
		return err
	}
	time.Sleep(200 * time.Millisecond) // a page that is loaded asks for its icon, which the server is to answer yet
	_, err := Eval[bool](p, "fetch('/favicon.ico').then(() => true)")
	return err
}

// BecomePhone changes the size in CSS pixels and makes it a touch screen.
func (p *Page) BecomePhone(width, height int) error {
	return p.do(chromedp.EmulateViewport(int64(width), int64(height), chromedp.EmulateMobile, chromedp.EmulateTouch,
		chromedp.EmulatePortrait))
}

// slowed are the parameters of network.EmulateNetworkConditionsByRule, with one that Chromium before 149 insists on.
type slowed struct {
	network.EmulateNetworkConditionsByRuleParams
	Offline bool `json:"offline"`
}

// Slow gives the line a delay (s) until each answer begins.
func (p *Page) Slow(delay float64) error {
	if _, err := chromedp.Call(p.ctx, network.Enable, network.EnableParams{}); err != nil {
		return err
	}
	command := cdp.Command[slowed, cdp.Empty]{Method: network.CommandEmulateNetworkConditionsByRule}
	_, err := chromedp.Call(p.ctx, command, slowed{EmulateNetworkConditionsByRuleParams: network.
		EmulateNetworkConditionsByRuleParams{MatchedNetworkConditions: []*network.Conditions{
		{Latency: 1000 * delay, DownloadThroughput: -1, UploadThroughput: -1}}}})
	return err
}

// Block keeps what matches these patterns, in which * stands for anything, from being loaded; none lets all through.
func (p *Page) Block(patterns ...string) error {
	if _, err := chromedp.Call(p.ctx, network.Enable, network.EnableParams{}); err != nil {
		return err
	}
	list := make([]*network.BlockPattern, 0, len(patterns))
	for _, pattern := range patterns {
		list = append(list, &network.BlockPattern{URLPattern: pattern, Block: true})
	}
	_, err := chromedp.Call(p.ctx, network.SetBlockedURLs, network.SetBlockedURLsParams{URLPatterns: list})
	return err
}

// First has a script run at the beginning of each page from now on.
func (p *Page) First(script string) error {
	_, err := chromedp.Call(p.ctx, page.AddScriptToEvaluateOnNewDocument,
		page.AddScriptToEvaluateOnNewDocumentParams{Source: script})
	return err
}

// OnPaper shows the page as it is printed, at a size in CSS pixels.
func (p *Page) OnPaper(width, height int) error {
	if _, err := chromedp.Call(p.ctx, emulation.SetEmulatedMedia,
		emulation.SetEmulatedMediaParams{Media: "print"}); err != nil {
		return err
	}
	return p.Resize(width, height)
}

// OnScreen shows it as a screen does again.
func (p *Page) OnScreen(width, height int) error {
	if _, err := chromedp.Call(p.ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{}); err != nil {
		return err
	}
	return p.Resize(width, height)
}

// Calm asks the page for little motion, as a person sets it for the whole machine.
func (p *Page) Calm() error {
	_, err := chromedp.Call(p.ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{
		Features: []*emulation.MediaFeature{{Name: "prefers-reduced-motion", Value: "reduce"}}})
	return err
}

// Resize changes the size in CSS pixels.
func (p *Page) Resize(width, height int) error {
	return p.do(chromedp.EmulateViewport(int64(width), int64(height)))
}

// See waits until the page shows the text.
func (p *Page) See(text string) error {
	return p.wait(fmt.Sprintf("the text %q", text), fmt.Sprintf("document.body.innerText.includes(%s)", quote(text)))
}

// Until waits until a JavaScript expression holds.
func (p *Page) Until(expression string) error { return p.wait(expression, expression) }

func (p *Page) wait(what, expression string) error {
	var last string
	pause := 30 * time.Millisecond // longer and longer, since each look costs the page the time of a layout
	for end := time.Now().Add(45 * time.Second); time.Now().Before(end); time.Sleep(pause) {
		pause = min(pause*5/4, 250*time.Millisecond)
		if ok, err := Eval[bool](p, "!!("+expression+")"); err != nil {
			last = err.Error()
		} else if ok {
			return nil
		}
	}
	seen, _ := Eval[string](p, "location.hash + ' ' + document.body.innerText.slice(0, 1500)")
	return fmt.Errorf("waited in vain for %s (%s); the page shows: %s", what, last, seen)
}

// Press clicks the button, link or radio button of that name, once it is there and can be pressed.
//
// A page that moves between the look and the click is pressed beside the button. Such a click goes nowhere, and the
// button is pressed again.
func (p *Page) Press(name string) error {
	find := fmt.Sprintf(
		`[...document.querySelectorAll('button, a, [role=radio]')].find((e) => { const n = (e.getAttribute('aria-label') ?? e.textContent).trim().replace(/\s+/g, ' '); return (n === %[1]s || n.startsWith(%[1]s + ': ')) && !e.disabled && e.offsetParent !== null })`, quote(name))
	return p.press("the button "+name, find)
}

func (p *Page) press(what, find string) error {
	if err := p.wait(what, find); err != nil {
		return err
	}
	for range 5 {
		at, err := p.settled(find)
		if err != nil {
			return err
		}
		if err := p.run(fmt.Sprintf(guard, find)); err != nil {
			return err
		}
		if err := p.do(chromedp.MouseClickXY(at.X, at.Y)); err != nil {
			return err
		}
		for range 25 {
			hit, err := Eval[bool](p, "window.pressed === true || !window.guard") // a new page has no guard
			if err != nil || hit {
				return err
			}
			time.Sleep(20 * time.Millisecond)
		}
	}
	return fmt.Errorf("%s was not hit in five presses", what)
}

// Part opens the part of a sentence that is labelled so, whatever it says.
func (p *Page) Part(label string) error {
	return p.press("the part "+label, fmt.Sprintf(
		"[...document.querySelectorAll('button.part')].find((e) => e.getAttribute('aria-label')?.includes(', ' + %s))",
		quote(label)))
}

// Choose opens a part and takes one of what it offers.
func (p *Page) Choose(label, what string) error {
	if err := p.Part(label); err != nil {
		return err
	}
	return p.Press(what)
}

// Set opens a part and types its figure or its text.
func (p *Page) Set(label, field, text string) error {
	if err := p.Part(label); err != nil {
		return err
	}
	return p.Fill(field, text)
}

// guard lets the next click through to the element that is meant and to no other, and tells in window.pressed which of
// the two it was.
const guard = `((element) => {
	removeEventListener('click', window.guard, true)
	window.pressed = undefined
	window.guard = (e) => {
		removeEventListener('click', window.guard, true)
		window.pressed = !!element?.contains(e.target)
		if (!window.pressed) { e.preventDefault(); e.stopImmediatePropagation() }
	}
	addEventListener('click', window.guard, true)
})(%s)`

type place struct{ X, Y float64 }

// settled scrolls an element into sight and returns its middle once it stands still: an answer that comes meanwhile
// moves what is below it.
func (p *Page) settled(find string) (place, error) {
	middle := fmt.Sprintf(
		`((e) => { if (!e) return {X: -1, Y: -1}; e.scrollIntoView({block: 'center'}); const b = e.getBoundingClientRect(); return {X: b.x + b.width / 2, Y: b.y + b.height / 2} })(%s)`, find)
	before := place{-1, -1}
	for range 30 {
		at, err := Eval[place](p, middle)
		if err != nil || at == before && at.X >= 0 {
			return at, err
		}
		before = at
		time.Sleep(80 * time.Millisecond)
	}
	return before, nil
}

// Fill types a text into the field of that label, in place of what stands there.
func (p *Page) Fill(label, text string) error {
	find := fmt.Sprintf(
		`[...document.querySelectorAll('label')].find((l) => (l.querySelector('.label') ?? l).textContent.trim() === %s)`, quote(label))
	field := fmt.Sprintf(`((l) => l && (l.control ?? l.querySelector('input, select')))(%s)`, find)
	if err := p.wait("the field "+label, field); err != nil {
		return err
	}
	if err := p.run(field + ".focus(), " + field + ".select?.()"); err != nil {
		return err
	}
	_, err := chromedp.Call(p.ctx, input.InsertText, input.InsertTextParams{Text: text})
	return err
}

// Key sends keys to whatever has the focus.
func (p *Page) Key(keys string) error { return p.do(chromedp.KeyEvent(keys)) }

// Drag takes hold of an element, found by a CSS selector, and lets go of it so many CSS pixels away.
func (p *Page) Drag(selector string, dx, dy float64) error {
	find := fmt.Sprintf("document.querySelector(%s)", quote(selector))
	if err := p.wait(selector, find); err != nil {
		return err
	}
	at, err := p.settled(find)
	if err != nil {
		return err
	}
	return p.do(chromedp.DragAndDropXY(at.X, at.Y, at.X+dx, at.Y+dy))
}

// Shot takes a picture of what the window shows.
func (p *Page) Shot(path string) error {
	png, err := p.Picture()
	if err != nil {
		return err
	}
	return os.WriteFile(path, png, 0o644)
}

// Picture takes a picture of what the page shows, as PNG.
func (p *Page) Picture() ([]byte, error) {
	ctx, cancel := context.WithTimeout(p.ctx, 30*time.Second)
	defer cancel()
	return chromedp.Run(ctx, chromedp.CaptureScreenshot())
}

// SignIn signs in on the sign-in page.
func (p *Page) SignIn(email, password string) error {
	for _, step := range []func() error{
		func() error { return p.Go("/") },
		func() error { return p.Fill("E-mail", email) },
		func() error { return p.Fill("Password", password) },
		func() error { return p.Press("Sign in") },
		func() error { return p.See("Sign out") },
	} {
		if err := step(); err != nil {
			return err
		}
	}
	return nil
}

// SetCookie gives the page a cookie of its site.
func (p *Page) SetCookie(name, value string) error {
	_, err := chromedp.Call(p.ctx, network.SetCookie,
		network.SetCookieParams{Name: name, Value: value, URL: p.base, HTTPOnly: new(true)})
	return err
}

func quote(s string) string {
	b, _ := json.Marshal(s) // a string always can
	return string(b)
}

// Kill ends the browser at once, as a battery that is empty does: nothing of it is asked or told before.
func (p *Page) Kill() error {
	process := chromedp.FromContext(p.ctx).Browser.Process()
	if process == nil {
		return fmt.Errorf("this browser was not started here")
	}
	return process.Kill()
}
