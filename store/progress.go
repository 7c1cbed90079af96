package store

import (
	"slices"
	"time"

	"github.com/jackc/pgx/v5/pgtype"
	"gorm.io/gorm"
)

// Done is a round of the log as progress is told by it.
type Done struct {
	ID        string
	TraineeID string // "" where the person was erased
	Trainee   string
	RigID     string
	Rig       string
	Kind      string
	DrillID   string
	DrillName string
	CreatedAt time.Time
	Planned   int
	Hits      int
	Longest   int
	Share     float64
	Give      float64
	Lasted    *float64 // s
	Judged    bool
	Passes    int
}

// Done lists the ended rounds of a trainee that were not removed from the log, the oldest first; of the whole gym since
// a day where the id is empty. It reads what is committed, within a transaction as well.
func (g *Gym) Done(traineeID string, since time.Time) ([]Done, error) {
	q := g.db.Table(
		"runs r",
	).Where(
		"r.gym_id = ? AND r.started_at IS NOT NULL AND r.ended_at IS NOT NULL AND r.removed_at IS NULL",
		g.ID,
	).
		Joins(
			"JOIN outcomes o ON o.run_id = r.id",
		).
		Joins(
			"JOIN rigs b ON b.gym_id = r.gym_id AND b.id = r.rig_id",
		).
		Joins(
			"LEFT JOIN trainees t ON t.gym_id = r.gym_id AND t.id = r.trainee_id",
		)
	if traineeID != "" {
		q = q.Where("r.trainee_id = ?", traineeID)
	}
	if !since.IsZero() {
		q = q.Where("r.created_at >= ?", since)
	}
	var (
		found                  pages[Done]
		d                      Done
		id, person, bag, drill pgtype.UUID
		names                  = texts{}
	)
	into := []any{&id, &person, &d.Trainee, &bag, &d.Rig, &d.Kind, &drill, &d.DrillName, &d.CreatedAt, &d.Planned,
		&d.Hits, &d.Longest, &d.Share, &d.Give, &d.Lasted, &d.Judged, &d.Passes}
	err := g.eachRow(
		q,
		"r.id, r.trainee_id, coalesce(t.name, ''), r.rig_id, b.name, b.kind, r.drill_id, r.drill_name, r.created_at, o.planned, o.hits, o.longest, o.share, o.give, o.lasted, o.judged, o.passes",
		into,
		func() {
			d.ID, d.RigID, d.DrillID, d.TraineeID = id.String(), names.text(bag), names.text(drill), ""
			if person.Valid {
				d.TraineeID = names.text(person)
			}
			found.add(d)
			d.Lasted = nil
		},
	)
	rows := slices.Concat(found...)
	slices.SortFunc(rows, func(a, b Done) int { return a.CreatedAt.Compare(b.CreatedAt) })
	return rows, err
}

// FaultIn is a fault of a round of the log.
type FaultIn struct {
	Fault
	TraineeID *string
	CreatedAt time.Time
}

// FaultsIn lists the faults of the rounds of a trainee that were not removed from the log, the oldest first; of the
// whole gym since a day where the id is empty.
func (g *Gym) FaultsIn(traineeID string, since time.Time) ([]FaultIn, error) {
	rows := []FaultIn{}
	q := g.db.Table("faults f").Select("f.*, r.trainee_id, r.created_at").
		Joins("JOIN runs r ON r.gym_id = f.gym_id AND r.id = f.run_id").
		Where("f.gym_id = ? AND r.removed_at IS NULL", g.ID)
	if traineeID != "" {
		q = q.Where("r.trainee_id = ?", traineeID)
	}
	if !since.IsZero() {
		q = q.Where("r.created_at >= ?", since)
	}
	return rows, ownError(q.Order("r.created_at, f.place").Find(&rows).Error)
}

// RigFit holds a round's measurement of a bag, made after its last calibration.
type RigFit struct {
	RigID     string
	Parameter string
	Value     float64
	TraineeID *string
	CreatedAt time.Time
}

// RigFits lists what rounds told of the bags that hang, each since it was last measured, the oldest first.
func (g *Gym) RigFits() ([]RigFit, error) {
	rows := []RigFit{}
	return rows, ownError(g.db.Table("rigs b").
		Select("b.id AS rig_id, o.rig_parameter AS parameter, o.rig_value AS value, r.trainee_id, r.created_at").
		Joins(
			"JOIN runs r ON r.gym_id = b.gym_id AND r.rig_id = b.id AND r.removed_at IS NULL AND r.created_at > b.measured_at",
		).
		Joins("JOIN outcomes o ON o.run_id = r.id AND o.rig_parameter IS NOT NULL").
		Where("b.gym_id = ? AND b.archived_at IS NULL", g.ID).
		Order("r.created_at, r.id").Find(&rows).Error)
}

// WholeRun is a round with all that was captured in it and said of it; Outcome and Rating are nil where there is none.
type WholeRun struct {
	Run         Run
	Outcome     *Outcome
	Hits        []Hit
	Marks       []Mark
	Rating      *Rating
	Corrections []Correction
}

// WholeRuns lists all rounds of somebody, removed ones too, the oldest first, in a few queries however many there are.
func (g *Gym) WholeRuns(traineeID string) ([]WholeRun, error) {
	var (
		runs        []Run
		outcomes    []Outcome
		hits        []Hit
		marks       []Mark
		ratings     []Rating
		corrections []Correction
	)
	own := func() *gorm.DB { return g.rows().Where("run_id IN (?)", g.runsOf(traineeID)) }
	for _, err := range []error{
		g.rows().Where("trainee_id = ?", traineeID).Order("created_at, id").Find(&runs).Error,
		own().Find(&outcomes).Error, own().Order("at_us, device, seq").Find(&hits).Error,
		own().Order("at_us, device, seq").Find(&marks).Error, own().Find(&ratings).Error,
		own().Order("created_at, id").Find(&corrections).Error,
	} {
		if err != nil {
			return nil, ownError(err)
		}
	}
	list, at := make([]WholeRun, len(runs)), map[string]*WholeRun{}
	for i, r := range runs {
		list[i] = WholeRun{Run: r, Hits: []Hit{}, Marks: []Mark{}, Corrections: []Correction{}}
		at[r.ID] = &list[i]
	}
	// what came to a round that began after the first of the queries is left to the next time
	for i, o := range outcomes {
		if r := at[o.RunID]; r != nil {
			r.Outcome = &outcomes[i]
		}
	}
	for _, h := range hits {
		if r := at[h.RunID]; r != nil {
			r.Hits = append(r.Hits, h)
		}
	}
	for _, m := range marks {
		if r := at[m.RunID]; r != nil {
			r.Marks = append(r.Marks, m)
		}
	}
	for i, x := range ratings {
		if r := at[*x.RunID]; r != nil {
			r.Rating = &ratings[i]
		}
	}
	for _, c := range corrections {
		if r := at[c.RunID]; r != nil {
			r.Corrections = append(r.Corrections, c)
		}
	}
	return list, nil
}
