package e2e

import (
	"math"

	"melodromos/core/input"
	"melodromos/core/motion"
	"melodromos/core/rig"
)

// A kind of bag that is thrown away again: a padded column on a heavy foot with a sprung neck, swinging without loss,
// somewhat sooner the harder it is struck. What is here is all that a new kind needs in core; register adds it, and a
// line of a migration makes the database know it.
const standing rig.Kind = "standing"

type standingBag struct{ Mass, Neck, Height, Diameter float64 }

var standingTable = rig.Table[standingBag]{
	{Field: rig.Field{Name: "mass", Label: "Weight that swings", Quantity: rig.AsKilograms,
		Slider: rig.Slider{Least: 5, Most: 40, Step: 0.5},
		Limits: input.Limits{Min: 1, Max: 80, Unit: "kg"}}, At: func(b *standingBag) any { return &b.Mass }},
	{Field: rig.Field{Name: "neck", Label: "Neck", Quantity: rig.AsStiffness,
		Slider: rig.Slider{Least: 100, Most: 3000, Step: 10}, Help: "Hardly anybody knows it: calibrate the bag.",
		Limits: input.Limits{Min: 0, Max: 1e4, Open: true, Unit: "N/m"}},
		At: func(b *standingBag) any { return &b.Neck }},
	{Field: rig.Field{Name: "height", Label: "Top above the floor", Quantity: rig.AsHeight,
		Slider: rig.Slider{Least: 1, Most: 2.2, Step: 0.01},
		Limits: input.Limits{Min: 0.5, Max: 3, Unit: "m"}}, At: func(b *standingBag) any { return &b.Height }},
	{Field: rig.Field{Name: "diameter", Label: "Across", Quantity: rig.AsLength,
		Slider: rig.Slider{Least: 0.2, Most: 0.6, Step: 0.01},
		Limits: input.Limits{Min: 0.1, Max: 1, Unit: "m"}}, At: func(b *standingBag) any { return &b.Diameter }},
}

var everydayStanding = standingBag{Mass: 12, Neck: 600, Height: 1.75, Diameter: 0.35}

func registerStanding() {
	rig.Register(rig.Model{
		Kind: standing, Name: "standing bag", What: "a column on a sprung neck",
		Everyday: rig.Doc{Rig: everydayStanding},
		Tapping: rig.Tapping{How: "Push it and tap with the push, then each time it comes back.", First: "push",
			Counted: "returns", Twice: "Was that on its way out as well?", Parameter: "Neck"},
		Caution: "Fill the foot so that it does not walk.",
	}, standingTable)
}

func (b standingBag) MarshalJSON() ([]byte, error) { return standingTable.Document(standing, b) }
func (standingBag) Kind() rig.Kind                 { return standing }
func (b standingBag) Check() error                 { return standingTable.Check(b) }
func (b standingBag) Masses() (fist, felt float64) { return 2, b.Mass }

// period is the time (s) of a swing after a strike at launch m/s.
func (b standingBag) period(launch float64) float64 {
	return 2 * math.Pi * math.Sqrt(b.Mass/b.Neck) / (1 + launch/20)
}

func (b standingBag) Returns(launch float64, _ rig.Meeting, n int) ([]rig.Return, error) {
	if err := rig.LaunchLimits.Check("launch", launch); err != nil {
		return nil, err
	}
	list, t := make([]rig.Return, n), b.period(launch)
	for i := range list {
		list[i] = rig.Return{At: (float64(i) + 0.5) * t, Speed: launch, Window: t / 6}
	}
	return list, nil
}

func (b standingBag) tempo(launch float64, m rig.Meeting) float64 {
	return 60 / ((float64(m.Rebounds) - 0.5) * b.period(launch))
}

func (b standingBag) Limits(m rig.Meeting) (rig.Tempo, error) {
	return rig.Tempo{Rebounds: m.Rebounds, Slowest: b.tempo(0, m), Fastest: b.tempo(rig.MaxLaunch, m),
		FastestLaunch: rig.MaxLaunch}, nil
}

func (b standingBag) Struck(launch float64, m rig.Meeting) (rig.TempoAnswer, error) {
	list, err := b.Returns(launch, m, m.Rebounds)
	if err != nil {
		return rig.TempoAnswer{}, err
	}
	limits, err := b.Limits(m)
	return rig.TempoAnswer{
		Feasible: true, Tempo: b.tempo(launch, m), Launch: launch, Window: list[m.Rebounds-1].Window,
		FistSpeed: rig.Fist(b, launch, launch), Limits: limits,
	}, err
}

func (b standingBag) Solve(tempo float64, m rig.Meeting) (rig.TempoAnswer, error) {
	limits, err := b.Limits(m)
	if err != nil || tempo <= limits.Slowest || tempo > limits.Fastest {
		return rig.TempoAnswer{Tempo: tempo, Limits: limits}, err
	}
	launch, err := motion.Root(func(v float64) float64 { return b.tempo(v, m) - tempo }, 0, rig.MaxLaunch, 1e-9)
	if err != nil {
		return rig.TempoAnswer{}, err
	}
	return b.Struck(launch, m)
}

func (b standingBag) AtFist(fist float64, m rig.Meeting) (rig.TempoAnswer, error) {
	launch, err := motion.Root(func(v float64) float64 { return rig.Fist(b, v, v) - fist }, 0, rig.MaxLaunch, 1e-9)
	if err != nil {
		launch = rig.MaxLaunch
	}
	return b.Struck(math.Max(launch, 0.05), m)
}

func (b standingBag) Picture(launch float64, m rig.Meeting, _ rig.Use) (rig.Picture, error) {
	list, err := b.Returns(launch, m, m.Rebounds)
	if err != nil {
		return rig.Picture{}, err
	}
	back := list[m.Rebounds-1]
	trace, reach := b.Trail([]rig.Blow{{Launch: launch}}, 0, back.At)
	return rig.Picture{Trace: trace, Return: back.At, Opens: -back.Window / 2, Closes: back.Window / 2,
		Speed: back.Speed, Reach: reach}, nil
}

func (b standingBag) Trail(blows []rig.Blow, _, end float64) ([]rig.TracePoint, float64) {
	var list []rig.TracePoint
	launch, since, next := 0.0, 0.0, 0
	for at := 0.0; at <= end; at += 0.02 {
		for ; next < len(blows) && blows[next].At <= at; next++ {
			launch, since = math.Max(blows[next].Launch, 0.1), blows[next].At
		}
		swing := 0.0
		if launch > 0 {
			swing = math.Sin(2 * math.Pi * (at - since) / b.period(launch))
		}
		list = append(list, rig.TracePoint{At: at, Swing: swing})
	}
	return list, math.Max(launch, 0.1) * b.period(launch) / (2 * math.Pi)
}

func (b standingBag) SetUp(_ rig.Place, body rig.Body, _ float64) rig.SetUp {
	s := rig.SetUp{Point: "top of the bag", Between: "at eye height in stance", Standing: "assumed",
		Stand: body.Straight() + b.Diameter/2}
	if !body.Known() {
		s.Needs = "height"
		return s
	}
	eye := body.InStance().Eye
	s.Low, s.High, s.Now, s.Aim, s.Move = eye, eye, b.Height, eye, eye-b.Height
	s.Settings = []rig.Setting{{Field: "height", Now: b.Height, To: eye}}
	return s
}

func (standingBag) Inspect(rig.Use) []rig.Finding { return nil }

func (b standingBag) Loads(launch, _ float64) ([]rig.Load, error) {
	return []rig.Load{{Part: "base", Peak: b.Mass * launch * 2 * math.Pi / b.period(launch)}}, nil
}

func (b standingBag) Side(rig.Place) rig.SideView {
	return rig.SideView{Top: b.Height + 0.3, Shapes: []rig.Segment{
		{Kind: rig.Base, X1: -0.3, X2: 0.3, Y2: 0.4}, {Kind: rig.Barrel, Y1: b.Height, Y2: 0.4, W: b.Diameter},
	}}
}

func (b standingBag) LeastKnown() rig.Parameter {
	return rig.Parameter{Field: "neck", Value: b.Neck, With: func(v float64) rig.Rig { c := b; c.Neck = v; return c }}
}
