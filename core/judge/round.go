package judge

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"melodromos/core/drill"
	"melodromos/core/rig"
)

// Round is a judged round of a timeline.
type Round struct {
	Result
	Measures
	Planned []Strike
	Hits    []Hit       // those that were judged: hits in the count-in are left out
	From    float64     // s, the opening bell
	To      float64     // s, the closing bell, or where the round was stopped
	Kept    bool        // a steady lateness was kept, since the device's latency is known
	By      drill.Clock // whose clock it was judged on
}

// early is how long before the bell a hit may fall and still count (s): the first strike stands on the bell.
const early = 0.25

// Source is what is known of where the hits come from.
type Source struct {
	Latency     bool    // of the device is known and subtracted
	Screen      bool    // the bag is on the screen alone: every hit drives it off as planned
	ForceSpread float64 // of whoever strikes, as a share of the launch; 0 takes DefaultForceSpread
}

// JudgeRound judges the hits of a run of a timeline as far as it came, on the clock that the timeline says. On the bag's it needs the
// table of the bag.
func JudgeRound(t drill.Timeline, hits []Hit, until drill.Micros, from Source) Round {
	r := Round{From: t.Start.Seconds(), To: min(t.End, max(t.Start, until)).Seconds(), Kept: from.Latency, By: drill.ByBeat}
	for _, h := range hits {
		if h.At >= r.From-early {
			r.Hits = append(r.Hits, h)
		}
	}
	r.Planned = Planned(t, until)
	if slices.ContainsFunc(r.Planned, func(s Strike) bool { return s.Hand == drill.Both }) {
		r.Hits = oneBlow(r.Hits)
	}
	o := Options{KeepOffset: from.Latency}
	switch {
	case t.Clock == drill.ByBag && t.Bag != nil:
		r.By = drill.ByBag
		r.byBag(t, from)
	case slices.ContainsFunc(r.Planned, func(s Strike) bool { return s.Still }):
		r.Planned, r.Result = judgeAnchored(r.Planned, r.Hits, o)
	default:
		r.Result = Judge(r.Planned, r.Hits, o)
	}
	r.Measures = Measure(r.Result, r.Planned, r.Hits, r.From, r.To, [2]float64{t.Inbound[0].Seconds(), t.Inbound[1].Seconds()})
	return r
}

// byBag judges on the bag's clock. The strikes are those that came due, where the bag had them.
func (r *Round) byBag(t drill.Timeline, from Source) {
	c := Chain{Bag: t.Bag, End: r.To, ForceSpread: from.ForceSpread, Screen: from.Screen}
	if c.ForceSpread == 0 {
		c.ForceSpread = DefaultForceSpread
	}
	strikes := chain(t)
	r.Result = JudgeBag(strikes, r.Hits, c, Options{})
	f := r.Followed
	r.Planned, r.Strikes, r.order = strikes[:f.Due], r.Strikes[:f.Due], r.order[:min(len(r.order), f.Due)]
	for i := range r.Planned {
		r.Planned[i].At, r.Planned[i].Window = f.At[i], f.Window[i]
	}
}

// oneBlow makes one hit of the two contacts of a double punch that are heard as one. Contacts further apart stay two: the
// second is then an extra, "heard as two".
func oneBlow(hits []Hit) []Hit {
	slices.SortStableFunc(hits, func(a, b Hit) int { return cmp.Compare(a.At, b.At) })
	var list []Hit
	for _, h := range hits {
		if n := len(list); n > 0 && h.At-list[n-1].At <= rig.OneBlow && list[n-1].Hand != drill.Both {
			list[n-1].Hand = drill.Both
			continue
		}
		list = append(list, h)
	}
	return list
}

// tooFew hits say nothing about timing (assumed).
const tooFew = 5

// Headline is the round in one sentence.
func (r Round) Headline() string {
	n := len(r.Planned)
	switch {
	case n == 0:
		return "Stopped before the first strike: nothing to judge."
	case len(r.Hits) == 0:
		return fmt.Sprintf("No hits came in: %d strikes were planned.", n)
	}
	return fmt.Sprintf("%.0f %% clean: %d of %d strikes, %d in a row.", 100*r.CleanShare(), r.Clean, n, r.Longest)
}

// Remarks says what the timing shows, one sentence each, the weightiest first. Where there are too few hits it says so.
func (r Round) Remarks() []string {
	if len(r.Matches) < tooFew {
		if len(r.Planned) == 0 || len(r.Hits) == 0 {
			return nil // the headline has said it
		}
		return []string{fmt.Sprintf("Only %d of the hits belong to a strike: too few to say more.", len(r.Matches))}
	}
	list := []string{r.lateness()}
	if a, b, ok := r.uneven(); ok {
		list = append(list, fmt.Sprintf("The %s hand is the weaker: %.0f %% clean against %.0f %%.", a.Hand, share(a), share(b)))
	}
	if se := r.Spread / math.Sqrt(float64(len(r.Matches))); !math.IsNaN(r.Drift) && math.Abs(r.Drift)*(r.To-r.From)/60 > math.Max(3*se*2, 0.01) {
		list = append(list, fmt.Sprintf("%s by %.0f ms a minute.", map[bool]string{true: "Falling behind", false: "Running ahead"}[r.Drift > 0], 1000*math.Abs(r.Drift)))
	}
	if r.Missed > 0 {
		list = append(list, fmt.Sprintf("%d missed, %d extra.", r.Missed, r.Extra))
	}
	return list
}

func (r Round) lateness() string {
	if math.IsNaN(r.Spread) {
		return "Each strike met a bag at rest: only the call timed it, and there is nothing to say of early and late."
	}
	se := r.Spread / math.Sqrt(float64(len(r.Matches)))
	side := "late"
	if r.Bias < 0 {
		side = "early"
	}
	if !r.Kept {
		return fmt.Sprintf("A steady %.0f ms was taken off before judging, since the latency of the taps was not measured; the rest spreads by %.0f ms.", 1000*r.Offset, 1000*r.Spread)
	}
	if math.Abs(r.Bias) <= 3*se {
		return fmt.Sprintf("On the bag: neither early nor late, spread %.0f ms.", 1000*r.Spread)
	}
	return fmt.Sprintf("%.0f ms %s on the whole, spread %.0f ms.", 1000*math.Abs(r.Bias), side, 1000*r.Spread)
}

// uneven compares the hands where both have enough strikes: the difference must be larger than three times its standard
// error and than ten points (assumed).
func (r Round) uneven() (weak, strong Group, ok bool) {
	if len(r.Hands) != 2 || r.Hands[0].Planned < tooFew || r.Hands[1].Planned < tooFew {
		return
	}
	weak, strong = r.Hands[0], r.Hands[1]
	if share(weak) > share(strong) {
		weak, strong = strong, weak
	}
	p, q := share(weak)/100, share(strong)/100
	se := math.Sqrt(p*(1-p)/float64(weak.Planned) + q*(1-q)/float64(strong.Planned))
	return weak, strong, q-p > math.Max(3*se, 0.1)
}

func share(g Group) float64 { return 100 * float64(g.Clean) / float64(g.Planned) }
