package combo

import (
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"melodromos/core/input"
)

// Limits of what is read.
const (
	MaxText     = 4000 // characters
	MaxMoves    = 400  // expanded
	maxTimes    = 50
	maxRebounds = 9
	maxDepth    = 8
)

// token is a word, a number or a sign, with its column from 1 in characters.
type token struct {
	text   string
	column int
	joined bool // by a space or a dash to the one before: two-word moves bind across these
}

// Parse reads a line as people type it: commas, dashes or spaces between moves, capitals or not, numbers or names, "one two", |
// between parts, (1-2)x3, 1b or "jab body", ! for the power shot, 2:3 for three rebounds. An unknown word is refused with its
// column and the nearest known word. The refusal names the field text.
func Parse(text string) (Combination, error) {
	if n := utf8.RuneCountInString(text); n > MaxText {
		return Combination{}, input.Refuse("text", "expected at most %d characters, not %d", MaxText, n)
	}
	p := parser{tokens: scan(text)}
	var c Combination
	for {
		items, err := p.items(0)
		if err != nil {
			return Combination{}, err
		}
		if len(items) == 0 {
			return Combination{}, p.refuse("expected a move here")
		}
		c.Parts = append(c.Parts, items)
		if p.peek() == "" {
			break
		}
		p.at++ // the |
	}
	if n := c.count(); n > MaxMoves {
		return Combination{}, input.Refuse("text", "expected at most %d moves, not %d", MaxMoves, n)
	}
	return c, nil
}

type parser struct {
	tokens []token
	at     int
}

func (p *parser) peek() string {
	if p.at < len(p.tokens) {
		return p.tokens[p.at].text
	}
	return ""
}

// refuse names the column of the token at hand, or the end of the line.
func (p *parser) refuse(format string, args ...any) error {
	if p.at >= len(p.tokens) {
		return input.Refuse("text", "at the end: "+format, args...)
	}
	return input.Refuse("text", "column %d: "+format, append([]any{p.tokens[p.at].column}, args...)...)
}

// items reads moves and groups up to a |, a closing bracket or the end.
func (p *parser) items(depth int) ([]Item, error) {
	if depth > maxDepth {
		return nil, p.refuse("expected fewer brackets within brackets")
	}
	list := make([]Item, 0, 8)
	for {
		switch next := p.peek(); next {
		case "", "|":
			if depth > 0 {
				return nil, p.refuse("expected a closing bracket: a group stands within one part")
			}
			return list, nil
		case ")":
			if depth == 0 {
				return nil, p.refuse("a bracket is closed that was not opened")
			}
			return list, nil
		case "(":
			group, err := p.group(depth)
			if err != nil {
				return nil, err
			}
			list = append(list, group...)
		default:
			m, err := p.move()
			if err != nil {
				return nil, err
			}
			list = append(list, Item{Move: m})
		}
	}
}

// group reads (…)x3. One that is done once is no group, and one that holds nothing but a group is that one so many times more.
func (p *parser) group(depth int) ([]Item, error) {
	p.at++
	inner, err := p.items(depth + 1)
	if err != nil {
		return nil, err
	}
	if len(inner) == 0 {
		return nil, p.refuse("expected a move in the brackets")
	}
	p.at++ // the bracket
	times := 1
	if next := p.peek(); len(next) > 1 && (next[0] == 'x') && digits(next[1:]) {
		n, err := strconv.Atoi(next[1:])
		if err != nil || n < 1 || n > maxTimes {
			return nil, p.refuse("expected a group 1 to %d times, not %s", maxTimes, next[1:])
		}
		times = n
		p.at++
	}
	if times == 1 {
		return inner, nil
	}
	return []Item{{Group: &Group{inner, times}}}, nil
}

func digits(s string) bool {
	return s != "" && strings.Trim(s, "0123456789") == ""
}

// move reads one move with what hangs on it.
func (p *parser) move() (Move, error) {
	body := false
	if p.peek() == "body" && p.at+1 < len(p.tokens) {
		body = true
		p.at++
	}
	m, words := p.phrase()
	if words == 0 {
		return m, p.unknown()
	}
	if body && !m.Punch() {
		return m, p.refuse("expected a punch after \"body\"")
	}
	m.Body = m.Body || body
	p.at += words
	if m.Punch() {
		for _, suffix := range toBody {
			if p.follows(suffix) {
				m.Body = true
				p.at += len(suffix)
				break
			}
		}
	}
	for {
		switch next := p.peek(); {
		case next == "!":
			if m.Kind() != Strike {
				return m, p.refuse("only a strike can be the power shot")
			}
			m.Accent = true
		case strings.HasPrefix(next, ":"):
			n, err := strconv.Atoi(next[1:])
			if m.Kind() != Strike || err != nil || n < 1 || n > maxRebounds {
				return m, p.refuse("expected rebounds from 1 to %d after a strike, such as 2:3", maxRebounds)
			}
			m.Rebounds = int8(n)
		default:
			return m, nil
		}
		p.at++
	}
}

var toBody = [][]string{{"to", "the", "body"}, {"to", "body"}, {"body"}}

// follows says whether these words come next.
func (p *parser) follows(words []string) bool {
	if p.at+len(words) > len(p.tokens) {
		return false
	}
	for i, w := range words {
		if t := p.tokens[p.at+i]; t.text != w || !t.joined {
			return false
		}
	}
	return true
}

// phrase finds the longest name of a move that begins here, and of how many words it is.
func (p *parser) phrase() (Move, int) {
	var room [64]byte
	name := room[:0]
	found, words := Move{}, 0
	for n := 0; n < longest && p.at+n < len(p.tokens); n++ {
		t := p.tokens[p.at+n]
		if n > 0 {
			if !t.joined || words == 1 && found.Punch() && len(t.text) == 1 {
				break
			}
			name = append(name, ' ')
		}
		name = append(name, t.text...)
		if m, ok := phrases[string(name)]; ok {
			found, words = m, n+1
		}
	}
	return found, words
}

// unknown says what cannot be read here and which word is nearest.
func (p *parser) unknown() error {
	word := p.peek()
	if ways := incomplete[word]; ways != "" {
		return p.refuse("%q needs its side: %s", word, ways)
	}
	if digits(word) && len(word) > 1 {
		return p.refuse("%q is not known; write it %s", word, strings.Join(strings.Split(word, ""), "-"))
	}
	return p.refuse("%q is not known; the nearest word is %q", word, nearest(word))
}

// scan cuts a line into tokens, in small letters.
func scan(text string) []token {
	text = strings.ReplaceAll(strings.ToLower(text), "×", "x")
	list := make([]token, 0, len(text)/2+2)
	column, from, begins, broken := 0, 0, -1, true
	flush := func(end int) {
		if begins >= 0 {
			list = append(list, token{text[begins:end], from, !broken})
			begins, broken = -1, false
		}
	}
	for at, r := range text {
		column++
		switch {
		case unicode.IsLetter(r) || unicode.IsDigit(r):
			if begins < 0 {
				begins, from = at, column
			}
		case r == '-' || r == '–' || r == '—' || r == '·' || unicode.IsSpace(r):
			flush(at)
		case r == ':':
			flush(at)
			begins, from = at, column
		default:
			flush(at)
			broken = r != '!' // two-word moves do not bind across it
			if r != ',' && r != ';' && r != '.' {
				list = append(list, token{text[at : at+utf8.RuneLen(r)], column, false})
			}
		}
	}
	flush(len(text))
	return list
}

// phrases are the names of all moves.
var phrases, incomplete, longest = func() (map[string]Move, map[string]string, int) {
	all := map[string]Move{}
	need := map[string]string{}
	for w, e := range vocabulary {
		if e.ways == nil {
			all[string(w)] = Move{Word: w}
			continue
		}
		for _, way := range e.ways {
			all[string(w)+" "+way] = Move{Word: w, Way: way}
			if e.kind == Strike { // "lead knee" as well as "knee lead"
				all[way+" "+string(w)] = Move{Word: w, Way: way}
			}
		}
		need[string(w)] = orList(string(w), e.ways)
	}
	for name, w := range map[string]Word{
		"jab": "1", "lead straight": "1", "cross": "2", "rear straight": "2", "straight": "2", "lead hook": "3", "rear hook": "4",
		"lead uppercut": "5", "rear uppercut": "6", "one": "1", "two": "2", "three": "3", "four": "4", "five": "5", "six": "6",
		"bob": Duck, "double punch": Double, "guard": Cover,
	} {
		all[name] = Move{Word: w}
	}
	for n := range 6 {
		d := strconv.Itoa(n + 1)
		all[d+"b"] = Move{Word: Word(d), Body: true}
	}
	all["overhand"] = Move{Word: Overhand, Way: "rear"} // thrown by the rear hand where nothing else is said
	all["slip inside"], all["slip outside"] = Move{Word: Slip, Way: "lead"}, Move{Word: Slip, Way: "rear"}
	all["switch feet"], all["let one go"] = Move{Word: Switch}, Move{Word: WaitOne}
	all["step forward"] = Move{Word: StepTo, Way: "in"}
	delete(need, "overhand")
	need["hook"], need["uppercut"] = "lead hook or rear hook", "lead uppercut or rear uppercut"
	need["push"], need["round"], need["low"] = orList("push kick", sides), orList("round kick", sides), orList("low kick", sides)
	long := 0
	for name := range all {
		long = max(long, strings.Count(name, " ")+1)
	}
	return all, need, long
}()

func orList(word string, ways []string) string {
	list := make([]string, len(ways))
	for i, way := range ways {
		list[i] = word + " " + way
	}
	return strings.Join(list, " or ")
}

// nearest is the known word with the fewest letters to change (Levenshtein 1966), the first by the alphabet of equals.
func nearest(word string) string {
	var words []string
	for name := range phrases {
		words = append(words, strings.Fields(name)...)
	}
	slices.Sort(words)
	best, least := "", len(word)+100
	for _, w := range slices.Compact(words) {
		if d := distance([]rune(word), []rune(w)); d < least {
			best, least = w, d
		}
	}
	return best
}

func distance(a, b []rune) int {
	row := make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i, x := range a {
		before := row[0]
		row[0] = i + 1
		for j, y := range b {
			change := before
			if x != y {
				change++
			}
			before = row[j+1]
			row[j+1] = min(change, row[j+1]+1, row[j]+1)
		}
	}
	return row[len(b)]
}
