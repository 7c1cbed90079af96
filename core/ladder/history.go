package ladder

import (
	"cmp"
	"melodromos/core/run"
	"slices"
	"time"
)

// Choice is a coach's decision on a proposal.
type Choice string

// The choices. An accepted or changed proposal is run; a held rung stays, past its gate as well, until the coach lets
// it go on or skips it; a skipped rung counts as passed, for the reason that the coach gives.
const (
	Accept Choice = "accept"
	Alter  Choice = "change"
	Hold   Choice = "hold"
	GoOn   Choice = "goOn"
	Skip   Choice = "skip"
)

// Values lists them.
func (Choice) Values() []Choice { return []Choice{Accept, Alter, Hold, GoOn, Skip} }

// Decision is a choice on a rung, with its reason.
type Decision struct {
	At     time.Time
	Rung   string
	Choice Choice
	Reason string
}

// RungStanding tells how somebody stands on one rung.
type RungStanding struct {
	Through int       // rounds past the gate
	Done    bool      // its gate is passed, or the coach skipped the rung
	At      time.Time // when the gate was passed; zero where it was not
	Lapsed  bool      // passed once, and to be shown again after an absence
	Skipped bool
	Reason  string // of the skip
	Best    int    // most in a row

	days     []string  // on which rounds passed
	regained time.Time // when it was shown again after it had lapsed
}

// How standing falls with an absence: so many rungs after so long, after a year half of them. Assumed.
const (
	away     = 21 * 24 * time.Hour
	longAway = 60 * 24 * time.Hour
	halfYear = 180 * 24 * time.Hour
	aYear    = 365 * 24 * time.Hour
)

// fall returns the number of rungs that somebody who was away goes back from the rung with that index.
func fall(index int, gone time.Duration) int {
	switch {
	case gone >= aYear:
		return max(4, (index+1)/2)
	case gone >= halfYear:
		return 4
	case gone >= longAway:
		return 2
	case gone >= away:
		return 1
	}
	return 0
}

// How a rung that fails is gone about, all assumed: after so many rounds that do not pass one way round it is taken,
// for so many rounds at the most.
const (
	FailsInRow   = 3
	easierRounds = 3
	asideRounds  = 2
)

// detour is a way round a rung that keeps failing.
type detour int

// The ways round, in the order in which they are taken: one thing easier, a rung that trains the weakest link, a lower
// rung.
const (
	easier detour = iota
	aside
	lower
	detours
)

// history replays the rounds and decisions of a career, one after the other.
type history struct {
	career *Career
	stand  []RungStanding
	last   time.Time     // of the last round; zero before the first
	gone   time.Duration // of an absence after which no round was run yet
	back   bool          // rungs lapsed and are not all shown again
	// full rounds on the rung at hand since it was last passed or gone round, none of them past the gate
	fails   int
	taken   int  // ways round that were taken since its gate was last passed
	on      int  // rounds on the way round that is being taken
	settled bool // that way round has done what it is for
}

// replay goes through rounds and decisions as they came.
func (c *Career) replay() history {
	h := history{career: c, stand: make([]RungStanding, len(c.Rungs))}
	skips := slices.DeleteFunc(slices.Clone(c.Decisions), func(d Decision) bool { return d.Choice != Skip })
	for _, r := range c.Rounds {
		for len(skips) > 0 && !skips[0].At.After(r.At) {
			h.skip(skips[0])
			skips = skips[1:]
		}
		h.round(r)
	}
	for _, d := range skips {
		h.skip(d)
	}
	if !h.last.IsZero() {
		h.absent(c.Now.Sub(h.last))
	}
	return h
}

// absent lets rungs lapse after time away.
func (h *history) absent(gone time.Duration) {
	at := h.standing()
	n := fall(at, gone)
	if n == 0 {
		return
	}
	h.gone = gone
	h.fails, h.taken, h.on, h.settled = 0, 0, 0, false
	for i := max(0, at-n); i < at; i++ {
		if h.stand[i].Done {
			h.stand[i].Lapsed, h.back = true, true
		}
	}
}

// skip counts a rung as passed.
func (h *history) skip(d Decision) {
	if i := h.career.index(d.Rung); i >= 0 {
		p := &h.stand[i]
		p.Done, p.Skipped, p.Reason, p.Lapsed = true, true, d.Reason, false
		h.fails, h.taken, h.on, h.settled = 0, 0, 0, false
	}
}

func (h *history) round(r run.PastRound) {
	if !h.last.IsZero() {
		h.absent(r.At.Sub(h.last))
	}
	h.last, h.gone = r.At, 0
	before := h.standing()
	i := h.career.index(r.Rung)
	passed := h.career.Gate.Passes(r)
	if i >= 0 {
		p := &h.stand[i]
		p.Best = max(p.Best, r.Longest)
		if passed {
			p.pass(r.At.In(h.career.zone()), h.career.Gate)
			for k := range i + 1 { // what is above shows what is below it
				if h.stand[k].Lapsed {
					h.stand[k].Lapsed, h.stand[k].regained = false, r.At.In(h.career.zone())
				}
			}
		}
	}
	h.back = h.back && slices.ContainsFunc(h.stand, func(p RungStanding) bool { return p.Lapsed })
	h.follow(r, i == before && !r.Eased, passed)
	if h.standing() != before {
		h.fails, h.taken, h.on, h.settled = 0, 0, 0, false
	}
}

// pass counts a round past the gate.
func (p *RungStanding) pass(at time.Time, g Gate) {
	p.Through++
	if day := at.Format(time.DateOnly); !slices.Contains(p.days, day) {
		p.days = append(p.days, day)
	}
	if !p.Done && p.Through >= g.Rounds && len(p.days) >= g.Days {
		p.Done, p.At = true, at
	}
}

// follow counts failures on the rung at hand, and the rounds of the way round it.
func (h *history) follow(r run.PastRound, full, passed bool) {
	switch {
	case full && passed:
		h.fails, h.taken, h.on, h.settled = 0, 0, 0, false
	case full && h.fails >= FailsInRow && h.on > 0: // back at it from the way round
		h.fails, h.on, h.settled = 1, 0, false
		h.taken++
	case full:
		h.fails++
	case h.fails >= FailsInRow:
		h.on++
		h.settled = h.settled || r.Share >= h.career.Gate.Clean
	}
}

// way is the way round that is being taken, or is to be taken now; false where the rung itself is up.
func (h history) way() (detour, bool) {
	if h.fails < FailsInRow {
		return 0, false
	}
	d := detour(h.taken % int(detours))
	most := asideRounds
	if d == easier {
		most = easierRounds
	}
	return d, !h.settled && h.on < most
}

// standing is the index of the first rung whose gate is not passed, or has lapsed; the number of rungs where all are.
func (h history) standing() int {
	for i, r := range h.career.Rungs {
		p := h.stand[i]
		if p.Lapsed || !p.Done && !(r.added && h.past(i)) {
			return i
		}
	}
	return len(h.career.Rungs)
}

// past says whether a rung after that of the index is done, or has been run.
func (h history) past(index int) bool {
	return slices.ContainsFunc(h.stand[index+1:],
		func(p RungStanding) bool { return p.Done || p.Through > 0 || p.Best > 0 })
}

// passedOn counts the rungs whose gate was passed, or that were regained, on a day.
func (h history) passedOn(day time.Time) int {
	n := 0
	for _, p := range h.stand {
		if sameDay(p.At, day) || sameDay(p.regained, day) {
			n++
		}
	}
	return n
}

func sameDay(a, b time.Time) bool { return a.Format(time.DateOnly) == b.Format(time.DateOnly) }

// index returns the index of the rung with that key, −1 for none.
func (c *Career) index(key string) int {
	return slices.IndexFunc(c.Rungs, func(r Rung) bool { return r.Key == key })
}

func (c *Career) zone() *time.Location { return cmp.Or(c.Zone, time.UTC) }
