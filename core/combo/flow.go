package combo

import "fmt"

// FlowCode names a way in which a move does not grow out of the one before.
type FlowCode string

// The joining rules (common practice): what one coach's lines show and others break on purpose. Advice, never a bar.
const (
	SlipHand    FlowCode = "slipHand"    // a slip loads the hand on its side
	RollHand    FlowCode = "rollHand"    // a roll ends on a foot and loads its hand
	DuckHand    FlowCode = "duckHand"    // after a duck the hand that threw last throws again
	Doubling    FlowCode = "doubling"    // the rear hand twice running; two of the lead hand are everyday
	PullBack    FlowCode = "pull"        // a change of direction, on purpose
	OutsideSlip FlowCode = "outsideSlip" // the way back leads in: correct, for those who have the timing
	SameSide    FlowCode = "sameSide"    // slips and rolls alternate sides
	GrowsOut    FlowCode = "growsOut"    // a slip or a roll grows out of the turn of the punch before it
)

// FlowNote is a place where a tendency of flow is left, on purpose or not, or where care is needed.
type FlowNote struct {
	Move       int      `json:"move"` // index in the expanded combination
	Code       FlowCode `json:"code"`
	Reason     string   `json:"reason"`
	Deliberate bool     `json:"deliberate"`
	Suggest    string   `json:"suggest"` // what would join, where there is something; never done unasked
}

// Caution says whether the mark is no break of a rule.
func (m FlowNote) Caution() bool { return m.Code == OutsideSlip || m.Deliberate }

// Hint says whether the mark only says what is easier.
func (m FlowNote) Hint() bool { return m.Code == Doubling || m.Code == SameSide || m.Code == GrowsOut }

// Flow looks at how each strike joins what went before. Before a strike only the last defence counts; a step or a
// wait between the two resets it. A group of punches ends at a defence, a step, a wait or a part.
func Flow(moves []Placed) []FlowNote {
	var list []FlowNote
	lastSide := Side("") // of the hand that threw last
	for i, m := range moves {
		if m.Word == Pull && i > 0 && i+1 < len(moves) && moves[i-1].Kind() == Strike && moves[i+1].Kind() == Strike {
			list = append(list, FlowNote{Move: i, Code: PullBack, Deliberate: true,
				Reason: "a pull between punches changes direction: legal, harder, and meant so"})
		}
		if m.Kind() != Strike {
			continue
		}
		side := m.Side()
		if d, ok := loaded(moves, i); ok && side != "" {
			list = append(list, answered(d, m, i, lastSide)...)
		} else if i > 0 && doubled(moves[i-1], m) {
			list = append(list, FlowNote{Move: i, Code: Doubling,
				Reason: fmt.Sprintf("the rear %s strikes twice running: hard: turn back before throwing it again",
					limb(m)), Suggest: mirrored(m.Move).String()})
		}
		if side != "" {
			lastSide = side
		}
	}
	return list
}

// Hints looks at how each slip and roll joins: it grows best out of the turn of the punch before it (the rear hand's
// to the lead side, a lead hook's to the rear side), and sides alternate from one to the next, since a repeated side
// first needs its way back. Nothing is wrong where they are left.
func Hints(moves []Placed) []FlowNote {
	var list []FlowNote
	for i, m := range moves {
		if i == 0 || !swings(m) {
			continue
		}
		before := moves[i-1]
		other := string(m.Word) + " " + otherWay[m.Toward]
		switch {
		case swings(before) && before.Side() == m.Side():
			list = append(list, FlowNote{Move: i, Code: SameSide, Suggest: other,
				Reason: fmt.Sprintf(
					"sides alternate from one %s to the next: the same side again first needs its way back", m.Word)})
		case before.Kind() == Strike && !before.Leg() && before.Hand() == Rear && m.Toward == string(Rear):
			list = append(list, FlowNote{Move: i, Code: GrowsOut, Suggest: other,
				Reason: fmt.Sprintf("the turn of the rear hand carries to the lead side, where a %s grows out of it",
					m.Word)})
		case before.Word == "3" && m.Toward == string(Lead):
			list = append(list, FlowNote{Move: i, Code: GrowsOut, Suggest: other,
				Reason: fmt.Sprintf("the turn of a lead hook carries to the rear side, where a %s grows out of it",
					m.Word)})
		}
	}
	return list
}

func swings(m Placed) bool { return m.Word == Slip || m.Word == Roll }

// doubled says whether the rear hand, or leg, strikes twice running in one group.
func doubled(before, m Placed) bool {
	return before.Kind() == Strike && before.Part == m.Part && m.Hand() == Rear && before.Side() == m.Side() &&
		before.Leg() == m.Leg()
}

func limb(m Placed) string {
	if m.Leg() {
		return "leg"
	}
	return "hand"
}

// loaded finds the last defence between the strike before and this one. A step or a wait undoes what it loaded.
func loaded(moves []Placed, strike int) (Placed, bool) {
	if strike > 0 && moves[strike-1].Kind() == Defence {
		return moves[strike-1], true
	}
	return Placed{}, false
}

// answered applies the rule of a defence to the strike that follows it.
func answered(d, m Placed, strike int, lastSide Side) []FlowNote {
	side, lead := m.Side(), m.Stance.Side(Lead)
	hand := func(s Side) string {
		if s == lead {
			return "lead"
		}
		return "rear"
	}
	on := map[string]string{"lead": "3, 1 or 5", "rear": "2, 6 or 4"}
	switch d.Word {
	case Slip:
		if side != d.Side() {
			return []FlowNote{{Move: strike, Code: SlipHand,
				Reason:  fmt.Sprintf("a slip to the %s side loads the %s hand", d.Toward, hand(d.Side())),
				Suggest: on[hand(d.Side())]}}
		}
		if d.Toward == string(Rear) {
			return []FlowNote{{Move: strike, Code: OutsideSlip,
				Reason: "a slip to the rear side answered at once by the rear hand: the slip leads out, but the way back leads in, and the head can walk into an opponent's rear hand; for those who have the timing"}}
		}
	case Roll:
		if side != d.Side() {
			return []FlowNote{{Move: strike, Code: RollHand,
				Reason:  fmt.Sprintf("a roll that ends on the %s foot loads the %s hand", d.Toward, hand(d.Side())),
				Suggest: on[hand(d.Side())]}}
		}
	case Duck:
		if lastSide != "" && side != lastSide {
			return []FlowNote{{Move: strike, Code: DuckHand,
				Reason:  fmt.Sprintf("after a duck the hand that threw last, the %s one, throws again", hand(lastSide)),
				Suggest: on[hand(lastSide)]}}
		}
	}
	return nil
}

// Balance counts what a combination asks of each side.
type Balance struct {
	Moves     int `json:"moves"`
	Strikes   int `json:"strikes"`
	LeadHand  int `json:"leadHand"`
	RearHand  int `json:"rearHand"`
	Head      int `json:"head"`
	Body      int `json:"body"`
	Straights int `json:"straights"`
	Curved    int `json:"curved"` // hooks, uppercuts, kicks, knees and elbows
	SlipsLead int `json:"slipsLead"`
	SlipsRear int `json:"slipsRear"`
	Defences  int `json:"defences"`
	Steps     int `json:"steps"`
}

// Balanced counts.
func Balanced(moves []Placed) Balance {
	b := Balance{Moves: len(moves)}
	for _, m := range moves {
		switch m.Kind() {
		case Strike:
			b.Strikes++
			switch m.Hand() {
			case Lead:
				b.LeadHand++
			case Rear:
				b.RearHand++
			case Both:
				b.LeadHand++
				b.RearHand++
			}
			if m.ToBody() {
				b.Body++
			} else {
				b.Head++
			}
			if m.Shape() == Straight {
				b.Straights++
			} else {
				b.Curved++
			}
		case Defence:
			b.Defences++
			if m.Word == Slip && m.Toward == string(Lead) {
				b.SlipsLead++
			} else if m.Word == Slip {
				b.SlipsRear++
			}
		case Step:
			b.Steps++
		}
	}
	return b
}
