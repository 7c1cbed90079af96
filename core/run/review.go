package run

import (
	"math"

	"melodromos/core/answer"
	"melodromos/core/catalogue"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/judge"
	"melodromos/core/rig"
	"melodromos/core/words"
)

// Review is all that is shown of a judged round.
type Review struct {
	Headline string   `json:"headline"`
	Remarks  []string `json:"remarks"`
	Recap    []string `json:"recap" doc:"three things to take home"`
	First    string   `json:"first" doc:"the one thing to fix, in a sentence; empty where nothing can be said"`
	Compared string   `json:"compared" doc:"what it means that it went otherwise than was predicted; empty where nothing was"`

	Faults []FaultOut     `json:"faults" doc:"the most costly first"`
	Untold []fault.Untold `json:"untold" doc:"what this round cannot show, and what would"`

	Summary Summary   `json:"summary"`
	Starts  []float64 `json:"starts" doc:"s at which the repetitions really began; empty where there are none"`

	Early     int `json:"early"`
	Late      int `json:"late"`
	Missed    int `json:"missed"`
	Extra     int `json:"extra"`
	WrongHand int `json:"wrongHand"`
	Harmless  int `json:"harmless" doc:"misses that are not scored"`

	KeptBy     drill.Clock `json:"keptBy" doc:"whose clock it was judged on"`
	OnScreen   bool        `json:"onScreen" doc:"the bag was on the screen alone"`
	Judged     bool        `json:"judged" doc:"there were hits, from a source that tells clean from late"`
	Ended      judge.Ended `json:"ended"`
	Tempo      *float64    `json:"tempo" doc:"strikes a minute that were held, on the bag's clock"`
	Asked      *float64    `json:"asked" doc:"strikes a minute that were planned"`
	Trend      *float64    `json:"trend" doc:"change of the tempo over the round as a share, quicker positive"`
	Slips      *float64    `json:"slips" doc:"share of the moves against a slip bag that the coach did not mark as touched or missed"`
	LetGo      int         `json:"letGo" doc:"come-backs let through against the plan"`
	OffsetKept bool        `json:"offsetKept" doc:"the latency is known, a steady lateness counts"`
	Offset     float64     `json:"offset" doc:"s, taken off before judging"`
	Bias       *float64    `json:"bias" doc:"s"`
	Spread     *float64    `json:"spread" doc:"s"`
	Drift      *float64    `json:"drift" doc:"s a minute"`
	Variety    *float64    `json:"variety"`
	Inbound    *float64    `json:"inbound"`
	Clock      *float64    `json:"clock" doc:"s, the timekeeper's part of the spread"`
	Motor      *float64    `json:"motor" doc:"s, the hand's part"`
	Strikes    []StrikeOut `json:"strikes"`
	Hits       []HitOut    `json:"hits"`
	Marks      []MarkOut   `json:"marks"`
	Hands      []GroupOut  `json:"hands"`
	Positions  []GroupOut  `json:"positions"`
	Breaks     []BreakOut  `json:"breaks"`
	Thirds     []PartOut   `json:"thirds" doc:"the round in three"`
	Parts      []PartOut   `json:"parts" doc:"of a long combination; empty where it has one"`
	Defended   []PartOut   `json:"defended" doc:"strikes after a defence, and the others; empty where there is none"`
	Paces      []PaceOut   `json:"paces"`
}

// StrikeOut is a planned strike and what became of it.
type StrikeOut struct {
	At      float64       `json:"at"`
	Hand    combo.Hand    `json:"hand"`
	Face    rig.Face      `json:"face"`
	Pin     bool          `json:"pin" doc:"a trap"`
	Still   bool          `json:"still" doc:"on a bag at rest"`
	Window  float64       `json:"window"`
	Verdict judge.Verdict `json:"verdict"`
	Error   *float64      `json:"error" doc:"s after the offset, late positive"`
	Told    string        `json:"told" doc:"what became of it, beside what was allowed"`
}

// HitOut is a captured hit; extra belongs to no strike.
type HitOut struct {
	At    float64 `json:"at" doc:"s on the run's clock, the offset taken off"`
	Hand  string  `json:"hand"`
	Extra bool    `json:"extra"`
}

// MarkOut is a coach's mark.
type MarkOut struct {
	At   float64  `json:"at"`
	Kind MarkKind `json:"kind"`
}

// GroupOut holds the figures of one hand, or of one position in the pattern.
type GroupOut struct {
	Hand     string   `json:"hand"`
	Position int      `json:"position"`
	Planned  int      `json:"planned"`
	Clean    int      `json:"clean"`
	Bias     *float64 `json:"bias"`
	Spread   *float64 `json:"spread"`
}

// BreakOut is a strike that ended a streak of clean ones.
type BreakOut struct {
	At      float64  `json:"at"`
	Run     int      `json:"run"`
	Verdict string   `json:"verdict"`
	Recover *float64 `json:"recover" doc:"s"`
}

// PartOut holds the figures of one part of the strikes.
type PartOut struct {
	Name    string   `json:"name"`
	Planned int      `json:"planned"`
	Clean   int      `json:"clean"`
	Bias    *float64 `json:"bias"`
	Spread  *float64 `json:"spread"`
	Launch  *float64 `json:"launch" doc:"m/s on the mean, where the force was told"`
}

// PaceOut is the tempo struck in a stretch.
type PaceOut struct {
	From  float64  `json:"from"`
	Hits  int      `json:"hits"`
	Tempo *float64 `json:"tempo"`
}

// Review tells all of a judged round, with drills that mend its faults on a floor where there is one.
func (j Judged) Review(on *drill.Floor, u words.Units) Review {
	round, r := j.Round, j.record
	v := Review{
		Headline: j.Summary.Headline, Remarks: j.remarks(u), Recap: answer.List(catalogue.Recap(r.Plan)),
		Summary: j.Summary, Starts: []float64{}, First: j.first(), Faults: j.faultsOut(on), Untold: j.untold(),
		KeptBy: round.By, OnScreen: drill.OnScreen(r.By, r.Plays) && round.By == drill.ByBag, Judged: round.Judged() ||
			j.Summary.Passes > 0, Ended: r.Ended,
		Early: round.Early, Late: round.Late, Missed: round.Missed, Extra: round.Extra, WrongHand: round.WrongHand,
		Harmless:   round.Harmless,
		OffsetKept: round.Kept, Offset: round.Offset, Bias: answer.Known(round.Bias),
		Spread: answer.Known(round.Spread), Drift: answer.Known(round.Drift),
		Variety: answer.Known(round.Variety), Inbound: answer.Known(round.Inbound),
		Clock: answer.Known(round.Measures.Clock), Motor: answer.Known(round.Motor),
		Hands: groups(round.Hands), Positions: groups(round.Positions),
		Marks: answer.Map(r.Marks, func(m Mark) MarkOut { return MarkOut{m.At.Seconds(), m.Kind} }),
		Breaks: answer.Map(round.Breaks,
			func(b judge.Break) BreakOut {
				return BreakOut{b.At, b.Streak, string(b.Verdict), answer.Known(b.Recover)}
			}),
		Paces: answer.Map(round.Paces,
			func(p judge.StruckTempo) PaceOut { return PaceOut{p.From, p.Hits, answer.Known(p.Tempo)} }),
		Strikes: []StrikeOut{}, Hits: []HitOut{},
		Thirds: answer.Map(round.Thirds(), partOut), Parts: answer.Map(round.ByPart(), partOut),
		Defended: answer.Map(round.AfterDefence(), partOut),
	}
	if f := round.Followed; f != nil {
		v.Tempo, v.Asked, v.Trend, v.LetGo = answer.Known(f.Held.Tempo), answer.Known(f.Held.Asked),
			answer.Known(f.Held.Trend), f.LetGo
	}
	if r.Timeline.Film != nil {
		v.Starts = answer.List(round.Begun(r.Timeline, r.Timeline.Film.Starts))
	}
	if j.Slips.Passes > 0 {
		v.Slips = answer.Known(j.Slips.Share())
	}
	for i, strike := range round.Planned {
		v.Strikes = append(v.Strikes, StrikeOut{At: strike.At, Hand: strike.Hand, Face: strike.Face, Pin: strike.Pin,
			Still: strike.Still, Window: strike.Window, Verdict: round.Strikes[i]})
	}
	for _, m := range round.Matches {
		v.Strikes[m.Strike].Error = answer.Known(m.Error)
	}
	for i, s := range v.Strikes {
		late := math.NaN()
		if s.Error != nil {
			late = *s.Error
		}
		v.Strikes[i].Told = judge.Told(s.Verdict, late, s.Window)
	}
	for _, h := range round.Hits {
		v.Hits = append(v.Hits, HitOut{At: h.At - round.Offset, Hand: string(h.Hand), Extra: true})
	}
	for _, m := range round.Matches {
		v.Hits[m.Hit].Extra = false
	}
	return v
}

// remarks returns what the round shows, one sentence each.
func (j Judged) remarks(u words.Units) []string {
	list := answer.List(j.Round.Remarks(u))
	if c, ok := j.record.Plan.(drill.CombinationDrill); ok {
		if pace := j.Round.Pace(c.Tempo, c.Slower); pace != "" {
			list = append(list, pace)
		}
	}
	if j.record.FormFree() {
		list = append(list, "Closer and softer: form is suspended, and is not graded in this round.")
	}
	if j.Slips.Passes > 0 && len(j.Round.Planned) > 0 {
		list = append(list, "Against the bag, by your marks: "+words.Lower(j.Slips.Gist().Sentence()))
	}
	return list
}

func partOut(p judge.Part) PartOut {
	return PartOut{p.Name, p.Planned, p.Clean, answer.Known(p.Bias), answer.Known(p.Spread), answer.Known(p.Launch)}
}

func groups(list []judge.Subset) []GroupOut {
	return answer.Map(list, func(g judge.Subset) GroupOut {
		return GroupOut{string(g.Hand), g.Position, g.Planned, g.Clean, answer.Known(g.Bias), answer.Known(g.Spread)}
	})
}
