package main

import (
	"math"

	"melodromos/core/caution"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

var cord = rig.Cord{Span: 0.80, Relaxed: 0.70, Stiffness: 85}

// The bags that lives are lived on.
var (
	cords = rig.DoubleEndBag{BallDiameter: 0.20, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.05}
	board = rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.8}
	pole  = rig.ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50, Damping: 0.06}
	rope  = rig.SlipBag{AnchorHeight: 2.7, CentreHeight: 1.65, BagDiameter: 0.20, BagMass: 0.5}
	heavy = rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5, AnchorHeight: 2.7}
)

// grown returns the ability of somebody who began as a first-timer and became more even by the power law of practice
// (Newell & Rosenbloom 1981; the exponents are assumed), but no better than a share of what there is to gain.
func grown(rounds, exponent, most float64) trainee.Ability {
	a := trainee.Start(trainee.FirstTimer)
	better := 1 - math.Min(most, 1-math.Pow(1+rounds/8, -exponent))
	a.Timing = 0.03 + 0.09*better
	a.Miss = 0.01 + 0.09*better
	a.Alternate = 0.20 + 0.10*better
	a.SameHand = 0.34 + 0.16*better
	return a
}

// learner is the one of the pictures, away in weeks 7 to 9.
func learner(bag rig.Rig, seed uint64) life {
	return life{
		bags: []rig.Rig{bag}, weeks: 12, seed: seed, band: trainee.FirstTimer,
		able: func(rounds, _ int) trainee.Ability { return grown(float64(rounds), 0.36, 1) },
		away: func(week int) bool { return week >= 7 && week <= 9 },
	}
}

// told are the careers of docs/careers.md.
var told = []life{
	{
		name:  "A quick learner",
		about: "Entered as a beginner, and twice as quick to become even as most. On the double-end bag.",
		bags:  []rig.Rig{cords}, weeks: 6, seed: 3, band: trainee.Beginner,
		able: func(rounds, _ int) trainee.Ability { return grown(float64(rounds)+20, 0.72, 1) },
	},
	{
		name:  "A plateau",
		about: "A first-timer on the speed bag whose timing stops steadying at a third of what there is to gain.",
		bags:  []rig.Rig{board}, weeks: 10, seed: 11, band: trainee.FirstTimer,
		able: func(rounds, _ int) trainee.Ability { return grown(float64(rounds), 0.36, 0.33) },
	},
	{
		name:  "A year's absence",
		about: "Six weeks on the reflex bag, a year away, and back with half of what was gained lost.",
		bags:  []rig.Rig{pole}, weeks: 62, seed: 5, band: trainee.FirstTimer,
		able: func(rounds, week int) trainee.Ability {
			if week > 6 {
				return grown(float64(rounds)/3, 0.5, 1)
			}
			return grown(float64(rounds), 0.5, 1)
		},
		away: func(week int) bool { return week > 6 && week < 59 },
	},
	{
		name:  "A sore wrist",
		about: "An intermediate on the heavy bag, in a gym with a slip bag as well, with a sore wrist from the third week to the fourth.",
		bags:  []rig.Rig{heavy, rope}, weeks: 6, seed: 2, band: trainee.Intermediate,
		able: func(rounds, _ int) trainee.Ability { return trainee.Start(trainee.Intermediate) },
		held: func(week int) []caution.Type {
			if week == 3 || week == 4 {
				return []caution.Type{caution.Wrist}
			}
			return nil
		},
	},
}
