package drill

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"

	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

var bag = rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.80,
	BoardHeight: 1.95}

func fiveASide() SpeedBagDrill {
	return SpeedBagDrill{Technique: OneHand, FirstHand: Rear, PerHand: 5, Rebounds: 3, StrikeAngle: 25, Tempo: 120,
		Work: 60, Calls: true}
}

func of(t Timeline, kind EventKind) []Event {
	var list []Event
	for _, e := range t.Events {
		if e.Kind == kind {
			list = append(list, e)
		}
	}
	return list
}

func mustCompile(t *testing.T, d SpeedBagDrill) Timeline {
	t.Helper()
	line, err := Compile(d, bag)
	if err != nil {
		t.Fatal(err)
	}
	return line
}

func TestCompile(t *testing.T) {
	line := mustCompile(t, fiveASide())
	if line.End-line.Start != 60_000_000 { // each round adds up exactly (common practice)
		t.Errorf("from bell to bell %d µs", line.End-line.Start)
	}
	strikes := of(line, Strike)
	if len(strikes) != 120 {
		t.Fatalf("%d strikes, want 120: two a second for a minute", len(strikes))
	}
	for i, s := range strikes {
		if want := line.Start + Micros(i)*500_000; s.At != want {
			t.Fatalf("strike %d at %d, want %d", i, s.At, want)
		}
		hand := Rear // five a side, rear first
		if i/5%2 == 1 {
			hand = Lead
		}
		if s.Hand != hand || s.Position != i%10 || s.Window <= 0 || s.Face != rig.Front {
			t.Fatalf("strike %d: %+v", i, s)
		}
	}
	if n := len(of(line, Rebound)); n != 360 { // three board sounds a strike (common practice)
		t.Errorf("%d board sounds, want 360", n)
	}
	if n := len(of(line, Change)); n != 23 {
		t.Errorf("%d changes of hands, want 23", n)
	}
	calls := of(line, Call)
	if calls[0].Text != "rear, five" || calls[1].Text != "lead, five" || calls[1].At >= strikes[5].At ||
		calls[1].At <= strikes[3].At {
		t.Errorf("calls %+v", calls[:2])
	}
	if bells := of(line, Bell); len(bells) != 2 || bells[0].At != line.Start || bells[1].At != line.End {
		t.Errorf("bells %+v", bells)
	}
	if counts := of(line, Count); len(counts) != 4 || counts[0].At != 0 || counts[0].N != 4 {
		t.Errorf("count-in %+v", counts)
	}
	for i := 1; i < len(line.Events); i++ {
		if line.Events[i].At < line.Events[i-1].At {
			t.Fatalf("event %d runs back", i)
		}
	}
}

// Every planned strike stands where the bag comes back from the one before, found by the other direction of the model.
func TestStrikesMeetTheBag(t *testing.T) {
	for _, tempo := range []float64{60, 97, 126.5, 180, 400} {
		d := fiveASide()
		d.Tempo = tempo
		line := mustCompile(t, d)
		back, err := bag.Return(line.Launch, d.Meeting())
		if err != nil {
			t.Fatal(err)
		}
		strikes, boards := of(line, Strike), of(line, Rebound)
		for i := 1; i < len(strikes); i++ {
			meets := strikes[i-1].At.Seconds() + back.At
			if off := strikes[i].At.Seconds() - meets; off > 2e-6 || off < -2e-6 {
				t.Fatalf("%g a minute: strike %d is %g s off its return", tempo, i, off)
			}
			if last := boards[3*i-1].At; last >= strikes[i].At || last <= strikes[i-1].At {
				t.Fatalf("%g a minute: the third board sound before strike %d is at %d", tempo, i, last)
			}
		}
	}
}

func TestDeterminism(t *testing.T) {
	a, _ := json.Marshal(mustCompile(t, fiveASide()))
	b, _ := json.Marshal(mustCompile(t, fiveASide()))
	if string(a) != string(b) {
		t.Error("the same drill compiled to other bytes")
	}
}

func TestByCount(t *testing.T) {
	d := fiveASide()
	d.Work, d.Strikes, d.Technique, d.PerHand, d.FirstHand = 0, 33, Alternating, 0, Lead
	line := mustCompile(t, d)
	strikes := of(line, Strike)
	if len(strikes) != 33 || strikes[32].Hand != Lead || strikes[31].Hand != Rear {
		t.Errorf("%d strikes, last %+v", len(strikes), strikes[len(strikes)-1])
	}
	if line.End != strikes[32].At+500_000 {
		t.Error("the bell does not wait for the last return")
	}
	if n := len(of(line, Change)); n != 0 {
		t.Errorf("%d changes called in hand after hand", n)
	}
}

func TestRefusals(t *testing.T) {
	for field, change := range map[string]func(*SpeedBagDrill){
		"rebounds":  func(d *SpeedBagDrill) { d.Rebounds = 2 },
		"tempo":     func(d *SpeedBagDrill) { d.Tempo = 20 },
		"perHand":   func(d *SpeedBagDrill) { d.Technique = Alternating },
		"work":      func(d *SpeedBagDrill) { d.Work = 0 },
		"strikes":   func(d *SpeedBagDrill) { d.Strikes = 10 },
		"firstHand": func(d *SpeedBagDrill) { d.FirstHand = "left" },
		"technique": func(d *SpeedBagDrill) { d.Technique = "juggle" },
	} {
		d := fiveASide()
		change(&d)
		_, err := Compile(d, bag)
		var refused *input.Error
		if !errors.As(err, &refused) || refused.Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
	d := fiveASide()
	d.Rebounds = 4
	if err := d.Check(); err == nil || !strings.Contains(err.Error(), "strike 2 (rear, from the front)") {
		t.Errorf("parity does not name the strike: %v", err)
	}
	d = fiveASide()
	d.Tempo = 600
	if _, err := Compile(d, bag); err == nil || !strings.Contains(err.Error(), "1 rebound") {
		t.Errorf("a tempo out of reach comes without advice: %v", err)
	}
}

func TestDocument(t *testing.T) {
	text, err := json.Marshal(fiveASide())
	if err != nil {
		t.Fatal(err)
	}
	again, err := Decode(text)
	if err != nil || again != fiveASide() {
		t.Errorf("there and back: %+v %v", again, err)
	}
	if _, err := Decode([]byte(strings.Replace(string(text), `"version":1`, `"version":9`, 1))); err == nil {
		t.Error("a document of a later version was read")
	}
}

func TestFirst(t *testing.T) {
	d, err := First(bag)
	if err != nil {
		t.Fatal(err)
	}
	if d.PerHand != 5 || d.Rebounds != 3 { // common practice
		t.Errorf("%+v", d)
	}
	line := mustCompile(t, d)
	if got := trainee.Start(trainee.FirstTimer).Effort(line.Fist); got != "about half power" {
		t.Errorf("the first drill is struck %s", got)
	}
}

func FuzzDecode(f *testing.F) {
	text, _ := json.Marshal(fiveASide())
	f.Add(text)
	f.Add([]byte(`{"technique":"oneHand","firstHand":"lead","rebounds":1e99}`))
	f.Fuzz(func(t *testing.T, doc []byte) {
		d, err := Decode(doc)
		if err != nil {
			return
		}
		if _, err := Compile(d, bag); err != nil {
			var refused *input.Error
			if !errors.As(err, &refused) {
				t.Errorf("%s: %v does not name a field", doc, err)
			}
		}
	})
}

func BenchmarkCompile3Minutes(b *testing.B) {
	d := fiveASide()
	d.Work = 180
	for b.Loop() {
		if _, err := Compile(d, bag); err != nil {
			b.Fatal(err)
		}
	}
}

func ExampleCompile() {
	line, err := Compile(fiveASide(), bag)
	if err != nil {
		panic(err)
	}
	for _, e := range line.Events[5:9] {
		fmt.Printf("%.3f s %s\n", e.At.Seconds(), e.Kind)
	}
	// Output:
	// 2.000 s bell
	// 2.000 s strike
	// 2.047 s rebound
	// 2.218 s rebound
}
