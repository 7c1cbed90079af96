package judge

import (
	"cmp"
	"slices"

	"melodromos/core/drill"
	"melodromos/core/rig"
)

// Judgement is a judged round of a timeline.
type Judgement struct {
	Result
	Measures
	Planned []Strike
	Hits    []Hit       // those that were judged: hits in the count-in and after the end are left out
	From    float64     // s, the opening bell
	To      float64     // s, the closing bell, or where the round was stopped
	Kept    bool        // a steady lateness was kept, since the device's latency is known
	By      drill.Clock // whose clock it was judged on

	inbound [2]float64 // s round a strike in which the bag is on its way in
}

// slack (s) is the time before the opening bell at which a hit still counts, since the first strike stands on the bell,
// and how long after the closing bell, or after the round was stopped: by then whoever strikes has heard of it.
const slack = 0.25

// touchReach (s) is how far from its moment a strike may be that was a touch of the fists. Assumed: under half the time
// of a fist roll.
const touchReach = 0.15

// Source describes the device that recorded the hits.
type Source struct {
	Latency     bool         // of the device is known and subtracted
	Screen      bool         // the bag is on the screen alone: every hit drives it off as planned
	ForceSpread float64      // of whoever strikes, as a share of the launch; 0 takes DefaultForceSpread
	Stop        func() error // as in Options
}

// JudgeRound judges the hits of a run of a timeline as far as it came, on the clock that the timeline says. On the
// bag's it needs the table of the bag.
func JudgeRound(t drill.Timeline, hits []Hit, until drill.Micros, from Source) Judgement {
	r := Judgement{From: t.Start.Seconds(), To: min(t.End, max(t.Start, until)).Seconds(), Kept: from.Latency,
		By: drill.ByBeat}
	for _, h := range hits {
		if h.At >= r.From-slack && h.At <= r.To+slack {
			r.Hits = append(r.Hits, h)
		}
	}
	r.Planned = Planned(t, until)
	if slices.ContainsFunc(r.Planned, func(s Strike) bool { return s.Hand == drill.Both }) {
		r.Hits = oneBlow(r.Hits)
	}
	var touched []float64
	if FistsTouch(t) {
		r.Hits, touched = withoutTouches(r.Hits)
	}
	o := Options{KeepOffset: from.Latency, Stop: from.Stop}
	switch {
	case t.Clock == drill.ByBag && t.Bag != nil:
		r.By = drill.ByBag
		r.byBag(t, from)
	case slices.ContainsFunc(r.Planned, func(s Strike) bool { return s.Still }):
		r.Planned, r.Result = judgeAnchored(r.Planned, r.Hits, o)
	default:
		r.Result = Judge(r.Planned, r.Hits, o)
	}
	r.inbound = [2]float64{t.Inbound[0].Seconds(), t.Inbound[1].Seconds()}
	r.Measures = Measure(r.Result, r.Planned, r.Hits, r.From, r.To, r.inbound)
	r.PassHarmless(touched, touchReach)
	return r
}

// byBag judges on the bag's clock. The strikes are those that came due, where the bag had them.
func (r *Judgement) byBag(t drill.Timeline, from Source) {
	c := Chain{Bag: t.Bag, End: r.To, ForceSpread: from.ForceSpread, Screen: from.Screen}
	if c.ForceSpread == 0 {
		c.ForceSpread = DefaultForceSpread
	}
	strikes := chain(t)
	r.Result = JudgeBag(strikes, r.Hits, c, Options{Stop: from.Stop})
	r.Planned = r.cameDue(strikes)
}

// cameDue cuts a judgement on the bag's clock to the strikes that came due, and gives them where the bag had them.
func (r *Result) cameDue(strikes []Strike) []Strike {
	f := r.Followed
	due := strikes[:f.Due]
	r.Strikes, r.order = r.Strikes[:f.Due], r.order[:min(len(r.order), f.Due)]
	for i := range due {
		due[i].At, due[i].Window = f.At[i], f.Window[i]
	}
	return due
}

// RoundOf is a judgement of Judge, or of JudgeBag, as a round from one moment (s) to another, with its measures. kept
// says that a steady lateness was kept.
func RoundOf(r Result, strikes []Strike, hits []Hit, from, to float64, kept bool) Judgement {
	strikes = slices.Clone(strikes)
	changes(strikes, true)
	out := Judgement{Result: r, Planned: strikes, Hits: hits, From: from, To: to, Kept: kept, By: drill.ByBeat}
	if r.Followed != nil {
		out.By = drill.ByBag
		out.Planned = out.cameDue(strikes)
	}
	out.Measures = Measure(out.Result, out.Planned, hits, from, to, [2]float64{})
	return out
}

// oneBlow makes one hit of the two contacts of a double punch that are heard as one. Contacts further apart stay two:
// the second is then an extra, "heard as two".
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
