package ledger

import (
	"errors"

	"melodromos/core/drill"
	"melodromos/core/ladder"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/roster"
	"melodromos/store"
)

// Bags reads the bags that hang in a gym, and nobody.
func Bags(gym *store.Gym, row store.GymRow, stop func() error) (roster.Roster, error) {
	list, err := bagsOf(gym)
	return roster.Roster{Bags: list, Kicks: row.Kicks, Voice: Voice(row), Stop: stop}, err
}

// Take gives somebody the drill that is proposed on a bag, or finds the one that they have of it, and keeps that it was
// taken. One that the coach has set is left as it is; any other is set as it is proposed now, softer or by what is
// known by now.
func Take(gym *store.Gym, p roster.Proposal, choice ladder.Choice, reason string,
	by store.Coach) (store.Assignment, error) {
	var a store.Assignment
	err := gym.Together(func(in *store.Gym) error {
		var err error
		if p.AssignmentID != "" {
			a, err = in.Assignment(p.AssignmentID)
		}
		if err == nil && !a.Own && p.Move != ladder.Given {
			a, err = give(in, p, by)
		}
		if err != nil || p.Rung == "" {
			return err
		}
		return in.AddDecision(&store.Decision{TraineeID: p.TraineeID, BagKind: string(p.Kind), Rung: p.Rung,
			Choice: string(choice), Reason: reason, Coach: by.Name, CoachID: &by.ID})
	})
	return a, err
}

// give finds or makes the drill and the assignment of a proposal.
func give(gym *store.Gym, p roster.Proposal, by store.Coach) (store.Assignment, error) {
	d, err := DrillRow(p.DrillName(), rig.Kind(p.Kind), p.Plan(), p.Rung)
	if err != nil {
		return store.Assignment{}, err
	}
	d.MadeBy = &by.ID
	if err := gym.EnsureDrill(&d); err != nil {
		return store.Assignment{}, err
	}
	_, settings := drill.Open(p.Plan())
	return Give(gym, d, p.TraineeID, p.RigID, settings, p.Eased, by)
}

// Give gives a drill to somebody on a bag with settings, or sets the assignment that they have of it, unless the coach
// has set that.
func Give(gym *store.Gym, d store.Drill, traineeID, rigID string, settings drill.Settings, eased level.OneThing,
	by store.Coach) (store.Assignment, error) {
	a, err := gym.AssignmentOf(d.ID, traineeID, rigID)
	switch {
	case errors.Is(err, store.ErrNotFound):
		a = store.Assignment{DrillID: d.ID, TraineeID: traineeID, RigID: rigID, Eased: eased, GivenBy: &by.ID, Drill: d}
		SetTo(&a, settings)
		err = gym.AddAssignment(&a)
	case err == nil && !a.Own:
		a.Eased = eased
		SetTo(&a, settings)
		err = gym.ChangeAssignment(&a)
	}
	return a, err
}
