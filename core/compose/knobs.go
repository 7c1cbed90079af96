package compose

import (
	"fmt"
	"math"
	"strconv"

	"melodromos/core/drill"
	"melodromos/core/rig"
)

// Patch is a change of a drill's document: fields with their values, null to leave one out (RFC 7396, JSON merge
// patch).
type Patch map[string]any

// Knob is one thing of a drill that can be set on this bag: a choice, several of a few, or a figure. What is not listed
// cannot be set here.
type Knob struct {
	Field    string       `json:"field" doc:"of the drill's document"`
	Label    string       `json:"label"`
	Note     string       `json:"note"`
	Quantity rig.Quantity `json:"quantity" doc:"words for a choice"`

	Value   string       `json:"value" doc:"of a choice"`
	Taken   []string     `json:"taken" doc:"of several, at least one"`
	Options []KnobOption `json:"options"`

	Figure float64 `json:"figure"`
	rig.Slider
	Typed float64 `json:"typed" doc:"the most that may be typed"`
	With  Patch   `json:"with" doc:"what else is set along with a figure"`
}

// KnobOption is one choice of a knob, with what it sets.
type KnobOption struct {
	Value string `json:"value"`
	Text  string `json:"text"`
	With  Patch  `json:"with"`
}

// knobs are being listed.
type knobs []Knob

func (k *knobs) choice(field, label, note string, value string, options ...KnobOption) {
	*k = append(*k, Knob{Field: field, Label: label, Note: note, Quantity: rig.AsWord, Value: value, Options: options,
		Taken: []string{}, With: Patch{}})
}

func (k *knobs) figure(field, label, note string, as rig.Quantity, figure, least, most, step float64, with Patch) {
	if with == nil {
		with = Patch{}
	}
	*k = append(*k, Knob{
		Field: field, Label: label, Note: note, Quantity: as, Figure: figure,
		Slider: rig.Slider{Least: least, Most: most, Step: step}, Typed: most,
		With: with, Options: []KnobOption{}, Taken: []string{},
	})
}

// to is an option that sets its field to its value, and more.
func to[T ~string](field string, value T, text string, more ...any) KnobOption {
	p := Patch{field: value}
	for i := 0; i+1 < len(more); i += 2 {
		p[more[i].(string)] = more[i+1]
	}
	return KnobOption{string(value), text, p}
}

// yes and no are the two options of a flag.
func flag(field, no, yes string) []KnobOption {
	return []KnobOption{{"no", no, Patch{field: false}}, {"yes", yes, Patch{field: true}}}
}

func yesNo(v bool) string {
	if v {
		return "yes"
	}
	return "no"
}

// orNone is the value, or what stands for none.
func orNone[T ~string](v T, otherwise string) string {
	if v == "" {
		return otherwise
	}
	return string(v)
}

// What a round is like that is newly said to end so. Assumed.
const (
	newWork        = 60.0 // s
	newRepetitions = 10
	newStrikes     = 50
)

// Ranges of controls, narrowed to what the bag and whoever stands before it allow. Assumed.
const (
	softestOffered, hardestOffered  = 0.5, 12.0 // m/s of the fist
	nearestOffered, furthestOffered = 0.1, 1.5  // m that a slip bag is drawn back
)

// lineKnobs are those of a combination, as asked and as filled in for whoever stands there.
func lineKnobs(asked, c drill.CombinationDrill, on drill.Floor, out SwingLine, effort string) []Knob {
	kind := on.Bag.Kind()
	slip := kind == rig.Slip
	still := slip && asked.Rhythm == drill.NoReturn
	free := asked.Landing == drill.Freely
	var k knobs
	k.choice("pace", "Pace", "", string(asked.Pace), to("pace", drill.Flow, "Flow", "fist", 0, "tempo", 0),
		to("pace", drill.Combining, "Combination", "fist", 0, "tempo", 0),
		to("pace", drill.Power, "Power", "fist", 0, "tempo", 0),
		to("pace", drill.Speedy, "Speed", "fist", 0, "tempo", 0),
		to("pace", drill.OwnRhythm, "Free", "fist", 0, "tempo", 0))
	k.choice("range", "Range", "", orNone(asked.Range, "pace"), to("range", drill.Close, "Close"),
		to("range", "pace", "By the pace"), to("range", drill.Far, "Far"))
	if !slip {
		k.choice("earOnly", "The bag is", "", yesNo(asked.EarOnly), flag("earOnly", "Seen", "Not seen")...)
		lands := []KnobOption{to("landing", drill.OnReturns, "On the bag’s returns", "clock", nil, "played", nil),
			to("landing", drill.Freely, "Freely", "clock", nil, "played", nil)}
		value := string(asked.Landing)
		if asked.Played != nil {
			value = "played"
			lands = append(lands, KnobOption{value, "In its own rhythm", Patch{}})
		}
		k.choice("landing", "Lands", "", value, lands...)
	}
	if !slip && !free {
		note := "Each strike is due when the bag comes back from the one before."
		if asked.Clock == drill.ByBeat {
			note = "Each strike is due at its planned moment."
		}
		k.choice("clock", "Who sets the time", note, orNone(asked.Clock, string(drill.ByBag)),
			to("clock", drill.ByBag, "The bag", "clock", nil), to("clock", drill.ByBeat, "The beat"))
		k.rhythm(asked, on)
	}
	if slip {
		k.slip(asked, still, out.Balance.Strikes)
	}
	hardest := math.Max(softestOffered, math.Floor(10*math.Min(on.Hardest(), hardestOffered))/10)
	switch {
	case slip && !still:
		furthest := furthestOffered
		if within, err := on.Bag.Limits(rig.Meeting{Rebounds: 1}); err == nil {
			furthest = math.Min(furthest, math.Floor(100*within.SlowestLaunch)/100)
		}
		k.figure("pull", "Drawn back", "", rig.AsHeight, c.Pull, nearestOffered, math.Max(2*nearestOffered, furthest),
			0.01, nil)
	case free || still:
		k.figure("fist", "Fist speed, "+effort, "", rig.AsSpeed, c.Fist, softestOffered, hardest, 0.1, nil)
	default:
		k.figure("fist", "Fist speed, "+effort, "On this bag force sets the window more than the tempo.", rig.AsSpeed,
			c.Fist, softestOffered, hardest, 0.1, Patch{"tempo": 0, "slower": 0})
	}
	if (free && !slip || still) && asked.Played == nil {
		k.figure("tempo", "Goal tempo inside the combination", "", rig.AsTempo, c.Tempo, 20, 500, 1, nil)
	}
	if goal := math.Round(c.Tempo); goal > 0 && (!slip || still) {
		slower, note := goal, "A slower tempo that still counts: none is set."
		if c.Slower > 0 {
			slower, note = c.Slower, fmt.Sprintf("The round is judged against %g and %g a minute.", goal, c.Slower)
		}
		k.figure("slower", "Still fine down to", note, rig.AsTempo, slower, 10, math.Max(11, goal), 1,
			Patch{"tempo": goal})
	}
	k.figure("pause", "Wait between reps", "", rig.AsMoments, asked.Pause, 0, 20, 0.25, nil)
	if asked.Work > 0 {
		k.figure("work", "Round length", "", rig.AsSeconds, asked.Work, drill.WorkLimits.Min, drill.WorkLimits.Max,
			5, nil)
	} else {
		k.figure("repetitions", "Reps", "", rig.AsCount, float64(asked.Repetitions), 1, 100, 1, nil)
		k[len(k)-1].Typed = float64(drill.MaxStrikes)
	}
	k.choice("ends", "Ends by", "", ends(asked.Work),
		KnobOption{"time", "The bell", Patch{"work": newWork, "repetitions": 0}},
		KnobOption{"count", "Reps", Patch{"work": 0, "repetitions": newRepetitions}})
	k.choice("guidance", "Called", "", string(asked.Guidance), to("guidance", drill.Fading, "Fading"),
		to("guidance", drill.Called, "Always"),
		to("guidance", drill.Partly, "Every second"), to("guidance", drill.Alone, "Never"))
	k.choice("names", "By", "", yesNo(asked.Names), flag("names", "Numbers", "Names")...)
	if out.Balance.SlipsLead+out.Balance.SlipsRear > 0 {
		k.choice("inside", "Slips by", "", yesNo(asked.Inside),
			flag("inside", "Lead and rear", "Inside and outside")...)
	}
	k.cues(asked.Cues)
	return k
}

func ends(work float64) string {
	if work > 0 {
		return "time"
	}
	return "count"
}

// rhythm offers the rhythms that this bag can be worked in, where there is more than one.
func (k *knobs) rhythm(c drill.CombinationDrill, on drill.Floor) {
	stopped := "Stopped between"
	if on.Place.ByHand(on.Bag.Kind()) == rig.NeverByHand {
		stopped = "Let it settle"
	}
	var options []KnobOption
	for _, o := range []struct {
		rhythm drill.Rhythm
		text   string
	}{{drill.EveryReturn, "Every return"}, {drill.SecondReturn, "Every second"}, {drill.NoReturn, stopped}} {
		if drill.Keeps(on.Bag.Kind(), o.rhythm) {
			options = append(options, KnobOption{orNone(o.rhythm, "every"), o.text,
				Patch{"rhythm": orNone(o.rhythm, "every")}})
		}
	}
	if len(options) > 1 {
		k.choice("rhythm", "Rhythm on the bag", "", orNone(c.Rhythm, "every"), options...)
	}
}

// slip offers what is done with a slip bag: swinging, or still as somebody's guard.
func (k *knobs) slip(c drill.CombinationDrill, still bool, strikes int) {
	swings := KnobOption{"swings", "Swinging", Patch{"rhythm": "every", "guard": "touch", "tempo": 0}}
	guard := KnobOption{"still", "Still, as a guard",
		Patch{"rhythm": drill.NoReturn, "guard": drill.StopShort, "noTouch": false, "tempo": 0}}
	if !still {
		k.choice("hangs", "The bag hangs", "", "swings", swings, guard)
		if strikes == 0 {
			note := ""
			if c.NoTouch {
				note = "An obstacle only: the window counts × 0.8."
			}
			k.choice("noTouch", "The bag", note, yesNo(c.NoTouch), flag("noTouch", "May touch", "No touch")...)
		}
		return
	}
	k.choice("hangs", "The bag hangs", "", "still", swings, guard)
	note := ""
	if c.Guard != drill.Touched {
		note = "Without touching: as close as can be, hands back fast."
	}
	k.choice("guard", "The punches", note, orNone(c.Guard, "touch"), to("guard", drill.RoundIt, "Go round it"),
		to("guard", drill.ThroughIt, "Go through beside it"),
		to("guard", drill.StopShort, "Stop short"), to("guard", "touch", "Touch it"))
}

// cues offers unforeseeable ones on top.
func (k *knobs) cues(c *drill.Cues) {
	none, moves, attacks := drill.Cues{}, drill.CalledMoves(), drill.NamedAttacks()
	kind := "none"
	if c != nil {
		if none = *c; len(c.Attacks) > 0 {
			kind = "attacks"
		} else {
			kind = "moves"
		}
	}
	anew := func(c drill.Cues) Patch {
		p := Patch{"moves": nil, "attacks": nil, "counters": nil, "free": nil, "least": c.Least, "mean": c.Mean}
		if len(c.Moves) > 0 {
			p["moves"] = c.Moves
		}
		if len(c.Attacks) > 0 {
			p["attacks"] = c.Attacks
		}
		return Patch{"cues": p}
	}
	k.choice("cues", "Random cues", "", kind, KnobOption{"none", "None", Patch{"cues": nil}},
		KnobOption{"moves", "A defence is called", anew(moves)},
		KnobOption{"attacks", "An attack is named", anew(attacks)})
	if c == nil {
		return
	}
	if kind == "moves" {
		*k = append(*k, Knob{Field: "cues.moves", Label: "What is called", Quantity: rig.AsWord,
			Taken: append([]string{}, c.Moves...), With: Patch{}})
		last := &(*k)[len(*k)-1]
		for _, m := range drill.Callable() {
			last.Options = append(last.Options, KnobOption{m, m, Patch{}})
		}
		counters := func(value, text string, set []string, free int) KnobOption {
			p := Patch{"counters": nil, "free": nil}
			if len(set) > 0 {
				p["counters"] = set
			}
			if free > 0 {
				p["free"] = free
			}
			return KnobOption{value, text, Patch{"cues": p}}
		}
		value := "none"
		switch {
		case c.Free > 0:
			value = strconv.Itoa(c.Free)
		case len(c.Counters) > 0:
			value = "set"
		}
		k.choice("cues.counters", "Then counters", "", value, counters("none", "None", nil, 0),
			counters("set", "Set", drill.UsualCounters(), 0),
			counters("1", "One free", nil, 1), counters("2", "Two free", nil, 2), counters("3", "Three free", nil, 3))
	}
	lead := c.Lead
	if lead == 0 {
		lead = drill.DefaultLead
	}
	k.figure("cues.lead", "Warning before a cue", "", rig.AsMoments, lead, 0.3, 3, 0.1, nil)
	k.figure("cues.least", "Least gap", "Less than the average gap.", rig.AsMoments, none.Least, 0.5,
		math.Max(1, none.Mean-1), 0.5, nil)
	k.figure("cues.mean", "Average gap", "Never at even gaps, and never the same one twice in a row.", rig.AsMoments,
		none.Mean, none.Least+1, 40, 0.5, nil)
}
