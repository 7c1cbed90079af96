package drill

import "testing"

// Getting ready moves the whole round and nothing in it: what lies between any two moments stays, and the seconds are
// told down to the count-in.
func TestReady(t *testing.T) {
	for _, text := range []string{"1-2 | slip lead - 3", "1"} {
		before, _ := compiled(t, thrown(text), heavy, 1)
		after, _ := compiled(t, thrown(text), heavy, 1)
		after.Ready(10)
		later := after.Start - before.Start
		if after.Start != micros(10) || after.End-after.Start != before.End-before.Start {
			t.Fatalf("from %d to %d", after.Start, after.End)
		}
		for kind, list := range map[EventKind][]Event{Strike: of(before, Strike), Doing: of(before, Doing),
			Count: of(before, Count), Bell: of(before, Bell), Warning: of(before, Warning)} {
			moved := of(after, kind)
			if len(moved) != len(list) {
				t.Fatalf("%d of kind %s, then %d", len(list), kind, len(moved))
			}
			for i, e := range list {
				e.At += later
				if e.Until > 0 {
					e.Until += later
				}
				if moved[i] != e {
					t.Fatalf("%s %d: %+v, want %+v", kind, i, moved[i], e)
				}
			}
		}
		for i, s := range before.Film.Starts {
			near(t, "a repetition", after.Film.Starts[i], s+later.Seconds(), 1e-9)
		}
		told := of(after, Ready)
		first := of(after, Count)[0]
		if len(told) == 0 || told[0].At != 0 || told[0].N != 10 || told[len(told)-1].At >= first.At {
			t.Errorf("told %+v before the count at %d", told, first.At)
		}
		for i, e := range told {
			if e.N != 10-i || after.Start-e.At != micros(float64(e.N)) {
				t.Errorf("%d s are told at %d", e.N, e.At)
			}
		}
		same, _ := compiled(t, thrown(text), heavy, 1)
		if same.Ready(1); same.Start != before.Start || len(of(same, Ready)) != 0 {
			t.Errorf("a count-in of %d is cut to %d", before.Start, same.Start)
		}
	}
}
