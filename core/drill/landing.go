package drill

import (
	"errors"
	"math"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Landed is a move of a repetition where it lands. Times are in s from the repetition's first strike.
type Landed struct {
	combo.Placed
	Move   int     // index in the expanded combination
	At     float64 // of the contact, or of the moment a defence or a step begins
	Until  float64 // until the hand or the feet are home again
	Window float64 // s, of a strike; of a slip, how long it may be begun
	Still  bool    // it meets a bag at rest, or begins a free repetition: what follows goes by it
	Share  float64 // of the bag's own window that counts: less for a curved blow, or off the bag's line
	Less   string  // why it counts for less; "" where it does not
	Return int     // which return a strike meets; 0 for the first, or where the bag does not matter
	// s of the blow, at that return: At, but for a heavy bag, which is struck on its way in, half a window before
	Back    float64
	Launch  float64      // m/s at which a strike drives the bag off
	Fist    float64      // m/s
	Speed   float64      // m/s of the bag as the strike meets it
	Settle  float64      // s since the strike before, under which a bag that is left to settle is not at rest again
	Late    float64      // s by which the moves before it do not fit; 0 where they do
	Fits    []Adjustment // what would make it fit
	Through float64      // s at which a slip bag passes, of a defence against it
}

// Adjustment is one thing that would make a strike fit.
type Adjustment struct {
	What   string  `json:"what"` // return, fist, tempo, pull, or a field of the rig's document
	To     float64 `json:"to"`   // in its unit
	Reason string  `json:"reason"`
}

// Repetition is one time through a combination on a bag.
type Repetition struct {
	Moves  []Landed
	Boards []float64 // s: board sounds, on a speed bag
	Passes []float64 // s: a slip bag's passes
	Length float64   // s, from the first strike until everything is home again
	Inside float64   // strikes a minute inside the combination; NaN with a single strike
}

// strikes counts the moves that are strikes.
func (r Repetition) strikes() int {
	n := 0
	for _, m := range r.Moves {
		if m.Kind() == combo.Strike {
			n++
		}
	}
	return n
}

// leastLate (s) is the smallest lateness that counts; anything less comes from rounding.
const leastLate = 0.0005

// Late lists the moves that do not fit.
func (r Repetition) Late() []Landed {
	var list []Landed
	for _, m := range r.Moves {
		if m.Late > 0 {
			list = append(list, m)
		}
	}
	return list
}

// Land works out where each move of a combination lands on a bag, for somebody who can do so much. On returns, each
// strike meets the bag's next return, or the one that is named after the strike before (2:3); a wait lets one go by,
// and so does each defence on a double-end, reflex or slip bag. Freely, the strikes are paced by the hands. A move that
// does not fit stands where the bag has it, with how late it would be and what would help. Punches that do not fit
// between two passes of a slip bag are refused, with the time that is missing.
func Land(c CombinationDrill, on Floor) (Repetition, error) {
	return landed(c, on, withHelp)
}

// help says whether to work out what would make late moves fit, which takes longer than the layout itself.
type help int

const (
	withoutHelp help = iota
	withHelp
)

func landed(c CombinationDrill, on Floor, helps help) (Repetition, error) {
	line, err := combo.Parse(c.Text)
	if err != nil {
		return Repetition{}, err
	}
	bag := on.Bag
	if err := c.suits(bag.Kind()); err != nil {
		return Repetition{}, err
	}
	c = c.With(bag, on.Ability)
	moves := line.Moves(c.Stance)
	if err := c.belongs(moves, on); err != nil {
		return Repetition{}, err
	}
	l := lander{c: c, bag: bag, most: on.Hardest(), a: on.Ability, place: on.Place, stop: on.Stopped,
		helps: helps == withHelp, way: c.ReachTime(bag.Kind()), moves: moves, ways: map[wayBack]rig.Return{},
		drawn: map[float64][]rig.Pass{}}
	switch {
	case c.Landing == Freely || c.still(bag.Kind()):
		err = l.freely()
	case bag.Kind() == rig.Slip:
		err = l.betweenPasses()
	default:
		err = l.onReturns()
	}
	if err != nil {
		return Repetition{}, err
	}
	l.rep.Inside = inside(l.rep.Moves)
	return l.rep, nil
}

// lander lays one repetition out.
type lander struct {
	c     CombinationDrill
	bag   rig.Rig
	a     trainee.Ability
	place rig.Place
	stop  func() error
	most  float64 // m/s of the fist, of an accent
	tuned int     // moves for which another rig was looked for
	helps bool    // look for what would make late moves fit
	way   float64 // s a strike is on its way
	moves []combo.Placed
	rep   Repetition
	now   float64 // s: everything before is home
	last  int     // index in rep.Moves of the last strike, −1 none

	ways   map[wayBack]rig.Return
	limits *rig.Tempo // of the everyday count

	drawn   map[float64][]rig.Pass // of a slip bag, by how far it is drawn back
	against float64                // s that the move against the last pass of a slip bag took
}

// wayBack is the key of a return that was worked out before: the launch (m/s) and the count.
type wayBack struct {
	launch float64
	count  int
}

// inside returns the tempo (strikes a minute) over pairs of strikes with no other move between them.
func inside(moves []Landed) float64 {
	sum, n := 0.0, 0
	for i := 1; i < len(moves); i++ {
		if moves[i].Kind() == combo.Strike && moves[i-1].Kind() == combo.Strike {
			sum += moves[i].At - moves[i-1].At
			n++
		}
	}
	return 60 * float64(n) / sum // NaN for none
}

// force returns the fist speed (m/s) of a strike; a power shot is harder, up to the hardest the person has.
func (l *lander) force(m combo.Placed) float64 {
	if m.Accent {
		return math.Max(l.c.Fist, math.Min(l.c.Fist*accentForce, l.most))
	}
	return l.c.Fist
}

func (l *lander) add(m Landed) {
	if m.Kind() == combo.Strike {
		if m.Return == 0 { // it meets no return: the blow is where it is
			m.Back = m.At
		}
		l.last = len(l.rep.Moves)
	}
	l.rep.Moves = append(l.rep.Moves, m)
	l.now = math.Max(l.now, m.Until)
	l.rep.Length = math.Max(l.rep.Length, m.Until)
}

// lets reports whether each defence on this kind of bag lets one return go by.
func lets(k rig.Kind) bool { return !k.Model().Between }

// onReturns lays the strikes on the bag's returns.
func (l *lander) onReturns() error {
	l.last = -1
	var between []int // moves since the last strike
	for i, m := range l.moves {
		if err := l.stop(); err != nil {
			return err
		}
		if m.Kind() != combo.Strike {
			between = append(between, i)
			continue
		}
		s := Landed{Placed: m, Move: i}
		if l.last >= 0 {
			before := l.rep.Moves[l.last]
			if err := l.meet(&s, before, l.count(before, between), between); err != nil {
				return err
			}
		} else {
			l.open(&s, between)
		}
		if err := l.drive(&s); err != nil {
			return err
		}
		between = l.addStrike(s, between)
	}
	l.trailing(between)
	return nil
}

// addStrike adds a strike whose place is known, with the moves between it and the one before; none are left over then.
func (l *lander) addStrike(s Landed, between []int) []int {
	l.narrow(&s, between)
	s.Until = s.At + l.way
	l.between(between, s)
	l.add(s)
	return between[:0]
}

// restWindow (s) is the window, early and late together, of a strike that only a call times. Assumed.
const restWindow = 0.30

// drive works out how hard a strike drives the bag off. One that meets a bag at rest has no return to meet, and a
// window of its own.
func (l *lander) drive(s *Landed) error {
	everyday := rig.Meeting{Rebounds: everydayCount(l.bag)}
	if l.limits == nil {
		limits, err := l.bag.Limits(everyday)
		if err != nil {
			return err
		}
		l.limits = &limits
	}
	launch := rig.Driven(l.bag, l.force(s.Placed), s.Speed, *l.limits)
	s.Launch, s.Fist = launch, rig.Fist(l.bag, launch, s.Speed)
	if l.stopping(s.Placed.Move) { // it takes the bag's way, and drives it nowhere
		s.Launch = rig.Driven(l.bag, 0, 0, *l.limits)
	}
	if s.Window == 0 {
		s.Window, s.Still = restWindow, true
	}
	return nil
}

func everydayCount(bag rig.Rig) int {
	if bag.Kind() == rig.Speed {
		return 3
	}
	return 1
}

// count says which return the next strike meets.
func (l *lander) count(before Landed, between []int) rig.Meeting {
	m := rig.Meeting{Rebounds: everydayCount(l.bag)}
	if l.c.Rhythm == SecondReturn {
		m.Rebounds = 2
	}
	if before.Rebounds > 0 {
		m.Rebounds = int(before.Rebounds)
	}
	for _, i := range between {
		switch {
		case l.moves[i].Kind() == combo.Wait, l.moves[i].Kind() == combo.Defence && lets(l.bag.Kind()):
			if m.Rebounds++; l.bag.Kind() == rig.Speed {
				m.Rebounds++ // there and back again
			}
		}
	}
	return m
}

// open places the first strike, and what comes before it.
func (l *lander) open(s *Landed, between []int) {
	for _, i := range between {
		s.At += trainee.TimesOf(l.moves[i].Move).Whole
	}
	if len(between) > 0 {
		s.At += l.way
	}
	s.Back = s.At
}

// need returns the time (s) that hands and feet take from one strike to the next.
func (l *lander) need(before Landed, s Landed, between []int) float64 {
	sum := 0.0
	for _, i := range between {
		sum += trainee.TimesOf(l.moves[i].Move).Whole
	}
	if sum > 0 {
		sum += l.way
	}
	return math.Max(sum, l.a.Between(before.Placed, s.Placed))
}

// meet places a strike on a return.
func (l *lander) meet(s *Landed, before Landed, m rig.Meeting, between []int) error {
	if l.c.Rhythm == NoReturn {
		return l.still(s, before, between)
	}
	if l.stopping(before.Placed.Move) {
		s.At = math.Max(before.At+l.need(before, *s, between), before.Back+restsAfter)
		s.Back = s.At
		return nil
	}
	if k := l.stopIn(between); k >= 0 {
		return l.stopped(s, before, m, between, k)
	}
	back, err := l.back(before.Launch, m)
	var refused *input.Error
	switch {
	case errors.As(err, &refused):
		return input.Refuse("text", "move %d (%s): %s", s.Move+1, s.Placed.Move, refused.Reason)
	case err != nil:
		return err
	}
	s.Back, s.Window, s.Return, s.Speed = before.Back+back.At, back.Window, m.Rebounds, back.Speed
	if s.At = s.Back; l.bag.Kind() == rig.Hanging {
		s.At -= s.Window / 2
	}
	for _, b := range back.Boards {
		l.rep.Boards = append(l.rep.Boards, before.Back+b)
	}
	if need := l.need(before, *s, between); need > s.At-before.At+leastLate {
		s.Late = need - (s.At - before.At)
		if l.helps {
			s.Fits = l.offers(before, m, back.At+s.Late)
		}
	}
	return nil
}

// back returns the bag's return for a launch (m/s) and a meeting. The rig is asked once for each launch and count.
func (l *lander) back(launch float64, m rig.Meeting) (rig.Return, error) {
	if r, ok := l.ways[wayBack{launch, m.Rebounds}]; ok {
		return r, nil
	}
	n := m.Rebounds
	if l.bag.Kind() == rig.Speed {
		n, m.Face = 1, rig.Front // a speed bag gives the one that its rebounds count to
	}
	list, err := l.bag.Returns(launch, m, n)
	if err != nil {
		return rig.Return{}, err
	}
	l.ways[wayBack{launch, m.Rebounds}] = list[n-1]
	return list[n-1], nil
}

// between places what stands between two strikes: from the moment the hand is home, one after the other, so that the
// last one is done when the next strike sets out; where they do not fit, right away.
func (l *lander) between(moves []int, next Landed) {
	if len(moves) == 0 {
		return
	}
	sum := 0.0
	for _, i := range moves {
		sum += trainee.TimesOf(l.moves[i].Move).Whole
	}
	at := math.Max(l.now, next.At-l.way-sum)
	if l.last < 0 {
		at = 0
	}
	for _, i := range moves {
		whole := trainee.TimesOf(l.moves[i].Move).Whole
		l.rep.Moves = append(l.rep.Moves, Landed{Placed: l.moves[i], Move: i, At: at, Until: at + whole})
		at += whole
	}
}

// trailing places what comes after the last strike.
func (l *lander) trailing(moves []int) {
	at := l.now
	for _, i := range moves {
		whole := trainee.TimesOf(l.moves[i].Move).Whole
		l.add(Landed{Placed: l.moves[i], Move: i, At: at, Until: at + whole})
		at += whole
	}
}
