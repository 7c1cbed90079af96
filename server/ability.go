package server

import (
	"time"

	"melodromos/core/combo"
	"melodromos/core/judge"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/store"
)

func evidenceOf(rows []store.Finding) []trainee.Evidence {
	list := make([]trainee.Evidence, len(rows))
	for i, f := range rows {
		list[i] = trainee.Evidence{
			Figure: trainee.Figure(f.Figure), Bag: rig.Kind(f.BagKind), Value: f.Value, Spread: f.Spread,
			Origin: trainee.Origin(f.Origin), Floor: f.Bound, At: f.FoundAt,
		}
	}
	return list
}

// abilityWith is what somebody can do on a bag, by what was found out.
func abilityWith(t store.Trainee, kind rig.Kind, found []trainee.Evidence, now time.Time) trainee.Ability {
	a, _ := trainee.Estimates(trainee.Band(t.Band), kind, found, now)
	a.Weak = combo.Hand(t.Weak)
	return a
}

// abilityOf reads what was found out about somebody.
func abilityOf(gym *store.Gym, t store.Trainee, kind rig.Kind) (trainee.Ability, error) {
	rows, err := gym.Findings(t.ID)
	return abilityWith(t, kind, evidenceOf(rows), time.Now()), err
}

// findingsOf tells what a judged run shows of whoever was on the bag.
func findingsOf(p runParts, round judge.Round, a trainee.Ability) []store.Finding {
	var list []store.Finding
	for _, e := range trainee.FromRound(round.Heard(p.timeline, p.plan, p.bag.Kind(), a, p.CreatedAt), a) {
		list = append(list, findingOut(e, p.TraineeID, p.DrillName))
	}
	return list
}

func findingOut(e trainee.Evidence, traineeID, note string) store.Finding {
	return store.Finding{
		TraineeID: traineeID, Figure: string(e.Figure), BagKind: string(e.Bag), Value: e.Value, Spread: e.Spread,
		Origin: string(e.Origin), Bound: e.Floor, Note: note, FoundAt: e.At,
	}
}
