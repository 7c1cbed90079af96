// Command career draws the ladder that a simulated learner walks in twelve weeks:  go run ./standin/career > docs/career.svg
//
// The learner is a first-timer whose evenness grows with practice, hits as the stand-in does, is judged as everybody is, does what
// the ladder proposes, and is away for three weeks.
package main

import (
	"fmt"
	"math"
	"os"
	"strings"
	"time"

	"melodromos/core/drill"
	"melodromos/core/judge"
	"melodromos/core/ladder"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/standin"
)

// lived is a round of the career.
type lived struct {
	day   float64
	index int
	move  ladder.Move
	ladder.Round
	through bool
}

var cord = rig.Cord{Span: 0.80, Relaxed: 0.70, Stiffness: 85}

// learner becomes more even by the power law of practice (Newell & Rosenbloom 1981; the exponent is assumed).
func learner(rounds int) trainee.Ability {
	a := trainee.Start(trainee.FirstTimer)
	better := math.Pow(1+float64(rounds)/8, -0.36)
	a.Timing = 0.03 + 0.09*better
	a.Miss = 0.01 + 0.09*better
	a.Alternate = 0.20 + 0.10*better
	a.SameHand = 0.34 + 0.16*better
	return a
}

// live walks a ladder: sessions on two days of each week, and half of their rounds on the rung.
func live(bag rig.Rig, weeks int) ([]lived, []ladder.Rung) {
	from := time.Date(2026, 1, 5, 0, 0, 0, 0, time.UTC)
	career := ladder.Career{Rungs: ladder.Rungs(bag.Kind(), ladder.BasicFirst), Gate: ladder.DefaultGate}
	var found []trainee.Evidence
	var list []lived
	for _, s := range ladder.DefaultWeeks(from).Plan(weeks, nil, from) {
		if s.Week >= 7 && s.Week <= 9 {
			continue // away
		}
		for n := range max(1, s.Rounds/2) {
			at := s.Day.Add(18*time.Hour + time.Duration(5*n)*time.Minute)
			career.Now = at
			p := career.Propose()
			known, _ := trainee.Estimates(trainee.FirstTimer, bag.Kind(), found, at)
			on := drill.Floor{Bag: bag, Ability: known, Seed: uint64(len(list) + 1)}
			plan, err := p.Rung.Plan(on)
			if err != nil {
				panic(err)
			}
			if p.Soft {
				plan = level.Softer(plan, on)
			}
			line, err := plan.Lay(on)
			if err != nil {
				panic(err)
			}
			r, evidence := round(plan, line, bag.Kind(), learner(len(list)), known, uint64(len(list)), at)
			r.Rung = p.Rung.Key
			career.Rounds = append(career.Rounds, r)
			found = append(found, evidence...)
			list = append(list, lived{at.Sub(from).Hours() / 24, p.Index, p.Move, r, career.Gate.Passes(r)})
		}
	}
	return list, career.Rungs
}

// round hits and judges one round.
func round(plan drill.Plan, line drill.Timeline, kind rig.Kind, who, known trainee.Ability, seed uint64, at time.Time) (ladder.Round, []trainee.Evidence) {
	var hits []judge.Hit
	for _, h := range standin.Of(who).Hits(standin.Strikes(line, plan, kind), 100+seed) {
		hits = append(hits, judge.Hit{At: h.At, Hand: drill.Hand(h.Hand)})
	}
	r := judge.JudgeRound(line, hits, line.End, judge.Source{Latency: true})
	return ladder.Round{At: at, Clean: r.CleanShare(), Longest: r.Longest, Planned: len(r.Planned)}, trainee.FromRound(r.Heard(line, plan, kind, known, at), known)
}

const width, left, row, top, foot = 1000.0, 240.0, 34.0, 44.0, 66.0

// draw puts a career into a picture: days along, rungs up, a dot for each round, filled where it is past the gate.
func draw(list []lived, rungs []ladder.Rung, weeks int) string {
	var b strings.Builder
	height := top + row*float64(len(rungs)) + foot
	x := func(day float64) float64 { return left + (width-left-20)*day/float64(7*weeks) }
	y := func(i float64) float64 { return height - foot - row*(i+0.5) }
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %.0f %.0f" font-family="sans-serif" font-size="13" fill="#26231e">`+"\n", width, height)
	fmt.Fprintf(&b, `<title>Twelve weeks of a simulated first-timer on a double-end bag</title><rect width="100%%" height="100%%" fill="#f6f1e6"/><text x="20" y="26" font-size="16" font-weight="700">Twelve weeks of a simulated first-timer on a double-end bag</text>`+"\n")
	for week := range weeks {
		at := x(float64(7 * week))
		if (week+1)%4 == 0 {
			fmt.Fprintf(&b, `<rect x="%.1f" y="%.1f" width="%.1f" height="%.1f" fill="#e4dcc8"/>`, at, top, x(float64(7*week+7))-at, height-foot-top)
		}
		fmt.Fprintf(&b, `<line x1="%.1f" x2="%.1f" y1="%.1f" y2="%.1f" stroke="#b7a788"/><text x="%.1f" y="%.1f" fill="#5d5548">week %d</text>`+"\n", at, at, top, height-foot, at+4, height-foot+16, week+1)
	}
	for i, r := range rungs {
		fmt.Fprintf(&b, `<line x1="%.0f" x2="%.0f" y1="%.1f" y2="%.1f" stroke="#b7a788" stroke-dasharray="2 5"/><text x="%.0f" y="%.1f" text-anchor="end">%s</text>`+"\n", left, width-20, y(float64(i)), y(float64(i)), left-10, y(float64(i))+4, r.Name)
	}
	path := ""
	for k, r := range list {
		path += fmt.Sprintf("%s%.1f %.1f", map[bool]string{true: "M", false: "L"}[k == 0], x(r.day+aside(list, k)), y(float64(r.index)))
	}
	fmt.Fprintf(&b, `<path d="%s" fill="none" stroke="#5d5548" stroke-width="1.5"/>`+"\n", path)
	for k, r := range list {
		fmt.Fprintf(&b, `<circle cx="%.1f" cy="%.1f" r="4.5" fill="%s" stroke="#26231e" stroke-width="1.8"><title>%s: %.0f %% clean, %d in a row</title></circle>`+"\n",
			x(r.day+aside(list, k)), y(float64(r.index)), map[bool]string{true: "#26231e", false: "#f6f1e6"}[r.through], r.move, 100*r.Clean, r.Longest)
	}
	fmt.Fprintf(&b, `<text x="20" y="%.1f" fill="#5d5548">Each dot is a round, filled past the gate of 80 %% clean and ten in a row; two of those open the next rung. Light weeks are shaded.</text>`, height-28)
	fmt.Fprintf(&b, `<text x="20" y="%.1f" fill="#5d5548">Away in weeks 7 to 9: a rung down and soft, and on from there.</text></svg>`+"\n", height-10)
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
	bag := rig.DoubleEndBag{BallDiameter: 0.20, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.05}
	list, rungs := live(bag, 12)
	fmt.Fprintf(os.Stderr, "%d rounds, at the end on rung %d of %d\n", len(list), list[len(list)-1].index+1, len(rungs))
	fmt.Print(draw(list, rungs, 12))
}
