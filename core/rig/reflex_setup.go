package rig

import (
	"math"

	"melodromos/core/motion"
)

// AtFist answers for a fist of that speed.
func (b ReflexBag) AtFist(fist float64, m Meeting) (TempoAnswer, error) {
	return b.swing().atFist(fist, m)
}

// Picture draws the swing of the ball on its pole.
func (b ReflexBag) Picture(launch float64, m Meeting, _ Use) (Picture, error) {
	return b.swing().picture(launch, m)
}

// furthest is the greatest angle (rad) after a strike at launch m/s.
func (b ReflexBag) furthest(launch float64) float64 {
	o, far := b.swing(), 0.0
	_ = o.swing.Follow(0, launch/o.arm, patience/o.small, nil, func(p motion.Passage) bool { far = p.X; return false })
	return math.Min(far, math.Pi/2)
}

// SetUp stands the ball where a head would be, between chin and eyes in stance (assumed: makers differ). The base is
// set higher or lower, and where the floor is in the way the pole made shorter.
func (b ReflexBag) SetUp(p Place, body Body, force float64) SetUp {
	s := SetUp{Point: "ball", Between: "between chin and eyes in stance", Standing: "assumed"}
	if !body.Known() {
		s.Needs = "height"
	}
	s.Stand = body.Straight() + b.BallDiameter/2
	s.room(p, b.PoleLength*math.Sin(b.furthest(force))+b.BallDiameter/2)
	s.circled(p)
	if s.Needs != "" {
		return s
	}
	at := body.InStance()
	s.heights(p.spring()+b.PoleLength, at.Chin, at.Eye)
	if to := p.spring() + s.Move; to >= 0.05 {
		s.Settings = []Setting{{"place.springHeight", p.spring(), to}}
	} else {
		s.Settings = []Setting{{"poleLength", b.PoleLength, b.PoleLength + s.Move}}
	}
	return s
}

const (
	// floorFriction between a rubber-footed base and a sports floor; from memory, handbook values for rubber on wood or
	// concrete lie between 0.6 and 0.9 dry. Assumed on the safe side.
	floorFriction = 0.5
	// firmly is the multiple of the pole's own weight that its spring should hold, lest it lean. Assumed.
	firmly = 1.5
	// heaviestBase (kg) is looked for at the most. Assumed: what nobody fills.
	heaviestBase = 500.0
)

// footing returns the greatest loads on a base during the first swing after a strike at launch m/s: share of the
// friction (walks above 1), share of what holds it down (tips above 1), and the greatest push along the floor (N).
//
// The pole's foot pushes the base with H = M₁(θ̈ cos θ − θ̇² sin θ) along the floor and lifts it with M₁(θ̈ sin θ + θ̇²
// cos θ), M₁ = (m + m_p/2)ℓ; the spring turns it with κθ + cθ̇. It walks where H exceeds friction times what it weighs,
// and tips where the turning moment and H at the spring's height exceed that weight times half its width.
func (b ReflexBag) footing(launch float64, p Place) (walks, tips, push float64) {
	o := b.swing()
	first := (b.BallMass + b.PoleMass/2) * b.PoleLength
	c := 2 * b.Damping * math.Sqrt((b.Spring-b.weight())*b.Inertia())
	for _, s := range o.swing.Sample(0, launch/o.arm, 2*math.Pi/o.small, 2*perSwing) {
		a := o.swing.Accel(s.X, s.V)
		h := math.Abs(first * (a*math.Cos(s.X) - s.V*s.V*math.Sin(s.X)))
		down := (p.BaseMass+b.BallMass+b.PoleMass)*motion.Gravity - first*(a*math.Sin(s.X)+s.V*s.V*math.Cos(s.X))
		turn := math.Abs(b.Spring*s.X+c*s.V) + h*p.spring()
		push = math.Max(push, h)
		walks = math.Max(walks, h/(floorFriction*math.Max(down, 1e-9)))
		tips = math.Max(tips, turn/(math.Max(down, 1e-9)*p.BaseWidth/2))
	}
	return walks, tips, push
}

// weigh finds the base mass (kg) from which on share, of footing, is 1 at most.
func (b ReflexBag) weigh(p Place, share func(Place) float64) float64 {
	mass, err := motion.Root(func(mass float64) float64 {
		q := p
		q.BaseMass = mass
		return 1/math.Max(share(q), 1e-9) - 1
	}, 0.1, heaviestBase, 1e-3)
	if err != nil {
		return math.NaN()
	}
	return math.Ceil(mass)
}

// Inspect looks at pole, base, ball and settling.
func (b ReflexBag) Inspect(u Use) []Finding {
	ratio := b.Spring / b.weight()
	stands := Finding{"stands", Right, "The pole stands firmly", "spring over the weight it holds up", ratio, firmly,
		"", assumedLimit + " (at 1 it falls over)", "", nil}
	if ratio < firmly {
		stands.Code, stands.Weight, stands.Title, stands.Remedy = "barelyStands", Mind, "The pole barely stands",
			"A stiffer spring, a lighter ball or a shorter pole"
		stands.Change = []Setting{{"spring", b.Spring, math.Ceil(firmly * b.weight())}}
	}
	list := append([]Finding{stands}, b.based(u)...)
	size := Finding{"size", Right, "The ball suits this trainee", "diameter of the ball", b.BallDiameter, mediumBall,
		"m", commonPractice + " for the start (sizes from memory)", "", nil}
	if u.Novice && b.BallDiameter < mediumBall {
		size.Code, size.Weight, size.Title, size.Remedy = "smallBall", Mind, "A small ball asks for precision",
			"Begin on a medium or a large one"
	}
	list = append(list, size, flush(b.BallDiameter))
	if settle, err := b.Settle(u.Launch); err == nil && !math.IsInf(settle, 0) {
		f := Finding{"settles", Right, "Settles between strikes",
			"time after a strike until it stays within its own radius", settle, math.NaN(), "s", "the model", "", nil}
		if u.Novice {
			f.Weight, f.Title, f.Remedy = Mind, "Let it settle between strikes",
				"Strike, let it settle, strike; every return comes later"
		}
		list = append(list, f)
	}
	return append(list, capped(u)...)
}

// based tells whether the base stays where it is.
func (b ReflexBag) based(u Use) []Finding {
	if u.Place.BaseMass == 0 || u.Place.BaseWidth == 0 {
		return []Finding{{"baseUnknown", Mind, "The base has not been weighed", "", math.NaN(), math.NaN(), "",
			"nobody has entered it yet", "Enter how heavy the filled base is, and how wide", nil}}
	}
	walks, tips, push := b.footing(u.Launch, u.Place)
	f := Finding{"base", Right, "The base stays put", "push along the floor at this force", push,
		push / math.Max(walks, 1e-9), "N", "friction of 0.5 between base and floor, assumed", "", nil}
	if walks > 1 {
		f.Code, f.Weight, f.Title, f.Remedy = "baseWalks", Wrong, "The base walks at this force",
			"Fill the base, lay a rubber mat, or strike softer"
		if kg := b.weigh(u.Place, func(p Place) float64 { w, _, _ := b.footing(u.Launch, p); return w }); !math.IsNaN(
			kg) {
			f.Change = []Setting{{"place.baseMass", u.Place.BaseMass, kg}}
		}
	}
	list := []Finding{f}
	if tips > 1 {
		g := Finding{"baseTips", Wrong, "The base tips at this force", "turning moment over what holds the base down",
			tips, 1, "", "the balance of moments about its edge", "Fill the base, take a wider one, or strike softer",
			nil}
		if kg := b.weigh(u.Place, func(p Place) float64 { _, t, _ := b.footing(u.Launch, p); return t }); !math.IsNaN(
			kg) {
			g.Change = []Setting{{"place.baseMass", u.Place.BaseMass, kg}}
		}
		list = append(list, g)
	}
	return list
}

// Loads gives the push along the floor that the base has to stand, at its greatest.
func (b ReflexBag) Loads(launch, _ float64) ([]Load, error) {
	if _, err := b.Returns(launch, Meeting{}, 1); err != nil {
		return nil, err
	}
	_, _, push := b.footing(launch, Place{})
	return []Load{{"base", 0, push}}, nil
}

// Side draws the ball on its pole and base.
func (b ReflexBag) Side(p Place) SideView {
	foot := p.spring()
	top, r, wide := foot+b.PoleLength, b.BallDiameter/2, p.BaseWidth
	if wide == 0 {
		wide = 0.55
	}
	s := SideView{Top: top + r + 0.3, Shapes: []Segment{
		{Kind: Base, X1: -wide / 2, X2: wide / 2, Y2: foot, W: wide},
		{Kind: Pole, Y1: foot, Y2: top - r}, {Kind: Ball, Y1: top, W: b.BallDiameter},
	}}
	s.Handles = []Handle{
		reflexTable.handle(b, "poleLength", upright(0.28, foot, top), r+0.1, 2, Drag{"poleLength", 1}),
		springHeight.handle(foot, upright(0.5, 0, foot), 0.05, 1.2, Drag{springHeight.Name, 1}),
		reflexTable.handle(b, "ballDiameter", level(top, -r), 0, 0.5, Drag{"ballDiameter", -2}),
	}
	s.walls(p)
	return s
}
