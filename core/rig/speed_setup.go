package rig

import (
	"math"

	"melodromos/core/motion"
)

// AtFist answers for a fist of that speed; see TempoAtFist.
func (b SpeedBag) AtFist(fist float64, m Meeting) (TempoAnswer, error) { return b.TempoAtFist(fist, m) }

// Picture draws the cycle from a strike at launch m/s to the meeting.
func (b SpeedBag) Picture(launch float64, m Meeting, _ Use) (Picture, error) {
	back, err := b.Return(launch, m)
	if err != nil {
		return Picture{}, err
	}
	trace, err := b.Trace(launch, m, 28)
	if err != nil {
		return Picture{}, err
	}
	through, err := b.Through(launch, m, 8)
	if err != nil {
		return Picture{}, err
	}
	p := Picture{
		Trace: trace, Through: through, Return: back.At, Opens: -back.Window / 2, Closes: back.Window / 2,
		Strike: trace[0].Swing, Speed: back.Speed, Mirrored: Meets(m.Rebounds) == Behind, Reach: b.arm() * b.Contact(),
		Contact: b.Contact(),
	}
	side := 1.0 // the far board first, then in turn
	for _, at := range back.Boards {
		p.Marks = append(p.Marks, Rebound{at, side})
		side = -side
	}
	return p, nil
}

// SetUp hangs the lowest point of the bag between chin and mouth (common practice), or, for those who want their
// shoulders worked, between mouth and eyes. The trainee stands square and upright, the bag a forearm away.
func (b SpeedBag) SetUp(p Place, body Body, _ float64) SetUp {
	s := SetUp{Point: "lowest point", Between: "between chin and mouth", Standing: commonPractice}
	if b.BoardHeight == 0 {
		s.Needs = "boardHeight"
	}
	if !body.Known() {
		s.Needs = "height"
	}
	at := body.Upright()
	low, high := at.Chin, at.Mouth
	if p.School == ForShoulders {
		low, high, s.Between = at.Mouth, at.Eye, "between mouth and eyes, for the shoulders"
	}
	s.Stand = body.Forearm() + b.BagDiameter/2
	s.room(p, b.arm()*math.Sin(b.Contact())+b.BagDiameter/2)
	if s.Needs != "" {
		return s
	}
	s.heights(b.Bottom(), low, high)
	s.Settings = []Setting{{"boardHeight", b.BoardHeight, b.BoardHeight + s.Move}}
	return s
}

// Inspect looks at the size of the bag for this hand, and at the mount.
func (b SpeedBag) Inspect(u Use) []Finding {
	var list []Finding
	if l, err := b.Limits(Three); err == nil && u.SameHand > 0 {
		f := Finding{"size", Right, "Slow enough for this hand",
			"time between strikes at three rebounds, struck as softly as it allows", 60 / l.Slowest, u.SameHand, "s",
			"the least interval of one hand of this trainee", "", nil}
		if f.Figure < f.Limit {
			f.Code, f.Weight, f.Title, f.Remedy = "tooSmall", Wrong, "Too quick a bag for this hand",
				"Hang a larger bag, or count five"
			if size, ok := b.slower(60 / u.SameHand); ok {
				f.Change = []Setting{{"bagLength", b.BagLength, size}}
			}
		}
		list = append(list, f)
	}
	if loads, err := b.Loads(u.Launch, u.Hardest); err == nil {
		list = append(list, carried(loads, u.Place))
	}
	return append(append(list, anchored(u.Place, b.BagMass)...), capped(u)...)
}

// slower is the least length (m) of a bag whose slowest tempo at three rebounds is no quicker than this, whether the
// rest of it stays or grows with it.
func (b SpeedBag) slower(tempo float64) (float64, bool) {
	for cm := math.Ceil(100*b.BagLength + 1e-9); cm <= 100*largestBag; cm++ {
		longer := b
		longer.BagLength = cm / 100
		if longer.Check() == nil && longer.limits(Three).Slowest <= tempo &&
			b.scaled(cm/100).limits(Three).Slowest <= tempo {
			return cm / 100, true
		}
	}
	return 0, false
}

// Loads gives the pull on the swivel: the weight, and the centripetal force at the lowest point, m(g + v²/d). What the
// board takes at a contact is a blow of its own and is not in it.
func (b SpeedBag) Loads(launch, _ float64) ([]Load, error) {
	if err := LaunchLimits.Check("launch", launch); err != nil {
		return nil, err
	}
	bottom := b.pendulum().BottomSpeed(DefaultStrikeAngle, launch/b.arm())
	return []Load{{"swivel", b.BagMass * motion.Gravity, b.BagMass * (motion.Gravity + bottom*bottom*b.arm())}}, nil
}

// Side draws the bag under its board.
func (b SpeedBag) Side(p Place) SideView {
	board := b.BoardHeight
	if board == 0 {
		board = 1.9 // somewhere, until it is measured
	}
	r, bottom := b.BagDiameter/2, board-b.SwivelDrop-b.BagLength
	s := SideView{Top: board + 0.25, Shapes: []Segment{
		{Kind: Board, X1: -0.32, Y1: board, X2: 0.32, Y2: board, W: 0.04},
		{Kind: Drop, Y1: board - b.SwivelDrop, Y2: bottom, W: b.BagDiameter},
	}}
	s.Handles = []Handle{
		speedTable.handle(b, "boardHeight", upright(0.5, 0, board), 0, math.Inf(1), Drag{"boardHeight", 1}),
		speedTable.handle(b, "bagLength", upright(0.26, board-b.SwivelDrop, bottom), 2*r-b.SwivelDrop+0.005,
			math.Inf(1), Drag{"bagLength", -1}),
		speedTable.handle(b, "bagDiameter", level(bottom+r, -r), 2*b.SwivelDrop+0.02, b.BagLength-0.01,
			Drag{"bagDiameter", -2}),
	}
	s.walls(p)
	return s
}
