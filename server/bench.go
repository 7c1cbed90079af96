package server

import (
	"math"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// RigDoc is a rig's document: its kind and its measures in metres and kilograms.
type RigDoc struct {
	Kind string `json:"kind" enum:"speed"`
	rig.SpeedBag
}

// BenchQuestion asks what a bag does: at a wanted tempo, or after a strike of a given launch. With neither, the tempo of
// half a trainee's power is taken.
type BenchQuestion struct {
	Rig         RigDoc   `json:"rig"`
	Rebounds    int      `json:"rebounds" minimum:"1" maximum:"9"`
	StrikeAngle float64  `json:"strikeAngle" doc:"degrees"`
	Tempo       *float64 `json:"tempo,omitempty" doc:"strikes a minute"`
	Launch      *float64 `json:"launch,omitempty" doc:"m/s"`
	Band        string   `json:"band,omitempty" doc:"whose power the effort is a share of"`
}

// TempoRow is what one rebound count allows.
type TempoRow struct {
	Rebounds int     `json:"rebounds"`
	Face     string  `json:"face" enum:"front,behind"`
	Slowest  float64 `json:"slowest"`
	Fastest  float64 `json:"fastest"`
}

// TracePoint is a point of the bag's motion: swing runs from -1 at the near board to 1 at the far one.
type TracePoint struct {
	At    float64 `json:"at"`
	Swing float64 `json:"swing"`
}

// Cycle is one cycle from strike to strike, to be drawn.
type Cycle struct {
	Trace   []TracePoint `json:"trace"`
	Through []TracePoint `json:"through" doc:"past the return, when nobody strikes; at counts from the return"`
	Boards  []float64    `json:"boards"`
	Return  float64      `json:"return" doc:"s"`
	Window  float64      `json:"window" doc:"s, around the return"`
	Strike  float64      `json:"strike" doc:"swing at which the bag is struck"`
	Reach   float64      `json:"reach" doc:"s that a hand takes out to the bag, and back"`
	Speed   float64      `json:"speed" doc:"m/s, of the bag as it comes back"`
	Contact float64      `json:"contact" doc:"degrees at which the bag meets the board"`
}

// BenchAnswer is what the bench shows. Where the wanted tempo is out of reach, cycle shows the nearest one that is not.
type BenchAnswer struct {
	Sentence string       `json:"sentence"`
	Feasible bool         `json:"feasible"`
	Tempo    float64      `json:"tempo"`
	Shown    float64      `json:"shown" doc:"tempo of the cycle that is drawn"`
	Launch   *float64     `json:"launch"`
	Fist     *float64     `json:"fist"`
	Effort   string       `json:"effort"`
	Window   *float64     `json:"window"`
	Slowest  float64      `json:"slowest"`
	Fastest  float64      `json:"fastest"`
	Softest  float64      `json:"softest" doc:"m/s, the launch that just reaches the board"`
	Change   []rig.Change `json:"change"`
	Tempos   []TempoRow   `json:"tempos"`
	Cycle    Cycle        `json:"cycle"`
	Bottom   *float64     `json:"bottom" doc:"m above the floor; null where the board's height is not measured"`
}

// perCrossing is how many points a crossing from board to board is drawn with.
const perCrossing = 28

// bench answers a question. Everything in it is the core's.
func bench(q BenchQuestion, units drill.Units) (BenchAnswer, error) {
	bag := q.Rig.SpeedBag
	if err := bag.Check(); err != nil {
		return BenchAnswer{}, input.Under("rig", err)
	}
	if err := rig.StrikeAngleLimits.Check("strikeAngle", q.StrikeAngle); err != nil {
		return BenchAnswer{}, err
	}
	m := rig.Meeting{Rebounds: q.Rebounds, Angle: q.StrikeAngle * math.Pi / 180}
	ability := trainee.Start(trainee.Band(q.Band))
	a, err := solve(bag, m, q, ability)
	if err != nil {
		return BenchAnswer{}, err
	}
	table, err := bag.Tempos(m.Angle)
	if err != nil {
		return BenchAnswer{}, err
	}
	out := BenchAnswer{
		Sentence: drill.Answered(a, ability, units), Feasible: a.Feasible, Tempo: a.Tempo, Shown: a.Tempo,
		Slowest: a.Limits.Slowest, Fastest: a.Limits.Fastest, Softest: a.Limits.SlowestLaunch, Change: a.Change,
		Bottom: number(bag.Bottom()),
	}
	for _, t := range table {
		out.Tempos = append(out.Tempos, TempoRow{t.Rebounds, string(t.Face), t.Slowest, t.Fastest})
	}
	launch := a.Launch
	if a.Feasible {
		out.Launch, out.Fist, out.Window, out.Effort = &a.Launch, &a.FistSpeed, &a.Window, ability.Effort(a.FistSpeed)
	} else {
		launch = a.Nearest()
	}
	if out.Change == nil {
		out.Change = []rig.Change{}
	}
	out.Cycle, err = cycle(bag, launch, m)
	out.Shown = 60 / out.Cycle.Return
	return out, err
}

func solve(bag rig.SpeedBag, m rig.Meeting, q BenchQuestion, ability trainee.Ability) (rig.Answer, error) {
	switch {
	case q.Tempo != nil && q.Launch != nil:
		return rig.Answer{}, input.Refuse("tempo", "expected either a tempo or a launch, and not both")
	case q.Tempo != nil:
		return bag.Solve(*q.Tempo, m)
	case q.Launch != nil:
		return bag.Struck(*q.Launch, m)
	}
	return bag.TempoAtFist(ability.FistSpeed/2, m)
}

func cycle(bag rig.SpeedBag, launch float64, m rig.Meeting) (Cycle, error) {
	back, err := bag.Return(launch, m)
	if err != nil {
		return Cycle{}, err
	}
	trace, err := bag.Trace(launch, m, perCrossing)
	if err != nil {
		return Cycle{}, err
	}
	through, err := bag.Through(launch, m, 8)
	if err != nil {
		return Cycle{}, err
	}
	c := Cycle{
		Boards: back.Boards, Return: back.At, Window: back.Window, Strike: trace[0].Swing,
		Reach: drill.Reach, Speed: back.Speed, Contact: bag.Contact() * 180 / math.Pi,
	}
	c.Trace, c.Through = tracePoints(trace), tracePoints(through)
	return c, nil
}

func tracePoints(points []rig.TracePoint) []TracePoint {
	list := make([]TracePoint, len(points))
	for i, p := range points {
		list[i] = TracePoint{p.At, p.Swing}
	}
	return list
}

// number is a value for JSON: null where there is none.
func number(v float64) *float64 {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return nil
	}
	return &v
}
