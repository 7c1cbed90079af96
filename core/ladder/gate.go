package ladder

import (
	"math"
	"time"

	"melodromos/core/input"
)

// Gate is what passes a rung: a clean share and a number in a row, in a number of rounds on a number of days; and how
// many rungs somebody passes in one day at the most.
type Gate struct {
	Clean  float64 `json:"clean" minimum:"0.3" maximum:"1"`
	Run    int     `json:"run" minimum:"1" maximum:"200" doc:"in a row"`
	Rounds int     `json:"rounds" minimum:"1" maximum:"10"`
	Days   int     `json:"days" minimum:"1" maximum:"10" doc:"on which those rounds are to lie"`
	ADay   int     `json:"aDay" minimum:"1" maximum:"10" doc:"rungs passed in one day at the most"`
}

// DefaultGate is 80 % clean and ten in a row, in two rounds on two days, and two rungs a day. Assumed; a gym may set
// its own.
var DefaultGate = Gate{Clean: 0.80, Run: 10, Rounds: 2, Days: 2, ADay: 2}

// Check refuses a gate that nobody could pass, by field.
func (g Gate) Check() error {
	if g.Days > g.Rounds {
		return input.Refuse("days", "expected at most the %d rounds that the standard asks for", g.Rounds)
	}
	return nil
}

// RungRound is a judged round on a rung.
type RungRound struct {
	At      time.Time
	Rung    string
	Clean   float64 // share; of a slip bag, of the passes that did not touch
	Longest int     // clean in a row
	Planned int     // strikes, or passes
	Wild    bool    // the coach marked it so, or it broke off
	// held, as a share of what was asked, on a rung that names one; 0 where it does not, or was not told
	Tempo float64
	Eased bool // it was made easier than the rung has it: it trains, and passes no gate
}

// tempoWithin is the share by which the tempo held may differ from the one that a rung names. Assumed.
const tempoWithin = 0.05

// Passes says whether a round is past the gate; one with fewer strikes than are asked for in a row has to be clean
// throughout, and where a rung names a tempo it has to be held.
func (g Gate) Passes(r RungRound) bool {
	held := r.Tempo == 0 || math.Abs(r.Tempo-1) <= tempoWithin
	return !r.Eased && r.Planned > 0 && r.Clean >= g.Clean-1e-9 && r.Longest >= min(g.Run, r.Planned) && held
}
