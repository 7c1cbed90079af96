package run

// Word is what a coach says of a round in one word.
type Word string

// The three words, from good to not.
const (
	Held   Word = "held"
	Shaky  Word = "shaky"
	NotYet Word = "notYet"
)

// Values lists them; "" is none.
func (Word) Values() []Word { return []Word{"", Held, Shaky, NotYet} }
