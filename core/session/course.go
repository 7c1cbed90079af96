package session

import (
	"slices"

	"melodromos/core/drill"
	"melodromos/core/input"
)

// Deed is something that was done to a session on the floor.
type Deed string

// The deeds. Skip leaves a block, which is carried on, or let go where it had a round of its own; Repeat does it again
// from its beginning; Back goes to the beginning, or from there to the one before; Longer adds to a rest; Wild offers a
// block again later; Slower and Faster change the tempo from then on; Got and Failed mark a try; End ends it all.
const (
	Skip   Deed = "skip"
	Repeat Deed = "repeat"
	Back   Deed = "back"
	Longer Deed = "longer"
	Wild   Deed = "wild"
	Slower Deed = "slower"
	Faster Deed = "faster"
	Got    Deed = "got"
	Failed Deed = "failed"
	End    Deed = "end"
)

// Values lists them.
func (Deed) Values() []Deed {
	return []Deed{Skip, Repeat, Back, Longer, Wild, Slower, Faster, Got, Failed, End}
}

// Done is a deed at a moment of the session's own clock, which stands while it is paused. Its id is made by whoever did
// it: sent twice, it counts once.
type Done struct {
	ID   string       `json:"id" maxLength:"40"`
	Deed Deed         `json:"deed" enum:"skip,repeat,back,longer,wild,slower,faster,got,failed,end"`
	At   drill.Micros `json:"at" minimum:"0" maximum:"36000000000"`
}

// StretchState says what became of a stretch.
type StretchState string

// The states of a stretch.
const (
	Planned StretchState = ""        // to be done, being done, or done
	Skipped StretchState = "skipped" // left before its end: what was to be done is carried on
	Cut     StretchState = "cut"     // left, to be done again at once
)

// Values lists them.
func (StretchState) Values() []StretchState { return []StretchState{Planned, Skipped, Cut} }

// Stretch is a piece of the floor's clock: a block of a round, or a rest.
type Stretch struct {
	ID      int          `json:"id"`
	Lap     int          `json:"lap" doc:"from bell to bell, from 0; a round that was carried on is a lap of its own"`
	Round   int          `json:"round" doc:"of the plan, whose block it is or whose rest"`
	Block   int          `json:"block" doc:"of that round; -1 for a rest, or for getting ready"`
	From    drill.Micros `json:"from"`
	Until   drill.Micros `json:"until"`
	State   StretchState `json:"state" enum:",skipped,cut"`
	Carried bool         `json:"carried" doc:"it was skipped, or wild, before"`
	Pace    float64      `json:"pace" doc:"of the planned tempo"`
	Got     int          `json:"got" doc:"tries that came off"`
	Failed  int          `json:"failed" doc:"tries that did not"`
}

// Rest says whether nothing is done in it.
func (s Stretch) Rest() bool { return s.Block < 0 }

func (s Stretch) length() drill.Micros { return s.Until - s.From }

// Course is a session as it goes on the floor: its stretches in order, those that are over as they were.
type Course struct {
	Stretches []Stretch `json:"stretches"`
	Left      []Stretch `json:"left" doc:"blocks that were not done: let go, or still to come when it was ended"`
	Ended     bool      `json:"ended"`

	plan   Session
	nextID int
}

// What a press changes, all assumed: a longer rest (s), a change of tempo, how far into a stretch (s) Back still goes
// to the one before, and the least that is left of a block for a change of tempo to cut it.
const (
	longerBy   = 30
	paceStep   = 0.05
	paceLeast  = 0.7
	paceMost   = 1.3
	backWithin = 4
	leastLeft  = 5
)

const second drill.Micros = 1e6

// Begin lays a session out on the floor's clock, after so many seconds to get ready.
func Begin(s Session, getReady int) Course {
	c := Course{plan: s}
	if getReady > 0 {
		c.add(Stretch{Block: -1, Round: -1, Lap: -1}, getReady)
	}
	for i, r := range s.Rounds {
		for j, b := range r.Blocks {
			c.add(Stretch{Lap: i, Round: i, Block: j}, b.Seconds)
		}
		if r.Rest > 0 && i+1 < len(s.Rounds) {
			c.add(Stretch{Lap: i, Round: i, Block: -1}, r.Rest)
		}
	}
	return c
}

func (c *Course) add(s Stretch, seconds int) {
	s.ID, s.Pace = c.nextID, 1
	c.nextID++
	if n := len(c.Stretches); n > 0 {
		s.From = c.Stretches[n-1].Until
	}
	s.Until = s.From + drill.Micros(seconds)*second
	c.Stretches = append(c.Stretches, s)
}

// Replay is the course after all that was done, in the order in which it was done. A deed that nothing stands for, such
// as a longer rest where none comes, changes nothing.
func Replay(s Session, getReady int, deeds []Done) Course {
	c := Begin(s, getReady)
	last := drill.Micros(0)
	for _, d := range deeds { // of two who do something at once, the later to arrive comes after the other
		last = max(last, d.At)
		d.At = last
		c.Do(d)
	}
	return c
}

// Allows refuses a deed that nothing stands for at a moment, naming deed.
func (c Course) Allows(d Done) error {
	if c.Ended || d.At >= c.Until() {
		return input.Refuse("deed", "the session is over")
	}
	at := c.At(d.At)
	switch s := c.Stretches[at]; {
	case d.Deed == Longer && c.rest(at) < 0:
		return input.Refuse("deed", "no rest is left")
	case (d.Deed == Slower || d.Deed == Faster) && !c.paced(s):
		return input.Refuse("deed", "nothing here has a tempo: slower and faster are for what is struck")
	case (d.Deed == Slower || d.Deed == Faster) && c.pace(s, d.Deed) == s.Pace:
		return input.Refuse("deed", "30 % either way is the limit")
	case (d.Deed == Got || d.Deed == Failed || d.Deed == Wild) && c.block(at) < 0:
		return input.Refuse("deed", "no block has been done yet")
	}
	return nil
}

// Until returns the moment at which a course is over.
func (c Course) Until() drill.Micros {
	if len(c.Stretches) == 0 {
		return 0
	}
	return c.Stretches[len(c.Stretches)-1].Until
}

// At is the place of the stretch that a moment falls into; the last one's after the end.
func (c Course) At(at drill.Micros) int {
	i := slices.IndexFunc(c.Stretches, func(s Stretch) bool { return at < s.Until })
	if i < 0 {
		return len(c.Stretches) - 1
	}
	return i
}

// Do goes on with a deed that was done after all those before it, as Replay does.
func (c *Course) Do(d Done) {
	if c.Allows(d) != nil {
		return
	}
	at := c.At(d.At)
	switch d.Deed {
	case Skip:
		c.skip(at, d.At)
	case Repeat:
		c.again(at, d.At, at)
	case Back:
		from := at
		if at > 0 && d.At-c.Stretches[at].From < backWithin*second {
			from = at - 1
		}
		c.again(at, d.At, from)
	case Longer:
		rest := c.rest(at)
		c.Stretches[rest].Until += longerBy * second
		c.settle(rest + 1)
	case Wild:
		c.carry(at, c.Stretches[c.block(at)])
	case Slower, Faster:
		c.retime(at, d)
	case Got:
		c.Stretches[c.block(at)].Got++
	case Failed:
		c.Stretches[c.block(at)].Failed++
	case End:
		c.end(at, d.At)
	}
}

// planned returns the block of a stretch, the zero Block for a rest.
func (c Course) planned(s Stretch) Block {
	if s.Rest() || s.Round < 0 {
		return Block{}
	}
	return c.plan.Rounds[s.Round].Blocks[s.Block]
}

// skip leaves a stretch. What was to be done on a bag is carried on, but for what already had a round of its own: that
// is let go, or whoever skips would never come to the end. What is off the bag is left out.
func (c *Course) skip(at int, now drill.Micros) {
	s := c.Stretches[at]
	c.Stretches[at].Until, c.Stretches[at].State = now, Skipped
	c.settle(at + 1)
	switch {
	case s.Rest() || !c.planned(s).OnBag():
	case c.ofItsOwn(s.Lap):
		c.Left = append(c.Left, s)
	default:
		c.carry(at, s)
	}
}

// ofItsOwn says whether a lap holds nothing but what was carried on.
func (c Course) ofItsOwn(lap int) bool {
	return !slices.ContainsFunc(c.Stretches, func(s Stretch) bool { return s.Lap == lap && !s.Rest() && !s.Carried })
}

// takeUp strikes what is to be done after all from what was let go.
func (c *Course) takeUp(s Stretch) {
	c.Left = slices.DeleteFunc(c.Left, func(l Stretch) bool { return l.Round == s.Round && l.Block == s.Block })
}

// again cuts a stretch, and does those from another one up to it anew. In a rest the block before it is done again, and
// the rest after it.
func (c *Course) again(at int, now drill.Micros, from int) {
	if c.Stretches[at].Rest() && from == at {
		if last := c.block(at); last >= 0 {
			from = last
		}
	}
	anew := slices.Clone(c.Stretches[from : at+1])
	for i := range anew {
		full := drill.Micros(c.seconds(anew[i])) * second
		if n := anew[i].length(); anew[i].State == Planned && from+i < at && n > 0 {
			full = n
		}
		anew[i].ID, anew[i].State, anew[i].Got, anew[i].Failed = c.nextID, Planned, 0, 0
		anew[i].Until = anew[i].From + full
		c.nextID++
		c.takeUp(anew[i])
	}
	c.Stretches[at].Until, c.Stretches[at].State = now, Cut
	c.Stretches = slices.Insert(c.Stretches, at+1, anew...)
	c.settle(at + 1)
}

// seconds returns the planned length of a stretch.
func (c Course) seconds(s Stretch) int {
	switch {
	case s.Round < 0:
		return int(s.length() / second)
	case s.Rest():
		return c.plan.Rounds[s.Round].Rest
	}
	return c.planned(s).Seconds
}

// rest is the place of the rest that a stretch is, or that comes next; −1 where none does.
func (c Course) rest(at int) int {
	i := slices.IndexFunc(c.Stretches[at:], func(s Stretch) bool { return s.Rest() && s.Round >= 0 })
	if i < 0 {
		return -1
	}
	return at + i
}

// block is the place of the block that a stretch is, or that came last; −1 where none did.
func (c Course) block(at int) int {
	for i := at; i >= 0; i-- {
		if !c.Stretches[i].Rest() {
			return i
		}
	}
	return -1
}

func (c Course) paced(s Stretch) bool { return !s.Rest() && c.planned(s).OnBag() }

func (c Course) pace(s Stretch, d Deed) float64 {
	step := paceStep
	if d == Slower {
		step = -paceStep
	}
	to := float64(int((s.Pace+step)*100+0.5)) / 100
	return min(paceMost, max(paceLeast, to))
}

// retime changes the tempo of what is struck from now on.
func (c *Course) retime(at int, d Done) {
	s := c.Stretches[at]
	to := c.pace(s, d.Deed)
	from := at + 1
	if d.At-s.From >= second && s.Until-d.At >= leastLeft*second {
		rest := s
		rest.ID, rest.From = c.nextID, d.At
		c.nextID++
		c.Stretches[at].Until = d.At
		c.Stretches = slices.Insert(c.Stretches, at+1, rest)
	} else {
		from = at
	}
	for i := from; i < len(c.Stretches); i++ {
		if c.paced(c.Stretches[i]) {
			c.Stretches[i].Pace = to
		}
	}
}

// end ends a course: what was not done is left.
func (c *Course) end(at int, now drill.Micros) {
	left := slices.Clone(c.Stretches[at:])
	c.Stretches[at].Until, c.Stretches[at].State = now, Skipped
	c.Stretches, c.Ended = c.Stretches[:at+1], true
	for _, s := range left {
		if !s.Rest() && c.planned(s).OnBag() {
			c.Left = append(c.Left, s)
		}
	}
}

// settle moves the stretches from one on to where the one before them ends.
func (c *Course) settle(from int) {
	for i := max(1, from); i < len(c.Stretches); i++ {
		length := c.Stretches[i].length()
		c.Stretches[i].From = c.Stretches[i-1].Until
		c.Stretches[i].Until = c.Stretches[i].From + length
	}
}
