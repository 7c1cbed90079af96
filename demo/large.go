package demo

import (
	"context"
	"fmt"
	"time"

	"melodromos/account"
	"melodromos/core/drill"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/ledger"
	"melodromos/store"
)

// Size says how large a made-up gym is to be.
type Size struct {
	People, Rounds, Hits int
}

// LargePassword signs in to a large gym.
const LargePassword = "a large made-up hall"

// Large makes a made-up gym as large as one may become, to try the program on, and gives its row with the address of
// its coach. Some rounds of everybody are played and judged as any are; the rest repeats them back through the years.
func Large(ctx context.Context, s *store.Store, size Size, now time.Time) (store.GymRow, string, error) {
	hash, err := account.Hash(ctx, LargePassword)
	if err != nil {
		return store.GymRow{}, "", err
	}
	row := store.GymRow{Name: fmt.Sprintf("Hall of %d", size.People), Units: "metric", Zone: gym.Zone}
	if err := s.AddGym(ctx, &row); err != nil {
		return row, "", err
	}
	coach := store.Coach{GymID: row.ID, Name: "Maren Okafor-Lind", PasswordHash: hash,
		Email: fmt.Sprintf("hall-%s@ropewalk.example", row.ID[:8])}
	if err := s.AddCoach(ctx, &coach); err != nil {
		return row, "", err
	}
	if err := enlarge(s.Gym(ctx, row.ID), coach, size, now); err != nil {
		return row, "", fmt.Errorf("make a large gym: %w", err)
	}
	return row, coach.Email, nil
}

// kindsEach are the ladders that each goes up on.
var kindsEach = []rig.Kind{rig.Speed, rig.DoubleEnd, rig.Reflex, rig.Hanging}

func enlarge(g *store.Gym, coach store.Coach, size Size, now time.Time) error {
	hung := map[rig.Kind][]store.Rig{}
	for _, b := range bags {
		row, err := ledger.RigRow("", b.name, 0, b.Rig, b.Place)
		if err == nil {
			err = g.AddRig(row)
		}
		if err != nil {
			return err
		}
		hung[b.Rig.Kind()] = append(hung[b.Rig.Kind()], *row)
	}
	each := size.Rounds / (size.People * len(kindsEach))
	if each < 1 {
		return fmt.Errorf("expected at least %d rounds for %d people", size.People*len(kindsEach), size.People)
	}
	hits := size.Hits / size.Rounds
	for i := range size.People {
		like := people[i%len(people)]
		p := person{like.key, like.Trainee, uint64(i + 1)}
		p.ID, p.Name = "", fmt.Sprintf("%s %d", like.Name, i+1)
		p.Sport = "boxing"
		if err := g.AddTrainee(&p.Trainee); err != nil {
			return err
		}
		for k, kind := range kindsEach {
			bag := hung[kind][i%len(hung[kind])]
			rungs := ladder.Rungs(kind, ladder.BasicFirst)
			rung := rungs[(i+k)%min(4, len(rungs))]
			d := given{rung: rung.Key, name: rung.Name, Plan: rung.Plan}
			// their newest is the last
			began := now.Add(-time.Duration(i*len(kindsEach)+len(kindsEach)-k) * time.Minute)
			a, err := give(g, coach, d, bag, p, began)
			if err != nil {
				return err
			}
			if err := runRound(g, coach, a, bag, p, began, d, uint64(k), 0.5, drill.Sensor); err != nil {
				return fmt.Errorf("%s on the %s: %w", p.Name, bag.Name, err)
			}
			runs, err := g.Runs(store.RunFilter{TraineeID: p.ID, Limit: 1})
			if err != nil || len(runs) == 0 {
				return fmt.Errorf("the round of %s is not in the log: %w", p.Name, err)
			}
			// over as long as evidence tells, so that all of it is looked at
			every := trainee.Tells / time.Duration(each+1)
			if err := g.RepeatRun(runs[0].ID, each-1, every, hits); err != nil {
				return err
			}
		}
	}
	return nil
}
