package ledger

import (
	"slices"

	"melodromos/core/run"
	"melodromos/core/trainee"
	"melodromos/store"
)

// knowledge holds somebody's rounds and tests, the oldest first. It is shared by all who ask:
// nobody changes it.
type knowledge struct {
	rounds   []run.PastRound
	evidence []trainee.Evidence
}

// known returns the rounds and tests of a trainee, or of all where the id is empty, by person: what was read before and
// has not changed since is at hand.
func known(gym *store.Gym, traineeID string) (map[string]*knowledge, error) {
	list, err := gym.Revisions(traineeID)
	if err != nil {
		return nil, err
	}
	out := make(map[string]*knowledge, len(list))
	var missing []store.Revision
	var ids []string
	for _, r := range list {
		if kept, ok := gym.Remembered(r); ok {
			out[r.TraineeID] = kept.(*knowledge)
			continue
		}
		missing, ids = append(missing, r), append(ids, r.TraineeID)
	}
	digests, err := gym.Digests(ids)
	if err != nil {
		return nil, err
	}
	for _, r := range missing {
		k := knowledgeOf(digests[r.TraineeID])
		out[r.TraineeID] = k
		gym.Remember(r, k, len(k.rounds)+len(k.evidence))
	}
	return out, nil
}

func knowledgeOf(list []store.Digest) *knowledge {
	var k knowledge
	for _, d := range list {
		for _, r := range d.Rounds {
			k.rounds = append(k.rounds, roundOf(r))
		}
		for _, e := range d.Evidence {
			k.evidence = append(k.evidence, evidenceOf(e))
		}
	}
	slices.SortStableFunc(k.rounds, func(a, b run.PastRound) int { return a.At.Compare(b.At) })
	slices.SortStableFunc(k.evidence, func(a, b trainee.Evidence) int { return a.At.Compare(b.At) })
	if n := len(k.rounds); n > store.MostRounds {
		k.rounds = k.rounds[n-store.MostRounds:]
	}
	return &k
}
