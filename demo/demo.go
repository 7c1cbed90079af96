// Package demo makes the made-up gym: the hall, its people, bags and drills, and two weeks of rounds. The rounds are
// made by the real code, compiled, hit by the stand-in and judged; only the people are invented.
package demo

import (
	"context"
	"errors"
	"fmt"
	"math"
	"time"

	"melodromos/account"
	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/core/trainee"
	"melodromos/ledger"
	"melodromos/standin"
	"melodromos/store"
)

// The demo account.
const (
	Email    = "coach@ropewalk.example"
	Password = "canvas and rope"
)

var gym = store.GymRow{Name: "The Ropewalk, Kettlewick Harbour", Units: "metric", Zone: "Europe/Lisbon", Demo: true}

// person is a trainee with the share of clean work they brought to the first of the two weeks.
type person struct {
	key string
	store.Trainee
	seed uint64
}

func metres(v float64) *float64 { return &v }

var people = []person{
	{"ines", store.Trainee{Name: "Ines Calder", Stance: "orthodox", Band: "beginner", AgeBand: "adult",
		Height: metres(1.64), Reach: metres(1.62), Goals: "Five minutes on the speed bag without a gap.",
		Notes: "Came for the company, stayed for the bag."}, 11},
	{"tobi", store.Trainee{Name: "Tobias Amadi-Rein", Stance: "southpaw", Band: "first-timer", AgeBand: "youth",
		Height: metres(1.45), Reach: metres(1.44), Notes: "Fourteen. Short rounds, guardian signs."}, 12},
	{"greta", store.Trainee{Name: "Greta Sallowfield", Stance: "orthodox", Band: "intermediate", AgeBand: "senior",
		Height: metres(1.58), Reach: metres(1.57),
		Notes: "Sixty-eight. Shoulders first: keep the bag at mouth height."}, 13},
	{"yusuf", store.Trainee{Name: "Yusuf Brandvik", Stance: "orthodox", Band: "advanced", AgeBand: "adult",
		Height: metres(1.85), Reach: metres(1.93)}, 14},
	{"lerato", store.Trainee{Name: "Lerato Quayle", Stance: "southpaw", Band: "expert", AgeBand: "adult",
		Height: metres(1.72), Reach: metres(1.78), Notes: "Helps with the evening class."}, 15},
	{"mateus", store.Trainee{Name: "Mateus Strandvik", Stance: "orthodox", Band: "intermediate", AgeBand: "adult",
		Height: metres(1.90), Reach: metres(1.92), Goals: "The long combination without stopping."}, 17},
	{"zofia", store.Trainee{Name: "Zofia Oyelaran", Stance: "southpaw", Band: "beginner", AgeBand: "adult",
		Height: metres(1.69), Reach: metres(1.70), Notes: "Back after two years off."}, 18},
	{"dov", store.Trainee{Name: "Dov Achterman", Stance: "orthodox", Band: "beginner", AgeBand: "adult",
		Height: metres(1.78), Reach: metres(1.74), Notes: "Left wrist was strained in spring; soft work on that side."},
		16},
}

type bag struct {
	key, name string
	rig.Rig
	rig.Place
}

var bags = []bag{
	{"quay", "Quay bag", rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02,
		Restitution: 0.80, BoardHeight: 1.95}, rig.Place{RatedLoad: 40}},
	{"lantern", "Big lantern", rig.SpeedBag{BagLength: 0.30, BagDiameter: 0.20, BagMass: 0.36, SwivelDrop: 0.025,
		Restitution: 0.74, BoardHeight: 2.05}, rig.Place{RatedLoad: 40}},
	{"wren", "Wren", rig.SpeedBag{BagLength: 0.19, BagDiameter: 0.13, BagMass: 0.18, SwivelDrop: 0.018,
		Restitution: 0.82, BoardHeight: 1.72}, rig.Place{RatedLoad: 40}},
	// Wrongly hung on purpose: off the middle of its anchors, and too slack for what it is used for.
	{"windlass", "Windlass", rig.DoubleEndBag{BallDiameter: 0.16, BallMass: 0.38, Damping: 0.05,
		Upper: rig.Cord{Span: 0.64, Relaxed: 0.56, Stiffness: 80},
		Lower: rig.Cord{Span: 1.76, Relaxed: 1.68, Stiffness: 38}},
		rig.Place{RatedLoad: 30, Beyond: 1.9, Behind: 2.6, Beside: 0.9}},
	{"gannet", "Gannet", rig.ReflexBag{BallDiameter: 0.21, BallMass: 0.75, PoleLength: 1.16, PoleMass: 0.7, Spring: 46,
		Damping: 0.07}, rig.Place{SpringHeight: 0.38, BaseMass: 62, BaseWidth: 0.60, PowerCap: 5}},
	{"plumb", "Plumb", rig.SlipBag{AnchorHeight: 2.85, CentreHeight: 1.44, BagDiameter: 0.18, BagMass: 0.45},
		rig.Place{RatedLoad: 25, Behind: 2.4, Beyond: 2.2, Beside: 1.5}},
	{"bollard", "Bollard", rig.HangingBag{Shape: "cylinder", Mass: 42, Length: 1.25, Diameter: 0.36, Chain: 0.95,
		AnchorHeight: 2.85}, rig.Place{RatedLoad: 400, Beyond: 2.1, Behind: 3, Beside: 1.8}},
	{"buoy", "Buoy", rig.HangingBag{Shape: "ball", Mass: 28, Diameter: 0.46, Chain: 1.1, AnchorHeight: 2.85},
		rig.Place{RatedLoad: 300}},
}

// given is a drill of a trainee on a rung of the ladder, with the days before today on which it was run.
type given struct {
	person, bag, rung string
	drill.Plan
	name string
	days []int
	// what they get wrong, less and less: twice the size at which it is just named, then hardly
	habit fault.Code
	seen  fault.Code // what the coach saw and marked
}

func basic(t drill.Technique, first drill.Hand, perHand int, tempo, work float64) drill.SpeedBagDrill {
	return drill.SpeedBagDrill{Technique: t, FirstHand: first, PerHand: perHand, Rebounds: 3, StrikeAngle: 25,
		Tempo: tempo, Work: work, Calls: true}
}

var givens = []given{
	{
		"ines",
		"quay",
		"speed.five",
		basic(drill.OneHand, drill.Rear, 5, 116, 60),
		"",
		[]int{13, 11, 9, 6, 4, 2},
		fault.ChangeGap,
		"",
	},
	{"tobi", "wren", "speed.rear", basic(drill.OneHand, drill.Rear, 0, 84, 30), "First touches, rear hand",
		[]int{9, 4}, "", fault.IdleHand},
	{"greta", "lantern", "speed.alternating", basic(drill.Alternating, drill.Lead, 0, 104, 60), "",
		[]int{13, 10, 8, 3, 1}, fault.WeakHand, fault.StrikingDown},
	{
		"yusuf",
		"quay",
		"speed.three",
		basic(drill.OneHand, drill.Rear, 3, 150, 90),
		"",
		[]int{11, 8, 5, 4, 1},
		fault.TooHard,
		"",
	},
	{"lerato", "wren", "speed.alternating", basic(drill.Alternating, drill.Lead, 0, 178, 120), "Hand after hand, quick",
		[]int{12, 7, 5, 1}, fault.Fading, ""},
	{"dov", "lantern", "speed.five", basic(drill.OneHand, drill.Lead, 5, 100, 45), "Five a side, soft",
		[]int{10, 6, 3}, fault.Lost, ""},
	{"dov", "quay", "", basic(drill.Alternating, drill.Rear, 0, 118, 60), "Hand after hand, rear first", nil, "", ""},
	{"yusuf", "bollard", "hanging.long", line("1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!",
		drill.Freely, 2.5, 120), "Thirteen moves", []int{9, 3}, "", ""},
	{
		"lerato",
		"gannet",
		"reflex.two",
		line("1-2", drill.OnReturns, 2, 60),
		"One-two on the pole",
		[]int{6},
		fault.Chasing,
		"",
	},
	{"mateus", "quay", "speed.five", basic(drill.OneHand, drill.Rear, 5, 122, 60), "", []int{6, 1}, fault.Waiting, ""},
	{
		"zofia",
		"gannet",
		"reflex.settle",
		line("1-2", drill.OnReturns, 3, 60),
		"Strike, and let it settle",
		[]int{8, 1},
		fault.Rushing,
		"",
	},
	{"dov", "plumb", "slip.both", line("slip lead - 3 - slip rear - 2", drill.OnReturns, 2, 60), "Slip and answer",
		nil, "", ""},
}

// line is a combination drill.
func line(text string, landing drill.Landing, pause, work float64) drill.CombinationDrill {
	return drill.CombinationDrill{Text: text, Stance: combo.Orthodox, Landing: landing, Pace: drill.Combining,
		Pause: pause, Work: work, Guidance: drill.Fading}
}

// Load makes the demo gym unless it is there already.
func Load(ctx context.Context, s *store.Store, now time.Time) error {
	if _, err := s.DemoGym(ctx); err == nil || !errors.Is(err, store.ErrNotFound) {
		return err
	}
	hash, err := account.Hash(ctx, Password)
	if err != nil {
		return err
	}
	row := gym
	if err := s.AddGym(ctx, &row); err != nil {
		return fmt.Errorf("make the demo gym: %w", err)
	}
	coach := store.Coach{GymID: row.ID, Name: "Maren Okafor-Lind", Email: Email, PasswordHash: hash}
	if err := s.AddCoach(ctx, &coach); err != nil {
		dropped := s.DropGym(context.WithoutCancel(ctx), row.ID)
		if _, other := s.DemoGym(ctx); errors.Is(err, store.ErrTaken) && other == nil {
			return dropped // another server, started at the same time, is making it
		}
		return errors.Join(fmt.Errorf("make the demo gym: %w", err), dropped)
	}
	if err := fill(s.Gym(ctx, coach.GymID), coach, now); err != nil {
		// All or nothing: half a demo gym would never be completed.
		return errors.Join(fmt.Errorf("make the demo gym: %w", err), s.DropGym(context.WithoutCancel(ctx), coach.GymID))
	}
	return nil
}

func fill(g *store.Gym, coach store.Coach, now time.Time) error {
	trainees := map[string]person{}
	for _, p := range people {
		p.WeeksDays, p.WeeksRounds, p.WeeksMost, p.Sport = store.Days{2, 4}, 4, 8, "boxing"
		if p.key == "ines" || p.key == "yusuf" {
			from := now.AddDate(0, 0, -21)
			p.WeeksFrom = &from
		}
		if err := g.AddTrainee(&p.Trainee); err != nil {
			return err
		}
		trainees[p.key] = p
	}
	rigs := map[string]store.Rig{}
	for _, b := range bags {
		row, err := ledger.RigRow("", b.name, 0, b.Rig, b.Place)
		if err != nil {
			return err
		}
		if err := g.AddRig(row); err != nil {
			return err
		}
		rigs[b.key] = *row
	}
	for i, d := range givens {
		a, err := give(g, coach, d, rigs[d.bag], trainees[d.person],
			now.AddDate(0, 0, -14).Add(time.Duration(i)*time.Minute))
		if err != nil {
			return err
		}
		if err := before(g, coach, trainees[d.person], rig.Kind(rigs[d.bag].Kind), d.rung, now); err != nil {
			return err
		}
		for n, day := range d.days {
			at := evening(now, day, i)
			progress := float64(n) / math.Max(1, float64(len(d.days)-1))
			err := runRound(g, coach, a, rigs[d.bag], trainees[d.person], at, d, uint64(day), progress, drill.Simulated)
			if err != nil {
				return fmt.Errorf("%s on day %d: %w", a.Drill.Name, -day, err)
			}
		}
	}
	if err := addEvidence(g, coach, trainees, now); err != nil {
		return err
	}
	return tuesday(g, coach, now)
}

// give gives a drill to somebody on a bag. A drill that several have is the gym's one.
func give(g *store.Gym, coach store.Coach, d given, bag store.Rig, p person, at time.Time) (store.Assignment, error) {
	row, err := ledger.DrillRow(d.name, rig.Kind(bag.Kind), d.Plan, d.rung)
	if err != nil {
		return store.Assignment{}, err
	}
	row.MadeBy, row.CreatedAt = &coach.ID, at
	if err := g.EnsureDrill(&row); err != nil {
		return store.Assignment{}, err
	}
	_, settings := drill.Open(d.Plan)
	a := store.Assignment{DrillID: row.ID, TraineeID: p.ID, RigID: bag.ID, Own: true, GivenBy: &coach.ID, CreatedAt: at,
		Drill: row}
	ledger.SetTo(&a, settings)
	return a, g.AddAssignment(&a)
}

// before says that the rungs under the one somebody begins with were passed before the log began.
func before(g *store.Gym, coach store.Coach, p person, kind rig.Kind, rung string, now time.Time) error {
	for _, r := range ladder.Rungs(kind, ladder.BasicFirst) {
		if rung == "" || r.Key == rung {
			return nil
		}
		d := store.Decision{TraineeID: p.ID, BagKind: string(kind), Rung: r.Key, Choice: string(ladder.Skip),
			Reason: "done before the log began", Coach: coach.Name, CoachID: &coach.ID,
			CreatedAt: now.AddDate(0, 0, -14)}
		if err := g.AddDecision(&d); err != nil {
			return err
		}
	}
	return nil
}

// addEvidence keeps what tests and talk have brought out: hands at a pad, reactions, a wrist that has healed.
func addEvidence(g *store.Gym, coach store.Coach, trainees map[string]person, now time.Time) error {
	tested := func(key string, figure trainee.Figure, value, spread float64) store.Evidence {
		return store.Evidence{TraineeID: trainees[key].ID, Figure: string(figure), Value: value, Spread: spread,
			Origin: string(trainee.Tested), Note: "at the pad", FoundAt: now.AddDate(0, 0, -9)}
	}
	err := g.AddEvidence([]store.Evidence{
		tested("ines", trainee.Alternate, 0.24, 0.006), tested("ines", trainee.SameHand, 0.41, 0.010),
		tested("ines", trainee.Sound, 0.182, 0.006), tested("ines", trainee.Sight, 0.224, 0.008),
		tested("yusuf", trainee.Alternate, 0.16, 0.004), tested("yusuf", trainee.SameHand, 0.29, 0.006),
		tested("greta", trainee.Sight, 0.241, 0.009),
	})
	if err != nil {
		return err
	}
	wrist := store.Caution{TraineeID: trainees["dov"].ID, Kind: string(caution.Wrist), Note: "strained in spring, left",
		SetBy: coach.Name, SetByID: &coach.ID, CreatedAt: now.AddDate(0, 0, -60)}
	if err := g.AddCaution(&wrist); err != nil {
		return err
	}
	return g.LiftCaution(wrist.ID, "the physiotherapist", &coach.ID)
}

// evening is the time of the round of drill i so many days ago: classes begin at half past five.
func evening(now time.Time, daysAgo, i int) time.Time {
	d := now.UTC().AddDate(0, 0, -daysAgo)
	return time.Date(d.Year(), d.Month(), d.Day(), 17, 30, 0, 0, time.UTC).Add(time.Duration(i) * 7 * time.Minute)
}

// runRound runs one round as the product does, with the stand-in in place of the trainee. progress goes from 0, the
// first of the two weeks' rounds, to 1: by then spread and misses are down by a third; by is what it says recorded it.
func runRound(g *store.Gym, coach store.Coach, a store.Assignment, bagRow store.Rig, p person, at time.Time, d given,
	day uint64, progress float64, by drill.Recorder) error {
	bag, _, err := ledger.Rig(bagRow)
	if err != nil {
		return err
	}
	plan, err := ledger.Given(a, p.Stance)
	if err != nil {
		return err
	}
	on := drill.Floor{Bag: bag, Ability: trainee.Start(trainee.Band(p.Band)), Seed: p.seed}
	prepared, err := run.Prepare(plan, on, by, "")
	if err != nil {
		return err
	}
	row, line, err := ledger.NewRun(a, bagRow, prepared, by)
	if err != nil {
		return err
	}
	exact := int64(0)
	row.CoachID, row.Zone, row.LatencyUS, row.CreatedAt = &coach.ID, gym.Zone, &exact, at
	row.IntakeHash = fmt.Sprintf("demo %s %s", a.ID, at.Format(time.RFC3339)) // no key hashes to this
	if err := g.AddRun(&row, line); err != nil {
		return err
	}
	hits, marks, err := played(prepared, bag, p, day, d, progress)
	if err != nil {
		return err
	}
	if _, err := g.AddHits(row.ID, hits, marks); err != nil {
		return err
	}
	end := prepared.Timeline.End
	_, err = ledger.Move(g, row.ID, func(c run.RoundClock) (run.RoundClock, error) {
		started, err := c.Step(run.Start, 0, at)
		if err != nil {
			return c, err
		}
		return started.Step(run.Finish, end, at.Add(time.Duration(end)*time.Microsecond))
	})
	if err == nil && progress == 1 && d.seen != "" {
		err = g.Rate(&store.Rating{RunID: &row.ID, Word: "held", Note: "Calm to the bell. Same again, then one change.",
			Coach: coach.Name, CoachID: &coach.ID})
	}
	return err
}

// played are the hits of a round of the person, on a bag of its own, and what the coach marked in it.
func played(on run.Prepared, bag rig.Rig, p person, day uint64, d given, progress float64) ([]store.Hit, []store.Mark,
	error) {
	who := standin.Like(p.Band)
	if d.habit != "" {
		usual := 0.0
		if on.Timeline.Clock == drill.ByBag {
			usual = on.Timeline.Usual()
		}
		who.Faults = []standin.Fault{standin.Sized(d.habit, 2.4-progress, usual)}
	}
	who.Timing *= 1.2 - 0.4*progress
	who.Miss *= 1.3 - 0.6*progress
	seed := p.seed*1000 + day
	var own standin.Bag
	if on.Timeline.Clock == drill.ByBag {
		var err error
		if own, err = standin.Before(bag, on.Plan, on.Timeline, seed); err != nil {
			return nil, nil, err
		}
	}
	round := who.Play(standin.Strikes(on.Timeline, on.Plan, bag.Kind()), own, on.Timeline.End.Seconds(), seed)
	var hits []store.Hit
	for i, h := range round.Hits {
		hit := store.Hit{Device: "stand-in", Seq: i, AtUS: int64(math.Round(h.At * 1e6)), Hand: &h.Hand}
		if h.Launch > 0 {
			hit.Launch = &h.Launch
		}
		hits = append(hits, hit)
	}
	var marks []store.Mark
	mark := func(at float64, kind fault.Code) {
		marks = append(
			marks,
			store.Mark{Device: "stand-in", Seq: len(marks), AtUS: int64(at * 1e6), Kind: string(kind)},
		)
	}
	for _, m := range round.Marks {
		mark(m.At, m.Kind)
	}
	if d.seen != "" && progress < 0.8 {
		for _, share := range []float64{0.2, 0.45, 0.7} {
			mark(on.Timeline.Start.Seconds()+share*(on.Timeline.End-on.Timeline.Start).Seconds(), d.seen)
		}
	}
	return hits, marks, nil
}
