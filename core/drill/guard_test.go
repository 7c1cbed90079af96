package drill

import (
	"errors"
	"strings"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

var guardBag = rig.SlipBag{AnchorHeight: 2.6, CentreHeight: 1.55, BagDiameter: 0.2, BagMass: 0.5}

// A slip bag that hangs still is somebody's guard: the hands keep the pace, nothing swings, and stopping short asks
// more of the hands than a light touch.
func TestGuard(t *testing.T) {
	c := CombinationDrill{Text: "1-2 - slip lead - 3", Stance: combo.Orthodox, Landing: OnReturns, Rhythm: NoReturn,
		Pace: Combining, Pause: 1, Work: 30, Guidance: Alone}
	on := Floor{Bag: guardBag, Ability: able, Seed: 1}
	window := map[Guard]float64{}
	for _, guard := range []Guard{Touched, RoundIt, ThroughIt, StopShort} {
		c.Guard = guard
		line, rep, err := CompileCombination(c, on)
		if err != nil {
			t.Fatalf("%s: %v", guard, err)
		}
		strikes := of(line, Strike)
		if len(of(line, Pass)) != 0 || len(of(line, LetGo)) != 0 || len(strikes) < 9 || line.Clock != ByBeat ||
			len(rep.Late()) != 0 {
			t.Errorf("%s: %d passes, let go %d times, %d strikes", guard, len(of(line, Pass)), len(of(line, LetGo)),
				len(strikes))
		}
		for _, p := range line.Film.Trace {
			if p.Swing != 0 {
				t.Errorf("%s: it swings to %g at %g s", guard, p.Swing, p.At)
			}
		}
		window[guard] = rep.Moves[1].Window
	}
	if !(window[StopShort] < window[Touched]) || window[RoundIt] != window[StopShort] {
		t.Errorf("%v", window)
	}
	for name, change := range map[string]func(*CombinationDrill, *Floor){
		"guard": func(c *CombinationDrill, _ *Floor) { c.Rhythm = EveryReturn },
		"text": func(c *CombinationDrill, on *Floor) { // a bottle is not touched at rest either
			c.Guard, on.Place = Touched, rig.Place{Made: rig.Bottle}
		},
	} {
		d, at := c, on
		change(&d, &at)
		var refused *input.Error
		if _, _, err := CompileCombination(d, at); !errors.As(err, &refused) || refused.Field != name {
			t.Errorf("%s: %v", name, err)
		}
	}
	c.Guard = StopShort
	if _, _, err := CompileCombination(c, Floor{Bag: guardBag, Place: rig.Place{Made: rig.Bottle},
		Ability: able}); err != nil {
		t.Errorf("stopping short of a bottle: %v", err)
	}
}

// What has no place on a bag is refused with the reason (common practice).
func TestBelongs(t *testing.T) {
	pole := rig.ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50, Damping: 0.06}
	heavy := rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5, AnchorHeight: 2.7}
	for _, c := range []struct {
		text string
		on   Floor
		want string // of the refusal; "" for none
	}{
		{"1 - elbow rear", Floor{Bag: pole}, "no elbows on a pole"},
		{"1 - round kick rear", Floor{Bag: pole}, "no kicks or knees on a reflex bag"},
		{"knee lead - 1", Floor{Bag: bag}, "no kicks or knees on a speed bag"},
		{"slip lead - low kick rear", Floor{Bag: guardBag}, "only without touching"},
		{"slip lead - elbow lead", Floor{Bag: guardBag}, ""},
		{"slip lead - elbow lead", Floor{Bag: guardBag, NoKicks: true}, "only where they are trained"},
		{"1-2 - low kick rear", Floor{Bag: heavy}, ""},
		{"1-2 - low kick rear", Floor{Bag: heavy, NoKicks: true}, "only where they are trained"},
		{"slip lead - 3", Floor{Bag: guardBag, Place: rig.Place{Made: rig.Bottle}}, "dodged and never hit"},
		{"slip lead - slip rear", Floor{Bag: guardBag, Place: rig.Place{Made: rig.Bottle}}, ""},
		{"1 - jam - 2", Floor{Bag: gentle}, "belongs on a hanging bag"},
		{"1-2", Floor{Bag: gentle, Place: rig.Place{PowerCap: 2}}, "all this bag takes"},
		{"1-2", Floor{Bag: gentle, Ability: trainee.Start(trainee.FirstTimer), Theirs: true}, ""},
	} {
		d := CombinationDrill{Text: c.text, Stance: combo.Orthodox, Landing: OnReturns, Pace: Combining, Pause: 2,
			Work: 30, Guidance: Alone}
		if c.on.Ability == (trainee.Ability{}) {
			c.on.Ability = able
		}
		_, err := Land(d, c.on)
		var refused *input.Error
		switch {
		case c.want == "" && err != nil:
			t.Errorf("%q on %s: %v", c.text, c.on.Bag.Kind(), err)
		case c.want != "" && (!errors.As(err, &refused) || !strings.Contains(refused.Reason, c.want)):
			t.Errorf("%q on %s: %v, want %q", c.text, c.on.Bag.Kind(), err, c.want)
		}
	}
	cued := CombinationDrill{
		Text:     "1-2",
		Stance:   combo.Orthodox,
		Landing:  OnReturns,
		Pace:     Combining,
		Pause:    2,
		Work:     30,
		Guidance: Alone,
		Cues:     &Cues{Moves: []string{"duck"}, Counters: []string{"2", "elbow rear"}, Least: 3, Mean: 7},
	}
	var refused *input.Error
	if _, err := Land(cued, Floor{Bag: pole, Ability: able}); !errors.As(err, &refused) ||
		refused.Field != "cues.counters" {
		t.Errorf("an elbow as a counter on a pole: %v", err)
	}
	mild := Floor{Bag: gentle, Ability: trainee.Start(trainee.FirstTimer), Theirs: true}
	hard := CombinationDrill{Text: "1-2!", Fist: 7, Stance: combo.Orthodox, Landing: OnReturns, Pace: Combining,
		Pause: 2, Work: 30, Guidance: Alone}
	if _, err := Land(hard, mild); err == nil || !strings.Contains(err.Error(), "this person's greatest") {
		t.Errorf("%v", err)
	}
	// An accent is no harder than the bag takes.
	hard.Fist = 2
	rep, err := Land(hard, Floor{Bag: gentle, Ability: able, Place: rig.Place{PowerCap: 2.2}})
	if err != nil || rep.Moves[1].Fist > 2.2+1e-9 {
		t.Errorf("%+v, %v", rep.Moves, err)
	}
}

// A technique is no quicker than the person's fist goes, or the bag takes.
func TestTechniqueWithinReach(t *testing.T) {
	d := in(t, OneHand)
	d.Tempo = 300
	for name, on := range map[string]Floor{
		"a first-timer": {Bag: bag, Ability: trainee.Start(trainee.FirstTimer), Theirs: true},
		"a capped bag":  {Bag: bag, Ability: able, Place: rig.Place{PowerCap: 2}},
	} {
		var refused *input.Error
		if _, err := d.Lay(on); !errors.As(err, &refused) || refused.Field != "tempo" {
			t.Errorf("%s: %v", name, err)
		}
	}
	if _, err := d.Lay(Floor{Bag: bag, Ability: able}); err != nil {
		t.Error(err)
	}
}
