package server

import (
	"math"

	"melodromos/core/bench"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/store"
)

// BenchQuestion asks what a rig does as it hangs: at a wanted tempo, or after a strike of a given launch. With neither, the
// tempo of half a trainee's power is taken, or a slip bag's everyday pull.
type BenchQuestion struct {
	Rig         RigDoc   `json:"rig"`
	Place       PlaceDoc `json:"place,omitempty"`
	TraineeID   string   `json:"traineeId,omitempty" format:"uuid" doc:"for whom it is hung"`
	Others      []string `json:"others,omitempty" maxItems:"5" doc:"ids of those who use the same anchor"`
	Rebounds    int      `json:"rebounds" minimum:"1" maximum:"9"`
	StrikeAngle float64  `json:"strikeAngle,omitempty" doc:"degrees; speed bag only"`
	Tempo       *float64 `json:"tempo,omitempty" doc:"strikes a minute"`
	Launch      *float64 `json:"launch,omitempty" doc:"m/s; the pull of a slip bag in m"`
	Band        string   `json:"band,omitempty" doc:"whose power the effort is a share of, where no trainee is named"`
}

// TempoRow is what one rebound count allows.
type TempoRow struct {
	Rebounds int     `json:"rebounds"`
	Face     string  `json:"face" enum:",front,behind"`
	Slowest  float64 `json:"slowest"`
	Fastest  float64 `json:"fastest"`
}

// Cycle is one cycle from strike to strike, to be drawn.
type Cycle struct {
	Trace     []rig.TracePoint `json:"trace"`
	Through   []rig.TracePoint `json:"through" doc:"past the return, when nobody strikes; at counts from the return"`
	Marks     []rig.Mark       `json:"marks" doc:"contacts with the board, or turns"`
	Passes    []rig.Pass       `json:"passes" doc:"of a slip bag"`
	Return    float64          `json:"return" doc:"s"`
	Window    float64          `json:"window" doc:"s, around the return"`
	Opens     float64          `json:"opens" doc:"s, from the return to the opening of the window"`
	Closes    float64          `json:"closes" doc:"s, from the return to its closing"`
	Strike    float64          `json:"strike" doc:"swing at which the bag is struck"`
	Mirrored  bool             `json:"mirrored" doc:"the next strike meets the bag from the other side"`
	Reach     float64          `json:"reach" doc:"s that a hand takes out to the bag, and back"`
	Speed     float64          `json:"speed" doc:"m/s, of the bag as it comes back"`
	Amplitude float64          `json:"amplitude" doc:"m of a swing of 1"`
	Contact   float64          `json:"contact" doc:"degrees at which a speed bag meets its board"`
	Pinned    *Cycle           `json:"pinned,omitempty" doc:"the cycle after a trap"`
	Starts    []float64        `json:"starts" doc:"s at which the trace begins anew, where it is that of a whole combination"`
}

// Conflict is a ball that cannot hang at eye height and midway between its anchors at once.
type Conflict struct {
	Midway float64  `json:"midway"`
	Wanted float64  `json:"wanted"`
	Off    float64  `json:"off"`
	Uneven *float64 `json:"uneven"`
	Anchor *float64 `json:"anchor"`
}

// SetUp is how to hang a rig for one person.
type SetUp struct {
	Point    string        `json:"point"`
	Between  string        `json:"between"`
	Low      float64       `json:"low"`
	High     float64       `json:"high"`
	Now      float64       `json:"now"`
	Move     float64       `json:"move"`
	Settings []rig.Setting `json:"settings"`
	Conflict *Conflict     `json:"conflict"`
	Stand    float64       `json:"stand"`
	Room     []rig.Room    `json:"room"`
	Needs    string        `json:"needs" doc:"the field to be measured first; empty where nothing is missing"`
	Targets  []rig.Target  `json:"targets" doc:"heights that blows go to, on a straight hanging bag"`
}

// Points are heights of a body above the floor in m, as they stand in the picture.
type Points struct {
	Crown    float64 `json:"crown"`
	Eye      float64 `json:"eye"`
	Mouth    float64 `json:"mouth"`
	Chin     float64 `json:"chin"`
	Shoulder float64 `json:"shoulder"`
	Hip      float64 `json:"hip"`
	Knee     float64 `json:"knee"`
}

// Finding is one thing that was looked at on a rig.
type Finding struct {
	Code   string        `json:"code"`
	Weight string        `json:"weight" enum:"wrong,mind,right"`
	Title  string        `json:"title"`
	What   string        `json:"what"`
	Figure *float64      `json:"figure"`
	Limit  *float64      `json:"limit"`
	Unit   string        `json:"unit"`
	Source string        `json:"source"`
	Remedy string        `json:"remedy"`
	Change []rig.Setting `json:"change"`
}

// Shared is what a slip bag does for one of several people under the same anchor.
type Shared struct {
	Name   string    `json:"name"`
	Centre float64   `json:"centre"`
	Drop   float64   `json:"drop"`
	Tempo  float64   `json:"tempo"`
	Equal  []float64 `json:"equal" doc:"anchor at which this one passes as the one of that index"`
}

// BenchAnswer is what the bench shows. Where the wanted tempo is out of reach, cycle shows the nearest one that is not.
type BenchAnswer struct {
	Sentence string       `json:"sentence"`
	Feasible bool         `json:"feasible"`
	Tempo    float64      `json:"tempo"`
	Shown    float64      `json:"shown" doc:"tempo of the cycle that is drawn"`
	Drawn    float64      `json:"drawn" doc:"launch (pull) of the cycle that is drawn"`
	Launch   *float64     `json:"launch"`
	Fist     *float64     `json:"fist"`
	Effort   string       `json:"effort"`
	Window   *float64     `json:"window"`
	Slowest  float64      `json:"slowest"`
	Fastest  float64      `json:"fastest"`
	Least    float64      `json:"least" doc:"the softest launch (smallest pull) that is allowed"`
	Most     float64      `json:"most" doc:"the hardest launch (widest pull) that tempos are looked for"`
	Change   []rig.Change `json:"change"`
	Tempos   []TempoRow   `json:"tempos"`
	Cycle    Cycle        `json:"cycle"`
	SetUp    SetUp        `json:"setUp"`
	Body     *Points      `json:"body"`
	Hung     float64      `json:"hung" doc:"tempo once it is hung as set up; 0 where that changes nothing"`
	Findings []Finding    `json:"findings"`
	Loads    []rig.Load   `json:"loads"`
	Side     rig.Side     `json:"side"`
	Cords    *rig.Winding `json:"cords"`
	Shared   []Shared     `json:"shared"`

	strike rig.Answer
}

// benchAnswer reads who is asked about and answers. Everything in the answer is the core's.
func benchAnswer(c caller, in BenchQuestion) (BenchAnswer, error) {
	bag, err := in.Rig.read()
	if err != nil {
		return BenchAnswer{}, input.Under("rig", err)
	}
	if in.Place.err != nil {
		return BenchAnswer{}, input.Under("place", in.Place.err)
	}
	m := rig.Meeting{Rebounds: in.Rebounds, Angle: rig.DefaultStrikeAngle}
	if in.StrikeAngle != 0 {
		if err := rig.StrikeAngleLimits.Check("strikeAngle", in.StrikeAngle); err != nil {
			return BenchAnswer{}, err
		}
		m.Angle = in.StrikeAngle * math.Pi / 180
	}
	band := trainee.Band(in.Band)
	q := bench.Question{
		Rig: bag, Place: in.Place.Place, Meeting: m, Tempo: in.Tempo, Launch: in.Launch, Units: c.units(),
		Borders: bordersOf(c.row),
	}
	if in.TraineeID != "" {
		t, err := c.gym.Trainee(in.TraineeID)
		if err != nil {
			return BenchAnswer{}, err
		}
		q.Person, band = personOf(t), trainee.Band(t.Band)
		if q.Ability, err = abilityOf(c.gym, t, bag.Kind()); err != nil {
			return BenchAnswer{}, err
		}
	} else {
		q.Ability = trainee.Start(band)
	}
	for _, id := range in.Others {
		t, err := c.gym.Trainee(id)
		if err != nil {
			return BenchAnswer{}, err
		}
		q.Others = append(q.Others, personOf(t))
	}
	q.Novice = band.Novice()
	return ask(q)
}

func personOf(t store.Trainee) bench.Person { return bench.Person{Name: t.Name, Body: bodyOf(t)} }

func bordersOf(g store.GymRow) rig.Borders {
	return rig.Borders{Slack: g.BorderSlack, Head: g.BorderHead, Tight: g.BorderTight}
}

// ask answers and translates.
func ask(q bench.Question) (BenchAnswer, error) {
	a, err := bench.Ask(q)
	if err != nil {
		return BenchAnswer{}, err
	}
	out := BenchAnswer{
		Sentence: a.Sentence, Feasible: a.Strike.Feasible, Tempo: a.Strike.Tempo, Drawn: a.Launch,
		Slowest: a.Strike.Limits.Slowest, Fastest: a.Strike.Limits.Fastest, Change: some(a.Strike.Change),
		Least: min(a.Strike.Limits.SlowestLaunch, a.Strike.Limits.FastestLaunch), Most: max(a.Strike.Limits.SlowestLaunch, a.Strike.Limits.FastestLaunch),
		SetUp: setUpOut(a.SetUp), Hung: a.Hung, Findings: []Finding{}, Loads: some(a.Loads), Side: a.Side, Cords: a.Cords, Shared: []Shared{}, strike: a.Strike,
	}
	out.Side.Shapes, out.Side.Handles = some(out.Side.Shapes), some(out.Side.Handles)
	if out.Feasible {
		out.Launch, out.Fist, out.Window = &a.Strike.Launch, number(a.Strike.FistSpeed), number(a.Strike.Window)
		if out.Fist != nil {
			out.Effort = q.Ability.Effort(a.Strike.FistSpeed)
		}
	}
	out.Tempos = tempoRows(a.Tempos)
	for _, f := range a.Findings {
		out.Findings = append(out.Findings, Finding{f.Code, string(f.Weight), f.Title, f.What, number(f.Figure), number(f.Limit), f.Unit, f.Source, f.Remedy, some(f.Change)})
	}
	for _, s := range a.Shared {
		out.Shared = append(out.Shared, Shared{s.Name, s.Centre, s.Drop, s.Tempo, s.Equal})
	}
	if q.Body.Known() {
		p := q.Body.InStance()
		if q.Rig.Kind() == rig.Speed {
			p = q.Body.Upright()
		}
		out.Body = &Points{p.Crown, p.Eye, p.Mouth, p.Chin, p.Shoulder, p.Hip, p.Knee}
	}
	out.Cycle = cycleOut(a.Picture, q.Rig.Kind())
	out.Shown = 60 / out.Cycle.Return
	return out, nil
}

func tempoRows(table []rig.Tempo) []TempoRow {
	rows := make([]TempoRow, len(table))
	for i, t := range table {
		rows[i] = TempoRow{t.Rebounds, string(t.Face), t.Slowest, t.Fastest}
	}
	return rows
}

func cycleOut(p rig.Picture, kind rig.Kind) Cycle {
	return Cycle{
		Trace: some(p.Trace), Through: some(p.Through), Marks: some(p.Marks), Passes: some(p.Passes), Starts: []float64{}, Return: p.Return,
		Window: p.Closes - p.Opens, Opens: p.Opens, Closes: p.Closes, Strike: p.Strike, Mirrored: p.Mirrored,
		Reach: trainee.StrikeMovement(kind), Speed: p.Speed, Amplitude: p.Reach, Contact: p.Contact * 180 / math.Pi,
	}
}

func setUpOut(s rig.SetUp) SetUp {
	out := SetUp{s.Point, s.Between, s.Low, s.High, s.Now, s.Move, some(s.Settings), nil, s.Stand, some(s.Room), s.Needs, some(s.Targets)}
	if c := s.Conflict; c != nil {
		out.Conflict = &Conflict{c.Midway, c.Wanted, c.Off, number(c.Uneven), number(c.Anchor)}
	}
	return out
}

// some is a list that is empty rather than nil: it reads as [] and not as null.
func some[T any](list []T) []T {
	if list == nil {
		return []T{}
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
