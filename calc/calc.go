// Package calc answers the calculator's questions: one JSON object in, one out. The command line and the HTTP interface
// both speak it. It needs no database.
package calc

import (
	"context"
	"encoding/json"
	"math"
	"slices"
	"strings"

	"melodromos/core/input"
	"melodromos/core/rig"
)

var operations = map[string]func(context.Context, *input.Object) (any, error){
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
const MaxDocument = 4 << 20

// Do carries out one operation on a JSON document. A refusal is an *input.Error that names the field. It ends with the
// context, whose error it then returns.
func Do(ctx context.Context, op string, doc []byte) ([]byte, error) {
	do, ok := operations[op]
	if !ok {
		return nil, input.Refuse("", "no operation %q; there are %s", op, strings.Join(Operations(), ", "))
	}
	out, err := do(ctx, input.Parse(doc))
	if gone := ctx.Err(); gone != nil {
		return nil, gone
	}
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

func returns(_ context.Context, o *input.Object) (any, error) {
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

func tempo(_ context.Context, o *input.Object) (any, error) {
	bag, meeting, err := bagAndMeeting(o)
	if err != nil {
		return nil, err
	}
	name, bounds := force(bag)
	if o.Has("tempo") == o.Has(name) {
		o.Fail("tempo", "expected either a tempo or a %s, and not both", name)
	}
	struck := o.Has(name)
	launch := o.NumberOr(name, bounds, 0)
	wanted := o.NumberOr("tempo", rig.TempoLimits, 0)
	if err := o.Done(); err != nil {
		return nil, err
	}
	var a rig.TempoAnswer
	if struck {
		if a, err = bag.Struck(launch, meeting); err == nil && !rig.Anybody.Can(bag.Kind(), a) {
			a = rig.Anybody.Softer(bag, meeting, a)
		}
	} else {
		a, err = rig.Reach(bag, wanted, meeting, rig.Anybody)
	}
	if err != nil {
		return nil, err
	}
	limits, err := bag.Limits(meeting)
	if err != nil {
		return nil, err
	}
	a.Limits = limits // the bag's own, whoever strikes
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
func tempoAnswer(bag rig.Rig, a rig.TempoAnswer) any {
	head, tail := tempoHead{a.Feasible, a.Tempo}, tempoTail{Slowest: a.Limits.Slowest, Fastest: a.Limits.Fastest,
		Change: a.Change}
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

func orNull(v float64) *float64 {
	if math.IsNaN(v) {
		return nil
	}
	return &v
}
