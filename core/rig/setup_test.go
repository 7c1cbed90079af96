package rig

import (
	"errors"
	"math"
	"testing"

	"melodromos/core/input"
	"melodromos/core/motion"
)

var tall, small = Body{Height: 1.85, Reach: 1.93}, Body{Height: 1.45}

// Heights of a body by Drillis & Contini (1966): eye 0.936, chin 0.870, shoulder 0.818, hip 0.530, knee 0.285 of the
// standing height.
func TestProportions(t *testing.T) {
	at := Body{Height: 1.80}.Upright()
	for name, c := range map[string][2]float64{
		"eye": {at.Eye, 1.6848}, "chin": {at.Chin, 1.566}, "shoulder": {at.Shoulder, 1.4724}, "hip": {at.Hip, 0.954},
		"knee": {at.Knee, 0.513},
	} {
		near(t, name, c[0], c[1], 1e-9)
	}
	if !(at.Chin < at.Mouth && at.Mouth < at.Eye) {
		t.Errorf("%+v", at)
	}
	// What was measured in stance holds there, and is higher by what the stance takes off when standing upright.
	measured := Body{Height: 1.80, Eye: 1.60, Mouth: 1.53, Chin: 1.48}
	if p := measured.InStance(); p.Eye != 1.60 || math.Abs(p.Mouth-1.53) > 1e-12 || p.Chin != 1.48 {
		t.Errorf("%+v", p)
	}
	near(t, "upright", measured.Upright().Chin, 1.48+stanceDip*1.80, 1e-12)
	if longer := (Body{Height: 1.80, Reach: 1.95}).Straight(); longer <= (Body{Height: 1.80}).Straight() {
		t.Error("a longer reach does not reach further")
	}
	for field, b := range map[string]Body{"height": {Height: 3}, "eye": {Height: 1.6, Eye: 1.7},
		"chin": {Height: 1.8, Mouth: 1.5, Chin: 1.55}, "reach": {Reach: math.NaN()}} {
		var refused *input.Error
		if err := b.Check(); !errors.As(err, &refused) || refused.Field != field {
			t.Errorf("%+v: %v", b, err)
		}
	}
}

// Each kind at its height, worked by hand from the table for a person of 1.80 m.
func TestSetUpHeights(t *testing.T) {
	b := Body{Height: 1.80}
	dip := 0.04 * 1.80
	for _, c := range []struct {
		name      string
		rig       Rig
		place     Place
		low, high float64
	}{
		{"speed bag, chin to mouth", checked, Place{}, 0.870 * 1.80, 0.870*1.80 + 0.066*1.80/3},
		{"speed bag, for the shoulders", checked, Place{School: ForShoulders}, 0.870*1.80 + 0.066*1.80/3, 0.936 * 1.80},
		{"double-end at the eyes", doubleEnd, Place{LowerAnchor: 0.9}, 0.936*1.80 - dip - 0.03,
			0.936*1.80 - dip + 0.03},
		{"reflex, chin to eyes", reflex, Place{}, 0.870*1.80 - dip, 0.936*1.80 - dip},
		{"slip, chin", slip, Place{}, 0.870*1.80 - dip - 0.03, 0.870*1.80 - dip + 0.03},
		{"slip, head", slip, Place{School: HeadHeight}, 0.936*1.80 - dip - 0.03, 0.936*1.80 - dip + 0.03},
		{"straight bag, eyes to hip", cylinder, Place{}, 0.936*1.80 - dip, 0.530*1.80 - dip + 1.2},
		{"straight bag, eyes to knee", cylinder, Place{Kicks: true}, 0.936*1.80 - dip, 0.285*1.80 - dip/2 + 1.2},
		{"ball, chin", ball, Place{}, 0.870*1.80 - dip - 0.03, 0.870*1.80 - dip + 0.03},
		{"ball, low for knees", ball, Place{Kicks: true}, 0.530*1.80 - dip + 0.225 - 0.03,
			0.530*1.80 - dip + 0.225 + 0.03},
	} {
		s := c.rig.SetUp(c.place, b, 1)
		if c.low > c.high { // too short a bag for both ends: half of what is missing at either
			c.low, c.high = (c.low+c.high)/2-0.03, (c.low+c.high)/2+0.03
		}
		near(t, c.name+", low", s.Low, c.low, 1e-9)
		near(t, c.name+", high", s.High, c.high, 1e-9)
		if s.Needs != "" || s.Stand < 0 {
			t.Errorf("%s: %+v", c.name, s)
		}
	}
	unmeasured := cylinder
	unmeasured.AnchorHeight = 0
	for needs, s := range map[string]SetUp{
		"anchorHeight": unmeasured.SetUp(Place{}, b, 1),
		"boardHeight": SpeedBag{BagLength: 0.23, BagDiameter: 0.15, BagMass: 0.25, Restitution: 0.8}.SetUp(Place{}, b,
			1), "height": slip.SetUp(Place{}, Body{}, 0.6),
	} {
		if s.Needs != needs {
			t.Errorf("%q is missing, and not %q", needs, s.Needs)
		}
	}
}

// Midway and eye height: off by their difference, uneven on the side of the conflict, and both right from the anchor
// named.
func TestConflict(t *testing.T) {
	p := Place{LowerAnchor: 0.2}
	high := doubleEnd
	high.Upper, high.Lower = high.Upper.retied(1.0), high.Lower.retied(1.4)
	s := high.SetUp(p, tall, 3)
	if s.Conflict == nil {
		t.Fatal("no conflict")
	}
	eye := tall.InStance().Eye
	near(t, "midway", s.Conflict.Midway, (0.2+2.6)/2, 1e-12)
	near(t, "off", s.Conflict.Off, eye-1.4, 1e-12)
	if math.IsNaN(s.Conflict.Uneven) || s.Conflict.Uneven == 0 {
		t.Errorf("%+v", s.Conflict)
	}
	near(t, "anchor", (s.Conflict.Anchor+2.6)/2, eye, 1e-12)
	even := doubleEnd
	even.Upper, even.Lower = even.Upper.retied(2.6-eye), even.Lower.retied(eye-s.Conflict.Anchor)
	if again := even.SetUp(Place{LowerAnchor: s.Conflict.Anchor}, tall, 3); again.Conflict != nil || again.Move != 0 {
		t.Errorf("from the anchor named: %+v %+v", again, again.Conflict)
	}
	// Tied anew on another span a cord pulls as before: the same rubber, the same strain.
	c := high.Upper.retied(0.7)
	near(t, "pull", c.tension(), high.Upper.tension(), 1e-9)
	near(t, "rubber", c.Stiffness*c.Relaxed, high.Upper.Stiffness*high.Upper.Relaxed, 1e-9)
}

// The longer the reach the further away one stands; the wider the swing the more room; a slip bag needs it on both
// sides.
func TestRoom(t *testing.T) {
	if slip.SetUp(Place{}, tall, 0.6).Stand != 0 || slip.SetUp(Place{Stand: AtTurn}, tall, 0.6).Stand != 0.6 {
		t.Error("under the low point one stands under the anchor, at the turn a pull away")
	}
	for _, r := range freely {
		if r.SetUp(Place{}, tall, 0.5).Stand < r.SetUp(Place{}, small, 0.5).Stand {
			t.Errorf("%s: the taller stands nearer", r.Kind())
		}
		soft, hard := r.SetUp(Place{}, tall, 0.3), r.SetUp(Place{}, tall, 0.6)
		if soft.Room[0].Where != "beyond" || soft.Room[0].Need >= hard.Room[0].Need {
			t.Errorf("%s: %g m soft and %g m hard", r.Kind(), soft.Room[0].Need, hard.Room[0].Need)
		}
	}
	s := slip.SetUp(Place{Behind: 0.5, Beyond: 3}, tall, 0.6)
	near(t, "slip bag behind", s.Room[2].Need, 0.6+0.1+wallMargin, 1e-12)
	if !s.Room[2].Short() || s.Room[0].Short() {
		t.Errorf("%+v", s.Room)
	}
}

// Struck at the middle of its length a rod on a pivot at its end hands a quarter of the impulse on, a third of its mass
// times the change of speed (textbook, centre of percussion); as a half sine over the time of contact.
func TestJolt(t *testing.T) {
	rod := HangingBag{Shape: "cylinder", Mass: 30, Length: 1.2, Diameter: 1e-6}
	near(t, "jolt", rod.Jolt(2), 30*2/3.0*math.Pi/(2*contact), 1e-3)
	loads, err := cylinder.Loads(0.5, 0)
	if err != nil {
		t.Fatal(err)
	}
	_, swinging, _ := cylinder.Load(0.5)
	near(t, "nobody strikes", loads[0].Peak, swinging, 1e-9)
	harder, _ := cylinder.Loads(0.5, 8)
	if harder[0].Peak <= loads[0].Peak {
		t.Error("a blow adds nothing")
	}
}

// For a small swing the greatest push of a pole's foot along the floor is (m + m_p/2)·v·ω; from an undamped strike to
// its return it hands on twice the momentum, so the push cannot stay under that over the time of it.
func TestFooting(t *testing.T) {
	b := reflex
	b.Damping = 0
	p := Place{BaseMass: 60, BaseWidth: 0.6, SpringHeight: 0.3}
	_, _, push := b.footing(0.05, p)
	near(t, "small swing", push/((b.BallMass+b.PoleMass/2)*0.05*b.swing().small), 1, 0.01)
	back, _ := b.Returns(3, Meeting{}, 1)
	_, _, push = b.footing(3, p)
	if mean := 2 * (b.BallMass + b.PoleMass/2) * 3 / back[0].At; push < mean {
		t.Errorf("%g N at the most, %g on the mean", push, mean)
	}
	light, heavy := p, p
	light.BaseMass = 5
	w1, t1, _ := b.footing(3, light)
	w2, t2, _ := b.footing(3, heavy)
	if w1 <= w2 || t1 <= t2 {
		t.Error("a heavier base holds no better")
	}
}

// Under the low point every passage counts, at the turn one a period; the window of the models; a roll takes longer
// than a slip.
func TestPasses(t *testing.T) {
	low, err := slip.Passes(0.6, 4, Use{})
	if err != nil {
		t.Fatal(err)
	}
	returns, _ := slip.Returns(0.6, Meeting{}, 4)
	for i, p := range low {
		near(t, "at", p.At, returns[i].At, 1e-12)
		if p.Inward != (i%2 == 0) {
			t.Errorf("pass %d comes from the wrong side", i+1)
		}
	}
	period := 2 * (low[2].At - low[1].At)
	near(t, "window", low[2].Window, period/4-(0.1+slipReach)/low[2].Speed-0.25, 2e-3)
	turn, err := slip.Passes(0.6, 2, Use{Place: Place{Stand: AtTurn}})
	if err != nil {
		t.Fatal(err)
	}
	near(t, "one a period", turn[1].At-turn[0].At, period, 5e-3)
	across, _ := slip.Passes(0.6, 1, Use{Place: Place{Plane: Across}})
	near(t, "a roll instead of a slip", low[0].Window-across[0].Window, 0.10, 1e-12)
	// Harmonic, by hand: it comes within reach of the near turn, 0.19 m from it, at acos(1 − 0.19/0.6) before it.
	omega := 2 * math.Pi / period
	near(t, "window at the turn", turn[0].Window, period/2-math.Acos(1-0.19/0.6)/omega-0.25, 0.02)
	last := 0.0
	for drop := 0.6; drop < 2; drop += 0.2 { // a longer drop is slower
		b := SlipBag{AnchorHeight: 1.5 + drop, CentreHeight: 1.5, BagDiameter: 0.2, BagMass: 0.5}
		list, err := b.Returns(0.4, Meeting{}, 2)
		if err != nil || list[1].At-list[0].At <= last {
			t.Errorf("a drop of %g m is no slower (%v)", drop, err)
		}
		last = list[1].At - list[0].At
	}
}

// A picture runs from the strike to the return, with a turn or a board between, and its greatest swing is 1.
func TestPictures(t *testing.T) {
	for _, r := range append([]Rig{checked}, freely...) {
		for n := 1; n <= 3; n++ {
			m := Meeting{Rebounds: n, Angle: DefaultStrikeAngle}
			launch := map[Kind]float64{Speed: 3, Slip: 0.5, Hanging: 0.6}[r.Kind()]
			if launch == 0 {
				launch = 2
			}
			p, err := r.Picture(launch, m, Use{})
			if err != nil {
				t.Fatalf("%s, %d: %v", r.Kind(), n, err)
			}
			a, err := r.Struck(launch, m)
			if err != nil {
				t.Fatal(err)
			}
			near(t, string(r.Kind())+" return", p.Return, 60/a.Tempo, 1e-9)
			greatest := 0.0
			for i, point := range p.Trace {
				greatest = math.Max(greatest, math.Abs(point.Swing))
				if i > 0 && point.At < p.Trace[i-1].At-1e-12 {
					t.Fatalf("%s: the picture runs back at point %d", r.Kind(), i)
				}
			}
			if greatest < 0.98 || greatest > 1+1e-9 || len(p.Marks) == 0 {
				t.Errorf("%s, %d: greatest swing %g, %d marks", r.Kind(), n, greatest, len(p.Marks))
			}
		}
	}
	p, _ := doubleEnd.Picture(2, Meeting{Rebounds: 1}, Use{})
	near(t, "how far out", p.Reach, doubleEnd.furthest(2), 1e-6)
	h, _ := cylinder.Picture(0.5, Meeting{Rebounds: 1}, Use{})
	near(t, "a heavy pendulum's height", cylinder.arm()*(1-math.Cos(h.Reach/cylinder.arm())),
		0.5*0.5/(2*motion.Gravity)*cylinder.Inertia()/(cylinder.Mass*cylinder.arm()*cylinder.arm()), 1e-9)
}

// A fist of a given speed is the fist speed that the answer gives back.
func TestAtFist(t *testing.T) {
	for _, r := range []Rig{checked, doubleEnd, reflex, cylinder, ball} {
		a, err := r.AtFist(2.5, everydayMeeting(r))
		if err != nil {
			t.Fatal(err)
		}
		near(t, string(r.Kind()), a.FistSpeed, 2.5, 1e-3)
	}
	if a, err := slip.AtFist(9, Meeting{Rebounds: 1}); err != nil || a.Launch != slip.everydayPull() {
		t.Errorf("%+v %v", a, err)
	}
}

func everydayMeeting(r Rig) Meeting {
	if r.Kind() == Speed {
		return Three
	}
	return Meeting{Rebounds: 1}
}

func TestApply(t *testing.T) {
	r, p, err := Apply(doubleEnd, Place{LowerAnchor: 0.9},
		[]Setting{{Field: "upper.span", To: 0.9}, {Field: "place.lowerAnchor", To: 0.5}})
	if err != nil || r.(DoubleEndBag).Upper.Span != 0.9 || r.(DoubleEndBag).Lower != doubleEnd.Lower ||
		p.LowerAnchor != 0.5 {
		t.Errorf("%+v %+v %v", r, p, err)
	}
	for _, s := range []Setting{{Field: "sail", To: 1}, {Field: "upper.sail", To: 1}, {Field: "mast.height", To: 1},
		{Field: "upper.span", To: -1}, {Field: "upper.relaxed", To: 0.9}, {Field: "place.beyond", To: -3},
		{Field: "ballMass", To: math.NaN()}} {
		if _, _, err := Apply(doubleEnd, Place{}, []Setting{s}); err == nil {
			t.Errorf("%s = %g passed", s.Field, s.To)
		}
	}
}

// On a straight bag head shots go to the chin and body shots between shoulder and hip of somebody as tall in stance
// (common practice; the body's height is assumed). The tape is measured from the top of the bag as it should hang.
func TestTargets(t *testing.T) {
	body := Body{Height: 1.80}
	s := cylinder.SetUp(Place{}, body, 0.5)
	at := body.InStance()
	if len(s.Targets) != 2 || s.Targets[0].Name != "head" || s.Targets[1].Name != "body" {
		t.Fatalf("%+v", s.Targets)
	}
	near(t, "head", s.Targets[0].Height, at.Chin, 1e-12)
	// Drillis & Contini (1966), bent knees off
	near(t, "body", s.Targets[1].Height, (0.818+0.530)/2*1.80-0.04*1.80, 0.02)
	top := cylinder.AnchorHeight - cylinder.Chain + s.Move
	for _, m := range s.Targets {
		near(t, m.Name+" from the top", m.Down, top-m.Height, 1e-12)
		if m.Down < 0 || m.Down > cylinder.Length {
			t.Errorf("%s: %.2f m down a bag of %.2f m", m.Name, m.Down, cylinder.Length)
		}
	}
	if s := (HangingBag{Shape: "ball", Mass: 30, Diameter: 0.45, Chain: 0.6, AnchorHeight: 2.9}).SetUp(Place{}, body,
		0.5); len(s.Targets) != 0 {
		t.Errorf("a ball: %+v", s.Targets)
	}
}
