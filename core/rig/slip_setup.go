package rig

import (
	"fmt"
	"math"

	"melodromos/core/motion"
	"melodromos/core/words"
)

// EverydayPull (m) is how far a slip bag is drawn back when nobody says otherwise, a smaller one where the bag hangs
// short. Assumed.
const EverydayPull = 0.6

func (b SlipBag) everydayPull() float64 { return math.Min(EverydayPull, 0.5*b.Drop()) }

// AtFist answers for the everyday pull: nobody has to strike a slip bag.
func (b SlipBag) AtFist(_ float64, m Meeting) (TempoAnswer, error) {
	return b.Struck(b.everydayPull(), m)
}

// reach returns the distance (m) from the middle of the bag's way within which a head is hit.
func (b SlipBag) reach() float64 { return b.BagDiameter/2 + slipReach }

// Passes gives the first n passes through the head's line after the bag was drawn back by pull m, away from the
// trainee, and let go, with the time in which a slip, or a roll under it, may be begun.
//
// Under the low point every passage of it counts, from in front and from behind; at the turning point one a period, at
// the near turn, where the bag stands still for a moment. In both cases a move may be begun once the bag has turned on
// the other side and must be off the line before the bag's edge reaches the head: for the low point that is the slip
// window of the models.
func (b SlipBag) Passes(pull float64, n int, u Use) ([]Pass, error) {
	if u.Place.Stand == AtTurn {
		return b.turns(pull, n, u)
	}
	list, err := b.Returns(pull, Meeting{}, n)
	if err != nil {
		return nil, err
	}
	passes, turned := make([]Pass, n), 0.0
	for i, r := range list {
		if i > 0 {
			turned = list[i-1].At + (r.At-list[i-1].At)/2 // within a hair: air takes little in half a swing
		}
		w := b.SlipWindow(4*(r.At-turned), r.Speed, u.away())
		passes[i] = Pass{At: r.At, Speed: r.Speed, Opens: turned, Window: w, Inward: i%2 == 0}
	}
	return passes, nil
}

// turns lists the passes of a trainee who stands at the near turning point.
func (b SlipBag) turns(pull float64, n int, u Use) ([]Pass, error) {
	if _, err := b.Returns(pull, Meeting{}, 2*n); err != nil {
		return nil, err
	}
	l, swing, start := b.Drop(), b.swing(), math.Asin(pull/b.Drop())
	var at, x []float64 // of all turns, the start the first
	at, x = append(at, 0), append(x, start)
	err := swing.Follow(start, 0, float64(n+2)*20*math.Sqrt(l), nil, func(p motion.Passage) bool {
		at, x = append(at, p.At), append(x, p.X)
		return len(at) < 2*n
	})
	if err != nil {
		return nil, err
	}
	passes := make([]Pass, n)
	for i := range passes {
		far, near := 2*i, 2*i+1
		edge := l*math.Sin(x[near]) + b.reach() // the bag touches the head from here on
		gone := 0.0
		if edge < l*math.Sin(x[far]) {
			_ = swing.Follow(x[far], 0, at[near]-at[far]+1, []float64{math.Asin(edge / l)},
				func(p motion.Passage) bool { gone = p.At; return false })
		}
		passes[i] = Pass{At: at[near], Opens: at[far], Window: gone - u.away(), Inward: true}
	}
	return passes, nil
}

// Picture draws the swing from letting go over its first passes: four, or as many as the meeting counts.
func (b SlipBag) Picture(pull float64, m Meeting, u Use) (Picture, error) {
	cycle, err := b.cycle(pull, m)
	if err != nil {
		return Picture{}, err
	}
	drawn := max(4, m.Rebounds+1)
	if u.Place.Stand == AtTurn {
		drawn = max(3, (m.Rebounds+1)/2)
	}
	p := Picture{Return: cycle, Reach: pull}
	if p.Passes, err = b.Passes(pull, drawn, u); err != nil {
		return Picture{}, err
	}
	p.Opens, p.Speed = p.Passes[0].Opens, p.Passes[0].Speed
	end := p.Passes[drawn-1].At + cycle/float64(m.Rebounds)/2
	l, start := b.Drop(), math.Asin(pull/b.Drop())
	for _, s := range b.swing().Sample(start, 0, end, perSwing*2*drawn) {
		p.Trace = append(p.Trace, TracePoint{s.At, l * math.Sin(s.X) / pull})
	}
	err = b.swing().Follow(start, 0, end, nil, func(t motion.Passage) bool {
		if t.At < end {
			p.Marks = append(p.Marks, Rebound{t.At, l * math.Sin(t.X) / pull})
		}
		return t.At < end
	})
	if err != nil && len(p.Marks) == 0 {
		return Picture{}, err
	}
	return p, nil
}

// SetUp hangs the bag at chin height in stance, or at head height for the other school (both common practice).
func (b SlipBag) SetUp(p Place, body Body, pull float64) SetUp {
	s := SetUp{Point: "middle of the bag", Between: "chin height in stance", Standing: commonPractice}
	if !body.Known() {
		s.Needs = "height"
	}
	at := body.InStance()
	wanted := at.Chin
	if p.School == HeadHeight {
		wanted, s.Between = at.Eye, "head height in stance"
	}
	if p.Stand == AtTurn {
		s.Stand = pull
	}
	s.room(p, pull+b.BagDiameter/2)
	if p.Stand != AtTurn { // it swings past the trainee
		s.Room[2] = Room{"behind", "swing", pull + b.BagDiameter/2 + wallMargin, p.Behind}
	}
	if s.Needs != "" {
		return s
	}
	s.level(b.CentreHeight, wanted)
	s.Settings = []Setting{{"centreHeight", b.CentreHeight, b.CentreHeight + s.Move}}
	return s
}

// strikeMovement (s, assumed) is how long a hand takes out to the bag.
const strikeMovement = 0.15

// softMass (kg) is the heaviest bag that may swing at heads. Assumed.
const softMass = 1.5

// Inspect looks at what swings at heads, whether it can be slipped, and at the mount.
func (b SlipBag) Inspect(u Use) []Finding {
	soft := Finding{"soft", Right, "Light enough to swing at heads", "mass of the bag", b.BagMass, softMass, "kg",
		assumedLimit, "", nil}
	switch {
	case u.Place.Made == Bottle && u.Place.Purpose != Obstacle:
		soft.Code, soft.Weight, soft.Title, soft.Remedy = "bottleHit", Wrong, "A bottle is dodged and never hit",
			"Use it as an obstacle only, or hang something soft"
		soft.Source, soft.What, soft.Figure, soft.Limit, soft.Unit = commonPractice, "", math.NaN(), math.NaN(), ""
	case b.BagMass > softMass:
		soft.Code, soft.Weight, soft.Title, soft.Remedy = "tooHeavy", Wrong, "Too heavy to swing at heads",
			"Hang something lighter and soft"
	}
	list := []Finding{soft}
	if passes, err := b.Passes(u.Launch, 1, u); err == nil {
		move := "slip"
		if u.Place.Plane == Across {
			move = "roll under it"
		}
		f := Finding{"slipWindow", Right, "It can be slipped",
			"time in which a " + move + " may begin before the first pass", passes[0].Window, 0, "s",
			"the model, with the time this takes assumed", "", nil}
		if passes[0].Window <= 0 {
			f.Code, f.Weight, f.Title, f.Remedy = "noSlip", Wrong, "It comes too quick to be slipped",
				"Draw it back less, or hang it longer"
		}
		list = append(list, f)
	}
	if passes, err := b.Passes(u.Launch, 2, u); err == nil && u.Alternate > 0 {
		n, short := PunchesBetween(passes[1].At-passes[0].At, u.outAndBack(), strikeMovement, u.Alternate)
		f := Finding{"between", Right, words.Upper(words.Number(n)) + " punches fit between two passes",
			"time between passes", passes[1].At - passes[0].At, math.NaN(), "s",
			"the model, with this trainee's hands and the times of moves assumed", "", nil}
		switch {
		case n == 0:
			f.Weight, f.Title, f.Remedy = Mind, "No punch fits between two passes",
				fmt.Sprintf("Slip only; or hang it longer: %.0f ms are missing", 1000*short)
		case n == 1:
			f.Title = "One punch fits between two passes"
		}
		list = append(list, f)
	}
	if n, err := b.TapAfter(u.Launch); err == nil {
		f := Finding{"tap", Right, "Keeps swinging", "passes until it needs a tap", float64(n), math.NaN(), "",
			"the model of air alone; a rope takes its share", "", nil}
		if n < 4 {
			f.Weight, f.Title, f.Remedy = Mind, "Dies away soon", "Draw it back further, or tap it every time"
		}
		list = append(list, f)
	}
	if loads, err := b.Loads(u.Launch, u.Hardest); err == nil {
		list = append(list, carried(loads, u.Place))
	}
	return append(append(list, anchored(u.Place, b.BagMass)...), capped(u)...)
}

// Loads gives the pull on the anchor after the bag was drawn back by pull m.
func (b SlipBag) Loads(pull, _ float64) ([]Load, error) {
	static, peak, err := b.Load(pull)
	return []Load{{"anchor", static, peak}}, err
}

// Share holds the times of a slip bag at one height under an anchor that several people use.
type Share struct {
	Centre float64   `json:"centre"` // m above the floor
	Drop   float64   `json:"drop"`   // m
	Tempo  float64   `json:"tempo"`  // passes a minute
	Equal  []float64 `json:"equal" doc:"anchor (m above the floor) at which this one passes as the one of that index does today"`
}

// Share hangs the bag at several heights (m) under the same anchor, drawn back by the same pull (m). The shorter a
// trainee, the longer the drop and the slower the bag; with the same drop and pull two bags keep the same tempo,
// whatever the height.
func (b SlipBag) Share(centres []float64, pull float64, m Meeting) ([]Share, error) {
	list := make([]Share, len(centres))
	for i, centre := range centres {
		c := b
		c.CentreHeight = centre
		if err := c.Check(); err != nil {
			return nil, err
		}
		t, err := c.cycle(pull, m)
		if err != nil {
			return nil, err
		}
		list[i] = Share{Centre: centre, Drop: c.Drop(), Tempo: 60 / t * float64(m.Rebounds)}
	}
	for i := range list {
		for j := range list {
			list[i].Equal = append(list[i].Equal, list[i].Centre+list[j].Drop)
		}
	}
	return list, nil
}

// Side draws the bag on its rope.
func (b SlipBag) Side(p Place) SideView {
	r := b.BagDiameter / 2
	s := SideView{Top: b.AnchorHeight + 0.15, Shapes: []Segment{
		{Kind: Ceiling, X1: -0.6, Y1: b.AnchorHeight, X2: 0.8, Y2: b.AnchorHeight}, {Kind: Anchor, Y1: b.AnchorHeight},
		{Kind: CordLine, Y1: b.AnchorHeight, Y2: b.CentreHeight + r},
		{Kind: Ball, Y1: b.CentreHeight, W: b.BagDiameter},
	}}
	s.Handles = []Handle{
		slipTable.handle(b, "anchorHeight", upright(0.55, 0, b.AnchorHeight), b.CentreHeight+r+0.02, 6,
			Drag{"anchorHeight", 1}),
		slipTable.handle(b, "centreHeight", upright(0.3, 0, b.CentreHeight), r+0.02, b.AnchorHeight-r-0.02,
			Drag{"centreHeight", 1}),
		slipTable.handle(b, "bagDiameter", level(b.CentreHeight, -r), 0.04, 0.5, Drag{"bagDiameter", -2}),
	}
	s.walls(p)
	return s
}
