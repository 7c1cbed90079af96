package combo

import (
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"melodromos/core/input"
)

// Limits of what is read.
const (
	MaxText     = 4000 // characters
	MaxMoves    = 400  // expanded
	maxTimes    = MaxMoves
	maxRebounds = 9
	maxDepth    = 8
)

// Parse reads a line for an orthodox boxer; a line in lead and rear, as String prints it, reads the same for either
// stance.
func Parse(text string) (Combination, error) {
	c, _, err := Read(text, Orthodox)
	return c, err
}

// Read reads a line as coaches type it: numbers or names, dashes, commas, spaces, +, /, "then" or "and" between the
// moves, capitals or not, | between parts, (1-2)x3 or 1-2 x3, 100 jabs, double jab, 1b or "jab to the body", ! for
// the power shot, 2:3 for three rebounds. Left and right are lead and rear by the stance, also after a switch of the
// feet. A hook, an uppercut or a kick without its hand is the hand that alternates; each of these is told in a Note.
// An unknown word is refused with its column and the nearest known word, and so is a line that could be meant in two
// ways. The refusal names the field text.
func Read(text string, s Stance) (Combination, []Note, error) {
	if n := utf8.RuneCountInString(text); n > MaxText {
		return Combination{}, nil, input.Refuse("text", "expected at most %d characters, not %d", MaxText, n)
	}
	p := parser{tokens: scan(text), end: utf8.RuneCountInString(text) + 1}
	var parts [][]node
	total := 0
	for {
		row, err := p.row(0)
		if err != nil {
			return Combination{}, nil, err
		}
		if len(row) == 0 {
			return Combination{}, nil, p.refuse("expected a move here")
		}
		parts, total = append(parts, row), total+size(row)
		if p.peek() == "" {
			break
		}
		p.at++ // the |
	}
	if total > MaxMoves {
		return Combination{}, nil, input.Refuse("text", "expected at most %d moves, not %s", MaxMoves, counted(total))
	}
	return resolve(parts, s)
}

// counted writes a number of moves, or that there are more than anybody counts.
func counted(n int) string {
	if n > 1e6 {
		return "millions"
	}
	return strconv.Itoa(n)
}

// node is one element of a line: a move as it was said, or a group that is done a number of times.
type node struct {
	*phrase
	accent, stop bool
	rebounds     int8
	token, words int
	gap          gap
	column       int
	width        int
	typed        string
	copies       int    // of the same strike: a double jab has 2
	target       target // as it was said
	object       *node  // what is feinted, parried or blocked
	group        []node
	times        int
}

type target int

const (
	unsaid target = iota
	toHead
	toBody
)

// size is the number of moves of a row.
func size(row []node) int {
	n := 0
	for _, it := range row {
		switch {
		case it.group != nil:
			n += it.times * size(it.group)
		case it.then != "":
			n += it.copies + 1
		default:
			n += it.copies
		}
		n = min(n, 1e9)
	}
	return n
}

type parser struct {
	tokens []token
	at     int
	end    int // the column after the last
}

func (p *parser) peek() string { return p.ahead(0).text }

// ahead is the token n further on; an empty one behind the last.
func (p *parser) ahead(n int) token {
	if p.at+n >= 0 && p.at+n < len(p.tokens) {
		return p.tokens[p.at+n]
	}
	return token{}
}

// row reads moves and groups up to a |, a closing bracket or the end.
func (p *parser) row(depth int) ([]node, error) {
	if depth > maxDepth {
		return nil, p.refuse("expected fewer brackets within brackets")
	}
	list := make([]node, 0, 8)
	for {
		next := p.peek()
		if n, words := p.times(); words > 0 && next != "" {
			if err := p.again(&list, n, words); err != nil {
				return nil, err
			}
			continue
		}
		switch next {
		case "", "|":
			if depth > 0 {
				return nil, p.refuse("expected a closing bracket: a group stands within one part")
			}
			return list, nil
		case ")":
			if depth == 0 {
				return nil, p.refuse("this bracket closes none that was opened")
			}
			return list, nil
		case "(":
			if err := p.group(&list, depth); err != nil {
				return nil, err
			}
		default:
			it, err := p.several(depth)
			if err != nil {
				return nil, err
			}
			list = append(list, it)
		}
	}
}

// group reads (…). What stands in brackets with nothing but how often is how often: 1-2 (x3).
func (p *parser) group(list *[]node, depth int) error {
	opened := p.ahead(0)
	at := p.at
	p.at++
	if n, words := p.times(); words > 0 && p.ahead(words).text == ")" && len(*list) > 0 {
		if err := p.again(list, n, words); err != nil {
			return err
		}
		p.at++
		return nil
	}
	inner, err := p.row(depth + 1)
	if err != nil {
		return err
	}
	if len(inner) == 0 {
		return p.refuse("expected a move in the brackets")
	}
	p.at++ // the bracket
	*list = append(*list, node{group: inner, times: 1, token: at, gap: opened.gap, column: opened.column, width: 1})
	return nil
}

// times reads how often something is done: x3, x 3, 3x at the end, 3 times, three times, twice. words is 0 where
// nothing such stands here.
func (p *parser) times() (n, words int) {
	switch t := p.ahead(0); {
	case t.text == "twice":
		return 2, 1
	case t.text == "thrice":
		return 3, 1
	case t.text == "x" && digits(p.ahead(1).text):
		return number(p.ahead(1).text), 2
	case number(t.text) > 0 && p.ahead(1).text == "times":
		return number(t.text), 2
	case digits(t.text) && p.ahead(1).text == "x" && p.ahead(1).gap == tight && t.gap != tight && p.at > 0:
		if next := p.ahead(2); next.text == "" || next.text == ")" || next.text == "|" || next.gap >= listed {
			return number(t.text), 2
		}
	}
	return 0, 0
}

// number reads digits or a number word; 0 where it is none.
func number(text string) int {
	if !digits(text) {
		return 1 + slices.Index(numbered, text)
	}
	n, err := strconv.Atoi(text)
	if err != nil {
		return 1e9
	}
	return n
}

// again repeats what stands last in the row: a group, or the moves that are written together with no comma before them.
func (p *parser) again(list *[]node, n, words int) error {
	row := *list
	if len(row) == 0 {
		return p.refuse("expected a move or a group before it")
	}
	if n < 1 || n > maxTimes {
		p.at += words - 1
		return p.refuse("expected a group 1 to %d times, not %s", maxTimes, p.peek())
	}
	if words == 2 && p.ahead(0).text == "x" && digits(p.ahead(-1).text) && p.ahead(2).gap == tight &&
		p.ahead(2).text != "" && p.ahead(2).text != ")" {
		return p.refuse("this can be read in two ways: write (%s)x%d, or put what is done %d times in brackets",
			p.ahead(-1).text, n, max(2, number(p.ahead(-1).text)))
	}
	last := len(row) - 1
	if it := row[last]; it.group != nil && it.times == 1 {
		row[last].times = n
		p.at += words
		return nil
	}
	from, dashed := last, last
	for from > 0 && row[from].group == nil && (row[from].gap == blank || row[from].gap == tight) &&
		row[from-1].times == 0 {
		from--
	}
	for dashed > 0 && row[dashed].gap == tight && row[dashed-1].times == 0 {
		dashed--
	}
	if dashed > from && dashed < last || from == last && last > 0 && row[from].gap == listed && row[last-1].times == 0 {
		first := max(0, min(from, last-1))
		for first > 0 && row[first].gap != ended && row[first-1].times == 0 {
			first--
		}
		return p.refuse("this can be read in two ways: write (%s)x%d, or (%s)x%d", p.text(row[first:]), n,
			p.text(row[max(dashed, from):]), n)
	}
	repeated := slices.Clone(row[from:])
	*list = append(row[:from:from], node{group: repeated, times: n, token: repeated[0].token, gap: repeated[0].gap,
		column: repeated[0].column, width: repeated[0].width})
	p.at += words
	return nil
}

// text returns what was typed for some nodes at the end of a row, up to the current token.
func (p *parser) text(row []node) string {
	var b strings.Builder
	for i, t := range p.tokens[row[0].token:p.at] {
		switch {
		case i == 0 || t.gap == opening:
		case t.gap == tight && t.text != "!":
			b.WriteString("-")
		case t.gap == listed:
			b.WriteString(", ")
		case t.gap == ended:
			b.WriteString(" then ")
		case t.gap == blank:
			b.WriteString(" ")
		}
		b.WriteString(t.text)
	}
	return b.String()
}

// several reads a move, or a number of the same: 100 jabs, ten one-twos, 3 x jab.
func (p *parser) several(depth int) (node, error) {
	t := p.ahead(0)
	n := number(t.text)
	if n == 0 || t.gap == tight {
		return p.move()
	}
	if next := p.ahead(1); next.text == "x" && !digits(p.ahead(2).text) && p.ahead(2).text != "" {
		p.at += 2
		return p.multiplied(t, n, depth)
	}
	if next := p.ahead(1); next.gap != blank {
		return p.move()
	}
	p.at++
	if many, ok := p.plural(); ok {
		many.token, many.gap, many.column = p.at-1, t.gap, t.column
		p.at += many.words
		if n > maxTimes {
			p.at = many.token
			return node{}, p.refuse("expected at most %d of them, not %s", maxTimes, t.text)
		}
		row := []node{many}
		if many.group != nil {
			row = many.group
		}
		if err := p.suffixes(&row[len(row)-1]); err != nil {
			return node{}, err
		}
		return node{group: row, times: n, token: many.token, gap: t.gap, column: t.column, width: t.width}, nil
	}
	p.at--
	return p.move()
}

// multiplied reads what is done n times where that is said before it.
func (p *parser) multiplied(t token, n, depth int) (node, error) {
	if n > maxTimes {
		return node{}, p.refuse("expected a group 1 to %d times, not %d", maxTimes, n)
	}
	var row []node
	if p.peek() == "(" {
		if err := p.group(&row, depth); err != nil {
			return node{}, err
		}
	} else {
		it, err := p.move()
		if err != nil {
			return node{}, err
		}
		if row = append(row, it); p.ahead(0).gap == tight && p.peek() != "" && p.peek() != ")" {
			return node{}, p.refuse("this can be read in two ways: put what is done %d times in brackets", n)
		}
	}
	return node{group: row, times: n, token: p.at, gap: t.gap, column: t.column, width: t.width}, nil
}

// plural reads "jabs", "lead hooks" or "one-twos": many of one move, or of a short row.
func (p *parser) plural() (node, bool) {
	var row []node
	for n := 0; n < 6; n++ { // one-twos
		t := p.ahead(n)
		word, many := strings.CutSuffix(t.text, "s")
		ph, known := phrases[word]
		if !known || number(word) == 0 || ph.Word == "" || n > 0 && t.gap != tight {
			break
		}
		row = append(row, node{phrase: ph, copies: 1, token: p.at + n, words: 1, gap: t.gap, column: t.column,
			width: t.width, typed: t.text})
		if many {
			return node{group: row, words: n + 1}, true
		}
	}
	name := ""
	var found *phrase
	words := 0
	for n := 0; n < longest && p.ahead(n).text != ""; n++ {
		t := p.ahead(n)
		if n > 0 && !t.binds {
			break
		}
		for _, end := range []string{"s", "es"} {
			if one, many := strings.CutSuffix(t.text, end); many {
				if ph, ok := phrases[name+one]; ok && ph.strikes() && number(one) == 0 {
					found, words = ph, n+1
				}
			}
		}
		name += t.text + " "
	}
	if words == 0 {
		return node{}, false
	}
	return p.noded(found, words, 1), true
}

// noded is a phrase of so many tokens at hand.
func (p *parser) noded(ph *phrase, words, copies int) node {
	first, last := p.ahead(0), p.ahead(words-1)
	typed := first.text
	for i := 1; i < words; i++ {
		typed += " " + p.ahead(i).text
	}
	return node{phrase: ph, token: p.at, words: words, gap: first.gap, column: first.column,
		width: last.column + last.width - first.column, typed: typed, copies: copies}
}
