package rig

import (
	"errors"
	"fmt"
	"math"
	"testing"

	"gonum.org/v1/gonum/mathext"

	"melodromos/core/input"
)

// checked is the bag of the check values; its launch of 18.3 rad/s stands at the widest point.
var checked = SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, SwivelDrop: 0.02, Restitution: 0.80,
	BoardHeight: 1.95}

const checkedLaunch = 18.3 * 0.155

func near(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tolerance) {
		t.Errorf("%s: %.9g, want %.9g", what, got, want)
	}
}

// Check values to four decimals from a separate Runge–Kutta integration, done outside this code.
func TestReturnCheckValues(t *testing.T) {
	r, err := checked.Return(checkedLaunch, Three)
	if err != nil {
		t.Fatal(err)
	}
	for i, want := range []float64{0.0440, 0.2069, 0.4004} {
		near(t, fmt.Sprintf("board %d", i+1), r.Boards[i], want, 5e-5)
	}
	near(t, "return", r.At, 0.4763, 5e-5)
}

// rk4 swings the bag in small steps of the classical Runge–Kutta scheme: another route to the same times, with no
// closed form in it. It gives the times of the boards and of the meeting.
func rk4(b SpeedBag, launch float64, m Meeting) (boards []float64, at float64) {
	const h = 2e-6
	rate2 := b.BagMass * 9.80665 * b.arm() / b.Inertia()
	f := func(theta float64) float64 { return -rate2 * math.Sin(theta) }
	contact := b.Contact()
	theta, omega, now := m.Angle, launch/b.arm(), 0.0
	if m.Face == Behind && m.Rebounds%2 != 0 {
		panic("mirror it")
	}
	for {
		k1t, k1o := omega, f(theta)
		k2t, k2o := omega+h/2*k1o, f(theta+h/2*k1t)
		k3t, k3o := omega+h/2*k2o, f(theta+h/2*k2t)
		k4t, k4o := omega+h*k3o, f(theta+h*k3t)
		nt, no := theta+h/6*(k1t+2*k2t+2*k3t+k4t), omega+h/6*(k1o+2*k2o+2*k3o+k4o)
		// inbound: from the far board falling through +θ, from the near one rising through −θ
		if len(boards) == m.Rebounds {
			goal := m.Angle
			if m.Rebounds%2 == 0 {
				goal = -m.Angle
			}
			if (theta-goal)*(nt-goal) <= 0 {
				return boards, now + h*(goal-theta)/(nt-theta)
			}
		} else if math.Abs(nt) >= contact {
			share := (math.Copysign(contact, nt) - theta) / (nt - theta)
			boards = append(boards, now+h*share)
			theta, omega = math.Copysign(contact, nt), -b.Restitution*(omega+share*(no-omega))
			now += h * share
			continue
		}
		theta, omega, now = nt, no, now+h
	}
}

func TestReturnAgainstStepByStep(t *testing.T) {
	for _, c := range []struct {
		launch float64
		m      Meeting
	}{
		{checkedLaunch, Three},
		{1.4, Meeting{Rebounds: 1, Angle: 0.4, Face: Front}},
		{5, Meeting{Rebounds: 2, Angle: DefaultStrikeAngle, Face: Behind}},
		{3.1, Meeting{Rebounds: 4, Angle: 0.5, Face: Behind}},
		{9, Meeting{Rebounds: 5, Angle: 0.3, Face: Front}},
	} {
		r, err := checked.Return(c.launch, c.m)
		if err != nil {
			t.Fatal(err)
		}
		boards, at := rk4(checked, c.launch, c.m)
		for i := range boards {
			near(t, fmt.Sprintf("%+v board %d", c, i+1), r.Boards[i], boards[i], 2e-6)
		}
		near(t, fmt.Sprintf("%+v return", c), r.At, at, 2e-6)
	}
}

// A stretch without a contact against gonum's EllipticF, to 1e-6 relative and better.
func TestFreeStretchAgainstEllipticF(t *testing.T) {
	p := checked.pendulum()
	for launch := 1.3; launch <= 12; launch += 0.7 {
		r, err := checked.Return(launch, Three)
		if err != nil {
			t.Fatal(err)
		}
		bottom := p.BottomSpeed(Three.Angle, launch/checked.arm())
		m := 4 * p.Rate * p.Rate / (bottom * bottom)
		want := 2 / bottom * (mathext.EllipticF(checked.Contact()/2, m) - mathext.EllipticF(Three.Angle/2, m))
		near(t, fmt.Sprintf("first board at %g m/s", launch), r.Boards[0]/want, 1, 1e-9)
	}
}

// Energy balance: with nothing lost at the board the bag comes back as fast as it left, and each crossing takes as
// long.
func TestNothingLost(t *testing.T) {
	b := checked
	b.Restitution = 1
	r, err := b.Return(4, Meeting{Rebounds: 5})
	if err != nil {
		t.Fatal(err)
	}
	near(t, "speed", r.Speed, 4, 1e-12)
	for i := 2; i < 5; i++ {
		near(t, "crossing", r.Boards[i]-r.Boards[i-1], r.Boards[1]-r.Boards[0], 1e-12)
	}
	near(t, "way back", r.At-r.Boards[4], r.Boards[0], 1e-12)
}

// Each contact keeps the same share of the speed, so without gravity's help to speak of the crossings grow by 1/e.
func TestHardStrikeCrossings(t *testing.T) {
	b := checked
	r, err := b.Return(30, Meeting{Rebounds: 3})
	if err != nil {
		t.Fatal(err)
	}
	near(t, "ratio", (r.Boards[2]-r.Boards[1])/(r.Boards[1]-r.Boards[0]), 1/0.8, 0.01)
}

// Inertia of a thin spherical shell about its centre is ⅔mr² (inertia tables); the parallel axis adds md².
func TestInertia(t *testing.T) {
	near(t, "I", checked.Inertia(), 0.25*(0.155*0.155+2.0/3*0.075*0.075), 1e-15)
}

// Harder is sooner; a longer bag of the same build is slower (both common practice).
func TestMonotone(t *testing.T) {
	for _, n := range []int{1, 2, 3, 4, 5} {
		last := math.Inf(1)
		for launch := 1.25; launch <= 12; launch += 0.25 {
			r, err := checked.Return(launch, Meeting{Rebounds: n})
			if err != nil {
				t.Fatal(err)
			}
			if r.At >= last {
				t.Errorf("%d rebounds: %g m/s comes back at %g, no sooner than a softer strike", n, launch, r.At)
			}
			last = r.At
		}
	}
	long := checked
	long.BagLength, long.BagDiameter = 0.30, 0.30*0.15/0.23
	a, _ := checked.Return(4, Three)
	b, _ := long.Return(4, Three)
	if b.At <= a.At {
		t.Errorf("the longer bag comes back at %g, the shorter at %g", b.At, a.At)
	}
}

// From the front an odd count comes back to the front, an even one to a hand behind (common practice).
func TestParity(t *testing.T) {
	for n := 1; n <= 9; n++ {
		good, bad := Front, Behind
		if n%2 == 0 {
			good, bad = Behind, Front
		}
		if _, err := checked.Return(4, Meeting{Rebounds: n, Face: good}); err != nil {
			t.Errorf("%d from the front to %s: %v", n, good, err)
		}
		_, err := checked.Return(4, Meeting{Rebounds: n, Face: bad})
		var refused *input.Error
		if !errors.As(err, &refused) || refused.Field != "face" {
			t.Errorf("%d to %s: %v, want a refusal of face", n, bad, err)
		}
	}
}

// The window is the inbound time from 45° to 5° at the default angle, cut off by the board where that is nearer.
func TestWindow(t *testing.T) {
	p := checked.pendulum()
	r, _ := checked.Return(checkedLaunch, Three)
	bottom := p.BottomSpeed(Three.Angle, r.Speed/checked.arm())
	m := 4 * p.Rate * p.Rate / (bottom * bottom)
	f := func(deg float64) float64 { return 2 / bottom * mathext.EllipticF(deg*math.Pi/360, m) }
	near(t, "window", r.Window, f(45)-f(5), 1e-9)
	near(t, "contact", checked.Contact()*180/math.Pi, math.Acos(0.055/0.155)*180/math.Pi, 1e-12)
	wide, _ := checked.Return(checkedLaunch, Meeting{Rebounds: 3, Angle: 60 * math.Pi / 180})
	cut, _ := checked.Return(checkedLaunch, Meeting{Rebounds: 3, Angle: 69 * math.Pi / 180})
	if cut.Window >= wide.Window {
		t.Errorf("a window that ends at the board (%g) is no shorter than one that hardly does (%g)", cut.Window,
			wide.Window)
	}
}

func TestSolveBothWays(t *testing.T) {
	for _, n := range []int{1, 2, 3, 4, 5} {
		l, err := checked.Limits(Meeting{Rebounds: n})
		if err != nil {
			t.Fatal(err)
		}
		for k := 1; k < 10; k++ {
			tempo := l.Slowest + (l.Fastest-l.Slowest)*float64(k)/10
			a, err := checked.Solve(tempo, Meeting{Rebounds: n})
			if err != nil || !a.Feasible {
				t.Fatalf("%d rebounds at %g: %+v %v", n, tempo, a, err)
			}
			r, err := checked.Return(a.Launch, Meeting{Rebounds: n})
			if err != nil {
				t.Fatal(err)
			}
			near(t, "return", r.At*tempo/60, 1, 1e-9)
			back, err := checked.Struck(a.Launch, Meeting{Rebounds: n})
			if err != nil {
				t.Fatal(err)
			}
			near(t, "back", back.Tempo/tempo, 1, 1e-9)
			near(t, "fist", back.FistSpeed, a.FistSpeed, 1e-9)
		}
	}
}

// The limits count though not attained: a strike a hair harder than the softest comes as near as one likes.
func TestSlowestIsALimit(t *testing.T) {
	l, _ := checked.Limits(Three)
	for _, over := range []float64{1e-4, 1e-6, 1e-8} {
		r, err := checked.Return(l.SlowestLaunch*(1+over), Three)
		if err != nil {
			t.Fatal(err)
		}
		if tempo := 60 / r.At; tempo <= l.Slowest || tempo-l.Slowest > 40*math.Sqrt(over)*l.Slowest {
			t.Errorf("%g over the softest: %g a minute, limit %g", over, tempo, l.Slowest)
		}
	}
	if _, err := checked.Return(l.SlowestLaunch*(1-1e-9), Three); err == nil {
		t.Error("a strike softer than the softest reached the board")
	}
}

func TestChangeMakesItFeasible(t *testing.T) {
	for _, c := range []struct {
		tempo    float64
		rebounds int
		want     string
	}{{600, 3, "rebounds"}, {20, 1, "rebounds"}, {600, 3, "bagLength"}, {120, 1, "rebounds"}} {
		a, err := Reach(checked, c.tempo, Meeting{Rebounds: c.rebounds}, Anybody)
		if err != nil || a.Feasible || len(a.Change) == 0 {
			t.Fatalf("%+v: %+v %v, want advice", c, a, err)
		}
		found := false
		for _, change := range a.Change {
			if change.What != c.want {
				continue
			}
			found = true
			b, m := checked, Meeting{Rebounds: c.rebounds}
			switch change.What {
			case "rebounds":
				m.Rebounds = int(change.To)
			case "bagLength":
				s := change.To / b.BagLength
				b.BagLength, b.BagDiameter, b.SwivelDrop, b.BagMass = change.To, b.BagDiameter*s, b.SwivelDrop*s,
					b.BagMass*s*s
			}
			if again, err := b.Solve(c.tempo, m); err != nil || !again.Feasible {
				t.Errorf("%+v: after %+v still out of reach: %+v %v", c, change, again.Limits, err)
			}
		}
		if !found {
			t.Errorf("%+v: no advice on %s in %+v", c, c.want, a.Change)
		}
	}
}

// The trace is the motion: it passes the boards at their times, ends at the meeting, and agrees with the step-by-step
// route.
func TestTrace(t *testing.T) {
	for _, n := range []int{1, 2, 3} {
		m := Meeting{Rebounds: n}
		r, _ := checked.Return(3, m)
		points, err := checked.Trace(3, m, 20)
		if err != nil {
			t.Fatal(err)
		}
		start := DefaultStrikeAngle / checked.Contact()
		near(t, "start", points[0].Swing, start, 1e-12)
		end := points[len(points)-1]
		near(t, "end", end.At, r.At, 1e-12)
		near(t, "end swing", end.Swing, map[bool]float64{true: start, false: -start}[n%2 == 1], 1e-12)
		hits := 0
		for i, p := range points {
			if i > 0 && p.At <= points[i-1].At {
				t.Errorf("time runs back at point %d", i)
			}
			if math.Abs(math.Abs(p.Swing)-1) < 1e-9 {
				near(t, "board", p.At, r.Boards[hits], 1e-9)
				hits++
			}
		}
		if hits != n {
			t.Errorf("%d rebounds: the trace meets the boards %d times", n, hits)
		}
		through, err := checked.Through(3, m, 5)
		if err != nil {
			t.Fatal(err)
		}
		near(t, "through begins", through[0].Swing, end.Swing, 1e-12)
		near(t, "through reaches", math.Abs(through[4].Swing), 5*math.Pi/180/checked.Contact(), 1e-9)
	}
}

// Fist and bag: one body at rest, struck by a fist, in the textbook formula for a partly elastic impact of two masses.
func TestFistSpeed(t *testing.T) {
	felt := checked.Inertia() / (0.155 * 0.155)
	fist := checked.FistSpeed(3, 0)
	near(t, "from rest", 1.6*0.6/(0.6+felt)*fist, 3, 1e-12)
	if checked.FistSpeed(3, 2) >= fist+2 {
		t.Error("a bag that comes in should help")
	}
	a, err := checked.TempoAtFist(2.5, Three)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "fist", a.FistSpeed, 2.5, 1e-9)
}

func BenchmarkLimits(b *testing.B) {
	for b.Loop() {
		for n := 1; n <= 5; n++ {
			if _, err := checked.Limits(Meeting{Rebounds: n}); err != nil {
				b.Fatal(err)
			}
		}
	}
}

func BenchmarkSolve(b *testing.B) {
	for b.Loop() {
		if _, err := checked.Solve(120, Three); err != nil {
			b.Fatal(err)
		}
	}
}
