// Package combo is the notation of what is thrown: strikes, defences and steps, in parts, groups and repeats, the way
// coaches write and say it. It reads what people type, prints one form, turns it to the other side, and tells how it
// flows.
package combo

// Hand is the lead or the rear hand; which of them is left depends on the stance.
type Hand string

// The two hands, and both at once.
const (
	Lead Hand = "lead"
	Rear Hand = "rear"
	Both Hand = "both"
)

// Values lists them; "" is none.
func (Hand) Values() []Hand { return []Hand{"", Lead, Rear, Both} }

// Other returns the other hand.
func (h Hand) Other() Hand {
	switch h {
	case Lead:
		return Rear
	case Rear:
		return Lead
	}
	return h
}

// Stance says which hand leads: the left one of an orthodox, the right one of a southpaw.
type Stance string

// The two stances.
const (
	Orthodox Stance = "orthodox"
	Southpaw Stance = "southpaw"
)

// Values lists them.
func (Stance) Values() []Stance { return []Stance{Orthodox, Southpaw} }

// Side is a side of the body.
type Side string

// The two sides.
const (
	Left  Side = "left"
	Right Side = "right"
)

// Values lists them; "" is none.
func (Side) Values() []Side { return []Side{"", Left, Right} }

// Side returns the side of the body that a hand is on; "" for both hands.
func (s Stance) Side(h Hand) Side {
	switch {
	case h != Lead && h != Rear:
		return ""
	case (h == Lead) == (s == Southpaw):
		return Right
	}
	return Left
}

// Switched is the stance after a switch of the feet.
func (s Stance) Switched() Stance {
	if s == Southpaw {
		return Orthodox
	}
	return Southpaw
}

// MoveKind of a move.
type MoveKind string

// A move strikes, avoids a strike, moves the feet, or lets one return go by.
const (
	Strike  MoveKind = "strike"
	Defence MoveKind = "defence"
	Step    MoveKind = "step"
	Wait    MoveKind = "wait"
)

// Values lists them.
func (MoveKind) Values() []MoveKind { return []MoveKind{Strike, Defence, Step, Wait} }

// StrikeShape of a strike: how it meets the bag's line.
type StrikeShape string

// The shapes. A curved blow crosses the bag's line and meets it for a shorter time.
const (
	Straight StrikeShape = "straight"
	Hook     StrikeShape = "hook"
	Uppercut StrikeShape = "uppercut"
	Kick     StrikeShape = "kick"
	Knee     StrikeShape = "knee"
	Elbow    StrikeShape = "elbow"
)

// Word is a move of the vocabulary without its side: a number for the six punches, else its name.
type Word string

// The vocabulary. The six punches are 1 lead straight (jab), 2 rear straight (cross), 3 lead hook, 4 rear hook, 5
// lead uppercut, 6 rear uppercut (common practice).
const (
	Overhand  Word = "overhand"
	Double    Word = "double" // both fists as one blow
	PushKick  Word = "push kick"
	RoundKick Word = "round kick"
	LowKick   Word = "low kick"
	KneeUp    Word = "knee"
	ElbowIn   Word = "elbow"
	Slip      Word = "slip"
	Duck      Word = "duck"
	Roll      Word = "roll"
	Weave     Word = "weave"
	Pull      Word = "pull"
	StepTo    Word = "step"
	Pivot     Word = "pivot"
	Block     Word = "block"
	Parry     Word = "parry"
	Cover     Word = "cover"
	LongGuard Word = "long guard"
	Feint     Word = "feint"
	Switch    Word = "switch" // of the feet: the stance changes for what follows
	WaitOne   Word = "wait"   // lets one return go
	Jam       Word = "jam"    // the forearms against a heavy bag that comes: it hangs still then
)

// entry holds the properties of a word.
type entry struct {
	kind  MoveKind
	hand  Hand // of a punch by number
	shape StrikeShape
	body  bool // it goes to the body by itself
	ways  []string
}

var sides = []string{"lead", "rear"}

var vocabulary = map[Word]entry{
	"1": {Strike, Lead, Straight, false, nil}, "2": {Strike, Rear, Straight, false, nil},
	"3": {Strike, Lead, Hook, false, nil},
	"4": {Strike, Rear, Hook, false, nil}, "5": {Strike, Lead, Uppercut, false, nil},
	"6":      {Strike, Rear, Uppercut, false, nil},
	Overhand: {Strike, "", Hook, false, sides}, Double: {Strike, Both, Straight, false, nil},
	PushKick: {Strike, "", Kick, true, sides}, RoundKick: {Strike, "", Kick, true, sides},
	LowKick: {Strike, "", Kick, true, sides},
	KneeUp:  {Strike, "", Knee, true, sides}, ElbowIn: {Strike, "", Elbow, false, sides},
	Slip: {Defence, "", "", false, sides}, Duck: {Defence, "", "", false, nil}, Roll: {Defence, "", "", false, sides},
	Weave: {Defence, "", "", false, nil},
	Pull:  {Defence, "", "", false, nil}, Block: {Defence, "", "", false, nil}, Parry: {Defence, "", "", false, nil},
	Cover:     {Defence, "", "", false, nil},
	LongGuard: {Defence, "", "", false, nil}, Feint: {Defence, "", "", false, nil}, Jam: {Defence, "", "", false, nil},
	StepTo: {Step, "", "", false, []string{"in", "back", "lead", "rear"}}, Pivot: {Step, "", "", false, sides},
	Switch:  {Step, "", "", false, nil},
	WaitOne: {Wait, "", "", false, nil},
}

// Move is one move of a combination.
type Move struct {
	Word     Word
	Toward   string // lead, rear, in or back, where the word has one
	Of       string // the punch that is feinted, parried or blocked, by its name; "" where none is said
	Body     bool   // to the body, of a strike that goes to the head by itself
	High     bool   // to the head, of a strike that goes to the body by itself
	Accent   bool   // the power shot
	Stop     bool   // it stops a heavy bag that swings
	Rebounds int8   // board sounds or returns to the next strike, where they are said; 0 where not
}

// Kind of the move.
func (m Move) Kind() MoveKind { return vocabulary[m.Word].kind }

// Shape of a strike, "" of any other move.
func (m Move) Shape() StrikeShape { return vocabulary[m.Word].shape }

// Hand (or leg) of a strike; "" of any other move.
func (m Move) Hand() Hand {
	e := vocabulary[m.Word]
	switch {
	case e.kind != Strike:
		return ""
	case e.hand != "":
		return e.hand
	}
	return Hand(m.Toward)
}

// Punch says whether the move is one of the six punches.
func (m Move) Punch() bool { return len(m.Word) == 1 }

// CanStop says whether the move can be one that stops a heavy bag that swings: a straight in time, a push kick, a
// step aside and a round kick (common practice). A long guard and a jam stop it without being told to.
func (m Move) CanStop() bool {
	switch m.Word {
	case "1", "2", PushKick, RoundKick:
		return !m.Body && !m.High
	case StepTo:
		return m.Toward == string(Lead) || m.Toward == string(Rear)
	case LongGuard, Jam:
		return true
	}
	return false
}

// ToBody says whether a strike goes to the body.
func (m Move) ToBody() bool { return m.Body || vocabulary[m.Word].body && !m.High }

// Leg says whether a strike is a kick or a knee.
func (m Move) Leg() bool { return m.Shape() == Kick || m.Shape() == Knee }

// Item is a move, or a group.
type Item struct {
	Move  Move
	Group *Group // nil for a move
}

// Group is a row of items that is done a number of times, 2 or more.
type Group struct {
	Items []Item
	Times int
}

// Combination is a line of the notation: parts, each a row of items.
type Combination struct {
	Parts [][]Item
}

// Placed is a move where it stands in the expanded combination.
type Placed struct {
	Move
	Part   int
	Stance Stance // in which it is done
}

// Side is the body side of a strike's hand, or the direction of a slip, a roll, a side step or a pivot; "" else.
func (p Placed) Side() Side {
	if h := p.Hand(); h != "" {
		return p.Stance.Side(h)
	}
	return p.Stance.Side(Hand(p.Toward))
}

// count is the number of moves, expanded.
func (c Combination) count() int {
	var count func(items []Item) int
	count = func(items []Item) int {
		n := 0
		for _, it := range items {
			if it.Group == nil {
				n++
			} else {
				n += it.Group.Times * count(it.Group.Items)
			}
		}
		return n
	}
	n := 0
	for _, items := range c.Parts {
		n += count(items)
	}
	return n
}

// Moves expands groups and repeats. The stance is carried along: a switch of the feet changes it for what follows.
func (c Combination) Moves(s Stance) []Placed {
	list := make([]Placed, 0, c.count())
	var walk func(items []Item, part int)
	walk = func(items []Item, part int) {
		for _, it := range items {
			if it.Group == nil {
				list = append(list, Placed{it.Move, part, s})
				if it.Move.Word == Switch {
					s = s.Switched()
				}
				continue
			}
			for range it.Group.Times {
				walk(it.Group.Items, part)
			}
		}
	}
	for part, items := range c.Parts {
		walk(items, part)
	}
	return list
}
