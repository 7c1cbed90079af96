package session

import (
	"math"

	"melodromos/core/combo"
)

// A part of a long combination holds 3 to 5 moves (common practice); usualPart is the size that is aimed at where the
// line leaves a choice (assumed).
const (
	leastPart = 3
	mostPart  = 5
	usualPart = 3.4
)

// Parts are the pieces in which a combination is learned, each as a line of its own: those that it is written in, where
// it is written in several; else it is parted at its natural joints. A part ends on its accent, or where a defence or a
// step begins the next one. A combination of five moves or fewer is one part.
func Parts(line combo.Combination) []string {
	var texts []string
	if len(line.Parts) > 1 {
		for _, items := range line.Parts {
			texts = append(texts, combo.Combination{Parts: [][]combo.Item{items}}.String())
		}
		return texts
	}
	moves := line.Moves(combo.Orthodox)
	from := 0
	for _, to := range joints(moves) {
		texts = append(texts, printed(moves[from:to]))
		from = to
	}
	return texts
}

func printed(moves []combo.Placed) string {
	items := make([]combo.Item, len(moves))
	for i, m := range moves {
		items[i] = combo.Item{Move: m.Move}
	}
	return combo.Combination{Parts: [][]combo.Item{items}}.String()
}

// joints are the places at which the parts of moves end, the last at their end: those of the least cost over all ways
// to part them.
func joints(moves []combo.Placed) []int {
	n := len(moves)
	parts := max(1, int(math.Round(float64(n)/usualPart)))
	even := float64(n) / float64(parts)
	// least[k][at] is the least cost of k parts that end at at.
	least := make([][]float64, parts+1)
	came := make([][]int, parts+1)
	for k := range least {
		least[k], came[k] = make([]float64, n+1), make([]int, n+1)
		for at := range least[k] {
			least[k][at] = math.Inf(1)
		}
	}
	least[0][0] = 0
	for k := 1; k <= parts; k++ {
		for at := 1; at <= n; at++ {
			for from := range at {
				cost := least[k-1][from] + uneven(at-from, even) + torn(moves, at)
				if cost < least[k][at] {
					least[k][at], came[k][at] = cost, from
				}
			}
		}
	}
	out := make([]int, parts)
	for k, at := parts, n; k > 0; k-- {
		out[k-1], at = at, came[k][at]
	}
	return out
}

// uneven is the cost of a part of that size: of more or fewer moves than a part holds, and of being uneven.
func uneven(size int, even float64) float64 {
	cost := 0.1 * (float64(size) - even) * (float64(size) - even)
	return cost + 5*float64(max(0, leastPart-size, size-mostPart))
}

// torn is the cost of ending a part before the move at: none on an accent, little before a defence or a step, a whole
// one inside a group of punches.
func torn(moves []combo.Placed, at int) float64 {
	switch {
	case at == len(moves) || moves[at-1].Accent:
		return 0
	case moves[at].Kind() == combo.Strike && moves[at-1].Kind() != combo.Strike:
		return 1.5 // a slip loads the hand that follows
	case moves[at].Kind() != combo.Strike:
		return 0.2
	}
	return 1
}
