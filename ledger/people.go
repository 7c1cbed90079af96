package ledger

import (
	"errors"

	"melodromos/core/roster"
	"melodromos/core/trainee"
	"melodromos/store"
)

// TakeTest keeps what a test found out about somebody: the times of the taps in s, one row for each trial.
func (c Caller) TakeTest(
	id string,
	test trainee.Test,
	taps [][]float64,
	means trainee.Means,
) (r trainee.TestResult, err error) {
	if r, err = trainee.Take(test, taps, means); err != nil {
		return r, err
	}
	now := c.Gym.Now()
	for i := range r.Found {
		r.Found[i].At, r.Found[i].Note = now, string(test)
	}
	return r, c.together(func(c Caller) error {
		if _, err := c.Gym.Trainee(id); err != nil {
			return err
		}
		return c.Gym.AddEvidence(EvidenceRows(r.Found, id, string(test)))
	})
}

// recentRounds is the number of rounds on a person's page.
const recentRounds = 12

// PersonPage is all that is known of somebody.
type PersonPage struct {
	Person   store.Trainee
	Cautions []store.Caution
	Recent   []store.Logged
	Classes  []InClass // the newest first
	roster.PersonView
}

// PersonPage reads all that is known of somebody.
func (c Caller) PersonPage(id string) (p PersonPage, err error) {
	if p.Person, err = c.Gym.Trainee(id); err != nil {
		return p, err
	}
	var e1, e2, e3 error
	p.Cautions, e1 = c.Gym.Cautions(id)
	p.Recent, e2 = c.Gym.Runs(store.RunFilter{TraineeID: id, Limit: recentRounds})
	p.Classes, e3 = c.InClasses(id)
	if err := errors.Join(e1, e2, e3); err != nil {
		return p, err
	}
	r, m, err := c.Member(id)
	if err != nil {
		return p, err
	}
	p.PersonView, err = r.Person(m)
	return p, err
}

// People reads people by their ids.
func (c Caller) People(ids []string) ([]store.Trainee, error) {
	list := make([]store.Trainee, len(ids))
	for i, id := range ids {
		var err error
		if list[i], err = c.Gym.Trainee(id); err != nil {
			return nil, err
		}
	}
	return list, nil
}

// Log lists rounds, the newest first. Those of somebody who is not in the gym are ErrNotFound.
func (c Caller) Log(f store.RunFilter) ([]store.Logged, error) {
	if f.TraineeID != "" {
		if _, err := c.Gym.Trainee(f.TraineeID); err != nil {
			return nil, err
		}
	}
	return c.Gym.Runs(f)
}

// ChangeGym stores the settings of a gym over the version that was read, and returns them as they stand then.
func (c Caller) ChangeGym(row store.GymRow) (after store.GymRow, err error) {
	err = c.together(func(c Caller) error {
		if err := c.Gym.ChangeRow(row); err != nil {
			return err
		}
		after, err = c.Gym.Row()
		return err
	})
	return after, err
}
