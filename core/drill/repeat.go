package drill

import (
	"cmp"
	"math"
	"slices"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// What the timeline of a combination holds besides.
const (
	Pass  EventKind = "pass"  // a slip bag goes through the head's line
	Doing EventKind = "move"  // a defence or a step begins; Text is the move
	Cued  EventKind = "cue"   // an unforeseeable call; Text is the move to do, and the counter after it
	LetGo EventKind = "letGo" // a slip bag is drawn back and let go
)

// Complete fills in what timelines of earlier releases do not say: how long a defence or a step takes.
func (t *Timeline) Complete() {
	for i := range t.Events {
		e := &t.Events[i]
		if e.Kind != Doing || e.Until > 0 {
			continue
		}
		if line, err := combo.Parse(e.Text); err == nil {
			m := line.Moves(combo.Orthodox)[0].Move
			e.Until, e.Feet = e.At+micros(trainee.TimesOf(m).Whole), m.Kind() == combo.Step
		}
	}
}

// Against says whether a move is one against the pass of a slip bag, one that cannot be done included: that has no
// window, and comes late.
func (e Event) Against() bool { return e.Kind == Doing && e.Move >= 0 && (e.Window > 0 || e.Late > 0) }

// beforeCall (s) is the time from the call to the repetition. Assumed.
const beforeCall = 1.6

// beforeCue (s) is how shortly before a cue nothing is struck any more. Assumed.
const beforeCue = 0.1

// counterWindow (s) is how much a counter to a cue may be off: it waits for a reaction. Assumed.
const counterWindow = 0.40

// CompileCombination lays a combination drill out on one clock for this bag and this person. Repetitions stand a
// pause apart, each lined up anew, as many as are done before the closing bell. The same drill, bag, person and seed
// give the same bytes. The moves that do not fit come with it; what would make them fit, Land tells.
func CompileCombination(c CombinationDrill, on Floor) (Timeline, Repetition, error) {
	if err := c.Check(); err != nil {
		return Timeline{}, Repetition{}, err
	}
	bag, a := on.Bag, on.Ability
	c = c.With(bag, a)
	rep, err := landed(c, on, withoutHelp)
	if err != nil {
		return Timeline{}, rep, err
	}
	every := c.Every(rep)
	pause := every - rep.Length // the hands may still be on their way home from a rhythm that goes on
	n := c.Repetitions
	if n == 0 {
		n = max(0, int(math.Floor((c.Work+pause)/every)))
	}
	if n == 0 {
		return Timeline{}, rep, input.Refuse("work", "expected at least %.1f s, which one repetition takes", rep.Length)
	}
	field := "text"
	if c.Repetitions > 0 {
		field = "repetitions"
		if err := tooLong(field, "repetition", n, every, pause); err != nil {
			return Timeline{}, rep, err
		}
	}
	const besides = 2 // of each repetition: its call, and the bag let go
	if err := tooMany(field, n, rep.strikes(), len(rep.Moves)+len(rep.Boards)+len(rep.Passes)+besides); err != nil {
		return Timeline{}, rep, err
	}
	beat := math.Max(atLeast, 0.8)
	start := countIn * beat
	end := start + c.Work
	if c.Work == 0 {
		end = start + float64(n)*every - pause
	}
	line, err := combo.Parse(c.Text)
	if err != nil {
		return Timeline{}, rep, err
	}
	t := Timeline{Start: micros(start), End: micros(end), Clock: c.KeptBy(bag.Kind())}
	for k := countIn; k >= 1; k-- {
		t.Events = append(t.Events, Event{At: micros(start - float64(k)*beat), Kind: Count, N: k})
	}
	t.Events = append(t.Events, Event{At: t.Start, Kind: Bell, Text: "start"})
	l := layer{c: c, t: &t, rep: rep, call: line.Call(c.Voice()), slip: bag.Kind() == rig.Slip && !c.still(bag.Kind())}
	var cues []Cue
	if c.Cues != nil {
		cues = c.Cues.Draw(on.Seed, start, end, l.thrown(start, every, n))
	}
	starts := make([]float64, n)
	for k := range n {
		if err := on.Stopped(); err != nil {
			return Timeline{}, rep, err
		}
		starts[k] = start + float64(k)*every
		l.repetition(k, n, starts[k], cues)
	}
	t.Film = film(c, rep, on, starts)
	for _, cue := range cues {
		l.cue(cue, a, end)
	}
	for _, left := range warnings {
		if c.Work > 2*float64(left) {
			t.Events = append(t.Events, Event{At: micros(end - float64(left)), Kind: Warning, N: left})
		}
	}
	t.Events = append(t.Events, Event{At: t.End, Kind: Bell, Text: "end"})
	sortEvents(t.Events)
	number := 0
	for i := range t.Events {
		if t.Events[i].Kind == Strike {
			t.Events[i].N = number
			number++
		}
	}
	return t, rep, nil
}

// layer lays events onto a timeline.
type layer struct {
	c    CombinationDrill
	t    *Timeline
	rep  Repetition
	call string
	slip bool
}

func (l *layer) add(e Event) { l.t.Events = append(l.t.Events, e) }

// called says whether a repetition is called.
func (g Guidance) called(k, n int) bool {
	switch g {
	case Called:
		return true
	case Partly:
		return k%2 == 0
	case Alone:
		return false
	}
	quarter := float64(k) / float64(n)
	switch {
	case k == n-1 || quarter < 0.25 || quarter >= 0.75:
		return true
	case quarter < 0.5:
		return k%2 == 0
	}
	return false
}

// repetition lays out the k-th of n, from at (s). What falls into the answer to a cue is left out: nobody does both.
func (l *layer) repetition(k, n int, at float64, cues []Cue) {
	if l.c.Guidance.called(k, n) {
		l.add(Event{At: micros(math.Max(0, at-beforeCall)), Kind: Call, Text: l.call, Rep: k})
	}
	if l.slip {
		l.add(Event{At: micros(at), Kind: LetGo, Rep: k})
	}
	position := 0
	for _, m := range l.rep.Moves {
		e := Event{At: micros(at + m.At), Rep: k, Part: m.Part, Move: m.Move, Window: micros(m.Window),
			Late: micros(m.Late)}
		e.says(m.Placed)
		if m.Kind() == combo.Strike {
			e.Kind, e.Hand, e.Position, e.Still = Strike, m.Hand(), position, m.Still
			if l.t.Clock == ByBag {
				e.Count, e.Launch, e.Ahead, e.Settle = m.Return, math.Round(1e4*m.Launch)/1e4, micros(m.Back-m.At),
					micros(m.Settle)
				if m.Share != 1 {
					e.Share = m.Share
				}
			}
			position++
		} else {
			e.Kind, e.Until, e.Feet = Doing, micros(at+m.Until), m.Kind() == combo.Step
		}
		if !busy(cues, at+m.At) {
			l.add(e)
		}
	}
	for i, b := range l.rep.Boards {
		l.add(Event{At: micros(at + b), Kind: Rebound, N: i + 1, Rep: k})
	}
	for i, p := range l.rep.Passes {
		l.add(Event{At: micros(at + p), Kind: Pass, N: i + 1, Rep: k})
	}
}

// says names the move of an event.
func (e *Event) says(m combo.Placed) {
	e.Text = m.Move.String()
	if said := m.Said(); said != e.Text {
		e.Said = said
	}
}

// thrown tells which punch comes last before a moment, of n repetitions from start, so far apart (s).
func (l *layer) thrown(start, every float64, n int) Thrown {
	var strikes []Landed
	varied := false
	for _, m := range l.rep.Moves {
		if m.Kind() == combo.Strike {
			m.Rebounds, m.Accent = 0, false
			strikes = append(strikes, m)
			varied = varied || m.Placed.Move != strikes[0].Placed.Move
		}
	}
	if len(strikes) == 0 {
		return Thrown{}
	}
	// All strikes stand in one row: the i-th is that of a repetition.
	when := func(i int) float64 { return start + float64(i/len(strikes))*every + strikes[i%len(strikes)].At }
	what := func(i int) combo.Move { return strikes[i%len(strikes)].Placed.Move }
	before := func(at float64) int { // the index of the last before a moment; -1 for none
		i := min(n-1, int(math.Floor((at-start)/every)))*len(strikes) + len(strikes) - 1
		for i >= 0 && when(i) >= at {
			i--
		}
		return i
	}
	t := Thrown{Last: func(at float64) (combo.Move, float64, bool) {
		i := before(at)
		if i < 0 {
			return combo.Move{}, 0, false
		}
		return what(i), when(i), true
	}}
	if varied {
		t.Other = func(at float64, than combo.Move) (float64, float64, bool) {
			for i := before(at) + 1; i < n*len(strikes)-1; i++ {
				if what(i) != than {
					return when(i), when(i + 1), true
				}
			}
			return 0, 0, false
		}
	}
	return t
}

// busy says whether an answer to one of the cues is under way, or about to be, at a moment (s). The cues are in
// order, and no answer lasts into the next one.
func busy(cues []Cue, at float64) bool {
	next, _ := slices.BinarySearchFunc(cues, at, func(c Cue, at float64) int { return cmp.Compare(c.At-beforeCue, at) })
	return next > 0 && at < cues[next-1].At+cues[next-1].takes
}

// cue lays out a call, the move that answers it and the counter after it.
func (l *layer) cue(cue Cue, a trainee.Ability, end float64) {
	text := cue.Call
	if text == "" {
		text = cue.Move.Call(l.c.Voice())
	}
	if cue.Counter != "" && !cue.Set {
		text += ", " + cue.Counter
	}
	l.add(Event{At: micros(cue.At), Kind: Cued, Text: text, Window: micros(cue.Lead)})
	at := cue.At + trainee.SoundReaction
	e := Event{At: micros(at), Kind: Doing, Move: -1, Until: micros(at + trainee.TimesOf(cue.Move).Whole)}
	e.says(combo.Placed{Move: cue.Move, Stance: l.c.Stance})
	l.add(e)
	line, err := combo.Parse(cue.Counter)
	if err != nil {
		return // a free counter is not planned
	}
	at += trainee.TimesOf(cue.Move).Whole
	for i, m := range line.Moves(l.c.Stance) {
		gap := trainee.StrikeMovement(rig.DoubleEnd)
		if i > 0 {
			gap = a.Alternate
		}
		if at += gap; at < end {
			e := Event{At: micros(at), Kind: Strike, Hand: m.Hand(), Move: -1, Window: micros(counterWindow)}
			e.says(m)
			l.add(e)
		}
	}
}
