package run

// Rating is a coach's opinion of a round in one word.
type Rating string

// The three words, from good to not.
const (
	Held   Rating = "held"
	Shaky  Rating = "shaky"
	NotYet Rating = "notYet"
)

// Values lists them; "" is none.
func (Rating) Values() []Rating { return []Rating{"", Held, Shaky, NotYet} }
