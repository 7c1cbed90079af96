package main

import (
	"fmt"
	"math"
	"strings"

	"melodromos/core/level"
	"melodromos/core/rig"
)

// struck are the bags that careers are lived on for the picture of predictions, and how many learners live one on each.
var struck = []rig.Rig{board, cords, pole, heavy}

const learners = 6

// drawPredictions lives careers and draws what was predicted of their rounds against what was observed, in ten bins.
func drawPredictions() string {
	var all []level.Outcome
	for _, bag := range struck {
		for k := range uint64(learners) {
			list, _ := learner(bag, 1000*k).live()
			for _, r := range list {
				all = append(all, r.Outcome)
			}
		}
	}
	bins, miss := level.Calibrated(all)
	const size, left, top = 460.0, 70.0, 60.0
	x := func(v float64) float64 { return left + v*size }
	y := func(v float64) float64 { return top + (1-v)*size }
	var b strings.Builder
	fmt.Fprintf(&b,
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %.0f %.0f" font-family="sans-serif" font-size="13" fill="#26231e">`+"\n", left+size+60, top+size+100)
	fmt.Fprintf(&b,
		`<title>Predicted against observed share of strikes that met the bag</title><rect width="100%%" height="100%%" fill="#f6f1e6"/><text x="20" y="28" font-size="16" font-weight="700">Predicted and observed in %d rounds of careers</text>`+"\n", len(all))
	for k := range 11 {
		v := float64(k) / 10
		fmt.Fprintf(&b, `<path d="M%.1f %.1fV%.1fM%.1f %.1fH%.1f" stroke="#e4dcc8"/>`+"\n", x(v), y(0), y(1), x(0),
			y(v), x(1))
		if k%2 == 0 {
			fmt.Fprintf(&b,
				`<text x="%.1f" y="%.1f" text-anchor="middle" fill="#5d5548">%d %%</text><text x="%.1f" y="%.1f" text-anchor="end" fill="#5d5548">%d %%</text>`+"\n", x(v), y(0)+20, 10*k, x(0)-8, y(v)+4, 10*k)
		}
	}
	fmt.Fprintf(&b, `<path d="M%.1f %.1fL%.1f %.1f" stroke="#b7a788" stroke-width="2"/>`+"\n", x(0), y(0), x(1), y(1))
	for _, bin := range bins {
		if bin.Rounds == 0 {
			continue
		}
		fmt.Fprintf(&b,
			`<circle cx="%.1f" cy="%.1f" r="%.1f" fill="#26231e"/><text x="%.1f" y="%.1f" fill="#5d5548">%d</text>`+
				"\n",
			x(bin.Predicted), y(bin.Observed), 4+math.Sqrt(float64(bin.Rounds))/3, x(bin.Predicted)+14,
			y(bin.Observed)+14, bin.Rounds)
	}
	fmt.Fprintf(&b,
		`<text x="%.1f" y="%.1f" text-anchor="middle">predicted</text><text x="20" y="%.1f" text-anchor="middle" transform="rotate(-90 20 %.1f)">observed</text>`+"\n", x(0.5), y(0)+44, y(0.5), y(0.5))
	fmt.Fprintf(&b,
		`<text x="20" y="%.1f" fill="#5d5548">A dot for the rounds predicted within ten points, with their number.</text><text x="20" y="%.1f" fill="#5d5548">A round is off its prediction by %.0f points on the mean.</text></svg>`+"\n", y(0)+68, y(0)+86, 100*miss)
	return b.String()
}
