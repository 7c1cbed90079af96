package server

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"

	"melodromos/account"
	"melodromos/core/words"
	"melodromos/server/door"
	"melodromos/store"
)

// Me is who is signed in.
type Me struct {
	ID    string      `json:"id"`
	Name  string      `json:"name"`
	Email string      `json:"email"`
	Gym   string      `json:"gym"`
	Units words.Units `json:"units"`
	Kicks bool        `json:"kicks" doc:"kicks, knees and elbows are trained here"`
	Zone  string      `json:"zone"`
	Demo  bool        `json:"demo"`
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

// Source holds the address that a request came from.
type Source struct{ ip string }

// Resolve takes the address that the request came from, or that a trusted proxy says it did.
func (s *Source) Resolve(ctx huma.Context) []error {
	s.ip = sourceOf(ctx)
	return nil
}

func sourceOf(ctx huma.Context) string { return humagin.Unwrap(ctx).ClientIP() }

// What a session holds: the coach who is signed in and since which epoch, and the coach who signed in with this browser
// last.
const (
	coachKey  = "coach"
	epochKey  = "epoch"
	deviceKey = "device"
)

func (s *Server) registerSignIn() {
	huma.Get(s.api, "/api/sign-in", func(ctx context.Context, _ *struct{}) (*body[SignInInfo], error) {
		info := SignInInfo{DemoEmail: s.DemoEmail, DemoPassword: s.DemoPassword}
		switch c, err := s.caller(ctx); {
		case err == nil:
			me := meOf(c.Coach, c.Row)
			info.Me = &me
		case !errors.Is(err, errNobody):
			return nil, refused(ctx, "", err)
		}
		return &body[SignInInfo]{info}, nil
	})
	huma.Post(s.api, "/api/sign-in", func(ctx context.Context, in *struct {
		Source
		Body signInBody
	}) (*body[Me], error) {
		return s.signIn(ctx, in.ip, in.Body)
	})
	huma.Post(s.api, "/api/sign-out", func(ctx context.Context, _ *struct{}) (*struct{}, error) {
		return nil, refusedOrNil(ctx, s.signOut(ctx))
	})
}

// signOut ends a sign-in. The browser stays known, so that wrong tries of others do not hold up the next one.
func (s *Server) signOut(ctx context.Context) error {
	s.sessions.Remove(ctx, coachKey)
	s.sessions.Remove(ctx, epochKey)
	return s.sessions.RenewToken(ctx)
}

func refusedOrNil(ctx context.Context, err error) error {
	if err == nil {
		return nil
	}
	return refused(ctx, "", err)
}

// tryPassword checks a password of a coach, in turn and with a wait after wrong tries from the same source, or from the
// same browser where it is known. It returns whether it is right.
func (s *Server) tryPassword(ctx context.Context, ip, email, password string, coach store.Coach) (bool, error) {
	source := door.Network(ip)
	own := "as " + email + " from " + source
	keys := map[string]door.Allowance{own: door.ForAddress, "from " + source: door.FromSource}
	browser := account.Stranger
	if coach.ID != "" && s.sessions.GetString(ctx, deviceKey) == coach.ID {
		browser = account.Known
		own = "as " + email + " by " + s.sessions.Token(ctx)
		keys = map[string]door.Allowance{own: door.ForAddress}
	}
	right, wait := s.tries.Begin(keys)
	if wait > 0 {
		slog.Warn("sign-in has to wait", "source", ip, "seconds", seconds(wait))
		return false, waits(wait)
	}
	match, err := account.Matches(ctx, password, coach.PasswordHash, browser)
	switch {
	case err != nil:
		right() // it was no try
		return false, err
	case !match:
		slog.Warn("sign-in refused", "source", ip)
		return false, nil
	}
	right(own)
	return true, nil
}

// waits is the answer to whoever has tried wrongly too often.
func waits(wait time.Duration) error {
	return huma.ErrorWithHeaders(
		huma.Error429TooManyRequests(fmt.Sprintf("Too many wrong tries. Wait %s s, then try again.", seconds(wait))),
		http.Header{"Retry-After": {seconds(wait)}})
}

var errWrong = huma.Error401Unauthorized("E-mail and password do not belong together.")

func (s *Server) signIn(ctx context.Context, ip string, in signInBody) (*body[Me], error) {
	email := store.NormalEmail(in.Email)
	coach, err := s.store.CoachByEmail(ctx, email)
	if err != nil && !errors.Is(err, store.ErrNotFound) && !errors.Is(err, store.ErrUnfit) {
		return nil, refused(ctx, "", err)
	}
	var gym store.GymRow
	if coach.ID != "" {
		if gym, err = s.store.Gym(ctx, coach.GymID).Row(); err != nil {
			return nil, refused(ctx, "", err)
		}
		if s.closed(gym) {
			coach = store.Coach{}
		}
	}
	match, err := s.tryPassword(ctx, ip, email, in.Password, coach)
	if err != nil {
		return nil, refused(ctx, "", err)
	}
	if !match {
		return nil, errWrong
	}
	if err := s.begin(ctx, coach.ID, coach.Epoch); err != nil {
		return nil, refused(ctx, "", err)
	}
	return &body[Me]{meOf(coach, gym)}, nil
}

// begin signs a coach in with the session of a request.
func (s *Server) begin(ctx context.Context, coachID string, epoch int) error {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return err
	}
	s.sessions.Put(ctx, coachKey, coachID)
	s.sessions.Put(ctx, epochKey, epoch)
	s.sessions.Put(ctx, deviceKey, coachID)
	s.sessions.SetDeadline(ctx, time.Now().Add(s.idle))
	return nil
}

// SignedIn signs a coach in without a password, for who runs the server, and returns what the cookie of that sign-in is
// called and holds. SignOff ends it.
func (s *Server) SignedIn(ctx context.Context, c store.Coach) (name, token string, err error) {
	if ctx, err = s.sessions.Load(ctx, ""); err != nil {
		return "", "", err
	}
	if err := s.begin(ctx, c.ID, c.Epoch); err != nil {
		return "", "", err
	}
	token, _, err = s.sessions.Commit(ctx)
	return s.sessions.Cookie.Name, token, err
}

// SignOff ends a sign-in by its token.
func (s *Server) SignOff(ctx context.Context, token string) error {
	ctx, err := s.sessions.Load(ctx, token)
	if err != nil {
		return err
	}
	return s.sessions.Destroy(ctx)
}

// closed says whether nobody gets into a gym: the demo's, where the demo is not started with.
func (s *Server) closed(gym store.GymRow) bool { return gym.Demo && s.DemoEmail == "" }

func meOf(c store.Coach, gym store.GymRow) Me {
	return Me{ID: c.ID, Name: c.Name, Email: c.Email, Gym: gym.Name, Units: words.Units(gym.Units), Kicks: gym.Kicks,
		Zone: gym.Zone, Demo: gym.Demo}
}

// patient are the sessions, asked for no longer than anything else of the database.
type patient struct {
	*store.Sessions
	of *Server
}

func (p patient) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	ctx, cancel := context.WithTimeout(ctx, p.of.patience)
	defer cancel()
	return p.Sessions.FindCtx(ctx, token)
}

func (p patient) CommitCtx(ctx context.Context, token string, data []byte, expiry time.Time) error {
	ctx, cancel := context.WithTimeout(ctx, p.of.patience)
	defer cancel()
	return p.Sessions.CommitCtx(ctx, token, data, expiry)
}

func (p patient) DeleteCtx(ctx context.Context, token string) error {
	ctx, cancel := context.WithTimeout(ctx, p.of.patience)
	defer cancel()
	return p.Sessions.DeleteCtx(ctx, token)
}
