package ledger

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"

	"melodromos/core/class"
	"melodromos/core/drill"
	"melodromos/store"
)

// Inspect looks through all gyms for what cannot be read: it mends what an earlier release wrote wrongly, and notes the
// rest. What it did to which gym it logs.
func Inspect(ctx context.Context, s *store.Store) error {
	gyms, err := s.Gyms(ctx)
	if err != nil {
		return err
	}
	var failed error
	for _, row := range gyms {
		if err := inspect(s.Gym(ctx, row.ID)); err != nil {
			failed = errors.Join(failed, fmt.Errorf("gym %s: %w", row.ID, err))
		}
	}
	return failed
}

func inspect(gym *store.Gym) error {
	emptied, err := mendDrills(gym)
	classes, e2 := mendClasses(gym)
	if emptied+classes > 0 {
		slog.Info("mended what an earlier release wrote wrongly", "gym", gym.ID, "empty drills taken away", emptied,
			"classes mended", classes)
	}
	_, e3 := known(gym, "") // so that the first to ask need not wait
	return errors.Join(err, e2, e3, inspectLists(gym), inspectRuns(gym))
}

// mendDrills takes away the drills without anything in them that classes used to leave: with a session that was the
// same for everybody each got one, under its name.
func mendDrills(gym *store.Gym) (int, error) {
	n := 0
	rows, err := gym.Drills(store.InUse)
	for _, d := range rows {
		if _, refused := Plan(d); refused == nil || !drill.NeverFilled(d.Doc) {
			continue
		}
		dropped, err := gym.DropDrill(d.ID)
		if err != nil {
			return n, err
		}
		if dropped {
			n++
		}
	}
	return n, err
}

// mendClasses takes those empty drills out of the plans of classes.
func mendClasses(gym *store.Gym) (int, error) {
	n := 0
	err := gym.EachClass(func(h store.Class) error {
		if _, refused := OpenClass(h); refused == nil {
			return nil
		}
		if _, can := class.Mended(h.Plan); !can {
			return nil
		}
		changed, err := mendClass(gym, h.ID)
		if changed {
			n++
		}
		return err
	})
	return n, err
}

func inspectLists(gym *store.Gym) error {
	var failed error
	look := func(err error) {
		if _, err := Left(gym, err); err != nil {
			failed = errors.Join(failed, err)
		}
	}
	rigs, e1 := gym.Rigs(store.InUse)
	for _, r := range rigs {
		_, _, err := Rig(r)
		look(err)
	}
	drills, e2 := gym.Drills(store.InUse)
	for _, d := range drills {
		_, err := Plan(d)
		look(err)
	}
	given, e3 := gym.Assignments("")
	for _, a := range given {
		_, err := Given(a, "")
		look(err)
	}
	plans, e4 := gym.SessionPlans(store.InUse)
	for _, p := range plans {
		_, err := SessionDocument(p)
		look(err)
	}
	dates, e5 := gym.Dates(store.InUse)
	for _, d := range dates {
		_, err := DateDocument(d)
		look(err)
	}
	e6 := gym.EachClass(func(h store.Class) error {
		_, err := OpenClass(h)
		look(err)
		return nil
	})
	return errors.Join(failed, e1, e2, e3, e4, e5, e6)
}

// inspectRuns looks at the bags and drills of the rounds in the log, but not at their timelines, which are large: one
// of those that cannot be read is noted when its round is opened.
func inspectRuns(gym *store.Gym) error {
	return gym.EachRunDoc(func(r store.Run) error {
		_, err := Left(gym, runDocs(r))
		return err
	})
}

// mendClass takes the drills that cannot be read out of the plan of a class; false where that mends nothing.
func mendClass(gym *store.Gym, id string) (bool, error) {
	mended := false
	_, err := gym.MoveClass(id, func(h *store.Class) error {
		var p class.Class
		if p, mended = class.Mended(h.Plan); !mended {
			return nil
		}
		var err error
		h.Plan, err = json.Marshal(p)
		h.Version++
		return err
	}, nil)
	return mended && err == nil, err
}
