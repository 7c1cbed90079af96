package rig

import (
	"encoding/json"
	"math"
	"testing"
)

// struckBags is one of each kind that is struck, with what its strikes are met by.
var struckBags = map[string]struct {
	rig     Rig
	meeting Meeting
}{
	"speed": {SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.8},
		Three},
	"linking": {SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.8},
		Meeting{Rebounds: 2, Face: Behind}},
	"cords": {DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: Cord{0.75, 0.577, 150},
		Lower: Cord{0.75, 0.577, 150}, Damping: 0.04}, Meeting{Rebounds: 1}},
	"pole": {ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50,
		Damping: 0.06}, Meeting{Rebounds: 1}},
	"cylinder": {HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5},
		Meeting{Rebounds: 1}},
}

// The table says what the motion itself says (which stands against separate integration elsewhere), between its rows as
// well.
func TestComeBacksAreTheMotions(t *testing.T) {
	for name, b := range struckBags {
		t.Run(name, func(t *testing.T) {
			table, err := NewComeBacks(b.rig, b.meeting, b.meeting.Rebounds)
			if err != nil {
				t.Fatal(err)
			}
			limits, _ := b.rig.Limits(b.meeting)
			hardest := math.Max(limits.FastestLaunch, limits.SlowestLaunch)
			for _, share := range []float64{0.03, 0.1, 0.17, 0.23, 0.31, 0.47, 0.66, 0.9} {
				launch := table.Least + share*(hardest-table.Least)
				for place, count := range table.Counts {
					n := count
					m := Meeting{Rebounds: count, Angle: b.meeting.Angle}
					if b.rig.Kind() == Speed {
						n = 1
					}
					list, err := b.rig.Returns(launch, m, n)
					if err != nil {
						t.Fatal(err)
					}
					want := list[n-1]
					if off := math.Abs(table.At(place, launch) - want.At); off > 2e-4*math.Max(1, want.At) {
						t.Errorf("%.2f m/s, count %d: back at %.5f s, the motion says %.5f", launch, count,
							table.At(place, launch), want.At)
					}
					if off := math.Abs(table.Window(place, launch) - want.Window); off > 1e-3+0.05*want.Window {
						t.Errorf("%.2f m/s, count %d: a window of %.4f s, the motion says %.4f", launch, count,
							table.Window(place, launch), want.Window)
					}
				}
				place := table.Place(b.meeting.Rebounds)
				if got := table.Launch(place, table.At(place, launch)); math.Abs(got-launch) > 5e-3*launch {
					t.Errorf("%.4f m/s is read back as %.4f", launch, got)
				}
			}
		})
	}
}

func TestComeBacksSurviveTheirDocument(t *testing.T) {
	b := struckBags["speed"]
	table, err := NewComeBacks(b.rig, b.meeting, 3)
	if err != nil {
		t.Fatal(err)
	}
	doc, _ := json.Marshal(table)
	var again ComeBacks
	if err := json.Unmarshal(doc, &again); err != nil {
		t.Fatal(err)
	}
	if err := again.Ready(); err != nil {
		t.Fatal(err)
	}
	if a, b := table.At(2, 2.8), again.At(2, 2.8); a != b {
		t.Errorf("%g before, %g after", a, b)
	}
	if err := new(ComeBacks).Ready(); err == nil {
		t.Error("an empty table was taken")
	}
	t.Logf("%d bytes", len(doc))
}

func TestDoubleComeBacks(t *testing.T) {
	bag := struckBags["speed"].rig.(SpeedBag)
	table, err := bag.DoubleComeBacks(Three)
	if err != nil {
		t.Fatal(err)
	}
	d, err := bag.DoublePunch(5, Three)
	if err != nil {
		t.Fatal(err)
	}
	if got := table.At(0, 5); math.Abs(got-d.Return.At) > 2e-4 || table.Counts[0] != 3 {
		t.Errorf("back at %.4f s after %v, the motion says %.4f", got, table.Counts, d.Return.At)
	}
}

func TestASlipBagHasNoComeBacks(t *testing.T) {
	if _, err := NewComeBacks(SlipBag{AnchorHeight: 2.6, CentreHeight: 1.55, BagDiameter: 0.2, BagMass: 0.5},
		Meeting{Rebounds: 1}, 1); err == nil {
		t.Error("a table of strikes on a bag that nobody has to strike")
	}
}

func BenchmarkNewComeBacks(b *testing.B) {
	for name, bag := range struckBags {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if _, err := NewComeBacks(bag.rig, bag.meeting, bag.meeting.Rebounds); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
