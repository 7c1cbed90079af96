// Command shots takes a picture of each main view from the demo gym into docs/screenshots. It needs a server with the
// demo data, such as ./start gives:  go run ./e2e/shots [-url http://127.0.0.1:8090] [-only bench,run]
package main

import (
	"context"
	"encoding/base64"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"melodromos/browser"
	"melodromos/demo"
)

var (
	url  = flag.String("url", "http://127.0.0.1:8090", "where the server answers")
	into = flag.String("into", "docs/screenshots", "folder for the pictures")
	only = flag.String("only", "", "names of pictures, with commas; empty takes all")
)

// A view is a picture: its size, and how to get there from Today.
type view struct {
	name          string
	width, height int
	phone         bool
	reach         func(p *browser.Page) error
}

func steps(list ...func(p *browser.Page) error) func(p *browser.Page) error {
	return func(p *browser.Page) error {
		for i, step := range list {
			if err := step(p); err != nil {
				return fmt.Errorf("step %d: %w", i+1, err)
			}
		}
		return nil
	}
}

func see(text string) func(*browser.Page) error {
	return func(p *browser.Page) error { return p.See(text) }
}

func press(name string) func(*browser.Page) error {
	return func(p *browser.Page) error { return p.Press(name) }
}

func goTo(path string) func(*browser.Page) error {
	return func(p *browser.Page) error { return p.Go(path) }
}

func fill(label, text string) func(*browser.Page) error {
	return func(p *browser.Page) error { return p.Fill(label, text) }
}

func wait(d time.Duration) func(*browser.Page) error {
	return func(*browser.Page) error { time.Sleep(d); return nil }
}

// link follows the first link whose address begins so.
func link(prefix string) func(*browser.Page) error {
	return func(p *browser.Page) error {
		find := fmt.Sprintf("document.querySelector('main a[href^=\"%s\"]')", prefix)
		if err := p.Until(find); err != nil {
			return err
		}
		_, err := browser.Eval[bool](p, "("+find+".click(), true)")
		return err
	}
}

// round starts a round of Yusuf's with the stand-in and lets it go on for a while.
var round = steps(goTo("/people"), see(" % clean"), press("Run Basic rhythm, three a side with Yusuf Brandvik"),
	see("Ready for the floor"),
	press("Demo hits"), press("Advanced"), press("Start"), wait(17*time.Second))

// byKeys starts a round that is tapped on the pads.
var byKeys = steps(goTo("/people"), see(" % clean"), press("Run Five a side with Ines Calder"),
	see("Ready for the floor"),
	press("Start"), wait(16*time.Second))

// classFloor goes on with the class of the evening for a moment.
var classFloor = steps(goTo("/class"), see("Who is here?"), link("#/floor/"), see("Paused"), press("Go on"),
	wait(4*time.Second))

var views = []view{
	{"today", 1280, 800, false, steps(goTo("/"), see("Next on the floor"))},
	{"class", 1280, 800, false, steps(goTo("/class"), see("Who is here?"), link("#/class/"), see("on a bag for each"),
		wait(600*time.Millisecond))},
	{"session", 1280, 800, false, steps(goTo("/sessions"), see("Ready made"), press("Thirteen moves, built up"),
		see("minutes in all"), wait(800*time.Millisecond))},
	{"floor", 1280, 800, false, classFloor},
	{"bench", 1280, 800, false, steps(goTo("/bags"), see("Quay bag"), press("Set up Quay bag"), see("trike at"),
		wait(300*time.Millisecond))},
	{"drill", 1280, 800, false, steps(goTo("/drills/new"), see("Weakest link"), wait(300*time.Millisecond))},
	{"composer", 1280, 800, false, steps(goTo("/drills"), see("Thirteen moves"), link("#/compose/"),
		see("What is thrown"), wait(600*time.Millisecond),
		fill("What is thrown",
			"double jab cross | duck under, cross hook cross! | slip left, hook cross | step back, one-two!"),
		wait(600*time.Millisecond))},
	{"ready", 1280, 800, false, steps(goTo("/"), see("Next on the floor"), link("#/run/"), see("Ready for the floor"),
		wait(300*time.Millisecond))},
	{"review", 1280, 800, false, steps(goTo("/log"), fill("Look for", "Greta"), wait(900*time.Millisecond),
		link("#/review/"), see("Fix this first"),
		wait(300*time.Millisecond))},
	{"log", 1280, 800, false, steps(goTo("/log"), see("Yusuf Brandvik"))},
	{"people", 1280, 800, false, steps(goTo("/people"), see(" % clean"), wait(300*time.Millisecond))},
	{"person", 1280, 800, false, steps(press("Ines Calder"), see("On each bag"), wait(300*time.Millisecond))},
	{"progress", 1280, 800, false, steps(goTo("/people"), see(" % clean"), press("Greta Sallowfield"),
		press("Progress"), see("What to work at"), wait(800*time.Millisecond))},
	{"ladder", 1280, 800, false, steps(goTo("/people"), see(" % clean"),
		press("The ladder of Greta Sallowfield on the speed bag"), see("Standard:"), wait(300*time.Millisecond))},
	{"calendar", 1280, 800, false, steps(goTo("/calendar"), see("In other calendars"),
		fill("For whom or what", "The front desk"), press("Make an address"), see("Copy it now"),
		wait(400*time.Millisecond))},
	{"import", 1280, 800, false, dryRun},
	{"run", 1280, 800, false, round},
}

// dryRun takes the gym out, changes a little of the file and looks what it would do.
func dryRun(p *browser.Page) error {
	folder, err := os.MkdirTemp("", "shots-*")
	if err != nil {
		return err
	}
	defer func() { _ = os.RemoveAll(folder) }()
	if err := steps(goTo("/gym"), see("The whole gym"))(p); err != nil {
		return err
	}
	if err := p.Downloads(folder); err != nil {
		return err
	}
	if err := p.Press("Save the whole gym"); err != nil {
		return err
	}
	_, data, err := p.Downloaded(folder, ".json")
	if err != nil {
		return err
	}
	text := strings.NewReplacer(`"name": "Buoy"`, `"name": "Marker buoy"`, `"swivelDrop": 0.025`, `"swivelDrop": 0.03`,
		`Came for the company, stayed for the bag.`, `Comes on Saturdays, too.`,
		`"name": "Zofia Oyelaran"`, `"name": "Ragnhild Osei-Marsh"`).Replace(string(data))
	path := filepath.Join(folder, "gym of the other hall.json")
	if err := os.WriteFile(path, []byte(text), 0o600); err != nil {
		return err
	}
	return steps(goTo("/import"), see("Choose a file"), func(p *browser.Page) error { return p.GiveFile(path) },
		see("would be added"), wait(400*time.Millisecond))(p)
}

// framed are the floor views that stand side by side in one picture.
var framed = []view{{"phone", 390, 844, true, byKeys}, {"wall", 1920, 1080, false, round}}

// sheets lists the pages that are printed, side by side in one picture.
var sheets = []view{
	{"a drill", 1280, 800, false, steps(goTo("/drills"), see("Thirteen moves"),
		press("Run Thirteen moves with Yusuf Brandvik"),
		see("Ready for the floor"), press("Files of Thirteen moves"), press("Its card, to print"),
		see("Three things to watch"))},
	{"a bag", 1280, 800, false, steps(goTo("/bags"), see("Bollard"), press("Set up Bollard"), see("trike at"),
		wait(400*time.Millisecond), press("Files of Bollard"), press("Setting card, to print"),
		see("Print this card"))},
	{"a class", 1280, 800, false, steps(goTo("/class"), see("Who is here?"), link("#/class/"), see("on a bag for each"),
		press("Print"), see("Who does what"))},
}

func main() {
	flag.Parse()
	if err := take(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func wanted(name string) bool {
	return *only == "" || slices.Contains(strings.Split(*only, ","), name)
}

func take() error {
	p, done, err := browser.Open(context.Background(), *url, 1280, 800)
	if err != nil {
		return err
	}
	defer done()
	file := func(name string) string { return filepath.Join(*into, name+".png") }
	if err := p.SignIn(demo.Email, demo.Password); err != nil {
		return err
	}
	for _, v := range views {
		if !wanted(v.name) {
			continue
		}
		if err := v.show(p); err != nil {
			return err
		}
		if err := p.Shot(file(v.name)); err != nil {
			return err
		}
		fmt.Println(file(v.name))
		switch v.name {
		case "run":
			err = stop(p)
		case "floor":
			err = steps(press("Pause"), see("Paused"), wait(500*time.Millisecond))(p)
		}
		if err != nil {
			return err
		}
	}
	for name, take := range map[string]func(*browser.Page) (string, error){"run-phone-wall": onFloor,
		"cards": onPaper} {
		if !wanted(name) {
			continue
		}
		page, err := take(p)
		if err != nil {
			return err
		}
		if err := frame(p, page, file(name)); err != nil {
			return err
		}
		fmt.Println(file(name))
	}
	for _, e := range p.Errors() {
		fmt.Fprintln(os.Stderr, "browser:", e)
	}
	return nil
}

// show gets to a view.
func (v view) show(p *browser.Page) error {
	resize := p.Resize
	if v.phone {
		resize = p.BecomePhone
	}
	if err := resize(v.width, v.height); err != nil {
		return err
	}
	if err := v.reach(p); err != nil {
		return fmt.Errorf("%s: %w", v.name, err)
	}
	return nil
}

// stop leaves a round as a coach would.
func stop(p *browser.Page) error {
	for _, press := range []string{"Stop", "Stop now"} {
		if err := p.Press(press); err != nil {
			return err
		}
	}
	return p.Until("location.hash.startsWith('#/review/')")
}

// onFloor puts the floor views side by side.
func onFloor(p *browser.Page) (page string, err error) {
	for _, v := range framed {
		if err := v.show(p); err != nil {
			return "", err
		}
		png, err := p.Picture()
		if err != nil {
			return "", err
		}
		if err := stop(p); err != nil {
			return "", err
		}
		page += picture(png, fmt.Sprintf("border:3px solid #26231e;border-radius:8px;width:%dpx", framedWidth[v.name]))
	}
	return page, nil
}

// A sheet of A4 in CSS pixels, its margins as app.css has them, and how wide it is shown.
const (
	paperWidth, paperHeight = 794, 1123
	paperMargin             = 53
	paperShown              = 396
)

// onPaper puts what is printed side by side, on A4.
func onPaper(p *browser.Page) (page string, err error) {
	for _, v := range sheets {
		if err := v.show(p); err != nil {
			return "", err
		}
		if err := p.OnPaper(paperWidth-2*paperMargin, paperHeight-2*paperMargin); err != nil {
			return "", err
		}
		time.Sleep(400 * time.Millisecond)
		png, err := p.Picture()
		if err != nil {
			return "", err
		}
		if err := p.OnScreen(v.width, v.height); err != nil {
			return "", err
		}
		shrunk := float64(paperShown) / paperWidth
		page += picture(png, fmt.Sprintf("background:white;box-sizing:border-box;padding:%gpx;width:%dpx;height:%gpx",
			paperMargin*shrunk, paperShown, paperHeight*shrunk))
	}
	return page, nil
}

func picture(png []byte, style string) string {
	return fmt.Sprintf(`<img style="%s" src="data:image/png;base64,%s">`, style,
		base64.StdEncoding.EncodeToString(png))
}

// frame takes a picture of others side by side.
func frame(p *browser.Page, page, file string) error {
	page = `<body style="margin:0;height:800px;background:#e4dcc8;display:flex;gap:22px;align-items:center;justify-content:center">` +
		page
	if err := p.Resize(1280, 800); err != nil {
		return err
	}
	if err := p.Leave("about:blank"); err != nil {
		return err
	}
	if _, err := browser.Eval[bool](p, fmt.Sprintf("(document.documentElement.innerHTML = %q, true)",
		page)); err != nil {
		return err
	}
	if err := p.Until("[...document.images].every((i) => i.complete)"); err != nil {
		return err
	}
	return p.Shot(file)
}

var framedWidth = map[string]int{"phone": 310, "wall": 860}
