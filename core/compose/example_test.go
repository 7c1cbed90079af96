package compose

import (
	"fmt"
	"strings"

	"melodromos/core/trainee"
	"melodromos/core/words"
)

// One question answers for the page: the drill in a sentence, its level and its fit.
func ExampleAsk() {
	a, err := Ask(Question{Plan: line("1-2"), On: floor(cords, trainee.Beginner), Units: words.Metric})
	if err != nil {
		panic(err)
	}
	fmt.Println(strings.ReplaceAll(a.Sentence, ". ", ".\n"))
	// Output:
	// Thrown at combination pace, about half power, on every return: punches come at 167 a minute.
	// 24 reps, one every 2.5 s, in a 60 s round.
	// Called by numbers, the voice fades out.
	// No random cues.
}
