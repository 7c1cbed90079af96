package combo

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"
)

// gap is the kind of separator before a token.
type gap int

// The gaps: nothing or a sign; spaces; a sign with no space about it ("1-2", "1+2"), which holds closer together; a
// comma, a plus, a dash with spaces; and "then".
const (
	opening gap = iota // before the first token
	blank
	tight
	listed
	ended
)

// token is a word, a number or a sign, with its place in the line.
type token struct {
	text   string
	column int // from 1, in characters
	width  int // characters
	gap    gap
	binds  bool // a name of several words goes on across the gap: a space, or a dash without spaces
}

// scan cuts a line into tokens, in small letters.
func scan(text string) []token {
	list := make([]token, 0, len(text)/2+2)
	var word []rune
	column, from := 0, 0
	between := "" // what stands between the last token and the next
	add := func(t token) {
		if len(list) > 0 {
			t.gap, t.binds = gapOf(between)
		}
		between = ""
		list = append(list, t)
	}
	flush := func() {
		if len(word) > 0 {
			add(token{text: string(word), column: from, width: len(word)})
			word = word[:0]
		}
	}
	for _, r := range text {
		column++
		switch {
		case unicode.IsLetter(r) || unicode.IsDigit(r):
			if len(word) == 0 {
				from = column
			}
			word = append(word, unicode.ToLower(r))
		case r == ':':
			flush()
			word, from = append(word, r), column
		case r == '×' || r == '*':
			flush()
			add(token{text: "x", column: column, width: 1})
		case unicode.IsSpace(r):
			flush()
			between += " "
		case strings.ContainsRune("-–—·,;.+/>→", r):
			flush()
			if r == '–' || r == '—' || r == '·' {
				r = '-'
			}
			between += string(r)
		default:
			flush()
			between += "" // a sign stands by itself
			add(token{text: sign(r), column: column, width: 1})
		}
	}
	flush()
	return joined(split(list))
}

// sign reads any bracket as a round one.
func sign(r rune) string {
	switch r {
	case '[', '{':
		return "("
	case ']', '}':
		return ")"
	}
	return string(r)
}

// gapOf reads what stands between two tokens, and whether a name goes on across it.
func gapOf(between string) (gap, bool) {
	signs := strings.ReplaceAll(between, " ", "")
	switch {
	case between == "":
		return tight, false
	case signs == "":
		return blank, true
	case signs == between:
		return tight, signs == "-"
	}
	return listed, false
}

// split parts a multiplier from what it stands on: "2x3", "3x", "x3".
func split(list []token) []token {
	if !slices.ContainsFunc(list, func(t token) bool { return strings.IndexByte(t.text, 'x') >= 0 }) {
		return list
	}
	out := make([]token, 0, len(list))
	for _, t := range list {
		at := strings.IndexByte(t.text, 'x')
		if last := strings.LastIndexByte(t.text, 'x'); last > 0 && digits(t.text[last+1:]) {
			at = last
		}
		if at < 0 {
			out = append(out, t)
			continue
		}
		before, behind := t.text[:at], t.text[at+1:]
		_, known := phrases[before]
		if !(before == "" || digits(before) || known) || !(behind == "" || digits(behind)) || before+behind == "" ||
			behind == "" && !digits(before) {
			out = append(out, t)
			continue
		}
		if n := utf8.RuneCountInString(before); n > 0 {
			out = append(out, token{before, t.column, n, t.gap, t.binds}, token{"x", t.column + n, 1, tight, false})
		} else {
			out = append(out, token{"x", t.column, 1, t.gap, false})
		}
		if behind != "" {
			out = append(out, token{behind, t.column + t.width - len(behind), len(behind), tight, false})
		}
	}
	return out
}

// joined takes the words that only join out of the row: "then" ends what went before, "and" parts two moves.
func joined(list []token) []token {
	out := list[:0] // no longer than what is left to read
	pending := opening
	for i, t := range list {
		switch t.text {
		case "then":
			pending = ended
			continue
		case "and", "&":
			if len(out) > 0 && i+1 < len(list) && out[len(out)-1].text == "bob" && list[i+1].text == "weave" {
				list[i+1].gap, list[i+1].binds = blank, true
			} else {
				pending = max(pending, listed)
			}
			continue
		}
		if pending != opening && len(out) > 0 {
			t.gap, t.binds = max(pending, t.gap), false
		}
		pending = opening
		out = append(out, t)
	}
	return out
}

func digits(s string) bool {
	for i := range len(s) {
		if s[i] < '0' || s[i] > '9' {
			return false
		}
	}
	return s != ""
}
