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

// Name finds somebody's name in texts. A name of two words or more that stands there whole is theirs; a part of it, or
// a name of one word, may be a word like any other.
type Name struct {
	whole, part, alike *regexp.Regexp // nil where there is nothing to look for
}

// Of is the name as it stands on somebody's page.
func Of(name string) Name {
	var parts []string
	for _, part := range strings.FieldsFunc(name, func(r rune) bool { return !unicode.IsLetter(r) }) {
		if utf8.RuneCountInString(part) >= leastLetters {
			parts = append(parts, regexp.QuoteMeta(part))
		}
	}
	var n Name
	if len(parts) > 0 {
		one := "(?:" + strings.Join(parts, "|") + ")"
		several := one + `(?:[\s-]+` + one + `)*`
		n.part, n.alike = word("(?i)", several), word("", several)
	}
	if fields := strings.Fields(name); len(fields) > 1 {
		for i := range fields {
			fields[i] = regexp.QuoteMeta(fields[i])
		}
		n.whole = word("(?i)", strings.Join(fields, `\s+`))
	}
	return n
}

// word is an expression for what stands as a word of its own.
func word(flags, expression string) *regexp.Regexp {
	return regexp.MustCompile(flags + `(^|\PL)` + expression + `(\PL|$)`)
}

func without(text string, what *regexp.Regexp) string {
	if what == nil {
		return text
	}
	return what.ReplaceAllString(text, "${1}"+Somebody+"${2}")
}

// Whole takes the whole name out of a text.
func (n Name) Whole(text string) string { return without(text, n.whole) }

// Parts takes every part of the name out of a text, however many follow one another.
func (n Name) Parts(text string) string { return without(text, n.part) }

// Mentions says whether a part of the name stands in a text as a word of its own.
func (n Name) Mentions(text string) bool { return n.part != nil && n.part.MatchString(text) }

// Alike says whether it stands there in the capitals of the name, so that it is likely to be meant.
func (n Name) Alike(text string) bool { return n.alike != nil && n.alike.MatchString(text) }

// Pattern finds, in a database, what may mention the name: more than Mentions does. "" where nothing can.
func (n Name) Pattern() string {
	if n.part == nil {
		return ""
	}
	return strings.TrimSuffix(strings.TrimPrefix(n.part.String(), `(?i)(^|\PL)`), `(\PL|$)`)
}
