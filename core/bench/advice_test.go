package bench

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

// gym makes up rigs as they hang in gyms: sizes as they are sold and hung, from memory.
type gym struct{ *rand.Rand }

func (g gym) from(low, high float64) float64 { return low + (high-low)*g.Float64() }

// bag makes up one of six sorts, which stand for the five kinds.
func (g gym) bag(sort int) rig.Rig {
	for {
		var r rig.Rig
		switch sort {
		case 0:
			length := g.from(0.18, 0.36)
			r = rig.SpeedBag{BagLength: length, BagDiameter: length * g.from(0.58, 0.72), BagMass: g.from(0.15, 0.6),
				SwivelDrop: g.from(0.01, 0.03), Restitution: g.from(0.7, 0.88), BoardHeight: g.from(1.7, 2.2)}
		case 1:
			span := g.from(0.5, 1.2)
			cord := rig.Cord{Span: span, Relaxed: span * g.from(0.5, 0.95), Stiffness: g.from(60, 400)}
			r = rig.DoubleEndBag{BallDiameter: g.from(0.12, 0.25), BallMass: g.from(0.15, 0.7), Upper: cord,
				Lower: cord, Damping: g.from(0.02, 0.08)}
		case 2:
			r = rig.ReflexBag{BallDiameter: g.from(0.15, 0.25), BallMass: g.from(0.3, 1.2),
				PoleLength: g.from(0.8, 1.3), PoleMass: g.from(0.3, 1.2), Spring: g.from(15, 120),
				Damping: g.from(0.03, 0.1)}
		case 3:
			r = rig.SlipBag{AnchorHeight: g.from(2.1, 4), CentreHeight: g.from(1.25, 1.75),
				BagDiameter: g.from(0.1, 0.25), BagMass: g.from(0.2, 1.5)}
		case 4:
			r = rig.HangingBag{Shape: "cylinder", Mass: g.from(15, 60), Length: g.from(0.7, 1.8),
				Diameter: g.from(0.28, 0.42), Chain: g.from(0.1, 1), AnchorHeight: g.from(2.4, 4)}
		case 5:
			r = rig.HangingBag{Shape: "ball", Mass: g.from(15, 45), Diameter: g.from(0.35, 0.55),
				Chain: g.from(0.1, 1.2), AnchorHeight: g.from(2.4, 3.5)}
		}
		if r.Check() == nil {
			return r
		}
	}
}

// delivered applies each advice of an answer to its question, measures of the cords together, and asks again. It
// names what is not delivered.
func delivered(q Question, a Answer) (offered int, broken []string) {
	var cords []rig.Setting
	for i, c := range a.Strike.Change {
		again := q
		switch c.What {
		case "tempo":
			again.Tempo = &c.To
		case "rebounds":
			again.Meeting.Rebounds = int(c.To)
		default:
			settings := []rig.Setting{{Field: c.What, To: c.To}}
			if q.Rig.Kind() == rig.DoubleEnd {
				cords = append(cords, settings[0])
				if next := i + 1; next < len(a.Strike.Change) && strings.Contains(a.Strike.Change[next].What, ".") {
					continue
				}
				settings = cords
			}
			changed, _, err := rig.Apply(q.Rig, q.Place, settings)
			if err != nil {
				broken = append(broken, fmt.Sprintf("%+v: %v", c, err))
				continue
			}
			again.Rig = changed
		}
		offered++
		then, err := Ask(again)
		switch {
		case err != nil:
			broken = append(broken, fmt.Sprintf("%+v: %v", c, err))
		case !then.Strike.Feasible:
			broken = append(broken, fmt.Sprintf("%+v: %s", c, words.Joined(then.Said)))
		case q.Rig.Kind() == rig.Slip && then.Strike.Launch < 0.2:
			broken = append(broken, fmt.Sprintf("%+v: a pull of %.4f m", c, then.Strike.Launch))
		case q.Rig.Kind() != rig.Slip && (then.Strike.FistSpeed > q.Ability.FistSpeed*1.001 ||
			then.Strike.FistSpeed < 0.4):
			broken = append(broken, fmt.Sprintf("%+v: a fist of %.2f m/s of %.2f", c, then.Strike.FistSpeed,
				q.Ability.FistSpeed))
		case math.Abs(then.SetUp.Move) > math.Abs(a.SetUp.Move)+0.031 && then.SetUp.Needs == "" &&
			q.Rig.Kind() != rig.Speed:
			broken = append(broken, fmt.Sprintf("%+v: hangs %.2f m off for them, %.2f m before", c, then.SetUp.Move,
				a.SetUp.Move))
		}
		switch b := again.Rig.(type) {
		case rig.SlipBag:
			if b.AnchorHeight > q.Rig.(rig.SlipBag).AnchorHeight+1e-9 {
				broken = append(broken, fmt.Sprintf("%+v: through the roof", c))
			}
		case rig.HangingBag:
			if tall := b.Length + map[rig.Form]float64{
				rig.Round: b.Diameter}[b.Shape]; b.AnchorHeight-b.Chain-tall < 0.1 && again.Rig != q.Rig {
				broken = append(broken, fmt.Sprintf("%+v: on the floor", c))
			}
		}
	}
	return offered, broken
}

// Four hundred made-up rigs, people and tempos, as many of each sort of bag, count and skill as of any other, half of
// the tempos near what the bag does: whatever is advised is done to the letter, and then this person reaches the tempo
// on the same question, with a bag that hangs there.
func TestAdviceDelivers(t *testing.T) {
	g := gym{rand.New(rand.NewPCG(11, 2000))}
	type row struct{ asked, within, advised, offered, broken, silent int }
	table := map[rig.Kind]*row{}
	bands := []trainee.Band{trainee.FirstTimer, trainee.Beginner, trainee.Intermediate, trainee.Advanced,
		trainee.Expert}
	for n := range 400 {
		r := g.bag(n % 6)
		tempo := math.Exp(g.from(math.Log(12), math.Log(650)))
		count := 1 + n/12%5
		if a, err := r.AtFist(3, rig.Meeting{Rebounds: count}); err == nil && n/6%2 == 0 {
			tempo = a.Tempo * g.from(0.6, 1.5)
		}
		q := Question{Rig: r, Ability: trainee.Start(bands[n/60%len(bands)]), Meeting: rig.Meeting{Rebounds: count},
			Tempo: &tempo}
		if g.IntN(4) > 0 {
			q.User = User{"Milo", rig.Body{Height: g.from(1.35, 2)}}
		}
		if table[r.Kind()] == nil {
			table[r.Kind()] = &row{}
		}
		now := table[r.Kind()]
		now.asked++
		a, err := Ask(q)
		if err != nil {
			t.Fatalf("%+v, %+v: %v", r, q.Meeting, err)
		}
		if a.Strike.Feasible {
			now.within++
			if a.Strike.FistSpeed > q.Ability.FistSpeed*1.001 || 60/tempo < 0.7*q.Ability.Alternate &&
				r.Kind() != rig.Slip {
				t.Errorf("%s at %.0f a minute is praised: %s", r.Kind(), tempo, words.Joined(a.Said))
			}
			continue
		}
		now.advised++
		offered, broken := delivered(q, a)
		now.offered, now.broken = now.offered+offered, now.broken+len(broken)
		if offered == 0 {
			now.silent++
		}
		for _, b := range broken[:min(3, len(broken))] {
			t.Errorf("%s at %.0f a minute, %d: %s", r.Kind(), tempo, q.Meeting.Rebounds, b)
		}
	}
	t.Logf("%-10s %6s %7s %12s %14s %13s %14s", "kind", "asked", "within", "out of reach", "advice offered",
		"not delivered", "nothing to say")
	for _, k := range []rig.Kind{rig.Speed, rig.DoubleEnd, rig.Reflex, rig.Slip, rig.Hanging} {
		r := table[k]
		t.Logf("%-10s %6d %7d %12d %14d %13d %14d", k, r.asked, r.within, r.advised, r.offered, r.broken, r.silent)
	}
}

// What the checks of a bag advise is done to the letter as well, and then what was found is not found any more.
func TestRemediesDeliver(t *testing.T) {
	g := gym{rand.New(rand.NewPCG(12, 500))}
	offered, broken := map[string]int{}, map[string]int{}
	for range 500 {
		r := g.bag(g.IntN(6))
		q := Question{Rig: r, User: User{"Milo", rig.Body{Height: g.from(1.35, 2)}},
			Ability: trainee.Start(trainee.Bands[g.IntN(5)]), Meeting: rig.Meeting{Rebounds: 1}}
		if r.Kind() == rig.Reflex {
			q.Place.BaseMass, q.Place.BaseWidth = g.from(5, 60), 0.5
		}
		a, err := Ask(q)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range a.Findings {
			if len(f.Change) == 0 {
				continue
			}
			key := string(r.Kind()) + " " + f.Code
			offered[key]++
			again := q
			if again.Rig, again.Place, err = rig.Apply(q.Rig, q.Place, f.Change); err != nil {
				broken[key]++
				t.Errorf("%s: %+v: %v", key, f.Change, err)
				continue
			}
			then, err := Ask(again)
			if err != nil {
				broken[key]++
				t.Errorf("%s: %+v: %v", key, f.Change, err)
				continue
			}
			for _, still := range then.Findings {
				if still.Code == f.Code && still.Weight == f.Weight {
					broken[key]++
					t.Errorf("%s: after %+v still %.3g for %.3g", key, f.Change, still.Figure, still.Limit)
				}
			}
		}
	}
	for key, n := range offered {
		t.Logf("%-28s offered %4d, not delivered %d", key, n, broken[key])
	}
}
