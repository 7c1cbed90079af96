package ladder

import (
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"melodromos/core/caution"
	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/run"
	"melodromos/core/trainee"
)

func at(day int) time.Time { return time.Date(2026, 3, day, 18, 0, 0, 0, time.UTC) }

// career walks a ladder: each day a round on what is proposed, played by how good somebody then is.
type career struct {
	Career
	t      *testing.T
	moves  map[Direction]int
	passed []int // by round

	proposed []Suggestion
}

func begin(t *testing.T, kind rig.Kind) *career {
	return &career{Career: Career{Rungs: Rungs(kind, BasicFirst), Gate: DefaultGate, Now: at(1)}, t: t,
		moves: map[Direction]int{}}
}

// days goes on for a number of days; play tells how a round on a rung goes.
func (c *career) days(n int, play func(index int) (clean float64, longest int)) {
	c.t.Helper()
	for range n {
		before := c.Standing()
		p := c.Propose()
		c.moves[p.Move]++
		if p.Index > before {
			c.t.Fatalf("rung %d is proposed and %d is not past its gate", p.Index, before)
		}
		if p.Why == "" || p.Target < firstTarget {
			c.t.Errorf("%+v", p)
		}
		if p.Move != Barred {
			clean, longest := play(p.Index)
			c.Rounds = append(
				c.Rounds,
				run.PastRound{At: c.Now, Rung: p.Rung.Key, Share: clean, Longest: longest, Planned: 60,
					Eased: p.Move == Easier},
			)
			c.proposed = append(c.proposed, p)
		}
		if after := c.Standing(); after > before+1 {
			c.t.Fatalf("from rung %d to %d in one round", before, after)
		}
		c.passed = append(c.passed, c.Standing())
		c.Now = c.Now.AddDate(0, 0, 1)
	}
}

// A fast learner needs two rounds a rung and reaches the top; nothing is jumped.
func TestFastLearner(t *testing.T) {
	c := begin(t, rig.Speed)
	n := len(c.Rungs)
	c.days(2*n-1, func(int) (float64, int) { return 0.92, 31 })
	if c.Standing() != n-1 {
		t.Errorf("after %d rounds on rung %d of %d", 2*n-1, c.Standing(), n)
	}
	c.days(3, func(int) (float64, int) { return 0.92, 31 })
	if p := c.Propose(); p.Move != Top || p.Target != 32 || c.moves[Next] != n-1 {
		t.Errorf("%+v, %v", p, c.moves)
	}
}

// On a plateau a rung is not proposed for ever: after three rounds that fail one thing is made easier, then a rung
// comes that trains the weakest link, then a lower one, each said why; two good rounds end it.
func TestPlateau(t *testing.T) {
	c := begin(t, rig.DoubleEnd)
	c.Weakest = func(Rung) level.Cause { return level.ByTiming }
	c.days(10, func(int) (float64, int) { return 0.9, 20 })
	at := c.Standing()
	began := len(c.proposed)
	c.days(90, func(index int) (float64, int) {
		if index < at {
			return 0.85, 14
		}
		return 0.76, 8
	})
	same, ways, trained := 0, []Direction{}, map[string]bool{}
	for i, p := range c.proposed[began:] {
		if same++; p.Index != at || p.Move == Easier {
			same = 0
		}
		if same > FailsInRow {
			t.Fatalf("round %d of the plateau: the same rung for the %dth time: %s", i+1, same, p.Why)
		}
		if p.Move == Easier || p.Move == Aside || p.Move == Back {
			if len(ways) == 0 || ways[len(ways)-1] != p.Move {
				ways = append(ways, p.Move)
			}
			trained[c.Rungs[p.Index].Key] = true
			if !strings.Contains(p.Why, "not passed three times") {
				t.Errorf("%+v", p)
			}
		}
	}
	if len(ways) < 6 || ways[0] != Easier || ways[1] != Aside || ways[2] != Back || ways[3] != Easier {
		t.Errorf("ways round: %v", ways)
	}
	if c.Standing() != at || !trained["doubleEnd.second"] || !trained[c.Rungs[at-1].Key] {
		t.Errorf("on rung %d of %d, by %v", c.Standing(), at, trained)
	}
	c.days(8, func(int) (float64, int) { return 0.85, 12 })
	if c.Standing() <= at {
		t.Errorf("still on rung %d", c.Standing())
	}
}

// Two rungs a day, and a gate on two days: whoever is quick does not go through a ladder in an evening.
func TestDaysCount(t *testing.T) {
	c := begin(t, rig.DoubleEnd)
	play := func(n int) (moves []Direction) {
		for range n {
			p := c.Propose()
			moves = append(moves, p.Move)
			c.Rounds = append(c.Rounds, run.PastRound{At: c.Now, Rung: p.Rung.Key, Share: 0.95, Longest: 30,
				Planned: 60})
			c.Now = c.Now.Add(4 * time.Minute)
		}
		return moves
	}
	if moves := play(5); c.Standing() != 0 || moves[2] != Enough || c.On(c.Rungs[0]).Through != 5 {
		t.Errorf("after five rounds in one evening on rung %d: %v", c.Standing(), moves)
	}
	if p := c.Propose(); !strings.Contains(p.Why, "asks for two days") {
		t.Error(p.Why)
	}
	c.Now = c.Now.AddDate(0, 0, 1)
	play(1)
	if c.Standing() != 1 {
		t.Errorf("on rung %d on the second day", c.Standing())
	}
	c.Gate.Days = 1 // a gym that does not ask for days still has the day's rungs counted
	play(4)
	if p := c.Propose(); c.Standing() != 3 || p.Move != Enough || p.Index != 2 ||
		!strings.Contains(p.Why, "Two rungs passed today") || !strings.Contains(p.Why, c.Rungs[3].Name) {
		t.Errorf("on rung %d: %+v", c.Standing(), p)
	}
	c.Now = c.Now.AddDate(0, 0, 1)
	if p := c.Propose(); p.Move != Next || p.Index != 3 {
		t.Errorf("the day after: %+v", p)
	}
	if err := (Gate{Clean: 0.8, Streak: 10, Rounds: 1, Days: 2, ADay: 1}).Check(); err == nil {
		t.Error("one round on two days")
	}
}

// What runs wild is done again under control.
func TestWild(t *testing.T) {
	c := begin(t, rig.Reflex)
	c.days(4, func(int) (float64, int) { return 0.9, 20 })
	c.days(1, func(int) (float64, int) { return 0.3, 3 })
	if p := c.Propose(); p.Move != Softly || !p.Soft || p.Index != 2 {
		t.Errorf("after a wild round: %+v", p)
	}
	c.days(2, func(int) (float64, int) { return 0.6, 6 })
	if p := c.Propose(); p.Move != Easier || p.Index != 2 || !strings.Contains(p.Why, "three times") {
		t.Errorf("after three poor ones: %+v", p)
	}
	c.days(1, func(int) (float64, int) { return 0.95, 30 })
	if p := c.Propose(); p.Index != 2 || p.Move != Again {
		t.Errorf("after a good one, made easier: %+v", p)
	}
}

// Standing falls with an absence: by a rung after three weeks, two after two months, four after half a year, half the
// ladder after a year. Each is shown once more, and a good round above shows those below as well.
func TestAbsence(t *testing.T) {
	for days, want := range map[int]int{20: 8, 26: 7, 80: 6, 200: 4, 400: 4} {
		c := begin(t, rig.Hanging)
		c.days(16, func(int) (float64, int) { return 0.9, 20 })
		c.Now = c.Now.AddDate(0, 0, days-1)
		p := c.Propose()
		if p.Index != want || (p.Move == Back) != (want < 8) || p.Soft != (want < 8) ||
			want < 8 && !strings.Contains(p.Why, "days away") {
			t.Errorf("%d days away: %+v", days, p)
		}
		if want == 8 {
			continue
		}
		c.days(1, func(int) (float64, int) { return 0.6, 6 })
		if p := c.Propose(); p.Index != want || p.Soft {
			t.Errorf("%d days away, then a poor round: %+v", days, p)
		}
		c.days(8-want, func(int) (float64, int) { return 0.9, 20 })
		if p := c.Propose(); p.Index != 8 {
			t.Errorf("%d days away, and a good round on each: %+v", days, p)
		}
	}
	c := begin(t, rig.Hanging)
	c.days(16, func(int) (float64, int) { return 0.9, 20 })
	c.Now = c.Now.AddDate(0, 0, 400)
	c.Rounds = append(c.Rounds, run.PastRound{At: c.Now, Rung: c.Rungs[7].Key, Share: 0.95, Longest: 30, Planned: 60})
	if c.Standing() != 8 {
		t.Errorf("a good round on the highest leaves rung %d", c.Standing())
	}
	// No more rungs are regained in one day than are passed in one.
	c.Rounds = c.Rounds[:len(c.Rounds)-1]
	for i, want := range []Direction{Back, Back, Enough, Enough} {
		p := c.Propose()
		if p.Move != want || p.Index != 4+min(i, 1) {
			t.Errorf("round %d after a year away: %+v", i, p)
		}
		c.Rounds = append(c.Rounds, run.PastRound{At: c.Now, Rung: p.Rung.Key, Share: 0.95, Longest: 30, Planned: 60})
	}
	c.Now = c.Now.AddDate(0, 0, 1)
	if p := c.Propose(); p.Move != Back || p.Index != 6 {
		t.Errorf("the day after: %+v", p)
	}
}

// A sore wrist bars the heavy bag and keeps the others soft; a knock to the head bars everything until it is lifted.
func TestInjury(t *testing.T) {
	for kind, floor := range map[rig.Kind]drill.Floor{rig.Speed: on(rig.Speed, trainee.Beginner),
		rig.Hanging: on(rig.Hanging, trainee.Beginner)} {
		with := func(list ...caution.Type) Suggestion {
			c := begin(t, kind)
			c.Held = func(r Rung) string { return caution.Spare(list, r.Plan, floor).Held }
			return c.Propose()
		}
		if p := with(caution.Wrist); (p.Move == Barred) != (kind == rig.Hanging) {
			t.Errorf("%s, a sore wrist: %+v", kind, p)
		}
		if p := with(caution.Head); p.Move != Barred || p.Barred == "" {
			t.Errorf("%s, a knock to the head: %+v", kind, p)
		}
		if p := with(); p.Move != Start {
			t.Errorf("%s, lifted: %+v", kind, p)
		}
	}
}

// A coach's hold keeps a rung past its gate, a skip opens the next one, and both say why.
func TestDecisions(t *testing.T) {
	c := begin(t, rig.Speed)
	c.days(1, func(int) (float64, int) { return 0.9, 20 })
	decide := func(rung string, choice Choice, reason string) Suggestion {
		c.Decisions = append(c.Decisions, Decision{c.Now, rung, choice, reason})
		return c.Propose()
	}
	if p := decide("speed.once", Hold, "shoulders first"); p.Move != Stay ||
		!strings.Contains(p.Why, "shoulders first") {
		t.Errorf("held: %+v", p)
	}
	// Running it goes on, and even past the gate it is not left.
	if p := decide("speed.once", Accept, ""); p.Move != Stay {
		t.Errorf("held and taken: %+v", p)
	}
	c.days(3, func(int) (float64, int) { return 0.95, 40 })
	if p := c.Propose(); c.Standing() != 1 || p.Index != 0 || p.Move != Stay {
		t.Errorf("held past the gate: %+v", p)
	}
	if p := decide("speed.once", GoOn, ""); p.Index != 1 || p.Move != Next {
		t.Errorf("let go on: %+v", p)
	}
	if p := decide("speed.rear", Skip, "can do it"); p.Index != 2 || !c.On(c.Rungs[1]).Skipped ||
		c.On(c.Rungs[1]).Reason != "can do it" {
		t.Errorf("skipped: %+v", p)
	}
	if p := c.On(c.Rungs[0]); !p.Done || p.Best != 40 || p.Through != 4 || p.At.IsZero() {
		t.Errorf("on the first rung: %+v", p)
	}
	if Follow([]rig.Kind{rig.Speed, rig.Slip}, []rig.Kind{rig.Slip, rig.Reflex}) != rig.Slip ||
		Follow([]rig.Kind{rig.Speed}, nil) != rig.Speed || Follow(nil, []rig.Kind{rig.Slip}) != "" {
		t.Error("somebody goes on with another bag")
	}
	if KindOf("reflex.two") != rig.Reflex || KindOf("reflex.") != "" {
		t.Error("a rung is taken for another bag's")
	}
}

// Whatever the rounds, a rung is never proposed before those under it are past their gates.
func TestNeverJumps(t *testing.T) {
	r := rand.New(rand.NewPCG(31, 32))
	for kind := range bags {
		for range 40 {
			c := begin(t, kind)
			for range 20 {
				c.days(5, func(int) (float64, int) { return r.Float64(), r.IntN(40) })
				c.Now = c.Now.AddDate(0, 0, r.IntN(40))
			}
		}
	}
}
