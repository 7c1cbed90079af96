package server

import (
	"context"
	"encoding/json"
	"math"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/level"
)

// DemandOut is one of the four things a drill asks, from 1 to 10.
type DemandOut struct {
	Value float64 `json:"value"`
	Why   string  `json:"why"`
}

// GradeOut is how hard a drill is.
type GradeOut struct {
	Level   float64   `json:"level"`
	Timing  DemandOut `json:"timing"`
	Hands   DemandOut `json:"hands"`
	Pattern DemandOut `json:"pattern"`
	Reading DemandOut `json:"reading"`
}

// FitOut is how a drill suits somebody: modelled, from what was found out about them.
type FitOut struct {
	Clean    float64  `json:"clean" doc:"share that meets the bag, predicted"`
	Counted  float64  `json:"counted" doc:"share that will be counted clean where only times come in"`
	Answers  *float64 `json:"answers,omitempty" doc:"share of the unforeseen cues that are answered in time"`
	Made     string   `json:"made" doc:"what the prediction is made of, in a sentence"`
	Slips    *float64 `json:"slips,omitempty" doc:"share of the moves against a slip bag that are in time"`
	Run      float64  `json:"run" doc:"mean run of clean strikes"`
	Longest  float64  `json:"longest" doc:"longest run to expect"`
	Standing string   `json:"standing" enum:"tooHard,fits,tooEasy"`
	Weakest  string   `json:"weakest" doc:"the weakest link, in words"`
	Cause    string   `json:"cause" doc:"hands, timing or miss"`
	Move     int      `json:"move" doc:"of the weakest link"`
}

// NeighbourOut is a drill that differs by one thing.
type NeighbourOut struct {
	What  string   `json:"what"`
	Doc   DrillDoc `json:"doc"`
	Level float64  `json:"level"`
	Clean float64  `json:"clean"`
	Run   float64  `json:"run"`
}

// DrillFit is the level of a drill, how it suits somebody, and an easier and a harder neighbour.
type DrillFit struct {
	Grade  GradeOut      `json:"grade"`
	Fit    FitOut        `json:"fit"`
	Easier *NeighbourOut `json:"easier,omitempty"`
	Harder *NeighbourOut `json:"harder,omitempty"`
	Beside *BesideOut    `json:"beside,omitempty"`
}

// BesideOut is how the same drill suits somebody else, and the link at which the two differ.
type BesideOut struct {
	Name    string `json:"name"`
	Fit     FitOut `json:"fit"`
	Differs string `json:"differs"`
}

func gradeOut(g level.Grade) GradeOut {
	out := func(d level.Demand) DemandOut { return DemandOut{math.Round(10*d.Value) / 10, d.Why} }
	return GradeOut{g.Level, out(g.Timing), out(g.Hands), out(g.Pattern), out(g.Reading)}
}

func fitOut(f level.Fit) FitOut {
	return FitOut{f.Clean, f.Counted, number(f.Answers), f.Made, number(f.Slips), f.Run, f.Longest, string(f.Standing()), f.Weakest.Why, string(f.Weakest.Cause), f.Weakest.Strike.Move}
}

func neighbourOut(n level.Neighbour, ok bool) *NeighbourOut {
	if !ok {
		return nil
	}
	return &NeighbourOut{n.What, DrillDoc{Plan: n.Plan}, n.Grade.Level, n.Fit.Clean, n.Fit.Run}
}

// Outlook is what somebody goes onto the floor with.
type Outlook struct {
	Clean  float64 `json:"clean" doc:"share, predicted"`
	Run    float64 `json:"run" doc:"longest run to expect"`
	Made   string  `json:"made" doc:"what the prediction is made of, in a sentence"`
	Best   int     `json:"best" doc:"longest run so far on this rung, or with this drill; 0 for none"`
	Target int     `json:"target" doc:"streak to beat: three to begin with, then one more than the best"`
	Held   string  `json:"held" doc:"why a caution holds the drill back; empty where none does"`
	Barred bool    `json:"barred" doc:"no round starts while it stands"`
}

// Predictions hold the gym's judged rounds against what was predicted of them.
type Predictions struct {
	Rounds int      `json:"rounds"`
	Miss   *float64 `json:"miss" doc:"by how much a round was off its prediction, on the mean, as a share"`
	Bins   []BinOut `json:"bins"`
}

// BinOut is ten points of prediction.
type BinOut struct {
	From      float64  `json:"from"`
	To        float64  `json:"to"`
	Predicted *float64 `json:"predicted"`
	Observed  *float64 `json:"observed"`
	Rounds    int      `json:"rounds"`
}

func predictions(c caller) (Predictions, error) {
	cl, err := classOf(c, "")
	if err != nil {
		return Predictions{}, err
	}
	var all []level.Outcome
	for id := range cl.rounds {
		all = append(all, cl.outcomes(id, "")...)
	}
	bins, miss := level.Calibrated(all)
	out := Predictions{Rounds: len(all), Miss: number(miss), Bins: []BinOut{}}
	for _, b := range bins {
		out.Bins = append(out.Bins, BinOut{b.From, b.To, number(b.Predicted), number(b.Observed), b.Rounds})
	}
	return out, nil
}

func (s *Server) registerFit(api huma.API) {
	huma.Get(api, "/api/drills/{id}/outlook", func(ctx context.Context, in *ByID) (*one[Outlook], error) {
		o, err := outlook(who(ctx), in.ID)
		return single(ctx, o, err, sure(func(o Outlook) Outlook { return o }))
	})
	huma.Get(api, "/api/predictions", func(ctx context.Context, _ *struct{}) (*one[Predictions], error) {
		p, err := predictions(who(ctx))
		return single(ctx, p, err, sure(func(p Predictions) Predictions { return p }))
	})
	huma.Post(api, "/api/drill-fit", func(ctx context.Context, in *one[DrillQuestion]) (*one[DrillFit], error) {
		f, err := drillFit(who(ctx), in.Body)
		if err != nil {
			return nil, refused(ctx, "body", err)
		}
		return &one[DrillFit]{f}, nil
	})
}

// outlook is how a drill will go, what there is to beat, and what speaks against it.
func outlook(c caller, id string) (Outlook, error) {
	row, err := c.gym.Drill(id)
	if err != nil {
		return Outlook{}, err
	}
	plan, err := drill.ReadPlan(input.Parse(row.Doc))
	if err != nil {
		return Outlook{}, asInternal(err)
	}
	floor, _, _, err := c.floorOf(row.RigID, row.TraineeID)
	if err != nil {
		return Outlook{}, err
	}
	cl, err := classOf(c, row.TraineeID)
	if err != nil {
		return Outlook{}, err
	}
	cautions := cl.standing(row.TraineeID)
	out := Outlook{Held: ladder.HeldBack(cautions, plan, floor), Barred: ladder.Bars(cautions) != ""}
	if t, err := plan.Lay(floor); err == nil { // where it cannot be run any more, the screen says so
		f := cl.fit(row.TraineeID, plan, t, floor)
		out.Clean, out.Run, out.Made = f.Clean, f.Longest, f.Made
	}
	for _, r := range cl.rounds[row.TraineeID] {
		var sum Summary
		if (r.DrillID == row.ID || row.Rung != "" && r.Rung == row.Rung) && json.Unmarshal(r.Summary, &sum) == nil && sum.Counts {
			out.Best = max(out.Best, sum.Longest)
		}
	}
	out.Target = ladder.Target(out.Best)
	return out, c.stop()
}

func drillFit(c caller, in DrillQuestion) (DrillFit, error) {
	plan, err := in.Doc.read()
	if err != nil {
		return DrillFit{}, input.Under("doc", err)
	}
	floor, err := c.floor(in)
	if err != nil {
		return DrillFit{}, err
	}
	t, err := plan.Lay(floor)
	if err != nil {
		return DrillFit{}, input.Under("doc", err)
	}
	g, err := level.Graded(plan, t, floor)
	if err != nil {
		return DrillFit{}, input.Under("doc", err)
	}
	f := level.For(plan, t, floor, level.Told{})
	if in.TraineeID != "" {
		cl, err := classOf(c, in.TraineeID)
		if err != nil {
			return DrillFit{}, err
		}
		f = cl.fit(in.TraineeID, plan, t, floor)
	}
	out := DrillFit{
		Grade: gradeOut(g), Fit: fitOut(f),
		Easier: neighbourOut(level.Easier(plan, floor, f)), Harder: neighbourOut(level.Harder(plan, floor, g, f)),
	}
	if in.Beside != "" {
		other, err := c.gym.Trainee(in.Beside)
		if err != nil {
			return out, err
		}
		a, err := abilityOf(c.gym, other, floor.Bag.Kind())
		if err != nil {
			return out, err
		}
		theirs := floor
		theirs.Ability = a
		out.Beside = &BesideOut{other.Name, fitOut(level.For(plan, t, theirs, level.Told{})), level.Differs(plan, t, floor, a).Why}
	}
	return out, c.stop()
}
