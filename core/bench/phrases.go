package bench

import (
	"fmt"
	"math"
	"strings"

	"melodromos/core/answer"
	"melodromos/core/rig"
	"melodromos/core/words"
)

// Control names what a phrase is the control of.
type Control string

// What can be taken hold of in the sentence of a bag.
const (
	PlainWords  Control = ""
	TempoPart   Control = "tempo"
	CountPart   Control = "count"
	ForcePart   Control = "force"
	AnglePart   Control = "angle"
	MeasurePart Control = "measures" // the measures of the bag
	AroundPart  Control = "around"   // its place and use
	Remedy      Control = "remedy"   // pressed, it sets what goes with it
)

// Values lists them.
func (Control) Values() []Control {
	return []Control{PlainWords, TempoPart, CountPart, ForcePart, AnglePart, MeasurePart, AroundPart, Remedy}
}

// Phrase is a stretch of a bag's sentence: plain words, a part that can be taken hold of, or a remedy.
type Phrase struct {
	Text  string        `json:"text"`
	Part  Control       `json:"part"`
	Set   []rig.Setting `json:"set" doc:"measures that a remedy sets"`
	Ask   *Asked        `json:"ask,omitempty" doc:"what a remedy asks for instead"`
	Wrong bool          `json:"wrong" doc:"it says what is wrong"`
	Range *Stepping     `json:"range,omitempty" doc:"of a figure that can be set"`
}

// Stepping is a figure with its limits and its step on the page: in the unit of the question, the
// angle in degrees.
type Stepping struct {
	At  float64 `json:"at"`
	Min float64 `json:"min"`
	Max float64 `json:"max"`
	By  float64 `json:"by" doc:"step"`
}

// What the page offers: narrower than what may be asked for. Assumed.
const (
	leastTempo, mostTempo = 5, 700 // a minute
	mostCount             = 5
	leastAngle, mostAngle = 5, 60 // degrees
	leastPull, pullStep   = 0.05, 0.01
	leastSpeed, speedStep = 0.1, 0.05 // m/s
	leastMost             = 0.5       // of the force, where the bag has less
)

// Asked is a strike that is asked about; of the three, what is not named stays.
type Asked struct {
	Tempo    float64 `json:"tempo,omitempty"`
	Launch   float64 `json:"launch,omitempty"`
	Rebounds int     `json:"rebounds,omitempty"`
}

type phrases []Phrase

func (p *phrases) add(text string, part Control) {
	*p = append(*p, Phrase{Text: text, Part: part, Set: []rig.Setting{}})
}

// figure adds a part that is a figure.
func (p *phrases) figure(text string, part Control, r Stepping) {
	p.add(text, part)
	(*p)[len(*p)-1].Range = &r
}

func (p *phrases) remedy(text string, set []rig.Setting, ask *Asked) {
	*p = append(*p, Phrase{Text: text, Part: Remedy, Set: answer.List(set), Ask: ask})
}

func (p Phrase) String() string { return p.Text }

// said is the sentence of a bag in phrases: how to hang it, how it is struck, what is wrong with it, and its measures.
func said(q Question, a Answer) phrases {
	var p phrases
	kind := q.Rig.Kind()
	if how := hang(kind, a.SetUp, q.Name, q.Units); how != "" {
		p.add(words.Upper(how), PlainWords)
		if a.SetUp.Move != 0 && len(a.SetUp.Settings) > 0 {
			p.add(": ", PlainWords)
			p.remedy("use this setting", a.SetUp.Settings, nil)
		}
		p.add(". ", PlainWords)
	}
	p.strike(q, a)
	p.add("Also set the ", PlainWords)
	p.add("measures of the bag", MeasurePart)
	p.add(" and its ", PlainWords)
	p.add("place and use", AroundPart)
	p.add(". ", PlainWords)
	p.faults(a.Findings)
	if c := a.Cords; c != nil {
		var ways phrases
		if len(c.Looser) > 0 {
			ways.remedy("let them out a step", c.Looser, nil)
		}
		if len(c.Tighter) > 0 {
			ways.remedy("wind them up a step", c.Tighter, nil)
		}
		if len(ways) > 0 {
			p.add("The cords", PlainWords)
			p.offer(ways)
			p.add(". ", PlainWords)
		}
	}
	return p
}

// offer lists remedies after a colon: one, another or a third.
func (p *phrases) offer(list phrases) {
	*p = append(*p, words.Ways(list, func(text string) Phrase { return Phrase{Text: text, Set: []rig.Setting{}} })...)
}

// strike says how the bag is struck, or slipped.
func (p *phrases) strike(q Question, a Answer) {
	kind := q.Rig.Kind()
	count := counted(kind, a.Strike.Limits.Rebounds)
	counts := Stepping{float64(q.Meeting.Rebounds), 1, mostCount, 1}
	tempos := Stepping{a.Strike.Tempo, leastTempo, mostTempo, 1}
	limits := a.Strike.Limits
	forces := Stepping{a.Launch, leastSpeed, max(leastMost, limits.SlowestLaunch, limits.FastestLaunch), speedStep}
	if kind == rig.Slip {
		forces.Min, forces.By = leastPull, pullStep
		p.add("Slip ", PlainWords)
		p.figure(count, CountPart, counts)
		p.add(" at ", PlainWords)
		p.figure(perMinute(q, a)+" a minute", TempoPart, tempos)
		p.add(", the bag drawn back ", PlainWords)
		p.figure(q.Units.Length(a.Launch), ForcePart, forces)
	} else {
		p.add("Strike at ", PlainWords)
		p.figure(perMinute(q, a)+" a minute", TempoPart, tempos)
		p.add(": ", PlainWords)
		p.figure(count, CountPart, counts)
		effort := "out of these hands' reach"
		if a.Strike.Feasible {
			effort = q.Ability.Effort(a.Strike.FistSpeed)
		}
		p.add(", ", PlainWords)
		p.figure(effort, ForcePart, forces)
		if kind == rig.Speed {
			angle := q.Meeting.Angle * 180 / math.Pi
			p.add(", met at ", PlainWords)
			p.figure(fmt.Sprintf("%.0f°", angle), AnglePart, Stepping{angle, leastAngle, mostAngle, 1})
		}
	}
	p.add(". ", PlainWords)
	if a.Strike.Feasible {
		return
	}
	*p = append(*p, Phrase{Text: "That is " + outOfReach(kind, a.Strike), Wrong: true,
		Set: []rig.Setting{}})
	p.ways(q, a)
	p.add(". ", PlainWords)
}

// perMinute is the tempo as it was asked for, or in whole strikes where it came of a force.
func perMinute(q Question, a Answer) string {
	if q.Tempo != nil {
		return words.Trimmed(a.Strike.Tempo)
	}
	return fmt.Sprintf("%.0f", a.Strike.Tempo)
}

// ways lists what would bring a tempo within reach. Both cords are wound in one go, and a bag of another length is
// another bag, which only words can offer.
func (p *phrases) ways(q Question, a Answer) {
	var list phrases
	var cords []rig.Setting
	for _, c := range a.Strike.Change {
		switch {
		case strings.Contains(c.What, "."): // of the cords
			cords = append(cords, rig.Setting{Field: c.What, To: c.To})
		case c.What == "rebounds":
			list.remedy("take "+counted(q.Rig.Kind(), int(c.To)), nil, &Asked{Rebounds: int(c.To)})
		case c.What == "tempo":
			list.remedy(fmt.Sprintf("take %s a minute", words.Trimmed(c.To)), nil, &Asked{Tempo: c.To})
		case c.What == "launch":
			list.remedy("strike it softer", nil, &Asked{Launch: c.To})
		case c.What == "bagLength":
			list.add("hang a bag of "+q.Units.Length(c.To), PlainWords)
		default:
			list.remedy(way(c, q.Units), []rig.Setting{{Field: c.What, To: c.To}}, nil)
		}
	}
	if len(cords) > 0 {
		way := "let both cords out"
		if a.Strike.Tempo > a.Strike.Limits.Fastest {
			way = "wind both cords up"
		}
		list.remedy(way, cords, nil)
	}
	p.offer(list)
}

// faults says what is wrong with the bag beside its height, the first two with what would mend them.
func (p *phrases) faults(findings []rig.Finding) {
	const shown = 2
	bad, _ := rig.Worst(findings)
	n := 0
	for _, f := range bad {
		if f.Code == "tooHigh" || f.Code == "tooLow" {
			continue
		}
		if n++; n > shown {
			continue
		}
		*p = append(*p, Phrase{Text: words.Upper(f.Title), Wrong: true, Set: []rig.Setting{}})
		if len(f.Change) > 0 {
			p.add(": ", PlainWords)
			p.remedy(words.Lower(f.Remedy), f.Change, nil)
		}
		p.add(". ", PlainWords)
	}
	if n > shown {
		p.add(fmt.Sprintf("%s wrong, see the checks. ", words.Count(n-shown, "more thing")), PlainWords)
	}
}
