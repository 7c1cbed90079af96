// Command career draws the ladder that a simulated learner walks in twelve weeks, and how well what was predicted of
// the rounds held:
//
//	go run ./standin/career > docs/career.svg
//	go run ./standin/career -predictions > docs/predictions.svg
//	go run ./standin/career -told > docs/careers.md
//
// The learner is a first-timer whose evenness grows with practice, stands before a bag of their own as the stand-in
// does, is judged as everybody is, does what the ladder proposes, and is away for three weeks.
package main

import (
	"flag"
	"fmt"
	"math"
	"os"
	"strings"

	"melodromos/core/ladder"
)

const width, left, row, top, foot = 1000.0, 240.0, 34.0, 44.0, 66.0

// draw puts a career into a picture: days along, rungs up, a dot for each round, filled where it is past the gate.
func draw(list []lived, rungs []ladder.Rung, weeks int) string {
	var b strings.Builder
	height := top + row*float64(len(rungs)) + foot
	x := func(day float64) float64 { return left + (width-left-20)*day/float64(7*weeks) }
	y := func(i float64) float64 { return height - foot - row*(i+0.5) }
	fmt.Fprintf(&b,
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %.0f %.0f" font-family="sans-serif" font-size="13" fill="#26231e">`+"\n", width, height)
	fmt.Fprintf(&b,
		`<title>Twelve weeks of a simulated first-timer on a double-end bag</title><rect width="100%%" height="100%%" fill="#f6f1e6"/><text x="20" y="26" font-size="16" font-weight="700">Twelve weeks of a simulated first-timer on a double-end bag</text>`+"\n")
	for week := range weeks {
		at := x(float64(7 * week))
		if (week+1)%4 == 0 {
			fmt.Fprintf(&b, `<rect x="%.1f" y="%.1f" width="%.1f" height="%.1f" fill="#e4dcc8"/>`, at, top,
				x(float64(7*week+7))-at, height-foot-top)
		}
		fmt.Fprintf(&b,
			`<line x1="%.1f" x2="%.1f" y1="%.1f" y2="%.1f" stroke="#b7a788"/><text x="%.1f" y="%.1f" fill="#5d5548">week %d</text>`+"\n", at, at, top, height-foot, at+4, height-foot+16, week+1)
	}
	for i, r := range rungs {
		fmt.Fprintf(&b,
			`<line x1="%.0f" x2="%.0f" y1="%.1f" y2="%.1f" stroke="#b7a788" stroke-dasharray="2 5"/><text x="%.0f" y="%.1f" text-anchor="end">%s</text>`+"\n", left, width-20, y(float64(i)), y(float64(i)), left-10, y(float64(i))+4, r.Name)
	}
	path := ""
	step := "M"
	for k, r := range list {
		path += fmt.Sprintf("%s%.1f %.1f", step, x(r.day+aside(list, k)), y(float64(r.proposal.Index)))
		step = "L"
	}
	fmt.Fprintf(&b, `<path d="%s" fill="none" stroke="#5d5548" stroke-width="1.5"/>`+"\n", path)
	for k, r := range list {
		filling := "#f6f1e6"
		if r.through {
			filling = "#26231e"
		}
		fmt.Fprintf(&b,
			`<circle cx="%.1f" cy="%.1f" r="4.5" fill="%s" stroke="#26231e" stroke-width="1.8"><title>%s: %.0f %% clean, %d in a row</title></circle>`+"\n",
			x(r.day+aside(list, k)), y(float64(r.proposal.Index)), filling, r.proposal.Move, 100*r.Clean, r.Longest)
	}
	fmt.Fprintf(&b,
		`<text x="20" y="%.1f" fill="#5d5548">Each dot is a round, filled where it is up to the standard, 80 %% clean and ten in a row; two of those open the next rung. Light weeks are shaded.</text>`, height-28)
	fmt.Fprintf(&b,
		`<text x="20" y="%.1f" fill="#5d5548">Away in weeks 7 to 9: a rung down and soft, and on from there.</text></svg>`+"\n", height-10)
	return b.String()
}

// aside (days) spreads the rounds of one evening, which would else lie on one another.
func aside(list []lived, k int) float64 {
	n := 0
	for i := k - 1; i >= 0 && math.Floor(list[i].day) == math.Floor(list[k].day); i-- {
		n++
	}
	return 0.5 * float64(n)
}

func main() {
	predictions := flag.Bool("predictions", false,
		"draw predicted against observed, over careers on each bag that is struck")
	words := flag.Bool("told", false, "tell what the ladder proposed to four learners, as text")
	flag.Parse()
	if *predictions {
		fmt.Print(drawPredictions())
		return
	}
	if *words {
		fmt.Print(tell(told))
		return
	}
	list, rungs := learner(cords, 0).live()
	fmt.Fprintf(os.Stderr, "%d rounds, at the end on rung %d of %d\n", len(list), list[len(list)-1].proposal.Index+1,
		len(rungs))
	fmt.Print(draw(list, rungs, 12))
}
