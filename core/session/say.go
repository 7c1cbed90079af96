package session

import (
	"errors"
	"fmt"
	"strings"

	"melodromos/core/input"
	"melodromos/core/words"
)

// clock writes seconds as a gym clock does: 3:00.
func clock(seconds int) string { return fmt.Sprintf("%d:%02d", seconds/60, seconds%60) }

// refusedText is a refusal as a sentence.
func refusedText(err error) string {
	var refused *input.Error
	if errors.As(err, &refused) {
		return refused.Plain()
	}
	return "It could not be worked out."
}

// Sentence says a session in one: how long, how many rounds, and what is asked for.
func (s Session) Sentence(t Totals) string {
	work := 0
	lengths := map[int]int{}
	for _, r := range s.Rounds {
		if r.effortful() && r.OnBags() {
			work++
			lengths[r.Seconds]++
		}
	}
	said := words.Count(work, "round")
	if len(lengths) == 1 {
		for l := range lengths {
			said += " of " + clock(l)
		}
	}
	parts := []string{said}
	if t.Strikes > 0 {
		parts = append(parts, fmt.Sprintf("%s, %d lead and %d rear", words.Count(t.Strikes, "strike"), t.LeadHand,
			t.RearHand))
	}
	if n := t.SlipsLead + t.SlipsRear; n > 0 {
		parts = append(parts, fmt.Sprintf("%s, %d lead and %d rear", words.Count(n, "slip"), t.SlipsLead, t.SlipsRear))
	}
	return fmt.Sprintf("%s in all: %s.", minutes(t.Seconds), strings.Join(parts, "; "))
}

func minutes(seconds int) string {
	switch {
	case seconds%60 == 0:
		return words.Count(seconds/60, "minute")
	case seconds < 60:
		return words.Count(seconds, "second")
	}
	return clock(seconds) + " minutes"
}
