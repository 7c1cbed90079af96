package midi

import (
	"bytes"
	"encoding/json"
	"math"
	"os"
	"strings"
	"testing"

	"melodromos/core/catalogue"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/format/others"
)

// read holds the contents of a file as another library reads it.
type read struct {
	Per    int `json:"per"`
	Format int `json:"format"`
	Tracks []struct {
		Name   string `json:"name"`
		Notes  []struct{ At, Key, Velocity int64 }
		Lyrics []struct {
			At   int64
			Text string
		}
		Markers []struct {
			At   int64
			Text string
		}
		Tempos []struct{ At, Micros int64 }
	}
}

func (r read) on(name string) []int64 {
	for _, t := range r.Tracks {
		if t.Name == name {
			list := make([]int64, len(t.Notes))
			for i, n := range t.Notes {
				list[i] = n.At
			}
			return list
		}
	}
	return nil
}

func floor(kind rig.Kind) drill.Floor {
	m := kind.Model()
	return drill.Floor{Bag: m.Everyday.Rig, Place: m.Place.Place, Ability: trainee.Start(trainee.Intermediate), Seed: 7}
}

// strikesOf are the times (s) of a timeline's strikes.
func strikesOf(t drill.Timeline) []float64 {
	var list []float64
	for _, e := range t.Events {
		if e.Kind == drill.Strike {
			list = append(list, e.At.Seconds())
		}
	}
	return list
}

// Every drill that ships: its strikes at the timeline's times to one tick, and its tempo right, as another library
// reads the file (Standard MIDI Files 1.0, from memory: a tempo event holds whole microseconds to a quarter note;
// 500 000 at 120 a minute).
func TestReadByAnother(t *testing.T) {
	seen := 0
	for _, e := range catalogue.All() {
		plan, err := e.Plan.For(floor(e.Kind))
		if err != nil {
			t.Fatalf("%s: %v", e.Key, err)
		}
		line, err := plan.Lay(floor(e.Kind))
		if err != nil || len(strikesOf(line)) < 2 {
			continue
		}
		if seen++; seen%6 != 1 { // each takes a process
			continue
		}
		var out bytes.Buffer
		song := Song{e.Name, BeatOf(plan, line), line}
		if err := Write(&out, song); err != nil {
			t.Fatalf("%s: %v", e.Key, err)
		}
		var got read
		others.Ask(t, "midi.mjs", out.Bytes(), &got)
		if got.Per != PerQuarter || got.Format != 1 || got.Tracks[0].Name != e.Name || len(got.Tracks[0].Tempos) != 1 {
			t.Fatalf("%s: %d ticks, format %d, %q", e.Key, got.Per, got.Format, got.Tracks[0].Name)
		}
		micros := got.Tracks[0].Tempos[0].Micros
		if want := math.Round(60e6 / song.Beat); float64(micros) != want {
			t.Errorf("%s: %d µs a quarter, %g expected", e.Key, micros, want)
		}
		if d, ok := plan.(drill.SpeedBagDrill); ok && math.Abs(60e6/float64(micros)-d.Tempo) > 1e-3*d.Tempo {
			t.Errorf("%s: %g a minute in the file, %g in the drill", e.Key, 60e6/float64(micros), d.Tempo)
		}
		tick := float64(micros) / 1e6 / float64(got.Per)
		strikes := got.on(Strikes)
		for i, at := range strikesOf(line) {
			if i >= len(strikes) || math.Abs(float64(strikes[i])*tick-at) > tick {
				t.Fatalf("%s: strike %d of %d is not at %g s", e.Key, i, len(strikes), at)
			}
		}
		counts := map[drill.EventKind]int{}
		for _, e := range line.Events {
			counts[e.Kind]++
		}
		for kind, name := range map[drill.EventKind]string{drill.Strike: Strikes, drill.Rebound: Boards,
			drill.Pass: Passes, drill.Doing: Defences} {
			if n := len(got.on(name)); n != counts[kind] {
				t.Errorf("%s: %d on the track %s, %d expected", e.Key, n, name, counts[kind])
			}
		}
	}
	if seen < 40 {
		t.Errorf("only %d drills were laid out", seen)
	}
}

// Every drill that ships, written, read, made a drill and written again: the same strike times to one tick.
func TestThereAndBack(t *testing.T) {
	n := map[rig.Kind]int{}
	for _, e := range catalogue.All() {
		plan, err := e.Plan.For(floor(e.Kind))
		if err != nil {
			t.Fatal(err)
		}
		line, err := plan.Lay(floor(e.Kind))
		if err != nil || len(strikesOf(line)) < 2 {
			continue
		}
		var first bytes.Buffer
		if err := Write(&first, Song{e.Name, BeatOf(plan, line), line}); err != nil {
			t.Fatal(err)
		}
		got, err := Rhythm(first.Bytes(), "")
		if err != nil {
			t.Fatalf("%s: %v", e.Key, err)
		}
		kind := rig.Hanging
		if _, technique := plan.(drill.SpeedBagDrill); technique {
			kind = rig.Speed
		}
		again, _, err := got.Plan(kind)
		if err != nil {
			t.Errorf("%s: %v", e.Key, err)
			continue
		}
		laid, err := again.Lay(floor(kind))
		if err != nil {
			t.Errorf("%s: %v", e.Key, err)
			continue
		}
		var second bytes.Buffer
		if err := Write(&second, Song{e.Name, BeatOf(again, laid), laid}); err != nil {
			t.Fatal(err)
		}
		back, err := Rhythm(second.Bytes(), "")
		if err != nil {
			t.Fatal(err)
		}
		was, is := timesOf(got.Moves), timesOf(back.Moves)
		if len(was) != len(is) {
			t.Errorf("%s: %d strikes, then %d", e.Key, len(was), len(is))
			continue
		}
		for i := range was {
			if off := math.Abs((is[i] - is[0]) - (was[i] - was[0])); off > got.Tick+1e-9 {
				t.Errorf("%s: strike %d is off by %.2f ticks", e.Key, i, off/got.Tick)
				break
			}
		}
		if math.Abs(back.Beat/got.Beat-1) > 1e-4 {
			t.Errorf("%s: %g a minute, then %g", e.Key, got.Beat, back.Beat)
		}
		n[kind]++
	}
	if n[rig.Speed] < 10 || n[rig.Hanging] < 30 {
		t.Errorf("only %v went there and back", n)
	}
}

func timesOf(moves []drill.WrittenMove) []float64 {
	var list []float64
	for _, m := range moves {
		line, err := combo.Parse(m.Move)
		if m.Move == "" || err == nil && line.Moves(combo.Orthodox)[0].Kind() == combo.Strike {
			list = append(list, m.At)
		}
	}
	return list
}

// foreign is a file as another library writes it: two heights, a change of tempo, notes together, a long name.
func foreign(t testing.TB, later int, events ...map[string]any) []byte {
	doc := map[string]any{"header": map[string]any{"format": 1, "numTracks": 2, "ticksPerBeat": 480},
		"tracks": [][]map[string]any{
			{{"deltaTime": 0, "type": "setTempo", "microsecondsPerBeat": 500000, "meta": true},
				{"deltaTime": later, "type": "setTempo", "microsecondsPerBeat": 1000000, "meta": true},
				{"deltaTime": 0, "type": "endOfTrack", "meta": true}},
			append(events, map[string]any{"deltaTime": 0, "type": "endOfTrack", "meta": true})}}
	in, err := json.Marshal(doc)
	if err != nil {
		t.Fatal(err)
	}
	return others.Run(t, "midi.mjs", in, "write")
}

func on(delta, key int) map[string]any {
	return map[string]any{"deltaTime": delta, "type": "noteOn", "channel": 3, "noteNumber": key, "velocity": 80}
}

func TestFileOfAnother(t *testing.T) {
	data := foreign(t, 960, on(0, 64), on(240, 50), on(0, 40), on(240, 64), on(480, 50), on(240, 64), on(240, 50))
	got, err := Rhythm(data, "")
	if err != nil {
		t.Fatal(err)
	}
	// two quarters of half a second, then quarters of a whole one
	want := []float64{0, 0.25, 0.5, 1, 1.5, 2}
	for i, m := range got.Moves {
		if math.Abs(m.At-want[i]) > 1e-9 {
			t.Errorf("note %d at %g s, %g expected", i, m.At, want[i])
		}
	}
	if got.Beat != 120 || len(got.Moves) != len(want) || got.Track != "Track 2" {
		t.Errorf("%g a minute, %d strikes on %q", got.Beat, len(got.Moves), got.Track)
	}
	plan, said, err := got.Plan(rig.Hanging)
	if err != nil {
		t.Fatal(err)
	}
	if text := plan.(drill.CombinationDrill).Text; text != "(1-2)x3" {
		t.Errorf("%q; %v", text, said)
	}
	if !strings.Contains(strings.Join(said, " "), "higher notes are the lead hand") {
		t.Error(said)
	}
	if _, _, err := got.Plan(rig.Speed); err == nil || !strings.Contains(err.Error(), "not steady") {
		t.Errorf("on a speed bag: %v", err)
	}
	if _, _, err := got.Plan(rig.Slip); err == nil {
		t.Error("on a slip bag it was taken")
	}
}

// A steady rhythm becomes a technique, with the hands as they take turns, at the tempo of the file.
func TestSteady(t *testing.T) {
	for name, c := range map[string]struct {
		keys []int
		want drill.SpeedBagDrill
	}{
		"hand after hand": {[]int{64, 50, 64, 50, 64, 50}, drill.SpeedBagDrill{Technique: drill.Alternating,
			FirstHand: drill.Lead, Strikes: 6}},
		"three a side": {[]int{50, 50, 50, 64, 64, 64, 50, 50, 50}, drill.SpeedBagDrill{Technique: drill.OneHand,
			FirstHand: drill.Rear, PerHand: 3, Strikes: 9}},
	} {
		t.Run(name, func(t *testing.T) {
			var events []map[string]any
			for i, k := range c.keys { // a quarter of a second apart
				events = append(events, on(min(1, i)*240, k))
			}
			got, err := Rhythm(foreign(t, 1e6, events...), "")
			if err != nil {
				t.Fatal(err)
			}
			plan, _, err := got.Plan(rig.Speed)
			if err != nil {
				t.Fatal(err)
			}
			d := plan.(drill.SpeedBagDrill)
			c.want.Rebounds, c.want.StrikeAngle, c.want.Tempo = 3, 25, 240
			if d != c.want {
				t.Errorf("%+v, %+v expected", d, c.want)
			}
		})
	}
}

func TestRefused(t *testing.T) {
	whole := foreign(t, 0, on(0, 60), on(240, 60))
	film := bytes.Clone(whole)
	film[12] = 0xE7
	for name, c := range map[string]struct {
		data  []byte
		track string
		says  string
	}{
		"nothing":  {nil, "", "begins with MThd"},
		"a text":   {[]byte("strikes at 0, 1, 2 and 3 s"), "", "begins with MThd"},
		"cut":      {whole[:len(whole)-9], "", "and the file ends after"},
		"film":     {film, "", "frames of a film"},
		"no notes": {foreign(t, 0), "", "a track with notes"},
		"track":    {whole, "Drums", `not "Drums"`},
	} {
		t.Run(name, func(t *testing.T) {
			if _, err := Rhythm(c.data, c.track); err == nil || !strings.Contains(err.Error(), c.says) {
				t.Errorf("%v; %q expected", err, c.says)
			}
		})
	}
}

// Whatever is thrown at it, it reads or refuses, and what it reads is in order.
func FuzzRhythm(f *testing.F) {
	for _, text := range []string{"MThd\x00\x00\x00\x06\x00\x00\x00\x01\x00\x60MTrk\x00\x00\x00\x0c\x00\x90\x3c\x40\x60\x90\x3c\x40\x00\xff\x2f\x00", "MThd"} {
		f.Add([]byte(text))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		got, err := Rhythm(data, "")
		if err != nil {
			return
		}
		last := math.Inf(-1)
		for _, m := range got.Moves {
			if math.IsNaN(m.At) || m.At < last {
				t.Fatalf("%g s after %g", m.At, last)
			}
			last = m.At
		}
		for _, kind := range rig.Kinds() {
			if plan, _, err := got.Plan(kind); err == nil && plan.Check() != nil {
				t.Fatalf("%s: %v", kind, plan.Check())
			}
		}
	})
}

func BenchmarkWrite(b *testing.B) {
	e := catalogue.All()[0]
	line, err := e.Plan.Lay(floor(e.Kind))
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		if err := Write(new(bytes.Buffer), Song{e.Name, 120, line}); err != nil {
			b.Fatal(err)
		}
	}
}

func ExampleRhythm() {
	var file bytes.Buffer
	line := drill.Timeline{Events: []drill.Event{{At: 0, Kind: drill.Strike, Text: "1"}, {At: 500000,
		Kind: drill.Strike,
		Text: "2"}}}
	_ = Write(&file, Song{"One-two", 120, line})
	got, _ := Rhythm(file.Bytes(), "")
	for _, m := range got.Moves {
		_, _ = os.Stdout.WriteString(m.Move + " ")
	}
	// Output: 1 2
}
