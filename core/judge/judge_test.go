package judge

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"melodromos/core/drill"
)

// row makes strikes so many seconds apart.
func row(n int, apart, window float64) []Strike {
	list := make([]Strike, n)
	for i := range list {
		list[i] = Strike{At: float64(i) * apart, Window: window}
	}
	return list
}

// late makes a hit on each strike but those left out, off by a given error.
func late(strikes []Strike, off func(i int) float64, out ...int) []Hit {
	var hits []Hit
next:
	for i, s := range strikes {
		for _, o := range out {
			if i == o {
				continue next
			}
		}
		hits = append(hits, Hit{At: s.At + off(i), Hand: s.Hand})
	}
	return hits
}

func steady(e float64) func(int) float64 { return func(int) float64 { return e } }

func near(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tolerance) {
		t.Errorf("%s: %g, want %g", what, got, want)
	}
}

// The hand-made row: 100 strikes half a second apart, windows of 60 ms, hit 10 missing, all hits 40 ms late.
func TestSteadyOffset(t *testing.T) {
	strikes := row(100, 0.5, 0.060)
	hits := late(strikes, steady(0.040), 10)
	r := Judge(strikes, hits, Options{})
	if r.Clean != 99 || r.Missed != 1 || r.Late+r.Early+r.Extra+r.WrongHand != 0 {
		t.Errorf("with the offset off: %+v", r)
	}
	near(t, "offset", r.Offset, 0.040, 1e-9)
	near(t, "bias", r.Bias, 0.040, 1e-9)
	near(t, "spread", r.Spread, 0, 1e-9)
	if r.Longest != 89 {
		t.Errorf("longest streak %d, want 89", r.Longest)
	}
	for k, m := range r.Matches { // hit k belongs to strike k, from the gap on to strike k+1
		want := k
		if k >= 10 {
			want++
		}
		if m.Strike != want || m.Hit != k {
			t.Fatalf("match %d is %+v", k, m)
		}
	}
	kept := Judge(strikes, hits, Options{KeepOffset: true})
	if kept.Late != 99 || kept.Clean != 0 || kept.Missed != 1 || kept.Offset != 0 {
		t.Errorf("with the offset kept: %+v", kept)
	}
}

func TestCounts(t *testing.T) {
	strikes := row(20, 0.5, 0.060)
	for i := range strikes {
		strikes[i].Hand = drill.Lead
	}
	hits := late(strikes, func(i int) float64 { return map[int]float64{3: 0.035, 7: -0.040}[i] }, 12)
	hits = append(hits, Hit{At: 2.23}, Hit{At: 100}) // between two strikes, and long after
	hits[5].Hand = drill.Rear
	r := Judge(strikes, hits, Options{KeepOffset: true})
	if r.Clean != 16 || r.Late != 1 || r.Early != 1 || r.Missed != 1 || r.Extra != 2 || r.WrongHand != 1 {
		t.Errorf("%+v", r)
	}
	want := map[int]Verdict{3: Late, 7: Early, 12: Missed, 5: WrongHand, 0: Clean}
	for i, v := range want {
		if r.Strikes[i] != v {
			t.Errorf("strike %d is %s, want %s", i, r.Strikes[i], v)
		}
	}
	if r.Longest != 7 { // 13 to 19; an extra does not break a streak
		t.Errorf("longest %d, want 7", r.Longest)
	}
}

// A hit at the very border of a window is clean; a hair further it is not.
func TestBorder(t *testing.T) {
	strikes := row(3, 1, 0.060)
	r := Judge(strikes, []Hit{{At: 0.030}, {At: 1 - 0.030}, {At: 2.0301}}, Options{KeepOffset: true})
	if r.Clean != 2 || r.Late != 1 {
		t.Errorf("%+v", r)
	}
}

// Hits that slip by 60 ms a minute, in the slope of a straight line.
func TestDrift(t *testing.T) {
	strikes := row(120, 0.5, 0.100)
	hits := late(strikes, func(i int) float64 { return 0.060 * strikes[i].At / 60 })
	r := Judge(strikes, hits, Options{KeepOffset: true})
	near(t, "drift", r.Drift, 0.060, 1e-9)
	if r.Missed+r.Extra != 0 {
		t.Errorf("%+v", r)
	}
}

// One missed strike must not shift all that follow, as it would by taking the nearest in turn.
func TestMissDoesNotShift(t *testing.T) {
	strikes := row(50, 0.12, 0.060)
	hits := late(strikes, steady(0.02), 20, 21)
	r := Judge(strikes, hits, Options{KeepOffset: true})
	if r.Clean != 48 || r.Missed != 2 || r.Extra != 0 {
		t.Errorf("%+v", r)
	}
}

// Of two offsets that fit equally well the smaller is taken: hits exactly between the strikes.
func TestOffsetTie(t *testing.T) {
	strikes := row(1, 0.5, 0.2)
	r := Judge(strikes, []Hit{{At: -0.01}, {At: 0.01}}, Options{})
	near(t, "offset", math.Abs(r.Offset), 0.01, 1e-9)
	strikes = row(40, 0.3, 0.060)
	r = Judge(strikes, late(strikes, steady(0.2)), Options{}) // 200 ms late is nearer to 100 ms early
	near(t, "offset", r.Offset, -0.1, 1e-9)
	if r.Missed != 1 || r.Extra != 1 {
		t.Errorf("%+v", r)
	}
}

func TestEmpty(t *testing.T) {
	for _, r := range []Result{Judge(nil, nil, Options{}), Judge(row(3, 1, 0.1), nil, Options{}),
		Judge(nil, []Hit{{At: 1}}, Options{})} {
		if r.Offset != 0 || !math.IsNaN(r.Bias) || !math.IsNaN(r.Spread) || !math.IsNaN(r.Drift) ||
			len(r.Matches) != 0 {
			t.Errorf("%+v", r)
		}
	}
}

// table fills the whole table of the alignment, the textbook way, for a comparison: no gate, no shortcuts. A leftover
// hit costs by the window of the strike it is paired against, so windows are equal here.
func table(strikes []Strike, hits []Hit, offset, window float64) float64 {
	f := make([][]float64, len(strikes)+1)
	for i := range f {
		f[i] = make([]float64, len(hits)+1)
		for j := range f[i] {
			switch {
			case i == 0:
				f[i][j] = 0.75 * window * float64(j)
			case j == 0:
				f[i][j] = 0.75 * window * float64(i)
			default:
				f[i][j] = min(f[i-1][j]+0.75*window, f[i][j-1]+0.75*window,
					f[i-1][j-1]+math.Abs(hits[j-1].At-offset-strikes[i-1].At))
			}
		}
	}
	return f[len(strikes)][len(hits)]
}

func TestMatchingIsCheapest(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	for round := range 400 {
		window := 0.03 + 0.1*r.Float64()
		strikes := row(1+r.IntN(25), 0.05+0.4*r.Float64(), window)
		var hits []Hit
		for _, s := range strikes {
			for r.Float64() < 0.7 {
				hits = append(hits, Hit{At: s.At + 0.06*r.NormFloat64()})
			}
		}
		m := newMatcher(strikes, hits)
		for i, h := range m.hits {
			hits[i] = Hit{At: h.at}
		}
		offset := 0.05 * r.NormFloat64()
		cost := 0.75 * window * float64(len(strikes)+len(hits))
		pairs := m.pairs(offset)
		for k, p := range pairs {
			cost += math.Abs(m.hits[p[1]].at-offset-m.strikes[p[0]].at) - 1.5*window
			if k > 0 && (p[0] <= pairs[k-1][0] || p[1] <= pairs[k-1][1]) {
				t.Fatalf("round %d: pairs run back: %v", round, pairs)
			}
		}
		near(t, fmt.Sprintf("round %d: cost", round), cost, table(strikes, hits, offset, window), 1e-9)
		near(t, "saving", m.saving(offset), 0.75*window*float64(len(strikes)+len(hits))-cost, 1e-9)
	}
}

// everyWay pairs strikes and hits in every way that does not cross, and gives the cheapest cost: no dynamic programming
// at all, on short rows.
func everyWay(strikes []Strike, hits []Hit, offset, window float64) float64 {
	if len(strikes) == 0 || len(hits) == 0 {
		return 0.75 * window * float64(len(strikes)+len(hits))
	}
	least := 0.75*window + everyWay(strikes[1:], hits, offset, window) // the first strike is missed
	for j, h := range hits {                                           // or it takes a hit, and those before are extra
		least = min(least, math.Abs(h.At-offset-strikes[0].At)+0.75*window*float64(j)+
			everyWay(strikes[1:], hits[j+1:], offset, window))
	}
	return least
}

func TestMatchingAgainstBruteForce(t *testing.T) {
	r := rand.New(rand.NewPCG(31, 41))
	for round := range 600 {
		window := 0.03 + 0.1*r.Float64()
		strikes := row(1+r.IntN(7), 0.05+0.3*r.Float64(), window)
		var hits []Hit
		for range r.IntN(8) {
			hits = append(hits, Hit{At: strikes[0].At + 1.5*r.Float64()})
		}
		m := newMatcher(strikes, hits)
		for i, h := range m.hits {
			hits[i] = Hit{At: h.at}
		}
		offset := 0.05 * r.NormFloat64()
		saved := 0.75*window*float64(len(strikes)+len(hits)) - everyWay(strikes, hits, offset, window)
		near(t, fmt.Sprintf("round %d: saving", round), m.saving(offset), saved, 1e-9)
	}
}

// The offset that is found is no dearer than any on a fine grid.
func TestOffsetIsBest(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	worse := 0
	for range 60 {
		strikes := row(40, 0.45, 0.06)
		true_ := 0.4*r.Float64() - 0.2
		var hits []Hit
		for _, s := range strikes {
			if r.Float64() < 0.85 {
				hits = append(hits, Hit{At: s.At + true_ + 0.02*r.NormFloat64()})
			}
		}
		m := newMatcher(strikes, hits)
		found := m.findOffset()
		best := m.saving(found)
		for o := -0.225; o <= 0.225; o += 0.0005 {
			if m.saving(o) > best+1e-6 {
				worse++
				break
			}
		}
		near(t, "offset", found, true_, 0.015)
	}
	if worse > 0 {
		t.Errorf("in %d of 60 rounds another offset was better", worse)
	}
}

// The order in which lists come in makes no difference.
func TestUnordered(t *testing.T) {
	strikes := row(30, 0.4, 0.06)
	hits := late(strikes, steady(0.01), 4)
	mixedS, mixedH := append([]Strike{}, strikes...), append([]Hit{}, hits...)
	r := rand.New(rand.NewPCG(7, 8))
	r.Shuffle(len(mixedS), func(i, j int) { mixedS[i], mixedS[j] = mixedS[j], mixedS[i] })
	r.Shuffle(len(mixedH), func(i, j int) { mixedH[i], mixedH[j] = mixedH[j], mixedH[i] })
	a, b := Judge(strikes, hits, Options{}), Judge(mixedS, mixedH, Options{})
	if a.Clean != b.Clean || a.Longest != b.Longest || math.Abs(a.Offset-b.Offset) > 1e-12 {
		t.Errorf("%+v\n%+v", a, b)
	}
	for _, m := range b.Matches {
		if math.Abs(mixedH[m.Hit].At-mixedS[m.Strike].At-0.01) > 1e-9 {
			t.Errorf("match %+v joins what does not belong together", m)
		}
	}
}

func TestMeasures(t *testing.T) {
	strikes := row(60, 0.5, 0.1)
	for i := range strikes {
		strikes[i].Hand, strikes[i].Position = drill.Lead, i%2
		if i%2 == 1 {
			strikes[i].Hand = drill.Rear
		}
	}
	hits := late(strikes, func(i int) float64 { return map[bool]float64{true: 0.02}[i%2 == 1] }, 20, 21)
	r := Judge(strikes, hits, Options{KeepOffset: true})
	m := Measure(r, strikes, hits, 0, 30, [2]float64{0.05, 0.05})
	if len(m.Hands) != 2 || len(m.Positions) != 2 {
		t.Fatalf("%+v", m)
	}
	near(t, "lead", m.Hands[0].Bias, 0, 1e-12)
	near(t, "rear", m.Hands[1].Bias, 0.02, 1e-12)
	if m.Hands[0].Planned != 30 || m.Hands[0].Clean != 29 {
		t.Errorf("%+v", m.Hands[0])
	}
	if len(m.Breaks) != 1 || m.Breaks[0].Strike != 20 || m.Breaks[0].Streak != 20 {
		t.Fatalf("breaks %+v", m.Breaks)
	}
	near(t, "recovery", m.Breaks[0].Recover, 2, 1e-9) // order is the third clean strike, 24 at 12 s
	if len(m.Paces) != 2 {
		t.Fatalf("paces %+v", m.Paces)
	}
	near(t, "pace", m.Paces[1].Tempo, 120, 6)
	near(t, "inbound", m.Inbound, 1, 0)
	if m.Variety < 0.01 || m.Variety > 0.2 {
		t.Errorf("variety %g", m.Variety)
	}
}

func BenchmarkJudge600(b *testing.B) {
	strikes := row(600, 0.3, 0.060)
	r := rand.New(rand.NewPCG(1, 1))
	hits := late(strikes, func(int) float64 { return 0.05 + 0.02*r.NormFloat64() }, 9, 99, 300)
	for b.Loop() {
		Judge(strikes, hits, Options{})
	}
}

func ExampleJudge() {
	strikes := []Strike{{At: 0, Window: 0.06}, {At: 0.5, Window: 0.06}, {At: 1, Window: 0.06}}
	r := Judge(strikes, []Hit{{At: 0.01}, {At: 1.05}}, Options{KeepOffset: true})
	fmt.Println(r.Clean, "clean,", r.Late, "late,", r.Missed, "missed")
	// Output: 1 clean, 1 late, 1 missed
}

// Hands tell an offset of a whole strike: alternating hands, all 0.30 s late in a row of 0.50 s, look 0.20 s early with
// every hand wrong.
func TestHandsTellTheOffset(t *testing.T) {
	strikes := row(60, 0.5, 0.060)
	for i := range strikes {
		strikes[i].Hand = []drill.Hand{drill.Lead, drill.Rear}[i%2]
	}
	r := Judge(strikes, late(strikes, steady(0.30)), Options{})
	near(t, "offset", r.Offset, 0.30, 1e-9)
	if r.Clean != 60 || r.WrongHand != 0 {
		t.Errorf("%d clean, %d with the other hand", r.Clean, r.WrongHand)
	}
	silent := late(strikes, steady(0.30))
	for i := range silent {
		silent[i].Hand = ""
	}
	if r := Judge(strikes, silent, Options{}); r.Offset > 0 {
		t.Errorf("without hands the offset is %g", r.Offset)
	}
}
