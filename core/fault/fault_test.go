package fault

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/judge"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

var (
	cord  = rig.Cord{Span: 0.75, Relaxed: 0.577, Stiffness: 150}
	speed = rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.8}
	cords = rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04}
	pole  = rig.ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50, Damping: 0.06}
	heavy = rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5, AnchorHeight: 2.7}
)

// planned has strikes half a second apart, hand after hand, each with a window of 60 ms.
func planned(n int) []judge.Strike {
	list := make([]judge.Strike, n)
	for i := range list {
		list[i] = judge.Strike{At: float64(i) / 2, Window: 0.06, Hand: []drill.Hand{drill.Lead, drill.Rear}[i%2]}
	}
	return list
}

// struck gives each strike a hit by its lateness (s); NaN leaves it out.
func struck(strikes []judge.Strike, late func(i int) float64) []judge.Hit {
	var hits []judge.Hit
	for i, s := range strikes {
		if l := late(i); l == l {
			hits = append(hits, judge.Hit{At: s.At + l, Hand: s.Hand})
		}
	}
	return hits
}

// beaten judges hits by the beat with the delay of the device known.
func beaten(strikes []judge.Strike, hits []judge.Hit) Case {
	r := judge.Judge(strikes, hits, judge.Options{KeepOffset: true})
	return Case{Judgement: judge.RoundOf(r, strikes, hits, 0, strikes[len(strikes)-1].At, true), Kind: rig.Speed}
}

func first(r Case) string {
	if list := Find(r); len(list) > 0 {
		return string(list[0].Code)
	}
	return "none"
}

// noise is a hand that scatters by 10 ms.
func noise() func() float64 {
	r := rand.New(rand.NewPCG(7, 8))
	return func() float64 { return 0.010 * r.NormFloat64() }
}

// What coaches were misled by, made by hand: each is named for what it is.
func TestNamedForWhatItIs(t *testing.T) {
	shaky := noise()
	strikes := planned(240)
	sets := planned(240)
	for i := range sets { // ten a side
		sets[i].Hand = []drill.Hand{drill.Lead, drill.Rear}[i/10%2]
	}
	stopped := func(i int) float64 {
		if i > 50 && i < 64 || i > 150 && i < 162 {
			return nan
		}
		return shaky()
	}
	for name, c := range map[string]struct {
		r    Case
		want string
	}{
		"nothing wrong": {beaten(strikes, struck(strikes, func(int) float64 { return shaky() })),
			"none"},
		"30 ms late": {beaten(strikes, struck(strikes,
			func(int) float64 { return 0.03 + shaky() })), "waiting"},
		"30 ms early": {beaten(strikes, struck(strikes,
			func(int) float64 { return -0.03 + shaky() })), "chasing"},
		"waiting beyond what is met": {beaten(strikes, struck(strikes,
			func(int) float64 { return 0.15 + shaky() })), "waiting"},
		"stopping after a miss, twice": {beaten(strikes, struck(strikes, stopped)), "lost"},
		"the rear hand 40 ms late": {beaten(strikes, struck(strikes,
			func(i int) float64 { return 0.04*float64(i%2) + shaky() })), "weakHand"},
		"late at the change of hands": {beaten(sets, struck(sets, func(i int) float64 {
			if i > 0 && i%10 == 0 {
				return 0.05 + shaky()
			}
			return shaky()
		})), "changeGap"},
		"wider and wider": {beaten(strikes, struck(strikes, func(i int) float64 {
			if i > 160 {
				return 3 * shaky()
			}
			return shaky()
		})), "fading"},
	} {
		if got := first(c.r); got != c.want {
			t.Errorf("%s: %s, want %s: %+v", name, got, c.want, Find(c.r))
		}
	}
}

var nan = math.NaN()

// A figure is what was planted, with its own standard error; what it cost is what would have been clean without it.
func TestFigures(t *testing.T) {
	shaky := noise()
	strikes := planned(240)
	r := beaten(strikes, struck(strikes, func(i int) float64 { return 0.04*float64(i%2) + shaky() }))
	f := Find(r)[0]
	if f.Effect < 0.036 || f.Effect > 0.044 || f.Error < 0.0005 || f.Error > 0.003 {
		t.Errorf("%.4f s with a standard error of %.4f; 40 ms were planted, and 10 ms of noise", f.Effect, f.Error)
	}
	// of 120 strikes of that hand about one in six falls within 30 ms: five in six were lost to it
	if f.Cost < 0.35 || f.Cost > 0.48 {
		t.Errorf("it cost %.2f of the strikes", f.Cost)
	}
	if !strings.Contains(f.Evidence, "The rear hand is 4") || f.Name() != "the rear hand is weaker" {
		t.Errorf("%q %q", f.Name(), f.Evidence)
	}
}

// Where lateness cannot be told from the device, it is not named; what would tell is said.
func TestUntold(t *testing.T) {
	strikes := planned(240)
	shaky := noise()
	hits := struck(strikes, func(int) float64 { return 0.05 + shaky() })
	r := judge.Judge(strikes, hits, judge.Options{})
	round := Case{Judgement: judge.RoundOf(r, strikes, hits, 0, 120, false), Kind: rig.Speed}
	if got := first(round); got != "none" {
		t.Errorf("named %s", got)
	}
	var all []string
	for _, u := range Open(round) {
		all = append(all, u.What+": "+u.Needs)
	}
	if said := strings.Join(all, "; "); !strings.Contains(said, " ms late is the hand or a slow device") ||
		!strings.Contains(said, "measured once") || !strings.Contains(said, "only an eye sees") {
		t.Errorf("%s", said)
	}
	few := beaten(strikes, hits[:4])
	if Find(few) != nil || Open(few) != nil {
		t.Error("four hits say something")
	}
}

// What the coach marks counts as evidence, and is the one thing to fix where nothing else is.
func TestSeenByTheCoach(t *testing.T) {
	strikes := planned(120)
	shaky := noise()
	r := beaten(strikes, struck(strikes, func(int) float64 { return shaky() }))
	r.Marks = []Observation{{At: 10, What: IdleHand}, {At: 20, What: IdleHand}, {At: 30, What: ChinUp}}
	list := Find(r)
	if len(list) != 2 || list[0].Code != IdleHand || list[0].Times != 2 || list[0].Evidence != "Seen twice." ||
		list[0].Remedy == "" || !list[0].Code.BySight() {
		t.Errorf("%+v", list)
	}
	// an off-line bag goes by what fails after it
	bent := struck(strikes, func(i int) float64 {
		if i%10 == 5 {
			return nan
		}
		return shaky()
	})
	r = beaten(strikes, bent)
	for i := range strikes {
		if i%10 == 4 {
			r.Marks = append(r.Marks, Observation{At: strikes[i].At + 0.6, What: OffLine})
		}
	}
	if got := first(r); got != "offLine" {
		t.Errorf("named %s: %+v", got, Find(r))
	}
}

// What may be seen belongs to the bag and the technique at hand (trade's table of what only an eye sees).
func TestToSee(t *testing.T) {
	line := func(text string) drill.CombinationDrill {
		return drill.CombinationDrill{Text: text, Stance: combo.Orthodox}
	}
	for name, c := range map[string]struct {
		plan drill.Plan
		kind rig.Kind
		has  Code
		not  Code
	}{
		"basic rhythm": {drill.SpeedBagDrill{Technique: drill.OneHand}, rig.Speed, StrikingDown, FarStop},
		"linking":      {drill.SpeedBagDrill{Technique: drill.Linking}, rig.Speed, FarStop, Telegraph},
		"uppercuts":    {line("5-6"), rig.Hanging, HandDropped, Between},
		"body shots":   {line("1b-2"), rig.Hanging, Between, HandDropped},
		"a heavy bag":  {line("1-2"), rig.Hanging, Grabbing, StrikingDown},
		"cords":        {line("1-2"), rig.DoubleEnd, FeetPlanted, Grabbing},
	} {
		list := ToSee(c.plan, c.kind)
		if !slices.Contains(list, c.has) || slices.Contains(list, c.not) || len(list) > 7 {
			t.Errorf("%s: %v", name, list)
		}
		for _, code := range list {
			if code.Pressed() == "" || code.Name() == "" || code.Remedy() == "" {
				t.Errorf("%s has no words", code)
			}
		}
	}
}

// Every fault has a drill that mends it, which can be done by whoever had it on the bag they had it on.
func TestMend(t *testing.T) {
	sets := drill.SpeedBagDrill{
		Technique:   drill.OneHand,
		FirstHand:   drill.Rear,
		PerHand:     5,
		Rebounds:    3,
		StrikeAngle: 25,
		Tempo:       112,
		Work:        60,
	}
	double := sets
	double.Technique, double.PerHand = drill.DoublePunch, 0
	line := func(text string, l drill.Landing) drill.CombinationDrill {
		return drill.CombinationDrill{
			Text:     text,
			Stance:   combo.Southpaw,
			Landing:  l,
			Pace:     drill.Combining,
			Pause:    2,
			Work:     60,
			Guidance: drill.Alone,
		}
	}
	for _, band := range trainee.Bands {
		for _, c := range []struct {
			bag  rig.Rig
			plan drill.Plan
		}{
			{speed, sets}, {speed, double}, {cords, line("1-2 - slip lead - 3", drill.OnReturns)},
			{pole, line("1-2", drill.OnReturns)}, {heavy, line("1b-2-5", drill.Freely)},
		} {
			on := drill.Floor{Bag: c.bag, Ability: trainee.Start(band), Seed: 1}
			for _, code := range Code("").Values() {
				f := Fault{Code: code}
				if code == WeakHand {
					f.hand = "rear"
				}
				o, ok := Mend(f, c.plan, on)
				if !ok || o.Title == "" {
					t.Errorf("%s of a %s on the %s: no drill", code, band, c.bag.Kind())
					continue
				}
				if strings.Contains(o.Title, "  ") {
					t.Errorf("%s: %q", code, o.Title)
				}
				plan, err := o.Plan.For(on)
				if err == nil {
					_, err = plan.Lay(on)
				}
				if err != nil {
					t.Errorf("%s of a %s on the %s: %v", code, band, c.bag.Kind(), err)
				}
			}
		}
	}
}

func TestRemediesSuit(t *testing.T) {
	line := drill.CombinationDrill{Text: "1-2 - slip lead - 3 - 2", Stance: combo.Orthodox, Landing: drill.OnReturns,
		Pace: drill.Combining, Pause: 2, Work: 90, Guidance: drill.Alone}
	on := drill.Floor{Bag: cords, Ability: trainee.Start(trainee.Intermediate), Seed: 1}
	for code, want := range map[Code]func(drill.CombinationDrill) bool{
		LateAfterDefence: func(c drill.CombinationDrill) bool {
			return c.Text == "2 - slip lead - 3" && c.Guidance == drill.Called
		},
		Chasing: func(c drill.CombinationDrill) bool { return c.Rhythm == drill.SecondReturn },
		TooHard: func(c drill.CombinationDrill) bool { return c.EffortShare() < line.EffortShare() },
		Crowded: func(c drill.CombinationDrill) bool { return c.Text == "1" },
		Fading:  func(c drill.CombinationDrill) bool { return c.Work == 60 },
	} {
		o, ok := Mend(Fault{Code: code}, line, on)
		if c, is := o.Plan.(drill.CombinationDrill); !ok || !is || !want(c) {
			t.Errorf("%s: %+v", code, o)
		}
	}
}

// How a round stands to what was predicted is said only beyond chance.
func TestCompare(t *testing.T) {
	strikes := planned(200)
	missing := func(n int) judge.Judgement {
		return beaten(strikes, struck(strikes, func(i int) float64 {
			if i%10 < n {
				return nan
			}
			return 0
		})).Judgement
	}
	for n, want := range map[int]string{2: "about as expected", 0: "better than expected",
		6: "Tired?"} {
		if said := Compare(missing(n), 0.8, nil); !strings.Contains(said, want) {
			t.Errorf("%d in ten missed: %q", n, said)
		}
	}
	if said := Compare(missing(6), 0.8, []Fault{{Code: Lost, Cost: 0.3}}); !strings.Contains(said,
		"loses the rhythm, then finds it") {
		t.Errorf("%q", said)
	}
	if said := Compare(missing(6), nan, nil); said != "" {
		t.Errorf("%q", said)
	}
}

// Nothing that comes in makes it fail, and every figure is one.
func FuzzFind(f *testing.F) {
	f.Add(uint64(1), uint16(100), uint16(90), uint8(20))
	f.Fuzz(func(t *testing.T, seed uint64, n, m uint16, spread uint8) {
		r := rand.New(rand.NewPCG(seed, 1))
		strikes := planned(int(n%300) + 1)
		for i := range strikes {
			strikes[i].Still, strikes[i].Defended = r.Float64() < 0.1, r.Float64() < 0.1
		}
		var hits []judge.Hit
		for range int(m % 400) {
			hits = append(hits, judge.Hit{At: 150 * r.Float64(), Launch: 3 * r.Float64()})
		}
		round := beaten(strikes, hits)
		for range int(spread % 8) {
			round.Marks = append(round.Marks, Observation{At: 150 * r.Float64(), What: Seen()[r.IntN(len(Seen()))]})
		}
		for _, x := range Find(round) {
			if !(x.Cost >= 0) || x.Effect != x.Effect || x.Error != x.Error || x.Evidence == "" || x.Remedy == "" {
				t.Errorf("%+v", x)
			}
		}
	})
}

func ExampleFind() {
	strikes := planned(120)
	hits := struck(strikes, func(i int) float64 { return 0.028 + 0.004*float64(i%3) })
	for _, f := range Find(beaten(strikes, hits)) {
		fmt.Printf("%s: %s\n", f.Code, f.Evidence)
	}
	// Output: waiting: 32 ms (give or take 1) late overall.
}

func BenchmarkFind(b *testing.B) {
	shaky := noise()
	strikes := planned(360)
	r := beaten(strikes, struck(strikes, func(i int) float64 { return 0.04*float64(i%2) + shaky() }))
	for b.Loop() {
		Find(r)
	}
}
