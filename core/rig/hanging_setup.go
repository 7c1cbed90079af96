package rig

import "math"

// AtFist answers for a fist of that speed.
func (b HangingBag) AtFist(fist float64, m Meeting) (TempoAnswer, error) {
	felt := b.Inertia() / (b.arm() * b.arm())
	launch := atFist(b.most(), func(launch float64) float64 { return impact(launch, launch, hangingFist, felt) - fist })
	return b.Struck(launch, m)
}

// Picture draws the swing from the low point out and back to it; the window is the way in.
func (b HangingBag) Picture(launch float64, m Meeting, _ Use) (Picture, error) {
	list, err := b.Returns(launch, m, max(1, m.Rebounds))
	if err != nil {
		return Picture{}, err
	}
	back, pendulum, amplitude := list[len(list)-1], b.pendulum(), b.amplitude(launch)
	bottom, quarter := launch/b.arm(), pendulum.Period(amplitude)/4
	p := Picture{Return: back.At, Opens: -back.Window, Speed: back.Speed, Reach: b.arm() * amplitude}
	// A quarter period from the low point to the turn, evenly in the angle of the substitution that keeps it smooth.
	n := perSwing / 2
	rise := make([]TracePoint, n+1)
	for k := range rise {
		x := math.Sin(math.Pi / 2 * float64(k) / float64(n))
		theta := 2 * math.Asin(x*math.Sin(amplitude/2))
		rise[k] = TracePoint{pendulum.TimeTo(theta, bottom), theta / amplitude}
	}
	rise[n].At = quarter
	halves := 2*m.Rebounds - 1
	for half := range halves {
		start, side := float64(half)*2*quarter, 1.0
		if half%2 == 1 {
			side = -1
		}
		for k := range n {
			p.Trace = append(p.Trace, TracePoint{start + rise[k].At, side * rise[k].Swing})
		}
		for k := n; k > 0; k-- {
			p.Trace = append(p.Trace, TracePoint{start + 2*quarter - rise[k].At, side * rise[k].Swing})
		}
		p.Marks = append(p.Marks, Rebound{start + quarter, side})
	}
	p.Trace = append(p.Trace, TracePoint{back.At, 0})
	for k := range n/2 + 1 {
		p.Through = append(p.Through, TracePoint{rise[k].At, -rise[k].Swing})
	}
	return p, nil
}

// SetUp hangs a straight bag so that it covers the blows: its top at eye height or above and its lower end at the hip
// or below (at the knee where kicks are trained); a ball with its middle at chin height, or, where knees are trained,
// with its lower end at the hip. Common practice for the kicks and the ball; the heights for the straight bag are
// assumed.
func (b HangingBag) SetUp(p Place, body Body, force float64) SetUp {
	s := SetUp{Point: "top of the bag", Between: "so that it reaches from the eyes down to the hip",
		Standing: "assumed"}
	if b.AnchorHeight == 0 {
		s.Needs = "anchorHeight"
	}
	if !body.Known() {
		s.Needs = "height"
	}
	s.Stand = body.Straight() + b.Diameter/2
	s.room(p, b.arm()*math.Sin(math.Min(b.amplitude(force), math.Pi/2))+b.Diameter/2)
	s.circled(p)
	if s.Needs != "" {
		return s
	}
	at, now := body.InStance(), b.AnchorHeight-b.Chain
	if b.Shape == Round {
		s.Point, s.Between, s.Standing = "middle of the bag", "chin height in stance", commonPractice
		wanted := at.Chin
		if p.Kicks {
			wanted, s.Between = at.Hip+b.Diameter/2, "low enough for knees, its lower end at the hip"
		}
		s.level(now-b.Diameter/2, wanted)
	} else {
		down := at.Hip
		if p.Kicks {
			down, s.Between = at.Knee, "so that it reaches from the eyes down to the knee"
		}
		low, high := at.Eye, down+b.Length
		if low > high { // too short for both: half of what is missing at either end
			low = (low + high) / 2
			high = low
			s.level(now, low)
		} else {
			s.heights(now, low, high)
		}
		// the body's is assumed
		for _, t := range []Target{{Name: "head", Height: at.Chin},
			{Name: "body", Height: (at.Shoulder + at.Hip) / 2}} {
			t.Down = now + s.Move - t.Height
			s.Targets = append(s.Targets, t)
		}
	}
	if to := b.Chain - s.Move; to >= 0 {
		s.Settings = []Setting{{"chain", b.Chain, to}}
	} else {
		s.Settings = []Setting{{"anchorHeight", b.AnchorHeight, b.AnchorHeight + s.Move}}
	}
	return s
}

// Sizes of a swing at the trainee's full power, in degrees, between which a bag suits power work. Assumed.
const wildSwing, stiffSwing = 30.0, 3.0

// Inspect looks at the bag's size for this trainee's power and at the mount.
func (b HangingBag) Inspect(u Use) []Finding {
	var list []Finding
	if u.Hardest > 0 {
		felt := b.Inertia() / (b.arm() * b.arm())
		launch := (1 + fistRestitution) * hangingFist / (hangingFist + felt) * u.Hardest
		f := Finding{"size", Right, "The bag suits this trainee's power", "swing after a blow of full power",
			degrees(b.amplitude(launch)), wildSwing, "degrees", assumedLimit, "", nil}
		switch {
		case f.Figure > wildSwing:
			f.Code, f.Weight, f.Title, f.Remedy = "tooLight", Wrong, "Too light a bag for full power: it swings wild",
				"A heavier bag for power; this one for timing and steps"
		case f.Figure < stiffSwing:
			f.Code, f.Weight, f.Title, f.Limit, f.Remedy = "tooHeavy", Mind, "Hardly swings: it teaches no timing",
				stiffSwing, "A lighter bag for timing; this one for power"
		}
		list = append(list, f)
	}
	if loads, err := b.Loads(u.Launch, u.Hardest); err == nil {
		list = append(list, carried(loads, u.Place))
	}
	return append(append(list, anchored(u.Place, b.Mass)...), capped(u)...)
}

// contact (s) is how long a blow on a heavy bag takes. Assumed; published times lie between 10 and 20 ms, from memory.
const contact = 0.015

// Jolt is the greatest push (N) on the anchor from a blow that changes the speed of the centre of mass by change m/s:
// the impulse that a rigid body about a fixed axis hands on to the axis, change·I_cm/d², as a half sine over the time
// of contact. Struck at its centre of percussion a body would hand on none.
func (b HangingBag) Jolt(change float64) float64 {
	d := b.arm()
	own := b.Inertia() - b.Mass*d*d
	return change * own / (d * d) * math.Pi / (2 * contact)
}

// Loads gives the pull on the anchor: at rest, and at its greatest, struck again by a fist of that speed as it swings
// in through the low point: weight and centripetal force down, the jolt of the blow across.
func (b HangingBag) Loads(launch, fist float64) ([]Load, error) {
	static, swinging, err := b.Load(launch)
	if err != nil {
		return nil, err
	}
	felt := b.Inertia() / (b.arm() * b.arm())
	change := 0.0
	if fist > 0 {
		change = (1 + fistRestitution) * hangingFist / (hangingFist + felt) * (fist + launch)
	}
	return []Load{{"anchor", static, math.Hypot(swinging, b.Jolt(change))}}, nil
}

// Side draws the bag on its chain.
func (b HangingBag) Side(p Place) SideView {
	anchor := b.AnchorHeight
	if anchor == 0 {
		anchor = b.Chain + b.height() + 0.5 // somewhere, until it is measured
	}
	top := anchor - b.Chain
	bottom, r := top-b.height(), b.Diameter/2
	s := SideView{Top: anchor + 0.15, Shapes: []Segment{
		{Kind: Ceiling, X1: -0.6, Y1: anchor, X2: 0.8, Y2: anchor}, {Kind: Anchor, Y1: anchor},
		{Kind: Chain, Y1: anchor, Y2: top},
	}}
	s.Handles = []Handle{
		hangingTable.handle(b, "anchorHeight", upright(0.6, 0, anchor), b.Chain+b.height()+0.02, 6,
			Drag{"anchorHeight", 1}),
		hangingTable.handle(b, "chain", upright(0.38, anchor, top), 0, math.Max(0, anchor-b.height()-0.02),
			Drag{"chain", -1}),
	}
	if b.Shape == Round {
		s.Shapes = append(s.Shapes, Segment{Kind: Ball, Y1: top - r, W: b.Diameter})
		s.Handles = append(s.Handles, hangingTable.handle(b, "diameter", level(top-r, -r), 0.2,
			math.Min(1, anchor-b.Chain-0.02), Drag{"diameter", -2}))
	} else {
		s.Shapes = append(s.Shapes, Segment{Kind: Barrel, Y1: top, Y2: bottom, W: b.Diameter})
		s.Handles = append(s.Handles,
			hangingTable.handle(b, "length", upright(0.26, top, bottom), 0.3, math.Min(2.2, top-0.02),
				Drag{"length", -1}),
			hangingTable.handle(b, "diameter", level((top+bottom)/2, -r), 0.15, 0.7, Drag{"diameter", -2}))
	}
	s.walls(p)
	return s
}
