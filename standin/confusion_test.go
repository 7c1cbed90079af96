package standin_test

import (
	"fmt"
	"iter"
	"math"
	"os"
	"sort"
	"strconv"
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
	case drill.CombinationDrill:
		d.Work = work
		return d
	}
	return p
}

func beaten(d drill.SpeedBagDrill) drill.SpeedBagDrill {
	d.Clock = drill.ByBeat
	return d
}

func settled(text string) drill.CombinationDrill {
	c := thrown(text)
	c.Rhythm, c.Pace, c.Pause = drill.NoReturn, drill.Flow, 0.5
	return c
}

func paused(c drill.CombinationDrill, pause float64) drill.CombinationDrill {
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

// rounds are judged rounds of somebody on a floor.
func (f floor) rounds(t testing.TB, who standin.Person, n int) iter.Seq[fault.Case] {
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
	return func(yield func(fault.Case) bool) {
		for seed := range uint64(n) {
			var own standin.Bag
			if line.Clock == drill.ByBag {
				if own, err = standin.Before(f.bag, plan, line, seed+77); err != nil {
					t.Error(err)
					return
				}
			}
			p := who.Play(strikes, own, line.End.Seconds(), seed+1)
			var hits []judge.Hit
			for _, h := range (standin.Coarse{Deaf: f.deaf}).Feel(p.Hits, seed) {
				hits = append(hits, judge.Hit{At: h.At, Hand: drill.Hand(h.Hand), Launch: h.Launch})
			}
			round := fault.Case{Kind: f.bag.Kind(), Judgement: judge.JudgeRound(line, hits, line.End,
				judge.Source{Latency: true, ForceSpread: who.Force})}
			for _, m := range p.Marks {
				round.Marks = append(round.Marks, fault.Observation{At: m.At, What: fault.Code(m.Kind)})
			}
			if !yield(round) {
				return
			}
		}
	}
}

// first is the fault that a round names first, or nobody.
func first(r fault.Case) string {
	if found := fault.Find(r); len(found) > 0 {
		return string(found[0].Code)
	}
	return nobody
}

// confused counts the faults that were named first in rounds with a fault of a number of times its floor.
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

// confusedRounds is the number of rounds that each fault is planted in; nobody stands for none that is named.
const confusedRounds, nobody = 200, "none"

// usual is the time (s) from strike to strike on a floor, 0 where the bag does not set it.
func (f floor) usual(t testing.TB) (usual float64) {
	for r := range f.rounds(t, faultless(), 1) {
		if r.Followed != nil {
			usual = fault.Usual(r)
		}
	}
	return usual
}

// planted is somebody who makes a fault of so many times its floor.
func planted(code string, times, usual float64) standin.Person {
	who := ordinary()
	who.Faults = []standin.Fault{standin.Sized(fault.Code(code), times, usual)}
	return who
}

// confusion plays every fault of a floor, and none, at every size and in every round.
func (f floor) confusion(t testing.TB) []confused {
	var list []confused
	play := func(code string, size float64, who standin.Person) {
		c := confused{f.name, code, size, map[string]int{}}
		for r := range f.rounds(t, who, confusedRounds) {
			c.first[first(r)]++
		}
		list = append(list, c)
	}
	play(nobody, 0, ordinary())
	usual := f.usual(t)
	for _, code := range strings.Fields(f.faults) {
		for _, times := range []float64{1, 2, 4} {
			play(code, times, planted(code, times, usual))
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

// Each fault is planted at twice its floor, every other at four times as well, on every bag that can have it, with a
// source that can show it: it is the first that is named, nine times in ten; where nothing was planted one round in
// twenty names any. Rounds are played until that is certain, and may not gainsay the table of docs/faults.md, for which
// -update plays 200 of each.
func TestConfusion(t *testing.T) {
	if *update {
		documented(t, "../docs/faults.md", "confusion", confusionTable(t))
	}
	text, err := os.ReadFile("../docs/faults.md")
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range floors {
		t.Run(f.name, func(t *testing.T) {
			t.Parallel()
			_, told, _ := strings.Cut(string(text), "\n### "+upper(f.name)+"\n")
			clean, table, _ := strings.Cut(told, " % name one.")
			quiet := wald{bad: 0.90, good: 0.98}
			for r := range f.rounds(t, ordinary(), 2*confusedRounds) {
				if !quiet.add(first(r) == nobody) {
					break
				}
			}
			if was := 1 - number(clean[strings.LastIndex(clean, " ")+1:])/100; !quiet.holds() || !quiet.near(was) {
				t.Errorf("%d of %d clean rounds name none, %.3f are documented", quiet.held, quiet.n, was)
			}
			usual := f.usual(t)
			for i, code := range strings.Fields(f.faults) {
				t.Run(code, func(t *testing.T) {
					t.Parallel()
					_, row, _ := strings.Cut(table, "\n| "+code+" |")
					cells := strings.Split(row, "|")
					// What shows at twice its floor shows at four times.
					for k, times := range []float64{2, 4}[:1+i%2] {
						named := wald{bad: 0.80, good: 0.96}
						for r := range f.rounds(t, planted(code, times, usual), 2*confusedRounds) {
							if !named.add(first(r) == code) {
								break
							}
						}
						if was := number(cells[1+k]) / 100; !named.holds() || !named.near(was) {
							t.Errorf("at %g times its floor it is first in %d of %d, in %.2f of all by the table", times,
								named.held, named.n, was)
						}
					}
				})
			}
		})
	}
}

// number returns the number in a cell of a table; NaN where there is none.
func number(cell string) float64 {
	v, err := strconv.ParseFloat(strings.TrimSpace(cell), 64)
	if err != nil {
		return math.NaN()
	}
	return v
}

// confusionTable returns the table of docs/faults.md.
func confusionTable(t testing.TB) string {
	tables := make([][]confused, len(floors))
	var wait sync.WaitGroup
	for i, f := range floors {
		wait.Go(func() { tables[i] = f.confusion(t) })
	}
	wait.Wait()
	var text strings.Builder
	for _, table := range tables {
		clean := table[0]
		fmt.Fprintf(&text, "\n### %s\n\nOf clean rounds %.1f %% name one.\n\n", upper(clean.floor),
			100*float64(confusedRounds-clean.first[nobody])/confusedRounds)
		text.WriteString("| planted | 1 × | 2 × | 4 × | named first instead, at 2 × or 4 × |\n|---|---|---|---|---|\n")
		for k := 1; k+2 < len(table); k += 3 {
			one, two, four := table[k], table[k+1], table[k+2]
			instead := two.others()
			if more := four.others(); more != "" {
				instead = strings.TrimPrefix(instead+"; "+more, "; ")
			}
			fmt.Fprintf(&text, "| %s | %s | %s | %s | %s |\n", one.planted, one.share(one.planted),
				two.share(one.planted), four.share(one.planted), instead)
		}
	}
	return text.String()
}

func upper(text string) string { return strings.ToUpper(text[:1]) + text[1:] }
