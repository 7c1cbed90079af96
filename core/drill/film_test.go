package drill

import (
	"math"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/rig"
)

// The film of a repetition closes: in the rest the bag swings on, and is steadied or drawn back to where the next one
// finds it (common practice).
func TestFilmCloses(t *testing.T) {
	for _, c := range []struct {
		on   rig.Rig
		text string
		pull float64
		at   float64 // swing at both ends
	}{{heavy, "1-1-2", 0, 0}, {gentle, "1-2", 0, 0}, {pole, "1-2", 0, 0}, {rope, "slip lead - 3", 0.6, 1}} {
		plan := thrown(c.text)
		plan.Pull = c.pull
		line, rep := compiled(t, plan, c.on, 1)
		f, kind := line.Film, c.on.Kind()
		if want := rep.Length + 2; math.Abs(f.Turn-want) > 1e-9 || math.Abs(f.Starts[1]-f.Starts[0]-want) > 1e-9 {
			t.Fatalf("%s: a turn of %g s, repetitions %g s apart, want %g", kind, f.Turn, f.Starts[1]-f.Starts[0], want)
		}
		first, last := f.Trace[0], f.Trace[len(f.Trace)-1]
		if math.Abs(first.Swing-c.at) > 1e-6 || math.Abs(last.Swing-c.at) > 1e-6 || last.At != f.Turn {
			t.Errorf("%s: from %g to %g at %g s, want %g", kind, first.Swing, last.Swing, last.At, c.at)
		}
		still := 0.0 // the furthest it swings in the rest
		for _, p := range f.Trace {
			if p.At > rep.Length && p.At < f.Turn-liningUp {
				still = max(still, abs(p.Swing))
			}
		}
		if still < 0.01 {
			t.Errorf("%s: it hangs still in the rest", kind)
		}
	}
}

// Without a rest between repetitions nobody has time to stop the bag: all its turns are drawn.
func TestFilmWithoutRest(t *testing.T) {
	plan := thrown("1-2")
	plan.Pause = 0
	line, rep := compiled(t, plan, gentle, 1)
	f := line.Film
	late := 0
	for _, m := range f.Marks {
		if m.At > rep.Length-liningUp {
			late++
		}
	}
	if f.Turn != rep.Length || late == 0 {
		t.Errorf("a turn of %g s for a repetition of %g, turns at %+v", f.Turn, rep.Length, f.Marks)
	}
}

// Whoever stands the other way round reads left and right the other way round; parts are told apart.
func TestSaid(t *testing.T) {
	if said := (combo.Placed{Move: combo.Move{Word: combo.Slip, Toward: "lead"}}).Said(); said != "slip lead" {
		t.Errorf("nobody knows the stance, and it is said %q", said)
	}
	for stance, want := range map[combo.Stance]string{combo.Orthodox: "slip left", combo.Southpaw: "slip right"} {
		plan := thrown("1-2 | slip lead - 3")
		plan.Stance = stance
		line, _ := compiled(t, plan, heavy, 1)
		e := of(line, Doing)[0]
		if e.Text != "slip lead" || e.Said != want || e.Part != 1 {
			t.Errorf("%s: %q, said %q, part %d", stance, e.Text, e.Said, e.Part)
		}
		if strike := of(line, Strike)[0]; strike.Said != "" || strike.Part != 0 {
			t.Errorf("%s: a jab is said %q, part %d", stance, strike.Said, strike.Part)
		}
	}
}
