package erasing

import "testing"

func TestRenaming(t *testing.T) {
	renamed := Renaming("Tobias Amadi-Rein")
	for text, want := range map[string]string{
		"First touches for Tobias":          "First touches for somebody",
		"Tobias Amadi-Rein, the long one":   "somebody, the long one",
		"tobias’s five a side":              "somebody’s five a side",
		"Rein in the jab, AMADI":            "somebody in the jab, somebody",
		"Reinforced, for Tobiasz":           "Reinforced, for Tobiasz",
		"Five a side":                       "Five a side",
		"1-2 | slip lead - 3-2 | duck - 2!": "1-2 | slip lead - 3-2 | duck - 2!",
	} {
		if got := renamed(text); got != want {
			t.Errorf("%q: %q, want %q", text, got, want)
		}
	}
	if got := Renaming("Bo")("Bow to the bag, Bo"); got != "Bow to the bag, Bo" {
		t.Errorf("a name too short to be looked for: %q", got)
	}
}

func TestConfirmed(t *testing.T) {
	if Confirmed("Ines Calder", " ines  calder ") != nil || Confirmed("Ines Calder", "Ines") == nil ||
		Confirmed("Ines Calder", "") == nil {
		t.Error("who is erased by what is typed")
	}
}
