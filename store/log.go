package store

import (
	"melodromos/core/level"
	"slices"
	"strings"
	"time"
)

// Logged is a run as a list shows it: without its documents, with what became of it, nil where it was not judged, and
// the names of whoever was on which bag, "" of somebody who was erased.
type Logged struct {
	Run
	Trainee string
	Rig     string
	Outcome *Outcome `gorm:"-"`
	First   string   `gorm:"-"` // code of the most costly fault
	Rating  *Rating  `gorm:"-"`
}

// RunFilter narrows a list of runs. Zero values do not narrow; runs that were removed from the log are left out unless
// asked for.
type RunFilter struct {
	TraineeID string
	Removed   bool      // only those
	Search    string    // in the names of person, drill and bag
	Kind      string    // of bag
	From      time.Time // created then or later
	Before    time.Time // created before
	Limit     int
}

// columns of a run in lists.
const columns = "runs.id, runs.gym_id, runs.drill_id, runs.assignment_id, runs.trainee_id, runs.rig_id, runs.drill_name, runs.rung, runs.eased, runs.state, runs.ending, " +
	"runs.predicted, runs.source, runs.zone, runs.started_at, runs.ended_at, runs.brought_at, runs.created_at"

// Runs lists runs that have been started, newest first.
func (g *Gym) Runs(f RunFilter) ([]Logged, error) {
	q := g.db.Model(&Run{}).Where("runs.gym_id = ? AND runs.started_at IS NOT NULL", g.ID).
		Select(columns + ", coalesce(trainees.name, '') AS trainee, coalesce(rigs.name, '') AS rig").
		Joins("LEFT JOIN trainees ON trainees.gym_id = runs.gym_id AND trainees.id = runs.trainee_id").
		Joins("LEFT JOIN rigs ON rigs.gym_id = runs.gym_id AND rigs.id = runs.rig_id").
		Order("runs.created_at DESC, runs.id")
	if f.Removed {
		q = q.Where("runs.removed_at IS NOT NULL")
	} else {
		q = q.Where("runs.removed_at IS NULL")
	}
	if f.TraineeID != "" {
		q = q.Where("runs.trainee_id = ?", f.TraineeID)
	}
	if f.Kind != "" {
		q = q.Where("rigs.kind = ?", f.Kind)
	}
	for _, word := range strings.Fields(f.Search) { // each of them has to stand somewhere
		like := "%" + likely.Replace(word) + "%"
		whose, where, what, err := g.named(like)
		if err != nil {
			return nil, err
		}
		q = q.Where("(runs.drill_name IN ? OR runs.trainee_id IN ? OR runs.rig_id IN ?)", what, whose, where)
	}
	if !f.From.IsZero() {
		q = q.Where("runs.created_at >= ?", f.From)
	}
	if !f.Before.IsZero() {
		q = q.Where("runs.created_at < ?", f.Before)
	}
	if f.Limit > 0 {
		q = q.Limit(f.Limit)
	}
	rows := []Logged{}
	if err := q.Find(&rows).Error; err != nil {
		return rows, ownError(err)
	}
	return rows, g.withOutcomes(rows)
}

// named are the ids of the people and of the bags whose names are like a pattern, and the names of drills in the log
// that are. Each name is looked at once, however many rounds have it.
func (g *Gym) named(like string) (whose, where, what []string, err error) {
	if err = g.rows().Model(&Trainee{}).Where("name ILIKE ?", like).Pluck("id", &whose).Error; err == nil {
		err = g.rows().Model(&Rig{}).Where("name ILIKE ?", like).Pluck("id", &where).Error
	}
	if err == nil {
		err = g.db.Raw(`WITH RECURSIVE names AS (
			(SELECT drill_name FROM runs WHERE gym_id = @gym ORDER BY drill_name LIMIT 1)
			UNION ALL
			SELECT (SELECT r.drill_name FROM runs r WHERE r.gym_id = @gym AND r.drill_name > n.drill_name
				ORDER BY r.drill_name LIMIT 1)
			FROM names n WHERE n.drill_name IS NOT NULL)
			SELECT drill_name FROM names WHERE drill_name ILIKE @like`,
			map[string]any{"gym": g.ID, "like": like}).Scan(&what).Error
	}
	return whose, where, what, ownError(err)
}

// likely takes what LIKE makes something of for itself.
var likely = strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`)

// withOutcomes fills in what became of runs.
func (g *Gym) withOutcomes(rows []Logged) error {
	ids := make([]string, len(rows))
	for i, r := range rows {
		ids[i] = r.ID
	}
	var list []Outcome
	if err := g.rows().Where("run_id IN ?", ids).Find(&list).Error; err != nil {
		return ownError(err)
	}
	outcomes := make(map[string]*Outcome, len(list))
	for i := range list {
		outcomes[list[i].RunID] = &list[i]
	}
	var faults []Fault
	if err := g.rows().Where("run_id IN ? AND place = 0", ids).Find(&faults).Error; err != nil {
		return ownError(err)
	}
	first := make(map[string]string, len(faults))
	for _, f := range faults {
		first[f.RunID] = f.Code
	}
	var ratings []Rating
	if err := g.rows().Where("run_id IN ?", ids).Find(&ratings).Error; err != nil {
		return ownError(err)
	}
	said := make(map[string]*Rating, len(ratings))
	for i := range ratings {
		said[*ratings[i].RunID] = &ratings[i]
	}
	for i := range rows {
		rows[i].Outcome, rows[i].First, rows[i].Rating = outcomes[rows[i].ID], first[rows[i].ID], said[rows[i].ID]
	}
	return nil
}

// Outcome returns what became of a run.
func (g *Gym) Outcome(runID string) (Outcome, error) {
	var o Outcome
	return o, ownError(g.rows().Where("run_id = ?", runID).Take(&o).Error)
}

// Round is an ended run that came to its first strike, with the few figures that proposals are made from.
type Round struct {
	ID           string
	TraineeID    string
	RigID        string
	AssignmentID string // "" where it is gone
	Rung         string
	Eased        level.OneThing
	CreatedAt    time.Time
	Predicted    *float64
	Planned      int
	Longest      int
	Passes       int
	Share        float64
	Tempo        *float64
	Asked        *float64
	Counts       bool
	Wild         bool
}

// MostRounds limits the rounds of one person that proposals look back on: some years' worth.
const MostRounds = 1000

// Came lists the days of runs from a day on, by trainee: for a calendar.
func (g *Gym) Came(since time.Time) ([]Round, error) {
	rows := []Round{}
	err := g.rows().Model(&Run{}).Select("trainee_id, rig_id, created_at").
		Where(
			"trainee_id IS NOT NULL AND started_at IS NOT NULL AND ended_at IS NOT NULL AND removed_at IS NULL AND created_at >= ?", since).
		Order("created_at, id").Find(&rows).Error
	return rows, ownError(err)
}

// RigRound holds a round's measurement of its bag.
type RigRound struct {
	Parameter string
	Value     float64
	Spread    float64
	Steps     int
	TraineeID *string
	RigDoc    Doc
	CreatedAt time.Time
}

// RoundsOn lists the newest rounds on a rig that tell something of it and were not removed from the log, the oldest
// first.
func (g *Gym) RoundsOn(rigID string, since time.Time, most int) ([]RigRound, error) {
	rows := []RigRound{}
	err := g.db.Model(&Run{}).Where(
		"runs.gym_id = ? AND runs.rig_id = ? AND runs.removed_at IS NULL AND runs.created_at > ?", g.ID, rigID, since).
		Select(
			"o.rig_parameter AS parameter, o.rig_value AS value, o.rig_spread AS spread, o.rig_steps AS steps, runs.trainee_id, runs.rig_doc, runs.created_at").
		Joins("JOIN outcomes o ON o.run_id = runs.id AND o.rig_parameter IS NOT NULL").
		Order("runs.created_at DESC, runs.id").Limit(most).Find(&rows).Error
	slices.Reverse(rows)
	return rows, ownError(err)
}
