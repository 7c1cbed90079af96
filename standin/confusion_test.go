package standin_test

import (
	"fmt"
	"sort"
	"strings"
	"sync"
	"testing"

	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/judge"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/standin"
)

// floor is a drill on a bag with a source, and the faults that somebody can make there.
type floor struct {
	name   string
	bag    rig.Rig
	plan   drill.Plan
	deaf   bool
	faults string
}

func lasting(p drill.Plan, work float64) drill.Plan {
	switch d := p.(type) {
	case drill.SpeedBagDrill:
		d.Work = work
		return d
	case drill.Combination:
		d.Work = work
		return d
	}
	return p
}

func beaten(d drill.SpeedBagDrill) drill.SpeedBagDrill {
	d.Clock = drill.ByBeat
	return d
}

func settled(text string) drill.Combination {
	c := thrown(text)
	c.Rhythm, c.Pace, c.Pause = drill.NoReturn, drill.Flow, 0.5
	return c
}

func paused(c drill.Combination, pause float64) drill.Combination {
	c.Pause = pause
	return c
}

var floors = []floor{
	{"speed bag, five a side", speed, technique(drill.OneHand, 5, 3, 25, 112), false,
		"waiting loopsGrow chasing tooHard changeGap weakHand fading lost"},
	{"speed bag, five a side, times alone", speed, technique(drill.OneHand, 5, 3, 25, 112), true,
		"changeGap weakHand fading lost"},
	{"speed bag, five a side, by the beat", speed, beaten(technique(drill.OneHand, 5, 3, 25, 112)), true,
		"waiting chasing changeGap weakHand lost"},
	{"speed bag, double punch", speed, technique(drill.DoublePunch, 0, 3, 25, 112), false,
		"heardAsTwo waiting chasing tooHard fading lost"},
	{"double-end bag, slip and answer", cords, thrown("1:2 2:2 1:2 2 - slip lead - 3:2 2"), false,
		"waiting chasing tooHard crowded reaching noDefence lateAfterDefence offLine weakHand fading lost"},
	{"reflex bag, slip and answer", pole, thrown("1-2-1-2 - slip lead - 3-2"), false,
		"waiting chasing tooHard crowded reaching noDefence lateAfterDefence offLine weakHand fading lost"},
	{"reflex bag, one at a time", pole, settled("1-2"), false, "rushing"},
	{"hanging bag, as it comes", heavy, thrown("2-1-2-1-2-1"), false, "chasing crowded reaching outbound tooHard fading lost"},
	{"hanging bag, freely", heavy, paused(freely("1-2-3 - slip lead - 3-2 - step back", 150), 15), true, "onePace"},
	{"slip bag, slip and answer", rope, thrown("slip lead - 3-2"), true, "waiting chasing lost offLine"},
}

// watched judges rounds of somebody on a floor.
func (f floor) watched(t testing.TB, who standin.Person, n int, see func(fault.Round)) {
	on := drill.Floor{Bag: f.bag, Ability: trainee.Start(trainee.Intermediate), Seed: 1}
	plan, err := lasting(f.plan, 180).For(on)
	if err != nil {
		t.Fatal(f.name, err)
	}
	line, err := plan.Lay(on)
	if err == nil {
		err = drill.Hang(&line, plan, on)
	}
	if err != nil {
		t.Fatal(f.name, err)
	}
	strikes := standin.Strikes(line, plan, f.bag.Kind())
	for seed := range uint64(n) {
		var own standin.Bag
		if line.Clock == drill.ByBag {
			if own, err = standin.Before(f.bag, plan, line, seed+77); err != nil {
				t.Fatal(err)
			}
		}
		p := who.Play(strikes, own, line.End.Seconds(), seed+1)
		var hits []judge.Hit
		for _, h := range (standin.Coarse{Deaf: f.deaf}).Feel(p.Hits, seed) {
			hits = append(hits, judge.Hit{At: h.At, Hand: drill.Hand(h.Hand), Launch: h.Launch})
		}
		round := fault.Round{Kind: f.bag.Kind(), Round: judge.JudgeRound(line, hits, line.End,
			judge.Source{Latency: true, ForceSpread: who.Force})}
		for _, m := range p.Marks {
			round.Marks = append(round.Marks, fault.Mark{At: m.At, What: fault.Code(m.Kind)})
		}
		see(round)
	}
}

// confused is what was named first in rounds with a fault of so many times its floor: how often each.
type confused struct {
	floor, planted string
	size           float64
	first          map[string]int
}

// count gives the table its cell.
func (c confused) share(code string) string {
	return fmt.Sprintf("%.0f", 100*float64(c.first[code])/confusedRounds)
}

// others lists what else was named first, the most often first.
func (c confused) others() string {
	var list []string
	for code, n := range c.first {
		if code != c.planted && code != nobody && n > confusedRounds/100 {
			list = append(list, code)
		}
	}
	sort.Slice(list, func(i, j int) bool {
		return c.first[list[i]] > c.first[list[j]] || c.first[list[i]] == c.first[list[j]] && list[i] < list[j]
	})
	for i, code := range list {
		list[i] = fmt.Sprintf("%s %s", code, c.share(code))
	}
	return strings.Join(list, ", ")
}

// confusedRounds is how many rounds each fault is planted in; nobody stands for none that is named.
const confusedRounds, nobody = 200, "none"

// confusion plays every fault of a floor, and none.
func (f floor) confusion(t testing.TB) []confused {
	usual := 0.0
	f.watched(t, faultless(), 1, func(r fault.Round) {
		if r.Followed != nil {
			usual = fault.Usual(r)
		}
	})
	var list []confused
	play := func(code string, size float64, faults ...standin.Fault) {
		who := ordinary()
		who.Faults = faults
		c := confused{f.name, code, size, map[string]int{}}
		f.watched(t, who, confusedRounds, func(r fault.Round) {
			named := nobody
			if found := fault.Find(r); len(found) > 0 {
				named = string(found[0].Code)
			}
			c.first[named]++
		})
		list = append(list, c)
	}
	play(nobody, 0)
	for _, code := range strings.Fields(f.faults) {
		for _, times := range []float64{1, 2, 4} {
			play(code, times, standin.Sized(fault.Code(code), times, usual))
		}
	}
	return list
}

// ordinary is somebody who scatters and misses one strike in twenty-five, and does nothing else wrong.
func ordinary() standin.Person {
	who := faultless()
	who.Miss = 0.04
	return who
}

// Each fault is planted at once, twice and four times its floor on every bag that can have it, with a source that can
// show it. At twice and four times it is the first that is named, nine times in ten; where nothing was planted one
// round in twenty names any.
func TestConfusion(t *testing.T) {
	tables := make([][]confused, len(floors))
	var wait sync.WaitGroup
	for i, f := range floors {
		wait.Go(func() { tables[i] = f.confusion(t) })
	}
	wait.Wait()
	var text strings.Builder
	for _, table := range tables {
		clean := table[0]
		named := confusedRounds - clean.first[nobody]
		if named > confusedRounds/20 {
			t.Errorf("%s: %d of %d clean rounds name a fault: %v", clean.floor, named, confusedRounds, clean.first)
		}
		fmt.Fprintf(&text, "\n### %s\n\nOf clean rounds %.1f %% name one.\n\n", upper(clean.floor),
			100*float64(named)/confusedRounds)
		text.WriteString("| planted | 1 × | 2 × | 4 × | named first instead, at 2 × or 4 × |\n|---|---|---|---|---|\n")
		for k := 1; k+2 < len(table); k += 3 {
			one, two, four := table[k], table[k+1], table[k+2]
			instead := two.others()
			if more := four.others(); more != "" {
				instead = strings.TrimPrefix(instead+"; "+more, "; ")
			}
			fmt.Fprintf(&text, "| %s | %s | %s | %s | %s |\n", one.planted, one.share(one.planted),
				two.share(one.planted), four.share(one.planted), instead)
			for _, c := range []confused{two, four} {
				if c.first[c.planted] < confusedRounds*9/10 {
					t.Errorf("%s: %s at %g times its floor is first in %d of %d: %v", c.floor, c.planted, c.size,
						c.first[c.planted], confusedRounds, c.first)
				}
			}
		}
	}
	documented(t, "../docs/faults.md", "confusion", text.String())
}

func upper(text string) string { return strings.ToUpper(text[:1]) + text[1:] }
