// Package ledger reads out of the store what the core needs, and writes down what it decides. It decides nothing
// itself.
package ledger

import (
	"encoding/json"
	"time"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
	"melodromos/store"
)

// Rig opens the documents of a stored bag.
func Rig(r store.Rig) (rig.Rig, rig.Place, error) {
	bag, err := rig.Read(input.Parse(r.Doc))
	if err != nil {
		return nil, rig.Place{}, unreadable(store.RigRow, r.ID, r.Name, err)
	}
	place, err := rig.ReadPlace(input.Parse(r.Place))
	return bag, place, unreadable(store.RigRow, r.ID, r.Name, input.Under("place", err))
}

// RigRow is a bag as it is stored, over the version that was read.
func RigRow(id, name string, version int, bag rig.Rig, place rig.Place) (*store.Rig, error) {
	doc, err := json.Marshal(bag)
	if err != nil {
		return nil, err
	}
	around, err := json.Marshal(place)
	return &store.Rig{ID: id, Name: name, Kind: string(bag.Kind()), Doc: doc, Place: around, Version: version}, err
}

// Plan opens the document of a stored drill, with force, tempo and pull left open.
func Plan(d store.Drill) (drill.Plan, error) {
	p, err := drill.ReadPlan(input.Parse(d.Doc))
	return p, unreadable(store.DrillRow, d.ID, d.Name, err)
}

// Given is the drill of an assignment with its settings, as somebody of a stance does it.
func Given(a store.Assignment, stance string) (drill.Plan, error) {
	p, err := Plan(a.Drill)
	if err != nil {
		return nil, err
	}
	if p, err = drill.Set(p, a.Settings()); err != nil {
		return nil, unreadable(store.AssignmentRow, a.ID, a.Drill.Name, err)
	}
	return drill.InStance(p, combo.Stance(stance)), nil
}

// SetTo writes settings into an assignment.
func SetTo(a *store.Assignment, s drill.Settings) {
	a.Tempo, a.Slower, a.Fist, a.Pull, a.Work = orNil(s.Tempo), orNil(s.Slower), orNil(s.Fist), orNil(s.Pull),
		orNil(s.Work)
	a.Strikes, a.Repetitions = orNil(s.Strikes), orNil(s.Repetitions)
}

// Named is a drill of the gym as core knows it.
func Named(row store.Drill) (drill.Named, error) {
	p, err := Plan(row)
	return drill.Named{Name: row.Name, Kind: rig.Kind(row.Kind), Plan: p}, err
}

// DrillRow is a drill as it is stored; a name that is left empty is the drill's own words.
func DrillRow(name string, kind rig.Kind, p drill.Plan, rung string) (store.Drill, error) {
	open, _ := drill.Open(p)
	doc, err := json.Marshal(open)
	if name == "" {
		name = words.Short(p.Name(), 120)
	}
	return store.Drill{Name: name, Kind: string(kind), Doc: doc, Rung: rung}, err
}

// Body returns the measures of a trainee that matter to the height of a rig.
func Body(t store.Trainee) rig.Body {
	return rig.Body{Height: orZero(t.Height), Reach: orZero(t.Reach), Eye: orZero(t.Eye), Mouth: orZero(t.Mouth),
		Chin: orZero(t.Chin)}
}

// Evidence converts rows of evidence to the core's type.
func Evidence(rows []store.Evidence) []trainee.Evidence {
	list := make([]trainee.Evidence, len(rows))
	for i, row := range rows {
		list[i] = evidenceOf(row)
	}
	return list
}

func evidenceOf(row store.Evidence) trainee.Evidence {
	return trainee.Evidence{
		Figure: trainee.Figure(row.Figure), Bag: rig.Kind(orZero(row.BagKind)), Value: row.Value, Spread: row.Spread,
		Origin: trainee.Origin(row.Origin), Floor: row.Bound, At: row.FoundAt, Note: row.Note,
	}
}

// EvidenceRows are pieces of evidence about somebody as they are stored.
func EvidenceRows(list []trainee.Evidence, traineeID, note string) []store.Evidence {
	rows := make([]store.Evidence, len(list))
	for i, e := range list {
		rows[i] = store.Evidence{
			TraineeID: traineeID, Figure: string(e.Figure), BagKind: orNil(string(e.Bag)), Value: e.Value,
			Spread: e.Spread,
			Origin: string(e.Origin), Bound: e.Floor, Note: note, FoundAt: e.At,
		}
	}
	return rows
}

// Ability returns a stored trainee's ability on a kind of bag.
func Ability(gym *store.Gym, t store.Trainee, kind rig.Kind, now time.Time) (trainee.Ability, error) {
	rows, err := gym.Evidence(t.ID)
	return trainee.Known(trainee.Band(t.Band), combo.Hand(t.Weak), kind, Evidence(rows), now), err
}

func orZero[T any](v *T) (zero T) {
	if v != nil {
		zero = *v
	}
	return zero
}

func orNil[T comparable](v T) *T {
	var zero T
	if v == zero {
		return nil
	}
	return &v
}

// Voice returns the names by which moves are called in a gym.
func Voice(row store.GymRow) combo.Naming {
	return combo.VoiceOf(combo.PunchNames(row.PunchNames), combo.SlipNames(row.SlipNames))
}
