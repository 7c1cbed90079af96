package combo

import "testing"

// A group that is repeated is held once, and one more for its being repeated, whether it is written as a group or out
// in full.
func TestFold(t *testing.T) {
	for text, want := range map[string]int{
		"1": 1, "1-2": 2, "1-1": 2, "1-1-1-1": 2, "(1-2)x3": 3, "1-2-1-2-1-2": 3, "1:2 2:3 1:2 2:3": 3, "1-2-3-2": 4,
		"1 wait 2": 2, "(1-2 slip lead)x2 3": 5, "1-2-2-1": 4, "wait": 0,
	} {
		line, err := Parse(text)
		if err != nil {
			t.Fatal(err)
		}
		moves := line.Moves(Orthodox)
		places, again, held := Fold(moves)
		if held != want || len(places) != len(moves) || len(again) != len(moves) {
			t.Errorf("%s: %d held, want %d", text, held, want)
		}
		for i, p := range places {
			if p < 0 || p > held {
				t.Errorf("%s: move %d at place %d of %d", text, i, p, held)
			}
		}
	}
}
