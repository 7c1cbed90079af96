// Package roster knows a gym's people and bags at a moment. For each person it decides what comes next and why, who is
// held back, and how the weeks build up.
package roster

import (
	"math"
	"slices"
	"time"

	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/ladder"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/core/trainee"
)

// Bag is a bag that hangs in the gym.
type Bag struct {
	ID, Name string
	rig.Rig
	Place rig.Place
}

// Assignment is a drill that somebody has on a bag, with its settings.
type Assignment struct {
	ID, Drill, Name string
	Bag             string // id
	Plan            drill.Plan
	Rung            string
	Eased           level.OneThing // what is easier than the rung has it; "" where nothing is
	Own             bool           // the coach has set it
	Given           time.Time
}

// Ruling is a coach's decision on a proposal for a kind of bag.
type Ruling struct {
	Kind rig.Kind
	ladder.Decision
}

// Spell is a time; without an end it lasts.
type Spell struct{ From, To time.Time }

func (s Spell) has(at time.Time) bool {
	return !at.Before(s.From) && (s.To.IsZero() || at.Before(s.To))
}

// Member is somebody of the gym, with all that is known of them; what is listed is listed from the oldest.
type Member struct {
	ID, Name  string
	Stance    combo.Stance
	Band      trainee.Band
	Weak      combo.Hand
	Body      rig.Body
	Age       trainee.AgeBand
	School    ladder.School
	Evidence  []trainee.Evidence
	Cautions  []caution.Type // that stand
	Spared    []Spell        // when cautions stood, or stand
	Rounds    []run.PastRound
	Decisions []Ruling
	Given     []Assignment // not archived
	Weeks     *ladder.Weeks
}

// Roster is a gym's people and bags at a moment.
type Roster struct {
	Members []Member
	Bags    []Bag
	Gate    ladder.Gate
	Kicks   bool           // kicks, knees and elbows are trained here
	Voice   combo.Naming   // how moves are called
	Zone    *time.Location // in which days begin and end
	Now     time.Time
	Stop    func() error // asked in long loops; an error ends them
}

// Member finds somebody by id; nil for nobody.
func (c Roster) Member(id string) *Member {
	for i := range c.Members {
		if c.Members[i].ID == id {
			return &c.Members[i]
		}
	}
	return nil
}

// Bag finds a bag by id; nil where it does not hang.
func (c Roster) Bag(id string) *Bag {
	for i := range c.Bags {
		if c.Bags[i].ID == id {
			return &c.Bags[i]
		}
	}
	return nil
}

// Kinds of bag that hang, in the order of the trade.
func (c Roster) Kinds() []rig.Kind {
	var list []rig.Kind
	for _, k := range rig.Kinds() {
		if slices.ContainsFunc(c.Bags, func(b Bag) bool { return b.Kind() == k }) {
			list = append(list, k)
		}
	}
	return list
}

// BagFor is the bag of a kind that somebody was on last, or else the first of them; nil where none hangs.
func (c Roster) BagFor(m *Member, kind rig.Kind) *Bag {
	for i := len(m.Rounds) - 1; i >= 0; i-- {
		if b := c.Bag(m.Rounds[i].Bag); b != nil && b.Kind() == kind && !m.Rounds[i].InClass {
			return b
		}
	}
	i := slices.IndexFunc(c.Bags, func(b Bag) bool { return b.Kind() == kind })
	if i < 0 {
		return nil
	}
	return &c.Bags[i]
}

// MainKind is the kind of bag that somebody goes on with; "" where none hangs. What they did while a caution kept them
// from it does not lead them away.
func (c Roster) MainKind(m *Member) rig.Kind {
	var used, spared []rig.Kind
	for _, r := range m.Rounds {
		b := c.Bag(r.Bag)
		switch {
		case b == nil || r.InClass:
		case slices.ContainsFunc(m.Spared, func(s Spell) bool { return s.has(r.At) }):
			spared = append(spared, b.Kind())
		default:
			used = append(used, b.Kind())
		}
	}
	return ladder.Follow(c.Kinds(), append(spared, used...))
}

// Floor returns what a drill is laid out for when it is graded for somebody: the bag, and their ability as far as it is
// known.
func (c Roster) Floor(m *Member, b *Bag) drill.Floor {
	return drill.Floor{Bag: b.Rig, Place: b.Place, Ability: trainee.Known(m.Band, m.Weak, b.Kind(), m.Evidence, c.Now),
		Theirs: true, NoKicks: !c.Kicks, Undrawn: true, Seed: 1, Stop: c.Stop}
}

// career returns somebody's rounds and decisions on a kind of bag.
func (c Roster) career(m *Member, kind rig.Kind, on drill.Floor) ladder.Career {
	career := ladder.Career{Rungs: ladder.Rungs(kind, m.School), Gate: c.Gate, Now: c.Now, Zone: c.Zone}
	for _, r := range m.Rounds {
		if r.Counts && ladder.KindOf(r.Rung) == kind {
			career.Rounds = append(career.Rounds, r)
		}
	}
	for _, d := range m.Decisions {
		if d.Kind == kind {
			career.Decisions = append(career.Decisions, d.Decision)
		}
	}
	if len(m.Cautions) > 0 {
		career.Held = func(r ladder.Rung) string { return caution.Spare(m.Cautions, r.Plan, on).Held }
	}
	career.Weakest = func(r ladder.Rung) level.Cause {
		t, err := r.Plan.Lay(on)
		if err != nil {
			return ""
		}
		return level.For(r.Plan, t, on, level.Told{}).Weakest.Cause
	}
	return career
}

// outcomes are the judged rounds of somebody on a kind of bag beside what was predicted of them; on all where the kind
// is "".
func (c Roster) outcomes(m *Member, kind rig.Kind) []level.Outcome {
	var list []level.Outcome
	for _, r := range m.Rounds {
		if !r.Counts || r.Passes > 0 || math.IsNaN(r.Predicted) {
			continue
		}
		if b := c.Bag(r.Bag); kind != "" && (b == nil || b.Kind() != kind) {
			continue
		}
		list = append(list, level.Outcome{Predicted: r.Predicted, Observed: r.Share, Strikes: r.Planned})
	}
	return list
}

// Learned returns the correction of predictions that somebody's rounds on a kind of bag have taught.
func (c Roster) Learned(m *Member, kind rig.Kind) level.Learned {
	return level.Learn(c.outcomes(m, kind))
}

// Done returns the number of judged rounds that somebody has done on the rung whose drill a plan is.
func (c Roster) Done(m *Member, p drill.Plan, kind rig.Kind) int {
	key, n := ladder.Match(p, kind), 0
	for _, r := range m.Rounds {
		if key != "" && r.Rung == key && r.Counts {
			n++
		}
	}
	return n
}

// fit predicts a plan that has been laid out, with what this person's rounds have taught.
func (c Roster) fit(m *Member, p drill.Plan, t drill.Timeline, on drill.Floor) level.Fit {
	kind := on.Bag.Kind()
	return level.For(p, t, on, level.Told{Rounds: c.Done(m, p, kind)}).With(c.Learned(m, kind))
}
