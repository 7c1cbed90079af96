package bench

import (
	"fmt"
	"math"

	"melodromos/core/rig"
	"melodromos/core/words"
)

// strikeSaid says in plain words at what tempo to strike and how, or why not and what to change instead.
func strikeSaid(q Question, a Answer) string {
	var p phrases
	p.strike(q, a)
	return words.Joined(p)
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

// way says one change of a measure that would bring a tempo within reach.
func way(c rig.Change, units words.Units) string {
	switch c.What {
	case "anchorHeight":
		return "put the anchor at " + units.Length(c.To)
	case "chain":
		return "hang it on " + units.Length(c.To) + " of chain"
	case "poleLength":
		return "take a pole of " + units.Length(c.To)
	case "ballMass":
		return fmt.Sprintf("take a ball of %s kg", words.Trimmed(c.To))
	}
	return fmt.Sprintf("take a spring of %.0f newton-metres a radian", c.To)
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
