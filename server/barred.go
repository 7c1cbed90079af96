package server

import (
	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/ladder"
	"melodromos/core/words"
	"melodromos/store"
)

// barred refuses a round of somebody for whom nothing is started while a caution stands.
func barred(gym *store.Gym, traineeID string) error {
	rows, err := gym.Cautions(traineeID)
	if err != nil {
		return err
	}
	if why := ladder.Bars(standing(rows)); why != "" {
		return huma.Error409Conflict("This round does not start. " + words.Upper(why) + ", and the caution is lifted by name on their page.")
	}
	return nil
}

// mayGoOn refuses to start a round, or to take it up again after a pause or an end, whose person was held back since. What was captured in
// it can come all the same.
func mayGoOn(gym *store.Gym, id string) error {
	run, err := gym.Run(id)
	if err != nil || run.State == store.RunRunning || run.State == store.RunDone {
		return err
	}
	return barred(gym, run.TraineeID)
}
