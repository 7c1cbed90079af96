package combo

import (
	"fmt"
	"slices"
	"strings"

	"melodromos/core/input"
)

// refuse names the place of the token at hand, or the end of the line.
func (p *parser) refuse(format string, args ...any) error {
	reason := fmt.Sprintf(format, args...)
	if p.at >= len(p.tokens) {
		return &input.Error{Field: "text", Reason: "at the end: " + reason, Column: p.end, Width: 1}
	}
	t := p.tokens[p.at]
	return &input.Error{Field: "text", Reason: reason, Column: t.column, Width: t.width}
}

// unknown says what cannot be read at hand, and what was meant if it is near a known word.
func (p *parser) unknown() error {
	t, before, next := p.ahead(0), p.ahead(-1), p.ahead(1)
	word := t.text
	for _, pair := range [][2]token{{t, next}, {before, t}} { // "lead slip", "hook lead"
		turned := pair[1].text + " " + pair[0].text
		if _, ok := phrases[turned]; ok && pair[1].binds && pair[0].text != "" {
			return p.refuse("these words stand the other way about: write %s", turned)
		}
	}
	switch {
	case incomplete[word] != "" && sided[Word(word)] != nil:
		return p.refuse("%q needs its side: %s", word, incomplete[word])
	case incomplete[word] != "":
		return p.refuse("%q is only part of a name: %s", word, incomplete[word])
	case digits(word) && len(word) > 1 && strings.Trim(word, "123456") == "":
		return p.refuse("%q is not known; write it %s", word, apart(word))
	case word == "b" && len(before.text) == 1 && number(before.text) > 0:
		return p.refuse("write it together, %sb, or %s to the body", before.text, before.text)
	case len(word) > 2 && strings.Trim(word, "123456b") == "" && word[0] != 'b':
		return p.refuse("%q is not known; write it %s", word, apart(word))
	case digits(word):
		return p.refuse("%q is not known: the punches are 1 to 6", word)
	case strings.TrimLeft(word, "abcdefghijklmnopqrstuvwxyz0123456789") != "" && len([]rune(word)) == 1:
		return p.refuse("%q means nothing here", word)
	case inNames[word] && next.binds && !inNames[next.text] && nearest(next.text) != "": // "lead hok"
		p.at++
		return p.refuse("%q is not known; the nearest word is %q", next.text, nearest(next.text))
	case inNames[word]:
		return p.refuse("%q is no move by itself%s", word, example(word))
	}
	if one, many := strings.CutSuffix(word, "s"); many {
		if ph, ok := phrases[one]; ok && ph.strikes() {
			return p.refuse("how many %s? Write 3 %s, or %s for one", word, word, one)
		}
	}
	if near := nearest(word); near != "" {
		return p.refuse("%q is not known; the nearest word is %q", word, near)
	}
	return p.refuse(
		"%q is not known; write a punch as 1 to 6 or by its name, or a move such as slip lead, duck or step in", word)
}

// apart puts dashes between the punches of a row of figures: 1b2 is 1b-2.
func apart(word string) string {
	text := word[:1]
	for _, r := range word[1:] {
		if r != 'b' {
			text += "-"
		}
		text += string(r)
	}
	return text
}

// inNames are the words that stand in the name of a move.
var inNames = func() map[string]bool {
	list := map[string]bool{"times": true, "then": true, "and": true, "punch": true}
	for name := range phrases {
		for _, w := range strings.Fields(name) {
			list[w] = true
		}
	}
	return list
}()

// example is the shortest name that holds a word, the first by the alphabet of equals.
func example(word string) string {
	best := ""
	for name := range phrases {
		if !slices.Contains(strings.Fields(name), word) {
			continue
		}
		if best == "" || len(name) < len(best) || len(name) == len(best) && name < best {
			best = name
		}
	}
	if best == "" || best == word {
		return ""
	}
	return "; it belongs to a name such as " + best
}

// nearest is the known word with the fewest letters to change or to swap, one of the same letters before others, and
// else the first by the alphabet; "" where nearly all would change.
func nearest(word string) string {
	words := make([]string, 0, len(inNames))
	for w := range inNames {
		if !digits(strings.TrimSuffix(w, "b")) {
			words = append(words, w)
		}
	}
	slices.Sort(words)
	letters := len([]rune(word))
	if letters > 20 {
		return ""
	}
	best, least := "", 2*(1+letters/2)
	for _, w := range words {
		d := 2 * distance([]rune(word), []rune(w))
		if sorted(w) == sorted(word) {
			d--
		}
		if d < least {
			best, least = w, d
		}
	}
	return best
}

func sorted(word string) string {
	letters := []rune(word)
	slices.Sort(letters)
	return string(letters)
}

// distance returns the number of letters inserted, left out, changed or swapped with their neighbour (Damerau 1964;
// each letter once).
func distance(a, b []rune) int {
	rows := make([][]int, len(a)+1)
	for i := range rows {
		rows[i] = make([]int, len(b)+1)
		rows[i][0] = i
	}
	for j := range b {
		rows[0][j+1] = j + 1
	}
	for i, x := range a {
		for j, y := range b {
			change := rows[i][j]
			if x != y {
				change++
			}
			rows[i+1][j+1] = min(change, rows[i+1][j]+1, rows[i][j+1]+1)
			if i > 0 && j > 0 && x == b[j-1] && a[i-1] == y {
				rows[i+1][j+1] = min(rows[i+1][j+1], rows[i-1][j-1]+1)
			}
		}
	}
	return rows[len(a)][len(b)]
}
