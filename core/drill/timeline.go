package drill

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/words"
)

// Micros is a time on a timeline in whole microseconds from its start.
type Micros int64

// Seconds converts to seconds.
func (m Micros) Seconds() float64 { return float64(m) / 1e6 }

func micros(seconds float64) Micros { return Micros(math.Round(seconds * 1e6)) }

// EventKind names what happens at a moment of a timeline.
type EventKind string

// What a timeline holds.
const (
	Ready   EventKind = "ready"   // getting ready: N seconds to the bell, before the count-in
	Count   EventKind = "count"   // count-in: N more to the bell
	Bell    EventKind = "bell"    // Text is "start" or "end"
	Call    EventKind = "call"    // what to throw next, in Text
	Strike  EventKind = "strike"  // N is its index; Hand, Face and Window are set, Pin where it is a trap
	Rebound EventKind = "rebound" // a board sound; N counts from 1 after each strike
	Change  EventKind = "change"  // the hands change at the strike of the same moment
	Warning EventKind = "warning" // N seconds are left
)

// Event is one thing that happens. Window is whole microseconds and stands around At.
type Event struct {
	At       Micros    `json:"at"`
	Kind     EventKind `json:"kind"`
	N        int       `json:"n,omitempty"`
	Hand     Hand      `json:"hand,omitempty"`
	Face     rig.Face  `json:"face,omitempty"`
	Position int       `json:"position,omitempty"`
	Window   Micros    `json:"window,omitempty"`
	Text     string    `json:"text,omitempty"`
	Said     string    `json:"said,omitempty"` // as this person does it, in left and right, where that is another text
	Pin      bool      `json:"pin,omitempty"`
	Rep      int       `json:"rep,omitempty"`   // repetition of a combination, from 0
	Part     int       `json:"part,omitempty"`  // of the combination, from 0
	Move     int       `json:"move,omitempty"`  // of the combination, from 0; −1 of the answer to a cue
	Late     Micros    `json:"late,omitempty"`  // by which the moves before it do not fit
	Still    bool      `json:"still,omitempty"` // a strike on a bag at rest: the rest of its repetition goes by it
	Until    Micros    `json:"until,omitempty"` // when a defence or a step is done
	Feet     bool      `json:"feet,omitempty"`  // it is a step

	// Of a strike, what the bag's clock goes by.
	Count  int     `json:"count,omitempty"`  // rebounds from the strike before
	Launch float64 `json:"launch,omitempty"` // m/s at which it drives the bag off
	Share  float64 `json:"share,omitempty"`  // of the bag's own window that counts, where that is not all of it
	// by which it stands before the bag is back: a heavy one is met on its way in
	Ahead  Micros `json:"ahead,omitempty"`
	Settle Micros `json:"settle,omitempty"` // since the strike before, under which the bag is not at rest again
}

// Timeline is a compiled drill.
type Timeline struct {
	Events []Event    `json:"events"`
	Start  Micros     `json:"start"` // the opening bell
	End    Micros     `json:"end"`   // the closing bell
	Strike rig.Return `json:"-"`     // how the bag comes back after each strike
	Launch float64    `json:"launch"`
	Fist   float64    `json:"fist"`           // m/s
	Film   *Film      `json:"film,omitempty"` // of a combination: the bag's motion through a repetition
	Clock  Clock      `json:"clock,omitempty"`
	// strikes after the closing bell, should the bag be quicker than planned
	Beyond []Event        `json:"beyond,omitempty"`
	Bag    *rig.ComeBacks `json:"bag,omitempty"` // how the bag answers strikes of any force: see Hang
	// around each planned strike: the bag comes in from this much before to this much after it
	Inbound [2]Micros `json:"inbound"`
}

// Check refuses a timeline that cannot be run by: one without events, or whose end does not come after its bell.
func (t Timeline) Check() error {
	switch {
	case len(t.Events) == 0:
		return input.Refuse("events", "expected at least one")
	case t.Start < 0 || t.End <= t.Start:
		return input.Refuse("end", "expected the closing bell after the opening one, not %d and %d µs", t.Start, t.End)
	}
	return nil
}

// Usual is the median time (s) from a strike to the next.
func (t Timeline) Usual() float64 {
	gaps, last := []float64{}, Micros(-1)
	for _, e := range t.Events {
		if e.Kind == Strike {
			if last >= 0 {
				gaps = append(gaps, (e.At - last).Seconds())
			}
			last = e.At
		}
	}
	if len(gaps) == 0 {
		return 0
	}
	slices.Sort(gaps)
	return gaps[len(gaps)/2]
}

const (
	countIn = 4   // counts before the first strike
	atLeast = 0.5 // s between counts, however quick the drill: hands have to be taken up (assumed)
	callIn  = 1.5 // strikes before a change at which the next hand is called
)

// warnings are given at so many seconds before the end (common practice), as far as the round is longer.
var warnings = []int{30, 15, 10, 5, 3, 2, 1}

// Compile lays the drill out on one clock for this bag. The same drill on the same bag gives the same bytes. A tempo
// that the bag does not allow is refused, naming tempo, with what would help.
func Compile(d SpeedBagDrill, bag rig.SpeedBag) (Timeline, error) {
	if err := d.Check(); err != nil {
		return Timeline{}, err
	}
	answer, err := Solve(d, bag)
	if err != nil {
		return Timeline{}, err
	}
	if !answer.Feasible {
		return Timeline{}, refuseTempo(d, bag, answer)
	}
	back, fallen, err := returns(d, bag, answer.Launch)
	if err != nil {
		return Timeline{}, err
	}
	t := Timeline{Strike: back, Launch: answer.Launch, Fist: answer.FistSpeed, Clock: d.KeptBy(rig.Speed)}
	var pin rig.Pin
	if d.Technique == Trap {
		if pin, err = bag.Trap(d.Meeting().Angle); err != nil {
			return Timeline{}, err
		}
	}
	cycle := 60 / d.Tempo
	beat := cycle * math.Max(1, math.Ceil(atLeast/cycle))
	start := countIn * beat
	strikes := d.count(cycle)
	end := start + d.Work
	if d.Work == 0 {
		end = start + float64(strikes)*cycle
	}
	t.Start, t.End = micros(start), micros(end)
	last := back.Boards[len(back.Boards)-1]
	t.Inbound = [2]Micros{micros(cycle - last), micros(back.Boards[0])}
	for n := countIn; n >= 1; n-- {
		t.Events = append(t.Events, Event{At: micros(start - float64(n)*beat), Kind: Count, N: n})
	}
	t.Events = append(t.Events, Event{At: 0, Kind: Call, Text: d.opening()},
		Event{At: t.Start, Kind: Bell, Text: "start"})
	for i := range strikes {
		t.Events = append(t.Events, d.strike(i, strikes, start, cycle, back, fallen)...)
	}
	if t.Clock == ByBag && d.Work > 0 {
		t.Beyond = d.beyond(strikes, start, cycle, back, fallen)
	}
	for _, list := range [][]Event{t.Events, t.Beyond} {
		for i := range list {
			if e := &list[i]; e.Kind == Strike {
				e.Count, e.Launch = d.Rebounds, answer.Launch
				if e.N > 0 && d.pins(e.N-1) { // the hand lets it go when it likes
					e.Still, e.Settle = true, micros(pin.Least)
				}
			}
		}
	}
	for _, left := range warnings {
		if d.Work > 2*float64(left) {
			t.Events = append(t.Events, Event{At: micros(end - float64(left)), Kind: Warning, N: left})
		}
	}
	t.Events = append(t.Events, Event{At: t.End, Kind: Bell, Text: "end"})
	sortEvents(t.Events)
	return t, nil
}

// returns gives how the bag comes back after a strike, and the window (s) of the one after a trap.
func returns(d SpeedBagDrill, bag rig.SpeedBag, launch float64) (rig.Return, float64, error) {
	switch d.Technique {
	case DoublePunch:
		double, err := bag.DoublePunch(launch, d.Meeting())
		return double.Return, 0, err
	case Trap:
		pin, err := bag.Trap(d.Meeting().Angle)
		if err != nil {
			return rig.Return{}, 0, err
		}
		back, err := bag.Return(launch, d.Meeting())
		return back, pin.Window, err
	}
	back, err := bag.Return(launch, d.Meeting())
	return back, 0, err
}

// refuseTempo says what the bag allows instead, whoever strikes.
func refuseTempo(d SpeedBagDrill, bag rig.SpeedBag, a rig.TempoAnswer) error {
	help := ""
	if advised, err := d.reach(bag, rig.Anybody); err == nil {
		for _, c := range advised.Change {
			help += "; " + c.Reason
		}
	}
	return input.Refuse("tempo", "%s: with %s this bag goes from %.0f to %.0f a minute, not %g%s",
		d.style().words, words.Count(d.Rebounds, "rebound"), math.Ceil(a.Limits.Slowest), math.Floor(a.Limits.Fastest),
		d.Tempo, help)
}

// count returns the number of strikes that fit in the round; the bag is back from the last one before the bell.
func (d SpeedBagDrill) count(cycle float64) int {
	if d.Strikes > 0 {
		return d.Strikes
	}
	return int(math.Floor(d.Work/cycle + 1e-9))
}

func (d SpeedBagDrill) strike(i, strikes int, start, cycle float64, back rig.Return, fallen float64) []Event {
	at := start + float64(i)*cycle
	hand := d.hand(i)
	strike := Event{
		At: micros(at), Kind: Strike, N: i, Hand: hand, Face: d.face(i), Position: d.position(i),
		Window: micros(back.Window), Pin: d.pins(i),
	}
	if i > 0 && d.pins(i-1) {
		strike.Window = micros(fallen)
	}
	events := []Event{strike}
	if i > 0 && d.style().sets && d.hand(i-1) != hand {
		_, _, size := d.set(i)
		events = append(events, Event{At: micros(at), Kind: Change, Hand: hand})
		if d.Calls {
			events = append(events, Event{At: micros(at - callIn*cycle), Kind: Call, Hand: hand,
				Text: d.call(hand, min(size, strikes-i))})
		}
	}
	if d.Technique == DoublePunch && i > 0 && d.first(i) != d.first(i-1) {
		events = append(events, Event{At: micros(at), Kind: Change, Hand: d.first(i)})
		if d.Calls {
			events = append(events, Event{At: micros(at - callIn*cycle), Kind: Call, Hand: d.first(i),
				Text: string(d.first(i)) + " first"})
		}
	}
	if strike.Pin {
		return events // it is led into the board and held there: no board sounds until the next strike
	}
	for n, board := range back.Boards {
		events = append(events, Event{At: micros(at + board), Kind: Rebound, N: n + 1})
	}
	return events
}

func (d SpeedBagDrill) call(hand Hand, count int) string {
	return fmt.Sprintf("%s, %s", hand, words.Number(count))
}

func (d SpeedBagDrill) opening() string {
	switch {
	case d.Technique == DoublePunch && d.PerHand > 0:
		return string(d.FirstHand) + " first"
	case d.Technique == DoublePunch:
		return "both"
	case !d.style().sets:
		return fmt.Sprintf("%s, %s", d.FirstHand, d.FirstHand.Other())
	case d.PerHand == 0:
		return string(d.FirstHand)
	}
	return d.call(d.FirstHand, d.PerHand)
}

// order of events that share a moment.
var order = map[EventKind]int{Bell: 0, Count: 1, LetGo: 1, Change: 2, Call: 3, Cued: 3, Doing: 3, Strike: 4, Pass: 4,
	Rebound: 5, Warning: 6}

func sortEvents(events []Event) {
	slices.SortStableFunc(events, func(a, b Event) int {
		return cmp.Or(cmp.Compare(a.At, b.At), cmp.Compare(order[a.Kind], order[b.Kind]))
	})
}
