package main

import (
	"flag"
	"os"
	"testing"

	"melodromos/core/ladder"
	"melodromos/core/rig"
)

var update = flag.Bool("update", false, "write docs/careers.md and docs/career.svg")

// What the documents tell of careers is what the ladder proposes today.
func TestCareersAreTold(t *testing.T) {
	list, rungs := learner(cords, 0).live()
	for file, text := range map[string]string{"../../docs/careers.md": tell(told),
		"../../docs/career.svg": draw(list, rungs, 12)} {
		if *update {
			if err := os.WriteFile(file, []byte(text), 0o644); err != nil {
				t.Fatal(err)
			}
		}
		if there, err := os.ReadFile(file); err != nil || string(there) != text {
			t.Errorf("%s is not as it is now: go test ./standin/career -update (%v)", file, err)
		}
	}
}

func of(t *testing.T, name string) []lived {
	t.Helper()
	for _, l := range told {
		if l.name == name {
			list, _ := l.live()
			return list
		}
	}
	t.Fatalf("no career of %s", name)
	return nil
}

// Somebody whose evenness stops growing is not kept at the same thing: common practice.
func TestPlateau(t *testing.T) {
	list := of(t, "A plateau")
	same, most, moves := 0, 0, map[string]bool{}
	for i, r := range list {
		if same++; i > 0 && (r.proposal.Rung != list[i-1].proposal.Rung ||
			r.proposal.Eased != list[i-1].proposal.Eased) {
			same = 1
		}
		most = max(most, same)
		moves[string(r.proposal.Move)] = true
	}
	if most > 6 {
		t.Errorf("%d rounds of the same in a row", most)
	}
	for _, m := range []ladder.Direction{ladder.Easier, ladder.Aside, ladder.Back} {
		if !moves[string(m)] {
			t.Errorf("never %s", m)
		}
	}
}

// A quick learner passes no more rungs in a day than the gate lets through, and each on two days: common practice.
func TestQuickLearner(t *testing.T) {
	list := of(t, "A quick learner")
	risen := map[string]int{}
	for i := 1; i < len(list); i++ {
		risen[list[i].at.Format("2006-01-02")] += max(0, list[i].proposal.Standing-list[i-1].proposal.Standing)
	}
	for day, n := range risen {
		if n > ladder.DefaultGate.ADay {
			t.Errorf("%d rungs on %s", n, day)
		}
	}
	if last := list[len(list)-1]; last.proposal.Standing < 6 || last.week != 6 {
		t.Errorf("a quick learner stands on %d in week %d", last.proposal.Standing, last.week)
	}
}

// After a year away somebody begins lower, softly, and is back within a few weeks: common practice.
func TestYearAway(t *testing.T) {
	before, first, back := 0, -1, 0
	for _, r := range of(t, "A year's absence") {
		switch {
		case r.week <= 6:
			before = max(before, r.proposal.Index)
		case first < 0:
			first = r.proposal.Index
		case back == 0 && r.proposal.Index >= before:
			back = r.week
		}
	}
	if first > before-4 || first < 1 {
		t.Errorf("from rung %d to %d", before, first)
	}
	if back < 60 || back > 62 {
		t.Errorf("back in week %d", back)
	}
}

// A sore wrist is kept off the heavy bag, goes on elsewhere, and goes back once it is well: common practice.
func TestSoreWrist(t *testing.T) {
	for _, r := range of(t, "A sore wrist") {
		sore := r.week == 3 || r.week == 4
		if on := rig.Kind(r.proposal.Kind); sore != (on == rig.Slip) || r.proposal.Barred != "" {
			t.Errorf("week %d: %s (%s)", r.week, on, r.proposal.Barred)
		}
	}
}
