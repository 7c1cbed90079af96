package combo

import (
	"strconv"
	"strings"
)

// String prints the one form of a combination that Parse reads again to the same: numbers for the punches, a dash
// between moves (with spaces about a move that is a word), a pull in one with what follows, parts divided by |.
func (c Combination) String() string {
	parts := make([]string, len(c.Parts))
	for i, items := range c.Parts {
		parts[i] = row(items)
	}
	return strings.Join(parts, " | ")
}

func row(items []Item) string {
	var b strings.Builder
	for i, it := range items {
		if i > 0 {
			b.WriteString(between(items[i-1], it))
		}
		b.WriteString(it.String())
	}
	return b.String()
}

// between returns the separator between two items.
func between(a, b Item) string {
	switch {
	case a.Group == nil && a.Move.Word == Pull:
		return " "
	case short(a) && short(b):
		return "-"
	}
	return " - "
}

func short(it Item) bool { return it.Group == nil && it.Move.Punch() && !it.Move.Stop }

// String prints a move or a group.
func (it Item) String() string {
	if it.Group != nil {
		return "(" + row(it.Group.Items) + ")x" + strconv.Itoa(it.Group.Times)
	}
	return it.Move.String()
}

// String prints a move.
func (m Move) String() (printed string) {
	text := string(m.Word)
	if m.Stop {
		defer func() { printed = "stop " + printed }()
	}
	switch {
	case m.Word == Overhand && m.Toward == "rear":
	case m.Word == Overhand:
		text = "lead overhand"
	case m.Toward != "":
		text += " " + m.Toward
	}
	if m.Of != "" {
		text += " " + m.Of
	}
	if m.Body && m.Word == Double {
		text += " punch"
	}
	text += m.aim("b")
	if m.Accent {
		text += "!"
	}
	if m.Rebounds > 0 {
		text += ":" + strconv.Itoa(int(m.Rebounds))
	}
	return text
}

// Said is the move as this person does it: left and right in place of lead and rear, where the stance is known.
func (p Placed) Said() string {
	if p.Stance == "" {
		return p.Move.String()
	}
	words := strings.Fields(p.Move.String())
	for i, w := range words {
		if side := p.Stance.Side(Hand(w)); side != "" {
			words[i] = string(side)
		}
	}
	return strings.Join(words, " ")
}

// aim returns the word for a strike's target, "" where it is the usual one of its kind.
func (m Move) aim(number string) string {
	switch {
	case m.High:
		return " high"
	case m.Body && m.Punch():
		return number
	case m.Body:
		return " body"
	}
	return ""
}

// spoken is a strike by its name, its hand first.
func (m Move) spoken() string {
	said := names[m.Word]
	switch {
	case said != "":
	case m.Word == Overhand && m.Toward == "rear":
		said = string(m.Word)
	default:
		said = m.Toward + " " + string(m.Word)
	}
	return said + m.aim(" body")
}

var names = map[Word]string{"1": "jab", "2": "cross", "3": "lead hook", "4": "rear hook", "5": "lead uppercut",
	"6": "rear uppercut"}

var numbers = map[Word]string{"1": "one", "2": "two", "3": "three", "4": "four", "5": "five", "6": "six"}

// Naming says how moves are called (two schools each): punches by their numbers or by their names, slips by lead and
// rear or by inside and outside. The zero value calls numbers, and slips by lead and rear.
type Naming struct{ Names, Inside bool }

// PunchNames is the school in which punches are called.
type PunchNames string

// SlipNames is the school in which slips are called.
type SlipNames string

// The schools, the default first.
const (
	ByNumber PunchNames = "numbers"
	ByName   PunchNames = "names"

	BySides  SlipNames = "sides" // lead and rear
	ByInside SlipNames = "inside"
)

// Values lists them.
func (PunchNames) Values() []PunchNames { return []PunchNames{ByNumber, ByName} }

// Values lists them.
func (SlipNames) Values() []SlipNames { return []SlipNames{BySides, ByInside} }

// VoiceOf is the voice of a gym's two schools.
func VoiceOf(punches PunchNames, slips SlipNames) Naming {
	return Naming{Names: punches == ByName, Inside: slips == ByInside}
}

// Call is a move as it is called.
func (m Move) Call(v Naming) string {
	said := string(m.Word)
	switch {
	case m.Punch() && v.Names:
		said = names[m.Word]
	case m.Punch():
		said = numbers[m.Word]
	case m.Word == Overhand && m.Toward == "rear":
	case m.Word == Slip && v.Inside:
		said += map[string]string{"lead": " inside", "rear": " outside"}[m.Toward]
	case m.Toward != "":
		said += " " + m.Toward
	}
	if m.Of != "" {
		said += " " + m.Of
	}
	if m.Stop {
		said = "stop " + said
	}
	return said + m.aim(" body")
}

// Call is the combination as it is called: groups in full, parts a breath apart.
func (c Combination) Call(v Naming) string {
	var parts []string
	last := -1
	for _, m := range c.Moves(Orthodox) {
		said := m.Call(v)
		if m.Part == last {
			parts[len(parts)-1] += ", " + said
			continue
		}
		parts, last = append(parts, said), m.Part
	}
	return strings.Join(parts, "; ")
}
