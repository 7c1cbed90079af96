package compose

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"melodromos/core/bench"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/words"
)

// Piece is a stretch of the sentence that says a drill: plain words, a part that the coach can take hold of, or a
// remedy that is pressed.
type Piece struct {
	Text   string   `json:"text"`
	Fields []string `json:"fields" doc:"knobs that a press opens, the one that is stepped first; none for plain words"`
	With   Patch    `json:"with" doc:"what a press sets, of a remedy"`
	Wrong  bool     `json:"wrong" doc:"it says what stands in the way"`
}

// saying is a sentence that is being put together.
type saying []Piece

func (p Piece) String() string { return p.Text }

func plain(text string) Piece { return Piece{Text: text, Fields: []string{}, With: Patch{}} }

func (s *saying) plain(text string) { *s = append(*s, plain(text)) }

// part is one that can be taken hold of: of the fields that are named, those that there is a knob for; plain words
// where there is none.
func (s *saying) part(text string, of []Knob, fields ...string) {
	p := plain(text)
	for _, f := range fields {
		for _, k := range of {
			if k.Field == f || strings.HasSuffix(f, ".") && strings.HasPrefix(k.Field, f) {
				p.Fields = append(p.Fields, k.Field)
			}
		}
	}
	*s = append(*s, p)
}

func (s *saying) wrong(text string) {
	*s = append(*s, Piece{Text: text, Fields: []string{}, With: Patch{}, Wrong: true})
}

// offer lists remedies after a colon.
func (s *saying) offer(list []Piece) { *s = append(*s, words.Ways(list, plain)...) }

func remedy(text string, with Patch) Piece { return Piece{Text: text, Fields: []string{}, With: with} }

var paces = map[drill.Pace]string{drill.Flow: "in an easy flow", drill.Combining: "at combination pace",
	drill.Power: "for power", drill.Speedy: "for speed", drill.OwnRhythm: "in their own rhythm"}

var guided = map[drill.Guidance]string{drill.Fading: "fades out", drill.Called: "calls every rep",
	drill.Partly: "calls every second rep", drill.Alone: "stays silent"}

// sayLine says a combination: how it is thrown, how often and how long, who calls it, and what does not fit.
func sayLine(c drill.CombinationDrill, rep drill.Repetition, out SwingLine, a *Answer, units words.Units) []Piece {
	var s saying
	k := a.Knobs
	s.plain("Thrown ")
	s.part(paces[c.Pace], k, "pace", "range")
	if c.Pull > 0 {
		s.plain(", the bag ")
		s.part("swinging", k, "hangs", "noTouch")
		s.plain(", let go from ")
		s.part(units.Length(c.Pull), k, "pull")
	} else {
		s.plain(", ")
		s.part(a.Effort, k, "fist")
		s.plain(", ")
		s.part(lands(c, k), k, "landing", "hangs", "rhythm", "guard", "clock", "earOnly")
	}
	if out.Inside != nil {
		s.plain(": punches come at ")
		tempo := fmt.Sprintf("%.0f a minute", *out.Inside)
		if len(out.Ties) > 0 {
			s.part(tempo, k, "fist", "tempo", "slower")
		} else {
			s.part(tempo, k, "tempo", "slower")
		}
	}
	s.plain(". ")
	times := words.Count(out.Times, "rep")
	if c.Work > 0 {
		s.plain(times)
	} else {
		s.part(times, k, "repetitions", "ends")
	}
	if out.Times > 1 {
		s.plain(", one every ")
		if every := words.Trimmed(c.Every(rep)) + " s"; c.Played == nil {
			s.part(every, k, "pause")
		} else {
			s.plain(every)
		}
	} else {
		s.plain(", then ")
		s.part(words.Trimmed(c.Pause)+" s of rest", k, "pause")
	}
	if c.Work > 0 {
		s.plain(", in a ")
		s.part(words.Trimmed(c.Work)+" s", k, "work", "ends")
		s.plain(" round")
	} else {
		s.plain(fmt.Sprintf(": %s s in all", words.Trimmed(math.Round(a.Seconds))))
	}
	s.plain(". Called by ")
	called := "numbers"
	if c.Names {
		called = "names"
	}
	s.part(called, k, "names", "inside")
	s.plain(", the voice ")
	s.part(guided[c.Guidance], k, "guidance")
	s.plain(". ")
	s.part(cued(c.Cues), k, "cues", "cues.")
	s.plain(".")
	s.misfit(rep, out)
	return s
}

// guards say how a slip bag that hangs still is worked.
var guards = map[drill.Guard]string{drill.RoundIt: "go round it", drill.ThroughIt: "go through beside it",
	drill.StopShort: "stop short of it"}

// lands says which of the bag's returns the strikes meet, and what of it is out of the ordinary.
func lands(c drill.CombinationDrill, knobs []Knob) string {
	text := meets(c, knobs)
	if c.Clock == drill.ByBeat && has(knobs, "clock") {
		text += ", held to the beat"
	}
	if c.EarOnly {
		text += ", the bag not seen"
	}
	return text
}

func meets(c drill.CombinationDrill, knobs []Knob) string {
	switch {
	case c.Played != nil:
		return "in a rhythm of its own"
	case c.Landing == drill.Freely:
		return "without waiting for the bag"
	case c.Rhythm == drill.SecondReturn:
		return "on every second return"
	case c.Rhythm == drill.NoReturn:
		if still := guards[c.Guard]; still != "" && has(knobs, "guard") {
			return "the bag hanging still, to " + still
		}
		if has(knobs, "hangs") {
			return "the bag hanging still"
		}
		return "each on a still bag"
	}
	return "on every return"
}

func has(knobs []Knob, field string) bool {
	return slices.ContainsFunc(knobs, func(k Knob) bool { return k.Field == field })
}

// cued says what comes unforeseen.
func cued(c *drill.Cues) string {
	switch {
	case c == nil:
		return "No random cues"
	case len(c.Attacks) > 0:
		return fmt.Sprintf("An attack is named at random, every %s s or so", words.Trimmed(c.Mean))
	}
	return fmt.Sprintf("A defence is called at random, every %s s or so", words.Trimmed(c.Mean))
}

// misfit says the first move that does not fit, and what would make it.
func (s *saying) misfit(rep drill.Repetition, out SwingLine) {
	late := rep.Late()
	if len(late) == 0 {
		return
	}
	m := late[0]
	s.plain(" ")
	s.wrong(fmt.Sprintf("The %s%s is %.0f ms late", which(out.Moves, m.Move), m.Placed.Move, 1000*m.Late))
	var list []Piece
	for _, o := range m.Fits {
		switch o.What {
		case "return":
			if p, ok := meeting(out, m, int(o.To)); ok {
				list = append(list, p)
			}
		case "fist":
			text := "throw softer"
			if o.To > out.Fist {
				text = "throw harder"
			}
			list = append(list, remedy(text, Patch{"fist": o.To, "tempo": 0, "slower": 0}))
		case "tempo":
			list = append(list, remedy(fmt.Sprintf("take %.0f a minute", o.To), Patch{"tempo": o.To}))
		case "pull":
			list = append(list, remedy("let it go from further back", Patch{"pull": o.To}))
		}
	}
	s.offer(list)
	s.plain(".")
}

// which tells a move from others that are called the same: "first ", "second ", "last "; "" where it is the only one.
func which(moves []ComposedMove, at int) string {
	var same []int
	for i, o := range moves {
		if o.Text == moves[at].Text {
			same = append(same, i)
		}
	}
	switch n := slices.Index(same, at); {
	case len(same) == 1:
		return ""
	case n == len(same)-1:
		return "last "
	default:
		return words.Ordinal(n+1) + " "
	}
}

// meeting is the remedy of another return, named after the strike before.
func meeting(out SwingLine, m drill.Landed, to int) (Piece, bool) {
	before := -1
	for i, o := range out.Moves[:m.Move] {
		if o.Kind == combo.Strike {
			before = i
		}
	}
	line, err := combo.Parse(out.Canonical)
	if err != nil || before < 0 {
		return Piece{}, false
	}
	next, err := line.Counted(before, to)
	if err != nil {
		return Piece{}, false
	}
	when := fmt.Sprintf("throw it on return %d", to)
	if to == m.Return+1 {
		when = "throw it one return later"
	}
	return remedy(when, Patch{"text": next.String()}), true
}

// sayTechnique says a technique of the speed bag: what the hands do, at which tempo, how long, and on whose time. Where
// it cannot be run it says why, with what would help.
func sayTechnique(d drill.SpeedBagDrill, a *Answer, reach rig.TempoAnswer) []Piece {
	var s saying
	k := a.Knobs
	s.part(techniqueTexts[d.Technique], k, "technique")
	s.plain(", ")
	hand := string(d.FirstHand) + " hand first"
	if d.PerHand == 0 && len(d.Sets()) > 0 && d.Technique != drill.DoublePunch {
		hand = string(d.FirstHand) + " hand"
	}
	if has(k, "firstHand") {
		s.part(hand, k, "firstHand")
		s.plain(", ")
	}
	s.part(words.Count(d.Rebounds, "rebound"), k, "rebounds")
	s.plain(" between strikes, at ")
	s.part(words.Trimmed(d.Tempo)+" a minute", k, "tempo")
	if reach.Feasible {
		s.plain(", " + a.Effort)
	}
	if has(k, "perHand") {
		s.plain(", ")
		s.part(sets(d), k, "perHand", "scheme")
	}
	s.plain(". ")
	if d.Work > 0 {
		s.plain("A ")
		s.part(words.Trimmed(d.Work)+" s", k, "work", "ends")
		s.plain(" round")
	} else {
		s.part(words.Count(d.Strikes, "strike"), k, "strikes", "ends")
		s.plain(fmt.Sprintf(" in %s s", words.Trimmed(math.Round(a.Seconds))))
	}
	keeper := "the bag"
	if d.Clock == drill.ByBeat {
		keeper = "the beat"
	}
	s.plain("; ")
	s.part(keeper, k, "clock")
	s.plain(" sets the time, the bag ")
	seen := "seen and heard"
	if d.EarOnly {
		seen = "heard only"
	}
	s.part(seen, k, "earOnly")
	s.plain(".")
	switch {
	case reach.Feasible && a.Problem != "":
		s.plain(" ")
		s.wrong(strings.TrimSuffix(input.Sentence(a.Field, a.Problem), "."))
		s.plain(".")
	case !reach.Feasible:
		s.plain(" ")
		var list []Piece
		for _, c := range a.Change {
			switch c.What {
			case "rebounds":
				list = append(list, remedy("take "+words.Count(int(c.To), "rebound"), Patch{"rebounds": int(c.To)}))
			case "tempo":
				list = append(list, remedy("take "+words.Trimmed(c.To)+" a minute", Patch{"tempo": c.To}))
			}
		}
		s.wrong(bench.Unreachable(rig.Speed, reach))
		s.offer(list)
		s.plain(".")
	}
	return s
}

// sets says how the hands take turns.
func sets(d drill.SpeedBagDrill) string {
	switch {
	case d.PerHand == 0 && d.Technique == drill.DoublePunch:
		return "the hands never swapped"
	case d.PerHand == 0:
		return "never changing hands"
	}
	text := words.Number(d.PerHand) + " a side"
	if d.Technique == drill.DoublePunch {
		text = "hands swapped after " + words.Number(d.PerHand)
	}
	switch d.Scheme {
	case drill.Falling:
		text += ", then fewer"
	case drill.Rising:
		text += ", one more each time"
	}
	return text
}
