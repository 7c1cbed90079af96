package drill

import (
	"encoding/json"
	"strings"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// A drill and its settings, parted and put together, are what they were; what is left open is written and read as left
// out.
func TestOpen(t *testing.T) {
	for name, p := range map[string]Plan{
		"technique": SpeedBagDrill{Technique: OneHand, FirstHand: Rear, PerHand: 5, Rebounds: 3, StrikeAngle: 25,
			Tempo: 126, Work: 60, Calls: true},
		"line": CombinationDrill{Text: "1-2", Stance: combo.Orthodox, Landing: OnReturns, Pace: Combining, Fist: 3.4,
			Tempo: 150, Slower: 140, Pause: 2, Work: 60, Guidance: Fading},
		"slip": CombinationDrill{Text: "slip lead - 3", Stance: combo.Orthodox, Landing: OnReturns, Pace: Combining,
			Pull: 0.6, Pause: 2, Repetitions: 10, Guidance: Fading},
	} {
		open, settings := Open(p)
		doc, err := json.Marshal(open)
		if err != nil {
			t.Fatal(err)
		}
		for _, left := range []string{`"tempo"`, `"fist"`, `"pull"`, `"slower"`} {
			if strings.Contains(string(doc), left) {
				t.Errorf("%s: %s is not left open in %s", name, left, doc)
			}
		}
		read, err := ReadPlan(input.Parse(doc))
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		again, err := Set(read, settings)
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		a, _ := json.Marshal(p)
		b, _ := json.Marshal(again)
		if string(a) != string(b) {
			t.Errorf("%s: %s, then %s", name, a, b)
		}
		if s, same := Between(read, p); !same || s != settings {
			t.Errorf("%s differs from itself by %+v, %v", name, s, same)
		}
		if again, err = Set(read, Settings{Work: 30}); err != nil ||
			again.Figures()[len(again.Figures())-1].Value != "30 s" {
			t.Errorf("%s, half a minute: %v, %v", name, again, err)
		}
	}
	line := CombinationDrill{Text: "1-2", Stance: combo.Orthodox, Landing: OnReturns, Pace: Combining, Pause: 2,
		Work: 60, Guidance: Fading}
	longer, other := line, line
	longer.Work, longer.Repetitions, longer.Stance, other.Text = 0, 20, combo.Southpaw, "1-2-3"
	if s, same := Between(line, longer); !same || s != (Settings{Repetitions: 20}) {
		t.Errorf("twenty times by a southpaw: %+v, %v", s, same)
	}
	if _, same := Between(line, other); same {
		t.Error("another line is taken for the same drill")
	}
	if _, err := Set(SpeedBagDrill{Technique: OneHand, FirstHand: Rear, Rebounds: 3, StrikeAngle: 25, Work: 60},
		Settings{Tempo: 2000}); err == nil {
		t.Error("2000 a minute are set")
	}
}

// A drill whose tempo is left open is laid out at that of its effort: half power for everybody (common practice), so
// the same drill is quicker for whoever strikes harder, and never beyond what their hands do.
func TestLeftOpen(t *testing.T) {
	d := SpeedBagDrill{Technique: OneHand, FirstHand: Rear, Rebounds: 3, StrikeAngle: 25, Work: 60}
	last := 0.0
	for _, band := range trainee.Bands {
		on := Floor{Bag: bag, Ability: trainee.Start(band), Seed: 1}
		p, err := d.For(on)
		if err != nil {
			t.Fatal(err)
		}
		tempo := p.(SpeedBagDrill).Tempo
		if tempo < last || tempo > 60/on.Ability.SameHand {
			t.Errorf("%s: %g a minute after %g", band, tempo, last)
		}
		last = tempo
		a, err := d.Lay(on)
		b, other := p.Lay(on)
		if err != nil || other != nil || a.End != b.End || len(a.Events) != len(b.Events) {
			t.Errorf("%s: laid out open %v %v, and solved %v %v", band, a.End, err, b.End, other)
		}
	}
	line := CombinationDrill{Text: "2-2", Stance: combo.Orthodox, Landing: OnReturns, Pace: Combining, Effort: 0.2,
		Pause: 2, Work: 60, Guidance: Fading}
	if fist := line.With(bag, trainee.Start(trainee.FirstTimer)).Fist; fist != 1 {
		t.Errorf("a fifth of 5 m/s is %g", fist)
	}
}

// From one kind of bag to another, what has no place there is left out and said; the rest stays.
func TestCarry(t *testing.T) {
	line := func(text string, change ...func(*CombinationDrill)) CombinationDrill {
		c := CombinationDrill{Text: text, Stance: combo.Orthodox, Landing: OnReturns, Pace: Combining, Pause: 2,
			Work: 60, Guidance: Fading}
		for _, f := range change {
			f(&c)
		}
		return c
	}
	for name, x := range map[string]struct {
		plan     Plan
		from, to rig.Kind
		text     string
		lost     []string // words of each sentence
	}{
		"as it is": {line("1-2 - slip lead - 3"), rig.DoubleEnd, rig.Reflex, "1-2 - slip lead - 3", nil},
		"a kick":   {line("1-2 - round kick rear"), rig.Hanging, rig.DoubleEnd, "1-2 - round kick rear", nil},
		"no kick":  {line("1-2 - round kick rear"), rig.Hanging, rig.Reflex, "1-2", []string{"round kick rear"}},
		"a stop": {line("2 - stop 1 - 2"), rig.Hanging, rig.DoubleEnd, "2-1-2",
			[]string{"Nothing is stopped here"}},
		"a jam":  {line("2 - jam - 5"), rig.Hanging, rig.Reflex, "2-5", []string{"jam"}},
		"counts": {line("1:2 2"), rig.DoubleEnd, rig.Speed, "1-2", []string{"counts"}},
		"a guard": {line("1-2", func(c *CombinationDrill) { c.Rhythm, c.Guard = NoReturn, StopShort }), rig.Slip,
			rig.DoubleEnd, "1-2", []string{"guard"}},
		"freely": {line("1-2", func(c *CombinationDrill) { c.Landing = Freely }), rig.Hanging, rig.DoubleEnd, "1-2",
			[]string{"land on the returns"}},
		"let it settle": {line("1-2", func(c *CombinationDrill) { c.Rhythm = NoReturn }), rig.Reflex, rig.Hanging,
			"1-2", []string{"every return"}},
		"cued": {line("1-2",
			func(c *CombinationDrill) { c.Cues = &Cues{Moves: []string{"roll lead"}, Least: 3, Mean: 7} }),
			rig.DoubleEnd, rig.Slip, "1-2", []string{"random cues"}},
		"to the same":  {line("2 - jam - 5"), rig.Hanging, rig.Hanging, "2 - jam - 5", nil},
		"nothing left": {line("knee rear"), rig.Hanging, rig.Reflex, "", nil},
		"a technique": {SpeedBagDrill{Technique: OneHand, FirstHand: Rear, Rebounds: 3, StrikeAngle: 25, Tempo: 120,
			Work: 60}, rig.Speed, rig.DoubleEnd, "", nil},
		"every second": {line("1-2", func(c *CombinationDrill) { c.Rhythm = SecondReturn }), rig.DoubleEnd, rig.Slip,
			"1-2", []string{"every pass"}},
		"bag's own time": {line("slip lead - 3", func(c *CombinationDrill) { c.Clock = ByBag }), rig.DoubleEnd,
			rig.Slip, "slip lead - 3", []string{"swings by itself"}},
	} {
		got, lost, err := Carry(x.plan, x.from, x.to)
		if x.text == "" {
			if err == nil {
				t.Errorf("%s: carried as %v", name, got)
			}
			continue
		}
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		if c := got.(CombinationDrill); c.Text != x.text || c.Fist != 0 {
			t.Errorf("%s: %q at %g m/s", name, c.Text, c.Fist)
		}
		if len(lost) != len(x.lost) {
			t.Errorf("%s: %q", name, lost)
			continue
		}
		for i, word := range x.lost {
			if !strings.Contains(lost[i], word) {
				t.Errorf("%s: %q says nothing of %s", name, lost[i], word)
			}
		}
	}
}
