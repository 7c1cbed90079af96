package server

import (
	"math"
	"net"
	"net/http/httptest"
	"net/url"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/gin-gonic/gin"
)

// Every route stands in one row of the budgets, the rows name no other, and docs/operating.md has them as they are.
func TestEveryRouteHasABudget(t *testing.T) {
	s := newSite(t)
	there := map[string]bool{}
	for _, o := range operations(s.api.OpenAPI()) {
		there[o.method+" "+o.path] = true
	}
	for _, beside := range []string{"GET /api/runs/{id}/live", "GET /calendar/{secret}", "HEAD /calendar/{secret}"} {
		there[beside] = true // what the description does not have
	}
	named := map[string]string{}
	text, err := os.ReadFile("../docs/operating.md")
	if err != nil {
		t.Fatal(err)
	}
	for _, b := range budgets() {
		words := strings.Fields(b.routes)
		for i := 0; i < len(words); i += 2 {
			route := words[i] + " " + words[i+1]
			if named[route] != "" {
				t.Errorf("%s stands in %s and in %s", route, named[route], b.name)
			}
			if named[route] = b.name; !there[route] {
				t.Errorf("%s: there is no %s", b.name, route)
			}
		}
		if !strings.Contains(string(text), b.line()+"\n") {
			t.Errorf("docs/operating.md lacks %s", b.line())
		}
	}
	for route := range there {
		if named[route] == "" {
			t.Errorf("%s has no budget", route)
		}
	}
}

// What is longer than its row may be is refused before it is read, and while it comes in where nobody says how long it
// is.
func TestBodiesAreBounded(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Alder")
	for path, most := range map[string]string{"/api/sign-in": "16 kB", "/api/trainees": "1 MB",
		"/api/calc/returns": "4 MB", "/api/intake/" + strings.Repeat("k", 26): "256 kB"} {
		long := `{"email":"` + strings.Repeat("x", 5<<20) + `"}`
		if status, _, out := u.do("POST", path, long); status != 413 || !strings.Contains(string(out), most) {
			t.Errorf("%s: %d %.200s, want 413 and %s", path, status, out, most)
		}
		if status, _, out := u.do("POST", path, unsized{strings.NewReader(long)}); status != 413 ||
			!strings.Contains(string(out), "Expected at most") {
			t.Errorf("%s, of no length: %d %.200s, want 413", path, status, out)
		}
	}
}

// unsized is a text of which nobody knows how long it is.
type unsized struct{ r *strings.Reader }

func (u unsized) Read(p []byte) (int, error) { return u.r.Read(p) }

// Whoever takes all of their places waits for one, and is told so in the end; others go on.
func TestTooMuchAtOnce(t *testing.T) {
	s := newSite(t)
	u, other := s.coach(t, "Alder"), s.coach(t, "Birch")
	me := must(s.store.CoachByEmail(ctx, u.email))
	var leave []func()
	b := s.rows["GET /api/trainees"]
	for range b.each {
		free, err := b.places.Enter(ctx, me.ID)
		if err != nil {
			t.Fatal(err)
		}
		leave = append(leave, free)
	}
	other.want(200, "GET", "/api/trainees", nil, nil)
	answered := make(chan int)
	go func() {
		status, _, _ := u.do("GET", "/api/trainees", nil)
		answered <- status
	}()
	select {
	case status := <-answered:
		t.Errorf("more than all its places: %d at once", status)
	case <-time.After(300 * time.Millisecond):
	}
	leave[0]()
	if status := <-answered; status != 200 {
		t.Errorf("in its turn: %d", status)
	}
}

// An answer that cannot be written is a problem, whole, and not the half of an answer under a status that says all is
// well.
func TestAnswersAreWhole(t *testing.T) {
	for what, v := range map[string]any{"not a number": map[string]float64{"swing": math.NaN()},
		"too long": strings.Repeat("x", mostAnswer)} {
		w := httptest.NewRecorder()
		c, _ := gin.CreateTestContext(w)
		c.Status(200)
		if err := writeText(c.Writer, v); err != nil {
			t.Fatal(err)
		}
		if w.Code != 500 || !strings.Contains(w.Body.String(), wentWrong) || strings.Contains(w.Body.String(), "xxx") {
			t.Errorf("%s: %d %.200s", what, w.Code, w.Body)
		}
	}
}

// A file that comes in more slowly than anybody's line is given up.
func TestLongSlowFile(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Alder")
	at, err := net.Dial("tcp", strings.TrimPrefix(s.url, "http://"))
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = at.Close() }()
	cookie := u.client.Jar.Cookies(must(url.Parse(s.url)))[0]
	_, err = at.Write([]byte("POST /api/import HTTP/1.1\r\nHost: x\r\nCookie: " + cookie.String() +
		"\r\nContent-Type: application/octet-stream\r\nContent-Length: 1000000\r\n\r\n{"))
	if err != nil {
		t.Fatal(err)
	}
	gone := make(chan struct{})
	go func() {
		defer close(gone)
		for {
			if _, err := at.Write([]byte(" ")); err != nil {
				return
			}
			time.Sleep(200 * time.Millisecond)
		}
	}()
	answer := make([]byte, 200)
	_ = at.SetReadDeadline(time.Now().Add(30 * time.Second))
	n, err := at.Read(answer)
	if !strings.Contains(string(answer[:n]), " 408 ") {
		t.Errorf("%q %v", answer[:n], err)
	}
	_ = at.Close()
	<-gone
}
