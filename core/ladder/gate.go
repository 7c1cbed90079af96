package ladder

import (
	"math"

	"melodromos/core/input"
	"melodromos/core/run"
)

// Gate is the standard of a rung: a clean share and a streak, in a number of rounds on a number of days; and how
// many rungs somebody passes in one day at the most.
type Gate struct {
	Clean  float64 `json:"clean" minimum:"0.3" maximum:"1"`
	Streak int     `json:"run" minimum:"1" maximum:"200" doc:"in a row"`
	Rounds int     `json:"rounds" minimum:"1" maximum:"10"`
	Days   int     `json:"days" minimum:"1" maximum:"10" doc:"on which those rounds are to lie"`
	ADay   int     `json:"aDay" minimum:"1" maximum:"10" doc:"rungs passed in one day at the most"`
}

// DefaultGate is 80 % clean and ten in a row, in two rounds on two days, and two rungs a day. Assumed; a gym may set
// its own.
var DefaultGate = Gate{Clean: 0.80, Streak: 10, Rounds: 2, Days: 2, ADay: 2}

// Check refuses a gate that nobody could pass, by field.
func (g Gate) Check() error {
	if g.Days > g.Rounds {
		return input.Refuse("days", "expected at most the %d rounds that the standard asks for", g.Rounds)
	}
	return nil
}

// tempoWithin is the share by which the tempo held may differ from the one that a rung names. Assumed.
const tempoWithin = 0.05

// Passes says whether a round is past the gate; one with fewer strikes than are asked for in a row has to be clean
// throughout, and where a rung names a tempo it has to be held.
func (g Gate) Passes(r run.PastRound) bool {
	held := heldTempo(r)
	return !r.Eased && r.Planned > 0 && r.Share >= g.Clean-1e-9 && r.Longest >= min(g.Streak, r.Planned) &&
		(held == 0 || math.Abs(held-1) <= tempoWithin)
}

// heldTempo returns the tempo that was held as a share of the one that the rung of the round names; 0 where it names
// none, or it was not told.
func heldTempo(r run.PastRound) float64 {
	if rung, ok := Find(r.Rung); ok && rung.Paced && r.Asked > 0 {
		return r.Tempo / r.Asked
	}
	return 0
}
