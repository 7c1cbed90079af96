package class

import (
	"math"
	"slices"

	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/session"
)

// Spot is somebody's work on a bag in a stretch of the session.
type Spot struct {
	Person, Bag string
	Name        string     // of the drill
	Plan        drill.Plan // as long as the stretch; tempo and force as the bag and the person have it
	Pace        float64    // of its tempo
	Barred      string     // why nothing is done there; "" where something is
}

// Places returns what is done on each bag in a stretch; nothing in a rest or off the bags.
func (p Class) Places(s session.Stretch, b session.Block) []Spot {
	if !b.OnBag() {
		return nil
	}
	// What is left of a block that was cut short may be less than a drill lasts: the floor plays as much of it as there
	// is.
	length := math.Round((s.Until - s.From).Seconds())
	b.Seconds = int(math.Min(drill.WorkLimits.Max, math.Max(drill.WorkLimits.Min, length)))
	var list []Spot
	for _, seat := range p.Seats(s) {
		bag, who := p.Bag(seat.Bag), p.Person(seat.Person)
		if bag == nil || bag.Broken && bag.At < s.Until || who.Gone && who.At < s.Until {
			continue // what is shown is shown from now on
		}
		place := Spot{Person: seat.Person, Bag: seat.Bag, Name: b.Title(), Pace: s.Pace}
		var err error
		if b.Role == session.Own {
			given := p.Of(seat.Person, seat.Bag)
			if given == nil || given.Doc.Plan == nil {
				continue
			}
			place.Name = given.Name
			place.Plan, err = drill.Set(given.Doc.Plan, drill.Settings{Work: float64(b.Seconds)})
		} else {
			place.Plan, err = b.Plan(bag.Kind)
		}
		if err != nil {
			place.Plan, place.Barred = nil, refusal(err)
		}
		list = append(list, place)
	}
	return list
}

// Paced is a plan at a share of its tempo, as far as the bag allows: a technique and a combination that lands freely at
// that tempo, one on the returns by the force that brings the bag back so much sooner or later. Where the bag does not
// allow it the plan comes back as it was, and false. A slip bag swings by itself, whoever strikes.
func Paced(p drill.Plan, pace float64, on drill.Floor) (drill.Plan, bool) {
	if pace == 1 {
		return p, true
	}
	full, err := p.For(on)
	if err != nil {
		return p, false
	}
	var to drill.Plan
	switch d := full.(type) {
	case drill.SpeedBagDrill:
		d.Tempo = math.Round(10*d.Tempo*pace) / 10
		to = d
	case drill.CombinationDrill:
		switch {
		case d.Tempo > 0:
			d.Tempo = math.Round(10*d.Tempo*pace) / 10
		case on.Bag.Kind() == rig.Slip || d.Fist == 0:
			return p, false
		default:
			d.Fist = forced(d, pace, on)
		}
		to = d
	default:
		return p, false
	}
	if _, err := to.Lay(on); err != nil {
		return p, false
	}
	return to, true
}

// forced is the fist (m/s) that brings a bag back at a share of the tempo, the nearest that it allows.
func forced(d drill.CombinationDrill, pace float64, on drill.Floor) float64 {
	m := rig.Everyday(on.Bag.Kind())
	now, err := on.Bag.AtFist(d.Fist, m)
	if err != nil {
		return d.Fist
	}
	best, off := d.Fist, math.Inf(1)
	for share := 0.5; share <= 2.001; share += 0.05 {
		a, err := on.Bag.AtFist(share*d.Fist, m)
		if err != nil || share*d.Fist > on.Hardest() {
			continue
		}
		if by := math.Abs(a.Tempo - pace*now.Tempo); by < off {
			best, off = share*d.Fist, by
		}
	}
	return math.Round(100*best) / 100
}

// LogEntry is one person's part in a block of a class, for the log.
type LogEntry struct {
	Lap, Round, Block int
	Person            string
	Bag               string           // "" off the bag
	Activity          session.Activity // off the bag
	AssignmentID      string           // "" where it was none
	Rung              string
	Title             string
	From              drill.Micros
	Seconds           int
	Got, Failed       int
	Carried           bool
}

// leastLogged (s) of a block is worth a line in the log. Assumed.
const leastLogged = 5

// Log returns what was done by a moment of a course: each block of the rounds on the bags once for everybody who was in
// it, however often it was cut and done again. What was left before it was under way is not there.
func (p Class) Log(c session.Course, until drill.Micros) []LogEntry {
	var list []LogEntry
	for _, s := range c.Stretches {
		end := min(s.Until, until)
		seats := p.Seats(s)
		if len(seats) == 0 || end <= s.From || s.Until > until && !c.Ended {
			continue
		}
		b := p.Session.Rounds[s.Round].Blocks[s.Block]
		for _, seat := range seats {
			e := LogEntry{Lap: s.Lap, Round: s.Round, Block: s.Block, Person: seat.Person, Bag: seat.Bag,
				Activity: seat.Activity, From: s.From, Got: s.Got,
				Seconds: int(math.Round((p.upTo(s, seat, end) - s.From).Seconds())),
				Failed:  s.Failed, Carried: s.Carried, Title: b.Title()}
			given := p.Of(seat.Person, seat.Bag)
			switch {
			case seat.Bag == "":
				e.Title = seat.Activity.Doing().Name
			case b.Role == session.Own && given != nil:
				e.Title, e.AssignmentID, e.Rung = given.Name, given.AssignmentID, given.Rung
			}
			list = add(list, e)
		}
	}
	return slices.DeleteFunc(list, func(e LogEntry) bool { return e.Seconds < leastLogged })
}

// add adds an entry to that of the same block, or behind the others.
func add(list []LogEntry, e LogEntry) []LogEntry {
	for i := range list {
		if o := &list[i]; o.Lap == e.Lap && o.Round == e.Round && o.Block == e.Block && o.Person == e.Person {
			o.Seconds += e.Seconds
			o.Got += e.Got
			o.Failed += e.Failed
			return list
		}
	}
	return append(list, e)
}

// Coming is the first round of the session that has not begun at a moment of a course: from there on a class can be
// planned anew.
func Coming(c session.Course, at drill.Micros) int {
	from := 0
	for _, s := range c.Stretches {
		if s.From <= at && s.Block >= 0 {
			from = max(from, s.Round+1)
		}
	}
	return from
}
