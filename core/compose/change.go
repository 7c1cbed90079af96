package compose

import (
	"melodromos/core/combo"
)

// Recount gives a line with another return named after one of its strikes; a count of 0 names none.
func Recount(text string, move, count int) (string, error) {
	line, err := combo.Parse(text)
	if err != nil {
		return "", err
	}
	changed, err := line.Counted(move, count)
	return changed.String(), err
}
