package combo

import (
	"reflect"
	"slices"
	"strings"

	"melodromos/core/input"
)

// Note tells how a word was read that leaves something open.
type Note struct {
	Column int    `json:"column"` // where it stands, in characters from 1
	Width  int    `json:"width"`
	Said   string `json:"said"` // as it was typed
	Read   string `json:"read"` // as it is read, in lead and rear
	Why    string `json:"why"`  // such as "the hand that alternates"
}

// reader walks through a line as it is done.
type reader struct {
	stance Stance
	last   Side // of the hand or leg that struck last
	loaded Side // by a slip or a roll just before
	notes  []Note
}

// resolve settles what a line leaves open, in the order in which it is done.
func resolve(parts [][]node, s Stance) (Combination, []Note, error) {
	r := &reader{stance: s}
	var c Combination
	for _, row := range parts {
		items, err := r.row(row)
		if err != nil {
			return Combination{}, nil, err
		}
		c.Parts = append(c.Parts, items)
	}
	return c, r.notes, nil
}

func (r *reader) row(row []node) ([]Item, error) {
	items := make([]Item, 0, len(row))
	for _, it := range row {
		if it.group == nil {
			moves, err := r.moves(it)
			if err != nil {
				return nil, err
			}
			for _, m := range moves {
				items = append(items, Item{Move: m})
			}
			continue
		}
		group, err := r.repeated(it)
		if err != nil {
			return nil, err
		}
		items = append(items, group...)
	}
	return items, nil
}

// repeated reads a group as often as it is done: once more it may be other hands, and then it is written out. One
// that is done once is no group.
func (r *reader) repeated(it node) ([]Item, error) {
	var first, all []Item
	same := true
	for n := range it.times {
		items, err := r.row(it.group)
		if err != nil {
			return nil, err
		}
		if n == 0 {
			first = items
		}
		same = same && reflect.DeepEqual(items, first)
		all = append(all, items...)
	}
	if it.times == 1 || !same {
		return all, nil
	}
	return []Item{{Group: &Group{first, it.times}}}, nil
}

// moves reads one node.
func (r *reader) moves(it node) ([]Move, error) {
	m, err := r.settle(it)
	if err != nil {
		return nil, err
	}
	if it.object != nil {
		if m.Of, err = r.object(it); err != nil {
			return nil, err
		}
	}
	if m.Stop && (m.Word == LongGuard || m.Word == Jam) {
		m.Stop = false // as they are
	}
	natural := vocabulary[m.Word].body
	m.Body = m.Body || it.target == toBody && !natural
	if it.target == toHead {
		m.Body, m.High = false, natural
	}
	if m.Stop && !m.CanStop() {
		return nil, &input.Error{Field: "text", Column: it.column, Width: it.width,
			Reason: "what stops a bag goes to the head's height"}
	}
	list := make([]Move, 0, it.copies+1)
	for n := range it.copies {
		one := m
		if n < it.copies-1 {
			one.Accent, one.Rebounds = false, 0
		}
		list = append(list, one)
	}
	r.done(m)
	if it.then != "" {
		then := Move{Word: it.then, Toward: string(Lead)}
		r.done(then)
		list = append(list, then)
	}
	return list, nil
}

// settle finds the hand of a move that is said by a side, or not at all.
func (r *reader) settle(it node) (Move, error) {
	m := it.Move
	m.Accent, m.Stop, m.Rebounds = it.accent, it.stop, it.rebounds
	var h Hand
	switch {
	case it.side != "":
		if h = Lead; r.stance.Side(Lead) != it.side {
			h = Rear
		}
	case it.phrase.said != "":
		h = it.phrase.said
	case it.open:
		h = r.open(it)
	default:
		return m, nil
	}
	switch own := vocabulary[m.Word].hand; {
	case it.pair[0] != "":
		m.Word = it.pair[0]
		if h == Rear {
			m.Word = it.pair[1]
		}
	case own != "":
		if own != h {
			return m, &input.Error{Field: "text", Column: it.column, Width: it.width, Reason: r.wrongHand(it, own, h)}
		}
	default:
		m.Toward = string(h)
	}
	if it.open {
		r.note(it, m)
	}
	return m, nil
}

func (r *reader) wrongHand(it node, own, said Hand) string {
	name, with := names[it.Word], ""
	if it.side != "" {
		with = ": this boxer leads with the " + string(r.stance.Side(Lead))
	}
	straight := "write " + string(said) + " straight"
	if it.side != "" {
		straight = "write " + string(it.side) + " straight"
	}
	return "a " + name + " is the " + string(own) + " hand's" + with + "; " + straight
}

// open is the hand of a strike whose hand is not said: the one that a slip or a roll loaded, else the other one than
// struck last.
func (r *reader) open(it node) Hand {
	side := r.loaded
	if side == "" && r.last != "" {
		if side = Left; r.last == Left {
			side = Right
		}
	}
	switch {
	case side == "" && it.rear:
		return Rear
	case side == "" || side == r.stance.Side(Lead):
		return Lead
	}
	return Rear
}

func (r *reader) note(it node, m Move) {
	why := "the hand that alternates"
	switch {
	case r.loaded != "":
		why = "the hand on the side it comes from"
	case r.last == "" && it.rear:
		why = "the rear one where nothing else is said"
	case r.last == "":
		why = "the lead one where nothing else is said"
	case m.Leg():
		why = "the leg that alternates"
	}
	read := m.spoken()
	if i := slices.IndexFunc(r.notes, func(n Note) bool { return n.Column == it.column }); i >= 0 {
		if !strings.Contains(r.notes[i].Read, read) {
			r.notes[i].Read += ", then " + read
		}
		return
	}
	r.notes = append(r.notes, Note{it.column, it.width, it.typed, read, why})
}

// object names what is feinted, parried or blocked. A feint is of one's own hand; what comes in has a hand only where
// it was said.
func (r *reader) object(it node) (string, error) {
	if it.Word != Feint && it.object.open {
		return it.object.any, nil
	}
	m, err := r.settle(*it.object)
	return m.spoken(), err
}

// done keeps what the next move is read by.
func (r *reader) done(m Move) {
	side := Placed{Move: m, Stance: r.stance}.Side()
	switch m.Kind() {
	case Strike:
		r.loaded = ""
		if side != "" {
			r.last = side
		}
	case Defence:
		if r.loaded = ""; m.Word == Slip || m.Word == Roll {
			r.loaded = side
		}
	default:
		r.loaded = ""
	}
	if m.Word == Switch {
		r.stance = r.stance.Switched()
	}
}
