package store

import (
	"time"

	"github.com/jackc/pgx/v5/pgtype"
)

// HitOf is a hit with what tells its round apart.
type HitOf struct {
	Hit
	Started time.Time
	Trainee string // "" where the person was erased
	Rig     string
}

// EachHit reads the hits of the rounds in the log one after the other, of one trainee or of all where the id is empty,
// by the beginning of the round, its person and bag, and the time of the hit. It reads what is committed.
func (g *Gym) EachHit(traineeID string, each func(HitOf) error) error {
	q := g.db.Table("runs r").Where("r.gym_id = ? AND r.started_at IS NOT NULL AND r.ended_at IS NOT NULL AND r.removed_at IS NULL", g.ID).
		Joins("JOIN hits h ON h.gym_id = r.gym_id AND h.run_id = r.id").
		Joins("JOIN rigs b ON b.gym_id = r.gym_id AND b.id = r.rig_id").
		Joins("LEFT JOIN trainees t ON t.gym_id = r.gym_id AND t.id = r.trainee_id").
		Order("r.started_at, coalesce(t.name, ''), b.name, h.at_us, h.device, h.seq")
	if traineeID != "" {
		q = q.Where("r.trainee_id = ?", traineeID)
	}
	var h HitOf
	var failed error
	err := g.eachRow(q, "r.started_at, coalesce(t.name, ''), b.name, h.device, h.seq, h.at_us, h.hand, h.force, h.launch",
		[]any{&h.Started, &h.Trainee, &h.Rig, &h.Device, &h.Seq, &h.AtUS, &h.Hand, &h.Force, &h.Launch}, func() {
			if failed == nil {
				failed = each(h)
			}
			h.Hand, h.Force, h.Launch = nil, nil, nil
		})
	if failed != nil {
		return failed
	}
	return err
}

// Moment tells a round apart: when it began, whose it is, and on which bag. A person who was erased has the empty id.
type Moment struct {
	Started   time.Time // whole microseconds, UTC
	TraineeID string
	RigID     string
}

// Held is a round as it is told apart.
type Held struct {
	RunID   string
	Brought bool // it came in as a table
}

// Moments lists the rounds that have been started, removed ones too, by what tells them apart.
func (g *Gym) Moments() (map[Moment]Held, error) {
	var rows []Run
	err := g.rows().Model(&Run{}).Select("id, started_at, trainee_id, rig_id, brought_at").Where(
		"started_at IS NOT NULL").Find(&rows).Error
	list := make(map[Moment]Held, len(rows))
	for _, r := range rows {
		m := Moment{Started: r.StartedAt.UTC(), RigID: r.RigID}
		if r.TraineeID != nil {
			m.TraineeID = *r.TraineeID
		}
		list[m] = Held{r.ID, r.BroughtAt != nil}
	}
	return list, ownError(err)
}

// AddBrought stores a round that came in as a table, with what became of it.
func (g *Gym) AddBrought(r *Run, o Outcome, faults []Fault) error {
	r.GymID = g.ID
	return ownError(g.Together(func(in *Gym) error {
		if err := in.db.Create(r).Error; err != nil {
			return err
		}
		o.RunID = r.ID
		return in.SetOutcome(o, faults, nil)
	}))
}

// RunFaults lists the faults of each run that has any, the most costly first.
func (g *Gym) RunFaults(traineeID string) (map[string][]Fault, error) {
	var (
		f   Fault
		run pgtype.UUID
	)
	q := g.db.Table("faults f").Where("f.gym_id = ?", g.ID).Order("f.run_id, f.place, f.code")
	if traineeID != "" {
		q = q.Where("f.run_id IN (?)", g.rows().Model(&Run{}).Select("id").Where("trainee_id = ?", traineeID))
	}
	list, names := map[string][]Fault{}, texts{}
	err := g.eachRow(q, "f.run_id, f.code, f.place, f.cost, f.effect, f.spread, f.times",
		[]any{&run, &f.Code, &f.Place, &f.Cost, &f.Effect, &f.Spread, &f.Times}, func() {
			id := names.text(run)
			list[id] = append(list[id], f)
		})
	return list, err
}
