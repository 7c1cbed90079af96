package ledger

import (
	"cmp"
	"errors"
	"fmt"

	"melodromos/core/bench"
	"melodromos/core/words"
	"melodromos/store"
)

// Unreadable is the error of whoever opens a row whose documents cannot be read. It is about that row alone: lists
// leave it out and go on.
type Unreadable struct {
	store.Unreadable
}

// Error tells the row and the reason.
func (u *Unreadable) Error() string {
	return fmt.Sprintf("%s %s could not be read: %s", u.Kind, u.ID, u.Why)
}

// unreadable makes an Unreadable of a refusal of what is stored: it is no fault of whoever asked. Nil stays nil.
func unreadable(of store.RowKind, id, name string, err error) error {
	var known *Unreadable
	if err == nil || errors.As(err, &known) {
		return err
	}
	return &Unreadable{store.Unreadable{Kind: of, ID: id, Name: cmp.Or(name, "A "+string(of)), Why: err.Error()}}
}

// NotReadable says of a bag whose documents can be read that nothing can be worked out from them.
func NotReadable(r store.Rig, err error) error { return unreadable(store.RigRow, r.ID, r.Name, err) }

// Readable translates rows and leaves out, and notes, those that cannot be read. Any other error ends it.
func Readable[R, T any](gym *store.Gym, rows []R, to func(R) (T, error)) ([]T, error) {
	list := make([]T, 0, len(rows))
	for _, row := range rows {
		out, err := to(row)
		switch left, err := Left(gym, err); {
		case err != nil:
			return nil, err
		case !left:
			list = append(list, out)
		}
	}
	return list, nil
}

// Left says whether an error is about a row that cannot be read, and notes it then; any other error comes back.
func Left(gym *store.Gym, err error) (bool, error) {
	var u *Unreadable
	if errors.As(err, &u) {
		gym.Note(u.Unreadable)
		return true, nil
	}
	return false, err
}

// NotRead lists the rows of a gym that cannot be read, as far as they are in use. One that can be read again, or that
// is gone, is forgotten.
func NotRead(gym *store.Gym) ([]store.Unreadable, error) {
	list := []store.Unreadable{}
	for _, u := range gym.Noted() {
		err := Reopen(gym, u)
		var still *Unreadable
		switch {
		case errors.As(err, &still):
			list = append(list, still.Unreadable)
		case err == nil, errors.Is(err, store.ErrNotFound):
			gym.Forget(u)
		default:
			return nil, err
		}
	}
	return list, nil
}

// Reopen reads a row anew: an Unreadable where it cannot be read, nil where it can, ErrNotFound where it is not in use
// any more.
func Reopen(gym *store.Gym, u store.Unreadable) error {
	switch u.Kind {
	case store.RigRow:
		return opened(gym.Rig, u.ID, func(r store.Rig) (bool, error) {
			bag, place, err := Rig(r)
			if err == nil {
				_, err = bench.Look(bag, place, words.Metric)
			}
			return r.ArchivedAt == nil, NotReadable(r, err)
		})
	case store.DrillRow:
		return opened(gym.Drill, u.ID, func(d store.Drill) (bool, error) {
			_, err := Plan(d)
			return d.ArchivedAt == nil, err
		})
	case store.AssignmentRow:
		return opened(gym.Assignment, u.ID, func(a store.Assignment) (bool, error) {
			_, err := Given(a, "")
			return a.ArchivedAt == nil, err
		})
	case store.SessionRow:
		return opened(gym.SessionPlan, u.ID, func(p store.SessionPlan) (bool, error) {
			_, err := SessionDocument(p)
			return p.ArchivedAt == nil, err
		})
	case store.ClassRow:
		return opened(gym.Class, u.ID, func(h store.Class) (bool, error) {
			_, err := OpenClass(h)
			return h.RemovedAt == nil, err
		})
	case store.DateRow:
		return opened(gym.Date, u.ID, func(d store.Date) (bool, error) {
			_, err := DateDocument(d)
			return d.ArchivedAt == nil, err
		})
	case store.RunRow:
		return opened(gym.Run, u.ID, func(r store.Run) (bool, error) {
			_, err := Open(gym, r)
			return r.RemovedAt == nil && r.TraineeID != nil, err
		})
	}
	return store.ErrNotFound
}

func opened[R any](find func(string) (R, error), id string, read func(R) (inUse bool, err error)) error {
	row, err := find(id)
	if err != nil {
		return err
	}
	inUse, err := read(row)
	if !inUse {
		return store.ErrNotFound
	}
	return err
}

// Remove takes a row that cannot be read out of the lists; it is kept, and can be brought back.
func Remove(gym *store.Gym, u store.Unreadable) error {
	switch u.Kind {
	case store.RigRow:
		return gym.Archive(&store.Rig{}, u.ID)
	case store.DrillRow:
		return gym.Archive(&store.Drill{}, u.ID)
	case store.AssignmentRow:
		return gym.Archive(&store.Assignment{}, u.ID)
	case store.SessionRow:
		return gym.Archive(&store.SessionPlan{}, u.ID)
	case store.DateRow:
		return gym.Archive(&store.Date{}, u.ID)
	case store.ClassRow:
		return gym.RemoveClass(u.ID)
	case store.RunRow:
		return gym.RemoveRun(u.ID)
	}
	return store.ErrNotFound
}
