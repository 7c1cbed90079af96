package input

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// MostName is the greatest number of characters in a name: of a person, a bag, a gym.
const MostName = 120

// seen says whether a character leaves a mark on its own: a joiner, a blank or an accent alone does not.
func seen(r rune) bool { return unicode.In(r, unicode.L, unicode.N, unicode.P, unicode.S) }

// Name gives a name without blanks around it, or refuses one that is empty, too long, or holds characters that cannot
// be seen. field is what a refusal names.
func Name(field, name string) (string, error) {
	name = strings.TrimSpace(name)
	switch n := utf8.RuneCountInString(name); {
	case n == 0:
		return "", Refuse(field, "expected a name, not blanks")
	case n > MostName:
		return "", Refuse(field, "expected at most %d characters, not %d", MostName, n)
	case !strings.ContainsFunc(name, seen):
		return "", Refuse(field, "expected a name that can be seen")
	case strings.ContainsFunc(name, unicode.IsControl):
		return "", Refuse(field, "expected a name without control characters")
	}
	return name, nil
}
