package store

import (
	"strings"
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

// Brought is a round that came in as a table, with what became of it and what was said of it, nil for nothing.
type Brought struct {
	Run     Run
	Outcome Outcome
	Faults  []Fault
	Rating  *Rating
}

// AddBrought stores rounds that came in as a table, many at a time.
func (g *Gym) AddBrought(list []Brought) error {
	if len(list) == 0 {
		return nil
	}
	return g.Together(func(in *Gym) error {
		runs := make([]Run, len(list))
		for i := range list {
			runs[i] = list[i].Run
			runs[i].GymID = g.ID
		}
		if err := in.db.CreateInBatches(&runs, 500).Error; err != nil { // which fills in their ids
			return err
		}
		var (
			outcomes []Outcome
			faults   []Fault
			ratings  []Rating
			now      = g.Now()
		)
		for i, b := range list {
			o := b.Outcome
			o.RunID, o.GymID, o.JudgedAt = runs[i].ID, g.ID, now
			outcomes = append(outcomes, o)
			for k, f := range b.Faults {
				f.GymID, f.RunID, f.Place = g.ID, runs[i].ID, k
				faults = append(faults, f)
			}
			if b.Rating != nil {
				r := *b.Rating
				r.GymID, r.RunID, r.Version = g.ID, &runs[i].ID, 1
				ratings = append(ratings, r)
			}
		}
		if err := in.db.CreateInBatches(&outcomes, 500).Error; err != nil {
			return err
		}
		if len(faults) > 0 {
			if err := in.db.CreateInBatches(&faults, 500).Error; err != nil {
				return err
			}
		}
		if len(ratings) > 0 {
			return in.db.CreateInBatches(&ratings, 500).Error
		}
		return nil
	})
}

// HitCounts returns the number of hits of each round that has any, by its id.
func (g *Gym) HitCounts() (map[string]int, error) {
	var rows []struct {
		RunID string
		N     int
	}
	err := g.rows().Model(&Hit{}).Select("run_id, count(*) AS n").Group("run_id").Scan(&rows).Error
	counts := make(map[string]int, len(rows))
	for _, r := range rows {
		counts[r.RunID] = r.N
	}
	return counts, ownError(err)
}

// HitsLike are those that are there of the same run, device and number as one of the list.
func (g *Gym) HitsLike(list []Hit) ([]Hit, error) {
	if len(list) == 0 {
		return nil, nil
	}
	values := make([]any, 0, 3*len(list)+1)
	for _, h := range list {
		values = append(values, h.RunID, h.Device, h.Seq)
	}
	asked := strings.TrimSuffix(strings.Repeat("(?::uuid, ?::text, ?::int),", len(list)), ",")
	rows := []Hit{}
	return rows, ownError(g.db.Raw("SELECT h.* FROM (VALUES "+asked+") AS v (run, device, seq) "+
		"JOIN hits h ON h.run_id = v.run AND h.device = v.device AND h.seq = v.seq WHERE h.gym_id = ?",
		append(values, g.ID)...).Scan(&rows).Error)
}

// AddHitsAtOnce stores hits of several runs that are not there yet; whoever calls it sees to it that no run comes to
// hold more than MostHits.
func (g *Gym) AddHitsAtOnce(hits []Hit) error {
	if len(hits) == 0 {
		return nil
	}
	for i := range hits {
		hits[i].GymID = g.ID
	}
	return ownError(g.db.CreateInBatches(&hits, 2000).Error)
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
