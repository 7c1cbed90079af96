// Package erasing settles what becomes of a name when somebody is erased for good.
package erasing

import (
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"melodromos/core/input"
)

// Somebody stands where a name stood.
const Somebody = "somebody"

// Confirmed refuses an erasure whose name, as it was typed, is not that of the person. Blanks and capitals do not
// matter.
func Confirmed(name, typed string) error {
	plain := func(text string) string { return strings.ToLower(strings.Join(strings.Fields(text), " ")) }
	if plain(name) != plain(typed) {
		return input.Refuse("name", "expected the name as it stands on their page: %s", name)
	}
	return nil
}

// leastLetters of a part of a name are looked for: shorter ones stand in too many words. Assumed.
const leastLetters = 3

// Renaming gives what is called after somebody a name without them: parts of their name that stand as words of their
// own make way for one word, however many follow one another.
func Renaming(name string) func(string) string {
	var parts []string
	for _, part := range strings.FieldsFunc(name, func(r rune) bool { return !unicode.IsLetter(r) }) {
		if utf8.RuneCountInString(part) >= leastLetters {
			parts = append(parts, regexp.QuoteMeta(part))
		}
	}
	if len(parts) == 0 {
		return func(text string) string { return text }
	}
	any := "(?:" + strings.Join(parts, "|") + ")"
	words := regexp.MustCompile(`(?i)(^|\PL)` + any + `(?:[\s-]+` + any + `)*(\PL|$)`)
	return func(text string) string { return words.ReplaceAllString(text, "${1}"+Somebody+"${2}") }
}
