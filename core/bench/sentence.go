package bench

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

// Said puts a rig's answer into the sentence a coach asks for: at what tempo to strike and how, or why not and what to
// change instead.
func Said(kind rig.Kind, a rig.TempoAnswer, ability trainee.Ability, units words.Units) string {
	if a.Feasible {
		return words.Upper(tempo(kind, a, ability, units)) + "."
	}
	return strings.TrimSpace(Unreachable(kind, a) + ". " + advised(a, units))
}

// Unreachable says why a tempo is out of reach, without a full stop.
func Unreachable(kind rig.Kind, a rig.TempoAnswer) string {
	return words.Trimmed(a.Tempo) + " a minute is " + outOfReach(kind, a)
}

// outOfReach says on which side a tempo lies out of reach, whether the bag or the hands do not allow it, and what is
// within reach.
func outOfReach(kind rig.Kind, a rig.TempoAnswer) string {
	with := counted(kind, a.Limits.Rebounds)
	within := fmt.Sprintf("%s with %s", spanOf(a.Limits), with)
	switch {
	case a.ByBag && kind == rig.Slip:
		return "a swing of next to nothing: within reach is " + within
	case a.ByBag && len(a.Change) == 1 && a.Change[0].What == "launch":
		return "more than these hands can strike: they reach " + within
	case a.ByBag && a.Tempo < a.Limits.Slowest:
		return "too soft to be a strike: these hands reach " + within
	case a.ByBag && a.Tempo > a.Limits.Fastest:
		return "too quick for these hands: they reach " + within
	case a.ByBag:
		return fmt.Sprintf("out of these hands' reach with %s", with)
	case a.Tempo < a.Limits.Slowest:
		return "too slow for this bag: within reach is " + within
	}
	return "too fast for this bag: within reach is " + within
}

// spanOf writes a range in whole numbers on its inner side; with a decimal where it is a narrow one.
func spanOf(l rig.Tempo) string {
	low, high := math.Ceil(l.Slowest), math.Floor(l.Fastest)
	if high-low >= 1 {
		return fmt.Sprintf("%.0f to %.0f", low, high)
	}
	if near := words.Trimmed(l.Slowest); near == words.Trimmed(l.Fastest) {
		return near
	}
	return words.Trimmed(l.Slowest) + " to " + words.Trimmed(l.Fastest)
}

// tempo says what to do at the tempo that was found.
func tempo(kind rig.Kind, a rig.TempoAnswer, ability trainee.Ability, units words.Units) string {
	if kind == rig.Slip {
		return fmt.Sprintf("slip %s at %.0f a minute, the bag drawn back %s", counted(kind, a.Limits.Rebounds), a.Tempo,
			units.Length(a.Launch))
	}
	return fmt.Sprintf("strike at %.0f a minute: %s, %s", a.Tempo, counted(kind, a.Limits.Rebounds),
		ability.Effort(a.FistSpeed))
}

// counted says what one count stands for: rebounds at a speed bag, which return or pass elsewhere.
func counted(kind rig.Kind, n int) string {
	thing := "return"
	switch kind {
	case rig.Speed:
		if n == 1 {
			return "one rebound"
		}
		return words.Number(n) + " rebounds"
	case rig.Slip:
		thing = "pass"
	}
	if n == 1 {
		return "every " + thing
	}
	return "every " + words.Ordinal(n) + " " + thing
}

// advised puts the changes that would help into one sentence.
func advised(a rig.TempoAnswer, units words.Units) string {
	var ways []string
	cords := false
	for _, c := range a.Change {
		switch c.What {
		case "rebounds":
			ways = append(ways, "count "+words.Number(int(c.To)))
		case "bagLength":
			ways = append(ways, "hang a bag of "+units.Length(c.To))
		case "anchorHeight":
			ways = append(ways, "put the anchor at "+units.Length(c.To))
		case "chain":
			ways = append(ways, "hang it on "+units.Length(c.To)+" of chain")
		case "poleLength":
			ways = append(ways, "take a pole of "+units.Length(c.To))
		case "ballMass":
			ways = append(ways, fmt.Sprintf("take a ball of %s kg", words.Trimmed(c.To)))
		case "spring":
			ways = append(ways, fmt.Sprintf("take a spring of %.0f newton-metres a radian", c.To))
		case "upper.relaxed", "lower.relaxed":
			if !cords {
				way := "let both cords out"
				if a.Tempo > a.Limits.Fastest {
					way = "wind both cords up"
				}
				ways = append(ways, way)
			}
			cords = true
		case "launch":
			ways = append(ways, "strike it softer")
		case "tempo":
			ways = append(ways, fmt.Sprintf("take %s a minute", strconv.FormatFloat(c.To, 'f', -1, 64)))
		}
	}
	if len(ways) == 0 {
		return ""
	}
	return words.Upper(strings.Join(ways, ", or ")) + "."
}

// hang says how to hang a rig for somebody, or "" where that is not known.
func hang(kind rig.Kind, s rig.SetUp, name string, units words.Units) string {
	if s.Needs != "" || name == "" {
		return ""
	}
	verb := "hang"
	if kind == rig.Reflex {
		verb = "set"
	}
	switch {
	case s.Move > 0:
		return fmt.Sprintf("for %s %s it %s higher", name, verb, units.Length(s.Move))
	case s.Move < 0:
		return fmt.Sprintf("for %s %s it %s lower", name, verb, units.Length(-s.Move))
	case kind == rig.Reflex:
		return "it stands right for " + name
	}
	return "it hangs right for " + name
}
