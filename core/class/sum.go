package class

import (
	"fmt"
	"slices"
	"strings"

	"melodromos/core/words"
)

// BlockDone is a block of a class that somebody did.
type BlockDone struct {
	Person      string
	Lap         int // of the floor: a round that was held again counts twice
	Seconds     int
	OnBag       bool
	Carried     bool // to a later round than it was planned in
	Title       string
	Got, Failed int // tries
}

// Sum holds what was done against what was planned, in a sentence or two; "" where nothing was done.
func (p Class) Sum(list []BlockDone) string {
	if len(list) == 0 {
		return ""
	}
	people, laps := map[string]bool{}, map[int]bool{}
	on, off, got, tries := 0, 0, 0, 0
	var carried []string
	for _, d := range list {
		people[d.Person], laps[d.Lap] = true, true
		if d.OnBag {
			on += d.Seconds
		} else {
			off += d.Seconds
		}
		got, tries = got+d.Got, tries+d.Got+d.Failed
		if d.Carried && !slices.Contains(carried, d.Title) {
			carried = append(carried, d.Title)
		}
	}
	said := fmt.Sprintf(
		"Planned: %s in %d minutes. Done: %d of them by %s, %d minutes on the bags and %d off them, all together.",
		words.Count(len(p.Session.Rounds), "round"), (p.Session.Seconds()+30)/60, len(laps),
		byPeople(len(people)), (on+30)/60, (off+30)/60)
	if len(carried) > 0 {
		said += " Carried to a later round: " + strings.Join(carried, ", ") + "."
	}
	if tries > 0 {
		said += fmt.Sprintf(" Tries that came off: %d of %d.", got, tries)
	}
	return said
}

func byPeople(n int) string {
	if n == 1 {
		return "one person"
	}
	return fmt.Sprintf("%d people", n)
}
