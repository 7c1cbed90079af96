package drill

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// A rhythm of three strikes, the third late, four times over: it is taken once, and laid out where it was.
func TestWritten(t *testing.T) {
	w := Written{Beat: 120, Tick: 1.0 / 1920}
	var want []float64
	for k := range 4 {
		for i, at := range []float64{0, 0.31, 0.92} {
			at = math.Round((float64(k)*1.7+at)*1920) / 1920
			want = append(want, at)
			if i == 2 {
				w.Moves = append(w.Moves, WrittenMove{At: at - 0.4, Move: "slip lead"})
			}
			w.Moves = append(w.Moves, WrittenMove{At: at, Move: []string{"1", "2", "3b"}[i]})
		}
	}
	plan, said, err := w.Plan(rig.Hanging)
	if err != nil {
		t.Fatal(err)
	}
	c := plan.(CombinationDrill)
	if c.Text != "1-2 - slip lead - 3b" || c.Repetitions != 4 || !strings.Contains(strings.Join(said, " "),
		"repeat 4 times") {
		t.Fatalf("%q %d times: %v", c.Text, c.Repetitions, said)
	}
	m := rig.Hanging.Model()
	line, err := c.Lay(Floor{Bag: m.Everyday.Rig, Place: m.Place.Place, Ability: trainee.Start(trainee.Expert)})
	if err != nil {
		t.Fatal(err)
	}
	var got []float64
	for _, e := range line.Events {
		if e.Kind == Strike {
			got = append(got, e.At.Seconds())
		}
	}
	for i := range want {
		if i >= len(got) || math.Abs(got[i]-got[0]-want[i]) > w.Tick {
			t.Errorf("strike %d of %d is not at %g s", i, len(got), want[i])
		}
	}
	if f := line.Film; f == nil || math.Abs(f.Turn-1.7) > w.Tick || math.Abs(f.Starts[1]-f.Starts[0]-f.Turn) > w.Tick {
		t.Errorf("a repetition is drawn over %+v", f)
	}
	if line.Clock != ByBeat {
		t.Errorf("it goes by the clock of the %s", line.Clock)
	}
	// as a document and back
	doc, err := json.Marshal(c)
	if err != nil {
		t.Fatal(err)
	}
	again, err := ReadPlan(input.Parse(doc))
	if err != nil {
		t.Fatal(err)
	}
	if other, _ := json.Marshal(again); string(other) != string(doc) {
		t.Errorf("%s\n%s", doc, other)
	}
}

// What does not fit together is refused by its field; hands that are slower than the rhythm come late.
func TestPlayed(t *testing.T) {
	doc := func(played, more string) string {
		return `{"text":"1-2-1","landing":"free","repetitions":3,"played":` + played + more + `}`
	}
	for name, c := range map[string]struct{ doc, field string }{
		"too few":     {doc(`{"times":[0,0.5],"every":2,"beat":120}`, ""), "played.times"},
		"not from 0":  {doc(`{"times":[0.1,0.5,1],"every":2,"beat":120}`, ""), "played.times"},
		"backwards":   {doc(`{"times":[0,0.5,0.4],"every":2,"beat":120}`, ""), "played.times"},
		"too short":   {doc(`{"times":[0,0.5,1],"every":0.9,"beat":120}`, ""), "played.every"},
		"beat":        {doc(`{"times":[0,0.5,1],"every":2,"beat":2}`, ""), "played.beat"},
		"a word":      {doc(`{"times":[0,"x",1],"every":2}`, ""), "played.times"},
		"on returns":  {strings.Replace(doc(`{"times":[0,0.5,1],"every":2}`, ""), `"free"`, `"returns"`, 1), "played"},
		"another key": {doc(`{"times":[0,0.5,1],"every":2,"swing":1}`, ""), "played.swing"},
	} {
		_, err := ReadPlan(input.Parse([]byte(c.doc)))
		if refused, ok := err.(*input.Error); !ok || refused.Field != c.field {
			t.Errorf("%s: %v", name, err)
		}
	}
	plan, err := ReadPlan(input.Parse([]byte(doc(`{"times":[0,0.05,1],"every":2}`, ""))))
	if err != nil {
		t.Fatal(err)
	}
	c := plan.(CombinationDrill)
	if c.Played.Beat < 63 || c.Played.Beat > 64 { // a strike in the middle every 0.95 s
		t.Errorf("a beat of %g", c.Played.Beat)
	}
	m := rig.Hanging.Model()
	rep, err := Land(c, Floor{Bag: m.Everyday.Rig, Place: m.Place.Place, Ability: trainee.Start(trainee.Beginner)})
	if err != nil || len(rep.Late()) != 1 {
		t.Errorf("%d come late: %v", len(rep.Late()), err)
	}
	faster := c.Played.Scaled(2)
	if faster.Times[2] != 0.5 || faster.Every != 1 || faster.Beat != 2*c.Played.Beat {
		t.Errorf("%+v", faster)
	}
}
