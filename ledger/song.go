package ledger

import (
	"errors"

	"melodromos/core/caution"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/core/session"
	"melodromos/core/trainee"
	"melodromos/format/midi"
	"melodromos/store"
)

// On says on which bag and for whom something is laid out. Left empty, it is the first bag of the kind that hangs, else
// the everyday one, and a beginner.
type On struct {
	Bag, Person string // ids
	Wait        bool   // the bell comes as long after the beginning as the gym has it from a press
}

// floorOn returns a bag of a kind, with its place and somebody in the middle, to lay something out on.
func floorOn(gym *store.Gym, row store.GymRow, kind rig.Kind, on On, stop func() error) (drill.Floor, error) {
	m := kind.Model()
	floor := drill.Floor{Bag: m.Everyday.Rig, Place: m.Place.Place, Ability: trainee.Start(trainee.Beginner), Seed: 1,
		NoKicks: !row.Kicks, Stop: stop}
	if on.Wait {
		floor.GetReady = row.GetReady
	}
	bags, err := bagsOf(gym)
	if err != nil {
		return floor, err
	}
	found := false
	for _, b := range bags {
		if on.Bag == "" && !found && b.Kind() == kind || on.Bag == b.ID {
			floor.Bag, floor.Place, found = b.Rig, b.Place, true
		}
	}
	switch {
	case on.Bag != "" && !found:
		return floor, input.Refuse("bag", "expected a bag that hangs in this gym")
	case floor.Bag.Kind() != kind:
		return floor, input.Refuse("bag", "expected a %s: the drill is for one", m.Name)
	case on.Person == "":
		return floor, nil
	}
	t, err := gym.Trainee(on.Person)
	if err != nil {
		return floor, err
	}
	floor.Theirs = true
	floor.Ability, err = Ability(gym, t, kind, gym.Now())
	return floor, err
}

// song lays a plan out as a round of it would be for them, cautions and all.
func song(gym *store.Gym, name string, p drill.Plan, on drill.Floor, personID string) (midi.Song, error) {
	cautions, err := cautionsOf(gym, personID)
	if err != nil {
		return midi.Song{}, err
	}
	prepared, err := run.For(cautions, p, on, drill.Nothing, "")
	if err != nil {
		return midi.Song{}, err
	}
	line := prepared.Timeline
	return midi.Song{Name: name, Beat: midi.BeatOf(prepared.Plan, line), Timeline: line}, nil
}

// cautionsOf are those that stand for somebody, none for nobody.
func cautionsOf(gym *store.Gym, personID string) ([]caution.Type, error) {
	if personID == "" {
		return nil, nil
	}
	return Cautions(gym, personID)
}

// DrillSong is a drill of the gym as it is laid out.
func DrillSong(gym *store.Gym, row store.GymRow, id string, on On, stop func() error) (midi.Song, error) {
	d, err := gym.Drill(id)
	if err != nil {
		return midi.Song{}, err
	}
	p, err := Plan(d)
	if err != nil {
		return midi.Song{}, err
	}
	floor, err := floorOn(gym, row, rig.Kind(d.Kind), on, stop)
	if err != nil {
		return midi.Song{}, err
	}
	return song(gym, d.Name, p, floor, on.Person)
}

// GivenSong is the drill of an assignment as it is laid out for whoever has it.
func GivenSong(gym *store.Gym, row store.GymRow, id string, wait bool, stop func() error) (midi.Song, error) {
	a, err := gym.Assignment(id)
	if err != nil {
		return midi.Song{}, err
	}
	t, err := gym.Trainee(a.TraineeID)
	if err != nil {
		return midi.Song{}, err
	}
	p, err := Given(a, t.Stance)
	if err != nil {
		return midi.Song{}, err
	}
	floor, err := floorOn(gym, row, rig.Kind(a.Drill.Kind), On{a.RigID, a.TraineeID, wait}, stop)
	if err != nil {
		return midi.Song{}, err
	}
	return song(gym, a.Drill.Name+", "+t.Name, p, floor, a.TraineeID)
}

// secondsABeat: of a session a quarter note is a second.
const secondsABeat = 60

// SessionSong is a session of the gym with what is struck in it; the bag says on which kind, a heavy one where none is
// named. It does not start for somebody whom a caution bars.
func SessionSong(gym *store.Gym, row store.GymRow, id string, on On, stop func() error) (midi.Song, error) {
	p, err := gym.SessionPlan(id)
	if err != nil {
		return midi.Song{}, err
	}
	plan, err := SessionDocument(p)
	if err != nil {
		return midi.Song{}, err
	}
	cautions, err := cautionsOf(gym, on.Person)
	if err == nil {
		err = run.Starts(cautions)
	}
	if err != nil {
		return midi.Song{}, err
	}
	kind := plan.Bag
	if kind == "" {
		kind = rig.Hanging
	}
	if on.Bag != "" {
		bag, err := gym.Rig(on.Bag)
		if err != nil {
			return midi.Song{}, err
		}
		kind = rig.Kind(bag.Kind)
	}
	who := session.Anybody()
	var failed error
	floors := map[rig.Kind]drill.Floor{}
	who.Bag = func(k rig.Kind) drill.Floor {
		floor, known := floors[k]
		if !known {
			of := On{Person: on.Person}
			if k == kind {
				of.Bag = on.Bag
			}
			var err error
			if floor, err = floorOn(gym, row, k, of, stop); err != nil && failed == nil {
				failed = err
			}
			floors[k] = floor
		}
		return floor
	}
	events := session.Begin(plan, int(row.GetReady)).Laid(session.Calls{Naming: Voice(row)}, who, kind)
	if failed == nil && stop != nil {
		failed = stop()
	}
	return midi.Song{Name: p.Name, Beat: secondsABeat, Timeline: drill.Timeline{Events: events}}, failed
}

// RhythmDrill keeps a rhythm that was read from a file as a drill of the gym, and says what it has become. Where
// somebody is named on a bag it is theirs, at the tempo that the file has.
func RhythmDrill(gym *store.Gym, r midi.Read, name string, kind rig.Kind, on On, by *store.Coach,
	dry bool) (Brought, []string, error) {
	plan, said, err := r.Plan(kind)
	if err != nil {
		return Brought{}, nil, err
	}
	give := on.Bag != "" && on.Person != "" && by != nil
	if give {
		if err := fits(gym, kind, on); err != nil {
			return Brought{}, nil, err
		}
	}
	b := Brought{What: "drill", Name: name, Does: Added, Detail: plan.Name(), Count: 1}
	err = gym.Tried(dry, func(in *store.Gym) error {
		row, err := DrillRow(name, kind, plan, "")
		if err != nil {
			return err
		}
		if by != nil {
			row.MadeBy = &by.ID
		}
		if err := in.AddDrill(&row); err != nil {
			return err
		}
		if !dry {
			b.ID = row.ID
		}
		if !give {
			return nil
		}
		_, settings := drill.Open(plan)
		_, err = Give(in, row, on.Person, on.Bag, settings, "", *by)
		return err
	})
	return b, said, err
}

// fits refuses whom and what a drill for a kind of bag cannot be given to.
func fits(gym *store.Gym, kind rig.Kind, on On) error {
	bag, err := gym.Rig(on.Bag)
	if err == nil && rig.Kind(bag.Kind) != kind {
		err = store.ErrNotFound
	}
	if errors.Is(err, store.ErrNotFound) {
		return input.Refuse("bag", "expected a %s of this gym: the rhythm is for one", kind.Model().Name)
	}
	if err != nil {
		return err
	}
	if _, err = gym.Trainee(on.Person); errors.Is(err, store.ErrNotFound) {
		return input.Refuse("person", "expected somebody of this gym")
	}
	return err
}
