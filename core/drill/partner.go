package drill

import (
	"strings"

	"melodromos/core/combo"
)

// PartnerCue is an instruction to the person who gives the cues by hand: when to lift the arm, and from which side it
// comes.
type PartnerCue struct {
	Tell Micros     `json:"tell" doc:"when the partner is told"`
	At   Micros     `json:"at" doc:"when the cue comes to the trainee"`
	From combo.Side `json:"from" enum:",left,right" doc:"the partner's own side, facing the trainee; empty where it comes straight"`
	Move string     `json:"move" doc:"what the trainee does, in left and right"`
}

// partnerTakes (s) is how long a partner takes from being told to the cue at the trainee's head: the reaction to a buzz
// in the hand, and the way of a soft belt. Assumed.
const partnerTakes = 0.7

// Partner lists what a partner is told of the unforeseen cues of a timeline, in order. A trainee rolls and slips under
// what comes from the side that they go to (common practice), which is the other side for whoever faces them. The cues
// are those of the drill: never after the same punch each time, never at even gaps.
func Partner(t Timeline, stance combo.Stance) []PartnerCue {
	list := []PartnerCue{}
	for _, e := range t.Events {
		if e.Kind != Cued {
			continue
		}
		move, _, _ := strings.Cut(e.Text, ",")
		cue := PartnerCue{Tell: max(0, e.At-micros(partnerTakes)), At: e.At, Move: move}
		if line, err := combo.Parse(move); err == nil {
			first := line.Moves(stance)[0]
			cue.Move = first.Said()
			switch first.Side() {
			case combo.Left:
				cue.From = combo.Right
			case combo.Right:
				cue.From = combo.Left
			}
		}
		list = append(list, cue)
	}
	return list
}
