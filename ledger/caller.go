package ledger

import "melodromos/store"

// Caller is a coach at work in a gym. What the coach does there is one call of a method, and one transaction.
type Caller struct {
	Coach store.Coach
	Row   store.GymRow // of the gym
	Gym   *store.Gym
	Stop  func() error // not nil once the work for this request has taken too long
}

// together runs the steps of a deed in one transaction: all of them hold, or none.
func (c Caller) together(steps func(c Caller) error) error {
	return c.Gym.Together(func(in *store.Gym) error {
		c.Gym = in
		return steps(c)
	})
}
