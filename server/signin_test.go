package server

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"strings"
	"sync"
	"testing"
	"time"

	"melodromos/server/door"
	"melodromos/store"
)

// behind puts a site behind a reverse proxy on this machine.
func behind(o *Options) { o.Proxies = []string{"127.0.0.1"} }

// stranger is a browser that has never been here.
func (s site) stranger(t testing.TB) user {
	jar, _ := cookiejar.New(nil)
	return user{t: t, url: s.url, client: &http.Client{Jar: jar}}
}

// signs sends a sign-in from a source, and returns the status.
func (u user) signs(email, password, source string) int {
	u.t.Helper()
	status, _, _ := u.do("POST", "/api/sign-in", signInBody{email, password}, "X-Forwarded-For", source)
	return status
}

// stopClock lets no time pass between tries, however slow the machine is.
func (s site) stopClock() {
	now := time.Now()
	s.tries.Now = func() time.Time { return now }
}

// Wrong tries make whoever made them wait, and nobody else: not the coach from elsewhere, not the coach in a browser
// that is known.
func TestWrongTriesHoldUpWhoMadeThem(t *testing.T) {
	s := newSite(t, behind)
	u := s.coach(t, "Alder")
	s.stopClock()
	attacker := s.stranger(t)
	var mu sync.Mutex
	var all sync.WaitGroup
	count := map[int]int{}
	for range 14 { // many at once do not slip through
		all.Go(func() {
			status := attacker.signs(u.email, "wrong", "203.0.113.7")
			mu.Lock()
			defer mu.Unlock()
			count[status]++
		})
	}
	all.Wait()
	if count[401] != door.ForAddress.Free || count[429] != 14-door.ForAddress.Free {
		t.Errorf("%v, want %d refused and the others held up", count, door.ForAddress.Free)
	}
	if status, header, _ := attacker.do("POST", "/api/sign-in", signInBody{u.email, password}, "X-Forwarded-For",
		"203.0.113.7"); status != 429 || header.Get("Retry-After") == "" {
		t.Errorf("whoever made them: %d %v", status, header)
	}
	if status := s.stranger(t).signs(u.email, password, "198.51.100.9"); status != 200 {
		t.Errorf("the coach from elsewhere: %d", status)
	}
	u.want(204, "POST", "/api/sign-out", nil, nil)
	u.want(401, "GET", "/api/today", nil, nil)
	if status := u.signs(u.email, password, "203.0.113.7"); status != 200 {
		t.Errorf("the coach beside whoever made them, in a browser that is known: %d", status)
	}
}

// The word of a proxy is taken only where it is trusted: else anybody could give themselves a new source for every try.
func TestProxiesAreTrustedByName(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Birch")
	s.stopClock()
	for i := range door.ForAddress.Free + 1 {
		want := 401
		if i == door.ForAddress.Free {
			want = 429
		}
		if got := s.stranger(t).signs(u.email, "wrong", fmt.Sprintf("203.0.113.%d", i)); got != want {
			t.Errorf("try %d: %d, want %d", i, got, want)
		}
	}
	if _, err := New(Options{Proxies: []string{"the office"}}); err == nil {
		t.Error("a proxy that is no address was taken")
	}
}

// The browsers of one coach, and what ends their sign-ins.
func TestSignInsEnd(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Dogwood")
	other := s.stranger(t)
	other.want(200, "POST", "/api/sign-in", signInBody{u.email, password}, nil)
	u.want(422, "POST", "/api/account/password", PasswordChange{"not mine", "another password"}, nil)
	if out := u.want(422, "POST", "/api/account/password", PasswordChange{password, "short"},
		nil); !strings.Contains(out, `"body.new"`) || !strings.Contains(out, "10 to 200 characters, not 5") {
		t.Errorf("%s", out)
	}
	u.want(422, "POST", "/api/account/password", PasswordChange{password, strings.Repeat("x", 201)}, nil)
	other.want(200, "GET", "/api/today", nil, nil)
	u.want(204, "POST", "/api/account/password", PasswordChange{password, "another password"}, nil)
	u.want(200, "GET", "/api/today", nil, nil)
	other.want(401, "GET", "/api/today", nil, nil)
	other.want(401, "POST", "/api/sign-in", signInBody{u.email, password}, nil)
	other.want(200, "POST", "/api/sign-in", signInBody{u.email, "another password"}, nil)
	other.want(204, "POST", "/api/account/sign-out-everywhere", nil, nil)
	for _, browser := range []user{u, other} {
		browser.want(401, "GET", "/api/today", nil, nil)
	}
	u.want(200, "POST", "/api/sign-in", signInBody{u.email, "another password"}, nil)

	second := store.Coach{GymID: u.gym.ID, Email: "second@example.org", Name: "Second", PasswordHash: passwordHash()}
	if err := s.store.AddCoach(ctx, &second); err != nil {
		t.Fatal(err)
	}
	other.want(200, "POST", "/api/sign-in", signInBody{second.Email, password}, nil)
	_, _, d := other.furnished(10)
	var run Run
	other.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &run)
	var coaches []CoachOut
	u.want(200, "GET", "/api/coaches", nil, &coaches)
	if len(coaches) != 2 || !coaches[0].You || coaches[1].ID != second.ID {
		t.Fatalf("%+v", coaches)
	}
	u.want(422, "POST", "/api/coaches/"+second.ID+"/remove", Confirmation{"not mine"}, nil)
	u.want(204, "POST", "/api/coaches/"+second.ID+"/remove", Confirmation{"another password"}, nil)
	other.want(401, "GET", "/api/today", nil, nil)
	u.want(200, "GET", "/api/runs/"+run.ID, nil, nil)
	u.want(409, "POST", "/api/coaches/"+coaches[0].ID+"/remove", Confirmation{"another password"}, nil)
}

// A sign-in ends when it has not been used for as long as it lasts, and goes on while it is used.
func TestSignInsEndIdle(t *testing.T) {
	s := newSite(t)
	if s.idle != 30*24*time.Hour {
		t.Errorf("a sign-in lasts %s", s.idle)
	}
	s.idle = 1500 * time.Millisecond
	u := s.coach(t, "Elm")
	for range 2 {
		time.Sleep(900 * time.Millisecond)
		u.want(200, "GET", "/api/today", nil, nil)
	}
	time.Sleep(1600 * time.Millisecond)
	u.want(401, "GET", "/api/today", nil, nil)
}

// Without the demo its account opens nothing, whether it was signed in before or not, and its data stay.
func TestDemoIsClosed(t *testing.T) {
	with := newSite(t, func(o *Options) { o.DemoEmail, o.DemoPassword = "demo@example.org", password })
	row := store.GymRow{Name: "Demo", Units: "metric", Zone: "UTC", Demo: true}
	coach := store.Coach{Email: "demo@example.org", Name: "D", PasswordHash: passwordHash()}
	if err := with.store.AddGym(ctx, &row); err != nil {
		t.Fatal(err)
	}
	coach.GymID = row.ID
	if err := with.store.AddCoach(ctx, &coach); err != nil {
		t.Fatal(err)
	}
	u := with.stranger(t)
	u.want(200, "POST", "/api/sign-in", signInBody{coach.Email, password}, nil)
	u.want(200, "GET", "/api/today", nil, nil)
	u.want(403, "POST", "/api/account/password", PasswordChange{password, "another password"}, nil)

	with.DemoEmail, with.DemoPassword = "", "" // the next start
	u.want(401, "GET", "/api/today", nil, nil)
	with.stranger(t).want(401, "POST", "/api/sign-in", signInBody{coach.Email, password}, nil)
	if _, err := with.store.DemoGym(ctx); err != nil {
		t.Errorf("its data: %v", err)
	}
}

// Failed sign-ins are logged with where they came from, and without what was typed.
func TestFailedSignInsAreLogged(t *testing.T) {
	var text safeBuffer
	before := slog.Default()
	slog.SetDefault(slog.New(slog.NewJSONHandler(&text, nil)))
	defer slog.SetDefault(before)
	s := newSite(t, behind)
	u := s.coach(t, "Hazel")
	s.stranger(t).signs(u.email, "my secret guess", "203.0.113.7")
	if got := text.String(); !strings.Contains(got, `"msg":"sign-in refused","source":"203.0.113.7"`) ||
		strings.Contains(got, "guess") || strings.Contains(got, u.email) {
		t.Errorf("%s", got)
	}
}

type safeBuffer struct {
	mu   sync.Mutex
	text strings.Builder
}

func (b *safeBuffer) Write(p []byte) (int, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.text.Write(p)
}

func (b *safeBuffer) String() string {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.text.String()
}

func TestSignIn(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Alder")
	var info SignInInfo
	u.want(200, "GET", "/api/sign-in", nil, &info)
	if info.Me == nil || info.Me.Gym != "Alder" {
		t.Errorf("%+v", info)
	}
	_, header, _ := u.do("POST", "/api/sign-in", signInBody{u.email, password})
	cookie := header.Get("Set-Cookie")
	if !strings.Contains(cookie, "HttpOnly") || !strings.Contains(cookie, "SameSite=Lax") {
		t.Errorf("cookie %q", cookie)
	}
	u.want(204, "POST", "/api/sign-out", nil, nil)
	u.want(401, "GET", "/api/today", nil, nil)
	u.want(401, "POST", "/api/sign-in", signInBody{"nobody@example.org", password}, nil)
}

func TestCrossOrigin(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Cedar")
	status, header, out := u.do("POST", "/api/trainees",
		Trainee{Name: "X", Stance: "orthodox", Band: "beginner", AgeBand: "adult"}, "Origin",
		"https://elsewhere.example", "Sec-Fetch-Site", "cross-site")
	if status != 403 || header.Get("Content-Type") != "application/problem+json" {
		t.Errorf("%d %s", status, out)
	}
	var list []Trainee
	u.want(200, "GET", "/api/trainees", nil, &list)
	if len(list) != 0 {
		t.Error("a write from another site went through")
	}
}

// forgetful keeps no session.
type forgetful struct{ *store.Sessions }

func (forgetful) CommitCtx(context.Context, string, []byte, time.Time) error {
	return store.ErrUnavailable
}

// A session that cannot be kept is found so when the answer is about to be sent: the answer is then one problem, which
// can be read, and nothing of what was to be sent.
func TestSessionNotKept(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Fir")
	s.sessions.Store = forgetful{s.store.Sessions()}
	u.client.Jar = nil
	status, header, out := u.do("POST", "/api/sign-in", signInBody{u.email, password})
	var said struct{ Detail string }
	if err := json.Unmarshal(out, &said); status != 503 || err != nil || said.Detail != noDatabase ||
		header.Get("Set-Cookie") != "" {
		t.Errorf("%d %v %q %v", status, header, out, err)
	}
}
