package erasing

import "testing"

func TestParts(t *testing.T) {
	n := Of("Tobias Amadi-Rein")
	for text, want := range map[string]string{
		"First touches for Tobias":          "First touches for somebody",
		"Tobias Amadi-Rein, the long one":   "somebody, the long one",
		"tobias’s five a side":              "somebody’s five a side",
		"Rein in the jab, AMADI":            "somebody in the jab, somebody",
		"Reinforced, for Tobiasz":           "Reinforced, for Tobiasz",
		"Five a side":                       "Five a side",
		"1-2 | slip lead - 3-2 | duck - 2!": "1-2 | slip lead - 3-2 | duck - 2!",
	} {
		if got := n.Parts(text); got != want || n.Mentions(text) != (got != text) {
			t.Errorf("%q: %q, want %q; mentioned %v", text, got, want, n.Mentions(text))
		}
	}
	if bo := Of("Bo"); bo.Parts("Bow to the bag, Bo") != "Bow to the bag, Bo" || bo.Pattern() != "" {
		t.Error("a name too short to be looked for")
	}
}

// Only a whole name of two words is certain to be meant.
func TestWhole(t *testing.T) {
	n := Of("Young Rounds")
	for text, want := range map[string]string{
		"Three rounds for the young":      "Three rounds for the young",
		"A plan for Young Rounds, softer": "A plan for somebody, softer",
		"young  rounds":                   "somebody",
		"Younger rounds":                  "Younger rounds",
	} {
		if got := n.Whole(text); got != want {
			t.Errorf("%q: %q, want %q", text, got, want)
		}
	}
	if Of("Rounds").Whole("Rounds of Rounds") != "Rounds of Rounds" {
		t.Error("a name of one word is taken for certain")
	}
	if n.Alike("three rounds") || !n.Alike("Held the pads for Young.") {
		t.Error("capitals tell a name from a word")
	}
}

func TestConfirmed(t *testing.T) {
	if Confirmed("Ines Calder", " ines  calder ") != nil || Confirmed("Ines Calder", "Ines") == nil ||
		Confirmed("Ines Calder", "") == nil {
		t.Error("who is erased by what is typed")
	}
}
