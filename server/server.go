// Package server serves the interface and its data over HTTP. Handlers translate; the core decides and the store keeps.
package server

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"

	"melodromos/core/roster"
	"melodromos/ledger"
	"melodromos/server/door"
	"melodromos/server/schema"
	"melodromos/server/watch"
	"melodromos/store"
)

// Options of a Server.
type Options struct {
	Store     *store.Store
	Interface fs.FS // the built interface; its index.html is the page
	Secure    bool  // the site is reached through HTTPS: cookies are marked so
	// DemoEmail and DemoPassword are shown on the sign-in page when set.
	DemoEmail, DemoPassword string
	// Proxies are the addresses or networks of reverse proxies whose word is taken for where a request came from.
	Proxies []string
	// Quiet is after how long without a word from its browser an open run counts as stopped; 0 takes 45 s.
	Quiet time.Duration
}

// Server is the application. It must be told its own address by Serve or At before a stand-in can be used.
type Server struct {
	Options
	store    *store.Store
	sessions *scs.SessionManager
	tries    *door.Tries
	live     *watch.Hub
	handler  http.Handler
	api      huma.API
	self     string          // base URL on loopback, for devices simulated here
	running  context.Context // ends when the server shuts down
	levels   roster.Levels
	gate     *door.Gate
	rows     map[string]*budget // by method and route
	bringing *door.Places       // one file of a gym at a time
	idle     time.Duration      // that a sign-in lasts which is not used
	patience time.Duration      // with the database, from the start of a request
	pulse    time.Duration      // between looks at whether the watcher of a live feed is still signed in
}

// New puts the routes together. Proxies that are no addresses are refused.
func New(o Options) (*Server, error) {
	if o.Quiet == 0 {
		o.Quiet = 45 * time.Second
	}
	s := &Server{Options: o, store: o.Store, tries: door.NewTries(), live: watch.New(), running: context.Background(),
		gate: door.NewGate(), rows: rows(), bringing: door.NewPlaces(1, 2), idle: 30 * 24 * time.Hour,
		patience: usual, pulse: 5 * time.Second}
	s.sessions = scs.New()
	if o.Store != nil {
		s.sessions.Store = patient{o.Store.Sessions(), s}
	}
	s.sessions.Lifetime = s.idle // from its last use: caller carries it on
	s.sessions.HashTokenInStore = true
	s.sessions.Cookie.Name = "melodromos"
	s.sessions.Cookie.HttpOnly = true
	s.sessions.Cookie.SameSite = http.SameSiteLaxMode
	s.sessions.Cookie.Secure = o.Secure
	s.sessions.ErrorFunc = notKept

	gin.SetMode(gin.ReleaseMode)
	engine := gin.New()
	engine.Use(gin.CustomRecoveryWithWriter(io.Discard, recovered),
		gzip.Gzip(gzip.DefaultCompression,
			gzip.WithExcludedPathsRegexs([]string{"^/api/runs/.*/live$", "^/api/calc/", "^/api/.*/wav$"})), s.within)
	if err := engine.SetTrustedProxies(o.Proxies); err != nil {
		return nil, fmt.Errorf("trusted proxies: expected addresses or networks such as 127.0.0.1 or 10.0.0.0/8: %w",
			err)
	}
	s.api = humagin.New(engine, apiConfig())
	s.routes(engine)
	s.handler = s.guarded(engine)
	return s, nil
}

func apiConfig() huma.Config {
	c := huma.DefaultConfig("Melodromos", "1")
	c.OpenAPIPath = "/api/openapi"
	c.DocsPath, c.SchemasPath = "", ""
	huma.DefaultArrayNullable = false // a list is never null
	huma.NewError = plainly
	schema.Describe(c.Components.Schemas)
	c.CreateHooks = nil // no $schema links in answers
	format := huma.Format{Marshal: writeText, Unmarshal: readText}
	c.Formats = map[string]huma.Format{"application/json": format, "json": format}
	return c
}

// Handler is the whole application as one handler.
func (s *Server) Handler() http.Handler { return s.handler }

// OpenAPI is the description of the interface as JSON.
func (s *Server) OpenAPI() ([]byte, error) { return s.api.OpenAPI().MarshalJSON() }

// At tells the server its own base URL.
func (s *Server) At(url string) { s.self = url }

// Serve answers on a listener until the context ends, then finishes what is under way, for ten seconds at most.
func (s *Server) Serve(ctx context.Context, l net.Listener) error {
	s.At("http://" + l.Addr().String())
	s.running = ctx
	srv := &http.Server{
		Handler:           s.handler,
		ReadHeaderTimeout: 5 * time.Second,
		ReadTimeout:       20 * time.Second,
		WriteTimeout:      30 * time.Second,
		IdleTimeout:       2 * time.Minute,
		MaxHeaderBytes:    32 << 10,
	}
	go s.sweep(ctx)
	failed := make(chan error, 1)
	go func() { failed <- srv.Serve(l) }()
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	slog.Info("shutting down")
	s.live.Close()
	last, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	if err := srv.Shutdown(last); err != nil && !errors.Is(err, context.DeadlineExceeded) {
		return err
	}
	return nil
}

// routes registers every route. What takes part in the OpenAPI document is typed; the rest are the page and the live
// feed.
func (s *Server) routes(engine *gin.Engine) {
	s.registerHealth()
	s.registerCalc()
	s.registerSignIn()
	s.registerJoining()
	s.registerIntake()

	authed := huma.NewGroup(s.api)
	authed.UseMiddleware(s.signedIn)
	for _, register := range []func(huma.API){
		s.registerAccount, s.registerInvitations, s.registerTrainees, s.registerPeople, s.registerRigs, s.registerBench,
		s.registerCalibrations, s.registerGym, s.registerDrills, s.registerAssignments, s.registerCompose,
		s.registerToday, s.registerSessions, s.registerClasses, s.registerRuns, s.registerHits, s.registerReview,
		s.registerJudging, s.registerProgress, s.registerTakeOut, s.registerBringIn, s.registerTimetable,
		s.registerUnreadable,
	} {
		register(authed)
	}
	engine.GET("/api/runs/:id/live", s.serveLive)
	engine.Match([]string{http.MethodGet, http.MethodHead}, calendarPath+":secret", s.serveCalendar)
	s.registerPage(engine)
}

// guarded wraps the routes in what every request passes.
func (s *Server) guarded(engine http.Handler) http.Handler {
	knowing := s.sessions.LoadAndSave(engine)
	byPath := http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if withSession(r.URL.Path) {
			knowing.ServeHTTP(w, r)
			return
		}
		engine.ServeHTTP(w, r)
	})
	origin := http.NewCrossOriginProtection()
	origin.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		problem(w, http.StatusForbidden, "This request comes from another site and was refused. Nothing was changed.")
	}))
	return logged(headers(origin.Handler(byPath)))
}

// untilQuiet is the time without new hits after which a round that is over is re-judged.
const untilQuiet = 3 * time.Second

// sweep mends and notes what cannot be read, judges what a crash left ended and not judged, closes runs whose browser
// has gone, and forgets sessions that have run out. What fails of that is logged, and the rest goes on.
func (s *Server) sweep(ctx context.Context) {
	try := func(what string, do func(context.Context) error) {
		if err := safely(func() error { return do(ctx) }); err != nil && ctx.Err() == nil {
			slog.Error(what, "error", err)
		}
	}
	try("look for what cannot be read", func(ctx context.Context) error { return ledger.Inspect(ctx, s.store) })
	try("judge rounds that were left open", func(ctx context.Context) error {
		n, err := ledger.FinishLeftOpen(ctx, s.store)
		if n > 0 {
			slog.Info("judged rounds that were left open", "rounds", n)
		}
		return err
	})
	tick := time.NewTicker(10 * time.Second)
	defer tick.Stop()
	for n := 0; ; n++ {
		try("stop abandoned runs", s.stopAbandoned)
		try("pause quiet classes", s.pauseQuiet)
		try("judge what came late",
			func(ctx context.Context) error { return ledger.JudgeLate(ctx, s.store, untilQuiet) })
		if n%360 == 0 {
			try("sweep sessions", s.store.Sessions().Sweep)
		}
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
	}
}
