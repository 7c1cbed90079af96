// Package demo makes the made-up gym: the hall, its people, bags and drills, and two weeks of rounds. The rounds are made
// by the real code, compiled, hit by the stand-in and judged; only the people are invented.
package demo

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"time"

	"melodromos/account"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/server"
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
	{"ines", store.Trainee{Name: "Ines Calder", Stance: "orthodox", Band: "beginner", AgeBand: "adult", Height: metres(1.64), Reach: metres(1.62), Goals: "Five minutes on the speed bag without a gap.", Notes: "Came for the company, stayed for the bag."}, 11},
	{"tobi", store.Trainee{Name: "Tobias Amadi-Rein", Stance: "southpaw", Band: "first-timer", AgeBand: "youth", Height: metres(1.45), Reach: metres(1.44), Notes: "Fourteen. Short rounds, guardian signs."}, 12},
	{"greta", store.Trainee{Name: "Greta Sallowfield", Stance: "orthodox", Band: "intermediate", AgeBand: "senior", Height: metres(1.58), Reach: metres(1.57), Notes: "Sixty-eight. Shoulders first: keep the bag at mouth height."}, 13},
	{"yusuf", store.Trainee{Name: "Yusuf Brandvik", Stance: "orthodox", Band: "advanced", AgeBand: "adult", Height: metres(1.85), Reach: metres(1.93)}, 14},
	{"lerato", store.Trainee{Name: "Lerato Quayle", Stance: "southpaw", Band: "expert", AgeBand: "adult", Height: metres(1.72), Reach: metres(1.78), Notes: "Helps with the Thursday class."}, 15},
	{"dov", store.Trainee{Name: "Dov Achterman", Stance: "orthodox", Band: "beginner", AgeBand: "adult", Height: metres(1.78), Reach: metres(1.74), Notes: "Left wrist was strained in spring; soft work on that side."}, 16},
}

type bag struct {
	key, name string
	rig.Rig
	rig.Place
}

var bags = []bag{
	{"quay", "Quay bag", rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.80, BoardHeight: 1.95}, rig.Place{RatedLoad: 40}},
	{"lantern", "Big lantern", rig.SpeedBag{BagLength: 0.30, BagDiameter: 0.20, BagMass: 0.36, SwivelDrop: 0.025, Restitution: 0.74, BoardHeight: 2.05}, rig.Place{RatedLoad: 40}},
	{"wren", "Wren", rig.SpeedBag{BagLength: 0.19, BagDiameter: 0.13, BagMass: 0.18, SwivelDrop: 0.018, Restitution: 0.82, BoardHeight: 1.72}, rig.Place{RatedLoad: 40}},
	// Wrongly hung on purpose: off the middle of its anchors, and too slack for what it is used for.
	{"windlass", "Windlass", rig.DoubleEndBag{BallDiameter: 0.16, BallMass: 0.38, Damping: 0.05, Upper: rig.Cord{Span: 0.64, Relaxed: 0.56, Stiffness: 80}, Lower: rig.Cord{Span: 1.76, Relaxed: 1.68, Stiffness: 38}}, rig.Place{RatedLoad: 30, Beyond: 1.9, Behind: 2.6, Beside: 0.9}},
	{"gannet", "Gannet", rig.ReflexBag{BallDiameter: 0.21, BallMass: 0.75, PoleLength: 1.16, PoleMass: 0.7, Spring: 46, Damping: 0.07}, rig.Place{SpringHeight: 0.38, BaseMass: 62, BaseWidth: 0.60, PowerCap: 5}},
	{"plumb", "Plumb", rig.SlipBag{AnchorHeight: 2.85, CentreHeight: 1.44, BagDiameter: 0.18, BagMass: 0.45}, rig.Place{RatedLoad: 25, Behind: 2.4, Beyond: 2.2, Beside: 1.5}},
	{"bollard", "Bollard", rig.HangingBag{Shape: "cylinder", Mass: 42, Length: 1.25, Diameter: 0.36, Chain: 0.95, AnchorHeight: 2.85}, rig.Place{RatedLoad: 400, Beyond: 2.1, Behind: 3, Beside: 1.8}},
	{"buoy", "Buoy", rig.HangingBag{Shape: "ball", Mass: 28, Diameter: 0.46, Chain: 1.1, AnchorHeight: 2.85}, rig.Place{RatedLoad: 300}},
}

// given is a drill of a trainee on a rung of the ladder, with the days before today on which it was run.
type given struct {
	person, bag, rung string
	drill.Plan
	name string
	days []int
}

func basic(t drill.Technique, first drill.Hand, perHand int, tempo, work float64) drill.Drill {
	return drill.Drill{Technique: t, FirstHand: first, PerHand: perHand, Rebounds: 3, StrikeAngle: 25, Tempo: tempo, Work: work, Calls: true}
}

var givens = []given{
	{"ines", "quay", "speed.five", basic(drill.OneHand, drill.Rear, 5, 116, 60), "", []int{13, 11, 9, 6, 4, 2}},
	{"tobi", "wren", "speed.rear", basic(drill.OneHand, drill.Rear, 0, 84, 30), "First touches, rear hand", []int{9, 4}},
	{"greta", "lantern", "speed.alternating", basic(drill.Alternating, drill.Lead, 0, 104, 60), "", []int{13, 10, 8, 3, 1}},
	{"yusuf", "quay", "speed.three", basic(drill.OneHand, drill.Rear, 3, 150, 90), "", []int{11, 8, 5, 4, 1}},
	{"lerato", "wren", "speed.alternating", basic(drill.Alternating, drill.Lead, 0, 178, 120), "Hand after hand, quick", []int{12, 7, 5, 1}},
	{"dov", "lantern", "speed.five", basic(drill.OneHand, drill.Lead, 5, 100, 45), "Five a side, soft", []int{10, 6, 3}},
	{"dov", "quay", "", basic(drill.Alternating, drill.Rear, 0, 118, 60), "", nil},
	{"yusuf", "bollard", "hanging.long", line("1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!", drill.Freely, 2.5, 120), "Thirteen moves", []int{9, 3}},
	{"lerato", "gannet", "reflex.two", line("1-2", drill.OnReturns, 2, 60), "One-two on the pole", []int{6}},
	{"dov", "plumb", "slip.both", line("slip lead - 3 - slip rear - 2", drill.OnReturns, 2, 60), "Slip and answer", nil},
}

// line is a combination drill.
func line(text string, landing drill.Landing, pause, work float64) drill.Combination {
	return drill.Combination{Text: text, Stance: combo.Orthodox, Landing: landing, Pace: drill.Combining, Pause: pause, Work: work, Guidance: drill.Fading}
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
		if p.WeeksDays == "" {
			p.WeeksDays, p.WeeksRounds, p.WeeksMost, p.Sport = "2,4", 4, 8, "boxing"
		}
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
		doc, err := json.Marshal(b.Rig)
		if err != nil {
			return err
		}
		place, err := json.Marshal(b.Place)
		if err != nil {
			return err
		}
		row := store.Rig{Name: b.name, Kind: string(b.Kind()), Doc: doc, Place: place}
		if err := g.AddRig(&row); err != nil {
			return err
		}
		rigs[b.key] = row
	}
	for i, d := range givens {
		doc, err := json.Marshal(d.Plan)
		if err != nil {
			return err
		}
		row := store.Drill{Name: d.name, RigID: rigs[d.bag].ID, TraineeID: trainees[d.person].ID, Doc: doc, Rung: d.rung, CreatedAt: now.AddDate(0, 0, -14).Add(time.Duration(i) * time.Minute)}
		if row.Name == "" {
			row.Name = d.Plan.Name()
		}
		if err := g.AddDrill(&row); err != nil {
			return err
		}
		if err := before(g, coach, trainees[d.person], rig.Kind(rigs[d.bag].Kind), d.rung, now); err != nil {
			return err
		}
		for n, day := range d.days {
			at := evening(now, day, i)
			progress := float64(n) / math.Max(1, float64(len(d.days)-1))
			if err := round(g, coach, row, d.Plan, rigs[d.bag], trainees[d.person], at, progress); err != nil {
				return fmt.Errorf("%s on day %d: %w", row.Name, -day, err)
			}
		}
	}
	return known(g, trainees, now)
}

// before says that the rungs under the one somebody begins with were passed before the log began.
func before(g *store.Gym, coach store.Coach, p person, kind rig.Kind, rung string, now time.Time) error {
	for _, r := range ladder.Rungs(kind, ladder.BasicFirst) {
		if rung == "" || r.Key == rung {
			return nil
		}
		d := store.Decision{TraineeID: p.ID, BagKind: string(kind), Rung: r.Key, Choice: string(ladder.Skip), Reason: "done before the log began", Coach: coach.Name, CreatedAt: now.AddDate(0, 0, -14)}
		if err := g.AddDecision(&d); err != nil {
			return err
		}
	}
	return nil
}

// known is what tests and talk have brought out: hands at a pad, reactions, a wrist that has healed.
func known(g *store.Gym, trainees map[string]person, now time.Time) error {
	tested := func(key, figure string, value, spread float64) store.Finding {
		return store.Finding{TraineeID: trainees[key].ID, Figure: figure, Value: value, Spread: spread, Origin: string(trainee.Tested), Note: "at the pad", FoundAt: now.AddDate(0, 0, -9)}
	}
	err := g.AddFindings([]store.Finding{
		tested("ines", "alternate", 0.24, 0.006), tested("ines", "sameHand", 0.41, 0.010), tested("ines", "sound", 0.182, 0.006), tested("ines", "sight", 0.224, 0.008),
		tested("yusuf", "alternate", 0.16, 0.004), tested("yusuf", "sameHand", 0.29, 0.006), tested("greta", "sight", 0.241, 0.009),
	})
	if err != nil {
		return err
	}
	wrist := store.Caution{TraineeID: trainees["dov"].ID, Kind: "wrist", Note: "strained in spring, left", SetBy: "Maren Okafor-Lind", CreatedAt: now.AddDate(0, 0, -60)}
	if err := g.AddCaution(&wrist); err != nil {
		return err
	}
	return g.LiftCaution(wrist.ID, "the physiotherapist")
}

// evening is the time of the round of drill i so many days ago: classes begin at half past five.
func evening(now time.Time, daysAgo, i int) time.Time {
	d := now.UTC().AddDate(0, 0, -daysAgo)
	return time.Date(d.Year(), d.Month(), d.Day(), 17, 30, 0, 0, time.UTC).Add(time.Duration(i) * 7 * time.Minute)
}

// round runs one round as the product does, with the stand-in in place of the trainee. progress goes from 0, the first
// of the two weeks' rounds, to 1: by then spread and misses are down by a third.
func round(g *store.Gym, coach store.Coach, row store.Drill, plan drill.Plan, rigRow store.Rig, p person, at time.Time, progress float64) error {
	bag, err := rig.Read(input.Parse(rigRow.Doc))
	if err != nil {
		return err
	}
	on := drill.Floor{Bag: bag, Ability: trainee.Start(trainee.Band(p.Band)), Seed: p.seed}
	run, err := server.NewRunRow(row, plan, rigRow, on, drill.Simulated, "")
	if err != nil {
		return err
	}
	none := int64(0)
	run.CoachID, run.Zone, run.LatencyUS, run.CreatedAt = &coach.ID, gym.Zone, &none, at
	run.IntakeHash = fmt.Sprintf("demo %s %s", row.ID, at.Format(time.RFC3339)) // no key hashes to this
	if err := g.AddRun(&run); err != nil {
		return err
	}
	timeline, err := plan.Lay(on)
	if err != nil {
		return err
	}
	who := standin.Like(p.Band)
	who.Timing *= 1.2 - 0.4*progress
	who.Miss *= 1.3 - 0.6*progress
	seed := p.seed*1000 + uint64(at.YearDay())
	var own standin.Bag
	if timeline.Clock == drill.ByBag {
		if own, err = standin.Before(bag, plan, timeline, seed); err != nil {
			return err
		}
	}
	var hits []store.Hit
	for i, h := range who.Play(standin.Strikes(timeline, plan, bag.Kind()), own, timeline.End.Seconds(), seed).Hits {
		hit := store.Hit{Device: "stand-in", Seq: i, AtUS: int64(math.Round(h.At * 1e6)), Hand: &h.Hand}
		if h.Launch > 0 {
			hit.Launch = &h.Launch
		}
		hits = append(hits, hit)
	}
	if _, err := g.AddHits(run.ID, hits, nil); err != nil {
		return err
	}
	stopped := at.Add(time.Duration(timeline.End) * time.Microsecond)
	run, err = g.UpdateRun(run.ID, func(r *store.Run) error {
		r.Ending = store.AtBell
		r.State, r.ClockUS, r.StartedAt, r.EndedAt, r.SeenAt = store.RunDone, int64(timeline.End), &at, &stopped, stopped
		return nil
	})
	if err != nil {
		return err
	}
	return server.Summarise(g, run)
}
