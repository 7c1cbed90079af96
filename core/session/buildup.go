package session

import (
	"fmt"
	"strings"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/words"
)

// The lengths of a build-up (s, common practice but for those that are marked).
const (
	ContestRound = 180 // 3 min with 1 min rest
	ContestRest  = 60
	opening      = 30 // assumed
	closing      = 30 // assumed
	together     = 45 // the parts so far. Assumed
	partEach     = 30 // in the last round
	wholeEach    = 60
)

// BuildUp takes a long combination apart and puts it together over rounds: k parts make k + 1 rounds. Round i opens
// with an easy flow, then the parts so far, then part i as new material, and closes free or fast; the last has a speed
// opener, each part for 30 s, then the whole for 60 s (common practice). Blocks stretch so that each round adds up to
// its length in seconds; where the parts are too many for the last one they give, and the whole keeps its minute.
// Guidance fades from round to round. A combination of one part alone is refused, naming text.
func BuildUp(text string, kind rig.Kind, seconds int) (Session, error) {
	line, err := combo.Parse(text)
	if err != nil {
		return Session{}, err
	}
	parts := Parts(line)
	moves := line.Moves(combo.Orthodox)
	if len(parts) < 2 {
		return Session{}, input.Refuse("text", "expected a combination of six moves or more, or one parted with |: "+
			"%s are learned whole", words.Count(len(moves), "move"))
	}
	if least := 3*LeastBlock + wholeEach; seconds < least {
		return Session{}, input.Refuse("seconds", "expected at least %d, for two parts and the whole, not %d", least, seconds)
	}
	if most := (seconds - wholeEach) / LeastBlock; len(parts)+1 > most {
		return Session{}, input.Refuse("text", "expected at most %d parts in rounds of %d s, not %d", most-1, seconds,
			len(parts))
	}
	s := Session{
		Name: "Build-up: " + words.Short(strings.Join(parts, " | "), 90), Bag: kind,
		Note: fmt.Sprintf("%s, %s, in %s.", words.Count(len(moves), "move"),
			words.Count(combo.Balanced(moves).Strikes, "strike"), words.Count(len(parts), "part")),
	}
	for i := range parts {
		s.Rounds = append(s.Rounds, learning(parts, i, seconds))
	}
	s.Rounds = append(s.Rounds, joining(parts, seconds))
	s.Rounds[len(s.Rounds)-1].Rest = 0
	return s, nil
}

// learning is the round in which part i is new.
func learning(parts []string, i, seconds int) Round {
	r := Round{Kind: Work, Emphasis: "Part " + letter(i), Seconds: seconds, Rest: ContestRest,
		Blocks: []Block{{Role: Opener, Seconds: opening, Text: easy(parts, i), Pace: drill.Flow,
			Guidance: drill.Partly}}}
	if i > 0 {
		// What is known is called less and less.
		guidance := drill.Partly
		if i > 1 {
			guidance = drill.Alone
		}
		r.Blocks = append(r.Blocks, Block{Role: Known, Seconds: together, Text: strings.Join(parts[:i], " | "),
			Pace: drill.Combining, Guidance: guidance})
	}
	r.Blocks = append(r.Blocks, Block{Role: New, Seconds: seconds - closing - r.Taken(),
		Text: parts[i], Pace: drill.Combining, Guidance: drill.Fading})
	last := Block{Role: Free, Seconds: closing, Text: parts[i], Pace: drill.OwnRhythm, Guidance: drill.Alone}
	if i%2 == 1 {
		last.Role, last.Pace = Fast, drill.Speedy
	}
	r.Blocks = append(r.Blocks, last)
	return r
}

// joining is the last round, in which the parts become one.
func joining(parts []string, seconds int) Round {
	r := Round{Kind: Work, Emphasis: "Full combination", Seconds: seconds}
	whole := strings.Join(parts, " | ")
	each := partEach
	if most := (seconds - wholeEach) / (len(parts) + 1); most < each {
		each = most
	}
	r.Blocks = append(r.Blocks, Block{Role: Fast, Seconds: each, Text: easy(parts, 1), Pace: drill.Speedy,
		Guidance: drill.Alone})
	for _, p := range parts {
		r.Blocks = append(r.Blocks, Block{Role: Known, Seconds: each, Text: p, Pace: drill.Combining,
			Guidance: drill.Alone})
	}
	// What is left of the seconds goes to the whole, which is what it is all for.
	r.Blocks = append(r.Blocks, Block{Role: Whole, Seconds: seconds - r.Taken(), Text: whole, Pace: drill.Combining,
		Guidance: drill.Fading})
	return r
}

// easy is the flow that a round opens with, on punches that are known by then: a jab and a one-two at first, later the
// punches of the part before.
func easy(parts []string, i int) string {
	if i == 0 {
		return "1-2"
	}
	line, err := combo.Parse(parts[i-1])
	if err != nil {
		return "1-2"
	}
	var punches []combo.Placed
	for _, m := range line.Moves(combo.Orthodox) {
		if m.Punch() && m.Kind() == combo.Strike {
			m.Accent, m.Rebounds = false, 0
			punches = append(punches, m)
		}
	}
	if len(punches) < 2 {
		return "1-2"
	}
	return printed(punches)
}

// letter names a part.
func letter(i int) string { return string(rune('A' + i%26)) }
