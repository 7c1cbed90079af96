package combo

import (
	"slices"
	"strconv"
	"strings"
)

// Words that say where a strike goes; the last ones of each only after it.
var (
	bodyWords  = [][]string{{"to", "the", "body"}, {"to", "body"}, {"downstairs"}, {"body"}, {"low"}}
	headWords  = [][]string{{"to", "the", "head"}, {"to", "head"}, {"upstairs"}, {"head"}, {"high"}}
	beforehand = map[string]target{"body": toBody, "low": toBody, "head": toHead, "high": toHead}
)

// manifold are the words for several of the same punch.
var manifold = map[string]int{"double": 2, "triple": 3}

// move reads one move with what hangs on it.
func (p *parser) move() (node, error) {
	start, first := p.at, p.ahead(0)
	copies, goes := 1, unsaid
	stop, accent := p.stop(), p.powerful()
	if n := manifold[p.peek()]; n > 0 && !strings.HasPrefix(p.ahead(1).text, "punch") {
		if next := p.ahead(1); next.text != "" && next.gap <= tight && next.gap != opening && next.text != "!" &&
			next.text[0] != ':' {
			p.at++
			if ph, words := p.aimed(); words == 0 || !ph.strikes() || ph.Word == Double {
				return node{}, p.refuse("expected a punch after %q; for both fists at once write double punch",
					p.ahead(-1).text)
			}
			copies = n
		}
	}
	if t, ok := beforehand[p.peek()]; ok {
		if _, words := p.phrase(); words == 0 {
			p.at++
			if ph, words := p.phrase(); words == 0 || !ph.strikes() || !p.ahead(0).binds {
				p.at--
				return node{}, p.refuse("expected a strike beside %q, such as jab to the body", p.peek())
			}
			goes = t
		}
	}
	ph, words := p.phrase()
	if words == 0 {
		return node{}, p.unknown()
	}
	if err := p.clear(words); err != nil {
		return node{}, err
	}
	it := p.noded(ph, words, copies)
	it.token, it.gap, it.target = start, first.gap, goes
	if it.accent = accent; accent && !ph.strikes() {
		return node{}, p.refuse("only a strike can be the power shot")
	}
	if it.stop = stop; stop && (copies > 1 || !(it.pair == families[0].pair || it.CanStop() || sided[it.Word] != nil &&
		it.Word == StepTo)) {
		return node{},
			p.refuse(
				"a swinging bag is stopped by a straight in time, a step aside, a round kick, a push kick, a long guard or a jam")
	}
	p.at += words
	if ph.Word == Feint || ph.Word == Parry || ph.Word == Block {
		if err := p.object(&it); err != nil {
			return node{}, err
		}
	}
	return it, p.suffixes(&it)
}

// stop passes over "stop", "stop it with a" and the like before a move.
func (p *parser) stop() bool {
	if p.peek() != "stop" || !p.ahead(1).binds {
		return false
	}
	p.at++
	for slices.Contains([]string{"it", "with", "a", "the"}, p.peek()) && p.ahead(1).binds {
		p.at++
	}
	return true
}

// powerful passes over "power", "hard" or "big" before a strike.
func (p *parser) powerful() bool {
	if !slices.Contains([]string{"power", "hard", "big"}, p.peek()) || !p.ahead(1).binds {
		return false
	}
	p.at++
	return true
}

// aimed is the phrase at hand, behind a word that says where it goes.
func (p *parser) aimed() (*phrase, int) {
	ph, words := p.phrase()
	if _, ok := beforehand[p.peek()]; ok && words == 0 && p.ahead(1).binds {
		p.at++
		ph, words = p.phrase()
		p.at--
	}
	return ph, words
}

// phrase finds the longest name of a move that begins here, and of how many words it is.
func (p *parser) phrase() (*phrase, int) {
	var room [64]byte
	name := room[:0]
	var found *phrase
	words := 0
	for n := 0; n < longest && p.at+n < len(p.tokens); n++ {
		t := p.tokens[p.at+n]
		if n > 0 {
			if !t.binds || words == 1 && len(t.text) == 1 {
				break
			}
			name = append(name, ' ')
		}
		name = append(name, t.text...)
		if ph, ok := phrases[string(name)]; ok {
			found, words = ph, n+1
		} else if !begins[string(name)] {
			break
		}
	}
	return found, words
}

// clear refuses a bare "left" or "right" beside a word that it could belong to: it is a straight of its own only by
// itself.
func (p *parser) clear(words int) error {
	t := p.ahead(0)
	if words != 1 {
		return nil
	}
	if next := p.ahead(1); bare(t) && next.gap == blank && !bare(next) && next.text != "" && !p.often(1) &&
		p.targets(1) == 0 {
		if ph, ok := phrases[next.text+" "+t.text]; ok && !ph.strikes() {
			return p.refuse("the side comes second: write %s %s", next.text, t.text)
		}
		return p.refuse("write %s with its punch, such as %s hook, or a comma after it", t.text, t.text)
	}
	before := p.ahead(-1)
	if !bare(t) || t.gap != blank || bare(before) || p.at == 0 || slices.Contains(beforeSide, before.text) {
		return nil
	}
	if ph, ok := phrases[t.text+" "+before.text]; ok && ph.strikes() {
		return p.refuse("the hand comes first: write %s %s, or a comma between two punches", t.text, before.text)
	}
	if ph, ok := phrases[before.text]; ok && !ph.strikes() {
		return p.refuse("%s has no side; write a comma before %s if a punch is meant", before.text, t.text)
	}
	return p.refuse("write %s with its punch, such as %s hook, or a comma before it", t.text, t.text)
}

// beforeSide are the words after which a bare "left" stands clear.
var beforeSide = []string{"hand", "body", "head", "upstairs", "downstairs", "times", "twice", "thrice", "feint", "fake"}

// often says whether it is said n tokens further on how often the move is done.
func (p *parser) often(n int) bool {
	p.at += n
	defer func() { p.at -= n }()
	_, words := p.times()
	return words > 0
}

// object reads what is feinted, parried or blocked. A number after a block or a parry is a punch of one's own.
func (p *parser) object(it *node) error {
	next := 0
	if p.peek() == "the" && p.ahead(0).binds {
		next = 1
	}
	t := p.ahead(next)
	own := it.Word == Feint
	if !t.binds || number(t.text) > 0 && !own && next == 0 {
		return nil
	}
	p.at += next
	goes, before := beforehand[p.peek()]
	ph, words := p.phrase()
	if before = before && words == 0 && p.ahead(1).binds; before {
		p.at++
		next++
		it.target = goes
		ph, words = p.phrase()
	}
	if words == 0 || !ph.strikes() || ph.Word == Double || ph.then != "" {
		p.at -= next
		it.target = unsaid
		return nil
	}
	if err := p.clear(words); err != nil {
		return err
	}
	object := p.noded(ph, words, 1)
	it.object = &object
	it.width = object.column + object.width - it.column
	it.typed += " " + object.typed
	p.at += words
	return nil
}

// suffixes reads what follows a move: where it goes, ! and the rebounds.
func (p *parser) suffixes(it *node) error {
	strikes := it.strikes() || it.object != nil || it.Word == Feint
	if strikes {
		for i, list := range [][][]string{headWords, bodyWords} {
			for _, words := range list {
				if !p.follows(words) || it.target != unsaid && len(words) == 1 {
					continue
				}
				if _, n := p.phrase(); n > 0 { // a low kick
					continue
				}
				goes := []target{toHead, toBody}[i]
				if it.target != unsaid && it.target != goes {
					return p.refuse("%s goes either to the head or to the body", it.typed)
				}
				if err := p.between(*it, words, goes); err != nil {
					return err
				}
				it.target = goes
				p.at += len(words)
				break
			}
		}
	}
	for {
		switch next := p.peek(); {
		case next == "!":
			if !it.strikes() {
				return p.refuse("only a strike can be the power shot")
			}
			it.accent = true
		case strings.HasPrefix(next, ":"):
			n, err := strconv.Atoi(next[1:])
			if !it.strikes() || err != nil || n < 1 || n > maxRebounds {
				return p.refuse("expected rebounds from 1 to %d after a strike, such as 2:3", maxRebounds)
			}
			it.rebounds = int8(n)
		default:
			return nil
		}
		p.at++
	}
}

// between refuses a lone "body", "low" or "high" between two punches that could belong to either.
func (p *parser) between(it node, words []string, goes target) error {
	if _, either := beforehand[words[0]]; !either {
		return nil
	}
	p.at++
	defer func() { p.at-- }()
	next := p.ahead(0)
	ph, n := p.phrase()
	if n == 0 || !ph.strikes() || !next.binds {
		return nil
	}
	if p.targets(n) > 0 { // "jab low hook high": each has its own
		return nil
	}
	name := next.text
	for i := 1; i < n; i++ {
		name += " " + p.ahead(i).text
	}
	where := map[target]string{toHead: "head", toBody: "body"}[goes]
	p.at--
	defer func() { p.at++ }()
	return p.refuse("%q could belong to either punch: write %s to the %s, %s or %s, %s to the %s", words[0], it.typed,
		where, name, it.typed, name, where)
}

// targets returns the number of words, n tokens further on, that say where a strike goes.
func (p *parser) targets(n int) int {
	p.at += n
	defer func() { p.at -= n }()
	for _, list := range [][][]string{headWords, bodyWords} {
		for _, words := range list {
			if p.follows(words) {
				return len(words)
			}
		}
	}
	return 0
}

// follows says whether these words come next.
func (p *parser) follows(words []string) bool {
	for i, w := range words {
		if t := p.ahead(i); t.text != w || !t.binds {
			return false
		}
	}
	return true
}
