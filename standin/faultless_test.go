package standin_test

import (
	"iter"
	"regexp"
	"strings"
	"testing"

	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/judge"
	"melodromos/core/trainee"
	"melodromos/core/words"
	"melodromos/standin"
)

var faults = regexp.MustCompile(
	`Falling behind|Running ahead|Quicker by|Slower by|too coarse`)

// faultless is somebody who scatters and does nothing else.
func faultless() standin.Person {
	a := trainee.Start(trainee.Intermediate)
	a.Miss, a.Fade = 0, 0
	p := standin.PersonWith(a)
	p.Wander, p.Overlooks, p.Lose = 0, 0, 0
	return p
}

func rounds(t *testing.T, plan drill.Plan, line drill.Timeline, who standin.Person, through standin.Coarse,
	n int) iter.Seq[judge.Judgement] {
	t.Helper()
	strikes := standin.Strikes(line, plan, speed.Kind())
	return func(yield func(judge.Judgement) bool) {
		for seed := range uint64(n) {
			var own standin.Bag
			var err error
			if line.Clock == drill.ByBag {
				if own, err = standin.Before(speed, plan, line, seed); err != nil {
					t.Error(err)
					return
				}
			}
			var hits []judge.Hit
			for _, h := range through.Feel(who.Play(strikes, own, line.End.Seconds(), seed+1).Hits, seed) {
				hits = append(hits, judge.Hit{At: h.At, Hand: drill.Hand(h.Hand), Launch: h.Launch})
			}
			if !yield(judge.JudgeRound(line, hits, line.End, judge.Source{Latency: true, ForceSpread: who.Force})) {
				return
			}
		}
	}
}

func laid(t *testing.T, d drill.SpeedBagDrill) drill.Timeline {
	t.Helper()
	on := drill.Floor{Bag: speed, Ability: trainee.Start(trainee.Intermediate), Seed: 1}
	line, err := d.Lay(on)
	if err != nil {
		t.Fatal(err)
	}
	if err := drill.Hang(&line, d, on); err != nil {
		t.Fatal(err)
	}
	return line
}

// Of rounds in which nothing is wrong at most one in twenty gets any remark of a fault, of lateness or of a drift, on
// either clock.
func TestFaultlessRoundsAreLeftInPeace(t *testing.T) {
	for _, clock := range []drill.Clock{drill.ByBag, drill.ByBeat} {
		for _, deaf := range []bool{true, false} {
			d := technique(drill.OneHand, 5, 3, 25, 112)
			d.Clock = clock
			quiet := wald{bad: 0.90, good: 0.98}
			for r := range rounds(t, d, laid(t, d), faultless(), standin.Coarse{Deaf: deaf}, 400) {
				said := strings.Join(append(r.Remarks(words.Metric), r.Gist().Sentence()), " ")
				if !quiet.add(!faults.MatchString(said) && len(fault.Find(fault.Case{Judgement: r,
					Kind: speed.Kind()})) == 0) {
					break
				}
			}
			t.Logf("the %s's clock, deaf to force %v: nothing in %d of %d rounds", clock, deaf, quiet.held, quiet.n)
			if !quiet.holds() {
				t.Errorf("the %s's clock, deaf to force %v: no fault in only %d of %d rounds without one", clock, deaf,
					quiet.held, quiet.n)
			}
		}
	}
}

// A sensor that is too coarse is told from people: it is not scored, and the round says why.
func TestCoarseSensors(t *testing.T) {
	d := technique(drill.OneHand, 5, 3, 25, 112)
	line := laid(t, d)
	for name, c := range map[string]struct {
		through standin.Coarse
		coarse  bool
	}{
		"exact":                  {standin.Coarse{Deaf: true}, false},
		"loses a tenth":          {standin.Coarse{Deaf: true, Dropout: 0.1}, false},
		"jitter of 60 ms":        {standin.Coarse{Deaf: true, Jitter: 0.060}, true},
		"a clock of sixtieths":   {standin.Coarse{Deaf: true, Grid: 1.0 / 60}, true},
		"a clock of hundredths":  {standin.Coarse{Deaf: true, Grid: 0.010}, true},
		"a clock of thousandths": {standin.Coarse{Deaf: true, Grid: 0.001}, false},
	} {
		right := wald{bad: 0.90, good: 0.98}
		if c.coarse {
			right = wald{bad: 0.6, good: 0.87} // three in four
		}
		for r := range rounds(t, d, line, faultless(), c.through, 200) {
			if !right.add(r.Judged() != c.coarse) {
				break
			}
		}
		t.Logf("%s: rightly scored or not in %d of %d rounds", name, right.held, right.n)
		if !right.holds() {
			t.Errorf("%s: rightly scored or not in only %d of %d rounds", name, right.held, right.n)
		}
	}
}

// Somebody who strikes harder and harder is told so, with the right sign, and is not called early.
func TestGrowingForce(t *testing.T) {
	d := technique(drill.OneHand, 5, 3, 25, 112)
	who := faultless()
	who.Trend = 0.25 // over three minutes: 8 % in this one
	told := 0
	for r := range rounds(t, d, laid(t, d), who, standin.Coarse{}, 60) {
		if h := r.Followed.Held; h.Firm && h.Trend > 0 {
			told++
		}
		if r.CleanShare() < 0.7 {
			t.Errorf("%.0f %% clean", 100*r.CleanShare())
		}
	}
	if told < 50 {
		t.Errorf("told in %d of 60 rounds", told)
	}
}
