package ledger

import (
	"cmp"
	"errors"
	"fmt"
	"io"
	"math"

	"melodromos/format/table"
	"melodromos/store"
)

// WriteHits writes the hits of the log as a table.
func WriteHits(out io.Writer, gym *store.Gym, traineeID string) error {
	w, err := table.WriteHits(out)
	if err != nil {
		return err
	}
	err = gym.EachHit(traineeID, func(h store.HitOf) error {
		at := float64(h.AtUS) / 1e6
		return w.Row(table.Hit{Started: h.Started, Person: h.Trainee, Bag: h.Rig, At: &at, Hand: orZero(h.Hand),
			Force: h.Force, Launch: h.Launch, Device: h.Device, N: h.Seq})
	})
	if err != nil {
		return err
	}
	return w.Done()
}

// BringHits brings hits into rounds that came in as a table. Those that are here already stay, and the rounds that were
// held here keep their own. All of it is brought in, or nothing.
func BringHits(gym *store.Gym, in io.Reader, dry bool) ([]Brought, error) {
	told := newTold()
	err := gym.Tried(dry, func(in2 *store.Gym) error {
		n, err := namesOf(in2)
		if err != nil {
			return err
		}
		if err := in2.Analyze(); err != nil {
			return err
		}
		b := hitBringer{gym: in2, told: told}
		if b.struck, err = in2.WithHits(); err != nil {
			return err
		}
		err = table.ReadHits(in, func(line int, h table.Hit) error {
			m, err := n.moment(h.Started, h.Person, h.Bag, "")
			if err != nil {
				return err
			}
			held, here := n.held[m]
			if !here {
				return errors.New("there is no round of this moment, person and bag; bring the log in first")
			}
			return b.hit(held, h)
		})
		if err == nil {
			err = b.flush()
		}
		return err
	})
	return told.list(), err
}

// hitBringer keeps hits round by round.
type hitBringer struct {
	gym    *store.Gym
	told   *told
	struck map[string]bool // runs that hold hits already
	run    store.Held
	name   string
	there  map[string]store.Hit // of the run
	fresh  []store.Hit          // of this run and those before it
}

// hitsAtOnce is how many hits wait before they are stored.
const hitsAtOnce = 10_000

func (b *hitBringer) hit(run store.Held, h table.Hit) error {
	if run.RunID != b.run.RunID {
		if err := b.next(run, h.Person); err != nil {
			return err
		}
	}
	row := store.Hit{Device: cmp.Or(h.Device, "table"), Seq: h.N, AtUS: int64(math.Round(*h.At * 1e6)),
		Hand: orNil(h.Hand), Force: h.Force, Launch: h.Launch}
	if h.Launch != nil && *h.Launch <= 0 {
		return errors.New("launch: expected more than 0, or nothing where it is not known")
	}
	if had, here := b.there[hitKey(row)]; here {
		if had.AtUS == row.AtUS && orZero(had.Hand) == h.Hand {
			b.told.add("hit", b.name, Same)
		} else {
			b.told.add("hit", b.name, Differs)
		}
		return nil
	}
	if !run.Brought {
		b.told.add("hit", b.name, Differs)
		return nil
	}
	if len(b.there) >= store.MostHits {
		return fmt.Errorf("expected at most %d hits in a round", store.MostHits)
	}
	row.RunID = run.RunID
	b.there[hitKey(row)] = row
	b.fresh = append(b.fresh, row)
	b.told.add("hit", b.name, Added)
	return nil
}

// next goes on to another round.
func (b *hitBringer) next(run store.Held, name string) error {
	if len(b.fresh) >= hitsAtOnce {
		if err := b.flush(); err != nil {
			return err
		}
	}
	if len(b.there) > 0 {
		b.struck[b.run.RunID] = true
	}
	b.run, b.name, b.there = run, name, map[string]store.Hit{}
	if !b.struck[run.RunID] {
		return nil
	}
	if err := b.flush(); err != nil { // some of it may be of this round
		return err
	}
	rows, err := b.gym.Hits(run.RunID)
	for _, r := range rows {
		b.there[hitKey(r)] = r
	}
	return err
}

func hitKey(h store.Hit) string { return fmt.Sprintf("%s %d", h.Device, h.Seq) }

func (b *hitBringer) flush() error {
	err := b.gym.AddHitsAtOnce(b.fresh)
	b.fresh = nil
	return err
}
