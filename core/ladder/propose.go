package ladder

import (
	"fmt"
	"math"
	"time"

	"melodromos/core/drill"
	"melodromos/core/words"
)

// Round is a judged round on a rung.
type Round struct {
	At      time.Time
	Rung    string
	Clean   float64 // share; of a slip bag, of the passes that did not touch
	Longest int     // clean in a row
	Planned int     // strikes, or passes
	Wild    bool    // the coach marked it so, or it broke off
	Tempo   float64 // held, as a share of what was asked, on a rung that names one; 0 where it does not, or was not told
}

// tempoWithin is how far off a tempo that a rung names may be held, as a share. Assumed.
const tempoWithin = 0.05

// Choice is what a coach did with a proposal.
type Choice string

// The choices. An accepted or changed proposal is run; a held rung stays, past its gate as well, until the coach lets it go on or
// skips it; a skipped rung counts as passed, for the reason that the coach gives.
const (
	Accept Choice = "accept"
	Alter  Choice = "change"
	Hold   Choice = "hold"
	GoOn   Choice = "goOn"
	Skip   Choice = "skip"
)

// Decision is a choice on a rung, with its reason.
type Decision struct {
	At     time.Time
	Rung   string
	Choice Choice
	Reason string
}

// Move says how a proposal stands to what was done last.
type Move string

// The moves.
const (
	Start  Move = "start"  // never on this bag before
	Next   Move = "next"   // past the gate
	Again  Move = "again"  // not yet past it
	Softly Move = "softly" // it ran wild: the same under control
	Back   Move = "back"   // a rung down, for now
	Stay   Move = "stay"   // held by the coach
	Top    Move = "top"    // past the last gate
	Barred Move = "barred" // held back by a caution
)

// Career is what was done on one bag so far, oldest first.
type Career struct {
	Rungs     []Rung
	Gate      Gate
	Rounds    []Round
	Decisions []Decision
	Held      func(Rung) string // why a rung is held back from this person; nil for never
	Now       time.Time
}

// Proposal is what to do next, and why.
type Proposal struct {
	Rung   Rung
	Index  int
	Move   Move
	Soft   bool // softer than the rung has it
	Target int  // streak to beat
	Why    string
	Barred string // why nothing can be proposed
}

// When somebody is eased back, all assumed.
const (
	away      = 21 * 24 * time.Hour // without a round: a rung down to begin with
	longAway  = 60 * 24 * time.Hour // two rungs
	wildShare = 0.50                // under it a round ran wild
	poorShare = 0.70                // three rounds in a row under it: a rung down for one
	poorRow   = 3
	plateau   = 6 // rounds on a rung without passing
)

// Passes says whether a round is past the gate; one with fewer strikes than the streak asks for has to be clean throughout, and where a
// rung names a tempo it has to be held.
func (g Gate) Passes(r Round) bool {
	held := r.Tempo == 0 || math.Abs(r.Tempo-1) <= tempoWithin
	return r.Planned > 0 && r.Clean >= g.Clean-1e-9 && r.Longest >= min(g.Run, r.Planned) && held
}

// Progress is how somebody stands on one rung.
type Progress struct {
	Through int       // rounds past the gate
	Done    bool      // there are enough of them, or the coach skipped the rung
	At      time.Time // when the gate was passed; zero where it was not
	Skipped bool
	Reason  string // of the skip
	Best    int    // longest streak
}

// On tells how somebody stands on a rung.
func (c Career) On(r Rung) Progress {
	var p Progress
	for _, x := range c.Rounds {
		if x.Rung != r.Key {
			continue
		}
		p.Best = max(p.Best, x.Longest)
		if c.Gate.Passes(x) {
			if p.Through++; p.Through == c.Gate.Rounds {
				p.Done, p.At = true, x.At
			}
		}
	}
	for _, d := range c.Decisions {
		if d.Rung == r.Key && d.Choice == Skip {
			p.Done, p.Skipped, p.Reason = true, true, d.Reason
		}
	}
	return p
}

// Standing is the index of the first rung whose gate is not passed; the number of rungs where all are.
func (c Career) Standing() int {
	for i, r := range c.Rungs {
		if !c.On(r).Done && !(r.added && c.past(i)) {
			return i
		}
	}
	return len(c.Rungs)
}

// past says whether a rung after that of the index is done, or has been run.
func (c Career) past(index int) bool {
	for _, r := range c.Rungs[index+1:] {
		if len(c.on(r.Key)) > 0 || c.On(r).Done {
			return true
		}
	}
	return false
}

// on are the rounds on a rung.
func (c Career) on(key string) []Round {
	var list []Round
	for _, r := range c.Rounds {
		if r.Rung == key {
			list = append(list, r)
		}
	}
	return list
}

// held says whether the coach holds a rung: taking it to run it does not end that.
func (c Career) held(key string) (Decision, bool) {
	for i := len(c.Decisions) - 1; i >= 0; i-- {
		if d := c.Decisions[i]; d.Rung == key && d.Choice != Accept && d.Choice != Alter {
			return d, d.Choice == Hold
		}
	}
	return Decision{}, false
}

// Propose says what to do next on this bag. It never jumps a gate: only a coach's skip does.
func (c Career) Propose() Proposal {
	at := c.Standing()
	for i, r := range c.Rungs[:at] { // a held rung is not left, whatever its gate
		if _, held := c.held(r.Key); held {
			at = i
			break
		}
	}
	p := Proposal{Index: min(at, len(c.Rungs)-1), Move: Again}
	switch {
	case at == len(c.Rungs):
		p.Move, p.Why = Top, "Past the last gate: beat the best of your own, or make one thing harder."
	case len(c.Rounds) == 0 && len(c.Decisions) == 0:
		p.Move, p.Why = Start, "The first on this bag: half power, and wait for it."
		if l := c.Rungs[p.Index].line; l != nil && l.Guard != drill.Touched {
			p.Why = "The first on this bag: it hangs still, and is not touched."
		}
	default:
		c.follow(&p)
	}
	c.ease(&p)
	c.bar(&p)
	p.Rung = c.Rungs[p.Index]
	p.Target = c.target(p.Rung)
	return p
}

// follow says how the rung at hand goes on.
func (c Career) follow(p *Proposal) {
	r := c.Rungs[p.Index]
	here := c.on(r.Key)
	passed := c.On(r).Through
	d, held := c.held(r.Key)
	switch {
	case held:
		p.Move, p.Why = Stay, "Held by the coach"
		if d.Reason != "" {
			p.Why += ": " + d.Reason
		}
		p.Why += "."
	case len(here) == 0 && p.Index > 0:
		before := c.Rungs[p.Index-1]
		p.Move, p.Why = Next, fmt.Sprintf("%s is past its gate: %s comes next.", before.Name, words.Lower(r.Name))
	case len(here) == 0:
		p.Move, p.Why = Start, "Not run yet: half power, and wait for the bag."
	default:
		last := here[len(here)-1]
		said := fmt.Sprintf("%.0f %% clean and %d in a row last time", 100*last.Clean, last.Longest)
		if last.Tempo > 0 && math.Abs(last.Tempo-1) > tempoWithin {
			said += fmt.Sprintf(", at %.0f %% of the tempo that the rung names", 100*last.Tempo)
		}
		switch {
		case last.Wild || last.Clean < wildShare:
			p.Move, p.Soft, p.Why = Softly, true, said+": it ran wild, so the same under control."
		case passed > 0:
			p.Why = fmt.Sprintf("%s; %s of %s rounds past the gate.", said, words.Number(passed), words.Number(c.Gate.Rounds))
		case len(here) >= plateau:
			p.Soft, p.Why = true, fmt.Sprintf("%s, %d rounds on this rung: change one thing, softer first.", said, len(here))
		default:
			p.Why = fmt.Sprintf("%s: %.0f %% and %d are the gate.", said, 100*c.Gate.Clean, c.Gate.Run)
		}
	}
}

// ease goes back for now: after time away, or where a rung keeps failing.
func (c Career) ease(p *Proposal) {
	if len(c.Rounds) == 0 || p.Move == Stay {
		return
	}
	last := c.Rounds[len(c.Rounds)-1]
	gone := c.Now.Sub(last.At)
	days := int(math.Round(gone.Hours() / 24))
	switch {
	case gone >= away && p.Index > 0:
		down := 1
		if gone >= longAway {
			down = 2
		}
		p.Index = max(0, p.Index-down)
		p.Move, p.Soft, p.Why = Back, true, fmt.Sprintf("%d days away from this bag: %s to begin with, soft.", days, words.Lower(c.Rungs[p.Index].Name))
	case p.Index > 0 && c.poor(c.Rungs[p.Index].Key):
		name := c.Rungs[p.Index].Name
		p.Index--
		p.Move, p.Soft, p.Why = Back, false, fmt.Sprintf("%s has failed three times in a row: %s once more, then again.", name, words.Lower(c.Rungs[p.Index].Name))
	}
}

// poor says whether the last rounds were all on this rung and all failed it clearly. After one round on another rung it has as
// many tries again.
func (c Career) poor(key string) bool {
	if len(c.Rounds) < poorRow {
		return false
	}
	for _, r := range c.Rounds[len(c.Rounds)-poorRow:] {
		if r.Rung != key || r.Clean >= poorShare {
			return false
		}
	}
	return true
}

// bar goes down to the highest rung that no caution holds back.
func (c Career) bar(p *Proposal) {
	if c.Held == nil {
		return
	}
	first := c.Held(c.Rungs[p.Index])
	if first == "" {
		return
	}
	for i := p.Index - 1; i >= 0; i-- {
		if c.Held(c.Rungs[i]) == "" {
			p.Why = fmt.Sprintf("%s is held back (%s): %s instead.", c.Rungs[p.Index].Name, first, words.Lower(c.Rungs[i].Name))
			p.Index, p.Move, p.Soft = i, Back, true
			return
		}
	}
	p.Move, p.Barred, p.Why = Barred, first, fmt.Sprintf("Nothing on this bag for now: %s.", first)
}

// firstStreak is the target of somebody who has none yet (common practice: three, then beat it).
const firstStreak = 3

// target is the streak to beat on a rung: one more than the best so far.
func (c Career) target(r Rung) int { return Target(c.On(r).Best) }

// Target is the streak to reach after a best one: three to begin with, then one more.
func Target(best int) int { return max(firstStreak, best+1) }
