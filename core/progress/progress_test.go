package progress

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"gonum.org/v1/gonum/mat"

	"melodromos/core/fault"
	"melodromos/core/rig"
	"melodromos/core/run"
)

var monday = time.Date(2026, 3, 30, 9, 0, 0, 0, time.UTC) // the day after clocks went forward in Lisbon

func zone(t testing.TB) *time.Location {
	z, err := time.LoadLocation("Europe/Lisbon")
	if err != nil {
		t.Fatal(err)
	}
	return z
}

// round is one of somebody on the quay bag so many days before now.
func round(id string, daysAgo float64, share float64) LogRound {
	return LogRound{
		PastRound: run.PastRound{ID: id, At: monday.Add(-time.Duration(daysAgo * 24 * float64(time.Hour))), Bag: "q",
			Planned: 100, Strikes: 98, Longest: int(100 * share), Share: share, Lasted: 60, Judged: true},
		Trainee: "t", Name: "Runa", BagName: "Quay", Kind: rig.Speed, Drill: "d", DrillName: "Five"}
}

func TestWeeks(t *testing.T) {
	l := Log{Zone: zone(t), Now: monday}
	// Sunday 29 March at 23:30 UTC is Monday half past midnight in Lisbon, in summer time
	for _, at := range []time.Time{time.Date(2026, 3, 29, 23, 30, 0, 0, time.UTC), time.Date(2026, 3, 29, 22, 30, 0, 0,
		time.UTC), time.Date(2026, 3, 24, 10, 0, 0, 0, time.UTC), time.Date(2025, 1, 1, 0, 0, 0, 0, time.UTC)} {
		l.Rounds = append(l.Rounds, LogRound{PastRound: run.PastRound{At: at, Lasted: 90, Strikes: 10}})
	}
	p := Of(l)
	now, before := p.Weeks[11], p.Weeks[10]
	if now.From != "2026-03-30" || now.Rounds != 1 || before.From != "2026-03-23" || before.Rounds != 2 ||
		before.Days != 2 || before.Strikes != 20 || before.Minutes != 3 {
		t.Errorf("%+v %+v", before, now)
	}
	if p.Regular != "Trained 3 days in 2 weeks, 1.5 a week; 2 weeks in a row." || p.Rounds != 4 {
		t.Errorf("%q, %d rounds", p.Regular, p.Rounds)
	}
	if said := Of(Log{Now: monday}).Regular; said != "No round in the last twelve weeks." {
		t.Errorf("%q", said)
	}
}

// A week that holds much more than those before is warned of: a few rounds are added at a time (common practice).
func TestLoad(t *testing.T) {
	l := Log{Now: monday.AddDate(0, 0, 5)}
	for w, n := range []int{4, 5, 4, 12} {
		for k := range n {
			l.Rounds = append(l.Rounds, LogRound{PastRound: run.PastRound{
				At: monday.AddDate(0, 0, 7*(w-3)).Add(time.Duration(k) * time.Minute)}})
		}
	}
	if said := Of(l).Load; !strings.HasPrefix(said, "12 rounds this week; 4 are usual.") {
		t.Errorf("%q", said)
	}
	l.Rounds = l.Rounds[:18]
	if said := Of(l).Load; said != "" {
		t.Errorf("%q", said)
	}
}

func TestTallyAndStreaks(t *testing.T) {
	l := Log{Now: monday}
	for k := range 14 {
		r := round(fmt.Sprint(k), float64(14-k), 0.5+0.02*float64(k))
		if k == 9 {
			r.Bag, r.BagName, r.Longest = "w", "Wren", 91
		}
		l.Rounds = append(l.Rounds, r)
		if k%2 == 0 {
			l.Faults = append(
				l.Faults,
				LogFault{Code: fault.Waiting, Run: r.ID, At: r.At, Who: "t", Cost: 0.1, First: k > 5},
			)
		}
	}
	l.Faults = append(l.Faults, LogFault{Code: fault.Lost, Run: "13", At: monday, Who: "u", Cost: 0.3})
	p := Of(l)
	if len(p.Streaks) != 2 || p.Streaks[0].Longest != 91 || p.Streaks[0].Run != "9" || p.Streaks[1].Longest != 76 {
		t.Errorf("%+v", p.Streaks)
	}
	w := p.Faults[0]
	if w.Code != fault.Waiting || w.Rounds != 7 || w.First != 4 || w.Lately != 5 || math.Abs(w.Cost-0.1) > 1e-9 ||
		len(w.Past) != 7 || p.Faults[1].People != 1 {
		t.Errorf("%+v", p.Faults)
	}
	if p.Exposure[0].Rounds != 13 || p.Exposure[1].Bag != "w" || p.Exposure[0].Minutes != 13 {
		t.Errorf("%+v", p.Exposure)
	}
}

// The line through the shares is that of weighted least squares worked out another way: the normal equations of
// gonum's mat, with the standard error from their inverse.
func TestTrendAgainstNormalEquations(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	var l Log
	for k := range 12 {
		at := round(fmt.Sprint(k), 40-3*float64(k), math.Min(0.98, 0.5+0.03*float64(k)+0.04*r.NormFloat64()))
		at.Give, at.Planned = 0.1*r.Float64(), 60+r.IntN(100)
		l.Rounds = append(l.Rounds, at)
	}
	got := Of(l).Trends[0]
	x, y := mat.NewDense(12, 2, nil), mat.NewVecDense(12, nil)
	for k, p := range got.Points {
		w := 1 / math.Max(0.02, (p.High-p.Low)/4)
		x.SetRow(k, []float64{w, w * p.At.Sub(got.Points[0].At).Hours() / 168})
		y.SetVec(k, w*p.Share)
	}
	var normal, inverse mat.Dense
	var right, coef, left mat.VecDense
	normal.Mul(x.T(), x)
	if err := inverse.Inverse(&normal); err != nil {
		t.Fatal(err)
	}
	right.MulVec(x.T(), y)
	coef.MulVec(&inverse, &right)
	left.MulVec(x, &coef)
	left.SubVec(y, &left)
	wide := math.Sqrt(math.Max(1, mat.Dot(&left, &left)/10))
	if math.Abs(got.Slope-coef.AtVec(1)) > 1e-9 || math.Abs(got.Spread-wide*math.Sqrt(inverse.At(1, 1))) > 1e-9 {
		t.Errorf(
			"%.5f give %.5f a week; the normal equations have %.5f give %.5f",
			got.Slope,
			got.Spread,
			coef.AtVec(1),
			wide*math.Sqrt(inverse.At(1, 1)),
		)
	}
	if !got.Firm || !strings.HasPrefix(got.Said, "Up ") || len(got.Line) != 5 {
		t.Errorf("%q", got.Said)
	}
}

// Of people who stay as they are one in twenty is told of a change, as two standard errors have it; somebody who gains
// five points a week is told of it.
func TestTrendIsFirm(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	told := func(gain float64) int {
		n := 0
		for range 300 {
			var l Log
			for k := range 10 {
				p := 0.6 + gain*float64(k)/2.33
				hits := 0
				for range 100 {
					if r.Float64() < p {
						hits++
					}
				}
				l.Rounds = append(l.Rounds, round(fmt.Sprint(k), 30-3*float64(k), float64(hits)/100))
			}
			if Of(l).Trends[0].Firm {
				n++
			}
		}
		return n
	}
	if n := told(0); n > 30 {
		t.Errorf("a change in %d of 300 who stayed as they are", n)
	}
	if n := told(0.05); n < 260 {
		t.Errorf("a change in %d of 300 who gained five points a week", n)
	}
	few := Of(Log{Rounds: []LogRound{round("a", 3, 0.5), round("b", 1, 0.9)}}).Trends[0]
	if few.Firm || few.Slope != 0 || !strings.HasPrefix(few.Said, "2 rounds so far") {
		t.Errorf("%+v", few)
	}
}

// A ball whose cord loses a fiftieth of its stiffness each week comes back later by half of that, since the period goes
// by its root; that is said, with what to look at. One that only scatters is left in peace.
func TestTiring(t *testing.T) {
	cord := rig.Cord{Span: 0.75, Relaxed: 0.577, Stiffness: 150}
	ball := rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04}
	r := rand.New(rand.NewPCG(9, 1))
	known := ball.LeastKnown().Value
	fits := func(loss, scatter float64) []BagFit {
		var list []BagFit
		for k := range 12 {
			weeks := float64(k) / 2
			list = append(list, BagFit{At: monday.Add(time.Duration(weeks * float64(week))),
				Value: known * (1 - loss*weeks + scatter*r.NormFloat64()), Who: fmt.Sprint(k % 3)})
		}
		return list
	}
	said := Tiring("Windlass", ball, fits(0.02, 0.005))
	if !strings.Contains(said, "Windlass comes back later each week") || !strings.Contains(said, "A cord is dying") {
		t.Errorf("%q", said)
	}
	for range 40 {
		if said := Tiring("Windlass", ball, fits(0, 0.01)); said != "" {
			t.Errorf("of a ball that stays as it is: %q", said)
		}
	}
	alone := fits(0.02, 0.005)
	for k := range alone {
		alone[k].Who = "one"
	}
	if said := Tiring("Windlass", ball, alone); !strings.Contains(said, "All by one person") {
		t.Errorf("%q", said)
	}
	if said := Tiring("Windlass", ball, fits(0.02, 0.005)[:4]); said != "" {
		t.Errorf("by four rounds: %q", said)
	}
	if said := Tiring("Windlass", ball, fits(-0.02, 0.005)); said != "" {
		t.Errorf("of one that comes sooner: %q", said)
	}
}

func ExampleOf() {
	l := Log{Now: monday, Rounds: []LogRound{round("a", 4, 0.7), round("b", 2, 0.8)}}
	p := Of(l)
	fmt.Println(p.Regular, p.Streaks[0].Longest, "in a row on the", p.Streaks[0].BagName)
	// Output: Trained 2 days in 2 weeks, 1 a week. 80 in a row on the Quay
}

// Two thousand rounds of one person with a fault in each.
func BenchmarkOf(b *testing.B) {
	l := Log{Now: monday}
	for k := range 2000 {
		l.Rounds = append(l.Rounds, round(fmt.Sprint(k), float64(2000-k)/4, 0.7))
		l.Faults = append(l.Faults, LogFault{Code: fault.Waiting, Run: fmt.Sprint(k), At: l.Rounds[k].At, Who: "t"})
	}
	for b.Loop() {
		Of(l)
	}
}
