package run

import "melodromos/core/input"

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

// ByEye checks a count by eye, so many clean of so many: both or neither, and no more clean than there were. It refuses
// clean.
func ByEye(clean, outOf *int) error {
	if (clean == nil) != (outOf == nil) || clean != nil && (*outOf < 1 || *clean < 0 || *clean > *outOf) {
		return input.Refuse("clean", "expected so many of so many, the first no larger than the second, or neither")
	}
	return nil
}
