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
		if b.counts, err = in2.HitCounts(); err != nil {
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
			return b.hit(line, held, h)
		})
		if err == nil {
			err = b.flush()
		}
		return err
	})
	return told.list(), err
}

// hitBringer keeps hits many at a time, of whatever rounds, in whatever order.
type hitBringer struct {
	gym    *store.Gym
	told   *told
	counts map[string]int // of the hits that each run holds
	lines  []hitLine
}

// hitLine is a hit of a table that waits to be kept.
type hitLine struct {
	line int
	run  store.Held
	name string // of whoever hit
	hit  store.Hit
}

// hitsAtOnce is the number of hits that are stored together.
const hitsAtOnce = 10_000

func (b *hitBringer) hit(line int, run store.Held, h table.Hit) error {
	if h.Launch != nil && *h.Launch <= 0 {
		return errors.New("launch: expected more than 0, or nothing where it is not known")
	}
	row := store.Hit{RunID: run.RunID, Device: cmp.Or(h.Device, "table"), Seq: h.N,
		AtUS: int64(math.Round(*h.At * 1e6)), Hand: orNil(h.Hand), Force: h.Force, Launch: h.Launch}
	b.lines = append(b.lines, hitLine{line, run, h.Person, row})
	if len(b.lines) < hitsAtOnce {
		return nil
	}
	return b.flush()
}

type hitKey struct {
	run, device string
	seq         int
}

func keyOf(h store.Hit) hitKey { return hitKey{h.RunID, h.Device, h.Seq} }

// flush keeps what waits and is not there.
func (b *hitBringer) flush() error {
	var asked, fresh []store.Hit
	for _, l := range b.lines {
		if b.counts[l.run.RunID] > 0 {
			asked = append(asked, l.hit)
		}
	}
	found, err := b.gym.HitsLike(asked)
	if err != nil {
		return err
	}
	there := map[hitKey]store.Hit{}
	for _, h := range found {
		there[keyOf(h)] = h
	}
	for _, l := range b.lines {
		had, here := there[keyOf(l.hit)]
		switch {
		case here && had.AtUS == l.hit.AtUS && orZero(had.Hand) == orZero(l.hit.Hand):
			b.told.add("hit", l.name, Same)
		case here, !l.run.Brought:
			b.told.add("hit", l.name, Differs)
		case b.counts[l.run.RunID] >= store.MostHits:
			return &table.Line{N: l.line, Err: fmt.Errorf("expected at most %d hits in a round", store.MostHits)}
		default:
			there[keyOf(l.hit)] = l.hit
			b.counts[l.run.RunID]++
			fresh = append(fresh, l.hit)
			b.told.add("hit", l.name, Added)
		}
	}
	b.lines = b.lines[:0]
	return b.gym.AddHitsAtOnce(fresh)
}
