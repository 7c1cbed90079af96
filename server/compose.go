package server

import (
	"fmt"
	"math"
	"slices"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/words"
)

// Composed is what the composer shows of a combination.
type Composed struct {
	Canonical   string          `json:"canonical"`
	Mirror      string          `json:"mirror"`
	Counterpart string          `json:"counterpart"`
	Call        string          `json:"call"`
	Notes       []LineNote      `json:"notes" doc:"how words were read that leave something open"`
	Moves       []ComposedMove  `json:"moves"`
	Flow        []FlowMark      `json:"flow"`
	HalfBeats   []HalfBeatOut   `json:"halfBeats"`
	Balance     combo.Balance   `json:"balance"`
	Film        drill.Film      `json:"film"`
	Events      []drill.Event   `json:"events" doc:"of one repetition, from 0, for a preview with sound"`
	Length      float64         `json:"length" doc:"s of a repetition"`
	Inside      *float64        `json:"inside" doc:"strikes a minute inside the combination"`
	Pause       float64         `json:"pause" doc:"s between two repetitions"`
	Cued        bool            `json:"cued"`
	Ties        []drill.Tie     `json:"ties" doc:"tempo inside by force, where the bag ties the two; else empty"`
	Cautions    []string        `json:"cautions"`
	Flush       []string        `json:"flush" doc:"strikes that land flush on a bag of this shape, to be offered; empty where it makes no difference"`
	Glances     []string        `json:"glances" doc:"strikes of the line that do not"`
	Off         float64         `json:"off" doc:"m beside the middle of the ball, of the error that is followed"`
	Carried     []drill.Carried `json:"carried" doc:"how far off its line the bag comes to the later strikes then"`
	Times       int             `json:"times" doc:"repetitions in the round"`
	Fist        float64         `json:"fist" doc:"m/s of an ordinary strike"`
	Pull        float64         `json:"pull" doc:"m, of a slip bag"`
	Tempo       float64         `json:"tempo" doc:"goal, strikes a minute inside; 0 where the bag sets it"`
	Slower      float64         `json:"slower" doc:"acceptable slower tempo; 0 none"`
}

// ComposedMove is a move where it lands.
type ComposedMove struct {
	Text   string        `json:"text"`
	Kind   string        `json:"kind" enum:"strike,defence,step,wait"`
	Hand   string        `json:"hand" enum:",lead,rear,both"`
	Side   string        `json:"side" enum:",left,right"`
	Part   int           `json:"part"`
	Accent bool          `json:"accent"`
	At     float64       `json:"at" doc:"s from the start of the repetition"`
	Until  float64       `json:"until" doc:"s, until it is done"`
	Window float64       `json:"window"`
	Share  float64       `json:"share" doc:"of the bag's window that counts"`
	Still  bool          `json:"still" doc:"it meets a bag at rest"`
	Return int           `json:"return" doc:"which return it meets; 0 for none"`
	Late   float64       `json:"late" doc:"s by which the moves before it do not fit"`
	Offers []drill.Offer `json:"offers"`

	Choices []drill.Choice `json:"choices" doc:"returns it could meet"`
}

// FlowMark is a place where the joining rules are broken, or where care is needed.
type FlowMark struct {
	Move       int    `json:"move"`
	Code       string `json:"code"`
	Reason     string `json:"reason"`
	Deliberate bool   `json:"deliberate"`
	Caution    bool   `json:"caution"`
	Hint       bool   `json:"hint" doc:"it only says what is easier"`
	Suggest    string `json:"suggest"`
}

// LineNote tells how a word was read that leaves something open, with its place in the line, in characters from 1.
type LineNote struct {
	Column int    `json:"column"`
	Width  int    `json:"width"`
	Said   string `json:"said"`
	Read   string `json:"read"`
	Why    string `json:"why"`
}

// HalfBeatOut is where one more hand fits.
type HalfBeatOut struct {
	Move int     `json:"move"`
	Free float64 `json:"free" doc:"s"`
	Hand string  `json:"hand"`
}

// combination fills in the preview of a combination.
func (p *DrillPreview) combination(c drill.Combination, on drill.Floor, by caller) error {
	line, err := combo.Parse(c.Text)
	if err != nil {
		return err
	}
	c = c.With(on.Bag, on.Ability)
	rep, err := drill.Land(c, on)
	if err != nil {
		return err
	}
	t, err := c.Lay(on)
	if err != nil {
		return err
	}
	moves := line.Moves(c.Stance)
	out := Composed{
		Canonical: line.String(), Mirror: line.Mirror().String(), Counterpart: line.Counterpart().String(), Call: line.Call(c.Voice()),
		Moves: make([]ComposedMove, len(moves)), Flow: []FlowMark{}, Notes: []LineNote{}, HalfBeats: []HalfBeatOut{}, Balance: combo.Balanced(moves),
		Film: *t.Film, Events: []drill.Event{}, Length: rep.Length, Inside: number(rep.Inside), Pause: c.Pause, Times: len(t.Film.Starts), Cued: c.Cues != nil, Fist: c.Fist, Pull: c.Pull, Tempo: c.Tempo, Slower: c.Slower,
		Ties: some(drill.Ties(c, on)), Cautions: cautions(moves, on.Bag.Kind()),
	}
	out.Off, out.Carried = drill.CarriedError(rep, on.Bag)
	out.Flush, out.Glances, out.Carried = some(drill.Flush(on)), some(drill.Glances(moves, on)), some(out.Carried)
	for i, m := range moves {
		out.Moves[i] = ComposedMove{Text: m.Move.String(), Kind: string(m.Kind()), Hand: string(m.Hand()), Side: string(m.Side()), Part: m.Part, Accent: m.Accent, Offers: []drill.Offer{}, Choices: []drill.Choice{}}
	}
	choices := rep.Choices(on.Bag)
	for i, m := range rep.Moves {
		o := &out.Moves[m.Move]
		o.At, o.Until, o.Window, o.Share, o.Still, o.Return, o.Late, o.Offers, o.Choices = m.At, m.Until, m.Window, m.Share, m.Still, m.Return, m.Late, some(m.Fits), some(choices[i])
	}
	if c.Cues != nil {
		out.Cautions = append(out.Cautions, c.Cues.Joined()...)
	}
	for _, n := range c.Notes() {
		out.Notes = append(out.Notes, LineNote(n))
	}
	for _, f := range drill.Joined(moves, on.Bag.Kind()) {
		out.Flow = append(out.Flow, FlowMark{f.Move, string(f.Code), f.Reason, f.Deliberate, f.Caution(), f.Hint(), f.Suggest})
	}
	for _, h := range drill.HalfBeats(rep, on.Ability) {
		out.HalfBeats = append(out.HalfBeats, HalfBeatOut{h.Move, h.Free, string(h.Hand)})
	}
	for _, e := range t.Events {
		if at := e.At - drill.Micros(math.Round(1e6*t.Film.Starts[0])); at >= 0 && e.Rep == 0 && at.Seconds() <= rep.Length && e.Kind != drill.Bell && e.Kind != drill.Warning {
			e.At = at
			out.Events = append(out.Events, e)
		}
	}
	p.Composed = &out
	one := out.Film
	one.Starts = []float64{0}
	p.Cycle = filmCycle(one, on.Bag.Kind())
	if p.Shown = 60 * float64(out.Balance.Strikes) / max(rep.Length, 1e-9); out.Inside != nil {
		p.Shown = *out.Inside
	}
	p.count(t, out.Balance.Strikes)
	p.Fist, p.Effort = number(c.Fist), on.Ability.Effort(c.Fist)
	p.Sentence = composedSentence(c, on.Bag.Kind(), rep, out, by.units())
	return nil
}

// composedSentence says the two tempos, and what does not fit.
func composedSentence(c drill.Combination, kind rig.Kind, rep drill.Repetition, out Composed, units words.Units) string {
	text := words.Count(out.Balance.Moves, "move")
	if out.Balance.Strikes < out.Balance.Moves {
		text += ", " + words.Count(out.Balance.Strikes, "strike")
	}
	if out.Inside != nil {
		text += fmt.Sprintf(", %.0f a minute inside", *out.Inside)
	}
	text += fmt.Sprintf("; every %s s, %s", words.Trimmed(rep.Length+c.Pause), words.Count(out.Times, "time"))
	late := rep.Late()
	switch {
	case len(late) > 0:
		m := late[0]
		text += fmt.Sprintf("; the %s is %.0f ms late", m.Placed.Move, 1000*m.Late)
	case c.Pull > 0:
		text += ", the bag drawn back " + units.Length(c.Pull)
	case kind == rig.Slip:
		text += ", the bag hanging still" + map[drill.Guard]string{drill.RoundIt: ": go round it", drill.ThroughIt: ": go through beside it", drill.StopShort: ": stop short of it"}[c.Guard]
	}
	return words.Upper(text) + "."
}

// cautions are those that belong to what is thrown (common practice).
func cautions(moves []combo.Placed, bag rig.Kind) []string {
	list := []string{}
	if bag != rig.Hanging && bag != rig.Slip && slices.ContainsFunc(moves, func(m combo.Placed) bool { return m.Leg() || m.Shape() == combo.Elbow }) {
		list = append(list, "Kicks, knees and elbows belong on a hanging bag that is made for them.")
	}
	return list
}

// TempoQuestion asks for the force that gives a combination a tempo inside.
type TempoQuestion struct {
	RigID     string   `json:"rigId" format:"uuid"`
	TraineeID string   `json:"traineeId" format:"uuid"`
	Doc       DrillDoc `json:"doc"`
	Tempo     float64  `json:"tempo" doc:"strikes a minute"`
}

func atTempo(by caller, in TempoQuestion) (drill.Plan, error) {
	plan, err := in.Doc.read()
	if err != nil {
		return nil, input.Under("doc", err)
	}
	c, ok := plan.(drill.Combination)
	if !ok {
		return nil, input.Refuse("doc", "expected a combination: a technique has its tempo in its document")
	}
	floor, _, _, err := by.floorOf(in.RigID, in.TraineeID)
	if err != nil {
		return nil, err
	}
	return drill.AtTempo(c, floor, in.Tempo)
}

// CountQuestion asks for a combination with another return named after one of its strikes.
type CountQuestion struct {
	Text  string `json:"text"`
	Move  int    `json:"move" minimum:"0" doc:"index of the strike in the expanded combination"`
	Count int    `json:"count" minimum:"0" maximum:"9" doc:"returns to the next strike; 0 names none"`
}

// ComboText is a line of the notation.
type ComboText struct {
	Text string `json:"text"`
}

func recount(in CountQuestion) (ComboText, error) {
	line, err := combo.Parse(in.Text)
	if err != nil {
		return ComboText{}, err
	}
	changed, err := line.Counted(in.Move, in.Count)
	return ComboText{changed.String()}, err
}

// filmCycle is the motion of a run that repeats a film.
func filmCycle(f drill.Film, kind rig.Kind) Cycle {
	c := cycleOut(rig.Picture{Trace: f.Trace, Marks: f.Marks, Passes: f.Passes, Return: f.Length, Reach: f.Reach}, kind)
	c.Starts = some(f.Starts)
	return c
}
