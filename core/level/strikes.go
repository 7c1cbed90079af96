// Package level tells how hard a drill is, by four demands, and how well it fits somebody: how much of it will be
// clean, how long a streak to expect, and which link is the weakest.
package level

import (
	"math"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/trainee"
)

// Task is a planned strike with what it asks.
type Task struct {
	At     float64    // s on the timeline
	Window float64    // s
	Hand   drill.Hand // that strikes
	Before drill.Hand // of the strike before; "" for the first
	Gap    float64    // s since the strike before; +Inf for the first
	Late   float64    // s by which the moves before it do not fit
	Age    float64    // s, of the freshest cue that is old enough to act on
	Rep    int
	Still  bool // on a bag at rest
	Move   int  // of the combination; −1 of the answer to a cue
	Place  int  // in the pattern
	Text   string
	Slip   bool // no strike but a move against the pass of a slip bag

	Chained bool    // on the bag's clock it goes by the strike before
	Count   int     // rebounds from the strike before
	Launch  float64 // m/s at which it is planned to drive the bag off
	Driven  float64 // m/s at which the strike before is planned to have driven it off
	Share   float64 // of the bag's window that counts; 0 for all of it
	Ahead   float64 // s by which it stands before the bag is back
	Settle  float64 // s since the strike before, that the bag needs to come to rest
	Fresh   bool    // it is timed by something newer than the strike before: a pass, a cue or a call
	Cue     float64 // s on the timeline of the cue that it answers; 0 for none
}

// Senses are reactions (s) by which a cue is old enough.
type Senses struct {
	Sound, Sight float64
	Unseen       bool // the bag is not seen: by ear alone
}

// SensesFor are the senses that somebody has in a drill.
func SensesFor(p drill.Plan, a trainee.Ability) Senses { return Senses{a.Sound, a.Sight, p.ByEar()} }

// Common are the senses that a drill's demands are reckoned with.
var Common = Senses{Sound: trainee.SoundReaction, Sight: trainee.SightReaction}

// Strikes lists the strikes of a timeline, and the moves against the passes of a slip bag, with what each asks. way is
// how long (s) a strike is on its way.
//
// The cue of a strike is the freshest of what is old enough to act on: a board sound and the strike before (a sound's
// reaction and the strike's way), or the sight of the bag (a sight's reaction and the way), which is there all the time
// unless the drill is by ear. A quicker follow-up is programmed ahead and is no easier.
func Strikes(t drill.Timeline, way float64, s Senses) []Task {
	var list []Task
	var boards []float64 // since the strike before
	hear, see, last := s.Sound+way, s.Sight+way, -1
	cue, fresh := 0.0, false
	for _, e := range t.Events {
		at := e.At.Seconds()
		switch e.Kind {
		case drill.Rebound:
			boards = append(boards, at)
			continue
		case drill.Pass:
			fresh = true
			continue
		case drill.Cued:
			cue = at
			continue
		case drill.Strike:
		case drill.Doing:
			if e.Against() { // seen, and the head is off the line in time
				list = append(list, Task{At: at, Window: e.Window.Seconds(), Gap: math.Inf(1),
					Age: s.Sight + off(e.Text), Rep: e.Rep, Move: e.Move, Text: e.Text, Slip: true})
			}
			continue
		default:
			continue
		}
		n := Task{At: at, Window: e.Window.Seconds(), Hand: e.Hand, Gap: math.Inf(1), Late: e.Late.Seconds(),
			Rep: e.Rep, Still: e.Still, Move: e.Move, Place: e.Position, Text: e.Text}
		n.Count, n.Launch, n.Share, n.Ahead, n.Settle = e.Count, e.Launch, e.Share, e.Ahead.Seconds(),
			e.Settle.Seconds()
		if n.Move < 0 {
			n.Cue = cue
		}
		n.Fresh = fresh || last < 0 || n.Cue > 0 || list[last].Cue > 0 || list[last].Rep != n.Rep || t.Film != nil &&
			n.Place > list[last].Place+1
		fresh = false
		if last >= 0 {
			n.Driven = list[last].Launch
			n.Chained = t.Clock == drill.ByBag && !n.Still && n.Cue == 0 && list[last].Cue == 0 && n.Driven > 0

			n.Before, n.Gap = list[last].Hand, at-list[last].At
		}
		n.Age = math.Inf(1)
		if !s.Unseen {
			n.Age = see
		}
		heard := boards
		if !math.IsInf(n.Gap, 1) {
			heard = append([]float64{at - n.Gap}, boards...)
		}
		for i := len(heard) - 1; i >= 0; i-- {
			if age := at - heard[i]; age >= hear {
				n.Age = math.Min(n.Age, age)
				break
			}
		}
		if math.IsInf(n.Age, 1) {
			n.Age = hear // the call or the count before it
		}
		last = len(list)
		list, boards = append(list, n), boards[:0]
	}
	return list
}

// off returns the time (s) that a defence takes to get the head off the line.
func off(text string) float64 {
	line, err := combo.Parse(text)
	if err != nil {
		return 0
	}
	return trainee.TimesOf(line.Moves(combo.Orthodox)[0].Move).Off
}

// Words name a strike: the move, or the hand of a technique.
func (s Task) Words() string {
	if s.Text != "" {
		return s.Text
	}
	return string(s.Hand) + " hand"
}

// alternate says whether two hands work in turn; else one works twice.
func (s Task) alternate() bool { return s.Before != s.Hand || s.Hand == combo.Both }

// ask is the interval (s) that a strike asks of the hands: the time since the one before, less what the moves between
// do not fit by.
func (s Task) ask() float64 { return math.Max(s.Gap-s.Late, 1e-3) }
