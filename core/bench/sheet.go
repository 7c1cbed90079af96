package bench

import (
	"melodromos/core/answer"
	"melodromos/core/caution"
	"melodromos/core/rig"
)

// MountConflict is a ball that cannot hang at eye height and midway between its anchors at once.
type MountConflict struct {
	Midway float64  `json:"midway"`
	Wanted float64  `json:"wanted"`
	Off    float64  `json:"off"`
	Uneven *float64 `json:"uneven"`
	Anchor *float64 `json:"anchor"`
}

// SetUpSheet says how to hang a rig for one person.
type SetUpSheet struct {
	Point    string         `json:"point"`
	Between  string         `json:"between"`
	Low      float64        `json:"low"`
	High     float64        `json:"high"`
	Now      float64        `json:"now"`
	Move     float64        `json:"move"`
	Settings []rig.Setting  `json:"settings"`
	Conflict *MountConflict `json:"conflict"`
	Stand    float64        `json:"stand"`
	Room     []rig.Room     `json:"room"`
	Needs    string         `json:"needs" doc:"the field to be measured first; empty where nothing is missing"`
	Targets  []rig.Target   `json:"targets" doc:"heights that blows go to, on a straight hanging bag"`
}

// FindingRow is one thing that was looked at on a rig.
type FindingRow struct {
	Code   string        `json:"code"`
	Weight rig.Weight    `json:"weight"`
	Title  string        `json:"title"`
	What   string        `json:"what"`
	Figure *float64      `json:"figure"`
	Limit  *float64      `json:"limit"`
	Unit   string        `json:"unit"`
	Source string        `json:"source"`
	Remedy string        `json:"remedy"`
	Change []rig.Setting `json:"change"`
}

// Sheet is an answer as the bag's page shows it. Where the wanted tempo is out of reach, cycle shows the nearest one
// that is not.
type Sheet struct {
	Said     []Phrase         `json:"said" doc:"the sentence in phrases whose parts can be taken hold of"`
	Feasible bool             `json:"feasible"`
	Tempo    float64          `json:"tempo"`
	Shown    float64          `json:"shown" doc:"tempo of the cycle that is drawn"`
	Drawn    float64          `json:"drawn" doc:"launch (pull) of the cycle that is drawn"`
	Launch   *float64         `json:"launch"`
	Fist     *float64         `json:"fist"`
	Effort   string           `json:"effort"`
	Window   *float64         `json:"window"`
	Slowest  float64          `json:"slowest"`
	Fastest  float64          `json:"fastest"`
	Least    float64          `json:"least" doc:"the softest launch (smallest pull) that is allowed"`
	Change   []rig.Change     `json:"change"`
	Tempos   []rig.Tempo      `json:"tempos"`
	Cycle    Cycle            `json:"cycle"`
	SetUp    SetUpSheet       `json:"setUp"`
	Body     *rig.BodyHeights `json:"body"`
	Hung     float64          `json:"hung" doc:"tempo once it is hung as set up; 0 where that changes nothing"`
	Findings []FindingRow     `json:"findings"`
	Loads    []rig.Load       `json:"loads"`
	Side     rig.SideView     `json:"side"`
	Cords    *rig.Winding     `json:"cords"`
	Shared   []Shared         `json:"shared"`
	Caution  string           `json:"caution" doc:"at this kind of bag"`
}

// Sheet is the answer to a question as the bag's page shows it.
func (a Answer) Sheet(q Question) Sheet {
	limits := a.Strike.Limits
	out := Sheet{
		Said: a.Said, Feasible: a.Strike.Feasible, Tempo: a.Strike.Tempo, Drawn: a.Launch,
		Slowest: limits.Slowest, Fastest: limits.Fastest, Change: answer.List(a.Strike.Change),
		Least:  min(limits.SlowestLaunch, limits.FastestLaunch),
		Tempos: answer.List(a.Tempos), SetUp: setUpSheet(a.SetUp), Hung: a.Hung, Loads: answer.List(a.Loads),
		Side: a.Side, Cords: a.Cords,
		Findings: answer.Map(a.Findings, func(f rig.Finding) FindingRow {
			return FindingRow{f.Code, f.Weight, f.Title, f.What, answer.Known(f.Figure), answer.Known(f.Limit), f.Unit,
				f.Source, f.Remedy, answer.List(f.Change)}
		}),
		Shared:  answer.List(a.Shared),
		Cycle:   CycleOf(a.Picture, q.Rig.Kind()),
		Caution: caution.OfBag(q.Rig.Kind()),
	}
	out.Side.Shapes, out.Side.Handles = answer.List(out.Side.Shapes), answer.List(out.Side.Handles)
	out.Shown = 60 / out.Cycle.Return
	if out.Feasible {
		out.Launch, out.Fist, out.Window = &a.Strike.Launch, answer.Known(a.Strike.FistSpeed),
			answer.Known(a.Strike.Window)
		if out.Fist != nil {
			out.Effort = q.Ability.Effort(a.Strike.FistSpeed)
		}
	}
	if q.Body.Known() {
		p := q.Body.InStance()
		if q.Rig.Kind() == rig.Speed {
			p = q.Body.Upright()
		}
		out.Body = &p
	}
	return out
}

// Rows are the tempos of a bag by its rebound counts.
func setUpSheet(s rig.SetUp) SetUpSheet {
	out := SetUpSheet{s.Point, s.Between, s.Low, s.High, s.Now, s.Move, answer.List(s.Settings), nil, s.Stand,
		answer.List(s.Room), s.Needs, answer.List(s.Targets)}
	if c := s.Conflict; c != nil {
		out.Conflict = &MountConflict{c.Midway, c.Wanted, c.Off, answer.Known(c.Uneven), answer.Known(c.Anchor)}
	}
	return out
}
