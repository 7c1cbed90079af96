package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"os"
	"os/signal"
	"runtime/debug"
	"slices"
	"syscall"
	"time"

	"github.com/caarlos0/env/v11"
	"github.com/spf13/cobra"

	"melodromos/demo"
	"melodromos/server"
	"melodromos/store"
	"melodromos/ui"
)

// settings come from the environment.
type settings struct {
	Database string     `env:"DATABASE_URL,required,notEmpty"` // postgres://…
	Host     string     `env:"HOST" envDefault:"127.0.0.1"`
	Port     string     `env:"PORT" envDefault:"8090"`
	Secure   bool       `env:"SECURE_COOKIES"`  // the site is reached through HTTPS
	Proxies  []string   `env:"TRUSTED_PROXIES"` // addresses or networks of reverse proxies, parted by commas
	LogLevel slog.Level `env:"LOG_LEVEL" envDefault:"info"`
}

func configured() (settings, error) {
	s, err := env.ParseAs[settings]()
	if err != nil {
		return s, fmt.Errorf("settings: %w", err)
	}
	slog.SetDefault(slog.New(slog.NewJSONHandler(os.Stderr, &slog.HandlerOptions{Level: s.LogLevel})))
	return s, nil
}

// opened connects to the database and brings its tables up to date.
func opened(ctx context.Context) (settings, *store.Store, error) {
	cfg, err := configured()
	if err != nil {
		return cfg, nil, err
	}
	s, err := store.Open(cfg.Database)
	if err != nil {
		return cfg, nil, err
	}
	return cfg, s, s.Migrate(ctx)
}

func serveCommand() *cobra.Command {
	var withDemo bool
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Serve the application; settings come from DATABASE_URL, HOST, PORT, SECURE_COOKIES, TRUSTED_PROXIES and LOG_LEVEL",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			return serve(ctx, withDemo)
		},
	}
	cmd.Flags().BoolVar(&withDemo, "demo", false,
		"make the demo gym where it is missing, and show its account on the sign-in page")
	return cmd
}

func serve(ctx context.Context, withDemo bool) error {
	cfg, s, err := opened(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = s.Close() }()
	if os.Getenv("GOGC") == "" && os.Getenv("GOMEMLIMIT") == "" {
		// The program lives on little memory: its collector need not work beside everybody else for each large answer,
		// but passwords that are hashed take a lot for a moment, and are not to pile up.
		debug.SetGCPercent(100)
		debug.SetMemoryLimit(192 << 20)
	}
	o := server.Options{Store: s, Interface: ui.Files(), Secure: cfg.Secure, Proxies: cfg.Proxies}
	if withDemo {
		if err := demo.Load(ctx, s, time.Now()); err != nil {
			return err
		}
		o.DemoEmail, o.DemoPassword = demo.Email, demo.Password
	}
	if locked, err := s.Locked(ctx); err == nil && !locked {
		slog.Warn(
			"the database's role is a superuser or passes by row-level security: the second lock between gyms does not hold; see docs/operating.md")
	}
	app, err := server.New(o)
	if err != nil {
		return err
	}
	l, err := net.Listen("tcp", net.JoinHostPort(cfg.Host, cfg.Port))
	if errors.Is(err, syscall.EADDRINUSE) {
		return fmt.Errorf("port %s is in use: stop what listens there, or set PORT to another", cfg.Port)
	} else if err != nil {
		return err
	}
	fmt.Printf("Melodromos is at http://%s\n", l.Addr())
	if gyms, err := s.Gyms(ctx); err == nil && !withDemo &&
		!slices.ContainsFunc(gyms, func(g store.GymRow) bool { return !g.Demo }) {
		fmt.Println("There is no gym yet: melodromos gym add --name \"Your gym\" makes one.")
	}
	if withDemo {
		fmt.Printf("Sign in to the demo gym as %s with the password: %s\n", demo.Email, demo.Password)
	}
	return app.Serve(ctx, l)
}
