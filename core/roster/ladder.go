package roster

import (
	"cmp"
	"time"

	"melodromos/core/answer"
	"melodromos/core/caution"
	"melodromos/core/fault"
	"melodromos/core/input"
	"melodromos/core/ladder"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/run"
)

// RungView is a rung of somebody's ladder.
type RungView struct {
	Key     string     `json:"key"`
	Name    string     `json:"name"`
	Note    string     `json:"note"`
	Through int        `json:"through" doc:"rounds past the gate"`
	Done    bool       `json:"done"`
	Lapsed  bool       `json:"lapsed" doc:"passed once, and to be shown again after an absence"`
	Skipped string     `json:"skipped" doc:"why the coach skipped it; empty where not"`
	Best    int        `json:"best" doc:"most in a row"`
	Rounds  []RungRun  `json:"rounds"`
	Level   *float64   `json:"level"`
	Clean   *float64   `json:"clean"`
	Held    string     `json:"held" doc:"why it is held back from this person"`
	At      *time.Time `json:"at,omitempty" doc:"when its gate was passed"`
}

// RungRun is a round on a rung.
type RungRun struct {
	ID      string    `json:"id"`
	At      time.Time `json:"at"`
	Clean   float64   `json:"clean"`
	Longest int       `json:"longest"`
	Through bool      `json:"through"`
	Eased   bool      `json:"eased"`
}

// LadderView is somebody's ladder on a kind of bag.
type LadderView struct {
	Gate     ladder.Gate `json:"gate"`
	Rungs    []RungView  `json:"rungs"`
	Proposal Proposal    `json:"proposal"`
}

// Ladder shows somebody's ladder on a kind of bag that hangs.
func (c Roster) Ladder(m *Member, kind rig.Kind) (LadderView, error) {
	b := c.BagFor(m, kind)
	if b == nil {
		return LadderView{}, input.Refuse("kind", "expected a kind of bag that hangs in this gym")
	}
	on := c.Floor(m, b)
	career := c.career(m, kind, on)
	out := LadderView{Gate: c.Gate}
	var err error
	if out.Proposal, err = c.OnBag(m, b); err != nil {
		return out, err
	}
	stands := career.Progress()
	for i, r := range career.Rungs {
		stand := stands[i]
		view := RungView{Key: r.Key, Name: r.Name, Note: r.Note, Through: stand.Through, Done: stand.Done,
			Lapsed: stand.Lapsed, Best: stand.Best}
		if stand.Skipped {
			view.Skipped = cmp.Or(stand.Reason, "by the coach")
		}
		if !stand.At.IsZero() {
			view.At = &stand.At
		}
		var rounds []run.PastRound
		for _, x := range m.Rounds {
			if x.Rung == r.Key && x.Counts {
				rounds = append(rounds, x)
			}
		}
		view.Rounds = answer.Map(rounds, func(x run.PastRound) RungRun {
			return RungRun{x.ID, x.At, x.Share, x.Longest, c.Gate.Passes(x), x.Eased}
		})
		if line, err := r.Plan.Lay(on); err == nil {
			f := c.fit(m, r.Plan, line, on)
			view.Clean = &f.Clean
			if g, err := level.Graded(r.Plan, line, on); err == nil {
				view.Level = &g.Level
			}
		}
		view.Held = caution.Spare(m.Cautions, r.Plan, on).Held
		out.Rungs = append(out.Rungs, view)
	}
	return out, c.stopped()
}

// Outlook tells somebody before a round what to expect of it and what to reach.
type Outlook struct {
	Clean   float64  `json:"clean" doc:"share, predicted"`
	Longest float64  `json:"run" doc:"longest in a row to expect"`
	Made    string   `json:"made" doc:"what the prediction is made of, in a sentence"`
	Best    int      `json:"best" doc:"most in a row so far on this rung, or with this drill; 0 for none"`
	Target  int      `json:"target" doc:"to beat, in a row: three to begin with, then one more than the best"`
	Held    string   `json:"held" doc:"why a caution holds the drill back; empty where none does"`
	Spared  []string `json:"spared" doc:"what is softer or shorter for a caution, and why"`
	Barred  bool     `json:"barred" doc:"no round starts while it stands"`

	Mistakes []FaultName `json:"mistakes" doc:"faults that somebody can have with it on this bag"`
}

// FaultName is a fault with its name.
type FaultName struct {
	Code fault.Code `json:"code"`
	Name string     `json:"name"`
}

// Outlook tells how an assignment will go, what there is to beat, and what speaks against it.
func (c Roster) Outlook(m *Member, a *Assignment, b *Bag) (Outlook, error) {
	on := c.Floor(m, b)
	spared := caution.Spare(m.Cautions, a.Plan, on)
	out := Outlook{Held: spared.Held, Spared: answer.List(spared.Changes), Barred: caution.Bars(m.Cautions) != "",
		Mistakes: []FaultName{}}
	if t, err := spared.Plan.Lay(on); err == nil { // where it cannot be run any more, the screen says so
		out.Mistakes = answer.Map(fault.Possible(spared.Plan, t, on.Bag.Kind()),
			func(c fault.Code) FaultName { return FaultName{c, c.Name()} })
		f := c.fit(m, spared.Plan, t, on)
		out.Clean, out.Longest, out.Made = f.Clean, f.LongestStreak, f.Made
	}
	for _, r := range m.Rounds {
		if r.Counts && (r.Assignment == a.ID || a.Rung != "" && r.Rung == a.Rung) {
			out.Best = max(out.Best, r.Longest)
		}
	}
	out.Target = ladder.Target(out.Best)
	return out, c.stopped()
}

// Predictions hold the gym's judged rounds against what was predicted of them.
type Predictions struct {
	Rounds int             `json:"rounds"`
	Miss   *float64        `json:"miss" doc:"by how much a round was off its prediction, on the mean, as a share"`
	Bins   []PredictionBin `json:"bins"`
}

// PredictionBin is ten points of prediction.
type PredictionBin struct {
	From      float64  `json:"from"`
	To        float64  `json:"to"`
	Predicted *float64 `json:"predicted"`
	Observed  *float64 `json:"observed"`
	Rounds    int      `json:"rounds"`
}

// Predictions tells how well what was said of rounds has held.
func (c Roster) Predictions() Predictions {
	var all []level.Outcome
	for i := range c.Members {
		all = append(all, c.outcomes(&c.Members[i], "")...)
	}
	bins, miss := level.Calibrated(all)
	return Predictions{len(all), answer.Known(miss), answer.Map(bins, func(b level.Bin) PredictionBin {
		return PredictionBin{b.From, b.To, answer.Known(b.Predicted), answer.Known(b.Observed), b.Rounds}
	})}
}
