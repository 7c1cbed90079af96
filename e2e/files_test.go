package e2e

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"encoding/xml"
	"fmt"
	"image/png"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"melodromos/browser"
	"melodromos/format/others"
)

// taken presses something that hands a file over, and returns it.
func (c coach) taken(folder, name, ending string) (string, []byte) {
	c.t.Helper()
	c.ok(c.Press(name))
	called, data, err := c.Downloaded(folder, ending)
	c.ok(err)
	return called, data
}

// What the gym has put in is saved by its buttons, and brought in again: first only said, then done. A file that is
// wrong says where, and changes nothing.
func TestOutAndIn(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	c := open(t, start(t), 1280, 800)
	c.enter()
	c.ok(c.Downloads(folder))
	c.ok(c.Press("Gym"))
	name, gym := c.taken(folder, "Save the whole gym", ".json")
	if !json.Valid(gym) || !strings.HasPrefix(name, "The Ropewalk") {
		t.Fatalf("%s: %.200s", name, gym)
	}
	_, table := c.taken(folder, "Save the log", ".csv")
	if rows, err := csv.NewReader(bytes.NewReader(table)).ReadAll(); err != nil || len(rows) < 20 {
		t.Errorf("the log has %d lines: %v", len(rows), err)
	}
	_, calendar := c.taken(folder, "Save the calendar", ".ics")
	var read struct{ Events []struct{ Name string } }
	others.Ask(t, "ical.mjs", calendar, &read, "2020-01-01T00:00:00Z", "2020-01-02T00:00:00Z")
	if len(read.Events) < 3 {
		t.Errorf("%+v", read)
	}

	give := func(name string, data []byte) {
		t.Helper()
		path := filepath.Join(folder, name)
		c.ok(os.WriteFile(path, data, 0o600))
		c.ok(c.GiveFile(path))
	}
	changed := bytes.Replace(gym, []byte(`"Came for the company, stayed for the bag."`),
		[]byte(`"Comes on Saturdays."`), 1)
	changed = bytes.Replace(changed, []byte(`"name": "Buoy"`), []byte(`"name": "Marker buoy"`), 1)
	if bytes.Equal(changed, gym) {
		t.Fatal("nothing was changed in the file")
	}
	c.ok(c.Press("Bring in a file"))
	c.ok(c.See("Choose a file"))
	give("wrong.json", bytes.Replace(gym, []byte(`"restitution": 0.8,`), []byte(`"restitution": 8,`), 1))
	c.ok(c.See("restitution: expected a number from 0.05 to 1, not 8. Nothing was brought in."))
	give("changed.json", changed)
	c.ok(c.See("would be added; 1 differs here, and stays as it is"))
	c.ok(c.See("Marker buoy"))
	c.ok(c.Press("Becomes what the file has"))
	c.ok(c.See("That cannot be taken back."))
	c.ok(c.See("1 would be changed"))
	c.ok(c.Go("/people"))
	c.ok(c.Press("Ines Calder"))
	c.ok(c.See("Came for the company")) // until now all was only said
	c.ok(c.Go("/import"))
	c.ok(c.See("Choose a file"))
	give("changed.json", changed)
	c.ok(c.Press("Becomes what the file has"))
	c.ok(c.See("1 would be changed"))
	c.ok(c.Press("Bring it in"))
	c.ok(c.See("Brought in."))
	c.ok(c.Press("To the people"))
	c.ok(c.Press("Ines Calder"))
	c.ok(c.See("Comes on Saturdays."))
	c.ok(c.Go("/bags"))
	c.ok(c.See("Marker buoy"))
}

// A drill leaves as notes, which another library changes and writes anew: it comes back as a drill of its own.
func TestRhythmComesBack(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	c := open(t, start(t), 1280, 800)
	c.enter()
	c.ok(c.Downloads(folder))
	c.ok(c.Go("/drills"))
	c.ok(c.Press("Files of Thirteen moves"))
	name, notes := c.taken(folder, "Its notes, MIDI", ".mid")
	if name != "Thirteen moves.mid" {
		t.Errorf("it is called %s", name)
	}
	var read struct {
		Per    int
		Tracks []struct {
			Name  string
			Notes []struct{ At, Key int }
		}
	}
	others.Ask(t, "midi.mjs", notes, &read)
	events := []map[string]any{{"deltaTime": 0, "meta": true, "type": "trackName", "text": "Strikes"}}
	last := 0
	for _, track := range read.Tracks {
		if track.Name != "Strikes" {
			continue
		}
		for _, n := range track.Notes[:10] {
			events = append(events, map[string]any{"deltaTime": n.At - last, "type": "noteOn", "channel": 0,
				"noteNumber": n.Key, "velocity": 90})
			last = n.At
		}
	}
	events = append(events, map[string]any{"deltaTime": 0, "meta": true, "type": "endOfTrack"})
	file, err := json.Marshal(map[string]any{"header": map[string]any{"format": 1, "numTracks": 1,
		"ticksPerBeat": read.Per}, "tracks": []any{events}})
	if err != nil {
		t.Fatal(err)
	}
	path := filepath.Join(folder, "Ten of them.mid")
	c.ok(os.WriteFile(path, others.Run(t, "midi.mjs", file, "write"), 0o600))
	c.ok(c.Go("/import"))
	c.ok(c.See("Choose a file"))
	c.ok(c.GiveFile(path))
	c.ok(c.See("The drill Ten of them would be added."))
	c.ok(c.See("10 strikes"))
	c.ok(c.Press("Bring it in"))
	c.ok(c.See("The drill Ten of them is added."))
	c.ok(c.Press("Look at the drill"))
	c.ok(c.See("in a rhythm of its own"))
	c.ok(c.Press("Files of Ten of them"))
	c.ok(c.See("As pictures"))
}

// What is drawn on a page is saved as a drawing that needs nothing of the page, and as a picture at twice its size.
func TestPicturesAreSaved(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	c := open(t, start(t), 1280, 800)
	c.enter()
	c.ok(c.Downloads(folder))
	c.ok(c.Go("/drills"))
	composed := c.linkTo("/compose/")
	c.ok(c.Go("/log"))
	review := c.linkTo("/review/")
	c.ok(c.Go("/people"))
	c.ok(c.Press("Greta Sallowfield"))
	c.ok(c.Press("Progress"))
	c.ok(c.See("What to work at"))
	progress := c.text("location.hash.slice(1)")
	for page, picture := range map[string]string{composed: "The line", review: "The dial", progress: "Big lantern"} {
		c.ok(c.Go(page))
		c.ok(c.Until("window.melodromos?.pictures().includes('" + picture + "')"))
		c.ok(c.Press(c.text(`document.querySelector('[aria-label^="Files of"]').getAttribute('aria-label')`)))
		_, drawing := c.taken(folder, picture+", SVG", ".svg")
		if err := standsAlone(drawing); err != nil {
			t.Errorf("%s: %v", picture, err)
		}
		c.ok(c.Press(c.text(`document.querySelector('[aria-label^="Files of"]').getAttribute('aria-label')`)))
		_, data := c.taken(folder, picture+", PNG", ".png")
		image, err := png.Decode(bytes.NewReader(data))
		c.ok(err)
		box := c.number(`document.querySelector('[data-picture="` + picture + `"]').getBoundingClientRect().width`)
		if w := float64(image.Bounds().Dx()); w < 2*box-2 || w > 2*box+2 {
			t.Errorf("%s: %g dots for %g of the page", picture, w, box)
		}
		colours := map[[3]uint32]bool{}
		for y := range image.Bounds().Dy() {
			for x := range image.Bounds().Dx() {
				r, g, b, _ := image.At(x, y).RGBA()
				colours[[3]uint32{r >> 12, g >> 12, b >> 12}] = true
			}
		}
		if len(colours) < 5 {
			t.Errorf("%s: %d colours: it is empty", picture, len(colours))
		}
	}
}

// standsAlone says what a drawing needs that is not in it: styles, letters or files.
func standsAlone(drawing []byte) error {
	if !bytes.Contains(drawing, []byte("data:font/woff2;base64,")) {
		return fmt.Errorf("it has no letters of its own")
	}
	shapes, words := 0, 0
	for d := xml.NewDecoder(bytes.NewReader(drawing)); ; {
		token, err := d.Token()
		if err == io.EOF {
			break
		}
		if err != nil {
			return err
		}
		e, is := token.(xml.StartElement)
		if !is {
			continue
		}
		switch e.Name.Local {
		case "path", "circle", "line", "rect":
			shapes++
		case "text":
			words++
		}
		for _, a := range e.Attr {
			if a.Name.Local == "class" || strings.Contains(a.Value, "var(") || strings.HasPrefix(a.Value, "http") &&
				!strings.Contains(a.Value, "www.w3.org") {
				return fmt.Errorf("%s leans on %s=%q", e.Name.Local, a.Name.Local, a.Value)
			}
		}
	}
	if shapes < 5 || words < 2 {
		return fmt.Errorf("%d shapes and %d words", shapes, words)
	}
	return nil
}

// A class is put into the calendar, one of it left out and taken back; an address is made, read by a library that
// others wrote without signing in, and revoked: then it is gone.
func TestCalendar(t *testing.T) {
	t.Parallel()
	url := start(t)
	c := open(t, url, 1280, 800)
	c.enter()
	c.ok(c.Press("Class"))
	c.ok(c.Press("Calendar"))
	c.ok(c.Press("Add a class"))
	c.ok(c.Fill("Name", "Dawn hour"))
	c.ok(c.Fill("Note, read by whoever has an address", "By the slipway; bring a lamp"))
	c.ok(c.Press("Add it"))
	c.ok(c.See("Dawn hour is in the calendar."))
	c.ok(c.Press("Skip the next Dawn hour"))
	c.ok(c.See("Dawn hour is not held on"))
	c.ok(c.Press("Change Dawn hour"))
	c.ok(c.See("Not held on"))
	c.ok(c.Press("Cancel"))
	c.ok(c.Fill("For whom or what", "The front desk"))
	c.ok(c.Press("Make an address"))
	c.ok(c.See("it is not told again"))
	address := c.text(`document.querySelector('[readonly]').value`)
	get := func() (int, []byte) {
		t.Helper()
		res, err := http.Get(address)
		c.ok(err)
		defer func() { _ = res.Body.Close() }()
		data, err := io.ReadAll(res.Body)
		c.ok(err)
		return res.StatusCode, data
	}
	status, data := get()
	var read struct {
		Events []struct {
			Name, Text string
			Held       []time.Time
		}
	}
	now := time.Now().UTC()
	others.Ask(t, "ical.mjs", data, &read, now.AddDate(0, 0, -1).Format(time.RFC3339),
		now.AddDate(0, 0, 30).Format(time.RFC3339))
	held := -1
	for _, e := range read.Events {
		if e.Name == "Dawn hour" && strings.Contains(e.Text, "bring a lamp") {
			held = len(e.Held)
		}
	}
	if status != 200 || held < 3 || held > 4 || bytes.Contains(data, []byte("Ines")) {
		t.Errorf("%d, held %d times: %.2000s", status, held, data)
	}
	c.ok(c.Press("Revoke The front desk"))
	c.ok(c.See("is revoked"))
	if status, data := get(); status != http.StatusGone {
		t.Errorf("after it was revoked: %d %s", status, data)
	}
	c.ok(c.Press("Today"))
	c.ok(c.See("Plan it"))
}

// Whatever is printed fits on A4 and on Letter, from a screen of any width: nothing runs over the edge of the paper.
// What measures itself does not while a page is printed, so it is kept from it here.
func TestOnBothPapers(t *testing.T) {
	t.Parallel()
	c := open(t, start(t), 1280, 800)
	c.ok(c.First(`{ const Real = ResizeObserver; window.ResizeObserver = class extends Real {
		constructor(tell) { super((...all) => { if (!window.still) tell(...all) }) } } }`))
	c.signedIn()
	at := func(path, first string) string { c.ok(c.Go(path)); return c.linkTo(first) }
	c.bench("Quay bag", "Tobias Amadi-Rein")
	c.ok(c.Press("Files of Quay bag"))
	c.ok(c.Press("Setting card, to print"))
	c.ok(c.See("Print this card"))
	pages := []string{c.text("location.hash.slice(1)"), at("/drills", "/run/") + "/card",
		at("/sessions", "/sessions/") + "/card", at("/class", "/class/") + "/card",
		at("/people", "/people/") + "/progress"}
	const margin = 2 * 14 / 25.4 * 96 // of app.css, px
	for _, page := range pages {
		for _, screen := range []int{390, 700, 1000, 1280, 1920} {
			c.ok(c.Resize(screen, 900))
			c.shows(page)
			c.ok(c.Until("document.querySelector('article h1')"))
			time.Sleep(300 * time.Millisecond) // pictures measure themselves
			for paper, size := range browser.Papers {
				_, err := browser.Eval[bool](c.Page, "window.still = true")
				c.ok(err)
				width := size.Width*96 - margin
				c.ok(c.OnPaper(int(width), 1000))
				over := c.text(fmt.Sprintf(`[...document.querySelectorAll('article *')].filter((e) =>
					e.getBoundingClientRect().right > %f + 1 && !e.closest('.sr-only')).map((e) =>
					e.outerHTML.slice(0, 80)).slice(0, 3).join(' ')`, width))
				if over != "" {
					t.Errorf("%s, from a screen of %d: over the edge of %s: %s", page, screen, paper, over)
				}
				c.ok(c.OnScreen(screen, 900))
				_, err = browser.Eval[bool](c.Page, "window.still = false, true")
				c.ok(err)
			}
		}
		if regexp.MustCompile("progress$").MatchString(page) {
			continue // a page or two
		}
		c.onePage(page)
	}
}
