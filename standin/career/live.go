package main

import (
	"math"
	"time"

	"melodromos/core/drill"
	"melodromos/core/judge"
	"melodromos/core/ladder"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/standin"
)

// lived is a round of the career.
type lived struct {
	day   float64
	index int
	move  ladder.Move
	ladder.Round
	through       bool
	level.Outcome         // beside what was said of it beforehand
	models        float64 // what the models alone said: rounds are learned from by that
}

var cord = rig.Cord{Span: 0.80, Relaxed: 0.70, Stiffness: 85}

var cords = rig.DoubleEndBag{BallDiameter: 0.20, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.05}

// learner becomes more even by the power law of practice (Newell & Rosenbloom 1981; the exponent is assumed).
func learner(rounds int) trainee.Ability {
	a := trainee.Start(trainee.FirstTimer)
	better := math.Pow(1+float64(rounds)/8, -0.36)
	a.Timing = 0.03 + 0.09*better
	a.Miss = 0.01 + 0.09*better
	a.Alternate = 0.20 + 0.10*better
	a.SameHand = 0.34 + 0.16*better
	return a
}

// live walks a ladder: sessions on two days of each week, and half of their rounds on the rung. The seed is the learner's own.
func live(bag rig.Rig, weeks int, seed uint64) ([]lived, []ladder.Rung) {
	from := time.Date(2026, 1, 5, 0, 0, 0, 0, time.UTC)
	career := ladder.Career{Rungs: ladder.Rungs(bag.Kind(), ladder.BasicFirst), Gate: ladder.DefaultGate}
	var found []trainee.Evidence
	var list []lived
	for _, s := range ladder.DefaultWeeks(from).Plan(weeks, nil, from) {
		if s.Week >= 7 && s.Week <= 9 {
			continue // away
		}
		for n := range max(1, s.Rounds/2) {
			at := s.Day.Add(18*time.Hour + time.Duration(5*n)*time.Minute)
			career.Now = at
			p := career.Propose()
			known, _ := trainee.Estimates(trainee.FirstTimer, bag.Kind(), found, at)
			on := drill.Floor{Bag: bag, Ability: known, Seed: uint64(len(list) + 1)}
			plan, err := p.Rung.Plan(on)
			if err != nil {
				panic(err)
			}
			if p.Soft {
				plan = level.Softer(plan, on)
			}
			line, err := plan.Lay(on)
			if err != nil {
				panic(err)
			}
			if err := drill.Hang(&line, plan, on); err != nil {
				panic(err)
			}
			fit := level.For(plan, line, on, level.Told{Force: true, Latency: true, Rounds: career.On(p.Rung).Through})
			said := fit.With(level.Learn(learnable(list)))
			r, evidence := round(plan, line, on, learner(len(list)), seed+uint64(len(list)), at)
			r.Rung = p.Rung.Key
			career.Rounds = append(career.Rounds, r)
			found = append(found, evidence...)
			list = append(list, lived{at.Sub(from).Hours() / 24, p.Index, p.Move, r, career.Gate.Passes(r), level.Outcome{Predicted: said.Clean, Observed: r.Clean, Strikes: r.Planned}, fit.Clean})
		}
	}
	return list, career.Rungs
}

// learnable are the rounds so far beside what the models alone said of them, as the product learns.
func learnable(list []lived) []level.Outcome {
	out := outcomes(list)
	for i := range out {
		out[i].Predicted = list[i].models
	}
	return out
}

// outcomes are the rounds so far beside what was predicted of them.
func outcomes(list []lived) []level.Outcome {
	var out []level.Outcome
	for _, l := range list {
		out = append(out, l.Outcome)
	}
	return out
}

// round is played before a bag of its own and judged.
func round(plan drill.Plan, line drill.Timeline, on drill.Floor, who trainee.Ability, seed uint64, at time.Time) (ladder.Round, []trainee.Evidence) {
	kind := on.Bag.Kind()
	var own standin.Bag
	if line.Clock == drill.ByBag {
		var err error
		if own, err = standin.Before(on.Bag, plan, line, 7); err != nil { // the same bag each time
			panic(err)
		}
	}
	var hits []judge.Hit
	for _, h := range standin.Of(who).Play(standin.Strikes(line, plan, kind), own, line.End.Seconds(), 100+seed).Hits {
		hits = append(hits, judge.Hit{At: h.At, Hand: drill.Hand(h.Hand), Launch: h.Launch})
	}
	r := judge.JudgeRound(line, hits, line.End, judge.Source{Latency: true, ForceSpread: on.Ability.Force})
	return ladder.Round{At: at, Clean: r.Share(), Longest: r.Longest, Planned: len(r.Planned)}, trainee.FromRound(r.Heard(line, plan, kind, on.Ability, at), on.Ability)
}
