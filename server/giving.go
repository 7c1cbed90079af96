package server

import (
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/ledger"
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

// carried is a drill of the gym as another kind of bag has it.
func (c caller) carried(id string, kind rig.Kind) (CarriedOver, error) {
	row, err := c.Gym.Drill(id)
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
