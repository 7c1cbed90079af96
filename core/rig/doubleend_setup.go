package rig

import (
	"math"

	"melodromos/core/motion"
)

// AtFist answers for a fist of that speed.
func (b DoubleEndBag) AtFist(fist float64, m Meeting) (TempoAnswer, error) {
	return b.swing().atFist(fist, m)
}

// Picture draws the swing between the cords.
func (b DoubleEndBag) Picture(launch float64, m Meeting, _ Use) (Picture, error) {
	return b.swing().picture(launch, m)
}

// ceiling is the height of the upper anchor, ball that of the ball's centre (m).
func (b DoubleEndBag) ceiling(p Place) float64 { return b.ball(p) + b.Upper.Span }
func (b DoubleEndBag) ball(p Place) float64    { return p.LowerAnchor + b.Lower.Span }

// retied is the cord on another span, tied anew so that it pulls as before: the same rubber, the same strain.
func (c Cord) retied(span float64) Cord {
	c = c.wound(span / c.Span)
	c.Span = span
	return c
}

// Hung is the bag with its ball at another height (m above the floor) between the same anchors, both cords tied anew so
// that they pull as before. The second result is false where the anchors leave no room.
func (b DoubleEndBag) Hung(p Place, height float64) (DoubleEndBag, bool) {
	up, down := b.ceiling(p)-height, height-p.LowerAnchor
	if up <= b.BallDiameter/2 || down <= b.BallDiameter/2 {
		return b, false
	}
	b.Upper, b.Lower = b.Upper.retied(up), b.Lower.retied(down)
	return b, true
}

// furthest returns the distance (m) to which a strike at launch m/s carries the ball.
func (b DoubleEndBag) furthest(launch float64) float64 {
	o, far := b.swing(), 0.0
	_ = o.swing.Follow(0, launch, patience/o.small, nil, func(p motion.Passage) bool { far = p.X; return false })
	return far
}

// SetUp hangs the ball at eye height in stance. Midway between the anchors it returns evenly; where that is another
// height, the conflict says by how much (both common practice).
func (b DoubleEndBag) SetUp(p Place, body Body, force float64) SetUp {
	s := SetUp{Point: "ball", Between: "eye height in stance", Standing: commonPractice}
	if !body.Known() {
		s.Needs = "height"
	}
	s.Stand = body.Straight() + b.BallDiameter/2
	s.room(p, b.furthest(force)+b.BallDiameter/2)
	s.circled(p)
	if s.Needs != "" {
		return s
	}
	eye := body.InStance().Eye
	s.level(b.ball(p), eye)
	hung, ok := b.Hung(p, s.Aim)
	if !ok {
		s.Needs = "upper.span" // no such height between these anchors
		return s
	}
	s.Settings = []Setting{
		{"upper.span", b.Upper.Span, hung.Upper.Span}, {"upper.relaxed", b.Upper.Relaxed, hung.Upper.Relaxed},
		{"upper.stiffness", b.Upper.Stiffness, hung.Upper.Stiffness},
		{"lower.span", b.Lower.Span, hung.Lower.Span}, {"lower.relaxed", b.Lower.Relaxed, hung.Lower.Relaxed},
		{"lower.stiffness", b.Lower.Stiffness, hung.Lower.Stiffness},
	}
	midway := (b.ceiling(p) + p.LowerAnchor) / 2
	if math.Abs(eye-midway) <= levelling {
		return s
	}
	c := Conflict{Midway: midway, Wanted: eye, Off: eye - midway, Uneven: math.NaN(), Anchor: 2*eye - b.ceiling(p)}
	if c.Anchor < 0 {
		c.Anchor = math.NaN()
	}
	if wanted, ok := b.Hung(p, eye); ok {
		if e, err := wanted.Evenness(halfPower); err == nil {
			c.Uneven = e.Height
		}
	}
	s.Conflict = &c
	return s
}

// Sizes (m) from which a ball counts as medium or large, and below which it asks for precision. From memory.
const mediumBall, largeBall = 0.15, 0.20

// offLine (rad) is by how much the next level strike may send an uneven ball off its line. Assumed.
const offLine = 3 * math.Pi / 180

// Inspect looks at the cords, the centring, the ball's size and the mount.
func (b DoubleEndBag) Inspect(u Use) []Finding {
	var list []Finding
	if f, err := b.tension(u); err == nil {
		list = append(list, f)
	}
	list = append(list, b.centred(u.Launch))
	size := Finding{"size", Right, "The ball suits this trainee", "diameter of the ball", b.BallDiameter, mediumBall,
		"m", commonPractice + " for the start (sizes from memory)", "", nil}
	if u.Novice && b.BallDiameter < mediumBall {
		size.Code, size.Weight, size.Title, size.Remedy = "smallBall", Mind, "A small ball asks for precision",
			"Begin on a medium or a large one"
	}
	list = append(list, size, flush(b.BallDiameter))
	if loads, err := b.Loads(u.Launch, u.Hardest); err == nil {
		list = append(list, carried(loads, u.Place))
	}
	return append(append(list, anchored(u.Place, b.BallMass)...), capped(u)...)
}

// tension tells whether the cords suit the purpose.
func (b DoubleEndBag) tension(u Use) (Finding, error) {
	borders := u.Borders
	if borders == (Borders{}) {
		borders = DefaultBorders
	}
	feel, at, err := b.Feels(borders)
	if err != nil {
		return Finding{}, err
	}
	f := Finding{Weight: Right, What: "time to the first return at half power", Figure: at, Unit: "s",
		Source: assumedLimit}
	switch {
	case feel == TooSlack:
		f.Code, f.Weight, f.Title, f.Limit, f.Remedy = "tooSlack", Wrong, "Cords too slack", borders.Slack,
			"Wind both cords up, in proportion"
	case feel == TooTight:
		f.Code, f.Weight, f.Title, f.Limit, f.Remedy = "tooTight", Wrong, "Cords too tight: it hardly swings",
			borders.Tight, "Let both cords out, in proportion"
	case feel == HeadMovement && u.Place.Purpose != ForHeadMovement:
		f.Code, f.Weight, f.Title, f.Limit, f.Remedy = "headMovementOnly", Wrong,
			"Right for head movement, too slow for combinations", borders.Head,
			"Wind both cords up for combinations, or keep it for head movement"
	case feel == Combinations && u.Place.Purpose == ForHeadMovement:
		f.Code, f.Weight, f.Title, f.Limit, f.Remedy = "combinationsOnly", Mind,
			"Right for combinations, quick for head movement", borders.Head, "Let both cords out for head movement"
	default:
		f.Code, f.Title, f.Limit = "tension", "Cords right for "+
			map[Feel]string{HeadMovement: "head movement", Combinations: "combinations"}[feel],
			map[Feel]float64{HeadMovement: borders.Slack, Combinations: borders.Head}[feel]
		return f, nil
	}
	f.Change = b.tensed(borders, u.Place.Purpose)
	return f, nil
}

// tensed winds both cords so that the half-power return lands in the middle of the purpose's range.
func (b DoubleEndBag) tensed(at Borders, purpose UsedFor) []Setting {
	want := (at.Head + at.Tight) / 2
	if purpose == ForHeadMovement {
		want = (at.Slack + at.Head) / 2
	}
	settings, _ := b.Slower(halfPower, 1, want)
	return settings
}

// Winding tells how the cords stand between too slack and too tight, and the effect of winding them up by one step.
type Winding struct {
	Feel    Feel      `json:"feel"`
	At      float64   `json:"at"` // s, of the half-power return that tells
	Borders Borders   `json:"borders"`
	Tighter []Setting `json:"tighter"` // both cords a step shorter; empty where there is none
	Looser  []Setting `json:"looser"`
}

// windingStep is the share of its length by which a cord is wound up at a time. Assumed: about a turn about a hook.
const windingStep = 0.03

// Winding tells how tight the cords are.
func (b DoubleEndBag) Winding(at Borders) (*Winding, error) {
	if at == (Borders{}) {
		at = DefaultBorders
	}
	feel, back, err := b.Feels(at)
	if err != nil {
		return nil, err
	}
	w := &Winding{Feel: feel, At: back, Borders: at, Tighter: []Setting{}, Looser: []Setting{}}
	if b.Wound(1-windingStep).Check() == nil {
		w.Tighter = b.wind(1 - windingStep)
	}
	if b.Wound(1/(1-windingStep)).Check() == nil {
		w.Looser = b.wind(1 / (1 - windingStep))
	}
	return w, nil
}

// wind lists the measures of both cords wound to a share of their length.
func (b DoubleEndBag) wind(share float64) []Setting {
	w := b.Wound(share)
	return []Setting{
		{"upper.relaxed", b.Upper.Relaxed, w.Upper.Relaxed}, {"lower.relaxed", b.Lower.Relaxed, w.Lower.Relaxed},
		{"upper.stiffness", b.Upper.Stiffness, w.Upper.Stiffness},
		{"lower.stiffness", b.Lower.Stiffness, w.Lower.Stiffness},
	}
}

// centred tells whether the ball comes back at the height at which a strike at launch m/s met it, by what the next
// strike, thrown level, would then do: land off its centre and send it off its line.
func (b DoubleEndBag) centred(launch float64) Finding {
	f := Finding{"centred", Right, "Returns evenly", "angle by which the next level strike would send it off its line",
		math.NaN(), degrees(offLine), "degrees", assumedLimit, "", nil}
	e, err := b.Evenness(launch)
	if err != nil {
		f.Code, f.Weight, f.Title, f.Remedy = "sags", Wrong, "The upper cord does not hold the ball's weight",
			"Wind the upper cord up until the lower one pulls"
		f.What, f.Figure, f.Limit, f.Unit, f.Source = "pull of the upper cord", b.Upper.tension(),
			b.BallMass*motion.Gravity, "N", "the weight of the ball"
		return f
	}
	if f.Figure = math.Abs(degrees(OffLine(b.BallDiameter, e.Height))); !(f.Figure <= f.Limit) {
		f.Code, f.Weight, f.Title, f.Remedy = "offCentre", Wrong, "Off the middle of its anchors: it comes back uneven",
			"Bring the ball toward the middle, or move an anchor"
	}
	return f
}

// Loads gives the pull on both anchors, at rest and with the ball at its furthest.
func (b DoubleEndBag) Loads(launch, _ float64) ([]Load, error) {
	static, peak, err := b.Load(launch)
	return []Load{{"upper", static[0], peak[0]}, {"lower", static[1], peak[1]}}, err
}

// Side draws the ball between its cords.
func (b DoubleEndBag) Side(p Place) SideView {
	ball, top, r := b.ball(p), b.ceiling(p), b.BallDiameter/2
	s := SideView{Top: top + 0.15, Shapes: []Segment{
		{Kind: Ceiling, X1: -0.5, Y1: top, X2: 0.7, Y2: top},
		{Kind: CordLine, Y1: top, Y2: ball + r}, {Kind: CordLine, Y1: ball - r, Y2: p.LowerAnchor},
		{Kind: Anchor, Y1: top}, {Kind: Anchor, Y1: p.LowerAnchor}, {Kind: Ball, Y1: ball, W: b.BallDiameter},
	}}
	least := func(c Cord) float64 { return math.Max(c.Relaxed, r) + 0.005 }
	s.Handles = []Handle{
		// The cords stay as they are: the ball can be moved until one of them hangs slack.
		doubleEndTable.handle(b, "lower.span", upright(0.28, p.LowerAnchor, ball), least(b.Lower),
			b.Lower.Span+b.Upper.Span-least(b.Upper), Drag{"lower.span", 1}, Drag{"upper.span", -1}),
		doubleEndTable.handle(b, "upper.span", upright(0.28, ball, top), least(b.Upper), 3, Drag{"upper.span", 1}),
		lowerAnchor.handle(p.LowerAnchor, upright(0.5, 0, p.LowerAnchor), 0,
			math.Max(0, p.LowerAnchor+b.Lower.Span-least(b.Lower)), Drag{lowerAnchor.Name, 1}, Drag{"lower.span", -1}),
		doubleEndTable.handle(b, "ballDiameter", level(ball, -r), 0, 0.5, Drag{"ballDiameter", -2}),
	}
	s.walls(p)
	return s
}

// Slower lets both cords out so that a strike at launch m/s comes back, the n-th time, after so many seconds. False
// where no tension does.
func (b DoubleEndBag) Slower(launch float64, n int, seconds float64) ([]Setting, bool) {
	slackest := 0.999 * math.Min(b.Upper.Span/b.Upper.Relaxed, b.Lower.Span/b.Lower.Relaxed)
	share, err := motion.Root(func(share float64) float64 {
		r, err := b.Wound(share).swing().back(launch, Meeting{Rebounds: n})
		if err != nil {
			return math.NaN()
		}
		return r.At - seconds
	}, 0.1, slackest, 1e-7)
	if err != nil {
		return nil, false
	}
	return b.wind(share), true
}
