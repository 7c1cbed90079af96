package standin_test

import (
	"math"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/judge"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/standin"
)

var cord = rig.Cord{Span: 0.75, Relaxed: 0.577, Stiffness: 150}

// bags is one of each kind, with a drill for it.
var bags = []struct {
	bag  rig.Rig
	plan drill.Plan
}{
	{rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.8},
		drill.Drill{Technique: drill.OneHand, FirstHand: drill.Rear, PerHand: 5, Rebounds: 3, StrikeAngle: 25, Tempo: 125, Work: 20, Calls: true}},
	{rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04}, thrown("1:2 2:2 1")},
	{rig.ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50, Damping: 0.06}, thrown("1-2 - slip lead - 3")},
	{rig.SlipBag{AnchorHeight: 2.6, CentreHeight: 1.55, BagDiameter: 0.2, BagMass: 0.5}, thrown("slip lead - 3-2")},
	{rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5, AnchorHeight: 2.7}, freely("1-2-3 - step back - 2", 200)},
}

func thrown(text string) drill.Combination {
	return drill.Combination{Text: text, Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Combining, Pause: 1, Work: 20, Guidance: drill.Alone}
}

func freely(text string, tempo float64) drill.Combination {
	c := thrown(text)
	c.Landing, c.Tempo = drill.Freely, tempo
	return c
}

// The predicted clean rate against ten thousand rounds of the stand-in, judged as rounds are, on each kind of bag: within two points.
// The stand-in has the models' figures and its own way of hitting with them; matching, gates and extra hits are the judge's.
func TestFitAgainstSimulatedRounds(t *testing.T) {
	rounds := 10_000
	if testing.Short() {
		rounds = 500
	}
	for _, b := range bags {
		t.Run(string(b.bag.Kind()), func(t *testing.T) {
			t.Parallel()
			for _, band := range []trainee.Band{trainee.FirstTimer, trainee.Advanced} {
				a := trainee.Start(band)
				a.Bias = 0.006
				line, err := b.plan.Lay(drill.Floor{Bag: b.bag, Ability: trainee.Start(trainee.Intermediate), Seed: 1})
				if err != nil {
					t.Fatal(err)
				}
				fit := level.For(b.plan, line, b.bag.Kind(), a, true)
				strikes := standin.Strikes(line, b.plan, b.bag.Kind())
				person := standin.Of(a)
				clean, longest := 0.0, 0.0
				for seed := range rounds {
					var hits []judge.Hit
					for _, h := range person.Hits(strikes, uint64(seed)+1) {
						hits = append(hits, judge.Hit{At: h.At, Hand: drill.Hand(h.Hand)})
					}
					r := judge.JudgeRound(line, hits, line.End, judge.Source{Latency: true})
					clean += r.CleanShare()
					longest += float64(r.Longest)
				}
				n := float64(rounds)
				t.Logf("%s: %.1f %% predicted, %.1f %% hit; longest run %.1f and %.1f; weakest: %s", band, 100*fit.Clean, 100*clean/n, fit.Longest, longest/n, fit.Weakest.Why)
				if off := math.Abs(fit.Clean - clean/n); off > 0.02 {
					t.Errorf("%s: %.1f %% predicted, %.1f %% hit", band, 100*fit.Clean, 100*clean/n)
				}
			}
		})
	}
}
