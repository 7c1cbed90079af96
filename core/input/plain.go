package input

import (
	"fmt"
	"strings"
	"unicode"
)

// Plain is the refusal for somebody before a screen: a sentence, with the field by its name in words.
func (e *Error) Plain() string {
	if e.Line > 0 {
		return Sentence("", fmt.Sprintf("line %d: %s", e.Line, e.Reason))
	}
	return Sentence(e.Field, e.Reason)
}

// Sentence says what was expected of a field, without its path. A reason that begins with neither "expected" nor
// "missing" speaks for itself.
func Sentence(field, reason string) string {
	name := Called(field)
	switch what, missing := strings.CutPrefix(reason, "missing; "); {
	case missing && name != "":
		reason = name + " is missing: " + what
	case name != "" && strings.HasPrefix(reason, "expected"):
		reason = name + ": " + reason
	}
	for i, r := range reason {
		if i == 0 {
			reason = string(unicode.ToUpper(r)) + reason[len(string(r)):]
		}
	}
	if reason == "" || strings.ContainsAny(reason[len(reason)-1:], ".!?") {
		return reason
	}
	return reason + "."
}

// called are the fields whose name in a document is not what a coach calls them.
var called = map[string]string{
	"text": "", "doc": "", "rig": "", "body": "", "fist": "Fist speed", "work": "Round length", "mean": "Average gap",
	"least": "Least gap", "lead": "Warning before a cue", "free": "Free counters",
	"moves": "Random cues", "answer": "Answer", "relaxed": "Relaxed length", "pause": "Wait between reps",
	"slower": "Slower tempo", "w": "Scatter",
}

// Called names a field in words: the last part of its path, with the cord that it belongs to.
func Called(field string) string {
	parts := strings.Split(field, ".")
	last, _, _ := strings.Cut(parts[len(parts)-1], "[")
	name, known := called[last]
	if !known {
		name = spaced(last)
	}
	if len(parts) > 1 && name != "" {
		switch cord := parts[len(parts)-2]; cord {
		case "upper", "lower":
			return spaced(cord) + " cord, " + strings.ToLower(name)
		}
	}
	return name
}

// spaced writes ballDiameter as Ball diameter.
func spaced(name string) string {
	var b strings.Builder
	for i, r := range name {
		switch {
		case i == 0:
			b.WriteRune(unicode.ToUpper(r))
		case unicode.IsUpper(r):
			b.WriteRune(' ')
			b.WriteRune(unicode.ToLower(r))
		default:
			b.WriteRune(r)
		}
	}
	return b.String()
}
