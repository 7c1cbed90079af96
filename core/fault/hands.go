package fault

import (
	"fmt"
	"math"

	"melodromos/core/drill"
)

// hands compares the two: by how late one is, as the causes of lateness have it, by how widely it scatters, and by how
// often it misses.
func (a *analysis) hands(taken []cause, at []int) []Fault {
	rest := map[drill.Hand][]float64{}
	for _, i := range at {
		w, left := a.rows[i], a.rows[i].held()
		for _, c := range taken {
			left -= c.coef * c.x[i]
		}
		rest[w.Hand] = append(rest[w.Hand], left)
	}
	var best Fault
	for _, c := range taken {
		if c.code == WeakHand && c.stands() {
			side := map[bool]string{true: "later", false: "earlier"}[c.coef > 0]
			best = Fault{Code: WeakHand, Effect: math.Abs(c.coef), Error: c.se, hand: string(c.hand),
				Cost: a.gained(func(i int) float64 { return c.coef * c.x[i] })}
			best.Evidence = fmt.Sprintf("The %s hand is %s %s than the other", c.hand, a.ms(math.Abs(c.coef), c.se),
				side)
		}
	}
	for _, hand := range []drill.Hand{drill.Lead, drill.Rear} {
		mine, other := rest[hand], rest[hand.Other()]
		if best.hand != "" && best.hand != string(hand) || a.uneven() {
			continue
		}
		if ratio, se, ok := wider(mine, other); ok {
			cost := a.tightened(func(w row) bool { return w.Hand == hand }, ratio)
			said := fmt.Sprintf("has timing %.1f times looser", ratio)
			best = best.with(WeakHand, hand, ratio-1, ratio*se, cost, said)
		}
		mineMissed, n := a.missed(func(w row) bool { return w.Hand == hand })
		theirs, m := a.missed(func(w row) bool { return w.Hand == hand.Other() })
		if d, se, ok := oftener(mineMissed, n, theirs, m); ok {
			said := fmt.Sprintf("misses %.0f %% against %.0f %%", 100*mineMissed, 100*theirs)
			best = best.with(WeakHand, hand, d, se, d*n/a.due(), said)
		}
	}
	if best.Code == "" {
		return nil
	}
	for _, w := range a.rows {
		if string(w.Hand) == best.hand && w.hit >= 0 {
			best.Times++
		}
	}
	best.Evidence += "."
	return []Fault{best}
}

// uneven says whether the plan itself asks something else of one hand than of the other: more of its strikes follow at
// once inside a combination, come after a defence, or meet a bag at rest.
func (a *analysis) uneven() bool {
	n := map[drill.Hand]float64{}
	kinds := [3]map[drill.Hand]float64{{}, {}, {}}
	for _, w := range a.rows {
		n[w.Hand]++
		for k, is := range []bool{w.Follows, w.Defended, w.Still} {
			if is {
				kinds[k][w.Hand]++
			}
		}
	}
	for _, k := range kinds {
		lead, rear := k[drill.Lead]/math.Max(1, n[drill.Lead]), k[drill.Rear]/math.Max(1, n[drill.Rear])
		if math.Abs(lead-rear) > unevenBy {
			return true
		}
	}
	return false
}

// unevenBy is the share of the strikes by which the plan may ask more of one hand for the two to be compared. Assumed.
const unevenBy = 0.4

// with adds a sign of the same fault.
func (f Fault) with(code Code, hand drill.Hand, effect, se, cost float64, said string) Fault {
	if f.Code == "" {
		return Fault{Code: code, Effect: effect, Error: se, Cost: cost, hand: string(hand),
			Evidence: fmt.Sprintf("The %s hand %s", hand, said)}
	}
	f.Cost += cost
	f.Evidence += " and " + said
	return f
}
