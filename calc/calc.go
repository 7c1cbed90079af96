// Package calc answers the calculator's questions: one JSON object in, one out. The command line and the HTTP interface
// both speak it. It needs no database.
package calc

import (
	"encoding/json"
	"math"
	"slices"
	"strings"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/judge"
	"melodromos/core/rig"
)

var operations = map[string]func(*input.Object) (any, error){
	"returns": returns,
	"tempo":   tempo,
	"judge":   judged,
	"combo":   readCombo,
	"compile": compile,
	"grade":   grade,
}

// Operations lists what Do knows, in order.
func Operations() []string {
	var names []string
	for name := range operations {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}

// Has says whether there is an operation of that name.
func Has(op string) bool { _, ok := operations[op]; return ok }

// MaxDocument is the greatest question in bytes that is taken.
const MaxDocument = 16 << 20

// Do carries out one operation on a JSON document. A refusal is an *input.Error that names the field.
func Do(op string, doc []byte) ([]byte, error) {
	do, ok := operations[op]
	if !ok {
		return nil, input.Refuse("", "no operation %q; there are %s", op, strings.Join(Operations(), ", "))
	}
	out, err := do(input.Parse(doc))
	if err != nil {
		return nil, err
	}
	return json.Marshal(out)
}

type returnOut struct {
	At     float64  `json:"at"`
	Speed  float64  `json:"speed"`
	Window *float64 `json:"window"`
}

func returns(o *input.Object) (any, error) {
	bag, meeting, err := bagAndMeeting(o)
	if err != nil {
		return nil, err
	}
	launch := o.Number(force(bag))
	count := o.WholeOr("count", 1, rig.MaxRebounds, 1)
	if err := o.Done(); err != nil {
		return nil, err
	}
	list, err := bag.Returns(launch, meeting, count)
	if err != nil {
		return nil, err
	}
	out := struct {
		Returns []returnOut `json:"returns"`
		Boards  []float64   `json:"boards,omitempty"`
	}{Boards: list[0].Boards}
	for _, r := range list {
		out.Returns = append(out.Returns, returnOut{r.At, r.Speed, orNull(r.Window)})
	}
	return out, nil
}

// force names the field that tells how a bag is set going, with its limits: a slip bag is drawn back and let go.
func force(bag rig.Rig) (string, input.Limits) {
	if bag.Kind() == rig.Slip {
		return "pull", rig.PullLimits
	}
	return "launch", rig.LaunchLimits
}

func bagAndMeeting(o *input.Object) (rig.Rig, rig.Meeting, error) {
	bag, err := rig.Read(o.Object("rig"))
	if err != nil {
		return nil, rig.Meeting{}, err
	}
	if speed, ok := bag.(rig.SpeedBag); ok {
		return bag, speed.ReadMeeting(o), nil
	}
	return bag, rig.ReadCount(o), nil
}

func tempo(o *input.Object) (any, error) {
	bag, meeting, err := bagAndMeeting(o)
	if err != nil {
		return nil, err
	}
	name, limits := force(bag)
	if o.Has("tempo") == o.Has(name) {
		o.Fail("tempo", "expected either a tempo or a %s, and not both", name)
	}
	struck := o.Has(name)
	launch := o.NumberOr(name, limits, 0)
	wanted := o.NumberOr("tempo", rig.TempoLimits, 0)
	if err := o.Done(); err != nil {
		return nil, err
	}
	var a rig.Answer
	if struck {
		a, err = bag.Struck(launch, meeting)
	} else {
		a, err = bag.Solve(wanted, meeting)
	}
	if err != nil {
		return nil, err
	}
	return tempoAnswer(bag, a), nil
}

type tempoHead struct {
	Feasible bool    `json:"feasible"`
	Tempo    float64 `json:"tempo"`
}

type tempoTail struct {
	Slowest   float64      `json:"slowest"`
	Fastest   float64      `json:"fastest"`
	Window    *float64     `json:"window"`
	FistSpeed *float64     `json:"fistSpeed"`
	Change    []rig.Change `json:"change"`
}

// tempoAnswer writes an answer down; what there is not is null. A slip bag has a pull where others have a launch.
func tempoAnswer(bag rig.Rig, a rig.Answer) any {
	head, tail := tempoHead{a.Feasible, a.Tempo}, tempoTail{Slowest: a.Limits.Slowest, Fastest: a.Limits.Fastest, Change: a.Change}
	var launch *float64
	if a.Feasible {
		launch, tail.Window, tail.FistSpeed = &a.Launch, orNull(a.Window), orNull(a.FistSpeed)
	}
	if tail.Change == nil {
		tail.Change = []rig.Change{}
	}
	if bag.Kind() == rig.Slip {
		return struct {
			tempoHead
			Pull *float64 `json:"pull"`
			tempoTail
		}{head, launch, tail}
	}
	return struct {
		tempoHead
		Launch *float64 `json:"launch"`
		tempoTail
	}{head, launch, tail}
}

// Limits of what is judged at once: ten hours of quick work, and windows up to a slow pendulum's (assumed).
const maxJudged = 100_000

// maxWork bounds the pairs that are weighed, so that one question takes seconds at the most.
const maxWork = 2_000_000

var (
	timeLimits   = input.Limits{Min: -86400, Max: 86400, Unit: "s"}
	windowLimits = input.Limits{Min: 0, Max: 10, Open: true, Unit: "s"}
)

type judgeOut struct {
	Clean      int      `json:"clean"`
	Late       int      `json:"late"`
	Early      int      `json:"early"`
	Missed     int      `json:"missed"`
	Extra      int      `json:"extra"`
	WrongHand  int      `json:"wrongHand"`
	Offset     float64  `json:"offset"`
	Bias       *float64 `json:"bias"`
	Spread     *float64 `json:"spread"`
	LongestRun int      `json:"longestRun"`
	Drift      *float64 `json:"drift"`
	Matches    [][2]int `json:"matches"`
	Faults     []fault  `json:"faults"`
}

// fault is reserved by the contract; faults are named once their evidence is judged.
type fault struct {
	Code     string `json:"code"`
	Evidence string `json:"evidence"`
	Remedy   string `json:"remedy"`
}

func judged(o *input.Object) (any, error) {
	var strikes []judge.Strike
	for _, row := range o.List("strikes", maxJudged) {
		strikes = append(strikes, judge.Strike{
			At: row.Number("at", timeLimits), Window: row.Number("window", windowLimits), Hand: hand(row),
		})
		o.Keep(row.Done())
	}
	var hits []judge.Hit
	for _, row := range o.List("hits", maxJudged) {
		hits = append(hits, judge.Hit{At: row.Number("at", timeLimits), Hand: hand(row)})
		o.Keep(row.Done())
	}
	remove := o.FlagOr("removeOffset", true)
	if err := o.Done(); err != nil {
		return nil, err
	}
	if judge.Work(strikes, hits, maxWork) == maxWork {
		return nil, input.Refuse("strikes", "expected windows that do not overlap so much: too many hits could belong to each strike")
	}
	r := judge.Judge(strikes, hits, judge.Options{KeepOffset: !remove})
	out := judgeOut{
		Clean: r.Clean, Late: r.Late, Early: r.Early, Missed: r.Missed, Extra: r.Extra, WrongHand: r.WrongHand,
		Offset: r.Offset, Bias: orNull(r.Bias), Spread: orNull(r.Spread), LongestRun: r.Longest, Drift: orNull(r.Drift),
		Matches: [][2]int{}, Faults: []fault{},
	}
	for _, m := range r.Matches {
		out.Matches = append(out.Matches, [2]int{m.Strike, m.Hit})
	}
	return out, nil
}

func hand(o *input.Object) drill.Hand {
	return drill.Hand(o.ChoiceOr("hand", "", string(drill.Lead), string(drill.Rear)))
}

func orNull(v float64) *float64 {
	if math.IsNaN(v) {
		return nil
	}
	return &v
}
