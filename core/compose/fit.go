package compose

import (
	"melodromos/core/answer"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/level"
)

// FitOut tells how a drill suits somebody, modelled from what is known of them.
type FitOut struct {
	Clean    float64        `json:"clean" doc:"share that meets the bag, predicted"`
	Counted  float64        `json:"counted" doc:"share that will be counted clean where only times come in"`
	Answers  *float64       `json:"answers,omitempty" doc:"share of the unforeseen cues that are answered in time"`
	Made     string         `json:"made" doc:"what the prediction is made of, in a sentence"`
	Slips    *float64       `json:"slips,omitempty" doc:"share of the moves against a slip bag that are in time"`
	Streak   float64        `json:"run" doc:"mean streak of clean strikes"`
	Longest  float64        `json:"longest" doc:"longest streak to expect"`
	Standing level.Standing `json:"standing"`
	Weakest  string         `json:"weakest" doc:"the weakest link, in words"`
	Cause    string         `json:"cause" doc:"hands, timing or miss"`
	Move     int            `json:"move" doc:"of the weakest link"`
}

// NeighbourOut is a drill that differs by one thing.
type NeighbourOut struct {
	What  string    `json:"what"`
	Doc   drill.Doc `json:"doc"`
	Level float64   `json:"level"`
	Clean float64   `json:"clean"`
	Run   float64   `json:"run"`
}

// Suits is the level of a drill, how it suits somebody, and an easier and a harder neighbour.
type Suits struct {
	Grade  level.Grade   `json:"grade"`
	Fit    FitOut        `json:"fit"`
	Easier *NeighbourOut `json:"easier,omitempty"`
	Harder *NeighbourOut `json:"harder,omitempty"`
	Beside *BesideOut    `json:"beside,omitempty"`
}

// BesideOut holds the fit of the same drill for somebody else, and the link at which the two differ.
type BesideOut struct {
	Name    string `json:"name"`
	Fit     FitOut `json:"fit"`
	Differs string `json:"differs"`
}

func fitOut(f level.Fit) FitOut {
	return FitOut{f.Clean, f.Counted, answer.Known(f.Answers), f.Made, answer.Known(f.Slips), f.Streak, f.LongestStreak,
		f.Standing(), f.Weakest.Why, string(f.Weakest.Cause), f.Weakest.Strike.Move}
}

func neighbourOut(n level.Neighbour, ok bool) *NeighbourOut {
	if !ok {
		return nil
	}
	return &NeighbourOut{n.By.Words(), drill.Doc{Plan: n.Plan}, n.Grade.Level, n.Fit.Clean, n.Fit.Streak}
}

// suits grades a plan that has been laid out, predicts it for this person and looks for its neighbours.
func suits(q Question, t drill.Timeline) (*Suits, error) {
	g, err := level.Graded(q.Plan, t, q.On)
	if err != nil {
		return nil, err
	}
	f := level.For(q.Plan, t, q.On, level.Told{Rounds: q.Rounds}).With(q.Learned)
	out := &Suits{
		Grade: g.Rounded(), Fit: fitOut(f),
		Easier: neighbourOut(level.Easier(q.Plan, q.On, f)), Harder: neighbourOut(level.Harder(q.Plan, q.On, g, f)),
	}
	if q.Beside != nil {
		theirs := q.On
		theirs.Ability = q.Beside.Ability
		out.Beside = &BesideOut{q.Beside.Name, fitOut(level.For(q.Plan, t, theirs, level.Told{})),
			level.Differs(q.Plan, t, q.On, q.Beside.Ability).Why}
	}
	return out, q.On.Stopped()
}

// AtTempo is a combination at the force that gives it a tempo inside (strikes a minute) on this floor.
func AtTempo(p drill.Plan, on drill.Floor, tempo float64) (drill.Plan, error) {
	c, ok := p.(drill.CombinationDrill)
	if !ok {
		return nil, input.Refuse("doc", "expected a combination: a technique has its tempo in its document")
	}
	return drill.AtTempo(c, on, tempo)
}
