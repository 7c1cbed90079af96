package document

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"

	"melodromos/core/catalogue"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/session"
)

const gymText = `{
  "melodromos": "gym",
  "version": 2,
  "gym": {
    "settings": {"name": "The Net Loft", "zone": "Europe/Lisbon", "units": "metric",
      "borders": {"slack": 0.45, "head": 0.32, "tight": 0.17},
      "gate": {"clean": 0.8, "run": 10, "rounds": 2, "days": 2, "aDay": 2}},
    "bags": [
      {"key": "bag1", "name": "Quay", "doc": {"kind": "speed", "bagLength": 0.23, "bagDiameter": 0.15,
        "bagMass": 0.25, "swivelDrop": 0.02}}
    ],
    "people": [
      {"key": "person1", "name": "Runa", "stance": "southpaw", "band": "beginner",
        "cautions": [{"kind": "wrist", "setBy": "A", "at": "2026-03-02T18:30:00Z"}]}
    ],
    "drills": [
      {"key": "drill1", "name": "One-two", "kind": "doubleEnd", "doc": {"text": "1-2", "repetitions": 10}}
    ],
    "given": [
      {"drill": "drill1", "person": "person1", "bag": "bag1", "at": "2026-03-02T18:30:00Z"}
    ],
    "dates": [
      {"name": "Evening", "day": "2026-10-13", "at": "18:30", "minutes": 60, "weekly": true, "note": "x"}
    ]
  }
}`

// text is a document as it is written.
func text(f File) ([]byte, error) {
	var out bytes.Buffer
	err := Write(&out, f)
	return out.Bytes(), err
}

func TestReadGym(t *testing.T) {
	f, err := Read(strings.NewReader(gymText))
	if err != nil {
		t.Fatal(err)
	}
	g := f.Gym
	if g.Settings.Name != "The Net Loft" || g.Bags[0].Doc.Rig.Kind() != rig.Speed ||
		g.People[0].Cautions[0].SetBy != "A" ||
		g.Settings.GetReady != 10 || g.Dates[0].Minutes != 60 || g.Drills[0].Doc.Plan.Name() != "1-2" {
		t.Errorf("%+v", g)
	}
	// and written, it is read to the same
	out, err := text(f)
	if err != nil {
		t.Fatal(err)
	}
	again, err := Read(bytes.NewReader(out))
	if err != nil {
		t.Fatal(err)
	}
	if second, _ := text(again); string(second) != string(out) {
		t.Errorf("%s\n%s", out, second)
	}
}

// A gym is written list by list to what the standard library makes of the whole.
func TestWrite(t *testing.T) {
	full, err := Read(strings.NewReader(gymText))
	if err != nil {
		t.Fatal(err)
	}
	empty := File{Holds: OfGym, Version: Version, Gym: &Gym{Bags: []Bag{}, People: []Person{}, Drills: []Drill{},
		Given: []Given{}, Sessions: []Session{}, Dates: []Date{}}}
	for _, f := range []File{full, empty} {
		want, err := json.MarshalIndent(f, "", "  ")
		if err != nil {
			t.Fatal(err)
		}
		if got, err := text(f); err != nil || string(got) != string(want)+"\n" {
			t.Errorf("%v: %s\nand not\n%s", err, got, want)
		}
	}
}

// What is wrong is refused by its field, and by the line on which that stands.
func TestRefused(t *testing.T) {
	for _, c := range []struct{ was, is, field, line string }{
		{`"bagLength": 0.23`, `"bagLength": 23`, "gym.bags[0].doc.bagLength", "line 9"},
		{`"bagMass": 0.25`, `"bagWeight": 0.25`, "gym.bags[0].doc.bagMass", "line 9"},
		{`"southpaw"`, `"left"`, "gym.people[0].stance", "line 13"},
		{`"kind": "wrist"`, `"kind": "knee"`, "gym.people[0].cautions[0].kind", "line 14"},
		{`"1-2", "rep`, `"1-zwei", "rep`, "gym.drills[0].doc.text", "line 17"},
		{`"bag": "bag1"`, `"bag": "bag7"`, "gym.given[0].bag", "line 20"},
		{`"minutes": 60`, `"minutes": 6000`, "gym.dates[0].minutes", "line 23"},
		{`"18:30", `, `"half past six", `, "gym.dates[0].at", "line 23"},
		{`"Europe/Lisbon"`, `"Europe/Kettlewick"`, "gym.settings.zone", "line 5"},
		{`"run": 10`, `"ran": 10`, "gym.settings.gate", "line 7"},
		{`"key": "drill1", "name"`, `"key": "bag1", "name"`, "gym.drills[0].key", "line 17"},
		{`"version": 2`, `"version": 3`, "version", "line 3"},
		{`"gym",`, `"diary",`, "melodromos", "line 2"},
		{`"note": "x"}`, `"note": "x"`, "", "line 24"},
		{`"given": [`, `"people": [`, "gym.people", "line 12"},
		{`"given": [`, `"given": {`, "gym.given", "line 19"},
		{`"given": [`, `"gave": [`, "gym.gave", "line 19"},
		{`"note": "x`, `"note": "` + strings.Repeat("x", 2*mostPiece), "gym.dates[0]", "line 23"},
		{`"version": 2`, `"version": "` + strings.Repeat("x", mostPiece) + `"`, "version", "line 3"},
	} {
		text := strings.Replace(gymText, c.was, c.is, 1)
		if text == gymText {
			t.Fatalf("%s does not stand there", c.was)
		}
		_, err := Read(strings.NewReader(text))
		var refused *input.Error
		if !errors.As(err, &refused) || refused.Field != c.field || fmt.Sprint("line ", refused.Line) != c.line {
			t.Errorf("%.60s: %v; %s, %s expected", c.is, err, c.field, c.line)
		}
	}
}

// The bare documents of the calculator are brought up to date.
func TestOlder(t *testing.T) {
	for name, c := range map[string]struct {
		text string
		want Kind
		on   rig.Kind
	}{
		"a bag":            {`{"kind":"doubleEnd","ballDiameter":0.18,"ballMass":0.45,"upper":{"span":0.75,"relaxed":0.577,"stiffness":150},"lower":{"span":0.75,"relaxed":0.577,"stiffness":150},"damping":0.04}`, OfBag, rig.DoubleEnd},
		"a technique":      {`{"technique":"oneHand","firstHand":"lead","rebounds":3,"strikes":50}`, OfDrill, rig.Speed},
		"a line":           {`{"text":"1-2-3","work":60}`, OfDrill, rig.Hanging},
		"a line for a bag": {`{"text":"1-2","work":60,"band":"beginner","rig":{"kind":"reflex","ballDiameter":0.22,"ballMass":0.9,"poleLength":1.1,"poleMass":0.8,"spring":50,"damping":0.06}}`, OfDrill, rig.Reflex},
	} {
		f, err := Read(strings.NewReader(c.text))
		if err != nil || f.Holds != c.want || f.Version != Version {
			t.Errorf("%s: %+v %v", name, f, err)
			continue
		}
		if f.Holds == OfBag && f.Bag.Doc.Rig.Kind() != c.on || f.Holds == OfDrill && f.Drill.Kind != c.on {
			t.Errorf("%s is for another bag", name)
		}
	}
	_, err := Read(strings.NewReader("{\n\"kind\":\"speed\",\n\"bagLength\":99\n}"))
	var refused *input.Error
	if !errors.As(err, &refused) || refused.Line != 3 {
		t.Errorf("%v", err)
	}
}

// Whatever is thrown at it, it reads or refuses, and what it reads can be written and read again to the same.
func FuzzRead(f *testing.F) {
	f.Add([]byte(gymText))
	f.Add([]byte(`{"text":"1-2-3","work":60}`))
	for _, file := range []File{{Holds: OfSession, Session: &session.Templates()[0].Session},
		{Holds: OfDrill, Drill: &Drill{Name: "One", Kind: rig.Hanging,
			Doc: drill.Doc{Plan: catalogue.All()[0].Plan}}}} {
		if out, err := text(file); err == nil {
			f.Add(out)
		}
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		file, err := Read(bytes.NewReader(data))
		if err != nil {
			return
		}
		out, err := text(file)
		if err != nil {
			t.Fatal(err)
		}
		again, err := Read(bytes.NewReader(out))
		if err != nil {
			t.Fatalf("%v: %s", err, out)
		}
		if second, _ := text(again); string(second) != string(out) {
			t.Fatalf("%s\n%s", out, second)
		}
	})
}

func BenchmarkRead(b *testing.B) {
	for b.Loop() {
		if _, err := Read(strings.NewReader(gymText)); err != nil {
			b.Fatal(err)
		}
	}
}

func ExampleRead() {
	f, err := Read(strings.NewReader(`{"melodromos":"bag","version":2,"bag":{"name":" ","doc":{"kind":"speed"}}}`))
	fmt.Println(f.Holds, err)
	// Output: bag bag.name: line 1: expected a name, not blanks
}
