package judge

import (
	"fmt"
	"math"

	"melodromos/core/drill"
	"melodromos/core/words"
)

// tooFew hits say nothing about timing (assumed).
const tooFew = 5

// What is remarked on has to be larger than so many times its own standard error, and than a floor that a coach would
// care about. Both assumed.
const (
	firmAt     = 3.0
	lateFloor  = 0.010 // s
	driftFloor = 0.010 // s over the round
	trendFloor = 0.01  // of the tempo, over the round
)

// Judged says whether the round tells how well it went: there were strikes and hits, from a source that is fine enough.
func (r Judgement) Judged() bool {
	return len(r.Planned) > 0 && len(r.Hits) > 0 && (r.Followed == nil || r.Followed.Coarse == "")
}

// Share is the share of the strikes that met the bag, from 0 to 1, as far as it can be told: counted, or estimated
// where only times came in. On the beat's clock it is the share that fell on the beat. NaN where nothing can be told.
func (r Judgement) Share() float64 {
	switch {
	case !r.Judged():
		return math.NaN()
	case r.Followed != nil:
		return r.Followed.Met
	}
	return r.CleanShare()
}

// Remarks says what the round shows beside its faults, one sentence each. Where there are too few hits it says so.
func (r Judgement) Remarks(u words.Units) []string {
	if len(r.Matches) < tooFew {
		if len(r.Planned) == 0 || len(r.Hits) == 0 {
			return nil // the headline has said it
		}
		return []string{fmt.Sprintf("Only %d of the hits belong to a strike: too few to say more.", len(r.Matches))}
	}
	var list []string
	if r.Followed != nil {
		if r.Followed.Coarse != "" {
			return append(r.tempo(u), "Why it is not judged: "+r.Followed.Coarse+".")
		}
		list = r.tempo(u)
	}
	list = append(list, r.lateness()...)
	if span := (r.To - r.From) / 60; math.Abs(r.Drift) > firmAt*r.DriftError && math.Abs(r.Drift)*span > driftFloor {
		side := "Running ahead"
		if r.Drift > 0 {
			side = "Falling behind"
		}
		list = append(list, fmt.Sprintf("%s by %.0f ms a minute.", side, 1000*math.Abs(r.Drift)))
	}
	if r.Followed != nil {
		list = append(list, r.offPlan()...)
	}
	if r.Harmless > 0 {
		list = append(list, fmt.Sprintf("Fists touched %s: the hands are close, as they should be. Not scored.",
			often(r.Harmless)))
	}
	return list
}

// tempo tells the tempo that was held beside what was asked, the force it takes, and how it changed: results on the
// bag's clock, and none of them a fault.
func (r Judgement) tempo(u words.Units) []string {
	h := r.Followed.Held
	if math.IsNaN(h.Tempo) {
		return nil
	}
	list := []string{fmt.Sprintf("%.0f strikes a minute; %.0f were planned.", h.Tempo, h.Asked)}
	switch {
	case !math.IsNaN(h.Struck):
		list[0] += fmt.Sprintf(" Struck at %s; %s were planned.", speed(h.Struck, u), speed(h.AskedLaunch, u))
	case !math.IsNaN(h.Launch):
		list[0] += fmt.Sprintf(" On this bag that takes %s; %s were planned.", speed(h.Launch, u),
			speed(h.AskedLaunch, u))
	}
	if h.Firm && math.Abs(h.Trend) > trendFloor {
		side := "Quicker"
		if h.Trend < 0 {
			side = "Slower"
		}
		list = append(list, fmt.Sprintf("%s by %.0f %% from the first strike to the last.", side,
			math.Max(1, 100*math.Abs(h.Trend))))
	}
	return list
}

// lateness tells early from late where that can be told, and else why it cannot.
func (r Judgement) lateness() []string {
	if math.IsNaN(r.Spread) {
		if r.By == drill.ByBag {
			return nil
		}
		return []string{
			"Each strike met a bag at rest, timed by the call alone: there is no early or late to judge."}
	}
	if r.Followed != nil && !r.Followed.Known {
		return []string{
			fmt.Sprintf(
				"Scatter: two hits in three within %.0f ms of the bag. Times alone cannot tell whether they were late on the whole, because a softer strike looks the same; a bag sensor could.", 1000*r.Spread)}
	}
	if r.Followed == nil && !r.Kept {
		return []string{
			fmt.Sprintf(
				"A steady %.0f ms was taken off first, because the delay of this device is not measured; two hits in three then fall within %.0f ms.", 1000*r.Offset, 1000*r.Spread)}
	}
	floor := lateFloor
	if r.Followed != nil { // a bag that is a little off its model comes sooner or later as well
		floor = math.Max(floor, modelError*60/r.Followed.Held.Tempo)
	}
	if !(math.Abs(r.Bias) > math.Max(firmAt*r.BiasError, floor)) {
		return []string{fmt.Sprintf("Neither early nor late overall; most hits within %.0f ms.",
			1000*r.Spread)}
	}
	return []string{fmt.Sprintf("Two hits in three within %.0f ms of one another.", 1000*r.Spread)}
}

// offPlan tells of come-backs let through, counts that were off and a bag that was started anew.
func (r Judgement) offPlan() []string {
	var list []string
	f := r.Followed
	longer := map[CountOff]int{}
	var order []CountOff
	for _, c := range f.Counts {
		c.Strike = 0
		if longer[c]++; longer[c] == 1 {
			order = append(order, c)
		}
	}
	for _, c := range order {
		list = append(list, fmt.Sprintf("%s %s instead of %s, %s.", words.Upper(words.Number(c.Heard)), f.unit(c.Heard),
			words.Number(c.Asked), often(longer[c])))
	}
	if f.Anew > 0 {
		list = append(list, fmt.Sprintf("The bag was lost and started again %s.", often(f.Anew)))
	}
	return list
}

// unit returns the word for one return of this bag.
func (f *Followed) unit(n int) string {
	word := "return"
	if f.Boards {
		word = "rebound"
	}
	if n != 1 {
		word += "s"
	}
	return word
}

func often(n int) string {
	switch n {
	case 1:
		return "once"
	case 2:
		return "twice"
	}
	return words.Number(n) + " times"
}

// speed writes a speed (m/s) to the tenth.
func speed(v float64, u words.Units) string { return words.Speed(v).To(1).In(u) }
