package store

import "errors"

// errDry ends a transaction of which nothing is to stay.
var errDry = errors.New("nothing is to stay")

// Tried runs steps in one transaction, as Together does, and where dry is true lets nothing of it stay.
func (g *Gym) Tried(dry bool, steps func(in *Gym) error) error {
	err := g.Together(func(in *Gym) error {
		if err := steps(in); err != nil {
			return err
		}
		if dry {
			return errDry
		}
		return nil
	})
	if errors.Is(err, errDry) {
		return nil
	}
	return err
}

// Analyze tells the database how its largest tables are filled, within a transaction that fills them. It keeps the
// plans that it made while they were small, those of the checks of references, too, until it is told: each of many rows
// would take longer than the one before. A role that may not is passed by with a warning.
func (g *Gym) Analyze() error { return ownError(g.db.Exec("ANALYZE runs, outcomes").Error) }

// Reinstate sets columns of a row that was brought in to what they were where it came from, such as when it was made.
func (g *Gym) Reinstate(model any, id string, columns map[string]any) error {
	return g.change(model, id, columns)
}
