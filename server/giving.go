package server

import (
	"slices"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/ledger"
	"melodromos/store"
)

// Giving gives a drill to people, each on the bag that is named, or else on the one of its kind that they were on last.
type Giving struct {
	People []string `json:"people" minItems:"1" maxItems:"200"`
	RigID  string   `json:"rigId,omitempty" format:"uuid"`
}

// GivenOut tells of one person what came of it.
type GivenOut struct {
	TraineeID    string `json:"traineeId"`
	Trainee      string `json:"trainee"`
	AssignmentID string `json:"assignmentId" doc:"empty where it was not given"`
	Why          string `json:"why" doc:"why it was not given, or what is to be known of it"`
}

// ToKind is the kind of bag that a drill is carried to.
type ToKind struct {
	Kind rig.Kind `json:"kind"`
}

// CarriedOver is a drill as it would be on another kind of bag.
type CarriedOver struct {
	Doc  DrillDoc `json:"doc"`
	Lost []string `json:"lost" doc:"what does not go with it, in sentences"`
}

// give gives a drill to people.
func (c caller) give(id string, in Giving) ([]GivenOut, error) {
	d, err := c.gym.Drill(id)
	if err != nil {
		return nil, err
	}
	p, err := ledger.Plan(d)
	if err != nil {
		return nil, err
	}
	cl, err := ledger.Roster(c.gym, c.row, "", c.gym.Now(), c.stop)
	if err != nil {
		return nil, err
	}
	if b := cl.Bag(in.RigID); in.RigID != "" && (b == nil || string(b.Kind()) != d.Kind) {
		return nil, input.Refuse("rigId", "expected a bag of the kind that the drill is for")
	}
	for _, who := range in.People {
		if cl.Member(who) == nil {
			return nil, store.ErrNotFound
		}
	}
	out := []GivenOut{}
	err = c.gym.Together(func(gym *store.Gym) error {
		for i := range cl.Members {
			m := &cl.Members[i]
			if !slices.Contains(in.People, m.ID) {
				continue
			}
			b := cl.Bag(in.RigID)
			if b == nil {
				b = cl.BagFor(m, rig.Kind(d.Kind))
			}
			if b == nil {
				return input.Refuse("rigId", "expected a bag of the kind that the drill is for: none hangs in this gym")
			}
			fits := cl.Fitted(m, b, p)
			g := GivenOut{TraineeID: m.ID, Trainee: m.Name, Why: fits.Why}
			if fits.Given {
				a, err := ledger.Give(gym, d, m.ID, b.ID, fits.Settings, "", c.Coach)
				if err != nil {
					return err
				}
				g.AssignmentID = a.ID
			}
			out = append(out, g)
		}
		return nil
	})
	return out, err
}

// carried is a drill of the gym as another kind of bag has it.
func (c caller) carried(id string, kind rig.Kind) (CarriedOver, error) {
	row, err := c.gym.Drill(id)
	if err != nil {
		return CarriedOver{}, err
	}
	p, err := ledger.Plan(row)
	if err != nil {
		return CarriedOver{}, err
	}
	p, lost, err := drill.Carry(p, rig.Kind(row.Kind), kind)
	return CarriedOver{DrillDoc{Plan: p}, append([]string{}, lost...)}, err
}
