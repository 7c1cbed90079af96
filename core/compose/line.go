package compose

import (
	"math"

	"melodromos/core/answer"
	"melodromos/core/bench"
	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
)

// SwingLine is the picture of a combination over the bag's swing, as the composer draws it.
type SwingLine struct {
	Canonical   string           `json:"canonical"`
	Mirror      string           `json:"mirror"`
	Counterpart string           `json:"counterpart"`
	Call        string           `json:"call"`
	Notes       []combo.Note     `json:"notes" doc:"how words were read that leave something open"`
	Moves       []ComposedMove   `json:"moves"`
	Flow        []FlowMark       `json:"flow"`
	HalfBeats   []drill.HalfBeat `json:"halfBeats"`
	Balance     combo.Balance    `json:"balance"`
	Film        drill.Film       `json:"film"`
	Events      []drill.Event    `json:"events" doc:"of one repetition, from 0, for a preview with sound"`
	Length      float64          `json:"length" doc:"s of a repetition"`
	Inside      *float64         `json:"inside" doc:"strikes a minute inside the combination"`
	Pause       float64          `json:"pause" doc:"s between two repetitions"`
	Cued        bool             `json:"cued"`
	Ties        []drill.Tie      `json:"ties" doc:"tempo inside by force, where the bag ties the two; else empty"`
	Cautions    []string         `json:"cautions"`
	Flush       []string         `json:"flush" doc:"strikes that land flush on a bag of this shape; empty where it makes no difference"`
	Picks       []drill.Pick     `json:"picks" doc:"moves to be picked on this bag"`
	Glances     []string         `json:"glances" doc:"strikes of the line that do not"`
	Off         float64          `json:"off" doc:"m beside the middle of the ball, of the error that is followed"`
	Carried     []drill.Carried  `json:"carried" doc:"how far off its line the bag comes to the later strikes then"`
	Times       int              `json:"times" doc:"repetitions in the round"`
	Fist        float64          `json:"fist" doc:"m/s of an ordinary strike"`
	Pull        float64          `json:"pull" doc:"m, of a slip bag"`
	Tempo       float64          `json:"tempo" doc:"goal, strikes a minute inside; 0 where the bag sets it"`
	Slower      float64          `json:"slower" doc:"acceptable slower tempo; 0 none"`
}

// ComposedMove is a move where it lands.
type ComposedMove struct {
	Text   string             `json:"text"`
	Said   string             `json:"said" doc:"as this person does it, in left and right"`
	Kind   combo.MoveKind     `json:"kind"`
	Hand   combo.Hand         `json:"hand"`
	Side   combo.Side         `json:"side"`
	Part   int                `json:"part"`
	Accent bool               `json:"accent"`
	At     float64            `json:"at" doc:"s from the start of the repetition"`
	Until  float64            `json:"until" doc:"s, until it is done"`
	Window float64            `json:"window"`
	Share  float64            `json:"share" doc:"of the bag's window that counts"`
	Less   string             `json:"less" doc:"why less of it counts; empty where all does"`
	Still  bool               `json:"still" doc:"it meets a bag at rest"`
	Return int                `json:"return" doc:"which return it meets; 0 for none"`
	Late   float64            `json:"late" doc:"s by which the moves before it do not fit"`
	Offers []drill.Adjustment `json:"offers"`

	Choices []drill.ReturnChoice `json:"choices" doc:"returns it could meet"`
}

// FlowMark is a place where the joining rules are broken, or where care is needed.
type FlowMark struct {
	combo.FlowNote
	Caution bool `json:"caution"`
	Hint    bool `json:"hint" doc:"it only says what is easier"`
}

// line fills in the answer for a combination, whose force and tempo are filled in.
func (a *Answer) line(c drill.CombinationDrill, q Question) (drill.Timeline, error) {
	on := q.On
	line, err := combo.Parse(c.Text)
	if err != nil {
		return drill.Timeline{}, err
	}
	rep, err := drill.Land(c, on)
	if err != nil {
		return drill.Timeline{}, err
	}
	t, err := c.Lay(on)
	if err != nil {
		return t, err
	}
	moves := line.Moves(c.Stance)
	out := SwingLine{
		Canonical: line.String(), Mirror: line.Mirror().String(), Counterpart: line.Counterpart().String(),
		Call:  line.Call(c.Voice()),
		Moves: placed(moves, rep, on.Bag), Balance: combo.Balanced(moves), Film: *t.Film, Events: preview(t, rep),
		Length: rep.Length, Inside: answer.Known(rep.Inside), Pause: c.Pause, Times: len(t.Film.Starts),
		Cued: c.Cues != nil,
		Fist: c.Fist, Pull: c.Pull, Tempo: c.Tempo, Slower: c.Slower,
		Ties: answer.List(drill.Ties(c, on)), Cautions: caution.OfLine(c.Everything(), on.Bag.Kind()),
		Picks: drill.Picks(on), Flush: answer.List(drill.Flush(on)), Glances: answer.List(drill.Glances(moves, on)),
		Notes:     answer.List(c.Notes()),
		HalfBeats: answer.List(drill.HalfBeats(rep, on.Ability)),
		Flow: answer.Map(drill.Joined(moves, on.Bag.Kind()), func(f combo.FlowNote) FlowMark {
			return FlowMark{f, f.Caution(), f.Hint()}
		}),
	}
	out.Off, out.Carried = drill.CarriedError(rep, on.Bag)
	out.Carried = answer.List(out.Carried)
	if c.Cues != nil {
		out.Cautions = append(out.Cautions, c.Cues.Joined()...)
	}
	a.Composed = &out
	once := out.Film
	once.Starts = []float64{0}
	a.Cycle = bench.FilmCycle(once, on.Bag.Kind())
	if a.Shown = 60 * float64(out.Balance.Strikes) / max(rep.Length, 1e-9); out.Inside != nil {
		a.Shown = *out.Inside
	}
	a.count(t, out.Balance.Strikes)
	a.Fist, a.Effort = answer.Known(c.Fist), on.Ability.Effort(c.Fist)
	if asked, ok := q.Plan.(drill.CombinationDrill); ok {
		a.Knobs = lineKnobs(asked, c, on, out, a.Effort)
	}
	a.Said = sayLine(c, rep, out, a, q.Units)
	return t, nil
}

// placed are the moves where they land.
func placed(moves []combo.Placed, rep drill.Repetition, bag rig.Rig) []ComposedMove {
	list := answer.Map(moves, func(m combo.Placed) ComposedMove {
		return ComposedMove{Text: m.Move.String(), Said: m.Said(), Kind: m.Kind(), Hand: m.Hand(), Side: m.Side(),
			Part: m.Part, Accent: m.Accent, Offers: []drill.Adjustment{}, Choices: []drill.ReturnChoice{}}
	})
	choices := rep.Choices(bag)
	for i, m := range rep.Moves {
		o := &list[m.Move]
		o.At, o.Until, o.Window, o.Share, o.Less, o.Still, o.Return, o.Late = m.At, m.Until, m.Window, m.Share, m.Less,
			m.Still, m.Return, m.Late
		o.Offers, o.Choices = answer.List(m.Fits), answer.List(choices[i])
	}
	return list
}

// preview returns the events of the first repetition, with times from 0.
func preview(t drill.Timeline, rep drill.Repetition) []drill.Event {
	list := []drill.Event{}
	from := drill.Micros(math.Round(1e6 * t.Film.Starts[0]))
	for _, e := range t.Events {
		at := e.At - from
		if at >= 0 && e.Rep == 0 && at.Seconds() <= rep.Length && e.Kind != drill.Bell && e.Kind != drill.Warning {
			e.At = at
			list = append(list, e)
		}
	}
	return list
}
