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

// mayStart refuses to start a round whose person was held back since it was made.
func mayStart(gym *store.Gym, id string) error {
	run, err := gym.Run(id)
	if err != nil || run.StartedAt != nil {
		return err
	}
	return barred(gym, run.TraineeID)
}
