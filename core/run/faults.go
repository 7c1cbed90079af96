package run

import (
	"melodromos/core/answer"
	"melodromos/core/drill"
	"melodromos/core/fault"
)

// FaultOut is a fault that a round shows.
type FaultOut struct {
	Code     fault.Code `json:"code"`
	Name     string     `json:"name"`
	Evidence string     `json:"evidence"`
	Remedy   string     `json:"remedy"`
	Cost     float64    `json:"cost" doc:"share of the strikes that would have been clean without it"`
	Times    int        `json:"times" doc:"strikes that it shows in, or marks"`
	Effect   float64    `json:"effect" doc:"how large it is, in its own measure; 0 of what was only seen"`
	Spread   float64    `json:"spread" doc:"standard error of that"`
	Tells    string     `json:"tells" doc:"what looks the same, and what would tell; empty where nothing does"`
	Seen     bool       `json:"seen" doc:"by the coach's eye"`
	Offer    *OfferOut  `json:"offer" doc:"drill that mends it, for this person on this bag; null where none can be done"`
}

// OfferOut is a drill that mends a fault.
type OfferOut struct {
	Title string    `json:"title"`
	Name  string    `json:"name"`
	Doc   drill.Doc `json:"doc"`
}

// ToSeeOut is a fault that an eye alone sees, to be marked.
type ToSeeOut struct {
	Kind  MarkKind `json:"kind"`
	Name  string   `json:"name"`
	Press string   `json:"press" doc:"what stands on its button"`
}

// faultsOut are the faults of a round, each with the drill that mends it on a floor; none of those where nobody is to
// stand there.
func (j Judged) faultsOut(on *drill.Floor) []FaultOut {
	return answer.Map(j.Faults, func(f fault.Fault) FaultOut {
		out := FaultOut{Code: f.Code, Name: f.Name(), Evidence: f.Evidence, Remedy: f.Remedy, Cost: f.Cost,
			Times: f.Times, Effect: f.Effect, Spread: f.Error, Tells: f.Tells, Seen: f.Code.BySight()}
		if on != nil {
			if o, ok := fault.Mend(f, j.record.Plan, *on); ok {
				out.Offer = &OfferOut{o.Title, o.Plan.Name(), drill.Doc{Plan: o.Plan}}
			}
		}
		return out
	})
}

// Mend gives the drill for a fault of a round; false where the round does not show it, or no drill can be done.
func (j Judged) Mend(code fault.Code, on drill.Floor) (fault.RemedyDrill, bool) {
	for _, f := range j.Faults {
		if f.Code == code {
			return fault.Mend(f, j.record.Plan, on)
		}
	}
	return fault.RemedyDrill{}, false
}

// first is the one thing to fix, in a sentence; what went well where there is none.
func (j Judged) first() string {
	switch {
	case len(j.Faults) > 0:
		return j.Faults[0].Evidence + " " + j.Faults[0].Remedy
	case j.Summary.Unjudged || j.Summary.Planned == 0 || j.record.By == drill.Nothing:
		return ""
	case j.Summary.Passes > 0:
		return ""
	case len(j.Round.Matches) < 2*leastToTell:
		return ""
	}
	return "Nothing stands out: no single fault explains what was missed."
}

// leastToTell is the number of matched strikes from which "no fault" means something. Assumed.
const leastToTell = 10

// untold returns what this round cannot show.
func (j Judged) untold() []fault.Untold {
	return answer.List(fault.Open(j.record.faulty(j.Round)))
}

// Compared says what it means that the round went otherwise than was predicted, or as it was; predicted nil for
// nothing.
func (j Judged) Compared(predicted *float64) string {
	if predicted == nil || !j.Summary.Counts || j.Summary.Passes > 0 {
		return ""
	}
	return fault.Compare(j.Round, *predicted, j.Faults)
}

// Sees lists what a coach may mark with a drill on a bag: what is seen of any round, and the faults that an eye alone
// sees in this one.
func (o Opened) Sees() []ToSeeOut {
	list := []ToSeeOut{}
	if d, ok := o.Plan.(drill.SpeedBagDrill); ok && d.Technique == drill.FistRoll {
		list = append(list, ToSeeOut{MarkFists, "fists touched", "Fists touch"})
	}
	if o.FormFree() {
		return list
	}
	for _, c := range fault.ToSee(o.Plan, o.Bag.Kind()) {
		list = append(list, ToSeeOut{MarkKind(c), c.Name(), c.Pressed()})
	}
	return list
}
