package server

import (
	"context"
	"net"
	"net/http"
	"slices"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/danielgtaylor/huma/v2"

	"melodromos/store"
)

// Me is who is signed in.
type Me struct {
	Name  string `json:"name"`
	Email string `json:"email"`
	Gym   string `json:"gym"`
	Units string `json:"units" enum:"metric,imperial"`
	Kicks bool   `json:"kicks" doc:"kicks, knees and elbows are trained here"`
	Zone  string `json:"zone"`
	Demo  bool   `json:"demo"`
}

// SignInInfo tells who is signed in, or what the sign-in page may show: the demo account where the demo gym is loaded.
type SignInInfo struct {
	Me           *Me    `json:"me,omitempty"`
	DemoEmail    string `json:"demoEmail,omitempty"`
	DemoPassword string `json:"demoPassword,omitempty"`
}

type signInBody struct {
	Email    string `json:"email" maxLength:"254"`
	Password string `json:"password" maxLength:"200"`
}

// RemoteAddr is where a request came from.
type RemoteAddr struct{ ip string }

// Resolve takes the address that the request came from.
func (r *RemoteAddr) Resolve(ctx huma.Context) []error {
	host, _, err := net.SplitHostPort(ctx.RemoteAddr())
	if err != nil {
		host = ctx.RemoteAddr()
	}
	r.ip = host
	return nil
}

func (s *Server) registerSignIn() {
	huma.Get(s.api, "/api/sign-in", func(ctx context.Context, _ *struct{}) (*one[SignInInfo], error) {
		info := SignInInfo{DemoEmail: s.DemoEmail, DemoPassword: s.DemoPassword}
		if c, ok := s.caller(ctx); ok {
			me := meOf(c.Coach, c.row)
			info.Me = &me
		}
		return &one[SignInInfo]{info}, nil
	})
	huma.Post(s.api, "/api/sign-in", func(ctx context.Context, in *struct {
		RemoteAddr
		Body signInBody
	}) (*one[Me], error) {
		return s.signIn(ctx, in.ip, in.Body)
	})
	huma.Post(s.api, "/api/sign-out", func(ctx context.Context, _ *struct{}) (*struct{}, error) {
		return nil, refusedOrNil(ctx, s.sessions.Destroy(ctx))
	})
}

func refusedOrNil(ctx context.Context, err error) error {
	if err == nil {
		return nil
	}
	return refused(ctx, "", err)
}

// nobody's hash is compared against when an address is unknown, so that the time of an answer does not tell which
// addresses have an account.
var nobody = sync.OnceValue(func() string { h, _ := HashPassword("nobody has this password"); return h })

func (s *Server) signIn(ctx context.Context, ip string, in signInBody) (*one[Me], error) {
	email := store.NormalEmail(in.Email)
	done, wait := s.tries.begin(time.Now(), "from "+ip, "as "+email)
	if wait > 0 {
		return nil, huma.ErrorWithHeaders(
			huma.Error429TooManyRequests("Ten wrong tries within a minute. Wait a minute, then try again."),
			http.Header{"Retry-After": {seconds(wait)}})
	}
	coach, err := s.store.CoachByEmail(ctx, email)
	hash := coach.PasswordHash
	if err != nil {
		hash = nobody()
	}
	match, compareErr := argon2id.ComparePasswordAndHash(in.Password, hash)
	if err != nil || compareErr != nil || !match {
		return nil, huma.Error401Unauthorized("E-mail and password do not belong together.")
	}
	done()
	if err := s.sessions.RenewToken(ctx); err != nil {
		return nil, refused(ctx, "", err)
	}
	s.sessions.Put(ctx, coachKey, coach.ID)
	gym, err := s.store.Gym(ctx, coach.GymID).Row()
	if err != nil {
		return nil, refused(ctx, "", err)
	}
	return &one[Me]{meOf(coach, gym)}, nil
}

func meOf(c store.Coach, gym store.GymRow) Me {
	return Me{Name: c.Name, Email: c.Email, Gym: gym.Name, Units: gym.Units, Kicks: gym.Kicks, Zone: gym.Zone, Demo: gym.Demo}
}

// HashPassword makes the hash that is stored: argon2id with the library's parameters (64 MiB, one pass; RFC 9106 allows
// them).
func HashPassword(password string) (string, error) {
	return argon2id.CreateHash(password, argon2id.DefaultParams)
}

// tries counts wrong sign-ins. A try counts from when it begins, so that many at once do not slip through, and is struck
// off when it proves right.
type tries struct {
	mu    sync.Mutex
	since map[string][]time.Time
}

const (
	maxTries   = 10
	tryStretch = time.Minute
)

func newTries() *tries { return &tries{since: map[string][]time.Time{}} }

// begin enters a try under each key, or says how long to wait. Calling done takes it back.
func (t *tries) begin(now time.Time, keys ...string) (done func(), wait time.Duration) {
	t.mu.Lock()
	defer t.mu.Unlock()
	for key, list := range t.since { // forget what is over
		for len(list) > 0 && now.Sub(list[0]) >= tryStretch {
			list = list[1:]
		}
		if t.since[key] = list; len(list) == 0 {
			delete(t.since, key)
		}
	}
	for _, key := range keys {
		if list := t.since[key]; len(list) >= maxTries {
			wait = max(wait, tryStretch-now.Sub(list[0]))
		}
	}
	if wait > 0 {
		return nil, wait
	}
	for _, key := range keys {
		t.since[key] = append(t.since[key], now)
	}
	return func() {
		t.mu.Lock()
		defer t.mu.Unlock()
		for _, key := range keys {
			if i := slices.Index(t.since[key], now); i >= 0 {
				t.since[key] = slices.Delete(t.since[key], i, i+1)
			}
		}
	}, 0
}
