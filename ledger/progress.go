package ledger

import (
	"time"

	"melodromos/core/fault"
	"melodromos/core/progress"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/store"
)

// GymLooksBack is the number of days of the whole gym that progress looks back on: a season.
const GymLooksBack = 90

// Progress reads the log of a trainee, or of the whole gym since a day where the id is empty.
func Progress(gym *store.Gym, row store.GymRow, traineeID string, since, now time.Time) (progress.Log, error) {
	l := progress.Log{Zone: Zone(row), Now: now}
	rows, err := gym.Done(traineeID, since)
	if err != nil {
		return l, err
	}
	for _, d := range rows {
		l.Rounds = append(l.Rounds, progress.LogRound{
			PastRound: run.PastRound{ID: d.ID, At: d.CreatedAt, Bag: d.RigID, Planned: d.Planned, Strikes: d.Hits,
				Longest: d.Longest, Share: d.Share, Give: d.Give, Lasted: orZero(d.Lasted),
				Judged: d.Judged && d.Planned > 0},
			Trainee: d.TraineeID, Name: d.Trainee, BagName: d.Rig, Kind: rig.Kind(d.Kind), Drill: d.DrillID,
			DrillName: d.DrillName})
	}
	found, err := gym.FaultsIn(traineeID, since)
	for _, f := range found {
		l.Faults = append(l.Faults, progress.LogFault{Code: fault.Code(f.Code), Run: f.RunID, At: f.CreatedAt,
			Who: orZero(f.TraineeID), Cost: f.Cost, Effect: f.Effect, Spread: f.Spread, First: f.Place == 0})
	}
	return l, err
}

// Tired is a bag that comes back later from week to week.
type Tired struct {
	RigID string
	Said  string
}

// TiredBags asks the rounds on each bag that hangs whether it does.
func TiredBags(gym *store.Gym) ([]Tired, error) {
	fits, err := gym.RigFits()
	if err != nil || len(fits) == 0 {
		return nil, err
	}
	byBag := map[string][]store.RigFit{}
	for _, f := range fits {
		byBag[f.RigID] = append(byBag[f.RigID], f)
	}
	rows, err := gym.Rigs(store.InUse)
	if err != nil {
		return nil, err
	}
	var list []Tired
	for _, row := range rows {
		bag, _, err := Rig(row)
		if left, err := Left(gym, err); left {
			continue
		} else if err != nil {
			return nil, err
		}
		var told []progress.BagFit
		for _, f := range byBag[row.ID] {
			if f.Parameter == bag.LeastKnown().Field {
				told = append(told, progress.BagFit{At: f.CreatedAt, Value: f.Value, Who: orZero(f.TraineeID)})
			}
		}
		if said := progress.Tiring(row.Name, bag, told); said != "" {
			list = append(list, Tired{row.ID, said})
		}
	}
	return list, nil
}

// Whole is all that is kept of somebody, to be handed to them: rows as they are stored, but for what signs devices in.
type Whole struct {
	Trainee     store.Trainee      `json:"trainee"`
	Rounds      []WholeRound       `json:"rounds"`
	Classes     []store.Turn       `json:"classes"`
	Evidence    []store.Evidence   `json:"evidence"`
	Cautions    []store.Caution    `json:"cautions"`
	Decisions   []store.Decision   `json:"decisions"`
	Assignments []store.Assignment `json:"assignments"`
}

// WholeRound is a round with all that was captured in it and said of it.
type WholeRound struct {
	Run         store.Run          `json:"run"`
	Outcome     *store.Outcome     `json:"outcome"`
	Hits        []store.Hit        `json:"hits"`
	Marks       []store.Mark       `json:"marks"`
	Rating      *store.Rating      `json:"rating"`
	Corrections []store.Correction `json:"corrections"`
}

// Export gathers it.
func Export(gym *store.Gym, t store.Trainee) (Whole, error) {
	w := Whole{Trainee: t, Rounds: []WholeRound{}}
	var err error
	if w.Evidence, err = gym.Evidence(t.ID); err != nil {
		return w, err
	}
	if w.Cautions, err = gym.Cautions(t.ID); err != nil {
		return w, err
	}
	if w.Decisions, err = gym.Decisions(t.ID); err != nil {
		return w, err
	}
	if w.Assignments, err = gym.Assignments(t.ID); err != nil {
		return w, err
	}
	if w.Classes, err = gym.TurnsOf(t.ID, time.Time{}); err != nil {
		return w, err
	}
	rounds, err := gym.WholeRuns(t.ID)
	if err != nil {
		return w, err
	}
	for _, r := range rounds {
		r.Run.IntakeHash = ""
		w.Rounds = append(w.Rounds, WholeRound(r))
	}
	return w, nil
}
