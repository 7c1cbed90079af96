package ledger

import (
	"errors"
	"math"
	"slices"
	"time"

	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/roster"
	"melodromos/core/run"
	"melodromos/core/trainee"
	"melodromos/store"
)

// Gate is a gym's gate.
func Gate(row store.GymRow) ladder.Gate {
	return ladder.Gate{Clean: row.GateClean, Streak: row.GateRun, Rounds: row.GateRounds, Days: row.GateDays,
		ADay: row.GateADay}
}

// Zone returns a gym's time zone.
func Zone(row store.GymRow) *time.Location {
	zone, err := time.LoadLocation(row.Zone)
	if err != nil {
		return time.UTC
	}
	return zone
}

// Roster reads what is known of one trainee, archived or not, or of all who train where the id is empty, and of the
// bags that hang.
func Roster(gym *store.Gym, row store.GymRow, traineeID string, now time.Time,
	stop func() error) (roster.Roster, error) {
	c := roster.Roster{Gate: Gate(row), Kicks: row.Kicks, Voice: Voice(row), Zone: Zone(row), Now: now, Stop: stop}
	var err error
	if c.Bags, err = bagsOf(gym); err != nil {
		return c, err
	}
	var people []store.Trainee
	if traineeID == "" {
		people, err = gym.Trainees(store.InUse)
	} else {
		people = make([]store.Trainee, 1)
		people[0], err = gym.Trainee(traineeID)
	}
	if err != nil {
		return c, err
	}
	found, e1 := known(gym, traineeID)
	cautions, e3 := gym.Cautions(traineeID)
	decisions, e4 := gym.Decisions(traineeID)
	given, e5 := gym.Assignments(traineeID)
	turns, e6 := gym.TurnsOf(traineeID, now.Add(-trainee.Tells))
	if err := errors.Join(e1, e3, e4, e5, e6); err != nil {
		return c, err
	}
	c.Members = make([]roster.Member, len(people))
	index := map[string]*roster.Member{}
	for i, t := range people {
		c.Members[i] = roster.Member{ID: t.ID, Name: t.Name, Stance: combo.Stance(t.Stance), Band: trainee.Band(t.Band),
			Weak: combo.Hand(t.Weak), Body: Body(t), Age: trainee.AgeBand(t.AgeBand),
			School: ladder.School(t.School), Weeks: Weeks(t)}
		index[t.ID] = &c.Members[i]
	}
	for id, m := range index {
		if f := found[id]; f != nil {
			// shared by all: what is added goes elsewhere
			m.Rounds, m.Evidence = slices.Clip(f.rounds), slices.Clip(f.evidence)
		}
	}
	for _, k := range cautions {
		m := index[k.TraineeID]
		if m == nil {
			continue
		}
		m.Spared = append(m.Spared, roster.Spell{From: k.CreatedAt, To: orZero(k.LiftedAt)})
		if k.LiftedAt == nil {
			m.Cautions = append(m.Cautions, caution.Type(k.Kind))
		}
	}
	for _, d := range decisions {
		if m := index[d.TraineeID]; m != nil {
			m.Decisions = append(m.Decisions, roster.Ruling{Kind: rig.Kind(d.BagKind),
				Decision: ladder.Decision{At: d.CreatedAt, Rung: d.Rung, Choice: ladder.Choice(d.Choice),
					Reason: d.Reason}})
		}
	}
	added := map[*roster.Member]bool{}
	for _, t := range turns { // what was done in a class counts as done, and moves nothing
		if m := index[t.TraineeID]; m != nil {
			m.Rounds = append(m.Rounds, turnOf(t))
			added[m] = true
		}
	}
	for m := range added {
		slices.SortStableFunc(m.Rounds, func(a, b run.PastRound) int { return a.At.Compare(b.At) })
	}
	for _, a := range given {
		m := index[a.TraineeID]
		if m == nil {
			continue
		}
		plan, err := Given(a, string(m.Stance))
		if left, err := Left(gym, err); left {
			continue
		} else if err != nil {
			return c, err
		}
		m.Given = append(m.Given, roster.Assignment{ID: a.ID, Drill: a.DrillID, Name: a.Drill.Name, Bag: a.RigID,
			Plan: plan, Rung: a.Drill.Rung, Eased: a.Eased, Own: a.Own, Given: a.CreatedAt})
	}
	return c, nil
}

// turnOf returns a turn of a class as a round of which nothing was judged.
func turnOf(t store.Turn) run.PastRound {
	return run.PastRound{At: t.At, Bag: orZero(t.RigID), Assignment: orZero(t.AssignmentID), Rung: t.Rung,
		InClass: true, Predicted: math.NaN()}
}

func bagsOf(gym *store.Gym) ([]roster.Bag, error) {
	rows, err := gym.Rigs(store.InUse)
	if err != nil {
		return nil, err
	}
	return Readable(gym, rows, func(r store.Rig) (roster.Bag, error) {
		bag, place, err := Rig(r)
		return roster.Bag{ID: r.ID, Name: r.Name, Rig: bag, Place: place}, err
	})
}

func roundOf(r store.Round) run.PastRound {
	out := run.PastRound{
		ID: r.ID, At: r.CreatedAt, Bag: r.RigID, Assignment: r.AssignmentID, Rung: r.Rung, Eased: r.Eased != "",
		Counts: r.Counts, Share: r.Share,
		Longest: r.Longest, Planned: r.Planned, Passes: r.Passes, Wild: r.Wild, Tempo: orZero(r.Tempo),
		Asked: orZero(r.Asked), Predicted: math.NaN(),
	}
	if r.Predicted != nil {
		out.Predicted = *r.Predicted
	}
	return out
}

// Weeks are somebody's weeks; nil where none are planned.
func Weeks(t store.Trainee) *ladder.Weeks {
	if t.WeeksFrom == nil {
		return nil
	}
	w := ladder.Weeks{From: *t.WeeksFrom, Rounds: t.WeeksRounds, Most: t.WeeksMost}
	for _, d := range t.WeeksDays {
		w.Days = append(w.Days, time.Weekday(d))
	}
	return &w
}

// Calendar reads the people of a gym with the days that they came lately, for a calendar.
func Calendar(gym *store.Gym, row store.GymRow, now time.Time) (roster.Roster, error) {
	c := roster.Roster{Zone: Zone(row), Now: now}
	people, err := gym.Trainees(store.InUse)
	if err != nil {
		return c, err
	}
	since := now
	for _, t := range people { // weeks build up by who came since their first day
		if t.WeeksFrom != nil && t.WeeksFrom.Before(since) {
			since = *t.WeeksFrom
		}
	}
	came, err := gym.Came(since.AddDate(0, 0, -7))
	if err != nil {
		return c, err
	}
	c.Members = make([]roster.Member, len(people))
	index := map[string]*roster.Member{}
	for i, t := range people {
		c.Members[i] = roster.Member{ID: t.ID, Name: t.Name, Weeks: Weeks(t)}
		index[t.ID] = &c.Members[i]
	}
	for _, r := range came {
		if m := index[r.TraineeID]; m != nil {
			m.Rounds = append(m.Rounds, run.PastRound{At: r.CreatedAt})
		}
	}
	turns, err := gym.TurnsOf("", since.AddDate(0, 0, -7))
	if err != nil {
		return c, err
	}
	for _, t := range turns {
		if m := index[t.TraineeID]; m != nil {
			m.Rounds = append(m.Rounds, turnOf(t))
		}
	}
	return c, nil
}
