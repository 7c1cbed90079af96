package rig

import (
	"math"
	"testing"
)

// stepped follows a speed bag by tiny steps (semi-implicit Euler, 1 µs), an independent road: it starts at an angle
// with a speed (rad/s), loses speed at the board, and asks at each step whether to go on. at is told the time, the
// angle, the speed and the rebounds so far, and may set the speed anew.
func stepped(b SpeedBag, angle, speed float64, at func(t, angle float64, speed *float64, rebounds int) bool) {
	const h = 1e-6
	rate := b.pendulum().Rate
	rebounds := 0
	for i := 0; i < 5_000_000; i++ {
		speed -= h * rate * rate * math.Sin(angle)
		angle += h * speed
		if c := b.Contact(); math.Abs(angle) >= c && angle*speed > 0 {
			speed *= -b.Restitution
			rebounds++
		}
		if !at(float64(i+1)*h, angle, &speed, rebounds) {
			return
		}
	}
}

// A double punch: the second fist meets the first rebound near 50°, some hundredths of a second later, and three
// rebounds later the bag is back at the front (common practice); both times against a simulation by steps.
func TestDoublePunch(t *testing.T) {
	d, err := checked.DoublePunch(3.5, Three)
	if err != nil {
		t.Fatal(err)
	}
	gap, back, struckTwice := 0.0, 0.0, false
	stepped(checked, DefaultStrikeAngle, 3.5/checked.arm(), func(at, angle float64, speed *float64, rebounds int) bool {
		switch {
		case !struckTwice && rebounds == 1 && angle <= secondFist:
			gap, struckTwice, *speed = at, true, 3.5/checked.arm()
		case struckTwice && rebounds == 4 && angle <= DefaultStrikeAngle:
			back = at
			return false
		}
		return true
	})
	near(t, "gap", d.Gap, gap, 2e-5)
	near(t, "next double punch", d.Return.At, back, 5e-5)
	if d.Gap < 0.02 || d.Gap > 0.12 || len(d.Return.Boards) != 4 {
		t.Errorf("%+v", d)
	}
	last := math.Inf(1)
	for launch := 3.0; launch < 10; launch += 0.5 {
		d, err := checked.DoublePunch(launch, Three)
		if err != nil || d.Gap >= last {
			t.Fatalf("harder than before, at %g m/s, the gap is %g (%v)", launch, d.Gap, err)
		}
		last = d.Gap
	}
}

// The slowest double punch is the one whose contacts are still heard as one, and a solved tempo comes back.
func TestSolveDouble(t *testing.T) {
	a, err := checked.SolveDouble(90, Three)
	if err != nil {
		t.Fatal(err)
	}
	slow, _ := checked.DoublePunch(a.Limits.SlowestLaunch, Three)
	if slow.Gap > OneBlow+1e-6 {
		t.Errorf("the slowest has its contacts %g s apart", slow.Gap)
	}
	mid := (a.Limits.Slowest + a.Limits.Fastest) / 2
	a, err = checked.SolveDouble(mid, Three)
	if err != nil || !a.Feasible {
		t.Fatalf("%+v %v", a, err)
	}
	d, _ := checked.DoublePunch(a.Launch, Three)
	near(t, "tempo", 60/d.Return.At, mid, 1e-6)
	double := func(tempo float64) (TempoAnswer, error) { return checked.SolveDouble(tempo, Three) }
	if a, err := ReachBy(double, a.Limits.Slowest/2, Anybody); err != nil || a.Feasible || len(a.Change) != 1 {
		t.Errorf("half the slowest: %+v %v", a, err)
	} else if again, err := double(a.Change[0].To); err != nil || !again.Feasible {
		t.Errorf("at the %g that is offered: %+v %v", a.Change[0].To, again, err)
	}
	p, err := checked.DoublePicture(a.Launch, Three)
	if err != nil {
		t.Fatal(err)
	}
	for i := 1; i < len(p.Trace); i++ {
		if p.Trace[i].At < p.Trace[i-1].At || math.Abs(p.Trace[i].Swing) > 1+1e-9 ||
			math.Abs(p.Trace[i].Swing-p.Trace[i-1].Swing) > 0.35 {
			t.Fatalf("the picture jumps at point %d: %+v to %+v", i, p.Trace[i-1], p.Trace[i])
		}
	}
}

// Let go at the board the bag falls from rest: at the strike angle after the time a simulation by steps gives, and with
// the speed of the balance of energy.
func TestTrap(t *testing.T) {
	pin, err := checked.Trap(0)
	if err != nil {
		t.Fatal(err)
	}
	fall := 0.0
	stepped(checked, checked.Contact()-1e-12, 0, func(at, angle float64, _ *float64, _ int) bool {
		fall = at
		return angle > DefaultStrikeAngle
	})
	near(t, "fall", pin.Fall, fall, 5e-5)
	rate := checked.pendulum().Rate
	near(t, "speed", pin.Speed/checked.arm(),
		math.Sqrt(2*rate*rate*(math.Cos(DefaultStrikeAngle)-math.Cos(checked.Contact()))), 1e-9)
	p, err := checked.TrapPicture(0, 0.6)
	if err != nil || p.Trace[len(p.Trace)-1].At != 0.6 {
		t.Fatalf("%+v %v", p, err)
	}
	if _, err := checked.TrapPicture(0, pin.Least*0.9); err == nil {
		t.Error("a trap with no time to hold the bag was drawn")
	}
	// Held, it stands at the board: half a period of quiet is drawn as such.
	held := 0
	for _, point := range p.Trace {
		if point.Swing == 1 {
			held++
		}
	}
	if held < 2 {
		t.Errorf("held over %d points", held)
	}
}
