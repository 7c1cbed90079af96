package ladder

import (
	"fmt"
	"math"
	"time"

	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/run"
	"melodromos/core/words"
)

// Direction says how a proposal stands to what was done last.
type Direction string

// The moves.
const (
	Start  Direction = "start"  // never on this bag before
	Next   Direction = "next"   // past the gate
	Again  Direction = "again"  // not yet past it
	Softly Direction = "softly" // it ran wild: the same under control
	Easier Direction = "easier" // it keeps failing: one thing easier
	Aside  Direction = "aside"  // it keeps failing: another rung, for the weakest link
	Back   Direction = "back"   // a lower rung, for now
	Stay   Direction = "stay"   // held by the coach
	Enough Direction = "enough" // nothing more that is new today
	Top    Direction = "top"    // past the last gate
	Barred Direction = "barred" // held back by a caution
	Given  Direction = "given"  // not of a ladder: a drill that a coach gave by hand and that was not run yet
)

// Values lists them.
func (Direction) Values() []Direction {
	return []Direction{Start, Next, Again, Softly, Easier, Aside, Back, Stay, Enough, Top, Barred, Given}
}

// Moves lists them.
var Moves = []Direction{Start, Next, Again, Softly, Easier, Aside, Back, Stay, Enough, Top, Barred}

// Career holds somebody's rounds and decisions on one kind of bag, the oldest first.
type Career struct {
	Rungs     []Rung
	Gate      Gate
	Rounds    []run.PastRound
	Decisions []Decision
	Held      func(Rung) string      // why a rung is held back from this person; nil for never
	Weakest   func(Rung) level.Cause // the weakest link of this person on a rung; nil where it is not known
	Now       time.Time
	Zone      *time.Location // in which days begin and end; nil takes UTC
}

// Suggestion names the rung to do next, and the reason.
type Suggestion struct {
	Rung   Rung
	Index  int
	Move   Direction
	Soft   bool // softer than the rung has it
	Target int  // in a row, to beat
	Why    string
	Barred string // why nothing can be proposed
}

// wildShare is the share under which a round ran wild. Assumed.
const wildShare = 0.50

// On tells how somebody stands on a rung.
func (c Career) On(r Rung) RungStanding {
	i := c.index(r.Key)
	if i < 0 {
		return RungStanding{}
	}
	return c.replay().stand[i]
}

// Progress tells how somebody stands on each rung.
func (c Career) Progress() []RungStanding { return c.replay().stand }

// Standing is the index of the first rung whose gate is not passed, or has lapsed in an absence; the number of rungs
// where all are.
func (c Career) Standing() int { return c.replay().standing() }

// roundsOn are the rounds on a rung.
func (c Career) roundsOn(key string) []run.PastRound {
	var list []run.PastRound
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
func (c Career) Propose() Suggestion {
	h := c.replay()
	at := h.standing()
	for i, r := range c.Rungs[:at] { // a held rung is not left, whatever its gate
		if _, held := c.held(r.Key); held {
			at = i
			break
		}
	}
	p := Suggestion{Index: min(at, len(c.Rungs)-1), Move: Again}
	switch {
	case at == len(c.Rungs):
		p.Move, p.Why = Top, "All rungs passed."
	case len(c.Rounds) == 0 && len(c.Decisions) == 0:
		p.Move, p.Why = Start, "First time on this bag: half power, wait for it."
		if l, ok := c.Rungs[p.Index].Plan.(drill.CombinationDrill); ok && l.Guard != drill.Touched {
			p.Why = "First time on this bag: it hangs still; don’t touch it."
		}
	default:
		c.follow(&p, h)
	}
	c.bar(&p)
	p.Rung = c.Rungs[p.Index]
	p.Target = Target(h.stand[p.Index].Best)
	return p
}

// follow says how the rung at hand goes on.
func (c Career) follow(p *Suggestion, h history) {
	r, stand := c.Rungs[p.Index], h.stand[p.Index]
	here := c.roundsOn(r.Key)
	today := c.Now.In(c.zone())
	d, held := c.held(r.Key)
	way, round := h.way()
	switch {
	case held:
		p.Move, p.Why = Stay, "Held by the coach"
		if d.Reason != "" {
			p.Why += ": " + d.Reason
		}
		p.Why += "."
	case h.gone > 0:
		p.Move, p.Soft, p.Why = Back, true, fmt.Sprintf("%s away from this bag: %s to begin with, soft.",
			words.Count(int(math.Round(h.gone.Hours()/24)), "day"), words.Lower(r.Name))
	case h.back && h.passedOn(today) >= c.Gate.ADay && p.Index > 0:
		p.Index--
		p.Move, p.Why = Enough,
			fmt.Sprintf("%s regained today, which is enough: this once more, or another bag. %s comes on another day.",
				words.Upper(numbered(c.Gate.ADay, "rung")), r.Name)
	case h.back:
		p.Move, p.Why = Back, fmt.Sprintf("Back after time away: pass %s once, then on from there.",
			words.Lower(r.Name))
	case round:
		c.goRound(p, way)
	case h.passedOn(today) >= c.Gate.ADay && len(here) == 0 && p.Index > 0:
		p.Index--
		p.Move, p.Why = Enough,
			fmt.Sprintf(
				"%s passed today, enough new work for one day: this once more for the feel of it, or another bag. %s comes on another day.", words.Upper(numbered(c.Gate.ADay, "rung")), r.Name)
	case stand.Through >= c.Gate.Rounds && !stand.Done:
		p.Move, p.Why = Again, fmt.Sprintf("Up to standard on %s; the standard asks for %s, so once more on another day.",
			numbered(len(stand.days), "day"), numbered(c.Gate.Days, "day"))
		if stand.days[len(stand.days)-1] == today.Format(time.DateOnly) {
			p.Move = Enough
		}
	case len(here) == 0 && p.Index > 0:
		p.Move, p.Why = Next, fmt.Sprintf("%s is passed: %s comes next.", c.Rungs[p.Index-1].Name,
			words.Lower(r.Name))
	case len(here) == 0:
		p.Move, p.Why = Start, "Not run yet: half power, wait for the bag."
	default:
		c.again(p, here[len(here)-1], stand)
	}
}

// numbered writes a small number of things: "one day", "two days".
func numbered(n int, word string) string {
	if n != 1 {
		word += "s"
	}
	return words.Number(n) + " " + word
}

// again says how the last round on the rung went, and what the gate asks.
func (c Career) again(p *Suggestion, last run.PastRound, stand RungStanding) {
	said := fmt.Sprintf("%.0f %% clean and %d in a row last time", 100*last.Share, last.Longest)
	if held := heldTempo(last); held > 0 && math.Abs(held-1) > tempoWithin {
		said += fmt.Sprintf(", at %.0f %% of the rung's tempo", 100*held)
	}
	switch {
	case last.Wild || last.Share < wildShare:
		p.Move, p.Soft, p.Why = Softly, true, said+": it ran wild, so the same under control."
	case stand.Through > 0:
		p.Why = fmt.Sprintf("%s; %s of %s rounds up to standard.", said, words.Number(stand.Through),
			words.Number(c.Gate.Rounds))
	default:
		p.Why = fmt.Sprintf("%s; the standard is %.0f %% and %d in a row.", said, 100*c.Gate.Clean, c.Gate.Streak)
	}
}

// causeNames say what a weak link lies in, and what is done for it.
var causeNames = map[level.Cause]string{
	level.ByHands: "the hands are not quick enough yet", level.ByTiming: "the timing scatters",
	level.ByMiss:   "strikes miss the bag altogether",
	level.ByMemory: "it is more than they can remember", level.ByCue: "the cues come too soon",
}

// goRound takes a way round a rung that keeps failing. Where there is none of that sort, the next sort is taken.
func (c Career) goRound(p *Suggestion, way detour) {
	name := c.Rungs[p.Index].Name
	failed := name + " not passed three times"
	if way == aside {
		if i, cause, ok := c.another(p.Index); ok {
			p.Index, p.Move, p.Why = i, Aside, fmt.Sprintf("%s: %s. %s trains that; then %s again.", failed,
				causeNames[cause], c.Rungs[i].Name, words.Lower(name))
			return
		}
		way = lower
	}
	if way == lower && p.Index > 0 {
		p.Index--
		p.Move, p.Why = Back, fmt.Sprintf("%s: down to %s until it is easy, then up again.", failed,
			words.Lower(c.Rungs[p.Index].Name))
		return
	}
	p.Move, p.Why = Easier, failed+"."
}

// another is a lower rung, but for the next lower one where there is a choice, that trains the weakest link of somebody
// on a rung.
func (c Career) another(index int) (int, level.Cause, bool) {
	if c.Weakest == nil {
		return 0, "", false
	}
	cause := c.Weakest(c.Rungs[index])
	found := -1
	for i := index - 1; i >= 0; i-- {
		if c.Rungs[i].Trains != cause || cause == "" || c.Held != nil && c.Held(c.Rungs[i]) != "" {
			continue
		}
		if found = i; i < index-1 {
			break
		}
	}
	return found, cause, found >= 0
}

// bar goes down to the highest rung that no caution holds back.
func (c Career) bar(p *Suggestion) {
	if c.Held == nil {
		return
	}
	first := c.Held(c.Rungs[p.Index])
	if first == "" {
		return
	}
	for i := p.Index - 1; i >= 0; i-- {
		if c.Held(c.Rungs[i]) == "" {
			p.Why = fmt.Sprintf("%s is held back (%s): %s instead.", c.Rungs[p.Index].Name, first,
				words.Lower(c.Rungs[i].Name))
			p.Index, p.Move, p.Soft = i, Back, true
			return
		}
	}
	p.Move, p.Barred, p.Why = Barred, first, fmt.Sprintf("Nothing on this bag for now: %s.", first)
}

// firstTarget is the streak to reach for somebody who has no best yet (common practice: three, then beat it).
const firstTarget = 3

// Target returns the streak to reach after a best so far: three to begin with, then one more.
func Target(best int) int { return max(firstTarget, best+1) }
