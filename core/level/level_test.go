package level

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

var (
	quay  = rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.8}
	cord  = rig.Cord{Span: 0.75, Relaxed: 0.62, Stiffness: 120}
	ball  = rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04}
	pole  = rig.ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50, Damping: 0.06}
	rope  = rig.SlipBag{AnchorHeight: 2.6, CentreHeight: 1.55, BagDiameter: 0.2, BagMass: 0.5}
	heavy = rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5, AnchorHeight: 2.7}
	able  = trainee.Start(trainee.Intermediate)
)

func floor(on rig.Rig) drill.Floor { return drill.Floor{Bag: on, Ability: able, Seed: 1} }

func standing(on rig.Rig, a trainee.Ability) drill.Floor {
	return drill.Floor{Bag: on, Ability: a, Seed: 1}
}

func thrown(text string) drill.CombinationDrill {
	return drill.CombinationDrill{Text: text, Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Combining,
		Fist: 3, Pause: 2, Work: 30, Guidance: drill.Called}
}

func graded(t *testing.T, p drill.Plan, on rig.Rig) Grade {
	t.Helper()
	g, err := GradeOf(p, floor(on))
	if err != nil {
		t.Fatalf("%s on %s: %v", p.Name(), on.Kind(), err)
	}
	return g
}

// The normal distribution by its table (Abramowitz & Stegun 1964, table 26.1).
func TestPhi(t *testing.T) {
	for z, want := range map[float64]float64{0: 0.5, 0.5: 0.6914624613, 1: 0.8413447461, 1.5: 0.9331927987,
		1.96: 0.9750021049, 2.5: 0.9937903347, 3: 0.9986501020} {
		if math.Abs(phi(z)-want) > 1e-9 || math.Abs(phi(-z)-(1-want)) > 1e-9 {
			t.Errorf("Φ(%g) = %.10f, want %.10f", z, phi(z), want)
		}
	}
}

// The longest streak to expect, against counting all rows of sixteen strikes, and against Schilling's formula for long
// rows (The Longest Run of Heads, College Mathematics Journal 1990).
func TestLongestStreak(t *testing.T) {
	const n = 16
	for _, p := range []float64{0.3, 0.5, 0.85} {
		want := 0.0
		for row := range 1 << n {
			chance, streak, longest := 1.0, 0, 0
			for i := range n {
				if row>>i&1 == 1 {
					chance *= p
					streak++
					longest = max(longest, streak)
					continue
				}
				chance *= 1 - p
				streak = 0
			}
			want += chance * float64(longest)
		}
		if got := LongestStreak(p, n); math.Abs(got-want) > 1e-3 {
			t.Errorf("p %g: %g, counted %g", p, got, want)
		}
	}
	p, many := 0.8, 500
	schilling := math.Log(float64(many)*(1-p))/math.Log(1/p) + 0.5772156649/math.Log(1/p) - 0.5
	if got := LongestStreak(p, many); math.Abs(got-schilling) > 0.1 {
		t.Errorf("500 strikes: %g, by the formula %g", got, schilling)
	}
	if LongestStreak(1, 30) != 30 || LongestStreak(0, 30) != 0 || Streak(1, 30) != 30 ||
		math.Abs(Streak(0.9, 1000)-9) > 1e-9 || Streak(0.99, 20) != 20 {
		t.Error("at the ends")
	}
}

// The scales at their ends, by hand.
func TestScales(t *testing.T) {
	for _, c := range []struct{ v, easy, hard, want float64 }{
		{0.16, easyTiming, hardTiming, 1}, {0.02, easyTiming, hardTiming, 10}, {0.0565685, easyTiming, hardTiming, 5.5},
		{0.36, easyHands, hardHands, 1}, {0.12, easyHands, hardHands, 10}, {0.2078461, easyHands, hardHands, 5.5},
		{0.7, easyOne, hardOne, 1}, {0.05, easyOne, hardOne, 10}, {0, easyTiming, hardTiming, 10},
	} {
		if got := logScale(c.v, c.easy, c.hard); math.Abs(got-c.want) > 1e-5 {
			t.Errorf("%g between %g and %g: %g, want %g", c.v, c.easy, c.hard, got, c.want)
		}
	}
	if got := overall(5.4, 3, 4, 1); got != 5.7 { // 5.4 + 0.2 × (2 + 3 + 0)/3
		t.Errorf("overall %g", got)
	}
	// Thirteen moves of which ten are strikes: duck, slip and step are 1.5 each; nothing changes side. 1 + 9(1 −
	// e^(−13.5/8)).
	g := graded(t, thrown("1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!"), ball)
	if want := 1 + 9*(1-math.Exp(-13.5/8)); math.Abs(g.Pattern.Value-want) > 1e-9 {
		t.Errorf("pattern %g, want %g: %s", g.Pattern.Value, want, g.Pattern.Why)
	}
	// A pull in the middle is a change of direction, and a slip to the other side half a move.
	g = graded(t, thrown("1-2 - pull 1-2 | slip rear - 2 - slip lead - 3"), ball)
	if want := 1 + 9*(1-math.Exp(-(6+3*1.5+1+0.5-1)/8)); math.Abs(g.Pattern.Value-want) > 1e-9 {
		t.Errorf("pattern %g, want %g: %s", g.Pattern.Value, want, g.Pattern.Why)
	}
}

// random draws a combination that a bag takes.
func random(r *rand.Rand) drill.CombinationDrill {
	words := []string{"1", "2", "3", "4", "5", "6", "1", "2", "1b", "slip lead", "slip rear", "duck", "step back",
		"pivot lead", "wait"}
	var line []string
	for range 1 + r.IntN(6) {
		line = append(line, words[r.IntN(len(words))])
	}
	c := thrown("1 - " + strings.Join(line, " - ") + " - 2")
	c.Fist = 1.5 + 3*r.Float64()
	return c
}

// Making one thing harder never lowers the level: force, a smaller ball, a curved blow, off the line, length, cues and
// a shorter lead, fewer calls, no touch. Over random drills on the bags that have them.
func TestHarderIsNoEasier(t *testing.T) {
	r := rand.New(rand.NewPCG(21, 22))
	smaller := ball
	smaller.BallDiameter = 0.13
	small := pole
	small.BallDiameter = 0.17
	for range 300 {
		c := random(r)
		on := []rig.Rig{ball, pole}[r.IntN(2)]
		before := graded(t, c, on)
		change := func(f func(*drill.CombinationDrill)) drill.CombinationDrill {
			d := c
			f(&d)
			return d
		}
		cued := change(func(d *drill.CombinationDrill) {
			d.Cues = &drill.Cues{Moves: []string{"roll lead", "slip rear"}, Least: 2, Mean: 5}
		})
		harder := map[string]struct {
			plan drill.Plan
			on   rig.Rig
		}{
			"force": {change(func(d *drill.CombinationDrill) { d.Fist *= 1.3 }), on},
			"ball":  {c, map[rig.Kind]rig.Rig{rig.DoubleEnd: smaller, rig.Reflex: small}[on.Kind()]},
			"shape": {change(func(d *drill.CombinationDrill) {
				d.Text = strings.NewReplacer("1b", "3b", "1", "3", "2", "4").Replace(d.Text)
			}), on},
			"distance":    {change(func(d *drill.CombinationDrill) { d.Range = drill.Far }), on},
			"from close":  {change(func(d *drill.CombinationDrill) { d.Range = drill.Far; d.Pace = drill.Flow }), on},
			"a step more": {change(func(d *drill.CombinationDrill) { d.Text += " - step back" }), on},
			"twice":       {change(func(d *drill.CombinationDrill) { d.Text += " - " + d.Text }), on},
			"cues":        {cued, on},
			"fewer calls": {change(func(d *drill.CombinationDrill) { d.Guidance = drill.Partly }), on},
			"no calls":    {change(func(d *drill.CombinationDrill) { d.Guidance = drill.Alone }), on},
		}
		for name, h := range harder {
			after := graded(t, h.plan, h.on)
			if name == "shape" && after.Pattern.Value < before.Pattern.Value {
				continue // the line repeats itself now, and is less to hold
			}
			if after.Level < before.Level-1e-9 {
				t.Errorf("%s, %q at %.1f m/s on the %s: %.1f, then %.1f\n  %+v\n  %+v", name, c.Text, c.Fist, on.Kind(),
					before.Level, after.Level, before, after)
			}
		}
		shorter := cued
		shorter.Cues = &drill.Cues{Moves: cued.Cues.Moves, Least: 2, Mean: 5, Lead: 0.7}
		more := cued
		more.Cues = &drill.Cues{Moves: []string{"roll lead", "slip rear", "duck"}, Least: 2, Mean: 5,
			Counters: []string{"2", "3-2"}}
		base := graded(t, cued, on)
		for name, p := range map[string]drill.CombinationDrill{"a shorter lead": shorter,
			"more cues and counters": more} {
			if after := graded(t, p, on); after.Level < base.Level-1e-9 || after.Reading.Value <= base.Reading.Value {
				t.Errorf("%s, %q: %.1f (reading %.1f), then %.1f (reading %.1f)", name, c.Text, base.Level,
					base.Reading.Value, after.Level, after.Reading.Value)
			}
		}
	}
	// Each thing moves what it should: distance the timing, a step and a change of direction the pattern, tempo and
	// less wait the hands, the weaker side the fit alone.
	plain := thrown("1-2 - wait - 1-2")
	far, stepped, turned := plain, plain, plain
	far.Range, stepped.Text, turned.Text = drill.Far, "1-2 - step in - wait - 1-2", "1-2 - pull - wait - 1-2"
	a := graded(t, plain, ball)
	if b := graded(t, far, ball); !(b.Timing.Value > a.Timing.Value) || b.Pattern != a.Pattern {
		t.Errorf("distance: %+v, then %+v", a, b)
	}
	if b, c := graded(t, stepped, ball), graded(t, turned, ball); !(b.Pattern.Value > a.Pattern.Value &&
		c.Pattern.Value > b.Pattern.Value) {
		t.Errorf("pattern %g, with a step %g, with a change of direction %g", a.Pattern.Value, b.Pattern.Value,
			c.Pattern.Value)
	}
	free := thrown("1-2-1-2")
	free.Landing, free.Tempo = drill.Freely, 180
	quick, pressed := free, free
	quick.Tempo, pressed.Pause = 260, 0
	slow := graded(t, free, heavy)
	if b := graded(t, quick, heavy); !(b.Hands.Value > slow.Hands.Value) {
		t.Errorf("tempo: %+v, then %+v", slow, b)
	}
	if b := graded(t, pressed, heavy); b.Level < slow.Level {
		t.Errorf("less wait: %+v, then %+v", slow, b)
	}
	weaker := able
	weaker.Weak = combo.Lead
	line, err := quick.Lay(floor(heavy))
	if err != nil {
		t.Fatal(err)
	}
	if s, w := For(quick, line, standing(heavy, able), Told{}),
		For(quick, line, standing(heavy, weaker), Told{}); !(w.Clean < s.Clean) {
		t.Errorf("the weaker side: %g, then %g", s.Clean, w.Clean)
	}
	// No touch: the slip counts for less of its window.
	slips := drill.CombinationDrill{Text: "slip lead - slip rear", Landing: drill.OnReturns, Pace: drill.Combining,
		Pull: 0.6, Pause: 2, Work: 30, Guidance: drill.Called}
	untouched := slips
	untouched.NoTouch = true
	if a, b := graded(t, slips, rope), graded(t, untouched, rope); b.Timing.Value <= a.Timing.Value ||
		b.Level <= a.Level {
		t.Errorf("no touch: %+v, then %+v", a, b)
	}
	// Off the line: the same strikes, the bag crossing in front of one of them.
	straight, off := graded(t, thrown("1 - wait - 2"), ball), graded(t, thrown("1 - wait - step lead - 2"), ball)
	if off.Timing.Value <= straight.Timing.Value || off.Level < straight.Level {
		t.Errorf("off the line: timing %.2f, then %.2f", straight.Timing.Value, off.Timing.Value)
	}
}

// Tightening a cord trades timing for hands: at the same force the hands are asked for more; at the same tempo the blow
// is softer and the window wider.
func TestTighterCord(t *testing.T) {
	tight := ball
	tight.Upper.Relaxed, tight.Lower.Relaxed = 0.55, 0.55
	tight.Upper.Stiffness, tight.Lower.Stiffness = 120*0.62/0.55, 120*0.62/0.55
	c := thrown("1-2-1-2")
	slack, same := graded(t, c, ball), graded(t, c, tight)
	if same.Hands.Value <= slack.Hands.Value {
		t.Errorf("hands %.2f, tightened %.2f", slack.Hands.Value, same.Hands.Value)
	}
	ties := drill.Ties(c, drill.Floor{Bag: tight, Ability: able})
	at := func(on rig.Rig) Grade {
		d, err := drill.AtTempo(c, drill.Floor{Bag: on, Ability: able}, ties[1].Inside)
		if err != nil {
			t.Fatal(err)
		}
		return graded(t, d, on)
	}
	if a, b := at(ball), at(tight); b.Timing.Value >= a.Timing.Value || math.Abs(b.Hands.Value-a.Hands.Value) > 0.2 {
		t.Errorf("at the same tempo: timing %.2f and hands %.2f, tightened %.2f and %.2f", a.Timing.Value,
			a.Hands.Value, b.Timing.Value, b.Hands.Value)
	}
}

// On the speed bag: quicker asks more of the hands; fewer strikes a side are more to hold; by ear only changes the fit
// and not the level, and so does fatigue.
func TestSpeedBag(t *testing.T) {
	basic := func(change func(*drill.SpeedBagDrill)) drill.SpeedBagDrill {
		d := drill.SpeedBagDrill{Technique: drill.OneHand, FirstHand: drill.Rear, PerHand: 5, Rebounds: 3,
			StrikeAngle: 25, Tempo: 120, Work: 60, Calls: true}
		change(&d)
		return d
	}
	five := graded(t, basic(func(d *drill.SpeedBagDrill) {}), quay)
	two := graded(t, basic(func(d *drill.SpeedBagDrill) { d.PerHand = 2 }), quay)
	quick := graded(t, basic(func(d *drill.SpeedBagDrill) { d.Tempo = 150 }), quay)
	if two.Pattern.Value <= five.Pattern.Value || quick.Hands.Value <= five.Hands.Value || quick.Level < five.Level {
		t.Errorf("%+v\n%+v\n%+v", five, two, quick)
	}
	ear := basic(func(d *drill.SpeedBagDrill) { d.EarOnly = true })
	if g := graded(t, ear, quay); g != five {
		t.Errorf("by ear: %+v, %+v", g, five)
	}
	long := basic(func(d *drill.SpeedBagDrill) { d.Work = 180 })
	fit := func(p drill.Plan) Fit {
		line, err := p.Lay(floor(quay))
		if err != nil {
			t.Fatal(err)
		}
		return For(p, line, standing(quay, trainee.Start(trainee.Beginner)), Told{})
	}
	if seen, late := fit(basic(func(d *drill.SpeedBagDrill) {})), fit(long); !(late.Clean < seen.Clean) {
		t.Errorf("%g, three minutes %g", seen.Clean, late.Clean)
	}
	// At 100 a minute the last board sound that is old enough is older than the sight of the bag.
	seen, heard := fit(basic(func(d *drill.SpeedBagDrill) { d.Tempo = 100 })),
		fit(basic(func(d *drill.SpeedBagDrill) { d.Tempo, d.EarOnly = 100, true }))
	if !(heard.Clean < seen.Clean) {
		t.Errorf("seen %g, by ear %g", seen.Clean, heard.Clean)
	}
}

// The same drill has one level and two fits, with the link that differs named: slow hands for one, an uneven beat for
// the other.
func TestTwoFits(t *testing.T) {
	c := thrown("1-2-1-2")
	c.Fist = 5
	line, err := c.Lay(floor(ball))
	if err != nil {
		t.Fatal(err)
	}
	slow, uneven := able, able
	slow.Alternate = 0.45
	uneven.Timing = 0.15
	a, b := For(c, line, standing(ball, slow), Told{}), For(c, line, standing(ball, uneven), Told{})
	if a.Weakest.Cause != ByHands || b.Weakest.Cause != ByTiming || !strings.Contains(a.Weakest.Why, "0.45 s") {
		t.Errorf("%+v\n%+v", a.Weakest, b.Weakest)
	}
	for _, pair := range []struct {
		a, b trainee.Ability
		want Cause
	}{{able, slow, ByHands}, {able, uneven, ByTiming},
		{able, func() trainee.Ability { x := able; x.Miss = 0.2; return x }(), ByMiss}} {
		d := Differs(c, line, standing(ball, pair.a), pair.b)
		back := Differs(c, line, standing(ball, pair.b), pair.a)
		if d.Cause != pair.want || back.Cause != pair.want || !(d.Clean > 0) || math.Abs(d.Clean+back.Clean) > 1e-12 ||
			d.Why == "" {
			t.Errorf("want %s: %+v, the other way %+v", pair.want, d, back)
		}
	}
	if best := For(c, line, standing(ball, trainee.Start(trainee.Expert)),
		Told{}); !(best.Clean > a.Clean && best.Clean > b.Clean) {
		t.Errorf("%g, %g and %g", best.Clean, a.Clean, b.Clean)
	}
	for clean, want := range map[float64]Standing{0.5: TooHard, 0.7: Fits, 0.9: Fits, 0.95: TooEasy} {
		if got := (Fit{Clean: clean, Slips: math.NaN(), Answers: math.NaN()}).Standing(); got != want {
			t.Errorf("%g clean: %s", clean, got)
		}
	}
}

func BenchmarkLevelAndFit(b *testing.B) {
	for _, on := range []rig.Rig{ball, pole, heavy} {
		c := thrown("1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!")
		c.Work = 180
		line, err := c.Lay(floor(on))
		if err != nil {
			b.Fatal(err)
		}
		b.Run(string(on.Kind()), func(b *testing.B) {
			for b.Loop() {
				grade(c, line, on.Kind())
				For(c, line, floor(on), Told{})
			}
		})
	}
	d := drill.SpeedBagDrill{Technique: drill.OneHand, FirstHand: drill.Rear, PerHand: 5, Rebounds: 3, StrikeAngle: 25,
		Tempo: 150, Work: 180, Calls: true}
	line, err := d.Lay(floor(quay))
	if err != nil {
		b.Fatal(err)
	}
	b.Run("speed", func(b *testing.B) {
		for b.Loop() {
			grade(d, line, rig.Speed)
			For(d, line, standing(quay, able), Told{})
		}
	})
}

func ExampleGradeOf() {
	cord := rig.Cord{Span: 0.75, Relaxed: 0.66, Stiffness: 90}
	bag := rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04}
	c := drill.CombinationDrill{Text: "1-2", Stance: combo.Orthodox, Landing: drill.OnReturns, Pace: drill.Combining,
		Fist: 3, Pause: 2, Work: 60, Guidance: drill.Called}
	g, err := GradeOf(c, drill.Floor{Bag: bag, Ability: trainee.Start(trainee.Intermediate)})
	if err != nil {
		panic(err)
	}
	fmt.Printf("%.1f: timing %.1f, hands %.1f (%s), pattern %.1f, reading %.1f\n", g.Level, g.Timing.Value,
		g.Hands.Value, g.Hands.Why, g.Pattern.Value, g.Reading.Value)
	// Output: 2.9: timing 2.9, hands 1.0 (0.36 s between 1 and 2), pattern 2.1, reading 1.0
}
