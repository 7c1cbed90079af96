package combo

import "fmt"

// Code names a way in which a move does not grow out of the one before.
type Code string

// The joining rules (common practice).
const (
	SlipHand    Code = "slipHand"    // a slip loads the hand on its side
	RollHand    Code = "rollHand"    // a roll ends on a foot and loads its hand
	DuckHand    Code = "duckHand"    // after a duck the hand that threw last throws again
	Doubling    Code = "doubling"    // hands alternate; a doubled jab is everyday
	PullBack    Code = "pull"        // a change of direction, on purpose
	OutsideSlip Code = "outsideSlip" // toward an opponent's power hand: correct, for those who have the timing
)

// Mark is a place where a rule of flow is broken, on purpose or not, or where care is needed.
type Mark struct {
	Move       int // index in the expanded combination
	Code       Code
	Reason     string
	Deliberate bool
	Suggest    string // what would join, where there is something; never done unasked
}

// Caution says whether the mark is no break of a rule.
func (m Mark) Caution() bool { return m.Code == OutsideSlip || m.Deliberate }

// Flow looks at how the moves join. Before a strike only the last defence counts; a group of punches ends at a defence, a step,
// a wait or a part.
func Flow(moves []Placed) []Mark {
	var list []Mark
	lastSide := Side("") // of the hand that threw last
	for i, m := range moves {
		if m.Word == Pull && i > 0 && i+1 < len(moves) && moves[i-1].Kind() == Strike && moves[i+1].Kind() == Strike {
			list = append(list, Mark{Move: i, Code: PullBack, Deliberate: true, Reason: "a pull between punches changes direction: legal, harder, and meant so"})
		}
		if m.Kind() != Strike {
			continue
		}
		side := m.Side()
		if d, at, ok := loaded(moves, i); ok && side != "" {
			list = append(list, after(moves, d, at, i, lastSide)...)
		} else if i > 0 && side != "" && moves[i-1].Kind() == Strike && moves[i-1].Part == m.Part && moves[i-1].Side() == side && moves[i-1].Leg() == m.Leg() && !(jab(m) && jab(moves[i-1])) {
			other := mirrored(m.Move)
			list = append(list, Mark{Move: i, Code: Doubling, Reason: fmt.Sprintf("the %s %s strikes twice running", m.Hand(), limb(m)), Suggest: other.String()})
		}
		if side != "" {
			lastSide = side
		}
	}
	return list
}

func jab(m Placed) bool { return m.Word == "1" }

func limb(m Placed) string {
	if m.Leg() {
		return "leg"
	}
	return "hand"
}

// loaded finds the last defence between the strike before and this one. A wait undoes what it loaded.
func loaded(moves []Placed, strike int) (Placed, int, bool) {
	for i := strike - 1; i >= 0; i-- {
		switch moves[i].Kind() {
		case Strike, Wait:
			return Placed{}, 0, false
		case Defence:
			return moves[i], i, true
		}
	}
	return Placed{}, 0, false
}

// after applies the rule of a defence to the strike that follows it.
func after(moves []Placed, d Placed, at, strike int, lastSide Side) []Mark {
	m := moves[strike]
	side, lead := m.Side(), m.Stance.Side(Lead)
	name := map[bool]string{true: "lead", false: "rear"}
	switch d.Word {
	case Slip:
		if side != d.Side() {
			return []Mark{{Move: strike, Code: SlipHand, Reason: fmt.Sprintf("a slip to the %s side loads the %s hand", d.Way, name[d.Side() == lead]), Suggest: handsOn(d.Side() == lead)}}
		}
		if d.Way == string(Rear) && at == strike-1 {
			return []Mark{{Move: strike, Code: OutsideSlip, Reason: "a slip to the rear side answered at once by the rear hand walks toward an opponent's power hand: for those who have the timing"}}
		}
	case Roll:
		if side != d.Side() {
			return []Mark{{Move: strike, Code: RollHand, Reason: fmt.Sprintf("a roll that ends on the %s foot loads the %s hand", d.Way, name[d.Side() == lead]), Suggest: handsOn(d.Side() == lead)}}
		}
	case Duck:
		if lastSide != "" && side != lastSide {
			return []Mark{{Move: strike, Code: DuckHand, Reason: fmt.Sprintf("after a duck the hand that threw last, the %s one, throws again", name[lastSide == lead]), Suggest: handsOn(lastSide == lead)}}
		}
	}
	return nil
}

func handsOn(lead bool) string {
	if lead {
		return "3, 1 or 5"
	}
	return "2, 6 or 4"
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
			if m.Word == Slip && m.Way == string(Lead) {
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
