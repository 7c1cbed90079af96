package run

import (
	"errors"
	"testing"

	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/input"
	"melodromos/core/judge"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

// A round that is judged by another clock or tempo keeps its bell where the hits have it; what contradicts itself is
// refused.
func TestRejudge(t *testing.T) {
	r := prepared(t, rhythm(), board, drill.Sensor)
	on := drill.Floor{Ability: trainee.Start(trainee.Intermediate)}
	for name, a := range map[string]Anew{"another clock": {Clock: drill.ByBeat}, "a slower tempo": {Tempo: 108},
		"both": {Clock: drill.ByBeat, Tempo: 118}} {
		to, err := r.Rejudge(a, on)
		if err != nil {
			t.Fatal(name, err)
		}
		if to.Timeline.Start != r.Timeline.Start || a.Clock != "" && to.Timeline.Clock != a.Clock ||
			to.Timeline.End-to.Timeline.Start != r.Timeline.End-r.Timeline.Start {
			t.Errorf("%s: from %d to %d, before %d to %d", name, to.Timeline.Start, to.Timeline.End, r.Timeline.Start,
				r.Timeline.End)
		}
		first := judge.Planned(to.Timeline, -1)[0].At
		if was := judge.Planned(r.Timeline, -1)[0].At; first != was {
			t.Errorf("%s: the first strike is at %g, before %g", name, first, was)
		}
	}
	delay := int64(5)
	if to, err := r.Rejudge(Anew{Delay: &delay}, on); err != nil || to.Timeline.End != r.Timeline.End {
		t.Errorf("the delay alone: %v", err)
	}
	for name, a := range map[string]Anew{"nothing": {}, "no such tempo": {Tempo: 9}, "no clock": {Clock: "sun"}} {
		var refused *input.Error
		if _, err := r.Rejudge(a, on); !errors.As(err, &refused) {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// Marks move the judgement, corrections stand over it, and what was seen is among the faults.
func TestMarksAndCorrections(t *testing.T) {
	r := prepared(t, rhythm(), board, drill.Sensor)
	met(t, &r)
	before := r.Judge()
	at := judge.Planned(r.Timeline, -1)[10].At
	r.Marks = []Mark{{us(at + 0.2), MarkMissed}, {us(20), MarkKind(fault.StrikingDown)}}
	marked := r.Judge()
	if marked.Summary.Clean != before.Summary.Clean-1 || len(marked.Summary.Faults) != 1 ||
		marked.Summary.Faults[0] != fault.StrikingDown {
		t.Errorf("%d clean, before %d; %v", marked.Summary.Clean, before.Summary.Clean, marked.Summary.Faults)
	}
	r.Corrected = []judge.Correction{{Strike: 10, Verdict: judge.Clean}}
	if again := r.Judge(); again.Summary.Clean != before.Summary.Clean {
		t.Errorf("%d clean once it is corrected, before %d", again.Summary.Clean, before.Summary.Clean)
	}
	on := drill.Floor{Bag: r.Bag, Ability: trainee.Start(trainee.Intermediate)}
	v := marked.Review(&on, words.Metric)
	if len(v.Faults) != 1 || v.Faults[0].Offer == nil || v.First == "" || len(v.Thirds) != 3 {
		t.Errorf("%+v", v.Faults)
	}
	if sees := r.Sees(); len(sees) < 3 || sees[0].Press == "" {
		t.Errorf("%+v", sees)
	}
}
