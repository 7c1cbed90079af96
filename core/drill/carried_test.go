package drill

import (
	"math"
	"slices"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/rig"
)

// inPlane follows a ball between two cords across both ways of the plane (m, m/s), by small steps of Runge and Kutta,
// until it comes back through the strike plane x = 0. It shares nothing with the package's own motion.
func inPlane(b rig.DoubleEndBag, vx, vy float64) (y, ux, uy float64) {
	damping := 0.0
	for _, k := range []rig.Cord{b.Upper, b.Lower} {
		damping += k.Stiffness * (k.Span - k.Relaxed) / k.Span
	}
	c := 2 * b.Damping * math.Sqrt(damping*b.BallMass)
	rate := func(s [4]float64) [4]float64 {
		pull := 0.0
		for _, k := range []rig.Cord{b.Upper, b.Lower} {
			long := math.Sqrt(k.Span*k.Span + s[0]*s[0] + s[1]*s[1])
			pull += k.Stiffness * math.Max(0, long-k.Relaxed) / long
		}
		return [4]float64{s[2], s[3], -(pull*s[0] + c*s[2]) / b.BallMass, -(pull*s[1] + c*s[3]) / b.BallMass}
	}
	const h = 1e-5
	s := [4]float64{0, 0, vx, vy}
	for n := 0; n < 400_000; n++ {
		step := func(k [4]float64, f float64) (out [4]float64) {
			for i := range out {
				out[i] = s[i] + f*k[i]
			}
			return out
		}
		k1 := rate(s)
		k2 := rate(step(k1, h/2))
		k3 := rate(step(k2, h/2))
		k4 := rate(step(k3, h))
		next := s
		for i := range next {
			next[i] += h / 6 * (k1[i] + 2*k2[i] + 2*k3[i] + k4[i])
		}
		if n > 100 && s[0] > 0 && next[0] <= 0 {
			return next[1], next[2], next[3]
		}
		s = next
	}
	return math.NaN(), math.NaN(), math.NaN()
}

// A hit beside the middle sends the next returns off their line as well, by what a ball that is followed in the plane
// does; a bag that is at rest ends it.
func TestCarriedError(t *testing.T) {
	rep, err := Land(
		CombinationDrill{Text: "1-2-1-2", Stance: combo.Orthodox, Landing: OnReturns, Pace: Combining, Pause: 2,
			Work: 30},
		Floor{Bag: gentle, Ability: able},
	)
	if err != nil {
		t.Fatal(err)
	}
	off, list := CarriedError(rep, gentle)
	if math.Abs(off-gentle.BallDiameter/6) > 1e-12 || len(list) != 3 {
		t.Fatalf("%g, %+v", off, list)
	}
	// The geometry of fist and ball (models.md 2.3): asin(off/(R + 0.045)).
	angle := math.Asin(off / (gentle.BallDiameter/2 + 0.045))
	for i, c := range list {
		if math.Abs(c.Angle-angle*180/math.Pi) > 0.2 {
			t.Errorf("the %d. strike after it: %.2f degrees, and in the plane %.2f", i+1, c.Angle, angle*180/math.Pi)
		}
		launch := rep.Moves[i].Launch
		y, vx, vy := inPlane(gentle, launch*math.Cos(angle), launch*math.Sin(angle))
		if math.Abs(y) > 0.002 {
			t.Errorf("it comes back %.4f m beside the strike point", y)
		}
		if back := math.Atan2(vy, vx); math.Abs(math.Abs(math.Pi-math.Abs(back))-angle) > 0.01 {
			t.Errorf("it comes back at %.3f rad, and left at %.3f", back, angle)
		}
		// Flush: the blow turns only the speed along the line of the fist.
		angle = math.Atan2(math.Abs(vy), rep.Moves[i+1].Launch)
	}
	if !(list[0].Angle > list[1].Angle && list[1].Angle > list[2].Angle && list[2].Angle > list[0].Angle/3) {
		t.Errorf("it does not die away slowly: %+v", list)
	}
	still := CombinationDrill{Text: "1-2", Stance: combo.Orthodox, Landing: OnReturns, Rhythm: NoReturn,
		Pace: Combining, Pause: 2, Work: 30}
	if rep, err = Land(still, Floor{Bag: gentle, Ability: able}); err != nil {
		t.Fatal(err)
	}
	if _, list := CarriedError(rep, gentle); len(list) != 0 {
		t.Errorf("a ball at rest: %+v", list)
	}
	if _, list := CarriedError(rep, heavyBag); list != nil {
		t.Errorf("a heavy bag: %+v", list)
	}
}

// What lands flush on which shape (common practice), and what of a line does not.
func TestFlush(t *testing.T) {
	ball := rig.HangingBag{Shape: "ball", Mass: 30, Diameter: 0.45, Chain: 0.6, AnchorHeight: 2.9}
	line, err := combo.Parse("1-2 - 5! - overhand - 2 - knee rear")
	if err != nil {
		t.Fatal(err)
	}
	moves := line.Moves(combo.Orthodox)
	for _, c := range []struct {
		on      Floor
		flush   []string
		glances []string
	}{
		{Floor{Bag: ball}, []string{"5", "6", "overhand", "3", "4", "knee lead", "knee rear"}, []string{"1", "2"}},
		{Floor{Bag: ball, NoKicks: true}, []string{"5", "6", "overhand", "3", "4"}, []string{"1", "2", "knee rear"}},
		{Floor{Bag: heavyBag}, []string{"1", "2", "1b", "2b", "low kick lead", "low kick rear", "round kick lead",
			"round kick rear"}, []string{"5", "overhand", "knee rear"}},
		{Floor{Bag: gentle, Place: rig.Place{Made: rig.TwoLobed}}, []string{"1", "2", "5", "6", "3b", "4b"},
			[]string{"overhand", "knee rear"}},
		{Floor{Bag: gentle}, nil, nil},
	} {
		if got := Flush(c.on); !slices.Equal(got, c.flush) {
			t.Errorf("%s: %v, want %v", c.on.Bag.Kind(), got, c.flush)
		}
		if got := Glances(moves, c.on); !slices.Equal(got, c.glances) {
			t.Errorf("%s glances: %v, want %v", c.on.Bag.Kind(), got, c.glances)
		}
	}
}
