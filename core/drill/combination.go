package drill

import (
	"encoding/json"
	"math"
	"slices"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Landing says what paces the strikes of a combination.
type Landing string

// On returns, each strike meets the bag's next return, or the one that is named; free, they are paced by the hands
// where the bag does not constrain them.
const (
	OnReturns Landing = "returns"
	Freely    Landing = "free"
)

// Pace is the mode of a round (common practice).
type Pace string

// From the opener to one's own rhythm.
const (
	Flow        Pace = "flow"        // close and loose: could be kept up for the whole round
	Combining   Pace = "combination" // as far as still lands, full extension, moderate
	Power       Pace = "power"       // far, set feet, single shots, the bag's cap respected
	Speedy      Pace = "speed"       // close, at a high rate
	OwnRhythm   Pace = "free"        // any range, own rhythm
	accentForce      = 1.4           // times the force of the others, for a power shot. Assumed
)

// paces: effort as a share of the greatest fist speed, tempo as a share of the quickest the hands allow, and what the
// range adds to a strike's way (s). All assumed but for what the words mean.
var paces = map[Pace]struct{ effort, tempo, way float64 }{
	Flow: {0.40, 0.70, closer}, Combining: {0.50, 0.75, 0}, Power: {0.85, 0.50, farther}, Speedy: {0.45, 0.95, closer},
	OwnRhythm: {0.50, 0.70, 0},
}

// What the range adds to a strike's way (s). Assumed.
const closer, farther = -0.03, 0.05

// Range is the distance at which one stands from the bag.
type Range string

// Close or far; else as the pace mode has it ("pace" in a document that says so).
const (
	Close Range = "close"
	Far   Range = "far"
)

// Guidance says how far a round is called (common practice: the first repetitions are guided, then one is left alone,
// the last are guided again).
type Guidance string

// How far it is called.
const (
	Called Guidance = "called"
	Partly Guidance = "partly" // every second repetition
	Alone  Guidance = "alone"
	Fading Guidance = "fading" // called, partly called, alone, called
)

// Rhythm says which come-back of a ball between cords or on a pole a strike meets where nothing else is said (common
// practice).
type Rhythm string

// Every return, every second one, or none at all: the ball hangs still again before each strike.
const (
	EveryReturn  Rhythm = "" // "every" in a document that says it
	SecondReturn Rhythm = "second"
	NoReturn     Rhythm = "none"
)

// Guard says how a slip bag that hangs still is worked as somebody's guard (common practice): a light touch where
// nothing is said, else without touching it, as close as can be, the hands back fast.
type Guard string

// Round it, through beside it to where the head would be, or stopped short of it.
const (
	Touched   Guard = "" // "touch" in a document that says it
	RoundIt   Guard = "round"
	ThroughIt Guard = "through"
	StopShort Guard = "short"
)

// CombinationDrill is a drill that is thrown from a line of the notation, on any bag.
type CombinationDrill struct {
	Text    string       `json:"text"` // in lead and rear
	Stance  combo.Stance `json:"stance,omitempty"`
	Landing Landing      `json:"landing"`
	Rhythm  Rhythm       `json:"rhythm,omitempty"`
	Pace    Pace         `json:"pace"`
	// share of the greatest fist speed of an ordinary strike; 0 as the pace has it
	Effort float64 `json:"effort,omitempty"`
	Fist   float64 `json:"fist,omitempty"` // m/s of an ordinary strike; 0 is left open
	// strikes a minute inside the combination, where it lands freely
	Tempo  float64 `json:"tempo,omitempty"`
	Slower float64 `json:"slower,omitempty"` // an acceptable slower tempo; 0 none
	Pull   float64 `json:"pull,omitempty"`   // m, of a slip bag
	// s from the end of a repetition to the next: the free wait between
	Pause       float64  `json:"pause"`
	Work        float64  `json:"work,omitempty"`        // s from bell to bell; 0 where repetitions are counted
	Repetitions int      `json:"repetitions,omitempty"` // 0 where time is counted
	Guidance    Guidance `json:"guidance"`
	Range       Range    `json:"range,omitempty"`   // by the pace mode where nothing is said
	EarOnly     bool     `json:"earOnly,omitempty"` // the bag is not seen
	NoTouch     bool     `json:"noTouch,omitempty"` // a slip bag is an obstacle only
	Guard       Guard    `json:"guard,omitempty"`   // of a slip bag that hangs still
	Names       bool     `json:"names,omitempty"`   // called by the names of the punches, not by numbers
	Inside      bool     `json:"inside,omitempty"`  // slips are called inside and outside, not lead and rear
	Clock       Clock    `json:"clock,omitempty"`   // as the landing has it where nothing is said
	Cues        *Cues    `json:"cues,omitempty"`    // unforeseeable ones on top
	// a rhythm that was played, at whose times the strikes land freely
	Played *Played `json:"played,omitempty"`

	notes []combo.Note
}

// Notes tell how words of the line were read that leave something open; none for a line that was not read from a
// document.
func (c CombinationDrill) Notes() []combo.Note { return c.notes }

// Limits of a combination drill.
var (
	fistLimits  = input.Limits{Min: 0.2, Max: 15, Unit: "m/s"}
	pauseLimits = input.Limits{Min: 0, Max: 60, Unit: "s"}
	pullLimits  = input.Limits{Min: 0, Max: 3, Open: true, Unit: "m"}
)

// ReadCombination reads the document of a combination drill. Lines are kept in the form in which they are printed, in
// lead and rear, so that a drill stays what it is when somebody of the other stance takes it.
func ReadCombination(o *input.Object) (CombinationDrill, error) {
	o.WholeOr("version", CombinationVersion, CombinationVersion, CombinationVersion)
	o.ChoiceOr("kind", combinationKind, combinationKind)
	c := CombinationDrill{
		Text: o.Text("text", combo.MaxText),
		Stance: combo.Stance(o.ChoiceOr("stance", string(combo.Orthodox), string(combo.Orthodox),
			string(combo.Southpaw))),
		Landing: Landing(o.ChoiceOr("landing", string(OnReturns), string(OnReturns), string(Freely))),
		Rhythm:  Rhythm(unlessUsual(o, "rhythm", "every", string(SecondReturn), string(NoReturn))),
		Pace: Pace(o.ChoiceOr("pace", string(Combining), string(Flow), string(Combining), string(Power),
			string(Speedy), string(OwnRhythm))),
		Effort:      o.NumberOr("effort", input.Limits{Max: 1}, 0),
		Fist:        o.NumberOr("fist", input.Limits{Max: fistLimits.Max, Unit: "m/s"}, 0),
		Tempo:       o.NumberOr("tempo", input.Limits{Max: TempoLimits.Max, Unit: "strikes a minute"}, 0),
		Slower:      o.NumberOr("slower", input.Limits{Max: TempoLimits.Max, Unit: "strikes a minute"}, 0),
		Pull:        o.NumberOr("pull", input.Limits{Max: pullLimits.Max, Unit: "m"}, 0),
		Pause:       o.NumberOr("pause", pauseLimits, 2),
		Work:        o.NumberOr("work", input.Limits{Max: WorkLimits.Max, Unit: "s"}, 0),
		Repetitions: o.WholeOr("repetitions", 0, MaxStrikes, 0),
		Guidance: Guidance(o.ChoiceOr("guidance", string(Fading), string(Called), string(Partly), string(Alone),
			string(Fading))),
		Range:   Range(unlessUsual(o, "range", "pace", string(Close), string(Far))),
		EarOnly: o.FlagOr("earOnly", false),
		NoTouch: o.FlagOr("noTouch", false),
		Guard:   Guard(unlessUsual(o, "guard", "touch", string(RoundIt), string(ThroughIt), string(StopShort))),
		Names:   o.FlagOr("names", false),
		Inside:  o.FlagOr("inside", false),
		Clock:   Clock(unlessUsual(o, "clock", "landing", string(ByBag), string(ByBeat))),
	}
	if c.Tempo != 0 && c.Slower >= c.Tempo { // it is not slower: none
		c.Slower = 0
	}
	if o.Has("cues") {
		cues, err := readCues(o.Object("cues"), c.Stance)
		o.Keep(err)
		c.Cues = &cues
	}
	if o.Has("played") {
		played, err := readPlayed(o.Object("played"))
		o.Keep(err)
		c.Played = &played
	}
	if err := o.Done(); err != nil {
		return CombinationDrill{}, err
	}
	line, notes, err := combo.Read(c.Text, c.Stance)
	if err != nil {
		return c, o.Under(err)
	}
	c.Text, c.notes = line.String(), notes
	return c, o.Under(c.Check())
}

// unlessUsual reads a choice whose usual value may be left out or said, and is empty either way.
func unlessUsual(o *input.Object, field, usual string, others ...string) string {
	if chosen := o.ChoiceOr(field, usual, append([]string{usual}, others...)...); chosen != usual {
		return chosen
	}
	return ""
}

// CombinationVersion is written into every document of a combination drill.
const CombinationVersion = 2

// MarshalJSON writes the document that ReadCombination reads.
func (c CombinationDrill) MarshalJSON() ([]byte, error) {
	type fields CombinationDrill
	return json.Marshal(struct {
		Version int    `json:"version"`
		Kind    string `json:"kind"`
		fields
	}{CombinationVersion, combinationKind, fields(c)})
}

// Check refuses a drill that contradicts itself, by field, whatever the bag.
func (c CombinationDrill) Check() error {
	line, err := combo.Parse(c.Text)
	if err != nil {
		return err
	}
	moves := line.Moves(combo.Orthodox)
	strikes := combo.Balanced(moves).Strikes
	if strikes == 0 && c.Landing == Freely {
		return input.Refuse("text", "expected a strike where nothing but the hands keeps the pace")
	}
	if err := tooMany("repetitions", c.Repetitions, strikes, len(moves)); err != nil {
		return err
	}
	switch {
	case c.Work == 0 && c.Repetitions == 0:
		return input.Refuse("work", "expected a time of %g to %g s, or a number of repetitions", WorkLimits.Min,
			WorkLimits.Max)
	case c.Work != 0 && c.Repetitions != 0:
		return input.Refuse("repetitions", "expected either a time or a number of repetitions, not both")
	case c.Clock != "" && c.Clock != ByBag && c.Clock != ByBeat:
		return input.Refuse("clock", "expected bag or beat")
	case c.Clock == ByBag && c.Landing == Freely:
		return input.Refuse("clock", "expected the beat's: no bag times strikes that land freely")
	case c.Played != nil && c.Landing != Freely:
		return input.Refuse("played", "expected a rhythm that was played only where the strikes land freely")
	case c.Slower != 0 && c.Tempo != 0 && c.Slower >= c.Tempo:
		return input.Refuse("slower", "expected less than the goal of %g a minute, not %g", c.Tempo, c.Slower)
	}
	for _, l := range []struct {
		field string
		value float64
		input.Limits
	}{{"fist", c.Fist, fistLimits}, {"tempo", c.Tempo, TempoLimits}, {"slower", c.Slower, TempoLimits},
		{"pull", c.Pull, pullLimits}, {"work", c.Work, WorkLimits}} {
		if l.value != 0 {
			if err := l.Limits.Check(l.field, l.value); err != nil {
				return err
			}
		}
	}
	if c.Played != nil {
		if err := c.Played.Check(strikes); err != nil {
			return input.Under("played", err)
		}
	}
	if c.Guard != Touched && c.Rhythm != NoReturn {
		return input.Refuse("guard", "expected a slip bag that hangs still (rhythm none)")
	}
	if c.NoTouch && slices.ContainsFunc(moves,
		func(m combo.Placed) bool { return m.Kind() == combo.Strike && !m.Leg() }) {
		return input.Refuse("text",
			"expected no strikes where no touch is allowed, but for kicks that stop short of it")
	}
	if c.Cues != nil {
		return input.Under("cues", c.Cues.Check())
	}
	return pauseLimits.Check("pause", c.Pause)
}

// Voice says how the drill is called out.
func (c CombinationDrill) Voice() combo.Naming { return combo.Naming{Names: c.Names, Inside: c.Inside} }

// suits refuses what a bag does not know, by field.
func (c CombinationDrill) suits(k rig.Kind) error {
	switch {
	case c.Played != nil && k == rig.Slip && c.Rhythm != NoReturn:
		return input.Refuse("played", "expected another bag: a slip bag swings by itself, and its passes set the time")
	case c.NoTouch && k != rig.Slip:
		return input.Refuse("noTouch", "expected a slip bag: the others are struck")
	case c.Clock == ByBag && k == rig.Slip:
		return input.Refuse("clock", "expected the beat's: a slip bag swings by itself, whoever strikes")
	case c.Rhythm != EveryReturn && k == rig.Speed:
		return input.Refuse("rhythm",
			"expected every return: on a speed bag the rebounds are said after the strike, such as 1:5")
	case c.Rhythm == SecondReturn && k == rig.Slip:
		return input.Refuse("rhythm", "expected every pass, or none where it hangs still: say wait to let one go by")
	case c.Guard != Touched && k != rig.Slip:
		return input.Refuse("guard", "expected a slip bag")
	case c.Rhythm == NoReturn && k == rig.Hanging:
		return input.Refuse("rhythm",
			"expected every return or every second: a heavy bag does not hang still between strikes")
	}
	return nil
}

// Keeps says whether a kind of bag can be worked in a rhythm.
func Keeps(k rig.Kind, r Rhythm) bool { return CombinationDrill{Rhythm: r}.suits(k) == nil }

// still says whether it is thrown at a slip bag that hangs still, as somebody's guard.
func (c CombinationDrill) still(k rig.Kind) bool { return k == rig.Slip && c.Rhythm == NoReturn }

// EffortShare is the share of the greatest fist speed of an ordinary strike: what the drill says, else as its pace mode
// has it.
func (c CombinationDrill) EffortShare() float64 {
	if c.Effort > 0 {
		return c.Effort
	}
	return paces[c.Pace].effort
}

// With fills in what was left open: force and tempo by the pace mode and what this trainee can do, a slip bag's pull.
func (c CombinationDrill) With(bag rig.Rig, a trainee.Ability) CombinationDrill {
	p := paces[c.Pace]
	if c.Fist == 0 {
		c.Fist = math.Round(c.EffortShare()*a.FistSpeed*10) / 10
	}
	still := c.still(bag.Kind())
	if c.Played != nil {
		c.Tempo = math.Min(math.Round(60/c.Played.Usual()), TempoLimits.Max)
	}
	if c.Tempo == 0 && (c.Landing == Freely || still) {
		c.Tempo = math.Round(p.tempo * 60 / math.Max(a.Alternate, c.ReachTime(bag.Kind())))
	}
	if still {
		c.Pull = 0
	} else if c.Pull == 0 && bag.Kind() == rig.Slip {
		if everyday, err := bag.AtFist(0, rig.Meeting{Rebounds: 1}); err == nil {
			c.Pull = everyday.Launch
		}
	}
	return c
}
