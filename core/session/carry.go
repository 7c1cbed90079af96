package session

import (
	"slices"

	"melodromos/core/drill"
)

// carry does a block again later: in the next round on the bags, behind its opener and before what is new there, the
// others giving way where they can; where everybody has their own drill, or no round comes any more, in a round of its
// own.
func (c *Course) carry(at int, s Stretch) {
	b := c.planned(s)
	c.takeUp(s)
	s.ID, s.State, s.Carried, s.Got, s.Failed = c.nextID, Planned, true, 0, 0
	s.From, s.Until = 0, drill.Micros(b.Seconds)*second
	c.nextID++
	if b.Role != Own {
		if from, to := c.nextLap(at); from >= 0 {
			c.insert(from, to, s)
			return
		}
	}
	c.extra(at, s)
}

// nextLap returns the indices at which the next round on the bags begins and ends; −1 where none comes.
func (c Course) nextLap(at int) (from, to int) {
	lap := c.Stretches[at].Lap
	from = -1
	for i := at + 1; i < len(c.Stretches); i++ {
		s := c.Stretches[i]
		inside := !s.Rest() && s.Lap != lap && c.plan.Rounds[s.Round].Kind == Work && c.planned(s).OnBag()
		switch {
		case from < 0 && inside && c.planned(s).Role != Own:
			from = i
		case from >= 0 && (s.Rest() || s.Lap != c.Stretches[from].Lap):
			return from, i
		}
	}
	return from, len(c.Stretches)
}

// insert puts a block into a lap and shrinks the others so that its bell stays where it is, as far as they can.
func (c *Course) insert(from, to int, s Stretch) {
	s.Lap = c.Stretches[from].Lap
	all := c.Stretches[to-1].Until - c.Stretches[from].From
	place := from
	if c.planned(c.Stretches[from]).Role == Opener {
		place++
	}
	for place < to && c.Stretches[place].Carried {
		place++
	}
	room := int((all - s.length()) / second)
	shares := make([]int, to-from)
	for i := range shares {
		shares[i] = int(c.Stretches[from+i].length() / second)
	}
	if room >= LeastBlock*len(shares) {
		for i, v := range parted(room, shares, LeastBlock) {
			c.Stretches[from+i].Until = c.Stretches[from+i].From + drill.Micros(v)*second
		}
	}
	c.Stretches = slices.Insert(c.Stretches, place, s)
	c.settle(from)
}

// extra is a round of its own for what is carried on: behind the last round on the bags, with the rest before it that
// there is between rounds.
func (c *Course) extra(at int, s Stretch) {
	place := at + 1
	for i := at + 1; i < len(c.Stretches); i++ {
		if r := c.Stretches[i]; !r.Rest() && c.plan.Rounds[r.Round].Kind == Work {
			place = i + 1
		}
	}
	rest := UsualRest(c.planned(s).Seconds)
	last := c.Stretches[place-1]
	before := Stretch{ID: c.nextID, Lap: last.Lap, Round: last.Round, Block: -1, Pace: 1}
	if before.Round < 0 { // before anything was done
		before.Round, before.Lap = s.Round, s.Lap
	}
	before.Until = drill.Micros(rest) * second
	c.nextID++
	for _, other := range c.Stretches {
		s.Lap = max(s.Lap, other.Lap+1)
	}
	c.Stretches = slices.Insert(c.Stretches, place, before, s)
	c.settle(place)
}
