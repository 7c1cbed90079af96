package judge

import (
	"flag"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"regexp"
	"strings"
	"testing"

	"melodromos/core/rig"
)

// world is a bag that somebody strikes: it comes back by its own motion from every strike as it really was. The judge
// is told of the bag that hangs there by its measures only.
type world struct {
	bag     rig.Rig
	meeting rig.Meeting
	backs   map[[2]float64]float64
}

func (w *world) back(launch float64, comeBack int) float64 {
	key := [2]float64{launch, float64(comeBack)}
	if at, ok := w.backs[key]; ok {
		return at
	}
	m, n := w.meeting, w.meeting.Rebounds+comeBack
	if w.bag.Kind() == rig.Speed {
		m.Rebounds, n = m.Rebounds+2*comeBack, 1
	}
	list, err := w.bag.Returns(launch, m, n)
	if err != nil {
		panic(err)
	}
	w.backs[key] = list[len(list)-1].At
	return list[len(list)-1].At
}

// struck is one kind of bag with a plan on it: strikes that follow one another at a launch.
type struck struct {
	name    string
	bag     rig.Rig
	other   rig.Rig // the same bag, a little off its measures
	meeting rig.Meeting
	launch  float64 // m/s
	slower  float64 // tempos that the bag has at this count, as shares of the planned one
	quicker float64
	cannot  float64 // one that it has not
}

var speedBag = rig.SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.8}
var ownCord, softCord = rig.Cord{Span: 0.75, Relaxed: 0.577, Stiffness: 150},
	rig.Cord{Span: 0.75, Relaxed: 0.577, Stiffness: 145}

func struckBags() []struck {
	duller := speedBag
	duller.Restitution = 0.78
	cords := rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: ownCord, Lower: ownCord, Damping: 0.04}
	soft := cords
	soft.Upper, soft.Lower = softCord, softCord
	pole := rig.ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50, Damping: 0.06}
	weak := pole
	weak.Spring = 49
	heavy := rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5}
	longer := heavy
	longer.Chain = 0.52
	at112, err := speedBag.Solve(112, rig.Three)
	if err != nil {
		panic(err)
	}
	slow, err := speedBag.Limits(rig.Three)
	if err != nil {
		panic(err)
	}
	return []struck{
		{"speed bag", speedBag, duller, rig.Three, at112.Launch, 108.0 / 112, 118.0 / 112, 0.9 * slow.Slowest / 112},
		{"double-end bag", cords, soft, rig.Meeting{Rebounds: 1}, 3, 0.96, 1.05, 0.6},
		{"reflex bag", pole, weak, rig.Meeting{Rebounds: 1}, 2, 0.995, 1.005, 1.4},
		{"hanging bag", heavy, longer, rig.Meeting{Rebounds: 1}, 1.5, 0.98, 1.004, 1.4},
	}
}

const strikesInRound = 240

// plan gives the strikes and the bag as the judge is told of them.
func (s struck) plan(t testing.TB, n int) ([]Strike, Chain, *world) {
	t.Helper()
	table, err := rig.NewComeBacks(s.bag, s.meeting, s.meeting.Rebounds)
	if err != nil {
		t.Fatal(err)
	}
	w := &world{s.bag, s.meeting, map[[2]float64]float64{}}
	apart := w.back(s.launch, 0)
	strikes := make([]Strike, n)
	for i := range strikes {
		strikes[i] = Strike{At: float64(i) * apart, Window: table.Window(table.Place(s.meeting.Rebounds), s.launch),
			Count: s.meeting.Rebounds, Launch: s.launch}
	}
	return strikes, Chain{Bag: table, End: math.Inf(1), ForceSpread: DefaultForceSpread}, w
}

// hits strikes the world: each at the come-back of the one before, off by an error; force and error by the strike's
// number.
func (w *world) hits(n int, force, off func(i int) float64, told bool, let map[int]bool) []Hit {
	var hits []Hit
	at := 0.1
	for i := range n {
		if i > 0 {
			before := hits[len(hits)-1]
			comeBack := 0
			if let[i] {
				comeBack = 1
			}
			at = before.At + w.back(force(i-1), comeBack) + off(i)
		}
		h := Hit{At: at}
		if told {
			h.Launch = force(i)
		}
		hits = append(hits, h)
	}
	return hits
}

func noise(seed uint64, sd float64) func(int) float64 {
	r := rand.New(rand.NewPCG(seed, 9))
	return func(int) float64 { return sd * r.NormFloat64() }
}

func evenly(n int, apart float64) []Hit {
	hits := make([]Hit, n)
	for i := range hits {
		hits[i].At = 0.1 + float64(i)*apart
	}
	return hits
}

var update = flag.Bool("update", false, "write the table of the bag's clock into docs/models.md")

// rows of the table in docs/models.md, in order, with the shares of each bag.
type shares struct {
	order []string
	of    map[string][]string
}

func (s *shares) add(what string, share float64) {
	if s.of[what] == nil {
		s.order = append(s.order, what)
	}
	s.of[what] = append(s.of[what], fmt.Sprintf("%.0f", 100*share))
}

// A round on each kind of bag that is struck, as the bag's clock has it (models: the two clocks). The table stands in
// docs/models.md.
func TestTheBagsClock(t *testing.T) {
	table, head := shares{of: map[string][]string{}}, "| round |"
	for _, s := range struckBags() {
		head += " " + s.name + " |"
		t.Run(s.name, func(t *testing.T) {
			n := strikesInRound
			strikes, c, w := s.plan(t, n)
			apart, half := w.back(s.launch, 0), strikes[1].Window/2
			steadyForce := func(f float64) func(int) float64 { return func(int) float64 { return f } }
			judged := func(what string, hits []Hit, o Options) Result {
				r := JudgeBag(strikes, hits, c, o)
				table.add(what, r.CleanShare())
				t.Logf(
					"%-34s clean %5.1f %% late %d early %d missed %d extra %d let go %d anew %d met %.3f±%.3f tempo %.1f/%.1f launch %.2f/%.2f trend %+.4f coarse %q", what, 100*r.CleanShare(), r.Late, r.Early, r.Missed, r.Extra, r.Followed.LetGo, r.Followed.Anew, r.Followed.Met, r.Followed.Give, r.Followed.Held.Tempo, r.Followed.Held.Asked, r.Followed.Held.Launch, r.Followed.Held.AskedLaunch, r.Followed.Held.Trend, r.Followed.Coarse)
				return r
			}
			atLeast := func(what string, r Result, share float64) {
				if !(r.CleanShare() >= share) {
					t.Errorf("%s: %.1f %% clean, want %.1f", what, 100*r.CleanShare(), 100*share)
				}
			}
			for _, even := range []struct {
				name  string
				share float64
			}{{"perfectly even, slower than planned", s.slower}, {"perfectly even, quicker", s.quicker}} {
				r := judged(even.name, evenly(n, apart/even.share), Options{})
				atLeast("perfectly even", r, 1)
				near(t, "tempo", r.Followed.Held.Tempo, 60/apart*even.share, 0.01)
			}
			atLeast("2 % harder", judged("each strike 2 % harder",
				w.hits(n, steadyForce(1.02*s.launch), steady(0), false, nil), Options{}), 0.97)
			spread := noise(1, 0.02)
			forces := make([]float64, n)
			for i := range forces {
				forces[i] = s.launch * (1 + spread(i))
			}
			atLeast("force spread 2 %", judged("force scatters by 2 %",
				w.hits(n, func(i int) float64 { return forces[i] }, steady(0), false, nil), Options{}), 0.97)
			off := &world{s.other, s.meeting, map[[2]float64]float64{}}
			atLeast("another bag", judged("a bag 2 to 4 % off its measures",
				off.hits(n, steadyForce(s.launch), steady(0), false, nil), Options{}), 0.97)
			late := judged("each strike 0.9 windows late, force known",
				w.hits(n, steadyForce(s.launch), steady(1.8*half), true, nil), Options{})
			if late.Late < n-1 || late.Clean > 1 {
				t.Errorf("each strike late: %d late, %d clean", late.Late, late.Clean)
			}
			if r := judged("a tempo the bag cannot have at that count", evenly(n, apart/s.cannot),
				Options{}); r.Clean > n/50 {
				t.Errorf("a tempo the bag cannot have: %d clean", r.Clean)
			}
			let := judged("one come-back let through",
				w.hits(n-1, steadyForce(s.launch), steady(0), false, map[int]bool{60: true}), Options{})
			if let.Clean != n-1 || let.Missed != 1 || let.Followed.LetGo != 1 || let.Extra != 0 {
				t.Errorf("one come-back let through: %d clean, %d missed, %d let go", let.Clean, let.Missed,
					let.Followed.LetGo)
			}
			some := 0.0
			for seed := range uint64(6) {
				some += judged("noise of 0.52 windows (66 would be in time)",
					w.hits(n, steadyForce(s.launch), noise(seed, 35.0/67*2*half), false, nil),
					Options{}).CleanShare() / 6
			}
			if math.Abs(some-0.65) > 0.06 {
				t.Errorf("noise of half the window: %.1f %% clean, want about 65", 100*some)
			}
			share := 2 * half / apart
			for seed := range uint64(6) {
				r := rand.New(rand.NewPCG(5, seed))
				at, chance := 0.1, []Hit(nil)
				for range n {
					chance = append(chance, Hit{At: at})
					at += apart * math.Max(0.05, 1+0.3*r.NormFloat64())
				}
				if got := judged("random moments, 30 % of the interval", chance,
					Options{}); got.CleanShare() > math.Min(1, 2*share) {
					t.Errorf("random moments: %.1f %% clean, more than twice the windows' share of %.1f %%",
						100*got.CleanShare(), 100*share)
				}
			}
		})
	}
	var text strings.Builder
	text.WriteString(head + "\n|---|---|---|---|---|\n")
	for _, what := range table.order {
		if rows := table.of[what]; len(rows)%4 == 0 && len(rows) > 0 {
			fmt.Fprintf(&text, "| %s |", what)
			for k := 0; k < len(rows); k += len(rows) / 4 {
				fmt.Fprintf(&text, " %s |", rowRange(rows[k:k+len(rows)/4]))
			}
			text.WriteString("\n")
		}
	}
	documented(t, text.String())
}

// The sign of a trend is right in 99 rounds of 100, and there is none to tell where nothing changes.
func TestTrend(t *testing.T) {
	s := struckBags()[0]
	strikes, c, _ := s.plan(t, 330)
	for _, x := range []struct{ change, noise float64 }{{0.01, 0.005}, {0.03, 0.020}, {0, 0.01}} {
		right, wrong := 0, 0
		for seed := range 200 {
			sign := 1 - 2*float64(seed%2)
			e := noise(uint64(seed)+50, x.noise)
			at, hits := 0.1, []Hit(nil)
			for i := range 330 {
				hits = append(hits, Hit{At: at})
				at += 60/112.0/(1+sign*x.change*(float64(i)/329-0.5)) + e(i)
			}
			switch trend := JudgeBag(strikes, hits, c, Options{}).Followed.Held.Trend; {
			case math.IsNaN(trend):
			case trend*sign > 0:
				right++
			default:
				wrong++
			}
		}
		t.Logf("%.0f %% with %.0f ms: sign right in %d, wrong in %d of 200", 100*x.change, 1000*x.noise, right, wrong)
		if x.change > 0 && right < 198 {
			t.Errorf("%.0f %% with %.0f ms: sign right in %d of 200", 100*x.change, 1000*x.noise, right)
		}
		if x.change == 0 && right+wrong > 40 {
			t.Errorf("a trend was told in %d of 200 rounds without one", right+wrong)
		}
	}
}

func BenchmarkJudgeBag(b *testing.B) {
	for _, hand := range []struct {
		name   string
		spread float64 // of the window
	}{{"steady", 0.2}, {"ragged", 0.52}} {
		for _, s := range struckBags() {
			b.Run(s.name+", "+hand.name, func(b *testing.B) {
				strikes, c, w := s.plan(b, 600)
				hits := w.hits(600, func(int) float64 { return s.launch }, noise(1, strikes[1].Window*hand.spread),
					false, nil)
				b.ResetTimer()
				for b.Loop() {
					JudgeBag(strikes, hits, c, Options{})
				}
			})
		}
	}
}

// rowRange is one share, or the least and the greatest of several rounds.
func rowRange(rows []string) string {
	low, high := rows[0], rows[0]
	for _, r := range rows {
		if len(r) < len(low) || len(r) == len(low) && r < low {
			low = r
		}
		if len(r) > len(high) || len(r) == len(high) && r > high {
			high = r
		}
	}
	if low == high {
		return low
	}
	return low + " to " + high
}

// documented holds the table in docs/models.md against this one; with -update it writes it there.
func documented(t *testing.T, table string) {
	const file = "../../docs/models.md"
	text, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	between := regexp.MustCompile(`(?s)(<!-- the bag's clock -->\n).*?(<!-- end of the bag's clock -->)`)
	if *update {
		text = between.ReplaceAll(text, []byte("${1}"+table+"${2}"))
		if err := os.WriteFile(file, text, 0o644); err != nil {
			t.Fatal(err)
		}
	}
	if found := between.FindString(string(text)); !strings.Contains(found, table) {
		t.Error("the table in docs/models.md is not this one: go test ./core/judge -run TestTheBagsClock -update")
	}
}
