package drill

import (
	"math"

	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Technique names a way of striking the speed bag: a sequence of hands, faces and rebounds to the next strike (common
// practice).
type Technique string

// The techniques, the basic rhythm first: one hand and one count by ear, or hand after hand. Where coaches begin with
// the fist roll instead, because it is easier when done exactly, they choose it.
const (
	OneHand     Technique = "oneHand"
	Alternating Technique = "alternating"
	FistRoll    Technique = "fistRoll"    // fists roll over one another and meet every rebound
	Linking     Technique = "linking"     // one hand out through the bag and back, front then behind
	DoublePunch Technique = "doublePunch" // both fists, the second meeting the first rebound
	Trap        Technique = "trap"        // the last strike of a set rides the bag into the board and holds it
)

// style holds the figures and words of a technique.
type style struct {
	words    string
	rebounds int     // the everyday count
	angle    float64 // degrees, where the bag is met
	perHand  int     // strikes of a set
	sets     bool    // a hand works on before the other one does
	where    string  // height on the bag
}

var styles = map[Technique]style{
	OneHand:     {"basic rhythm", 3, 25, 5, true, "at its widest"},
	Alternating: {"basic rhythm", 3, 25, 0, false, "at its widest"},
	FistRoll:    {"fist roll", 1, 30, 0, false, "above its widest, near the board"},
	Linking:     {"linking", 2, 25, 4, true, "just below its widest"},
	DoublePunch: {"double punch", 3, 25, 0, false, "at its widest, the second fist a little higher"},
	Trap:        {"trap", 3, 25, 5, true, "at its widest; the hand stays on it up to the board"},
}

// Techniques lists them in the order in which they are learned.
func Techniques() []Technique {
	return []Technique{OneHand, Alternating, FistRoll, Linking, DoublePunch, Trap}
}

func techniqueNames() []string {
	var list []string
	for _, t := range Techniques() {
		list = append(list, string(t))
	}
	return list
}

// Words name the technique.
func (t Technique) Words() string { return styles[t].words }

func (d SpeedBagDrill) style() style { return styles[d.Technique] }

// Where says at which height on the bag the drill's technique meets it.
func (d SpeedBagDrill) Where() string { return d.style().where }

// Counts lists the rebound counts that the technique allows, the everyday one among them.
func (d SpeedBagDrill) Counts() []int {
	switch d.Technique {
	case FistRoll:
		return []int{1}
	case Linking:
		return []int{2, 4}
	}
	return []int{1, 3, 5}
}

// Sets lists the usual sizes of a set, falling as skill grows (common practice: five a side, then three, then two); 0
// keeps to one hand. Empty where the hands do not take turns in sets.
func (d SpeedBagDrill) Sets() []int {
	switch {
	case d.Technique == DoublePunch: // double punches before the hands exchange places
		return []int{0, 4, 2, 1}
	case !d.style().sets:
		return []int{}
	case d.Technique == Linking:
		return []int{6, 4, 2, 0}
	case d.Technique == Trap:
		return []int{5, 4, 3, 2}
	}
	return []int{5, 4, 3, 2, 0}
}

// With is the drill in another technique, with what belongs to that by default: count, strike angle and sets. Its tempo
// stays where the bag allows it, and else comes to the nearest that it does.
func (d SpeedBagDrill) With(t Technique, bag rig.SpeedBag) (SpeedBagDrill, error) {
	s := styles[t]
	d.Technique, d.Rebounds, d.StrikeAngle, d.PerHand = t, s.rebounds, s.angle, s.perHand
	if !s.sets {
		d.Scheme = Steady
	}
	if err := d.Check(); err != nil {
		return d, err
	}
	a, err := Solve(d, bag)
	if err != nil {
		return d, err
	}
	if !a.Feasible {
		d.Tempo = math.Ceil(a.Limits.Slowest)
		if a.Tempo > a.Limits.Fastest {
			d.Tempo = math.Floor(a.Limits.Fastest)
		}
	}
	return d, nil
}

// Solve answers for the drill's tempo on a bag: the strike that gives it, where the bag allows it.
func Solve(d SpeedBagDrill, bag rig.SpeedBag) (rig.TempoAnswer, error) { return d.solve(bag, d.Tempo) }

func (d SpeedBagDrill) solve(bag rig.SpeedBag, tempo float64) (rig.TempoAnswer, error) {
	if d.Technique == DoublePunch {
		return bag.SolveDouble(tempo, d.Meeting())
	}
	a, err := bag.Solve(tempo, d.Meeting())
	if err != nil || d.Technique != Trap {
		return a, err
	}
	pin, err := bag.Trap(d.Meeting().Angle)
	if err != nil {
		return a, err
	}
	// A trap takes its time as well: the quickest is one that lets the bag go at once.
	a.Limits.Fastest = math.Min(a.Limits.Fastest, 60/pin.Least)
	if tempo > a.Limits.Fastest {
		a = rig.TempoAnswer{Tempo: tempo, Limits: a.Limits}
	}
	return a, nil
}

// Reach answers for the drill's tempo on a bag for somebody: the strike that gives it, or what to change so that they
// reach it.
func Reach(d SpeedBagDrill, bag rig.SpeedBag, who trainee.Ability) (rig.TempoAnswer, error) {
	return d.reach(bag, who.Striker(d.Hands()))
}

func (d SpeedBagDrill) reach(bag rig.SpeedBag, s rig.Striker) (rig.TempoAnswer, error) {
	if d.Technique != DoublePunch && d.Technique != Trap {
		a, err := rig.Reach(bag, d.Tempo, d.Meeting(), s)
		if within, ok := s.Range(bag, d.Meeting()); ok && err == nil {
			a.Limits = within
		}
		return a, err
	}
	a, err := rig.ReachBy(func(tempo float64) (rig.TempoAnswer, error) { return d.solve(bag, tempo) }, d.Tempo, s)
	for i := range a.Change {
		switch {
		case a.ByBag:
		case d.Technique == DoublePunch && d.Tempo < a.Limits.Slowest:
			a.Change[i].Reason = "the slowest at which the two fists are still heard as one"
		case d.Technique == Trap && d.Tempo > a.Limits.Fastest:
			a.Change[i].Reason = "quicker, a trap has no time to hold the bag"
		}
	}
	return a, err
}

// Hands are two that follow each other.
func (d SpeedBagDrill) Hands() (before, next Hand) {
	if d.Technique == Alternating || d.Technique == FistRoll {
		return Lead, Rear
	}
	return Rear, Rear
}

// Pictures draws one cycle of the drill on its bag, and, for a trap, the one after it. The launch is in m/s; cycle is
// the time from strike to strike in s.
func Pictures(d SpeedBagDrill, bag rig.SpeedBag, launch, cycle float64) (rig.Picture, *rig.Picture, error) {
	if d.Technique == DoublePunch {
		p, err := bag.DoublePicture(launch, d.Meeting())
		return p, nil, err
	}
	p, err := bag.Picture(launch, d.Meeting(), rig.Use{})
	if err != nil || d.Technique != Trap {
		return p, nil, err
	}
	pinned, err := bag.TrapPicture(d.Meeting().Angle, cycle)
	return p, &pinned, err
}
