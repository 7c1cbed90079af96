package main

import (
	"context"
	"encoding/base64"
	"errors"
	"fmt"
	"log/slog"
	"maps"
	"net"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"melodromos/browser"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/words"
	"melodromos/ledger"
	"melodromos/server"
	"melodromos/ui"
)

// sight is a page of the product that is printed or drawn: how many ids it takes, where it is, and what is seen on it
// once it is all there.
type sight struct {
	ids  int
	path string // with %s for each id
	sees string // an expression in the page
}

// What is printed, and what pictures are taken of.
var (
	cards = map[string]sight{
		"given":   {1, "/run/%s/card", `document.querySelector('article.sheet h1')`},
		"session": {1, "/sessions/%s/card", `document.querySelector('article.sheet h1')`},
		"class":   {1, "/class/%s/card", `document.querySelector('article.sheet h1')`},
		"setting": {2, "/cards/%s/%s", `document.querySelector('article.card h1')`},
		"person":  {1, "/people/%s/progress", `document.querySelector('article.page h1')`},
	}
	pictures = map[string]sight{
		"bag":    {1, "/bags/%s", drawn},
		"given":  {1, "/drills/%s", drawn},
		"dial":   {1, "/run/%s", drawn},
		"round":  {1, "/review/%s", drawn},
		"person": {1, "/people/%s/progress", drawn},
	}
)

const drawn = `window.melodromos?.pictures().length > 0`

// find is the sight of a name with its ids in place.
func find(in map[string]sight, args []string) (sight, error) {
	s, known := in[args[0]]
	if !known {
		return s, input.Refuse("", "expected one of %s, not %q", strings.Join(slices.Sorted(maps.Keys(in)), ", "),
			args[0])
	}
	if len(args)-1 != s.ids {
		return s, input.Refuse("", "expected %s after %s, not %d", words.Count(s.ids, "id"), args[0], len(args)-1)
	}
	ids := make([]any, s.ids)
	for i, id := range args[1:] {
		if strings.ContainsAny(id, "/?#% ") {
			return s, input.Refuse("id", "expected an id, not %q", id)
		}
		ids[i] = id
	}
	s.path = fmt.Sprintf(s.path, ids...)
	return s, nil
}

// pages are the exports that Chromium makes of the product's own pages, so that what is printed and drawn is what the
// pages show.
func pages() []*cobra.Command {
	paper, name, sort := "A4", "", "svg"
	card := exporting("card given|session|class|person ID, or setting BAG PERSON",
		"Print a card or a person's page into a PDF, with Chromium", cobra.MinimumNArgs(1),
		func(e outOf, args []string) error {
			if _, known := browser.Papers[paper]; !known {
				return input.Refuse("paper", "expected A4 or Letter, not %q", paper)
			}
			s, err := find(cards, args)
			if err != nil {
				return err
			}
			return e.onPage(s, func(p *browser.Page) error {
				pdf, err := p.Printed(paper)
				if err == nil {
					_, err = e.out.Write(pdf)
				}
				return err
			})
		})
	card.Flags().StringVar(&paper, "paper", paper, "A4 or Letter")
	picture := exporting("picture bag|given|dial|round|person ID",
		"Draw a line, a dial or a chart as a page shows it, with Chromium", cobra.MinimumNArgs(1),
		func(e outOf, args []string) error {
			if sort != "svg" && sort != "png" {
				return input.Refuse("as", "expected svg or png, not %q", sort)
			}
			s, err := find(pictures, args)
			if err != nil {
				return err
			}
			if args[0] == "given" {
				if s.path, err = e.editor(args[1]); err != nil {
					return err
				}
			}
			return e.onPage(s, func(p *browser.Page) error { return e.picture(p, name, sort) })
		})
	picture.Flags().StringVar(&sort, "as", sort, "svg or png")
	picture.Flags().StringVar(&name, "name", "", "which of the page's pictures; left out, the first")
	return []*cobra.Command{card, picture}
}

// editor returns the page on which an assigned drill is changed: a combination in the composer, a technique in the
// editor.
func (e outOf) editor(id string) (string, error) {
	a, err := e.gym.Assignment(id)
	if err != nil {
		return "", unknown("drill that somebody has", id, err)
	}
	p, err := ledger.Plan(a.Drill)
	if _, combined := p.(drill.CombinationDrill); combined {
		return "/compose/" + id, err
	}
	return "/drills/" + id, err
}

func (e outOf) picture(p *browser.Page, name, sort string) error {
	names, err := browser.Eval[[]string](p, "window.melodromos.pictures()")
	if err != nil {
		return err
	}
	if name == "" && len(names) > 0 {
		name = names[0]
	}
	if !slices.Contains(names, name) {
		return input.Refuse("name", "expected one of %s, not %q", strings.Join(names, ", "), name)
	}
	text, err := browser.Eval[string](p, fmt.Sprintf("window.melodromos.picture(%q, %q)", name, sort))
	if err != nil {
		return err
	}
	data, err := base64.StdEncoding.DecodeString(text)
	if err == nil {
		_, err = e.out.Write(data)
	}
	return err
}

// onPage opens a page of the gym in Chromium, from a server of its own on loopback where its first coach is signed in
// for as long as it takes.
func (e outOf) onPage(s sight, do func(*browser.Page) error) (err error) {
	ctx, cancel := context.WithCancel(e.cmd.Context())
	defer cancel()
	coaches, err := e.gym.Coaches()
	if err != nil {
		return err
	}
	if len(coaches) == 0 {
		return errors.New("the gym has no coach yet, and pages are shown to coaches alone: melodromos coach add adds one")
	}
	slog.SetDefault(slog.New(slog.NewTextHandler(e.cmd.ErrOrStderr(), &slog.HandlerOptions{Level: slog.LevelError})))
	o := server.Options{Store: e.s, Interface: ui.Files()}
	if e.row.Demo {
		o.DemoEmail = coaches[0].Email // the demo gym is open
	}
	app, err := server.New(o)
	if err != nil {
		return err
	}
	cookie, token, err := app.SignedIn(ctx, coaches[0])
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, app.SignOff(context.WithoutCancel(ctx), token)) }()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return err
	}
	served := make(chan error, 1)
	go func() { served <- app.Serve(ctx, l) }()
	defer func() { cancel(); err = errors.Join(err, <-served) }()
	p, stop, err := browser.Open(ctx, "http://"+l.Addr().String(), 1280, 800)
	if err != nil {
		return fmt.Errorf("%w; cards and pictures are made with Chromium: install the package chromium, or take them from the page itself", err)
	}
	defer stop()
	if err := p.Cookie(cookie, token); err != nil {
		return err
	}
	if err := p.Go(s.path); err != nil {
		return err
	}
	if err := p.Until(s.sees + ` || document.querySelector('main [role="status"] button')`); err != nil {
		return err
	}
	said, err := browser.Eval[string](p,
		`document.querySelector('main [role="status"] button')?.closest('[role="status"]').innerText ?? ''`)
	if err == nil && said != "" {
		return fmt.Errorf("the page says: %s", strings.Join(strings.Split(said, "\n")[:1], ""))
	}
	if err != nil {
		return err
	}
	return do(p)
}
