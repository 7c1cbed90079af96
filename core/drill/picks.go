package drill

import (
	"slices"

	"melodromos/core/rig"
)

// Pick is a piece of the notation to be picked in place of typing it.
type Pick struct {
	Text   string `json:"text"`
	Strike bool   `json:"strike"`
}

// Picks lists what is picked for a line on this bag: the punches, what besides lands flush on its shape, kicks and
// knees where they are trained, what stops a heavy bag, defences, steps and signs.
func Picks(on Floor) []Pick {
	var list []Pick
	add := func(offered func(string) Pick, texts []string) {
		for _, text := range texts {
			if !slices.ContainsFunc(list, func(p Pick) bool { return p.Text == text }) {
				list = append(list, offered(text))
			}
		}
	}
	strikes := func(texts ...string) { add(func(text string) Pick { return Pick{text, true} }, texts) }
	others := func(texts ...string) { add(func(text string) Pick { return Pick{Text: text} }, texts) }
	strikes("1", "2", "3", "4", "5", "6", "1b", "2b", "3b")
	strikes(Flush(on)...)
	if !on.NoKicks {
		for _, kick := range []string{"push kick", "round kick", "low kick", "knee", "elbow"} {
			strikes(kick+" lead", kick+" rear")
		}
	}
	if on.Bag.Kind() == rig.Hanging {
		others("stop 1", "long guard", "jam")
	}
	others("slip lead", "slip rear", "duck", "roll lead", "roll rear", "pull", "step in", "step back", "pivot lead",
		"pivot rear", "switch", "wait", "|", "!")
	return list
}
