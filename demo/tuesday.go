package demo

import (
	"encoding/json"
	"fmt"
	"time"

	"melodromos/core/class"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/core/session"
	"melodromos/ledger"
	"melodromos/store"
)

// thirteen is the long combination that the hall is on just now.
const thirteen = "1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!"

// tuesday is the class of the evening, half way through and paused for a word: eight people on three bags. Beside it
// stands the long combination, built up over five rounds.
func tuesday(g *store.Gym, coach store.Coach, now time.Time) error {
	built, err := session.BuildUp(thirteen, rig.Hanging, session.ContestRound)
	if err != nil {
		return err
	}
	built.Name = "Thirteen moves, built up"
	doc, err := json.Marshal(built)
	if err != nil {
		return err
	}
	long := store.SessionPlan{Name: built.Name, Doc: doc, MadeBy: &coach.ID}
	if err := g.AddSessionPlan(&long); err != nil {
		return err
	}
	if err := calendar(g, now, long.ID); err != nil {
		return err
	}
	row, err := g.Row()
	if err != nil {
		return err
	}
	c, err := ledger.Roster(g, row, "", now, nil)
	if err != nil {
		return err
	}
	var people, three []string
	for _, m := range c.Members {
		people = append(people, m.ID)
	}
	for _, b := range c.Bags {
		if b.Name == "Quay bag" || b.Name == "Gannet" || b.Name == "Bollard" {
			three = append(three, b.ID)
		}
	}
	plan, err := class.New(c, class.Ask{People: people, Bags: three, Minutes: 60})
	if err != nil {
		return err
	}
	if err := ledger.TakeAll(g, &plan, coach, now.AddDate(0, 0, -15)); err != nil {
		return err
	}
	h, err := ledger.NewClass(plan, row.GetReady, coach)
	if err != nil {
		return err
	}
	h.CreatedAt = now.Add(-40 * time.Minute)
	if err := g.AddClass(&h); err != nil {
		return err
	}
	_, _, err = ledger.ChangeClass(g, h.ID, func(o *ledger.Held) error {
		clock := halfWay(o.Course)
		began := now.Add(-time.Duration(clock) * time.Microsecond)
		started, err := o.Clock.Step(run.Start, 0, began)
		if err == nil {
			o.Clock, err = started.Step(run.Pause, clock, now)
		}
		return err
	})
	if err != nil {
		return fmt.Errorf("the class of the evening: %w", err)
	}
	return nil
}

// halfWay is a minute into the sixth round on the bags.
func halfWay(c session.Course) drill.Micros {
	n := 0
	for _, s := range c.Faces() {
		if s.Kind == session.Work && s.Block == 0 {
			if n++; n == 6 {
				return s.From + 60e6
			}
		}
	}
	return c.Until() / 2
}
